"""The day as lanes, and what to do next."""

from dataclasses import dataclass
from datetime import datetime, timedelta

from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.judging import Judgement, LimitStatus, judge
from brinefrost.core.runs.parts import gone_by
from brinefrost.core.runs.schedule import Block, Check, blocks_of, checks_of
from brinefrost.core.words import Words, say
from brinefrost.core.working import Sent
from brinefrost.services.aims import LastRead, find_aim, find_last
from brinefrost.services.curves import Curve, curves_of
from brinefrost.services.handed import HandoverView, last_handover
from brinefrost.services.keeping import DAMAGED, PREFIX, load
from brinefrost.services.starting import parts_in_trouble
from brinefrost.services.views import open_batches, waits_for
from brinefrost.store import Store

AHEAD = timedelta(hours=12)
LANE_POINTS = 160


class Lane(Sent):
    """One running batch against the clock."""

    batch_id: str
    code: str
    name: Words
    packs: int
    mass_kg: float
    blocks: tuple[Block, ...]
    checks: tuple[Check, ...]
    curves: tuple[Curve, ...]
    growth_from_c: float | None
    growth_to_c: float | None
    words: Words
    waits_for: Words
    trouble: bool


class NextItem(Sent):
    """One thing to do: a check, a trouble, a step to begin, a review."""

    kind: str
    state: str
    batch_id: str
    code: str
    title: Words
    detail: Words
    due_at: datetime | None
    step: str | None = None
    check: Check | None = None
    aim: Words = ""  # the limit that a check is taken for
    last: LastRead | None = None


class ShiftView(Sent):
    """The shift as it stands."""

    now: datetime
    site: str
    altitude_m: float
    zone: str
    lanes: tuple[Lane, ...]
    next: tuple[NextItem, ...]
    handover: HandoverView | None = None  # the last change of shift


def read_shift(store: Store, now: datetime) -> ShiftView:
    """Lanes of every open batch and the next things to do, trouble first, then by time."""
    site = store.site.read()
    known = open_batches(store)
    seen = [(each, _seen(*each, now)) for each in known.batches if not each[1].closed]
    items = [_tell_damaged(subject) for subject in known.damaged]
    items += [item for _, view in seen for item in view.items]
    for (batch_id, batch), _ in seen:
        items += _of_parts(store, batch_id, batch)
    items += _find_recalled(store, now)
    items += _find_doubted(store)
    order = {"trouble": 0, "late": 1, "due": 2, "begin": 3, "upcoming": 4, "review": 5}
    items.sort(key=lambda item: (order[item.state], item.due_at or now))
    return ShiftView(
        now=now,
        site=site.name,
        altitude_m=site.altitude_m,
        zone=site.zone,
        lanes=tuple(sorted((view.lane for _, view in seen), key=lambda lane: not lane.trouble)),
        next=tuple(items[:40]),
        handover=last_handover(store, now),
    )


@dataclass(frozen=True)
class Seen:
    """A batch as the shift shows it, as of a moment."""

    batch: Batch
    at: datetime
    lane: Lane
    items: tuple[NextItem, ...]


RECALL_SHOWN = timedelta(days=30)  # how long a recall stands on the shift; common practice, no source
GONE_SOON = timedelta(hours=12)  # how long before its last hour a batch is spoken of
FRESH = timedelta(seconds=5)  # screens that ask within so long of one another are told the same
_seen_lately: dict[str, Seen] = {}
MOST_SEEN = 400


def _seen(batch_id: str, batch: Batch, now: datetime) -> Seen:
    """A batch's lane and what is next of it; a new record makes both anew at once."""
    known = _seen_lately.get(batch_id)
    if known is not None and known.batch is batch and timedelta(0) <= now - known.at < FRESH:
        return known
    judgement, blocks = judge(batch, now), blocks_of(batch, now)
    checks = checks_of(batch, now, blocks)
    made = Seen(
        batch,
        now,
        _lane(batch_id, batch, judgement, blocks, checks, now),
        tuple(_items(batch_id, batch, judgement, checks, now)),
    )
    if len(_seen_lately) >= MOST_SEEN:
        _seen_lately.clear()
    _seen_lately[batch_id] = made
    return made


def _tell_damaged(subject: str) -> NextItem:
    batch_id = subject.removeprefix("batch:")
    return NextItem(
        kind="trouble", state="trouble", batch_id=batch_id, code=batch_id, title=DAMAGED, detail="", due_at=None
    )


def _lane(
    batch_id: str, batch: Batch, judgement: Judgement, blocks: list[Block], checks: list[Check], now: datetime
) -> Lane:
    zone = next((found for s in judgement.statuses if (found := s.limit.zone()) is not None), None)
    forecast = next((s.forecast for s in judgement.statuses if s.forecast and s.forecast.misses), None)
    curves = [
        _thin(curve)
        for curve in curves_of(batch, judgement)
        if curve.quantity in ("core", "air") and curve.basis != "slow"
    ]
    return Lane(
        batch_id=batch_id,
        code=batch.started.code,
        name=batch.plan.name,
        packs=batch.started.packs,
        mass_kg=batch.mass_kg(),
        blocks=tuple(blocks),
        checks=tuple(checks),
        curves=tuple(curves),
        growth_from_c=zone[0] if zone else None,
        growth_to_c=zone[1] if zone else None,
        words=forecast.sentence if forecast else _trouble_words(batch, judgement),
        waits_for=waits_for(batch, checks),
        trouble=bool(forecast) or bool(batch.open_deviations()) or bool(_broken(judgement)) or batch.is_to_be_discarded,
    )


def _broken(judgement: Judgement) -> list[LimitStatus]:
    return [status for status in judgement.statuses if status.verdict.state == "fail"]


def _trouble_words(batch: Batch, judgement: Judgement) -> str:
    """What a lane says of itself: that it is to be thrown away, a broken limit, then an open deviation."""
    if batch.is_to_be_discarded:
        return say("services.shift.bin_it_and_record_it")
    broken = _broken(judgement)
    if broken:
        return say(
            "services.shift.critical_limit_not_met", step_name=broken[0].step_name, sentence=broken[0].verdict.sentence
        )
    waiting = batch.open_deviations()
    if waiting:
        return say(
            "services.shift.deviation_sentence",
            deviation=waiting[0].opened.deviation,
            sentence=waiting[0].opened.sentence,
        )
    return ""


def _thin(curve: Curve) -> Curve:
    stride = max(1, len(curve.values) // LANE_POINTS)
    return curve.model_copy(update={"times_s": curve.times_s[::stride], "values": curve.values[::stride]})


def _items(batch_id: str, batch: Batch, judgement: Judgement, checks: list[Check], now: datetime) -> list[NextItem]:
    base = {"batch_id": batch_id, "code": batch.started.code}
    return [
        *_troubles(batch, judgement, base),
        *(_to_check(batch, judgement, check, base) for check in checks if _is_soon(check, now)),
        *_to_use(batch, now, base),
        *_to_go_on(batch, base),
    ]


def _is_soon(check: Check, now: datetime) -> bool:
    ahead = check.state == "upcoming" and not check.planned and check.due_at <= now + AHEAD
    return ahead or check.state in ("due", "late")


def _to_check(batch: Batch, judgement: Judgement, check: Check, base: dict[str, str]) -> NextItem:
    return NextItem(
        kind="check",
        state=check.state,
        title=check.what,
        detail=batch.plan.name,
        due_at=check.due_at,
        step=check.step,
        check=check,
        aim=find_aim(judgement, check),
        last=find_last(batch, check),
        **base,
    )


def _to_use(batch: Batch, now: datetime, base: dict[str, str]) -> list[NextItem]:
    """What must be used or discarded soon; nothing where every step is over, and it is used already."""
    by = gone_by(batch) if batch.running_steps() or batch.next_step() else None
    if by is None or by > now + GONE_SOON:
        return []
    over = by <= now
    title = say("services.shift.discard_it") if over else say("services.shift.use_or_discard")
    state = "late" if over else "upcoming"
    return [NextItem(kind="use", state=state, title=title, detail=batch.plan.name, due_at=by, **base)]


def _to_go_on(batch: Batch, base: dict[str, str]) -> list[NextItem]:
    """The step to begin, or the review where there is none left; nothing while a step runs."""
    if batch.current_step() is not None:
        return []
    upcoming, name = batch.next_step(), batch.plan.name
    if upcoming is None:
        title = say("services.shift.review_and_countersign")
        return [NextItem(kind="review", state="review", title=title, detail=name, due_at=None, **base)]
    title = say("services.shift.begin_name", name=upcoming.name)
    return [NextItem(kind="begin", state="begin", title=title, detail=name, due_at=None, step=upcoming.id, **base)]


def _of_parts(store: Store, batch_id: str, batch: Batch) -> list[NextItem]:
    """What went into a batch and is thrown away, recalled or in trouble."""
    return [
        _trouble(batch_id, batch, say("services.shift.hold_it_contains", part=part.code, name=part.name))
        for part in (parts_in_trouble(store, batch) if batch.started.parts else ())
    ]


def _trouble(batch_id: str, batch: Batch, title: str) -> NextItem:
    """A card that stands until somebody answers for the batch."""
    return NextItem(
        kind="trouble",
        state="trouble",
        batch_id=batch_id,
        code=batch.started.code,
        title=title,
        detail=batch.plan.name,
        due_at=None,
    )


def _find_recalled(store: Store, now: datetime) -> list[NextItem]:
    """Batches called back lately: what of them is still in the house has to be found."""
    found = []
    for record in store.ledger.of_kind("batch_recalled"):
        if record.recorded_at < now - RECALL_SHOWN:
            continue
        batch_id = record.subject.removeprefix(PREFIX)
        batch = load(store, batch_id)
        found.append(_trouble(batch_id, batch, say("services.shift.recalled_find_it", reason=record.body["reason"])))
    return found


def _find_doubted(store: Store) -> list[NextItem]:
    """Released batches that were read with what was found off since, until somebody answers for them."""
    found = []
    for subject in dict.fromkeys(record.subject for record in store.ledger.of_kind("instrument_doubted")):
        batch_id = subject.removeprefix(PREFIX)
        batch = load(store, batch_id)
        if batch.is_in_doubt:
            found.append(_trouble(batch_id, batch, batch.doubts[-1].sentence))
    return found


def _troubles(batch: Batch, judgement: Judgement, base: dict[str, str]) -> list[NextItem]:
    found = []
    if batch.is_to_be_discarded:
        binned = say("services.shift.bin_it_and_record_it")
        found.append(
            NextItem(kind="trouble", state="trouble", title=binned, detail=batch.plan.name, due_at=None, **base)
        )
    for deviation in batch.open_deviations():
        opened = deviation.opened
        status = next((s for s in judgement.statuses if (s.step, s.limit.id) == (opened.step, opened.limit)), None)
        misses = bool(status and status.forecast and status.forecast.misses)
        option = next((o for o in status.options if o.works), None) if status else None
        if misses and status and status.forecast:
            title: str = say(
                "services.running.step_name_sentence", step_name=status.step_name, sentence=status.forecast.sentence
            )
        else:
            title = (
                opened.sentence
                if status is None
                else say(
                    "services.running.step_name_sentence", step_name=status.step_name, sentence=status.verdict.sentence
                )
            )
        detail = option.action if option else say("services.shift.decide_release_rework_or_discard")
        found.append(
            NextItem(kind="trouble", state="trouble", title=title, detail=detail, due_at=None, step=opened.step, **base)
        )
    return found
