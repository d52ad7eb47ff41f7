"""Salted vegetables or meat turn sour by themselves."""

from typing import Literal

import numpy as np

from brinefrost.core.fields import field
from brinefrost.core.limits import Limit, ReachedBy, Series
from brinefrost.core.rules import target
from brinefrost.core.steps.base import Context, ControlParts, Finding, StepBase, StepKind
from brinefrost.core.steps.common import read_by_the_lead, watch_ph
from brinefrost.core.steps.state import Flow, Walk
from brinefrost.core.words import num, say, temp

BEGINS_PH, POINTS = 6.2, 60  # fresh vegetables on the high side; common practice
LEAST_SALT, MOST_SALT = 1.5, 8.0  # of everything [%]: below it rots, above it does not sour; common practice
COOLEST_C, WARMEST_C = 12.0, 26.0


class Ferment(StepBase):
    """Salted food turns sour by itself."""

    kind: Literal["souring"] = "souring"
    salt_percent: float = field("percent", 2, 0, 15, step=0.1, main=True, paper="salt of everything")
    kept_c: float = field("temperature", 18, 0, 40, main=True, paper="kept at")
    sour_days: float = field("time", 5, 0.5, 60, "d", size=86400, paper="sour by day")
    days: float = field("time", 21, 1, 365, "d", size=86400, main=True, paper="for")


class FermentKind(StepKind[Ferment]):
    """Judged by its pH, and by when it got there: what comes of the plan is the kitchen's own experience."""

    settings = Ferment
    acts = frozenset({"acidifies"})
    takes = "ph"

    def length_s(self, step: Ferment) -> float:
        """Its days."""
        return step.days * 86400.0

    def own_limits(self, step: Ferment, context: Context) -> tuple[Limit, ...]:
        """Sour in time."""
        return (target("ferment-4.6", ReachedBy),)

    def work(self, step: Ferment, walk: Walk, context: Context) -> None:
        """The pH as the plan expects it: at 4.5 by the day the kitchen's own ferments are."""
        times = np.linspace(0.0, self.length_s(step), POINTS)
        days = times / 86400.0
        ph = 3.6 + (BEGINS_PH - 3.6) * np.exp(-days / step.sour_days * float(np.log((BEGINS_PH - 3.6) / 0.9)))
        walk.other[(step.id, "ph")] = Series(times, ph, 0.1, 0.0, True, np.inf, "computed")

    def around_c(self, step: Ferment) -> float:
        """Where it stands."""
        return step.kept_c

    def lays(self, step: Ferment, flow: Flow) -> list[Finding]:
        """Too little or too much salt, too cold or too warm: it may rot before it is sour."""
        flow.acid = True
        found = []
        if not LEAST_SALT <= step.salt_percent <= MOST_SALT:
            said = say(
                "steps.ferment.with_salt_outside_it_may_not", name=step.name, low=num(LEAST_SALT), high=num(MOST_SALT)
            )
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        if not COOLEST_C <= step.kept_c <= WARMEST_C:
            low, high = temp(COOLEST_C, "g"), temp(WARMEST_C, "g")
            said = say("steps.ferment.outside_to_nobody_can_say_when", name=step.name, low=low, high=high)
            found.append(Finding(step=step.id, state="not_proved", sentence=said))
        return found

    def control(self, step: Ferment, context: Context) -> ControlParts:
        """The line, and the pH every other day."""
        return ControlParts(
            limits=self.own_limits(step, context),
            monitoring=(watch_ph(3.2, 6.5, 2 * 86400.0),),
            corrective_actions=(
                say("steps.ferment.not_sour_in_time_discard"),
                say("steps.ferment.soft_slimy_or_foul_discard"),
            ),
            verification=read_by_the_lead(),
        )


KIND = FermentKind()
