"""Sums that come again and again with the same numbers, worked out once."""

from collections.abc import Callable, Hashable
from functools import lru_cache
from typing import TypeVar

from brinefrost.core.physics.body import Array

Found = TypeVar("Found")
LONGEST = 4000  # values of an array whose sum is kept: 200 answers of four such arrays are some 25 MB
KEPT = 200


class Fixed:
    """An array as a key: the same values are the same key."""

    __slots__ = ("_bytes", "array")

    def __init__(self, array: Array) -> None:
        self.array, self._bytes = array, array.tobytes()

    def __hash__(self) -> int:
        return hash(self._bytes)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Fixed) and self._bytes == other._bytes


def memoize(ask: Callable[..., Found]) -> Callable[..., Found]:
    """Keep the last answers of a function of hashable arguments; those of long arrays are worked out each time.

    Valid for functions of their arguments alone, whose answers nobody changes.
    """
    kept = lru_cache(maxsize=KEPT)(ask)

    def answer(*given: Hashable) -> Found:
        long = any(isinstance(each, Fixed) and each.array.size > LONGEST for each in given)
        return ask(*given) if long else kept(*given)

    return answer
