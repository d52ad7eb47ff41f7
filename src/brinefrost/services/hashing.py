"""Where secrets are hashed: one place of its own, behind readings."""

import os
import threading
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress

NICER = 10  # so much more willing to wait than what keeps a reading


def _stand_back() -> None:
    """On Linux a thread has a priority of its own; elsewhere, and where it may not be lowered, it stays."""
    with suppress(OSError, AttributeError):
        os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), NICER)


HASHING = ThreadPoolExecutor(1, thread_name_prefix="hashing", initializer=_stand_back)
