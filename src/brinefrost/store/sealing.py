"""The seal on the end of the ledger: whoever can write to the database cannot make it without the key beside it.

The key lies in a file that its owner alone can read; ``BRINEFROST_LEDGER_KEY_FILE`` says where. It is not in the
environment, which other programs of the machine may see.
"""

import hashlib
import hmac
import os
from functools import cache
from pathlib import Path

VARIABLE = "BRINEFROST_LEDGER_KEY"  # the key itself: of a test, or of the place a backup was made in
OF_FILE = "BRINEFROST_LEDGER_KEY_FILE"


def seal_of(seq: int, head: str) -> str:
    """HMAC-SHA-256 over the last record's number and hash; empty where no key was given.

    Valid for any head. FIPS 198-1.
    """
    return sealed_text(f"{seq}|{head}")


def sealed_text(content: str) -> str:
    """HMAC-SHA-256 over a text; empty where no key was given. Valid for any text. FIPS 198-1."""
    key = os.environ.get(VARIABLE, "") or _load_key(os.environ.get(OF_FILE, ""))
    return hmac.new(key.encode(), content.encode(), hashlib.sha256).hexdigest() if key else ""


@cache
def _load_key(file: str) -> str:
    return Path(file).read_text(encoding="utf-8").strip() if file else ""


def seal_holds(seq: int, head: str, seal: str) -> bool:
    """Whether a head bears its seal; without a key nothing can be said against it."""
    expected = seal_of(seq, head)
    return not expected or hmac.compare_digest(expected, seal)
