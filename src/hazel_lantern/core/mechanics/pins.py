"""Bolts as pivots and the screw that holds the camera."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.elementwise import Numbers


class CameraThread(Struct, frozen=True):
    """A thread in the foot of cameras and heads: its pitch, and the hole a screw of it passes [m]."""

    pitch: float
    hole: float


CAMERA_THREADS = {"1/4-20": CameraThread(1.27e-3, 6.5e-3), "3/8-16": CameraThread(1.5875e-3, 10.0e-3)}
TIP_GAP = 0.3e-3
SHORT = 4.5e-3
# Pressure of a pin on its hole: metals as a share of what they may be worked at, wood along the grain in pascals;
# statics 7.4.
METAL_BEARING, BRITTLE_BEARING = 1.5, 0.5
WOOD_BEARING = {"pine": 5e6, "plywood": 5e6, "mdf": 2.5e6, "beech": 9e6, "bamboo": 5e6}


class Pin(Struct, frozen=True):
    """Stresses of a pin [Pa] and its bending moment [N*m]; arrays for arrays."""

    shear: float
    bearing_middle: float
    bearing_side: float
    moment: float
    bending: float

    @property
    def combined(self) -> Numbers:
        return ew.sqrt(self.bending**2 + 3 * self.shear**2)


def pin(
    force: Numbers,
    diameter: Numbers,
    middle: Numbers,
    side: Numbers,
    gap: Numbers = 0.0,
    thread_pitch: Numbers | None = None,
) -> Pin:
    """A bolt through a middle piece held between two sides.

    force: what the middle piece presses with [N]
    diameter: shank or thread diameter [m]
    middle: thickness of the middle piece [m]
    side: thickness of each side piece [m]
    gap: space between middle and side, washers included [m]
    thread_pitch: pitch of the thread when it crosses the shear plane, None for a plain shank [m]

    Returns: Pin. Raises: InputError. Source: drive 8.6; beam on two supports, spread loads.
    """
    positive(d=diameter, t_mid=middle, t_side=side)
    not_negative(F=abs(force), gap=gap)
    force = abs(force)
    area = math.pi / 4 * (diameter - (0.9382 * thread_pitch if thread_pitch else 0.0)) ** 2
    across = ew.sqrt(4 * area / math.pi)
    moment = force / 2 * (side / 2 + gap + middle / 4)
    return Pin(
        force / (2 * area),
        force / (diameter * middle),
        force / (2 * diameter * side),
        moment,
        32 * moment / (math.pi * across**3),
    )


def camera_screw(
    screw_length: float, stack: float, socket_depth: float = 6.5e-3, pitch: float = CAMERA_THREADS["1/4-20"].pitch
) -> tuple[float, str]:
    """How deep the camera screw reaches into the camera.

    screw_length: below the head [m]
    stack: plate, washers and pad it passes through [m]
    socket_depth: depth of the camera's thread, measured [m]
    pitch: thread pitch [m]

    Returns: engagement [m] and BOTTOMING, TOO_SHORT, SHORT_WARNING or OK.
    Raises: InputError. Source: drive 8.5.
    """
    positive(screw_length=screw_length, socket_depth=socket_depth, pitch=pitch)
    not_negative(stack=stack)
    reach = screw_length - stack
    if reach > socket_depth - TIP_GAP + 1e-12:
        return reach, "BOTTOMING"
    if reach < 3 * pitch - 1e-12:
        return reach, "TOO_SHORT"
    return reach, "SHORT_WARNING" if reach < SHORT - 1e-12 else "OK"
