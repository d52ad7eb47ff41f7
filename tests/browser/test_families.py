"""Every dish, in the browser, from its template to a countersigned record with every limit met.

What instruments read comes of the plan's own walk. The first dish of a family is cooked on a cook's own screen: begun
by its buttons, the first check of each kind typed into the pad. What is alike after that goes the way the screen sends
it; so do the other dishes of a family from end to end.
"""

import csv
import io
import json
import random
import re
import uuid
from collections.abc import Callable
from datetime import datetime, timedelta
from typing import Any

import pytest
from playwright.sync_api import APIRequestContext, Browser, Page, expect
from pypdf import PdfReader

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.legs import Leg
from brinefrost.core.plans.monitored import monitored_steps
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template, templates
from brinefrost.core.quantities import BY_EYE, QUANTITIES
from brinefrost.core.steps import kind_of
from brinefrost.core.steps.document import Monitoring
from brinefrost.demo.products import legs_of
from brinefrost.demo.readings import check_times, logged, value_of
from brinefrost.demo.weighing import decided
from brinefrost.store import Database
from brinefrost.store.shelves import InstrumentInfo
from tests.browser.acting import begin, end
from tests.browser.conftest import House, new_context
from tests.conftest import OPENED
from tests.kitchen import NAMES, PASSWORDS

pytestmark = [pytest.mark.browser, pytest.mark.slow]

FAMILIES = {
    "pickles": ("hot-filled-pickles",),
    "ferments": ("semi-dry-sausage", "kraut"),
    "cured and smoked": ("cold-smoked-char", "hot-smoked-trout", "saddle"),
    "confit": ("garlic-confit", "confit", "filled-confit"),
    "bag": ("short-rib", "cuttlefish"),
    "raw fish": ("scallop-ceviche", "crudo"),
    "eggs": ("egg-sauce", "slow-eggs", "aioli", "custard", "mousse"),
    "cook-chill": ("stew", "broth", "terrine"),
    "served hot": ("goose", "stuffing", "hot-hold"),
}
ELSEWHERE = {"pickles", "thigh"}  # in test_pickles.py and test_story.py
NOWHERE = "about:blank"  # between two looks: the clock leaps, and a page that stands would not know it
AWAY = timedelta(hours=6)  # a session of somebody who writes nothing runs out after eight
LOGGED = {"heats", "cools", "freezes"}
SHOWN = 2  # steps begun by their buttons
KEPT_S = 1.2 * 86400.0  # what goes on until somebody ends it is ended then
INSTRUMENTS = {
    "ph": "meter-1",
    "aw": "meter-2",
    "mass": "scale-1",
    "air": "unit-1",
    "core": "probe-2",
    "bath": "probe-2",
}


@pytest.fixture(autouse=True)
def kit(database: Database, house: House) -> None:
    with database.transaction() as store:
        for key, kind, quantity, doubt in (
            ("meter-1", "meter", "ph", 0.05),
            ("meter-2", "meter", "aw", 0.003),
            ("scale-1", "scale", "mass", 0.002),
        ):
            info = InstrumentInfo(key, key, kind, (quantity,), doubt, OPENED, OPENED.replace(year=2028))
            store.instruments.add(info)


THAWED_K, THAWS_MIN = 8.0, 180.0  # a core that changed by more took hours


class Run:
    """One batch on its way: who sends, the page if it is done by hand, the clock, what the instruments read."""

    def __init__(self, sender: APIRequestContext, page: Page | None, house: House, plan: Plan, batch: str) -> None:
        self.sender, self.page, self.house, self.plan, self.batch = sender, page, house, plan, batch
        self.chance = random.Random(7)
        self.typed: set[str] = set()
        self.seen, self.begun = house.clock.now(), 0
        self.core = (OPENED, 0.0)

    def until(self, at: datetime) -> None:
        """Let the clock run to a time; whoever is away too long signs in again."""
        ahead = (at - self.house.clock.now()).total_seconds() / 60
        if ahead > 0:
            self.house.clock.forward(ahead)
        if self.house.clock.now() - self.seen > AWAY:
            sign_in(self.sender, "cook")
            self.seen = self.house.clock.now()

    def begin(self, leg: Leg) -> None:
        """By its button the first times."""
        self.begun += 1
        if self.page is None or self.begun > SHOWN:
            self.post(f"steps/{leg.step.id}/start", {})
            return
        self.page.goto(f"/batches/{self.batch}")
        begin(self.page, leg.step.name)
        expect(self.page.get_by_text(f"{leg.step.name} runs since")).to_be_visible()
        self.page.goto(NOWHERE)

    def end(self) -> None:
        """The last step."""
        last = self.plan.steps[-1]
        if self.page is None:
            self.post(f"steps/{last.id}/finish", {})
            return
        self.page.goto(f"/batches/{self.batch}")
        end(self.page, last.name)
        expect(self.page.get_by_text("runs since")).to_have_count(0)
        self.page.goto(NOWHERE)

    def post(self, path: str, body: dict[str, Any]) -> None:
        post(self.sender, f"/batches/{self.batch}/{path}", body)

    def check(self, leg: Leg, item: Monitoring, value: float) -> None:
        """By the pad the first time, then as the pad sends it."""
        if self.page is None or item.quantity in self.typed:
            self.send(leg, item, value)
            return
        self.typed.add(item.quantity)
        self.page.goto(f"/batches/{self.batch}")
        self.page.get_by_role("button", name=f"Log {item.what}").first.click()
        dialog = self.page.get_by_role("dialog")
        if QUANTITIES[item.quantity].kind == "flag":
            dialog.get_by_role("button", name="Met OK", exact=True).click()
        else:
            dialog.get_by_role("textbox").first.fill(str(value).replace("-", "−"))
            self.page.keyboard.press("Enter")
        expect(dialog).to_be_hidden()
        self.page.goto(NOWHERE)  # nobody watches while the rest is sent

    def send(self, leg: Leg, item: Monitoring, value: float) -> None:
        now = self.house.clock.now()
        if item.quantity == "core":
            if self.core[0] == now and abs(self.core[1] - value) > THAWED_K:
                self.house.clock.forward(THAWS_MIN)  # out of the freezer it takes its time
                now = self.house.clock.now()
            self.core = (now, value)
        reading = {
            "step": leg.step.id, "quantity": item.quantity, "value": value, "unit": QUANTITIES[item.quantity].unit,
            "taken_at": self.house.clock.now().isoformat(), "instrument": INSTRUMENTS.get(item.quantity, BY_EYE),
        }  # fmt: skip
        self.post("readings", reading)

    def lay(self, leg: Leg, begins: datetime) -> None:
        """A logger's file to the step."""
        file = {"name": "l.csv", "mimeType": "text/csv", "buffer": logged(leg, begins, self.chance)}
        reply = self.sender.post(
            f"/api/v1/batches/{self.batch}/traces",
            multipart={"file": file, "step": leg.step.id, "instrument": "logger-7"},  # type: ignore[dict-item]
            headers={"Idempotency-Key": uuid.uuid4().hex},
        )
        assert reply.ok, reply.text()


def sign_in(sender: APIRequestContext, role: str) -> None:
    sender.post("/api/session", data={"name": NAMES[role], "password": PASSWORDS[role]})


def write_and_sign(page: Page, key: str) -> Plan:
    page.get_by_role("button", name="New plan").click()
    page.get_by_label("Name of the dish").fill(template(key).name)
    page.get_by_label("Begin with").select_option(key)
    page.get_by_role("dialog").get_by_role("button", name="New plan").click()
    page.get_by_role("tab", name="Hazards").click()
    page.get_by_role("button", name="Take over the suggested hazards").click()
    page.get_by_role("button", name="Answer as is usual here").click()
    page.get_by_role("tab", name="Proof").click()
    expect(page.get_by_text("The process should meet its limits.").first).to_be_visible()
    page.get_by_role("tab", name="Sign").click()
    page.get_by_label("Your password, as signature").fill(PASSWORDS["lead"])
    page.get_by_role("button", name="Sign the plan").click()
    expect(page.get_by_text("Version 1, ")).to_be_visible()
    plan_id = re.split("[/?]", page.url)[4]
    page.goto(NOWHERE)  # until there is something to countersign
    return Plan.model_validate(page.request.get(f"/api/v1/plans/{plan_id}").json()["document"])


def post(sender: APIRequestContext, path: str, body: dict[str, Any]) -> Any:
    reply = sender.post(f"/api/v1{path}", data=body, headers={"Idempotency-Key": uuid.uuid4().hex})
    assert reply.ok, reply.text()
    return reply.json()


def start(page: Page, plan: Plan) -> str:
    page.get_by_role("button", name="Start a batch").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("radio", name=plan.name).click()
    for item in plan.ingredients:
        if item.made_here:  # bought this time: its lot stands for the batch
            dialog.get_by_text("Lots of what was bought").click()
            dialog.get_by_label(item.name).fill("K-207")
    dialog.get_by_role("button", name="Start a batch").click()
    page.wait_for_url("**/batches/*")
    return page.url.rpartition("/")[2]


def test_every_dish_is_cooked() -> None:
    cooked = [dish for dishes in FAMILIES.values() for dish in dishes]
    assert sorted(cooked) == sorted({key for key, each in templates().items() if each.ingredients} - ELSEWHERE)


@pytest.mark.parametrize(("family", "dish"), [(family, dish) for family, each in FAMILIES.items() for dish in each])
def test_from_template_to_countersigned_record(
    browser: Browser, visit: Callable[..., Page], house: House, family: str, dish: str
) -> None:
    if dish != FAMILIES[family][0]:
        cook_unseen(browser, house, dish)
        return
    lead = visit("lead", "/plans")
    plan = write_and_sign(lead, dish)
    cook = visit("cook", "/batches")
    batch = cook_it(Run(cook.request, cook, house, plan, start(cook, plan)))
    sign_in(lead.request, "lead")
    lead.goto(f"/batches/{batch}")
    countersign(lead, plan)
    links = {kind: lead.get_by_role("link", name=kind).get_attribute("href") for kind in ("PDF", "CSV", "JSON")}
    read_exports({kind: lead.request.get(str(link)).body() for kind, link in links.items()}, plan)


def cook_unseen(browser: Browser, house: House, dish: str) -> None:
    """From template to record the way the screens send it, with none open."""
    lead, cook = (new_context(browser, house.address).request for _ in range(2))  # they end with the browser
    sign_in(lead, "lead")
    sign_in(cook, "cook")
    made = post(lead, "/plans", {"name": template(dish).name, "rule_set": "us", "template": dish})
    plan = with_controls(decided(Plan.model_validate(made["document"])))
    body = {"revision": made["revision"], "document": plan.model_dump(mode="json")}
    reply = lead.put(f"/api/v1/plans/{made['plan_id']}", data=body, headers={"Idempotency-Key": uuid.uuid4().hex})
    assert reply.ok, reply.text()
    signing = {"revision": reply.json()["revision"], "password": PASSWORDS["lead"]}
    post(lead, f"/plans/{made['plan_id']}/signature", signing)
    lots = [{"ingredient": item.name, "lot": "K-207"} for item in plan.ingredients if item.made_here]
    begun = post(cook, "/batches", {"plan_id": made["plan_id"], "packs": 6, "lots": lots})
    batch = cook_it(Run(cook, None, house, plan, str(begun["batch_id"])))
    sign_in(lead, "lead")
    reason = {"decision": "release", "reason": "Curves and checks read, every limit met", "password": PASSWORDS["lead"]}
    post(lead, f"/batches/{batch}/countersignature", reason)
    kinds = ("PDF", "CSV", "JSON")
    read_exports({kind: lead.get(f"/api/v1/batches/{batch}/record.{kind.lower()}").body() for kind in kinds}, plan)


def cook_it(run: Run) -> str:
    """Every step with its checks; the batch."""
    clock, plan = run.house.clock, run.plan
    for leg, other in legs_of(plan):
        run.begin(leg)
        begins, kind, control = clock.now(), kind_of(leg.step), monitored_steps(plan).get(leg.step.id)
        lasts = min(leg.length_s, KEPT_S) if kind.endless else leg.length_s
        items = control.monitoring if control else ()
        due = sorted(((at, item) for item in items for at in check_times(item, lasts)), key=lambda each: each[0])
        for at, item in due:
            run.until(begins + timedelta(seconds=at))
            run.check(leg, item, value_of(leg, item, at, other, run.chance))
        run.until(begins + timedelta(seconds=lasts))
        if control and kind.acts(leg.step) & LOGGED and leg.computed:
            run.lay(leg, begins)
    run.end()
    return run.batch


def countersign(lead: Page, plan: Plan) -> None:
    lead.get_by_label("Reason, printed on the record").fill("Curves and checks read, every limit met")
    lead.get_by_label("Your password, as signature").fill(PASSWORDS["lead"])
    lead.get_by_role("button", name="Sign off", exact=True).click()
    expect(lead.get_by_text("Release, ").first).to_be_visible()


def read_exports(files: dict[str, bytes], plan: Plan) -> None:
    """The record as it is sent out: every limit met, every record a row, every step on paper."""
    kept = json.loads(files["JSON"])
    assert {status["verdict"]["state"] for status in kept["batch"]["limits"]} == {"pass"}
    assert len(kept["batch"]["limits"]) == sum(len(control.limits) for control in monitored_steps(plan).values())
    rows = list(csv.reader(io.StringIO(files["CSV"].decode("utf-8-sig"))))
    assert len(rows) == len(kept["records"]) + 1
    paper = " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(files["PDF"])).pages).split())
    for step in plan.steps:
        assert step.name in paper
    assert "{{" not in paper
