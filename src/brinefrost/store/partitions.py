"""The partitions of samples: one a month, made by the owner of the tables, some way ahead."""

from datetime import UTC, date, datetime

from sqlalchemy import Connection, text

AHEAD, BACK = 24, 2  # months


def make_partitions(connection: Connection, now: datetime) -> list[str]:
    """Make the monthly partitions that are missing, from a little back to two years ahead: their names.

    What lies outside them goes into the default one. A month is a month of UTC. Valid for connections of the owner; run
    at each start.
    """
    made = []
    first = _month(now.astimezone(UTC).date(), -BACK)
    for n in range(BACK + AHEAD + 1):
        begins, ends = _month(first, n), _month(first, n + 1)
        name = f"samples_{begins:%Y_%m}"
        if connection.scalar(text("select to_regclass(:name)"), {"name": f"public.{name}"}) is not None:
            continue
        span = f"from ('{begins}T00:00:00Z') to ('{ends}T00:00:00Z')"
        connection.execute(text(f"create table {name} partition of samples for values {span}"))
        connection.execute(text(f"alter table {name} enable row level security"))
        made.append(name)
    return made


def _month(day: date, ahead: int) -> date:
    """The first of the month so many months ahead."""
    months = day.year * 12 + day.month - 1 + ahead
    return date(months // 12, months % 12 + 1, 1)
