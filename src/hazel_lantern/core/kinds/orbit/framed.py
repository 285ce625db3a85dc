"""A frame that reaches over from behind a desk: how it sags and sways, what post and pipe bear, its clamps,
its footing."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Material, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import HUB_MASS, DeskFrame, Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.orbit.turning import OVERSHOOT
from hazel_lantern.core.kinds.shared.standing import bump, standing_findings
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics import footing, frame, frame_loads, modes, rotor
from hazel_lantern.core.mechanics.safety import HAND_SWING, safety_class
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STRUCTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.optics import lens

TORSION = 0.75  # of its square, that twisting counts beside bending in a ductile tube
LEANS = math.radians(0.25)  # that an axis may lean as it is loaded before it must be levelled with all on
PIXELS = 1.0  # of shake that nobody sees
TWICE = 2.0


class Sway(Struct, frozen=True):
    """What a frame does at its hub: sags [m] and leans [rad] under all of it, its slowest sway [Hz], and how far it
    moves and turns, fore-and-aft and sideways (2,), for a newton across its axis and for a newton metre about it [m/N,
    rad/N, m/(N*m), rad/(N*m)].
    """

    sags: float
    leans: float
    slowest: float
    shifts: np.ndarray
    turns: np.ndarray


def sway(design: Design, orbit: Orbit) -> Sway | None:
    """Worked out as a frame in space; None for what has none."""
    made = orbit.frame
    if made is None:
        return None
    pipe, material = made.pipe, design.catalogue.materials[made.pipe.material]
    foot = orbit.table if made.clamped else 0.0
    shaft, steel = orbit.shaft, design.catalogue.materials[orbit.shaft.material]

    def element(name: str, i: str, j: str, bar: StockSection, of: Material) -> frame.Element:
        s = bar.section()
        return frame.Element(name, i, j, of.E * s.area, of.E * s.iy, of.E * s.iz, of.G * s.j, mass=bar.line(of))

    # Seen with the post behind along x, so that both ways stand for themselves.
    nodes = {
        "foot": (made.reach, 0.0, foot),
        "top": (made.reach, 0.0, made.height),
        "end": (0.0, 0.0, made.height),
        "hub": (0.0, 0.0, orbit.beam),
    }
    pieces = [
        element("post", "foot", "top", pipe, material),
        element("pipe", "top", "end", pipe, material),
        element("shaft", "end", "hub", shaft, steel),
    ]
    root = design.number("frame.root")
    held = frame.Support(fixed=(0, 1, 2), springs=((3, root), (4, root), (5, root)))
    built = frame.frame(nodes, pieces, {"foot": held})
    hub = built.node("hub")
    load = (orbit.turning + HUB_MASS) * GRAVITY
    own = [(0, k, (0.0, 0.0, -piece.mass * GRAVITY)) for k, piece in enumerate(pieces)]
    unit: list[tuple[int, int, Sequence[float]]] = [(0, hub, (0.0, 0.0, -load, 0.0, 0.0, 0.0))]
    for case, freedom in enumerate((0, 1, 4, 3), 1):
        row = [0.0] * 6
        row[freedom] = 1.0
        unit.append((case, hub, row))
    solved = frame_loads.solve(built, frame_loads.loads(5, spread=own, nodes=unit)).displacements[6 * hub : 6 * hub + 6]
    shifts = np.abs(np.array([[solved[0, 1], solved[1, 2]], [solved[0, 3], solved[1, 4]]]))
    turns = np.abs(np.array([[solved[4, 1], solved[3, 2]], [solved[4, 3], solved[3, 4]]]))
    found, _ = modes.modes(built, {hub: orbit.turning + HUB_MASS}, count=1)
    return Sway(-float(solved[2, 0]), abs(float(solved[4, 0])), float(found[0]), shifts, turns)


def frame_figures(design: Design, optics: Optics, orbit: Orbit, spin: Spun, sway: Sway | None) -> Told:
    """Nothing for what has no frame."""
    if orbit.frame is None or sway is None:
        return Told()
    tell = Teller()
    _sways(tell, design, optics, orbit, spin, sway)
    _strength(tell, design, orbit, orbit.frame, spin)
    _stands(tell, design, orbit, orbit.frame, spin)
    return tell.told()


def _sways(tell: Teller, design: Design, optics: Optics, orbit: Orbit, spin: Spun, sway: Sway) -> None:
    made = orbit.frame
    assert made is not None
    given = (
        Given("m", orbit.turning, "kg", "all that turns", "kit"),
        Given("a", made.reach, "m", "reaches over", "frame.reach"),
        Given("H", made.height, "m", "height of the frame", "frame.height"),
    )
    how = "a frame of post, pipe and shaft in space, its foot giving way by turning"
    tell.add(
        by_method(
            "rig.frame_sags",
            "Frame sags at the hub by",
            sway.sags,
            "m",
            how,
            given,
            source="statics 4.1, 8.2",
            headline=True,
        ),
        by_method("rig.frame_leans", "and leans the axis by", sway.leans, "rad", how, given, source="statics 4.1, 8.2"),
        by_method("travel.sways", "Frame sways at", sway.slowest, "Hz", how, given, source="statics 4.1"),
    )
    shorter = round(max(0.3, 0.8 * made.reach), 3)
    mend = (set_one("shorter", "Reach over by {}", "frame.reach", shorter, "m"),) if shorter < made.reach else ()
    tell.hold(
        "rig.frame_leans",
        "travel.frame_leans",
        "Axis under a loaded frame",
        PICTURE,
        "frame.section",
        "Loaded, the frame leans the axis by {}; beyond {} pack its foot until it is upright with all on.",
        at_most=LEANS,
        state=CLEAR if sway.leans <= LEANS else WATCH,
        remedies=mend,
    )
    turns = OVERSHOOT * spin.fastest / (2 * math.pi)
    tell.hold(
        "travel.sways",
        "travel.frame_sway",
        "Frame against its turning",
        STRUCTURE,
        "frame.section",
        "The frame sways at {}; twice its turns a second is {}.",
        at_least=TWICE * turns,
        remedies=mend,
    )
    # A frame gives more one way than the other, so what is out of balance is seen twice a turn.
    share = turns / sway.slowest
    grows = 1 / (1 - share**2) if share < 1 else math.inf
    made_by = rotor.turning(orbit.turns_as, spin.fastest, orbit.beam)
    loads = np.array([made_by.force, made_by.moment])
    moves, tilts = (float(abs(loads @ (table[:, 0] - table[:, 1]))) / 2 for table in (sway.shifts, sway.turns))
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    pixels = grows * focal * (tilts + moves / max(orbit.lens_at, 0.05))
    tell.add(
        by_method(
            "travel.shake",
            "Picture shakes, twice a turn, by",
            2 * pixels,
            "px",
            "half of what the frame gives more one way than the other, under what is out of balance, as moved and as "
            "turned",
            (
                Given("F", made_by.force, "N", "shakes sideways", "balance.shakes"),
                Given("M", made_by.moment, "N*m", "wobbles its hub", "balance.wobble"),
            ),
            source="dynamics 2, drive 5.3",
        )
    )
    tell.hold(
        "travel.shake",
        "travel.steady",
        "Steady picture",
        PICTURE,
        "weights.mass",
        "Out of balance as it is it shakes the picture by {}; {} is not seen.",
        at_most=2 * PIXELS,
        state=CLEAR if 2 * pixels <= 2 * PIXELS else WATCH,
    )


def _loads(design: Design, orbit: Orbit, spin: Spun) -> tuple[float, float, float]:
    """Weight at the hub, moment about it and force across it, at a tenth over its fastest [N, N*m, N]."""
    made = rotor.turning(orbit.turns_as, OVERSHOOT * spin.fastest, orbit.beam)
    return (orbit.turning + HUB_MASS) * GRAVITY, made.moment, made.force


def _strength(tell: Teller, design: Design, orbit: Orbit, made: DeskFrame, spin: Spun) -> None:
    load, moment, force = _loads(design, orbit, spin)
    knock = bump(design, orbit.weight)
    pipe, material = made.pipe, design.catalogue.materials[made.pipe.material]
    section, line = pipe.section(), pipe.line(material) * GRAVITY
    foot = orbit.table if made.clamped else 0.0
    drop = made.height - min(orbit.lens_high, orbit.beam)
    weigh = load * made.reach + line * made.reach**2 / 2
    # A bump sideways bends the pipe level and twists it; one fore-and-aft bends it upright.
    upright = weigh + moment + (knock + force) * drop
    level, twist = (knock + force) * made.reach, (knock + force) * drop + moment
    at_top = max(upright, math.sqrt(weigh**2 + level**2 + TORSION * twist**2))
    high = max(made.height - foot, 0.0)
    ahead = weigh + moment + (knock + force) * max(orbit.lens_high - foot, orbit.beam - foot)
    sideways = math.hypot(weigh, moment + (knock + force) * high)
    at_foot = max(ahead, math.sqrt(sideways**2 + TORSION * level**2))
    given = (
        Given("W", load, "N", "all that turns, and the hub", "kit"),
        Given("a", made.reach, "m", "reaches over", "frame.reach"),
        Given("F", knock, "N", "bump at the camera"),
        Given("Z", float(section.modulus), "m^3", "its section modulus", "frame.section"),
    )
    shorter = round(max(0.3, 0.7 * made.reach), 3)
    mend = (set_one("shorter", "Reach over by {}", "frame.reach", shorter, "m"),) if shorter < made.reach else ()
    for key, name, bends in (("pipe", "upper pipe at the post", at_top), ("post", "post at its foot", at_foot)):
        works(
            tell,
            f"rig.{key}",
            name,
            HAND_SWING * bends / float(section.modulus),
            bears(design, material),
            "weight over its reach, wobble of the hub and a bump at the camera, bending and twisting, times 1.5",
            given,
            "frame.section",
            source="statics 3, 8.2",
            remedies=mend,
        )
    if made.clamped:
        _clamps(tell, design, at_foot)


def _clamps(tell: Teller, design: Design, moment: float) -> None:
    lever = design.number("frame.lever")
    asked = safety_class(design.text("safety")).tipping
    each = max(2.0, asked) * moment / (2 * lever)
    wider = round(min(0.4, 1.5 * lever), 3)
    tell.add(
        by_method(
            "rig.frame_clamp",
            "Each clamp must hold",
            each,
            "N",
            "the moment at the post's foot over twice the clamps' distance from the edge, with a factor of two",
            (
                Given("M", moment, "N*m", "at the post's foot", "rig.post_stress"),
                design.given("c", "frame.lever", "clamps from the edge", "m"),
            ),
            source="statics 8.2",
        )
    )
    tell.hold(
        "rig.frame_clamp",
        "rig.clamps",
        "Clamps on the desk",
        PEOPLE,
        "frame.lever",
        "Each clamp must hold {}; it presses {}.",
        at_most=design.number("frame.clamp"),
        remedies=(set_one("wider", "Clamps {} from the edge", "frame.lever", wider, "m"),) if wider > lever else (),
    )


def _stands(tell: Teller, design: Design, orbit: Orbit, made: DeskFrame, spin: Spun) -> None:
    """Desk and frame as one body on the desk's feet, or the frame on its own: at every angle at once, as what is out of
    balance points everywhere in turn.
    """
    line = made.pipe.line(design.catalogue.materials[made.pipe.material])
    post = np.append(made.post, made.height / 2)
    bodies = [
        (orbit.turning + HUB_MASS, np.array([0.0, 0.0, orbit.beam])),
        (line * made.reach, np.append(made.post / 2, made.height)),
        (line * made.height, post),
        *made.beside,
    ]
    if not made.clamped:
        middle = made.feet.mean(axis=0)
        bodies.append((2 * line * design.number("frame.legs"), np.append(middle, 0.05)))
        bodies.append((line * design.number("frame.wide"), np.append(made.post, 0.1)))
    stood = footing.footing(made.feet, [m for m, _ in bodies], np.array([at for _, at in bodies]))
    turned = rotor.turning(orbit.turns_as, OVERSHOOT * spin.fastest).moment
    margins = stood.margins - turned
    over = stood.overturning + turned
    factor = float(np.min(np.where(over > 0, stood.stabilising / np.where(over > 0, over, 1.0), np.inf)))
    high = max(0.1, orbit.lens_high, orbit.beam)
    tips = float(margins.min()) / high
    knock = bump(design, sum(m for m, _ in bodies))
    given = (
        Given("W", sum(m for m, _ in bodies) * GRAVITY, "N", "all of it", "rig.mass"),
        Given("M", turned, "N*m", "about the floor, as it turns fastest"),
    )
    tell.add(
        by_method(
            "balance.footing",
            "Frame stands with a factor of",
            factor,
            "1",
            "what holds over what tips it, over the edge of its feet that holds least, what is out of balance "
            "towards it",
            given,
            source="statics 6, 8.2",
            headline=True,
        ),
        by_method(
            "balance.tips_at",
            "A push at the lens that tips it",
            tips,
            "N",
            "what is left over that edge, over the height of lens or arms",
            given,
            source="statics 6",
        ),
    )
    mend: tuple[Remedy, ...] = ()
    if made.clamped:
        heavy = min(200.0, design.number("desk.mass") + 15.0)
        mend = (set_one("heavy", "Load the desk to {}", "desk.mass", heavy, "kg"),)
    else:
        legs, ballast = (
            min(1.8, round(design.number("frame.legs") + 0.2, 3)),
            min(150.0, design.number("base.mass") + 15.0),
        )
        wide = min(1.8, round(design.number("frame.wide") + 0.2, 3))
        mend = (
            Remedy(
                "wide",
                set_one("", "Feet {} forward", "", legs, "m").label,
                (("frame.legs", legs), ("frame.wide", wide)),
            ),
            set_one("ballast", "Ballast of {} at the post", "base.mass", ballast, "kg"),
        )
    field = "desk.mass" if made.clamped else "frame.legs"
    tell.findings += standing_findings(
        factor,
        max(2.0, safety_class(design.text("safety")).tipping),
        tips,
        knock,
        where="As it turns",
        bumped=("Bumped at the camera", "A push of {} at the lens tips it; it must stand {}."),
        field=field,
        mend=mend,
    )
