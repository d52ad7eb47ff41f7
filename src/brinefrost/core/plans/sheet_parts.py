"""What a sheet is made of: columns of steps, rows of hazards, and how each of them stands."""

from typing import Literal

from brinefrost.core.limits import LimitMark, Verdict
from brinefrost.core.quantities import Quantity
from brinefrost.core.words import Words
from brinefrost.core.working import Document, Working

Act = Literal["none", "comes_in", "lives", "killed", "grows", "held", "clock", "other"]
Standing = Literal["meets", "fails", "not_proved", "none"]


class SheetCurve(Document):
    """A quantity through one column: times since the step began [s], its values in its own unit.

    ``basis`` says how it is known: measured, carried on from what was measured, computed, or only said by the plan.
    """

    quantity: Quantity
    times_s: tuple[float, ...]
    values: tuple[float, ...]
    basis: Literal["measured", "expected", "computed", "declared"]


class SheetCheck(Document):
    """What is measured at a step: the plan's own where it is critical, else what is usual there.

    In a batch it has a state, and what was last read.
    """

    what: Words
    quantity: str
    offsets_s: tuple[float, ...]
    every_s: float | None
    who: str
    critical: bool
    state: str = ""
    value: Words = ""


class SheetLimit(Document):
    """A limit with its room to spare. ``share`` is where the value lies between 0, far off, and 1; 0.5 is the limit."""

    id: str
    title: Words
    standing: Standing
    sentence: Words
    room: Words
    share: float | None
    marks: tuple[LimitMark, ...]
    quantity: Quantity
    planned: bool = False  # in a batch: nobody measured it yet, the numbers are the plan's


class SheetColumn(Document):
    """One step."""

    step: str
    name: Words
    length_s: float
    critical: bool
    standing: Standing
    curves: tuple[SheetCurve, ...]
    exposed: float  # share of the leading clock run by its end [-]
    limits: tuple[SheetLimit, ...]
    checks: tuple[SheetCheck, ...]
    findings: tuple[Words, ...]
    goes_in: tuple[Words, ...] = ()  # the ingredients that go in here, behind the first step
    line: Words = ""  # the line it is in; the main one has no name
    takes: tuple[Words, ...] = ()  # the lines that run into it
    out_of: str = ""  # the step whose food its line begins with
    state: Literal["planned", "waiting", "running", "done"] = "planned"


class SheetCell(Document):
    """What happens to one hazard at one step."""

    step: str
    act: Act
    said: Words
    amount: Words = ""
    critical: bool = False
    open: bool = False  # a decision is wanted here
    standing: Standing = "none"
    planned: bool = False  # in a batch: the step is ahead, and this is what the plan expects of it


class SheetRow(Document):
    """One hazard through every step, with its balance at the end."""

    key: str
    name: Words
    type: str
    reason: Words
    taken: bool  # it is in the plan; else it is only suggested
    significant: bool
    balance: Words
    standing: Standing
    cells: tuple[SheetCell, ...]
    working: Working | None = None  # of its clock


class SheetPart(Document):
    """What goes in together at a step, and how it stands from there on.

    ``done``: raw up to the end of the step ``done_at``; ``raw``: to the end; ``undone``: eaten so, as it may be;
    ``plain``: nothing raw of animals in it.
    """

    names: tuple[Words, ...]
    enters: str
    state: Literal["raw", "done", "undone", "plain"]
    done_at: str = ""


class Sheet(Document):
    """All of it. It passes nothing: measurement decides."""

    state: Literal["meets", "advisory", "departs", "needs_measuring", "fails", "not_proved", "empty"]
    sentence: Words
    columns: tuple[SheetColumn, ...]
    rows: tuple[SheetRow, ...]
    cold_c: float  # the growth zone lies between the rule set's own lines
    hot_c: float
    exposed_by: Words  # whose clock the bar is
    parts: tuple[SheetPart, ...] = ()  # what is in it, where more than one thing goes in or something stays raw


def worst_standing(found: list[Standing]) -> Standing:
    """How several stand together; with none, nothing is asked. Valid for any number of them."""
    for each in ("fails", "not_proved"):
        if each in found:
            return each
    return "meets" if found else "none"


def standing_of(verdict: Verdict) -> Standing:
    """What a computed verdict says: it meets, fails, or proves nothing. Too close to call is no meeting.

    Valid for every verdict.
    """
    if verdict.state == "pass":
        return "meets"
    return "not_proved" if verdict.state in ("not_measured", "too_close") else "fails"
