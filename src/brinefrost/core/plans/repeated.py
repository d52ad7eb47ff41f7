"""A plan's proof ten thousand times over: how often it would fail if thickness, start, bath and probe vary."""

import numpy as np

from brinefrost.core.errors import PlanIncompleteError
from brinefrost.core.limits import Cooling, Lethality
from brinefrost.core.physics.heating import Heating
from brinefrost.core.physics.robustness import Spread, repeat, repeat_chill
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import Proof, body_of, thermal_of
from brinefrost.core.plans.walk import BATH_H, SLURRY_C, SLURRY_H
from brinefrost.core.working import Document

# one standard deviation each; common practice, no source
USUAL = Spread(thickness_m=0.002, start_c=1.0, bath_c=0.3, probe_c=0.25)


class Share(Document):
    """How much of the spread one input explains."""

    name: str
    share: float


class Repeated(Document):
    """How often one step fails, to what standard error, and what matters most."""

    step: str
    title: str
    failing_share: float
    error: float
    matters: tuple[Share, ...]


def repeat_plan(plan: Plan, proof: Proof, spread: Spread = USUAL) -> tuple[Repeated, ...]:
    """Repeat a proof's cook and chill over spreads of their inputs.

    Parameters
    ----------
    plan : Plan
        With a bath step.
    proof : Proof
        Of that plan.
    spread : Spread
        Standard deviations: thickness [m], start, bath and probe [°C].

    Returns
    -------
    tuple of Repeated
        One for the cook's lethality, one for the chill if there is one.

    Raises
    ------
    PlanIncompleteError
        If there is no bath.

    Notes
    -----
    Valid as ``repeat``: the bath is taken steady at its mean over the cook, dip included, the slurry at 0.5 °C while
    ice is left.

    References
    ----------
    As ``repeat`` and ``repeat_chill``.
    """
    cook = plan.cook()
    if cook is None:
        raise PlanIncompleteError("There is no bath in the process, so there is nothing to repeat.")
    body, curve = body_of(cook.thickness_m, thermal_of(plan)), proof.curve
    cooking = np.array(curve.times_s) <= curve.cook_ends_s
    bath = float(np.mean(np.array(curve.surroundings_c)[cooking]))
    found = []
    chill = plan.chill()
    for judged in proof.limits:
        if judged.step not in (cook.id, chill.id if chill else ""):
            continue  # what comes after the first cook and chill is proved once, not repeated
        if isinstance(judged.limit, Lethality):
            heating = Heating(body, BATH_H, cook.start_c, bath)
            done = repeat(heating, judged.limit.model.law(), cook.duration_s, spread)
            found.append(_said(judged.step, judged.limit.title, done.failing_share, done.failing_error, done.matters))
        elif isinstance(judged.limit, Cooling):
            hot = float(np.array(curve.core_c)[cooking][-1])
            stages = tuple((stage.to_c, stage.within_s, stage.further) for stage in judged.limit.stages)
            chilling = Heating(body, SLURRY_H, hot, SLURRY_C)
            share, error, matters = repeat_chill(chilling, judged.limit.from_c, stages, spread)
            found.append(_said(judged.step, judged.limit.title, share, error, matters))
    return tuple(found)


def _said(step: str, title: str, share: float, error: float, matters: tuple[tuple[str, float], ...]) -> Repeated:
    told = tuple(Share(name=name, share=part) for name, part in matters)
    return Repeated(step=step, title=title, failing_share=share, error=error, matters=told)
