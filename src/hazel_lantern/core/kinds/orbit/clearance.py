"""What turns against what stands: table, what is filmed, base, floor, structure, and the post of a frame. At every
angle it is the same, as all that stands is round, but for the post.
"""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.orbit.model import ENDS, STANDS_ON, THICK, DeskFrame, Orbit
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import STRUCTURE, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

CLEAR = 0.01  # metres that what turns passes what stands by, at least
CAMERA_HIGH, CAMERA_BACK = 0.14, 0.07  # metres of a camera above its mount, and behind it
CAMERA_HALF = 0.06  # metres of it to either side
FLANGE = 0.02  # metres of the base plate and its screws over the feet

Swept = tuple[float, float, float]  # from the axis to its nearest [m], its lowest and its highest [m]


def swept(orbit: Orbit) -> dict[str, Swept]:
    """The ring that each thing sweeps as it turns."""
    half, side = orbit.bar.depth / 2, orbit.weight_side / 2
    near = min(orbit.lens_at, orbit.radius - CAMERA_BACK) if orbit.inward else orbit.radius - CAMERA_BACK
    low, high = sorted((orbit.beam, orbit.mount_high))
    found = {
        "beam": (0.0, orbit.beam - half, orbit.beam + half),
        "riser": (orbit.radius - orbit.rises.depth / 2, low, high),
        "camera": (near, orbit.mount_high - THICK, orbit.mount_high + CAMERA_HIGH),
    }
    if orbit.ring is None:
        found["hub"] = (0.0, orbit.beam - orbit.hub_half, orbit.beam + orbit.hub_half)
    if orbit.weights > 0:
        weights = orbit.beam + orbit.weights_above
        found["weights"] = (orbit.rear - side, weights - side, weights + side)
    return found


def clearance_figures(orbit: Orbit, path: Path) -> Told:
    """Beam, hub, riser, camera and weights past table and subject; what is lowest over base and floor, and highest
    under what it hangs from.
    """
    tell, rings = Teller(), swept(orbit)
    for name, ring in rings.items():
        _past_table(tell, orbit, name, ring)
    if orbit.overhead or not orbit.inward:
        _past_subject(tell, orbit, rings)
    _over_floor(tell, orbit, rings)
    if orbit.structure:
        _under_structure(tell, orbit, rings)
    if orbit.frame is not None:
        _past_post(tell, orbit, path)
        _on_desk(tell, orbit, orbit.frame)
    return tell.told()


def _past_table(tell: Teller, orbit: Orbit, name: str, ring: Swept) -> None:
    """Between a ring that turns and the table: beside it, under it or over it, whichever is most; what stands on legs
    of its own is not passed under.
    """
    inner, bottom, top = ring
    under = orbit.table - THICK - top if not orbit.overhead else -math.inf
    # What turns about the axis itself is never beside a table there, and a desk is wide.
    beside = inner - orbit.table_radius if inner > 0 and orbit.frame is None else -math.inf
    gap = max(beside, under, bottom - orbit.table)
    table = (
        Given("h", orbit.table, "m", "table", "table.height"),
        Given("R", orbit.table_radius, "m", "its radius", "table.radius"),
    )
    tell.add(
        by_method(
            f"rig.past_{name}",
            f"The {name} passes the table by",
            gap,
            "m",
            "beside, under or over it, whichever is most",
            table,
            source="geometry",
        )
    )
    where = {"riser": "arm.front", "camera": "arm.front", "weights": "arm.rear"}.get(name, _lifts(orbit))
    passes = "pass" if name == "weights" else "passes"
    meets = "meet" if name == "weights" else "meets"
    tell.hold(
        f"rig.past_{name}",
        f"rig.clears_{name}",
        f"The {name} and the table",
        STRUCTURE,
        where,
        f"The {name} {passes} the table by {{}}; {{}} is wanted."
        if gap >= 0
        else f"The {name} {meets} the table: {{}} is missing with the {{}} that is wanted.",
        at_least=CLEAR,
        watch_at=1.0,
        remedies=_mends(orbit, name, ring, gap),
    )


def _lifts(orbit: Orbit) -> str:
    """The input that raises the arms."""
    if orbit.frame is not None:
        return "frame.height"
    if orbit.ring is None:
        return "beam.height"
    return "hung.height" if orbit.structure else "table.height"


def _mends(orbit: Orbit, name: str, ring: Swept, gap: float) -> tuple[Remedy, ...]:
    found: list[Remedy] = []
    side = orbit.weight_side / 2
    if name == "weights":
        out = round(orbit.table_radius + side + 0.02, 3)
        return (set_one("rear", "Weight arm {}", "arm.rear", out, "m"),) if orbit.rear < out <= 2.0 else ()
    if name in ("riser", "camera"):
        arm = round(orbit.table_radius + orbit.radius - ring[0] + 0.02, 3)
        return (set_one("out", "Camera arm {}", "arm.front", arm, "m"),) if orbit.radius < arm <= 2.5 else ()
    if orbit.overhead:
        return _raised(orbit, CLEAR - gap + 0.01)
    lower = round(orbit.table - THICK - (ring[2] - orbit.beam) - 0.02, 3)
    if orbit.ring is None and lower > 0.14:
        found.append(set_one("lower", "Arms at {}", "beam.height", lower, "m"))
    table = round(ring[2] + THICK + 0.02, 3)
    if table <= 2.0:
        found.append(set_one("table", "Table at {}", "table.height", table, "m"))
    return tuple(found)


def _raised(orbit: Orbit, by: float) -> tuple[Remedy, ...]:
    key, most = {
        "beam.height": ("beam.height", 4.5),
        "hung.height": ("hung.height", 6.0),
        "frame.height": ("frame.height", 2.4),
    }.get(_lifts(orbit), ("", 0.0))
    if not key:
        return ()
    now = {
        "beam.height": orbit.beam,
        "hung.height": orbit.structure,
        "frame.height": orbit.frame.height if orbit.frame else 0.0,
    }[key]
    to = round(now + by, 3)
    return (set_one("raise", "Raised to {}", key, to, "m"),) if to <= most else ()


def _past_subject(tell: Teller, orbit: Orbit, rings: dict[str, Swept]) -> None:
    """What hangs over what is filmed, or passes beside it."""
    reach, tall = orbit.subject
    gaps = {
        name: max(inner - reach if inner > 0 else -math.inf, bottom - tall)
        for name, (inner, bottom, _) in rings.items()
    }
    if not orbit.overhead:
        gaps = {name: gap for name, gap in gaps.items() if rings[name][1] > orbit.table}
    if not gaps:
        return
    name = min(gaps, key=lambda key: gaps[key])
    gap = gaps[name]
    tell.add(
        by_method(
            "rig.past_subject",
            "Passes what is filmed by",
            gap,
            "m",
            f"the {name}, beside or over it",
            (
                Given("R", reach, "m", "reaching out to", "table.subject"),
                Given("h", tall - orbit.table, "m", "and up to", "table.tall"),
            ),
            source="geometry",
        )
    )
    tell.hold(
        "rig.past_subject",
        "rig.clears_subject",
        "What turns and what is filmed",
        STRUCTURE,
        "table.tall",
        f"The {name} passes what is filmed by {{}}; {{}} is wanted."
        if gap >= 0
        else f"The {name} meets what is filmed: {{}} is missing with the {{}} that is wanted.",
        at_least=CLEAR,
        watch_at=1.0,
        remedies=_raised(orbit, CLEAR - gap + 0.01) if orbit.overhead else (),
    )


def _over_floor(tell: Teller, orbit: Orbit, rings: dict[str, Swept]) -> None:
    lowest = {name: bottom for name, (_, bottom, _) in rings.items()}
    if not orbit.overhead:
        base = STANDS_ON + orbit.foot.depth
        lowest["beam"] -= base + (0.0 if orbit.ring else FLANGE)
        if "hub" in lowest:
            lowest["hub"] -= base
    name = min(lowest, key=lambda key: lowest[key])
    floor = lowest[name]
    tell.add(
        by_method(
            "rig.over_floor",
            "What turns clears base and floor by",
            floor,
            "m",
            f"the {name} comes nearest: arms and hub over the base, all else over the floor",
            (Given("z", orbit.beam, "m", "arms"),),
            source="geometry",
        )
    )
    tell.hold(
        "rig.over_floor",
        "rig.clears_floor",
        "What turns and the floor",
        STRUCTURE,
        _lifts(orbit),
        "What turns clears base and floor by {}; {} is wanted."
        if floor >= 0
        else "What turns meets base or floor: {} is missing with the {} that is wanted.",
        at_least=CLEAR,
        watch_at=1.0,
        remedies=_raised(orbit, CLEAR - floor + 0.01),
    )


def _under_structure(tell: Teller, orbit: Orbit, rings: dict[str, Swept]) -> None:
    gap = orbit.structure - max(
        top for name, (_, _, top) in rings.items() if name != "hub" and (name != "beam" or orbit.ring is None)
    )
    lower = round(orbit.beam - (CLEAR - gap) - 0.01, 3)
    tell.add(
        by_method(
            "rig.under_structure",
            "What turns passes under its structure by",
            gap,
            "m",
            "the highest of what turns",
            (Given("h", orbit.structure, "m", "hangs from", "hung.height"),),
            source="geometry",
        )
    )
    tell.hold(
        "rig.under_structure",
        "rig.clears_structure",
        "What turns and the ceiling",
        STRUCTURE,
        "hung.height",
        "What turns passes under the structure by {}; {} is wanted."
        if gap >= 0
        else "What turns meets the structure: {} is missing with the {} that is wanted.",
        at_least=CLEAR,
        watch_at=1.0,
        remedies=(set_one("lower", "Arms at {}", "beam.height", lower, "m"),)
        if orbit.ring is None and lower >= 0.1
        else (),
    )


def past_post(orbit: Orbit, angles: np.ndarray) -> tuple[str, float]:
    """Which end comes nearest to the post of a frame over all angles (n,) that are turned through, and by how much it
    passes it [m].
    """
    assert orbit.frame is not None
    post, half = orbit.frame.post, orbit.frame.pipe.width / 2
    ends = [
        ("camera", orbit.radius + CAMERA_BACK, CAMERA_HALF, n * 2 * math.pi / orbit.cameras)
        for n in range(orbit.cameras)
    ]
    if orbit.cameras == 1:
        ends.append(
            ("weights", orbit.rear + ENDS + orbit.weight_side / 2, max(orbit.weight_side, orbit.bar.width) / 2, math.pi)
        )
    found = []
    for name, out, wide, turned in ends:
        way = np.column_stack([np.cos(angles + turned), np.sin(angles + turned)])
        along = np.clip(way @ post, 0.0, out)
        apart = np.linalg.norm(along[:, None] * way - post, axis=1)
        found.append((name, float(apart.min()) - wide - half))
    return min(found, key=lambda pair: pair[1])


def _past_post(tell: Teller, orbit: Orbit, path: Path) -> None:
    assert orbit.frame is not None
    turns = path.at(np.linspace(0.0, 1.0, 721))[:, 0]
    # Between two angles that are looked at it comes no nearer than they lie apart.
    angles = np.linspace(turns.min(), turns.max(), 721)
    name, gap = past_post(orbit, angles)
    reach = round(orbit.frame.reach + CLEAR - gap + 0.01, 3)
    tell.add(
        by_method(
            "rig.past_post",
            "Passes the post of its frame by",
            gap,
            "m",
            f"the {name}, at every angle that the move turns through",
            (
                Given("a", orbit.frame.reach, "m", "reaches over", "frame.reach"),
                Given("r", orbit.radius, "m", "camera arm", "arm.front"),
            ),
            source="geometry",
        )
    )
    tell.hold(
        "rig.past_post",
        "rig.clears_post",
        "What turns and the post",
        STRUCTURE,
        "frame.reach",
        f"The {name} passes the post by {{}}; {{}} is wanted."
        if gap >= 0
        else f"The {name} meets the post: {{}} is missing with the {{}} that is wanted.",
        at_least=CLEAR,
        watch_at=1.0,
        remedies=(set_one("reach", "Reach over by {}", "frame.reach", reach, "m"),) if reach <= 1.6 else (),
    )


def _on_desk(tell: Teller, orbit: Orbit, frame: DeskFrame) -> None:
    """What is filmed stands on the desk: its front edge lies beyond it."""
    spare = min(frame.deep - frame.reach, frame.wide / 2) - orbit.subject[0]
    deeper = math.ceil((frame.reach + orbit.subject[0] + 0.02) * 100) / 100
    tell.add(
        by_method(
            "rig.on_desk",
            "Desk reaches beyond what is filmed by",
            spare,
            "m",
            "its depth less the reach of the frame, and what is filmed",
            (
                Given("d", frame.deep, "m", "desk deep", "desk.deep"),
                Given("a", frame.reach, "m", "reaches over", "frame.reach"),
            ),
            source="geometry",
        )
    )
    tell.hold(
        "rig.on_desk",
        "rig.desk_below",
        "Desk under what is filmed",
        STRUCTURE,
        "desk.deep",
        "The desk reaches {} beyond what is filmed."
        if spare >= 0
        else Words(
            "What is filmed does not stand on the desk: the frame reaches {} too far over it.", ((-spare, "m"),)
        ),
        at_least=0.0,
        value=spare,
        remedies=(set_one("deeper", "A desk {} deep", "desk.deep", deeper, "m"),) if deeper <= 2.0 else (),
    )
