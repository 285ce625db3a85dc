"""What a turn does to the picture: a leaning axis once a turn, frames and lamps, whether it is where the shot wants it."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Changes, Design
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.turning import Spun
from hazel_lantern.core.kinds.shared.moving import move_figures
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import flicker, lens

HORIZON = math.radians(0.5)
RIPPLE = 0.02  # of the exposure, which is seen as bands or pulsing
NEAR = 0.05  # metres off the wish that pass


def fits_figures(move: Move, optics: Optics, orbit: Orbit, spin: Spun) -> Told:
    """Radius and height of the lens against the shot's wish."""
    tell = Teller()
    tell.take(move_figures(move, optics, spin.sweep * orbit.lens_at, "way of the lens round the axis", ""))
    wish = math.dist(move.start_at_m, move.centre) if move.centre is not None else orbit.lens_at
    high = (move.start_height_m + move.end_height_m) / 2
    tell.add(
        by_method("rig.radius", "Lens goes round at", orbit.lens_at, "m", "camera arm less the lens ahead of its mount", (Given("r", orbit.radius, "m", "camera arm", "arm.front"),), source="geometry", headline=True),
        by_method("shot.lens_off", "Lens off its height, half-way", abs(orbit.lens_high - high), "m", "beam, riser and lens against the shot", (Given("z", orbit.lens_high, "m", "lens", "riser.height"), Given("h", high, "m", "asked for", "shot.start")), source="geometry"),
        by_method("shot.radius_off", "Lens off its circle", abs(orbit.lens_at - wish), "m", "against the shot", (Given("r", orbit.lens_at, "m", "lens", "arm.front"), Given("R", wish, "m", "asked for", "shot.start")), source="geometry"),
    )  # fmt: skip
    riser = round(orbit.riser + high - orbit.lens_high, 3)
    tell.hold(
        "shot.lens_off", "shot.height", "Height of the lens", PICTURE, "riser.height",
        Words("The lens goes round at {}; the shot asks for {}.", ((orbit.lens_high, "m"), (high, "m"))), at_most=NEAR,
        state=CLEAR if tell.value("shot.lens_off") <= NEAR else WATCH,
        remedies=(set_one("riser", "Riser of {}", "riser.height", riser, "m"),) if -0.8 <= riser <= 1.2 else (),
    )  # fmt: skip
    arm = round(orbit.radius + wish - orbit.lens_at, 3)
    tell.hold(
        "shot.radius_off", "shot.circle", "Circle of the lens", PICTURE, "arm.front",
        Words("The lens goes round at {} from the axis; the shot asks for {}.", ((orbit.lens_at, "m"), (wish, "m"))), at_most=NEAR,
        state=CLEAR if tell.value("shot.radius_off") <= NEAR else WATCH,
        remedies=(set_one("arm", "Camera arm {}", "arm.front", arm, "m"),) if 0.2 <= arm <= 2.5 else (),
    )  # fmt: skip
    if move.centre is None:
        words = Words("The shot goes straight; this goes round: a circle or an arc about what it looks at suits it.")
        tell.findings.append(Finding("shot.round", "A move that goes round", PICTURE, WATCH, "shot.move", words))
    return tell.told()


def turn_figures(design: Design, optics: Optics, orbit: Orbit, spin: Spun) -> Told:
    """Once a turn, frame by frame, and under lamps."""
    tell = Teller()
    lean = design.number("axis.plumb")
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    aims = orbit.table + 0.1 - orbit.beam
    shift = focal * abs(aims) * math.tan(lean) / orbit.lens_at if orbit.inward else focal * math.tan(lean)
    given = (
        design.given("e", "axis.plumb", "axis out of plumb", "rad"),
        Given("f", optics.focal_m, "m:lens", "focal length", "shot.focal"),
    )
    tell.add(
        by_method("travel.lean", "Picture leans, once a turn, by", 2 * lean, "rad", "twice what the axis is out of plumb, from one side to the other", given[:1], source="geometry"),
        by_method("travel.shift", "and wanders by", 2 * shift, "px", "what stands above the beam goes aside as the axis leans; looking outward the horizon does", given, source="drive 5.3"),
    )  # fmt: skip
    tell.hold(
        "travel.lean", "travel.level", "Level picture", PICTURE, "axis.plumb",
        "Once a turn the picture leans by {}; {} passes.", at_most=HORIZON,
        remedies=(set_one("plumb", "Level the base to {}", "axis.plumb", math.radians(0.1), "rad"),),
    )  # fmt: skip
    if spin.fastest <= 0:
        return tell.told()
    made = flicker.turns(spin.fastest, optics.capture_fps, optics.shown_fps, design.number("recorder.time"))
    w = (
        Given("w", spin.fastest, "rad/s", "turns at its fastest", "travel.fastest"),
        Given("f", optics.capture_fps, "1/s", "frame rate shot", "shot.capture"),
    )
    tell.add(
        by_method("travel.per_frame", "Turns between two frames by", made.per_frame, "rad", "speed over frame rate", w, source="dynamics 2"),
        by_method("travel.frames", "Frames of a turn", made.frames, "1", "at its fastest", w, source="dynamics 2"),
        by_method("travel.plays", "One turn plays for", made.plays, "s", "its frames at the rate shown", (*w, Given("p", optics.shown_fps, "1/s", "frame rate shown", "shot.shown")), source="dynamics 2"),
    )  # fmt: skip
    if design.number("recorder.time") > 0:
        tell.add(
            by_method("travel.recorded", "Recorder holds a turn of", made.recorded, "rad", "speed times its time", (*w, design.given("t", "recorder.time", "recorder holds", "s")), source="dynamics 2")
        )  # fmt: skip
        tell.hold(
            "travel.recorded", "travel.buffer", "Recorder", PICTURE, "recorder.time",
            "The recorder holds {} of the turn; the move goes round by {}: start it when the speed stands.", at_least=spin.sweep, watch_at=1.0,
            state=CLEAR if made.recorded >= spin.sweep else WATCH,
        )  # fmt: skip
    mains, exposure, depth = (
        float(design.text("mains.hz")),
        design.number("camera.exposure"),
        design.number("lamp.depth"),
    )
    lamp = flicker.flicker(optics.capture_fps, exposure, mains, depth)
    light = (
        Given("t", exposure, "s", "exposure of a frame", "camera.exposure"),
        Given("d", depth, "1", "ripple of the lamps", "lamp.depth"),
        w[1],
    )
    tell.add(
        by_method("travel.ripple", "Lamps ripple the exposure by", lamp.ripple, "1", "what is left of their ripple over an exposure", light, source="dynamics 2"),
        by_method("travel.beat", "at", lamp.beat, "Hz", "twice the mains against the frame rate; 0 is a steady level", light, source="dynamics 2"),
    )  # fmt: skip
    better = round(1 / (2 * mains), 5)
    steady = lamp.beat < 1e-9
    tell.hold(
        "travel.ripple", "travel.flicker", "Lamps", PICTURE, "camera.exposure",
        "Lamps ripple the exposure by {} of it; {} passes." if not steady else "The lamps ripple by {} of the exposure in step with the frames, which is not seen; {} passes out of step.",
        at_most=RIPPLE, state=CLEAR if steady or lamp.ripple <= RIPPLE else WATCH,
        remedies=(set_one("exposure", "Expose for {}", "camera.exposure", better, "s"),) if better <= 1 / optics.capture_fps else (),
    )  # fmt: skip
    return tell.told()


def sized_orbit(move: Move, orbit: Orbit) -> Changes:
    """Arm, riser and table's room that make the shot. Raises InfeasibleError for what goes straight or climbs."""
    if move.centre is None:
        raise InfeasibleError("it goes straight; an orbit rig goes round what it looks at")
    if abs(move.end_height_m - move.start_height_m) > 0.1:
        raise InfeasibleError("it climbs as it goes round; a beam on a shaft stays level", climbs=0.1)
    radius = math.dist(move.start_at_m, move.centre)
    arm = round(radius + orbit.radius - orbit.lens_at, 3)
    if not 0.2 <= arm <= 2.5:
        raise InfeasibleError(f"it goes round at {radius:.2f} m; arms here are 0.2 to 2.5 m long")
    riser = orbit.riser + (move.start_height_m + move.end_height_m) / 2 - orbit.lens_high
    beam = orbit.beam
    if orbit.ring is None and not -0.8 <= riser <= 1.2:  # the whole beam goes up or down with what the riser cannot
        beam = round(min(2.2, max(0.1, beam + riser - 0.4)), 3)
        riser -= beam - orbit.beam
    if not -0.8 <= riser <= 1.2:
        raise InfeasibleError("no riser here brings the lens to that height")
    changes: list[tuple[str, object]] = [("arm.front", arm), ("riser.height", round(riser, 3))]
    if beam != orbit.beam:
        changes += [("beam.height", beam), ("table.height", round(min(2.0, orbit.table + beam - orbit.beam), 3))]
    return tuple(changes)
