"""Run with ``./brinefrost bench``, or with names of ``ALL`` after it.

Ratios against a yardstick in the same run; absolute times only beside them.
"""

import json
import os
import subprocess
import sys
from collections.abc import Callable, Iterator
from datetime import UTC, datetime, timedelta
from functools import partial

import numpy as np
from fastapi import FastAPI
from fastapi.testclient import TestClient
from scipy.integrate import solve_ivp

from benchmarks.dishes import four_lines, lay_out_anew, prove_anew
from benchmarks.logging_readings import logged
from benchmarks.processes import processes
from benchmarks.serving import serving
from benchmarks.timing import seconds
from brinefrost.api.seats import COOKIE
from brinefrost.core.bench.families import answer, presets
from brinefrost.core.physics.body import Body, Shape
from brinefrost.core.physics.heat import Stage, heat_through
from brinefrost.core.physics.heating import Heating, safe_time_map_s
from brinefrost.core.physics.lethality import goal_met_s, law_from_dz, lethality_min
from brinefrost.core.physics.robustness import Spread, repeat
from brinefrost.core.plans.document import Plan
from brinefrost.main import Settings, create_app
from brinefrost.services import running, starting
from brinefrost.services.office import Actor, Office
from brinefrost.services.planning import _known, _prove
from brinefrost.store import Database, Store
from brinefrost.store.migrate import migrate
from tests.core.test_heat import slab_series
from tests.kitchen import NAMES, PASSWORDS, furnish, long_plan, signed_thigh, thigh_plan

SIX_HOURS = 6 * 3600.0
BODY = Body(Shape.slab, 0.025, 1.3e-7, 0.48)
H, BATH_C, START_C = 95.0, 60.0, 5.0


def by_modes(step_s: float = 60.0) -> tuple[np.ndarray, np.ndarray]:
    """The core's own solver."""
    curve = heat_through(BODY, [Stage.steady(SIX_HOURS, BATH_C, H)], START_C, step_s=step_s)
    return curve.times_s, curve.core_c


def by_solve_ivp(nodes: int, tolerance: float) -> tuple[np.ndarray, np.ndarray]:
    """The yardstick: method of lines on the half slab, second order, stiff integrator with a banded Jacobian."""
    width = BODY.half_thickness_m / nodes
    rate = BODY.diffusivity_m2_s / width**2
    surface = 1.0 / (width / 2 / BODY.conductivity_w_mk + 1.0 / H) / (BODY.heat_capacity_j_m3k() * width)

    def slope(_: float, field: np.ndarray) -> np.ndarray:
        change = np.empty_like(field)
        change[1:-1] = rate * (field[2:] - 2 * field[1:-1] + field[:-2])
        change[0] = rate * (field[1] - field[0])
        change[-1] = rate * (field[-2] - field[-1]) + surface * (BATH_C - field[-1])
        return change

    times = np.arange(0.0, SIX_HOURS + 1, 60.0)
    done = solve_ivp(
        slope, (0, SIX_HOURS), np.full(nodes, START_C), "LSODA", times, rtol=tolerance, atol=tolerance, lband=1, uband=1
    )
    core = done.y[0] - (done.y[1] - done.y[0]) / 8  # from the first cell's middle to the symmetry plane
    return times, core


def truth(times: np.ndarray) -> np.ndarray:
    """The eigenvalue series, its roots found by bracketing: it shares no code with the solver."""
    fourier = BODY.fourier_rate() * times
    return np.array([BATH_C + (START_C - BATH_C) * slab_series(BODY.biot(H), f, 40) for f in fourier])


def worst(result: tuple[np.ndarray, np.ndarray]) -> float:
    """Largest error after the first ten minutes [K], at every tenth point."""
    times, core = result
    some = np.flatnonzero(times >= 600)[::10]
    return float(np.max(np.abs(core[some] - truth(times[some]))))


def conduction() -> None:
    """A six-hour curve against solve_ivp at an error no smaller than our own."""
    ours, our_error = seconds(by_modes), worst(by_modes())
    print("Six-hour core curve, 361 points")
    print(f"  {'modes, exact in time':29} {ours * 1e3:8.2f} ms   worst error {our_error:.1e} K")
    for nodes, tolerance in ((40, 1e-6), (160, 1e-8), (640, 1e-10)):
        their = seconds(partial(by_solve_ivp, nodes, tolerance), 5)
        error = worst(by_solve_ivp(nodes, tolerance))
        name, ratio = f"solve_ivp LSODA, {nodes} nodes", their / ours
        print(f"  {name:29} {their * 1e3:8.2f} ms   worst error {error:.1e} K   ratio {ratio:6.0f}")
    print("  (aim: at least 50 at equal error; the yardstick is given the larger error throughout)")
    print(
        "  growth with the number of points:",
        ", ".join(
            f"{int(SIX_HOURS / step)}: {seconds(partial(by_modes, step)) * 1e3:.2f} ms" for step in (120.0, 30.0, 7.5)
        ),
    )


def furnished(url: str) -> None:
    """The empty database, with people and kit."""
    migrate(os.environ["BRINEFROST_OWNER_URL"], os.environ["BRINEFROST_APP_ROLE"])
    furnish(Database(url), datetime.now(tz=UTC))


def proof(url: str) -> None:
    """A plan's proof through the API: the whole request in-process, against an empty request in the same run."""
    client = TestClient(create_app(Settings(database_url=url, web_root=None)), base_url="http://127.0.0.1")
    client.post("/api/session", json={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
    plan: Plan = thigh_plan()
    body = plan.model_dump(mode="json")

    def asked() -> None:
        for kept in (_prove, _known):
            kept.cache_clear()
        assert client.post("/api/plans/x/proof", json=body).status_code == 200

    whole, empty = seconds(asked, 11), seconds(lambda: client.get("/api/people"), 11)
    print("A plan's proof through the API (every step's limits, every school, nothing cached)")
    print(
        f"  whole request {whole * 1e3:.0f} ms, signed-in request without work {empty * 1e3:.0f} ms, "
        f"server work {(whole - empty) * 1e3:.0f} ms (aim: at most 20)"
    )


def long_plans(url: str) -> None:
    """A plan of thirty steps, and one of forty, opened, proved, laid out and saved through the API."""
    client = TestClient(create_app(Settings(database_url=url, web_root=None)), base_url="http://127.0.0.1")
    client.post("/api/session", json={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
    empty = seconds(lambda: client.get("/api/people"), 11)
    print("Long plans through the API, server work, nothing cached (aim at 30 steps: at most 150 ms each)")
    for steps in (11, 30, 40):
        made = client.post(
            "/api/plans", json={"name": f"Stew {steps}"}, headers={"Idempotency-Key": f"long-plan-{steps}"}
        )
        place, document = f"/api/plans/{made.json()['plan_id']}", long_plan(steps).model_dump(mode="json")
        revision = iter(range(made.json()["revision"], 1000))
        turn = iter(range(1000))

        def anew(path: str, body: dict[str, object] = document, place: str = place) -> None:
            for kept in (_prove, _known):
                kept.cache_clear()
            assert client.post(f"{place}/{path}", json=body).status_code == 200

        def saves(
            body: dict[str, object] = document,
            place: str = place,
            revision: Iterator[int] = revision,
            turn: Iterator[int] = turn,
        ) -> None:
            entry = {"revision": next(revision), "document": {**body, "name": f"Stew {next(turn)}"}}
            headers = {"Idempotency-Key": f"{place[-8:]}-{entry['revision']}"}
            assert client.put(place, json=entry, headers=headers).status_code == 200

        spent = {
            "save": seconds(saves, 7),
            "open": seconds(partial(client.get, place), 7),
            "proof": seconds(partial(anew, "proof"), 7),
            "sheet": seconds(partial(anew, "sheet"), 7),
        }
        print(f"  {steps} steps: " + ", ".join(f"{what} {(each - empty) * 1e3:.0f} ms" for what, each in spent.items()))


def lines() -> None:
    """Thirty steps in four lines: the proof, and the proof with its sheet."""
    plan, yardstick = four_lines(), seconds(by_modes)
    for name, aim, what in (("proof", 150, prove_anew), ("proof and sheet", 300, lay_out_anew)):
        spent = seconds(partial(what, plan), 5)
        ratio = spent / yardstick
        print(f"  {len(plan.steps)} steps, 4 lines: {name:16} {spent * 1e3:6.0f} ms (aim {aim})   ratio {ratio:6.0f}")


def shift(url: str) -> None:
    """The shift with 40 running batches and 300 closed ones, and a reading, against PostgreSQL's own single insert."""
    app, office, hand, boss = _kitchen(url)
    begun = datetime.now(tz=UTC) - timedelta(hours=3)
    plan_id = signed_thigh(office.database, boss, begun - timedelta(days=1))
    batches = [_begun(office, hand, plan_id, begun) for _ in range(340)]
    discard = running.DecisionEntry(decision="discard", reason="Made for the figures alone.")
    for batch in batches[40:]:
        with office.database.transaction() as store:
            running.countersign(store, boss, begun, batch, discard)
    client = TestClient(app, base_url="http://127.0.0.1")
    client.post("/api/session", json={"name": NAMES["lead"], "password": PASSWORDS["lead"]})
    for path in ("/api/shift", "/api/batches"):
        client.get(path)  # folds once
    empty = seconds(lambda: client.get("/api/people"), 11)
    day, listed = seconds(lambda: client.get("/api/shift"), 5), seconds(lambda: client.get("/api/batches"), 5)
    print("The shift with 40 running and 300 closed batches, folded before")
    print(
        f"  shift {(day - empty) * 1e3:.0f} ms of server work (aim: at most 60), list {(listed - empty) * 1e3:.0f} ms, "
        f"signed-in request without work {empty * 1e3:.0f} ms"
    )
    logged(office, hand, batches[0], begun, url)


def _kitchen(url: str) -> tuple[FastAPI, Office, Actor, Actor]:
    """The application over a furnished kitchen, its cook and its lead."""
    app = create_app(Settings(database_url=url, web_root=None))
    office: Office = app.state.office
    with office.database.transaction() as store:
        cook, lead = (store.people.by_name(NAMES[role]) for role in ("cook", "lead"))
        assert cook is not None
        assert lead is not None
    return app, office, Actor(cook.id, cook.name, "cook"), Actor(lead.id, lead.name, "lead")


def _begun(office: Office, hand: Actor, plan_id: str, at: datetime) -> str:
    """One batch in its bath, three readings in."""

    def work(store: Store) -> str:
        entry = starting.BatchStart(plan_id=plan_id, packs=6, at=at, confirmed=True)
        batch = starting.start_batch(store, hand, at, entry).batch_id
        mark = running.StepMark(at=at + timedelta(minutes=30), confirmed=True)
        running.begin_step(store, hand, at + timedelta(minutes=31), batch, "cook", mark)
        return batch

    return office.read(work)


def maps() -> None:
    """Forty thicknesses by forty baths of times to safe, against asking each cell by itself."""
    law = law_from_dz(70, 7.5, 2)
    thick, baths = np.linspace(0.005, 0.1, 40), np.linspace(55, 85, 40)
    piece = Heating(BODY, H, START_C, BATH_C)
    asked = [partial(goal_met_s, law)]
    whole = seconds(lambda: safe_time_map_s(piece, asked, thick, baths), 7)
    one = seconds(lambda: lethality_min(law, piece.times_s(), piece.core_c(piece.times_s())), 25)
    print("Map of times to safe, 40 x 40")
    print(
        f"  {whole * 1e3:.0f} ms (aim: at most 300), one cell by itself {one * 1e3:.2f} ms, "
        f"ratio {1600 * one / whole:.0f}"
    )
    sizes = ((20, 20), (40, 40), (80, 40), (40, 80))
    times = [
        seconds(
            partial(
                safe_time_map_s, piece, asked, thick[0] + thick[:1] * np.arange(1, n + 1) / n, np.linspace(55, 85, m)
            ),
            5,
        )
        for n, m in sizes
    ]
    print(
        "  growth with thicknesses x baths:",
        ", ".join(f"{n}x{m}: {t * 1e3:.0f} ms" for (n, m), t in zip(sizes, times, strict=True)),
    )


def robustness() -> None:
    """Ten thousand repetitions, against the exact solver once for each of a hundred of them."""
    law = law_from_dz(70, 7.5, 2)
    piece, spread = Heating(BODY, H, START_C, 63.0), Spread(0.002, 1.0, 0.3, 0.25)
    whole = seconds(lambda: repeat(piece, law, 10_800, spread), 5)
    one = seconds(lambda: heat_through(BODY, [Stage.steady(10_800, 63, H)], START_C, 10_800 / 64), 25)
    print("Robustness, 10,000 repetitions")
    print(
        f"  {whole * 1e3:.0f} ms (aim: at most 1000), one exact curve {one * 1e3:.2f} ms, "
        f"ratio {10_000 * one / whole:.0f}"
    )
    times = [seconds(partial(repeat, piece, law, 10_800, spread, n), 3) for n in (1_000, 10_000, 100_000)]
    print(
        "  growth with repetitions:",
        ", ".join(f"{n:,}: {t * 1e3:.0f} ms" for n, t in zip((1_000, 10_000, 100_000), times, strict=True)),
    )


def bench_pages() -> None:
    """Every opening question of the Bench, computed in the core, against one six-hour curve."""
    yardstick = seconds(by_modes)
    print(f"The Bench's opening questions (six-hour curve: {yardstick * 1e3:.2f} ms)")
    today = datetime.now(tz=UTC).date()
    for key, opening in presets(today).items():
        spent = seconds(partial(answer, key, opening[0][1], today), 5)
        print(f"  {key:8} {spent * 1e3:7.1f} ms   ratio {spent / yardstick:7.0f}")


def core_import() -> None:
    """Importing the core in a fresh process, against importing numpy alone."""

    def spent(module: str) -> float:
        return seconds(lambda: subprocess.run([sys.executable, "-c", f"import {module}"], check=True), 5)

    ours, bare, numpy_alone = spent("brinefrost.core.runs.judging"), spent("sys"), spent("numpy")
    bench, scipy_alone = spent("brinefrost.core.bench.families"), spent("scipy.optimize")
    print("Import of the core in a fresh process")
    print(
        f"  {(ours - bare) * 1e3:.0f} ms, with every page of the Bench {(bench - bare) * 1e3:.0f} ms; numpy alone "
        f"{(numpy_alone - bare) * 1e3:.0f} ms, scipy.optimize alone {(scipy_alone - bare) * 1e3:.0f} ms "
        "(aim: at most 500 ms)"
    )


def live(url: str) -> None:
    """Thirty tablets that follow and log without pause: how soon each sees what any of them wrote."""
    app, office, hand, boss = _kitchen(url)
    begun = datetime.now(tz=UTC) - timedelta(hours=1)
    plan_id = signed_thigh(office.database, boss, begun - timedelta(days=1))
    batches = [_begun(office, hand, plan_id, begun) for _ in range(30)]
    client = TestClient(app, base_url="http://127.0.0.1")
    client.post("/api/session", json={"name": NAMES["cook"], "password": PASSWORDS["cook"]})
    with serving(app) as address:
        found = _beside("screens", address, client.cookies[COOKIE], "8", *batches)
    print("Thirty tablets that follow the shift and log without pause, for eight seconds")
    print(
        f"  {found['readings']} readings, accepted in {found['accepted_ms']:.0f} ms, on every screen after "
        f"{found['shown_half_s']:.2f} s, 95 in 100 within {found['shown_most_s']:.2f} s (aim: 1 s); "
        f"{found['looks']} looks at the shift"
    )


def strangers(url: str) -> None:
    """Sixty strangers' sign-ins at once: what they cost a reading, against the same readings in quiet."""
    app, office, hand, boss = _kitchen(url)
    begun = datetime.now(tz=UTC) - timedelta(hours=1)
    batch = _begun(office, hand, signed_thigh(office.database, boss, begun - timedelta(days=1)), begun)
    client = TestClient(app, base_url="http://127.0.0.1")
    client.post("/api/session", json={"name": NAMES["cook"], "password": PASSWORDS["cook"]})
    with serving(app) as address:
        found = _beside("strangers", address, client.cookies[COOKIE], batch)
    print("Sixty strangers who sign in at once beside a hand that logs")
    print(
        f"  95 in 100 readings accepted within {found['beside_ms']:.0f} ms, in quiet {found['quiet_ms']:.0f} ms, "
        f"ratio {found['beside_ms'] / found['quiet_ms']:.1f} (aim: at most 2); {found['refused']} sign-ins refused "
        f"unhashed, {found['hashed']} hashed"
    )


def _beside(module: str, *given: str) -> dict[str, float]:
    """What a process of its own measured of the running application."""
    command = [sys.executable, "-m", f"benchmarks.{module}", *given]
    return dict(json.loads(subprocess.run(command, check=True, stdout=subprocess.PIPE, text=True).stdout))


ALL: dict[str, Callable[[], None]] = {
    "conduction": conduction,
    "maps": maps,
    "robustness": robustness,
    "bench": bench_pages,
    "import": core_import,
    "lines": lines,
    "proof": lambda: proof(os.environ["BRINEFROST_DATABASE_URL"]),
    "plans": lambda: long_plans(os.environ["BRINEFROST_DATABASE_URL"]),
    "live": lambda: live(os.environ["BRINEFROST_DATABASE_URL"]),
    "strangers": lambda: strangers(os.environ["BRINEFROST_DATABASE_URL"]),
    "shift": lambda: shift(os.environ["BRINEFROST_DATABASE_URL"]),
    "processes": lambda: processes(os.environ["BRINEFROST_DATABASE_URL"]),
}

if __name__ == "__main__":
    asked = sys.argv[1:] or list(ALL)
    if not {"import", "lines", "conduction", "maps", "robustness", "bench"}.issuperset(asked):
        furnished(os.environ["BRINEFROST_DATABASE_URL"])
    for name in asked:
        ALL[name]()
