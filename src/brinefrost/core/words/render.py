"""From a code and its parameters to a text in somebody's language and units."""

import re
from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from datetime import datetime
from functools import cache
from typing import Any

from brinefrost.core.words.catalogue import pseudo, template_of, texts
from brinefrost.core.words.manner import HOUSE, PSEUDO, Manner
from brinefrost.core.words.printed import printed_f

KG_PER_LB, G_PER_OZ, MM_PER_IN, M_PER_FT = 0.45359237, 28.349523125, 25.4, 0.3048  # exact, international yard and pound
KG_M3_PER_LB_GAL = KG_PER_LB / 3.785411784e-3  # US gallon of 231 cubic inches, exact
# what is chosen, the unit kept, the other unit, one of it in the unit kept, its decimals
SCALED: dict[str, tuple[str, str, str, float, int]] = {
    "amount.length": ("length", "mm", "in", MM_PER_IN, 2),
    "amount.height": ("length", "m", "ft", M_PER_FT, 0),
    "amount.kilograms": ("mass", "kg", "lb", KG_PER_LB, 2),
    "amount.grams": ("mass", "g", "oz", G_PER_OZ, 2),
    "amount.per_mass": ("mass", "g/kg", "oz/lb", 1000 / 16, 2),
    "amount.density": ("mass", "kg/m³", "lb/gal", KG_M3_PER_LB_GAL, 2),
}
SLOT = re.compile(r"\{\{([^{}]+)\}\}")
LITERAL = re.compile(r"^(-?[\d.]+) ?(°C·h|°C|K|mm|m|kg|g)(?: = (-?[\d.]+) °F)?(, bare)?$")
NOTHING = re.compile(r"^-0(\.0*)?$")
OF_UNIT = {
    "°C": "amount.legal", "K": "amount.difference", "°C·h": "amount.degree_hours", "mm": "amount.length",
    "m": "amount.height", "kg": "amount.kilograms", "g": "amount.grams",
}  # fmt: skip


def render(code: str, params: Mapping[str, Any], manner: Manner) -> str:
    """The text of a code with its parameters; raises KeyError where either is missing."""
    if code.startswith("amount."):
        return _amount(code, params, manner)
    if code == "list":
        between = str(params["between"])
        said = render(between, {}, manner) if between in ("words.or", "words.and") else between
        return said.join(_plain(value, manner) for key, value in params.items() if key != "between")
    if code == "end":
        text = _plain(params["text"], manner).strip().rstrip(".。").rstrip()
        return f"{text}{template_of('words.stop', manner.language)}" if text else ""
    if code in ("first.lower", "first.upper"):
        text = _plain(params["text"], manner)
        return (text[:1].lower() if code == "first.lower" else text[:1].upper()) + text[1:]
    found = _closed(_template(code, params, manner), params, manner)
    return pseudo(found) if manner.language == PSEUDO else found


@dataclass(frozen=True)
class Known:
    """A text that the catalogue knows: its code and what was put into it."""

    code: str
    params: Mapping[str, Any]


_MORE: list[Callable[[], Iterable["Known"]]] = []  # who else has texts that plans keep in English


def learn(tell: Callable[[], Iterable[Any]]) -> None:
    """Have texts with parameters known again by their English: ``tell`` gives all of them, once they are asked for."""
    _MORE.append(tell)
    _more.cache_clear()


@cache
def _more() -> dict[str, "Known"]:
    return {str(each): Known(each.code, each.params) for tell in _MORE for each in tell()}


def known(text: str) -> Known | None:
    """What the English catalogue has word for word, or somebody has told; None for a person's own words."""
    code = _index().get(text)
    if code is not None:
        return Known(code, {})
    return _more().get(text)


def _closed(template: str, params: Mapping[str, Any], manner: Manner) -> str:
    """A template filled in; an empty parameter leaves no gap where it would have stood."""
    parts = _parts(template)
    found = "".join([part if isinstance(part, str) else _fill(part, params, manner) for part in parts])
    if "  " in found and "  " not in template:
        found = found.replace("  ", " ")
    if found[:1] == " " and template[:1] != " ":
        found = found.lstrip(" ")
    return found.rstrip(" ") if found[-1:] == " " and template[-1:] != " " else found


class _Slot(tuple[str, ...]):
    """A name to fill in, or the parts of an amount that stands in the words themselves."""


def _template(code: str, params: Mapping[str, Any], manner: Manner) -> str:
    if "count" in params and f"{code}_other" in texts("en"):
        return template_of(f"{code}_{_plural(manner.language, float(params['count']))}", manner.language)
    return template_of(code, manner.language)


@cache
def _parts(template: str) -> tuple[str | _Slot, ...]:
    found: list[str | _Slot] = []
    for i, part in enumerate(SLOT.split(template)):
        if i % 2 == 0:
            found.append(part)
            continue
        literal = LITERAL.match(part)
        found.append(_Slot(g or "" for g in literal.groups()) if literal else _Slot((part,)))
    return tuple(part for part in found if part)


def _fill(slot: _Slot, params: Mapping[str, Any], manner: Manner) -> str:
    if len(slot) == 1:
        return _plain(params[slot[0]], manner)
    value, unit, fahrenheit, is_bare = slot
    if unit == "°C" and manner.temperature == "°F" and fahrenheit:
        return _number(fahrenheit, manner) + ("" if is_bare else " °F")
    decimals = len(value.partition(".")[2])
    return _amount(OF_UNIT[unit], {"value": float(value), "spec": f".{decimals}f", "bare": bool(is_bare)}, manner)


def _plain(value: Any, manner: Manner) -> str:
    if manner is HOUSE and isinstance(value, str):
        return str(value)  # a message's own text is what the house reads
    code = getattr(value, "code", None)
    if code is not None:
        return render(code, value.params, manner)
    if isinstance(value, bool) or not isinstance(value, int | float):
        text = str(value)
        if manner is HOUSE:
            return text
        found = known(text)
        return text if found is None else render(found.code, found.params, manner)
    return _number(f"{value:g}" if isinstance(value, float) else str(value), manner)


def _amount(code: str, params: Mapping[str, Any], manner: Manner) -> str:
    if code == "amount.moment":
        return _moment(str(params["value"]), str(params["spec"]), manner)
    value, spec = float(params["value"]), str(params.get("spec", ""))
    match code:
        case "amount.duration":
            return _duration(value, manner)
        case "amount.number":
            return _write(value, spec, manner)
        case "amount.value" | "amount.bound" | "amount.apart" if "unit" in params:
            return _of_unit(code, value, params, manner)
        case "amount.temperature" | "amount.legal" | "amount.difference" | "amount.apart" | "amount.degree_hours":
            number, unit = _of_heat(code, value, spec, manner)
        case _:
            number, unit = _of_scale(code, value, spec, manner)
    return number if params.get("bare") else f"{number} {unit}"


DECIMALS = {"pH": 2, "aw": 3}


def _of_unit(code: str, value: float, params: Mapping[str, Any], manner: Manner) -> str:
    """By its unit; a pH has two decimals, a water activity three, everything else one, and no idle zeros."""
    unit, spec, is_bare = str(params["unit"]), str(params.get("spec", "")), bool(params.get("bare"))
    inside = OF_UNIT.get(unit)
    if inside == "amount.legal":
        inside = {"amount.bound": "amount.legal", "amount.apart": "amount.apart"}.get(code, "amount.temperature")
    if inside is not None:
        return _amount(inside, {"value": value, "spec": spec, "bare": is_bare}, manner)
    number = _write(value, spec, manner) if spec else _tidy(value, DECIMALS.get(unit, 1), manner)
    if is_bare:
        return number
    if unit == "pH" and code != "amount.apart":
        return f"pH {number}"
    return f"{number} {unit}".rstrip()


def _moment(value: str, spec: str, manner: Manner) -> str:
    when = datetime.fromisoformat(value)
    months = template_of("units.months", manner.language).split(" ")
    ordered = spec.replace("%d %b %Y", template_of("units.date", manner.language))
    ordered = ordered.replace("%d %b", template_of("units.day", manner.language))
    return when.strftime(ordered.replace("%b", months[when.month - 1]))


def _of_scale(code: str, value: float, spec: str, manner: Manner) -> tuple[str, str]:
    measure, unit, other, factor, decimals = SCALED[code]
    if (manner.length if measure == "length" else manner.mass) not in ("in", "oz"):
        return _write(value, spec, manner), unit
    return _tidy(value / factor, decimals, manner), other


def _of_heat(code: str, value: float, spec: str, manner: Manner) -> tuple[str, str]:
    fahrenheit = manner.temperature == "°F"
    if code == "amount.degree_hours":
        return (_tidy(value * 1.8, 1, manner), "°F·h") if fahrenheit else (_write(value, spec, manner), "°C·h")
    if code in ("amount.difference", "amount.apart"):
        if manner is HOUSE and code == "amount.difference":
            return _write(value, spec, manner), "K"
        decimals = int(spec[1:]) if spec.startswith("~") else 1
        return (_tidy(value * 1.8, decimals, manner), "°F") if fahrenheit else (_write(value, spec, manner), "°C")
    if not fahrenheit:
        return _write(value, spec, manner), "°C"
    if code == "amount.legal":
        return _tidy(printed_f(value), int(spec[1:]) if spec.startswith("~") else 1, manner), "°F"
    exact = value * 9 / 5 + 32
    kept = spec.endswith("f") or spec.startswith("~")
    return (_write(exact, spec, manner) if kept else _tidy(exact, 1, manner)), "°F"


def _write(value: float, spec: str, manner: Manner) -> str:
    """A number by a format; without one, one decimal and no idle zeros."""
    if spec.startswith("~"):
        return _tidy(value, int(spec[1:]), manner)
    if spec:
        text = f"{value:{spec}}"
        return _number(text[1:] if NOTHING.match(text) else text, manner)
    return _tidy(value, 1, manner)


def _tidy(value: float, decimals: int, manner: Manner) -> str:
    text = f"{value:.{decimals}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return _number("0" if text == "-0" else text, manner)


def _number(text: str, manner: Manner) -> str:
    return text.replace(".", ",") if manner.language in ("es", "fr") else text


def _duration(seconds: float, manner: Manner) -> str:
    unit = {key: template_of(f"units.{key}", manner.language) for key in ("d", "h", "min", "s")}
    if abs(seconds) < 120:
        return f"{round(seconds)}{unit['s']}"
    minutes = round(seconds / 60)
    hours, rest = divmod(abs(minutes), 60)
    sign = "-" if minutes < 0 else ""
    if hours >= 48:
        days = f"{sign}{hours // 24}{unit['d']}"
        return f"{days} {hours % 24}{unit['h']}" if hours % 24 else days
    if hours == 0:
        return f"{sign}{rest}{unit['min']}"
    return f"{sign}{hours}{unit['h']} {rest:02d}{unit['min']}" if rest else f"{sign}{hours}{unit['h']}"


def _plural(language: str, count: float) -> str:
    """CLDR's plural rules for the languages kept: English and Spanish: one is 1; French: 0 and 1; Chinese: none."""
    if language == "zh":
        return "other"
    return "one" if (0 <= count < 2 if language == "fr" else count == 1) else "other"


# said by their codes alone: short words that a name somebody gave may equal by chance
BY_CODE = (
    "core.quantities.",
    "paper.kind.",
    "paper.quantity.",
    "paper.who.",
    "paper.csv.",
    "paper.hazard.",
    "paper.decision.",
    "paper.cause.",
    "units.",
    "words.",
    "working.",
)


GIVEN = ("Ginger", "Honey", "Pepper", "Saffron")  # people are called so: never taken for the ingredient


def known_texts() -> tuple[str, ...]:
    """Every text of the English catalogue that has no parameters."""
    return tuple(_index())


@cache
def _index() -> dict[str, str]:
    """Every text without parameters, in English, with its code: of several, not the Bench's."""
    found: dict[str, str] = {}
    for code in sorted(texts("en"), key=lambda each: each.startswith("bench.")):
        if code.startswith(BY_CODE) or texts("en")[code] in GIVEN:
            continue
        try:
            found.setdefault(render(code, {}, HOUSE), code)
        except KeyError:
            continue
    return found
