"""Four rule sets as data, and a kitchen's own layer on top."""

import pytest

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.limits import Cooling, Hold, Threshold
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set
from brinefrost.core.rules.layers import OwnRule, layered, strictness

SHARED = (
    "cook.poultry", "cook.whole", "cook.minced", "cook.game", "come_up", "chill.cooked", "keep.cold", "keep.days",
    "reheat", "receive.cold", "hold.hot", "hold.cold", "time.uncontrolled", "cure.comminuted", "date.ready_to_eat",
)  # fmt: skip


@pytest.mark.parametrize("set_id", RULE_SET_IDS)
@pytest.mark.parametrize("topic", SHARED)
def test_every_rule_set_answers_every_shared_topic_with_a_source(set_id: RuleSetId, topic: str) -> None:
    entries = rule_set(set_id).entries_for(topic)
    assert [entry.preferred for entry in entries].count(True) == 1
    assert all(entry.limit.source.citation for entry in entries)


# the table of the four rule sets (published): hot hold, cold hold
@pytest.mark.parametrize(("set_id", "hot", "cold"), [("us", 57, 5), ("uk", 63, 5), ("eu", 63, 4), ("anz", 60, 5)])
def test_holding_temperatures(set_id: RuleSetId, hot: float, cold: float) -> None:
    assert rule_set(set_id).bound_for("hold.hot").value == hot
    assert rule_set(set_id).bound_for("hold.cold").value == cold


def test_ids_are_never_used_twice() -> None:
    for set_id in RULE_SET_IDS:
        ids = [entry.limit.id for entry in rule_set(set_id).entries]
        assert len([i for i in ids if i.startswith(set_id)]) == len({i for i in ids if i.startswith(set_id)})
    with pytest.raises(NotFoundError):
        rule_set("mars")  # type: ignore[arg-type]


US = rule_set("us")


def hot(value: float) -> Threshold:
    return US.bound_for("hold.hot").model_copy(update={"value": value, "id": "own"})


@pytest.mark.parametrize(("value", "stands"), [(63, "stricter"), (57, "same"), (55, "looser")])
def test_how_a_bound_stands(value: float, stands: str) -> None:
    assert strictness(hot(value), US.limit_for("hold.hot")) == stands


def test_every_part_must_be_as_strict() -> None:
    cooling = US.limit_for("chill.cooked")
    assert isinstance(cooling, Cooling)
    quicker = cooling.stages[0].model_copy(update={"within_s": 3600})
    slower = cooling.stages[1].model_copy(update={"within_s": 9 * 3600})
    assert strictness(cooling.model_copy(update={"stages": (quicker, cooling.stages[1])}), cooling) == "stricter"
    assert strictness(cooling.model_copy(update={"stages": (quicker, slower)}), cooling) == "different"
    reheat = US.limit_for("reheat")
    assert isinstance(reheat, Hold)
    assert strictness(reheat.model_copy(update={"for_s": 30}), reheat) == "stricter"
    assert strictness(US.limit_for("cook.whole"), US.limit_for("cook.whole")) == "same"
    assert strictness(hot(60), cooling) == "different"


def test_a_stricter_rule_is_taken_and_a_looser_one_needs_its_reason() -> None:
    own = OwnRule(topic="hold.hot", limit=hot(63))
    assert layered(US, (own,)).limit_for("hold.hot") == own.limit
    assert [entry.preferred for entry in layered(US, (own,)).entries_for("hold.hot")].count(True) == 1
    with pytest.raises(RefusedError, match="Write why"):
        layered(US, (OwnRule(topic="hold.hot", limit=hot(50)),))
    departed = layered(US, (OwnRule(topic="hold.hot", limit=hot(54.4), reason="Roasts only, by variance."),))
    assert departed.bound_for("hold.hot").value == 54.4
    assert US.bound_for("hold.hot").value == 57  # the rule set itself is untouched
