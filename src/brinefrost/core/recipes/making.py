"""From clauses to steps: what a kitchen does, in the order it is done."""

from dataclasses import replace

from brinefrost.core.chemistry.jar import VegetableKey
from brinefrost.core.recipes.clauses import NOT_DONE, UNDONE, Clause
from brinefrost.core.recipes.colds import DAY_S, chill_food, freeze_food, hold_hot, keep_food, thaw_food
from brinefrost.core.recipes.hands import WORK, WORK_S, work_by_hand
from brinefrost.core.recipes.heats import HEATS, make_heat
from brinefrost.core.recipes.made import FLESH, Made, Making
from brinefrost.core.recipes.salts import salt_food
from brinefrost.core.words import Words, duration, percent, say, temp

ACIDS = frozenset({"lemon-juice", "lime-juice", "lemon", "lime", "verjuice", "citric-acid"})
WEAK_PERCENT = 4.0  # the weakest vinegar sold; where the recipe does not say
LITTLE, SLICED_M = 0.3, 0.005  # vinegar to its vegetable where no mass is said, on the weak side; how thick it is cut
STERN_PH = 5.0  # where nobody has read it: nothing is credited
SMOKES_HOT_C, SMOKER_C = 40.0, 90.0
ROOM_C = 20.0
SOUR_DAYS = 5  # by when a ferment is sour; its time goes on


def make_steps(making: Making, clauses: list[Clause]) -> list[str]:
    """Add a recipe's steps to ``making``; the texts nothing was made of. Valid for every list of clauses."""
    unread: list[str] = []
    heated = any(clause.action in HEATS for clause in clauses)
    for i, clause in enumerate(clauses):
        making.balls = making.balls or "ball" in clause.flags
        making.mixed = making.mixed or clause.action in ("mix", "whisk")
        if clause.action in UNDONE:
            unread.append(clause.said)
            continue
        making.set_thickness(clause)
        new, whole = _of_groups(making, clause), _mixes_whole(clause)
        made = _make(making, clause, clauses[i + 1 :], heated)
        making.strained = making.strained or clause.action == "strain"
        making.taken |= set(new) if whole else set()
        making.pending += [*clause.mentions, *new]
        if made is not None:
            for key in making.pending:
                making.enters.setdefault(key, made.id)
            making.pending = []
        elif clause.action in ("", "pour") and len(clause.text) > 1 and not clause.mentions:
            unread.append(clause.said)
    return unread


def _of_groups(making: Making, clause: Clause) -> list[str]:
    """The rows a group's word stands for: everything, the rest, the meat, the vegetables."""
    new = [key for key in making.rows if key not in making.enters and key not in making.pending]
    if _mixes_whole(clause) or clause.groups & {"all", "rest"}:
        return new
    return [key for key in new if clause.groups & set(making.row(key).tags)]


def _mixes_whole(clause: Clause) -> bool:
    """Whether it mixes what there is, and names nothing."""
    return clause.action in ("mix", "whisk") and not clause.mentions and not clause.groups


def _make(making: Making, clause: Clause, after: list[Clause], heated: bool) -> Made | None:
    action = clause.action
    if action == "preheat":
        making.oven_c = clause.at_c if clause.core_c is None else clause.core_c
    if action in NOT_DONE or action in ("", "preheat"):
        return None
    if action in ("pour", "boil") and _is_pickle(making, clause, after):
        return _pickle(making, clause) if action == "pour" else None
    if action == "boil" and clause.lasts_s is None and _goes_on_simmering(after):
        return None
    if action in HEATS:
        return make_heat(making, clause)
    if action in ("whisk", "mix") and not heated and making.of("egg") and making.of("oil"):
        return _dress(making, clause, "mixed", "emulsify")
    if action in STEPS:
        return STEPS[action](making, clause)
    return work_by_hand(making, clause) if action in WORK else None


def _goes_on_simmering(after: list[Clause]) -> bool:
    done = [each for each in after if each.action not in NOT_DONE]
    return bool(done) and done[0].action in ("simmer", "poach", "boil")


def _vinegars(making: Making) -> list[str]:
    return [key for key in making.rows if key == "vinegar" or key.endswith("-vinegar")]


def _is_pickle(making: Making, clause: Clause, after: list[Clause]) -> bool:
    """Whether vinegar goes over plants, and nothing of an animal is in it."""
    animals = making.of(*FLESH, "egg", "dairy")
    poured = clause.action == "pour" or any(each.action == "pour" for each in after)
    return bool(_vinegars(making)) and not animals and poured


def _pickle(making: Making, clause: Clause) -> Made:
    plants = [key for key in making.of("plant") if key not in ACIDS]
    main = (plants[0] if plants else "courgette").replace("green-beans", "green_bean").replace("-", "_")
    known = main if main in VegetableKey.__args__ else _nearest(main)  # type: ignore[attr-defined]
    assumed: list[Words] = []
    if known != main:
        assumed.append(say("recipes.assumed.vegetable"))
    strength = making.vinegar_percent
    if strength is None:
        strength = WEAK_PERCENT
        assumed.append(say("recipes.assumed.vinegar", strength=percent(strength)))
    plain = {name: making.rows.get(key, 0.0) for name, key in
             (("water_kg", "water"), ("salt_kg", "salt"), ("sugar_kg", "sugar"))}  # fmt: skip
    said = next((making.thick[key] for key in plants if key in making.thick), None)
    assumed += [] if said else [say("recipes.assumed.sliced")]
    vegetable_kg, vinegar_kg = making.kilograms(plants), making.kilograms(_vinegars(making))
    unsaid = vegetable_kg <= 0 or vinegar_kg <= 0
    if unsaid:
        vegetable_kg = vegetable_kg or 1.0
        vinegar_kg = LITTLE * vegetable_kg
        assumed.append(say("recipes.assumed.jar"))
    made = making.add(
        "pickle", "pickle", clause, tuple(assumed), vegetable=known, vinegar_percent=strength,
        piece_m=said or SLICED_M, vegetable_kg=vegetable_kg, vinegar_kg=vinegar_kg, **plain,
    )  # fmt: skip
    if unsaid:
        shares = [(percent(100 * share), {"vinegar_kg": share * vegetable_kg}) for share in (LITTLE, 0.6, 1.0)]
        making.ask(made, say("recipes.asked.jar"), shares)
    if making.vinegar_percent is None:
        usual = [WEAK_PERCENT, 5.0, 6.0]
        asked = [(percent(each), {"vinegar_percent": each}) for each in usual]
        making.ask(made, say("recipes.asked.vinegar"), asked)
    return made


def _nearest(key: str) -> str:
    """Roots as carrot, what is not in the table as the kohlrabi: firm, little acid of its own."""
    return "carrot" if key in ("daikon", "radish", "turnip", "parsnip", "swede", "celeriac") else "kohlrabi"


def _seal(making: Making, clause: Clause) -> Made | None:
    if making.sealed:
        return None
    making.sealed = True
    whole = making.kilograms(making.of(*FLESH)) or making.kilograms(list(making.rows)) or 1.0
    packs = max(1, round(whole))
    said = say("recipes.assumed.packs", count=packs)
    return making.add("seal", "seal", clause, (said,), pack_mass_kg=round(whole / packs, 2), packs=packs)


def _serve(making: Making, clause: Clause) -> Made | None:
    return None if making.steps and making.steps[-1].kind == "serve" else making.add("serve", "serve", clause)


def _ferment(making: Making, clause: Clause) -> Made:
    goods = making.kilograms(making.of(*FLESH, "plant")) or making.kilograms(list(making.rows))
    goods += making.rows.get("water", 0.0)  # a brine's salt is in its water too
    share = 100.0 * making.rows.get("salt", 0.0) / goods if goods else 0.0
    assumed: list[Words] = []
    if share <= 0:
        share = 2.0
        assumed.append(say("recipes.assumed.salt", share=percent(share)))
    kept = 18.0 if clause.at_c is None else clause.at_c
    if clause.at_c is None:
        assumed.append(say("recipes.assumed.around", around=temp(kept, "g")))
    days = max(1, round(clause.lasts_s[1] / DAY_S)) if clause.lasts_s else 21
    sour = min(SOUR_DAYS, days)
    if not clause.lasts_s:
        assumed.append(say("recipes.assumed.days", count=days))
    if sour < days:
        assumed.append(say("recipes.assumed.sour_by", count=sour))
    return making.add(
        "souring", "ferment", clause, tuple(assumed), salt_percent=round(share, 2), kept_c=kept, sour_days=sour,
        days=days, starter="starter" in making.rows,
    )  # fmt: skip


def _smoke(making: Making, clause: Clause) -> Made:
    hot = "hot" in clause.flags or (clause.at_c or 0.0) >= SMOKES_HOT_C
    lasts = clause.lasts_s[0] if clause.lasts_s else 7200.0
    assumed = () if clause.lasts_s else (say("recipes.assumed.lasts", lasts=duration(lasts)),)
    if not hot:
        said = {} if clause.at_c is None else {"surroundings_c": clause.at_c}
        return making.add("cold_smoke", "smoke", clause, assumed, duration_s=lasts, **said)
    piece, thick = making.piece_m()
    around = SMOKER_C if clause.at_c is None else clause.at_c
    told = (say("recipes.assumed.around", around=temp(around, "g")),) if clause.at_c is None else ()
    making.cooked, making.rested = True, False
    made = making.add(
        "heat_in", "smoke", clause, (*assumed, *told, *thick), medium="still_oven", thickness_m=piece,
        surroundings_c=around, duration_s=lasts, covered=False,
    )  # fmt: skip
    made.core_c = clause.core_c
    return made


def _dry(making: Making, clause: Clause) -> Made | None:
    if clause.lasts_s is None:
        return None
    if clause.lasts_s[1] <= DAY_S:
        return making.add("cold_keep", "keep", clause, days=round(clause.lasts_s[1] / DAY_S, 2))
    around = 12.0 if clause.at_c is None else clause.at_c
    said = say("recipes.assumed.drying")
    return making.add("drying", "dry", clause, (said,), surroundings_c=around, duration_s=clause.lasts_s[1])


def _soak(making: Making, clause: Clause) -> Made | None:
    """In something sour; in water, oil or milk it only lies, cold or not."""
    if ACIDS & set(making.rows) or _vinegars(making):
        return _dress(making, clause, "soaked", "soak")
    return keep_food(making, replace(clause, action="leave"))


def _dress(making: Making, clause: Clause, way: str, action: str) -> Made:
    lasts = clause.lasts_s[1] if clause.lasts_s else WORK_S
    assumed = [say("recipes.assumed.ph", ph=f"{STERN_PH:g}")]
    kept = 4.0 if "fridge" in clause.media or way == "mixed" else ROOM_C
    if "fridge" not in clause.media:
        assumed.append(say("recipes.assumed.around", around=temp(kept, "g")))
    made = making.add("dressing", action, clause, tuple(assumed), way=way, ph=STERN_PH, duration_s=lasts, kept_c=kept)
    making.ask(made, say("recipes.asked.ph"), [(f"pH {ph:g}", {"ph": ph}) for ph in (STERN_PH, 4.4, 4.0)])
    return made


STEPS = {
    "salt": salt_food, "rub": salt_food, "cure": salt_food, "brine": salt_food, "seal": _seal, "chill": chill_food,
    "keep": keep_food, "leave": keep_food, "freeze": freeze_food, "thaw": thaw_food, "hold": hold_hot,
    "serve": _serve, "ferment": _ferment, "smoke": _smoke, "dry": _dry, "soak": _soak,
}  # fmt: skip
