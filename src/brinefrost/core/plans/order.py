"""Whether every step of a plan follows from the ones before it, and what its last steps leave open."""

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.food.media import check_medium
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.foods import passages_on
from brinefrost.core.plans.judged import is_done_before
from brinefrost.core.plans.lines import has_lines, ways_of
from brinefrost.core.plans.parts import BOUGHT_COOKED, find_left_raw, known_of, own_entries_of
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.document import Finding
from brinefrost.core.steps.food import Food
from brinefrost.core.words import Words, mm, say


def find_order_faults(plan: Plan) -> tuple[Finding, ...]:
    """What comes of steps that are missing or in an impossible order.

    Empty where every step follows from the ones before it. Valid for the kinds of step a plan can have; each says what
    is wrong with its place. Codex CXC 1-1969 (2022), steps 4 and 5: the flow as it is; Food Code 3-501.14 for what is
    cooked and kept.
    """
    if has_lines(plan):
        return tuple(dict.fromkeys(found for way in ways_of(plan) for found in find_order_faults(way)))
    found: list[Finding] = []
    for i, step in enumerate(plan.steps):
        before = passages_on(plan)[step.id].before
        if before.served:
            found.append(_not_proved(step, say("plans.walk.goes_on_behind_serving", name=step.name)))
        found += kind_of(step).find_faults(step, before)
        thinner = _thinner(step, before)
        own_pieces = i in own_entries_of(plan) and "heats" in kind_of(step).acts(step)
        if thinner and not (own_pieces and is_done_before(plan, i)):
            found += thinner
        found += [*_cannot_be(step, plan.altitude_m or 0.0)]
    return (*found, *_left_open(plan))


def _not_proved(step: Step, sentence: Words) -> Finding:
    return Finding(step=step.id, state="not_proved", sentence=sentence)


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


def _thinner(step: Step, before: Food) -> list[Finding]:
    """Pieces become thinner by hand and not by themselves: a chill of thinner ones than were cooked proves nothing."""
    kind, piece = kind_of(step), kind_of(step).piece(step)
    was_m = 0.0 if step.out_of else before.thickness_m
    if piece is None or piece.thickness_m >= was_m - 1e-6 or "handles" in kind.acts(step):
        return []
    said = say(
        "plans.walk.takes_thinner_pieces_than_there_are",
        name=step.name,
        here=mm(1000 * piece.thickness_m),
        before=mm(1000 * was_m),
    )
    return [_not_proved(step, said)]


def _left_open(plan: Plan) -> list[Finding]:
    """What the last steps leave open."""
    if not plan.steps:
        return []
    last = plan.steps[-1]
    food, found = passages_on(plan)[last.id].after, _needs_left(plan)
    if plan.guests == "higher_risk" and has_raw_animal(plan) and not _cooks(plan):
        said = say("plans.walk.raw_is_not_for_guests_at_higher_risk")
        found.append(Finding(step=last.id, state="fails", sentence=said))
    found += [_not_proved(last, said) for said in find_left_raw(plan)]
    if food.served:
        return found
    if food.sealed and not food.kept and "sour" not in food.made and not (food.cooked and food.reheated):
        found.append(_not_proved(last, say("plans.walk.it_is_sealed_without_oxygen_and")))
    if food.chilled and not food.kept:
        found.append(_not_proved(last, say("plans.walk.it_is_chilled_and_no_step")))
    return found


def _needs_left(plan: Plan) -> list[Finding]:
    """What a step leaves for a later one to do, and none does: a store in the cold, or what makes it fit for a shelf.

    What needs the cold comes first.
    """
    found: dict[str, list[Finding]] = {"cold": [], "shelf": []}
    for i, step in enumerate(plan.steps):
        needed = kind_of(step).needs_later(step, passages_on(plan)[step.id].before)
        if needed is None:
            continue
        behind = plan.steps[i + 1 :]
        fit = any("for_shelf" in passages_on(plan)[each.id].after.made for each in behind)
        cold = any(kind_of(each).acts(each) & {"stores", "stores_frozen", "freezes", "serves"} for each in behind)
        if not fit and not (needed.what == "cold" and cold):
            found[needed.what].append(needed.finding)
    return [*found["cold"], *found["shelf"]]


def has_raw_animal(plan: Plan) -> bool:
    """Whether food of animals goes in that nobody cooked before it was bought. Valid for every plan."""
    rows = known_of(plan.ingredients)
    return any(set(each.tags) & set(ANIMALS) and BOUGHT_COOKED not in each.tags for each in rows)


def _cooks(plan: Plan) -> bool:
    """Whether a step heats what was not cooked before."""
    return any("cooks" in words_of(step) for step in plan.steps)
