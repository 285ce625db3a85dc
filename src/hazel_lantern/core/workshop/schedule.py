"""When work gets done: what must come before what, how much time there is to spare, and one builder's calendar."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime, timedelta

from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

SAME = 1e-9  # hours
LONGEST = 3660  # days looked ahead


class Task(Struct, frozen=True):
    """Work [h], what then has to wait [h], and the keys of what comes before."""

    key: str
    work: float
    wait: float = 0.0
    after: tuple[str, ...] = ()


class Network(Struct, frozen=True):
    """The least time all of it takes with hands enough [h], an order that can be worked in, and by task how long it may
    slip [h] and when it must start at the latest [h].
    """

    total: float
    order: tuple[str, ...]
    slack: Mapping[str, float]
    latest: Mapping[str, float]

    @property
    def critical(self) -> tuple[str, ...]:
        """What delays everything when it is late, by key."""
        return tuple(sorted(key for key, spare in self.slack.items() if abs(spare) < SAME))


class Slot(Struct, frozen=True):
    """When one task is worked on and when it is through with its wait."""

    key: str
    start: datetime
    worked: datetime
    end: datetime


def network(tasks: Sequence[Task]) -> Network:
    """The critical path.

    tasks: with hands enough for all of them

    Returns: times and slack. Raises: InputError for one that is not there, twice, or waits for itself. Source: drive
    10.3.
    """
    by_key = {task.key: task for task in tasks}
    if len(by_key) < len(tasks):
        raise InputError("tasks", len(tasks), "has one key twice")
    for task in tasks:
        not_negative(work=task.work, wait=task.wait)
        for key in task.after:
            if key not in by_key:
                raise InputError(f"task {task.key}", repr(key), "comes before it and is not a task")
    order = _ordered(by_key)
    done: dict[str, float] = {}
    for key in order:
        task = by_key[key]
        done[key] = max((done[one] for one in task.after), default=0.0) + task.work + task.wait
    total = max(done.values(), default=0.0)
    follows: dict[str, list[str]] = {key: [] for key in by_key}
    for task in tasks:
        for key in task.after:
            follows[key].append(task.key)
    latest: dict[str, float] = {}
    for key in reversed(order):
        latest[key] = min((latest[one] for one in follows[key]), default=total) - by_key[key].work - by_key[key].wait
    slack = {key: latest[key] - (done[key] - by_key[key].work - by_key[key].wait) for key in by_key}
    return Network(total, tuple(order), slack, latest)


def _ordered(by_key: Mapping[str, Task]) -> list[str]:
    waiting, order = dict(by_key), list[str]()
    placed: set[str] = set()
    while waiting:
        ready = sorted(key for key, task in waiting.items() if placed.issuperset(task.after))
        if not ready:
            raise InputError("tasks", ", ".join(sorted(waiting)), "wait for one another")
        order.append(ready[0])
        placed.add(ready[0])
        del waiting[ready[0]]
    return order


def calendar(tasks: Sequence[Task], start: datetime, day_start: float, hours: Mapping[int, float]) -> tuple[Slot, ...]:
    """One builder's days: glue and paint wait at night too.

    tasks: to be done, one after the other
    start: the first day
    day_start: hour of the day that work begins at [h]
    hours: of work by weekday, Monday 0 [h]

    Returns: a slot for every task, in the order they are worked on. Raises: InfeasibleError NO_WORK_HOURS; InputError.
    Source: drive 10.3, local time without daylight saving.
    """
    for day, long in hours.items():
        not_negative(**{f"hours_{day}": long})
        if day_start + long > 24 + SAME:
            raise InputError("hours", long, f"from {day_start:g} on a day has no more than {24 - day_start:g}")
    known = network(tasks)
    if not any(hours.get(day, 0.0) > 0 for day in range(7)) and any(task.work > 0 for task in tasks):
        raise InfeasibleError("no day of the week has an hour for it", "NO_WORK_HOURS")
    by_key, ends, found = {task.key: task for task in tasks}, dict[str, datetime](), list[Slot]()
    now = start.replace(hour=0, minute=0, second=0, microsecond=0) + timedelta(hours=day_start)
    while len(ends) < len(tasks):
        open_to = {
            key: max((ends[one] for one in by_key[key].after), default=now)
            for key in by_key
            if key not in ends and all(one in ends for one in by_key[key].after)
        }
        ready = [key for key, moment in open_to.items() if moment <= now]
        if not ready:
            now = min(open_to.values())
            continue
        key = min(ready, key=lambda one: (round(known.latest[one], 9), one))
        task = by_key[key]
        begins, worked = _work(now, task.work, day_start, hours)
        ends[key] = worked + timedelta(hours=task.wait)
        found.append(Slot(key, begins, worked, ends[key]))
        now = worked
    return tuple(found)


def _work(now: datetime, work: float, day_start: float, hours: Mapping[int, float]) -> tuple[datetime, datetime]:
    """When so many hours [h] of work begin and are done, from a moment on."""
    left, begins = timedelta(hours=work), None
    if work <= 0:
        return now, now
    for _ in range(LONGEST):
        opens = now.replace(hour=0, minute=0, second=0, microsecond=0) + timedelta(hours=day_start)
        closes = opens + timedelta(hours=hours.get(now.weekday(), 0.0))
        at = max(now, opens)
        if at < closes:
            begins = begins or at
            if at + left <= closes:
                return begins, at + left
            left -= closes - at
        now = now.replace(hour=0, minute=0, second=0, microsecond=0) + timedelta(days=1)
    raise InfeasibleError("it would take more than ten years of these hours", "NO_WORK_HOURS")
