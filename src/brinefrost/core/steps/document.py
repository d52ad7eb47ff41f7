"""What is written down of a step: its settings, what is measured at it, what is found of it."""

from dataclasses import dataclass
from typing import Any, Literal

from pydantic import Field

from brinefrost.core.fields import LAID
from brinefrost.core.limits import Limit
from brinefrost.core.quantities import ReadingQuantity
from brinefrost.core.words import Words
from brinefrost.core.working import Document


class StepBase(Document):
    """Every step has an id that stays and a name people use.

    ``line`` names the line it is in, nothing the main one; ``takes`` the lines that end in it; ``out_of``, of the first
    step of a line, the step whose food the line begins with.
    """

    id: str = Field(min_length=1, max_length=40, pattern=r"^[a-z0-9-]+$")
    name: str = Field(min_length=1, max_length=80)
    line: str = Field(default="", max_length=40, json_schema_extra=LAID)
    takes: tuple[str, ...] = Field(default=(), max_length=8, json_schema_extra=LAID)
    out_of: str = Field(default="", max_length=40, json_schema_extra=LAID)


class Monitoring(Document):
    """What is measured, how, how often, by whom.

    ``offsets_s`` count from the start of the step; ``every_s`` repeats until the step ends; with neither,
    it is taken once, when the step ends.
    """

    id: str = Field(max_length=40)
    what: str = Field(max_length=200)
    quantity: ReadingQuantity
    how: str = Field(max_length=300)
    who: Literal["cook", "lead"] = "cook"
    offsets_s: tuple[float, ...] = Field(default=(), max_length=24)
    every_s: float | None = Field(default=None, ge=60, le=30 * 86400)
    expected_low_c: float  # in the quantity's own unit; the name is format 1's
    expected_high_c: float


class Finding(Document):
    """Something the process as laid out does not do, or does in an order that cannot be; where the plan departs from
    its rule set, with its reason written; or what its guests are told."""

    step: str
    state: Literal["fails", "not_proved", "departs", "advisory"]
    sentence: Words


@dataclass(frozen=True)
class Need:
    """What a step leaves for a later one to do, and what is found where none does."""

    what: Literal["cold", "shelf"]
    finding: Finding


class Asked(Document):
    """A question of the Bench, as its page's address takes it."""

    family: str
    question: dict[str, Any]


@dataclass(frozen=True)
class ControlParts:
    """What belongs at a critical step."""

    limits: tuple[Limit, ...] = ()
    monitoring: tuple[Monitoring, ...] = ()
    corrective_actions: tuple[str, ...] = ()
    verification: tuple[str, ...] = ()
