"""Lethality of the core curve against a target, by z-value or by table."""

from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field

from brinefrost.core.limits.base import LimitBase, LimitMark, Series, State, Verdict, unproved
from brinefrost.core.physics.body import Array
from brinefrost.core.physics.lethality import (
    FLOOR_C,
    RateLaw,
    goal_met_s,
    law_from_dz,
    law_from_table,
    law_from_two_z,
    lethality_min,
)
from brinefrost.core.words import bare, diff, duration, legal, mins, say, temp
from brinefrost.core.working import Document, Input, Working


class DzModel(Document):
    """Minutes at a reference temperature with one z-value."""

    kind: Literal["dz"] = "dz"
    reference_c: float
    z_c: float = Field(gt=0)
    goal_min: float = Field(gt=0)
    floor_c: float = FLOOR_C
    cap_c: float | None = None  # no more credit above: the highest temperature that was published

    def law(self) -> RateLaw:
        """As a rate law."""
        return law_from_dz(self.reference_c, self.z_c, self.goal_min, self.floor_c, self.cap_c)

    def words(self) -> str:
        """The formula as written."""
        most = "" if self.cap_c is None else say("working.lethality.no_more_credit_above", cap=legal(self.cap_c))
        return say(
            "working.lethality.f_10_t_dt_nothing_below",
            reference=bare(legal(self.reference_c)),
            z=bare(diff(self.z_c, "g")),
            floor=legal(self.floor_c),
            most=most,
        )


class TwoZModel(Document):
    """One z-value below the reference and another above it."""

    kind: Literal["two_z"] = "two_z"
    reference_c: float
    z_below_c: float = Field(gt=0)
    z_above_c: float = Field(gt=0)
    goal_min: float = Field(gt=0)
    floor_c: float
    cap_c: float | None = None

    def law(self) -> RateLaw:
        """As a rate law."""
        return law_from_two_z(self.reference_c, self.z_below_c, self.z_above_c, self.goal_min, self.floor_c, self.cap_c)

    def words(self) -> str:
        """The formula as written."""
        return say(
            "working.lethality.f_10_t_z_dt_z",
            reference=bare(legal(self.reference_c)),
            z_below=diff(self.z_below_c, "g"),
            z_above=diff(self.z_above_c, "g"),
            floor=legal(self.floor_c),
            more="" if self.cap_c is None else say("working.lethality.no_more_credit_above", cap=legal(self.cap_c)),
        )


class HoldingTime(Document):
    """One row of a table: this long at this temperature."""

    at_c: float
    minutes: float = Field(gt=0)


class TableModel(Document):
    """A published table of holding times; the reference row gives the unit."""

    kind: Literal["table"] = "table"
    reference_c: float
    rows: tuple[HoldingTime, ...] = Field(min_length=2, max_length=60)

    def law(self) -> RateLaw:
        """As a rate law."""
        return law_from_table(tuple((row.at_c, row.minutes) for row in self.rows), self.reference_c)

    def words(self) -> str:
        """The formula as written."""
        first, last = self.rows[0].at_c, self.rows[-1].at_c
        return say(
            "working.lethality.f_t_t_t_dt_t", reference=legal(self.reference_c), first=legal(first), last=legal(last)
        )


# rows are printed to three figures: held exactly for the printed time, a row meets itself
TOLERANCE = 2e-4
NO_CURVE = say("limits.lethality.no_core_curve_yet_attach_the")
LethalityModel = Annotated[DzModel | TwoZModel | TableModel, Field(discriminator="kind")]


class Lethality(LimitBase):
    """The core curve gathers at least the target's minutes at its reference temperature."""

    needs_curve: ClassVar[bool] = True
    by_time: ClassVar[bool] = True
    kind: Literal["lethality"] = "lethality"
    target: str
    log_reduction: float
    model: LethalityModel

    def stricter_by(self, other: LimitBase) -> list[float] | None:
        """How many minutes more it asks for, where both count by the same law; else nothing."""
        if not isinstance(other, Lethality):
            return None
        mine, theirs = self.model.law(), other.model.law()
        same = (mine.knots_c, mine.reference_c, mine.slopes) == (theirs.knots_c, theirs.reference_c, theirs.slopes)
        return [mine.goal_min - theirs.goal_min] if same else None

    def minutes(self, series: Series, guarded: bool = False) -> Array:
        """Minutes at the reference temperature up to each reading [min], (n,).

        Guarded, readings are lowered by their uncertainty. Valid for rising times; a gap longer than the series allows
        earns nothing.
        """
        values = series.values - (series.uncertainty if guarded else 0.0)
        return lethality_min(self.model.law(), series.times_s, values, series.longest_gap_s)

    def evaluate(self, series: Series, now_s: float) -> Verdict:
        """Judge the lethality gathered so far.

        Pass when the curve lowered by the uncertainty meets the goal; too close when only the curve as read does; fail
        when the step is over and it does not. Raises OutOfRangeError if the times of the series do not rise. Valid
        inside the model's own range; a temperature below its floor counts for nothing. ``series`` [°C], ``now_s`` [s].
        Bigelow (1921) for the integral; the limit's own source for the target; JCGM 106:2012, 8.3.
        """
        known, goal = series.until(now_s), self.model.law().goal_min
        at = say("limits.lethality.at_reference", reference=legal(self.model.reference_c))
        if len(known) < 2:
            return Verdict(
                state="not_measured",
                basis=series.basis,
                sentence=NO_CURVE,
                limit_value=goal,
                unit="min " + at,
                working=self.explain(known, 0.0, 0.0, goal),
            )
        nominal = self.minutes(known)
        lowered = self.minutes(known, guarded=True) if known.uncertainty else nominal
        gathered, guarded = float(nominal[-1]), float(lowered[-1])
        state = _state(gathered, guarded, goal, known.closed)
        short = say("limits.lethality.of_min", minutes=mins(gathered), minutes2=mins(goal), at=at)
        said = {
            "pass": say("limits.lethality.lethality_met", short=short, when=_when(known, lowered, goal)),
            "too_close": say(
                "limits.lethality.lethality_but_only_if_the_probe",
                short=short,
                minutes=mins(guarded),
                uncertainty=diff(known.uncertainty),
            ),
            "fail": say(
                "limits.lethality.lethality_not_met_the_core_reached",
                short=short,
                hottest=temp(float(np.max(known.values))),
            ),
            "pending": say("limits.lethality.lethality_so_far_core", short=short, values=temp(float(known.values[-1]))),
        }[state]
        found = Verdict(
            state=state,
            basis=series.basis,
            sentence=said,
            value=gathered,
            limit_value=goal,
            margin=gathered - goal,
            unit="min " + at,
            at_s=float(known.times_s[-1]),
            advice=() if state == "pass" else (say("limits.lethality.leave_it_in_the_bath_and"),),
            working=self.explain(known, gathered, guarded, goal),
        )
        if state == "fail" and self._across_silences(known) >= goal * (1 - TOLERANCE):
            return unproved(
                found, say("limits.lethality.nobody_read_it_for_longer_than", longest_gap=duration(known.longest_gap_s))
            )
        return found

    def _across_silences(self, series: Series) -> float:
        """What it would be if the silences had been read as straight, the one before the first reading too [min]."""
        whole = series.from_opening()
        return float(lethality_min(self.model.law(), whole.times_s, whole.values - series.uncertainty)[-1])

    def marks(
        self, series: Series, began_s: float, ended_s: float | None, now_s: float, state: State
    ) -> list[LimitMark]:
        """The floor of its table."""
        floor = self.model.law().knots_c[0]
        words = say("limits.lethality.no_credit_below", floor=temp(floor, "g"))
        return [LimitMark(label=words, value=floor, from_s=began_s, until_s=ended_s, state=state)]

    def gathered(self, series: Series) -> Array:
        """Minutes at the reference temperature so far."""
        return self.minutes(series)

    def met_at_s(self, series: Series, guarded: bool = False) -> float | None:
        """When the goal was met [s], or None.

        Valid as ``minutes``.
        """
        minutes, goal = self.minutes(series, guarded), self.model.law().goal_min
        if not len(minutes) or minutes[-1] < goal * (1 - TOLERANCE):
            return None
        return float(np.interp(goal, minutes, series.times_s))

    def rows_met_s(self, times_s: Array, rows: Array) -> Array:
        """When the goal was met on each of several computed curves [s], (m,). Valid as ``minutes``."""
        return goal_met_s(self.model.law(), times_s, rows)

    def explain(self, series: Series, gathered: float, guarded: float, goal: float) -> Working:
        """The integral with the values in it."""
        gaps = int(np.sum(np.diff(series.times_s) > series.longest_gap_s))
        return Working(
            title=self.title,
            formula=self.model.words(),
            inputs=(
                Input(
                    name=say("working.lethality.goal"),
                    value=round(goal, 3),
                    unit=say("working.lethality.min_at", reference=legal(self.model.reference_c)),
                ),
                Input(name=say("limits.composition.log_reduction"), value=self.log_reduction),
                Input(name=say("working.cooling.readings"), value=len(series)),
                Input(name=say("working.lethality.gaps_without_credit"), value=gaps),
                Input(name=say("working.cooling.uncertainty_k_2"), value=series.uncertainty, unit="K"),
            ),
            result=say("working.lethality.f_min_min_with_the_curve", minutes=mins(gathered), minutes2=mins(guarded)),
            source=self.source,
            assumptions=(
                say("working.come_up.the_probe_sits_in_the_coldest"),
                say("working.cooling.straight_between_readings"),
                *series.notes,
            ),
            valid_range=self.qualifier,
        )


def _state(gathered: float, guarded: float, goal: float, closed: bool) -> State:
    """Met where the readings lowered by their uncertainty meet it; too close where only the readings as read do."""
    enough = goal * (1 - TOLERANCE)
    if guarded >= enough:
        return "pass"
    if gathered >= enough:
        return "too_close"
    return "fail" if closed else "pending"


def _when(series: Series, minutes: Array, goal: float) -> str:
    opened = series.opened_s if series.opened_s is not None else float(series.times_s[0])
    return say(
        "limits.lethality.after_interp", interp=duration(float(np.interp(goal, minutes, series.times_s)) - opened)
    )
