"""What holds the camera on its arm: the riser, its bolts, the plate the camera is screwed to."""

from __future__ import annotations

import math
from collections.abc import Iterable

from msgspec import Struct

from hazel_lantern.core.catalogue import StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import Orbit, bolts_apart, packed
from hazel_lantern.core.kinds.orbit.parts import LAID
from hazel_lantern.core.kinds.shared.fixings import ANGLE_HOLE, PRIES
from hazel_lantern.core.kinds.shared.holes import Drilled, left_beside
from hazel_lantern.core.kinds.shared.works import SHEAR_OF_STEEL, bears, bolt_bears, works
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import within
from hazel_lantern.core.workshop.solids import TOP

M6 = 20.1e-6  # square metres of that bolt
SOUND = 0.9  # of what is allowed, and of what it was, so that the mended plate is not told again


def riser_works(tell: Teller, design: Design, orbit: Orbit, speed: float, knock: float) -> None:
    """Pulled outwards and bumped at the camera, over its foot at the beam."""
    if abs(orbit.riser) <= orbit.bar.depth:
        return
    high = abs(float(orbit.kit_at[2]) - orbit.beam)
    out = speed**2 * orbit.turns_as[0][0] * orbit.turns_as[0][1]
    off = GRAVITY * orbit.turns_as[0][0] * abs(float(orbit.kit_at[0]) - orbit.radius)
    section = orbit.rises.section()
    modulus = left_beside(orbit.rises, Drilled(0.0, 0.0065, TOP, "beam"))
    stress = HAND_SWING * (out * high + off + knock * high) / modulus if modulus > 0 else math.inf
    works(
        tell,
        "rig.riser",
        "riser at the beam",
        stress,
        bears(design, design.catalogue.materials[orbit.rises.material]),
        "pull outwards, camera ahead of it and a bump, times 1.5, over what its bolts leave",
        (
            Given("F", out, "N", "pulled outwards", "shot.time"),
            Given("h", high, "m", "camera above the beam", "riser.height"),
            Given("F_b", knock, "N", "bump at the camera"),
            Given("Z", float(section.modulus), "m^3", "its section modulus", "riser.section"),
        ),
        "riser.section",
        source="dynamics 2, statics 3",
    )
    apart, allowed = bolts_apart(orbit.bar.depth), SHEAR_OF_STEEL * bolt_bears(design)
    bent = HAND_SWING * (out * high + off + knock * high)
    works(
        tell,
        "rig.riser_bolts",
        "bolt of the riser",
        bent / apart / M6,
        allowed,
        "the same moment over the two bolts' distance, on one M6 cut across",
        (
            Given("M", bent, "N*m", "at the riser's foot", "riser.height"),
            Given("a", apart, "m", "bolts apart", "arm.section"),
        ),
        "arm.section",
        source="statics 13",
        remedies=_deeper(design, orbit, bent / M6 / allowed),
    )


class Plate(Struct, frozen=True):
    """What the bolts of a camera's plate have to hold: what turns it along the arm and across it [N*m], and what hangs
    on one of the two [N].
    """

    along: float
    across: float
    hangs: float

    def pull(self, apart: float, wide: float) -> float:
        """On one of two bolts so far apart along the arm, on the middle line of what they stand on, so wide [N]."""
        return self.along / apart + self.across / wide + self.hangs


def plate_works(tell: Teller, design: Design, orbit: Orbit, speed: float, knock: float) -> None:
    """The bolts that hold the camera's plate: of the angles at its riser, or through the arm it lies on; bumped along
    the arm or across it, whichever pulls more.
    """
    mass, radius = orbit.turns_as[0][0], orbit.turns_as[0][1]
    risen = abs(orbit.riser) > orbit.bar.depth
    high = abs(float(orbit.kit_at[2]) - orbit.beam - orbit.riser)
    out = speed**2 * mass * radius * high + GRAVITY * mass * abs(float(orbit.kit_at[0]) - orbit.radius)
    hangs = GRAVITY * mass / 2 if orbit.riser < 0 else 0.0
    aside = (orbit.bar.width + orbit.rises.width) / 2 + packed(orbit) if risen else 0.0
    leans = GRAVITY * mass * aside
    bumped = Plate(out + knock * high, leans, hangs), Plate(out, leans + knock * high, hangs)
    stands_on = orbit.rises if risen else orbit.bar
    stress = max(_plate_stress(plate, stands_on, risen=risen) for plate in bumped)
    pries = ", half as much again as an angle pries" if risen else ""
    works(
        tell,
        "rig.plate_bolts",
        "bolts of the camera plate",
        stress,
        bolt_bears(design),
        "pull outwards, the camera off its screw and beside its riser, a bump either way, over bolts' distance and "
        f"what they stand on{pries}, times 1.5, on one M6",
        (
            Given("M", out, "N*m", "turns the plate along the arm", "shot.time"),
            Given("F_b", knock, "N", "bump at the camera"),
            Given("h", high, "m", "camera above its plate", "kit"),
            Given("y", aside, "m", "camera beside its riser", "riser.section"),
            Given("m", mass, "kg", "camera kit", "kit"),
        ),
        "kit",
        source="dynamics 2, statics 13",
        remedies=_broader(design, orbit, bumped) if risen else (),
    )


def _plate_stress(plate: Plate, bar: StockSection, *, risen: bool) -> float:
    """Of the bolt that is pulled most, the plate held on a bar [Pa]."""
    apart = bar.depth + 2 * ANGLE_HOLE if risen else LAID[1] - LAID[0]
    return HAND_SWING * (PRIES if risen else 1.0) * plate.pull(apart, bar.width) / M6


def _deeper(design: Design, orbit: Orbit, apart: float) -> tuple[Remedy, ...]:
    """The lightest arm of the same material deep enough for the riser's bolts that far apart [m]."""
    enough = [
        bar
        for bar in design.catalogue.sections.values()
        if bar.material == orbit.bar.material
        and bar.shape == orbit.bar.shape
        and bolts_apart(bar.depth) >= 1.05 * apart
    ]
    best = _lightest(enough)
    return (set_one("deeper", f"An arm of {within(best.name)}", "arm.section", best.id),) if best else ()


def _broader(design: Design, orbit: Orbit, bumped: tuple[Plate, ...]) -> tuple[Remedy, ...]:
    """The lightest riser of the same material and shape that holds its plate."""

    def stress(bar: StockSection) -> float:
        return max(_plate_stress(plate, bar, risen=True) for plate in bumped)

    most = SOUND * min(bolt_bears(design), stress(orbit.rises))
    enough = [
        bar
        for bar in design.catalogue.sections.values()
        if bar.material == orbit.rises.material and bar.shape == orbit.rises.shape and stress(bar) <= most
    ]
    best = _lightest(enough)
    return (set_one("broader", f"A riser of {within(best.name)}", "riser.section", best.id),) if best else ()


def _lightest(bars: Iterable[StockSection]) -> StockSection | None:
    return min(bars, key=lambda bar: float(bar.section().area), default=None)
