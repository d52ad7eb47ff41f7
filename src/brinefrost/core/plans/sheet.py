"""The sheet: a plan as columns of steps, with the journey, every hazard's balance, limits and checks under them."""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType
from typing import Literal

import numpy as np

from brinefrost.core.food.catalogue import CatalogueHazard, catalogue
from brinefrost.core.limits import Lethality, Limit, LimitMark, Series, Verdict
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.balance import ENOUGH_LOG, FULL, MOST_LOG, Balance, Share, Way, balance_of, way_through
from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Hazard, Plan
from brinefrost.core.plans.journey import Leg
from brinefrost.core.plans.proof import LimitProof, Proof, prove
from brinefrost.core.plans.suggest import suggested_hazards
from brinefrost.core.plans.walk import context_at, context_of, provable, series_at, walked
from brinefrost.core.quantities import Quantity
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.base import Monitoring
from brinefrost.core.steps.state import Walk
from brinefrost.core.words import Message, Words, apart, duration, num, percent, say, temp
from brinefrost.core.working import Document

POINTS = 72  # of a column's curve
DECIMALS: dict[Quantity, int] = {"aw": 4}  # of a curve's values, where two are too few
TELLING_LOG = 0.05  # less growth or kill than this is not told
TELLING_SHARE = 0.02
LEAST_BROUGHT = 0.005  # of a clock, that parts brought
Act = Literal["none", "comes_in", "lives", "killed", "grows", "held", "clock", "other"]
Standing = Literal["meets", "fails", "not_proved", "none"]


class SheetCurve(Document):
    """A quantity through one column: times since the step began [s], its values in its own unit.

    ``basis`` says how it is known: measured, carried on from what was measured, computed, or only said by the plan.
    """

    quantity: Quantity
    times_s: tuple[float, ...]
    values: tuple[float, ...]
    basis: Literal["measured", "expected", "computed", "declared"]


class SheetCheck(Document):
    """What is measured at a step: the plan's own where it is critical, else what is usual there.

    In a batch it has a state, and what was last read.
    """

    what: Words
    quantity: str
    offsets_s: tuple[float, ...]
    every_s: float | None
    who: str
    critical: bool
    state: str = ""
    value: Words = ""


class SheetLimit(Document):
    """A limit with its room to spare. ``share`` is where the value lies between 0, far off, and 1; 0.5 is the limit."""

    id: str
    title: Words
    standing: Standing
    sentence: Words
    room: Words
    share: float | None
    marks: tuple[LimitMark, ...]
    quantity: Quantity


class SheetColumn(Document):
    """One step."""

    step: str
    name: Words
    length_s: float
    critical: bool
    standing: Standing
    curves: tuple[SheetCurve, ...]
    exposed: float  # share of the leading clock run by its end [-]
    limits: tuple[SheetLimit, ...]
    checks: tuple[SheetCheck, ...]
    findings: tuple[Words, ...]
    state: Literal["planned", "waiting", "running", "done"] = "planned"


class SheetCell(Document):
    """What happens to one hazard at one step."""

    step: str
    act: Act
    said: Words
    amount: Words = ""
    critical: bool = False
    open: bool = False  # a decision is wanted here
    standing: Standing = "none"


class SheetRow(Document):
    """One hazard through every step, with its balance at the end."""

    key: str
    name: Words
    type: str
    reason: Words
    taken: bool  # it is in the plan; else it is only suggested
    significant: bool
    balance: Words
    standing: Standing
    cells: tuple[SheetCell, ...]


class Sheet(Document):
    """All of it. It passes nothing: measurement decides."""

    state: Literal["meets", "fails", "not_proved", "empty"]
    sentence: Words
    columns: tuple[SheetColumn, ...]
    rows: tuple[SheetRow, ...]
    cold_c: float  # the growth zone lies between the rule set's own lines
    hot_c: float
    exposed_by: Words  # whose clock the bar is


def sheet_of(plan: Plan, proof: Proof | None = None) -> Sheet:
    """Lay a plan out.

    A column for each step and a row for each hazard; curves only where the plan can be walked. Raises OutOfRangeError
    if a parameter lies outside the models' ranges. Valid for every plan; what cannot be worked out is left empty, and
    says so in its sentence. As ``walk``, ``balance_of`` and each limit.
    """
    missing = provable(plan)
    context, done = walked(plan) if not missing else (None, Walk(None))
    way = way_through(plan) if context else None
    legs = way.legs if way else ()
    found = proof or (prove(plan) if context else None)
    judged: dict[str, list[LimitProof]] = {}
    for each in found.limits if found else ():
        judged.setdefault(each.step, []).append(each)
    rows, clocks = rows_of(plan, way, done, states_of(plan, judged))
    leading, run = leading_clock(clocks, len(plan.steps))
    columns = tuple(
        _column(plan, step, legs[index] if legs else None, done, judged.get(step.id, []), found, float(run[index]))
        for index, step in enumerate(plan.steps)
    )
    return Sheet(
        state=found.state if found else "empty",
        sentence=found.sentence if found else missing,
        columns=columns,
        rows=rows,
        cold_c=context_of(plan).rules.bound_for("hold.cold").value,
        hot_c=context_of(plan).rules.bound_for("hold.hot").value,
        exposed_by=organism(leading).name if leading else "",
    )


def _column(
    plan: Plan,
    step: Step,
    leg: Leg | None,
    done: Walk,
    judged: list[LimitProof],
    proof: Proof | None,
    exposed: float,
) -> SheetColumn:
    control = plan.control_of(step.id)
    limits = tuple(_limits(step, done, judged))
    found = [each for each in (proof.findings if proof else ()) if each.step == step.id]
    usual = kind_of(step).control(step, context_at(plan, step)) if control is None else None
    watched = control.monitoring if control else usual.monitoring if usual else ()
    return SheetColumn(
        step=step.id,
        name=step.name,
        length_s=leg.length_s if leg else kind_of(step).length_s(step),
        critical=control is not None or step.id in plan.critical_steps(),
        standing=worst_standing([*(limit.standing for limit in limits), *(each.state for each in found)]),
        curves=tuple(_curves(step, leg, done)),
        exposed=round(exposed, 4),
        limits=limits,
        checks=tuple(_check(each, control is not None) for each in watched),
        findings=tuple(each.sentence for each in found),
    )


def worst_standing(found: list[Standing]) -> Standing:
    """How several stand together; with none, nothing is asked. Valid for any number of them."""
    for each in ("fails", "not_proved"):
        if each in found:
            return each
    return "meets" if found else "none"


def _check(each: Monitoring, critical: bool) -> SheetCheck:
    return SheetCheck(
        what=each.what,
        quantity=each.quantity,
        offsets_s=each.offsets_s,
        every_s=each.every_s,
        who=each.who,
        critical=critical,
    )


def _curves(step: Step, leg: Leg | None, done: Walk) -> list[SheetCurve]:
    curves = []
    if leg is not None and len(leg.core_c):
        curves.append(thinned("core", leg.times_s, leg.core_c, "computed" if leg.computed else "declared"))
    for (step_id, quantity), series in done.other.items():
        if step_id == step.id and len(series) > 1 and quantity != "core":
            curves.append(thinned(quantity, series.times_s, series.values, "computed"))
    return curves


def thinned(
    quantity: Quantity,
    times_s: Array,
    values: Array,
    basis: Literal["measured", "expected", "computed", "declared"],
) -> SheetCurve:
    """A curve with as many points as a column shows; a few readings as they are. Valid for one point or more."""
    at = (
        times_s
        if len(times_s) <= POINTS
        else np.union1d(np.linspace(times_s[0], times_s[-1], POINTS), times_s[[0, -1]])
    )
    shown = np.interp(at, times_s, values)
    return SheetCurve(
        quantity=quantity,
        times_s=tuple(round(float(t), 1) for t in at),
        values=tuple(round(float(v), DECIMALS.get(quantity, 2)) for v in shown),
        basis=basis,
    )


def _limits(step: Step, done: Walk, proofs: list[LimitProof]) -> list[SheetLimit]:
    found = []
    for judged in proofs:
        begin, end = done.spans[step.id]
        series = series_at(step, judged.limit, done)
        known = series if series is not None and len(series) > 1 else Series.empty()
        marks = [
            _from_begin(mark, begin if len(known) and judged.limit.quantity == "core" else 0.0)
            for mark in judged.limit.marks(known, begin, end, end, judged.verdict.state)
        ]
        found.append(
            SheetLimit(
                id=judged.limit.id,
                title=judged.limit.title,
                standing=standing_of(judged.verdict),
                sentence=judged.verdict.sentence,
                room=room_of(judged.limit, judged.verdict),
                share=share_of(judged.verdict),
                marks=tuple(marks),
                quantity=judged.limit.quantity,
            )
        )
    return found


def _from_begin(mark: LimitMark, begin_s: float) -> LimitMark:
    """A mark on the walk's clock, on the column's own."""
    moved = {
        name: value - begin_s for name in ("by_s", "from_s", "until_s") if (value := getattr(mark, name)) is not None
    }
    return mark.model_copy(update=moved)


def standing_of(verdict: Verdict) -> Standing:
    """What a computed verdict says: it meets, fails, or proves nothing. Too close to call is no meeting.

    Valid for every verdict.
    """
    return "meets" if verdict.state == "pass" else "not_proved" if verdict.state == "not_measured" else "fails"


def room_of(limit: Limit, verdict: Verdict) -> Message | str:
    """The room to spare in the limit's own unit, or how far it misses.

    Valid for every verdict; nothing where there is no margin.
    """
    if verdict.margin is None or (verdict.margin >= 0 and standing_of(verdict) == "fails"):
        return ""
    far = abs(verdict.margin)
    if verdict.unit == "s" or (verdict.unit == "°C" and verdict.working is not None and _timed(verdict)):
        said: Message = duration(far)
    elif verdict.value is not None and verdict.limit_value and verdict.value > 0 and isinstance(limit, Lethality):
        return say("plans.sheet.gathered", gathered=num(verdict.value, ".0f"), goal=num(verdict.limit_value, ".3g"))
    else:
        said = apart(far, str(verdict.unit))
    if verdict.margin < 0 and verdict.state == "pending":
        return say("plans.sheet.to_go", amount=said)
    return say("plans.sheet.room", amount=said) if verdict.margin >= 0 else say("plans.sheet.short", amount=said)


def _timed(verdict: Verdict) -> bool:
    """A cooling verdict's margin is a time, though its value is a temperature."""
    value, bound = verdict.value, verdict.limit_value
    return verdict.margin is not None and (
        value is None or bound is None or abs(abs(value - bound) - abs(verdict.margin)) > 1e-6
    )


def share_of(verdict: Verdict) -> float | None:
    """Where a value lies on the little scale: 0.5 is the limit itself, more is room to spare.

    Valid for every verdict; None where there is no margin.
    """
    if verdict.margin is None or (verdict.margin >= 0 and standing_of(verdict) == "fails"):
        return None
    scale = abs(verdict.limit_value or 0.0) if verdict.unit not in ("°C", "s") and not _timed(verdict) else 0.0
    scale = scale or (10.0 if verdict.unit == "°C" and not _timed(verdict) else 3600.0)
    return round(float(0.5 + 0.5 * np.tanh(verdict.margin / scale)), 3)


def leading_clock(clocks: dict[str, list[float]], steps: int) -> tuple[str | None, Array]:
    """The organism whose clock runs furthest, and how far it has run by the end of each step [-].

    Valid for any number of clocks; without one nothing runs.
    """
    leading = max(clocks, key=lambda key: max(clocks[key], default=0.0), default=None)
    return leading, np.asarray(clocks[leading]) if leading else np.zeros(steps)


def rows_of(
    plan: Plan,
    way: Way | None,
    done: Walk,
    states: dict[str, Standing],
    brought: Mapping[str, float] = MappingProxyType({}),
) -> tuple[tuple[SheetRow, ...], dict[str, list[float]]]:
    """A row for each hazard along the legs, and each organism's clock by step.

    Valid for every plan; without legs nothing is worked out.
    """
    known = {each.key: each for each in catalogue().hazards}
    have = {hazard.key for hazard in plan.hazards}
    offered = [hazard for hazard in suggested_hazards(plan) if hazard.key not in have]
    rows, clocks = [], {}
    for hazard, taken in [(h, True) for h in plan.hazards] + [(h, False) for h in offered]:
        about = known.get(hazard.key)
        before = brought.get(str(about.organism), 0.0) if about else 0.0
        balance = balance_of(about, way, done, before) if about and way else None
        if about and about.organism and balance and hazard.significant:
            clocks[about.organism] = list(balance.clock or ())
        rows.append(_brought(_row(plan, hazard, about, balance, taken, states), before))
    order = {"biological": 0, "chemical": 1, "physical": 2, "allergen": 3}
    return tuple(sorted(rows, key=lambda row: (not row.taken, not row.significant, order[row.type]))), clocks


def _brought(row: SheetRow, share: float) -> SheetRow:
    """The row with what parts brought told where it begins."""
    if share < LEAST_BROUGHT or not row.cells:
        return row
    first = row.cells[0].model_copy(update={"said": say("plans.sheet.brings"), "amount": percent(100 * share)})
    return row.model_copy(update={"cells": (first, *row.cells[1:])})


def states_of(plan: Plan, judged: dict[str, list[LimitProof]]) -> dict[str, Standing]:
    """By critical step: how its limits stand by the proof. Valid for every plan."""
    return {
        control.step: worst_standing([standing_of(each.verdict) for each in judged.get(control.step, [])])
        if judged.get(control.step)
        else "not_proved"
        for control in plan.controls
    }


def _row(
    plan: Plan,
    hazard: Hazard,
    about: CatalogueHazard | None,
    balance: Balance | None,
    taken: bool,
    states: dict[str, Standing],
) -> SheetRow:
    shares = _told(plan, about, balance.shares) if balance else (None,) * len(plan.steps)
    cells = tuple(
        _cell(plan, step, hazard, about, share, states) for step, share in zip(plan.steps, shares, strict=True)
    )
    critical = [cell.standing for cell in cells if cell.critical]
    if hazard.significant and _toxin_made(balance, about):
        critical.append("fails")
    return SheetRow(
        key=hazard.key,
        name=hazard.name,
        type=hazard.type,
        reason=hazard.reason,
        taken=taken,
        significant=hazard.significant,
        balance=_balance_said(balance, about),
        standing=worst_standing(critical) if critical else "none",
        cells=cells,
    )


def _toxin_made(balance: Balance | None, about: CatalogueHazard | None) -> bool:
    """Whether its clock is full of what no heat undoes."""
    makes = about is not None and about.organism is not None and organism(about.organism).toxin
    return bool(makes and balance and balance.clock and balance.clock[-1] > FULL)


def _told(plan: Plan, about: CatalogueHazard | None, shares: tuple[Share, ...]) -> tuple[Share, ...]:
    """The shares as they are told: what is dead is not killed again, unless hands brought it back."""
    told, dead = [], 0.0
    for step, share in zip(plan.steps, shares, strict=True):
        if "handles" in kind_of(step).acts_of(step) and share.killed < ENOUGH_LOG:
            dead = 0.0  # hands may bring it back, unless it is still so hot that they cannot
        told.append(replace(share, killed=0.0, spent=True) if dead >= MOST_LOG else share)
        dead += share.killed
    return tuple(told)


def _balance_said(balance: Balance | None, about: CatalogueHazard | None) -> Message | str:
    if balance is None or about is None:
        return ""
    if balance.clock is not None and (about.key == "s-aureus" or _toxin_made(balance, about)):
        return say("plans.sheet.clock", share=percent(100 * min(balance.clock[-1], 9.99)))
    if balance.total <= -MOST_LOG + 0.5:
        return say("plans.sheet.nothing_left", log=num(MOST_LOG - 1))
    return say(
        "plans.sheet.balance",
        log=num(balance.total, "+.1f"),
        doubt=num(max(balance.doubt, 0.1), ".1f"),
    )


def _cell(
    plan: Plan,
    step: Step,
    hazard: Hazard,
    about: CatalogueHazard | None,
    share: Share | None,
    states: dict[str, Standing],
) -> SheetCell:
    decision = next((d for d in hazard.decisions if d.step == step.id), None)
    outcome = outcome_of(decision.tree, decision.answers) if decision and hazard.significant else ""
    critical = outcome == "ccp"
    act, said, amount = _happens(plan, step, about, share)
    if critical and act != "killed" and about and about.killed_by and "heats" in kind_of(step).acts:
        act, said, amount = "lives", say("plans.sheet.not_killed"), ""
    if not said and outcome == "not_ccp":
        act, said = "other", say("plans.sheet.by_practice")
    if not said and critical:
        act, said = "other", say("plans.sheet.controlled")
    return SheetCell(
        step=step.id,
        act=act,
        said=said,
        amount=amount,
        critical=critical,
        open=outcome == "open",
        standing=states.get(step.id, "not_proved") if critical else "none",
    )


def _happens(
    plan: Plan, step: Step, about: CatalogueHazard | None, share: Share | None
) -> tuple[Act, Message | str, Message | str]:
    """What an organism does at a step, in a word and a number."""
    kind, first = kind_of(step), plan.steps[0].id == step.id
    if about is None or share is None:
        return "none", "", ""
    if share.killed > TELLING_LOG:
        if share.killed >= MOST_LOG:
            return "killed", say("plans.sheet.killed"), say("plans.sheet.over_log", log=num(MOST_LOG - 1))
        return "killed", say("plans.sheet.killed"), say("plans.sheet.minus_log", log=num(share.killed, ".1f"))
    if share.spent and not ("keeps" in kind.acts and share.grown > TELLING_LOG):
        return "none", "", ""
    if "handles" in kind.acts and about.comes_with != "spores" and _after_heat(plan, step):
        return "comes_in", say("plans.sheet.by_hands"), say("plans.sheet.back_in")
    if share.grown > TELLING_LOG:
        return "grows", say("plans.sheet.grows"), say("plans.sheet.plus_log", log=num(share.grown, ".1f"))
    if first and about.comes_with != "hands":
        spores = about.comes_with == "spores"
        return "comes_in", say("plans.sheet.spores_come") if spores else say("plans.sheet.comes_in"), ""
    if share.clock > TELLING_SHARE:
        return "clock", say("plans.sheet.clock_runs"), percent(100 * min(share.clock, 9.99))
    if "heats" in kind.acts and about.comes_with == "spores":
        return "lives", say("plans.sheet.spores_live"), ""
    if (heated := kind.brings_to_c(step)) is not None:
        return "other", say("plans.sheet.heated_to", core=temp(heated, "g")), ""
    if about.organism is None:
        return "none", "", ""
    if share.held == "starter":
        return "held", say("plans.sheet.held_by_starter"), ""
    if share.held:
        return "held", say("plans.sheet.held_by_acid") if share.held == "acid" else say("plans.sheet.held_dry"), ""
    if "keeps" in kind.acts or "cools" in kind.acts:
        return "held", say("plans.sheet.held_by_cold"), ""
    if "acidifies" in kind.acts:
        return "held", say("plans.sheet.held_by_acid"), ""
    if first:
        return "comes_in", say("plans.sheet.on_hands"), ""
    return "none", "", ""


def _after_heat(plan: Plan, step: Step) -> bool:
    """Whether the food was heated before this step."""
    earlier = plan.steps[: plan.steps.index(step)]
    return any("heats" in kind_of(each).acts for each in earlier)
