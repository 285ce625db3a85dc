"""Simulated devices by name, as the command line starts them."""

from __future__ import annotations

import math
import time

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.devices.controller import SimulatedController
from hazel_lantern.devices.instruments import SORTS, SimulatedInstrument


def shaken_at(hz: float, t: float) -> tuple[float, float, float]:
    """What an accelerometer feels of something that bounces at so many hertz, at a moment [m/s^2]."""
    turn = 2 * math.pi * hz * t
    return 0.02 * math.sin(0.31 * turn), 0.0, GRAVITY + 0.4 * math.sin(turn)


def instrument(sort: str, truth: float, seed: int) -> SimulatedInstrument:
    """An instrument that finds the same again and again, with its own error.
    Raises InputError for a sort there is not."""
    if sort not in SORTS:
        raise InputError("instrument", repr(sort), "must be one of " + ", ".join(SORTS))
    shake = (lambda t: shaken_at(truth, t)) if sort == "accelerometer" else None
    return SimulatedInstrument(sort, lambda: truth, seed, shake)


def controller(seed: int) -> SimulatedController:
    """A motion controller by this machine's own clock; nothing befalls it."""
    return SimulatedController(time.monotonic, seed)
