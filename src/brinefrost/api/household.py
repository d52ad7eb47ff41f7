"""Kit and people: what the lead keeps in order."""

from datetime import datetime

from fastapi import APIRouter, Request

from brinefrost.api.seats import Lead, LeadHand, OfficeHere
from brinefrost.core.working import Sent
from brinefrost.reports.qr import qr_path
from brinefrost.services import accounts, household, hubs
from brinefrost.store import Store

router = APIRouter(prefix="/api/v1/household", tags=["household"])


class Added(Sent):
    """The instrument as it was added."""

    id: str
    name: str
    due_at: datetime


class TabletAddress(Sent):
    """What a tablet opens, as text and as a code: a path of unit squares, ``size`` of them a side."""

    address: str
    size: int
    path: str


class Presence(Sent):
    """Whether somebody works here."""

    active: bool


@router.get("/people")
def list_accounts(actor: Lead, office: OfficeHere) -> list[household.PersonState]:
    """Everybody with an account."""
    return office.read(household.people)


@router.post("/people", status_code=201)
def add_person(entry: household.NewPerson, hand: LeadHand) -> household.PersonState:
    """Add an account."""
    asked = {"add_person": entry.model_dump(exclude={"password", "pin"})}
    made = hand.write(
        household.PersonState, asked, lambda store: household.add_person(store, hand.actor, hand.now, entry)
    )
    return hand.made(made, "/api/v1/household/people")


@router.post("/people/{person_id}/presence")
def set_presence(person_id: str, entry: Presence, hand: LeadHand) -> household.PersonState:
    """Let somebody in, or keep them out."""
    asked = {"presence": [person_id, entry.active]}
    return hand.write(
        household.PersonState,
        asked,
        lambda store: household.set_active(store, hand.actor, hand.now, person_id, entry.active),
    )


@router.post("/people/{person_id}/secrets")
def renew_secrets(person_id: str, entry: household.NewSecrets, hand: LeadHand) -> household.PersonState:
    """Give somebody a new password or PIN; one's own want the password there was."""
    if person_id == hand.actor.id:
        accounts.confirm(hand.office, hand.actor, entry.current)
    return hand.write(
        household.PersonState,
        {"secrets": person_id, "what": accounts.mark_of(entry.password, entry.pin)},
        lambda store: household.renew_secrets(store, hand.actor, hand.now, person_id, entry),
    )


@router.post("/people/{person_id}/sign-out")
def sign_out_everywhere(person_id: str, hand: LeadHand) -> household.PersonState:
    """End every session of somebody, and lift what wrong tries had shut."""
    return hand.write(
        household.PersonState,
        {"sign_out": person_id},
        lambda store: household.sign_out_everywhere(store, hand.actor, hand.now, person_id),
    )


@router.post("/instruments", status_code=201)
def add_instrument(entry: household.NewInstrument, hand: LeadHand) -> Added:
    """Add an instrument."""

    def work(store: Store) -> Added:
        info = household.add_instrument(store, hand.actor, hand.now, entry)
        return Added(id=info.id, name=info.name, due_at=info.due_at)

    return hand.made(hand.write(Added, {"add_instrument": entry.model_dump(mode="json")}, work), "/api/v1/instruments")


@router.post("/instruments/{instrument_id}/calibration")
def calibrate(instrument_id: str, entry: household.Calibration, hand: LeadHand) -> household.Calibrated:
    """Keep a check of an instrument."""
    asked = {"calibrate": instrument_id, **entry.model_dump(mode="json")}
    return hand.write(
        household.Calibrated,
        asked,
        lambda store: household.calibrate(store, hand.actor, hand.now, instrument_id, entry),
    )


@router.get("/hubs")
def list_hubs(actor: Lead, office: OfficeHere) -> list[hubs.HubState]:
    """What delivers by itself, with what each channel shows now."""
    return office.read(lambda store: hubs.list_hubs(store, office.clock.now()))


@router.post("/hubs", status_code=201)
def add_hub(entry: hubs.NewHub, hand: LeadHand) -> hubs.HubState:
    """Add a hub with its channels. Its token is in this reply alone; the same request sent again gets the same."""
    token = hubs.make_token(hand.key)
    made = hand.write(
        hubs.HubState,
        {"add_hub": entry.model_dump(mode="json")},
        lambda store: hubs.add_hub(store, hand.actor, hand.now, entry, token),
    )
    return hand.made(made.model_copy(update={"token": token}), "/api/v1/household/hubs")


@router.post("/hubs/{hub_id}/end")
def end_hub(hub_id: str, hand: LeadHand) -> hubs.HubState:
    """Let a hub deliver no more; what it measured stays."""
    return hand.write(
        hubs.HubState, {"end_hub": hub_id}, lambda store: hubs.end_hub(store, hand.actor, hand.now, hub_id)
    )


@router.put("/site")
def correct_site(entry: household.SiteChange, hand: LeadHand) -> household.SiteChange:
    """Write the kitchen's name, height, zone and rule set anew."""
    asked = {"site": entry.model_dump(mode="json")}
    return hand.write(
        household.SiteChange, asked, lambda store: household.correct_site(store, hand.actor, hand.now, entry)
    )


@router.get("/tablets")
def read_tablet_address(actor: Lead, request: Request) -> TabletAddress:
    """What a tablet opens, and the same as a code for its camera; nothing where only this machine reaches it."""
    address: str = request.app.state.address
    size, path = qr_path(address) if address else (0, "")
    return TabletAddress(address=address, size=size, path=path)
