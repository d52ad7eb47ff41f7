"""A batch with what its probes measured so far, read beside its records: samples are many, and judged as they come."""

from datetime import UTC, datetime

from brinefrost.core.runs.batch import Batch
from brinefrost.core.runs.live import Times, with_samples
from brinefrost.store import Store

AHEAD = datetime(2200, 1, 1, tzinfo=UTC)
SMOOTHED = ("bath", "air")  # what is around the food: a door that was open for a minute is not its temperature


def samples_of(store: Store, batch: Batch) -> dict[str, Times]:
    """By binding: what its probe measured while it was bound. Valid for every batch."""
    return {
        key: store.samples.read(
            state.bound.instrument,
            state.bound.at,
            batch.probe_until(state) or AHEAD,
            smoothed=state.bound.quantity in SMOOTHED,
        )
        for key, state in batch.probes.items()
    }


def with_probes(store: Store, batch: Batch) -> Batch:
    """A batch with its probes' samples laid to its steps; the same where it has none. Valid for every batch."""
    return with_samples(batch, samples_of(store, batch)) if batch.probes else batch
