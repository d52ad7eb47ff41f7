"""What a step cannot know by itself."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Literal, cast

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.food.media import FoodKey, MediumKey, ThermalValues, medium
from brinefrost.core.kitchen.lines import ANIMALS, asked_tags, is_kept_general, rules_for, species_of
from brinefrost.core.limits import Threshold
from brinefrost.core.physics.altitude import boiling_c
from brinefrost.core.rules import RuleEntry, RuleSet, RuleSetId, rule_set
from brinefrost.core.steps.food import AIRLESS, AQUATIC, SHELVED, Food
from brinefrost.core.words import say

KEPT_COLD = frozenset({*ANIMALS, "shellfish", "dairy", "cooked", "sprout", "frozen_plant", "unknown"})
Guests = Literal["general", "higher_risk"]


@dataclass(frozen=True)
class Context:
    """What a step cannot know by itself: the rule set, who eats, what the food is, how much of it there is [kg].

    ``h_w_m2k`` holds coefficients that differ from those planned with: a kitchen's own, or a hidden truth.
    """

    rule_set_id: RuleSetId = "us"
    guests: Guests = "general"
    food: Food = field(default_factory=Food)
    food_kg: float = 1.0
    approved: bool = False
    altitude_m: float = 0.0
    cook_goes_on: bool = False  # another heat of the same cook follows, and answers for it
    served_next: bool = False  # it is served at once behind this step
    kept_days: float = 0.0  # it is kept so many days in all, once ready [d]
    cooked_later: bool = False  # a cook follows, and nothing of it is eaten raw or rare
    kept_c: float | None = None  # how warm the warmest store may be that it is in once cooked [°C]
    h_w_m2k: Mapping[str, float] = field(default_factory=dict)

    @cached_property
    def tags(self) -> frozenset[str]:
        """What the food is by now."""
        return self.food.tags

    @cached_property
    def rules(self) -> RuleSet:
        """The rule set as it is for this food: a table of one species is not another's."""
        return self.rules_of(self.rule_set_id)

    def rules_of(self, rule_set_id: RuleSetId) -> RuleSet:
        """Another rule set as it is for this food."""
        return self._rules_as(rule_set_id, self._is_general(rule_set_id))

    def _rules_as(self, rule_set_id: RuleSetId, general: bool) -> RuleSet:
        more = {name for name, is_so in self._states if is_so}
        tags = self.tags | more
        return rules_for(rule_set_id, species_of(self.tags), tags & asked_tags(rule_set_id), general, self.kept_c)

    @cached_property
    def _states(self) -> tuple[tuple[str, object], ...]:
        """What rows may name that no catalogue says."""
        return (
            ("aquatic", self.tags & AQUATIC),
            ("uncooked", not self.food.cooked),
            ("bought_cooked", self.food.bought_cooked),
            ("cooked_later", self.cooked_later),
            ("still_raw", self._is_raw_to_cook),
            ("shell_eggs", self.food.is_shell_eggs),
            ("cut_plants", self.food.is_cut_plants),
            (
                "by_table",
                "roast" in self.food.to_cook and sum(bool(tags & {*ANIMALS}) for tags in self.food.parts) == 1,
            ),
            ("farmed_game", all("farmed" in tags for tags in self.food.parts if "game" in tags)),
        )

    @cached_property
    def kept_general(self) -> bool:
        """Whether it is kept a few days in any cold store, with air, and not as cook-chill."""
        return self._is_general(self.rule_set_id)

    @cached_property
    def general_rules(self) -> RuleSet:
        """The rule set as it is for what any cold store keeps, whatever holds it beside the cold."""
        return self._rules_as(self.rule_set_id, True)

    @property
    def _is_raw_to_cook(self) -> bool:
        return self.food.is_still_raw and self.cooked_later

    def _is_general(self, rule_set_id: RuleSetId) -> bool:
        if self._is_raw_to_cook and not self.tags & AIRLESS:  # cook-chill is of what was cooked
            return True
        return is_kept_general(rule_set_id, self.kept_days, bool(self.tags & AIRLESS))

    def strictest_for(self, topic: str) -> Threshold | None:
        """The plain bound for a topic that is the strictest of those for each part: minced meat by its own, say.

        Parts that no row of the topic names answer to its preferred one where they are kept cold at all; None where no
        part is, of flour, tins or whole plants. Raises NotFoundError if the rule set has none.
        """
        rules, rows = rule_set(self.rule_set_id), list[RuleEntry]()
        if not self.food.parts:
            return rules.bound_for(topic)
        for tags, how in zip(self.food.parts, self.food.keeps, strict=True):
            if how in SHELVED:
                continue
            fits = [
                entry
                for entry in rules.entries_for(topic)
                if entry.of and tags.issuperset(entry.of) and tags.isdisjoint(entry.unless)
            ]
            closest = max((len(entry.of) for entry in fits), default=0)
            usual = [rules.entries_for(topic)[0]] if tags & KEPT_COLD or how == "cold" else []
            rows += [entry for entry in fits if len(entry.of) == closest] or usual
        bounds = [entry.limit for entry in rows if isinstance(entry.limit, Threshold)]
        return min(bounds, key=lambda each: each.value, default=None)

    def h(self, key: MediumKey) -> float:
        """The surface coefficient planned with [W/m²K]."""
        return self.h_w_m2k.get(key, medium(key).h_w_m2k)

    @property
    def boils_c(self) -> float:
        """Where water boils in this kitchen [°C]."""
        return boiling_c(self.altitude_m)

    def food_key(self) -> FoodKey:
        """Which food of the table it is planned as; raises PlanIncompleteError where none is known."""
        return cast(FoodKey, self.heat().key)  # a plan's food comes of the table

    def heat(self) -> ThermalValues:
        """Thermal values of the food; raises PlanIncompleteError where none are known."""
        if self.food.thermal is None:
            raise PlanIncompleteError(say("steps.base.no_ingredient_has_known_thermal_values"))
        return self.food.thermal
