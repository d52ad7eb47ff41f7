"""A trace as it was read."""

from typing import Literal

from pydantic import Field

from brinefrost.core.quantities import ChannelQuantity
from brinefrost.core.words import Words
from brinefrost.core.working import Document

DateOrder = Literal["day_first", "month_first", "year_first"]


class TraceOptions(Document):
    """What the person corrected about how a file was read. Empty: let the reader work it out."""

    date_order: DateOrder | None = None
    zone: str | None = Field(default=None, max_length=64)
    units: dict[str, Literal["°C", "°F"]] = Field(default_factory=dict, max_length=16)
    quantities: dict[str, ChannelQuantity] = Field(default_factory=dict, max_length=16)
    shift_s: float = Field(default=0.0, ge=-4e9, le=4e9)


class Assumption(Document):
    """One thing the reader took for granted."""

    about: Literal["encoding", "separator", "decimal", "dates", "zone", "unit", "channel", "header"]
    sentence: Words
    certain: bool


class Channel(Document):
    """One column of readings, in °C for temperatures."""

    name: str
    quantity: ChannelQuantity
    unit: str
    times_s: tuple[float, ...]  # seconds since 1970-01-01 UTC
    values: tuple[float, ...]  # where two stand at one time, the worse of them counts
    stretch_s: float = 0.0  # how far apart they can lie because a long log was thinned [s]

    def once(self, highest: bool) -> tuple[tuple[float, ...], tuple[float, ...]]:
        """Times [s] that rise and values: of several at one time the highest, or the lowest. Valid for all."""
        best: dict[float, float] = {}
        for time, value in zip(self.times_s, self.values, strict=True):
            worse = time not in best or (value > best[time] if highest else value < best[time])
            best[time] = value if worse else best[time]
        return tuple(best), tuple(best.values())


class Trace(Document):
    """A logger file, read."""

    channels: tuple[Channel, ...]
    assumptions: tuple[Assumption, ...]
    notes: tuple[Words, ...]
    interval_s: float
    first_s: float
    last_s: float
    questions: tuple[Words, ...] = ()  # what the file itself leaves in doubt, to be answered before it is attached

    def channels_of(self, quantity: str) -> tuple[Channel, ...]:
        """Every channel of a quantity, in the order of the file."""
        return tuple(channel for channel in self.channels if channel.quantity == quantity)

    def channel(self, quantity: str) -> Channel | None:
        """The first channel of a quantity."""
        return next(iter(self.channels_of(quantity)), None)
