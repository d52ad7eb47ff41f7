"""Setting up a kitchen the first time. Run as ``python -m brinefrost.services.setup``."""

import getpass
import os
import sys
from datetime import UTC, datetime, timedelta
from typing import cast
from zoneinfo import available_timezones

from brinefrost.core.errors import DomainError
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.services.accounts import add_person, check_secrets
from brinefrost.services.office import Role
from brinefrost.store import Database
from brinefrost.store.kitchens import HOME, in_kitchen
from brinefrost.store.shelves import InstrumentInfo, SiteInfo

LOWEST_M, HIGHEST_M = -100.0, 6000.0  # where the boiling point is known; see core.physics.altitude
ROLES: tuple[Role, ...] = ("lead", "cook", "reviewer")


def set_up(database: Database) -> int:
    """Ask for the kitchen and its people, once. The exit code."""
    with database.transaction() as store:
        if store.site.exists():
            return 0
    if not sys.stdin.isatty():
        _say("The kitchen is not set up yet. Run ./brinefrost start once in a terminal to answer a few questions.")
        return 1
    _say("A few questions about the kitchen, asked once.")
    try:
        site = SiteInfo(_ask("Its name"), _height_m(), _zone(), _one_of("Rule set", RULE_SET_IDS))
        people = _people()
    except (KeyboardInterrupt, EOFError):
        _say("\n  Nothing was saved. Run ./brinefrost start again when you have the answers.")
        return 1
    with database.transaction() as store:  # once all is answered: nobody types against a clock
        store.site.write(site)
        for person in people:
            add_person(store, *person)
        now = datetime.now(tz=UTC)
        store.instruments.add(
            InstrumentInfo("probe-1", "Probe 1", "probe", ("core", "bath", "air"), 0.5, now, now + timedelta(days=7))
        )
        store.instruments.add(
            InstrumentInfo(
                "logger-1", "Logger 1", "logger", ("core", "bath", "air"), 0.5, now, now + timedelta(days=365)
            )
        )
    return 0


def _people() -> list[tuple[str, Role, str, str | None]]:
    """Ask until done; without a lead nobody could sign a plan or add the others."""
    found: list[tuple[str, Role, str, str | None]] = []
    while True:
        name = _ask("Name of a person who signs in (empty when done)", "")
        if not name and any(role == "lead" for _, role, _, _ in found):
            return found
        if name.lower() in (known.lower() for known, _, _, _ in found):
            _say(f"{name} is there already. Choose another name.")
            continue
        if not name:
            _say("One person must be the lead: who signs plans and records.")
            continue
        role = cast(Role, _one_of("Role", ROLES))
        password, pin = (
            getpass.getpass("  Password (10 characters or more): "),
            _ask("PIN for the shared tablet (4 digits, or empty)", ""),
        )
        try:
            check_secrets(password, pin or None, name)
            found.append((name, role, password, pin or None))
        except DomainError as error:
            _say(error.sentence)


def _height_m() -> float:
    while True:
        typed = _ask("Height above the sea in metres", "0").replace(",", ".")
        try:
            height = float(typed)
        except ValueError:
            height = float("nan")
        if LOWEST_M <= height <= HIGHEST_M:
            return height
        _say(f"Type the height as a number from {LOWEST_M:g} to {HIGHEST_M:g} metres.")


def _zone() -> str:
    while True:
        zone = _ask("Time zone, such as Europe/Zurich", os.environ.get("TZ", "UTC"))
        if zone in available_timezones():
            return zone
        _say("That zone is not known.")


def _one_of(question: str, choices: tuple[str, ...]) -> str:
    while True:
        answer = _ask(f"{question} ({', '.join(choices)})", choices[0])
        if answer in choices:
            return answer
        _say(f"Type one of these: {', '.join(choices)}.")


def _ask(question: str, default: str | None = None) -> str:
    shown = f" [{default}]" if default else ""
    while True:
        answer = input(f"  {question}{shown}: ").strip() or (default if default is not None else "")
        if answer or default is not None:
            return answer


def _say(text: str) -> None:
    sys.stdout.write(f"  {text}\n")


if __name__ == "__main__":
    with in_kitchen(sys.argv[1] if sys.argv[1:] else HOME):
        sys.exit(set_up(Database(os.environ["BRINEFROST_DATABASE_URL"])))
