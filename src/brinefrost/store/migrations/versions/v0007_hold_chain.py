"""The chain is held and its end read in one call: whoever writes asks once where two had to be asked.

Does: one function with the rights of whoever calls it. The end is read after the lock is there, by a statement of its
own inside the function, so that it is the end as the writer before left it.
Going back loses: nothing.
"""

from alembic import op

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the function."""
    op.execute(
        "create function hold_chain(kitchen text, key bigint) returns setof ledger_head language plpgsql volatile "
        "set search_path = pg_catalog, public as $$ begin "
        "perform pg_advisory_xact_lock(hashtextextended(kitchen, key)); "
        "return query select * from public.ledger_head where id = 1; end $$"
    )


def downgrade() -> None:
    """Drop it."""
    op.execute("drop function hold_chain(text, bigint)")
