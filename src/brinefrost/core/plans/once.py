"""What is worked out of a plan, worked out once: a plan never changes, and is asked again and again while it runs."""

from collections import OrderedDict
from collections.abc import Callable
from functools import wraps
from threading import Lock
from typing import TypeVar

from brinefrost.core.plans.document import Plan

Found = TypeVar("Found")
MOST = 48  # plans whose answer is kept


def once(ask: Callable[[Plan], Found]) -> Callable[[Plan], Found]:
    """The same question of the same plan object is answered from memory.

    Told apart by the object itself, which is kept with its answer: comparing whole plans would cost what it saves.
    Valid for answers nobody changes.
    """
    kept: OrderedDict[int, tuple[Plan, Found]] = OrderedDict()
    lock = Lock()

    @wraps(ask)
    def asked(plan: Plan) -> Found:
        with lock:
            known = kept.get(id(plan))
            if known is not None:
                kept.move_to_end(id(plan))
                return known[1]
        found = ask(plan)
        with lock:
            kept[id(plan)] = (plan, found)
            while len(kept) > MOST:
                kept.popitem(last=False)
        return found

    return asked
