"""Signing in, switching by PIN on a shared tablet, signing out."""

import hashlib
import hmac
import re
import secrets
import uuid
from datetime import datetime, timedelta
from typing import Literal, cast

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerifyMismatchError

from brinefrost.core.errors import (
    NotFoundError,
    OutOfRangeError,
    PasswordNeededError,
    RefusedError,
    SignInError,
    TooManyTriesError,
)
from brinefrost.core.words import say, settle
from brinefrost.core.working import Sent
from brinefrost.services.hashing import HASHING
from brinefrost.services.office import Actor, Office, Role
from brinefrost.services.weak_secrets import is_weak_password, is_weak_pin
from brinefrost.store import Store
from brinefrost.store.chain import KEEPER, Author
from brinefrost.store.kitchens import DOOR, HOME, WORD, in_kitchen, kitchen_here
from brinefrost.store.people import TAKEN_UP_WITHIN, Person
from brinefrost.store.sealing import sealed_text

SESSION_LENGTH = timedelta(hours=14)  # one long shift
COOKIE_KEPT = SESSION_LENGTH + TAKEN_UP_WITHIN
BY_PIN = "pin~"  # how the token of a session opened by PIN begins; ~ is no letter of a secret token
IDLE = timedelta(hours=8)  # a tablet on which nobody wrote anything for so long asks who is there
WINDOW = timedelta(minutes=15)
DEVICE_KEPT = timedelta(days=180)
MOST_PER_PERSON = 6
MOST_PER_ADDRESS = 40


class _Hashing:
    """Argon2id at the library's own cost (RFC 9106, low-memory profile), and a hash that nobody's secret fits."""

    def __init__(self, hasher: PasswordHasher) -> None:
        self.hasher = hasher
        self.decoy = self.hasher.hash(secrets.token_hex(16))


_hashing = _Hashing(PasswordHasher())


def hash_cheaply() -> None:
    """For tests alone: secrets cost next to nothing, and are worth as little."""
    global _hashing
    _hashing = _Hashing(PasswordHasher(time_cost=1, memory_cost=8, parallelism=1))


def add_person(store: Store, name: str, role: Role, password: str, pin: str | None) -> Actor:
    """Add an account; the PIN is for switching on a shared tablet."""
    check_secrets(password, pin, name)
    if store.people.by_name(name) is not None:
        raise RefusedError(say("services.accounts.signs_in_here_already_choose_another", name=name))
    person = Person(
        uuid.uuid4().hex, name, role, _hashing.hasher.hash(password), _hashing.hasher.hash(pin) if pin else None, True
    )
    store.people.add(person)
    return Actor(person.id, name, role)


def check_secrets(password: str | None, pin: str | None, name: str) -> None:
    """Refuse what is too easily found out. Raises OutOfRangeError."""
    if password is not None and len(password) < 10:
        raise OutOfRangeError(say("services.accounts.a_password_needs_at_least_10"))
    if password is not None and is_weak_password(password, name):
        raise OutOfRangeError(say("services.accounts.that_password_is_too_easily_guessed"))
    if pin is not None and not re.fullmatch(r"\d{4,8}", pin):
        raise OutOfRangeError(say("services.accounts.a_pin_is_4_to_8"))
    if pin is not None and is_weak_pin(pin):
        raise OutOfRangeError(say("services.accounts.that_pin_is_too_easily_guessed"))


def sign_in(
    office: Office, name: str, password: str, address: str, device: str = "", word: str = ""
) -> tuple[str, Actor]:
    """Check name and password; a new session token and who it is.

    A name that nobody has is refused without hashing once its address has tried too often; the count never stands in
    the way of a right password, since behind one proxy every tablet has the same address. A ``device`` on which this
    person signed in before has a count of its own, so that strangers cannot shut them out of it. ``word`` is the
    kitchen as it was named at the door: tries at one that is not there count as tries at any other.
    """
    now, person = office.clock.now(), office.read(lambda store: store.people.by_name(name))
    known = person is not None and knows_device(person, device, now)
    bucket = _bucket("known", person.id) if person and known else _bucket("name", _at_door(word) + name)
    _reserve(office, bucket, MOST_PER_PERSON, now)
    if person is None:  # counted before it costs anything: made-up names from one address are soon refused unhashed
        _reserve(office, f"address:{address}"[:160], MOST_PER_ADDRESS, now)
    right = _fits(person.password_hash if person else _hashing.decoy, password)
    if person is None or not right or not person.active:
        if person is not None:
            _reserve(office, f"address:{address}"[:160], MOST_PER_ADDRESS, now)
            _refuse(office, person, now, "password")
        raise SignInError(say("services.accounts.name_and_password_do_not_fit"))
    return _open(office, person, bucket, now)


def _at_door(word: str) -> str:
    return f"{word.strip().lower()} " if kitchen_here() == DOOR else ""


def device_of(person: Person, now: datetime) -> str:
    """What a browser keeps on which somebody signed in by password: good until the password changes, or half a year."""
    until = int((now + DEVICE_KEPT).timestamp())
    return f"{person.id}.{until}.{_device_seal(person, until)}"


def knows_device(person: Person, device: str, now: datetime) -> bool:
    """Whether a browser is one on which this person signed in before. Valid for any text."""
    id_, _, rest = device.partition(".")
    until, _, seal = rest.partition(".")
    if id_ != person.id or not until.isdigit() or int(until) < now.timestamp():
        return False
    wanted = _device_seal(person, int(until))
    return bool(wanted) and hmac.compare_digest(seal.encode(), wanted.encode())


def _device_seal(person: Person, until: int) -> str:
    return sealed_text(f"device\x1f{kitchen_here()}\x1f{person.id}\x1f{until}\x1f{person.password_hash}")


def switch(office: Office, person_id: str, pin: str) -> tuple[str, Actor]:
    """Switch to another person on a tablet that is signed in already."""
    now, bucket = office.clock.now(), _bucket("pin", person_id)
    _reserve(office, bucket, MOST_PER_PERSON, now)
    person = office.read(lambda store: store.people.by_id(person_id))
    right = _fits(person.pin_hash if person and person.pin_hash else _hashing.decoy, pin)
    if person is None or not right or not person.active:
        if person is not None:
            _refuse(office, person, now, "PIN")
        raise SignInError(say("services.accounts.that_pin_does_not_fit_try"))
    return _open(office, person, bucket, now, BY_PIN)


def renew_by_pin(office: Office, token: str | None, pin: str) -> tuple[str, Actor]:
    """Take up a session that ran out lately on this tablet again, by the PIN of whoever it was: it logs.

    Raises SignInError where there is no such session, or the PIN does not fit.
    """
    now = office.clock.now()
    known = office.database.session_known(_digest(token)) if token else None
    if known is None or not known.active or known.expires_at < now - TAKEN_UP_WITHIN:
        raise SignInError(say("api.guards.you_are_not_signed_in_or"))
    return switch(office, known.person_id, pin)


def opened_by_pin(token: str | None) -> bool:
    """Whether a session was opened by PIN: its token says so, and a changed token is no session. Valid for any text."""
    return bool(token) and str(token).partition(".")[2].startswith(BY_PIN)


def check_password_session(token: str | None) -> None:
    """Refuse what is more than logging in a session opened by PIN: raises PasswordNeededError."""
    if opened_by_pin(token):
        raise PasswordNeededError(say("services.accounts.a_pin_is_for_logging"))


def confirm(office: Office, actor: Actor, password: str) -> None:
    """A signature needs the password again, whoever holds the tablet; nobody else's tries stand in its way."""
    now, bucket = office.clock.now(), _bucket("sign", actor.id)
    _reserve(office, bucket, MOST_PER_PERSON, now)
    person = office.read(lambda store: store.people.by_id(actor.id))
    if person is None or not _fits(person.password_hash, password):
        raise SignInError(say("services.accounts.the_password_does_not_fit_so"), reason="signature")
    office.read(lambda store: store.people.forget_failures(bucket))


def renew(store: Store, person_id: str, password: str | None, pin: str | None) -> None:
    """Set new secrets; every session of the person ends. Raises OutOfRangeError where one is too easily found out."""
    person = store.people.by_id(person_id)
    check_secrets(password, pin, person.name if person else "")
    store.people.set_secrets(
        person_id, _hashing.hasher.hash(password) if password else None, _hashing.hasher.hash(pin) if pin else None
    )
    store.people.close_sessions(person_id)
    lift(store, person_id)


def mark_of(password: str | None, pin: str | None) -> str:
    """What tells one pair of new secrets from another sent under the same key; nothing of them can be read off it."""
    return sealed_text(f"secrets\x1f{password or ''}\x1f{pin or ''}")


def lift(store: Store, person_id: str) -> Actor:
    """Let somebody try again at once, whose wrong tries had shut them out."""
    person = store.people.by_id(person_id)
    if person is None:
        raise NotFoundError(say("services.accounts.there_is_no_such_person"))
    buckets = ("name", person.name), *((kind, person.id) for kind in ("pin", "sign", "known"))
    for bucket in (_bucket(*each) for each in buckets):
        store.people.forget_failures(bucket)
    return Actor(person.id, person.name, cast(Role, person.role))


def who(office: Office, token: str | None, writes: bool = False) -> Actor | None:
    """Whose session a token is; one that nobody wrote with for long has run out."""
    if not token:
        return None
    now = office.clock.now()
    found = office.database.signed_in(_digest(token), now, now - IDLE, writes)
    return Actor(found.person_id, found.name, cast(Role, found.role), found.manners) if found else None


class Manners(Sent):
    """How somebody reads: their units, their ground, their language. What is empty is as the house has it."""

    temperature: Literal["°C", "°F"] | None = None
    length: Literal["mm", "in"] | None = None
    mass: Literal["g", "oz"] | None = None
    theme: Literal["light", "dark"] | None = None
    language: Literal["en", "es", "fr", "zh", "xx"] | None = None  # xx: English with marks, to see what is not in words


def manners_of(store: Store, person_id: str) -> Manners:
    """How somebody reads, on whichever tablet."""
    return Manners.model_validate_json(store.people.manners(person_id))


def settle_for(manners: str) -> None:
    """From here on this request says everything as somebody reads it."""
    chosen = Manners.model_validate_json(manners)
    settle(language=chosen.language, temperature=chosen.temperature, length=chosen.length, mass=chosen.mass)


def keep_manners(store: Store, person_id: str, manners: Manners) -> None:
    """Keep how somebody reads."""
    store.people.set_manners(person_id, manners.model_dump_json())


def kitchen_of(token: str) -> str:
    """The kitchen a session says it belongs to: it is believed only where that kitchen knows the session."""
    kitchen, dot, _ = token.partition(".")
    return (kitchen if WORD.fullmatch(kitchen) else DOOR) if dot else HOME


def sign_out(office: Office, token: str | None) -> None:
    """End a session, of whichever kitchen it is."""
    if token:
        with in_kitchen(kitchen_of(token)):
            office.read(lambda store: store.people.close_session(_digest(token)))


def people_on_tablet(store: Store) -> list[Actor]:
    """Who can switch by PIN."""
    return [Actor(p.id, p.name, cast(Role, p.role)) for p in store.people.all() if p.pin_hash]


def _open(office: Office, person: Person, bucket: str, now: datetime, by: str = "") -> tuple[str, Actor]:
    token = f"{kitchen_here()}.{by}{secrets.token_urlsafe(32)}"

    def work(store: Store) -> None:
        store.people.forget_failures(bucket)
        store.people.open_session(_digest(token), person.id, now, now + SESSION_LENGTH)
        _record(store, "signed_in", person, now, "PIN" if by else "password")

    office.read(work)
    return token, Actor(person.id, person.name, cast(Role, person.role))


def _refuse(office: Office, person: Person, now: datetime, by: str) -> None:
    """Keep that somebody tried under a person's name: at most as often as it may be tried."""
    told = {"person": person.id, "name": person.name, "by": by}
    office.read(lambda store: store.ledger.append("sign_in_refused", "people", told, KEEPER, now))


def _record(store: Store, kind: str, person: Person, now: datetime, by: str) -> None:
    author = Author(person.id, person.name, person.role)
    store.ledger.append(kind, "people", {"person": person.id, "name": person.name, "by": by}, author, now)


def _fits(kept: str, given: str) -> bool:
    """Whether a secret fits; hashed in the one place for it, behind whatever the kitchen does meanwhile."""
    return HASHING.submit(_verify, kept, given).result()


def _verify(kept: str, given: str) -> bool:
    try:
        return _hashing.hasher.verify(kept, given)
    except (VerifyMismatchError, InvalidHashError):
        return False


def _bucket(kind: str, who_: str) -> str:
    """The name of a count; odd letters that lengthen a name are cut off with it."""
    return f"{kind}:{who_.strip().lower()}".replace("\0", "")[:160]


def _reserve(office: Office, bucket: str, most: int, now: datetime) -> None:
    if not office.read(lambda store: store.people.reserve_try(bucket, now, now - WINDOW, most)):
        minutes = int(WINDOW.total_seconds() // 60)
        raise TooManyTriesError(
            say("services.accounts.too_many_wrong_tries_wait_minutes", minutes=minutes),
            wait_s=minutes * 60,
        )


def _digest(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
