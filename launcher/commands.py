"""demo, start, test, check, fix, bench, pictures, prove; the commands on records are in records.py."""

import os
import signal
import sys
import tempfile
from pathlib import Path
from types import FrameType

from launcher import packages
from launcher.cluster import Cluster
from launcher.places import PYTHON, ROOT, WEB
from launcher.records import backup, kitchen, password, restore, verify
from launcher.serving import serve
from launcher.shell import LauncherError, pass_through, run

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
  password NAME  set a new password for somebody of `start`
  backup FILE    write the records of `start` to a file
  restore FILE   read such a file back into an empty store
  verify [FILE]  walk every record, of `start` or of a backup, without the application

`demo` and `start` take --port N, and for tablets --listen ADDRESS, --name HOST, --certificate FILE --private-key FILE,
--behind-proxy: see docs/operations.md.
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
        "password": password,
        "backup": backup,
        "restore": restore,
        "verify": verify,
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
    return serve("brinefrost_demo", seeded=True, arguments=arguments)


def start(arguments: list[str]) -> int:
    """Run without the demo data."""
    return serve("brinefrost", seeded=False, arguments=arguments)


def prove(arguments: list[str]) -> int:
    """Prove a plan from a file; no server and no database."""
    packages.environment(development=False)
    here = [str(Path(each).resolve()) for each in arguments]
    return pass_through([PYTHON, "-m", "brinefrost.prove", *here], ROOT, {"PYTHONPATH": str(ROOT / "src")})


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
