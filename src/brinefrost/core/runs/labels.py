"""What a label of a batch says: its date, how it is kept, what is in it; or why it gets none."""

from datetime import datetime

from brinefrost.core.errors import RefusedError
from brinefrost.core.limits import Threshold
from brinefrost.core.plans.days import is_store
from brinefrost.core.plans.undone import told_to_guests
from brinefrost.core.runs.asked import asked_steps
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.parts import allergens_of, gone_by
from brinefrost.core.words import Words, bound, duration, say
from brinefrost.core.working import Sent

AROUND = ("air", "core")  # what a store is kept by


class Label(Sent):
    """The text of one label. ``use_by`` is None where no days run yet: ``undated`` says from when they will."""

    code: str
    name: Words
    made_at: datetime
    use_by: datetime | None
    undated: Words
    keep: tuple[Words, ...]
    allergens: tuple[Words, ...]
    told: tuple[Words, ...]
    released: bool


def label_of(batch: Batch, now: datetime) -> Label:
    """What stands on a batch's labels now; frozen or thawed since, it is another date.

    Raises RefusedError where nothing of it may be kept: thrown away, recalled, with a deviation nobody decided on, or
    past its use by. Valid for every batch. FDA Food Code 2022, 3-501.17 and 3-602.11; Regulation (EU) 1169/2011,
    article 9 (name, allergens, use by, conditions of storage).
    """
    code, by = batch.started.code, gone_by(batch)
    if batch.recalled is not None:
        raise RefusedError(say("runs.labels.was_recalled", batch=code))
    if batch.is_to_be_discarded:
        raise RefusedError(say("runs.labels.was_thrown_away", batch=code))
    if batch.open_deviations():
        raise RefusedError(say("runs.labels.is_undecided", batch=code))
    if by is not None and by < now:
        raise RefusedError(say("runs.labels.is_past", batch=code, ago=duration((now - by).total_seconds())))
    store = _find_store(batch)
    return Label(
        code=code,
        name=batch.plan.name,
        made_at=batch.started.at,
        use_by=by,
        undated="" if by else _tell_undated(batch, store),
        keep=() if store is None else _tell_kept(batch, store),
        allergens=allergens_of(batch),
        told=told_to_guests(batch.plan),
        released=batch.closed is not None and batch.closed.decision == "release" and not batch.is_in_doubt,
    )


def _find_store(batch: Batch) -> str | None:
    """The step it is kept in: what it lies in now, else the next that keeps it, else the last."""
    steps = [step for step in batch.plan.steps if is_store(step) or _counts_days(batch, step.id)]
    running = [step for step in batch.running_steps() if step in steps]
    ahead = [step for step in steps if not batch.span(step.id).started]
    found = running or ahead[:1] or steps[-1:]
    return found[0].id if found else None


def _tell_undated(batch: Batch, store: str | None) -> Words:
    """From when its days will run; nothing where none are asked of it, or they run already."""
    if store is None or batch.span(store).started or not _counts_days(batch, store):
        return ""
    return say("runs.labels.counts_from", step=batch.plan.step(store).name)


def _counts_days(batch: Batch, step_id: str) -> bool:
    asked = asked_steps(batch).get(step_id)
    return asked is not None and any(limit.quantity == "age" for limit in asked.limits)


def _tell_kept(batch: Batch, step_id: str) -> tuple[Words, ...]:
    """How cold or warm it is kept there: the strictest of each side."""
    asked = asked_steps(batch).get(step_id)
    limits = [] if asked is None else [each for each in asked.limits if isinstance(each, Threshold)]
    said: list[Words] = []
    for comparison, strictest in (("at_most", min), ("at_least", max)):
        values = [each.value for each in limits if each.quantity in AROUND and each.comparison == comparison]
        if values:
            said.append(say(f"runs.kept_at.{comparison}", at=bound(strictest(values), "°C")))
    return tuple(said)
