"""Titles that a plan keeps in plain English and that hold a number: told again from the number beside them."""

from collections.abc import Callable

from brinefrost.core.words.amounts import num, temp
from brinefrost.core.words.catalogue import template_of
from brinefrost.core.words.message import Message
from brinefrost.core.words.render import SLOT


def _degrees(value: float) -> Message:
    return temp(value, "g")


# how the kitchen's own bounds are called, and how the number in each is written
OWN_TITLES: dict[str, Callable[[float], Message]] = {
    "steps.cold_keep.kept_at_or_below": _degrees,
    "steps.receive.received_at_or_below": _degrees,
    "steps.hot_hold.held_at_or_above": _degrees,
    "steps.smoke.chamber_at_or_below": _degrees,
    "steps.cold_keep.used_or_discarded_within_days": num,
    "steps.base.used_or_discarded_within_days_for": num,
    "steps.shelf.used_within": num,
}


def title_of_own(text: str, value: float) -> str:
    """A bound's title as a message, where it is one of the kitchen's own with this number in it; else as it was.

    Valid for every text and number [the bound's unit].
    """
    for code, written in OWN_TITLES.items():
        _, slot, *_ = SLOT.split(template_of(code, "en"))
        made = Message(code, {slot: written(value)})
        if made == text:
            return made
    return text
