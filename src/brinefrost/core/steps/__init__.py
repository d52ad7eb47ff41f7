"""The kinds of step there are. A new kind is a module of this package and a line here."""

from typing import Annotated, Any

from pydantic import Field

from brinefrost.core.steps import (
    bath_cook,
    chill_air,
    cold_keep,
    cold_smoke,
    dressing,
    drying,
    freeze_down,
    handwork,
    heat_in,
    hot_hold,
    jar_heat,
    microwave,
    pickle,
    pot_chill,
    receive,
    reheat,
    salting,
    seal,
    serve,
    shelf_keep,
    simmer,
    slurry_chill,
    souring,
    thaw,
)
from brinefrost.core.steps.document import StepBase
from brinefrost.core.steps.kind import StepKind

Step = Annotated[
    receive.Receive
    | seal.Seal
    | bath_cook.BathCook
    | slurry_chill.SlurryChill
    | cold_keep.ColdKeep
    | reheat.Reheat
    | pickle.Pickle
    | heat_in.HeatIn
    | chill_air.ChillAir
    | handwork.Handwork
    | salting.Salting
    | freeze_down.FreezeDown
    | hot_hold.HotHold
    | souring.Souring
    | cold_smoke.ColdSmoke
    | dressing.Dressing
    | drying.Drying
    | jar_heat.JarHeat
    | microwave.Microwave
    | shelf_keep.ShelfKeep
    | serve.Serve
    | simmer.Simmer
    | pot_chill.PotChill
    | thaw.Thaw,
    Field(discriminator="kind"),
]

_MODULES = (
    receive,
    seal,
    bath_cook,
    slurry_chill,
    cold_keep,
    reheat,
    pickle,
    heat_in,
    chill_air,
    handwork,
    salting,
    freeze_down,
    hot_hold,
    souring,
    cold_smoke,
    dressing,
    drying,
    jar_heat,
    microwave,
    shelf_keep,
    serve,
    simmer,
    pot_chill,
    thaw,
)
KINDS: dict[str, StepKind[Any]] = {module.KIND.key: module.KIND for module in _MODULES}


def words_of(step: StepBase) -> frozenset[str]:
    """What a step goes by in the catalogue of hazards: what it does, and that it cooks where it does."""
    does = kind_of(step).acts(step)
    cooks = {"cooks"} if "heats" in does and "reheats" not in does else set()
    return frozenset({*does, *cooks})


def kind_of(step: StepBase) -> StepKind[Any]:
    """The kind of a step."""
    return KINDS[str(getattr(step, "kind", ""))]
