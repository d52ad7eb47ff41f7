"""A limit as the kitchen or its guests make it stricter."""

from collections.abc import Iterator

from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.rules import RULE_SET_IDS, rule_set, targets
from brinefrost.core.steps.context import Guests
from brinefrost.core.words import Message, bound, learn, num, say
from brinefrost.core.working import Source


def stricter(law: Threshold, own: float, own_id: str, title: str) -> Limit:
    """The kitchen's own bound [unit of the law's] where it is stricter than the law's, else the law's.

    Valid for plain bounds.
    """
    if own < law.value if law.comparison == "at_most" else own > law.value:
        said = _stricter_than(law)
        return law.model_copy(
            update={
                "id": own_id,
                "title": title,
                "value": own,
                "law": law.value,
                "source": Source(citation=said, tag=law.source.tag),
            }
        )
    return law


HIGHER_RISK_DAYS = 3.0  # guests at higher risk: Listeria is given fewer days; common practice, no source


def for_guests(guests: Guests, limit: Limit) -> Limit:
    """A limit as guests at higher risk need it: fewer days in the cold."""
    if guests != "higher_risk" or not isinstance(limit, Threshold) or limit.quantity != "age":
        return limit
    if limit.value <= HIGHER_RISK_DAYS:
        return limit
    said = _for_guests_by(limit)
    return limit.model_copy(
        update={
            "id": f"{limit.id}-higher-risk",
            "title": say("steps.base.used_or_discarded_within_days_for", higher_risk_days=num(HIGHER_RISK_DAYS)),
            "value": HIGHER_RISK_DAYS,
            "source": Source(citation=said, tag="common_practice"),
        }
    )


def _stricter_than(law: Threshold) -> Message:
    value = bound(law.value, law.unit, "g")
    return say("steps.base.the_kitchens_own_stricter_than", value=value, citation=law.source.citation)


def _for_guests_by(law: Threshold) -> Message:
    return say("steps.base.for_guests_at_higher_risk_common", citation=law.source.citation)


def _citations() -> Iterator[Message]:
    """Every citation of a bound made stricter, as plans keep it."""
    entries = [entry for set_id in RULE_SET_IDS for entry in rule_set(set_id).entries]
    for limit in (entry.limit for entry in (*entries, *targets())):
        if isinstance(limit, Threshold):
            yield from (_stricter_than(limit), _for_guests_by(limit))
            guests = for_guests("higher_risk", limit)
            if guests is not limit and isinstance(guests, Threshold):
                yield _stricter_than(guests)


learn(_citations)
