"""Errors as statuses and sentences. One place, for every route."""

import logging
import time
from collections.abc import Mapping, Sequence
from http import HTTPStatus
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from brinefrost.core.errors import (
    AskFirstError,
    ConflictError,
    DomainError,
    NotAllowedError,
    NotFoundError,
    PasswordNeededError,
    RefusedError,
    SignInError,
    TooManyTriesError,
)
from brinefrost.core.words import Message, num, said, say
from brinefrost.core.working import Sent
from brinefrost.store.errors import StoreDownError

STATUSES: tuple[tuple[type[DomainError], int], ...] = (
    (SignInError, 401),
    (NotAllowedError, 403),
    (PasswordNeededError, 403),
    (NotFoundError, 404),
    (AskFirstError, 409),
    (ConflictError, 409),
    (RefusedError, 409),
    (TooManyTriesError, 429),
    (StoreDownError, 503),
)

# field: (what people call it, factor to what they type, unit)
FIELDS: dict[str, tuple[str, float, str]] = {
    "thickness_m": (say("api.problems.thickness"), 1000, "mm"),
    "start_c": (say("api.problems.start_temperature"), 1, "°C"),
    "bath_c": (say("api.problems.bath_temperature"), 1, "°C"),
    "duration_s": (say("api.problems.time_in_the_bath"), 1 / 60, "min"),
    "pack_mass_kg": (say("api.problems.mass_of_a_bag"), 1, "kg"),
    "packs": (say("api.problems.number_of_packs"), 1, ""),
    "water_kg": (say("api.problems.water"), 1, "kg"),
    "heater_w": (say("api.problems.heater"), 1, "W"),
    "ice_kg": (say("api.problems.ice"), 1, "kg"),
    "begin_within_s": (say("api.problems.time_to_begin"), 1 / 60, "min"),
    "target_c": (say("api.problems.target"), 1, "°C"),
    "max_c": (say("api.problems.highest_temperature"), 1, "°C"),
    "days": (say("api.problems.days_kept"), 1, "d"),
    "core_c": (say("api.problems.core_temperature"), 1, "°C"),
    "value": (say("api.problems.the_reading"), 1, ""),
    "name": (say("api.problems.the_name"), 1, ""),
    "reason": (say("api.problems.the_reason"), 1, ""),
    "action": (say("api.problems.what_was_done"), 1, ""),
    "taken_at": (say("api.problems.the_time"), 1, ""),
    "note": (say("api.problems.the_note"), 1, ""),
    "answer": (say("api.problems.the_answer"), 1, ""),
    "lots": (say("api.problems.the_lots"), 1, ""),
    "password": (say("api.problems.the_password"), 1, ""),
    "find": (say("api.problems.what_is_looked_for"), 1, ""),
}


class Place(Sent):
    """One thing that is wrong with a request, and where: a JSON pointer into what was sent."""

    pointer: str
    detail: str


class Problem(Sent):
    """An error, as RFC 9457 has it; ``sentence`` is its detail, ``fields`` what it is about."""

    type: str
    title: str
    status: int
    detail: str
    code: str
    sentence: str
    fields: dict[str, Any]
    errors: tuple[Place, ...] = ()


MEDIA = "application/problem+json"
DESCRIBED: dict[int | str, dict[str, Any]] = {
    status: {"description": HTTPStatus(status).phrase, "model": Problem}
    for status in (401, 403, 404, 409, 413, 422, 429, 503)
}
MOST_PLACES = 20


def problem(
    status: int,
    code: str,
    sentence: str,
    fields: Mapping[str, Any] | None = None,
    errors: list[dict[str, str]] | None = None,
) -> JSONResponse:
    """The one shape of an error: RFC 9457, in the language and units of whoever asked."""
    words = said(sentence)
    body = {
        "type": f"/problems/{code.replace('_', '-')}",
        "title": HTTPStatus(status).phrase,
        "status": status,
        "detail": words,
        "code": code,
        "sentence": words,
        "fields": _tell(dict(fields or {})),
        "errors": errors or [],
    }
    return JSONResponse(body, status, media_type=MEDIA)


def _places(errors: Sequence[Any]) -> list[dict[str, str]]:
    """Each thing wrong with a request, where it lies and what to do."""
    return [
        {"pointer": _pointer(error.get("loc", ())), "detail": said(sentence_for(dict(error)))}
        for error in errors[:MOST_PLACES]
    ]


def _pointer(place: Sequence[Any]) -> str:
    """A JSON pointer (RFC 6901) into the body; a parameter of the address by its name."""
    parts = [str(part).replace("~", "~0").replace("/", "~1") for part in place]
    return "#/" + "/".join(parts[1:] if parts[:1] == ["body"] else parts)


def _tell(value: Any) -> Any:
    """Whatever is words in it, as whoever asks reads it."""
    if isinstance(value, str):
        return said(value) if isinstance(value, Message) else value
    if isinstance(value, dict):
        return {key: _tell(inner) for key, inner in value.items()}
    return [_tell(inner) for inner in value] if isinstance(value, list | tuple) else value


class _Outage:
    """When it was last said that the database is away: once an outage, not once a request."""

    quiet_s = 60.0

    def __init__(self) -> None:
        self._tell = -self.quiet_s

    def note(self, error: StoreDownError) -> None:
        """Say it in the log, if it was not said lately."""
        now = time.monotonic()
        if now - self._tell >= self.quiet_s:
            logging.getLogger("brinefrost").warning("the database is away: %s", error.sentence)
        self._tell = now


_outage = _Outage()


def store_away(error: StoreDownError) -> JSONResponse:
    """The answer while the database is away, whoever asks for what."""
    _outage.note(error)
    return problem(503, error.code, error.sentence, error.fields)


def install(app: FastAPI) -> None:
    """Put the handlers on an application."""

    @app.exception_handler(DomainError)
    def _domain(_: Request, error: DomainError) -> JSONResponse:
        if isinstance(error, StoreDownError):
            return store_away(error)
        status = next((status for kind, status in STATUSES if isinstance(error, kind)), 422)
        return problem(status, error.code, error.sentence, error.fields)

    @app.exception_handler(RequestValidationError)
    def _invalid(_: Request, error: RequestValidationError) -> JSONResponse:
        found = error.errors()
        return problem(422, "invalid_input", sentence_for(dict(found[0])), {"count": len(found)}, _places(found))

    @app.exception_handler(HTTPException)
    def _http(_: Request, error: HTTPException) -> JSONResponse:
        return problem(error.status_code, "http", ADDRESSED.get(error.status_code, str(error.detail)))

    @app.exception_handler(Exception)
    def _answer_unexpected(_: Request, error: Exception) -> JSONResponse:
        logging.getLogger("brinefrost").exception("unexpected error", exc_info=error)
        return problem(500, "unexpected", say("api.problems.something_went_wrong_here_nothing_was"))


# what the framework says of an address by itself
ADDRESSED = {404: say("api.problems.there_is_nothing_here"), 405: say("api.problems.not_in_this_way")}

SUFFIXES: dict[str, tuple[float, str]] = {
    "m": (1000, "mm"),
    "s": (1 / 60, "min"),
    "c": (1, "°C"),
    "kg": (1, "kg"),
    "percent": (1, "%"),
    "ppm": (1, "ppm"),
}


def _by_suffix(field: str) -> tuple[str, float, str]:
    """What to call a field by its name, whose last part is its unit."""
    name, _, suffix = field.rpartition("_")
    if name and suffix in SUFFIXES:
        return name.replace("_", " ").capitalize(), *SUFFIXES[suffix]
    return field.replace("_", " ").capitalize() or say("api.problems.the_request"), 1, ""


def sentence_for(error: dict[str, Any]) -> str:
    """A sentence for the first thing wrong with a request."""
    place = [str(part) for part in error.get("loc", ()) if isinstance(part, str)]
    field = next((part for part in reversed(place) if part in FIELDS), place[-1] if place else "")
    label, factor, unit = FIELDS.get(field) or _by_suffix(field)
    context, kind = error.get("ctx", {}), str(error.get("type", ""))
    bounds = {
        "greater_than_equal": ("ge", say("api.problems.at_least")),
        "greater_than": ("gt", say("api.problems.more_than")),
        "less_than_equal": ("le", say("api.problems.at_most")),
        "less_than": ("lt", say("api.problems.less_than")),
    }
    if kind in bounds:
        key, words = bounds[kind]
        if not isinstance(context[key], int | float):
            return say("api.problems.must_be", label=label, words=words, context=context[key])
        return (
            say(
                "api.problems.must_be_2", label=label, words=words, context=num(context[key] * factor), unit=unit
            ).rstrip()
            + "."
        )
    if kind == "missing":
        return say("api.problems.is_missing", label=label)
    if kind in ("string_too_short", "string_too_long"):
        return _too_long_or_short(label, kind, context)
    if kind in ("float_parsing", "float_type", "int_parsing", "int_type", "finite_number"):
        return say("api.problems.must_be_a_number", label=label)
    if kind == "value_error":
        raised = getattr(context.get("error"), "args", ())
        if raised and isinstance(raised[0], Message):
            return raised[0]
        return str(error.get("msg", "")).removeprefix("Value error, ")
    wanted = next((words for start, words in WANTED if kind.startswith(start)), None)
    if kind == "literal_error":
        return say("api.problems.must_be_one_of", label=label, expected=str(context.get("expected", "")))
    if wanted is None:
        return say("api.problems.is_not_as_expected", label=label)
    return say("api.problems.must_be_of_a_kind", label=label, wanted=wanted)


# what was wanted, by how the kind of an error begins
WANTED: tuple[tuple[str, Message], ...] = (
    ("string_type", say("api.problems.a_text")),
    ("bool", say("api.problems.yes_or_no")),
    ("datetime", say("api.problems.a_time_with_its_zone")),
    ("timezone", say("api.problems.a_time_with_its_zone")),
    ("date", say("api.problems.a_day")),
    ("time", say("api.problems.a_time_with_its_zone")),
    ("list", say("api.problems.a_list")),
    ("tuple", say("api.problems.a_list")),
    ("too_long", say("api.problems.a_list")),
    ("extra_forbidden", say("api.problems.left_out")),
)


def _too_long_or_short(label: str, kind: str, context: dict[str, Any]) -> str:
    if kind == "string_too_long":
        return say("api.problems.is_too_long", label=label, most=num(context.get("max_length", 0)))
    return say("api.problems.is_too_short", label=label, least=num(context.get("min_length", 1)))
