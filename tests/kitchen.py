"""Skarn Ridge for tests: people, kit and a signed thigh, without six weeks of history."""

import asyncio
from collections.abc import Coroutine
from concurrent.futures import ThreadPoolExecutor
from datetime import datetime, timedelta
from functools import cache
from pathlib import Path
from typing import Any, TypeVar

import pytest
from fastapi import FastAPI

from brinefrost.core.plans.document import Plan
from brinefrost.core.plans.suggest import with_controls
from brinefrost.core.plans.templates import template
from brinefrost.core.rules import RULE_SET_IDS
from brinefrost.demo.seed import INGREDIENTS, SITE, approved, with_setting
from brinefrost.demo.weighing import decided
from brinefrost.main import Settings, create_app
from brinefrost.services import planning
from brinefrost.services.accounts import add_person
from brinefrost.services.office import Actor, Clock, Office
from brinefrost.store import Database
from brinefrost.store.shelves import InstrumentInfo

PASSWORDS = {"lead": "larder-at-2140", "cook": "juniper-smoke", "reviewer": "red-pen-tuesday"}
NAMES = {"lead": "Ilse Brandvik", "cook": "Tomasz Źrebiec", "reviewer": "Rui Fontelmo"}
PIN = "4711"
# one rule set in a quick run, every one in a whole run
EACH_RULE_SET = {each: pytest.param(each, marks=[] if each == "us" else [pytest.mark.slow]) for each in RULE_SET_IDS}


@cache
def _routes(web_root: Path | None) -> FastAPI:
    """The application, whose routes take a quarter of a second to build: once for all tests."""
    return create_app(Settings(database_url="postgresql+psycopg://nobody@127.0.0.1:1/none", web_root=web_root))


def application(app_url: str, clock: Clock, web_root: Path | None = None) -> FastAPI:
    """The application over a test's own database and clock."""
    app = _routes(web_root)
    app.state.office = Office(Database(app_url), clock)
    return app


def thigh_plan(rules: Any = "us") -> Plan:
    """The thigh, decided, under a rule set; not stored."""
    plan = template("bag").plan("Chicken thigh, in bag", rules)
    cold = plan.steps[0].model_copy(update={"max_c": 4.0})
    return approved(decided(plan.model_copy(update={"ingredients": INGREDIENTS, "steps": (cold, *plan.steps[1:])})))


def long_plan(steps: int) -> Plan:
    """A stew that is chilled, kept and heated again until it has so many steps; hazards decided, not stored."""
    one = template("stew")
    begin, day, end = one.steps[:4], one.steps[4:7], one.steps[-2:]
    days = [{**day[n % 3], "id": f"{day[n % 3]['id']}-{n}"} for n in range(steps - len(begin) - len(end))]
    made = one.model_copy(update={"steps": (*begin, *days, *end)})
    return with_controls(decided(made.plan(f"Stew of {steps} steps", "us")))


def with_bath(plan: Plan, bath_c: float, duration_s: float) -> Plan:
    """The plan with another bath [°C] and time [s]."""
    return with_setting(plan, "cook", bath_c=bath_c, duration_s=duration_s)


def furnish(database: Database, now: datetime) -> dict[str, Actor]:
    """The kitchen, its people and its instruments; one probe is out of date."""
    with database.transaction() as store:
        store.site.write(SITE)
        people = {
            role: add_person(store, NAMES[role], role, PASSWORDS[role], PIN if role == "cook" else None)
            for role in ("lead", "cook", "reviewer")
        }
        for key, name, kind, days in (
            ("probe-2", "Probe 2", "probe", 30),
            ("probe-1", "Probe 1", "probe", -1),
            ("logger-7", "Logger L-07", "logger", 300),
            ("unit-1", "Walk-in display", "unit", 300),
        ):
            quantities = ("air",) if kind == "unit" else ("core", "bath", "air")
            store.instruments.add(
                InstrumentInfo(key, name, kind, quantities, 0.4, now - timedelta(days=60), now + timedelta(days=days))
            )
    return people


def lead_of(database: Database) -> Actor:
    """The lead of the kitchen at hand."""
    with database.transaction() as store:
        person = store.people.by_name(NAMES["lead"])
    assert person
    return Actor(person.id, person.name, "lead")


def signed_thigh(database: Database, lead: Actor, now: datetime) -> str:
    """The thigh, decided and signed; its plan id."""
    with database.transaction() as store:
        view = planning.create_plan(store, lead, now, "Chicken thigh, in bag", "us")
        plan = approved(decided(view.document.model_copy(update={"ingredients": INGREDIENTS})))
        saved = planning.save_plan(store, lead, now, view.plan_id, view.revision, plan)
        planning.sign_plan(store, lead, now, view.plan_id, planning.Signing(revision=saved.revision))
        return view.plan_id


Found = TypeVar("Found")


def awaited(work: Coroutine[Any, Any, Found]) -> Found:
    """Run it in a thread of its own: a browser driven by this process keeps its loop running in the main one."""
    with ThreadPoolExecutor(1) as pool:
        return pool.submit(asyncio.run, work).result()
