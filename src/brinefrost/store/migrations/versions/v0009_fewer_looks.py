"""Keeping a record looks up less on its way.

Does: accept_record no longer asks first whether its key was used; the reply's own key refuses it, and the whole call
with it. Records and replies are no longer checked against the kitchens row by row, which locked the kitchen's row each
time: they go to the kitchen at hand (its policy), behind an end of its chain (its own reference stands), and a kitchen
that has records cannot be taken away.
Going back loses: nothing.
"""

from alembic import op

from brinefrost.store.migrations.versions.v0008_accept_record import FUNCTION

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

TABLES = ("records", "replies")
ASKED_FIRST = """    if exists (select from public.replies r where r.key = accept_record.key) then
        return 'again';
    end if;
"""
KEPT = """
create function keep_kitchen() returns trigger language plpgsql set search_path = pg_catalog, public as $$
begin
    if exists (select from public.records where kitchen_id = old.id) then
        raise exception 'this kitchen has records';
    end if;
    return old;
end $$
"""


def upgrade() -> None:
    """Look up less; keep the kitchens that have records."""
    op.execute(_again(FUNCTION.replace(ASKED_FIRST, "")))
    op.execute(KEPT)
    op.execute("create trigger kitchens_keep before delete on kitchens for each row execute function keep_kitchen()")
    for table in TABLES:
        op.drop_constraint(f"{table}_kitchen_id_fkey", table)


def downgrade() -> None:
    """Look up again."""
    for table in TABLES:
        op.create_foreign_key(f"{table}_kitchen_id_fkey", table, "kitchens", ["kitchen_id"], ["id"])
    op.execute("drop trigger kitchens_keep on kitchens")
    op.execute("drop function keep_kitchen()")
    op.execute(_again(FUNCTION))


def _again(function: str) -> str:
    return function.replace("create function", "create or replace function")
