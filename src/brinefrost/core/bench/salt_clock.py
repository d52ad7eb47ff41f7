"""How long raw flesh may lie in salt, by how strong the salt in its water is."""

from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.steady import laid_end_to_end
from brinefrost.core.limits import Limit, Series, Threshold, Verdict, exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.rules import target

RAW_CLOCKS = ("listeria", "salmonella")
CURED_PPM, CURED_SALT = 100.0, 2.0
CURE_DAYS = "cure-days"
DAY_S = 86400.0


def raw_clock(question: SaltQuestion, phase: float) -> tuple[Limit, Verdict, float]:
    """What ends first while raw flesh is salted, what it says, and how long it allows at this temperature [s].

    The days of seasoned flesh and its clocks: nothing counts for the salt until it is through; nitrite by the rule and
    salt together lengthen it to the days of a cure. Valid from 0 to 25 °C.
    """
    cured = question.nitrite_ppm >= CURED_PPM and phase >= CURED_SALT and question.purpose != "season"
    days = target(CURE_DAYS if cured else "seasoned-days", Threshold)
    known: list[tuple[Limit, float]] = [(days, days.value * DAY_S)]
    for limit in () if cured else (exposure_of(organism(key)) for key in RAW_CLOCKS):
        allowed = limit.allowed_s(question.kept_c)
        if allowed is not None:
            known.append((limit, allowed))
    first, within = min(known, key=lambda pair: pair[1])
    series = laid_end_to_end([(question.kept_c, question.duration_s)])
    if first is days:
        series = Series.of(question.duration_s / DAY_S, basis="computed")
    return first, first.evaluate(series, question.duration_s), within
