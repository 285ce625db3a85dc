"""What a turn does to the picture: leaning, wandering, nodding, lagging and uneven turns; frames, recorder, lamps."""

from __future__ import annotations

import math

from hazel_lantern.core.document.project import Thing
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.optics import flicker, lens

HORIZON = math.radians(0.5)
RIPPLE = 0.02  # of the exposure, which is seen as bands or pulsing
OFF = 0.02  # of the picture's height, that a subject may wander unseen
NODS, LAGS = 0.01, 0.01  # of the picture's height
UNEVEN = 0.02  # of its speed


def _focal(optics: Optics) -> float:
    return float(lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m))


def turn_figures(design: Design, optics: Optics, orbit: Orbit, spin: Spun) -> Told:
    """Once a turn, frame by frame, and under lamps."""
    tell = Teller()
    _leans(tell, design, optics, orbit)
    if spin.fastest <= 0:
        return tell.told()
    _frames(tell, design, optics, spin)
    _lamps(tell, design, optics)
    return tell.told()


def _leans(tell: Teller, design: Design, optics: Optics, orbit: Orbit) -> None:
    lean = design.number("axis.plumb")
    focal = _focal(optics)
    aims = orbit.table + 0.1 - orbit.beam
    shift = focal * abs(aims) * math.tan(lean) / orbit.lens_at if orbit.inward else focal * math.tan(lean)
    given = (
        design.given("e", "axis.plumb", "axis out of plumb", "rad"),
        Given("f", optics.focal_m, "m:lens", "focal length", "shot.focal"),
    )
    tell.add(
        by_method(
            "travel.lean",
            "Picture leans, once a turn, by",
            2 * lean,
            "rad",
            "twice what the axis is out of plumb, from one side to the other",
            given[:1],
            source="geometry",
        ),
        by_method(
            "travel.shift",
            "and wanders by",
            2 * shift,
            "px",
            "what stands above the beam goes aside as the axis leans; looking outward the horizon does",
            given,
            source="drive 5.3",
        ),
    )
    tell.hold(
        "travel.lean",
        "travel.level",
        "Level picture",
        PICTURE,
        "axis.plumb",
        "Once a turn the picture leans by {}; {} passes.",
        at_most=HORIZON,
        remedies=(set_one("plumb", "Level the base to {}", "axis.plumb", math.radians(0.1), "rad"),),
    )


def _frames(tell: Teller, design: Design, optics: Optics, spin: Spun) -> None:
    made = flicker.turns(spin.fastest, optics.capture_fps, optics.shown_fps, design.number("recorder.time"))
    w = (
        Given("w", spin.fastest, "rad/s", "turns at its fastest", "travel.fastest"),
        Given("f", optics.capture_fps, "1/s", "frame rate shot", "shot.capture"),
    )
    tell.add(
        by_method(
            "travel.per_frame",
            "Turns between two frames by",
            made.per_frame,
            "rad",
            "speed over frame rate",
            w,
            source="dynamics 2",
        ),
        by_method("travel.frames", "Frames of a turn", made.frames, "1", "at its fastest", w, source="dynamics 2"),
        by_method(
            "travel.stops",
            "Light lost to the frame rate",
            max(0.0, math.log2(optics.capture_fps / optics.shown_fps)),
            "1",
            "doublings from the rate shown to the rate shot, in stops",
            (*w[1:], Given("p", optics.shown_fps, "1/s", "frame rate shown", "shot.shown")),
            source="drive 5.7",
        ),
        by_method(
            "travel.plays",
            "One turn plays for",
            made.plays,
            "s",
            "its frames at the rate shown",
            (*w, Given("p", optics.shown_fps, "1/s", "frame rate shown", "shot.shown")),
            source="dynamics 2",
        ),
    )
    if design.number("recorder.time") > 0:
        tell.add(
            by_method(
                "travel.recorded",
                "Recorder holds a turn of",
                made.recorded,
                "rad",
                "speed times its time",
                (*w, design.given("t", "recorder.time", "recorder holds", "s")),
                source="dynamics 2",
            )
        )
        tell.hold(
            "travel.recorded",
            "travel.buffer",
            "Recorder",
            PICTURE,
            "recorder.time",
            "The recorder holds {} of the turn; the move goes round by {}: start it when the speed stands.",
            at_least=spin.sweep,
            watch_at=1.0,
            state=CLEAR if made.recorded >= spin.sweep else WATCH,
        )


def _lamps(tell: Teller, design: Design, optics: Optics) -> None:
    mains, exposure, depth = (
        float(design.text("mains.hz")),
        design.number("camera.exposure"),
        design.number("lamp.depth"),
    )
    lamp = flicker.flicker(optics.capture_fps, exposure, mains, depth)
    light = (
        Given("t", exposure, "s", "exposure of a frame", "camera.exposure"),
        Given("d", depth, "1", "ripple of the lamps", "lamp.depth"),
        Given("f", optics.capture_fps, "1/s", "frame rate shot", "shot.capture"),
    )
    tell.add(
        by_method(
            "travel.ripple",
            "Lamps ripple the exposure by",
            lamp.ripple,
            "1",
            "what is left of their ripple over an exposure",
            light,
            source="dynamics 2",
        ),
        by_method(
            "travel.beat",
            "at",
            lamp.beat,
            "Hz",
            "twice the mains against the frame rate; 0 is a steady level",
            light,
            source="dynamics 2",
        ),
    )
    better = round(1 / (2 * mains), 5)
    steady = lamp.beat < 1e-9
    tell.hold(
        "travel.ripple",
        "travel.flicker",
        "Lamps",
        PICTURE,
        "camera.exposure",
        "Lamps ripple the exposure by {} of it; {} passes."
        if not steady
        else "The lamps ripple by {} of the exposure in step with the frames, which is not seen; {} passes out of "
        "step.",
        at_most=RIPPLE,
        state=CLEAR if steady or lamp.ripple <= RIPPLE else WATCH,
        remedies=(set_one("exposure", "Expose for {}", "camera.exposure", better, "s"),)
        if better <= 1 / optics.capture_fps
        else (),
    )


def keeps_figures(design: Design, move: Move, optics: Optics, subject: Thing | None, orbit: Orbit, spin: Spun) -> Told:
    """Whether the picture keeps what it shows over the turn: subject off the axis, table's edge, riser and arm that
    give as it speeds up, and a speed that is not even.
    """
    tell = Teller()
    _off_axis(tell, design, optics, orbit)
    if subject is not None and orbit.inward:
        _table_edge(tell, optics, subject, orbit)
    if spin.fastest > 0:
        _gives(tell, design, move, optics, orbit, spin)
        _uneven(tell, design, orbit, spin)
    return tell.told()


def _off_axis(tell: Teller, design: Design, optics: Optics, orbit: Orbit) -> None:
    if not orbit.inward:
        return
    off = design.number("table.off")
    wanders = 2 * _focal(optics) * off / orbit.lens_at
    given = (
        design.given("e", "table.off", "off the axis", "m"),
        Given("R", orbit.lens_at, "m", "lens goes round at", "rig.radius"),
    )
    near = orbit.lens_at - off
    size = (orbit.lens_at + off) / near - 1 if near > 0 else math.inf
    tell.add(
        by_method(
            "travel.wanders",
            "Subject wanders, once a turn, by",
            wanders,
            "px",
            "2 F e / R, from one side to the other",
            given,
            source="drive 5.3",
        ),
        by_method(
            "travel.grows_by",
            "and grows and shrinks by",
            size,
            "1",
            "nearest against furthest",
            given,
            source="drive 5.3",
        ),
    )
    most = OFF * optics.pixels_high
    tell.hold(
        "travel.wanders",
        "travel.centred",
        "Subject on the axis",
        PICTURE,
        "table.off",
        "Off the axis as it stands it wanders by {} once a turn; {} is not minded.",
        at_most=most,
        state=CLEAR if wanders <= most else WATCH,
        remedies=(
            set_one(
                "centre", "Set it to within {}", "table.off", round(0.4 * most / _focal(optics) * orbit.lens_at, 4), "m"
            ),
        ),
    )


def _table_edge(tell: Teller, optics: Optics, subject: Thing, orbit: Orbit) -> None:
    """Where the near edge of the table lies in a picture that looks at the middle of its subject."""
    aimed = subject.at_m[2] + subject.size_m[2] / 2
    pitch = math.atan2(aimed - orbit.lens_high, orbit.lens_at)
    depth = orbit.lens_at - orbit.table_radius
    if depth <= 0.01:
        return
    at = math.atan2(orbit.table - orbit.lens_high, depth) - pitch
    if abs(at) >= math.pi / 2:
        return
    share = 0.5 + _focal(optics) * math.tan(at) / optics.pixels_high
    tell.add(
        by_method(
            "travel.table_edge",
            "Table's near edge lies, of the picture's height, at",
            share,
            "1",
            "from the bottom, 0, to the top, 1; beyond them it is out of the picture",
            (
                Given("h", orbit.table, "m", "table", "table.height"),
                Given("R", orbit.table_radius, "m", "its radius", "table.radius"),
                Given("z", orbit.lens_high, "m", "lens", "riser.height"),
            ),
            source="drive 5.9",
        )
    )
    seen = 0.0 <= share <= 1.0
    tell.hold(
        "travel.table_edge",
        "travel.edge",
        "Table's edge in the picture",
        PICTURE,
        "table.radius",
        "The table's near edge is seen, {} up the picture: dress it, or take a smaller table."
        if seen
        else "The table's edge stays out of the picture.",
        at_most=0.0,
        state=WATCH if seen else CLEAR,
    )


def _gives(tell: Teller, design: Design, move: Move, optics: Optics, orbit: Orbit, spin: Spun) -> None:
    """Riser bent outwards by the pull, and the arm bent sideways as it speeds up."""
    focal, kit, radius = _focal(optics), orbit.turns_as[0][0], orbit.turns_as[0][1]
    high = abs(float(orbit.kit_at[2]) - orbit.beam)
    material = design.catalogue.materials[orbit.rises.material]
    upright = material.E * float(orbit.rises.section().least)
    pull = kit * spin.fastest**2 * radius
    turned, out = pull * high**2 / (2 * upright), pull * high**3 / (3 * upright)
    nods = focal * turned
    tell.add(
        by_method(
            "travel.nods",
            "Picture nods, from standing to its fastest, by",
            nods,
            "px",
            "the riser bent by the pull outwards, at its end; the camera moves out by F h³ / 3 EI",
            (
                Given("F", pull, "N", "pulled outwards", "shot.time"),
                Given("h", high, "m", "camera from the arm", "riser.height"),
                Given("EI", upright, "N*m^2", "bending stiffness", "riser.section"),
            ),
            source="dynamics 2, drive 5.3",
        ),
        by_method(
            "travel.bent_out",
            "Camera is bent outwards by",
            out,
            "m",
            "F h³ / 3 EI",
            (Given("F", pull, "N", "pulled outwards", "shot.time"),),
            source="statics 4.1",
        ),
    )
    _within(
        tell,
        optics,
        "travel.nods",
        "travel.nod",
        "Riser as it speeds up",
        "riser.section",
        NODS,
        "Bent by the pull outwards the picture nods by {} as it speeds up; {} is not minded.",
    )
    hardest = spin.sweep * move.profile.peak_acceleration
    if not math.isfinite(hardest):
        return
    sideways = orbit.material.E * float(orbit.bar.section().iz)
    force = kit * hardest * radius
    yaw = force * orbit.radius**2 / (2 * sideways)
    tell.add(
        by_method(
            "travel.lags",
            "Arm lags, at its hardest ease, by",
            focal * yaw,
            "px",
            "bent sideways by what speeds the camera up",
            (
                Given("F", force, "N", "speeds the camera up", "shot.time"),
                Given("L", orbit.radius, "m", "camera arm", "arm.front"),
                Given("EI", sideways, "N*m^2", "sideways", "arm.section"),
            ),
            source="dynamics 2, drive 5.3",
        )
    )
    _within(
        tell,
        optics,
        "travel.lags",
        "travel.lag",
        "Arm as it speeds up",
        "shot.time",
        LAGS,
        "Bent sideways as it speeds up the picture lags by {}; {} is not minded.",
    )


def _within(
    tell: Teller, optics: Optics, figure: str, key: str, title: str, where: str, share: float, words: str
) -> None:
    most = share * optics.pixels_high
    tell.hold(
        figure, key, title, PICTURE, where, words, at_most=most, state=CLEAR if tell.value(figure) <= most else WATCH
    )


def _uneven(tell: Teller, design: Design, orbit: Orbit, spin: Spun) -> None:
    """What is out of balance runs downhill on a leaning axis and up again: faster and slower once a turn."""
    heavy, lean = abs(spin.hub.unbalance), design.number("axis.plumb")
    share = GRAVITY * heavy * math.sin(lean) / (spin.hub.inertia * spin.fastest**2) if spin.hub.inertia > 0 else 0.0
    given = (
        Given("U", heavy, "kg*m", "out of balance by", "balance.off"),
        design.given("e", "axis.plumb", "axis out of plumb", "rad"),
        Given("w", spin.fastest, "rad/s", "turns at its fastest", "travel.fastest"),
    )
    tell.add(
        by_method(
            "travel.uneven",
            "Let go, it runs faster and slower by",
            share,
            "1",
            "weight of what is out of balance up and down a leaning axis, over the energy of the turn; either way",
            given,
            valid="small against 1",
            source="dynamics 2, energy",
        )
    )
    tell.hold(
        "travel.uneven",
        "travel.even",
        "Even turn",
        PICTURE,
        "weights.mass",
        "Out of balance on a leaning axis it runs faster and slower by {} once a turn; {} is not seen."
        if share < 1
        else "Out of balance on a leaning axis it does not come round by itself, it swings: {}, where {} is not seen.",
        at_most=UNEVEN,
        state=CLEAR if share <= UNEVEN else WATCH,
        remedies=(set_one("plumb", "Level its axis to {}", "axis.plumb", math.radians(0.1), "rad"),),
    )
