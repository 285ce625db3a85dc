"""Rails, carriage plate, wheels and small things of a straight rail."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.straight.model import Straight
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Buy, Part

PLATE, TIE = "plywood-18x100", "plywood-18x60"


def piece(design: Design, mark: str, name: str, section: str, length: float, quantity: int = 1, marks: tuple[Mark, ...] = (), datum: str = "", matched: str = "") -> Part:
    """A part cut from a stock section."""
    bar = design.catalogue.sections[section]
    material = design.catalogue.materials[bar.material]
    return Part(mark, name, bar.id, material.fill, length, bar.section().area * material.density * length, quantity, marks, datum, matched)


def straight_parts(design: Design, kit: Carried, rail: Straight, supports: tuple[float, ...], hole: float, *, block: float = 0.0) -> tuple[list[Part], list[Buy]]:
    """Rails with holes where they are held, ties between two rails, the carriage plate with the holes of its wheels, or of the screws into a block that slides instead [m long]."""
    held = tuple(Mark(x, "hole", hole, note="held here") for x in supports)
    rails = rail.count
    parts = [piece(design, "R1", "Rail", rail.bar.id, rail.length, rails, held, "left end", "drill the pair together" if rails == 2 else "")]
    if rails == 2:
        wide = rail.spacing + rail.bar.width + 0.02
        middle = wide / 2
        parts.append(piece(design, "T1", "Tie", TIE, wide, max(2, math.ceil(rail.length / 0.8)), (
            Mark(middle - rail.spacing / 2, "hole", 0.0055, note="left rail"), Mark(middle + rail.spacing / 2, "hole", 0.0055, note="right rail")), "one end", "both gauges from one setting"))  # fmt: skip
    long = rail.wheelbase + 0.06
    middle = long / 2
    wheels = block == 0
    axles = tuple(Mark(middle + sign * rail.wheelbase / 2, "hole", 0.0085, note=f"{name} axle") for sign, name in ((-1, "rear"), (1, "front")))
    single = (Mark(middle, "hole", 0.0085, note="eccentric, the third wheel"),) if len(rail.wheels) == 3 else ()
    camera = Mark(middle + float(rail.mount[0]), "hole", CAMERA_THREADS[kit.socket_thread].hole, note="camera or head screw")
    screws = tuple(Mark(middle + sign * max(0.0, min(block, long) / 2 - 0.015), "hole", 0.0055, note="two screws, 60 mm apart across, into the shuttle") for sign in (-1, 1))
    marks = tuple(sorted((*axles, *single, camera) if wheels else (*screws, camera), key=lambda mark: mark.at))
    parts.append(piece(design, "P1", "Carriage plate", PLATE, long, 1, marks, "rear end", "all holes from one end"))
    count = len(rail.wheels) * (2 if rail.wheel.shape == "round" and rails == 2 else 1)
    bought = [
        *((Buy(rail.wheel.name, count, rail.wheel.price, rail.wheel.words), Buy("Axle bolt M8×45 with two nuts", count, 0.9)) if wheels else ()),
        *((Buy("Eccentric spacer, 8 mm", 1, 1.2, "turn it to nip the third wheel up"),) if single and wheels else ()),
        Buy("End stop, rubber", 2, 0.8, "a carriage must not leave the rail"), Buy(f"Camera screw {kit.socket_thread}", 1, 2.4),
        *((Buy("Countersunk screw 5×40", 2 * parts[1].quantity, 0.06, "ties"),) if rails == 2 else ()),
    ]  # fmt: skip
    return parts, bought
