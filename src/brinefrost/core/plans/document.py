"""The plan document: everything that is signed."""

import hashlib
import json
from collections.abc import Iterator
from typing import Any, Literal

from pydantic import Field, model_validator

from brinefrost.core.errors import NotFoundError
from brinefrost.core.food.described import Described
from brinefrost.core.limits import Limit
from brinefrost.core.plans.allergens import allergens_said, declared_allergens
from brinefrost.core.plans.decisions import Answer, TreeId, outcome_of
from brinefrost.core.rules import RuleSetId
from brinefrost.core.steps import Step
from brinefrost.core.steps.document import Monitoring
from brinefrost.core.words import Message, Named, Words, say
from brinefrost.core.working import Document, Sent

Line = str
Family = Literal["bag", "cook_chill", "confit", "pickles", "cures", "smoked", "raw_fish", "eggs", "own"]

OF_VALIDATION = "validated-"  # begins the ids of what a validated step is asked: a document never says them itself


class Ingredient(Document):
    """An ingredient of this plan; ``catalogue`` links it to what is known of it."""

    name: str = Field(min_length=1, max_length=80)
    catalogue: str | None = Field(default=None, max_length=40)
    allergens: tuple[str, ...] = Field(default=(), max_length=20)
    made_here: bool = False  # it comes of a batch of this kitchen: each batch of the plan names which
    enters: str = Field(default="", max_length=40)  # the step it goes in at; nothing: the first
    amount_kg: float = Field(default=0.0, ge=0, le=2000)  # of it in what the plan makes; 0: not said
    described: Described | None = None  # what it is, where the catalogue has no row for it
    eaten: Literal["", "raw", "rare", "by_table"] = ""  # how, where it is not done; by the rule set's table of roasts
    eaten_at: tuple[str, ...] = Field(default=(), max_length=20)  # the last steps of the ways it is so; none: its own


class Brought(Ingredient):
    """An ingredient as one way of a dish meets it: it comes with another line, where its past is told."""


class Decision(Document):
    """A hazard weighed at a step, with the answers that decided."""

    step: str = Field(max_length=40)
    tree: TreeId = "codex-2022"
    answers: tuple[Answer, ...] = Field(default=(), max_length=8)


class Hazard(Document):
    """A hazard of this plan: why it is here, whether it matters, what was decided at which step."""

    key: str = Field(min_length=1, max_length=40)
    name: str = Field(min_length=1, max_length=120)
    type: Literal["biological", "chemical", "physical", "allergen"]
    reason: Named = Field(max_length=600)
    significant: bool = True
    set_aside_because: str = Field(default="", max_length=600)
    decisions: tuple[Decision, ...] = Field(default=(), max_length=40)


class Control(Document):
    """A critical control point: limits, monitoring, corrective action, verification."""

    step: str = Field(max_length=40)
    hazards: tuple[str, ...] = Field(max_length=20)
    limits: tuple[Limit, ...] = Field(max_length=8)
    monitoring: tuple[Monitoring, ...] = Field(max_length=8)
    corrective_actions: tuple[Line, ...] = Field(max_length=12)
    verification: tuple[Line, ...] = Field(max_length=12)
    departs: str = Field(default="", max_length=600)  # why a limit is looser than the rule set's own, or another school


class Question(Document):
    """What a signed plan asks at a step that no decision made critical: a limit as it was on that day."""

    step: str = Field(max_length=40)
    limit: Limit


class Plan(Sent):
    """A hazard control plan, whole.

    ``questions`` are a signed plan's own, and a draft's none: its batches are judged by them to their end, whatever is
    asked since. Format 1 has none, and no lines, nothing that is eaten raw, no serving; it is read as it is.
    """

    format: Literal["brinefrost-plan/1", "brinefrost-plan/2"] = "brinefrost-plan/2"
    name: str = Field(min_length=1, max_length=120)
    product: str = Field(default="", max_length=600)
    family: Family | None = None  # where the library files it; None: by what its steps do
    rule_set: RuleSetId = "us"
    guests: Literal["general", "higher_risk"] = "general"
    altitude_m: float | None = Field(default=None, ge=-100, le=6000)  # how high the kitchen stands; None: at the sea
    ingredients: tuple[Ingredient, ...] = Field(default=(), max_length=60)
    steps: tuple[Step, ...] = Field(default=(), max_length=40)
    hazards: tuple[Hazard, ...] = Field(default=(), max_length=60)
    controls: tuple[Control, ...] = Field(default=(), max_length=40)
    questions: tuple[Question, ...] | None = Field(default=None, max_length=320)

    @model_validator(mode="after")
    def _names_fit(self) -> "Plan":
        ids = [step.id for step in self.steps]
        if len(set(ids)) != len(ids):
            raise ValueError(say("plans.document.two_steps_have_the_same_id"))
        known = set(ids)
        for item in self.ingredients:
            if item.enters and item.enters not in known:
                raise ValueError(say("plans.document.an_ingredient_goes_in_at_a_step", name=item.name))
            if not known.issuperset(item.eaten_at):
                raise ValueError(say("plans.document.an_ingredient_is_eaten_at_a_step", name=item.name))
        for said in _find_faults(self.steps):
            raise ValueError(said)
        for control in self.controls:
            if control.step not in known:
                raise ValueError(say("plans.document.a_control_belongs_to_the_step", step=control.step))
            if any(each.id.startswith(OF_VALIDATION) for each in (*control.limits, *control.monitoring)):
                raise ValueError(say("plans.document.an_id_is_of_a_validation", mark=OF_VALIDATION))
        if len({control.step for control in self.controls}) != len(self.controls):
            raise ValueError(say("plans.document.two_controls_belong_to_one_step"))
        return self

    @model_validator(mode="after")
    def _know_reasons(self) -> "Plan":
        """What its ingredients declare, kept in plain English, is known again by them."""
        at = next((i for i, each in enumerate(self.hazards) if each.key == "allergens"), None)
        if at is None or isinstance(self.hazards[at].reason, Message):
            return self
        try:
            said = allergens_said(declared_allergens(self.ingredients))
        except NotFoundError:
            return self  # it is said where the ingredients are looked up
        if said == self.hazards[at].reason:
            known = self.hazards[at].model_copy(update={"reason": said})
            object.__setattr__(self, "hazards", (*self.hazards[:at], known, *self.hazards[at + 1 :]))
        return self

    def step(self, step_id: str) -> Step:
        """The step of an id."""
        found = next((step for step in self.steps if step.id == step_id), None)
        if found is None:
            raise NotFoundError(say("plans.document.the_plan_has_no_step", step_id=step_id), step=step_id)
        return found

    def control_of(self, step_id: str) -> Control | None:
        """The control at a step, if the step is critical."""
        return next((control for control in self.controls if control.step == step_id), None)

    def critical_steps(self) -> tuple[str, ...]:
        """Steps the decision trees made critical, in process order."""
        critical = {
            decision.step
            for hazard in self.hazards
            if hazard.significant
            for decision in hazard.decisions
            if outcome_of(decision.tree, decision.answers) == "ccp"
        }
        return tuple(step.id for step in self.steps if step.id in critical)


def _find_faults(steps: tuple[Step, ...]) -> Iterator[Words]:
    """What is wrong with how the lines of a plan run: each ends once, in a step of another line behind its last."""
    last = {step.line: i for i, step in enumerate(steps)}
    place = {step.id: i for i, step in enumerate(steps)}
    begun, taken = set[str](), set[str]()
    for i, step in enumerate(steps):
        for line in step.takes:
            if line not in last or line == step.line or last[line] >= i or line in taken:
                yield say("plans.document.a_step_takes_a_line_that_ended", name=step.name, line=line)
            taken.add(line)
        root = place.get(step.out_of, i) if step.out_of else -1
        if root >= i or (step.out_of and (step.line in begun or steps[root].line == step.line)):
            yield say("plans.document.a_line_begins_out_of_an_earlier_step", name=step.name)
        begun.add(step.line)


def canonical(document: Document) -> str:
    """The one text of a document: sorted keys, no spaces, UTF-8 as it is.

    Fields a later release added are left out while they say nothing, so that what was signed before keeps its hash.
    """
    written = _without_unsaid(document.model_dump(mode="json"))
    return json.dumps(written, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


# fields added since format 1 was first signed, by the key beside which they stand
ADDED_LATER = {
    "departs": "",
    "made_here": False,
    "family": None,
    "amount_kg": 0.0,
    "starter": False,
    "gap_s": None,
    "further": False,
    "counts_from": "falling",
    "begins_within_s": None,
    "piece_kg": 0,
    "chilled_within_s": None,
    "cap_c": None,
    "altitude_m": None,
    "load_kg": 0.0,
    "by": "",
    "by_step": "",
    "enters": "",
    "eaten": "",
    "eaten_at": [],
    "questions": None,
    "law": None,
    "line": "",
    "takes": [],
    "out_of": "",
    "soaked_m": 0.02,
    "described": None,
    "mould": False,
    "cure": "none",
    "cure_g_kg": 0.0,
    "turned": "once",
    "falls_to_c": None,
    "length_m": 0.15,
    "sugar_percent": 0,
    "kept_by": "made",
    "dry_aw": 0.6,
    "label_days": 0,
    "width_m": 0.1,
}


LATER_IN = {kind: {"shape": "slab"} for kind in ("bath_cook", "chill_air")}  # what other kinds had from the first


def _without_unsaid(value: Any) -> Any:
    if isinstance(value, dict):
        later = ADDED_LATER | LATER_IN.get(str(value.get("kind")), {})
        return {
            key: _without_unsaid(inner) for key, inner in value.items() if not (key in later and inner == later[key])
        }
    return [_without_unsaid(inner) for inner in value] if isinstance(value, list) else value


def hash_of(document: Document) -> str:
    """SHA-256 of the canonical text, in hex."""
    return hashlib.sha256(canonical(document).encode()).hexdigest()


def is_as_stored(plan: Plan, stored: dict[str, Any]) -> bool:
    """Whether a draft says what a stored document says: its format and the questions it was signed with apart.

    Valid for documents of either format.
    """
    return bool(_bare(plan.model_dump(mode="json")) == _bare(stored))


def _bare(written: dict[str, Any]) -> Any:
    return _without_unsaid({key: value for key, value in written.items() if key not in ("format", "questions")})
