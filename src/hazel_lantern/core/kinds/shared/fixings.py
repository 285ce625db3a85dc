"""What every rig is bought with beside its pieces: what holds the camera, axles that fit their wheels, end stops, what
a hand takes hold of, what locks it.
"""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.catalogue import Bolt, Catalogue, StockSection, Wheel
from hazel_lantern.core.kinds.base import Carried
from hazel_lantern.core.mechanics.pins import SHORT, TIP_GAP
from hazel_lantern.core.nouns.units import INCH, inches
from hazel_lantern.core.workshop.fasteners import bolt_length
from hazel_lantern.core.workshop.part import Buy, Fastening

STANDS_OFF, BRACKET = 0.006, 0.004  # metres from a wheel to what holds it, thickness of that
AXLE_ROOM = 0.0005  # metres that the hole of an axle is wider than it
TUBE_WALL = 0.0025  # metres of wall of a spacer tube
NARROW = 0.02  # metres of a bar's width under which nothing is screwed into its end or bolted down through it
PROUD = 0.03  # metres that a stop's disc is wider than its rail, so that what runs meets it
KNOB = Buy("Knob M6 with its bolt", 1, 1.9, "where a hand pushes")
GRIP = Buy("Grip with two clamps, for the hand", 1, 3.6, "where a hand moves it; nothing is drilled")
CORD = Buy("Cord with a toggle, to pull it by", 1, 1.8, "from the floor")
LOCK = Buy("Clamp lever M8 with a brake block", 1, 5.2, "presses on the rail and keeps it where it is left")
ANGLE = "Angle bracket 40 mm"
# Metres: its legs, its hole from its corner, how thick it is; times its load, that it pulls its bolt with about its
# toe.
ANGLE_LEG, ANGLE_HOLE, ANGLE_SHEET = 0.04, 0.013, 0.003
PRIES = ANGLE_LEG / (ANGLE_LEG - ANGLE_HOLE)
SMALL_BOLT = "Bolt M5×35 with lock nut and washers"
# Metres: of the plate a camera's clamp stands on, of the thread in that clamp and in a head's foot, of a washer; screws
# as shops sell them.
PLATE, CLAMP, HEAD_DEEP, WASHER = 0.018, 0.008, 0.012, 0.0015
SCREWS = tuple(INCH * eighths / 8 for eighths in (3, 4, 5, 6, 7, 8, 10, 12, 14, 16, 20, 24))


def camera_held(kit: Carried, plate: float = PLATE) -> Fastening:
    """The screw through a plate so thick [m] into the foot of the head that stands on it, or into the clamp of the
    quick-release plate that the camera is left on; that plate has its own screw into the camera.
    """
    into = HEAD_DEEP if kit.rise > 0 else CLAMP
    long = next((size for size in SCREWS if size - plate >= SHORT), SCREWS[-1])
    washers = max(0, math.ceil((long - plate - into) / WASHER - 1e-9))
    packed = f", {washers} washer{'s' if washers > 1 else ''} under its head" if washers else ""
    reach = (long - plate - washers * WASHER) * 1e3
    where = "the head's foot" if kit.rise > 0 else "the clamp"
    note = f"through the plate, {reach:.1f} mm into {where}{packed}"
    screw = Buy(f"Camera screw {kit.stands_on}×{inches(long, 8)} in", 1, 2.4, note)
    if kit.rise > 0:  # it brings its own plate for the camera
        return Fastening("camera", (screw,))
    low, high = SHORT * 1e3, (kit.socket_depth_m - TIP_GAP) * 1e3
    own = (
        f"stays on the camera; its own {kit.socket_thread} screw reaches {min(low, high):.1f} to {high:.1f} mm into it"
    )
    return Fastening("camera", (screw, Buy("Quick-release plate with its clamp", 1, 12.0, own)))


class Axle(Struct, frozen=True):
    """What a wheel turns on: the thread that fits its bore, and how far from what holds it the wheel's middle is [m].

    On a `spacer` the tube is pressed between both and bends with the bolt.
    """

    row: Bolt
    lever: float
    spacer: bool = False

    @property
    def modulus(self) -> float:
        """Against bending where it is held [m^3]: the core of the thread, or the spacer tube around it."""
        if self.spacer:
            out, bore = self.row.d + 2 * TUBE_WALL, self.row.d
            return math.pi * (out**4 - bore**4) / (32 * out)
        return math.pi * (self.row.d - 1.2269 * self.row.pitch) ** 3 / 32

    def bought(self, stack: float, count: int = 1) -> Buy:
        """So many of them through a stack [m], a nut at either side of what holds them."""
        row = self.row
        long = bolt_length(stack, 2 * (row.washer_t + row.nut + row.pitch))
        return Buy(f"Axle bolt {row.id}×{long} with two nuts", count, 0.9)


def axle(catalogue: Catalogue, wheel: Wheel, off: float = 0.0) -> Axle:
    """The axle of a wheel: in a bracket beside it, or so far off the plate that holds it [m]."""
    fits = [row for row in catalogue.bolts.values() if row.system == "mm" and row.d <= wheel.bore + 1e-6]
    row = max(fits, key=lambda one: one.d, default=min(catalogue.bolts.values(), key=lambda one: one.d))
    return Axle(row, off or wheel.width / 2 + STANDS_OFF, off > 0)


def bracket_axles(catalogue: Catalogue, wheel: Wheel, count: int) -> Buy:
    """Axles of wheels in brackets."""
    return axle(catalogue, wheel).bought(wheel.width + STANDS_OFF + BRACKET, count)


def end_stops(bar: StockSection, count: int) -> Buy:
    """Stops at so many ends of a bar, as they are fixed to its section. They stand beyond its end, so that no travel is
    lost.
    """
    disc = f"rubber disc {math.ceil((bar.depth + PROUD) * 200 - 1e-9) * 5} mm"
    note = "what runs must not leave it"
    if bar.shape == "profile":
        return Buy(f"End stop, {disc}, screwed into the core", count, 1.9, note)
    if bar.shape in ("round_tube", "rectangular_tube", "oval_tube"):
        return Buy(f"End stop, {disc} on a plug", count, 1.6, note)
    if narrow(bar):
        return Buy("End stop, rubber on an angle with a bolt M5×25", count, 1.5, note)
    return Buy(f"End stop, {disc} with its screw", count, 1.2, note)


def narrow(bar: StockSection) -> bool:
    """Whether a bar on its edge is too narrow to be bolted down through it."""
    return bar.width < NARROW <= bar.depth
