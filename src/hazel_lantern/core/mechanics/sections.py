"""Properties of cross-sections. Member axes: x along, y sideways, z up; Iy resists vertical bending."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec import Struct

from hazel_lantern.core.nouns import elementwise as ew
from hazel_lantern.core.nouns.check import positive, refused
from hazel_lantern.core.nouns.elementwise import Numbers


class Section(Struct, frozen=True):
    """Area [m^2], second moments and torsion constant [m^4], half depths to the outer fibres [m]; arrays where sizes
    were.

    Of a section without an upright plane of symmetry also Iyz [m^4], its centroid from the heel or the web's back
    (yb, zb), how far the middle of its width lies to the left of its shear centre [m], and its modulus against
    upright bending [m^3], 0 where Iy over the half depth holds.
    """

    area: float
    iy: float
    iz: float
    j: float
    cz: float
    cy: float
    shear: float = 5 / 6
    iyz: float = 0.0
    yb: float = 0.0
    zb: float = 0.0
    lever: float = 0.0
    wy: float = 0.0

    @property
    def upright(self) -> Numbers:
        """What resists upright bending where nothing keeps the section from walking sideways [m^4]."""
        return self.iy - self.iyz**2 / self.iz

    @property
    def walk(self) -> Numbers:
        """How far it walks to the left for each metre that it bends down [-]."""
        return self.iyz / self.iz

    @property
    def least(self) -> Numbers:
        """The least second moment about any axis [m^4]."""
        return (self.iy + self.iz) / 2 - ew.hypot((self.iy - self.iz) / 2, self.iyz)

    @property
    def modulus(self) -> Numbers:
        """Upright bending over the stress it makes at the worst fibre [m^3]."""
        return ew.where(self.wy > 0, self.wy, self.iy / self.cz)


def solid_round(d: Numbers) -> Section:
    """A rod.

    d: diameter [m]

    Returns: Section. Raises: InputError unless d is above zero.
    Source: Roark, circular section.
    """
    positive(d=d)
    i = math.pi * d**4 / 64
    return Section(math.pi * d**2 / 4, i, i, 2 * i, d / 2, d / 2, 6 / 7)


def round_tube(d: Numbers, t: Numbers) -> Section:
    """A round tube.

    d: outer diameter [m]
    t: wall [m]

    Returns: Section. Raises: InputError when the wall closes the bore.
    Source: Roark, annulus.
    """
    positive(d=d, t=t)
    refused("t", t, 2 * t >= d, "the wall must be under half the diameter")
    bore = d - 2 * t
    i = math.pi * (d**4 - bore**4) / 64
    return Section(math.pi * (d**2 - bore**2) / 4, i, i, 2 * i, d / 2, d / 2, 0.5)


def oval_tube(b: Numbers, h: Numbers, t: Numbers) -> Section:
    """A tube of elliptic outline, its wall as thick as measured at its four ends.

    b: width along y [m]
    h: depth along z [m]
    t: wall [m]

    Returns: Section; J within 2 % for walls up to a tenth of the width.
    Raises: InputError when the wall closes the bore.
    Source: Roark, ellipse less ellipse; Bredt with the wall term, the middle line's length after Ramanujan.
    """
    positive(b=b, h=h, t=t)
    refused("t", t, 2 * t >= ew.smaller(b, h), "the wall must be under half the smaller width")
    b_in, h_in = b - 2 * t, h - 2 * t
    area = math.pi / 4 * (b * h - b_in * h_in)
    iy = math.pi / 64 * (b * h**3 - b_in * h_in**3)
    iz = math.pi / 64 * (h * b**3 - h_in * b_in**3)
    p, q = (b - t) / 2, (h - t) / 2
    flat = ((p - q) / (p + q)) ** 2
    line = math.pi * (p + q) * (1 + 3 * flat / (10 + (4 - 3 * flat) ** 0.5))
    thick = area / line  # off its ends the wall of such a tube is thinner
    j = 4 * (math.pi * p * q) ** 2 * thick / line + line * thick**3 / 3
    return Section(area, iy, iz, j, h / 2, b / 2, 0.5)


def flat_bar(b: Numbers, h: Numbers) -> Section:
    """A solid rectangle: flat bar, board or batten.

    b: width along y [m]
    h: depth along z [m]

    Returns: Section. Raises: InputError unless both are above zero.
    Source: Timoshenko, torsion of a rectangle, series to the 39th term.
    """
    positive(b=b, h=h)
    long, short = ew.larger(b, h), ew.smaller(b, h)
    series = sum(ew.tanh(n * math.pi * long / (2 * short)) / n**5 for n in range(1, 40, 2))
    j = long * short**3 / 3 * (1 - 192 / math.pi**5 * short / long * series)
    return Section(b * h, b * h**3 / 12, h * b**3 / 12, j, h / 2, b / 2)


def rectangular_tube(b: Numbers, h: Numbers, t: Numbers, r_outer: Numbers = 0.0) -> Section:
    """A square or rectangular tube with rounded corners.

    b: width along y [m]
    h: depth along z [m]
    t: wall [m]
    r_outer: outer corner radius, 0 for sharp [m]

    Returns: Section; J within 0.3 % for rounded corners, 2 to 3 % low for sharp ones.
    Raises: InputError when the wall closes the bore or the radius exceeds half a side.
    Source: statics 2; Bredt with the wall term.
    """
    positive(b=b, h=h, t=t)
    refused("t", t, 2 * t >= ew.smaller(b, h), "the wall must be under half the smaller side")
    refused("r_outer", r_outer, ew.negated(r_outer >= 0), "must be zero or more")
    refused("r_outer", r_outer, r_outer > ew.smaller(b, h) / 2, "must be at most half the smaller side")
    r_inner = ew.larger(r_outer - t, 0.0)
    area = b * h - (b - 2 * t) * (h - 2 * t) - 4 * _corner(r_outer) + 4 * _corner(r_inner)
    # Sharp corners have no radius, within or without.
    mean = (r_outer + r_inner) / 2
    line = 2 * (b + h - 2 * t) - 2 * mean * (4 - math.pi)
    cell = (b - t) * (h - t) - mean**2 * (4 - math.pi)
    j = line * t**3 / 3 + 4 * cell**2 * t / line
    iy, iz = _box_inertia(b, h, t, r_outer, r_inner), _box_inertia(h, b, t, r_outer, r_inner)
    return Section(area, iy, iz, j, h / 2, b / 2, 0.9 * 2 * t * (h - t) / area)


def _corner(r: Numbers) -> Numbers:
    return (1 - math.pi / 4) * r**2


def _box_inertia(b: Numbers, h: Numbers, t: Numbers, r_outer: Numbers, r_inner: Numbers) -> Numbers:
    def corners(r: Numbers, depth: Numbers) -> Numbers:
        own = (1 / 3 - math.pi / 16 - 1 / (3 * (12 - 3 * math.pi))) * r**4
        lever = depth / 2 - (10 - 3 * math.pi) / (12 - 3 * math.pi) * r
        return 4 * (own + _corner(r) * lever**2)

    boxes = (b * h**3 - (b - 2 * t) * (h - 2 * t) ** 3) / 12
    return boxes - corners(r_outer, h) + corners(r_inner, h - 2 * t)


def angle(b: Numbers, h: Numbers, t: Numbers) -> Section:
    """An L-section, heel at the origin, sharp corners.

    b: horizontal leg along +y [m]
    h: vertical leg along +z [m]
    t: thickness of both legs [m]

    Returns: Section with Iyz (negative) and the centroid yb, zb from the heel.
    Raises: InputError when the thickness reaches a leg.
    Source: statics 2; J of two strips, within 4 %.
    """
    positive(b=b, h=h, t=t)
    refused("t", t, t >= ew.smaller(b, h), "must be under the shorter leg")
    area = t * (b + h - t)
    yb = (t * b**2 / 2 + (h - t) * t**2 / 2) / area
    zb = (t * h**2 / 2 + (b - t) * t**2 / 2) / area
    iy = t * h**3 / 3 + (b - t) * t**3 / 3 - area * zb**2
    iz = t * b**3 / 3 + (h - t) * t**3 / 3 - area * yb**2
    iyz = t**2 * h**2 / 4 + t**2 * (b**2 - t**2) / 4 - area * yb * zb
    # Bent upright and free to walk, it works most at one of its corners.
    corners = ((0.0, 0.0), (b, 0.0), (b, t), (0.0, h), (t, h))
    worst: Numbers = 0.0
    for y, z in corners:
        worst = ew.larger(worst, abs(iz * (z - zb) - iyz * (y - yb)))
    wy = (iy * iz - iyz**2) / worst
    return Section(area, iy, iz, (b + h - t) * t**3 / 3, h - zb, b - yb, t * h / area, iyz, yb, zb, (b - t) / 2, wy)


def channel(h: Numbers, b: Numbers, t_web: Numbers, t_flange: Numbers) -> Section:
    """A U-section, web upright at y = 0, flanges toward +y.

    h: depth [m]
    b: flange width including the web [m]
    t_web: web thickness [m]
    t_flange: flange thickness [m]

    Returns: Section with the centroid yb from the back of the web; J within 5 %.
    Raises: InputError when the flanges meet or the web fills the width.
    Source: statics 2; thin open strips.
    """
    positive(h=h, b=b, t_web=t_web, t_flange=t_flange)
    refused("t_flange", t_flange, 2 * t_flange >= h, "must be under half the depth")
    refused("t_web", t_web, t_web >= b, "must be under the flange width")
    out = b - t_web
    area = h * t_web + 2 * out * t_flange
    yb = (h * t_web**2 / 2 + (b**2 - t_web**2) * t_flange) / area
    iy = t_web * h**3 / 12 + 2 * (out * t_flange**3 / 12 + out * t_flange * ((h - t_flange) / 2) ** 2)
    iz = h * t_web**3 / 3 + 2 * t_flange * (b**3 - t_web**3) / 3 - area * yb**2
    across, high = b - t_web / 2, h - t_flange
    j = (high * t_web**3 + 2 * across * t_flange**3) / 3
    beyond = 3 * across**2 * t_flange / (6 * across * t_flange + high * t_web)
    lever = b / 2 - (t_web / 2 - beyond)
    return Section(area, iy, iz, j, h / 2, ew.larger(yb, b - yb), h * t_web / area, 0.0, yb, 0.0, lever)


def profile(b: Numbers, h: Numbers, area: Numbers, iy: Numbers, iz: Numbers, j: Numbers) -> Section:
    """A slotted profile, from a table: its outline has no closed form.

    b: width [m]
    h: height [m]
    area: metal area [m^2]
    iy: second moment up and down [m^4]
    iz: second moment sideways [m^4]
    j: torsion constant [m^4]

    Returns: Section. Raises: InputError. Source: generic low-side values; statics 2.
    """
    positive(b=b, h=h, area=area, iy=iy, iz=iz, j=j)
    return Section(area, iy, iz, j, h / 2, b / 2, 0.5)


def caution(shape: str, dims: Mapping[str, float]) -> str:
    """What sections of a shape are bad at.

    shape: as the catalogue names it
    dims: its sizes and values by name [m, m^2, m^4]

    Returns: a few words, "" where there is nothing to say. Source: statics 2, 11.
    """
    if shape == "round_tube" and dims["d"] / dims["t"] > 40:
        return "the wall may dimple"
    if shape == "profile" and dims["j"] < 0.2 * dims["iy"]:
        return "a slotted profile twists easily"
    return {"angle": "an angle twists and walks sideways", "channel": "a channel twists when loaded off its web"}.get(
        shape, ""
    )


def drilled(section: Section, hole: Numbers, wall: Numbers) -> Numbers:
    """Section modulus left at a cross hole on the neutral axis.

    section: the sound section
    hole: hole diameter [m]
    wall: total material thickness the hole passes through [m]

    Returns: net modulus [m^3]. Raises: InputError when the hole takes the whole depth.
    Source: statics 3; the hole's rectangle subtracted.
    """
    refused("hole", hole, hole >= 2 * section.cz, "must be under the depth")
    return section.modulus * (1 - wall * hole**3 / 12 / section.iy)


def bored(section: Section, hole: Numbers, width: Numbers, depth: Numbers, wall: Numbers | None) -> Numbers:
    """Section modulus left at a hole bored in the plane of bending, through both outermost walls.

    section: the sound section
    hole: hole diameter [m]
    width: across the hole [m]
    depth: along the hole [m]
    wall: thickness of each of the two walls [m], half the depth for a solid bar; None for a shape of several webs,
        of which the hole takes as much as of the width

    Returns: net modulus [m^3], zero or less where nothing is left. Source: statics 3; the hole's strip subtracted.
    """
    if wall is None:
        return section.modulus * (1 - hole / width)
    inner = ew.larger(depth - 2 * wall, 0.0)
    return section.modulus * (1 - hole * (depth**3 - inner**3) / 12 / section.iy)
