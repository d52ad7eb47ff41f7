"""Where things are kept."""

import hashlib
import os
import stat
from pathlib import Path

from launcher.shell import LauncherError

ROOT = Path(__file__).resolve().parent.parent
VENV = ROOT / ".venv"
WEB = ROOT / "web"
PYTHON = VENV / "bin" / "python"


def data_folder() -> Path:
    """The folder for the cluster and stamps: in the checkout where others may reach it, else under /var/lib."""
    named = os.environ.get("BRINEFROST_DATA")
    folder = Path(named) if named else ROOT / ".brinefrost"
    if not named and os.geteuid() == 0 and not _others_can_reach(ROOT):
        folder = Path("/var/lib/brinefrost") / hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]
    try:
        folder.mkdir(parents=True, exist_ok=True)
        os.chmod(folder, 0o755)  # noqa: S103 (PostgreSQL's own user has to pass through)
    except PermissionError:
        raise LauncherError(
            f"The folder {folder} belongs to somebody else (it was perhaps made by root). "
            "Run as that user, or set BRINEFROST_DATA to a folder of your own."
        ) from None
    return folder


def _others_can_reach(folder: Path) -> bool:
    """Whether a user without rights could walk down to the folder."""
    return all(place.stat().st_mode & stat.S_IXOTH for place in (folder, *folder.parents))
