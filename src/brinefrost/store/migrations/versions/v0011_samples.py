"""Probes that deliver by themselves: hubs with a token and channels, and their samples in a table of partitions.

Does: ``hubs`` and ``hub_channels``, which the lead keeps in order; ``samples``, one row a channel and moment, parted by
month of measuring, append-only as records are. The application reaches samples through the parent table alone.
Going back loses: hubs and samples; so it is refused while there are samples.
"""

import sqlalchemy as sa
from alembic import op

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None

HERE = "current_setting('brinefrost.kitchen', true)"
TABLES = ("hubs", "hub_channels", "samples")

HUBS = f"""
create table hubs (
    kitchen_id varchar(32) not null default {HERE} references kitchens (id),
    id varchar(64) not null, name varchar(80) not null, token_hash varchar(64) not null,
    added_at timestamptz not null, ended_at timestamptz, seen_at timestamptz,
    skew_s double precision not null default 0,
    refused integer not null default 0, refusal text not null default '',
    primary key (kitchen_id, id)
)
"""
CHANNELS = f"""
create table hub_channels (
    kitchen_id varchar(32) not null default {HERE} references kitchens (id),
    id varchar(64) not null, hub_id varchar(64) not null, key varchar(40) not null, quantity varchar(16) not null,
    primary key (kitchen_id, id), unique (kitchen_id, hub_id, key),
    foreign key (kitchen_id, hub_id) references hubs (kitchen_id, id),
    foreign key (kitchen_id, id) references instruments (kitchen_id, id)
)
"""
SAMPLES = f"""
create table samples (
    kitchen_id varchar(32) not null default {HERE},
    channel_id varchar(64) not null, at timestamptz not null, value double precision not null,
    received_at timestamptz not null,
    primary key (kitchen_id, channel_id, at)
) partition by range (at)
"""
HUB_CALLED = """
create function hub_called(token text) returns table (kitchen text, hub text) language sql stable security definer
set search_path = pg_catalog, public as $$
    select h.kitchen_id::text, h.id::text from public.hubs h where h.token_hash = token and h.ended_at is null
$$
"""


def upgrade() -> None:
    """Make the tables, held to their kitchen as all others are."""
    for statement in (HUBS, CHANNELS, SAMPLES, HUB_CALLED):
        op.execute(statement)
    op.execute("create unique index hubs_token on hubs (token_hash)")
    op.execute("create index samples_received on samples (kitchen_id, received_at)")
    op.execute("create table samples_other partition of samples default")
    for table in (*TABLES, "samples_other"):
        op.execute(f"alter table {table} enable row level security")
        op.execute(f"create policy {table}_of_kitchen on {table} using (kitchen_id = {HERE})")
    op.execute(
        "create trigger samples_keep before update or delete on samples for each row execute function refuse_change()"
    )


def downgrade() -> None:
    """Take them away again, if nothing was measured."""
    if op.get_bind().scalar(sa.text("select count(*) from samples")):
        raise RuntimeError("There are samples here: going back would lose what was measured.")
    op.execute("drop function hub_called(text)")
    for table in reversed(TABLES):
        op.drop_table(table)
