"""A batch on its plan's sheet: what was measured, where it goes from here, and how everything stands."""

from datetime import datetime

import numpy as np

from brinefrost.core.limits.forecast import SOON_S
from brinefrost.core.plans.balance import way_of
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.legs import Leg, lay_legs
from brinefrost.core.plans.lines import has_lines
from brinefrost.core.plans.once import once
from brinefrost.core.plans.sheet import room_of, share_of, sheet_of, thinned
from brinefrost.core.plans.sheet_lines import joined_sheet, laid_in_lines
from brinefrost.core.plans.sheet_parts import (
    Sheet,
    SheetCell,
    SheetCheck,
    SheetColumn,
    SheetCurve,
    SheetLimit,
    SheetRow,
    Standing,
    worst_standing,
)
from brinefrost.core.plans.sheet_rows import leading_clock, rows_of
from brinefrost.core.quantities import Quantity
from brinefrost.core.readings import reading_said
from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.by_way import by_way
from brinefrost.core.runs.exposure import brought_by
from brinefrost.core.runs.judging import Judgement, LimitStatus, met_steps, readings_of
from brinefrost.core.runs.measured import CURVE, measured_legs
from brinefrost.core.runs.schedule import Check, checks_of
from brinefrost.core.words import duration, say

LATE = 0.1  # of a column: a first reading later than this leaves a gap that the plan fills, dashed
SHOWN: tuple[Quantity, ...] = ("core", "ph", "salt", "aw")


def sheet_of_batch(batch: Batch, judgement: Judgement, now: datetime) -> Sheet:
    """Lay a batch out on its plan's sheet.

    Measured curves where there are readings, what is expected from the last of them on, the plan's own for steps
    ahead; limits, hazards and checks as they stand. Raises OutOfRangeError if a parameter lies outside the models'
    ranges. Valid for every batch. An organism's balance is worked out along what was measured, and along the plan
    where nothing was: it stays an estimate, and no limit is judged by it. As ``sheet_of`` and ``judge``.
    """
    if has_lines(batch.plan):
        ways = by_way(batch)
        laid = tuple(sheet_of_batch(each, judgement, now) for each in ways)
        sheet = joined_sheet(batch.plan, tuple(each.plan for each in ways), laid)
        return laid_in_lines(batch.plan, sheet).model_copy(update={"parts": _lay_out(batch.plan).parts})
    plan = batch.plan
    planned = _lay_out(plan)
    statuses: dict[str, list[LimitStatus]] = {}
    for status in judgement.statuses:
        statuses.setdefault(status.step, []).append(status)
    checks: dict[str, list[Check]] = {}
    for check in checks_of(batch, now):
        checks.setdefault(check.step, []).append(check)
    rows = planned.rows
    clocks: dict[str, list[float]] = {}
    legs: list[Leg] = []
    if not provable(plan):
        context, done = simulated(plan)
        legs = measured_legs(batch, lay_legs(plan, context, done), now, judgement)
        stands = {step: _standing(batch, found) for step, found in statuses.items()}
        rows, clocks = rows_of(
            plan, way_of(plan, legs, met_steps(judgement)) if legs else None, done, stands, brought_by(batch)
        )
        rows = tuple(_only_measured(batch, row, met_steps(judgement)) for row in rows)
    _, run = leading_clock(clocks, len(plan.steps))
    columns = tuple(
        _column(
            batch,
            column,
            statuses.get(column.step, []),
            checks.get(column.step, []),
            judgement,
            now,
            float(run[i]),
            legs[i] if legs else None,
        )
        for i, column in enumerate(planned.columns)
    )
    return planned.model_copy(update={"columns": columns, "rows": rows})


@once
def _lay_out(plan: Plan) -> Sheet:
    return sheet_of(plan)


def _only_measured(batch: Batch, row: SheetRow, met: frozenset[str]) -> SheetRow:
    """No kill is told of a step that was not measured: of one that ran or was passed over it says so, of one ahead that
    it is planned."""
    begun = [i for i, cell in enumerate(row.cells) if batch.span(cell.step).started]
    over = len(row.cells) if batch.closed else max(begun, default=-1)
    cells = tuple(_told_cell(batch, cell, i < over, met) for i, cell in enumerate(row.cells))
    if cells == row.cells:
        return row
    ahead = all(new == old or new.planned for new, old in zip(cells, row.cells, strict=True))
    balance = say("runs.sheet.planned", what=row.balance) if ahead and row.balance else ""
    return row.model_copy(update={"cells": cells, "balance": balance})


def _told_cell(batch: Batch, cell: SheetCell, over: bool, met: frozenset[str]) -> SheetCell:
    span = batch.span(cell.step)
    if not span.started and over:
        return cell.model_copy(update={"act": "none", "said": say("runs.sheet.not_done"), "amount": ""})
    if not span.started and cell.act in ("killed", "held"):
        return cell.model_copy(update={"said": say("runs.sheet.planned", what=cell.said), "planned": True})
    if cell.act == "killed" and len(readings_of(batch, cell.step, "core")) < CURVE:
        if cell.step in batch.validated and cell.step in met:
            return cell.model_copy(update={"said": say("runs.sheet.validated"), "amount": ""})
        return cell.model_copy(update={"act": "lives", "said": say("runs.sheet.not_measured"), "amount": ""})
    return cell


def _standing(batch: Batch, statuses: list[LimitStatus]) -> Standing:
    """How a step's limits stand: a forecast that misses counts as failing, what still runs as open."""
    found: list[Standing] = []
    for status in statuses:
        misses = status.verdict.state == "fail" or bool(status.forecast and status.forecast.misses)
        over = batch.span(status.step).finished is not None
        found.append(
            "fails" if misses else "meets" if status.verdict.state == "pass" else "not_proved" if over else "none"
        )
    if "fails" in found or "none" in found:
        return "fails" if "fails" in found else "none"
    return worst_standing(found)


def _column(
    batch: Batch,
    column: SheetColumn,
    statuses: list[LimitStatus],
    checks: list[Check],
    judgement: Judgement,
    now: datetime,
    exposed: float,
    leg: Leg | None,
) -> SheetColumn:
    span = batch.span(column.step)
    state = "done" if span.finished else "running" if span.started else "waiting"
    length = column.length_s
    if span.started:
        taken = ((span.finished or now) - span.started).total_seconds()
        length = max(taken, 60.0) if span.finished else max(taken, length)
    return column.model_copy(
        update={
            "length_s": length,
            "state": state,
            "standing": _standing(batch, statuses),
            "curves": tuple(_curves(batch, column, judgement, length, leg)),
            "exposed": round(exposed, 4),
            "limits": tuple(_limit(batch, status, column) for status in statuses) if statuses else column.limits,
            "checks": tuple(_check(batch, check) for check in checks) or column.checks,
        }
    )


def _curves(
    batch: Batch, column: SheetColumn, judgement: Judgement, length_s: float, leg: Leg | None
) -> list[SheetCurve]:
    began = batch.span(column.step).started
    if began is None:
        return [_as_it_comes(curve, leg) for curve in column.curves]
    found: list[SheetCurve] = []
    for quantity in SHOWN:
        series = readings_of(batch, column.step, quantity)
        if not len(series):
            found += [curve for curve in column.curves if curve.quantity == quantity]
            continue
        times = np.clip(series.times_s - began.timestamp(), 0.0, length_s)
        found += _before(column, quantity, float(times[0]), length_s)
        found.append(thinned(quantity, times, series.values, "measured"))
        found += _ahead(
            column, judgement, quantity, began.timestamp(), float(times[-1]), float(series.values[-1]), length_s, leg
        )
    return found


def _as_it_comes(curve: SheetCurve, leg: Leg | None) -> SheetCurve:
    """A step ahead as it will go by what was read so far, where that is another way than the plan's."""
    if leg is None or curve.quantity != "core" or not len(leg.core_c):
        return curve
    return thinned("core", leg.times_s, leg.core_c, curve.basis)


def _before(column: SheetColumn, quantity: Quantity, first_s: float, length_s: float) -> list[SheetCurve]:
    """As planned up to the first reading, where that came late."""
    plan = next((curve for curve in column.curves if curve.quantity == quantity), None)
    if plan is None or first_s < LATE * length_s:
        return []
    at = np.linspace(0.0, first_s, 30)
    return [thinned(quantity, at, np.interp(at, plan.times_s, plan.values), plan.basis)]


def _ahead(
    column: SheetColumn,
    judgement: Judgement,
    quantity: Quantity,
    began_s: float,
    last_s: float,
    last: float,
    length_s: float,
    leg: Leg | None,
) -> list[SheetCurve]:
    """From the last reading on: where the kind carries it; else the plan's way, moved to what was read."""
    if last_s >= length_s - 1.0:
        return []
    course = judgement.courses.get(column.step)
    if course is not None and course[0] == quantity:
        times = course[1].times_s - began_s
        keep = times <= length_s
        if np.any(keep):
            return [thinned(quantity, times[keep], course[1].expected[keep], "expected")]
    at = np.linspace(last_s, length_s, 30)
    if quantity == "core" and leg is not None and len(leg.core_c):
        return [thinned(quantity, at, np.interp(at, leg.times_s, leg.core_c), "computed")]
    plan = next((curve for curve in column.curves if curve.quantity == quantity), None)
    if plan is None:
        return []
    values = np.interp(at, plan.times_s, plan.values)
    values = values + (last - values[0])
    return [thinned(quantity, at, values, "computed")]


def _limit(batch: Batch, status: LimitStatus, column: SheetColumn) -> SheetLimit:
    before = next((limit for limit in column.limits if limit.id == status.limit.id), None)
    room = room_of(status.limit, status.verdict)
    waits = status.verdict.state in ("pending", "not_measured")
    ahead = status.forecast if status.forecast and (waits or status.forecast.misses) else None
    if ahead and ahead.misses:
        room = say("runs.sheet.will_miss")
    elif ahead and ahead.left_s is not None:
        soon = ahead.left_s < SOON_S
        room = say("runs.sheet.read_it_now") if soon else say("runs.sheet.there_in", left=duration(ahead.left_s))
    sentence = ahead.sentence if ahead else status.verdict.sentence
    planned = status.verdict.state in ("pending", "not_measured") and batch.is_ahead(status.step)
    if planned and before and before.room:
        room = say("runs.sheet.planned", what=before.room)
    return SheetLimit(
        id=status.limit.id,
        title=status.title,
        standing=_standing(batch, [status]),
        sentence=sentence,
        room=room or (say("runs.sheet.not_measured") if status.verdict.state == "not_measured" else sentence),
        share=share_of(status.verdict),
        marks=before.marks if before else (),
        quantity=status.limit.quantity,
        planned=planned,
    )


def _check(batch: Batch, check: Check) -> SheetCheck:
    reading = next((r for r in batch.readings if r.logged.reading == check.reading), None)
    return SheetCheck(
        what=check.what,
        quantity=check.quantity,
        offsets_s=(),
        every_s=None,
        who=check.who,
        critical=check.critical,
        state=check.state,
        value=reading_said(check.quantity, reading.logged.value) if reading else "",
    )
