"""demo, start, test, check, fix, bench, pictures, prove, kitchen, backup, restore."""

import argparse
import json
import os
import signal
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path
from types import FrameType

from launcher import packages
from launcher.cluster import Cluster, free_port
from launcher.places import PYTHON, ROOT, WEB, data_folder
from launcher.shell import ALWAYS, LauncherError, pass_through, run, say
from launcher.watch import Watch, ledger_key

PORT = 8717
USAGE = """Usage: ./brinefrost COMMAND

  demo      run with the made-up kitchen of Skarn Ridge (installs what is missing)
  start     run with your own kitchen (installs what is missing)
  test      run every test, with a throw-away PostgreSQL and headless Chromium; arguments go to pytest
  check     lint, types, import rules, stale API client
  fix       mend what the linters can mend; write the API client anew
  bench     print the speed figures, each against its yardstick
  pictures  take docs/screenshots anew from the demo data
  prove FILE     say what the proof of a plan comes to, as JSON
  kitchen WORD   add one more kitchen to `start`, with people and records of its own
  backup FILE    write the records of `start` to a file
  restore FILE   read such a file back into an empty store
"""


def main(arguments: list[str]) -> int:
    """Run one command."""
    commands = {
        "demo": demo,
        "start": start,
        "test": test,
        "check": check,
        "fix": fix,
        "bench": bench,
        "pictures": pictures,
        "prove": prove,
        "kitchen": kitchen,
        "backup": backup,
        "restore": restore,
    }
    if not arguments or arguments[0] not in commands:
        print(USAGE)
        return 0 if arguments[:1] in ([], ["help"], ["-h"], ["--help"]) else 2
    signal.signal(signal.SIGTERM, _stop_cleanly)
    try:
        return commands[arguments[0]](arguments[1:])
    except LauncherError as error:
        print(f"\n{error}\n", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 130


def _stop_cleanly(_signal: int, _frame: FrameType | None) -> None:
    """A command that is told to end stops its PostgreSQL first, as Ctrl-C does."""
    raise KeyboardInterrupt


def demo(arguments: list[str]) -> int:
    """Run with the demo data."""
    return _serve("brinefrost_demo", seeded=True, arguments=arguments)


def start(arguments: list[str]) -> int:
    """Run without the demo data."""
    return _serve("brinefrost", seeded=False, arguments=arguments)


def prove(arguments: list[str]) -> int:
    """Prove a plan from a file; no server and no database."""
    packages.environment(development=False)
    here = [str(Path(each).resolve()) for each in arguments]
    return pass_through([PYTHON, "-m", "brinefrost.prove", *here], ROOT, {"PYTHONPATH": str(ROOT / "src")})


def kitchen(arguments: list[str]) -> int:
    """Add a kitchen and ask for its people; whether the server runs or not."""
    if len(arguments) != 1:
        raise LauncherError("Name the kitchen by one word: ./brinefrost kitchen WORD")
    packages.everything(development=False)
    cluster = Cluster(data_folder() / "pg")
    cluster.start()
    try:
        cluster.ensure_database("brinefrost")
        env = _env(cluster, "brinefrost")
        run([PYTHON, "-m", "brinefrost.store.migrate"], "Database brought up to date", ROOT, env)
        if pass_through([PYTHON, "-m", "brinefrost.store.new_kitchen", arguments[0]], ROOT, env):
            return 1
        say(f"At the door its people name it {arguments[0]}; those of the first kitchen name theirs home")
        return pass_through([PYTHON, "-m", "brinefrost.services.setup", arguments[0]], ROOT, env)
    finally:
        cluster.stop()


def _env(cluster: Cluster, database: str) -> dict[str, str]:
    """What a program is told that works on the records."""
    key = ledger_key(data_folder())
    return {**cluster.env(database), "BRINEFROST_LEDGER_KEY": key, "PYTHONPATH": str(ROOT / "src")}


def _serve(database: str, seeded: bool, arguments: list[str]) -> int:
    print("Brinefrost")
    state = data_folder() / f"{database}.json"
    running = _already_running(state)
    if running:
        say(f"It runs already: {running}")
        _say_sign_ins(seeded)
        return 0
    packages.everything(development=False)
    cluster = Cluster(data_folder() / "pg")
    cluster.start()
    try:
        made = cluster.ensure_database(database)
        env = {**_env(cluster, database), "BRINEFROST_WEB_ROOT": str(WEB / "dist")}
        run(
            [PYTHON, "-m", "brinefrost.store.migrate"],
            "Database made" if made else "Database brought up to date",
            ROOT,
            env,
        )
        if seeded:
            run([PYTHON, "-m", "brinefrost.demo.seed"], "Skarn Ridge", ROOT, env)
        elif pass_through([PYTHON, "-m", "brinefrost.services.setup"], ROOT, env):
            return 1
        return _run_server(env, state, seeded, arguments, cluster)
    finally:
        others = [file for file in data_folder().glob("brinefrost*.json") if file != state]
        if not any(_already_running(file) for file in others):
            cluster.stop(adopted=True)


def _run_server(env: dict[str, str], state: Path, seeded: bool, arguments: list[str], cluster: Cluster) -> int:
    wanted = _wanted_port(arguments)
    port = free_port(wanted)
    if port != wanted:
        say(f"Port {wanted} is taken; using {port}")
    command = [
        PYTHON,
        "-m",
        "uvicorn",
        "--factory",
        "brinefrost.main:create_app",
        "--host",
        "127.0.0.1",
        "--port",
        str(port),
        "--log-level",
        "warning",
        "--no-server-header",
        "--timeout-keep-alive",
        "75",  # longer than a tablet lies idle between two writes: none meets a connection that is just being closed
        "--timeout-graceful-shutdown",
        "2",  # screens that follow changes never end by themselves
    ]
    address = f"http://127.0.0.1:{port}"

    def started() -> subprocess.Popen[bytes]:
        return subprocess.Popen([str(part) for part in command], cwd=ROOT, env={**os.environ, **ALWAYS, **env})

    def keep(server: subprocess.Popen[bytes]) -> None:
        state.write_text(json.dumps({"pid": server.pid, "address": address}))

    watch = Watch(started, cluster)
    try:
        if not _answers(address, watch.server):
            raise LauncherError("The server did not come up. Its message is above.")
        keep(watch.server)
        print(f"\n  Brinefrost is at {address}\n")
        _say_sign_ins(seeded)
        print("  Ctrl-C stops it.", flush=True)
        return watch.run(keep)
    except KeyboardInterrupt:
        return 0
    finally:
        state.unlink(missing_ok=True)
        watch.stop()


def _wanted_port(arguments: list[str]) -> int:
    parser = argparse.ArgumentParser("./brinefrost demo, ./brinefrost start", add_help=False)
    parser.add_argument("--port", type=int, default=PORT, choices=range(1, 65536), metavar="1…65535")
    return int(parser.parse_args(arguments).port)


def _answers(address: str, server: subprocess.Popen[bytes]) -> bool:
    for _ in range(160):
        if server.poll() is not None:
            return False
        try:
            with urllib.request.urlopen(f"{address}/api/health", timeout=2) as reply:  # noqa: S310 (our own loopback address)
                return bool(json.loads(reply.read())["ok"])
        except (OSError, ValueError):
            time.sleep(0.25)
    return False


def _already_running(state: Path) -> str | None:
    try:
        kept = json.loads(state.read_text())
        os.kill(kept["pid"], 0)
        with urllib.request.urlopen(f"{kept['address']}/api/health", timeout=2) as reply:  # noqa: S310 (our own loopback address)
            return str(kept["address"]) if json.loads(reply.read())["ok"] else None
    except (OSError, ValueError, KeyError):
        return None


def _say_sign_ins(seeded: bool) -> None:
    if not seeded:
        return
    kept = json.loads((ROOT / "src" / "brinefrost" / "demo" / "people.json").read_text(encoding="utf-8"))
    print("  Demo sign-ins:")
    for person in kept:
        pin = f", PIN {person['pin']}" if person.get("pin") else ""
        print(f"    {person['role']:9} {person['name']:18} password {person['password']}{pin}")
    print()


QUICK = ["tests/core", "tests/services", "tests/store", "tests/reports"]


def test(arguments: list[str]) -> int:
    """Every test, on a cluster of its own; with ``--quick`` the core, the services and the store alone."""
    if "--quick" in arguments:
        rest = [word for word in arguments if word != "--quick"]
        arguments = [*QUICK, "-n", "2", "--dist", "worksteal", "-m", "not slow", *rest]
    packages.everything(development=True)
    folder = Path(tempfile.mkdtemp(prefix="brinefrost-test-"))
    os.chmod(folder, 0o755)  # noqa: S103 (PostgreSQL's own user has to pass through)
    cluster = Cluster(folder, throw_away=True, durable=False)
    try:
        cluster.start()
        npm, node_env = packages.npm()
        env = {
            **node_env,
            "BRINEFROST_NPM": " ".join(npm),
            "BRINEFROST_TEST_DATABASE_URL": cluster.owner_url("postgres"),
            "BRINEFROST_TEST_APP_URL": cluster.url("postgres"),
            "BRINEFROST_CHROMIUM": packages.chromium() or "",
            "BRINEFROST_WEB_ROOT": str(WEB / "dist"),
        }
        return pass_through([PYTHON, "-m", "pytest", *(arguments or ["-n", "3", "--dist", "worksteal"])], ROOT, env)
    finally:
        cluster.stop()


def check(_: list[str]) -> int:
    """Lint, types, import rules, stale client."""
    packages.everything(development=True)
    npm, env = packages.npm()
    failed = []
    python = (
        ("ruff", ["ruff", "check", "."]),
        ("format", ["ruff", "format", "--check", "-q", "."]),
        ("types", ["mypy"]),
        ("import rules", ["lint-imports"]),
    )
    for name, command in python:
        code = pass_through([PYTHON.parent / command[0], *command[1:]], ROOT, {"PYTHONPATH": str(ROOT / "src")})
        failed += [name] if code else []
    failed += [] if _client_is_fresh(npm, env) else ["API client is stale: run ./brinefrost fix"]
    for name in ("types", "lint", "formatted"):
        failed += [f"front end {name}"] if pass_through([*npm, "run", "-s", name], WEB, env) else []
    print("check: " + ("failed: " + ", ".join(failed) if failed else "all well"))
    return 1 if failed else 0


def _client_is_fresh(npm: list[str], env: dict[str, str]) -> bool:
    described = [ROOT / "docs" / name for name in ("openapi.json", "plan.schema.json", "proof.schema.json")]
    files = (*described, WEB / "src" / "shared" / "client" / "schema.gen.ts")
    before = [file.read_bytes() if file.exists() else b"" for file in files]
    _write_client(npm, env)
    after = [file.read_bytes() for file in files]
    for file, old in zip(files, before, strict=True):
        file.write_bytes(old)
    return before == after


def _write_client(npm: list[str], env: dict[str, str]) -> None:
    run(
        [PYTHON, "-m", "brinefrost.openapi", ROOT / "docs"],
        "API description",
        ROOT,
        {"PYTHONPATH": str(ROOT / "src")},
    )
    run([*npm, "run", "-s", "client"], "API client", WEB, env)


def fix(_: list[str]) -> int:
    """Mend what can be mended by machine."""
    packages.everything(development=True)
    npm, env = packages.npm()
    pass_through([PYTHON.parent / "ruff", "format", "."], ROOT)
    pass_through([PYTHON.parent / "ruff", "check", "--fix", "."], ROOT)
    run([*npm, "run", "-s", "format"], "Format of the front end", WEB, env)
    _write_client(npm, env)
    return 0


def bench(arguments: list[str]) -> int:
    """The speed figures, on a cluster that waits for its disk as a kitchen's own does."""
    return _with_throw_away("benchmarks", arguments, durable=True)


def pictures(arguments: list[str]) -> int:
    """docs/screenshots anew, from the demo data."""
    return _with_throw_away("tests.pictures", arguments)


def _with_throw_away(module: str, arguments: list[str], durable: bool = False) -> int:
    """Run a module against an empty database on a cluster of its own."""
    packages.everything(development=True)
    folder = Path(tempfile.mkdtemp(prefix="brinefrost-once-"))
    os.chmod(folder, 0o755)  # noqa: S103 (PostgreSQL's own user has to pass through)
    cluster = Cluster(folder, throw_away=True, durable=durable)
    try:
        cluster.start()
        cluster.ensure_database("once")
        env = {
            **cluster.env("once"),
            "BRINEFROST_CHROMIUM": packages.chromium() or "",
            "BRINEFROST_WEB_ROOT": str(WEB / "dist"),
            "PYTHONPATH": f"{ROOT / 'src'}:{ROOT}",
        }
        return pass_through([PYTHON, "-m", module, *arguments], ROOT, env)
    finally:
        cluster.stop()


def backup(arguments: list[str]) -> int:
    """Write the records to a file."""
    return _with_records(arguments, restoring=False)


def restore(arguments: list[str]) -> int:
    """Read the records back."""
    return _with_records(arguments, restoring=True)


def _with_records(arguments: list[str], restoring: bool) -> int:
    if len(arguments) != 1:
        raise LauncherError("Name the file: ./brinefrost backup FILE, ./brinefrost restore FILE")
    file = Path(arguments[0]).resolve()
    packages.everything(development=False)
    cluster = Cluster(data_folder() / "pg")
    cluster.start()
    try:
        if restoring:
            cluster.check_backup(file)
        made = cluster.ensure_database("brinefrost")
        if restoring and not made:
            raise LauncherError(
                "There are records here already. A restore needs an empty store: set BRINEFROST_DATA to a new folder."
            )
        if restoring:
            _restored(cluster, file)
        else:
            cluster.dump("brinefrost", file)
        say(f"{'Restored from' if restoring else 'Written to'} {file}")
        return 0
    finally:
        cluster.stop()


def _restored(cluster: Cluster, file: Path) -> None:
    """Read the records in, bring them up to date, and seal them with this place's own key: all of it or nothing."""
    env = _env(cluster, "brinefrost")
    try:
        cluster.restore("brinefrost", file)
        run([PYTHON, "-m", "brinefrost.store.migrate"], "Records brought up to date", ROOT, env)
        run([PYTHON, "-m", "brinefrost.store.reseal"], "Chain walked and sealed here", ROOT, env)
    except LauncherError:
        cluster.drop_database("brinefrost")
        raise
