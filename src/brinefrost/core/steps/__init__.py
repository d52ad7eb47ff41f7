"""The kinds of step there are. A new kind is a module of this package and a line here."""

from typing import Annotated, Any

from pydantic import Field

from brinefrost.core.steps import bath_cook, cold_keep, pickle, receive, reheat, seal, slurry_chill
from brinefrost.core.steps.base import StepBase, StepKind

Step = Annotated[
    receive.Receive
    | seal.Seal
    | bath_cook.BathCook
    | slurry_chill.SlurryChill
    | cold_keep.ColdKeep
    | reheat.Reheat
    | pickle.Pickle,
    Field(discriminator="kind"),
]

KINDS: dict[str, StepKind[Any]] = {
    module.KIND.key: module.KIND for module in (receive, seal, bath_cook, slurry_chill, cold_keep, reheat, pickle)
}


def kind_of(step: StepBase) -> StepKind[Any]:
    """The kind of a step."""
    return KINDS[str(getattr(step, "kind", ""))]
