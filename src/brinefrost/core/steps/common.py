"""What several kinds of step ask for in the same words: readings, what is done when one is wrong, who reads them."""

from brinefrost.core.kitchen.lines import line_of, more_lines
from brinefrost.core.limits import Cooling, Ends, Hold, Limit, Threshold, TimeAbove
from brinefrost.core.limits.base import STANDS_S
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.rules import target
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.state import Course
from brinefrost.core.words import say, temp

LONG_S, EARLY_S = 4 * 3600.0, 9000.0  # a longer heat is looked at early on [s]; common practice
EARLY_LOW_C = 30.0
BEFORE_S = 60.0  # how much earlier than it has to be
WITHIN_K = 0.5  # as near as a probe tells
ROOM_C, ROOM_H = 20.0, 9.0  # a kitchen's air, still [°C, W/m²·K]; common practice


def watch_core(low_c: float, high_c: float, offsets_s: tuple[float, ...] = ()) -> Monitoring:
    """The core of the thickest piece, expected within a band [°C], at times since the start [s] or at the end.

    Valid for every step that changes the core.
    """
    return Monitoring(
        id="core",
        what=say("steps.common.core_of_the_thickest_piece"),
        quantity="core",
        how=say("steps.common.probe_in_the_middle_of_the"),
        offsets_s=offsets_s,
        expected_low_c=low_c,
        expected_high_c=high_c,
    )


def watch_heated(
    duration_s: float, low_c: float, high_c: float, limits: tuple[Limit, ...] = ()
) -> tuple[Monitoring, ...]:
    """The core at the end, within a band [°C]; where the heat is long [s], on its way up too, while it can be helped;
    where a limit asks for longer than a probe stands still, that long before the end as well.

    Valid for every heat.
    """
    held_s = max((limit.for_s for limit in limits if isinstance(limit, Hold)), default=0.0)
    at = duration_s - held_s - BEFORE_S
    held = watch_core(low_c, high_c, (at, at + held_s / 2)).model_copy(update={"id": "core-held"})
    early = (early_core(high_c),) if duration_s > LONG_S else ()
    return (*early, *((held,) if held_s > STANDS_S and at > 0 else ()), watch_core(low_c, high_c))


def watch_fall(limits: tuple[Limit, ...], low_c: float, length_s: float) -> tuple[Monitoring, ...]:
    """The core early, as each stage of a fall is due, and as the chill ends: what shows that each mark was met.

    ``low_c`` is the coldest expected [°C], ``length_s`` how long the chill takes [s]. Valid for every chill.
    """
    due, falls = set[float](), [limit for limit in limits if isinstance(limit, Cooling)]
    for limit in falls:
        at = 0.0
        for stage in limit.stages:
            at = at + stage.within_s if stage.further else stage.within_s
            due.add(at)
    offsets = sorted({0.0, 1800.0, 3600.0, *(at for at in due if at < length_s)})
    last = max((limit.stages[-1].to_c for limit in falls), default=10.0)
    return (watch_core(low_c, 98, tuple(offsets)), end_core(last + 5))


def look_seared() -> Monitoring:
    """A look at every face of what is eaten rare, as it comes out of the heat."""
    return Monitoring(
        id="looks",
        what=say("steps.common.every_face_seared"),
        quantity="looks",
        how=say("steps.common.turn_it_and_look"),
        expected_low_c=0,
        expected_high_c=1,
    )


def end_core(high_c: float) -> Monitoring:
    """The core as the step ends, at most so warm [°C]. Valid for every step in the cold."""
    return watch_core(-1, high_c).model_copy(update={"id": "core-end"})


def early_core(high_c: float) -> Monitoring:
    """The core early in a long heat, at most so hot [°C]. Valid for every heat."""
    return watch_core(EARLY_LOW_C, high_c, (EARLY_S,)).model_copy(update={"id": "core-early"})


def watch_air(low_c: float, high_c: float, every_s: float) -> Monitoring:
    """The air around the food, expected within a band [°C], every so often [s]. Valid for every step in air."""
    return _watch(
        "air", say("steps.common.air_around_it"), say("steps.common.a_logger_or_a_probe_beside"), low_c, high_c, every_s
    )


def watch_ph(low: float, high: float, every_s: float | None) -> Monitoring:
    """The pH, expected within a band, every so often [s], or once. Valid for every step that sours."""
    return _watch("ph", say("steps.common.ph_of_it"), say("steps.common.meter_set_on_two_buffers"), low, high, every_s)


def watch_salt(percent: float) -> Monitoring:
    """How much salt was weighed in, once, near what is meant [% of everything]. Valid for what is kept by its salt."""
    what, how = say("steps.common.salt_weighed_in"), say("steps.common.salt_on_everything")
    return read_first("salt", "salt", what, how, (round(0.9 * percent, 2), round(1.2 * percent, 2)))


def watch_aw(most: float) -> Monitoring:
    """Its water activity [-], once, before it is put away. Valid for what its dryness keeps."""
    what, how = say("steps.dry.water_activity_of_its_middle"), say("steps.dry.a_slice_of_the_thickest_in_the_meter")
    return read_first("aw", "aw", what, how, (0.1, round(most + 0.01, 3)))


def read_first(check: str, quantity: ReadingQuantity, what: str, how: str, expected: tuple[float, float]) -> Monitoring:
    """What is read once, as its step begins, from and to what is expected [its unit]. Valid for every quantity."""
    low, high = expected
    return Monitoring(
        id=check, what=what, quantity=quantity, how=how, offsets_s=(0.0,), expected_low_c=low, expected_high_c=high
    )


def _watch(
    quantity: ReadingQuantity, what: str, how: str, low: float, high: float, every_s: float | None
) -> Monitoring:
    return Monitoring(
        id=quantity,
        what=what,
        quantity=quantity,
        how=how,
        offsets_s=(0.0,),
        every_s=every_s,
        expected_low_c=low,
        expected_high_c=high,
    )


def read_by_the_lead() -> tuple[str, ...]:
    """How a control is verified. Valid for every control."""
    return (say("steps.common.the_lead_reads_its_records"),)


def colder_or_discard() -> tuple[str, ...]:
    """What is done where it was too warm. Valid for every step in the cold."""
    return (say("steps.common.too_warm_move_it_to_the"), say("steps.common.nobody_knows_how_long_discard"))


def in_hands() -> TimeAbove:
    """How long raw or cooked food may lie between cold and hot while something is done to it."""
    return target("hands-2h", TimeAbove)


def boils_beans(around_c: float, duration_s: float) -> bool:
    """Whether heat of such surroundings [°C] for so long [s] is meant to boil beans; the core is asked of that heat.

    Valid for every heat.
    """
    line = target("beans-boiled", Hold)
    return around_c >= line.at_least_c and duration_s >= line.for_s


def holds(limit: Threshold | Ends, planned: float) -> bool:
    """Whether what the plan sets lies within a limit. Valid for a setting in the limit's own unit."""
    return limit.allows(planned)


def find_no_cook_before(step: StepBase, food: Food) -> list[Finding]:
    """That it is heated again and nothing has cooked it, here or before it was bought. Valid for every reheat."""
    if food.cooked or food.bought_cooked:
        return []
    said = say("steps.reheat.comes_before_any_cook", name=step.name)
    return [Finding(step=step.id, state="fails", sentence=said)]


def heat_topics(context: Context, again: bool = False, slow: bool = True) -> tuple[str, ...]:
    """What a heat answers to: what must be killed, and how slowly it may come up where it is ``slow``; what was cooked
    before, here or by who sold it, is heated again.

    Valid for every heat.
    """
    if again or context.food.bought_cooked:
        return () if context.cook_goes_on else reheat_topics(context)
    line = line_of(context.tags)
    if line is None or context.cook_goes_on:
        return ()
    return (line, "come_up") if slow else (line,)


def beside_line(context: Context, again: bool = False) -> tuple[Limit, ...]:
    """What is asked of a heat beside its rule set's line: of what was bought cooked, of the raw plants in it alone.

    Valid for every heat.
    """
    if again or context.cook_goes_on:
        return ()
    tags = context.food.raw if context.food.bought_cooked else context.tags
    return more_lines(tags, context.food.came_unboiled)


def reheat_topics(context: Context) -> tuple[str, ...]:
    """How hot what was cooked before is brought; nothing where the rule set does not ask it of what is served at once.

    Valid for every reheat.
    """
    asked = context.rules.entries_for("reheat")
    return () if context.served_next and asked and asked[0].unless_served else ("reheat",)


def chill_topics(context: Context) -> tuple[str, ...]:
    """How quickly it must fall: what was heated, and what was made at room temperature; what needs no cold as it likes.

    Valid for every chill.
    """
    if context.food.needs_no_cold:
        return ()
    return ("chill.cooked" if context.food.heated else "chill.ambient",)


def find_not_cold(name: str, step_id: str, target_c: float, course: Course) -> list[Finding]:
    """A chill ends with the core as cold as the plan says [°C], as near as a probe tells. Valid for every chill."""
    begin, end = course.spans[step_id]
    if course.curve is None or end <= begin or course.core_at(end) <= target_c + WITHIN_K:
        return []
    core, target = temp(course.core_at(end), ".1f"), temp(target_c, "g")
    said = say("steps.slurry_chill.ends_with_the_core_at_the", name=name, core=core, target=target)
    return [Finding(step=step_id, state="fails", sentence=said)]
