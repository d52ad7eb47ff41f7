"""Every kind of step, asked the same; and a pickle, far from heat, through plan, proof, batch and forecast."""

import re
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import get_args

import numpy as np
import pytest

from brinefrost.core.fields import specs_of
from brinefrost.core.food.catalogue import catalogue
from brinefrost.core.plans.balance import Share
from brinefrost.core.plans.contexts import context_of
from brinefrost.core.plans.course import questions_of
from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.proof import prove
from brinefrost.core.plans.proof_shown import show_proof
from brinefrost.core.plans.readiness import gaps_of
from brinefrost.core.plans.sheet import sheet_of
from brinefrost.core.plans.sheet_rows import _happens
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import Spoil, template, templates
from brinefrost.core.rules import RuleSetId
from brinefrost.core.runs.batch import Batch, fold
from brinefrost.core.runs.events import ActionRecorded, BatchStarted, ReadingLogged, Recorded, StepFinished, StepStarted
from brinefrost.core.runs.judging import LimitStatus, judge
from brinefrost.core.runs.schedule import checks_of
from brinefrost.core.steps import KINDS, kind_of
from brinefrost.core.steps.acts import Act
from brinefrost.core.steps.context import Context
from brinefrost.core.steps.document import StepBase
from brinefrost.core.steps.food import Food
from brinefrost.core.steps.kind import StepKind
from brinefrost.core.words import say
from brinefrost.demo.weighing import decided
from tests.kitchen import EACH_RULE_SET

ROOT = Path(__file__).parents[2]
START = datetime(2026, 11, 17, 8, 0, tzinfo=UTC)


@pytest.mark.parametrize("key", list(KINDS))
def test_a_kind_answers_everything_it_is_asked(key: str) -> None:
    kind = KINDS[key]
    blank = kind.settings.model_validate({"id": "new", "name": "New", **kind.blank})
    parts = kind.control(blank, Context())
    assert kind.key == key == blank.kind  # type: ignore[attr-defined]
    assert kind.length_s(blank) > 0
    assert kind.__doc__
    assert kind.settings.__doc__
    # a kind with limits of its own says how they are watched and what is done
    assert bool(parts.limits) == bool(parts.monitoring) == bool(parts.corrective_actions)
    for spec in specs_of(kind.settings):
        value = getattr(blank, spec.name)
        if spec.low is not None and isinstance(value, int | float):
            assert spec.low <= value <= (spec.high or np.inf), spec.name


def test_no_kind_of_step_is_named_where_batches_run() -> None:
    """Runs, services, reports and the front end ask the kind; only demo and templates lay steps out."""
    modules = "|".join(KINDS)
    named = re.compile(rf"['\"](?:{modules})['\"]|core\.steps\.(?:{modules})")
    folders = [ROOT / "src/brinefrost" / name for name in ("core/runs", "services", "reports", "api")]
    files = [file for folder in folders for file in folder.rglob("*.py")]
    web = [file for kind in ("ts", "tsx") for file in (ROOT / "web/src").rglob(f"*.{kind}")]
    files += [file for file in web if "text" not in file.parts and not re.search(r"\.(gen|test)\.", file.name)]
    assert len(files) > 100
    assert [(file.name, found[0]) for file in files if (found := named.findall(file.read_text()))] == []


@pytest.mark.parametrize("name", ["steps", "controlled_at"])
def test_hazards_name_kinds_there_are(name: str) -> None:
    words = {*KINDS, "cooks", "dries_whole", "brings_acid", *get_args(Act)}
    assert {kind for hazard in catalogue().hazards for kind in getattr(hazard, name)} <= words
    assert {advice.step for advice in catalogue().advice} <= words


def test_the_interface_has_words_for_every_kind_and_setting() -> None:
    words = ROOT / "web/src/shared/text"
    text = "".join((words / name).read_text() for name in ("pass.en.ts", "office.en.ts"))
    options = (words / "bench.asked.en.ts").read_text() + text
    for kind in KINDS.values():
        assert re.search(rf"^    {kind.key}: '", text, re.M), kind.key
        for spec in specs_of(kind.settings):
            if spec.name not in ("id", "kind"):
                assert re.search(rf"^    {spec.name}: '", text, re.M), spec.name
            for option in spec.options if spec.name != "kind" else ():
                assert re.search(rf"^    .*\b{option}: '", options, re.M), option


def pickles(**settings: object) -> Plan:
    plan = template("pickles").plan("Courgette and kohlrabi pickles", "us")
    steps = tuple(step.model_copy(update=settings) if step.id == "brine" else step for step in plan.steps)
    return ready(plan.model_copy(update={"steps": steps}))


def ready(plan: Plan) -> Plan:
    """With the hazards it raises, the answers usually given and the controls that follow."""
    return with_controls(decided(plan))


def spoilt(plan: Plan, spoil: Spoil) -> Plan:
    steps = tuple(
        step.model_copy(update={spoil.setting: spoil.value}) if step.id == spoil.step else step for step in plan.steps
    )
    return plan.model_copy(update={"steps": steps})


@pytest.mark.parametrize("key", [key for key, each in templates().items() if each.spoil])
@pytest.mark.parametrize("rules", EACH_RULE_SET.values())
def test_a_template_proves_and_its_spoiled_twin_does_not(key: str, rules: RuleSetId) -> None:
    made = template(key)
    plan = ready(made.plan(made.name, rules))
    assert gaps_of(plan) == ()
    proof = prove(plan)
    assert proof.meets, proof.sentence
    assert made.spoil
    assert not prove(spoilt(plan, made.spoil)).meets


def test_a_pickle_is_planned_proved_and_ready() -> None:
    plan = pickles()
    assert "c-botulinum-acid" in {hazard.key for hazard in plan.hazards}
    assert plan.critical_steps() == ("brine", "keep")
    assert gaps_of(plan) == ()
    proof = show_proof(plan)
    assert proof.meets, proof.sentence
    sour = next(each for each in proof.limits if each.step == "brine")
    assert sour.verdict.value is not None
    assert sour.verdict.value < 4.4
    assert sour.time_to_meet_s is not None
    assert [each.quantity for each in proof.others] == ["ph"]
    assert [asked.family for asked in questions_of(plan)] == ["acid"]


@pytest.mark.parametrize(
    ("spoilt", "state"),
    [
        ({"vinegar_kg": 0.02}, "fails"),
        ({"vinegar_percent": 0.5, "vinegar_kg": 0.1}, "fails"),
        ({"keep": "shelf"}, "not_proved"),
    ],
)
def test_a_spoiled_pickle_is_not_proved(spoilt: dict[str, object], state: str) -> None:
    proof = prove(pickles(**spoilt))
    assert (proof.state, proof.meets) == (state, False)
    if state == "fails":
        assert any("vinegar" in remedy for remedy in proof.remedies)


def test_a_pickle_that_nobody_keeps_cold_is_not_proved() -> None:
    plan = pickles()
    bare = plan.model_copy(update={"steps": plan.steps[:2], "controls": plan.controls[:1]})
    assert prove(bare).state == "not_proved"
    assert "no step keeps it cold" in prove(bare).sentence


def test_a_loosened_ph_is_seen() -> None:
    plan = pickles()
    control = plan.control_of("brine")
    assert control
    way = control.limits[0].ways[0]  # type: ignore[union-attr]
    loose = control.limits[0].model_copy(
        update={"ways": (way.model_copy(update={"bounds": (way.bounds[0].model_copy(update={"value": 5.2}),)}),)}
    )
    loosened = plan.model_copy(
        update={"controls": (control.model_copy(update={"limits": (loose,)}), *plan.controls[1:])}
    )
    assert not prove(loosened).meets
    assert any("pickle" in gap.sentence.lower() or "Brine over" in gap.sentence for gap in gaps_of(loosened))


def recorded(seq: int, event: object) -> Recorded:
    return Recorded(
        seq=seq, actor_id="a", actor_name="A", actor_role="cook", recorded_at=START + timedelta(days=2), event=event
    )  # type: ignore[arg-type]


def reading(n: int, hours: float, ph: float) -> ReadingLogged:
    return ReadingLogged(
        reading=f"r{n}", step="brine", quantity="ph", value=ph, unit="pH", taken_at=START + timedelta(hours=hours),
        instrument="m", instrument_name="Meter", uncertainty=0.05,
    )  # fmt: skip


@pytest.mark.parametrize("kind", KINDS.values(), ids=lambda kind: str(kind.key))
def test_no_two_settings_of_a_kind_are_printed_alike(kind: StepKind[StepBase]) -> None:
    names = [spec.plain_name() for spec in specs_of(kind.settings)]
    assert len(names) == len(set(names))


def batch_with(*readings: ReadingLogged | StepFinished | ActionRecorded) -> Batch:
    plan = pickles()
    events = [
        recorded(1, BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START)),
        recorded(2, StepStarted(step="brine", at=START)),
        *(recorded(n + 3, each) for n, each in enumerate(readings)),
    ]
    return fold(plan, events)


def at_brine(batch: Batch, now: datetime) -> LimitStatus:
    """How the pH stands that the brine is to come to."""
    return next(status for status in judge(batch, now).statuses if status.step == "brine")


def test_a_batch_of_pickles_is_checked_judged_and_carried_on() -> None:
    """Sour readings pass; a pH that stays high is seen coming, with the vinegar that would mend it."""
    now = START + timedelta(hours=30)
    good = batch_with(reading(1, 25, 3.9))
    assert next(check.quantity for check in checks_of(good, now) if check.step == "brine") == "ph"
    status = at_brine(good, now)
    assert (status.verdict.state, status.verdict.basis) == ("pass", "measured")
    bad = at_brine(batch_with(reading(1, 2, 5.9), reading(2, 25, 4.9)), now)
    assert bad.verdict.state == "fail"
    assert bad.forecast
    assert bad.forecast.misses
    assert bad.options[0].works
    assert "vinegar" in bad.options[0].action


def test_a_ph_read_before_the_acid_is_in_the_middle_proves_nothing() -> None:
    """An hour in, it is the brine that is sour. It warns where it goes; neither a pass nor a failure comes of it."""
    now = START + timedelta(hours=30)
    for early in (2.9, 5.9):
        status = at_brine(batch_with(reading(1, 1, early)), now)
        assert status.verdict.state == "pending"
        assert "too early to tell" in status.verdict.sentence
        assert status.forecast
    assert at_brine(batch_with(reading(1, 1, 2.9), reading(2, 25, 3.9)), now).verdict.state == "pass"
    assert at_brine(batch_with(reading(1, 1, 2.9), reading(2, 25, 4.9)), now).verdict.state == "fail"


def test_after_vinegar_is_added_the_clock_of_the_middle_begins_again() -> None:
    added = ActionRecorded(
        step="brine", action="Vinegar added, stirred", changes_course=True, at=START + timedelta(hours=26)
    )
    soon = batch_with(reading(1, 25, 4.9), added, reading(2, 27, 3.4))
    assert at_brine(soon, START + timedelta(hours=28)).verdict.state == "fail"
    later = batch_with(reading(1, 25, 4.9), added, reading(2, 50, 3.9))
    assert at_brine(later, START + timedelta(hours=51)).verdict.state == "pass"


def test_a_ph_read_before_the_step_began_proves_nothing() -> None:
    plan = pickles()
    begun = BatchStarted(code="B-1", plan_id="p", plan_version=1, plan_hash="h", packs=1, at=START)
    batch = fold(plan, [recorded(1, begun), recorded(2, reading(1, 25, 3.2))])
    assert at_brine(batch, START + timedelta(hours=30)).verdict.state != "pass"


def test_a_step_that_ended_with_early_readings_alone_was_not_measured() -> None:
    ended = batch_with(reading(1, 1, 3.1), StepFinished(step="brine", at=START + timedelta(hours=26)))
    assert at_brine(ended, START + timedelta(hours=30)).verdict.state == "not_measured"


def test_the_simulated_meter_reads_what_the_model_says() -> None:
    plan = pickles()
    step, context = plan.step("brine"), context_of(plan)
    kind, times = KINDS["pickle"], np.array([0.0, 86400.0, 10 * 86400.0])
    truth = kind.simulate(step, context, times)["ph"]
    assert truth[0] > 5.5
    assert truth[-1] == pytest.approx(show_proof(plan).others[0].values[-1], abs=0.05)


def every_choice() -> list[StepBase]:
    """A step of every kind with every choice and switch it has, one changed at a time."""
    found = []
    for kind in KINDS.values():
        blank = kind.settings.model_validate({"id": "new", "name": "New", **kind.blank})
        found.append(blank)
        for spec in specs_of(kind.settings):
            options = [True, False] if spec.kind == "flag" else [] if spec.name == "kind" else list(spec.options)
            found += [blank.model_copy(update={spec.name: each}) for each in options]
    return found


@pytest.mark.parametrize("step", every_choice(), ids=lambda step: "-".join(map(str, step.model_dump().values()))[:60])
def test_what_a_step_does_is_read_from_the_step(step: StepBase) -> None:
    """A step does something known; it acidifies only where it brings a pH about, and the hazard board says held by acid
    of no other step."""
    kind = kind_of(step)
    acts = kind.acts(step)
    assert acts
    assert acts <= set(get_args(Act))
    context = Context(food=Food(known=frozenset({"fish"})))
    sour = "sour" in kind.makes(step) or any(limit.quantity == "ph" for limit in kind.own_limits(step, context))
    assert ("acidifies" in acts) == sour
    made = template("scallop-ceviche")
    plan = made.plan(made.name, "us")
    plan = plan.model_copy(update={"steps": (*plan.steps[:1], step)})

    listeria = next(hazard for hazard in catalogue().hazards if hazard.key == "listeria")
    act, said, _ = _happens(plan, step, listeria, Share(0.0, 0.0, 0.0))
    assert (said == say("plans.sheet.held_by_acid")) == ("acidifies" in acts), (act, said)


def test_acid_poured_over_raw_food_holds_nothing_on_the_board() -> None:
    """CXG and every hygiene text: acid poured over the surface kills and holds nothing inside; the ceviche is such."""
    made = template("scallop-ceviche")
    plan = with_controls(decided(made.plan(made.name, "us")))
    cells = [cell for row in sheet_of(plan).rows for cell in row.cells if cell.step == "dress"]
    assert cells
    assert not [cell for cell in cells if cell.said == say("plans.sheet.held_by_acid")]


@pytest.mark.parametrize("key", list(KINDS))
def test_a_kind_has_one_name_in_file_class_and_plan(key: str) -> None:
    kind = KINDS[key]
    assert type(kind).__module__.rpartition(".")[2] == key
    assert kind.settings.__name__ == key.title().replace("_", "")
    assert type(kind).__name__ == f"{kind.settings.__name__}Kind"
