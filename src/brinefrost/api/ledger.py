"""The ledger, the kit, and whether the server is well."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query

from brinefrost.api.seats import Everyone, OfficeHere
from brinefrost.core.working import Sent
from brinefrost.services import ledgers

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


class Health(Sent):
    """Whether the server and its database answer."""

    ok: bool


@router.get("/ledger")
def search_ledger(
    actor: Everyone,
    office: OfficeHere,
    words: Annotated[str, Query(max_length=200)] = "",
    kind: Annotated[list[str] | None, Query(max_length=20)] = None,
    before: Annotated[int | None, Query(ge=1, le=2**53)] = None,
    most: Annotated[int, Query(ge=1, le=200)] = 60,
) -> list[ledgers.RecordView]:
    """Records that bear words, newest first."""
    return office.read(lambda store: ledgers.search(store, words, kind or [], before, most))


@router.get("/ledger/integrity")
def check_integrity(actor: Everyone, office: OfficeHere) -> ledgers.Integrity:
    """Walk the whole chain."""
    return office.read(lambda store: ledgers.check_integrity(store, office.clock.now()))


@router.get("/instruments")
def list_instruments(actor: Everyone, office: OfficeHere) -> list[InstrumentRead]:
    """What readings are taken with."""
    return [InstrumentRead(**vars(info)) for info in office.read(lambda store: store.instruments.all())]


@router.get("/health")
def read_health(office: OfficeHere) -> Health:
    """Whether the server and its database answer."""
    return Health(ok=office.database.ready())
