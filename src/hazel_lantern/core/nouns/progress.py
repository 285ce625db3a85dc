"""Work in steps: what takes long yields after each step, so that whoever runs it can show how far it is, take early
answers, or stop.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Generic, TypeVar

from msgspec import Struct

T = TypeVar("T")


class Progress(Struct, Generic[T], frozen=True):
    """Steps done of how many, and the answer as it stands; None as long as there is none."""

    done: int
    total: int
    answer: T | None = None


def last(steps: Iterator[Progress[T]]) -> T:
    """The answer of work done to its end."""
    answer = None
    for step in steps:
        answer = step.answer if step.answer is not None else answer
    assert answer is not None
    return answer
