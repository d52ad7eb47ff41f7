"""What was validated, and what probes measured by themselves, as a record bears it."""

from typing import cast

from reportlab.platypus import Flowable

from brinefrost.core.quantities import QUANTITIES, ReadingQuantity
from brinefrost.core.words import diff, num, say
from brinefrost.reports.paper import when, words
from brinefrost.services.binding import ProbeView
from brinefrost.services.views import BatchView


def validated_part(view: BatchView) -> list[Flowable]:
    """The steps whose process was monitored in place of the core, and by what right."""
    if not view.validated:
        return []
    return [words(say("paper.probes.validated"), "head"), *(words(each.sentence) for each in view.validated)]


def probes_part(view: BatchView, zone: str) -> list[Flowable]:
    """Each probe that was bound: where, from when to when, how many samples, and what it lacks."""
    if not view.probes:
        return []
    return [words(say("paper.probes.probes"), "head"), *(words(_probe(each, zone)) for each in view.probes)]


def _probe(probe: ProbeView, zone: str) -> str:
    ended = when(probe.until, zone) if probe.until else say("paper.plan_part.still_running")
    said = say(
        "paper.probes.was_bound",
        step=probe.step_name,
        instrument=probe.instrument_name,
        quantity=QUANTITIES[cast(ReadingQuantity, probe.quantity)].noun,
        uncertainty=diff(probe.uncertainty, "g"),
        since=when(probe.since, zone),
        until=ended,
        samples=num(probe.samples),
        by=probe.by,
    )
    if probe.state == "stuck" and probe.at is not None:
        return say("paper.probes.and_stood_still", said=said, when=when(probe.at, zone))
    if probe.state == "moved":
        return say("paper.probes.and_left_its_place", said=said)
    return say("paper.probes.and_was_asked_about", said=said, asked=probe.asked) if probe.asked else said
