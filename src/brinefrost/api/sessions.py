"""Signing in and out, and switching by PIN."""

from fastapi import APIRouter, Depends, Request, Response, Security
from pydantic import Field

from brinefrost.api.seats import COOKIE, SESSION, Everyone, Kitchen, OfficeHere, address_of
from brinefrost.api.slots import a_hash
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.words import dictionary
from brinefrost.core.working import Sent
from brinefrost.services import accounts, handover
from brinefrost.services.office import Actor, Office, Role
from brinefrost.store.kitchens import DOOR, kitchen_here
from brinefrost.store.shelves import SiteInfo

router = APIRouter(prefix="/api/v1", tags=["session"])
HOME_COOKIE = "brinefrost_home"
DEVICE = "brinefrost_device"


class SignIn(Sent):
    """Name and password."""

    name: str = Field(min_length=1, max_length=80)
    password: str = Field(min_length=1, max_length=200)


class PinSwitch(Sent):
    """Who, and their PIN."""

    person: str = Field(min_length=1, max_length=64)
    pin: str = Field(min_length=1, max_length=12)


class PinRenewal(Sent):
    """The PIN of whoever had this tablet."""

    pin: str = Field(min_length=1, max_length=12)


class PersonRead(Sent):
    """Someone with a role."""

    id: str
    name: str
    role: Role


class SessionRead(Sent):
    """Who is signed in, where, and what the server's clock says.

    ``asks_kitchen``: there are several kitchens here, so the door asks for one's word (header Brinefrost-Kitchen).
    """

    person: PersonRead | None
    by_pin: bool  # it logs; everything else wants the password
    kitchen: str  # whose readings wait on this tablet
    asks_kitchen: bool
    site: str
    altitude_m: float
    boiling_c: float
    zone: str
    rule_set: str
    now: str
    manners: accounts.Manners


UNKNOWN = SiteInfo("", 0.0, "UTC", "us")  # one of several kitchens says nothing of itself at the door


def _person(actor: Actor) -> PersonRead:
    return PersonRead(id=actor.id, name=actor.name, role=actor.role)


def _read(office: Office, actor: Actor | None, by_pin: bool = False) -> SessionRead:
    alone = actor is None and office.database.kitchen_called("") == kitchen_here() != DOOR
    site = office.read(lambda store: store.site.read()) if actor or alone else UNKNOWN
    manners = office.read(lambda store: accounts.manners_of(store, actor.id)) if actor else accounts.Manners()
    return SessionRead(
        person=_person(actor) if actor else None,
        by_pin=actor is not None and by_pin,
        kitchen=kitchen_here() if actor else "",
        asks_kitchen=not (actor or alone),
        site=site.name,
        altitude_m=site.altitude_m,
        boiling_c=round(boiling_c(site.altitude_m), 1),
        zone=site.zone,
        rule_set=site.rule_set,
        now=office.clock.now().isoformat(),
        manners=manners,
    )


def _set_cookie(request: Request, response: Response, token: str) -> None:
    response.set_cookie(
        COOKIE,
        token,
        httponly=True,
        samesite="strict",
        path="/",
        secure=request.url.scheme == "https",
        # the browser keeps it as long as it can be taken up by PIN; the server alone says how long it is good for
        max_age=int(accounts.COOKIE_KEPT.total_seconds()),
    )
    response.set_cookie(  # which kitchen it is, no secret: a proxy sends all of one kitchen to one process by it
        HOME_COOKIE,
        accounts.kitchen_of(token),
        httponly=True,
        samesite="strict",
        path="/",
        secure=request.url.scheme == "https",
        max_age=int(accounts.COOKIE_KEPT.total_seconds()),
    )


@router.post("/session", dependencies=[Depends(a_hash)])
def sign_in(entry: SignIn, request: Request, response: Response, office: OfficeHere) -> SessionRead:
    """Sign in with name and password."""
    device, word = request.cookies.get(DEVICE, "")[:200], request.headers.get("brinefrost-kitchen", "")[:40]
    token, actor = accounts.sign_in(office, entry.name, entry.password, address_of(request), device, word)
    accounts.sign_out(office, request.cookies.get(COOKIE))
    _set_cookie(request, response, token)
    _set_device(request, response, office, actor)
    return _read(office, actor)


def _set_device(request: Request, response: Response, office: Office, actor: Actor) -> None:
    """The browser is known from now on: wrong tries elsewhere do not shut this person out of it."""
    person = office.read(lambda store: store.people.by_id(actor.id))
    if person is None:
        return
    response.set_cookie(
        DEVICE,
        accounts.device_of(person, office.clock.now()),
        httponly=True,
        samesite="strict",
        path="/api",
        secure=request.url.scheme == "https",
        max_age=int(accounts.DEVICE_KEPT.total_seconds()),
    )


@router.get("/session")
def read_session(request: Request, office: OfficeHere) -> SessionRead:
    """Who is signed in; nobody is a fair answer."""
    token = request.cookies.get(COOKIE)
    return _read(office, accounts.who(office, token), accounts.opened_by_pin(token))


@router.delete("/session")
def sign_out(request: Request, response: Response, office: OfficeHere) -> SessionRead:
    """Sign out."""
    accounts.sign_out(office, request.cookies.get(COOKIE))
    response.delete_cookie(COOKIE, path="/")
    return _read(office, None)


@router.post("/session/switch", dependencies=[Depends(a_hash)])
def switch_person(
    entry: PinSwitch, actor: Everyone, request: Request, response: Response, office: OfficeHere
) -> SessionRead:
    """Switch to another person on this tablet."""
    token, person = accounts.switch(office, entry.person, entry.pin)
    accounts.sign_out(office, request.cookies.get(COOKIE))
    _set_cookie(request, response, token)
    return _read(office, person, by_pin=True)


@router.post("/session/handover", dependencies=[Depends(a_hash)])
def hand_over(
    entry: handover.HandoverEntry, actor: Kitchen, request: Request, response: Response, office: OfficeHere
) -> SessionRead:
    """Hand the shift over to whoever takes it on this tablet, with what is left and a note."""
    before = request.cookies.get(COOKIE)
    token, person = handover.hand_over(office, actor, entry)
    accounts.sign_out(office, before)
    _set_cookie(request, response, token)
    return _read(office, person, by_pin=True)


@router.post("/session/renewal", dependencies=[Security(SESSION), Depends(a_hash)])
def renew_session(entry: PinRenewal, request: Request, response: Response, office: OfficeHere) -> SessionRead:
    """Go on by PIN where this tablet's session has run out."""
    before = request.cookies.get(COOKIE)
    token, person = accounts.renew_by_pin(office, before, entry.pin)
    accounts.sign_out(office, before)
    _set_cookie(request, response, token)
    return _read(office, person, by_pin=True)


@router.put("/session/manners")
def keep_manners(entry: accounts.Manners, actor: Everyone, request: Request, office: OfficeHere) -> SessionRead:
    """Keep how this person reads: it follows them from tablet to tablet."""
    office.read(lambda store: accounts.keep_manners(store, actor.id, entry))
    return _read(office, actor, accounts.opened_by_pin(request.cookies.get(COOKIE)))


@router.get("/words")
def read_words(actor: Everyone) -> dict[str, str]:
    """Names and titles that plans and catalogues keep in English, with how this person reads them."""
    return dictionary()


@router.get("/people")
def list_people(actor: Everyone, office: OfficeHere) -> list[PersonRead]:
    """Who can switch by PIN on this tablet."""
    return [_person(person) for person in office.read(accounts.people_on_tablet)]
