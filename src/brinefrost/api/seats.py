"""Who is asking, what their role may do, and how they write."""

from collections.abc import Callable
from datetime import datetime
from typing import Annotated, Any, TypeVar

from fastapi import Depends, Header, Request, Response, Security
from fastapi.security import APIKeyCookie
from pydantic import BaseModel

from brinefrost.api.slots import a_turn
from brinefrost.core.errors import NotAllowedError, RefusedError, SignInError
from brinefrost.core.words import say
from brinefrost.services import accounts
from brinefrost.services.office import Actor, Office, Role
from brinefrost.store import Store

COOKIE = "brinefrost_session"
SESSION = APIKeyCookie(name=COOKIE, scheme_name="session", auto_error=False, description="Set by POST /api/v1/session.")
ROLES: tuple[Role, ...] = ("lead", "cook", "reviewer")
Reply = TypeVar("Reply", bound=BaseModel)


def office_of(request: Request) -> Office:
    """The office of this application."""
    office: Office = request.app.state.office
    return office


def address_of(request: Request) -> str:
    """Where a request comes from."""
    return request.client.host if request.client else "unknown"


class Seat:
    """A dependency that lets certain roles in. A test reads ``roles`` off every route."""

    def __init__(self, *roles: Role) -> None:
        self.roles = roles

    def __call__(self, request: Request, _: Annotated[str | None, Security(SESSION)] = None) -> Actor:
        """The person, or a refusal."""
        writes = request.method not in ("GET", "HEAD")
        actor = accounts.who(office_of(request), request.cookies.get(COOKIE), writes)
        if actor is None:
            raise SignInError(say("api.guards.you_are_not_signed_in_or"))
        accounts.settle_for(actor.manners)
        if actor.role not in self.roles:
            raise NotAllowedError(
                say("api.seats.a_cannot_do_this_ask_the", role=say(f"paper.who.{actor.role}")), role=actor.role
            )
        return actor


LEAD, KITCHEN, EVERYONE = Seat("lead"), Seat("lead", "cook"), Seat(*ROLES)
DECIDER = Seat("lead", "reviewer")

Lead = Annotated[Actor, Depends(LEAD)]
Kitchen = Annotated[Actor, Depends(KITCHEN)]
Everyone = Annotated[Actor, Depends(EVERYONE)]
OfficeHere = Annotated[Office, Depends(office_of)]
Key = Annotated[str, Header(alias="Idempotency-Key", min_length=8, max_length=80)]
Person = Annotated[str, Header(alias="Brinefrost-Person", max_length=64, description="Who did it, by id.")]


class Hand:
    """Somebody who writes: once under the key of their request, however often it is sent."""

    def __init__(self, actor: Actor, office: Office, key: str, response: Response) -> None:
        self.actor, self.office, self.key, self._response = actor, office, key, response
        self.now: datetime = office.clock.now()

    def write(self, reply: type[Reply], asked: dict[str, Any], work: Callable[[Store], Reply]) -> Reply:
        """Do the work, or give the reply that was given to the same before.

        ``asked`` says what was asked for: the same key with another content is refused.
        """
        return reply.model_validate(self.office.write(self.actor, self.key, asked, work))

    def made(self, reply: Reply, address: str) -> Reply:
        """Say with a reply where what was made can be read."""
        self._response.headers["Location"] = address
        return reply


def _hand(seat: Seat, logs: bool = False) -> Callable[..., Hand]:
    """Who writes by a seat; what is more than logging wants a session opened by password."""

    def hand(
        _: Annotated[None, Depends(a_turn)],
        actor: Annotated[Actor, Depends(seat)],
        request: Request,
        office: OfficeHere,
        key: Key,
        response: Response,
        person: Person = "",
    ) -> Hand:
        if person and person != actor.id:  # what waited on a tablet goes out under whoever did it
            raise RefusedError(say("services.readings.another_person_took_it"), reason="taker")
        if not logs:
            accounts.check_password_session(request.cookies.get(COOKIE))
        return Hand(actor, office, key, response)

    return hand


LeadHand = Annotated[Hand, Depends(_hand(LEAD))]
KitchenHand = Annotated[Hand, Depends(_hand(KITCHEN, logs=True))]
DeciderHand = Annotated[Hand, Depends(_hand(DECIDER))]
AnyHand = Annotated[Hand, Depends(_hand(EVERYONE, logs=True))]
