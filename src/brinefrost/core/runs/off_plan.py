"""Steps that were not done as planned: passed over, or far shorter or longer than the plan allows for."""

from dataclasses import dataclass
from datetime import datetime
from itertools import pairwise
from typing import Literal

from brinefrost.core.plans.lines import steps_before, ways_with
from brinefrost.core.plans.validated import is_process
from brinefrost.core.quantities import Quantity
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.judging import verdict_of
from brinefrost.core.runs.parts import as_dated
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.acts import Act
from brinefrost.core.words import Words, duration, say

OffPlanCause = Literal["skipped", "too_short", "too_long", "waited"]
SHORT, LONG = 0.75, 1.5  # of the planned time; common practice, no source
MOST_WAIT_S = 3600.0  # between two steps, where nothing keeps it hot or cold; common practice, no source
STANDS: frozenset[Act] = frozenset({"keeps", "holds", "receives"})  # behind these it stays where it was kept
LEAST_OFF_S = 900.0  # a difference that is asked about at all; common practice, no source

# what a shorter step leaves undone, and what a longer one lets grow: portioning quickly and serving early harm nobody
SHORT_MATTERS: frozenset[Act] = frozenset({"heats", "cools", "freezes", "salts", "acidifies", "smokes", "dries"})
LONG_MATTERS: frozenset[Act] = frozenset({"heats", "cools", "salts", "acidifies", "smokes", "handles", "holds"})
# what shows that a step did its work, however long it took
SHOWN_BY: dict[Act, tuple[Quantity, ...]] = {
    "heats": ("core",),
    "cools": ("core",),
    "freezes": ("core",),
    "holds": ("core",),
    "acidifies": ("ph",),
    "dries": ("aw", "loss"),
}


@dataclass(frozen=True)
class OffPlan:
    """One step that was not done as planned. ``taken_s`` and ``planned_s`` are nothing where it was passed over."""

    step: Step
    cause: OffPlanCause
    taken_s: float = 0.0
    planned_s: float = 0.0
    behind: Words = ""  # the step it waited for

    @property
    def sentence(self) -> Words:
        """What happened, for whoever is asked and for the record."""
        if self.cause == "skipped":
            return say("runs.off_plan.skipped", name=self.step.name)
        taken, planned = duration(self.taken_s), duration(self.planned_s)
        if self.cause == "waited":
            return say("runs.off_plan.waited", name=self.step.name, taken=taken, behind=self.behind)
        if self.cause == "too_short":
            return say("runs.off_plan.too_short", name=self.step.name, taken=taken, planned=planned)
        return say("runs.off_plan.too_long", name=self.step.name, taken=taken, planned=planned)


def matters(batch: Batch, step: Step) -> bool:
    """Whether passing a step over bears on a limit, a hazard or what later limits rest on.

    A step that is monitored does; so does one that changes the food or the piece. Trimming alone does not.
    """
    kind = kind_of(step)
    if step.id in asked_steps(batch) or kind.makes(step) or kind.piece(step) is not None:
        return True
    return bool(kind.acts(step) - {"receives", "handles"})


def steps_passed(batch: Batch, before: str | None = None) -> list[OffPlan]:
    """Steps that were never begun though a later one was; with ``before``, those that beginning it would pass over.

    Valid for every batch.
    """
    passed = [step for step in batch.plan.steps if not batch.span(step.id).started and batch.is_begun(step)]
    if before is not None:
        passed = [step for step in steps_before(batch.plan, before) if not batch.is_begun(step)]
    return [OffPlan(step, "skipped") for step in passed if matters(batch, step)]


def steps_not_done(batch: Batch) -> list[OffPlan]:
    """Steps never begun, those at the end too: what a release of the batch as it stands would pass over.

    Valid for every batch. Critical ones are not among them: a batch cannot be released without them.
    """
    return [
        OffPlan(step, "skipped")
        for step in batch.plan.steps
        if not batch.span(step.id).started and matters(batch, step) and batch.plan.control_of(step.id) is None
    ]


def off_time(batch: Batch, step: Step, ends: datetime, now: datetime) -> OffPlan | None:
    """Whether a step that ends then is far shorter or longer than planned; None where its own readings show its work.

    Valid for a step that has begun. ``ends`` may be a time at which it is about to be ended.
    """
    kind, started = kind_of(step), batch.span(step.id).started
    if started is None or kind.endless or not kind.has_own_length:
        return None
    acts, planned, taken = kind.acts(step), kind.length_s(step), (ends - started).total_seconds()
    if abs(taken - planned) < LEAST_OFF_S:
        return None
    cause: OffPlanCause | None = None
    if taken < SHORT * planned and acts & SHORT_MATTERS:
        cause = "too_short"
    elif taken > LONG * planned and acts & LONG_MATTERS:
        cause = "too_long"
    if cause is None or _is_shown(batch, step, now):
        return None
    return OffPlan(step, cause, taken, planned)


def waits_before(batch: Batch, step_id: str, at: datetime) -> list[OffPlan]:
    """Food that stood for longer than an hour before a step that begins then, with nothing that kept it hot or cold.

    From the end of what its food was in before, on every way that leads into it. A fall counts its own wait from the
    heat. Valid for every batch.
    """
    found: dict[str, OffPlan] = {}
    for way in ways_with(batch.plan, step_id):
        for before, step in pairwise(way.steps):
            ended = batch.span(before.id).finished
            if step.id != step_id or ended is None or kind_of(before).acts(before) & STANDS:
                continue
            falls = "heats" in kind_of(before).acts(before) and "cools" in kind_of(step).acts(step)
            waited = (at - ended).total_seconds()
            if waited > MOST_WAIT_S and not falls:
                found[before.id] = OffPlan(batch.plan.step(before.id), "waited", waited, behind=step.name)
    return list(found.values())


def _waits(batch: Batch) -> list[OffPlan]:
    """Every wait so far."""
    return [
        found
        for step in batch.plan.steps
        if (started := batch.span(step.id).started) is not None
        for found in waits_before(batch, step.id, started)
    ]


def off_plan(batch: Batch, now: datetime) -> list[OffPlan]:
    """Every step so far that was passed over, or ended far off its planned time without readings that show its work,
    or whose food waited.

    Valid for every batch. Codex CXC 1-1969 (2022), principle 4: monitoring shows that the process ran as validated.
    """
    ended = [
        found
        for step in batch.plan.steps
        if (end := batch.span(step.id).finished) is not None and (found := off_time(batch, step, end, now)) is not None
    ]
    return [*steps_passed(batch), *ended, *_waits(batch)]


def _is_shown(batch: Batch, step: Step, now: datetime) -> bool:
    """Whether what was read shows that the step brought about what it was for."""
    shown_by = {quantity for act in kind_of(step).acts(step) for quantity in SHOWN_BY.get(act, ())}
    control = asked_steps(batch).get(step.id)
    if step.id in batch.validated:
        process = [limit for limit in (control.limits if control else ()) if is_process(limit)]
        if all(verdict_of(batch, step.id, limit, now).state == "pass" for limit in process):
            return True
    telling = [limit for limit in (control.limits if control else ()) if limit.quantity in shown_by]
    return bool(telling) and all(
        verdict_of(batch, step.id, as_dated(batch, step.id, limit, now), now).state == "pass" for limit in telling
    )
