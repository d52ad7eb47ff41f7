"""What can happen to a batch. Nothing here is ever changed; a correction is an event that names the one it corrects."""

from datetime import UTC, datetime
from typing import Annotated, Literal

from pydantic import AfterValidator, AwareDatetime, ConfigDict, Field, TypeAdapter

from brinefrost.core.plans.validated import Validation
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.words import Words, say
from brinefrost.core.working import Document

EARLIEST_YEAR, LATEST_YEAR = 1970, 2200


def in_utc(moment: datetime) -> datetime:
    """A time in UTC; raises ValueError for years no kitchen writes."""
    if not EARLIEST_YEAR < moment.year < LATEST_YEAR:
        raise ValueError(say("runs.events.the_year_is_not_a_year", year=moment.year))
    return moment.astimezone(UTC)


Disposition = Literal["release", "rework", "discard"]
Text = Annotated[str, Field(max_length=1000)]
# Kept in UTC: in a zone with clock changes, adding hours would move the clock's hands, not the time.
Moment = Annotated[AwareDatetime, AfterValidator(in_utc)]
Id = Annotated[str, Field(min_length=1, max_length=64)]


What = Literal["food", "trim", "bones", "juices", "fat", "brine", "whites"]


class Part(Document):
    """What another batch gave to this one, and what it brought with it.

    ``made_at`` is when the oldest of what is in it was made, ``gone_by`` when the first of it has to be used;
    nothing where its plan counts no days.
    """

    batch: Id
    code: Id
    name: str = Field(max_length=120)
    what: What = "food"
    kg: float | None = Field(default=None, gt=0, le=2000)
    made_at: Moment
    gone_by: Moment | None = None
    allergens: tuple[str, ...] = Field(default=(), max_length=40)
    clocks: dict[str, float] = Field(default_factory=dict, max_length=40)  # by organism, how far each had run [-]


class Lot(Document):
    """The supplier's lot of an ingredient."""

    ingredient: str = Field(max_length=80)
    lot: str = Field(min_length=1, max_length=60)


class Adjusted(Document):
    """A setting of a step as it is for this batch: measured today, or longer because of what was measured."""

    step: Id
    setting: str = Field(max_length=40)
    value: float


class BatchStarted(Document):
    """A batch begins, from one signed version of one plan.

    ``adjusted`` holds what was measured of today's pieces and the times that follow; the plan itself stays as signed.
    ``thickness_m`` and ``start_c`` are what was measured of them, as planned or not; ``validated`` the steps whose
    validation holds for them, as it stood then.
    """

    kind: Literal["batch_started"] = "batch_started"
    code: Id
    plan_id: Id
    plan_version: int
    plan_hash: Id
    packs: int = Field(ge=1, le=500)
    at: Moment
    parts: tuple[Part, ...] = Field(default=(), max_length=20)
    lots: tuple[Lot, ...] = Field(default=(), max_length=60)
    adjusted: tuple[Adjusted, ...] = Field(default=(), max_length=60)
    thickness_m: float | None = None
    start_c: float | None = None
    validated: tuple[Validation, ...] = Field(default=(), max_length=40)


class ValidationEnded(Document):
    """A step's validation was revoked while the batch ran: its core is asked again."""

    kind: Literal["validation_ended"] = "validation_ended"
    step: Id
    sentence: Words
    at: Moment


class StepStarted(Document):
    """A step of the plan begins."""

    kind: Literal["step_started"] = "step_started"
    step: Id
    at: Moment


class StepFinished(Document):
    """A step of the plan ends."""

    kind: Literal["step_finished"] = "step_finished"
    step: Id
    at: Moment


class ReadingLogged(Document):
    """A reading, with the instrument that took it. ``corrects`` names the reading it replaces."""

    kind: Literal["reading_logged"] = "reading_logged"
    reading: Id
    step: Id
    check: str = Field(default="", max_length=80)
    quantity: ReadingQuantity
    value: float
    unit: str = Field(max_length=8)
    typed: str = Field(default="", max_length=24)
    taken_at: Moment
    instrument: Id
    instrument_name: str = Field(max_length=80)
    uncertainty: float = Field(ge=0)
    confirmed: bool = False
    corrects: str | None = Field(default=None, max_length=64)
    note: Words = ""


class TraceAttached(Document):
    """A logger file laid to a step."""

    kind: Literal["trace_attached"] = "trace_attached"
    trace: Id
    step: Id
    filename: str = Field(max_length=200)
    sha256: str = Field(max_length=64)
    parsed_sha256: str = Field(max_length=64)
    channels: tuple[Words, ...] = Field(max_length=16)
    shift_s: float = 0.0
    shift_reason: str = Field(default="", max_length=1000)
    asked: Words = ""  # what was asked about and confirmed
    assumptions: tuple[Words, ...] = Field(max_length=80)
    notes: tuple[Words, ...] = Field(max_length=80)
    instrument: Id
    instrument_name: str = Field(max_length=80)
    uncertainty: float = Field(ge=0)
    first_at: Moment
    last_at: Moment


class TraceWithdrawn(Document):
    """A logger file that was attached in error: it counts no more, and stays on the record with why."""

    kind: Literal["trace_withdrawn"] = "trace_withdrawn"
    trace: Id
    step: Id
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    at: Moment


class ProbeBound(Document):
    """A probe that delivers by itself is bound to a step: what it measures counts there from then on."""

    kind: Literal["probe_bound"] = "probe_bound"
    binding: Id
    step: Id
    quantity: ReadingQuantity
    instrument: Id
    instrument_name: str = Field(max_length=80)
    uncertainty: float = Field(ge=0)
    asked: Words = ""  # what was asked about and confirmed
    at: Moment


class ProbeLetGo(Document):
    """A probe measures for this step no more; its step's end lets it go by itself."""

    kind: Literal["probe_let_go"] = "probe_let_go"
    binding: Id
    at: Moment


class CheckAnswered(Document):
    """Why a check was missed: the reading cannot be had any more, and somebody says so."""

    kind: Literal["check_answered"] = "check_answered"
    check: Id
    step: Id
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    at: Moment


STEP_CAUSES = frozenset(
    {"skipped", "too_short", "too_long", "waited"}
)  # of a step as a whole, not of one of its limits


class DeviationOpened(Document):
    """A limit is broken, is forecast to be, or was never proved and cannot be any more; or a step was not done as
    planned, and then it names no limit."""

    kind: Literal["deviation_opened"] = "deviation_opened"
    deviation: Id
    step: Id
    limit: Annotated[str, Field(max_length=64)] = ""
    cause: Literal["forecast", "breach", "unproved", "skipped", "too_short", "too_long", "waited"]
    sentence: Words
    late_by_s: float | None = None
    at: Moment


class DeviationWithdrawn(Document):
    """Readings that came later show that it never was: it closes itself, and stays on the record with why."""

    kind: Literal["deviation_withdrawn"] = "deviation_withdrawn"
    deviation: Id
    sentence: Words
    at: Moment


class ActionRecorded(Document):
    """What was done about it. ``changes_course`` says that the chill goes on differently from here."""

    kind: Literal["action_recorded"] = "action_recorded"
    step: Id
    deviation: str | None = Field(default=None, max_length=64)
    action: Words
    changes_course: bool = False
    at: Moment


class DeviationDecided(Document):
    """The lead's decision on a deviation."""

    kind: Literal["deviation_decided"] = "deviation_decided"
    deviation: Id
    decision: Disposition
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    at: Moment
    own_work: bool = False  # decided by the one who logged it, for there was nobody else
    found: str | None = None  # what was found, of grounds.py; none of older records, and where nothing was broken


class BatchCountersigned(Document):
    """The review is done; the record is closed."""

    kind: Literal["batch_countersigned"] = "batch_countersigned"
    decision: Disposition
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    at: Moment
    own_work: bool = False


class BatchRecalled(Document):
    """What was released is called back: it and all that was made of it."""

    kind: Literal["batch_recalled"] = "batch_recalled"
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    at: Moment


class InstrumentDoubted(Document):
    """A check found an instrument off by so much: what it read of this batch since its last good check is judged as if
    it had been off by that all the time."""

    kind: Literal["instrument_doubted"] = "instrument_doubted"
    instrument: Id
    instrument_name: str = Field(max_length=80)
    error: float  # as found less what it ought to have shown, in the unit of what it reads
    since: Moment
    sentence: Words
    at: Moment


class DoubtAnswered(Document):
    """Somebody decided that a closed batch stands, although an instrument that read it was found off."""

    kind: Literal["doubt_answered"] = "doubt_answered"
    reason: Annotated[str, Field(min_length=1, max_length=1000)]
    at: Moment


BatchEvent = Annotated[
    BatchStarted
    | StepStarted
    | StepFinished
    | ReadingLogged
    | TraceAttached
    | TraceWithdrawn
    | CheckAnswered
    | DeviationOpened
    | DeviationWithdrawn
    | ActionRecorded
    | DeviationDecided
    | BatchCountersigned
    | BatchRecalled
    | InstrumentDoubted
    | DoubtAnswered
    | ValidationEnded
    | ProbeBound
    | ProbeLetGo,
    Field(discriminator="kind"),
]
EVENTS: TypeAdapter[BatchEvent] = TypeAdapter(BatchEvent, config=ConfigDict(defer_build=True))


class Recorded(Document):
    """An event with who wrote it down, and when."""

    seq: int
    actor_id: str
    actor_name: str
    actor_role: str
    recorded_at: datetime
    event: BatchEvent
