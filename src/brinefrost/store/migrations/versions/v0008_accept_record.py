"""A record is accepted in one call, if the chain still ends where its writer believes.

Does: one function with the rights of whoever calls it. It holds the chain, moves its end, keeps the record and the
reply to it: all of it or nothing, durable when it returns. Who follows is told once it is judged.
Going back loses: nothing.
"""

from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

FUNCTION = """
create function accept_record(
    kitchen text, chain bigint, known_seq bigint, known_hash text, known_standing text,
    kind text, subject text, recorded_at timestamptz, actor_id text, actor_name text, actor_role text, body text,
    hash text, seal text, key text, fingerprint text, reply text
) returns text language plpgsql volatile set search_path = pg_catalog, public as $$
begin
    perform set_config('brinefrost.kitchen', kitchen, true);
    perform pg_advisory_xact_lock(hashtextextended(kitchen, chain));
    if exists (select from public.replies r where r.key = accept_record.key) then
        return 'again';
    end if;
    update public.ledger_head h set seq = known_seq + 1, hash = accept_record.hash, seal = accept_record.seal
        where h.id = 1 and h.seq = known_seq and h.hash = known_hash and h.standing = known_standing;
    if not found then
        return 'elsewhere';
    end if;
    insert into public.records
        (seq, kind, subject, recorded_at, actor_id, actor_name, actor_role, body, prev_hash, hash)
        values (known_seq + 1, kind, subject, recorded_at, actor_id, actor_name, actor_role, body, known_hash, hash);
    insert into public.replies (key, actor_id, fingerprint, body, at)
        values (key, actor_id, fingerprint, reply, recorded_at);
    return 'kept';
end $$
"""


def upgrade() -> None:
    """Add the function."""
    op.execute(FUNCTION)


def downgrade() -> None:
    """Drop it."""
    op.execute(
        "drop function accept_record(text, bigint, bigint, text, text, text, text, timestamptz, "
        "text, text, text, text, text, text, text, text, text)"
    )
