"""A recipe's text read into a plan: its list, its method, and what neither says."""

import re
import unicodedata
from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from brinefrost.core.errors import DomainError, RefusedError
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.plans.contexts import provable
from brinefrost.core.plans.course import simulated
from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.lines import ways_with
from brinefrost.core.recipes.amounts import Amount, find_amounts, stems_without_amounts, weigh
from brinefrost.core.recipes.clauses import Clause, find_thickness, read_clauses
from brinefrost.core.recipes.document import Option, ReadIngredient, ReadStep, RecipeQuestion, RecipeReading
from brinefrost.core.recipes.lexicon import find_language, find_phrases, lexicon, plain, words_of
from brinefrost.core.recipes.made import FLESH, Made, Making
from brinefrost.core.recipes.making import make_steps
from brinefrost.core.recipes.rows import find_row, names_in
from brinefrost.core.rules import RuleSetId
from brinefrost.core.steps import KINDS
from brinefrost.core.words import Words, duration, joined, say
from brinefrost.core.words.manner import Language

MOST_SIGNS = 20_000  # a page is some 3,000
MOST_GOODS, MOST_STEPS, MOST_KG = 60, 40, 2000.0
ASIDE_WORDS = 7  # of a line that only says how many it serves
NUMBERED = re.compile(r"^\d{1,2}[.)、]\s*(?=\D)")
EXPLICIT_F = re.compile(r"\d\s*(?:°|degrees?)?\s*f(?![a-z])")
EXPLICIT_C = re.compile(r"\d\s*(?:°|degrees?)?\s*c(?![a-z])")
POUNDS = re.compile(r"\d\s*(?:lbs?|oz|pounds?|ounces?|cups?|pints?|quarts?)(?![a-z])")
BOUGHT = frozenset({"cooked", "ready"})
CHILLS = frozenset({"chill_air", "pot_chill"})
LONGEST_S = 24 * 3600.0  # a piece that is to reach its core does so within a day
STEADY = frozenset(
    {"cold_keep", "freeze_down", "chill_air", "pot_chill", "slurry_chill", "serve", "hot_hold", "reheat", "thaw"}
)
PERCENT = re.compile(r"(\d{1,2}(?:[.,]\d{1,2})?)\s*%")
JOINS = re.compile(r"\s+(?:and|y|et|&)\s+|和")


def read_recipe(
    text: str, rule_set: RuleSetId = "us", altitude_m: float | None = None, name: str = ""
) -> RecipeReading:
    """Read a recipe as it was typed or pasted, in any of the languages.

    The plan is a draft: each setting that no word of the recipe gives is told as assumed, on the stricter side where
    one is; what the verdict hangs on is asked, with usual answers. Raises RefusedError for a text that is too long or
    in which nothing is done. Valid for every other text.
    """
    if len(text) > MOST_SIGNS:
        raise RefusedError(say("recipes.refused.too_long", most=f"{MOST_SIGNS:,}"))
    language = find_language(text)
    title, goods, method, asides = _divide(text, language)
    ingredients = [each for line in goods for each in _read_line(line, language)]
    rows: dict[str, float] = {}
    for each in ingredients:
        if each.catalogue:
            rows[each.catalogue] = rows.get(each.catalogue, 0.0) + each.kg
    if not goods:
        ingredients = _named_in(method, language)
        rows = {each.catalogue: 0.0 for each in ingredients if each.catalogue}
    making = Making(rows, boiling_c(altitude_m or 0.0), _find_vinegar_percent(ingredients))
    for each in ingredients:
        said = find_thickness(plain(each.text))
        if each.catalogue and said is not None:
            making.thick[each.catalogue] = said
    making.add("receive", "receive", Clause("", ""))
    unread = [*asides, *make_steps(making, read_clauses(method, rows, language, _is_in_fahrenheit(text)))]
    if len(making.steps) < 2:
        raise RefusedError(say("recipes.refused.nothing_is_done"))
    if len(making.steps) > MOST_STEPS or len(ingredients) > MOST_GOODS:
        raise RefusedError(say("recipes.refused.too_much", steps=MOST_STEPS, goods=MOST_GOODS))
    making.ask_thickness()
    _place(making)
    plan = _plan(name or title or say("recipes.reading.unnamed"), rule_set, altitude_m, ingredients, making)
    plan = _until_cores(plan, making)
    return RecipeReading(
        language=language,
        plan=plan,
        ingredients=tuple(ingredients),
        steps=tuple(ReadStep(step=m.id, text=m.text, assumed=tuple(m.assumed)) for m in making.steps),
        questions=tuple(making.questions),
        unread=tuple(unread),
    )


def _is_in_fahrenheit(text: str) -> bool:
    """Whether degrees without their scale are in °F: where it is used, or pounds and cups are, and °C never."""
    bare = plain(text)
    return not EXPLICIT_C.search(bare) and bool(EXPLICIT_F.search(bare) or POUNDS.search(bare))


def _divide(text: str, language: Language) -> tuple[str, list[str], str, list[str]]:
    """Title, list, method, and lines that only tell how many it serves: by headings, else by what each looks like."""
    typed = [line.strip(" \t-*•·") for line in text.splitlines()]
    lines = [NUMBERED.sub("", line) for line in typed]
    numbered = {new for new, old in zip(lines, typed, strict=True) if new != old}
    asides = [line for line in lines if _is_aside(line, language)]
    headings = {plain(each) for each in lexicon(language).headings}
    goods: list[str] = []
    method: list[str] = []
    first = ""
    for line in lines:
        if not line or line in asides or plain(line).strip(" :：") in headings:
            continue
        does = bool([c for c in read_clauses(line, {}, language) if c.action and c.action not in ("pour",)])
        if _is_goods(line, language, bool(method) or (line in numbered and does), does):
            goods.append(line)
        elif not first and not goods and not method and not line.endswith((".", "。")):
            first = line
        else:
            method.append(line)
    clauses = read_clauses(first, {}, language) if first else []
    done = any(c.action and (not goods or c.lasts_s or c.at_c is not None) for c in clauses)
    return ("" if done else first), goods, "\n".join(([first] if done else []) + method), asides


def _is_aside(line: str, language: Language) -> bool:
    """Whether a short line says how many it serves or how long it takes in all, which is no step."""
    words = words_of(line, language)
    known = [tuple(words_of(each, language)) for each in lexicon(language).asides]
    return len(words) <= ASIDE_WORDS and any(tuple(words[: len(each)]) == each for each in known)


def _is_goods(line: str, language: Language, in_method: bool, does: bool) -> bool:
    """Whether a line is one of the list: it begins or ends with an amount, or names a row and does nothing."""
    if in_method or line.endswith((".", "。")):
        return False
    amounts = find_amounts(line, language)
    if amounts and (amounts[0].begin <= 2 or language == "zh" or amounts[0].of == "kg"):
        return True
    words = stems_without_amounts(line, [], language)
    return not does and len(words) <= 4 and find_row(words, language) is not None and bool(amounts or line.islower())


def _read_line(line: str, language: Language) -> list[ReadIngredient]:
    """A line of the list; two where it joins two rows and weighs neither: salt and peppercorns."""
    parts = JOINS.split(line)
    rows = [find_row(stems_without_amounts(part, find_amounts(part, language), language), language) for part in parts]
    weighed = any(amount.of in ("kg", "l") for amount in find_amounts(line, language))
    if len(parts) == 2 and all(rows) and rows[0] != rows[1] and not weighed:
        return [_read_ingredient(part, language) for part in parts]
    return [_read_ingredient(line, language)]


def _read_ingredient(line: str, language: Language) -> ReadIngredient:
    amounts = find_amounts(line, language)
    words = stems_without_amounts(line, amounts, language)
    row = find_row(words, language)
    kg, assumed = weigh(amounts, row, language)
    name: Words = row.name if row else _bare_name(line, amounts)
    if row and BOUGHT & set(row.tags) and FLESH & set(row.tags):
        assumed = joined([*([assumed] if assumed else []), say("recipes.reading.bought_ready")], "; ")
    return ReadIngredient(text=line, name=name, catalogue=row.key if row else None, kg=round(kg, 4), assumed=assumed)


def _bare_name(line: str, amounts: list[Amount]) -> str:
    """What a line calls its goods where no row does: without the amount it begins with."""
    text = unicodedata.normalize("NFKC", line)
    rest = text[amounts[0].end :] if amounts and amounts[0].begin <= 2 else text
    return (re.sub(r"\s+", " ", rest).strip(" .,") or text)[:80]


def _named_in(method: str, language: Language) -> list[ReadIngredient]:
    """What a method without a list names; water apart, which is a bath or a pot as often."""
    known = find_phrases(words_of(method, language), names_in(language))
    keys = dict.fromkeys(key for _, _, key in known if key != "water")
    rows = [catalogue().ingredient(key) for key in keys]
    return [ReadIngredient(text=str(row.name), name=row.name, catalogue=row.key) for row in rows][:MOST_GOODS]


def _find_vinegar_percent(ingredients: list[ReadIngredient]) -> float | None:
    """How strong its vinegar is, by its own line."""
    for each in ingredients:
        found = PERCENT.search(plain(each.text)) if (each.catalogue or "").endswith("vinegar") else None
        if found:
            return float(found[1].replace(",", "."))
    return None


def _place(making: Making) -> None:
    """Where each of the list goes in: where it is named first; what is raw and never named, last, and that is asked."""
    first = making.steps[1].id
    heats = [step for step in making.steps if step.kind in ("heat_in", "simmer", "bath_cook", "microwave", "reheat")]
    work = [step for step in making.steps[1:] if step.kind not in STEADY]
    for key in making.rows:
        named = making.enters.get(key)
        if named is not None:
            making.enters[key] = "" if named == first else named
            if key in making.taken and heats and key != making.main() and "raw" in making.row(key).tags:
                mixing = next(step for step in making.steps if step.id == named)
                _ask_place(making, key, [mixing, *[step for step in reversed(work) if step is not mixing]])
        elif not heats or not work or key == making.main() or "raw" not in making.row(key).tags:
            making.enters[key] = ""
        else:
            making.enters[key] = work[-1].id
            if work[-1].id != first:
                _ask_place(making, key, [work[-1], *work[:-1]])


def _ask_place(making: Making, key: str, steps: list[Made]) -> None:
    options = [Option(words=step.name, enters=step.id) for step in steps]
    if len(options) < 2:
        return
    words = say("recipes.asked.place", name=making.row(key).name)
    making.questions.append(RecipeQuestion(step=steps[0].id, words=words, options=tuple(options), ingredient=key))


def _plan(
    name: str, rules: RuleSetId, altitude_m: float | None, ingredients: list[ReadIngredient], making: Making
) -> Plan:
    once: dict[str, ReadIngredient] = {}
    for each in ingredients:
        once.setdefault(each.catalogue or each.name, each)
    document: dict[str, Any] = {
        "name": name[:120],
        "rule_set": rules,
        "altitude_m": altitude_m,
        "ingredients": [
            Ingredient(
                name=str(each.name),
                catalogue=each.catalogue,
                allergens=making.row(each.catalogue).allergens if each.catalogue else (),
                amount_kg=min(making.rows.get(each.catalogue or "", each.kg), MOST_KG),
                enters=making.enters.get(each.catalogue or "", ""),
            )
            for each in once.values()
        ],
        "steps": [step.settings for step in making.steps],
    }
    try:
        return Plan.model_validate(document)
    except ValidationError as error:  # steps that cannot stand together
        raise RefusedError(say("recipes.refused.not_a_plan", why=str(error.errors()[0]["msg"]))) from error


def _until_cores(plan: Plan, making: Making) -> Plan:
    """Steps that last until their core is so warm, with the time the walk needs for it; told as worked out.

    Each answer to a question of a step brings the times that go with it.
    """
    until = [m for m in making.steps if m.core_c is not None and "duration_s" in KINDS[m.kind].settings.model_fields]
    needed = _work_out(plan, until)
    for made in until:
        lasts = needed[made.id]
        found = lasts is not None
        said = say("recipes.assumed.worked_out", lasts=duration(lasts or 0.0))
        made.assumed.append(said if found else say("recipes.assumed.core_not_reached"))
    plan = _with_settings(plan, _as_settings(needed))
    making.questions = [_with_times(plan, question, until) for question in making.questions]
    return plan


def _work_out(plan: Plan, until: list[Made]) -> dict[str, float | None]:
    """How long each of some steps takes [s], one after the other; None where it never gets there."""
    needed: dict[str, float | None] = {}
    for made in until:
        needed[made.id] = _time_to(plan, made)
        plan = _with_settings(plan, _as_settings(needed))
    return needed


def _as_settings(needed: dict[str, float | None]) -> dict[str, dict[str, Any]]:
    return {step: {"duration_s": lasts} for step, lasts in needed.items() if lasts is not None}


def _with_times(plan: Plan, question: RecipeQuestion, until: list[Made]) -> RecipeQuestion:
    """A question each of whose answers says how long it then takes."""
    asked = {step for option in question.options for step in option.settings}
    until = [made for made in until if made.id in asked]
    if not until:
        return question
    options = []
    for option in question.options:
        times = _as_settings(_work_out(_with_settings(plan, option.settings), until))
        both = {step: {**times.get(step, {}), **option.settings.get(step, {})} for step in {*times, *option.settings}}
        options.append(option.model_copy(update={"settings": both}))
    return question.model_copy(update={"options": tuple(options)})


def _with_settings(plan: Plan, settings: Mapping[str, Mapping[str, Any]]) -> Plan:
    """A plan with other settings of some of its steps, by their ids."""
    steps = tuple(step.model_copy(update=dict(settings.get(step.id, {}))) for step in plan.steps)
    return plan.model_copy(update={"steps": steps})


def _time_to(plan: Plan, made: Made) -> float | None:
    """How long until the core of a step is as warm, or as cold, as asked [s], to the next five minutes; None: never."""
    at = next(i for i, step in enumerate(plan.steps) if step.id == made.id)
    so_far = plan.model_copy(update={"steps": plan.steps[: at + 1]})
    long = _with_settings(so_far, {made.id: {"duration_s": LONGEST_S}})
    try:
        ways = ways_with(long, made.id)
        if not ways or provable(ways[0]):
            return None
        course = simulated(ways[0])[1]
        core = course.core_in(made.id)
    except DomainError:
        return None
    if core is None or made.core_c is None:
        return None
    there = core.values <= made.core_c if made.kind in CHILLS else core.values >= made.core_c
    reached = core.times_s[there]
    if len(reached) == 0:
        return None
    return float(max(1, -(-(reached[0] - core.times_s[0]) // 300)) * 300)
