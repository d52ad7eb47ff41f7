"""How far each organism's clock has run in a batch, what its parts brought included."""

from dataclasses import replace
from datetime import datetime

import numpy as np

from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.limits import exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.plans.balance import clocks_along, find_toxins, way_of
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.legs import Leg, lay_legs
from brinefrost.core.plans.lines import has_lines
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.by_way import by_way
from brinefrost.core.runs.events import What
from brinefrost.core.runs.judging import Judgement, judge, met_steps
from brinefrost.core.runs.measured import measured_leg
from brinefrost.core.words import Words, percent, say

MOST_SHARE = 99.0  # of a clock that is told


def brought_by(batch: Batch) -> dict[str, float]:
    """How far each organism's clock had run in what the batch took of others: the furthest of them [-].

    Valid for every batch; nothing where it took nothing.
    """
    found: dict[str, float] = {}
    for part in batch.started.parts:
        for key, share in part.clocks.items():
            found[key] = max(found.get(key, 0.0), share)
    return found


def clocks_of(batch: Batch, now: datetime, what: What = "food") -> dict[str, float]:
    """How far each clock has run by now [-], along what was measured, and along the plan where nothing was.

    By organism [-]; 1 is where a published cumulative exposure ends. Raises OutOfRangeError if a parameter lies
    outside the models' ranges. Valid for every batch whose plan can be walked; nothing else is known of others but
    what they took in. An estimate. As ``exposure``.
    """
    brought = brought_by(batch)
    found = dict(brought)
    if provable(batch.plan):
        return found
    if has_lines(batch.plan):
        for each in by_way(batch):
            for key, share in clocks_of(each, now, what).items():
                found[key] = max(found.get(key, 0.0), share)
        return found
    context, done = simulated(batch.plan)
    legs = [_so_far(batch, leg, now) for leg in lay_legs(batch.plan, context, done) if batch.span(leg.step.id).started]
    if not legs:
        return found
    met = met_steps(judge(batch, now))
    way, known = way_of(batch.plan, legs, met), {each.key: each for each in catalogue().hazards}
    for hazard in batch.plan.hazards:
        about = known.get(hazard.key)
        if about is None or about.organism is None or not hazard.significant:
            continue
        run = clocks_along(about, way, done, brought.get(about.organism, 0.0))  # some have several hazards
        share = run[-1] if what == "food" else max(run)
        found[about.organism] = round(min(share, MOST_SHARE), 4)
    return found


def toxins_made(batch: Batch, now: datetime) -> list[Words]:
    """What can have made its toxin in a batch: sentences; none where its signed plan already says so, with a reason.

    Valid for every batch.
    """
    if not batch.started.parts and not provable(batch.plan) and find_toxins(batch.plan):
        return []
    return [
        say("runs.clocks.toxin_can_be_there", organism=organism(key).name, share=percent(100 * share))
        for key, share in clocks_of(batch, now).items()
        if organism(key).toxin and exposure_of(organism(key)).used_up(share)
    ]


def _so_far(batch: Batch, leg: Leg, now: datetime) -> Leg:
    """A leg up to now."""
    found = measured_leg(batch, leg, now, Judgement([], {}))
    span = batch.span(leg.step.id)
    if span.finished or span.started is None:
        return found
    spent = max((now - span.started).total_seconds(), 1.0)
    keep = found.times_s < spent
    times = np.append(found.times_s[keep], spent)
    core = np.append(found.core_c[keep], np.interp(spent, found.times_s, found.core_c))
    return replace(found, times_s=times, core_c=core, length_s=spent)
