"""A plan's steps in order, over one temperature field: what each step makes of the food that comes to it.

A limit that nothing computes and nothing declares is not measured here, and so the plan is not proved; nothing is
passed over. The steps speak for themselves: no kind of step is named here.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from brinefrost.core.errors import OutOfRangeError, PlanIncompleteError
from brinefrost.core.food.media import Food, check_medium
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Hold, Limit, Series, TimeAbove, Uncontrolled, Verdict
from brinefrost.core.physics.body import Body
from brinefrost.core.plans.cook_runs import cold_parts, counts_from, goes_on
from brinefrost.core.plans.days import days_before, is_store, kept_in_all, planned_spans, with_days_before
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.lines import has_lines, ways_of, ways_with
from brinefrost.core.plans.once import once
from brinefrost.core.plans.parts import (
    BOUGHT_COOKED,
    entries_of,
    in_by,
    is_ready_plant,
    is_undone,
    known_of,
    left_raw,
    tags_from,
    tags_of,
    thermal_from,
)
from brinefrost.core.rules import RuleEntry, rule_set
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.base import AT_ONCE_S, COLD, HOT, LOOSE, Act, Asked, Context, Finding, Piece
from brinefrost.core.steps.state import Flow, Walk
from brinefrost.core.words import mm, say
from brinefrost.core.working import Document, Working

FRIDGE_C = 4.0  # how warm goods come in where nothing says so; common practice


class StepLimit(Document):
    """One limit of one step, judged on what the walk worked out; not measured where nothing did."""

    step: str
    limit: Limit
    verdict: Verdict


def portion_of(plan: Plan) -> tuple[float, int] | None:
    """What one pack holds [kg] and how many there are, where a step makes packs."""
    for step in plan.steps:
        mass = kind_of(step).portion_kg(step)
        if mass is not None:
            return mass, kind_of(step).packs(step) or 1
    return None


def piece_of(plan: Plan) -> Piece | None:
    """The piece the first step that has one is planned for."""
    return next((piece for step in plan.steps if (piece := kind_of(step).piece(step)) is not None), None)


def at(context: Context, plan: Plan, step: Step) -> Context:
    """The context as it is at a step: the piece it is in by then, and what hands have made of it.

    Valid for every step of the plan.
    """
    return _contexts(plan)[step.id] if context is context_of(plan) else _at(context, plan, step)


@once
def _contexts(plan: Plan) -> dict[str, Context]:
    """By step: its context, worked out once."""
    return {step.id: _at(context_of(plan), plan, step) for step in plan.steps}


def _at(context: Context, plan: Plan, step: Step) -> Context:
    ways = ways_with(plan, step.id)
    here = [_so_far(way)[step.id] for way in ways]
    piece, thermal = here[0].piece, here[0].thermal
    cooks = "cooks" in words_of(step)
    tags = frozenset[str]().union(*(each.made | (each.to_cook if cooks else each.tags) for each in here))
    return replace(
        context,
        piece=piece or context.piece,
        tags=tags,
        thermal=thermal or context.thermal,
        cook_goes_on=goes_on(ways[0], step.id),
        heated=any(_heats_before(way, step.id) for way in ways),
        seared=any(each.seared for each in here),
        kept_days=max(kept_in_all(way, step) for way in ways),
        served_next=_is_served_next(ways[0], step.id),
    )


def _is_served_next(way: Plan, step_id: str) -> bool:
    """Whether the step behind this one serves it at once."""
    place = [step.id for step in way.steps].index(step_id)
    behind = way.steps[place + 1 : place + 2]
    return any("serves" in kind_of(step).acts(step) and kind_of(step).length_s(step) <= AT_ONCE_S for step in behind)


def _heats_before(way: Plan, step_id: str) -> bool:
    """Whether a step before this one on the way of its food heats it."""
    place = [step.id for step in way.steps].index(step_id)
    return any("heats" in kind_of(step).acts(step) for step in way.steps[:place])


@dataclass(frozen=True)
class _SoFar:
    """What the food is by a step: the piece it is in, what hands have made of it, what is in it and what of that is to
    be cooked, how heat goes in, and whether meat is to be seared alone."""

    piece: Piece | None
    made: frozenset[str]
    tags: frozenset[str]
    to_cook: frozenset[str]
    thermal: Food | None
    seared: bool


@once
def _so_far(plan: Plan) -> dict[str, _SoFar]:
    found: dict[str, _SoFar] = {}
    piece, made = None, frozenset[str]()
    inside: tuple[Ingredient, ...] = ()
    tags, to_cook, thermal, seared = frozenset[str](), frozenset[str](), None, False
    acts, cold_oil = [kind_of(step).acts(step) for step in plan.steps], False
    for i, step in enumerate(plan.steps):
        part = entries_of(plan).get(i, ())
        if part:
            inside = (*inside, *part)
            tags, thermal = tags_from(inside, plan.rule_set), thermal_from(inside)
            done = tuple(item for item in inside if not is_undone(item) and not is_ready_plant(item))
            roasts = frozenset({"roast"} if any(item.eaten == "by_table" for item in done) else ())
            to_cook = tags_from(done, plan.rule_set) | roasts
            rare = tuple(item for item in inside if item.eaten == "rare")
            seared = "meat" in tags_from(rare, plan.rule_set)
        if not inside:
            tags = to_cook = frozenset({"unknown"})
        oiled = bool(part) and "oil" in tags_from(part, plan.rule_set)
        piece = kind_of(step).piece(step) or piece
        made = _made_by(acts[i], (made - _undone_by(acts[i])) | kind_of(step).makes(step), inside)
        cold_oil = cold_oil or (oiled and not any("heats" in each for each in acts[i:]))
        if "oil" in tags and tags & ({"soil", "plant", "leafy"} if cold_oil else {"soil"}):
            made |= {"plants_in_oil"}
        found[step.id] = _SoFar(piece, made, tags, to_cook, thermal, seared)
    return found


def _undone_by(acts: frozenset[Act]) -> frozenset[str]:
    """What the food is no more once something is done to it: hands open what was sealed."""
    return frozenset({"sealed", "cooked_in_bag"} if "handles" in acts else ())


def _made_by(acts: frozenset[Act], made: frozenset[str], inside: tuple[Ingredient, ...]) -> frozenset[str]:
    """What the food becomes by what was made of it and what is in it: raw eggs that are mixed are broken together, and
    what is heated while it is sealed is cooked in its bag."""
    more = set[str]()
    if "mixed" in made and any({"egg", "raw"} <= set(row.tags) for row in known_of(inside)):
        more.add("pooled_egg")
    if "sealed" in made and "heats" in acts:
        more.add("cooked_in_bag")
    return made | more


def made_in(plan: Plan) -> frozenset[str]:
    """All that the steps of a plan without lines make of its food, wherever they do. Valid for every such plan."""
    return frozenset[str]().union(*(each.made for each in _so_far(plan).values()))


def context_at(plan: Plan, step: Step) -> Context:
    """What a step of a plan cannot know by itself, as it is by then. Valid for every step of the plan."""
    return at(context_of(plan), plan, step)


@once
def context_of(plan: Plan) -> Context:
    """What the steps of a plan cannot know by themselves.

    Valid for every plan; 1 kg where no step says how much there is.
    """
    portion = portion_of(plan)
    return Context(
        rule_set_id=plan.rule_set,
        guests=plan.guests,
        tags=tags_of(plan),
        thermal=thermal_from(plan.ingredients),
        food_kg=1.0 if portion is None else portion[0] * portion[1],
        piece=piece_of(plan),
        approved=_by_approval(plan),
        altitude_m=plan.altitude_m or 0.0,
    )


def _by_approval(plan: Plan) -> bool:
    """Whether the plan cooks by a line that only an approved plan may take."""
    allowed = {
        entry.limit.id
        for entry in rule_set(plan.rule_set).entries
        if entry.approval and entry.topic.startswith("cook.")
    }
    return any(limit.id in allowed for control in plan.controls for limit in control.limits)


def topics_of(plan: Plan, step: Step) -> tuple[str, ...]:
    """Which topics of the rule set a step of this plan answers to.

    Valid for every step.
    """
    return kind_of(step).topics(step, context_at(plan, step))


def default_limits(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """What the rule set itself asks of a step, with the plan's guests in mind."""
    return _own_limits(plan)[step.id]


@once
def _own_limits(plan: Plan) -> dict[str, tuple[Limit, ...]]:
    """By step: what its rule set asks of it, worked out once."""
    return {step.id: kind_of(step).own_limits(step, context_at(plan, step)) for step in plan.steps}


def limits_of(plan: Plan, step: Step) -> tuple[Limit, ...]:
    """The limits of a step: its control's, where it is critical, else those it was signed with, else the rule set's."""
    control = plan.control_of(step.id)
    if control:
        return control.limits
    if plan.questions is not None:
        return tuple(each.limit for each in plan.questions if each.step == step.id)
    return default_limits(plan, step)


def last_left_s(steps: tuple[Step, ...], step_id: str, ended: Callable[[str], float | None]) -> float | None:
    """When food last left its heat before a step, or the cold once it had been chilled [s]; None where it had neither.

    ``ended`` says when a step was over [s], None while it was not. Valid for every step.
    """
    left: float | None = None
    chilled = False
    for step in steps:
        if step.id == step_id:
            break
        acts, end = kind_of(step).acts(step), ended(step.id)
        if acts & HOT and end is not None:
            left, chilled = end, False
        elif acts & COLD and end is not None:
            left, chilled = end, True
        elif "keeps" in acts and chilled:
            left = end
    return left


def walk(plan: Plan, context: Context | None = None) -> Walk:
    """Carry the food through every step.

    The curve [°C] against time [s], from and to when each step ran on it, and what else changed. Raises
    OutOfRangeError if a parameter lies outside the models' ranges; PlanIncompleteError if there is a piece to be
    heated or cooled and no ingredient has known thermal values. Valid for flat, round and spherical pieces in one
    layer. A step that makes other pieces of it begins with their mean temperature, exact for what is mixed, a planning
    value for what is cut. Steps without heat take no time.
    """
    around = context or context_of(plan)
    portion = portion_of(plan)
    found = Walk(_body(around), _comes_in_c(plan, around), pack_kg=portion[0] if portion else None)
    _carry(found, plan, plan.steps, around)
    spans = planned_spans(plan)
    found.days_before = {step.id: days_before(plan, step, spans) for step in plan.steps if is_store(step)}
    return found


def _comes_in_c(plan: Plan, context: Context) -> float:
    """How warm the food comes in [°C]: as its first heat has it; as the goods are, where none is; else the fridge."""
    if context.piece is None:
        return FRIDGE_C
    first = next(step for step in plan.steps if kind_of(step).piece(step) is not None)
    if "cools" not in kind_of(first).acts(first) or any("heats" in kind_of(step).acts(step) for step in plan.steps):
        return context.piece.start_c
    received = kind_of(plan.steps[0]).around_c(plan.steps[0])
    return FRIDGE_C if received is None else received


def walk_on(plan: Plan, step_id: str, core_c: float) -> Walk:
    """Carry the food on from the beginning of a step, where all of it is as warm as its core was last read [°C].

    As ``walk``, for that step and those behind it. An estimate: a piece is not as warm throughout as its core.
    """
    around = context_of(plan)
    steps = plan.steps[[step.id for step in plan.steps].index(step_id) :]
    found = Walk(_body(at(around, plan, steps[0])), core_c)
    _carry(found, plan, steps, around)
    return found


def _carry(found: Walk, plan: Plan, steps: tuple[Step, ...], around: Context) -> None:
    """The food through some steps, in order."""
    for step in steps:
        here, begun = at(around, plan, step), found.now_s
        if here.piece is not None and kind_of(step).piece(step) is not None:
            found.cut(_body(here))
        left_s = last_left_s(steps, step.id, lambda key: found.spans[key][1])
        if left_s is not None:
            found.out_s[step.id] = left_s
        counted = counts_from(plan, step.id)
        if counted and counted[0] in found.spans:
            found.run_from_s[step.id] = found.spans[counted[0]][0]
        _lie(found, step, plan)
        piece = kind_of(step).piece(step)
        if step.id in cold_parts(plan) and piece is not None:
            found.set_even(piece.start_c)
            found.evened_c[found.now_s] = piece.start_c
        kind_of(step).work(step, found, here)
        found.spans[step.id] = (begun, found.now_s)


def _lie(found: Walk, step: Step, plan: Plan) -> None:
    """Since when nothing has kept the food hot or cold, as a step begins, and how warm it lay where."""
    kind, acts = kind_of(step), kind_of(step).acts(step)
    if not acts or acts - LOOSE:
        return
    place = [each.id for each in plan.steps].index(step.id)
    before = plan.steps[place - 1].id if place else ""
    held = kind_of(plan.steps[place - 1]).around_c(plan.steps[place - 1]) if place else None
    found.held_c[step.id] = found.held_c.get(before, FRIDGE_C if held is None else held)
    around = kind.around_c(step)
    here = () if around is None else ((around, kind.length_s(step)),)
    found.loose_from_s[step.id] = found.loose_from_s.get(before, found.now_s)
    found.loose_around[step.id] = (*found.loose_around.get(before, ()), *here)


@once
def walked(plan: Plan) -> tuple[Context, Walk]:
    """What the steps cannot know, and the walk with it; once for every plan.

    Valid as ``walk``. What it gives is for reading alone.
    """
    context = context_of(plan)
    return context, walk(plan, context)


def _body(context: Context) -> Body | None:
    if context.piece is None:
        return None
    return context.piece.body(context.heat())


def judge_step(plan: Plan, step: Step, done: Walk) -> list[StepLimit]:
    """Every limit of a step, each with a verdict: on its curve, on what the plan sets, or not measured.

    Valid for every step of the plan that was walked.
    """
    before, law = done.days_before.get(step.id, 0.0), default_limits(plan, step)
    limits = [with_days_before(step, limit, law, before) for limit in limits_of(plan, step)]
    return [StepLimit(step=step.id, limit=limit, verdict=_verdict(step, limit, done)) for limit in limits]


def _verdict(step: Step, limit: Limit, done: Walk) -> Verdict:
    series = series_at(step, limit, done)
    if series is None:
        return _unknown(limit)
    return limit.evaluate(series, max(float(series.times_s[-1]), 0.0))


def series_at(step: Step, limit: Limit, done: Walk) -> Series | None:
    """What the walk knows of a limit's quantity at a step; None where nothing computes or declares it.

    Food falls from when it left its last heat, whatever hands do to it before it is chilled. Valid for every step and
    limit.
    """
    kind = kind_of(step)
    known = done.other.get((step.id, limit.quantity))
    if known is not None:
        return known
    if isinstance(limit, Uncontrolled | TimeAbove) and done.curve is None and step.id in done.loose_around:
        return _lain(step, done)
    if limit.quantity == "core" and done.curve is not None and kind.follows_core(step, limit):
        since_s = 0.0 if limit.over_all else done.run_from_s.get(step.id)
        if isinstance(limit, Uncontrolled | TimeAbove):
            since_s = done.loose_from_s.get(step.id)
        return _fallen(step, limit, done) or done.core_in(step.id, since_s)
    declared = kind.declared(step, limit)
    if declared is None:
        return None
    if limit.quantity == "age":
        declared += done.days_before.get(step.id, 0.0)
    held = limit.for_s if isinstance(limit, Hold) else 0.0
    times = np.array([0.0, held]) if held > 0 else np.zeros(1)
    return Series.computed(times, np.full(len(times), declared))


def _lain(step: Step, done: Walk) -> Series:
    """Food nobody says how thick it is: as it left the cold or the heat, and from then on as warm as the air."""
    spells = done.loose_around[step.id]
    times = np.concatenate(([0.0, 1.0], np.cumsum([seconds for _, seconds in spells])))
    air = [celsius for celsius, _ in spells]
    return Series.computed(times, np.array([done.held_c.get(step.id, FRIDGE_C), air[0], *air]))


def _fallen(step: Step, limit: Limit, done: Walk) -> Series | None:
    """A fall from where it begins: hot food's from its last heat on, through what hands do; what was below the hot line
    by then is judged in its own step, its clock since it was left."""
    hot_c, left_s = limit.falls_from_c, done.out_s.get(step.id)
    if hot_c is None or left_s is None:
        return None
    own = done.core_in(step.id)
    if done.core_at(left_s) > hot_c or own is None or own.opened_s is None:
        return done.core_in(step.id, left_s)
    return replace(own, opened_s=min(left_s, own.opened_s))


def _unknown(limit: Limit) -> Verdict:
    return Verdict(
        state="not_measured",
        basis="computed",
        sentence=say("plans.walk.not_proved_nothing_in_this_plan", title=limit.title),
        working=Working(title=limit.title, formula="", inputs=(), result="", source=limit.source),
        advice=(say("plans.walk.take_the_limit_out_or_move"),),
    )


def findings_of(plan: Plan) -> tuple[Finding, ...]:
    """What comes of steps that are missing or in an impossible order.

    Empty where every step follows from the ones before it. Valid for the kinds of step a plan can have; each says what
    is wrong with its place. Codex CXC 1-1969 (2022), steps 4 and 5: the flow as it is; Food Code 3-501.14 for what is
    cooked and kept.
    """
    if has_lines(plan):
        return tuple(dict.fromkeys(found for way in ways_of(plan) for found in findings_of(way)))
    found: list[Finding] = []
    flow = Flow()
    for step in plan.steps:
        flow.tags |= tags_from(in_by(plan, step.id), plan.rule_set)
        flow.raw |= tags_from(in_by(plan, step.id), plan.rule_set, bought_cooked=False)
        if flow.served:
            said = say("plans.walk.goes_on_behind_serving", name=step.name)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        found += kind_of(step).lays(step, flow)
        flow.tags |= kind_of(step).makes(step)
        found += [*_thinner(step, flow), *_cannot_be(step, plan.altitude_m or 0.0)]
        flow.earlier.append(step.name)
        flow.received_only = flow.received_only and "receives" in kind_of(step).acts(step)
    return (*found, *_left_open(plan, flow))


def _cannot_be(step: Step, altitude_m: float) -> list[Finding]:
    """Open water is no hotter than it boils at the kitchen's height, and no chiller stands at a room's warmth."""
    kind = kind_of(step)
    key, around_c = kind.medium(step), kind.around_c(step)
    if key is None or around_c is None:
        return []
    try:
        check_medium(key, around_c, altitude_m)
    except OutOfRangeError as error:
        return [Finding(step=step.id, state="fails", sentence=error.sentence)]
    return []


def _thinner(step: Step, flow: Flow) -> list[Finding]:
    """Pieces become thinner by hand and not by themselves: a chill of thinner ones than were cooked proves nothing."""
    kind = kind_of(step)
    if step.out_of:  # what comes out of a step, juices or trimmings, lies as it lies
        flow.thickness_m = 0.0
    piece, before = kind.piece(step), flow.thickness_m
    if piece is None:
        return []
    flow.thickness_m = piece.thickness_m
    if piece.thickness_m >= before - 1e-6 or "handles" in kind.acts(step):
        return []
    said = say(
        "plans.walk.takes_thinner_pieces_than_there_are",
        name=step.name,
        here=mm(1000 * piece.thickness_m),
        before=mm(1000 * before),
    )
    return [Finding(step=step.id, state="not_proved", sentence=said)]


def _left_open(plan: Plan, flow: Flow) -> list[Finding]:
    """What the last steps leave open."""
    if not plan.steps:
        return []
    last, found = plan.steps[-1], [*flow.wants_cold, *flow.wants_shelf]
    if plan.guests == "higher_risk" and has_raw_animal(plan) and not _cooks(plan):
        said = say("plans.walk.raw_is_not_for_guests_at_higher_risk")
        found.append(Finding(step=last.id, state="fails", sentence=said))
    found += [Finding(step=last.id, state="not_proved", sentence=said) for said in left_raw(plan)]
    if flow.served:
        return found
    if flow.sealed and not flow.kept and not flow.acid and not (flow.hot and flow.reheated):
        said = say("plans.walk.it_is_sealed_without_oxygen_and")
        found.append(Finding(step=last.id, state="not_proved", sentence=said))
    if flow.chilled and not flow.kept:
        said = say("plans.walk.it_is_chilled_and_no_step")
        found.append(Finding(step=last.id, state="not_proved", sentence=said))
    return found


def has_raw_animal(plan: Plan) -> bool:
    """Whether food of animals goes in that nobody cooked before it was bought. Valid for every plan."""
    rows = known_of(plan.ingredients)
    return any(set(each.tags) & set(ANIMALS) and BOUGHT_COOKED not in each.tags for each in rows)


def _cooks(plan: Plan) -> bool:
    """Whether a step heats what was not cooked before."""
    return any("cooks" in words_of(step) for step in plan.steps)


def ends_of(plan: Plan, done: Walk) -> tuple[Finding, ...]:
    """What steps were to bring about and do not, by the walk.

    Valid for a plan that was walked.
    """
    return tuple(finding for step in plan.steps for finding in kind_of(step).ends(step, done))


def questions_of(plan: Plan) -> tuple[Asked, ...]:
    """What this plan's steps would ask the Bench; nothing while it cannot be walked."""
    if provable(plan):
        return ()
    found: dict[str, list[Asked]] = {}
    for way in ways_of(plan):
        context, done = walked(way)
        for step in way.steps:
            if step.id not in found:
                found[step.id] = kind_of(step).asked(step, done, at(context, way, step))
    return tuple(asked for each in found.values() for asked in each)


def entry_of(plan: Plan, step: Step, limit: Limit) -> RuleEntry | None:
    """The rule set's entry a limit was taken from, by its id; None for the kitchen's own.

    Valid for every limit of a step.
    """
    rules = context_at(plan, step).rules
    for topic in topics_of(plan, step):
        for entry in rules.entries_for(topic):
            if entry.limit.id == limit.id:
                return entry
    return None


def provable(plan: Plan) -> str:
    """What is missing before a plan can be walked at all; nothing where it can."""
    if not plan.steps:
        return say("plans.walk.lay_out_at_least_one_step")
    if not any(kind_of(step).changes(step) or kind_of(step).acts(step) & {"keeps", "serves"} for step in plan.steps):
        return say("plans.walk.no_step_here_heats_chills_or")
    for way in ways_of(plan):
        try:
            _body(context_of(way))
        except PlanIncompleteError as error:
            return error.sentence
    return ""
