"""Eggs, fish, jars, dates and instruments."""

from datetime import date, timedelta

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from brinefrost.core.errors import NotFoundError, OutOfRangeError
from brinefrost.core.kitchen.dates import Frozen, days_allowed, discard_date
from brinefrost.core.kitchen.eggs import egg_body, soft_boiled_s, white_state, yolk_state
from brinefrost.core.kitchen.fish import advisory, freezing_need, species, species_of
from brinefrost.core.kitchen.instruments import offset_at, slope_percent
from brinefrost.core.kitchen.jars import added_minutes, fate_of
from brinefrost.core.limits import Threshold
from brinefrost.core.physics.heating import Heating
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, target

FRIDAY = date(2026, 11, 20)


# Williams, The science of boiling an egg (published): 47, 57, 67 g from 4 °C about 4.0, 4.5, 5.05 min; 57 g from
# 21 °C 3.2 by the formula
@pytest.mark.parametrize(("grams", "start", "minutes"), [(47, 4, 4.0), (57, 4, 4.5), (67, 4, 5.05), (57, 21, 3.2)])
def test_soft_boiled(grams: float, start: float, minutes: float) -> None:
    assert soft_boiled_s(grams / 1000, start, 100) / 60 == pytest.approx(minutes, abs=0.05)


def test_two_minutes_ten_leaves_the_centre_cold() -> None:
    assert Heating(egg_body(0.06), 300, 4, 100).core_c(np.array([130.0]))[0] < 6


def test_states_of_white_and_yolk() -> None:
    assert [white_state(t) for t in (55, 63, 70, 85)] == ["runny", "just set", "set", "firm"]
    assert [yolk_state(t) for t in (60, 64, 66, 72)] == ["runny", "thick", "like wax or jam", "set"]
    for call in (lambda: egg_body(0.01), lambda: soft_boiled_s(0.06, 4, 60)):
        with pytest.raises(OutOfRangeError):
            call()


# Food Code 3-402.11 (published): exempt are molluscs, six tunas, farmed on feed with a letter; the EU exempts no tuna
@pytest.mark.parametrize(
    ("key", "origin", "set_id", "needed"),
    [
        ("arctic_char", "wild", "us", True),
        ("arctic_char", "farmed_feed", "us", False),
        ("arctic_char", "farmed_unknown", "eu", True),
        ("yellowfin_tuna", "wild", "us", False),
        ("yellowfin_tuna", "wild", "eu", True),
        ("skipjack", "wild", "us", True),
        ("scallop", "wild", "us", False),
        ("roe", "wild", "us", False),
    ],
)
def test_which_fish_must_be_frozen(key: str, origin: str, set_id: RuleSetId, needed: bool) -> None:
    assert freezing_need(species_of(key), origin, set_id).needed == needed  # type: ignore[arg-type]


def test_six_tunas_and_no_more() -> None:
    named = {each.latin.split()[1] for each in species().values() if each.tuna}
    assert named == {"alalunga", "albacares", "atlanticus", "maccoyii", "obesus", "thynnus"}
    with pytest.raises(NotFoundError):
        species_of("kraken")


@pytest.mark.parametrize("set_id", RULE_SET_IDS)
def test_guests_are_told(set_id: RuleSetId) -> None:
    assert "raw" in advisory(set_id)


# NCHFP (published, from memory): +5 min from 305 m, +10 from 1,830 m, to 2,440 m
@pytest.mark.parametrize(("altitude", "minutes"), [(0, 0), (300, 0), (1000, 5), (1830, 5), (2140, 10), (2440, 10)])
def test_altitude_adds_time_to_a_jar(altitude: float, minutes: int) -> None:
    assert added_minutes(altitude) == minutes
    with pytest.raises(OutOfRangeError):
        added_minutes(3000)


@pytest.mark.parametrize(
    ("contents", "cover", "storage", "ph", "heated", "fate"),
    [
        ("cooked_bean", "oil", "room", 6.2, True, "never"),
        ("garlic", "oil", "room", None, False, "never"),
        ("garlic", "oil", "fridge", 6.0, False, "fridge"),
        ("tomato", "oil", "room", 4.5, True, "scheduled"),
        ("cauliflower", "brine", "room", 5.2, True, "never"),
        ("cauliflower", "brine", "room", 3.8, True, "scheduled"),
        ("cauliflower", "brine", "room", 3.8, False, "fridge"),
        ("cauliflower", "brine", "fridge", 3.8, False, "fridge"),
        ("cauliflower", "brine", "fridge", None, False, "fridge"),
        ("fruit", "syrup", "room", 3.6, True, "scheduled"),
    ],
)
def test_what_becomes_of_a_jar(
    contents: str, cover: str, storage: str, ph: float | None, heated: bool, fate: str
) -> None:
    found = fate_of(contents, cover, storage, ph, heated, True, ph is not None and ph < 4.6)  # type: ignore[arg-type]
    assert found.fate == fate
    assert found.reason
    reused = fate_of(contents, cover, storage, ph, heated, False, ph is not None and ph < 4.6)  # type: ignore[arg-type]
    assert reused.fate != "scheduled" or cover == "oil"


# Food Code 3-501.17 (published): day made is day 1, seven days; freezing stops the count
def test_seven_days_with_the_day_it_was_made() -> None:
    found = discard_date("us", "open", FRIDAY, FRIDAY)
    assert found.last_day == date(2026, 11, 26)


def test_cook_chill_is_five_days_with_the_day_made_and_the_day_eaten() -> None:
    assert discard_date("uk", "cooked_sealed", FRIDAY, FRIDAY).last_day == date(2026, 11, 24)


@pytest.mark.parametrize("rules", RULE_SET_IDS)
def test_what_is_sour_through_has_the_days_that_a_plan_gives_it(rules: RuleSetId) -> None:
    """Food Code 1-201.10, table B: below pH 4.2 it needs no days; 60 are for quality."""
    assert discard_date(rules, "sour", FRIDAY, FRIDAY).last_day == date(2027, 1, 18)
    assert days_allowed(rules, "sour") == target("sour-days", Threshold)
    assert discard_date("uk", "vacuum", FRIDAY, FRIDAY).days_allowed == 10


def test_freezing_stops_the_count_and_parents_hand_theirs_on() -> None:
    frozen = (Frozen(since=date(2026, 11, 21), until=date(2026, 11, 24)),)
    today = date(2026, 11, 25)
    assert discard_date("us", "open", FRIDAY, today, frozen).last_day == date(2026, 11, 28)
    still = discard_date("us", "open", FRIDAY, today, (Frozen(since=date(2026, 11, 21)),))
    assert still.last_day is None
    oldest = discard_date("us", "open", FRIDAY, today, frozen, parents=(date(2026, 11, 26), date(2026, 11, 30)))
    assert oldest.last_day == date(2026, 11, 26)
    assert "oldest part" in oldest.because
    assert discard_date("us", "open", FRIDAY, today, own_days=3).last_day == date(2026, 11, 22)
    assert discard_date("us", "open", FRIDAY, today, own_days=30).days_allowed == 7  # only a stricter one counts


@pytest.mark.parametrize(
    "frozen",
    [
        (Frozen(since=date(2026, 11, 19)),),
        (Frozen(since=date(2026, 11, 23), until=date(2026, 11, 22)),),
        (Frozen(since=date(2026, 11, 21), until=date(2026, 11, 24)), Frozen(since=date(2026, 11, 22))),
    ],
)
def test_dates_that_contradict_each_other(frozen: tuple[Frozen, ...]) -> None:
    with pytest.raises(OutOfRangeError):
        discard_date("us", "open", FRIDAY, date(2026, 11, 25), frozen)
    with pytest.raises(OutOfRangeError):
        discard_date("us", "open", FRIDAY, FRIDAY - timedelta(days=1))


@settings(max_examples=60)
@given(gone=st.integers(0, 6), frozen=st.integers(0, 40), set_id=st.sampled_from(RULE_SET_IDS))
def test_longer_in_the_freezer_is_never_an_earlier_day(gone: int, frozen: int, set_id: RuleSetId) -> None:
    since = FRIDAY + timedelta(days=gone)
    until = since + timedelta(days=frozen)
    today = until + timedelta(days=1)
    rested = discard_date(set_id, "open", FRIDAY, today, (Frozen(since=since, until=until),)).last_day
    plain = discard_date(set_id, "open", FRIDAY, today).last_day
    assert rested is not None
    assert plain is not None
    assert timedelta(0) <= rested - plain <= timedelta(days=frozen)


# Nernst (published): 59.16 mV per pH at 25 °C; a perfect electrode between 7.00 and 4.01
@pytest.mark.parametrize("temperature", [10.0, 25.0, 40.0])
def test_a_perfect_electrode(temperature: float) -> None:
    ideal = 59.16 * (temperature + 273.15) / 298.15
    assert slope_percent(2.99 * ideal, 0.0, temperature) == pytest.approx(100)
    with pytest.raises(OutOfRangeError):
        slope_percent(100, 0, 25, 6.9, 7.0)


def test_fixed_points() -> None:
    """Steam tables and the standard atmosphere: 92.85 °C at 2,140 m (published), within 0.1."""
    assert offset_at(0.4, "ice", 0) == (0.0, pytest.approx(0.4))
    assert offset_at(92.4, "boiling", 2140)[0] == pytest.approx(92.85, abs=0.1)
    with pytest.raises(OutOfRangeError):
        offset_at(20, "tepid", 0)
