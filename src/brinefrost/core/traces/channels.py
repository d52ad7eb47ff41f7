"""The columns of readings: what each measures, in which unit, and which cells are no readings."""

import re
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from brinefrost.core.quantities import ChannelQuantity
from brinefrost.core.quantity import to_inside
from brinefrost.core.traces.model import Assumption, Channel, TraceOptions
from brinefrost.core.traces.names import quantities_named
from brinefrost.core.traces.spikes import lone_spikes
from brinefrost.core.traces.thinning import thin
from brinefrost.core.words import num, say, temp

_NUMBER = re.compile(r"[+-]?\d+([.,]\d+)?$")
LONG_GAP = 3.0  # a silence of more than three intervals is a gap; common practice, no source


@dataclass(frozen=True)
class Columns:
    """The channels found, with what was assumed and left out."""

    channels: list[Channel]
    assumptions: list[Assumption]
    notes: list[str]
    interval_s: float


def channels_from_rows(
    header: list[str],
    rows: list[list[str]],
    times_s: Sequence[float | None],
    time_columns: set[int],
    options: TraceOptions,
) -> Columns:
    """Read every column of numbers.

    Channels in time order, °C for temperatures, spikes and error words left out and named. Raises OutOfRangeError if a
    number is not finite. Valid for one reading a cell, with a decimal point or comma. ``times_s`` [s]. Common
    practice, no source.
    """
    found = Columns([], [], [], _interval([time for time in times_s if time is not None]))
    header = _apart(header)
    for column, name in enumerate(header):
        if column in time_columns:
            continue
        cells = [row[column] for row in rows]
        numeric = [bool(_NUMBER.match(cell)) for cell in cells]
        filled = sum(bool(cell) for cell in cells)
        if sum(numeric) < 2 or sum(numeric) < 0.5 * filled or _is_counter(name, cells):
            continue
        _read_column(name, cells, numeric, times_s, options, found)
    if any("," in row[i] for row in rows[:20] for i in range(len(header)) if i not in time_columns):
        found.assumptions.append(
            Assumption(about="decimal", sentence=say("traces.channels.the_decimal_mark_is_a_comma"), certain=True)
        )
    _settle_quantities(found, options)
    return found


def _read_column(
    name: str,
    cells: list[str],
    numeric: list[bool],
    times_s: Sequence[float | None],
    options: TraceOptions,
    found: Columns,
) -> None:
    unit, said = _unit(name, options)
    pairs = sorted(
        (time, float(cell.replace(",", ".")))
        for time, cell, good in zip(times_s, cells, numeric, strict=True)
        if good and time is not None
    )
    words = sorted({cell for cell, good in zip(cells, numeric, strict=True) if not good and cell})
    if words:
        lost = sum(1 for cell, good in zip(cells, numeric, strict=True) if not good and cell)
        found.notes.append(say("traces.channels.left_out", name=name, count=lost, words=words[0][:20]))
    doubled = len(pairs) - len({time for time, _ in pairs})
    if doubled:
        found.notes.append(say("traces.channels.at_one_time", name=name, count=doubled))
    if unit == "°F":
        pairs = [(time, to_inside(value, "°F")) for time, value in pairs]
    inside = "°C" if unit == "°F" else unit
    if inside == "°C" and not doubled:
        pairs = _without_spikes(name, pairs, found)
    if not pairs:
        found.notes.append(say("traces.channels.no_reading_with_a_readable_time", name=name))
        return
    _name_gaps(name, [time for time, _ in pairs], found)
    quantity = options.quantities.get(name) or _quantity(name)
    found.assumptions.append(said)
    times, values, stretch_s = thin(np.array([time for time, _ in pairs]), np.array([value for _, value in pairs]))
    if stretch_s:
        found.notes.append(say("traces.channels.thinned", name=name, count=len(pairs), kept=len(times)))
    found.channels.append(
        Channel(
            name=name,
            quantity=quantity,
            unit=inside,
            times_s=tuple((times + options.shift_s).tolist()),
            values=tuple(round(value, 4) for value in values.tolist()),
            stretch_s=stretch_s,
        )
    )


def _apart(header: list[str]) -> list[str]:
    """The names of the columns, with a number where several have the same one: each can be told apart."""
    seen, found = dict[str, int](), list[str]()
    for name in header:
        seen[name] = seen.get(name, 0) + 1
        found.append(name if seen[name] == 1 or not name else f"{name} ({seen[name]})")
    return found


def _interval(times_s: list[float]) -> float:
    steps = np.diff(sorted(times_s))
    steps = steps[steps > 0]
    return float(np.median(steps)) if len(steps) else 0.0


def _is_counter(name: str, cells: list[str]) -> bool:
    if not re.match(r"(record|no\.?|nr\.?|#|index|row|id)$", name.strip().lower()):
        return False
    return all(cell.isdigit() for cell in cells if cell)


def _unit(name: str, options: TraceOptions) -> tuple[str, Assumption]:
    low = name.lower()
    if name in options.units:
        return options.units[name], Assumption(
            about="unit",
            sentence=say("traces.channels.as_you_said", name=name, units=options.units[name]),
            certain=True,
        )
    if re.search(r"°\s*f|\(f\)|\[f\]|_f$|fahrenheit|deg\s*f", low):
        return "°F", Assumption(
            about="unit", sentence=say("traces.channels.f_from_its_name_turned_into", name=name), certain=True
        )
    if re.search(r"°\s*c|\(c\)|\[c\]|_c$|celsius|deg\s*c", low):
        return "°C", Assumption(about="unit", sentence=say("traces.channels.c_from_its_name", name=name), certain=True)
    if _quantity(name) == "ph":
        return "pH", Assumption(about="unit", sentence=say("traces.channels.name_ph", name=name), certain=True)
    if _quantity(name) == "salt" or "%" in name or "pct" in low:
        return "%", Assumption(about="unit", sentence=say("traces.channels.from_its_name", name=name), certain=True)
    return "°C", Assumption(
        about="unit", sentence=say("traces.channels.taken_as_c_the_file_does", name=name), certain=False
    )


def _quantity(name: str) -> ChannelQuantity:
    named = quantities_named(name)
    return named[0] if len(named) == 1 else "unknown"


def _without_spikes(name: str, pairs: list[tuple[float, float]], found: Columns) -> list[tuple[float, float]]:
    spikes = lone_spikes(np.array([value for _, value in pairs]))
    found.notes.extend(
        say("traces.channels.a_lone_spike_of_was_left", name=name, value=temp(value, ".1f"))
        for (_, value), spike in zip(pairs, spikes, strict=True)
        if spike
    )
    return [pair for pair, spike in zip(pairs, spikes, strict=True) if not spike]


def _name_gaps(name: str, times_s: list[float], found: Columns) -> None:
    gaps = [step for step in np.diff(times_s) if step > LONG_GAP * max(found.interval_s, 1.0)]
    if gaps:
        found.notes.append(
            say(
                "traces.channels.gaps",
                name=name,
                count=len(gaps),
                longest=num(max(gaps) / 60, ".0f"),
            )
        )


def _settle_quantities(found: Columns, options: TraceOptions) -> None:
    """Say what each channel was taken for; with nothing to go by, a lone temperature is left for the person to name."""
    for channel in found.channels:
        sure = channel.name in options.quantities or channel.quantity != "unknown"
        meaning = {
            "core": say("core.quantities.noun_core"),
            "bath": say("traces.channels.bath_or_oven"),
            "air": say("core.quantities.noun_air"),
            "ph": "pH",
            "salt": say("core.quantities.noun_salt"),
        }.get(channel.quantity)
        said = (
            say("traces.channels.taken_as", name=channel.name, meaning=meaning)
            if meaning
            else say("traces.channels.say_what_this_channel_measures", name=channel.name)
        )
        found.assumptions.append(Assumption(about="channel", sentence=said, certain=sure))
