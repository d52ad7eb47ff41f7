"""Every lethality target against the holding times printed where it comes from."""

import numpy as np
import pytest

from brinefrost.core.errors import NotFoundError, OutOfRangeError
from brinefrost.core.limits import Hold, Lethality, Series
from brinefrost.core.physics.lethality import law_from_dz, law_from_two_z
from brinefrost.core.rules import rule_set, targets, targets_for

# FDA Food Code 2022, 3-401.11(B), same as USDA-FSIS Appendix A (published): °C, minutes
WHOLE_CUTS = [
    (54.4, 112), (55.0, 89), (56.1, 56), (57.2, 36), (57.8, 28), (58.9, 18), (60.0, 12), (61.1, 8), (62.2, 5),
    (62.8, 4), (63.9, 134 / 60), (65.0, 85 / 60), (66.1, 54 / 60), (67.2, 34 / 60), (68.3, 22 / 60), (69.4, 14 / 60),
]  # fmt: skip


def limit(id_: str) -> Lethality:
    found = next(entry.limit for entry in targets() if entry.limit.id == id_)
    assert isinstance(found, Lethality)
    return found


def needed_min(target: Lethality, temperature: float) -> float:
    law = target.model.law()
    return float(law.goal_min / law.rate(np.array([temperature]))[0])


@pytest.mark.parametrize(("temperature", "minutes"), WHOLE_CUTS)
def test_whole_cuts_by_the_table_itself(temperature: float, minutes: float) -> None:
    assert needed_min(limit("salmonella-whole-6.5"), temperature) == pytest.approx(minutes, rel=1e-3)


@pytest.mark.parametrize(("temperature", "minutes"), WHOLE_CUTS)
def test_one_z_value_stays_near_every_row(temperature: float, minutes: float) -> None:
    """Derived: D60 = 1.85 min, z = 5.56 stays within 9.2 % of every row (54.4 °C is the furthest); the last rows are
    printed to the second."""
    law = law_from_dz(60, 5.56, 6.5 * 1.85)
    assert law.goal_min / law.rate(np.array([temperature]))[0] == pytest.approx(minutes, rel=0.092, abs=0.6 / 60)


# ACMSF 1992 (published): printed to the minute
@pytest.mark.parametrize(("temperature", "minutes"), [(70, 1675), (75, 464), (80, 129), (85, 36), (90, 10)])
def test_botulinum_by_acmsf(temperature: float, minutes: float) -> None:
    assert needed_min(limit("botulinum-acmsf"), temperature) == pytest.approx(minutes, rel=0.006)


def test_botulinum_by_ecff_is_the_stricter_on_both_sides_of_90() -> None:
    strict, other = limit("botulinum-ecff"), limit("botulinum-acmsf")
    for temperature in (76, 80, 85):  # above 90 °C the other gives no more credit: printed to 90
        assert needed_min(strict, temperature) > needed_min(other, temperature)
    assert targets_for("heat.botulinum")[0].limit.id == "botulinum-ecff"
    assert needed_min(strict, 83) == pytest.approx(100, rel=1e-6)  # one z of 7 below
    assert needed_min(strict, 95) == pytest.approx(10**0.5, rel=1e-6)  # half a z of 10 above
    assert needed_min(strict, 121) == pytest.approx(10**0.5, rel=1e-6)  # no more credit above what was published


def test_crisp_pickles_at_60_degrees() -> None:
    """Derived from F = 1.2 min at 71.1 °C, z = 10.8: about 13 min at 60 °C in the centre."""
    assert needed_min(limit("ecoli-acid-4.1"), 60) == pytest.approx(12.8, abs=0.1)
    assert needed_min(limit("ecoli-acid-4.6"), 60) > 60


# The heating table of 9 CFR 318.10 until 2018, now FSIS guidance (from memory)
@pytest.mark.parametrize(
    ("temperature", "minutes"), [(49, 1260), (50, 570), (52.2, 132), (54.5, 30), (57.8, 3), (60, 1)]
)
def test_trichinella(temperature: float, minutes: float) -> None:
    assert needed_min(limit("trichinella-table"), temperature) == pytest.approx(minutes, rel=1e-6)


# 9 CFR 590.570 (published): plain yolk, salted yolk; PMO: custard base
@pytest.mark.parametrize(
    ("id_", "temperature", "minutes"),
    [
        ("egg-yolk", 61.1, 3.5),
        ("egg-yolk", 60.0, 6.2),
        ("egg-yolk-salted", 63.3, 3.5),
        ("egg-yolk-salted", 62.2, 6.2),
        ("custard", 69, 30),
        ("custard", 80, 25 / 60),
    ],
)
def test_egg_and_custard(id_: str, temperature: float, minutes: float) -> None:
    assert needed_min(limit(id_), temperature) == pytest.approx(minutes, rel=2e-3)


@pytest.mark.parametrize(
    ("topic", "temperature", "seconds"),
    [("heat.anisakis", 60, 60), ("heat.norovirus", 90, 90), ("heat.egg_whole", 60, 210), ("heat.egg_white", 56.7, 210)],
)
def test_plain_holds(topic: str, temperature: float, seconds: float) -> None:
    hold = targets_for(topic)[0].limit
    assert isinstance(hold, Hold)
    enough = Series(np.array([0.0, seconds]), np.full(2, temperature), closed=True)
    short = Series(np.array([0.0, seconds - 10]), np.full(2, temperature), closed=True)
    assert hold.evaluate(enough, seconds).state == "pass"
    assert hold.evaluate(short, seconds).state == "fail"


def test_every_target_has_a_source_and_no_credit_below_its_floor() -> None:
    for entry in targets():
        assert entry.limit.source.citation
        if isinstance(entry.limit, Lethality):
            law = entry.limit.model.law()
            assert law.rate(np.array([law.knots_c[0] - 0.1]))[0] == 0


def test_a_rule_set_may_borrow_a_target() -> None:
    assert rule_set("us").limit_for("cook.roast") == limit("salmonella-whole-6.5")
    assert rule_set("eu").limit_for("cook.poultry") == limit("listeria-p70")
    with pytest.raises(NotFoundError):
        targets_for("heat.nothing")


def test_two_z_values_need_a_floor_below() -> None:
    with pytest.raises(OutOfRangeError):
        law_from_two_z(90, 7, 10, 10, 90)
