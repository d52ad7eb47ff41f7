"""What happens to each organism at each step: it comes in, grows, is killed, its clock runs. An estimate, no pass."""

from dataclasses import dataclass, field, replace
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import Literal

import numpy as np

from brinefrost.core.food.catalogue import CatalogueHazard, catalogue
from brinefrost.core.kitchen.lines import ANIMALS, NEEDS_HEAT
from brinefrost.core.limits import Lethality, Series, exposure_of
from brinefrost.core.microbes.exposure import BandTime, band_times_s
from brinefrost.core.microbes.growth import (
    PERFRINGENS,
    PERFRINGENS_LAG,
    cardinal_rate_per_h,
    gamma,
    log_growth,
)
from brinefrost.core.microbes.organisms import Organism, grows_at, organism
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.asked_limits import answered_by, limits_of
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.judged import judged_on
from brinefrost.core.plans.legs import Leg, lay_legs
from brinefrost.core.plans.once import once
from brinefrost.core.plans.parts import own_entries_of, tags_from
from brinefrost.core.quantities import Quantity
from brinefrost.core.rules import RULE_SET_IDS, rule_set, targets
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.acts import COLD, HOT, LOOSE, Act
from brinefrost.core.steps.document import Finding
from brinefrost.core.steps.state import Course
from brinefrost.core.words import percent, say
from brinefrost.core.working import Working

MOST_LOG = 12.0  # more than this is not told apart: nothing is left
USUAL_PH, USUAL_AW = 6.5, 0.99  # of food that nobody soured or dried; on the fast side
HURDLES: tuple[Quantity, Quantity] = ("ph", "aw")
DOUBT_K = 1.0  # how far off a computed or measured core may be
ENOUGH_LOG = 5.0  # a kill after which nothing is left that could grow
NO_HEAT_C = 0.0
HOLDING: frozenset[Act] = frozenset({"salts", "acidifies", "ripens", "dries", "shelves"})
CLOSE_S = 1e-3  # times nearer than this are one
NO_GROWTH_C = 60.0  # nothing grows above it
CELLS_DIE_C = 70.0  # at once, whatever they are; spores live on and begin anew. Common practice
TELLING_SHARE = 0.02  # less of a clock than this is not told
FINE = 121  # points a leg is followed at


@dataclass(frozen=True)
class Share:
    """What one step does to one organism: log10 killed and grown, and how much of its clock runs [-]."""

    killed: float
    grown: float
    clock: float
    spent: bool = False  # nothing of it is left that anything could happen to
    held: Literal["", "acid", "dry", "starter"] = ""  # what alone stops it there
    lethal: float = 0.0  # log10 it would kill while it is still hot of the step before, which heats nothing itself


@dataclass(frozen=True)
class Clock:
    """How far an organism's clock runs along a way: in each leg, and in all by its end [-].

    ``bands`` is the time in each band since it last began anew, ``brought`` what of it was there before the first leg.
    """

    shares: tuple[float, ...]
    so_far: tuple[float, ...]
    bands: tuple[BandTime, ...]
    brought: float

    def working(self, each: Organism) -> Working:
        """How it adds up."""
        return exposure_of(each).explain(self.bands, self.so_far[-1], self.brought)


@dataclass(frozen=True)
class Balance:
    """One organism over the whole way: its shares by step, the sum of log10, and how far off that may be.

    ``clock`` is its exposure clock; None where none is known.
    """

    shares: tuple[Share, ...]
    total: float
    doubt: float
    clock: Clock | None


@dataclass(frozen=True)
class Way:
    """All legs on one clock [s]: the core [°C], where each leg ends, and how hot each point counts for a kill [°C]."""

    legs: tuple[Leg, ...]
    times_s: Array
    core_c: Array
    counts_c: Array  # what was only declared kills nothing, nor what a step does that heats nothing
    hot_c: Array  # the same with what is still hot in steps that heat nothing
    ends: tuple[int, ...]
    parts: tuple[tuple[int, frozenset[str]], ...] = ()  # the leg each part goes in at, and what it is
    answered: frozenset[tuple[str, str]] = frozenset()  # step and organism: a line of the law that is met answers there
    _hurdles: list[tuple[Course, dict[str, tuple[float, float]]]] = field(default_factory=list, compare=False)

    @cached_property
    def hottest(self) -> tuple[tuple[float, int], ...]:
        """By leg: how hot it was at most [°C], and the last point of the leg at which it was so, or hot enough."""
        found = []
        for start, end in zip([0, *self.ends[:-1]], self.ends, strict=True):
            here = self.counts_c[start : end + 1]
            most = float(np.max(here))
            found.append((most, int(np.flatnonzero(here >= min(NO_GROWTH_C, most))[-1])))
        return tuple(found)

    def hurdles(self, leg: Leg, done: Course) -> tuple[float, float]:
        """pH and water activity at the end of a leg, by the walk it comes of."""
        if not self._hurdles or self._hurdles[0][0] is not done:
            self._hurdles[:] = [(done, _hurdles_by_step(done))]
        return self._hurdles[0][1].get(leg.step.id, (USUAL_PH, USUAL_AW))

    def dead_until(self, leg: int, log: float) -> int | None:
        """Up to which point of a leg it is as hot as kills cells, by so many log10; nothing where the leg does not."""
        most, last = self.hottest[leg]
        return None if log < ENOUGH_LOG and most < CELLS_DIE_C else last

    def entry_of(self, hazard: CatalogueHazard) -> int:
        """The leg at which the last of the parts goes in that bring a hazard: no heat before it had that part."""
        brings = frozenset(hazard.tags) or NEEDS_HEAT | frozenset(ANIMALS)
        if hazard.comes_with != "goods":
            return 0
        return max((leg for leg, tags in self.parts if tags & brings), default=0)

    def is_held(self, step: Step, organism_key: str) -> bool:
        """Whether a line that is met holds an organism at a step that salts, sours, ripens or dries: it does not grow.

        Valid for every step of the way. While food falls, growth is told beside the line.
        """
        return bool(kind_of(step).acts(step) & HOLDING) and (step.id, organism_key) in self.answered

    def by_leg(self, run: Array) -> list[float]:
        """How much of something that adds up falls to each leg."""
        return [float(each) for each in np.maximum(np.diff(run[[0, *self.ends]]), 0.0)]


def way_of(plan: Plan, legs: list[Leg], met: frozenset[str] = frozenset()) -> Way:
    """Put the legs of a plan's journey one behind the other. Valid for one leg or more.

    ``met`` are the steps whose own limits are all met: by the proof, or by what was read.
    """
    times: list[Array] = []
    core: list[Array] = []
    counts: list[Array] = []
    hot: list[Array] = []
    ends: list[int] = []
    offset, place = 0.0, {leg.step.id: i for i, leg in enumerate(legs)}
    for leg in legs:
        keep = slice(0, None) if not times else slice(1, None)
        fine = np.union1d(leg.times_s, np.linspace(0.0, max(leg.length_s, 1.0), FINE))
        fine = fine[np.insert(np.diff(fine) > CLOSE_S, 0, True)]
        values = np.interp(fine, leg.times_s, leg.core_c)
        times.append((fine + offset)[keep])
        core.append(values[keep])
        known = np.where((fine >= leg.known_from_s) & (fine <= leg.known_s) & leg.computed, values, NO_HEAT_C)[keep]
        hot.append(known)
        counts.append(known if "heats" in kind_of(leg.step).acts(leg.step) else np.full(len(known), NO_HEAT_C))
        offset += float(fine[-1])
        ends.append(sum(len(part) for part in times) - 1)
    return Way(
        tuple(legs),
        np.concatenate(times),
        np.concatenate(core),
        np.concatenate(counts),
        np.concatenate(hot),
        tuple(ends),
        tuple(
            (place[plan.steps[at].id], tags_from(part, plan.rule_set))
            for at, part in own_entries_of(plan).items()
            if at < len(plan.steps) and plan.steps[at].id in place
        ),
        _find_answers(plan, met),
    )


def _find_answers(plan: Plan, met: frozenset[str]) -> frozenset[tuple[str, str]]:
    """Where a line of law, guide or practice that is met answers for an organism: a fall from the last heat on, what
    else a step does over that step.

    The organism's clock passes over the stretch: it adds nothing there and forgets nothing. Valid for every plan.
    """
    found, loose, hot = set[tuple[str, str]](), list[str](), False
    for step in plan.steps:
        acts = kind_of(step).acts(step)
        if step.id in met and (hot or not acts & COLD):
            answers = {organism for limit in limits_of(plan, step) for organism in answered_by(plan, step, limit)}
            over = (*loose, step.id) if acts & COLD else (step.id,)
            found |= {(each, organism) for each in over for organism in answers}
        if acts <= LOOSE:
            loose.append(step.id)
        else:
            loose, hot = [], bool(acts & HOT)
    return frozenset(found)


@once
def way_through(plan: Plan) -> Way:
    """The whole way of a plan's food. Valid for plans that can be walked; what it gives is for reading alone."""
    met = frozenset(
        step_id
        for step_id, judged in judged_on(plan).items()
        if judged and all(each.verdict.state == "pass" for each in judged)
    )
    return way_of(plan, lay_legs(plan, *simulated(plan)), met)


def clocks_along(hazard: CatalogueHazard, way: Way, done: Course, brought: float = 0.0) -> tuple[float, ...]:
    """How far an organism's clock has run by the end of each leg [-], from what it brought on.

    Valid for a hazard with an organism.
    """
    return _clock(organism(str(hazard.organism)), way, done, _count_kills(hazard, way, 0.0), brought).so_far


def balance_of(hazard: CatalogueHazard, way: Way, done: Course, brought: float = 0.0) -> Balance | None:
    """The account of one organism through the whole process.

    None for a hazard that is no organism. Raises NotFoundError if the catalogue names an organism or a target that is
    not known. Valid as far as the growth and kill models are; growth of C. perfringens is counted while cooked food
    cools, that of others along the whole way. Doubt is what 1 K more or less throughout would change. A toxin's clock
    adds up from the start; any other begins anew after a kill. ``way`` [°C], ``brought`` [-]. As ``log_growth``,
    ``exposure`` and each lethality target.
    """
    if hazard.organism is None and hazard.killed_by is None:
        return None
    each = organism(hazard.organism) if hazard.organism else None
    kills, grows = _changes(hazard, each, way, done, 0.0)
    total = _total(way, kills, grows)
    off = []
    for shift_k in (-DOUBT_K, DOUBT_K):
        less, more = _changes(hazard, each, way, done, shift_k)
        off.append(abs(_total(way, less, more) - total))
    clock = _clock(each, way, done, kills, brought) if each else None
    runs = clock.shares if clock else (0.0,) * len(way.legs)
    held = [_held(each, way, leg, done) for leg in way.legs]
    lethal = _count_kills(hazard, replace(way, counts_c=way.hot_c), 0.0)
    shares = tuple(
        Share(killed, grown, run, held=by, lethal=hot)
        for killed, grown, run, by, hot in zip(kills, grows, runs, held, lethal, strict=True)
    )
    return Balance(shares, total, max(off), clock)


def _total(way: Way, kills: list[float], grows: list[float]) -> float:
    """log10 in all: what grew before a heat that kills cells is gone with it, spores or not."""
    found = 0.0
    for i, (killed, grown) in enumerate(zip(kills, grows, strict=True)):
        dead = way.dead_until(i, killed)
        found = (found if dead is None else min(found, 0.0)) - killed + grown
    return found


def find_toxins(plan: Plan) -> tuple[Finding, ...]:
    """Toxins that can have been made, each where its clock is full: what makes them may be killed, they stay.

    Valid for plans that can be walked. Told of the hazards that the plan takes for significant.
    """
    found = []
    for key, clock in _toxin_clocks(plan).items():
        each, legs = organism(key), way_through(plan).legs
        limit = exposure_of(each)
        full = [leg for leg, share in zip(legs, clock.so_far, strict=True) if limit.used_up(share)]
        if full:
            name, share = full[0].step.name, percent(100 * min(clock.so_far[-1], 9.99))
            said = say("plans.balance.toxin_can_be_there", organism=each.name, name=name, share=share)
            found.append(Finding(step=full[0].step.id, state="fails", sentence=said))
    return tuple(found)


def clock_workings(plan: Plan) -> tuple[Working, ...]:
    """How far each toxin's clock runs, band by band; nothing of one that hardly does.

    Valid for plans that can be walked. Told of the hazards that the plan takes for significant.
    """
    clocks = _toxin_clocks(plan).items()
    return tuple(clock.working(organism(key)) for key, clock in clocks if clock.so_far[-1] > TELLING_SHARE)


@once
def _toxin_clocks(plan: Plan) -> dict[str, Clock]:
    """The clocks of what can make a toxin, and is a significant hazard of the plan: they stay, whatever is killed."""
    known = {each.key: each for each in catalogue().hazards}
    about = [known[hazard.key] for hazard in plan.hazards if hazard.significant and hazard.key in known]
    makers = [key for each in about if (key := each.organism) and organism(key).toxin]
    if not makers:
        return {}
    way, done = way_through(plan), simulated(plan)[1]
    return {key: _clock(organism(key), way, done, [0.0] * len(way.legs)) for key in makers}


def _changes(
    hazard: CatalogueHazard, each: Organism | None, way: Way, done: Course, shift_k: float
) -> tuple[list[float], list[float]]:
    """log10 killed and grown by step, with the core warmer by so much throughout [K]."""
    kills = _count_kills(hazard, way, shift_k)
    return kills, _grown(each, way, done, shift_k, kills) if each else [0.0] * len(way.legs)


def _clock(each: Organism, way: Way, done: Course, kills: list[float], brought: float = 0.0) -> Clock:
    """What is killed begins anew as it falls again; a toxin stays."""
    allowed = np.array([band.within_s for band in each.bands])
    bands = tuple((band.from_c, band.within_s) for band in each.bands)
    run = band_times_s(bands, each.max_c, way.times_s, way.core_c)
    spent, shares, so_far = np.zeros(len(allowed)), [], []
    for i, (leg, start, end, log) in enumerate(zip(way.legs, [0, *way.ends[:-1]], way.ends, kills, strict=True)):
        dead = None if each.toxin else way.dead_until(i, log)
        if dead is not None:
            spent, brought = np.zeros(len(allowed)), 0.0
        since = start if dead is None else start + dead
        passed = (leg.step.id, each.key) in way.answered or _is_stopped(each, way, leg, done)
        here = np.zeros(len(allowed)) if passed else run[:, end] - run[:, since]
        spent = spent + here
        shares.append(float(np.sum(here / allowed)))
        so_far.append(brought + float(np.sum(spent / allowed)))
    ends = [*(band.from_c for band in each.bands[1:]), each.max_c]
    return Clock(
        tuple(shares),
        tuple(so_far),
        tuple(
            BandTime(band.from_c, to_c, float(time), band.within_s)
            for band, to_c, time in zip(each.bands, ends, spent, strict=True)
        ),
        brought,
    )


def _count_kills(hazard: CatalogueHazard, way: Way, shift_k: float) -> list[float]:
    law = killing(hazard.killed_by) if hazard.killed_by else None
    if law is None:
        return [0.0] * len(way.legs)
    counts, entered = way.counts_c, way.entry_of(hazard)
    if entered:  # to the moment it goes in, no heat had it
        counts = np.where(np.arange(len(counts)) <= way.ends[entered - 1], NO_HEAT_C, counts)
    gathered = law.minutes(Series(way.times_s, counts + shift_k, longest_gap_s=np.inf))
    share = gathered / law.model.law().goal_min
    # what no decimal reduction is known of, a parasite, is dead once its whole time was had
    logs = law.log_reduction * share if law.log_reduction else np.where(share >= 1, MOST_LOG, 0.0)
    return [min(log, MOST_LOG) for log in way.by_leg(logs)]


def _grown(each: Organism, way: Way, done: Course, shift_k: float, kills: list[float]) -> list[float]:
    """log10 of growth by step: one lag for the whole way, and a new one for what is left after a heat that kills."""
    core = way.core_c + shift_k
    if each.key == "c_perfringens":
        # spores germinate once heat has woken them, and multiply as the food cools
        woken = np.maximum.accumulate(core) > PERFRINGENS[2]
        falls = np.append(np.diff(core) <= 0, False)
        rates = np.where(woken & falls, cardinal_rate_per_h(core, *PERFRINGENS), 0.0)
        return way.by_leg(_growth(way, rates, PERFRINGENS_LAG, kills))
    if each.growth is None:
        return [0.0] * len(way.legs)
    model = each.growth
    rates = cardinal_rate_per_h(core, model.min_c, model.opt_c, model.max_c, model.rate_per_h)
    left = [
        0.0
        if each.key in kind_of(leg.step).holds_back(leg.step) or way.is_held(leg.step, each.key)
        else gamma(model, *way.hurdles(leg, done))
        for leg in way.legs
    ]
    which = np.searchsorted(way.ends, np.arange(len(core)))
    return way.by_leg(_growth(way, rates * np.asarray(left)[which], model.lag, kills))


def _growth(way: Way, rates_per_h: Array, lag: float, kills: list[float]) -> Array:
    """log10 of growth along the way, beginning anew after each heat that kills."""
    starts = [0, *way.ends[:-1]]
    dead = [
        start + at
        for i, (start, log) in enumerate(zip(starts, kills, strict=True))
        if (at := way.dead_until(i, log)) is not None
    ]
    found = np.zeros(len(way.times_s))
    for begin, end in pairwise([0, *dead, len(way.times_s) - 1]):
        if end > begin:
            grown = log_growth(way.times_s[begin : end + 1], rates_per_h[begin : end + 1], lag)
            found[begin : end + 1] = found[begin] + grown
    return found


def _hurdles_by_step(done: Course) -> dict[str, tuple[float, float]]:
    """By step: pH and water activity as the last step that the walk knows them of left the food."""
    ph, aw, found = USUAL_PH, USUAL_AW, dict[str, tuple[float, float]]()
    for step_id in done.spans:
        known = [done.other.get((step_id, quantity)) for quantity in HURDLES]
        ph, aw = (
            float(series.values[-1]) if series is not None and len(series) else last
            for series, last in zip(known, (ph, aw), strict=True)
        )
        found[step_id] = (ph, aw)
    return found


def _is_stopped(each: Organism, way: Way, leg: Leg, done: Course) -> bool:
    """Whether pH or water activity alone stop it here."""
    return each.key in kind_of(leg.step).holds_back(leg.step) or not grows_at(each, *way.hurdles(leg, done))


def _held(each: Organism | None, way: Way, leg: Leg, done: Course) -> Literal["", "acid", "dry", "starter"]:
    """What alone stops it here, or what the step answers for by a limit of its own."""
    if each is None or not _is_stopped(each, way, leg, done):
        return ""
    if each.key in kind_of(leg.step).holds_back(leg.step):
        return "starter"
    return "acid" if way.hurdles(leg, done)[0] < each.min_ph else "dry"


@lru_cache(maxsize=32)
def killing(limit_id: str) -> Lethality | None:
    """The lethality target of an id, of any rule set."""
    entries = [*targets(), *(entry for key in RULE_SET_IDS for entry in rule_set(key).entries)]
    found = next((entry.limit for entry in entries if entry.limit.id == limit_id), None)
    return found if isinstance(found, Lethality) else None
