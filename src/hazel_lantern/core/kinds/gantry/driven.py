"""What bridge, trolley and boom meet as something moves them."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design, Held
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.gantry.strength.boom import net_moment
from hazel_lantern.core.kinds.shared.lead import drag
from hazel_lantern.core.nouns.units import GRAVITY

WASHER = 0.2  # friction of the washers that a boom swings on, dry
WASHER_RADIUS = 0.012  # metres
WHEELS = 8  # of trucks, and of the trolley with those below it


def meets(design: Design, gantry: Gantry) -> tuple[Held, ...]:
    """Rolling of what runs, with a lead that follows; washers of the boom, pressed by what hangs and by its lever."""
    rig, wheel = gantry, gantry.wheel
    hangs = rig.tip + rig.boom_mass(rig.longest) + rig.counter
    on_bridge = hangs + rig.trolley
    runs = on_bridge + rig.bridge.line * rig.span + 2 * rig.bridge_ends
    bolt = WASHER * (net_moment(rig, 0.0) + 2 / 3 * WASHER_RADIUS * hangs * GRAVITY)
    out = rig.parked[2] + float(rig.lens[0])

    def rolls(mass: float, low: float, high: float, wheels: int) -> Held:
        rubs, pulled = wheel.rolling_high * mass * GRAVITY, drag(design, high - low, rig.height - rig.drop, hung=True)
        return Held(rubs + pulled, wheel.start * rubs + pulled, (low, high), spins=wheels * wheel.mass / 2)

    return (
        rolls(runs, rig.wheelbase / 2, rig.length - rig.wheelbase / 2, 2 * WHEELS),
        rolls(on_bridge, rig.edge, rig.span - rig.edge, WHEELS),
        Held(bolt, 1.5 * bolt, (-math.pi, math.pi), max(0.05, out)),
    )
