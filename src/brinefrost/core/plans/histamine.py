"""Histamine of fish that make it: hours above the line add up from the catch on, and no heat undoes them."""

from brinefrost.core.limits import Series, TimeAbove
from brinefrost.core.plans.balance import way_through
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.parts import BOUGHT_COOKED, known_of, own_entries_of
from brinefrost.core.rules import target
from brinefrost.core.steps import kind_of, words_of
from brinefrost.core.steps.document import Finding
from brinefrost.core.words import say


def histamine_made(plan: Plan) -> tuple[Finding, ...]:
    """Where the hours above the line are used up before the fish is cooked, or by the end where nothing cooks it.

    Valid for plans that can be walked. FDA, Fish and Fishery Products Hazards and Controls Guidance, ch. 7: shorter
    for fish that was never frozen.
    """
    for at, part in own_entries_of(plan).items():
        if any("scombroid" in row.tags and BOUGHT_COOKED not in row.tags for row in known_of(part)):
            found = _used_up(plan, at)
            if found:
                return found
    return ()


def _used_up(plan: Plan, entered: int) -> tuple[Finding, ...]:
    """What goes in at a step, fresh until it is frozen; what was frozen has its longer hours in all."""
    way = way_through(plan)
    steps = [leg.step for leg in way.legs]
    begin = 0 if entered == 0 else way.ends[entered - 1]
    cooked = next((i for i in range(entered, len(steps)) if "cooks" in words_of(steps[i])), len(steps) - 1)
    frozen = next((i for i in range(entered, cooked + 1) if "freezes" in kind_of(steps[i]).acts(steps[i])), None)
    spans = [("scombroid-fresh", cooked if frozen is None else frozen)]
    if frozen is not None:
        spans.append(("scombroid-frozen", cooked))
    for limit_id, last in spans:
        limit, end = target(limit_id, TimeAbove), way.ends[last]
        times, core = way.times_s[begin : end + 1], way.core_c[begin : end + 1]
        if len(times) < 2 or limit.evaluate(Series.computed(times, core), float(times[-1])).state == "pass":
            continue
        said = say("plans.histamine.used_up", title=limit.title)
        return (Finding(step=steps[last].id, state="fails", sentence=said),)
    return ()
