"""Sums that are kept: the same numbers give the same answer, others their own, and long ones are not kept."""

import numpy as np

from brinefrost.core.memo import LONGEST, Fixed, memoize


def test_the_same_values_are_asked_once_and_others_again() -> None:
    asked: list[float] = []

    @memoize
    def double(values: Fixed, by: float) -> float:
        asked.append(by)
        return float(np.sum(values.array)) * by

    assert double(Fixed(np.array([1.0, 2.0])), 2.0) == 6.0
    assert double(Fixed(np.array([1.0, 2.0])), 2.0) == 6.0
    assert asked == [2.0]
    assert double(Fixed(np.array([1.0, 3.0])), 2.0) == 8.0
    assert double(Fixed(np.array([1.0, 2.0])), 3.0) == 9.0
    assert asked == [2.0, 2.0, 3.0]


def test_long_arrays_are_worked_out_each_time() -> None:
    asked: list[int] = []

    @memoize
    def count(values: Fixed) -> int:
        asked.append(1)
        return len(values.array)

    long = Fixed(np.zeros(LONGEST + 1))
    assert count(long) == count(long) == LONGEST + 1
    assert len(asked) == 2
