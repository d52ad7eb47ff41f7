"""What a check of an instrument comes to: how far off it may be, and what its readings are good to from then on."""

import pytest

from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.kitchen.checking import checked, held_to, unit_of
from brinefrost.core.quantities import QUANTITIES, ReadingQuantity

PROBE: tuple[ReadingQuantity, ...] = ("core", "bath", "air")


@pytest.mark.parametrize(
    ("quantities", "left", "expected", "good"),
    [
        # Food Code 4-203.11(A): accurate to ±1 °C
        (PROBE, 0.9, 0.0, True),
        (PROBE, -1.0, 0.0, True),
        (PROBE, 1.1, 0.0, False),
        (PROBE, 92.0, 92.9, True),
        # the rest is common practice, no source
        (("ph",), 4.09, 4.01, True),
        (("ph",), 4.15, 4.01, False),
        (("aw",), 0.925, 0.920, True),
        (("aw",), 0.80, 0.92, False),  # 0.12 is nothing in °C and everything in aw
        (("salt",), 3.4, 3.0, True),
        (("salt",), 4.0, 3.0, False),
        (("mass",), 1.004, 1.0, True),
        (("mass",), 1.5, 1.0, False),
    ],
)
def test_an_instrument_may_be_so_far_off(
    quantities: tuple[ReadingQuantity, ...], left: float, expected: float, good: bool
) -> None:
    assert checked(quantities, left, expected, 0.001).good is good


def test_one_that_is_further_off_than_its_maker_says_is_good_to_that_only() -> None:
    found = checked(PROBE, 60.8, 60.0, 0.4)
    assert found.good
    assert found.error == pytest.approx(0.8)
    assert found.good_to == pytest.approx(0.8)
    assert checked(PROBE, 60.1, 60.0, 0.4).good_to == 0.4
    assert checked(PROBE, 57.0, 60.0, 0.4).good_to == pytest.approx(3.0)


@pytest.mark.parametrize("against", ["ice", "boiling"])
@pytest.mark.parametrize("quantity", ["ph", "salt", "aw", "mass"])
def test_a_fixed_point_tells_of_thermometers_alone(quantity: ReadingQuantity, against: str) -> None:
    with pytest.raises(OutOfRangeError, match="nothing of this instrument"):
        held_to((quantity,), against)  # type: ignore[arg-type]
    held_to(PROBE, against)  # type: ignore[arg-type]
    held_to((quantity,), "reference")


def test_a_buffer_tells_of_a_ph_meter_alone() -> None:
    held_to(("ph",), "buffers")
    with pytest.raises(OutOfRangeError):
        held_to(PROBE, "buffers")


def test_a_meter_from_before_that_reads_in_several_units_is_held_to_what_it_is_checked_by() -> None:
    """It was added as reading all three: a buffer tells of its pH, and is not judged by a water activity's 0.01."""
    old: tuple[ReadingQuantity, ...] = ("ph", "salt", "aw")
    assert held_to(old, "buffers") == ("ph",)
    assert held_to(old, "reference") == ("ph",)
    assert held_to(PROBE, "ice") == PROBE
    assert checked(held_to(old, "buffers"), 4.05, 4.01, 0.05).good


def test_one_instrument_reads_in_one_unit() -> None:
    assert unit_of(PROBE) == "°C"
    with pytest.raises(OutOfRangeError, match="one unit"):
        unit_of(("ph", "aw"))


@pytest.mark.parametrize("info", [each for each in QUANTITIES.values() if each.kit], ids=lambda info: info.key)
def test_what_is_usual_of_an_instrument_may_be_used_and_told_apart(info: object) -> None:
    """A new instrument with what is usual passes its check, and the last digit is finer than what it is good to."""
    each = QUANTITIES[info.key]  # type: ignore[attr-defined]
    assert 10.0**-each.decimals <= each.good_to <= each.most_off <= each.most_apart < each.far
