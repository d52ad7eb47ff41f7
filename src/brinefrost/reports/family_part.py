"""What a batch was made of, how it differs from its plan, when it had to be gone: rows for the head of the record."""

from brinefrost.core.words import duration, joined, kg, mm, say, temp
from brinefrost.reports.paper import when
from brinefrost.services.views import BatchView


def family_rows(view: BatchView, zone: str) -> list[tuple[str, str]]:
    """Name and text of each row; none for what a batch does not have. Valid for every batch."""
    rows: list[tuple[str, str]] = []
    if view.gone_by is not None:
        rows.append((say("paper.family.use_by"), when(view.gone_by, zone)))
    if view.parts:
        rows.append((say("paper.family.made_of"), joined(_part(view, index, zone) for index in range(len(view.parts)))))
    if view.lots:
        lots = (say("paper.family.lot_of", ingredient=lot.ingredient, lot=lot.lot) for lot in view.lots)
        rows.append((say("paper.family.lots"), joined(lots)))
    if view.adjusted:
        rows.append((say("paper.family.today"), joined(_tell_adjusted(view))))
    return rows


def _part(view: BatchView, index: int, zone: str) -> str:
    part = view.parts[index].part
    said = say(f"paper.family.what_{part.what}", batch=part.code, name=part.name, made=when(part.made_at, zone))
    return said if part.kg is None else joined((said, kg(part.kg)), ", ")


def _tell_adjusted(view: BatchView) -> list[str]:
    names = {step.id: step.name for step in view.plan.steps}
    said: list[str] = []
    for each in view.adjusted:
        value = (
            mm(1000 * each.value)
            if each.setting == "thickness_m"
            else temp(each.value, "g")
            if each.setting == "start_c"
            else duration(each.value)
        )
        said.append(say("paper.family.step_is", name=names.get(each.step, each.step), value=value))
    return said
