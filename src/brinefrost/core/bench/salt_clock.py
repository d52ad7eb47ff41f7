"""How long raw flesh may lie in salt, by how strong the salt in its water is."""

from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.steady import laid_end_to_end
from brinefrost.core.limits import Exposure, Verdict, exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.words import duration, say

RAW_CLOCKS = ("listeria", "salmonella")


RAW_DAYS_S = 7 * 86400.0  # raw flesh at 5 °C or below: Listeria's allowance, FDA guide appendix 4


CURED_PPM, CURED_SALT = 100.0, 2.0
CURE_S = 60 * 86400.0  # a cure with nitrite and salt by the rule, at 5 °C or below; common practice, no source


def raw_clock(question: SaltQuestion, phase: float) -> tuple[Exposure, Verdict, float]:
    """The clock of raw flesh while it is salted, and how long it allows at this temperature [s].

    Nothing counts for the salt until it is through; nitrite by the rule and salt together lengthen it to the days of
    a cure. Valid from 0 to 25 °C.
    """
    limits = [exposure_of(organism(key)) for key in RAW_CLOCKS]
    series = laid_end_to_end([(question.kept_c, question.duration_s)])
    cured = question.nitrite_ppm >= CURED_PPM and phase >= CURED_SALT and question.purpose != "season"
    allowed = [(limit, limit.allowed_s(question.kept_c)) for limit in limits]
    known = [(limit, span) for limit, span in allowed if span is not None]
    if cured:
        known = [(limit, CURE_S) for limit, _ in known]
    limit, within = min(known, key=lambda pair: pair[1], default=(limits[0], RAW_DAYS_S))
    within = min(within, CURE_S if cured else RAW_DAYS_S)
    verdict = limit.evaluate(series, question.duration_s)
    fits = question.duration_s <= within
    told = verdict.model_copy(update={"state": "pass" if fits else "fail"})
    if not fits:
        told = told.model_copy(
            update={
                "sentence": say(
                    "bench.salt.of_at_most", duration=duration(question.duration_s), within=duration(within)
                )
            }
        )
    return limit, told, within
