"""Dishes in a plain notation, one a line: what goes in and where, what is done to it, and why it is safe or not.

``name | rule sets | ingredients | steps | why``. An ingredient is a row of the catalogue, with ``@step`` where it goes
in later than the first step. A step is a word, with ``:id`` where something names it, and settings told apart by their
units: ``oven 180C 40mm 50min``, ``keep 3C 4d``, ``rub 3% 25mm 2d``; ``name=value`` sets any field of its kind. Rule
sets are ``us uk eu anz`` or ``all``; ``risk`` cooks for guests at higher risk; ``next`` waits for a kind to come.
"""

import re
from dataclasses import dataclass
from pathlib import Path
from typing import Any, get_args

from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.document import Plan
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.core.steps.handwork import Work

TABLES = Path(__file__).parent / "dishes"
VALUE = re.compile(r"^(-?[\d.]+)(C|mm|min|h|d|%|kg|aw|x)$")
SECONDS = {"min": 60.0, "h": 3600.0, "d": 86400.0}
PLAIN_MM = 0.03  # of a piece whose thickness is not said

# a word of the notation: the kind, what it sets by itself, and which field each unit is of
HEAT = {"C": "surroundings_c", "mm": "thickness_m", "time": "duration_s"}
HAND = {"C": "surroundings_c", "mm": "thickness_m", "time": "duration_s"}
VERBS: dict[str, tuple[str, dict[str, Any], dict[str, str]]] = {
    "receive": ("receive", {}, {"C": "max_c"}),
    **{
        word: ("heat_in", {"medium": medium, "thickness_m": PLAIN_MM}, HEAT)
        for word, medium in {
            "oven": "fan_oven", "still": "still_oven", "steam": "steam", "bath": "bath", "boil": "boiling",
            "fat": "still_fat", "obath": "oven_bath", "fry": "frying", "pan": "pan", "smokepan": "smoke_pan",
        }.items()
    },
    "bag": ("bath_cook", {"thickness_m": PLAIN_MM, "start_c": 5.0}, HEAT | {"C": "bath_c"}),
    **{
        word: ("chill_air", {"medium": medium, "thickness_m": PLAIN_MM}, HEAT | {"d": "duration_s"})
        for word, medium in {"blast": "blast", "fan": "fan_fridge", "stand": "still_fridge"}.items()
    },
    "micro": ("microwave", {}, {"C": "core_c", "mm": "thickness_m", "time": "duration_s"}),
    "thaw": ("thaw", {"thickness_m": PLAIN_MM}, HEAT),
    "simmer": ("simmer", {}, {"C": "liquid_c", "kg": "mass_kg", "mm": "piece_m", "time": "duration_s"}),
    "pot": ("pot_chill", {}, {"C": "target_c", "kg": "mass_kg", "time": "duration_s"}),
    "ice": ("slurry_chill", {}, {"C": "target_c", "kg": "ice_kg"}),
    "keep": ("cold_keep", {}, {"C": "max_c", "d": "days"}),
    "hold": ("hot_hold", {}, {"C": "held_c", "time": "duration_s"}),
    "reheat": ("reheat", {}, {"C": "core_c"}),
    **{
        word: ("handwork", {"work": word}, HAND)
        for word in get_args(Work)
    },
    "rub": ("salting", {"way": "rubbed", "thickness_m": PLAIN_MM}, HEAT | {"%": "salt_percent", "C": "kept_c"}),
    "brine": ("salting", {"way": "brined", "thickness_m": PLAIN_MM}, HEAT | {"%": "salt_percent", "C": "kept_c"}),
    "freeze": ("freeze_down", {"thickness_m": PLAIN_MM}, {"C": "surroundings_c", "mm": "thickness_m", "d": "days"}),
    "sour": ("souring", {}, {"%": "salt_percent", "C": "kept_c", "d": "days"}),
    "dry": ("drying", {}, {"C": "surroundings_c", "%": "loss_percent", "aw": "target_aw", "time": "duration_s"}),
    "smoke": ("cold_smoke", {}, {"C": "surroundings_c", "time": "duration_s"}),
    "pickle": ("pickle", {}, {"C": "kept_c", "mm": "piece_m"}),
    **{
        word: ("dressing", {"way": way}, {"C": "kept_c", "time": "duration_s"})
        for word, way in {"pour": "poured", "dress": "mixed", "soak": "soaked"}.items()
    },
    "seal": ("seal", {"pack_mass_kg": 0.3}, {"kg": "pack_mass_kg", "x": "packs"}),
    "jar": ("jar_heat", {}, {"C": "surroundings_c", "mm": "thickness_m", "time": "duration_s"}),
    "serve": ("serve", {}, {"C": "surroundings_c", "time": "duration_s"}),
    "shelf": ("shelf_keep", {}, {"C": "around", "d": "days"}),
}  # fmt: skip
WORDS: dict[str, dict[str, Any]] = {
    "open": {"covered": False}, "again": {"again": True}, "starter": {"starter": True},
    "sphere": {"shape": "sphere"}, "cylinder": {"shape": "cylinder"}, "air": {"without_oxygen": False},
    "scheduled": {"scheduled": True},
}  # fmt: skip


LINES = {"/": "line", "+": "takes", "^": "out_of"}  # /custard: in that line; +custard: takes it; ^trim: out of that


@dataclass(frozen=True)
class Dish:
    """One line of a table. ``waits`` where no kind of step can say it yet."""

    name: str
    rules: tuple[str, ...]
    ingredients: tuple[tuple[str, str, str], ...]  # its key, the step it goes in at, how it is eaten
    steps: tuple[dict[str, Any], ...]
    why: str
    higher_risk: bool = False
    waits: bool = False
    told: bool = False  # its guests are told that something in it is raw or rare

    def plan(self, rules: str) -> Plan:
        """The dish as a plan under a rule set; raises ValidationError where it cannot be typed."""
        known = [(catalogue().ingredient(key), at, eaten) for key, at, eaten in self.ingredients]
        named = [
            {"name": each.name, "catalogue": each.key, "allergens": each.allergens, "enters": at, **_eaten(eaten)}
            for each, at, eaten in known
        ]
        guests = "higher_risk" if self.higher_risk else "general"
        laid = {"name": "Dish", "rule_set": rules, "guests": guests, "ingredients": named, "steps": self.steps}
        return Plan.model_validate(laid)


def dishes(table: str) -> list[Dish]:
    """Every dish of a table; raises ValueError where a line cannot be read."""
    lines = (TABLES / f"{table}.txt").read_text(encoding="utf-8").splitlines()
    return [read_dish(line) for line in lines if line.strip() and not line.startswith("#")]


def read_dish(line: str) -> Dish:
    """One line of a table; raises ValueError where it cannot be read."""
    name, rules, ingredients, steps, why = (part.strip() for part in line.split("|"))
    said = rules.split()
    sets = RULE_SET_IDS if "all" in said else tuple(each for each in said if each in RULE_SET_IDS)
    parts = tuple(_part(each.strip()) for each in ingredients.split(","))
    laid = [] if "next" in said and not steps else [_step(text.split(), n) for n, text in enumerate(steps.split(";"))]
    if not laid or laid[0]["kind"] != "receive" or "line" in laid[0]:
        laid.insert(0, {"kind": "receive", "id": "receive", "name": "Receive"})
    return Dish(name, tuple(sets), parts, tuple(laid), why, "risk" in said, "next" in said, "told" in said)


def _part(text: str) -> tuple[str, str, str]:
    """An ingredient: egg; egg@fold, which goes in there; egg=raw, eaten raw; egg=raw>s, at the end s alone."""
    named, _, eaten = text.partition("=")
    key, _, at = named.partition("@")
    return key, at, eaten  # with ">" and the step it is eaten so at, where that is not the end of its own line


def _eaten(text: str) -> dict[str, Any]:
    how, _, where = text.partition(">")
    return {"eaten": how, "eaten_at": (where,) if where else ()}


def _step(words: list[str], n: int) -> dict[str, Any]:
    verb, _, named = words[0].partition(":")
    kind, own, units = VERBS[verb]
    step = {"kind": kind, "id": named or f"{verb}-{n}", "name": f"{verb} {n}", **own}
    for word in words[1:]:
        if word[0] in LINES:
            said = step.setdefault(LINES[word[0]], ())
            step[LINES[word[0]]] = (*said, word[1:]) if word[0] == "+" else word[1:]
            continue
        value = VALUE.match(word)
        if value:
            step |= _measured(float(value[1]), value[2], units)
        elif word.startswith("pH"):
            step["ph"] = float(word[2:])
        elif "=" in word:
            field, _, text = word.partition("=")
            step[field] = text
        else:
            step |= WORDS[word]
    return step


def _measured(value: float, unit: str, units: dict[str, str]) -> dict[str, Any]:
    if unit in SECONDS and unit not in units:
        return {units["time"]: value * SECONDS[unit]}
    return {units[unit]: value / 1000 if unit == "mm" else value}
