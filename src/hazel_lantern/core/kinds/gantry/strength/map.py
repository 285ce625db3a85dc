"""How far the camera drops anywhere over the field a gantry serves."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.gantry.strength.bending import bent
from hazel_lantern.core.kinds.gantry.strength.verdicts import SPANS
from hazel_lantern.core.nouns.figure import Field

ALONG, ACROSS = 13, 9
WAYS = (0.0, math.pi / 2, math.pi, -math.pi / 2)  # of the boom


def sag_map(design: Design, gantry: Gantry) -> Field:
    """Drop of the camera over bridge and trolley, boom drawn out whichever way is worst, as a share of what passes."""
    half = gantry.wheelbase / 2
    xs = np.linspace(half, gantry.length - half, ALONG)
    ys = np.array([gantry.across(s) for s in np.linspace(0.0, 1.0, ACROSS)])
    poses = np.array([(x, y, way, gantry.longest) for x in xs for y in ys for way in WAYS])
    drop = bent(design, gantry, poses).drop.reshape(ALONG, ACROSS, len(WAYS)).max(axis=-1)
    limit = gantry.span / SPANS
    return Field(
        "travel.map",
        "Drop of the camera over the field, boom drawn out whichever way is worst",
        xs,
        ys,
        drop.T / limit,
        "m",
        "m",
        ("calm", "little to spare", "sags more than passes"),
        stops=False,
    )
