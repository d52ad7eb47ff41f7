"""What stands before every request: size, origin, security headers."""

from typing import Any
from urllib.parse import urlsplit

from starlette.concurrency import run_in_threadpool
from starlette.datastructures import Headers, MutableHeaders
from starlette.requests import Request
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from brinefrost.api.problems import problem, store_away
from brinefrost.api.samples import HUB
from brinefrost.api.seats import COOKIE
from brinefrost.api.slots import fewer_threads
from brinefrost.core.traces import LARGEST_BYTES
from brinefrost.core.words import LANGUAGES, PSEUDO, Manner, manner_of, num, say
from brinefrost.services import accounts
from brinefrost.services.hubs import token_hash
from brinefrost.store.errors import StoreDownError
from brinefrost.store.kitchens import DOOR, in_kitchen

LARGEST_BODY = LARGEST_BYTES + 200_000  # a logger file and its form
UNSEEN_BODY = 20_000  # what is read before it is known who sends it
SIGN_IN = "/api/v1/session"
SAMPLES = "/api/v1/samples"
MOST_DELIVERED = 400_000  # bytes of one delivery of a hub
UNSAFE = {"POST", "PUT", "PATCH", "DELETE"}

SECURITY_HEADERS = {
    "Content-Security-Policy": (
        "default-src 'self'; img-src 'self' data:; font-src 'self'; style-src 'self'; script-src 'self'; "
        "connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'"
    ),
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "no-referrer",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Permissions-Policy": "camera=(), microphone=(), geolocation=()",
}


class TooLargeError(Exception):
    """The body grew past the bound while it was being read."""


class Guard:
    """Bounds the body, refuses writes from other origins, adds the security headers."""

    def __init__(self, app: ASGIApp) -> None:
        self._app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Handle one request."""
        if scope["type"] != "http":
            await self._app(scope, receive, send)
            return
        fewer_threads()
        headers = Headers(scope=scope)
        scope = _at_version(scope)
        with manner_of(_manner(headers)):
            try:
                kitchen, hub = await _kitchen(scope, headers)
            except StoreDownError as error:
                await store_away(error)(scope, receive, _with_headers(send, scope["path"]))
                return
            with in_kitchen(kitchen):
                await self._guard({**scope, HUB: hub} if hub else scope, headers, receive, send)

    async def _guard(self, scope: Scope, headers: Headers, receive: Receive, send: Send) -> None:
        guarded = _with_headers(send, scope["path"])
        try:
            refusal = _refusal(scope["method"], headers) or await _stranger(scope, headers)
        except StoreDownError as error:
            refusal = store_away(error)
        if refusal is not None:
            await refusal(scope, receive, guarded)
            return
        body = _Body(receive)
        try:
            await self._app(scope, body.receive, body.unless_too_large(guarded))
        except TooLargeError:
            body.too_large = True
        if body.too_large:
            await _too_large()(scope, receive, guarded)


class _Body:
    """Counts what comes in. Once it is too much, whatever the application answers is replaced."""

    def __init__(self, receive: Receive) -> None:
        self._receive, self._taken, self.too_large = receive, 0, False

    async def receive(self) -> Message:
        """The next part of the body, while it is within the bound."""
        message = await self._receive()
        self._taken += len(message.get("body", b""))
        if self._taken > LARGEST_BODY:
            self.too_large = True
            raise TooLargeError
        return message

    def unless_too_large(self, send: Send) -> Send:
        """Send on, but nothing once the body was too large."""

        async def sent(message: Message) -> None:
            if not self.too_large:
                await send(message)

        return sent


def _at_version(scope: Scope) -> Scope:
    """An address without a version is the first version's: what was linked or written before keeps working."""
    path = scope["path"]
    if not path.startswith("/api/") or path.startswith(("/api/v1/", "/api/openapi.json")):
        return scope
    path = "/api/v1/" + path.removeprefix("/api/")
    return {**scope, "path": path, "raw_path": path.encode()}


def _manner(headers: Headers) -> Manner:
    """The language of the tablet until it is known who asks."""
    language = headers.get("brinefrost-language", "en")
    return Manner(language=language if language in (*LANGUAGES, PSEUDO) else "en")


async def _kitchen(scope: Scope, headers: Headers) -> tuple[str, str]:
    """Whose kitchen a request is for: that of its session or its hub, or the one somebody names at the door; and the
    hub that sends it, if one does."""
    path, token = scope["path"], Request(scope).cookies.get(COOKIE)
    office = scope["app"].state.office
    if not path.startswith("/api/"):
        return DOOR, ""
    if path == SAMPLES:
        kind, _, bearer = headers.get("authorization", "")[:200].partition(" ")
        digest = token_hash(bearer.strip()) if kind.lower() == "bearer" else ""
        found = await run_in_threadpool(office.database.hub_called, digest)
        return found or (DOOR, "")
    if token and (path, scope["method"]) != (SIGN_IN, "POST"):
        return accounts.kitchen_of(token), ""
    called = await run_in_threadpool(office.database.kitchen_called, headers.get("brinefrost-kitchen", "")[:40])
    return str(called), ""


def _refusal(method: str, headers: Headers) -> Any:
    length = headers.get("content-length", "0")
    if not length.isdigit() or int(length) > LARGEST_BODY:
        return _too_large()
    origin = headers.get("origin")
    if method in UNSAFE and origin and _host_of(origin) != headers.get("host"):
        return problem(403, "other_origin", say("api.guards.this_request_comes_from_another_site"))
    return None


def _host_of(origin: str) -> str | None:
    """The host an origin names; None for what is no address, which is another site's too."""
    try:
        return urlsplit(origin).netloc
    except ValueError:
        return None


async def _stranger(scope: Scope, headers: Headers) -> Any:
    """A large body is read for somebody who is signed in, and for nobody else."""
    length = headers.get("content-length")
    if scope["method"] not in UNSAFE or (length is not None and int(length) <= UNSEEN_BODY):
        return None
    if length is None and "transfer-encoding" not in headers:
        return None
    if scope.get(HUB) and (length is None or int(length) <= MOST_DELIVERED):
        return None
    token = Request(scope).cookies.get(COOKIE)
    if await run_in_threadpool(accounts.who, scope["app"].state.office, token):
        return None
    return problem(401, "sign_in_needed", say("api.guards.you_are_not_signed_in_or"))


def _too_large() -> Any:
    megabytes = LARGEST_BYTES / 1e6
    return problem(413, "too_large", say("api.guards.that_is_too_large_the_most", megabytes=num(megabytes, ".0f")))


def _with_headers(send: Send, path: str) -> Send:
    async def headed(message: Message) -> None:
        if message["type"] == "http.response.start":
            headers = MutableHeaders(scope=message)
            for name, value in SECURITY_HEADERS.items():
                headers[name] = value
            if path.startswith("/api/") and "cache-control" not in headers:
                headers["Cache-Control"] = "no-store"
        await send(message)

    return headed
