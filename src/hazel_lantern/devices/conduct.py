"""A controller led through a move: beats, commands as they come, and one known end whatever happens."""

from __future__ import annotations

from collections import deque
from collections.abc import Callable, Iterator

from msgspec import Struct

from hazel_lantern.devices.controller import DONE, FAULT, HELD, HOMING, MOVING, RUNNING, STOPPED, Controller, Status
from hazel_lantern.devices.errors import DeviceError, RefusedByDeviceError

EVERY = 0.1  # seconds from beat to beat
KNOWN = ("home", "arm", "run", "hold", "go", "stop", "disarm")
LET_GO = "let go"


class Said(Struct, frozen=True):
    """What comes of one beat: the status, and what was refused, "" for nothing."""

    status: Status
    refused: str = ""


class Ended(Struct, frozen=True):
    """How a run ended: done, stopped, or with what fault; where every axis then was, for how long it ran [s], whether
    the device can still be reached, and its trace, at most ten places a second.
    """

    how: str
    words: str
    places: tuple[float, ...]
    lasted: float
    reached: bool
    trace: tuple[tuple[float, ...], ...]


def conduct(one: Controller, commands: deque[str], wait: Callable[[float], None]) -> Iterator[Said | Ended]:
    """Beats until it is let go of, carrying out commands between them; a stop goes before all others. Every run ends in
    one `Ended`. A device that is gone ends it too: by its own rule it stands half a second and a ramp later.
    """
    status: Status | None = None
    ran: list[tuple[float, ...]] = []
    running = False
    while True:
        refused = ""
        try:
            while commands:
                what = "stop" if "stop" in commands else commands.popleft()
                if what == "stop":  # what waited is dropped, but for leaving
                    leaving = LET_GO in commands
                    commands.clear()
                    commands.extend([LET_GO] * leaving)
                if what == LET_GO:
                    if running:
                        one.do("stop")
                    one.close()
                    if running:
                        yield _ended(STOPPED, "let go of while it ran: it stops", ran, reached=False)
                    return
                refused = _done(one, what) or refused
            status = one.beat()
        except DeviceError as error:
            last = ran[-1][1:] if ran else (status.places if status else ())
            at = ", ".join(f"{place:.1f}" for place in last) or "an unknown place"
            words = (
                f"{str(error)[:1].upper()}{str(error)[1:]}. Last known at {at}; it stops by itself within a second. "
                "Nothing moves when it is plugged in again: home it first."
            )
            yield Ended("lost", words, last, ran[-1][0] if ran else 0.0, reached=False, trace=tuple(ran))
            one.close()
            return
        if status.state == RUNNING and not running:
            running, ran = True, []
        if running and status.state in (RUNNING, HELD, DONE, STOPPED, FAULT):
            ran.append((status.time, *status.places))
        yield Said(status, refused)
        if running and status.state not in (RUNNING, HELD):
            running = False
            yield _ended(status.state, status.reason or status.state, ran, reached=True)
        wait(EVERY)


def _done(one: Controller, what: str) -> str:
    """Carry out a command; what the device says against it."""
    if what not in KNOWN:
        return f"{what} is no command"
    try:
        one.do(what)
    except RefusedByDeviceError as error:
        return str(error)
    return ""


def _ended(how: str, words: str, ran: list[tuple[float, ...]], *, reached: bool) -> Ended:
    return Ended(how, words, ran[-1][1:] if ran else (), ran[-1][0] if ran else 0.0, reached, tuple(ran))


BUSY = (HOMING, MOVING, RUNNING)  # states in which something moves
