"""The sheet's rows: each hazard along the steps, what it does there and what is left of it in the end."""

from collections.abc import Mapping
from dataclasses import replace
from types import MappingProxyType

import numpy as np

from brinefrost.core.food.catalogue import CatalogueHazard, catalogue
from brinefrost.core.limits import exposure_of
from brinefrost.core.microbes.organisms import organism
from brinefrost.core.physics.body import Array
from brinefrost.core.plans.balance import ENOUGH_LOG, MOST_LOG, TELLING_SHARE, Balance, Share, Way, balance_of
from brinefrost.core.plans.decisions import outcome_of
from brinefrost.core.plans.document import Hazard, Plan
from brinefrost.core.plans.parts import own_entries_of, tags_from
from brinefrost.core.plans.proof import LimitProof
from brinefrost.core.plans.sheet_parts import (
    Act,
    SheetCell,
    SheetRow,
    Standing,
    standing_of,
    worst_standing,
)
from brinefrost.core.plans.suggest import suggested_hazards
from brinefrost.core.steps import Step, kind_of
from brinefrost.core.steps.state import Course
from brinefrost.core.words import Message, num, percent, say, temp
from brinefrost.core.working import Working

TELLING_LOG = 0.05  # less growth or kill than this is not told
LEAST_BROUGHT = 0.005  # of a clock, that parts brought


def leading_clock(clocks: dict[str, list[float]], steps: int) -> tuple[str | None, Array]:
    """The organism whose clock runs furthest, and how far it has run by the end of each step [-].

    Valid for any number of clocks; without one nothing runs.
    """
    leading = max(clocks, key=lambda key: max(clocks[key], default=0.0), default=None)
    return leading, np.asarray(clocks[leading]) if leading else np.zeros(steps)


def rows_of(
    plan: Plan,
    way: Way | None,
    done: Course,
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
            clocks[about.organism] = list(balance.clock.so_far) if balance.clock else []
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
    shares = _tell(plan, hazard, balance.shares) if balance else (None,) * len(plan.steps)
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
        working=_clock_working(balance, about),
    )


def _clock_working(balance: Balance | None, about: CatalogueHazard | None) -> Working | None:
    """How its clock adds up, where there is any to tell of."""
    if about is None or about.organism is None or balance is None or balance.clock is None:
        return None
    told = balance.clock.so_far[-1] > TELLING_SHARE or any(run > TELLING_SHARE for run in balance.clock.shares)
    return balance.clock.working(organism(about.organism)) if told else None


def _toxin_made(balance: Balance | None, about: CatalogueHazard | None) -> bool:
    """Whether its clock is full of what no heat undoes."""
    if about is None or about.organism is None or balance is None or balance.clock is None:
        return False
    makes = organism(about.organism)
    return makes.toxin and exposure_of(makes).used_up(balance.clock.so_far[-1])


def _tell(plan: Plan, hazard: Hazard, shares: tuple[Share, ...]) -> tuple[Share, ...]:
    """The shares as they are told: what is dead is not killed again, unless hands brought it back; where its kill is
    critical it is told there, whatever came before."""
    told, dead = [], 0.0
    critical = {each.step for each in hazard.decisions if outcome_of(each.tree, each.answers) == "ccp"}
    for step, share in zip(plan.steps, shares, strict=True):
        if "handles" in kind_of(step).acts(step) and share.lethal < ENOUGH_LOG:
            dead = 0.0  # hands may bring it back, unless it is still so hot that they cannot
        told.append(replace(share, killed=0.0, spent=True) if dead >= MOST_LOG and step.id not in critical else share)
        dead += share.killed
    return tuple(told)


def _balance_said(balance: Balance | None, about: CatalogueHazard | None) -> Message | str:
    if balance is None or about is None:
        return ""
    if balance.clock is not None and (about.key == "s-aureus" or _toxin_made(balance, about)):
        return say("plans.sheet.clock", share=percent(100 * min(balance.clock.so_far[-1], 9.99)))
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
    if critical and act != "killed" and about and about.killed_by and "heats" in kind_of(step).acts(step):
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
    kind, first = kind_of(step), step.id in _brought_at(plan, about)
    acts = kind.acts(step)
    if about is None or share is None:
        return "none", "", ""
    if share.killed > TELLING_LOG:
        if share.killed >= MOST_LOG:
            return "killed", say("plans.sheet.killed"), say("plans.sheet.over_log", log=num(MOST_LOG - 1))
        return "killed", say("plans.sheet.killed"), say("plans.sheet.minus_log", log=num(share.killed, ".1f"))
    if share.spent and not ("keeps" in acts and share.grown > TELLING_LOG):
        return "none", "", ""
    if not first and "handles" in acts and about.comes_with != "spores" and _after_heat(plan, step):
        return "comes_in", say("plans.sheet.by_hands"), say("plans.sheet.back_in")
    if share.grown > TELLING_LOG:
        return "grows", say("plans.sheet.grows"), say("plans.sheet.plus_log", log=num(share.grown, ".1f"))
    if first and about.comes_with != "hands":
        spores = about.comes_with == "spores"
        return "comes_in", say("plans.sheet.spores_come") if spores else say("plans.sheet.comes_in"), ""
    if share.clock > TELLING_SHARE:
        return "clock", say("plans.sheet.clock_runs"), percent(100 * min(share.clock, 9.99))
    if "heats" in acts and about.comes_with == "spores":
        return "lives", say("plans.sheet.spores_live"), ""
    if (heated := kind.brings_to_c(step)) is not None:
        return "other", say("plans.sheet.heated_to", core=temp(heated, "g")), ""
    if about.organism is None:
        return "none", "", ""
    if share.held == "starter":
        return "held", say("plans.sheet.held_by_starter"), ""
    if share.held:
        return "held", say("plans.sheet.held_by_acid") if share.held == "acid" else say("plans.sheet.held_dry"), ""
    if "keeps" in acts or "cools" in acts:
        return "held", say("plans.sheet.held_by_cold"), ""
    if "acidifies" in acts:
        return "held", say("plans.sheet.held_by_acid"), ""
    if first:
        return "comes_in", say("plans.sheet.on_hands"), ""
    return "none", "", ""


def _brought_at(plan: Plan, about: CatalogueHazard | None) -> set[str]:
    """The steps at which a hazard comes in: where a part goes in that brings it, else the first."""
    brings = frozenset(about.tags) if about and about.comes_with != "hands" else frozenset[str]()
    found = {plan.steps[at].id for at, part in own_entries_of(plan).items() if tags_from(part, plan.rule_set) & brings}
    return found or {plan.steps[0].id}


def _after_heat(plan: Plan, step: Step) -> bool:
    """Whether the food was heated before this step."""
    earlier = plan.steps[: plan.steps.index(step)]
    return any("heats" in kind_of(each).acts(each) for each in earlier)
