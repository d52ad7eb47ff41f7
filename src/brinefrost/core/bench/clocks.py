"""Growth and exposure: a dish's whole history on one clock, over steps and days."""

from typing import Literal

import numpy as np
from numpy.typing import NDArray

from brinefrost.core.bench.answer import (
    BenchAnswer,
    CurvePicture,
    Dial,
    DialPicture,
    Figure,
    SchoolAnswer,
    Table,
    Zone,
    line,
    planned,
    school,
    worst_of,
)
from brinefrost.core.bench.fields import field
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import Exposure, Series, Uncontrolled, Verdict, exposure_of
from brinefrost.core.microbes.growth import perfringens_log, seafood_relative_rate, storage_log
from brinefrost.core.microbes.organisms import grows_at, organism, organisms
from brinefrost.core.physics.body import Array
from brinefrost.core.rules import RULE_SET_IDS, RuleSetId, rule_set, targets_for
from brinefrost.core.working import Document, Input, Source, Working, clock

FoodClass = Literal[
    "cooked_meat", "ready_to_eat", "raw_fish", "raw_fish_frozen", "shellfish", "rice", "raw_meat", "sealed"
]
CHOSEN: dict[str, tuple[str, ...]] = {
    "cooked_meat": ("c_perfringens", "s_aureus", "listeria", "ready_to_eat"),
    "ready_to_eat": ("listeria", "s_aureus", "salmonella", "ready_to_eat"),
    "raw_fish": ("listeria", "v_parahaemolyticus", "ready_to_eat"),
    "raw_fish_frozen": ("listeria", "v_parahaemolyticus", "ready_to_eat"),
    "shellfish": ("v_parahaemolyticus", "listeria", "ready_to_eat"),
    "rice": ("b_cereus", "s_aureus", "ready_to_eat"),
    "raw_meat": ("salmonella", "e_coli", "s_aureus", "listeria"),
    "sealed": ("c_botulinum_a", "c_botulinum_b", "listeria", "ready_to_eat"),
}
# kept cold up to, kept hot from: FDA Food Code 2022, 3-501.16(A)
KEPT_UP_TO_C, HOT_FROM_C = 5.0, 57.0
KILLED_BY_COOKING = ("salmonella", "e_coli", "listeria", "v_parahaemolyticus")  # no toxin and no spores stay behind
COOKED_C = 75.0


class Span(Document):
    """A step: from one temperature to another over a time."""

    from_c: float = field("temperature", 5, -30, 110)
    to_c: float = field("temperature", 5, -30, 110)
    duration_s: float = field("time", 3600, 60, 60 * 86400, "h")


BRAISE = (
    Span(from_c=12, to_c=85, duration_s=2 * 3600),
    Span(from_c=85, to_c=85, duration_s=3 * 3600),
    Span(from_c=85, to_c=5, duration_s=7 * 3600),
    Span(from_c=5, to_c=5, duration_s=10 * 3600),
    Span(from_c=5, to_c=80, duration_s=1.5 * 3600),
    Span(from_c=80, to_c=5, duration_s=6 * 3600),
    Span(from_c=5, to_c=5, duration_s=14 * 3600),
    Span(from_c=5, to_c=78, duration_s=2 * 3600),
)


class ClocksQuestion(Document):
    """What a food is and what it went through."""

    food: FoodClass = field("choice", "cooked_meat", main=True)
    ph: float = field("ph", 6.2, 2, 9, step=0.1, main=True)
    aw: float = field("number", 0.985, 0.6, 1, "aw", 0.005, main=True)
    cooking: Literal["keeps", "resets"] = field("choice", "keeps")
    then_c: float = field("temperature", 20, -5, 60)
    rule_set: RuleSetId = field("choice", "us")
    spans: tuple[Span, ...] = field("rows", BRAISE, most=60, main=True)


def answer_clocks(question: ClocksQuestion) -> BenchAnswer:
    """Add up exposure and growth over every step.

    Parameters
    ----------
    question : ClocksQuestion
        Temperatures [°C], times [s], pH and water activity [-].

    Returns
    -------
    BenchAnswer
        The worst clock, each clock's share, estimated growth in store and while cooling, time without control.

    Raises
    ------
    OutOfRangeError
        If there is no step.

    Notes
    -----
    Valid for a food as a whole, by its slowest part. Time spent before a cook stays on the clock, the stricter
    school; the other resets the clocks of cells that a core of 75 °C kills, never those of toxins and spores.

    References
    ----------
    FDA, Fish and Fishery Products Hazards and Controls Guidance, appendix 4 and ch. 7; each limit carries its own.
    """
    times, temperature = _history(question)
    series = Series(times, temperature, 0.0, 0.0, True, np.inf, "computed")
    end = float(times[-1])
    limits = _limits(question)
    judged = [(limit, limit.evaluate(_since_cooked(series, limit, question), end)) for limit in limits]
    state = worst_of([planned(verdict.state) for _, verdict in judged])
    limit, worst = _telling(judged)
    in_zone = _zone_time_s(times, temperature)
    return BenchAnswer(
        state=state,
        sentence=f"{limit.title}: {worst.sentence}" if judged else "Nothing known grows at this pH and water activity.",
        reason=f"{clock(in_zone)} in all between {KEPT_UP_TO_C:g} and {HOT_FROM_C:g} °C, "
        f"over {len(question.spans)} steps.",
        fixes=() if state == "would_meet" else _fixes(),
        figures=(*_figures(question, times, temperature, in_zone), _left(question, judged)),
        pictures=(
            CurvePicture(
                title="history",
                x_kind="time",
                y_kind="temperature",
                lines=(line("food", "core", times, temperature),),
                zone=Zone(words="growth zone", low=KEPT_UP_TO_C, high=HOT_FROM_C),
                y_low=0,
            ),
            DialPicture(title="exposure", dials=tuple(_dial(limit, verdict) for limit, verdict in judged)),
        ),
        tables=(_steps(question, times, temperature, limits),),
        schools=tuple(_without_control(series, end)),
        workings=(*(verdict.working for _, verdict in judged[:4]), _growth_working()),
        caution="Clocks are for planning and for the lead's decision. Reheating takes no time off them.",
    )


def _telling(judged: list[tuple[Exposure, Verdict]]) -> tuple[Exposure, Verdict]:
    """The clock to speak of: the first that is full, in the order that matters for this food; else the fullest."""
    full = next((pair for pair in judged if pair[1].state == "fail"), None)
    return full or max(judged, key=lambda pair: pair[1].value or 0.0)


def _history(question: ClocksQuestion) -> tuple[Array, Array]:
    if not question.spans:
        raise OutOfRangeError("Add at least one step with its temperatures and time.")
    times, temperature, now = [0.0], [question.spans[0].from_c], 0.0
    for span in question.spans:
        if abs(span.from_c - temperature[-1]) > 1e-9:
            times.append(now + 1.0)
            temperature.append(span.from_c)
        now += span.duration_s
        cooling = span.to_c < span.from_c - 1
        for share in np.linspace(0, 1, 25)[1:]:
            # heating and cooling fade towards their end; a straight line would understate the time near it
            faded = share if not cooling else (1 - np.exp(-3 * share)) / (1 - np.exp(-3))
            at = now - span.duration_s * (1 - share)
            if at > times[-1]:
                times.append(at)
                temperature.append(span.from_c + (span.to_c - span.from_c) * float(faded))
    return np.array(times), np.array(temperature)


def _limits(question: ClocksQuestion) -> list[Exposure]:
    found = [
        exposure_of(organism(key)) for key in CHOSEN[question.food] if grows_at(organism(key), question.ph, question.aw)
    ]
    if question.food in ("raw_fish", "raw_fish_frozen"):
        entry = targets_for("fish.scombroid")[question.food == "raw_fish_frozen"]
        if isinstance(entry.limit, Exposure):
            found.append(entry.limit)
    return found or [exposure_of(organism("ready_to_eat"))]


def _since_cooked(series: Series, limit: Exposure, question: ClocksQuestion) -> Series:
    """The whole history; or, in the school where a cook resets the clock of cells, only what came after it."""
    cells = {f"exposure-{key.replace('_', '-')}" for key in KILLED_BY_COOKING}
    hot = np.flatnonzero(series.values >= COOKED_C)
    if question.cooking == "keeps" or limit.id not in cells or not len(hot) or hot[-1] > len(series) - 3:
        return series
    last = int(hot[-1])
    return Series(series.times_s[last:], series.values[last:], 0.0, None, True, np.inf, "computed")


def _zone_time_s(times: Array, temperature: Array) -> float:
    inside = (temperature[1:] > KEPT_UP_TO_C) & (temperature[:-1] < HOT_FROM_C) | (temperature[:-1] > KEPT_UP_TO_C) & (
        temperature[1:] < HOT_FROM_C
    )
    both = inside & (np.minimum(temperature[1:], temperature[:-1]) < HOT_FROM_C)
    return float(np.sum(np.diff(times)[both]))


def _dial(limit: Exposure, verdict: Verdict) -> Dial:
    return Dial(
        name=limit.title, used=(verdict.value or 0.0) / 100, words=verdict.working.result, state=planned(verdict.state)
    )


def _left(question: ClocksQuestion, judged: list[tuple[Exposure, Verdict]]) -> Figure:
    """How long it may still stand at a temperature before the first clock is full."""
    left = []
    for limit, verdict in judged:
        allowed = [band.within_s for band in limit.bands if band.from_c < question.then_c]
        if allowed and question.then_c <= limit.upper_c:
            left.append(max(0.0, 1 - (verdict.value or 0.0) / 100) * allowed[-1])
    return Figure(
        name="time_left",
        value=min(left) if left else None,
        kind="time",
        show="h",
        words=f"at {question.then_c:g} °C, by the first clock to fill",
        absent="no clock runs there",
    )


def _figures(question: ClocksQuestion, times: Array, temperature: Array, in_zone: float) -> tuple[Figure, ...]:
    found = [
        Figure(
            name="in_zone",
            value=in_zone,
            kind="time",
            show="h",
            main=True,
            low=0,
            high=8 * 3600,
            band_from=0,
            band_to=4 * 3600,
        )
    ]
    if question.food in ("cooked_meat", "sealed"):
        grown = float(perfringens_log(times, temperature)[-1])
        found.append(
            Figure(
                name="perfringens_log",
                value=round(min(grown, 6.0), 2),
                kind="number",
                show="log",
                words="while it cools and warms, as one history",
                low=0,
                high=3,
                band_from=0,
                band_to=1,
            )
        )
    for key in ("listeria", "b_cereus", "s_aureus", "salmonella"):
        model = organism(key).growth
        if key in CHOSEN[question.food] and model:
            grown = float(storage_log(model, times, temperature, question.ph, question.aw)[-1])
            found.append(
                Figure(
                    name=f"{key}_log",
                    value=round(min(grown, 6.0), 2),
                    kind="number",
                    show="log",
                    words="estimate, fast side",
                    low=0,
                    high=3,
                    band_from=0,
                    band_to=1,
                )
            )
    if question.food in ("raw_fish", "shellfish", "raw_fish_frozen"):
        mean = float(np.average((temperature[1:] + temperature[:-1]) / 2, weights=np.diff(times)))
        if -5 <= mean <= 20:
            found.append(
                Figure(
                    name="spoils",
                    value=round(seafood_relative_rate(mean), 2),
                    kind="number",
                    show="× as at 0 °C",
                    words=f"at {mean:.1f} °C on average",
                )
            )
    return tuple(found)


def _steps(question: ClocksQuestion, times: Array, temperature: Array, limits: list[Exposure]) -> Table:
    rows, now, begun = [], 0.0, 0.0
    for index, span in enumerate(question.spans, start=1):
        now += span.duration_s
        keep = times <= now + 1e-6
        used = [100 * float(limit.used(Series(times[keep], temperature[keep]))[-1]) for limit in limits]
        rows.append(
            (
                f"{index}",
                f"{span.from_c:g} → {span.to_c:g} °C",
                clock(span.duration_s),
                f"{max(used) - begun:.0f} %",
                f"{max(used):.0f} %",
            )
        )
        begun = max(used)
    return Table(title="Step by step", head=("Step", "", "Time", "Adds", "Worst clock so far"), rows=tuple(rows))


def _without_control(series: Series, end: float) -> list[SchoolAnswer]:
    """How each rule set's plain clock would judge the longest stretch out of control."""
    out = series.values > KEPT_UP_TO_C
    hot = series.values >= HOT_FROM_C
    stretch = _longest(series.times_s, out & ~hot)
    if stretch is None:
        return []
    first, last = stretch
    part = Series(
        series.times_s[first : last + 1],
        series.values[first : last + 1],
        0.0,
        float(series.times_s[first]),
        True,
        np.inf,
        "computed",
    )
    found = []
    for set_id in RULE_SET_IDS:
        limit = rule_set(set_id).limit_for("time.uncontrolled")
        if isinstance(limit, Uncontrolled):
            found.append(school(f"{set_id.upper()}, longest stretch", limit, limit.evaluate(part, end)))
    return found


def _longest(times: Array, inside: NDArray[np.bool_]) -> tuple[int, int] | None:
    best, since = None, None
    for i, flag in enumerate([*inside, False]):
        if flag and since is None:
            since = i
        if not flag and since is not None:
            if best is None or times[i - 1] - times[since] > times[best[1]] - times[best[0]]:
                best = (since, i - 1)
            since = None
    return best if best and best[1] > best[0] else None


def _fixes() -> tuple[str, ...]:
    return (
        "Cool in shallow pans or an ice bath each time: every chill is its own control.",
        "Cook once, portion, and reheat only what is served.",
        "What has already been spent cannot be taken back: hold it and let the lead decide.",
    )


def _growth_working() -> Working:
    return Working(
        title="Growth in store and while cooling",
        formula="µ = µbest γ(T) γ(pH) γ(aw); ln(N/N0) = ln((1 + q0 e^∫µdt) / (1 + q0))",
        inputs=(Input(name="organisms", value=", ".join(o.name for o in organisms().values() if o.growth)),),
        result="",
        source=Source(
            citation="Rosso et al. 1993, 1995; Zwietering et al. 1992; Baranyi & Roberts 1994; values from memory",
            tag="published_from_memory",
        ),
        assumptions=("no competing flora", "fast side", "cooling fades towards its end"),
    )
