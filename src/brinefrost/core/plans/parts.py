"""The parts of a dish: what goes in together at one step, and what is in by each step."""

from brinefrost.core.food.catalogue import CatalogueIngredient, catalogue
from brinefrost.core.food.media import FoodKey, ThermalValues, food
from brinefrost.core.kitchen.fish import freezing_need, species_of
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.plans.document import Brought, Ingredient, Plan
from brinefrost.core.plans.once import once
from brinefrost.core.rules import RuleSetId
from brinefrost.core.steps import words_of
from brinefrost.core.words import Words, joined, say

BOUGHT_COOKED = "cooked"  # the catalogue's word for what comes in cooked
READY = frozenset({BOUGHT_COOKED, "ready"})  # and what comes in ready to eat without, cured and dried by its maker
RAW_SHELLFISH = frozenset({"bivalve", "crustacean"})
NEEDS_ITS_HEAT = frozenset({"lectin", "raw_toxin", "raw_flour", "sprout"})  # by its nature, whoever eats it
WITHOUT_GUT = "muscle"  # the white muscle alone: no gut, no virus in it
SLOWEST: FoodKey = "fat_meat"  # to be hot, and to be cold, of the table


@once
def entries_of(plan: Plan) -> dict[int, tuple[Ingredient, ...]]:
    """The plan's parts by the place of the step they go in at, in order of the process.

    What says no step goes in at the first. Valid for every plan.
    """
    order = {step.id: i for i, step in enumerate(plan.steps)}
    found: dict[int, tuple[Ingredient, ...]] = {}
    for item in plan.ingredients:
        at = order.get(item.enters, 0)
        found[at] = (*found.get(at, ()), item)
    return dict(sorted(found.items()))


@once
def own_entries_of(plan: Plan) -> dict[int, tuple[Ingredient, ...]]:
    """As ``entries_of``, without what another line brings: its past is told on its own way. Valid for every plan."""
    found = {at: tuple(item for item in part if not isinstance(item, Brought)) for at, part in entries_of(plan).items()}
    return {at: part for at, part in found.items() if part}


def own_of(plan: Plan) -> tuple[Ingredient, ...]:
    """A plan's ingredients without what another line brings. Valid for every plan."""
    return tuple(item for item in plan.ingredients if not isinstance(item, Brought))


def named_with_entry(plan: Plan) -> tuple[Words, ...]:
    """The ingredients by name, each that goes in later with the step it goes in at. Valid for every plan."""
    first = plan.steps[0].id if plan.steps else ""
    return tuple(
        say("plans.parts.goes_in_at", name=item.name, step=plan.step(item.enters).name)
        if item.enters and item.enters != first
        else item.name
        for item in plan.ingredients
    )


def known_of(ingredients: tuple[Ingredient, ...]) -> list[CatalogueIngredient]:
    """What the catalogue knows of them, or whoever describes them; nothing of what is not understood. Valid for all."""
    rows = (row_of(item) for item in ingredients)
    return [row for row in rows if row is not None]


def row_of(item: Ingredient) -> CatalogueIngredient | None:
    """The catalogue's row of an ingredient, or one made of its description; None where there is neither.

    Valid for all ingredients.
    """
    if item.catalogue:
        return catalogue().ingredient(item.catalogue)
    return item.described.row(item.name) if item.described else None


def in_by(plan: Plan, step_id: str) -> tuple[Ingredient, ...]:
    """The ingredients that are in the dish by a step, those that go in at it among them.

    Valid for every step of the plan.
    """
    place = [step.id for step in plan.steps].index(step_id)
    return tuple(item for at, part in entries_of(plan).items() if at <= place for item in part)


def is_undone(item: Ingredient) -> bool:
    """Whether a part is said to be eaten raw or rare. Valid for every ingredient."""
    return item.eaten in ("raw", "rare")


def is_ready_plant(item: Ingredient) -> bool:
    """Whether it is bought ready to eat and comes of no animal: warming it asks for no kill. Valid for all."""
    tags = {tag for row in known_of((item,)) for tag in row.tags}
    return bool(tags & READY) and not tags & set(ANIMALS)


def tags_from(
    ingredients: tuple[Ingredient, ...], rule_set_id: RuleSetId, bought_cooked: bool = True
) -> frozenset[str]:
    """What the catalogue knows of ingredients; those bought ready to eat may be left out."""
    found = [row for row in known_of(ingredients) if bought_cooked or not READY & set(row.tags)]
    needs = any(
        freezing_need(species_of(each.species), each.origin, rule_set_id).needed for each in found if each.species
    )
    unknown = any(row_of(item) is None for item in ingredients)
    return frozenset(
        {
            *(tag for each in found for tag in each.tags),
            *(("parasites",) if needs else ()),
            *(("unknown",) if unknown else ()),
        }
    )


def thermal_from(ingredients: tuple[Ingredient, ...]) -> ThermalValues | None:
    """Thermal values of the first ingredient of animal origin that has them, else of the first that has.

    Of fats, nuts, flour and sugar the slowest of the table; None where nobody knows what is in it.
    """
    found = known_of(ingredients)
    found.sort(key=lambda each: not set(each.tags) & set(ANIMALS))  # as they stand otherwise
    known = [each.thermal for each in found if each.thermal is not None]
    return known[0] if known else food(SLOWEST) if found else None


def find_left_raw(plan: Plan) -> list[Words]:
    """What is made ready and leaves the plan raw, without a step behind its entry that answers for it.

    What is only stored or salted is nobody's meal yet; what goes in behind a heat is part of one. Meat answers to its
    drying; acid, salt and smoke to neither it nor the worms of fish (Food Code 3-401.11, 3-402.11), nor to what
    bivalves and crustaceans bring (Codex CXG 79-2012). What comes of a batch of this kitchen answers to that batch.
    Valid for every plan.
    """
    words = [words_of(step) for step in plan.steps]
    found: list[Words] = []
    for at, part in own_entries_of(plan).items():
        bought = tuple(item for item in part if not item.made_here and not is_undone(item))
        before, behind = frozenset[str]().union(*words[:at]), frozenset[str]().union(*words[at:])
        late = "cooks" in before
        found += _raw_in_part(plan, bought, behind, late)
    return list(dict.fromkeys(found))


def _raw_in_part(plan: Plan, bought: tuple[Ingredient, ...], behind: frozenset[str], late: bool) -> list[Words]:
    rows = [(item, row) for item in bought for row in known_of((item,)) if "raw" in row.tags]
    raw = {tag for _, row in rows for tag in row.tags}
    made = behind & {"handles", "acidifies", "salts", "smokes", "dries"}
    if "cooks" in behind:
        return []
    found: list[Words] = []
    by_nature = [
        item.name for item in bought if {tag for row in known_of((item,)) for tag in row.tags} & NEEDS_ITS_HEAT
    ]
    if by_nature:
        found.append(say("plans.parts.needs_its_heat", names=joined(by_nature, ", ")))
    if "meat" in raw and (late or made - {"salts"}) and "dries" not in behind:
        found.append(say("plans.walk.meat_leaves_it_raw"))
    if "parasites" in tags_from(bought, plan.rule_set) and (made or late) and "freezes" not in behind:
        found.append(say("plans.walk.worms_leave_it_alive"))
    if "egg" in raw and (late or "handles" in made) and "acidifies" not in behind:
        found.append(say("plans.walk.eggs_leave_it_raw"))
    if any(row for _, row in rows if _is_shellfish(row)) and (late or made):
        found.append(say("plans.parts.shellfish_leaves_it_raw"))
    if late:
        names = [item.name for item, row in rows if set(row.tags) & (set(ANIMALS) - {"fish"})]
        if names:
            found.insert(0, say("plans.parts.goes_in_behind_the_heat", names=joined(names, ", ")))
    return found


def _is_shellfish(row: CatalogueIngredient) -> bool:
    return bool(set(row.tags) & RAW_SHELLFISH) and WITHOUT_GUT not in row.tags
