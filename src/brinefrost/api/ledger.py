"""The ledger, the kit, and whether the server is well."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query

from brinefrost.api.pages import USUAL, Find, Most, Page, page_of
from brinefrost.api.seats import Everyone, OfficeHere
from brinefrost.core.working import Sent
from brinefrost.services import ledgers
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


@router.get("/ledger")
def search_ledger(
    actor: Everyone,
    office: OfficeHere,
    find: Find = "",
    kind: Annotated[list[str] | None, Query(max_length=20)] = None,
    after: Annotated[str | None, Query(pattern="^[1-9][0-9]{0,14}$")] = None,
    most: Most = USUAL,
    access: bool = True,
) -> Page[ledgers.RecordView]:
    """Records that bear words, newest first; without ``access``, sign-ins and exports are left out."""
    before = None if after is None else int(after)
    rows = office.read(lambda store: ledgers.search(store, find, kind or [], before, most + 1, access))
    return page_of(rows, lambda row: str(row.seq), None, most)


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
