"""What a batch is made of: other batches with their clocks and allergens, and when the first of it has to be gone."""

from datetime import datetime, timedelta

from brinefrost.core.errors import RefusedError
from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.plans.allergens import declared_allergens
from brinefrost.core.plans.asked_limits import default_limits
from brinefrost.core.plans.days import days_before, is_store, with_days_before
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import steps_behind, ways_with
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import Lot, Part, What
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.words import duration, num, say

DAY_S = 86400.0


def allergens_of(batch: Batch) -> tuple[str, ...]:
    """What has to be declared: of its own ingredients and of everything that went into it.

    Valid for every batch.
    """
    found = {*declared_allergens(batch.plan.ingredients), *(a for part in batch.started.parts for a in part.allergens)}
    return tuple(sorted(found))


def oldest_part(batch: Batch) -> Part | None:
    """The part that was made first; None where nothing came of another batch."""
    return min(batch.started.parts, key=lambda part: part.made_at, default=None)


def dated_from(batch: Batch) -> datetime | None:
    """When its days began: with its oldest part, or when it was first kept by days; None before that.

    Valid for every batch. Food Code 3-501.17(D): what is combined keeps the date of what was prepared first.
    """
    began = [
        span.started
        for step, _ in _days_of(batch.plan)
        if (span := batch.span(step)).started is not None and span.started
    ]
    oldest = oldest_part(batch)
    found = [*began, *((oldest.made_at,) if oldest else ())]
    return min(found, default=None)


def gone_by(batch: Batch) -> datetime | None:
    """When the first of it has to be used or thrown away; None where no step counts days and no part brought a date.

    A store that has not begun counts from its oldest part alone. Days of an earlier store count on; those it lay in a
    freezer rest.
    """
    found = [part.gone_by for part in batch.started.parts if part.gone_by is not None]
    oldest = oldest_part(batch)
    for control in asked_steps(batch).values():
        began = batch.span(control.step).started
        for limit in (as_dated(batch, control.step, each, began or batch.started.at) for each in control.limits):
            if not isinstance(limit, Threshold) or limit.quantity != "age":
                continue
            days = timedelta(days=limit.value)
            if began is not None:
                before = timedelta(days=kept_before(batch, control.step, began))
                found.append(began - before + days + _frozen_after(batch, control.step))
            if oldest is not None:
                found.append(oldest.made_at + days)
    return min(found, default=None)


def _frozen_after(batch: Batch, step_id: str) -> timedelta:
    """How long it lay in a freezer after it had left a store: those days rest."""
    spans = [batch.span(step.id) for step in steps_behind(batch.plan, step_id) if "freezes" in kind_of(step).acts(step)]
    return sum((s.finished - s.started for s in spans if s.started and s.finished), timedelta(0))


def _days_of(plan: Plan) -> list[tuple[str, float]]:
    """Steps at which days are counted, and how many each allows."""
    return [
        (step, limit.value)
        for step, control in monitored_steps(plan).items()
        for limit in control.limits
        if isinstance(limit, Threshold) and limit.quantity == "age"
    ]


def kept_before(batch: Batch, step_id: str, now: datetime) -> float:
    """Days [d] that had run of the food when it came into a store, as its steps really ran. Valid for every step."""

    def span_of(step: Step) -> tuple[float, float] | None:
        span = batch.span(step.id)
        return None if span.started is None else (span.started.timestamp(), (span.finished or now).timestamp())

    step = batch.plan.step(step_id)
    if not is_store(step):
        return 0.0
    return max(days_before(way, step, span_of) for way in ways_with(batch.plan, step_id))


def as_dated(batch: Batch, step_id: str, limit: Limit, now: datetime) -> Limit:
    """A limit of days as it is for a batch: for all the days of its food, and no longer than the part of another batch
    that has to be gone first.

    Valid for every limit; others stay as they are.
    """
    if not isinstance(limit, Threshold) or limit.quantity != "age":
        return limit
    step = batch.plan.step(step_id)
    before = kept_before(batch, step_id, now)
    return _as_parts_need(batch, with_days_before(step, limit, default_limits(batch.plan, step), before))


def _as_parts_need(batch: Batch, limit: Limit) -> Limit:
    if not isinstance(limit, Threshold) or limit.quantity != "age":
        return limit
    oldest = oldest_part(batch)
    first = min((p for p in batch.started.parts if p.gone_by), key=lambda p: p.gone_by or p.made_at, default=None)
    if oldest is None or first is None or first.gone_by is None:
        return limit
    days = (first.gone_by - oldest.made_at).total_seconds() / DAY_S
    if days >= limit.value:
        return limit
    title = say("runs.parts.used_before_its_part_has_to", batch=first.code, days=num(days, ".1f"))
    return limit.model_copy(update={"value": round(days, 4), "title": title})


def is_done(batch: Batch, by: datetime | None = None) -> bool:
    """Whether it has come through every critical step, or to a store where it may be kept, and through all before it;
    by a time where one is given.

    Valid for every batch.
    """

    def there(moment_: datetime | None) -> bool:
        return moment_ is not None and (by is None or moment_ <= by)

    steps = list(batch.plan.steps)
    begun = [index for index, step in enumerate(steps) if there(batch.span(step.id).started)]
    kept = bool(begun) and kind_of(steps[begun[-1]]).endless
    due = steps[: begun[-1]] if kept else steps
    return all(there(batch.span(step.id).finished) for step in due if batch.plan.control_of(step.id) is not None)


def part_of(
    batch: Batch, batch_id: str, what: What, kg: float | None, now: datetime, clocks: dict[str, float] | None = None
) -> Part:
    """What a batch gives to another, with its days, its organisms' clocks and its allergens.

    Raises RefusedError where it was thrown away, has an open deviation, has to be gone already, or is not food yet.
    """
    code, by = batch.started.code, gone_by(batch)
    if batch.recalled is not None:
        raise RefusedError(say("runs.parts.was_recalled_nothing_of_it", batch=code), part=batch_id)
    if batch.is_to_be_discarded:
        raise RefusedError(say("runs.parts.was_thrown_away_nothing_of_it", batch=code), part=batch_id)
    if batch.open_deviations():
        raise RefusedError(say("runs.parts.has_a_deviation_nobody_decided_on", batch=code), part=batch_id)
    if by is not None and by < now:
        ago = duration((now - by).total_seconds())
        raise RefusedError(say("runs.parts.had_to_be_gone_by", batch=code, ago=ago), part=batch_id)
    if batch.started.at > now:
        raise RefusedError(say("runs.parts.had_not_begun_then", batch=code), part=batch_id)
    if what == "food" and not is_done(batch, now):
        raise RefusedError(say("runs.parts.is_not_done_yet", batch=code), part=batch_id)
    # by-products were there from the beginning: they are as old as the goods were
    made = dated_from(batch) if what == "food" else min(filter(None, (dated_from(batch), batch.started.at)))
    return Part(
        batch=batch_id,
        code=code,
        name=batch.plan.name,
        what=what,
        kg=kg,
        made_at=made or batch.started.at,
        gone_by=by,
        allergens=allergens_of(batch),
        clocks=clocks or {},
    )


def check_parts(plan: Plan, parts: tuple[Part, ...], lots: tuple[Lot, ...] = ()) -> None:
    """Refuse a batch whose plan takes what was made here before, where no part is named: raises RefusedError."""
    bought = {lot.ingredient for lot in lots}
    wanted = [item.name for item in plan.ingredients if item.made_here and item.name not in bought]
    if wanted and not parts:
        raise RefusedError(say("runs.parts.say_which_batch_it_comes_of", wanted=wanted[0]), reason="parts")
