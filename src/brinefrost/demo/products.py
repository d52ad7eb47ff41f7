"""Skarn Ridge's other dishes: planned from their templates, signed, and cooked now and then over the last weeks.

What instruments read comes of each step's own walk, a little off the plan, with each instrument's noise.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

from brinefrost.core.limits import Series
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.legs import Leg, lay_legs
from brinefrost.core.plans.lines import ways_of
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps import kind_of
from brinefrost.core.traces import TraceOptions
from brinefrost.demo.kitchen import Kitchen, Ticket
from brinefrost.demo.readings import check_times, logged, value_of
from brinefrost.demo.weighing import decided
from brinefrost.services import planning, running, starting, tracing
from brinefrost.services.office import Actor
from brinefrost.store import Store

LOGGED = frozenset({"heats", "cools", "freezes"})  # what a logger is laid to
RECENT_DAYS = 2.0  # what began since then is under way now
USED = 0.4  # of the days it could be kept
ORDER_LATE = timedelta(minutes=3)  # between two steps


@dataclass(frozen=True)
class Dish:
    """A dish, what it is for, and how many days ago each of its batches began."""

    template: str
    product: str
    begun_days_ago: tuple[float, ...]
    trim_of: str = ""  # the dish whose trim goes into it


DISHES = (
    Dish("confit", "Twelve legs a fortnight, for Saturday's public evening.", (33, 0.9)),
    Dish("short-rib", "Eight bags, for the midday line.", (20,)),
    Dish("stew", "A pot for three days, thirty portions, for the night crew.", (16, 1.3)),
    Dish("broth", "From the saddle's trim, ten litres.", (12, 0.2), trim_of="saddle"),
    Dish("kraut", "Two crocks, for autumn and winter.", (40,)),
    Dish("crudo", "Twenty plates, for Saturday's public evening.", (27,)),
    Dish("cold-smoked-char", "Four fillets, sliced for breakfast.", (23,)),
    Dish("hot-smoked-trout", "Ten fillets a week, for breakfast.", (10,)),
    Dish("saddle", "One saddle, sliced for the table.", (13, 1.1)),
    Dish("goose", "One bird at Martinmas.", (15,)),
    Dish("custard", "Twenty-four moulds, for the midday line.", (6,)),
    Dish("slow-eggs", "Thirty eggs, for breakfast.", (4,)),
    Dish("cuttlefish", "Six bags, sliced cold.", (18,)),
    Dish("terrine", "From the stems the leaves leave.", (8,)),
    Dish("hot-hold", "What the crew eats after the midday line.", (2,)),
    Dish("hot-filled-pickles", "Forty jars for the winter.", (41,)),
    Dish("semi-dry-sausage", "Six kilograms a month, for the plate at the bar.", (36, 9)),
    Dish("garlic-confit", "Two trays, for purée and for bread.", (9,)),
    Dish("scallop-ceviche", "Sixteen plates, for Saturday's public evening.", (5,)),
    Dish("aioli", "Three litres, for Friday evening.", (3.2,)),
    Dish("egg-sauce", "Two siphons, for Sunday's breakfast.", (7,)),
    Dish("stuffing", "Beside the bird, never in it.", (15,)),
    Dish("mousse", "Thirty cups, for Sunday's table.", (3.5,)),
    Dish("filled-confit", "Sixteen pieces, for Saturday's public evening.", (11,)),
)


Begun = dict[str, list[tuple[datetime, Ticket]]]  # the batches of each dish so far


def cook_them(kitchen: Kitchen, now: datetime) -> None:
    """Put every dish on the agenda: its plan and its batches."""
    begun: Begun = {}
    for index, dish in enumerate(DISHES):
        _lay_out(kitchen, dish, now, kitchen.cooks[index % len(kitchen.cooks)], begun)


def _lay_out(kitchen: Kitchen, dish: Dish, now: datetime, cook: Actor, begun: Begun) -> None:
    made, lead = now - timedelta(days=43, hours=-len(dish.product) / 10), kitchen.lead
    base = template(dish.template)

    def signed(store: Store) -> None:
        view = planning.create_plan(store, lead, made, base.name, "us", dish.template)
        plan = with_controls(decided(view.document.model_copy(update={"product": dish.product})))
        saved = planning.save_plan(store, lead, made, view.plan_id, view.revision, plan)
        planning.sign_plan(store, lead, made, view.plan_id, planning.Signing(revision=saved.revision))
        for days in dish.begun_days_ago:
            begins = now - timedelta(days=days)
            if days > RECENT_DAYS:
                begins = begins.replace(hour=8, minute=20)
            batch = Ticket()
            begun.setdefault(dish.template, []).append((begins, batch))
            entry = starting.BatchStart(plan_id=view.plan_id, packs=8, at=begins)
            _run(kitchen, entry, saved.document, batch, now, cook, (dish.trim_of, begun))

    kitchen.at(made, signed)


def legs_of(plan: Plan) -> Iterator[tuple[Leg, Mapping[tuple[str, Quantity], Series]]]:
    """Every step as its own line's food goes through it, and what else than heat changes there."""
    found: dict[str, tuple[Leg, Mapping[tuple[str, Quantity], Series]]] = {}
    for way in ways_of(plan):
        context, done = simulated(way)
        for leg in lay_legs(way, context, done):
            found.setdefault(leg.step.id, (leg, done.other))
    for step in plan.steps:
        yield found[step.id]


def _run(
    kitchen: Kitchen,
    entry: starting.BatchStart,
    plan: Plan,
    batch: Ticket,
    now: datetime,
    cook: Actor,
    trim: tuple[str, Begun],
) -> None:
    """One batch from its first step as far as the clock has come; its trim of the latest batch that left some."""
    begins = entry.at or now

    def started(store: Store) -> None:
        dish, begun = trim
        left = [ticket for at, ticket in begun.get(dish, []) if at <= begins]
        parts = tuple(starting.PartEntry(batch=ticket.id, what="trim", kg=3.5) for ticket in left[-1:])
        made = entry.model_copy(update={"parts": parts})
        batch.id = starting.start_batch(store, cook, begins, made).batch_id

    kitchen.at(begins, started)
    at = begins + ORDER_LATE
    for leg, other in legs_of(plan):
        if at > now - timedelta(minutes=10):
            return
        share = USED if kind_of(leg.step).endless else 1.0
        ends = at + timedelta(seconds=share * leg.length_s)
        kitchen.begin(batch, leg.step.id, at, cook)
        _watch(kitchen, batch, plan, leg, at, min(ends + ORDER_LATE, now), other, cook)
        if ends > now:
            return
        at = ends + ORDER_LATE
    kitchen.finish(batch, plan.steps[-1].id, at, cook)
    read = at + timedelta(hours=2)

    def closed(store: Store) -> None:
        entry = running.DecisionEntry(decision="release", reason="Curves and checks read; every limit met.")
        running.countersign(store, kitchen.lead, read, batch.id, entry)

    kitchen.at(read, closed)


def _watch(
    kitchen: Kitchen,
    batch: Ticket,
    plan: Plan,
    leg: Leg,
    begins: datetime,
    until: datetime,
    other: Mapping[tuple[str, Quantity], Series],
    cook: Actor,
) -> None:
    """Every check of the step that falls before a time, and a logger where one is laid to it."""
    control = monitored_steps(plan).get(leg.step.id)
    length_s = (USED if kind_of(leg.step).endless else 1.0) * leg.length_s
    for item in control.monitoring if control else ():
        for seconds in check_times(item, length_s):
            at = begins + timedelta(seconds=seconds)
            if at > until:
                continue
            value = value_of(leg, item, seconds, other, kitchen.chance)
            kitchen.log(batch, leg.step.id, item.quantity, value, at, cook)
    ended = begins + timedelta(seconds=leg.length_s)
    if control and kind_of(leg.step).acts(leg.step) & LOGGED and leg.computed and ended <= until:
        name, content = f"L-07_{begins:%Y%m%d_%H%M}.csv", logged(leg, begins, kitchen.chance)
        entry = tracing.TraceEntry(step=leg.step.id, instrument="logger-7", options=TraceOptions())
        kitchen.at(ended, lambda s: tracing.attach_trace(s, cook, ended, batch.id, name, content, entry))
