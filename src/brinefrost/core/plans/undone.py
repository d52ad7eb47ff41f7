"""Parts that are eaten raw or rare: whether they may be, for whom, and what the guests are told."""

from brinefrost.core.kitchen.fish import advisory
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.foods import food_at
from brinefrost.core.plans.lines import ways_of, ways_with
from brinefrost.core.plans.parts import is_undone, known_of, own_entries_of, own_of, tags_from
from brinefrost.core.rules import Undone, rule_set
from brinefrost.core.steps import Step, kind_of, words_of
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import Words, joined, say

GROWS = "grows_listeria"  # bought ready to eat, and Listeria may have grown in it
NEVER = frozenset({"poultry", "trichinella", "raw_toxin"})  # whatever a row of its kind allows
OPEN = frozenset({"minced", "filled", "pooled_egg"})  # its inside was outside


def row_of(plan: Plan, item: Ingredient) -> Undone | None:
    """The row of the rule set by which a part may be eaten as it is said to be; None where it may not.

    Poultry may not, nor game that may carry Trichinella, nor anything by guests at higher risk. Valid for parts that
    are raw or rare.
    """
    made = frozenset[str]().union(*(kind_of(step).makes(step) for step in plan.steps))
    tags = {tag for each in known_of((item,)) for tag in each.tags}
    opened = bool((tags | made) & (OPEN - {"pooled_egg"}))
    if plan.guests == "higher_risk" or tags & NEVER:
        return None
    return next(
        (
            row
            for row in rule_set(plan.rule_set).undone
            if item.eaten in row.eaten
            and tags & set(row.tags)
            and not tags & set(row.unless)
            and (row.opened or not opened)
        ),
        None,
    )


def is_dried_whole(plan: Plan, step: Step) -> bool:
    """Whether a step dries whole pieces that are cured through, of a kind that its rule set lets be eaten so.

    Valid for every step of a plan. Never what may carry Trichinella, nor for guests at higher risk.
    """
    if "dries" not in kind_of(step).acts(step) or plan.guests == "higher_risk":
        return False
    food = food_at(ways_with(plan, step.id), step)
    rows = [row for row in rule_set(plan.rule_set).undone if "dried" in row.eaten]
    cured = {"salted_through", "nitrited"} <= food.made or food.made & {"salted_hard", "sour_outside"}
    allowed = any(food.raw & set(row.tags) for row in rows) and not food.tags & (
        OPEN | {"trichinella", "chicken", "turkey"}
    )
    return bool(cured) and "cured" in food.made and allowed


def undone_parts(plan: Plan) -> tuple[Finding, ...]:
    """What is eaten raw or rare: with the advisory where the rule set wants one, not proved where it has no row.

    Fish that may carry worms is frozen all the same. Valid for every plan. FDA Food Code 2022, 3-401.11(C) and (D),
    3-402.11, 3-603.11; each row its own.
    """
    found: list[Finding] = []
    for item in (each for each in own_of(plan) if is_undone(each)):
        serves = next((step.id for step in reversed(plan.steps) if "serves" in words_of(step)), plan.steps[-1].id)
        row = row_of(plan, item)
        if row is None:
            state = "fails" if plan.guests == "higher_risk" else "not_proved"
            said = say("plans.undone.may_not_be", name=item.name)
            found.append(Finding(step=serves, state=state, sentence=said))
        elif row.advisory:
            said = say("plans.undone.with_the_advisory", name=item.name, advisory=advisory(plan.rule_set))
            found.append(Finding(step=serves, state="advisory", sentence=said))
        entered = [step.id for step in plan.steps].index(item.enters) if item.enters else 0
        frozen = any("freezes" in kind_of(step).acts(step) for step in plan.steps[entered:])
        if "parasites" in tags_from((item,), plan.rule_set) and not frozen:
            found.append(Finding(step=serves, state="not_proved", sentence=say("plans.walk.worms_leave_it_alive")))
    return (*found, *_soured_eggs(plan))


def _soured_eggs(plan: Plan) -> list[Finding]:
    """Raw eggs that acid alone holds: told to the guests where the rule set wants them pasteurised else."""
    rows = [row for row in rule_set(plan.rule_set).undone if "soured" in row.eaten and row.advisory]
    found: list[Finding] = []
    for at, part in own_entries_of(plan).items():
        behind = frozenset[str]().union(*(words_of(step) for step in plan.steps[at:]))
        if not rows or "cooks" in behind or "acidifies" not in behind:
            continue
        for item in part:
            tags = {tag for row in known_of((item,)) for tag in row.tags}
            if not is_undone(item) and {"egg", "raw"} <= tags:
                said = say("plans.undone.soured_and_told", name=item.name, advisory=advisory(plan.rule_set))
                found.append(Finding(step=plan.steps[-1].id, state="advisory", sentence=said))
    return found


def not_for_higher_risk(plan: Plan) -> tuple[Finding, ...]:
    """What is bought ready to eat and may carry Listeria that grew in it, where guests at higher risk are to have it
    without a heat behind it; and honey, which no heat of a kitchen makes fit for infants: they are told.

    Valid for a plan without lines. FSA and FDA advice for pregnancy; WHO and CDC, no honey before twelve months; from
    memory, verify.
    """
    if plan.guests != "higher_risk":
        return ()
    found: list[Finding] = []
    for at, part in own_entries_of(plan).items():
        names = [item.name for item in part if GROWS in tags_from((item,), plan.rule_set)]
        if names and not any("cooks" in words_of(step) for step in plan.steps[at:]):
            said = say("plans.undone.not_for_higher_risk", names=joined(names, ", "))
            found.append(Finding(step=plan.steps[-1].id, state="not_proved", sentence=said))
    honey = [item.name for item in own_of(plan) if "honey" in tags_from((item,), plan.rule_set)]
    if honey:
        said = say("plans.undone.honey_not_for_infants", names=joined(honey, ", "))
        found.append(Finding(step=plan.steps[-1].id, state="advisory", sentence=said))
    return tuple(found)


def told_to_guests(plan: Plan) -> tuple[Words, ...]:
    """What the menu says of a plan, once for each part that is eaten raw or rare. Valid for every plan."""
    return tuple(
        dict.fromkeys(
            each.sentence
            for way in ways_of(plan)
            for each in (*undone_parts(way), *not_for_higher_risk(way))
            if each.state == "advisory"
        )
    )


def brought_by_undone(plan: Plan, tags: frozenset[str]) -> bool:
    """Whether a hazard of such food comes with parts alone that are eaten raw or rare, and may be.

    Valid for every plan and set of tags.
    """
    items = [(way, each) for way in ways_of(plan) for each in own_of(way) if tags_from((each,), plan.rule_set) & tags]
    return bool(items) and all(is_undone(each) and row_of(way, each) is not None for way, each in items)
