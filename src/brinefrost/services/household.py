"""The kitchen's own people, instruments and site: each change is the lead's, and each is a record."""

import uuid
from datetime import datetime, timedelta
from typing import Literal, cast
from zoneinfo import available_timezones

from pydantic import Field

from brinefrost.core.errors import NotFoundError, OutOfRangeError, RefusedError
from brinefrost.core.kitchen.checking import Against, checked, held_to, unit_of
from brinefrost.core.names import Name
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.rules import RuleSetId
from brinefrost.core.words import Words, apart, joined, moment, say
from brinefrost.core.working import Sent
from brinefrost.services import accounts
from brinefrost.services.doubting import DoubtedBatch, doubt_past
from brinefrost.services.office import Actor, Role
from brinefrost.store import Store
from brinefrost.store.people import Person
from brinefrost.store.shelves import InstrumentInfo, SiteInfo

KITCHEN = "kitchen"


class NewPerson(Sent):
    """An account to be added."""

    name: Name
    role: Role
    password: str = Field(min_length=10, max_length=200)
    pin: str | None = Field(default=None, pattern=r"^\d{4,8}$")


class NewSecrets(Sent):
    """A new password, a new PIN, or both."""

    password: str | None = Field(default=None, min_length=10, max_length=200)
    pin: str | None = Field(default=None, pattern=r"^\d{4,8}$")
    current: str = Field(default="", max_length=200)  # one's own password as it is, to change one's own


class PersonState(Sent):
    """Someone with an account, as the lead sees them."""

    id: str
    name: str
    role: Role
    active: bool
    has_pin: bool


class NewInstrument(Sent):
    """A probe, logger, meter or the display of a fridge, to be added. Uncertainty is k = 2 in its own unit."""

    name: Name
    kind: Literal["probe", "logger", "meter", "unit", "scale"]
    quantities: tuple[ReadingQuantity, ...] = Field(min_length=1, max_length=5)
    uncertainty: float = Field(gt=0, le=3)


class Calibration(Sent):
    """One check of an instrument against something known, as found and as left."""

    against: Against
    reference: float | None = Field(default=None, ge=-50, le=300)
    as_found: float = Field(ge=-50, le=300)
    as_left: float | None = Field(default=None, ge=-50, le=300)
    due_days: int = Field(default=30, ge=1, le=400)
    note: str = Field(default="", max_length=500)


class Calibrated(Sent):
    """What the check came to."""

    instrument: str
    expected: float
    error: float
    in_use: bool
    sentence: Words
    batches: tuple[DoubtedBatch, ...] = ()  # read with it since its last check, where it was found off


class SiteChange(Sent):
    """The kitchen as it should be written."""

    name: Name
    altitude_m: float = Field(ge=-100, le=4500)
    zone: str = Field(max_length=64)
    rule_set: RuleSetId


def people(store: Store) -> list[PersonState]:
    """Everybody with an account, those who left too."""
    return [_person(person) for person in store.people.everybody()]


def add_person(store: Store, actor: Actor, now: datetime, entry: NewPerson) -> PersonState:
    """Add an account."""
    made = accounts.add_person(store, entry.name.strip(), entry.role, entry.password, entry.pin)
    _write(store, actor, now, "person_added", {"person": made.id, "name": made.name, "role": made.role})
    return PersonState(id=made.id, name=made.name, role=made.role, active=True, has_pin=entry.pin is not None)


def set_active(store: Store, actor: Actor, now: datetime, person_id: str, active: bool) -> PersonState:
    """Let somebody in or keep them out; what they wrote stays, and their sessions end."""
    person = _known(store, person_id)
    leads = [each for each in store.people.all() if each.role == "lead" and each.id != person_id]
    if not active and person.role == "lead" and not leads:
        raise RefusedError(say("services.household.this_is_the_only_lead_add"))
    store.people.set_active(person_id, active)
    store.people.close_sessions(person_id)
    kind = "person_returned" if active else "person_left"
    _write(store, actor, now, kind, {"person": person_id, "name": person.name, "role": person.role})
    return _person(_known(store, person_id))


def renew_secrets(store: Store, actor: Actor, now: datetime, person_id: str, entry: NewSecrets) -> PersonState:
    """Give somebody a new password or PIN; their sessions end and their wrong tries are forgotten."""
    person = _known(store, person_id)
    if entry.password is None and entry.pin is None:
        raise OutOfRangeError(say("services.household.give_a_new_password_a_new"))
    accounts.renew(store, person_id, entry.password, entry.pin)
    what = [name for name, given in (("password", entry.password), ("PIN", entry.pin)) if given]
    _write(store, actor, now, "secrets_renewed", {"person": person_id, "name": person.name, "what": what})
    return _person(_known(store, person_id))


def sign_out_everywhere(store: Store, actor: Actor, now: datetime, person_id: str) -> PersonState:
    """End every session of somebody, and lift what wrong tries had shut."""
    person = _known(store, person_id)
    store.people.close_sessions(person_id)
    accounts.lift(store, person_id)
    _write(store, actor, now, "signed_out_everywhere", {"person": person_id, "name": person.name})
    return _person(person)


def add_instrument(store: Store, actor: Actor, now: datetime, entry: NewInstrument) -> InstrumentInfo:
    """Add an instrument; it is due for its first calibration at once."""
    if any(each.name.lower() == entry.name.strip().lower() for each in store.instruments.all()):
        raise RefusedError(say("services.household.there_is_a_already_choose_another", strip=entry.name.strip()))
    unit_of(entry.quantities)
    info = InstrumentInfo(
        uuid.uuid4().hex[:12], entry.name.strip(), entry.kind, entry.quantities, entry.uncertainty, now, now
    )
    store.instruments.add(info)
    _write(store, actor, now, "instrument_added", {"instrument": info.id, **entry.model_dump(mode="json")})
    return info


def calibrate(store: Store, actor: Actor, now: datetime, instrument_id: str, entry: Calibration) -> Calibrated:
    """Keep a check; an instrument that is too far off, as it was left, is not due later but now."""
    info = store.instruments.by_id(instrument_id)
    quantities = held_to(cast(tuple[ReadingQuantity, ...], info.quantities), entry.against)
    expected = _expect(store, entry)
    left = entry.as_found if entry.as_left is None else entry.as_left
    declared = _declare(store, info)
    found = checked(quantities, left, expected, declared)
    due = now + timedelta(days=entry.due_days) if found.good else now
    store.instruments.calibrated(instrument_id, now, due, found.good_to)
    read = QUANTITIES[quantities[0]]
    off, good_to = (apart(each, read.unit, f"~{read.decimals}") for each in (found.error, found.good_to))
    since = moment(info.calibrated_at, "%d %b %Y")
    sentence: Words = (
        say("services.household.is_off_by_it_may_be", name=info.name, error=off, due=moment(due, "%d %b %Y"))
        if found.good
        else say("services.household.is_off_by_set_it_right", name=info.name, error=off, since=since)
    )
    if found.good_to > info.uncertainty:
        sentence = joined((sentence, say("services.household.from_now_on_it_counts_as", good_to=good_to)), " ")
    error = round(found.error, 4)
    body = {"instrument": instrument_id, "name": info.name, "expected": expected, "error": error}
    body |= {"good": found.good, "good_to": round(found.good_to, 4), "declared": declared}
    _write(store, actor, now, "instrument_calibrated", {**body, **entry.model_dump(mode="json")})
    past = round(entry.as_found - expected, 4)
    doubted = doubt_past(store, now, info, past, read.unit) if abs(past) > info.uncertainty else ()
    return Calibrated(
        instrument=instrument_id,
        expected=round(expected, 3),
        error=error,
        in_use=found.good,
        sentence=sentence,
        batches=doubted,
    )


def _declare(store: Store, info: InstrumentInfo) -> float:
    """What its maker says it is good to, as it was added or first checked; a check may have found it worse since."""
    said = [record.body.get("uncertainty") for record in store.ledger.naming("instrument_added", info.id)]
    said += [record.body.get("declared") for record in store.ledger.naming("instrument_calibrated", info.id)]
    return float(next((each for each in said if each), info.uncertainty))


def correct_site(store: Store, actor: Actor, now: datetime, entry: SiteChange) -> SiteChange:
    """Write the kitchen anew; plans signed before keep what they were signed with."""
    if entry.zone not in available_timezones():
        raise OutOfRangeError(say("services.household.that_time_zone_is_not_known"))
    before = store.site.read()
    store.site.write(SiteInfo(entry.name.strip(), entry.altitude_m, entry.zone, entry.rule_set))
    _write(store, actor, now, "site_corrected", {"before": vars(before), "after": entry.model_dump(mode="json")})
    return entry


def _expect(store: Store, entry: Calibration) -> float:
    if entry.against == "ice":
        return 0.0
    if entry.against == "boiling":
        return boiling_c(store.site.read().altitude_m)
    if entry.reference is None:
        raise OutOfRangeError(say("services.household.say_what_the_reference_showed_or"))
    return entry.reference


def _known(store: Store, person_id: str) -> Person:
    person = store.people.by_id(person_id)
    if person is None:
        raise NotFoundError(say("services.accounts.there_is_no_such_person"))
    return person


def _person(person: Person) -> PersonState:
    return PersonState(
        id=person.id,
        name=person.name,
        role=cast(Role, person.role),
        active=person.active,
        has_pin=person.pin_hash is not None,
    )


def _write(store: Store, actor: Actor, now: datetime, kind: str, body: dict[str, object]) -> None:
    store.ledger.append(kind, KITCHEN, body, actor.author, now)
