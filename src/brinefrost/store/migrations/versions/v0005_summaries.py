"""Closed batches in one line each, so that the list need not fold their records again.

Does: one table, filled from the records as batches are asked for; it can be emptied at any time.
Going back loses: nothing that the records do not hold.
"""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the table."""
    op.create_table(
        "batch_summaries",
        sa.Column("batch_id", sa.String(64), primary_key=True),
        sa.Column("seq", sa.BigInteger, nullable=False),
        sa.Column("body", sa.Text, nullable=False),
    )


def downgrade() -> None:
    """Drop it."""
    op.drop_table("batch_summaries")
