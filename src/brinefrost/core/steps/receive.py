"""Raw goods come in and go to the cold store."""

from typing import Literal

from brinefrost.core.fields import field
from brinefrost.core.limits import Limit, Threshold
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import ControlParts, Finding, Monitoring, StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.steps.stricter import stricter
from brinefrost.core.words import say, temp

USUAL_C = 5.0  # goods that a plan says nothing of


class Receive(StepBase):
    """Raw goods come in and go to the cold store."""

    kind: Literal["receive"] = "receive"
    max_c: float | None = field(
        "temperature", None, -30, 40, main=True, paper="at most"
    )  # None: as the rule set has it


class ReceiveKind(StepKind[Receive]):
    """Judged by the warmest pack of the delivery."""

    settings = Receive

    def acts(self, step: Receive) -> frozenset[Act]:
        """Goods come in."""
        return frozenset({"receives"})

    def topics(self, step: Receive, context: Context) -> tuple[str, ...]:
        """How warm goods may come in that are kept cold."""
        return ("receive.cold",) if context.strictest_for("receive.cold") else ()

    def around_c(self, step: Receive) -> float:
        """As warm as goods may come in."""
        return USUAL_C if step.max_c is None else step.max_c

    def own_limits(self, step: Receive, context: Context) -> tuple[Limit, ...]:
        """The rule set's own, by what the goods are: the strictest of them."""
        law = context.strictest_for("receive.cold")
        return (law,) if law else ()

    def declare(self, step: Receive, limit: Limit) -> float | None:
        """What the plan says, or the rule set's own."""
        if not isinstance(limit, Threshold) or limit.quantity != "core":
            return None
        return limit.value if step.max_c is None else step.max_c

    def find_faults(self, step: Receive, food: Food) -> list[Finding]:
        """Goods come in first."""
        if all("receives" in each.acts for each in food.past):
            return []
        said = say("steps.receive.comes_after_goods_come_in_first", name=step.name, earlier=food.past[-1].name)
        return [Finding(step=step.id, state="fails", sentence=said)]

    def control(self, step: Receive, context: Context) -> ControlParts:
        """The stricter of the plan's own and the rule set's."""
        law = context.strictest_for("receive.cold")
        if law is None:
            return ControlParts()
        most = law.value if step.max_c is None else step.max_c
        return ControlParts(
            limits=(
                stricter(
                    law,
                    most,
                    "own-receive-c",
                    say("steps.receive.received_at_or_below", max=temp(most, "g")),
                ),
            ),
            monitoring=(
                Monitoring(
                    id="core",
                    what=say("steps.receive.warmest_pack_of_the_delivery"),
                    quantity="core",
                    how=say("steps.receive.probe_between_two_packs"),
                    offsets_s=(0.0,),
                    expected_low_c=-2,
                    expected_high_c=most + 3,
                ),
            ),
            corrective_actions=(say("steps.receive.warmer_than_the_limit_refuse_the"),),
            verification=(say("steps.receive.the_lead_reads_the_delivery_records"),),
        )


KIND = ReceiveKind()
