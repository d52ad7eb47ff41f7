"""What every kind of step says of itself. A kind is one short module; a step of a plan is its settings.

Proof, batch, schedule, forecast, the Bench's links and the demo's instruments ask the kind and name none.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any, ClassVar, Generic, Literal, TypeVar, cast

from pydantic import Field

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.fields import LAID
from brinefrost.core.food.media import Food, FoodKey, MediumKey, medium
from brinefrost.core.kitchen.lines import asked_tags, is_kept_general, rules_for, species_of
from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.physics.body import Array, Body, Shape
from brinefrost.core.quantities import Quantity, ReadingQuantity
from brinefrost.core.rules import RuleSet, RuleSetId
from brinefrost.core.words import Words, bound, num, say
from brinefrost.core.working import Document, Source, Working

if TYPE_CHECKING:
    from brinefrost.core.limits import Projection, Verdict
    from brinefrost.core.steps.state import Flow, MakeStage, Seen, Walk

Act = Literal[
    "receives",
    "seals",
    "heats",
    "cools",
    "keeps",
    "stores",
    "shelves",
    "jars",
    "reheats",
    "acidifies",
    "handles",
    "salts",
    "freezes",
    "holds",
    "dries",
    "smokes",
    "serves",
]
HOT: frozenset[Act] = frozenset({"heats", "holds"})  # what food leaves to fall
AQUATIC = frozenset({"fish", "crustacean", "bivalve"})  # what laws call fish
AIRLESS = frozenset({"sealed", "under_fat"})  # what stands without oxygen
AT_ONCE_S = 60.0  # what is served is gone
CHANGING: frozenset[Act] = frozenset({"heats", "cools", "acidifies", "freezes", "salts", "dries", "smokes"})
LOOSE: frozenset[Act] = frozenset({"handles", "seals", "serves"})  # nothing keeps it hot or cold meanwhile
COLD: frozenset[Act] = frozenset({"cools", "freezes"})  # what has brought it down
Guests = Literal["general", "higher_risk"]


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


@dataclass(frozen=True)
class Piece:
    """What is followed through the steps: a piece of a thickness or diameter [m], as warm as it comes in [°C]."""

    thickness_m: float
    start_c: float
    shape: Literal["slab", "cylinder", "sphere"] = "slab"

    def body(self, thermal: Food) -> Body:
        """It as the heat equation sees it. Valid for the body's ranges."""
        half = self.thickness_m / 2
        return Body(Shape[self.shape], half, thermal.diffusivity_m2_s, thermal.conductivity_w_mk)


@dataclass(frozen=True)
class Context:
    """What a step cannot know by itself: the rule set, who eats, what the food is, how much of it there is [kg].

    ``h_w_m2k`` holds coefficients that differ from those planned with: a kitchen's own, or a hidden truth.
    """

    rule_set_id: RuleSetId = "us"
    guests: Guests = "general"
    tags: frozenset[str] = frozenset({"unknown"})
    thermal: Food | None = None
    food_kg: float = 1.0
    piece: Piece | None = None
    approved: bool = False
    altitude_m: float = 0.0
    cook_goes_on: bool = False  # another heat of the same cook follows, and answers for it
    heated: bool = True  # a step before this one heated it
    served_next: bool = False  # it is served at once behind this step
    kept_days: float = 0.0  # it is kept so many days in all, once ready [d]
    seared: bool = False  # meat that is eaten rare is in it: all its faces are looked at
    h_w_m2k: Mapping[str, float] = field(default_factory=dict)

    @property
    def rules(self) -> RuleSet:
        """The rule set as it is for this food: a table of one species is not another's."""
        return self.rules_of(self.rule_set_id)

    def rules_of(self, rule_set_id: RuleSetId) -> RuleSet:
        """Another rule set as it is for this food."""
        general = is_kept_general(rule_set_id, self.kept_days, bool(self.tags & AIRLESS))
        tags = self.tags | {"aquatic"} if self.tags & AQUATIC else self.tags
        return rules_for(rule_set_id, species_of(self.tags), tags & asked_tags(rule_set_id), general)

    def h(self, key: MediumKey) -> float:
        """The surface coefficient planned with [W/m²K]."""
        return self.h_w_m2k.get(key, medium(key).h_w_m2k)

    def food_key(self) -> FoodKey:
        """Which food of the table it is planned as; raises PlanIncompleteError where none is known."""
        return cast(FoodKey, self.heat().key)  # a plan's food comes of the table

    def heat(self) -> Food:
        """Thermal values of the food; raises PlanIncompleteError where none are known."""
        if self.thermal is None:
            raise PlanIncompleteError(say("steps.base.no_ingredient_has_known_thermal_values"))
        return self.thermal


S = TypeVar("S", bound=StepBase)


class StepKind(Generic[S]):
    """A kind of step. What a kind does not say is answered here: no heat, no limit, nothing measured."""

    settings: type[S]
    blank: ClassVar[dict[str, Any]] = {}  # what a new one begins with, beside the settings' own defaults
    logged: ClassVar[ReadingQuantity | None] = None  # what a logger file laid to it must have read
    carried_by: ClassVar[tuple[Quantity, ...]] = ()  # what its course is carried on by, beside a limit's own readings
    sets: ClassVar[Mapping[Quantity, str]] = {}  # the setting by which a plan itself sets a quantity
    endless: ClassVar[bool] = False  # it runs until somebody ends it, however long the plan says

    def acts(self, step: S) -> frozenset[Act]:
        """What this step does to the food, by its own settings; the one answer to that question.

        Each kind says it; a kind that says nothing does nothing.
        """
        return frozenset()

    def changes(self, step: S) -> bool:
        """Whether a proof has something to work out at it; what is declared alone is not worked out."""
        acts = self.acts(step)
        return bool(acts & CHANGING) and not ("reheats" in acts and self.brings_to_c(step) is not None)

    @property
    def has_own_length(self) -> bool:
        """Whether a plan says how long it takes; else it is done when it is done."""
        return type(self).length_s is not StepKind.length_s

    @property
    def key(self) -> str:
        """The name in plans, in texts and in the catalogue."""
        return str(self.settings.model_fields["kind"].default)

    def length_s(self, step: S) -> float:
        """How long it takes by the plan [s]; a quarter of an hour where it has no time of its own."""
        return 900.0

    def tells_after_s(self, step: S, limit: Limit) -> float:
        """How long after its start a reading begins to tell of a limit [s]: one before warns, and proves nothing."""
        return 0.0

    def topics(self, step: S, context: Context) -> tuple[str, ...]:
        """Which topics of the rule set it answers to."""
        return ()

    def own_limits(self, step: S, context: Context) -> tuple[Limit, ...]:
        """What is asked of it wherever it stands: the rule set's own lines for its topics, with the guests in mind."""
        entries = [context.rules.entries_for(topic) for topic in self.topics(step, context)]
        return tuple(for_guests(context.guests, found[0].limit) for found in entries if found)

    def portion_kg(self, step: S) -> float | None:
        """What one pack of it holds [kg], where it makes packs."""
        return None

    def packs(self, step: S) -> int | None:
        """How many packs the plan makes here, where it makes packs."""
        return None

    def piece(self, step: S) -> Piece | None:
        """The piece it is planned for, where it has one."""
        return None

    def makes(self, step: S) -> frozenset[str]:
        """What the food is from here on, beside what its ingredients are: minced, filled and the like."""
        return frozenset()

    def holds_back(self, step: S) -> frozenset[str]:
        """Organisms whose clock a limit of its own counts in another way: the sheet leaves them to that limit."""
        return frozenset()

    def stages(self, step: S, walk: Walk, context: Context) -> list[MakeStage]:
        """What surrounds the food through it, each stage made for the mean temperature the food comes in with [°C]."""
        return []

    def work(self, step: S, walk: Walk, context: Context) -> None:
        """Carry the food through it: its heat, and whatever else it changes."""
        for make in self.stages(step, walk, context):
            walk.through(make)

    def declared(self, step: S, limit: Limit) -> float | None:
        """What the plan itself sets for a limit's quantity here [its unit]: only what is one bound can be set."""
        setting = self.sets.get(limit.quantity)
        return getattr(step, setting) if setting and limit.one_bound else None

    def follows_core(self, step: S, limit: Limit) -> bool:
        """Whether the walk's core temperature bears on a limit here."""
        return False

    def lays(self, step: S, flow: Flow) -> list[Finding]:
        """What is wrong with it in this place, by what came before; tells the flow what it does."""
        return []

    def ends(self, step: S, walk: Walk) -> list[Finding]:
        """What it was to bring about and does not, by the walk."""
        return []

    def control(self, step: S, context: Context) -> ControlParts:
        """Limits, monitoring, corrective actions and verification where it is critical."""
        return ControlParts()

    def brings_to_c(self, step: S) -> float | None:
        """How warm the core is when it ends [°C], where the plan says so and no walk works it out."""
        return None

    def medium(self, step: S) -> MediumKey | None:
        """What surrounds the food by the plan, where that has a name."""
        return None

    def around_c(self, step: S) -> float | None:
        """How warm what surrounds the food is by the plan [°C]."""
        return None

    def varied(self, step: S) -> list[tuple[str, S]]:
        """The same step with something different, named, for the what-ifs of a proof."""
        return []

    def inverse_s(self, step: S, limit: Limit, context: Context) -> float | None:
        """The shortest time here that meets a limit [s]; None where no time does, or time does not decide."""
        return None

    def schools(self, step: S, walk: Walk, context: Context) -> list[School]:
        """How every rule set and school judges the same step."""
        return []

    def remedies(self, step: S, limit: Limit, context: Context) -> list[str]:
        """What would meet a limit that fails."""
        return [say("steps.base.change_the_plan_to", title=limit.title)]

    def workings(self, step: S, walk: Walk, context: Context) -> list[Working]:
        """The sums behind it."""
        return []

    def repeated(self, step: S, limit: Limit, walk: Walk, context: Context) -> Chance | None:
        """How often a limit would be missed if what goes in varies."""
        return None

    def asked(self, step: S, walk: Walk, context: Context) -> list[Asked]:
        """The same step as questions for the Bench."""
        return []

    def course(self, step: S, seen: Seen, context: Context) -> Projection | None:
        """Where the readings so far lead; None where it cannot be carried on."""
        return None

    def rescues(self, step: S, seen: Seen, context: Context) -> list[tuple[str, Projection]]:
        """What can still be done, each with where it would lead from now."""
        return []

    def simulate(self, step: S, context: Context, times_s: Array) -> dict[str, Array]:
        """What instruments without a fault would read, by quantity, at times since it began [s]; heat is the walk's."""
        return {}

    def running_asked(self, step: S, seen: Seen, context: Context) -> list[Asked]:
        """The readings of a step under way as questions for the Bench."""
        return []


@dataclass(frozen=True)
class School:
    """One rule set's or school's judgement of the same step."""

    rule_set: str
    school: str
    limit: Limit
    verdict: Verdict
    time_to_meet_s: float | None


@dataclass(frozen=True)
class Chance:
    """How often something fails, to what standard error, and how much of the spread each input explains."""

    failing_share: float
    error: float
    matters: tuple[tuple[str, float], ...]


def stricter(law: Threshold, own: float, own_id: str, title: str) -> Limit:
    """The kitchen's own bound [unit of the law's] where it is stricter than the law's, else the law's.

    Valid for plain bounds.
    """
    if own < law.value if law.comparison == "at_most" else own > law.value:
        said = say(
            "steps.base.the_kitchens_own_stricter_than",
            value=bound(law.value, law.unit, "g"),
            citation=law.source.citation,
        )
        return law.model_copy(
            update={"id": own_id, "title": title, "value": own, "source": Source(citation=said, tag=law.source.tag)}
        )
    return law


HIGHER_RISK_DAYS = 3.0  # guests at higher risk: Listeria is given fewer days; common practice, no source


def for_guests(guests: Guests, limit: Limit) -> Limit:
    """A limit as guests at higher risk need it: fewer days in the cold."""
    if guests != "higher_risk" or not isinstance(limit, Threshold) or limit.quantity != "age":
        return limit
    if limit.value <= HIGHER_RISK_DAYS:
        return limit
    said = say("steps.base.for_guests_at_higher_risk_common", citation=limit.source.citation)
    return limit.model_copy(
        update={
            "id": f"{limit.id}-higher-risk",
            "title": say("steps.base.used_or_discarded_within_days_for", higher_risk_days=num(HIGHER_RISK_DAYS)),
            "value": HIGHER_RISK_DAYS,
            "source": Source(citation=said, tag="common_practice"),
        }
    )
