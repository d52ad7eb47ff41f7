"""The Bench: a route for each family of questions, and the shelf of kept answers."""

from typing import Annotated, Any

from fastapi import APIRouter, Depends, Form, UploadFile
from pydantic import Field

from brinefrost.api.pages import USUAL, After, Find, Most, Page, bears, page_of
from brinefrost.api.seats import AnyHand, Everyone, OfficeHere
from brinefrost.api.slots import a_slot
from brinefrost.core.bench.acid import answer_acid
from brinefrost.core.bench.acid_question import AcidQuestion
from brinefrost.core.bench.answer import BenchAnswer
from brinefrost.core.bench.chill import answer_chill
from brinefrost.core.bench.chill_question import ChillQuestion
from brinefrost.core.bench.clocks import answer_clocks
from brinefrost.core.bench.clocks_question import ClocksQuestion
from brinefrost.core.bench.cure import CureQuestion, answer_cure
from brinefrost.core.bench.dates import DatesQuestion, answer_dates
from brinefrost.core.bench.dry import DryQuestion, answer_dry
from brinefrost.core.bench.egg_question import EggQuestion
from brinefrost.core.bench.eggs import answer_eggs
from brinefrost.core.bench.families import FamilyRead
from brinefrost.core.bench.ferment import FermentQuestion, answer_ferment
from brinefrost.core.bench.fish import answer_fish
from brinefrost.core.bench.fish_question import FishQuestion
from brinefrost.core.bench.fit import FitQuestion, answer_fit
from brinefrost.core.bench.from_file import FileRows, rows_from
from brinefrost.core.bench.heat import answer_heat
from brinefrost.core.bench.heat_question import HeatQuestion
from brinefrost.core.bench.jars import JarQuestion, answer_jars
from brinefrost.core.bench.kill import KillQuestion, answer_kill
from brinefrost.core.bench.kit import answer_kit
from brinefrost.core.bench.kit_question import KitQuestion
from brinefrost.core.bench.rules import RulesQuestion, answer_rules
from brinefrost.core.bench.salt import answer_salt
from brinefrost.core.bench.salt_question import SaltQuestion
from brinefrost.core.bench.smoke import answer_smoke
from brinefrost.core.bench.smoke_question import SmokeQuestion
from brinefrost.core.traces import LARGEST_BYTES, TraceOptions
from brinefrost.core.working import Sent
from brinefrost.services import benching, tracing

router = APIRouter(prefix="/api/v1/bench", tags=["bench"], dependencies=[Depends(a_slot)])


class KeepAnswer(Sent):
    """A question to keep, under a name."""

    family: str = Field(min_length=1, max_length=40)
    name: str = Field(min_length=1, max_length=120)
    question: dict[str, Any]


@router.get("")
def read_bench(actor: Everyone, office: OfficeHere) -> tuple[FamilyRead, ...]:
    """Every family with its fields and the questions it opens on."""
    now = office.clock.now()
    return office.read(lambda store: benching.pages(store, now))


@router.get("/kept")
def list_kept(
    actor: Everyone, office: OfficeHere, find: Find = "", after: After = None, most: Most = USUAL
) -> Page[benching.KeptAnswer]:
    """Kept answers, the newest first; those whose name bears words."""
    found = [row for row in office.read(benching.kept) if bears(row.name, find)]
    return page_of(found, lambda row: row.id, after, most)


@router.post("/kept", status_code=201)
def keep_answer(entry: KeepAnswer, hand: AnyHand) -> benching.KeptAnswer:
    """Keep a question with its answer as it is now."""
    made = hand.write(
        benching.KeptAnswer,
        {"keep_answer": entry.model_dump()},
        lambda store: benching.keep(store, hand.actor, hand.now, entry.family, entry.name, entry.question),
    )
    return hand.made(made, "/api/v1/bench/kept")


@router.delete("/kept/{kept_id}")
def discard_kept(kept_id: str, hand: AnyHand) -> benching.KeptAnswer:
    """Take a kept answer off the shelf."""
    asked = {"discard_kept": kept_id}
    return hand.write(benching.KeptAnswer, asked, lambda store: benching.discard(store, hand.actor, kept_id))


@router.post("/rows")
def read_rows(
    file: UploadFile,
    actor: Everyone,
    office: OfficeHere,
    family: Annotated[str, Form(max_length=40)],
    field: Annotated[str, Form(max_length=40)],
    channel: Annotated[str | None, Form(max_length=200)] = None,
) -> FileRows:
    """Rows of a question from a logger file. Nothing is kept."""
    content = file.file.read(LARGEST_BYTES + 1)
    trace = office.read(lambda store: tracing.preview(store, content, TraceOptions()))
    return rows_from(trace, family, field, channel)


@router.post("/heat")
def bench_heat(question: HeatQuestion, actor: Everyone) -> BenchAnswer:
    """Core curve of a piece in its surroundings, judged, with its inverses, its map and its chance of failing."""
    return answer_heat(question)


@router.post("/kill")
def bench_kill(question: KillQuestion, actor: Everyone) -> BenchAnswer:
    """Lethality of a held temperature or a trace, by every target."""
    return answer_kill(question)


@router.post("/fit")
def bench_fit(question: FitQuestion, actor: Everyone) -> BenchAnswer:
    """Estimate an unknown from the first readings and carry the curve on."""
    return answer_fit(question)


@router.post("/chill")
def bench_chill(question: ChillQuestion, actor: Everyone) -> BenchAnswer:
    """Cooling of a pan, pot or bag against every rule set's marks."""
    return answer_chill(question)


@router.post("/clocks")
def bench_clocks(question: ClocksQuestion, actor: Everyone) -> BenchAnswer:
    """Exposure and growth over any number of steps and days."""
    return answer_clocks(question)


@router.post("/acid")
def bench_acid(question: AcidQuestion, actor: Everyone) -> BenchAnswer:
    """Resting pH of a jar, vinegar needed or to add, time to the middle, heat for the pack."""
    return answer_acid(question)


@router.post("/ferment")
def bench_ferment(question: FermentQuestion, actor: Everyone) -> BenchAnswer:
    """A ferment's pH against its deadline, and the day it should cross the line."""
    return answer_ferment(question)


@router.post("/salt")
def bench_salt(question: SaltQuestion, actor: Everyone) -> BenchAnswer:
    """Brine, dry cure and rub: strength, salt at rest, how far it has come."""
    return answer_salt(question)


@router.post("/cure")
def bench_cure(question: CureQuestion, actor: Everyone) -> BenchAnswer:
    """Ingoing nitrite by every method and rule set, both ways."""
    return answer_cure(question)


@router.post("/dry")
def bench_dry(question: DryQuestion, actor: Everyone) -> BenchAnswer:
    """Water activity, drying to a target, degree-hours."""
    return answer_dry(question)


@router.post("/smoke")
def bench_smoke(question: SmokeQuestion, actor: Everyone) -> BenchAnswer:
    """Oven, smoke and probe alarm: carry-over, wet surface, what the alarm leaves."""
    return answer_smoke(question)


@router.post("/fish")
def bench_fish(question: FishQuestion, actor: Everyone) -> BenchAnswer:
    """Fish served raw: freezing, exemptions, histamine, advisory."""
    return answer_fish(question)


@router.post("/eggs")
def bench_eggs(question: EggQuestion, actor: Everyone) -> BenchAnswer:
    """Eggs in the shell, egg sauce in a bag, pooled eggs."""
    return answer_eggs(question)


@router.post("/jars")
def bench_jars(question: JarQuestion, actor: Everyone) -> BenchAnswer:
    """What may become of a jar: fridge only, scheduled process, never."""
    return answer_jars(question)


@router.post("/dates")
def bench_dates(question: DatesQuestion, actor: Everyone, office: OfficeHere) -> BenchAnswer:
    """Discard dates under each rule set, freezing and parents; as of the kitchen's own day where none is named."""
    now = office.clock.now()
    return answer_dates(question.on(office.read(lambda store: benching.today(store, now))))


@router.post("/kit")
def bench_kit(question: KitQuestion, actor: Everyone) -> BenchAnswer:
    """A reading against its limit, a thermometer, an electrode."""
    return answer_kit(question)


@router.post("/rules")
def bench_rules(question: RulesQuestion, actor: Everyone) -> BenchAnswer:
    """One topic under every rule set, and a kitchen's own limit beside it."""
    return answer_rules(question)
