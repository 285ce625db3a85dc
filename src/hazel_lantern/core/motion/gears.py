"""Spur gears to cut: involute teeth with shift, undercut, backlash; a pair in mesh; outlines; what a tooth bears."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError

ANGLE = math.radians(20)
ANGLES = (math.radians(14.5), math.radians(25))
CLEARANCE = 0.25  # of the module, between a tip and the root it goes into
FEWEST = 5  # teeth of a gear
TIP_THIN, CONTACT, WANTED = 0.25, 1.0, 1.2  # of the module; pitches in contact at the least, and wanted of cut gears
# Form factors of full-depth teeth at 20 degrees by their number; linear in one over it.
LEWIS = (
    (12, 0.245), (13, 0.261), (14, 0.277), (15, 0.290), (16, 0.296), (17, 0.303),
    (18, 0.309), (19, 0.314), (20, 0.322), (21, 0.328),
    (22, 0.331), (24, 0.337), (26, 0.346), (28, 0.353), (30, 0.359), (34, 0.371),
    (38, 0.384), (43, 0.397), (50, 0.409), (60, 0.422),
    (75, 0.435), (100, 0.447), (150, 0.460), (300, 0.472), (math.inf, 0.485),
)  # fmt: skip


class Gear(Struct, frozen=True):
    """A gear: module [m], teeth, pressure angle [rad], profile shift and shortening of its tips in modules, and
    backlash of the pair at the pitch circle, half of which it is thinned by [m].
    """

    module: float
    teeth: int
    angle: float = ANGLE
    shift: float = 0.0
    backlash: float = 0.0
    shortened: float = 0.0

    @property
    def pitch(self) -> float:
        """Radius of the pitch circle [m]."""
        return self.module * self.teeth / 2

    @property
    def base(self) -> float:
        """Radius of the base circle [m]."""
        return self.pitch * math.cos(self.angle)

    @property
    def tip(self) -> float:
        """Radius of the tips [m]."""
        return self.pitch + self.module * (1 + self.shift - self.shortened)

    @property
    def root(self) -> float:
        """Radius of the roots [m]."""
        return self.pitch - self.module * (1 + CLEARANCE - self.shift)

    @property
    def thick(self) -> float:
        """Of a tooth, along the pitch circle [m]."""
        return self.module * (math.pi / 2 + 2 * self.shift * math.tan(self.angle)) - self.backlash / 2

    @property
    def rounding(self) -> float:
        """Radius of the tip of the rack that cuts it [m]."""
        sin, tan = math.sin(self.angle), math.tan(self.angle)
        return self.module * min(
            CLEARANCE / (1 - sin), (math.pi / 4 - (1 + CLEARANCE) * tan) / math.tan(math.pi / 4 - self.angle / 2)
        )

    @property
    def flank(self) -> float:
        """How deep below the pitch circle the straight flank of that rack reaches [m]."""
        return float((1 + CLEARANCE - self.shift) * self.module - self.rounding * (1 - math.sin(self.angle)))

    @property
    def gap(self) -> float:
        """Width of the space between two teeth where its straight flanks end, as the rack cuts it [m]."""
        return math.pi * self.module - self.thick - 2 * self.flank * math.tan(self.angle)

    @property
    def least_shift(self) -> float:
        """The shift below which its teeth are cut away at the root, in modules."""
        return self.flank / self.module + self.shift - self.teeth * math.sin(self.angle) ** 2 / 2

    @property
    def land(self) -> float:
        """Width of a tooth at its tip [m]; nought or less where it ends in a point."""
        at_tip = math.acos(min(1.0, self.base / self.tip))
        return 2 * self.tip * (self.thick / (2 * self.pitch) + involute(self.angle) - involute(at_tip))


def involute(angle: float) -> float:
    """tan less the angle.

    angle: of pressure [rad]

    Returns: involute [rad]. Source: drive 3.1.
    """
    return math.tan(angle) - angle


def angle_of(value: float) -> float:
    """The angle of an involute.

    value: the involute, above 0 [rad]

    Returns: angle [rad]. Raises: InputError. Source: drive 3.1, Newton's steps.
    """
    positive(involute=value)
    angle = min(float((3 * value) ** (1 / 3)), 1.5)
    for _ in range(60):
        less = (involute(angle) - value) / math.tan(angle) ** 2
        angle -= less
        if abs(less) < 1e-15:
            break
    return angle


def gear(module: float, teeth: float, angle: float = ANGLE, shift: float | None = None, backlash: float = 0.0) -> Gear:
    """A checked gear; without a shift just so much that its teeth are not cut away.

    module: pitch diameter over teeth [m]
    teeth: of it [-]
    angle: of pressure [rad]
    shift: in modules [-]
    backlash: of the pair, along the pitch circle [m]

    Returns: the gear. Raises: InputError; InfeasibleError `TOOTH_POINTED`. Source: drive 3.1.
    """
    positive(m=module)
    not_negative(backlash_j=backlash)
    if teeth < FEWEST or teeth != round(teeth):
        raise InputError("z", teeth, f"must be a whole number from {FEWEST}")
    if not ANGLES[0] - 1e-9 <= angle <= ANGLES[1] + 1e-9:
        raise InputError("alpha", f"{math.degrees(angle):.3g}°", "must lie between 14.5° and 25°")
    made = Gear(module, round(teeth), angle, shift or 0.0, backlash)
    if shift is None and made.least_shift > 0:
        made = Gear(module, round(teeth), angle, math.ceil(made.least_shift * 100 - 1e-9) / 100, backlash)
    if made.thick <= 0 or made.land <= 0:
        raise InfeasibleError("its teeth end in a point", "TOOTH_POINTED", shift=made.shift)
    return made


class Pair(Struct, frozen=True):
    """Two gears in mesh, their tips shortened as they need: how far their middles stand apart [m], the pressure angle
    there [rad], pitches in contact, and whether a tip meets the other's root.
    """

    first: Gear
    second: Gear
    apart: float
    angle: float
    contact: float
    fouls: bool


def pair(first: Gear, second: Gear) -> Pair:
    """Two gears in mesh without play but their backlash.

    first: one gear
    second: another, of the same module and pressure angle

    Returns: the pair. Raises: InputError for gears that cannot mesh; InfeasibleError `CONTACT_LOST`. Source: drive 3.2.
    """
    if abs(first.module / second.module - 1) > 1e-9:
        raise InputError("m", second.module, f"must be that of the other gear, {first.module:g} m")
    if abs(first.angle - second.angle) > 1e-9:
        raise InputError("alpha", second.angle, "must be that of the other gear")
    module, alpha, teeth = first.module, first.angle, first.teeth + second.teeth
    shifts = first.shift + second.shift
    working = involute(alpha) + 2 * math.tan(alpha) * shifts / teeth
    if working <= 0:
        raise InputError("x1+x2", shifts, "is too far below nought for so few teeth")
    angle = angle_of(working)
    apart = module * teeth / 2 * math.cos(alpha) / math.cos(angle)
    short = shifts - (apart - module * teeth / 2) / module
    one, other = (Gear(g.module, g.teeth, g.angle, g.shift, g.backlash, short) for g in (first, second))
    line = apart * math.sin(angle)
    reach = [math.sqrt(max(0.0, g.tip**2 - g.base**2)) for g in (one, other)]
    contact = (sum(reach) - line) / (math.pi * module * math.cos(alpha))
    if contact < CONTACT:
        raise InfeasibleError("one pair of teeth lets go before the next meets", "CONTACT_LOST", contact=contact)
    fouls = any(a.tip > math.hypot(a.base, line) for a in (one, other))
    return Pair(one, other, apart, angle, contact, fouls)


def _curve(point: Callable[[np.ndarray], np.ndarray], start: float, end: float, tolerance: float) -> np.ndarray:
    """Points (n, 2) of a curve between two values of its parameter, so close that no chord strays further [m]."""
    values = np.array([min(start, end), max(start, end)])
    for _ in range(16):
        points = point(values)
        gap = np.diff(values)
        strays = np.zeros(len(gap))
        a, way = points[:-1], np.diff(points, axis=0)
        long = np.maximum(np.hypot(*way.T), 1e-15)
        for share in (0.25, 0.5, 0.75):
            off = point(values[:-1] + share * gap) - a
            strays = np.maximum(strays, np.abs(way[:, 0] * off[:, 1] - way[:, 1] * off[:, 0]) / long)
        split = strays > tolerance
        if not split.any():
            break
        values = np.sort(np.concatenate([values, values[:-1][split] + gap[split] / 2]))
    return point(values if start <= end else values[::-1])


def _polar(radius: np.ndarray, angle: np.ndarray) -> np.ndarray:
    return np.column_stack([radius * np.cos(angle), radius * np.sin(angle)])


def _half_tooth(made: Gear, tolerance: float) -> np.ndarray:
    """The upper flank of a tooth about +x, from its root to its tip (n, 2) [m]: trochoid, then involute."""
    r, rho, deep, tan = made.pitch, made.rounding, made.flank, math.tan(made.angle)
    if made.shift < made.least_shift - 1e-9:
        raise InfeasibleError("its teeth are cut away at the root", "UNDERCUT", shift=made.least_shift)
    y_c = -((1 + CLEARANCE - made.shift) * made.module - rho)
    gap = (math.pi * made.module - made.thick) / 2
    x_c = -(gap - deep * tan) + rho * math.cos(made.angle)
    start = y_c / tan - x_c

    def trochoid(u: np.ndarray) -> np.ndarray:
        centre = np.column_stack([x_c + u, np.full_like(u, y_c)])
        out = centre * (1 + rho / np.maximum(np.hypot(*centre.T), 1e-15))[:, None]
        radius = np.hypot(out[:, 0], out[:, 1] + r)
        return _polar(radius, math.pi / made.teeth - np.abs(np.arctan2(out[:, 0], out[:, 1] + r) - u / r))

    half = made.thick / (2 * r) + involute(made.angle)

    def flank(t: np.ndarray) -> np.ndarray:
        return _polar(made.base * np.sqrt(1 + t**2), half - (t - np.arctan(t)))

    joins = math.hypot(r - deep, deep / tan)
    begins, ends = (math.sqrt(max(0.0, (radius / made.base) ** 2 - 1)) for radius in (joins, made.tip))
    return np.vstack([_curve(trochoid, -x_c, start, tolerance), _curve(flank, begins, ends, tolerance)])


def _arc(radius: float, start: float, end: float, tolerance: float) -> np.ndarray:
    """Points between the ends of an arc, without them (n, 2) [m]."""
    steps = max(1, math.ceil(abs(end - start) / (2 * math.acos(max(-1.0, 1 - tolerance / radius)))))
    angles = np.linspace(start, end, steps + 1)[1:-1]
    return _polar(np.full(len(angles), radius), angles)


def tooth(made: Gear, tolerance: float = 1e-5) -> np.ndarray:
    """One tooth about +x with half a root on either side.

    made: the gear
    tolerance: that a chord may stray by [m]

    Returns: points (n, 2) in the order of its outline [m]. Raises: InfeasibleError `UNDERCUT`. Source: drive 3.3.
    """
    upper = _half_tooth(made, tolerance)
    lower = upper * (1, -1)
    tips = np.arctan2(lower[-1, 1], lower[-1, 0]), np.arctan2(upper[-1, 1], upper[-1, 0])
    foot, root = math.pi / made.teeth, float(np.hypot(*upper[0]))
    begins = np.arctan2(lower[0, 1], lower[0, 0])
    return np.vstack(
        [
            _polar(np.array([root]), np.array([-foot])),
            _arc(root, -foot, begins, tolerance),
            lower,
            _arc(made.tip, tips[0], tips[1], tolerance),
            upper[::-1],
            _arc(root, -begins, foot, tolerance),
        ]
    )


def outline(made: Gear, tolerance: float = 1e-5) -> np.ndarray:
    """The gear's outline, counter-clockwise, its first tooth about +x.

    made: the gear
    tolerance: that a chord may stray by [m]

    Returns: points (n, 2), the first not repeated [m]. Raises: InfeasibleError `UNDERCUT`. Source: drive 3.3.
    """
    positive(tolerance=tolerance)
    one = tooth(made, tolerance)
    return _closed(np.vstack([_turned(one, 2 * math.pi * k / made.teeth) for k in range(made.teeth)]))


def sector_outline(made: Gear, teeth: int, inside: float, tolerance: float = 1e-5) -> np.ndarray:
    """So many teeth of a gear on a rim, its middle tooth, or the space between two, about +x.

    made: the whole gear
    teeth: that are cut
    inside: radius of the rim's inner edge [m]
    tolerance: that a chord may stray by [m]

    Returns: points (n, 2) about the gear's own middle [m]. Raises: InputError; InfeasibleError. Source: drive 3.7.
    """
    positive(tolerance=tolerance)
    if not 0 < inside < made.root - made.module:
        raise InputError("r_in", inside, f"must be above zero and below {made.root - made.module:g} m")
    if not 1 <= teeth <= made.teeth:
        raise InputError("teeth", teeth, f"must be 1 to {made.teeth}")
    pitch, one = 2 * math.pi / made.teeth, tooth(made, tolerance)
    turns = [pitch * (k - (teeth - 1) / 2) for k in range(teeth)]
    rim = np.vstack([_turned(one, turn) for turn in turns])
    ends = turns[-1] + pitch / 2, turns[0] - pitch / 2
    inner = np.vstack(
        [
            _polar(np.array([inside]), np.array([ends[0]])),
            _arc(inside, *ends, tolerance),
            _polar(np.array([inside]), np.array([ends[1]])),
        ]
    )
    last = _polar(np.array([float(np.hypot(*one[0]))]), np.array([ends[0]]))
    return _closed(np.vstack([rim, last, inner]))


def _turned(points: np.ndarray, angle: float) -> np.ndarray:
    cos, sin = math.cos(angle), math.sin(angle)
    return np.asarray(points @ np.array([[cos, sin], [-sin, cos]]))


def _closed(points: np.ndarray) -> np.ndarray:
    """Without points that lie on the one before them."""
    step = np.hypot(*(points - np.roll(points, 1, axis=0)).T)
    return np.asarray(points[step > 1e-9])


class Bears(Struct, frozen=True):
    """What a tooth bears: its form factor, the force along the pitch circle [N] and the torque of the gear [N*m]."""

    form: float
    force: float
    torque: float


def tooth_bears(
    module: float, width: float, teeth: float, stress: float, angle: float = ANGLE, speed: float = 0.0
) -> Bears:
    """What breaks a tooth off, by Lewis.

    module: of the gear [m]
    width: of its face [m]
    teeth: of it [-]
    stress: allowed in its material [Pa]
    angle: of pressure [rad]
    speed: along the pitch circle [m/s]

    Returns: form factor, force and torque. Raises: InputError for fewer than twelve teeth. Source: drive 3.6.
    """
    positive(m=module, b=width, sigma=stress)
    not_negative(v=speed)
    if teeth < LEWIS[0][0]:
        raise InputError("z", teeth, f"must be at least {LEWIS[0][0]}")
    inverse = [1 / count for count, _ in reversed(LEWIS)]
    form = float(np.interp(1 / teeth, inverse, [factor for _, factor in reversed(LEWIS)]))
    degrees = math.degrees(angle)
    form *= float(np.interp(degrees, [14.5, 20.0, 25.0], [0.80, 1.0, 1.10]))
    force = stress * width * module * form / ((6.1 + speed) / 6.1)
    return Bears(form, force, force * module * teeth / 2)


def least_module(tool: str, size: float, made: Gear, sheet: float = 0.0) -> float:
    """The smallest module that a tool cuts teeth of such a gear with.

    tool: `router`, `printer`, `laser` or `saw`
    size: diameter of the bit, of the nozzle, or width of the cut [m]
    made: the gear
    sheet: thickness of what is cut [m]

    Returns: module [m]. Raises: InputError. Source: drive 3.5.
    """
    m, gap = made.module, made.gap
    if tool == "router":
        return max(size / (2 * made.rounding / m), size / max(gap / m, 1e-9))
    if tool == "printer":
        return 2 * size / max(made.land / m, 1e-9)
    if tool == "laser":
        return max(3 * size / max(gap / m, 1e-9), sheet / 3 / (made.thick / m))
    if tool == "saw":
        return 0.004
    raise InputError("tool", repr(tool), "must be one of router, printer, laser, saw")
