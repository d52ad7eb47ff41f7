"""One limit against another: which is stricter, on what number it turns, and what a plan itself sets of it."""

import pytest

from brinefrost.core.limits import Cooling, Hold, Limit, Threshold, Uncontrolled
from brinefrost.core.limits.cooling import CoolingStage
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.templates import template
from brinefrost.core.rules import RULE_SET_IDS, rule_set, targets
from brinefrost.core.rules.layers import strictness
from brinefrost.core.steps import KINDS
from brinefrost.core.words import said
from brinefrost.core.words.manner import Manner, manner_of
from brinefrost.core.working import Source
from tests.core.test_step_kinds import ready

SOURCE = Source(citation="made up for the test", tag="derived")
EVERY = [(key, entry.topic, entry.limit) for key in RULE_SET_IDS for entry in rule_set(key).entries]
TURNING = [(key, topic, limit) for key, topic, limit in EVERY if limit.turns_on() is not None]


def ids(values: list[tuple[str, str, Limit]]) -> list[str]:
    return [f"{key}-{topic}-{limit.id}" for key, topic, limit in values]


@pytest.mark.parametrize(("key", "topic", "limit"), EVERY, ids=ids(EVERY))
def test_a_limit_is_as_strict_as_itself(key: str, topic: str, limit: Limit) -> None:
    assert strictness(limit, limit) == "same"
    renamed = limit.model_copy(update={"id": "another", "title": "Another"})
    assert strictness(renamed, limit) in ("same", "different")  # different where it cannot be compared at all
    if limit.stricter_by(limit) is not None:
        assert all(abs(gap) < 1e-9 for gap in limit.stricter_by(limit) or [])
        assert strictness(renamed, limit) == "same"


@pytest.mark.parametrize(("key", "topic", "limit"), TURNING, ids=ids(TURNING))
def test_a_limit_turned_on_a_safer_number_is_stricter_and_the_other_way_looser(
    key: str, topic: str, limit: Limit
) -> None:
    found = limit.turns_on()
    assert found is not None
    value, more_is_safer = found
    step = max(abs(value), 1.0) * 0.1
    for sign, expected in ((1, "stricter"), (-1, "looser")):
        turned = limit.turned_to(value + sign * step * (1 if more_is_safer else -1))
        assert turned is not None
        assert strictness(turned, limit) == expected
        assert strictness(limit, turned) == {"stricter": "looser", "looser": "stricter"}[expected]
        assert turned.turns_on() == (pytest.approx(value + sign * step * (1 if more_is_safer else -1)), more_is_safer)
    again = limit.turned_to(value)
    assert again is not None
    assert strictness(again, limit) == "same"


@pytest.mark.parametrize("target", targets(), ids=lambda each: each.limit.id)
def test_a_table_is_the_stricter_for_more_minutes_by_the_same_law_alone(target: object) -> None:
    limit = target.limit  # type: ignore[attr-defined]
    assert strictness(limit, limit) == "same"
    if limit.kind != "lethality":
        return
    for other in targets():
        if other.limit.kind != "lethality" or other.limit.id == limit.id:
            continue
        there, back = strictness(limit, other.limit), strictness(other.limit, limit)
        assert {there, back} in ({"same"}, {"different"}, {"stricter", "looser"})


def bound(comparison: str, value: float, unit: str = "°C") -> Threshold:
    return Threshold.model_validate(
        {"id": "t", "title": "T", "source": SOURCE, "comparison": comparison, "value": value, "unit": unit}
    )


def hold(at_c: float, for_s: float) -> Hold:
    return Hold(id="h", title="H", source=SOURCE, at_least_c=at_c, for_s=for_s)


def cooling(*stages: tuple[float, float]) -> Cooling:
    made = tuple(CoolingStage(to_c=to, within_s=within) for to, within in stages)
    return Cooling(id="c", title="C", source=SOURCE, from_c=57.0, stages=made)


@pytest.mark.parametrize(
    ("own", "rule", "stands"),
    [
        (bound("at_most", 3), bound("at_most", 5), "stricter"),
        (bound("at_most", 8), bound("at_most", 5), "looser"),
        (bound("at_least", 65), bound("at_least", 63), "stricter"),
        (bound("at_least", 60), bound("at_least", 63), "looser"),
        (bound("at_least", 5), bound("at_most", 5), "different"),
        (hold(75, 15), hold(74, 15), "stricter"),
        (hold(74, 30), hold(74, 15), "stricter"),
        (hold(76, 10), hold(74, 15), "different"),  # hotter and shorter: nobody knows by the numbers alone
        (hold(70, 120), bound("at_least", 70), "different"),
        (cooling((21, 7200), (5, 21600)), cooling((21, 7200), (5, 21600)), "same"),
        (cooling((21, 5400), (5, 21600)), cooling((21, 7200), (5, 21600)), "stricter"),
        (cooling((21, 7200), (5, 86400)), cooling((21, 7200), (5, 21600)), "looser"),
        (cooling((21, 5400), (5, 86400)), cooling((21, 7200), (5, 21600)), "different"),
        (cooling((5, 21600)), cooling((21, 7200), (5, 21600)), "different"),  # a stage is missing
    ],
)
def test_two_limits_side_by_side(own: Limit, rule: Limit, stands: str) -> None:
    assert strictness(own, rule) == stands


def test_time_without_control_is_the_stricter_the_shorter() -> None:
    long = next(limit for _, _, limit in EVERY if isinstance(limit, Uncontrolled))
    short = long.turned_to(long.within_s / 2)
    assert short is not None
    assert strictness(short, long) == "stricter"
    assert "at most" in said(short.title)


def test_a_turned_limit_says_its_number_as_whoever_reads_it_reads() -> None:
    turned = bound("at_most", 5).turned_to(4.0)
    held = hold(74, 120).turned_to(70.0)
    assert turned is not None
    assert held is not None
    assert (said(turned.title), said(held.title)) == ("≤ 4 °C", "70 °C for 2 min")
    with manner_of(Manner("en", "°F")):
        assert said(turned.title) == "≤ 39.2 °F"
        assert said(held.title) == "158 °F for 2 min"
    with manner_of(Manner("zh")):
        assert "4 °C" in said(turned.title)


# --- what a plan sets -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("kind", [each for each in KINDS.values() if each.sets], ids=lambda kind: kind.key)
def test_what_a_plan_sets_is_a_setting_and_answers_for_a_bound_alone(kind: object) -> None:
    fields = kind.settings.model_fields  # type: ignore[attr-defined]
    step = kind.settings.model_construct(**{**kind.blank, "id": "s", "name": "S", "kind": kind.key})  # type: ignore[attr-defined]
    for quantity, name in kind.sets.items():  # type: ignore[attr-defined]
        assert name in fields
        one = bound("at_most", 5).model_copy(update={"quantity": quantity})
        if hasattr(step, name):
            assert kind.declare(step, one) == getattr(step, name)  # type: ignore[attr-defined]
        held = hold(70, 120).model_copy(update={"quantity": quantity})
        assert kind.declare(step, held) is None  # type: ignore[attr-defined]
        other = bound("at_most", 5).model_copy(update={"quantity": "nitrite"})
        assert kind.declare(step, other) is None  # type: ignore[attr-defined]


def test_the_law_beside_an_own_bound_is_the_rule_sets_and_nobodys_to_choose() -> None:
    """A control that names 40 °C as its law would be met past 5 °C by a probe's doubt alone: it cannot be signed."""
    plan = ready(template("stew").plan("Stew", "us"))
    assert not gaps_of(plan)
    control = next(each for each in plan.controls if any(getattr(limit, "law", None) for limit in each.limits))
    limits = tuple(
        limit.model_copy(update={"law": 40.0}) if getattr(limit, "law", None) else limit for limit in control.limits
    )
    bent = control.model_copy(update={"limits": limits})
    controls = tuple(bent if each.step == control.step else each for each in plan.controls)
    assert gaps_of(plan.model_copy(update={"controls": controls}))
