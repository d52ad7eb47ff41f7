"""Whose session it is, asked in one call: every request begins with that question.

Does: one function with the rights of whoever calls it, which sees the rows of one kitchen alone.
Going back loses: nothing.
"""

from alembic import op

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

FUNCTION = """
create function session_of(kitchen text, token text) returns table (
    person_id text, name text, role text, manners text, active boolean, used_at timestamptz, expires_at timestamptz
) language plpgsql volatile set search_path = pg_catalog, public as $$
begin
    perform set_config('brinefrost.kitchen', kitchen, true);
    return query
        select u.id::text, u.name::text, u.role::text, u.manners::text, u.active,
            coalesce(s.used_at, s.created_at), s.expires_at
        from public.sessions s join public.users u on u.kitchen_id = s.kitchen_id and u.id = s.user_id
        where s.token_hash = token;
end $$
"""


def upgrade() -> None:
    """Add the function."""
    op.execute(FUNCTION)


def downgrade() -> None:
    """Drop it."""
    op.execute("drop function session_of(text, text)")
