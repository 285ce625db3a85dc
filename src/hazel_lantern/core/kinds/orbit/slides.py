"""Arms on drawer slides: what their clamps hold, how hard the slides are pressed,
what their play does to the picture."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.orbit.turning import OVERSHOOT
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STRUCTURE, WATCH, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.optics import lens

HOLDS = 2.0  # of the pull outwards, that a clamp must hold
PAIR = 600.0  # newtons across its run that a pair of common drawer slides bears drawn half out, workshop judgement
PIXELS = 2.0  # of play that nobody sees
UNEVEN = 1e-3  # metres by which one arm may be drawn out further than the other, as it is told


def slide_figures(design: Design, optics: Optics, orbit: Orbit, spin: Spun) -> Told:
    """Nothing for arms that are bolted."""
    if not orbit.slides:
        return Told()
    tell, speed = Teller(), OVERSHOOT * spin.fastest
    overlap, play = design.number("slide.overlap"), design.number("slide.play")
    held, drawn = (
        design.given("l", "slide.overlap", "slide is held over", "m"),
        Given("r", orbit.radius, "m", "camera arm", "arm.front"),
    )
    pull = max(speed**2 * sum(m * r for m, r, _, _ in side) for side in orbit.sides)
    tell.add(
        by_method(
            "rig.slide_pull",
            "An arm is pulled out of its slide with",
            pull,
            "N",
            "speed squared times mass and radius of the heavier side",
            (drawn,),
            source="dynamics 2",
        )
    )
    clamp = design.number("slide.clamp")
    tell.hold(
        "rig.slide_pull",
        "rig.slide_clamp",
        "Clamps of the slides",
        STRUCTURE,
        "slide.clamp",
        "An arm is pulled out of its slide with {}; half of what its clamp holds is {}. Put a stop pin through both, "
        "too.",
        at_most=clamp / HOLDS,
    )
    mouth = orbit.inner + overlap
    bends = max(GRAVITY * sum(m * max(0.0, r - mouth) for m, r, _, _ in side) for side in orbit.sides)
    press = HAND_SWING * bends / overlap
    tell.add(
        by_method(
            "rig.slide_press",
            "Slides of an arm are pressed with",
            press,
            "N",
            "weight beyond their mouth over what is held inside, times 1.5",
            (held, drawn),
            source="statics 5.3",
        )
    )
    longer = round(min(0.6, 1.3 * overlap), 3)
    tell.hold(
        "rig.slide_press",
        "rig.slides_bear",
        "Drawer slides",
        STRUCTURE,
        "slide.overlap",
        "The slides of an arm are pressed with {}; a pair drawn half out bears about {}.",
        at_most=PAIR,
        remedies=(set_one("longer", "Held over {}", "slide.overlap", longer, "m"),) if longer > overlap else (),
    )
    turns = play / overlap
    focal = lens.focal_pixels(optics.focal_m, optics.pixels_high, optics.sensor_height_m)
    beside = turns * (orbit.radius - orbit.inner)
    given = (design.given("p", "slide.play", "side play", "m"), held)
    tell.add(
        by_method(
            "travel.slide_play",
            "Play moves the camera to the side by",
            beside,
            "m",
            "play over what is held, times the arm",
            (*given, drawn),
            source="statics 5.3",
        ),
        by_method(
            "travel.slide_px",
            "and what is far off in the picture by",
            focal * turns,
            "px",
            "F play / l",
            given,
            source="drive 5.3",
        ),
        by_method(
            "balance.slide_uneven",
            "An arm drawn out 1 mm too far unbalances it by",
            UNEVEN * sum(row[0] for row in orbit.sides[0]),
            "kg*m",
            "mass of the camera's side times that millimetre",
            (drawn,),
            source="dynamics 2",
        ),
    )
    tell.hold(
        "travel.slide_px",
        "travel.slides",
        "Play of the slides",
        PICTURE,
        "slide.play",
        "Play of the slides moves the picture by {} as it starts and stops; {} is hardly seen: shim them, or wedge "
        "them with the clamp.",
        at_most=PIXELS,
        state=CLEAR if focal * turns <= PIXELS else WATCH,
    )
    return tell.told()
