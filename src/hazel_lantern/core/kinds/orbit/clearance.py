"""What turns against what stands: table, base, floor. At every angle it is the same, as all that stands is round."""

from __future__ import annotations

from hazel_lantern.core.kinds.orbit.model import STANDS_ON, THICK, Orbit
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told

CLEAR = 0.01  # metres that what turns passes what stands by, at least
CAMERA_HIGH, CAMERA_BACK = 0.14, 0.07  # metres of a camera above its mount, and behind it
FLANGE = 0.02  # metres of the base plate and its screws over the feet


def clearance_figures(orbit: Orbit) -> Told:
    """Beam, riser, camera and weights past the table, and whatever is lowest over base and floor."""
    tell, under = Teller(), orbit.table - THICK
    half, side = orbit.bar.depth / 2, orbit.weight_side / 2
    weights = orbit.beam + orbit.weights_above
    near = min(orbit.lens_at, orbit.radius - CAMERA_BACK) if orbit.inward else orbit.radius - CAMERA_BACK
    low, high = sorted((orbit.beam, orbit.mount_high))
    table = (
        Given("h", orbit.table, "m", "table", "table.height"),
        Given("R", orbit.table_radius, "m", "its radius", "table.radius"),
    )

    def past(inner: float, bottom: float, top: float) -> float:
        """Between a ring that turns and the table: beside it, under it or over it, whichever is most."""
        return max(inner - orbit.table_radius, under - top, bottom - orbit.table)

    higher = set_one("table", "Table at {}", "table.height", round(orbit.beam + half + THICK + 0.02, 3), "m")
    lower = (
        set_one("lower", "Beam at {}", "beam.height", round(under - half - 0.02, 3), "m")
        if under - half > 0.14
        else None
    )
    rows = (
        ("beam", "beam", past(-orbit.table_radius, orbit.beam - half, orbit.beam + half), "beam.height", (*((lower,) if lower else ()), higher)),
        ("riser", "riser", past(orbit.radius - orbit.rises.depth / 2, low, high), "arm.front", _out(orbit, orbit.rises.depth / 2)),
        ("camera", "camera", past(near, orbit.mount_high, orbit.mount_high + CAMERA_HIGH), "arm.front", _out(orbit, orbit.radius - near)),
        ("weights", "weights", past(orbit.rear - side, weights - side, weights + side), "arm.rear",
            (set_one("rear", "Weight arm {}", "arm.rear", round(orbit.table_radius + side + 0.02, 3), "m"),) if orbit.table_radius + side < 1.95 else ()),
    )  # fmt: skip
    for key, name, gap, where, mend in rows:
        tell.add(
            by_method(
                f"rig.past_{key}",
                f"The {name} passes the table by",
                gap,
                "m",
                "beside, under or over it, whichever is most",
                table,
                source="geometry",
            )
        )
        tell.hold(
            f"rig.past_{key}", f"rig.clears_{key}", f"The {name} and the table", STRUCTURE, where,
            f"The {name} passes the table by {{}}; {{}} is wanted." if gap >= 0 else f"The {name} meets the table: {{}} is missing with the {{}} that is wanted.",
            at_least=CLEAR, watch_at=1.0, remedies=mend,
        )  # fmt: skip
    over = orbit.beam - half - STANDS_ON - orbit.foot.depth - (0.0 if orbit.ring else FLANGE)
    floor = min(
        weights - side,
        orbit.mount_high if orbit.riser < 0 else orbit.beam - half,
        over,
    )
    tell.add(
        by_method(
            "rig.over_floor",
            "What turns clears base and floor by",
            floor,
            "m",
            "beam over the base, weights and a hanging camera over the floor",
            (Given("z", orbit.beam, "m", "beam", "beam.height"),),
            source="geometry",
        )
    )
    tell.hold(
        "rig.over_floor", "rig.clears_floor", "What turns and the floor", STRUCTURE, "beam.height",
        "What turns clears base and floor by {}; {} is wanted." if floor >= 0 else "What turns meets base or floor: {} is missing with the {} that is wanted.",
        at_least=CLEAR, watch_at=1.0, remedies=(set_one("raise", "Beam at {}", "beam.height", round(orbit.beam + CLEAR - floor + 0.01, 3), "m"),) if orbit.beam + CLEAR - floor < 2.1 else (),
    )  # fmt: skip
    return tell.told()


def _out(orbit: Orbit, off: float) -> tuple[Remedy, ...]:
    arm = round(orbit.table_radius + off + 0.02, 3)
    return (set_one("out", "Camera arm {}", "arm.front", arm, "m"),) if orbit.radius < arm <= 2.5 else ()
