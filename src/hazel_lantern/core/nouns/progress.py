"""Work in steps: what takes long yields after each step, so that whoever runs it can show how far it is, take early
answers, or stop; and asks in between whether it is wanted still.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextvars import ContextVar
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


class Dropped(Exception):  # noqa: N818  nothing went wrong
    """What was being worked out is wanted no more."""


WANTED: ContextVar[Callable[[], bool] | None] = ContextVar("WANTED", default=None)


def go_on() -> None:
    """Asked before each piece of a step, since a step may take long; raises Dropped where nobody waits for it."""
    wanted = WANTED.get()
    if wanted is not None and not wanted():
        raise Dropped
