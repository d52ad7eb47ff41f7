"""Who is asking, and what their role may do."""

from typing import Annotated

from fastapi import Depends, Header, Request

from brinefrost.core.errors import NotAllowedError, SignInError
from brinefrost.services import accounts
from brinefrost.services.office import Actor, Office, Role

COOKIE = "brinefrost_session"
ROLES: tuple[Role, ...] = ("lead", "cook", "reviewer")


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

    def __call__(self, request: Request) -> Actor:
        """The person, or a refusal."""
        actor = accounts.who(office_of(request), request.cookies.get(COOKIE))
        if actor is None:
            raise SignInError("You are not signed in, or the session has run out. Sign in again.")
        if actor.role not in self.roles:
            raise NotAllowedError(f"A {actor.role} cannot do this. Ask the lead.", role=actor.role)
        return actor


LEAD, KITCHEN, EVERYONE = Seat("lead"), Seat("lead", "cook"), Seat(*ROLES)
DECIDER = Seat("lead", "reviewer")

Lead = Annotated[Actor, Depends(LEAD)]
Kitchen = Annotated[Actor, Depends(KITCHEN)]
Decider = Annotated[Actor, Depends(DECIDER)]
Everyone = Annotated[Actor, Depends(EVERYONE)]
OfficeHere = Annotated[Office, Depends(office_of)]
Key = Annotated[str, Header(alias="Idempotency-Key", min_length=8, max_length=80)]
