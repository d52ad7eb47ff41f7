"""Kept answers of the Bench.

Does: creates one table.
Going back loses: the kept answers, nothing else.
"""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Create the table."""
    op.create_table(
        "kept_answers",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("family", sa.String(40), nullable=False),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("question", sa.Text, nullable=False),
        sa.Column("state", sa.String(20), nullable=False),
        sa.Column("sentence", sa.Text, nullable=False),
        sa.Column("person_id", sa.String(64), sa.ForeignKey("users.id"), nullable=False),
        sa.Column("person_name", sa.String(80), nullable=False),
        sa.Column("kept_at", sa.DateTime(timezone=True), nullable=False, index=True),
    )


def downgrade() -> None:
    """Drop it."""
    op.drop_table("kept_answers")
