"""The kinds of step there are. A new kind is a module of this package and a line here."""

from typing import Annotated, Any

from pydantic import Field

from brinefrost.core.steps import (
    bath_cook,
    chill,
    cold_keep,
    dress,
    dry,
    ferment,
    freeze,
    hand,
    heat,
    hot_hold,
    jar,
    pickle,
    receive,
    reheat,
    salt,
    seal,
    serve,
    shelf,
    slurry_chill,
    smoke,
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
    | heat.Heat
    | chill.Chill
    | hand.Hand
    | salt.Salt
    | freeze.Freeze
    | hot_hold.HotHold
    | ferment.Ferment
    | smoke.Smoke
    | dress.Dress
    | dry.Dry
    | jar.JarHeat
    | shelf.Shelf
    | serve.Serve,
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
    heat,
    chill,
    hand,
    salt,
    freeze,
    hot_hold,
    ferment,
    smoke,
    dress,
    dry,
    jar,
    shelf,
    serve,
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
