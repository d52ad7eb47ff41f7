"""The ledger, the kit, and whether the server is well."""

from datetime import date, datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Response

from brinefrost.api.downloads import download, record_export
from brinefrost.api.pages import USUAL, Find, Most, Page, page_of
from brinefrost.api.seats import Everyone, OfficeHere
from brinefrost.core.working import Sent
from brinefrost.reports.register_pdf import register_pdf
from brinefrost.services import ledgers, registering
from brinefrost.services.finding import Asked, Outcome
from brinefrost.store import Store

router = APIRouter(prefix="/api/v1", tags=["ledger"])


class InstrumentRead(Sent):
    """An instrument of the kit."""

    id: str
    name: str
    kind: str
    quantities: tuple[str, ...]
    uncertainty: float
    calibrated_at: datetime
    due_at: datetime


class LastCheck(Sent):
    """The last check that ran by itself; nothing where none has run yet."""

    found: ledgers.Integrity | None


class LedgerEnd(Sent):
    """Where the ledger ends; ``holds`` is false where it no longer has the record that was asked about."""

    seq: int
    digest: str
    holds: bool


class Health(Sent):
    """Whether the server and its database answer."""

    ok: bool


def ask(
    find: Find = "",
    since: Annotated[date | None, Query(description="The first day, as the kitchen has its days.")] = None,
    until: Annotated[date | None, Query(description="The last day, itself included.")] = None,
    person: Annotated[str, Query(max_length=64, description="Whoever wrote it, by id.")] = "",
    instrument: Annotated[str, Query(max_length=64, description="What it was read with, by id.")] = "",
    plan: Annotated[str, Query(max_length=64, description="Batches of a plan, by its id.")] = "",
    lot: Annotated[str, Query(max_length=60, description="Batches with a supplier's lot, or a part of it.")] = "",
    outcome: Annotated[Outcome | None, Query(description="Batches that were closed so.")] = None,
) -> Asked:
    """What is asked of the ledger; all that is said has to fit."""
    return Asked(find, since, until, person, instrument, plan, lot, outcome)


AskedHere = Annotated[Asked, Depends(ask)]


@router.get("/ledger")
def search_ledger(
    actor: Everyone,
    office: OfficeHere,
    asked: AskedHere,
    kind: Annotated[list[str] | None, Query(max_length=20)] = None,
    after: Annotated[str | None, Query(pattern="^[1-9][0-9]{0,14}$")] = None,
    most: Most = USUAL,
    access: bool = True,
) -> Page[ledgers.RecordView]:
    """Records that fit what is asked, newest first; without ``access``, sign-ins and exports are left out."""
    before = None if after is None else int(after)
    kinds = tuple(kind or ())
    rows = office.read(lambda store: ledgers.search(store, asked, before, most + 1, kinds, access))
    return page_of(rows, lambda row: str(row.seq), None, most)


@router.get("/ledger/register.pdf", response_class=Response)
def export_register(actor: Everyone, office: OfficeHere, asked: AskedHere) -> Response:
    """The records of every batch begun in a time, of a dish, a lot or an outcome, as one PDF."""
    now = office.clock.now()
    register = office.read(lambda store: registering.read_register(store, asked, now))
    printed = register_pdf(register, now)
    record_export(office, actor, str(register.what), "PDF")
    return download(printed, "application/pdf", "records.pdf")


@router.get("/ledger/integrity")
def check_integrity(actor: Everyone, office: OfficeHere) -> ledgers.Integrity:
    """Walk the whole chain."""
    return office.read(lambda store: ledgers.check_integrity(store, office.clock.now()))


@router.get("/ledger/integrity/last")
def read_last_check(actor: Everyone, office: OfficeHere) -> LastCheck:
    """What the check found that runs by itself once a day."""
    return LastCheck.model_validate({"found": office.checked.last()})


@router.get("/ledger/end")
def read_end(
    actor: Everyone,
    office: OfficeHere,
    seq: Annotated[int, Query(ge=0, le=10**15)] = 0,
    digest: Annotated[str, Query(pattern="^[0-9a-f]{64}$|^$")] = "",
) -> LedgerEnd:
    """Where the ledger ends, and whether it still holds a record this browser has seen before."""
    return office.read(lambda store: _end(store, seq, digest))


def _end(store: Store, seq: int, digest: str) -> LedgerEnd:
    end = store.ledger.head()
    return LedgerEnd(seq=end.seq, digest=end.hash, holds=seq == 0 or store.ledger.hash_at(seq) == digest)


@router.get("/instruments")
def list_instruments(actor: Everyone, office: OfficeHere) -> list[InstrumentRead]:
    """What readings are taken with."""
    return [InstrumentRead(**vars(info)) for info in office.read(lambda store: store.instruments.all())]


@router.get("/health")
def read_health(office: OfficeHere) -> Health:
    """Whether the server and its database answer."""
    return Health(ok=office.database.ready())
