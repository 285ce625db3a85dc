"""What tests of a built gantry are foreseen to read."""

from __future__ import annotations

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.foreseen import TRIED, Forecast, Foreseen, around, due_to
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.gantry.strength.bending import bent
from hazel_lantern.core.kinds.rail.foreseen import LEVEL, STICK
from hazel_lantern.core.kinds.shared.inputs import STIFFNESS
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

FLOATS = 0.004  # metres by which its trucks may stand wider or narrower than its runways


def tested(design: Design) -> tuple[str, ...]:
    """Keys of all that."""
    return ("level", "sag", "gauge", "crosswise")


def foreseen(design: Design, gantry: Gantry) -> Forecast:
    """Level of the runways, sag of the bridge under a weight at the camera, runways true across."""
    # The boom in and along the bridge, the trolley in its middle, the bridge half-way between two posts.
    posts = gantry.posts
    x = (posts[0] + posts[1]) / 2
    pose = np.array([[x, gantry.across(0.5), 0.0, gantry.shortest]])
    heavier = replace(gantry, tip=gantry.tip + 1.0)
    gives = float(bent(design, heavier, pose).drop[0] - bent(design, gantry, pose).drop[0]) / GRAVITY
    beam = gantry.bridge
    stiffer = replace(beam, eiy=TRIED * beam.eiy, eiz=TRIED * beam.eiz, gj=TRIED * beam.gj)
    sinks = [float(bent(design, replace(one, bridge=stiffer), pose).drop[0]) for one in (heavier, gantry)]
    due = due_to(gives, (sinks[0] - sinks[1]) / GRAVITY)
    where = Words("Bridge {} from the first post, trolley in its middle, boom in.", ((x - posts[0], "m"),))
    top = (0.0, gantry.height)
    return {
        "level": Foreseen(-LEVEL, LEVEL, at=top),
        "sag": around(
            GRAVITY * gives,
            corrects=STIFFNESS,
            where=where,
            of=("Bridge",),
            due=due,
            pose=tuple(float(v) for v in pose[0]),
        ),
        "gauge": around(
            gantry.span, (STICK + FLOATS / 2) / gantry.span, takes={"float": FLOATS, "length": gantry.length}, at=top
        ),
        "crosswise": Foreseen(-LEVEL, LEVEL, takes={"spacing": gantry.span, "length": gantry.length}, at=top),
    }
