"""Skarn Ridge's other dishes: planned from their templates, signed, and cooked now and then over the last weeks.

What instruments read comes of each step's own walk, a little off the plan, with each instrument's noise.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime, timedelta

import numpy as np

from brinefrost.core.limits import Series
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.journey import Leg, journey
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.plans.walk import context_of, walk
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.base import Monitoring
from brinefrost.core.traces import TraceOptions
from brinefrost.demo.kitchen import Kitchen, Ticket
from brinefrost.demo.making import noisy
from brinefrost.demo.weighing import decided
from brinefrost.services import planning, running, tracing
from brinefrost.services.office import Actor
from brinefrost.store import Store

LOGGED = frozenset({"heats", "cools", "freezes"})  # what a logger is laid to
RECENT_DAYS = 2.0  # what began since then is under way now
SAMPLES = 90  # of a logger's file
USED = 0.4  # of the days it could be kept
ABOVE_K = 3.0  # how far above its line food is held hot
ORDER_LATE = timedelta(minutes=3)  # between two steps


@dataclass(frozen=True)
class Dish:
    """A dish, what it is for, and how many days ago each of its batches began."""

    template: str
    product: str
    begun_days_ago: tuple[float, ...]


DISHES = (
    Dish("confit", "Twelve legs a fortnight, for Saturday's public evening.", (33, 0.9)),
    Dish("short-rib", "Eight bags, for the midday line.", (20,)),
    Dish("stew", "A pot for three days, thirty portions, for the night crew.", (16, 1.3)),
    Dish("broth", "From the week's trim, ten litres.", (12, 0.2)),
    Dish("kraut", "Two crocks, for autumn and winter.", (40,)),
    Dish("crudo", "Twenty plates, for Saturday's public evening.", (27,)),
    Dish("cold-smoked-char", "Four fillets, sliced for breakfast.", (23,)),
    Dish("hot-smoked-trout", "Ten fillets a week, for breakfast.", (10,)),
    Dish("saddle", "One saddle, sliced for the table.", (14,)),
    Dish("goose", "One bird at Martinmas.", (15,)),
    Dish("custard", "Twenty-four moulds, for the midday line.", (6,)),
    Dish("slow-eggs", "Thirty eggs, for breakfast.", (4,)),
    Dish("cuttlefish", "Six bags, sliced cold.", (18,)),
    Dish("terrine", "From the stems the leaves leave.", (8,)),
    Dish("hot-hold", "What the crew eats after the midday line.", (2,)),
)


def cook_them(kitchen: Kitchen, now: datetime) -> None:
    """Put every dish on the agenda: its plan and its batches."""
    for index, dish in enumerate(DISHES):
        _planned(kitchen, dish, now, kitchen.cooks[index % len(kitchen.cooks)])


def _planned(kitchen: Kitchen, dish: Dish, now: datetime, cook: Actor) -> None:
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
            _run(kitchen, view.plan_id, saved.document, begins, now, cook)

    kitchen.at(made, signed)


def _run(kitchen: Kitchen, plan_id: str, plan: Plan, begins: datetime, now: datetime, cook: Actor) -> None:
    """One batch from its first step as far as the clock has come."""
    batch, context = Ticket(), context_of(plan)
    done = walk(plan, context)
    entry = running.BatchStart(plan_id=plan_id, packs=8, at=begins)

    def started(store: Store) -> None:
        batch.id = running.start_batch(store, cook, begins, entry).batch_id

    kitchen.at(begins, started)
    at = begins + ORDER_LATE
    for leg in journey(plan, context, done):
        if at > now - timedelta(minutes=10):
            return
        share = USED if kind_of(leg.step).endless else 1.0
        ends = at + timedelta(seconds=share * leg.length_s)
        kitchen.begin(batch, leg.step.id, at, cook)
        _watched(kitchen, batch, plan, leg, at, min(ends + ORDER_LATE, now), done.other, cook)
        if ends > now:
            return
        at = ends + ORDER_LATE
    kitchen.finish(batch, plan.steps[-1].id, at, cook)
    read = at + timedelta(hours=2)

    def closed(store: Store) -> None:
        entry = running.DecisionEntry(decision="release", reason="Curves and checks read; every limit met.")
        running.countersign(store, kitchen.lead, read, batch.id, entry)

    kitchen.at(read, closed)


def _watched(
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
    control = plan.control_of(leg.step.id)
    length_s = (USED if kind_of(leg.step).endless else 1.0) * leg.length_s
    for item in control.monitoring if control else ():
        for seconds in _times(item, length_s):
            at = begins + timedelta(seconds=seconds)
            if at > until:
                continue
            value = _value(kitchen, leg, item, seconds, other)
            kitchen.log(batch, leg.step.id, item.quantity, value, at, cook)
    ended = begins + timedelta(seconds=leg.length_s)
    if control and kind_of(leg.step).acts_of(leg.step) & LOGGED and leg.computed and ended <= until:
        name, content = f"L-07_{begins:%Y%m%d_%H%M}.csv", _logged(kitchen, leg, begins)
        entry = tracing.TraceEntry(step=leg.step.id, instrument="logger-7", options=TraceOptions())
        kitchen.at(ended, lambda s: tracing.attach_trace(s, cook, ended, batch.id, name, content, entry))


def _times(item: Monitoring, length_s: float) -> list[float]:
    """When a check falls, from the start of its step [s]; one without a time falls just before the end."""
    found = [offset for offset in item.offsets_s if offset < length_s]
    if item.every_s:
        found += [float(t) for t in np.arange(item.every_s, length_s + ORDER_LATE.total_seconds() - 60, item.every_s)]
    return sorted(set(found)) or [max(length_s - 120.0, 0.0)]


def _value(
    kitchen: Kitchen, leg: Leg, item: Monitoring, seconds: float, other: Mapping[tuple[str, Quantity], Series]
) -> float:
    """What an instrument reads at a time: the walk's own value and a little noise."""
    series = other.get((leg.step.id, item.quantity))
    if series is not None:
        value = float(np.interp(seconds, series.times_s, series.values))
        return (
            round(value + kitchen.chance.gauss(0, 0.03), 2) if item.quantity == "ph" else noisy(value, kitchen.chance)
        )
    if item.quantity in ("air", "bath"):
        around = kind_of(leg.step).around_c(leg.step)
        return noisy((around if around is not None else item.expected_high_c - 1) - 1.4, kitchen.chance, 0.15)
    above = ABOVE_K if "holds" in kind_of(leg.step).acts_of(leg.step) else -0.1
    return noisy(float(np.interp(seconds, leg.times_s, leg.core_c)) + above, kitchen.chance)


def _logged(kitchen: Kitchen, leg: Leg, begins: datetime) -> bytes:
    """A leg as a logger writes it."""
    lines = ["timestamp,core_c"]
    for time in np.linspace(0.0, leg.length_s, max(SAMPLES, int(leg.length_s // 600) + 1)):
        stamp = (begins + timedelta(seconds=float(time))).strftime("%Y-%m-%dT%H:%M:%SZ")
        core = float(np.interp(time, leg.times_s, leg.core_c)) + kitchen.chance.gauss(0, 0.05)
        lines.append(f"{stamp},{core:.2f}")
    return ("\n".join(lines) + "\n").encode()
