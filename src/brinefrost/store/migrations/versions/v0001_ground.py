"""The ground: people, plans, instruments, the ledger and its trace files.

Does: creates every table, and triggers that refuse UPDATE, DELETE and TRUNCATE on records and trace files.
Going back loses: everything.
"""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None

MOMENT = sa.DateTime(timezone=True)
APPEND_ONLY = ("records", "trace_files")


def upgrade() -> None:
    """Create everything."""
    op.create_table(
        "site",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String(120), nullable=False),
        sa.Column("altitude_m", sa.Float, nullable=False),
        sa.Column("zone", sa.String(64), nullable=False),
        sa.Column("rule_set", sa.String(8), nullable=False),
        sa.CheckConstraint("id = 1"),
    )
    op.create_table(
        "users",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("name", sa.String(80), nullable=False, unique=True),
        sa.Column("role", sa.String(16), nullable=False),
        sa.Column("password_hash", sa.Text, nullable=False),
        sa.Column("pin_hash", sa.Text),
        sa.Column("active", sa.Boolean, nullable=False),
        sa.CheckConstraint("role in ('lead', 'cook', 'reviewer')"),
    )
    op.create_table(
        "sessions",
        sa.Column("token_hash", sa.String(64), primary_key=True),
        sa.Column("user_id", sa.String(64), sa.ForeignKey("users.id"), nullable=False),
        sa.Column("created_at", MOMENT, nullable=False),
        sa.Column("expires_at", MOMENT, nullable=False),
    )
    op.create_table(
        "sign_in_failures",
        sa.Column("id", sa.BigInteger, sa.Identity(), primary_key=True),
        sa.Column("bucket", sa.String(160), nullable=False, index=True),
        sa.Column("at", MOMENT, nullable=False),
    )
    op.create_table(
        "instruments",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("name", sa.String(80), nullable=False),
        sa.Column("kind", sa.String(16), nullable=False),
        sa.Column("quantities", sa.String(80), nullable=False),
        sa.Column("uncertainty", sa.Float, nullable=False),
        sa.Column("calibrated_at", MOMENT, nullable=False),
        sa.Column("due_at", MOMENT, nullable=False),
        sa.CheckConstraint("uncertainty >= 0"),
    )
    op.create_table(
        "drafts",
        sa.Column("plan_id", sa.String(64), primary_key=True),
        sa.Column("document", sa.Text, nullable=False),
        sa.Column("revision", sa.Integer, nullable=False),
        sa.Column("updated_by", sa.String(80), nullable=False),
        sa.Column("updated_at", MOMENT, nullable=False),
    )
    op.create_table(
        "records",
        sa.Column("seq", sa.BigInteger, primary_key=True, autoincrement=False),
        sa.Column("kind", sa.String(40), nullable=False),
        sa.Column("subject", sa.String(80), nullable=False),
        sa.Column("recorded_at", MOMENT, nullable=False),
        sa.Column("actor_id", sa.String(64), nullable=False),
        sa.Column("actor_name", sa.String(80), nullable=False),
        sa.Column("actor_role", sa.String(16), nullable=False),
        sa.Column("body", sa.Text, nullable=False),
        sa.Column("prev_hash", sa.String(64), nullable=False),
        sa.Column("hash", sa.String(64), nullable=False),
    )
    op.create_index("records_subject", "records", ["subject", "seq"])
    op.create_index("records_kind", "records", ["kind", "seq"])
    op.create_table(
        "ledger_head",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("seq", sa.BigInteger, nullable=False),
        sa.Column("hash", sa.String(64), nullable=False),
        sa.CheckConstraint("id = 1"),
    )
    op.create_table(
        "trace_files",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("sha256", sa.String(64), nullable=False),
        sa.Column("filename", sa.String(200), nullable=False),
        sa.Column("content", sa.LargeBinary, nullable=False),
        sa.Column("parsed", sa.Text, nullable=False),
        sa.Column("parsed_sha256", sa.String(64), nullable=False),
        sa.Column("added_at", MOMENT, nullable=False),
    )
    op.create_table(
        "replies",
        sa.Column("key", sa.String(80), primary_key=True),
        sa.Column("actor_id", sa.String(64), nullable=False),
        sa.Column("fingerprint", sa.String(64), nullable=False),
        sa.Column("body", sa.Text, nullable=False),
        sa.Column("at", MOMENT, nullable=False),
    )
    op.execute(
        "create function refuse_change() returns trigger language plpgsql as "
        "$$ begin raise exception 'this table is append-only'; end $$"
    )
    for table in APPEND_ONLY:
        row = f"create trigger {table}_keep before update or delete on {table} for each row"
        whole = f"create trigger {table}_keep_all before truncate on {table} for each statement"
        for trigger in (row, whole):
            op.execute(f"{trigger} execute function refuse_change()")


def downgrade() -> None:
    """Drop everything."""
    for table in (
        "replies",
        "trace_files",
        "ledger_head",
        "records",
        "drafts",
        "instruments",
        "sign_in_failures",
        "sessions",
        "users",
        "site",
    ):
        op.drop_table(table)
    op.execute("drop function refuse_change()")
