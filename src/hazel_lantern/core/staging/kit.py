"""The camera kit from the side and from above: where each item sits on its mount, to be dragged,
and the centre of all."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import Kit
from hazel_lantern.core.kinds.base import Carried
from hazel_lantern.core.nouns.sketch import SIZES, Handle, Item, Note, Ring, Shape, Sketch, Stroke
from hazel_lantern.core.nouns.words import Words

DENSE = 1300.0  # kg/m^3 of a camera and what hangs on it, by which its pictures are sized
PLATE = (0.05, 0.008)  # half-length and thickness of the mount plate
SHOWN = 0.06  # metres shown around it all


def kit_view(kit: Kit, carried: Carried) -> Sketch:
    """Seen from the left: ahead to the right, the mount's top at nothing, or the head's where there is one."""
    items: list[Item] = []
    half, thick = PLATE
    items.append(Shape(np.array([(-half, -thick), (half, -thick), (half, 0.0), (-half, 0.0)]), "aluminium"))
    if carried.rise:
        items.append(Stroke(np.array([(0.0, -thick), (0.0, -carried.rise)]), "steel", 0.045))
    points = [(0.0, 0.0), (0.0, -carried.rise - thick)]
    for n, item in enumerate(kit.items):
        x, _, z = item.at_m
        side = (item.mass_kg / DENSE) ** (1 / 3) / 2
        box = np.array([(x - side, z - side), (x + side, z - side), (x + side, z + side), (x - side, z + side)])
        items.append(Shape(box, "camera"))
        name = item.name.replace("{", "(").replace("}", ")")
        items.append(Note((x, z + side + 0.012), Words(f"{name}, {{}}", ((item.mass_kg, "kg"),)), "ink", SIZES))
        moves = ((f"kit.{n}.x", (1.0, 0.0)), (f"kit.{n}.z", (0.0, 1.0)))
        items.append(Handle((x, z), moves, item.name))
        points += [(x - side, z - side), (x + side, z + side)]
    lens = (kit.lens_at_m[0], kit.lens_at_m[2])
    items.append(Shape(np.array([(lens[0] - 0.03, lens[1] - 0.03), lens, (lens[0] - 0.03, lens[1] + 0.03)]), "lens"))
    items.append(Handle(lens, (("lens.x", (1.0, 0.0)), ("lens.z", (0.0, 1.0))), "Front of the lens"))
    items.append(Note((lens[0] + 0.01, lens[1]), Words("front of the lens"), "muted", SIZES))
    centre = (float(carried.payload.cg[0]), float(carried.payload.cg[2]) - carried.rise)
    arm = 0.02
    for dx, dz in ((arm, 0.0), (0.0, arm)):
        cross = np.array([(centre[0] - dx, centre[1] - dz), (centre[0] + dx, centre[1] + dz)])
        items.append(Stroke(cross, "water", layer=SIZES))
    items.append(Ring(centre, 0.012, "water"))
    whole = Words("all of it {}, its centre {} ahead", ((carried.payload.mass, "kg"), (centre[0], "m")))
    items.append(Note((centre[0], centre[1] - 0.03), whole, "water", SIZES))
    points += [lens, centre]
    low, high = np.min(points, axis=0) - SHOWN, np.max(points, axis=0) + SHOWN
    wide = max(float(high[0] - low[0]), math.hypot(*(high - low)) * 0.9)
    middle = float(low[0] + high[0]) / 2
    return Sketch(
        tuple(items), (middle - wide / 2, float(low[1]), middle + wide / 2, float(high[1])), "the kit", ground=False
    )
