"""What a person found who releases food although a limit was not met: chosen from what can be found of such a limit."""

from typing import Literal, get_args

from brinefrost.core.errors import RefusedError
from brinefrost.core.limits import Limit
from brinefrost.core.reasons import says
from brinefrost.core.runs.events import STEP_CAUSES, DeviationOpened
from brinefrost.core.words import Words, joined, say

Ground = Literal[
    "instrument_wrong",
    "measured_again",
    "entry_wrong",
    "heated_again",
    "chilled_anew",
    "part_removed",
    "held_by_acid",
    "done_unlogged",
    "done_otherwise",
    "authority",
    "other",
]
GROUNDS: tuple[Ground, ...] = get_args(Ground)
READ: tuple[Ground, ...] = ("instrument_wrong", "measured_again", "entry_wrong")  # of whatever is read
ANYWAY: tuple[Ground, ...] = ("part_removed", "authority", "other")
OF_STEP: tuple[Ground, ...] = ("done_unlogged", "done_otherwise", "measured_again", "authority", "other")
OWN_LETTERS, OWN_WORDS = 40, 8  # of what none of the others says; common practice, no source


def grounds_for(opened: DeviationOpened, limit: Limit | None) -> tuple[Ground, ...]:
    """What can be found of a deviation: of a step that was not done as planned, or of a limit by what it is read by.

    Valid for every deviation; ``limit`` is None where it is on the step as a whole.
    """
    if opened.cause in STEP_CAUSES or limit is None:
        return OF_STEP
    if limit.quantity == "core":
        again: tuple[Ground, ...] = ("chilled_anew",) if limit.falls_from_c is not None else ("heated_again",)
        return (*READ, *again, "held_by_acid", *ANYWAY)
    if limit.quantity in ("bath", "air"):
        return (*READ, "held_by_acid", *ANYWAY)
    return (*READ, *ANYWAY)


def check_ground(found: Ground | None, offered: tuple[Ground, ...], reason: str) -> None:
    """Refuse a release without a ground of those offered, or with one of one's own that is not told: RefusedError."""
    if found not in offered:
        raise RefusedError(say("runs.grounds.choose_what_was_found"), reason="ground")
    if found == "other" and not says(reason, OWN_LETTERS, OWN_WORDS):
        raise RefusedError(say("runs.grounds.tell_what_was_found", least_words=OWN_WORDS), reason="ground")


def ground_said(ground: Ground) -> Words:
    """A ground as its reader has it."""
    return {
        "instrument_wrong": say("runs.grounds.instrument_wrong"),
        "measured_again": say("runs.grounds.measured_again"),
        "entry_wrong": say("runs.grounds.entry_wrong"),
        "heated_again": say("runs.grounds.heated_again"),
        "chilled_anew": say("runs.grounds.chilled_anew"),
        "part_removed": say("runs.grounds.part_removed"),
        "held_by_acid": say("runs.grounds.held_by_acid"),
        "done_unlogged": say("runs.grounds.done_unlogged"),
        "done_otherwise": say("runs.grounds.done_otherwise"),
        "authority": say("runs.grounds.authority"),
        "other": say("runs.grounds.other"),
    }[ground]


def with_ground(ground: Ground | None, reason: str) -> Words:
    """A reason with what was found before it; the reason alone where nothing was chosen, as of older records."""
    return joined([ground_said(ground), reason], " ") if ground and ground != "other" else reason
