"""A limit as the kitchen or its guests make it stricter."""

from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.steps.context import Guests
from brinefrost.core.words import bound, num, say
from brinefrost.core.working import Source


def stricter(law: Threshold, own: float, own_id: str, title: str) -> Limit:
    """The kitchen's own bound [unit of the law's] where it is stricter than the law's, else the law's.

    Valid for plain bounds.
    """
    if own < law.value if law.comparison == "at_most" else own > law.value:
        said = say(
            "steps.base.the_kitchens_own_stricter_than",
            value=bound(law.value, law.unit, "g"),
            citation=law.source.citation,
        )
        return law.model_copy(
            update={"id": own_id, "title": title, "value": own, "source": Source(citation=said, tag=law.source.tag)}
        )
    return law


HIGHER_RISK_DAYS = 3.0  # guests at higher risk: Listeria is given fewer days; common practice, no source


def for_guests(guests: Guests, limit: Limit) -> Limit:
    """A limit as guests at higher risk need it: fewer days in the cold."""
    if guests != "higher_risk" or not isinstance(limit, Threshold) or limit.quantity != "age":
        return limit
    if limit.value <= HIGHER_RISK_DAYS:
        return limit
    said = say("steps.base.for_guests_at_higher_risk_common", citation=limit.source.citation)
    return limit.model_copy(
        update={
            "id": f"{limit.id}-higher-risk",
            "title": say("steps.base.used_or_discarded_within_days_for", higher_risk_days=num(HIGHER_RISK_DAYS)),
            "value": HIGHER_RISK_DAYS,
            "source": Source(citation=said, tag="common_practice"),
        }
    )
