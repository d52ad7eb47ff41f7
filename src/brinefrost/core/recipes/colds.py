"""What chills, keeps, freezes, thaws, and holds hot."""

from dataclasses import replace
from typing import Any

from brinefrost.core.recipes.clauses import Clause
from brinefrost.core.recipes.hands import WORK_S, work_by_hand
from brinefrost.core.recipes.made import Made, Making
from brinefrost.core.recipes.salts import find_untimed_salting, salt_longer
from brinefrost.core.steps import KINDS
from brinefrost.core.words import Words, duration, say, temp

DAY_S = 86400.0
CHILLS_C = {"still_fridge": 4.0, "fan_fridge": 3.0, "blast": 0.0}  # the slowest first; common practice, no source
STANDS_S = 7200.0  # how long it cools in a room, where nobody says
TRAY_M = 0.05  # how deep a tray is filled that is to chill; common practice, no source


def chill_food(making: Making, clause: Clause) -> Made | None:
    """Down to cold: in ice where that is said, else in cold air, which is asked where nobody says whose."""
    before = making.steps[-1] if making.steps else None
    if before is not None and before.kind in ("chill_air", "pot_chill", "slurry_chill"):
        before.text += " " + clause.said
        return before
    if "shelf" in clause.media and not clause.media & {"ice", "fridge", "blast"}:  # in the room: nothing chills it
        return stand_warm(making, clause)
    making.rested = True
    cold: dict[str, Any] = {} if clause.core_c is None else {"target_c": clause.core_c}
    lasts = cold | ({"duration_s": clause.lasts_s[0]} if clause.lasts_s else {})
    if "ice" in clause.media:
        if making.sealed:
            return making.add("slurry_chill", "slurry", clause, **cold)
        mass = max(making.kilograms(list(making.rows)), 0.2)
        said = say("recipes.assumed.ice")
        made = making.add(
            "pot_chill", "ice_bath", clause, (said,), mass_kg=round(mass, 2), ice_kg=round(mass * 1.2, 2), **lasts
        )
        return _until_cold(made, clause)
    if making.liquid:
        _into_trays(making, clause)
    piece, thick = (TRAY_M, (say("recipes.assumed.depth"),)) if making.liquid else making.piece_m()
    unsaid = not clause.media & {"blast", "fridge"}
    kind = "blast" if "blast" in clause.media else "still_fridge" if unsaid else "fan_fridge"
    assumed = (say("recipes.assumed.still_fridge"),) if unsaid else ()
    made = making.add(
        "chill_air", "chill", clause, (*assumed, *thick), medium=kind, surroundings_c=CHILLS_C[kind],
        thickness_m=piece, **lasts,
    )  # fmt: skip
    if unsaid:
        making.ask(
            made,
            say("recipes.asked.chiller"),
            [
                (say(f"recipes.chilled_in.{medium}"), {"medium": medium, "surroundings_c": around})
                for medium, around in CHILLS_C.items()
            ],
        )
    return _until_cold(made, clause)


def _until_cold(made: Made, clause: Clause) -> Made:
    """A chill without its time lasts until its core is as cold as it is to be."""
    if clause.lasts_s is None:
        made.core_c = float(KINDS[made.kind].settings.model_validate(made.settings).target_c)
    return made


def _into_trays(making: Making, clause: Clause) -> None:
    """Out of the pot before it goes into cold air: shallow, by the work just before or by a step of its own."""
    if making.steps[-1].kind != "handwork":
        said = say("recipes.assumed.by_hand", lasts=duration(WORK_S))
        making.add("handwork", "by_hand", clause, (said,), duration_s=WORK_S)
    making.steps[-1].settings["thickness_m"] = TRAY_M


def keep_food(making: Making, clause: Clause) -> Made | None:
    """Days in the cold; hours after a salting are its own, and what stands out of the cold is work by hand."""
    salted = find_untimed_salting(making)
    if salted is not None and clause.lasts_s:
        return salt_longer(salted, clause)
    if "freezer" in clause.media:
        return freeze_food(making, clause)
    if "shelf" in clause.media and "fridge" not in clause.media:
        long = clause.lasts_s is not None and clause.lasts_s[1] > DAY_S
        return _shelve(making, clause) if long else stand_warm(making, clause)
    if clause.action == "leave" and "fridge" not in clause.media:
        return stand_warm(making, clause) if clause.lasts_s else None
    making.rested = True
    cold = {} if clause.at_c is None else {"max_c": clause.at_c}
    if clause.lasts_s is None:
        said = say("recipes.assumed.days", count=3)
        made = making.add("cold_keep", "keep", clause, (said,), days=3, **cold)
        days = [3, 1, 5]
        making.ask(made, say("recipes.asked.days"), [(say("recipes.option.days", count=d), {"days": d}) for d in days])
        return made
    told = () if "fridge" in clause.media else (say("recipes.assumed.fridge"),)
    return making.add("cold_keep", "keep", clause, told, days=round(clause.lasts_s[1] / DAY_S, 2), **cold)


def stand_warm(making: Making, clause: Clause) -> Made:
    """Out of the cold for a time."""
    if clause.lasts_s:
        return work_by_hand(making, replace(clause, action="leave"))
    said = say("recipes.assumed.lasts", lasts=duration(STANDS_S))
    return making.add("handwork", "leave", clause, (said,), work="portion", duration_s=STANDS_S)


def _shelve(making: Making, clause: Clause) -> Made:
    """Days out of the cold: what keeps it there, the plan has to say."""
    days = clause.lasts_s[1] / DAY_S if clause.lasts_s else 1.0
    return making.add("shelf_keep", "shelf", clause, days=round(days, 2))


def freeze_food(making: Making, clause: Clause) -> Made:
    """Frozen through, for so many days."""
    assumed: list[Words] = []
    around = clause.at_c if clause.at_c is not None else clause.core_c
    if around is None:
        assumed.append(say("recipes.assumed.around", around=temp(-18.0, "g")))
    if clause.lasts_s is None:
        assumed.append(say("recipes.assumed.days", count=1))
    piece, thick = making.piece_m()
    days = 1.0 if clause.lasts_s is None else clause.lasts_s[0] / DAY_S
    return making.add(
        "freeze_down", "freeze", clause, (*assumed, *thick), surroundings_c=-18.0 if around is None else around,
        thickness_m=piece, days=round(days, 2),
    )  # fmt: skip


def thaw_food(making: Making, clause: Clause) -> Made:
    """Thawed, in the fridge where nothing else is said."""
    piece, thick = making.piece_m()
    lasts = clause.lasts_s[1] if clause.lasts_s else DAY_S
    assumed = () if clause.lasts_s else (say("recipes.assumed.lasts", lasts=duration(lasts)),)
    return making.add("thaw", "thaw", clause, (*assumed, *thick), thickness_m=piece, duration_s=lasts)


def hold_hot(making: Making, clause: Clause) -> Made:
    """Held hot for service."""
    held = clause.at_c if clause.at_c is not None else clause.core_c
    lasts = clause.lasts_s[1] if clause.lasts_s else 7200.0
    assumed = [] if held is not None else [say("recipes.assumed.around", around=temp(65.0, "g"))]
    assumed += [] if clause.lasts_s else [say("recipes.assumed.lasts", lasts=duration(lasts))]
    return making.add(
        "hot_hold", "hold", clause, tuple(assumed), held_c=65.0 if held is None else held, duration_s=lasts
    )
