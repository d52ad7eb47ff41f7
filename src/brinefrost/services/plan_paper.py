"""What a printed plan bears: one signed version, what the computation says of it, and the versions before it."""

from dataclasses import dataclass

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import Proof, prove
from brinefrost.services.planning import Version, signed_plan, versions_of
from brinefrost.store import Store
from brinefrost.store.shelves import SiteInfo


@dataclass(frozen=True)
class PlanPaper:
    """What the printed plan needs."""

    plan: Plan
    version: Version
    versions: tuple[Version, ...]
    proof: Proof
    site: SiteInfo


def read_plan_paper(store: Store, plan_id: str, number: int) -> PlanPaper:
    """Everything a printed plan bears. Raises NotFoundError where there is no such version."""
    signed = signed_plan(store, plan_id, number)
    known = tuple(each for each in versions_of(store, plan_id) if each.version <= number)
    return PlanPaper(signed.document, signed.version, known, prove(signed.document), store.site.read())
