"""What tests of a built dolly and its track are foreseen to read."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.dolly.design import LONE
from hazel_lantern.core.kinds.dolly.inputs import ON_PIPE
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.foreseen import Forecast
from hazel_lantern.core.kinds.rail.driven import bounce
from hazel_lantern.core.kinds.rail.foreseen import on_rails, on_way, tests_of
from hazel_lantern.core.kinds.rail.model import Straight

GROUND = "ground.stiffness"


def tested(design: Design) -> tuple[str, ...]:
    """Keys of all that."""
    piped = design.variant in ON_PIPE
    return tests_of(design, railed=piped, twin=piped, four=design.variant not in LONE)


def foreseen(design: Design, dolly: Dolly) -> Forecast:
    """Rolling and rocking of all; of a track how it gives, its gauge and how it lies across."""
    found = on_way(design, dolly.way)
    if design.variant in ON_PIPE and isinstance(dolly.way, Straight):
        found |= on_rails(design, dolly.way, bounce(dolly.way), GROUND)
    return found
