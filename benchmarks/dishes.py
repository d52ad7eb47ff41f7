"""The proof and the sheet of a plan of thirty steps in four lines, against conduction alone in the same run."""

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.suggest import with_controls
from brinefrost.demo.weighing import decided

STEPS, TAKEN = 30, (10, 16, 22)  # and the places at which the short lines run in


def four_lines() -> Plan:
    """A braise of thirty steps with three lines that run into it, each heated and chilled before."""
    parts = {"sauce": "tomato", "mince": "pork-mince", "herbs": "carrot"}
    steps: list[dict[str, object]] = [{"kind": "receive", "id": "receive", "name": "Receive"}]
    for line in parts:
        steps += [
            {"kind": "handwork", "id": f"trim-{line}", "name": f"Trim {line}", "line": line, "surroundings_c": 12},
            _boil(f"boil-{line}", line),
            _chill(f"chill-{line}", line),
        ]
    taken = list(parts)
    while len(steps) < STEPS - 1:
        place = len(steps)
        takes = [taken.pop(0)] if place in TAKEN and taken else []
        laid = (_boil, _chill)[place % 2](f"step-{place}", "") | {"takes": takes}
        steps.append(laid)
    steps.append({"kind": "cold_keep", "id": "keep", "name": "Keep", "days": 2})
    items = [{"name": "Beef", "catalogue": "beef-chuck"}]
    items += [{"name": key, "catalogue": key, "enters": f"trim-{line}"} for line, key in parts.items()]
    document = {"name": "Four lines", "ingredients": items, "steps": steps}
    return with_controls(decided(Plan.model_validate(document)))


def _boil(name: str, line: str) -> dict[str, object]:
    boiled = {"medium": "boiling", "surroundings_c": 97, "thickness_m": 0.03, "duration_s": 7200}
    return {"kind": "heat_in", "id": name, "name": name, "line": line, **boiled}


def _chill(name: str, line: str) -> dict[str, object]:
    chilled = {"surroundings_c": -6, "thickness_m": 0.03, "duration_s": 14400}
    return {"kind": "chill_air", "id": name, "name": name, "line": line, **chilled}


def prove_anew(plan: Plan) -> None:
    """Its proof with nothing kept from before: what is worked out once is kept by the plan's own object."""
    prove(plan.model_copy())


def lay_out_anew(plan: Plan) -> None:
    """Its proof and its sheet, with nothing kept from before."""
    fresh = plan.model_copy()
    sheet_of(fresh, prove(fresh))
