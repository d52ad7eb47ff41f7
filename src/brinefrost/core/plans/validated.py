"""A heat or a chill that was validated on real food: what a batch is asked there in place of the core.

Codex CXC 1-1969 (2022), 2.3 and principle 6: validation shows that a control works, monitoring that it was run so.
"""

import hashlib
from datetime import datetime

from brinefrost.core.errors import OutOfRangeError, PlanIncompleteError
from brinefrost.core.food.media import MediumKey
from brinefrost.core.limits import Lasted, Limit, Threshold
from brinefrost.core.plans.contexts import piece_of, portion_of, provable
from brinefrost.core.plans.cook_runs import counts_from
from brinefrost.core.plans.document import OF_VALIDATION, Control, Plan, canonical
from brinefrost.core.plans.judged import judged_on
from brinefrost.core.plans.lines import steps_before, ways_with
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.document import Monitoring
from brinefrost.core.words import Message, Words, bound, duration, joined, kg, mm, num, raised, say, temp
from brinefrost.core.working import Document, Source

IN_WATER: frozenset[MediumKey] = frozenset({"bath", "boiling", "slurry"})
IN_AIR: frozenset[MediumKey] = frozenset({"steam", "fan_oven", "still_oven", "blast", "fan_fridge", "still_fridge"})
SETTINGS = ("bath_c", "surroundings_c", "liquid_c")  # of what is around the food, as the kinds name it
SETTLES_S, SETTLES = 1800.0, 0.25  # what is around the food has got over its load by then, or in this share of the time
EVERY_S, FEWEST, MOST = 7200.0, 4, 20  # between two readings of what is around the food, and how many; common practice
COLD_START_C = 0.0  # as cold as food comes out of a refrigerator
BOILING_C = 100.0
HOTTER_K = 2.0  # a heat before a chill may run so much above its setting; common practice, no source
MARK = OF_VALIDATION  # begins the ids of what a validated step is asked


class Bounds(Document):
    """The worst that a step was run at while its core was measured; inside it the core need not be.

    ``medium_c`` [°C] is the least in a heat, the most in a chill, once the load has settled; ``doubt`` [K] what read
    it. ``load`` is in kilograms, or in packs where nothing says what a pack holds. ``start_c`` [°C] is how warm food
    has to be that goes into a first heat: frozen food in place of thawed is what nobody else would see. ``computed``:
    the worst of all runs together meets its limits by computation; else each run of the study was harder than what is
    let in.
    """

    quantity: ReadingQuantity
    heats: bool
    medium_c: float
    doubt: float = 0.0
    settles_s: float
    lasts_s: float
    thickness_m: float
    load: float
    in_kg: bool
    start_c: float | None = None
    waits_s: float | None = None
    computed: bool


class Validation(Document):
    """A step of a plan that was validated: by which batches, inside which bounds, by whom.

    ``record`` is its number in the ledger.
    """

    step: str
    record: int
    batches: tuple[str, ...]  # their codes
    bounds: Bounds
    by: str
    at: datetime


def core_limits(control: Control) -> tuple[Limit, ...]:
    """The limits of a step that its core answers. Valid for every control."""
    return tuple(each for each in control.limits if each.quantity == "core")


def medium_quantity(step: Step) -> ReadingQuantity | None:
    """What is read of the food's surroundings, where an instrument of the kitchen reads it; None elsewhere."""
    medium = kind_of(step).medium(step)
    return None if medium is None else "bath" if medium in IN_WATER else "air" if medium in IN_AIR else None


def can_be_validated(plan: Plan, step: Step) -> bool:
    """Whether a step's core can be left unread once it was validated.

    A heat or a chill of one piece for a set time in water or air, whose limits are of the core; a cook of several heats
    is read. Valid for every step.
    """
    control, planned = monitored_steps(plan).get(step.id), piece_of(plan)
    acts = kind_of(step).acts(step)
    if control is None or planned is None or not core_limits(control) or not acts & {"heats", "cools"}:
        return False
    if medium_quantity(step) is None or getattr(step, "duration_s", None) is None:
        return False
    own = getattr(step, "thickness_m", planned.thickness_m)
    if abs(own - planned.thickness_m) > 1e-9:
        return False  # what is measured as a batch begins is another piece
    if "cooks" not in words_of(step):
        return True
    return all(counts_from(way, step.id) in ((), (step.id,)) for way in ways_with(plan, step.id))


def fingerprint_of(plan: Plan, step: Step) -> str:
    """A digest of all that a step's validation rests on: its food, its way up to there, its limits, how high it is.

    The same for another version of a plan that changes nothing of these. Valid for every step of the plan.
    """
    before = {each.id for each in steps_before(plan, step.id)} | {step.id}
    control = monitored_steps(plan).get(step.id)
    named = plan.model_copy(
        update={
            "format": "brinefrost-plan/2",
            "name": "-",
            "product": "",
            "steps": tuple(each for each in plan.steps if each.id in before),
            "ingredients": tuple(i for i in plan.ingredients if not i.enters or i.enters in before),
            "hazards": (),
            "controls": (),
            "questions": None,
        }
    )
    limits = "\n".join(canonical(each) for each in (core_limits(control) if control else ()))
    return hashlib.sha256(f"{canonical(named)}\n{limits}".encode()).hexdigest()


def is_first_heat(plan: Plan, step: Step) -> bool:
    """Whether food goes into a step as it was when the batch began. Valid for every step."""
    first = next((each for each in plan.steps if "start_c" in type(each).model_fields), None)
    return first is not None and first.id == step.id


def is_inside(bounds: Bounds, thickness_m: float | None, start_c: float | None, load: float) -> bool:
    """Whether a batch's pieces, their warmth and its load lie inside what was validated.

    What nobody measured does not. ``thickness_m`` [m], ``start_c`` [°C], ``load`` in the bounds' own unit.
    """
    if thickness_m is None or thickness_m > bounds.thickness_m + 1e-9 or load > bounds.load + 1e-9:
        return False
    return bounds.start_c is None or (start_c is not None and start_c >= bounds.start_c - 1e-9)


def with_process(plan: Plan, control: Control, validation: Validation) -> Control:
    """A validated step's control: what is around the food and how long, before the limits of the core.

    The checks of the core are gone; its limits stay for whoever reads it all the same. Valid for steps that
    ``can_be_validated``.
    """
    step, bounds = plan.step(control.step), validation.bounds
    kept = tuple(each for each in control.monitoring if each.quantity not in ("core", bounds.quantity))
    return control.model_copy(
        update={
            "limits": (*process_limits(step, validation), *control.limits),
            "monitoring": (*_watch_medium(step, bounds), *kept),
        }
    )


def is_process(limit: Limit) -> bool:
    """Whether a limit is one of a validated process. Valid for every limit."""
    return limit.id.startswith(MARK)


def process_limits(step: Step, validation: Validation) -> tuple[Limit, ...]:
    """What a validated step answers to in place of its core: its surroundings, its time, and a chill's wait."""
    bounds, source = validation.bounds, _source(validation)
    noun, warm = QUANTITIES[bounds.quantity].noun, bound(bounds.medium_c, "°C")
    worse = -1.0 if bounds.heats else 1.0
    medium = Threshold(
        id=f"{MARK}medium",
        title=say("plans.validated.title", said=_tell_medium(bounds.heats, noun, warm)),
        source=source,
        quantity=bounds.quantity,
        comparison="at_least" if bounds.heats else "at_most",
        value=bounds.medium_c,
        unit="°C",
        law=bounds.medium_c + worse * bounds.doubt,  # it may have been so in the study
    )
    lasts = Lasted(
        id=f"{MARK}time",
        title=say("plans.validated.title", said=say("plans.validated.lasts", time=duration(bounds.lasts_s))),
        source=source,
        quantity="lasted",
        at_least_s=bounds.lasts_s,
    )
    if bounds.waits_s is None:
        return (medium, lasts)
    waits = Lasted(
        id=f"{MARK}wait",
        title=say("plans.validated.title", said=say("plans.validated.waits", time=duration(bounds.waits_s))),
        source=source,
        quantity="waited",
        at_most_s=bounds.waits_s,
    )
    return (medium, lasts, waits)


def _tell_medium(heats: bool, noun: Words, warm: Words) -> Message:
    if heats:
        return say("plans.validated.at_least", what=noun, value=warm)
    return say("plans.validated.at_most", what=noun, value=warm)


def _source(validation: Validation) -> Source:
    codes = joined(validation.batches, ", ")
    said = say("plans.validated.source", batches=codes, record=num(validation.record))
    return Source(citation=str(said), tag="derived")


def _watch_medium(step: Step, bounds: Bounds) -> tuple[Monitoring, ...]:
    """What is around the food, once it has settled, from time to time, and as the step ends."""
    length = max(bounds.lasts_s, bounds.settles_s + 60.0)
    lasts = length - bounds.settles_s
    every = max(min(EVERY_S, lasts / FEWEST), lasts / MOST)
    count = int(lasts / every)
    times = tuple(60.0 * round((bounds.settles_s + i * every) / 60.0) for i in range(max(count, 1)))
    low, high = (bounds.medium_c - 1, bounds.medium_c + 5) if bounds.heats else (-40.0, bounds.medium_c + 1)
    in_water = bounds.quantity == "bath"
    during = Monitoring(
        id=f"{MARK}{bounds.quantity}",
        what=say("steps.bath_cook.bath_temperature") if in_water else say("steps.common.air_around_it"),
        quantity=bounds.quantity,
        how=say("plans.validated.read_it_beside_the_food"),
        offsets_s=times,
        expected_low_c=low,
        expected_high_c=high,
    )
    end = during.model_copy(update={"id": f"{MARK}{bounds.quantity}-end", "offsets_s": ()})
    return (during, end)


def settles_s(step: Step) -> float:
    """How long what is around the food may be off its setting after the load went in [s]. Valid for set times."""
    return min(SETTLES_S, SETTLES * float(getattr(step, "duration_s", 0.0)))


def meets_at(plan: Plan, step: Step, bounds: Bounds) -> bool:
    """Whether a step's limits of the core are met by computation at the edge of some bounds, all of it at once.

    The least heat, the shortest time, the thickest piece, the fullest load; food out of the coldest refrigerator, or
    from a heat that ran hotter than planned. False where nothing can compute it. Valid as ``judged_on``.
    """
    try:
        changed = _at_edge(plan, step, bounds)
        if changed is None or provable(changed):
            return False
        there = changed.step(step.id)
        on = [each for way in ways_with(changed, there.id) for each in judged_on(way)[there.id]]
    except (OutOfRangeError, PlanIncompleteError, ValueError):
        return False
    of_core = [each.verdict.state for each in on if each.limit.quantity == "core"]
    return bool(of_core) and all(state == "pass" for state in of_core)


def _at_edge(plan: Plan, step: Step, bounds: Bounds) -> Plan | None:
    """The plan as it would run at the edge of some bounds; None where a step cannot be set so."""
    planned, worse = piece_of(plan), -1.0 if bounds.heats else 1.0
    medium_c = bounds.medium_c + worse * bounds.doubt
    changed: list[Step] = []
    before, own = {each.id for each in steps_before(plan, step.id)}, set[str]()
    for each in plan.steps:
        update: dict[str, float] = {}
        if planned and abs(getattr(each, "thickness_m", -1.0) - planned.thickness_m) < 1e-9:
            update["thickness_m"] = bounds.thickness_m
        if "start_c" in type(each).model_fields and not own:
            own.add(each.id)
            update["start_c"] = min(getattr(each, "start_c"), COLD_START_C)  # noqa: B009 (not every kind has one)
        packs = kind_of(each).packs(each)
        if packs is not None and bounds.in_kg:
            held = kind_of(each).portion_kg(each) or bounds.load
            update["packs"] = max(1, round(bounds.load / held))
        if each.id == step.id:
            setting = next((name for name in SETTINGS if name in type(each).model_fields), None)
            around = kind_of(each).around_c(each)
            if setting is None and (around is None or worse * (medium_c - around) > 0):
                return None
            update |= {"duration_s": bounds.lasts_s} | ({setting: medium_c} if setting else {})
        elif not bounds.heats and each.id in before and "heats" in kind_of(each).acts(each):
            hot = next((name for name in SETTINGS if name in type(each).model_fields), None)
            update |= {hot: _hotter(float(getattr(each, hot)))} if hot else {}
        changed.append(each.model_copy(update=update) if update else each)
    return plan.model_copy(update={"steps": tuple(changed)})


def _hotter(celsius: float) -> float:
    """A heat as it may run above its setting [°C]; water does not pass its boiling."""
    return celsius + HOTTER_K if celsius > BOILING_C else min(celsius + HOTTER_K, BOILING_C)


def tell_bounds(bounds: Bounds) -> str:
    """The bounds in one line, for whoever signs them or works inside them. Valid for every bounds."""
    load = kg(bounds.load) if bounds.in_kg else say("plans.validated.packs", packs=num(bounds.load))
    return say(
        "plans.validated.bounds",
        medium=raised(_tell_medium(bounds.heats, QUANTITIES[bounds.quantity].noun, bound(bounds.medium_c, "°C"))),
        lasts=duration(bounds.lasts_s),
        thickness=mm(1000 * bounds.thickness_m, "~1"),
        load=load,
        start="" if bounds.start_c is None else say("plans.validated.goes_in", start=temp(bounds.start_c)),
    )


def load_of(plan: Plan, packs: int) -> tuple[float, bool]:
    """How much a batch of so many packs is: in kilograms where the plan says what a pack holds, else in packs.

    Valid for every plan.
    """
    portion = portion_of(plan)
    return (round(portion[0] * packs, 3), True) if portion is not None else (float(packs), False)
