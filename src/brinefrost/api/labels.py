"""Labels of a batch, and the sheets and rolls they go on."""

from typing import Annotated

from fastapi import APIRouter, Query, Request, Response

from brinefrost.api.downloads import download, record_export
from brinefrost.api.seats import Everyone, Kitchen, OfficeHere
from brinefrost.core.runs.labels import Label, label_of
from brinefrost.reports.label_sheets import SHEETS, LabelKey, LabelSheet
from brinefrost.reports.labels_pdf import LabelJob, labels_pdf
from brinefrost.services import keeping

router = APIRouter(prefix="/api/v1", tags=["labels"])
MOST_LABELS = 500
Count = Annotated[int, Query(ge=1, le=MOST_LABELS, description="How many labels.")]
First = Annotated[int, Query(ge=1, le=100, description="The first free place of a sheet, counted row by row.")]


@router.get("/label-sheets")
def list_label_sheets(actor: Everyone) -> list[LabelSheet]:
    """The sheets and rolls that labels can be printed on."""
    return list(SHEETS.values())


@router.get("/batches/{batch_id}/label")
def read_label(batch_id: str, actor: Everyone, office: OfficeHere) -> Label:
    """What a label of this batch says now; refused where nothing of it may be kept."""
    now = office.clock.now()
    return office.read(lambda store: label_of(keeping.load(store, batch_id), now))


@router.get("/batches/{batch_id}/labels.pdf", response_class=Response)
def print_labels(
    batch_id: str,
    request: Request,
    actor: Kitchen,
    office: OfficeHere,
    sheet: LabelKey = "a4-70x37",
    count: Count = 1,
    first: First = 1,
) -> Response:
    """Labels as PDF, each with a code that opens the batch; who printed how many is recorded."""
    now, on = office.clock.now(), SHEETS[sheet]
    address: str = request.app.state.address
    label, site = office.read(lambda store: (label_of(keeping.load(store, batch_id), now), store.site.read()))
    opens = f"{address}/batches/{batch_id}" if address else label.code
    job = LabelJob(label=label, person=actor.name, kitchen=site.name, zone=site.zone, opens=opens)
    printed = labels_pdf(job, on, count, min(first, on.places))
    record_export(office, actor, f"{label.code}, {count} x {sheet}", "PDF")
    return download(printed, "application/pdf", f"{label.code}-labels.pdf")
