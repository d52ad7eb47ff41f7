"""The end of the ledger bears a seal, made with a key that is not in the database.

Does: one column. A head written before bears a seal once the next record follows, or now where the key is at hand.
Going back loses: the seal, nothing else.
"""

import sqlalchemy as sa
from alembic import op

from brinefrost.store.sealing import seal_of

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the column, and seal what is there."""
    op.add_column("ledger_head", sa.Column("seal", sa.String(64), nullable=False, server_default=""))
    connection = op.get_bind()
    row = connection.execute(sa.text("select seq, hash from ledger_head where id = 1")).first()
    if row is not None:
        connection.execute(
            sa.text("update ledger_head set seal = :seal where id = 1"), {"seal": seal_of(int(row[0]), str(row[1]))}
        )


def downgrade() -> None:
    """Drop it."""
    op.drop_column("ledger_head", "seal")
