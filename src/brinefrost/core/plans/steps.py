"""The steps of a process and their parameters. Ranges are what the models were made for."""

from typing import Annotated, Literal

from pydantic import Field

from brinefrost.core.working import Document


class StepBase(Document):
    """Every step has an id that stays and a name people use."""

    id: str = Field(min_length=1, max_length=40, pattern=r"^[a-z0-9-]+$")
    name: str = Field(min_length=1, max_length=80)


class Receive(StepBase):
    """Raw goods come in and go to the cold store."""

    kind: Literal["receive"] = "receive"
    max_c: float = Field(default=4, ge=-30, le=10)


class Seal(StepBase):
    """Food is sealed in a bag with the air drawn off."""

    kind: Literal["seal"] = "seal"
    pack_mass_kg: float = Field(ge=0.02, le=20)
    packs: int = Field(default=6, ge=1, le=500)
    without_oxygen: bool = True


class BathCook(StepBase):
    """Bags cook in a stirred water bath."""

    kind: Literal["bath_cook"] = "bath_cook"
    thickness_m: float = Field(ge=0.003, le=0.2)
    start_c: float = Field(ge=-2, le=30)
    bath_c: float = Field(ge=40, le=100)
    duration_s: float = Field(ge=60, le=72 * 3600)
    water_kg: float = Field(default=56, ge=2, le=2000)
    heater_w: float = Field(default=2000, ge=100, le=60000)


class SlurryChill(StepBase):
    """Bags chill in stirred ice and water."""

    kind: Literal["slurry_chill"] = "slurry_chill"
    begin_within_s: float = Field(default=300, ge=0, le=3600)
    target_c: float = Field(default=3, ge=-1, le=10)
    water_kg: float = Field(default=20, ge=1, le=2000)
    ice_kg: float = Field(default=12, ge=0, le=1000)


class ColdKeep(StepBase):
    """Bags are kept cold until used."""

    kind: Literal["cold_keep"] = "cold_keep"
    max_c: float = Field(default=3, ge=-30, le=8)
    days: float = Field(default=5, gt=0, le=90)


class Reheat(StepBase):
    """Bags are heated again for service."""

    kind: Literal["reheat"] = "reheat"
    core_c: float = Field(default=75, ge=40, le=100)


Step = Annotated[Receive | Seal | BathCook | SlurryChill | ColdKeep | Reheat, Field(discriminator="kind")]

WORDS = {
    "receive": "Receive",
    "seal": "Seal in a bag",
    "bath_cook": "Cook in a bath",
    "slurry_chill": "Chill in slurry",
    "cold_keep": "Keep cold",
    "reheat": "Reheat",
}

# which topics of a rule set a kind of step answers to
TOPICS: dict[str, tuple[str, ...]] = {
    "receive": ("receive.cold",),
    "seal": (),
    "bath_cook": ("cook.poultry", "come_up"),
    "slurry_chill": ("chill.cooked",),
    "cold_keep": ("keep.sealed", "keep.days"),
    "reheat": ("reheat",),
}
