"""Accounts: what is kept, what is refused, how guessing is counted."""

from concurrent.futures import ThreadPoolExecutor

import pytest
from argon2 import PasswordHasher

from brinefrost.core.errors import OutOfRangeError, SignInError, TooManyTriesError
from brinefrost.services import accounts
from brinefrost.services.office import Office
from brinefrost.store import Database
from tests.conftest import TestClock
from tests.kitchen import NAMES, PASSWORDS, PIN, furnish


@pytest.fixture
def office(database: Database, clock: TestClock) -> Office:
    furnish(database, clock.now())
    return Office(database, clock)


def test_the_real_cost_is_the_library_s_own() -> None:
    """RFC 9106, second recommended option: Argon2id, t = 3, p = 4, 64 MiB. Tests alone hash cheaply."""
    made = PasswordHasher()
    assert (made.time_cost, made.parallelism, made.memory_cost) == (3, 4, 64 * 1024)


def test_secrets_are_kept_as_argon2_hashes_only(office: Office) -> None:
    with office.database.transaction() as store:
        person = store.people.by_name(NAMES["cook"].upper())  # upper and lower case alike
    assert person
    assert person.password_hash.startswith("$argon2id$")
    assert person.pin_hash
    assert person.pin_hash.startswith("$argon2id$")
    assert PASSWORDS["cook"] not in person.password_hash


def test_the_token_is_not_what_is_kept(office: Office) -> None:
    token, actor = accounts.sign_in(office, NAMES["lead"], PASSWORDS["lead"], "127.0.0.1")
    assert accounts.who(office, token) == actor
    assert accounts.who(office, token[:-1] + "x") is None
    assert accounts.who(office, None) is None
    assert office.database.signed_in(token, office.clock.now(), office.clock.now(), uses=False) is None


@pytest.mark.parametrize(
    ("password", "pin"), [("short", None), ("long enough password", "12"), ("long enough password", "12ab")]
)
def test_weak_secrets_are_refused(office: Office, password: str, pin: str | None) -> None:
    with pytest.raises(OutOfRangeError), office.database.transaction() as store:
        accounts.add_person(store, "New Cook", "cook", password, pin)


def test_a_person_without_a_pin_cannot_be_switched_to(office: Office) -> None:
    with office.database.transaction() as store:
        lead = store.people.by_name(NAMES["lead"])
    assert lead
    with pytest.raises(SignInError):
        accounts.switch(office, lead.id, "")
    with pytest.raises(SignInError):
        accounts.switch(office, "nobody", PIN)


def test_guessing_many_names_from_one_address_is_slowed_too(office: Office) -> None:
    for n in range(accounts.MOST_PER_ADDRESS):
        with pytest.raises(SignInError):
            accounts.sign_in(office, f"name {n}", "wrong-password", "127.0.0.9")
    with pytest.raises(TooManyTriesError):
        accounts.sign_in(office, "one name more", "wrong-password", "127.0.0.9")
    # every tablet behind one proxy has this address: a right password is never kept out by others' tries
    _, lead = accounts.sign_in(office, NAMES["lead"], PASSWORDS["lead"], "127.0.0.9")
    accounts.confirm(office, lead, PASSWORDS["lead"])


def test_many_tries_at_once_are_no_more_than_one_after_another(office: Office) -> None:
    """Sixty guesses at a PIN at once: six are looked at."""
    _, lead = accounts.sign_in(office, NAMES["lead"], PASSWORDS["lead"], "127.0.0.1")

    def guess(n: int) -> str:
        try:
            accounts.switch(office, lead.id, f"{n:04d}")
        except (SignInError, TooManyTriesError) as error:
            return error.code
        return "in"

    with ThreadPoolExecutor(12) as pool:
        codes = list(pool.map(guess, range(60)))
    assert codes.count(SignInError.code) == accounts.MOST_PER_PERSON
    assert "in" not in codes


def test_a_right_password_clears_the_count(office: Office) -> None:
    for _ in range(2):
        for _ in range(accounts.MOST_PER_PERSON - 1):
            with pytest.raises(SignInError):
                accounts.sign_in(office, NAMES["cook"], "wrong-password", "127.0.0.1")
        accounts.sign_in(office, NAMES["cook"], PASSWORDS["cook"], "127.0.0.1")


def test_signing_with_a_wrong_password_counts_as_guessing(office: Office) -> None:
    _, actor = accounts.sign_in(office, NAMES["lead"], PASSWORDS["lead"], "127.0.0.1")
    for _ in range(accounts.MOST_PER_PERSON):
        with pytest.raises(SignInError, match="nothing was signed"):
            accounts.confirm(office, actor, "wrong-password")
    with pytest.raises(TooManyTriesError):
        accounts.confirm(office, actor, PASSWORDS["lead"])
