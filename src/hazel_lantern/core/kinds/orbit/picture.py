"""Whether an orbit rig brings its lens where the shot wants it, and what it takes to do so."""

from __future__ import annotations

import math

from hazel_lantern.core.document.shot import ARC, CIRCLE
from hazel_lantern.core.kinds.base import Changes, Design
from hazel_lantern.core.kinds.orbit.design import DESK, RING, SHAFT
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.shared.moving import move_figures
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

NEAR = 0.05  # metres off the wish that pass


def fits_figures(move: Move, optics: Optics, orbit: Orbit, spin: Spun) -> Told:
    """Radius and height of the lens against the shot's wish."""
    tell = Teller()
    tell.take(move_figures(move, optics, spin.sweep * orbit.lens_at, "way of the lens round the axis", ""))
    wish = math.dist(move.start_at_m, move.centre) if move.centre is not None else orbit.lens_at
    high = (move.start_height_m + move.end_height_m) / 2
    tell.add(
        by_method(
            "rig.radius",
            "Lens goes round at",
            orbit.lens_at,
            "m",
            "camera arm less the lens ahead of its mount",
            (Given("r", orbit.radius, "m", "camera arm", "arm.front"),),
            source="geometry",
            headline=True,
        ),
        by_method(
            "shot.lens_off",
            "Lens off its height, half-way",
            abs(orbit.lens_high - high),
            "m",
            "beam, riser and lens against the shot",
            (
                Given("z", orbit.lens_high, "m", "lens", "riser.height"),
                Given("h", high, "m", "asked for", "shot.start"),
            ),
            source="geometry",
        ),
        by_method(
            "shot.radius_off",
            "Lens off its circle",
            abs(orbit.lens_at - wish),
            "m",
            "against the shot",
            (Given("r", orbit.lens_at, "m", "lens", "arm.front"), Given("R", wish, "m", "asked for", "shot.start")),
            source="geometry",
        ),
    )
    riser = round(orbit.riser + high - orbit.lens_high, 3)
    tell.hold(
        "shot.lens_off",
        "shot.height",
        "Height of the lens",
        PICTURE,
        "riser.height",
        Words("The lens goes round at {}; the shot asks for {}.", ((orbit.lens_high, "m"), (high, "m"))),
        at_most=NEAR,
        state=CLEAR if tell.value("shot.lens_off") <= NEAR else WATCH,
        remedies=(set_one("riser", "Riser of {}", "riser.height", riser, "m"),) if -0.8 <= riser <= 1.2 else (),
    )
    arm = round(orbit.radius + wish - orbit.lens_at, 3)
    tell.hold(
        "shot.radius_off",
        "shot.circle",
        "Circle of the lens",
        PICTURE,
        "arm.front",
        Words("The lens goes round at {} from the axis; the shot asks for {}.", ((orbit.lens_at, "m"), (wish, "m"))),
        at_most=NEAR,
        state=CLEAR if tell.value("shot.radius_off") <= NEAR else WATCH,
        remedies=(set_one("arm", "Camera arm {}", "arm.front", arm, "m"),) if 0.2 <= arm <= 2.5 else (),
    )
    if move.centre is None:
        words = Words(
            "The shot looks at nothing to go round: choose what it looks at."
            if move.move in (ARC, CIRCLE)
            else "The shot goes straight; this goes round: a circle or an arc about what it looks at suits it."
        )
        tell.findings.append(Finding("shot.round", "A move that goes round", PICTURE, WATCH, "shot.move", words))
    return tell.told()


def sized_orbit(design: Design, move: Move, orbit: Orbit) -> Changes:
    """Arm, riser and table's room that make the shot. Raises InfeasibleError for what goes straight or climbs."""
    if move.centre is None:
        raise InfeasibleError("it goes straight; an orbit rig goes round what it looks at")
    if abs(move.end_height_m - move.start_height_m) > 0.1:
        raise InfeasibleError("it climbs as it goes round; a beam on a shaft stays level", climbs=0.1)
    radius = math.dist(move.start_at_m, move.centre)
    arm = round(radius + orbit.radius - orbit.lens_at, 3)
    if not 0.2 <= arm <= 2.5:
        raise InfeasibleError(f"it goes round at {radius:.2f} m; arms here are 0.2 to 2.5 m long")
    wanted = (move.start_height_m + move.end_height_m) / 2
    riser = orbit.riser + wanted - orbit.lens_high
    changes: list[tuple[str, object]] = [("arm.front", arm)]
    if not -0.8 <= riser <= 1.2:  # what the riser cannot, all that turns goes up or down
        key, now, low, high = {
            SHAFT: ("beam.height", orbit.beam, 0.1, 4.5),
            RING: ("hung.height", orbit.structure, 1.2, 6.0) if orbit.structure else ("", 0.0, 0.0, 0.0),
            DESK: ("frame.height", orbit.frame.height if orbit.frame else 0.0, 0.9, 2.4),
        }[design.variant]
        if key:
            to = round(min(high, max(low, now + riser - math.copysign(0.4, riser))), 3)
            riser -= to - now
            changes.append((key, to))
            if not orbit.overhead:
                changes.append(("table.height", round(min(2.0, orbit.table + to - now), 3)))
    if not -0.8 <= riser <= 1.2:
        raise InfeasibleError("no riser here brings the lens to that height")
    if orbit.frame is not None:
        reach = round(orbit.frame.reach + max(0.0, arm + 0.17 - orbit.frame.reach), 3)
        if reach > 1.6:
            raise InfeasibleError(f"a frame would have to reach over by {reach:.2f} m; 1.6 m is the most here")
        if reach != orbit.frame.reach:
            changes.append(("frame.reach", reach))
    return (*changes, ("riser.height", round(riser, 3)))
