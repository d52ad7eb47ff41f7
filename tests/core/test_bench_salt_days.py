"""How long raw flesh lies in salt on the Bench, and what a wet surface stays near in a smoke chamber."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from brinefrost.core.bench.salt import answer_salt
from brinefrost.core.bench.salt_clock import raw_clock
from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.smoke import answer_smoke
from brinefrost.core.bench.smoke_question import SmokeQuestion

DAY_S = 86400.0


@pytest.mark.parametrize(("days", "met"), [(6.9, True), (7, True), (7.1, False), (30, False)])
def test_seasoned_flesh_lies_seven_days(days: float, met: bool) -> None:
    """FDA Food Code 2022, 3-501.17: cold food is kept 7 days."""
    found = answer_salt(SaltQuestion(kept_c=4, duration_s=days * DAY_S, purpose="season", nitrite_ppm=0))
    assert (found.state == "would_meet") is met
    assert met or "lies 7 days at most" in found.sentence


@pytest.mark.parametrize(("days", "met"), [(59, True), (61, False)])
def test_a_cure_lies_sixty_days(days: float, met: bool) -> None:
    """Common practice, no source: with nitrite and salt by the rule; without nitrite it is seasoned flesh."""
    _, verdict, _ = raw_clock(SaltQuestion(duration_s=days * DAY_S, purpose="cure", nitrite_ppm=120), 3.0)
    assert (verdict.state == "pass") is met
    assert raw_clock(SaltQuestion(duration_s=days * DAY_S, purpose="cure", nitrite_ppm=0), 3.0)[1].state == "fail"


@given(kept_c=st.floats(0, 25), duration_s=st.floats(600, 120 * DAY_S), ppm=st.sampled_from([0.0, 150.0]))
def test_the_verdict_is_the_limits_and_the_time_it_names(kept_c: float, duration_s: float, ppm: float) -> None:
    question = SaltQuestion(kept_c=kept_c, duration_s=duration_s, purpose="cure", nitrite_ppm=ppm)
    _, verdict, within_s = raw_clock(question, 3.0)
    assert verdict.state == ("pass" if duration_s <= within_s else "fail")


@pytest.mark.parametrize(("chamber_c", "known"), [(80, True), (180, True), (250, False)])
def test_the_wet_bulb_lies_below_its_chamber_or_is_not_known(chamber_c: float, known: bool) -> None:
    """Up to 200 °C, as far as the vapour pressure is known; the number itself is held to psychrolib elsewhere."""
    question = SmokeQuestion(chamber_c=chamber_c, humidity_percent=10)
    figure = next(each for each in answer_smoke(question).figures if each.name == "wet_bulb")
    assert (figure.value is not None) is known
    assert figure.value is None or 0 < figure.value < chamber_c
    assert figure.absent
