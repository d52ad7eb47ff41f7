"""What food is as a step finds it, and its past: told once, by what each step did, and asked by every question."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

from brinefrost.core.food.media import ShapeKey, ThermalValues, body_of
from brinefrost.core.kitchen.lines import ANIMALS
from brinefrost.core.limits import Composition, Measured
from brinefrost.core.physics.body import Body
from brinefrost.core.quantities import Quantity
from brinefrost.core.rules import target
from brinefrost.core.steps.acts import Act

AQUATIC = frozenset({"fish", "crustacean", "bivalve"})  # what laws call fish
AIRLESS = frozenset({"sealed", "under_fat"})  # what stands without oxygen
HELD_BY = frozenset({"sour", "soured_through", "salt_kept", "dry_kept", "for_shelf", "baked"})
AS_BOUGHT: frozenset[Act] = frozenset({"receives", "keeps", "stores", "stores_frozen", "shelves", "freezes"})
FLESH = frozenset(ANIMALS) - {"egg"}
GRAIN = frozenset({"starch", "raw_flour"})
WET: frozenset[Act] = frozenset({"acidifies", "salts", "ripens", "jars"})
SHELVED = frozenset({"dry", "tinned"})
LASTING = frozenset({"dry", "long"})
MADE_PLANTS = frozenset({"frozen_plant", "cooked", "ready"})
NO_PLANTS = frozenset({*ANIMALS, "dairy", "starch", "sprout", "unknown"})
UNKNOWN = frozenset({"unknown"})  # nobody said what is in it


@dataclass(frozen=True)
class Piece:
    """What is followed through the steps: a piece of a thickness or diameter [m], as warm as it comes in [°C]."""

    thickness_m: float
    start_c: float
    shape: ShapeKey = "slab"
    length_m: float = 0.0  # closes what is short and round; with the width, a block
    width_m: float = 0.0

    def body(self, thermal: ThermalValues) -> Body:
        """It as the heat equation sees it. Valid for the body's ranges."""
        return body_of(self.shape, self.thickness_m, self.length_m, self.width_m, thermal)


@dataclass(frozen=True)
class Segment:
    """One step of a past: which it was, what it did, and what the food was made by its end."""

    step: str
    name: str
    acts: frozenset[Act]
    made: frozenset[str]


@dataclass(frozen=True)
class Food:
    """Food on one way through a plan: what is in it, what was made of it, and every step that it has been through.

    ``known`` is what the catalogue says of its parts, ``raw`` of those that were not bought ready, ``to_cook`` of those
    that are to be cooked through. A past is never changed: a step's is the one before it and one segment more.
    """

    known: frozenset[str] = UNKNOWN
    raw: frozenset[str] = frozenset()
    to_cook: frozenset[str] = UNKNOWN
    made: frozenset[str] = frozenset()
    parts: tuple[frozenset[str], ...] = ()  # what the catalogue says of each of its parts
    thermal: ThermalValues | None = None
    piece: Piece | None = None
    seared: bool = False  # meat that is eaten rare is in it: all its faces are looked at
    thickness_m: float = 0.0  # of the pieces it is in by now; 0 while nothing says so
    mixed_ph: float | None = None  # what the plan means it to come to, where acid is mixed in or it sours by itself
    came_diluted: bool = False  # something went in as this step began that is neither sour nor salt nor dry
    unboiled: bool = False  # beans are in it that nobody has boiled yet
    came_unboiled: bool = False  # and were as this step began
    nature_ph: float | None = None  # where all that is in it is sour by nature: the highest usual of any of it
    keeps: tuple[str, ...] = ()  # how each of its parts keeps: dry, tinned, long, cold, fresh; or made here
    rest_ph: float | None = None  # where a brine brings it, its doubt added; None where nothing computes it
    past: tuple[Segment, ...] = ()

    @cached_property
    def tags(self) -> frozenset[str]:
        """What it is by now, by its parts and by what was made of them."""
        return self.known | self.made

    @cached_property
    def cooked(self) -> bool:
        """Whether a step has heated it that was raw; what is sour all through cools as it likes."""
        return any(map(_cooks, self.past))

    @cached_property
    def bought_cooked(self) -> bool:
        """Whether all of animals that is in it was bought cooked or ready to eat: to heat it is to heat it again."""
        animals = frozenset(ANIMALS)
        return bool(self.known & animals) and not self.raw & (animals | {"unknown"})

    @property
    def heated(self) -> bool:
        """Whether any step has heated it."""
        return any("heats" in each.acts for each in self.past)

    @property
    def reheated(self) -> bool:
        """Whether what was cooked has been heated again."""
        return any("reheats" in each.acts for each in self.past)

    @property
    def chilled(self) -> bool:
        """Whether it has been brought down since it was last hot."""
        down = [
            "cools" in each.acts
            for each in self.past
            if "cools" in each.acts or ("heats" in each.acts and "jars" not in each.acts)
        ]
        return bool(down) and down[-1]

    @property
    def sour_by_nature(self) -> bool:
        """Whether all that is in it is sour as it grows."""
        return self.nature_ph is not None

    @property
    def is_held_by_itself(self) -> bool:
        """Whether its acid, salt or dryness holds it since it was last hot: however it cools then, nothing grows."""
        made = [each.made for each in self.past if "heats" in each.acts][-1:] or [frozenset[str]()]
        return self.sour_by_nature or bool((self.made - made[0]) & {"sour", "salt_kept", "dry_kept"})

    @cached_property
    def is_still_raw(self) -> bool:
        """Whether it is raw as it came in: nothing of it cooked, cured or bought ready to eat."""
        cured = any(each.acts & {"salts", "smokes", "dries", "acidifies"} for each in self.past)
        return "raw" in self.known and not (self.heated or cured or self.known & {"cooked", "ready"})

    @property
    def is_shell_eggs(self) -> bool:
        """Whether it is eggs in their shells and nothing else."""
        whole = [{"egg", "raw"} <= tags and "pooled_egg" not in tags for tags in self.parts]
        return bool(whole) and all(whole) and self.is_still_raw and "mixed" not in self.made

    @cached_property
    def is_cut_plants(self) -> bool:
        """Whether it is fruit, vegetables and what came out of cans, and nothing heated here."""
        grain = any("starch" in tags and "cooked" not in tags for tags in self.parts)
        barred = {*ANIMALS, "dairy", "unknown", "sprout", "raw_flour"}
        return "plant" in self.known and not (self.known & barred or grain or self.heated)

    @property
    def needs_no_cold(self) -> bool:
        """Whether its acid alone holds it, and none of it is of an animal: it may cool, and lie, as it likes.

        By a pH that the plan measures, or the highest that it grows with.
        """
        ph = self.nature_ph if self.nature_ph is not None else self.mixed_ph
        return ph is not None and not self.known & {*ANIMALS, "unknown"} and _is_free(ph)

    @cached_property
    def kept_as(self) -> frozenset[str]:
        """In what ways its parts keep."""
        return frozenset(self.keeps)

    @property
    def is_as_bought(self) -> bool:
        """Whether it is goods that nobody has opened: made ready by others, or plants that are whole."""
        is_ready = self.is_whole_plants or not self.known & {"raw", "unknown"}
        return is_ready and self._is_untouched

    @property
    def is_whole_plants(self) -> bool:
        """Whether it is fresh fruit, vegetables or herbs as they came in alone: no juice, nothing frozen."""
        is_fresh = self.kept_as == {"fresh"} and not self.known & (NO_PLANTS | MADE_PLANTS)
        return self._is_untouched and is_fresh and bool(self.known & {"plant", "leafy"})

    @property
    def _is_untouched(self) -> bool:
        """Whether it was bought, and has only been stored since."""
        return bool(self.parts) and "made" not in self.kept_as and all(each.acts <= AS_BOUGHT for each in self.past)

    @property
    def lasts(self) -> bool:
        """Whether it keeps as its makers made it, opened too: dry, sour, cultured, hard, cured, and not heated."""
        wetted = any(each.acts & WET for each in self.past)
        return bool(self.parts) and self.kept_as <= LASTING and not (self.heated or wetted or self._is_stirred_grain)

    @property
    def _is_stirred_grain(self) -> bool:
        return bool(self.known & GRAIN) and any("handles" in each.acts for each in self.past)

    @property
    def may_be_dry(self) -> bool:
        """Whether its dryness is to be believed where a meter shows it: dry as bought, or baked, and no flesh in it."""
        is_baked = "baked" in self.made and not self.known & (FLESH | {"unknown"})
        return self.is_dry_as_bought or is_baked or "dry_kept" in self.made

    @property
    def is_dry_as_bought(self) -> bool:
        """Whether all of it was bought dry, and has met no water since: boiled rice is not dry, toasted nuts are.

        Grain that hands had may have been wetted by them: nobody lists the water of couscous.
        """
        if self._is_stirred_grain:
            return False
        dry = all(not each.acts & WET and ("heats" not in each.acts or "dry_heat" in each.made) for each in self.past)
        return bool(self.parts) and self.kept_as <= {"dry"} and dry

    @property
    def stands_dry(self) -> bool:
        """Whether it may stand on a shelf as it was bought: dry, or in a tin that nobody has opened."""
        return self.is_dry_as_bought or (self.is_as_bought and self.kept_as <= SHELVED)

    @property
    def kept(self) -> bool:
        """Whether it has stood in a cold store, a freezer or on a shelf."""
        return any(each.acts & {"stores", "stores_frozen", "freezes", "shelves"} for each in self.past)

    @property
    def served(self) -> bool:
        """Whether it has been served."""
        return any("serves" in each.acts for each in self.past)

    @property
    def sealed(self) -> bool:
        """Whether it is in a bag without air that no hands have opened since it was cooked."""
        sealed = cooked = False
        for each in self.past:
            cooked = cooked or _cooks(each)
            if "seals" in each.acts:
                sealed = sealed or "sealed" in each.made
            elif "handles" in each.acts and cooked:
                sealed = False
        return sealed

    def entered(self, **sets: object) -> "Food":
        """It with what goes in at a step. Valid for every field."""
        return replace(self, **sets)  # type: ignore[arg-type]

    def through(self, step_id: str, name: str, acts: frozenset[Act], makes: frozenset[str]) -> "Food":
        """It behind a step that does and makes something. Valid for every step."""
        made = self._made_by(acts, (self.made - self._unmade_by(acts)) | makes)
        return replace(self, made=made, past=(*self.past, Segment(step_id, name, acts, made)))

    def with_made(self, more: str) -> "Food":
        """It behind a step that has made it something more. Valid behind at least one step."""
        last = replace(self.past[-1], made=self.past[-1].made | {more})
        return replace(self, made=self.made | {more}, past=(*self.past[:-1], last))

    def after_dilution(self) -> "Food":
        """It once something is in it that is neither sour nor salt nor dry: what held the rest holds it no more.

        Valid for what goes in later. A step that sours, salts or dries it all makes it so again.
        """
        return replace(self, made=self.made - HELD_BY)

    def after_boil(self) -> "Food":
        """It behind a boil that is long enough for beans. Valid behind every step."""
        return replace(self, unboiled=False)

    def for_cook(self) -> "Food":
        """It as a cook is asked for it: by what is to be cooked through alone."""
        return replace(self, known=self.to_cook)

    def join(self, other: "Food") -> "Food":
        """It with food of another way that is in the same step: what either is, in the pieces this one is in."""
        more = tuple(each for each in other.past if each not in self.past)
        return replace(
            self,
            known=self.known | other.known,
            raw=self.raw | other.raw,
            to_cook=self.to_cook | other.to_cook,
            made=self.made | other.made,
            parts=(*self.parts, *other.parts),
            keeps=(*self.keeps, *other.keeps),
            seared=self.seared or other.seared,
            past=(*more, *self.past),
        )

    @staticmethod
    def _unmade_by(acts: frozenset[Act]) -> frozenset[str]:
        """What it is no more once something is done to it: hands open what was sealed."""
        opened = {"sealed", "cooked_in_bag"} if "handles" in acts else set[str]()
        return frozenset(opened | ({"baked", "dry_heat"} if "heats" in acts else set[str]()))

    def _made_by(self, acts: frozenset[Act], made: frozenset[str]) -> frozenset[str]:
        """What follows from what was done: raw eggs that are mixed are broken together, what is heated while it is
        sealed is cooked in its bag, plants of the soil in oil have no air, and others where no heat comes any more."""
        if self.is_dry_as_bought:  # spores do not grow in oil and dry spices
            return made - {"under_fat"}
        more = set[str]()
        if "mixed" in made and "raw_egg" in self.known:
            more.add("pooled_egg")
        if "sealed" in made and "heats" in acts:
            more.add("cooked_in_bag")
        if "oil" in self.known and self.known & ({"soil", "plant", "leafy"} if "cold_oil" in self.known else {"soil"}):
            more.add("plants_in_oil")
        return made | more


def _cooks(segment: Segment) -> bool:
    sour = "jars" in segment.acts and "sour" in segment.made
    return "heats" in segment.acts and "reheats" not in segment.acts and not sour


@lru_cache(maxsize=128)
def _is_free(ph: float) -> bool:
    """Whether heated food of such a pH needs neither time nor cold, packed or not."""
    facts: dict[Quantity, Measured] = {"ph": Measured(value=ph), "aw": Measured(value=0.99)}
    return target("tcs-b", Composition).judge(facts, "computed").state == "pass"
