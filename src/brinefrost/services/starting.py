"""Starting a batch: what today's pieces are, which batches it takes of, and what came of it later."""

from datetime import datetime, timedelta

from pydantic import Field

from brinefrost.core.errors import AskFirstError, DomainError, RefusedError
from brinefrost.core.plans.asking import asked_since
from brinefrost.core.plans.contexts import piece_of, portion_of
from brinefrost.core.plans.parts import named_with_entry
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.events import BatchStarted, Lot, Moment, Part, What
from brinefrost.core.runs.exposure import clocks_of
from brinefrost.core.runs.parts import check_parts, gone_by, is_done, part_of
from brinefrost.core.runs.plausible import check_moment
from brinefrost.core.runs.starting import Fit, fit
from brinefrost.core.words import Words, duration, joined, kg, say
from brinefrost.core.working import Sent
from brinefrost.services import keeping
from brinefrost.services.office import Actor
from brinefrost.services.planning import signed_plan
from brinefrost.services.standings import check_current
from brinefrost.services.validating import ProcessFit, tell_fits, validations_for
from brinefrost.store import Store

MOST_OFFERED = 150  # the newest batches are looked at, no more
WEIGHED_WITHIN = 1.02  # two scales may say so much of one thing; common practice
OFFERED = timedelta(days=60)  # batches begun since then are offered as parts


class PartEntry(Sent):
    """What another batch gives."""

    batch: str = Field(max_length=64)
    what: What = "food"
    kg: float | None = Field(default=None, gt=0, le=2000, allow_inf_nan=False)


class BatchStart(Sent):
    """Start a batch from the latest signed version of a plan, with today's pieces, lots and parts."""

    plan_id: str = Field(max_length=64)
    packs: int = Field(ge=1, le=500)
    at: Moment | None = None
    confirmed: bool = False
    thickness_m: float | None = Field(default=None, gt=0, le=1, allow_inf_nan=False)
    start_c: float | None = Field(default=None, ge=-40, le=120, allow_inf_nan=False)
    parts: tuple[PartEntry, ...] = Field(default=(), max_length=20)
    lots: tuple[Lot, ...] = Field(default=(), max_length=60)


class Measured(Sent):
    """Today's thickest piece [m], how warm it goes in [°C], and how many packs there are."""

    packs: int | None = Field(default=None, ge=1, le=500)
    thickness_m: float | None = Field(default=None, gt=0, le=1, allow_inf_nan=False)
    start_c: float | None = Field(default=None, ge=-40, le=120, allow_inf_nan=False)


class PartOffer(Sent):
    """A batch that can go into another."""

    batch: str
    code: str
    name: Words
    begun_at: datetime
    gone_by: datetime | None
    done: bool  # it is food by now; before, only its by-products go elsewhere


class StartOffer(Sent):
    """What is asked when a batch of a plan starts."""

    thickness_m: float | None  # as planned
    start_c: float | None
    portion_kg: float | None
    ingredients: tuple[str, ...]
    made_here: tuple[str, ...]
    batches: tuple[PartOffer, ...]


class PartView(Sent):
    """A part of a batch, and how the batch it came of stands now."""

    part: Part
    state: str  # released, running, trouble, discarded, recalled, unknown


class GivenView(Sent):
    """A batch that took of this one."""

    batch: str
    code: str
    name: Words
    what: What
    kg: float | None = None  # how much, where it was said
    state: str = "running"


class BatchId(Sent):
    """Which batch it was."""

    batch_id: str
    code: str


def offer(store: Store, plan_id: str, now: datetime) -> StartOffer:
    """What a plan asks of a new batch, and which batches it could take of."""
    plan = signed_plan(store, plan_id).document
    piece, portion = piece_of(plan), portion_of(plan)
    return StartOffer(
        thickness_m=piece.thickness_m if piece else None,
        start_c=piece.start_c if piece else None,
        portion_kg=portion[0] if portion else None,
        ingredients=named_with_entry(plan),
        made_here=tuple(item.name for item in plan.ingredients if item.made_here),
        batches=tuple(_offer(store, now)),
    )


def _offer(store: Store, now: datetime) -> list[PartOffer]:
    newest = store.ledger.of_kind("batch_started", newest=MOST_OFFERED)
    lately = [record.subject for record in newest if record.recorded_at >= now - OFFERED]
    found = []
    for subject, batch in keeping.fold_all(store, lately).items():
        if batch is None:
            continue
        batch_id = subject.removeprefix(keeping.PREFIX)
        try:
            part = part_of(batch, batch_id, "trim", None, now)
        except DomainError:
            continue
        found.append(
            PartOffer(
                batch=batch_id,
                code=part.code,
                name=part.name,
                begun_at=batch.started.at,
                gone_by=part.gone_by,
                done=is_done(batch),
            )
        )
    return found


class FitToday(Fit):
    """Whether the plan's times do, and which validated steps today's pieces and load lie inside."""

    process: tuple[ProcessFit, ...] = ()


def fit_today(store: Store, plan_id: str, measured: Measured) -> FitToday:
    """Whether the signed plan's times do for today's pieces, and what is validated for them."""
    signed = signed_plan(store, plan_id)
    found = fit(signed.document, measured.thickness_m, measured.start_c)
    process = tell_fits(store, signed, measured.thickness_m, measured.start_c, measured.packs)
    return FitToday(state=found.state, sentence=found.sentence, adjusted=found.adjusted, process=process)


def start_batch(store: Store, actor: Actor, now: datetime, entry: BatchStart) -> BatchId:
    """Start a batch; raises RefusedError where its pieces cannot be done by the plan, or a part may not go in."""
    store.ledger.lock()
    signed, at = signed_plan(store, entry.plan_id), entry.at or now
    check_moment(at, now, entry.confirmed)
    check_current(store, entry.plan_id)
    since = asked_since(signed.document)
    if since:
        raise RefusedError(say("services.starting.asked_since_it_was_signed", titles=joined(since, ", ")))
    if at < signed.version.signed_at:
        raise RefusedError(say("services.running.the_plan_was_not_signed_yet"))
    for each in entry.parts if not entry.confirmed else ():
        _check_left(store, keeping.load(store, each.batch), each)
    parts = tuple(_taken(keeping.load(store, each.batch), each, at) for each in entry.parts)
    check_parts(signed.document, parts, entry.lots)
    today = fit(signed.document, entry.thickness_m, entry.start_c)
    if today.state in ("fails", "needs_measuring"):
        raise RefusedError(today.sentence, reason="pieces")
    batch_id, code = keeping.new_id(), f"B-{store.ledger.count('batch_started') + 101}"
    event = BatchStarted(
        code=code,
        plan_id=entry.plan_id,
        plan_version=signed.version.version,
        plan_hash=signed.version.hash,
        packs=entry.packs,
        at=at,
        parts=parts,
        lots=entry.lots,
        adjusted=today.adjusted,
        thickness_m=entry.thickness_m,
        start_c=entry.start_c,
        validated=validations_for(store, signed, entry.thickness_m, entry.start_c, entry.packs),
    )
    keeping.write(store, batch_id, event, actor.author, now)
    return BatchId(batch_id=batch_id, code=code)


def parts_view(store: Store, batch: Batch) -> tuple[PartView, ...]:
    """What went into a batch, each with how it stands now."""
    return tuple(PartView(part=part, state=_state_of(store, part.batch)) for part in batch.started.parts)


def parts_in_trouble(store: Store, batch: Batch, seen: frozenset[str] = frozenset()) -> list[Part]:
    """What went into a batch and is thrown away, recalled or in trouble, itself or by what went into it.

    Valid for every batch; a batch is made of earlier ones, so there is an end.
    """
    bad = ("discarded", "recalled", "trouble", "unknown")
    return [
        part for part in batch.started.parts if part.batch not in seen and _state_of(store, part.batch, seen) in bad
    ]


def _state_of(store: Store, batch_id: str, seen: frozenset[str] = frozenset()) -> str:
    seen = seen | {batch_id}
    try:
        batch = keeping.load(store, batch_id)
    except (DomainError, LookupError, ValueError):
        return "unknown"
    if batch.recalled is not None:
        return "recalled"
    if batch.is_to_be_discarded:
        return "discarded"
    if batch.open_deviations() or parts_in_trouble(store, batch, seen):
        return "trouble"
    if batch.closed is None:
        return "running"
    return {"release": "released", "rework": "trouble", "discard": "discarded"}[batch.closed.decision]


def given_view(store: Store, batch_id: str) -> tuple[GivenView, ...]:
    """The batches that took of this one."""
    found = []
    for record in store.ledger.naming("batch_started", batch_id):
        for part in record.body.get("parts", ()):
            if part["batch"] == batch_id:
                taken_by = record.subject.removeprefix(keeping.PREFIX)
                name = signed_plan(store, record.body["plan_id"], record.body["plan_version"]).document.name
                found.append(
                    GivenView(
                        batch=taken_by,
                        code=record.body["code"],
                        name=name,
                        what=part["what"],
                        kg=part.get("kg"),
                        state=_state_of(store, taken_by),
                    )
                )
    return tuple(found)


def _check_left(store: Store, batch: Batch, entry: PartEntry) -> None:
    """Ask where more of a batch goes elsewhere than it was: raises AskFirstError. Only what was weighed is counted."""
    made = batch.mass_kg()
    if not (entry.kg and made and entry.what == "food"):
        return
    gone = sum(each.kg or 0.0 for each in given_view(store, entry.batch) if each.what == "food")
    if gone + entry.kg > WEIGHED_WITHIN * made:
        said = say("services.starting.more_than_is_left", batch=batch.started.code, made=kg(made), gone=kg(gone))
        raise AskFirstError(said, reason="part", part=entry.batch)


def _taken(batch: Batch, entry: PartEntry, at: datetime) -> Part:
    return part_of(batch, entry.batch, entry.what, entry.kg, at, clocks_of(batch, at, entry.what))


def parts_blocking(store: Store, batch: Batch, now: datetime) -> list[str]:
    """What stands in the way of a release because of what went in, or because its days are over."""
    said: list[str] = []
    for view in parts_view(store, batch):
        if view.state != "released":
            said.append(say(f"services.starting.part_is_{view.state}", batch=view.part.code, name=view.part.name))
    by = gone_by(batch)
    if by is not None and by < now and batch.started.parts:
        said.append(say("services.starting.had_to_be_gone", ago=duration((now - by).total_seconds())))
    return said
