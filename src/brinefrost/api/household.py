"""Kit and people: what the lead keeps in order."""

from datetime import datetime

from fastapi import APIRouter

from brinefrost.api.seats import Key, Lead, OfficeHere
from brinefrost.core.working import Document
from brinefrost.services import household

router = APIRouter(prefix="/api/household", tags=["household"])


class Added(Document):
    """The instrument as it was added."""

    id: str
    name: str
    due_at: datetime


class Presence(Document):
    """Whether somebody works here."""

    active: bool


@router.get("/people")
def list_accounts(actor: Lead, office: OfficeHere) -> list[household.PersonState]:
    """Everybody with an account."""
    return office.read(household.people)


@router.post("/people")
def add_person(entry: household.NewPerson, actor: Lead, office: OfficeHere, key: Key) -> household.PersonState:
    """Add an account."""
    now = office.clock.now()
    asked = {"add_person": entry.model_dump(exclude={"password", "pin"})}
    reply = office.write(actor, key, asked, lambda store: household.add_person(store, actor, now, entry))
    return household.PersonState.model_validate(reply)


@router.post("/people/{person_id}/presence")
def set_presence(person_id: str, entry: Presence, actor: Lead, office: OfficeHere, key: Key) -> household.PersonState:
    """Let somebody in, or keep them out."""
    now = office.clock.now()
    asked = {"presence": [person_id, entry.active]}
    reply = office.write(
        actor, key, asked, lambda store: household.set_active(store, actor, now, person_id, entry.active)
    )
    return household.PersonState.model_validate(reply)


@router.post("/people/{person_id}/secrets")
def renew_secrets(
    person_id: str, entry: household.NewSecrets, actor: Lead, office: OfficeHere, key: Key
) -> household.PersonState:
    """Give somebody a new password or PIN."""
    now = office.clock.now()
    reply = office.write(
        actor,
        key,
        {"secrets": person_id},
        lambda store: household.renew_secrets(store, actor, now, person_id, entry),
    )
    return household.PersonState.model_validate(reply)


@router.post("/people/{person_id}/sign-out")
def sign_out_everywhere(person_id: str, actor: Lead, office: OfficeHere, key: Key) -> household.PersonState:
    """End every session of somebody, and lift what wrong tries had shut."""
    now = office.clock.now()
    reply = office.write(
        actor, key, {"sign_out": person_id}, lambda store: household.sign_out_everywhere(store, actor, now, person_id)
    )
    return household.PersonState.model_validate(reply)


@router.post("/instruments")
def add_instrument(entry: household.NewInstrument, actor: Lead, office: OfficeHere, key: Key) -> Added:
    """Add an instrument."""
    now = office.clock.now()
    reply = office.write(
        actor,
        key,
        {"add_instrument": entry.model_dump(mode="json")},
        lambda store: Added.model_validate(
            {
                k: v
                for k, v in vars(household.add_instrument(store, actor, now, entry)).items()
                if k in Added.model_fields
            }
        ),
    )
    return Added.model_validate(reply)


@router.post("/instruments/{instrument_id}/calibration")
def calibrate(
    instrument_id: str, entry: household.Calibration, actor: Lead, office: OfficeHere, key: Key
) -> household.Calibrated:
    """Keep a check of an instrument."""
    now = office.clock.now()
    reply = office.write(
        actor,
        key,
        {"calibrate": instrument_id, **entry.model_dump(mode="json")},
        lambda store: household.calibrate(store, actor, now, instrument_id, entry),
    )
    return household.Calibrated.model_validate(reply)


@router.put("/site")
def correct_site(entry: household.SiteChange, actor: Lead, office: OfficeHere, key: Key) -> household.SiteChange:
    """Write the kitchen's name, height, zone and rule set anew."""
    now = office.clock.now()
    reply = office.write(
        actor,
        key,
        {"site": entry.model_dump(mode="json")},
        lambda store: household.correct_site(store, actor, now, entry),
    )
    return household.SiteChange.model_validate(reply)
