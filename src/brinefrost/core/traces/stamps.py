"""Reading the times of a log: ISO, epoch, day or month first, one column or two."""

import math
import re
from dataclasses import dataclass, field
from datetime import UTC, datetime
from itertools import pairwise
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from brinefrost.core.errors import UnreadableFileError
from brinefrost.core.traces.model import Assumption, DateOrder, TraceOptions
from brinefrost.core.words import moment as moment_said
from brinefrost.core.words import say

_ISO = re.compile(r"\d{4}-\d\d-\d\d[T ]\d\d:\d\d(:\d\d(\.\d+)?)?(Z|[+-]\d\d:?\d\d)?$")
_DATE = re.compile(r"(\d{1,4})[./-](\d{1,2})[./-](\d{2,4})$")
_TIME = re.compile(r"(\d{1,2}):(\d\d)(?::(\d\d)(?:\.\d+)?)?\s*([AaPp]\.?[Mm]\.?)?$")
FIRST_YEAR, LAST_YEAR = 1970, 2099
_EPOCH = re.compile(r"\d{9,10}(\.\d+)?$|\d{13}$")


@dataclass(frozen=True)
class Stamps:
    """Times of the rows (None where one could not be read), the columns they took, and what was assumed."""

    times_s: list[float | None]
    columns: set[int]
    assumptions: list[Assumption]
    notes: list[str]
    questions: list[str] = field(default_factory=list)


def stamps_from_rows(rows: list[list[str]], options: TraceOptions, site_zone: str) -> Stamps:
    """Read the time of every row.

    Seconds since 1970 UTC [s], (n,). Raises UnreadableFileError if no column, or pair of columns, reads as times, or
    the zone is unknown. Valid for years 1970 to 2099. A local time that a clock change makes double is taken as the
    first of the two. ISO 8601; POSIX seconds since the Epoch.
    """
    width, sample = len(rows[0]), rows[: min(len(rows), 50)]
    for column in range(width):
        cells = [row[column] for row in sample]
        if _most(cells, _EPOCH):
            return _epoch(rows, column)
        if _most(cells, _ISO):
            return _iso(rows, column, options, site_zone)
    for column in range(width):
        dates = [row[column].split(" ")[0] for row in sample]
        if not _most(dates, _DATE):
            continue
        if any(" " in row[column] for row in sample):
            pairs = [(date, time) for date, _, time in (row[column].partition(" ") for row in rows)]
            return _local(pairs, {column}, options, site_zone)
        if column + 1 < width and _most([row[column + 1] for row in sample], _TIME):
            return _local([(row[column], row[column + 1]) for row in rows], {column, column + 1}, options, site_zone)
    raise UnreadableFileError(say("traces.stamps.no_column_of_dates_and_times"))


def _most(cells: list[str], pattern: re.Pattern[str]) -> bool:
    return sum(bool(pattern.match(cell)) for cell in cells) >= 0.8 * len(cells)


def _epoch(rows: list[list[str]], column: int) -> Stamps:
    times = [_epoch_seconds(row[column]) for row in rows]
    said = Assumption(about="dates", sentence=say("traces.stamps.times_are_seconds_since_1970_in"), certain=True)
    return Stamps(times, {column}, [said], [])


def _epoch_seconds(cell: str) -> float | None:
    if not _EPOCH.match(cell):
        return None
    value = float(cell)
    return value / 1000 if value > 1e11 else value


def _iso(rows: list[list[str]], column: int, options: TraceOptions, site_zone: str) -> Stamps:
    zone, said = _zone(options, site_zone)
    moments = [_from_iso(row[column]) for row in rows]
    times, notes = _in_zone(moments, zone)
    bare = any(moment is not None and moment.tzinfo is None for moment in moments)
    dates = Assumption(about="dates", sentence=say("traces.stamps.dates_are_year_month_day"), certain=True)
    return Stamps(times, {column}, [dates, said] if bare else [dates], notes, _impossible(moments, zone))


def _from_iso(cell: str) -> datetime | None:
    try:
        moment = datetime.fromisoformat(cell.replace("Z", "+00:00"))
    except ValueError:
        return None
    return moment if FIRST_YEAR <= moment.year <= LAST_YEAR else None


def _local(pairs: list[tuple[str, str]], columns: set[int], options: TraceOptions, site_zone: str) -> Stamps:
    zone, said = _zone(options, site_zone)
    order, dates = _date_order([pair[0] for pair in pairs], options)
    moments = [_moment(date, time, order) for date, time in pairs]
    times, notes = _in_zone(moments, zone)
    return Stamps(times, columns, [dates, said], notes, _impossible(moments, zone))


def _in_zone(moments: list[datetime | None], zone: ZoneInfo) -> tuple[list[float | None], list[str]]:
    """Clock times of a zone as instants [s]. Of the hour that comes twice, a reading that would run back is of its
    second round; where none does, the first is taken and said."""
    known = [moment.replace(tzinfo=None) for moment in moments if moment is not None]
    newest_first = sum(b < a for a, b in pairwise(known)) > sum(b > a for a, b in pairwise(known))
    times: list[float | None] = [None] * len(moments)
    last, doubled, ran_back = -math.inf, 0, False
    for i in reversed(range(len(moments))) if newest_first else range(len(moments)):
        moment = moments[i]
        if moment is None:
            continue
        if moment.tzinfo is not None:
            times[i] = moment.timestamp()
            continue
        first, second = (moment.replace(tzinfo=zone, fold=fold).timestamp() for fold in (0, 1))
        doubled += second > first
        again = first < last <= second
        ran_back = ran_back or again
        times[i] = last = second if again else first
    return times, [say("traces.stamps.doubled", count=doubled)] if doubled and not ran_back else []


def _impossible(moments: list[datetime | None], zone: ZoneInfo) -> list[str]:
    """A question where clock times are among the readings that no clock of the zone showed: the night it went forward
    leaves an hour out, so the logger's clock is in another zone, or did not change with the kitchen's."""
    bare = [moment for moment in moments if moment is not None and moment.tzinfo is None]
    gone = [each for each in bare if _is_left_out(each, zone)]
    if not gone:
        return []
    return [
        say("traces.stamps.no_such_time", count=len(gone), first=moment_said(gone[0], "%d %b %H:%M"), zone=zone.key)
    ]


def _is_left_out(moment: datetime, zone: ZoneInfo) -> bool:
    there = moment.replace(tzinfo=zone).astimezone(UTC).astimezone(zone)
    return there.replace(tzinfo=None) != moment


def _date_order(dates: list[str], options: TraceOptions) -> tuple[DateOrder, Assumption]:
    parts = [tuple(map(int, match.groups())) for match in map(_DATE.match, dates) if match]
    words = {
        "day_first": say("traces.stamps.day_month_year"),
        "month_first": say("traces.stamps.month_day_year"),
        "year_first": say("traces.stamps.year_month_day"),
    }
    order: DateOrder
    if options.date_order:
        order, certain, why = options.date_order, True, say("traces.stamps.as_you_said")
    elif max(part[0] for part in parts) > 31:
        order, certain, why = "year_first", True, say("traces.stamps.the_year_comes_first")
    elif max(part[0] for part in parts) > 12:
        order, certain, why = "day_first", True, say("traces.stamps.a_first_number_is_above_12")
    elif max(part[1] for part in parts) > 12:
        order, certain, why = "month_first", True, say("traces.stamps.a_second_number_is_above_12")
    else:
        order, certain, why = "day_first", False, say("traces.stamps.either_order_would_fit_check_it")
    return order, Assumption(
        about="dates", sentence=say("traces.stamps.dates_are", words=words[order], why=why), certain=certain
    )


def _moment(date: str, time: str, order: DateOrder) -> datetime | None:
    day_match, time_match = _DATE.match(date), _TIME.match(time.strip())
    if not day_match or not time_match:
        return None
    a, b, c = map(int, day_match.groups())
    year, month, day = {"day_first": (c, b, a), "month_first": (c, a, b), "year_first": (a, b, c)}[order]
    hour, half = int(time_match[1]), (time_match[4] or "").lower().replace(".", "")
    if half:
        hour = hour % 12 + (12 if half == "pm" else 0)
    year += 2000 if year < 100 else 0
    if not FIRST_YEAR <= year <= LAST_YEAR:
        return None
    try:
        # the zone is put on by the caller, who knows it
        return datetime(year, month, day, hour, int(time_match[2]), int(time_match[3] or 0))  # noqa: DTZ001
    except ValueError:
        return None


def _zone(options: TraceOptions, site_zone: str) -> tuple[ZoneInfo, Assumption]:
    name = options.zone or site_zone
    try:
        zone = ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError):
        raise UnreadableFileError(say("traces.stamps.the_zone_is_not_known", name=name), zone=name) from None
    why = say("traces.stamps.as_you_said") if options.zone else say("traces.stamps.the_file_names_no_zone_so")
    return zone, Assumption(
        about="zone", sentence=say("traces.stamps.clock_times_are_in", name=name, why=why), certain=bool(options.zone)
    )


def utc(seconds: float) -> datetime:
    """An instant from seconds since 1970 [s].

    Valid for the years 1 to 9999.
    """
    return datetime.fromtimestamp(seconds, tz=UTC)
