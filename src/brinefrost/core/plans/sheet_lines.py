"""A dish of several lines on one sheet: every way laid out by itself, and joined column by column and row by row."""

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.lines import has_lines
from brinefrost.core.plans.parts import entries_of
from brinefrost.core.plans.sheet_parts import (
    Act,
    Sheet,
    SheetCell,
    SheetColumn,
    SheetLimit,
    SheetRow,
    Standing,
    worst_standing,
)
from brinefrost.core.plans.suggest import suggested_hazards

# of what one organism does at a step where lines have met, the one that is told: the worst first
TOLD: tuple[Act, ...] = ("grows", "lives", "comes_in", "clock", "killed", "held", "other", "none")
WORST: tuple[Standing, ...] = ("fails", "not_proved", "meets", "none")


def laid_in_lines(plan: Plan, sheet: Sheet) -> Sheet:
    """A sheet with the line of each column, and what runs and goes into it. Valid for a column for each step.

    What goes in at the first step is told there only where there are other lines to tell it from.
    """
    entries = entries_of(plan)
    columns = tuple(
        column.model_copy(
            update={
                "line": step.line,
                "takes": step.takes,
                "out_of": step.out_of,
                "goes_in": tuple(item.name for item in entries.get(i, ())) if i or has_lines(plan) else (),
            }
        )
        for i, (column, step) in enumerate(zip(sheet.columns, plan.steps, strict=True))
    )
    return sheet.model_copy(update={"columns": columns})


def joined_sheet(plan: Plan, ways: tuple[Plan, ...], sheets: tuple[Sheet, ...]) -> Sheet:
    """One sheet of all ways of a plan: its columns in the plan's order, a row for each hazard of any way.

    State, sentence and lines are the first's. Valid for one sheet or more, each of the way at its place.
    """
    if len(sheets) == 1:
        return sheets[0]
    columns = tuple(_column([c for sheet in sheets for c in sheet.columns if c.step == step.id]) for step in plan.steps)
    keys = dict.fromkeys(row.key for sheet in sheets for row in sheet.rows)
    raised = [{hazard.key for hazard in suggested_hazards(way)} for way in ways]
    rows = [_row(plan, _rows_of(key, raised, sheets)) for key in keys]
    order = {hazard.key: i for i, hazard in enumerate(plan.hazards)}
    types = {"biological": 0, "chemical": 1, "physical": 2, "allergen": 3}
    rows.sort(key=lambda row: (not row.taken, not row.significant, types[row.type], order.get(row.key, len(order))))
    return sheets[0].model_copy(update={"columns": columns, "rows": tuple(rows)})


def _column(found: list[SheetColumn]) -> SheetColumn:
    """One step as all ways through it have it: each limit as it stands worse, the clock that has run further."""
    limits: dict[str, SheetLimit] = {}
    for limit in (limit for column in found for limit in column.limits):
        known = limits.get(limit.id)
        if known is None or WORST.index(limit.standing) < WORST.index(known.standing):
            limits[limit.id] = limit
    return found[0].model_copy(
        update={
            "limits": tuple(limits.values()),
            "standing": worst_standing([each.standing for each in found if each.standing != "none"]),
            "exposed": max(each.exposed for each in found),
            "findings": tuple(dict.fromkeys(said for each in found for said in each.findings)),
        }
    )


def _rows_of(key: str, raised: list[set[str]], sheets: tuple[Sheet, ...]) -> list[SheetRow]:
    """A hazard's rows on the ways that raise it; on all where none does, since somebody put it there."""
    own = [sheet for keys, sheet in zip(raised, sheets, strict=True) if key in keys]
    return [row for sheet in own or sheets for row in sheet.rows if row.key == key]


def _row(plan: Plan, found: list[SheetRow]) -> SheetRow:
    """One hazard through every step: told by the way on which it stands worst."""
    worst = min(found, key=lambda row: (WORST.index(row.standing), not row.balance))
    cells = {
        step.id: min(
            (cell for row in found for cell in row.cells if cell.step == step.id),
            key=lambda cell: (not cell.critical, WORST.index(cell.standing), TOLD.index(cell.act)),
            default=SheetCell(step=step.id, act="none", said=""),
        )
        for step in plan.steps
    }
    return worst.model_copy(update={"cells": tuple(cells.values())})
