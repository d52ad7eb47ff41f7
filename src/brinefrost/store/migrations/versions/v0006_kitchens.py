"""Several kitchens in one installation, held apart by the database.

Does: a table of kitchens that the application cannot read but ask by a word; a kitchen on every row, which the
database fills in and holds every statement of the application to. What is there belongs to the first kitchen.
Going back loses: every kitchen but the first; so it is refused while there is another.
"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

KEYS = {
    "site": "",
    "ledger_head": "",
    "users": "id",
    "sessions": "token_hash",
    "sign_in_failures": "id",
    "instruments": "id",
    "drafts": "plan_id",
    "records": "seq",
    "trace_files": "id",
    "kept_answers": "id",
    "batch_summaries": "batch_id",
    "replies": "key",
}
OF_PEOPLE = {"sessions": "user_id", "kept_answers": "person_id"}
HERE = "current_setting('brinefrost.kitchen', true)"


def upgrade() -> None:
    """Give every row its kitchen."""
    op.create_table(
        "kitchens",
        sa.Column("id", sa.String(32), primary_key=True),
        sa.Column("word", sa.String(32), unique=True),
    )
    op.execute("insert into kitchens (id, word) values ('home', 'home'), ('door', null)")
    for table, column in OF_PEOPLE.items():
        op.drop_constraint(f"{table}_{column}_fkey", table)
    for table, key in KEYS.items():
        op.execute(f"alter table {table} add kitchen_id varchar(32) not null default 'home' references kitchens (id)")
        op.execute(f"alter table {table} alter kitchen_id set default {HERE}")
        op.drop_constraint(f"{table}_pkey", table)
        op.create_primary_key(f"{table}_pkey", table, ["kitchen_id", key] if key else ["kitchen_id"])
        op.execute(f"alter table {table} enable row level security")
        op.execute(f"create policy {table}_of_kitchen on {table} using (kitchen_id = {HERE})")
    for table, column in OF_PEOPLE.items():
        people = ["kitchen_id", column]
        op.create_foreign_key(f"{table}_{column}_fkey", table, "users", people, ["kitchen_id", "id"])
    op.drop_constraint("users_name_key", "users")
    op.create_unique_constraint("users_name_key", "users", ["kitchen_id", "name"])
    for name, columns in (("records_subject", ["subject", "seq"]), ("records_kind", ["kind", "seq"])):
        op.drop_index(name, "records")
        op.create_index(name, "records", ["kitchen_id", *columns])
    op.execute(
        "create function kitchen_called(asked text) returns text language sql stable security definer "
        "set search_path = pg_catalog, public as $$ select case when asked <> '' "
        "then (select id from public.kitchens where word = asked) "
        "else (select min(id) from public.kitchens where word is not null having count(*) = 1) end $$"
    )


def downgrade() -> None:
    """Take the kitchens away again, if there is but one."""
    if op.get_bind().scalar(sa.text("select count(*) from kitchens where word is not null")) != 1:
        raise RuntimeError("There is more than one kitchen here: going back would mix their records.")
    op.execute("drop function kitchen_called(text)")
    op.execute("delete from sign_in_failures where kitchen_id = 'door'")
    for table, column in OF_PEOPLE.items():
        op.drop_constraint(f"{table}_{column}_fkey", table)
    for name, columns in (("records_subject", ["subject", "seq"]), ("records_kind", ["kind", "seq"])):
        op.drop_index(name, "records")
        op.create_index(name, "records", columns)
    op.drop_constraint("users_name_key", "users")
    for table, key in KEYS.items():
        op.execute(f"drop policy {table}_of_kitchen on {table}")
        op.execute(f"alter table {table} disable row level security")
        op.drop_constraint(f"{table}_pkey", table)
        op.drop_column(table, "kitchen_id")
        op.create_primary_key(f"{table}_pkey", table, [key or "id"])
    op.create_unique_constraint("users_name_key", "users", ["name"])
    for table, column in OF_PEOPLE.items():
        op.create_foreign_key(f"{table}_{column}_fkey", table, "users", [column], ["id"])
    op.drop_table("kitchens")
