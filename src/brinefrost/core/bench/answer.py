"""What an answer is made of: verdict, figures, pictures, other schools, working."""

from datetime import date
from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.fields import Kind
from brinefrost.core.limits import Limit, State, Verdict
from brinefrost.core.physics.body import Array
from brinefrost.core.words import Words, percent, say
from brinefrost.core.working import Document, Working

# what is computed "would" meet or fail; only what was typed in as measured meets or fails
# "advisory": only with an advisory and for general guests; for guests at higher risk the same is a refusal
AnswerState = Literal[
    "would_meet", "would_fail", "too_close", "pass", "fail", "ask", "advisory", "pending", "not_measured"
]
LineKind = Literal["core", "surface", "surroundings", "other"]
DRAWN = 160  # points a drawn line keeps


class Figure(Document):
    """A number that stands by itself, with its limit where it has one; the screen has the words of its name."""

    name: str
    value: float | None
    kind: Kind
    show: Words = ""
    words: Words = ""
    absent: Words = ""  # what is said where there is no value
    low: float | None = None
    high: float | None = None
    band_from: float | None = None
    band_to: float | None = None
    main: bool = False


class Line(Document):
    """A curve."""

    name: Words
    kind: LineKind
    x: tuple[float, ...]
    y: tuple[float, ...]
    measured: bool = False


class BenchMark(Document):
    """A level with its words, and where along the axis it must be reached."""

    words: Words
    y: float
    x: float | None = None
    failed: bool = False


class Zone(Document):
    """A hatched span of the upright axis."""

    words: Words
    low: float
    high: float


class CurvePicture(Document):
    """Curves over time or place."""

    kind: Literal["curve"] = "curve"
    title: str
    x_kind: Literal["time", "length", "number"]
    y_kind: Kind
    y_show: Words = ""
    lines: tuple[Line, ...]
    marks: tuple[BenchMark, ...] = ()
    zone: Zone | None = None
    y_low: float | None = None
    y_high: float | None = None
    x_high: float | None = None


class MapPicture(Document):
    """A value over two fields, with where the question stands, and what it is just there. Cells are rows of y, then x;
    null is never."""

    kind: Literal["map"] = "map"
    title: str
    x_field: str
    y_field: str
    x_kind: Kind
    y_kind: Kind
    x_show: str = ""
    y_show: str = ""
    x: tuple[float, ...]
    y: tuple[float, ...]
    cells: tuple[tuple[float | None, ...], ...]
    steps: tuple[float, ...]
    at_x: float
    at_y: float
    at_s: float | None


class Area(Document):
    """A corner of the map in which something can live: at or above both values; whether the food stands in it."""

    words: Words
    x_to: float
    y_from: float
    lives: bool


class GroundPicture(Document):
    """Where in salt and pH a food stands, and what can grow where."""

    kind: Literal["ground"] = "ground"
    title: str
    areas: tuple[Area, ...]
    x_low: float
    x_high: float
    y_low: float
    y_high: float
    law: float
    at_x: float
    at_y: float


class Dial(Document):
    """A clock that fills: share used, and when it is full."""

    name: Words
    used: float
    words: Words
    state: AnswerState


class DialPicture(Document):
    """Several clocks."""

    kind: Literal["dials"] = "dials"
    title: str
    dials: tuple[Dial, ...]


class Stretch(Document):
    """A piece of a scale: allowed, or a time that stands still in the cold."""

    low: float
    high: float
    kind: Literal["allowed", "still"] = "allowed"


class ScaleRow(Document):
    """One scale: whose it is, what it says, where one stands on it and how surely."""

    words: Words
    said: Words = ""
    state: AnswerState | None = None
    at: float | None = None
    doubt: float = 0.0
    stretches: tuple[Stretch, ...] = ()


class ScaleMark(Document):
    """A value that all the scales share."""

    words: Words
    x: float


class ScalePicture(Document):
    """Scales under each other, in one unit; days are counted from ``first_day``."""

    kind: Literal["scales"] = "scales"
    title: str
    x_kind: Kind
    x_show: str = ""
    x_low: float
    x_high: float
    first_day: date | None = None
    pointer: Words = ""  # what the pointer is
    still: Words = ""  # what is hatched
    rows: tuple[ScaleRow, ...]
    marks: tuple[ScaleMark, ...] = ()


Picture = Annotated[CurvePicture | MapPicture | GroundPicture | DialPicture | ScalePicture, Field(discriminator="kind")]


class SchoolAnswer(Document):
    """What another rule set or school says of the same thing."""

    school: Words
    state: AnswerState
    sentence: Words


class Table(Document):
    """Rows people compare."""

    title: Words
    head: tuple[Words, ...]
    rows: tuple[tuple[Words, ...], ...]


class BenchAnswer(Document):
    """The whole answer to one question."""

    state: AnswerState
    sentence: Words
    reason: Words = ""
    fixes: tuple[Words, ...] = ()
    figures: tuple[Figure, ...] = ()
    pictures: tuple[Picture, ...] = ()
    tables: tuple[Table, ...] = ()
    schools: tuple[SchoolAnswer, ...] = ()
    workings: tuple[Working, ...] = ()
    caution: Words = ""
    advisory: Words = ""  # what the menu must say, where it may be served only so


def planned(state: State) -> AnswerState:
    """A verdict on something computed: it would meet, or would fail."""
    return {
        "pass": "would_meet",
        "fail": "would_fail",
        "pending": "would_fail",
        "too_close": "too_close",
        "not_measured": "not_measured",
    }[state]  # type: ignore[return-value]


def measured(state: State) -> AnswerState:
    """A verdict on something measured and typed in."""
    return "fail" if state == "pending" else state


def line(name: str, kind: LineKind, x: Array, y: Array, measured: bool = False) -> Line:
    """A line of x and y, (n,) each in the picture's units [-], thinned to what can be drawn.

    Valid for one point or more.
    """
    keep = np.unique(np.linspace(0, len(x) - 1, min(DRAWN, len(x))).round().astype(int))
    return Line(
        name=name,
        kind=kind,
        measured=measured,
        x=tuple(round(float(v), 6) for v in np.asarray(x)[keep]),
        y=tuple(round(float(v), 4) for v in np.asarray(y)[keep]),
    )


def school(name: str, limit: Limit, verdict: Verdict, is_measured: bool = False) -> SchoolAnswer:
    """Another school's verdict."""
    state = measured(verdict.state) if is_measured else planned(verdict.state)
    return SchoolAnswer(
        school=say("bench.answer.name_title", name=name, title=limit.title), state=state, sentence=verdict.sentence
    )


def of_whole(verdict: Verdict) -> AnswerState:
    """A verdict on a curve that is still going down: only a mark already missed counts against it."""
    return "would_meet" if verdict.state == "pending" else planned(verdict.state)


def worst_of(states: list[AnswerState]) -> AnswerState:
    """The answer of several together."""
    order: tuple[AnswerState, ...] = (
        "would_fail",
        "fail",
        "too_close",
        "ask",
        "not_measured",
        "pending",
        "advisory",
        "would_meet",
        "pass",
    )
    return next((state for state in order if state in states), "not_measured")


def chance(share: float, error: float) -> tuple[str, str]:
    """A chance and how surely it is known, from their share and its standard error [-], as two cells.

    Valid for 0 to 1. Two standard errors hold it 95 times in 100.
    """
    return percent(100 * share, ".1f"), say("bench.answer.give_or_take", error=percent(200 * error, ".1f"))
