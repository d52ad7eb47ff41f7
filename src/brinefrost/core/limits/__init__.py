"""The one place where anything is judged. Planning proof, live forecast, rescue, record and drill all come here."""

from typing import Annotated

from pydantic import Field

from brinefrost.core.limits.base import LimitBase, LimitMark, Series, State, Verdict, worst
from brinefrost.core.limits.come_up import ComeUp
from brinefrost.core.limits.composition import Bound, Composition, Measured, Way
from brinefrost.core.limits.cooling import Cooling, CoolingStage
from brinefrost.core.limits.degree_hours import Ceiling, DegreeHours
from brinefrost.core.limits.ends import Ends
from brinefrost.core.limits.exposure import Exposure, TimeAbove, Uncontrolled, exposure_of
from brinefrost.core.limits.forecast import Forecast, Projection, StageForecast, forecast_of
from brinefrost.core.limits.freezing import FreezeOption, Freezing
from brinefrost.core.limits.growth import Growth
from brinefrost.core.limits.hold import Hold
from brinefrost.core.limits.lasted import Lasted
from brinefrost.core.limits.lethality import DzModel, Lethality, TableModel, TwoZModel
from brinefrost.core.limits.looked import Looked
from brinefrost.core.limits.reached_by import ReachedBy
from brinefrost.core.limits.threshold import Threshold
from brinefrost.core.quantities import Quantity

Limit = Annotated[
    Threshold
    | Hold
    | ComeUp
    | Lethality
    | Cooling
    | Exposure
    | TimeAbove
    | Uncontrolled
    | DegreeHours
    | Composition
    | Freezing
    | Growth
    | ReachedBy
    | Lasted
    | Looked
    | Ends,
    Field(discriminator="kind"),
]

__all__ = [
    "Bound",
    "Ceiling",
    "ComeUp",
    "Composition",
    "Cooling",
    "CoolingStage",
    "DegreeHours",
    "DzModel",
    "Ends",
    "Exposure",
    "Forecast",
    "FreezeOption",
    "Freezing",
    "Growth",
    "Hold",
    "Lasted",
    "Lethality",
    "Limit",
    "LimitBase",
    "LimitMark",
    "Looked",
    "Measured",
    "Projection",
    "Quantity",
    "ReachedBy",
    "Series",
    "StageForecast",
    "State",
    "TableModel",
    "Threshold",
    "TimeAbove",
    "TwoZModel",
    "Uncontrolled",
    "Verdict",
    "Way",
    "exposure_of",
    "forecast_of",
    "worst",
]
