"""The jib as a space frame: arm, bars or cable, cheeks, bolts and head bracket, loaded by what it carries."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue, Material, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import BETWEEN, CLAMPED, SINGLE, TAPERED
from hazel_lantern.core.kinds.jib.model import (
    ARM,
    BAR,
    BY_BARS,
    BY_CABLE,
    BY_MOTOR,
    LEAST,
    LEVEL,
    MAST,
    REAR,
    WEIGHTS,
    Jib,
)
from hazel_lantern.core.mechanics.frame import Element, Frame, Support, frame
from hazel_lantern.core.mechanics.frame_loads import inner_forces, loads, solve
from hazel_lantern.core.mechanics.modes import modes
from hazel_lantern.core.nouns.units import GRAVITY

TURN = 4  # the arm's turn about its pivot, a freedom of its node
STEEL, SHEAR = 205e9, 79e9
BRACKET = 5e3  # N*m^2 of head plate and camera body: stiff beside the arm, soft enough for clean numbers
THREAD = 1e-2  # N*m^2 that keep a cable's ends from being loose
TAPERS = 6  # steps of a pole that tapers
NEAR = 0.015  # metres: no piece is shorter
SWING = 0.3  # Hz under which a free arm only swings about its pivot


class Bent(Struct, frozen=True):
    """The arm at rest at an angle: how much lower the lens hangs than drawn [m], nose down [rad], bending of its front
    [N*m] and thrust [N] at the pivot, pull of the stay [N], bending of its rear at the pivot [N*m].
    """

    drop: float
    nose: float
    moment: float
    thrust: float
    stay: float
    behind: float

    @property
    def bends(self) -> float:
        """The larger of both sides' bending at the pivot [N*m]."""
        return max(self.moment, self.behind)


class Swings(Struct, frozen=True):
    """First frequencies [Hz]: up and down with the pivot held, and free on it (infinite without rear weight);
    sideways with the pan held.
    """

    held: float
    free: float
    sideways: float


class _Made(Struct):
    """Nodes, elements and supports while they are put together."""

    nodes: dict[str, tuple[float, float, float]]
    elements: list[Element]
    supports: dict[str, Support]

    def node(self, name: str, at: np.ndarray, y: float = 0.0) -> str:
        self.nodes[name] = (float(at[0]), y, float(at[1]))
        return name

    def join(
        self,
        name: str,
        i: str,
        j: str,
        stiff: tuple[float, float, float, float, float, float],
        mass: float = 0.0,
        released: tuple[int, ...] = (),
    ) -> None:
        """A piece whose depth lies in the arm's own plane, whichever way it leans."""
        ea, eiy, eiz, gj, gay, gaz = stiff
        self.elements.append(
            Element(name, i, j, ea, eiy, eiz, gj, gay, gaz, _roll(self.nodes[i], self.nodes[j]), mass, released)
        )


def _roll(i: tuple[float, float, float], j: tuple[float, float, float]) -> float:
    """Roll that turns a piece's sideways axis as near to the world's as its direction allows [rad]; bolts across the
    arm are round.
    """
    x, y, z = j[0] - i[0], j[1] - i[1], j[2] - i[2]
    length = math.sqrt(x * x + y * y + z * z)
    return math.atan2(-z * y / length, x) if abs(x) > 1e-9 or abs(z * y) > 1e-9 else 0.0


def _of(bar: StockSection, material: Material, count: int = 1) -> tuple[float, float, float, float, float, float]:
    """Stiffness of so many bars side by side; they do not help each other sideways."""
    s = bar.section()
    shear = s.shear * material.G * s.area * count
    return (
        material.E * s.area * count,
        material.E * s.upright * count,
        material.E * s.iz * count,
        material.G * s.j * count,
        shear,
        shear,
    )


def _rod(d: float) -> tuple[float, float, float, float, float, float]:
    area, i = math.pi * d**2 / 4, math.pi * d**4 / 64
    return STEEL * area, STEEL * i, STEEL * i, SHEAR * 2 * i, 0.9 * SHEAR * area, 0.9 * SHEAR * area


def _rope(ea: float) -> tuple[float, float, float, float, float, float]:
    return ea, THREAD, THREAD, THREAD, 0.0, 0.0


_SOLID = (1e7, BRACKET, BRACKET, BRACKET, 0.0, 0.0)


def build_frame(design: Design, jib: Jib, angle: float) -> Frame:
    """The frame at an arm angle, the arm held against turning about its pivot.

    Cheeks and uprights stand left and right of the arm, joined to it by the pivot bolts, which turn freely about
    themselves.
    """
    stuff, catalogue = design.catalogue.materials, design.catalogue
    made = _Made({}, [], {})
    lower, upper = jib.pivots()
    pin, _ = jib.heads(angle)
    along = np.array([math.cos(angle), math.sin(angle)])
    square = np.array([-along[1], along[0]])
    half, above = jib.beside, jib.offset * square
    arm = _of(jib.arm, jib.arm_material, jib.bars)
    line = jib.mass_of("arm") / (jib.front + jib.rear + 2 * design.number("arm.end"))
    made.node("pivot", lower)
    made.node("pin", pin)
    root = "pivot" if not jib.offset else made.node("clamp", lower + above)
    made.node("weights", lower + above - along * design.number("weights.place"))
    made.join("rear", "weights", root, arm, line)
    _front(design, jib, made, root, lower + above, along, arm, line)
    if jib.held == CLAMPED:
        # The head, locked, is all that holds it; its axis is the pivot.
        made.supports["pivot"] = Support((0, 1, 2, 5), ((3, jib.pan.stiffness), (TURN, jib.pan.stiffness)))
        made.join("clamp", "pivot", root, _SOLID)
    else:
        made.supports["pivot"] = Support((TURN,))
        _post(design, jib, made, lower, upper, half)
    _head(design, jib, made, pin, angle, half)
    if jib.level == BY_CABLE:
        _runs(jib, made, lower, pin, square)
    if jib.mast > 0:
        rod = catalogue.sections[MAST]
        made.node("mast", lower + above + jib.mast * square)
        made.join("mast", root, "mast", _of(rod, stuff[rod.material]), jib.mass_of("stay mast") / jib.mast)
        # Stayed to both ends of the arm: one cable alone would only bend the mast.
        behind = "weights"
        if jib.rear - design.number("weights.place") > NEAR:
            behind = made.node("rear end", lower + above - along * jib.rear)
            made.join("tail", "rear end", "weights", arm, line)
        made.join("stay", "mast", "pin", _rope(stay_rope(design, catalogue)))
        made.join("rear stay", "mast", behind, _rope(stay_rope(design, catalogue)))
    return frame(made.nodes, made.elements, made.supports)


def _front(
    design: Design,
    jib: Jib,
    made: _Made,
    root: str,
    start: np.ndarray,
    along: np.ndarray,
    arm: tuple[float, float, float, float, float, float],
    line: float,
) -> None:
    """The arm from the pivot to the head pin: of one section, of two poles, or as steps of one that tapers."""
    if jib.tip is None:
        made.join("front", root, "pin", arm, line)
        return
    thin = _of(jib.tip, jib.arm_material)
    if design.text("arm.made") == TAPERED:
        last, steps = root, TAPERS
        for k in range(steps):
            share = (k + 0.5) / steps
            piece = tuple(a + (b - a) * share for a, b in zip(arm, thin, strict=True))
            end = "pin" if k == steps - 1 else made.node(f"taper {k}", start + along * jib.front * (k + 1) / steps)
            made.join("front" if k == 0 else f"front {k}", last, end, piece, line)  # type: ignore[arg-type]
            last = end
        return
    # Half of the overlap belongs to either pole.
    made.node("overlap", start + along * (jib.tip_from + design.number("arm.sleeve") / 2))
    made.join("front", root, "overlap", arm, line)
    made.join("front pole", "overlap", "pin", thin, line)


def _sides(jib: Jib, half: float) -> tuple[tuple[str, float], ...]:
    """Where what holds a pin stands, by name [m]."""
    both = (("left", half), ("right", -half))
    return both[:1] if jib.held == SINGLE else both


def _share(
    jib: Jib, stiff: tuple[float, float, float, float, float, float]
) -> tuple[float, float, float, float, float, float]:
    """One post between two bars stands as a half at either side of both together."""
    return tuple(v / 2 for v in stiff) if jib.held == BETWEEN else stiff  # type: ignore[return-value]


def freed(made: Frame, masses: dict[int, float]) -> Frame:
    """The same frame with its arm free about the pivot, on a spring so soft that only its plain swing feels it: a
    tenth of a hertz.
    """
    pivot = made.node("pivot")
    turn = 6 * pivot + TURN
    soft = 0.4 * max(
        0.1, sum(mass * float(np.sum((made.places[node] - made.places[pivot]) ** 2)) for node, mass in masses.items())
    )
    fixed, springs, stiffness = made.fixed.copy(), made.springs.copy(), made.stiffness.copy()
    # A fluid head that is let go no longer springs back.
    stiffness[turn, turn] += soft - springs[turn]
    fixed[turn], springs[turn] = False, soft
    return replace(made, fixed=fixed, springs=springs, stiffness=stiffness)


def stay_rope(design: Design, catalogue: Catalogue) -> float:
    """Stiffness EA of the stay cable [N]."""
    return float(catalogue.row("ropes", design.text("stay.rope"), "stay.rope").ea)


def _post(design: Design, jib: Jib, made: _Made, lower: np.ndarray, upper: np.ndarray, half: float) -> None:
    """Two cheeks on a foot that tilts with what it pans on, bolted to the arm, and to the upper bar where there is
    one; a single upright stands at one side, one post between two bars is halved.
    """
    cheek, bolt = _share(jib, _of(jib.post, design.catalogue.materials[jib.post.material])), _rod(jib.bolt.d)
    tilt = jib.pan.stiffness
    foot = made.node(
        "foot",
        upper + jib.up * (jib.crown - (jib.spacing if jib.level == BY_BARS else jib.crown)) - jib.up * jib.post_length,
    )
    made.supports[foot] = Support((0, 1, 2, 5), ((3, tilt), (4, tilt)))
    for side, y in _sides(jib, half):
        low = made.node(f"foot {side}", np.array(made.nodes[foot])[[0, 2]], y)
        a = made.node(f"pivot {side}", lower, y)
        made.join(f"foot {side}", foot, low, _SOLID)
        made.join(f"cheek {side}", low, a, cheek)
        made.join(f"bolt {side}", "pivot", a, bolt, released=(3,))
        if jib.level == BY_BARS:
            b = made.node(f"upper pivot {side}", upper, y)
            made.join(f"upper cheek {side}", a, b, cheek)


def _head(design: Design, jib: Jib, made: _Made, pin: np.ndarray, angle: float, half: float) -> None:
    """Uprights on the head pin, the mount they carry, and the masses' own place; the upper bar to the post."""
    upright, bolt = _share(jib, _of(jib.upright, design.catalogue.materials[jib.upright.material])), _rod(jib.bolt.d)
    tilt = float(jib.tilts(angle))
    up = np.array([-math.sin(tilt), math.cos(tilt)])
    ahead = np.array([up[1], -up[0]])
    rise = jib.mount[1] if abs(jib.mount[1]) > 0.02 else 0.02
    head = [body for body in jib.bodies if body.frame == LEVEL]
    mass = sum(b.mass for b in head)
    cg = pin + (sum(b.mass * b.along for b in head) / mass) * ahead + (sum(b.mass * b.above for b in head) / mass) * up
    mount = made.node("mount", pin + up * rise)
    made.node("load", _apart(cg, made.nodes[mount], ahead))
    made.node("lens", _apart(pin + ahead * jib.lens[0] + up * jib.lens[1], made.nodes["load"], ahead))
    made.join("bracket", mount, "load", _SOLID)
    made.join("camera", "load", "lens", _SOLID)
    if jib.level == BY_MOTOR:
        # The motor holds the bracket to the arm's end.
        count = len(_sides(jib, half))
        made.join("neck", "pin", mount, tuple(count * v for v in upright))  # type: ignore[arg-type]
        return
    if jib.level == BY_BARS:
        bar = _of(jib.bar, design.catalogue.materials[jib.bar.material], len(jib.bar_lanes))
        top, root = pin + up * jib.head_spacing, jib.pivots()[1]
        made.node("upper root", root)
        made.node("upper pin", top)
        made.join("upper bar", "upper root", "upper pin", bar, jib.bar_line)
        for side, _ in _sides(jib, half):
            made.join(f"upper bolt {side}", "upper root", f"upper pivot {side}", bolt, released=(3,))
    for side, y in _sides(jib, half):
        low = made.node(f"head {side}", pin, y)
        made.join(f"head bolt {side}", "pin", low, bolt, released=(3,))
        if jib.level == BY_CABLE:
            made.join(f"upright {side}", low, mount, upright)
            continue
        high = made.node(f"head top {side}", pin + up * jib.head_spacing, y)
        made.join(f"upright {side}", low, high, upright)
        made.join(f"head top bolt {side}", "upper pin", high, bolt, released=(3,))
        if abs(rise - jib.head_spacing) > 5e-3:
            made.join(f"upright top {side}", high if rise > 0 else low, mount, upright)
        else:
            made.join(f"upright top {side}", high, mount, _SOLID)


def _apart(at: np.ndarray, other: tuple[float, float, float], ahead: np.ndarray) -> np.ndarray:
    """A place, moved ahead where it would all but meet another: very short stiff pieces spoil the numbers."""
    gap = at - np.array([other[0], other[2]])
    return at if float(np.hypot(*gap)) >= NEAR else np.array([other[0], other[2]]) + NEAR * ahead


def _runs(jib: Jib, made: _Made, lower: np.ndarray, pin: np.ndarray, square: np.ndarray) -> None:
    """What is fixed to the post and to the uprights, wheels or pins, and both runs of the cable between."""
    out = jib.up if jib.cable.pins else square  # pins stay where the post has them
    for name, sign in (("upper run", 1.0), ("lower run", -1.0)):
        a = made.node(f"post {name}", lower + sign * jib.cable.post * out)
        b = made.node(f"head {name}", pin + sign * jib.cable.head * out)
        for side, _ in _sides(jib, jib.beside):
            made.join(f"post {name} {side}", f"pivot {side}", a, _SOLID)
            made.join(f"head {name} {side}", f"head {side}", b, _SOLID)
        made.join(name, a, b, _rope(jib.cable.rope.ea))


def _masses(jib: Jib) -> dict[str, float]:
    """Masses that are not spread along an element, by node [kg]."""
    found = {"load": jib.head_mass, "weights": jib.mass_of(*WEIGHTS), "pin": 0.0, "pivot": 0.0}
    if jib.whole:
        # Its rear upright, and half of what the upper bar goes behind the post.
        uprights = sum(body.mass for body in jib.bodies if body.frame == REAR and body.name not in WEIGHTS)
        found["weights"] += uprights + jib.bar_line * jib.place / 2
    for body in jib.bodies:
        if body.frame in (ARM, BAR) and body.name not in ("arm", "upper bar", "stay mast", *WEIGHTS):
            # Shared by the nodes it lies between, as its moment asks.
            share = min(max(body.along / jib.front, 0.0), 1.0)
            found["pin"] += share * body.mass
            found["pivot"] += (1 - share) * body.mass
    return found


def bent(jib: Jib, made: Frame) -> Bent:
    """What the weights do to the arm, its pivot held. Raises SingularModelError for a loose structure."""
    spread = [(0, k, (0.0, 0.0, -e.mass * GRAVITY)) for k, e in enumerate(made.elements) if e.mass > 0]
    at = [
        (0, made.node(name), (0.0, 0.0, -mass * GRAVITY, 0.0, 0.0, 0.0))
        for name, mass in _masses(jib).items()
        if mass > 0
    ]
    found = solve(made, loads(1, (), spread, at))
    lens = found.displacements[6 * made.node("lens") : 6 * made.node("lens") + 6, 0]
    front = made.element("front")
    inner = inner_forces(found, np.array([0]), np.array([front]), np.array([0.0]))
    stay = float(found.forces[made.element("stay"), 6, 0]) if jib.mast > 0 else 0.0
    behind = abs(float(found.forces[made.element("rear"), 10, 0]))
    return Bent(-float(lens[2]), float(lens[4]), abs(float(inner[0, 4])), float(inner[0, 0]), stay, behind)


def gives(made: Frame) -> float:
    """How far the lens sinks for each newton hung where the camera is, the pivot held [m/N]."""
    at = [(0, made.node("load"), (0.0, 0.0, -1.0, 0.0, 0.0, 0.0))]
    return -float(solve(made, loads(1, (), (), at)).displacements[6 * made.node("lens") + 2, 0])


def swings(jib: Jib, held: Frame) -> Swings:
    """First frequencies of the arm. Raises SingularModelError for a loose structure."""
    masses = {held.node(name): mass for name, mass in _masses(jib).items() if mass > 0}
    rates, shapes = modes(held, masses, 6)
    sideways = _first(held, rates, shapes, 1)
    if jib.mass_of(*WEIGHTS) < LEAST:
        return Swings(_first(held, rates, shapes, 2), math.inf, sideways)
    free = freed(held, masses)
    loose, turned = modes(free, masses, 6)
    swing = loose > SWING
    return Swings(_first(held, rates, shapes, 2), _first(free, loose[swing], turned[:, swing], 2), sideways)


def _first(made: Frame, rates: np.ndarray, shapes: np.ndarray, direction: int) -> float:
    """The lowest frequency whose shape moves the load mostly that way: 1 sideways, 2 up and down."""
    row = 6 * made.node("load")
    for rate, shape in zip(rates, shapes.T, strict=True):
        flat, upright = abs(shape[row + 1]), float(np.hypot(shape[row], shape[row + 2]))
        if (flat > upright) == (direction == 1):
            return float(rate)
    return float(rates[-1])
