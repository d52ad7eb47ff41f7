"""What stands beside the ledger is sealed too; a session knows when it was last used; a person has manners.

Does: three columns, and the end of the ledger for a kitchen that has no record yet. What is there is sealed where the
key is at hand. Going back loses: the second seal, when sessions were used, each person's units, theme and language.
"""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.orm import Session

from brinefrost.store.sealing import seal_of
from brinefrost.store.standing import standing_seal

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    """Add the columns, and seal what is there."""
    op.add_column("sessions", sa.Column("used_at", sa.DateTime(timezone=True)))
    op.add_column("users", sa.Column("manners", sa.Text, nullable=False, server_default="{}"))
    op.add_column("ledger_head", sa.Column("standing", sa.String(64), nullable=False, server_default=""))
    connection = op.get_bind()
    if connection.execute(sa.text("select 1 from site where id = 1")).first() is None:
        return
    first = sa.text("insert into ledger_head (id, seq, hash, seal) values (1, 0, :hash, :seal) on conflict do nothing")
    connection.execute(first, {"hash": "0" * 64, "seal": seal_of(0, "0" * 64)})
    seal = standing_seal(Session(bind=connection))
    connection.execute(sa.text("update ledger_head set standing = :seal where id = 1"), {"seal": seal})


def downgrade() -> None:
    """Drop them."""
    op.drop_column("ledger_head", "standing")
    op.drop_column("users", "manners")
    op.drop_column("sessions", "used_at")
