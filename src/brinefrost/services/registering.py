"""The records of many batches for one document: those of a dish, of a month, of an outcome."""

from dataclasses import dataclass
from datetime import datetime

from brinefrost.core.errors import NotFoundError, RefusedError
from brinefrost.core.words import Words, say
from brinefrost.services.finding import Asked, find_batches, span_of
from brinefrost.services.keeping import PREFIX
from brinefrost.services.planning import Version, signed_plan
from brinefrost.services.views import BatchView, read_batch
from brinefrost.store import Store
from brinefrost.store.ledger import Head
from brinefrost.store.shelves import SiteInfo

MOST = 100  # batches in one document: some hundred pages, made in half a minute


@dataclass(frozen=True)
class Register:
    """What a document of many records bears."""

    what: Words
    since: datetime
    until: datetime
    batches: tuple[tuple[BatchView, Version], ...]
    site: SiteInfo
    head: Head


def read_register(store: Store, asked: Asked, now: datetime) -> Register:
    """The batches that were begun in a time and fit what is asked, in order.

    Raises NotFoundError where none fits, RefusedError where more fit than one document holds.
    """
    since, until = span_of(store, asked)
    within = find_batches(store, asked)
    began = [
        record
        for record in store.ledger.of_kind("batch_started", subjects=within)
        if (since is None or record.recorded_at >= since) and (until is None or record.recorded_at < until)
    ]
    if not began:
        raise NotFoundError(say("services.register.none"))
    if len(began) > MOST:
        raise RefusedError(say("services.register.too_many", count=len(began), most=MOST))
    views = [read_batch(store, record.subject.removeprefix(PREFIX), now) for record in began]
    batches = tuple((view, signed_plan(store, view.plan_id, view.plan_version).version) for view in views)
    return Register(
        what=views[-1].plan_name if asked.plan else say("paper.register.all"),
        since=since or began[0].recorded_at,
        until=until or now,
        batches=batches,
        site=store.site.read(),
        head=store.ledger.head(),
    )
