"""What the application's own role may do in each table, and what holds it to that inside the database."""

from sqlalchemy import text
from sqlalchemy.orm import Session

from brinefrost.core.words import Words, joined, say

ADDED = ("records", "trace_files", "samples")  # never changed, never removed
CHANGED = ("ledger_head", "site", "users", "instruments", "drafts", "hubs", "hub_channels")
SHORT_LIVED = ("sessions", "sign_in_failures", "kept_answers", "replies", "batch_summaries")
REFUSED = {  # by table: what the application may never do there
    **dict.fromkeys(ADDED, ("update", "delete", "truncate", "trigger")),
    **dict.fromkeys((*CHANGED, "kitchens"), ("delete", "truncate", "trigger")),
    **dict.fromkeys(SHORT_LIVED, ("truncate", "trigger")),
}
OF_KITCHEN = "((kitchen_id)::text = current_setting('brinefrost.kitchen'::text, true))"  # as PostgreSQL writes it
TRIGGERS = {  # by name: its table, and the function it calls
    "kitchens_keep": ("kitchens", "keep_kitchen"),
    "records_keep": ("records", "refuse_change"),
    "records_keep_all": ("records", "refuse_change"),
    "trace_files_keep": ("trace_files", "refuse_change"),
    "trace_files_keep_all": ("trace_files", "refuse_change"),
    "samples_keep": ("samples", "refuse_change"),
}
FUNCTIONS = {  # by name: the MD5 of its text as the migrations made it; test_guarded holds them to it
    "accept_record": "2569f0c0843870295fdb518e79bdd2b2",
    "hub_called": "0a9ee9e6a77adaa145067a8650b8bac4",
    "hold_chain": "5d56ed4ba6bc194145900c78517207ba",
    "keep_kitchen": "126cde29dcea6efe58fb912ef3e56c98",
    "kitchen_called": "57448e1e5334c2ab3da49cc8c6b4d4fc",
    "refuse_change": "e1b7f86dc7bf6ebd2d57f684de64df59",
    "session_of": "af2686c3b7c94d6fd551cff59671dd41",
}

ASK_TRIGGERS = text(
    "select t.tgname, c.relname, p.proname from pg_trigger t join pg_class c on c.oid = t.tgrelid "
    "join pg_proc p on p.oid = t.tgfoid where not t.tgisinternal and t.tgenabled in ('O', 'A') "
    "and not c.relispartition "
    "and c.relnamespace = 'public'::regnamespace"
)
ASK_FUNCTIONS = text("select proname, md5(prosrc) from pg_proc where pronamespace = 'public'::regnamespace")
ASK_ROWS = text(
    "select c.relname from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') "
    "and c.relname = any(:tables) and not (c.relrowsecurity and 1 = (select count(*) from pg_policy p "
    "where p.polrelid = c.oid) and exists (select from pg_policy p where p.polrelid = c.oid and p.polcmd = '*' "
    "and p.polpermissive and pg_get_expr(p.polqual, p.polrelid) = :of_kitchen))"
)
ASK_GRANTS = text("select has_table_privilege(current_user, 'public.' || :table, :right)")
ASK_ROLE = text(
    "select rolname, rolsuper, rolcreatedb, rolcreaterole, rolreplication, rolbypassrls, "
    "exists (select from pg_auth_members m where m.member = r.oid) from pg_roles r where rolname = current_user"
)
OF_ROLE = ("superuser", "createdb", "createrole", "replication", "bypassrls", "membership")


def find_open_guards(session: Session) -> list[Words]:
    """What no longer holds the application to its rights: triggers, functions, row security, grants, the role itself.

    A sentence for each; none where all stand as they were made. Asked as the application's own role.
    """
    of_role = _role(session)  # a superuser's grants need no telling
    return [*_triggers(session), *_functions(session), *_row_security(session), *(of_role or _grants(session))]


def _triggers(session: Session) -> list[Words]:
    found = {row[0]: (row[1], row[2]) for row in session.execute(ASK_TRIGGERS)}
    return [
        say("store.rights.trigger_is_off", trigger=name, table=wanted[0])
        for name, wanted in TRIGGERS.items()
        if found.get(name) != wanted
    ]


def _functions(session: Session) -> list[Words]:
    found: dict[str, list[str]] = {}
    for name, digest in session.execute(ASK_FUNCTIONS):
        found.setdefault(name, []).append(digest)
    wrong = [name for name, digest in FUNCTIONS.items() if found.get(name) != [digest]]
    return [say("store.rights.function_was_changed", function=name) for name in wrong]


def _row_security(session: Session) -> list[Words]:
    tables = {"tables": [*ADDED, *CHANGED, *SHORT_LIVED], "of_kitchen": OF_KITCHEN}
    return [say("store.rights.row_security_is_off", table=name) for name in sorted(session.scalars(ASK_ROWS, tables))]


def _grants(session: Session) -> list[Words]:
    return [
        say("store.rights.may_do_too_much", right=right.upper(), table=table)
        for table, rights in REFUSED.items()
        for right in rights
        if session.scalar(ASK_GRANTS, {"table": table, "right": right})
    ]


def _role(session: Session) -> list[Words]:
    name, *has = next(iter(session.execute(ASK_ROLE)))
    over = [word for word, held in zip(OF_ROLE, has, strict=True) if held]
    return [say("store.rights.role_has_rights", role=name, rights=joined(over, ", "))] if over else []
