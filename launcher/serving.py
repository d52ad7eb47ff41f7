"""Running the server: where it listens, how it is watched, what it is told."""

import argparse
import ipaddress
import json
import os
import socket
import ssl
import subprocess
import time
import urllib.request
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from launcher import packages
from launcher.cluster import Cluster, free_port
from launcher.places import PYTHON, ROOT, WEB, data_folder
from launcher.records import checked_file, program_env, server_env
from launcher.shell import ALWAYS, LauncherError, pass_through, run, say
from launcher.watch import Orphan, Server, Watch

PORT = 8717
LOOPBACK = "127.0.0.1"
CHECK_AFTER_S, CHECK_EVERY_S = 60.0, 24 * 3600.0
BESIDE_AFTER_S = 3.0


@dataclass(frozen=True)
class Options:
    """Where the server listens, and by which names people reach it."""

    port: int
    listen: str
    names: tuple[str, ...]
    certificate: Path | None
    private_key: Path | None
    behind_proxy: bool
    processes: int = 1

    @property
    def alone(self) -> bool:
        """Whether only this machine reaches it directly."""
        return ipaddress.ip_address(self.listen).is_loopback

    @property
    def scheme(self) -> str:
        """Of its own address."""
        return "https" if self.certificate else "http"

    def probe_host(self) -> str:
        """Where the launcher itself asks it."""
        return LOOPBACK if ipaddress.ip_address(self.listen).is_unspecified else self.listen

    def hosts(self) -> list[str]:
        """Every name it answers to."""
        own = [] if self.alone else _addresses()
        return list(dict.fromkeys([LOOPBACK, "localhost", self.listen, *self.names, *own]))

    def shown_address(self, port: int) -> str:
        """What a tablet opens; nothing where only this machine reaches it."""
        if self.behind_proxy:
            return f"https://{self.names[0]}" if self.names else ""
        if self.alone:
            return ""
        own = [self.listen] if not ipaddress.ip_address(self.listen).is_unspecified else _addresses()
        name = next(iter([*self.names, *own]), "")
        return f"{self.scheme}://{name}:{port}" if name else ""


def read_options(arguments: list[str]) -> Options:
    """What was asked for. Raises LauncherError where tablets would send passwords in the clear."""
    parser = argparse.ArgumentParser("./brinefrost demo, ./brinefrost start", add_help=False)
    parser.add_argument("--port", type=int, default=PORT, choices=range(1, 65536), metavar="1…65535")
    parser.add_argument("--listen", default=LOOPBACK, metavar="ADDRESS")
    parser.add_argument("--name", action="append", default=[], metavar="HOST")
    parser.add_argument("--certificate", type=Path, metavar="FILE")
    parser.add_argument("--private-key", type=Path, metavar="FILE")
    parser.add_argument("--behind-proxy", action="store_true")
    parser.add_argument("--processes", type=int, default=1, choices=range(1, 17), metavar="1…16")
    asked = parser.parse_args(arguments)
    try:
        loopback = ipaddress.ip_address(asked.listen).is_loopback
    except ValueError:
        raise LauncherError(f"{asked.listen} is no address to listen on. Give 192.168.1.20, say, or 0.0.0.0.") from None
    if bool(asked.certificate) != bool(asked.private_key):
        raise LauncherError("Give both --certificate FILE and --private-key FILE, or neither.")
    for file in (asked.certificate, asked.private_key):
        if file and not file.is_file():
            raise LauncherError(f"There is no file {file}.")
    if asked.processes > 1 and not asked.behind_proxy:
        raise LauncherError(
            "Several processes need a proxy in front that sends each kitchen to one of them (--behind-proxy "
            "--name HOST); docs/operations.md shows one."
        )
    if not loopback and not asked.certificate:
        raise LauncherError(
            "Other machines would send passwords and PINs in the clear. Give a certificate (--certificate FILE "
            "--private-key FILE), or put a proxy in front (--behind-proxy --name HOST); docs/operations.md shows both."
        )
    return Options(
        asked.port,
        asked.listen,
        tuple(asked.name),
        asked.certificate,
        asked.private_key,
        asked.behind_proxy,
        asked.processes,
    )


def serve(database: str, seeded: bool, arguments: list[str]) -> int:
    """Install what is missing, bring the database up to date, run the server and watch it."""
    print("Brinefrost")
    options = read_options(arguments)
    state = data_folder() / f"{database}.json"
    running = _find_running(state)
    if running and _lives(running.get("launcher", 0)):
        say(f"It runs already: {running['address']}")
        _say_sign_ins(seeded)
        return 0
    packages.everything(development=False)
    cluster = Cluster(data_folder() / "pg")
    cluster.start()
    try:
        if not running:
            code = _prepare(cluster, database, seeded)
            if code:
                return code
        return _run_server(cluster, database, state, seeded, options, running)
    finally:
        others = [file for file in data_folder().glob("brinefrost*.json") if file != state]
        if not any(_find_running(file) for file in others):
            cluster.stop(adopted=True)


def _prepare(cluster: Cluster, database: str, seeded: bool) -> int:
    made = cluster.ensure_database(database)
    env = program_env(cluster, database)
    done = "Database made" if made else "Database brought up to date"
    run([PYTHON, "-m", "brinefrost.store.migrate"], done, ROOT, env)
    if seeded:
        run([PYTHON, "-m", "brinefrost.demo.seed"], "Skarn Ridge", ROOT, env)
        return 0
    return 1 if pass_through([PYTHON, "-m", "brinefrost.services.setup"], ROOT, env) else 0


def _run_server(
    cluster: Cluster, database: str, state: Path, seeded: bool, options: Options, running: dict[str, Any] | None
) -> int:
    port = free_port(options.port) if not running else int(running["port"])
    if port != options.port and not running:
        say(f"Port {options.port} is taken; using {port}")
    if running:
        say("Its launcher was ended and the server goes on: taking it up again")
    env = {
        **server_env(cluster, database),
        "BRINEFROST_WEB_ROOT": str(WEB / "dist"),
        "BRINEFROST_HOSTS": json.dumps(options.hosts()),
        "BRINEFROST_ADDRESS": options.shown_address(port),
    }
    address = f"{options.scheme}://{options.probe_host()}:{port}"

    def started() -> subprocess.Popen[bytes]:
        # the owner's password and the ledger's key are not in its environment
        return subprocess.Popen(_command(options, port), cwd=ROOT, env={**os.environ, **ALWAYS, **env})

    def keep(server: Server) -> None:
        told = {"pid": server.pid, "launcher": os.getpid(), "address": address, "port": port}
        state.write_text(json.dumps(told))

    checking = Checking(database, program_env(cluster, database))
    beside = [Beside(_command(options, port + n), env) for n in range(1, options.processes)]
    if seeded:
        hub = [str(PYTHON), "-m", "brinefrost.demo.hub", address]
        beside.append(Beside(hub, program_env(cluster, database), quiet=True))

    def look() -> None:
        checking.look()
        for each in beside:
            each.look()

    watch = Watch(started, cluster, look, Orphan(int(running["pid"])) if running else None)
    try:
        if not _answers(address, watch.server):
            raise LauncherError("The server did not come up. Its message is above.")
        keep(watch.server)
        print(f"\n  Brinefrost is at {options.shown_address(port) or address}\n")
        _say_sign_ins(seeded)
        print("  Ctrl-C stops it.", flush=True)
        return watch.run(keep)
    except KeyboardInterrupt:
        return 0
    finally:
        state.unlink(missing_ok=True)
        for each in beside:
            each.stop()
        watch.stop()


def _command(options: Options, port: int) -> list[str]:
    secured = ["--ssl-certfile", options.certificate, "--ssl-keyfile", options.private_key]
    command = [
        PYTHON,
        "-m",
        "uvicorn",
        "--factory",
        "brinefrost.main:create_app",
        "--host",
        options.listen,
        "--port",
        port,
        "--log-level",
        "warning",
        "--no-server-header",
        "--proxy-headers" if options.behind_proxy else "--no-proxy-headers",
        "--timeout-keep-alive",
        75,  # longer than a tablet lies idle between two writes: none meets a connection that is just being closed
        "--timeout-graceful-shutdown",
        2,  # screens that follow changes never end by themselves
        *(secured if options.certificate else []),
    ]
    return [str(part) for part in command]


class Checking:
    """The integrity check that runs by itself: soon after the start, then once a day, in a process of its own."""

    def __init__(self, database: str, env: dict[str, str]) -> None:
        self._into, self._env = checked_file(database), {**os.environ, **ALWAYS, **env}
        self._due = time.monotonic() + CHECK_AFTER_S
        self._runs: subprocess.Popen[bytes] | None = None

    def look(self) -> None:
        """Begin it where it is due, and take its outcome."""
        if self._runs is not None and self._runs.poll() is not None:
            if self._runs.returncode == 1:
                say("The records do not hold: see the ledger page, or ./brinefrost verify")
            self._runs = None
        if self._runs is None and time.monotonic() >= self._due:
            self._due = time.monotonic() + CHECK_EVERY_S
            command = [str(PYTHON), "-m", "brinefrost.verify", "--into", str(self._into)]
            self._runs = subprocess.Popen(command, cwd=ROOT, env=self._env, stdout=subprocess.DEVNULL)


class Beside:
    """A process beside the first server: another server of several, or the demo's hub. Begun again where it ends."""

    def __init__(self, command: list[str], env: dict[str, str], quiet: bool = False) -> None:
        self._command, self._env, self._quiet = command, {**os.environ, **ALWAYS, **env}, quiet
        self._due = time.monotonic() + (BESIDE_AFTER_S if quiet else 0.0)
        self._runs: subprocess.Popen[bytes] | None = None

    def look(self) -> None:
        """Begin it, and begin it again some time after it ended."""
        if self._runs is not None and self._runs.poll() is not None:
            self._runs, self._due = None, time.monotonic() + BESIDE_AFTER_S
        if self._runs is None and time.monotonic() >= self._due:
            errors = subprocess.DEVNULL if self._quiet else None
            self._runs = subprocess.Popen(self._command, cwd=ROOT, env=self._env, stderr=errors)

    def stop(self) -> None:
        """End it."""
        if self._runs is not None and self._runs.poll() is None:
            self._runs.terminate()
            self._runs.wait(10)


def _addresses() -> list[str]:
    """This machine's own addresses, loopback left out."""
    try:
        found = socket.getaddrinfo(socket.gethostname(), None, socket.AF_INET)
    except OSError:
        return []
    return sorted({str(each[4][0]) for each in found if not ipaddress.ip_address(each[4][0]).is_loopback})


def _answers(address: str, server: Server) -> bool:
    for _ in range(160):
        if server.poll() is not None:
            return False
        if _is_well(address):
            return True
        time.sleep(0.25)
    return False


def _is_well(address: str) -> bool:
    """Whether a server answers there. Its certificate is for the kitchen's names, not for this question."""
    try:
        with urllib.request.urlopen(  # noqa: S310 (our own address)
            f"{address}/api/health",
            timeout=2,
            context=ssl._create_unverified_context(),  # noqa: S323
        ) as reply:
            return bool(json.loads(reply.read())["ok"])
    except (OSError, ValueError, KeyError):
        return False


def _find_running(state: Path) -> dict[str, Any] | None:
    """What a launcher wrote of a server that still answers."""
    try:
        kept: dict[str, Any] = json.loads(state.read_text())
        answers = _lives(kept["pid"]) and _is_well(kept["address"])
    except (OSError, ValueError, KeyError):
        return None
    return kept if answers and "port" in kept else None


def _lives(pid: int) -> bool:
    try:
        os.kill(pid, 0)
    except OSError:
        return False
    return pid > 0


def _say_sign_ins(seeded: bool) -> None:
    if not seeded:
        return
    kept = json.loads((ROOT / "src" / "brinefrost" / "demo" / "people.json").read_text(encoding="utf-8"))
    print("  Demo sign-ins:")
    for person in kept:
        pin = f", PIN {person['pin']}" if person.get("pin") else ""
        print(f"    {person['role']:9} {person['name']:18} password {person['password']}{pin}")
    print()
