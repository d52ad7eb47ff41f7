"""Numbers with their kind, as parameters of a message or standing alone."""

from datetime import date

from brinefrost.core.words.message import Message
from brinefrost.core.words.render import DECIMALS


def temp(celsius: float, spec: str = "") -> Message:
    """A temperature that was measured or computed [°C]; in °F it is converted exactly.

    ``spec`` is a format of numbers; without one it has one decimal and no idle zeros. Valid for finite numbers.
    """
    return Message("amount.temperature", {"value": celsius, "spec": spec})


def legal(celsius: float, spec: str = "") -> Message:
    """A temperature that a rule sets [°C]; in °F it is what the codes print. Valid for finite numbers."""
    return Message("amount.legal", {"value": celsius, "spec": spec})


def diff(kelvin: float, spec: str = "") -> Message:
    """A difference of temperatures [K]: in °F it loses no 32. Valid for finite numbers."""
    return Message("amount.difference", {"value": kelvin, "spec": spec})


def degree_hours(value: float, spec: str = "") -> Message:
    """Degrees above a base times hours [°C·h]. Valid for finite numbers."""
    return Message("amount.degree_hours", {"value": value, "spec": spec})


def height(metres: float) -> Message:
    """A height above the sea [m]; in feet where lengths are in inches. Valid for finite numbers."""
    return Message("amount.height", {"value": metres, "spec": ".0f"})


def mm(value: float, spec: str = "g") -> Message:
    """A length [mm]. Valid for finite numbers."""
    return Message("amount.length", {"value": value, "spec": spec})


def kg(value: float, spec: str = "g") -> Message:
    """A mass [kg]. Valid for finite numbers."""
    return Message("amount.kilograms", {"value": value, "spec": spec})


def grams(value: float, spec: str = "g") -> Message:
    """A mass [g]. Valid for finite numbers."""
    return Message("amount.grams", {"value": value, "spec": spec})


def per_mass(grams_a_kg: float, spec: str = ".0f") -> Message:
    """So much on so much [g/kg]; in ounces on a pound where masses are. Valid for finite numbers."""
    return Message("amount.per_mass", {"value": grams_a_kg, "spec": spec})


def density(value: float) -> Message:
    """A liquid's density [kg/m³]; in pounds a US gallon where masses are in ounces. Valid for finite numbers."""
    return Message("amount.density", {"value": value, "spec": ".0f"})


def num(value: float, spec: str = "g") -> Message:
    """A number of a unit that everybody writes alike, or of none. Valid for finite numbers."""
    return Message("amount.number", {"value": value, "spec": spec})


def mins(value: float) -> Message:
    """Minutes [min] as people read them: no powers of ten, and no more figures than matter. Valid from 0."""
    return num(value, ".0f" if value >= 100 else ".1f" if value >= 10 else ".2f")


def duration(seconds: float) -> Message:
    """A duration [s] in words: 1 h 20 min, 4 min or 20 s; to the minute from two minutes on.

    Raises OverflowError if it is infinite.
    """
    return Message("amount.duration", {"value": seconds})


def bare(amount: Message) -> Message:
    """The same amount without its unit, where another with it follows."""
    return Message(amount.code, {**amount.params, "bare": True})


def moment(when: date, spec: str) -> Message:
    """A day or a time of day, already in its zone, by a format of ``strftime``; months are named in words."""
    return Message("amount.moment", {"value": when.isoformat(), "spec": spec})


def amount(value: float, unit: str, spec: str = "", more: int = 0) -> Message:
    """A value with whatever unit it has; temperatures are exact. Valid for finite numbers."""
    return Message("amount.value", {"value": value, "unit": unit, "spec": spec or _more(unit, more)})


def bound(value: float, unit: str, spec: str = "", more: int = 0) -> Message:
    """A bound of a rule with whatever unit it has; temperatures as the codes print them. Valid for finite numbers."""
    return Message("amount.bound", {"value": value, "unit": unit, "spec": spec or _more(unit, more)})


def apart(value: float, unit: str, spec: str = "", more: int = 0) -> Message:
    """How far two values of a unit lie apart: a margin, an uncertainty, an error. Valid for finite numbers."""
    return Message("amount.apart", {"value": value, "unit": unit, "spec": spec or _more(unit, more)})


def _more(unit: str, more: int) -> str:
    """As many decimals as the instruments of a unit tell apart, and some more; no idle zeros."""
    return f"~{DECIMALS.get(unit, 1) + more}" if more else ""


def percent(value: float, spec: str = ".0f") -> Message:
    """A share [%]. Valid for finite numbers."""
    return Message("amount.value", {"value": value, "unit": "%", "spec": spec})
