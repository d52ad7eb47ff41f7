"""Six weeks at Skarn Ridge, ending now. Run as ``python -m brinefrost.demo.seed``."""

import json
import os
import random
from datetime import UTC, datetime, timedelta
from importlib import resources
from typing import cast

from brinefrost.core.plans.document import Ingredient, Plan
from brinefrost.core.plans.suggest import with_controls, with_school
from brinefrost.demo.hub import add_hub, bind, deliver_past
from brinefrost.demo.kitchen import SLOW, Kitchen, Ticket
from brinefrost.demo.making import Truth, meter_reads, noisy
from brinefrost.demo.products import cook_them
from brinefrost.demo.weighing import decided
from brinefrost.services import planning, starting, validating
from brinefrost.services.accounts import add_person
from brinefrost.services.office import Actor, Role
from brinefrost.store import Database, Store
from brinefrost.store.shelves import InstrumentInfo, SiteInfo

SEED = 2140
SITE = SiteInfo("Skarn Ridge Observatory", 2140.0, "Europe/Zurich", "us")
INGREDIENTS = (
    Ingredient(name="Chicken thigh, boned, skin off", catalogue="chicken-thigh"),
    Ingredient(name="Salt", catalogue="salt"),
    Ingredient(name="Thyme, fresh", catalogue="thyme"),
    Ingredient(name="Rapeseed oil", catalogue="rapeseed-oil"),
)
PRODUCT = "Boned thigh, salted at 1.2 %, six bags of 1.2 kg, for the midday line and Saturday's public evening."


def seed(database: Database, now: datetime) -> bool:
    """Fill an empty database; False when the kitchen is there already."""
    with database.transaction() as store:
        if store.site.exists():
            return False
        store.site.write(SITE)
        people = [add_person(store, p["name"], cast(Role, p["role"]), p["password"], p.get("pin")) for p in _people()]
        for info in _instruments(now):
            store.instruments.add(info)
    kitchen = Kitchen(database, people[0], people[1:3], random.Random(SEED))  # noqa: S311 (made-up data, not a secret)
    plan_id = _plans(kitchen, now)
    _history(kitchen, plan_id, now)
    probes = add_hub(kitchen, now - timedelta(days=40))
    _today(kitchen, plan_id, now, probes)
    deliver_past(kitchen, probes, now - timedelta(hours=6), now)
    _pickles(kitchen, now)
    cook_them(kitchen, now)
    kitchen.run()
    return True


def _people() -> list[dict[str, str]]:
    text = resources.files("brinefrost.demo").joinpath("people.json").read_text(encoding="utf-8")
    return list(json.loads(text))


def _instruments(now: datetime) -> list[InstrumentInfo]:
    def made(
        key: str, name: str, kind: str, quantities: str, uncertainty: float, ago: float, valid: float
    ) -> InstrumentInfo:
        checked = now - timedelta(days=ago)
        return InstrumentInfo(
            key, name, kind, tuple(quantities.split()), uncertainty, checked, checked + timedelta(days=valid)
        )

    return [
        made("probe-1", "Probe 1", "probe", "core bath air", 0.5, 12, 7),
        made("probe-2", "Probe 2", "probe", "core bath air", 0.5, 45, 60),
        made("probe-3", "Probe 3", "probe", "core bath air", 0.5, 45, 60),
        made("logger-7", "Logger L-07", "logger", "core bath air", 0.4, 60, 365),
        made("meter-1", "pH meter", "meter", "ph", 0.05, 9, 30),
        made("meter-2", "Water-activity meter", "meter", "aw", 0.003, 20, 90),
        made("scale-1", "Scale 6 kg", "scale", "mass", 0.002, 15, 180),
        made("unit-walk-in", "Walk-in display", "unit", "air", 0.4, 60, 365),
    ]


def with_setting(plan: Plan, step_id: str, **settings: float) -> Plan:
    """The plan with other settings at a step."""
    steps = tuple(step.model_copy(update=settings) if step.id == step_id else step for step in plan.steps)
    return plan.model_copy(update={"steps": steps})


APPROVED = (
    "Plan approved by the county's health officer, file SR-7 of 2 March 2026: 7-log by the FSIS table, every batch "
    "logged."
)


def approved(plan: Plan) -> Plan:
    """The plan by the table, as its approval allows; other rule sets keep their own line."""
    ready = with_controls(plan)
    if plan.rule_set != "us" or ready.control_of("cook") is None:
        return ready
    return with_school(ready, "cook", "us-poultry-7log", APPROVED)


def _plans(kitchen: Kitchen, now: datetime) -> str:
    """The thigh in two signed versions, and a trial whose proof fails."""
    lead, begun, later = kitchen.lead, now - timedelta(days=44), now - timedelta(days=24)
    with kitchen.database.transaction() as store:
        view = planning.create_plan(store, lead, begun, "Chicken thigh, in bag", "us")
        plan = decided(view.document.model_copy(update={"ingredients": INGREDIENTS, "product": PRODUCT}))
        plan = approved(plan)
        first = with_setting(plan, "cook", bath_c=63.0, duration_s=6600.0)
        saved = planning.save_plan(store, lead, begun + timedelta(hours=2), view.plan_id, view.revision, first)
        planning.sign_plan(
            store, lead, begun + timedelta(hours=3), view.plan_id, planning.Signing(revision=saved.revision)
        )

    def second(store: Store) -> None:
        again = planning.save_plan(
            store, lead, later, view.plan_id, saved.revision, with_setting(plan, "cook", bath_c=63.0, duration_s=7200.0)
        )
        signing = planning.Signing(revision=again.revision)
        planning.sign_plan(store, lead, later + timedelta(minutes=20), view.plan_id, signing)

    def trial(store: Store) -> None:
        begun = now - timedelta(days=3)
        view = planning.create_plan(store, lead, begun, "Chicken thigh, soft (trial)", "us")
        made = approved(decided(view.document.model_copy(update={"ingredients": INGREDIENTS})))
        soft = with_setting(made, "cook", bath_c=57.0, duration_s=3600.0)
        planning.save_plan(store, lead, begun + timedelta(hours=1), view.plan_id, view.revision, soft)

    kitchen.at(later, second)
    kitchen.at(now - timedelta(days=3), trial)
    return view.plan_id


STUDIED = (15, 14, 12)  # days ago
STUDY = Truth(thickness_m=0.028, start_c=3.6)
AS_ASKED = (0, 3, 13, 34, 57)  # minutes at which the plan asks for the core of its chill


def _history(kitchen: Kitchen, plan_id: str, now: datetime) -> None:
    morning = now.replace(hour=7, minute=10, second=0, microsecond=0)
    study: list[Ticket] = []
    for index, days in enumerate((41, 36, 30, 25, 18, 15, 14, 12, 7)):
        cook, begins = kitchen.cooks[index % 2], morning - timedelta(days=days)
        if days == 30:
            _run_lost_chill(kitchen, plan_id, begins, cook)
        elif days == 18:
            _run_saved_chill(kitchen, plan_id, begins, cook)
        elif days in STUDIED:
            study.append(_plain(kitchen, plan_id, begins, cook, STUDY))
        else:
            _plain(kitchen, plan_id, begins, cook, closed=days != 7)
    _validate(kitchen, plan_id, study, now - timedelta(days=6))


def _to_chill(
    kitchen: Kitchen,
    plan_id: str,
    begins: datetime,
    cook: Actor,
    truth: Truth,
    attach: bool = True,
    known: Truth | None = None,
) -> tuple[Ticket, datetime, float]:
    batch = kitchen.start(plan_id, begins, cook, known=known)
    bath = begins + timedelta(minutes=35)
    hot = kitchen.cook(batch, bath, truth, cook, attach)
    chill = bath + timedelta(seconds=truth.cook_s, minutes=4)
    kitchen.begin(batch, "chill", chill, cook)
    return batch, chill, hot


def _validate(kitchen: Kitchen, plan_id: str, study: list[Ticket], at: datetime) -> None:
    """Three batches with the thickest bag and the full load, each read through its core: the lead's evidence."""

    def work(store: Store) -> None:
        entry = validating.ValidationEntry(step="cook", batches=tuple(ticket.id for ticket in study))
        validating.take_as_evidence(store, kitchen.lead, at, plan_id, entry)

    kitchen.at(at, work)


def _plain(
    kitchen: Kitchen, plan_id: str, begins: datetime, cook: Actor, known: Truth | None = None, closed: bool = True
) -> Ticket:
    """A batch that goes well; with its bags measured where it belongs to a study."""
    drawn = Truth(thickness_m=kitchen.chance.uniform(0.026, 0.030), start_c=kitchen.chance.uniform(3.2, 4.4))
    truth = known or drawn
    batch, chill, hot = _to_chill(kitchen, plan_id, begins, cook, truth, known=known)
    kitchen.chill(batch, chill, truth, hot, AS_ASKED, cook)
    _kept(kitchen, batch, chill + timedelta(minutes=70), cook)
    if closed:
        said = "Curve, chill and cold store read; all limits met."
        kitchen.close(batch, chill + timedelta(days=5, hours=3), "release", said)
    return batch


def _kept(kitchen: Kitchen, batch: Ticket, keep: datetime, cook: Actor) -> None:
    kitchen.begin(batch, "keep", keep, cook)
    ends = keep + timedelta(days=4, hours=6)
    kitchen.keep(batch, keep, ends)
    kitchen.reheat(batch, ends, cook)


def _run_saved_chill(kitchen: Kitchen, plan_id: str, begins: datetime, cook: Actor) -> None:
    """A chill that went slow, was seen coming, and was brought back."""
    truth = Truth(pace=SLOW)
    batch, chill, hot = _to_chill(kitchen, plan_id, begins, cook, truth)
    kitchen.chill(batch, chill, truth, hot, [*AS_ASKED, 70, 95], cook, turned=(34, 0.8))
    said = "Bags parted into one layer, 9 kg ice added, stirred"
    kitchen.act(batch, "chill", chill + timedelta(minutes=34), said, cook)
    reason = "Seen at 13 min, brought back; 21 °C and 5 °C reached in time on the readings."
    kitchen.decide_all(batch, chill + timedelta(minutes=105), "release", reason)
    _kept(kitchen, batch, chill + timedelta(minutes=110), cook)
    kitchen.close(batch, chill + timedelta(days=5, hours=2), "release", "Deviation decided, readings complete.")


def _run_lost_chill(kitchen: Kitchen, plan_id: str, begins: datetime, cook: Actor) -> None:
    """A chill that nobody turned round."""
    truth = Truth(pace=SLOW)
    batch, chill, hot = _to_chill(kitchen, plan_id, begins, cook, truth)
    kitchen.chill(batch, chill, truth, hot, [*AS_ASKED, 125, 200], cook)
    reason = "Two hours in the growth zone; spores may have multiplied and reheating does not undo it."
    kitchen.decide_all(batch, chill + timedelta(hours=3, minutes=40), "discard", reason)
    kitchen.finish(batch, "chill", chill + timedelta(hours=3, minutes=45), cook)
    kitchen.close(batch, chill + timedelta(hours=4), "discard", reason)


def _today(kitchen: Kitchen, plan_id: str, now: datetime, probes: dict[str, str]) -> None:
    first, second = kitchen.cooks
    # kept since the day before yesterday
    truth = Truth(thickness_m=0.027)
    batch, chill, hot = _to_chill(kitchen, plan_id, now - timedelta(days=2, hours=5), first, truth)
    kitchen.chill(batch, chill, truth, hot, AS_ASKED, first)
    kitchen.begin(batch, "keep", chill + timedelta(minutes=70), first)
    kitchen.keep(batch, chill + timedelta(minutes=70), now - timedelta(minutes=25))
    bind(kitchen, probes, "1", batch, "keep", now - timedelta(hours=5), first)
    # chilling now, and not as it should: the bags lie stacked and the ice is gone; the logger is not read out yet
    slow = Truth(pace=SLOW)
    batch, chill, hot = _to_chill(kitchen, plan_id, now - timedelta(hours=3, minutes=46), second, slow, attach=False)
    kitchen.chill(batch, chill, slow, hot, AS_ASKED, second)
    # in the bath now
    batch = kitchen.start(plan_id, now - timedelta(minutes=62), first, known=STUDY)
    kitchen.log(batch, "cook", "bath", 62.4, now - timedelta(minutes=27), first)
    bind(kitchen, probes, "2", batch, "cook", now - timedelta(minutes=25), first)


def _pickles(kitchen: Kitchen, now: datetime) -> None:
    """Pickles in their second day: read once, sour in time."""
    lead, cook, made = kitchen.lead, kitchen.cooks[0], now - timedelta(days=4)
    begun, batch = now - timedelta(days=1, hours=3), Ticket()

    def planned(store: Store) -> None:
        view = planning.create_plan(store, lead, made, "Courgette and kohlrabi pickles", "us", "pickles")
        said = "Slices of 6 mm for the midday line, two jars a week."
        plan = with_controls(decided(view.document.model_copy(update={"product": said})))
        saved = planning.save_plan(store, lead, made, view.plan_id, view.revision, plan)
        planning.sign_plan(store, lead, made, view.plan_id, planning.Signing(revision=saved.revision))
        entry = starting.BatchStart(plan_id=view.plan_id, packs=2, at=begun)

        def started(store: Store) -> None:
            batch.id = starting.start_batch(store, cook, begun, entry).batch_id

        kitchen.at(begun, started)
        before = plan.steps[: [step.id for step in plan.steps].index("brine")]
        for minutes, step in enumerate(before):
            kitchen.begin(batch, step.id, begun + timedelta(minutes=1 + minutes), cook)
        if before:
            kitchen.log(batch, before[0].id, "core", noisy(3.1, kitchen.chance), begun + timedelta(minutes=1), cook)
        kitchen.begin(batch, "brine", begun + timedelta(minutes=20), cook)
        reads = meter_reads(plan.step("brine"), 25.0, kitchen.chance, lot=0.15)
        kitchen.log(batch, "brine", "ph", reads, now - timedelta(minutes=100), cook)

    kitchen.at(made, planned)


def main() -> None:
    """Seed the database the launcher names."""
    database = Database(os.environ["BRINEFROST_DATABASE_URL"], durable=False)
    seed(database, datetime.now(tz=UTC))
    database.close()


if __name__ == "__main__":
    main()
