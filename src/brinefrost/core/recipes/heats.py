"""What heats: in what, how hot and for how long, by a clause and by what kitchens usually do."""

from brinefrost.core.recipes.clauses import WATER_C, Clause
from brinefrost.core.recipes.made import Made, Making, tells
from brinefrost.core.steps import KINDS
from brinefrost.core.words import Words, duration, say, temp

HEATS = frozenset({
    "roast", "bake", "braise", "cook", "simmer", "boil", "boil_again", "poach", "fry", "deep_fry", "steam", "grill",
    "confit", "reheat", "crisp", "microwave",
})  # fmt: skip
# what is usual where nothing is said: how hot [°C] and how long [s]; common practice, no source
USUAL_C = {
    "roast": 180.0, "bake": 180.0, "braise": 150.0, "cook": 150.0, "fry": 180.0, "deep_fry": 175.0, "steam": 100.0,
    "grill": 220.0, "confit": 90.0, "crisp": 200.0,
}  # fmt: skip
USUAL_S = {
    "roast": 3600.0, "bake": 2400.0, "braise": 10800.0, "cook": 3600.0, "simmer": 3600.0, "boil": 600.0,
    "boil_again": 300.0, "poach": 900.0, "fry": 600.0, "deep_fry": 300.0, "steam": 1200.0, "grill": 900.0,
    "confit": 28800.0, "crisp": 1200.0, "microwave": 360.0,
}  # fmt: skip
POACHES_C, SIMMERS_C = 85.0, 97.0
BOILS = ("steam", "boiling")  # as hot as water boils at this height
STRAINED_M = 0.005  # what is left in a liquid that was strained
OVEN_BATH_C = 80.0  # of the water in a low oven, which it leaves behind; common practice, no source: it is asked
OVEN_FROM_C = 110.0  # no water is so hot
CLOSED = frozenset({"braise", "confit"})
OVENS = frozenset({"fan_oven", "still_oven", "oven_bath"})
REHEATS_C = 75.0
MEDIA = {
    "roast": "fan_oven", "bake": "fan_oven", "braise": "fan_oven", "grill": "fan_oven", "crisp": "fan_oven",
    "fry": "pan", "deep_fry": "frying", "steam": "steam", "confit": "still_fat",
}  # fmt: skip


def make_heat(making: Making, clause: Clause) -> Made:
    """The step a clause heats by. Valid for every clause that heats."""
    action = clause.action
    if action == "reheat":
        made = _reheat(making, clause)
    elif action == "microwave":
        made = _microwave(making, clause)
    elif action in ("simmer", "boil", "boil_again", "poach") or (action == "cook" and _in_liquid(making, clause)):
        made = _simmer(making, clause)
    elif "bath" in clause.media and making.sealed:
        made = _bath(making, clause)
    else:
        made = _heat_in(making, clause)
    making.cooked, making.rested = True, False
    return made


def _in_liquid(making: Making, clause: Clause) -> bool:
    dry = clause.media & {"oven", "fan_oven", "oven_bath", "bath", "pan", "fat", "steam"}
    hot = clause.at_c is not None and clause.at_c >= OVEN_FROM_C
    return not dry and not hot and not making.sealed and ("pot" in clause.media or "water" in making.rows)


def _lasting(making: Making, clause: Clause, action: str) -> tuple[float, list[Words]]:
    """How long [s]: the shorter of what is said, or what is usual and told as assumed."""
    if clause.lasts_s is not None:
        return clause.lasts_s[0], []
    usual = USUAL_S.get(action, 3600.0)
    return usual, [] if clause.core_c is not None else [say("recipes.assumed.lasts", lasts=duration(usual))]


def _ask_time(making: Making, made: Made, clause: Clause) -> None:
    if clause.lasts_s is None and clause.core_c is None:
        usual = float(made.settings["duration_s"])
        times = [usual, usual / 2, usual * 2]
        making.ask(made, say("recipes.asked.lasts"), [(duration(each), {"duration_s": each}) for each in times])


def _simmer(making: Making, clause: Clause) -> Made:
    """Water and what is in it, as a whole."""
    action = "simmer" if clause.action == "cook" else clause.action
    lasts, assumed = _lasting(making, clause, action)
    usual = {"poach": POACHES_C, "boil": 100.0, "boil_again": 100.0}.get(action, SIMMERS_C)
    asked = usual if clause.at_c is None else clause.at_c
    liquid_c = min(asked, making.below_boil_c)
    if clause.at_c is None:
        assumed.append(say("recipes.assumed.around", around=temp(liquid_c, "g")))
    mass = making.kilograms(list(making.rows))
    piece, thick = making.piece_m(clause.mentions)
    if making.strained and not clause.mentions:
        piece, thick = STRAINED_M, (say("recipes.assumed.strained"),)
    again = making.cooked and (making.rested or action == "boil_again")
    made = making.add(
        "simmer", action, clause, (*assumed, *thick), liquid_c=liquid_c, duration_s=lasts, piece_m=piece, again=again,
        covered="open" not in clause.flags, **({"mass_kg": round(mass, 2)} if mass > 0 else {}),
    )  # fmt: skip
    if mass <= 0:
        made.assumed.append(say("recipes.assumed.pot"))
    making.liquid = True
    if action in ("simmer", "poach"):
        _ask_time(making, made, clause)
    return made


def _reheat(making: Making, clause: Clause) -> Made:
    """To a core; or in an oven for a time, where that is what is said."""
    if clause.lasts_s is not None or (clause.at_c or 0.0) > WATER_C:
        making.rested = True
        return _heat_in(making, clause)
    said = clause.core_c if clause.core_c is not None else clause.at_c
    core = REHEATS_C if said is None else said
    assumed = () if said is not None else (say("recipes.assumed.core", core=temp(core, "g")),)
    return making.add("reheat", "reheat", clause, assumed, core_c=core)


def _microwave(making: Making, clause: Clause) -> Made:
    lasts, assumed = _lasting(making, clause, "microwave")
    piece, thick = making.piece_m(clause.mentions)
    core = {} if clause.core_c is None else {"core_c": clause.core_c}
    if not core:
        usual = float(KINDS["microwave"].settings.model_fields["core_c"].default)
        assumed.append(say("recipes.assumed.core", core=temp(usual, "g")))
    again = making.cooked and making.rested
    return making.add(
        "microwave", "microwave", clause, (*assumed, *thick), duration_s=lasts, thickness_m=piece, again=again, **core
    )


def _bath(making: Making, clause: Clause) -> Made:
    lasts, assumed = _lasting(making, clause, "cook")
    bath, piece, thick = clause.at_c, *making.piece_m(clause.mentions)
    if bath is None:
        assumed.append(say("recipes.assumed.around", around=temp(65.0, "g")))
    made = making.add(
        "bath_cook", "bath", clause, (*assumed, *thick), bath_c=65.0 if bath is None else bath, duration_s=lasts,
        thickness_m=piece, start_c=4,
    )  # fmt: skip
    _ask_time(making, made, clause)
    return made


def _medium(making: Making, clause: Clause) -> str:
    media, action = clause.media, clause.action
    if "oven_bath" in media and (action == "bake" or "oven" in media or (clause.at_c or 0) >= 100):
        return "oven_bath"
    if media & {"bath", "oven_bath"}:
        return "bath"
    if "fat" in media and action in ("cook", "confit", "bake") and (making.of("oil") or _find_fats(making)):
        return "still_fat"
    if action in MEDIA:
        return MEDIA[action]
    for what, medium in (("pan", "pan"), ("steam", "steam"), ("oven", "fan_oven"), ("fan_oven", "fan_oven")):
        if what in media:
            return medium
    return "bath" if making.sealed else "fan_oven"


def _heat_in(making: Making, clause: Clause) -> Made:
    action, medium = clause.action, _medium(making, clause)
    lasts, assumed = _lasting(making, clause, action)
    around = clause.at_c
    if around is None and medium in OVENS:
        around = making.oven_c
    if around is None:
        around = 64.0 if medium == "bath" else 90.0 if medium == "still_fat" else USUAL_C.get(action, 160.0)
        if medium not in BOILS:
            assumed.append(say("recipes.assumed.around", around=temp(around, "g")))
    elif clause.oven_word:
        assumed.append(say("recipes.assumed.around", around=temp(around, "g")))
    if medium == "oven_bath" and around > OVEN_BATH_C:
        around = OVEN_BATH_C
        assumed.append(say("recipes.assumed.oven_bath", around=temp(around, "g")))
    if medium in (*BOILS, "bath"):
        around = min(around, making.below_boil_c)
    closed = action in CLOSED or medium not in OVENS  # an oven dries what nobody says is covered
    covered = "open" not in clause.flags and ("covered" in clause.flags or closed)
    piece, thick = making.piece_m(clause.mentions)
    again, shape = making.cooked and making.rested, "sphere" if _in_shell(making) or making.balls else "slab"
    made = making.add(
        "heat_in", action, clause, (*assumed, *thick), medium=medium, surroundings_c=around, duration_s=lasts,
        thickness_m=piece, covered=covered, again=again, shape=shape,
    )  # fmt: skip
    made.core_c = clause.core_c
    _ask_time(making, made, clause)
    if action == "cook" and not clause.media and not making.sealed:
        _ask_medium(making, made)
    elif any(tells(each, "recipes.assumed.around") for each in assumed) or medium == "oven_bath":
        near = [around, around - 20, around + 20]
        making.ask(made, say("recipes.asked.around"), [(temp(each, "g"), {"surroundings_c": each}) for each in near])
    return made


def _ask_medium(making: Making, made: Made) -> None:
    """In what, where only that it is cooked is said."""
    made.assumed.append(say("recipes.assumed.medium"))
    boils = making.below_boil_c
    media = {"fan_oven": made.settings["surroundings_c"], "boiling": boils, "steam": boils, "pan": USUAL_C["fry"]}
    options = [
        (say(f"recipes.cooked_in.{medium}", around=temp(around, ".0f")), {"medium": medium, "surroundings_c": around})
        for medium, around in media.items()
    ]
    making.ask(made, say("recipes.asked.medium"), options)


def _in_shell(making: Making) -> bool:
    """Whether whole eggs are all there is to be heated."""
    return making.main() == "egg" and set(making.rows) <= {"egg", "salt", "water"}


def _find_fats(making: Making) -> list[str]:
    return [key for key in making.rows if key.endswith(("-fat", "lard", "ghee", "butter-clarified"))]
