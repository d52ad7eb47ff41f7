"""A dish's whole history on one clock."""

from dataclasses import dataclass

import numpy as np

from brinefrost.core.bench.answer import (
    AnswerState,
)
from brinefrost.core.bench.clocks_question import (
    BLINK_S,
    COOKED_C,
    HEATED_C,
    HOT_FROM_C,
    KILLED_BY_COOKING,
    RAW,
    ClocksQuestion,
    StepKind,
)
from brinefrost.core.errors import OutOfRangeError
from brinefrost.core.limits import (
    Exposure,
    Limit,
    Series,
    TimeAbove,
    Verdict,
)
from brinefrost.core.physics.body import Array
from brinefrost.core.words import say


@dataclass(frozen=True)
class Part:
    """One thing judged: a clock over all the handling, or one fall or one rise."""

    name: str
    limit: Limit
    verdict: Verdict
    state: AnswerState


@dataclass(frozen=True)
class History:
    """The food's temperature over all steps, and what each step was: a fall from hot, a rise through, or handling."""

    times: Array
    temperature: Array
    kinds: tuple[StepKind, ...]  # one a span
    ends_s: tuple[float, ...]

    def of(self, index: int) -> tuple[Array, Array]:
        """Times [s] and temperatures [°C] of one step, (n,).

        Valid for every step.
        """
        begin = self.ends_s[index - 1] if index else 0.0
        keep = (self.times >= begin - 1e-6) & (self.times <= self.ends_s[index] + 1e-6)
        if index and len(self.times[keep]) > 1 and self.times[keep][1] - begin <= 1.0 + 1e-6:
            keep &= self.times > begin + 0.5  # a jump between two steps belongs to neither
        return self.times[keep], self.temperature[keep]


def history_of(question: ClocksQuestion) -> History:
    if not question.spans:
        raise OutOfRangeError(say("bench.clocks.add_at_least_one_step_with"))
    times, temperature, now = [0.0], [question.spans[0].from_c], 0.0
    kinds: list[StepKind] = []
    ends: list[float] = []
    for i, span in enumerate(question.spans):
        kinds.append(_kind(question, i, kinds))
        if abs(span.from_c - temperature[-1]) > 1e-9:
            times.append(now + 1.0)
            temperature.append(span.from_c)
        now += span.duration_s
        ends.append(now)
        cooling = span.to_c < span.from_c - 1
        for share in np.linspace(0, 1, 25)[1:]:
            # heating and cooling fade towards their end; a straight line would understate the time near it
            faded = share if not cooling else (1 - np.exp(-3 * share)) / (1 - np.exp(-3))
            at = now - span.duration_s * (1 - share)
            if at > times[-1]:
                times.append(at)
                temperature.append(span.from_c + (span.to_c - span.from_c) * float(faded))
    return History(np.array(times), np.array(temperature), tuple(kinds), tuple(ends))


def _kind(question: ClocksQuestion, index: int, before: list[StepKind]) -> StepKind:
    """What a step is: a fall goes on through steps that fall further in the same pot; raw food only rises."""
    span = question.spans[index]
    if span.from_c < HEATED_C <= span.to_c or (span.from_c >= HEATED_C and span.to_c >= HEATED_C):
        return "hot"
    falling = span.to_c < span.from_c - 0.5
    if question.food in RAW or not falling:
        return "handled"
    if span.from_c >= HOT_FROM_C - 1e-9 or span.from_c >= HEATED_C:
        return "fall"
    follows = index > 0 and before[-1] == "fall" and abs(question.spans[index - 1].to_c - span.from_c) < 1.0
    return "fall" if follows else "handled"


def since_of(question: ClocksQuestion, history: History, limit: Exposure | TimeAbove) -> int:
    """The first step that counts: all of them, or those after a cook that killed the cells."""
    cells = {f"exposure-{key.replace('_', '-')}" for key in KILLED_BY_COOKING}
    if question.cooking == "keeps" or limit.id not in cells:
        return 0
    cooked = [i for i, span in enumerate(question.spans) if max(span.from_c, span.to_c) >= COOKED_C]
    return cooked[-1] if cooked else 0


def handled_of(history: History, first: int = 0) -> Series:
    """The steps in which it lay or was handled, laid end to end; a fall and a rise through are judged by themselves."""
    times: list[float] = []
    values: list[float] = []
    now = 0.0
    for i, kind in enumerate(history.kinds):
        if kind != "handled" or i < first:
            continue
        at, temperature = history.of(i)
        times += [float(t - at[0]) + now + (BLINK_S if times else 0.0) for t in at]
        values += [float(t) for t in temperature]
        now = times[-1]
    return Series(np.array(times), np.array(values), 0.0, None, True, np.inf, "computed")


def stretches(history: History) -> list[tuple[int, int]]:
    """First and last step of each fall, what follows it included until the food is heated again."""
    found: list[tuple[int, int]] = []
    i = 0
    while i < len(history.kinds):
        if history.kinds[i] != "fall":
            i += 1
            continue
        j = i
        while j + 1 < len(history.kinds) and not _heated_at(history, j + 1):
            j += 1
        found.append((i, j))
        i = j + 1
    return found


def _heated_at(history: History, index: int) -> bool:
    """Whether a step heats it again, or begins hot where the one before ended cold."""
    if history.kinds[index] == "hot":
        return True
    ended, begins = history.of(index - 1)[1], history.of(index)[1]
    return bool(len(ended) and len(begins) and ended[-1] < HEATED_C <= begins[0])
