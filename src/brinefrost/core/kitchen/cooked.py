"""A cooked food before its own rule set: which line it answers to, and what its whole curve did, up and down."""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from brinefrost.core.kitchen.lines import Animal, PieceState, lines_of, more_lines, tags_of
from brinefrost.core.limits import ComeUp, Cooling, Growth, Hold, Lethality, Limit, Series, Verdict
from brinefrost.core.rules import RuleEntry, RuleSetId, rule_set, targets_for
from brinefrost.core.words import bare, duration, legal, say, temp

Guests = Literal["general", "higher_risk"]
RARE: tuple[Animal, ...] = ("beef", "fish", "game")  # served undercooked to order, with an advisory
TRICHINELLA: tuple[Animal, ...] = ("pork", "wild_boar")
NEARLY_K = 1.0  # a core this little below its hottest counts as still hot


@dataclass(frozen=True)
class Judged:
    """One limit of a rule set, how it judged, and why it was asked."""

    why: Literal["line", "way_up", "way_down", "growth", "trichinella", "pathogen"]
    limit: Limit
    verdict: Verdict


def judge_cook(
    rule_set_id: RuleSetId,
    animal: Animal,
    piece: PieceState,
    series: Series,
    uncured: bool = True,
    approved: bool = False,
) -> tuple[Judged, ...]:
    """Everything a rule set says of one core curve: its line, the way up and the way down.

    Parameters
    ----------
    rule_set_id : str
        ``us``, ``uk``, ``eu`` or ``anz``.
    animal, piece : str
        What it is, and whether its inside was ever outside.
    series : Series
        Core temperatures [°C] over the whole history, (n,).
    uncured : bool
        Without nitrite and salt that hold *C. perfringens* back.
    approved : bool
        By the line an approved plan allows, where the rule set has one.

    Returns
    -------
    tuple of Judged
        The rule set's line, bivalves' own, *Trichinella* for pork and boar, the come-up, and the fall where the curve
        falls from hot.

    Raises
    ------
    OutOfRangeError
        If the times of the series do not rise.

    Notes
    -----
    Valid for food that is cooked; the core of what is filled is the centre of the filling.

    References
    ----------
    Each limit carries its own.
    """
    end = float(series.times_s[-1])
    found: list[Judged] = []
    entries = lines_of(rule_set_id, animal, piece, approved)
    if entries:
        found.append(Judged("line", entries[0].limit, entries[0].limit.evaluate(series, end)))
    for limit in more_lines(tags_of(animal, piece)) if animal != "plant" else ():
        found.append(Judged("pathogen", limit, limit.evaluate(series, end)))
    if animal in TRICHINELLA and not _hot_at_once(entries):
        limit = targets_for("heat.trichinella")[0].limit
        found.append(Judged("trichinella", limit, limit.evaluate(series, end)))
    come_up = rule_set(rule_set_id).limit_as("come_up", ComeUp)
    if animal != "plant":
        found.append(Judged("way_up", come_up, come_up.evaluate(series, end)))
    return (*found, *judge_fall(rule_set_id, series, uncured and animal not in ("plant", "egg")))


def _hot_at_once(entries: tuple[RuleEntry, ...]) -> bool:
    """Whether the line itself asks for more than the Trichinella table ever does, 62.2 °C."""
    limit = entries[0].limit if entries else None
    return isinstance(limit, Hold) and limit.at_least_c >= 62.2


def judge_fall(rule_set_id: RuleSetId, series: Series, meat: bool = True) -> tuple[Judged, ...]:
    """The way down from hot: the rule set's cooling, and growth of *C. perfringens* on the real curve.

    Parameters
    ----------
    rule_set_id : str
        ``us``, ``uk``, ``eu`` or ``anz``.
    series : Series
        Core temperatures [°C], (n,).
    meat : bool
        Whether *C. perfringens* matters in it.

    Returns
    -------
    tuple of Judged
        Nothing where the curve does not fall from hot. While the last mark is not yet due the cooling is pending: the
        food may still be served, or cooled on.

    Raises
    ------
    OutOfRangeError
        If the times of the series do not rise.

    Notes
    -----
    Valid for one fall, the last. A core that was never above the rule's first temperature is judged from where it was
    hottest.

    References
    ----------
    Each limit carries its own.
    """
    fall = last_fall(rule_set_id, series)
    if fall is None:
        return ()
    cooling, part = fall
    end = float(part.times_s[-1])
    found = [Judged("way_down", cooling, cooling.evaluate(part, end))]
    if meat:
        growth = next(e.limit for e in targets_for("grow.perfringens") if isinstance(e.limit, Growth))
        found.append(Judged("growth", growth, growth.evaluate(part, end)))
    return tuple(found)


def last_fall(rule_set_id: RuleSetId, series: Series) -> tuple[Cooling, Series] | None:
    """The cooling rule and the part of a curve, (n,) [°C], from its last hot moment on; None where it does not fall.

    Valid for two readings or more.
    """
    rule = rule_set(rule_set_id).limit_as("chill.cooked", Cooling)
    if len(series) < 2:
        return None
    hottest = float(np.max(series.values))
    hot_c = rule.from_c if hottest >= rule.from_c - 1e-9 else hottest - NEARLY_K
    above = np.flatnonzero(series.values >= hot_c - 1e-9)
    last = int(above[-1])
    if last == len(series) - 1 or hottest - NEARLY_K < rule.stages[-1].to_c:
        return None
    part = Series(
        series.times_s[last:],
        series.values[last:],
        series.uncertainty,
        float(series.times_s[last]),
        False,
        series.longest_gap_s,
        series.basis,
    )
    if len(part) < 2:
        return None
    return (rule if hot_c == rule.from_c else rule.model_copy(update={"from_c": hot_c})), part


def fall_words(judged: tuple[Judged, ...], series: Series) -> str:
    """How long the core lay between hot and cold on its last way down; empty where it did not fall.

    Valid for the series that was judged [°C].
    """
    cooling = next((each.limit for each in judged if each.why == "way_down"), None)
    if not isinstance(cooling, Cooling):
        return ""
    above = np.flatnonzero(series.values >= cooling.from_c - 1e-9)
    since = float(series.times_s[int(above[-1])]) if len(above) else float(series.times_s[0])
    cold = np.flatnonzero((series.times_s > since) & (series.values <= cooling.stages[-1].to_c))
    until = float(series.times_s[int(cold[0])]) if len(cold) else float(series.times_s[-1])
    low = cooling.stages[-1].to_c if len(cold) else float(series.values[-1])
    return say(
        "kitchen.cooked.between_and_on_the_way_down",
        until=duration(until - since),
        from_=bare(legal(cooling.from_c, ".0f")),
        low=temp(low, ".0f"),
    )


def may_be_rare(animal: Animal, piece: PieceState, rule_set_id: RuleSetId) -> bool:
    """Whether it may be served undercooked to order, with an advisory, to general guests.

    Valid for intact steaks of beef and game and for fish; not for birds, boar, pork, or anything opened.
    """
    return piece == "steak" and animal in RARE


def cook_fix(limit: Limit) -> str:
    """What to cook to, said once, by a limit.

    Valid for holds and lethality; other limits by their title.
    """
    if isinstance(limit, Hold):
        held = say("kitchen.cooked.for_for", for_=duration(limit.for_s)) if limit.for_s else ""
        return say("kitchen.cooked.cook_on_until_the_core_reads", at_least=legal(limit.at_least_c, ".0f"), held=held)
    if isinstance(limit, Lethality):
        law = limit.model.law()
        return say(
            "kitchen.cooked.hold_the_core_at_for_or",
            reference=legal(law.reference_c, ".1f"),
            goal=duration(law.goal_min * 60),
        )
    return say("kitchen.cooked.cook_on", title=limit.title)
