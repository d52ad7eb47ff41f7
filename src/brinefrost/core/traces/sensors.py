"""A log with a row for each sensor: its column of sensor names parts the readings into channels."""

import re
from collections import Counter

MOST_SENSORS = 16
_NUMBER = re.compile(r"[+-]?\d+([.,]\d+)?$")


def split_by_sensor(
    header: list[str], rows: list[list[str]], time_columns: set[int]
) -> tuple[list[str], list[list[str]]]:
    """Header and rows with a column of readings for each sensor, where one column names the sensor; else as they are.

    Recognised by names that come again and again, each beside readings, two or more of them at one time. Valid for rows
    of equal width.
    """
    column = _sensor_column(header, rows, time_columns)
    if column is None:
        return header, rows
    sensors = list(dict.fromkeys(row[column] for row in rows if row[column]))
    readings = [i for i in range(len(header)) if i not in time_columns and i != column and _is_numeric(rows, i)]
    kept = sorted(time_columns)
    named = [(i, sensor) for i in readings for sensor in sensors]
    new_header = header[: kept[-1] + 1] if kept == list(range(len(kept))) else [header[i] for i in kept]
    wide = [
        [*(row[i] for i in kept), *(row[i] if row[column] == sensor else "" for i, sensor in named)] for row in rows
    ]
    titles = [sensor if len(readings) == 1 else f"{sensor}, {header[i]}" for i, sensor in named]
    # what a unit in the readings' own title says holds for every sensor
    units = [_unit_of(header[i]) for i, _ in named]
    return [*new_header[: len(kept)], *(f"{t} {u}".strip() for t, u in zip(titles, units, strict=True))], wide


def _sensor_column(header: list[str], rows: list[list[str]], time_columns: set[int]) -> int | None:
    for i in range(len(header)):
        if i in time_columns:
            continue
        cells = [row[i] for row in rows]
        names = {cell for cell in cells if cell}
        if not 2 <= len(names) <= MOST_SENSORS or any(_NUMBER.match(name) for name in names):
            continue
        if any(cells.count(name) < 2 for name in names):
            continue
        stamps = Counter(tuple(row[k] for k in sorted(time_columns)) for row in rows)
        if sum(count > 1 for count in stamps.values()) * 2 >= len(stamps):
            return i
    return None


def _is_numeric(rows: list[list[str]], column: int) -> bool:
    cells = [row[column] for row in rows if row[column]]
    return bool(cells) and sum(bool(_NUMBER.match(cell)) for cell in cells) * 2 >= len(cells)


def _unit_of(title: str) -> str:
    found = re.search(r"[(\[]?°?\s*[CF][)\]]?$|°\s*[CF]", title)
    return f"({found[0].strip(' ()[]')})" if found and re.search(r"[°(\[]", found[0]) else ""
