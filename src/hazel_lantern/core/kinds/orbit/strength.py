"""What the parts of an orbit rig bear: beam, riser, shaft, bearings, the camera's screw."""

from __future__ import annotations

import math

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Turntable
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.design import TWO
from hazel_lantern.core.kinds.orbit.model import ARM_HELD, Orbit
from hazel_lantern.core.kinds.orbit.parts import HELD
from hazel_lantern.core.kinds.orbit.risers import M6, plate_works, riser_works
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.kinds.orbit.turning import OVERSHOOT
from hazel_lantern.core.kinds.shared.holes import Drilled, left_beside
from hazel_lantern.core.kinds.shared.splices import ROUND
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.kinds.shared.works import bears, bolt_bears, works
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.solids import TOP

BEARS = 2400.0  # newtons that a flange bearing bears standing still, of a small one; take your supplier's
SAFE = 2.0
SCREW = 2500.0  # newtons a camera screw may be drawn to, workshop judgement
FRICTION = 0.15
EDGE = 0.03  # metres from the camera's screw to the edge of its foot
HUB_HOLE = 0.0065
RING_ACROSS = {"plate-150": 0.12, "plate-300": 0.26, "ring-200": 0.18}  # metres across their balls
PIN_MODULUS = 93.8e-9  # cubic metres, core of an M12 rod
FLANGE_LEVER = 0.09  # metres from the axis to a foot's screws
FOOT_SCREWS = 1200.0  # newtons two of them hold, workshop judgement


def strength_figures(design: Design, orbit: Orbit, spin: Spun) -> Told:
    """At a tenth over its fastest, and a bump at the camera as it stands."""
    tell, speed = Teller(), OVERSHOOT * spin.fastest
    knock = bump(design, orbit.weight)
    design = judged(design, orbit)
    _beam(tell, design, orbit, speed, knock)
    riser_works(tell, design, orbit, speed, knock)
    plate_works(tell, design, orbit, speed, knock)
    _pin(tell, design, orbit, speed)
    if not orbit.overhead:
        _shaft(tell, design, orbit, speed, knock)
    _bearings(tell, design, orbit, speed, knock)
    _screw(tell, orbit, speed)
    if orbit.ring is None or not orbit.overhead:
        tell.findings.append(_round(orbit))
    return tell.told()


def judged(design: Design, orbit: Orbit) -> Design:
    """What hangs from a structure is judged as overhead, whatever was chosen."""
    return replace(design, values={**design.values, "safety": "D"}) if orbit.structure else design


def _round(orbit: Orbit) -> Finding:
    """Bearings and collars take round shafts only."""
    fine = orbit.shaft.shape in ROUND
    words = Words(
        "The shaft is round." if fine else "What turns runs on a round shaft: choose a round tube or rod for it."
    )
    mend = () if fine else (set_one("round", "A round tube 33.7×3.2", "shaft.section", "galv-round-33.7x3.2"),)
    return Finding(
        "rig.round_shaft",
        "Round shaft",
        STRUCTURE,
        CLEAR if fine else STOP,
        "shaft.section",
        words,
        float(fine),
        1.0,
        "at_least",
        "1",
        mend,
    )


def _beam(tell: Teller, design: Design, orbit: Orbit, speed: float, knock: float) -> None:
    """At the hub's bolts, whichever side bends it more: weights, pull outwards at a height, a bump sideways."""
    sides = []
    bolt = orbit.inner + HELD + ARM_HELD
    for rows in orbit.sides:
        down = sum(m * max(0.0, r - bolt) for m, r, _, _ in rows) * GRAVITY
        out = speed**2 * sum(m * r * (z - orbit.beam) for m, r, _, z in rows)
        sides.append(max(abs(down), abs(down + out)))
    upright = left_beside(orbit.bar, Drilled(0.0, HUB_HOLE, TOP, "hub bolt"))
    aside = 2 * float(orbit.bar.section().iz) / orbit.bar.width
    stress = (
        HAND_SWING * max(sides) / upright + knock * max(0.0, orbit.radius - bolt) / aside if upright > 0 else math.inf
    )
    works(
        tell,
        "rig.beam",
        "arm at the hub",
        stress,
        bears(design, orbit.material),
        "weight and pull of the heavier side, times 1.5, over what the hub's bolts leave, and a bump sideways at the "
        "camera",
        (
            Given("M", max(sides), "N*m", "bends it at the hub", "arm.front"),
            Given("Z", upright, "m^3", "left of it beside a bolt", "arm.section"),
            Given("F", knock, "N", "bump at the camera"),
            Given("r", orbit.radius, "m", "camera arm", "arm.front"),
        ),
        "arm.section",
        source="dynamics 2, statics 3",
    )
    works(
        tell,
        "rig.hub_bolts",
        "bolt of an arm",
        HAND_SWING * max(sides) / ARM_HELD / M6,
        bolt_bears(design),
        "that moment over the two bolts' distance, times 1.5, pulling one M6",
        (Given("M", max(sides), "N*m", "bends it at the hub", "arm.front"), Given("a", ARM_HELD, "m", "bolts apart")),
        "arm.front",
        source="statics 13",
    )
    line = orbit.material.E * float(orbit.bar.section().upright)
    load = GRAVITY * sum(m for m, *_ in orbit.turns_as[:3])
    droop = load * orbit.radius**3 / (3 * line) + GRAVITY * orbit.turns_as[3][0] * orbit.radius**3 / (8 * line)
    tell.add(
        by_method(
            "rig.droop",
            "Camera arm droops by",
            droop,
            "m",
            "a beam held at its hub, the camera at its end",
            (
                Given("P", load, "N", "camera and riser", "kit"),
                Given("L", orbit.radius, "m", "camera arm", "arm.front"),
                Given("EI", line, "N*m^2", "bending stiffness", "arm.section"),
            ),
            source="statics 4.1",
        )
    )
    mass = sum(m for m, *_ in orbit.turns_as[:3]) + 0.236 * orbit.turns_as[3][0]
    bounce = math.sqrt(3 * line / orbit.radius**3 / mass) / (2 * math.pi)
    turns = spin_turns(speed)
    tell.add(
        by_method(
            "travel.bounce",
            "Camera arm bounces at",
            bounce,
            "Hz",
            "that stiffness with the camera and a quarter of the arm",
            (
                Given("m", mass, "kg", "camera, riser, a quarter of the arm", "kit"),
                Given("EI", line, "N*m^2", "bending stiffness", "arm.section"),
            ),
            source="statics 4.1",
        )
    )
    tell.hold(
        "travel.bounce",
        "travel.own",
        "Arm against its turning",
        STRUCTURE,
        "arm.section",
        "The camera arm bounces at {}; twice its turns a second is {}.",
        at_least=2 * turns,
    )


def spin_turns(speed: float) -> float:
    """Turns a second [Hz]."""
    return speed / (2 * math.pi)


def _pin(tell: Teller, design: Design, orbit: Orbit, speed: float) -> None:
    """The threaded rod the weights stand or hang on, bent at the arm as it turns and as it is spun up."""
    if orbit.weights <= 0 or orbit.pin_high <= orbit.bar.depth:
        return
    out = orbit.weights * orbit.rear * speed**2
    along = orbit.weights * orbit.rear * speed / design.number("spin.up")
    works(
        tell,
        "rig.pin",
        "pin of the weights",
        HAND_SWING * math.hypot(out, along) * orbit.pin_high / PIN_MODULUS,
        bears(design, design.catalogue.materials["steel"]),
        "pull outwards and what speeds it up, at its height, times 1.5, over the core of an M12 rod",
        (
            Given("m_w", orbit.weights, "kg", "weights", "weights.mass"),
            Given("r_w", orbit.rear, "m", "weight arm", "arm.rear"),
            Given("h", orbit.pin_high, "m", "weights from the arm", "weights.above"),
            Given("w", speed, "rad/s", "a tenth over its fastest", "travel.fastest"),
        ),
        "weights.above",
        source="dynamics 2, statics 3",
    )


def _shaft(tell: Teller, design: Design, orbit: Orbit, speed: float, knock: float) -> None:
    """At the base's flange: what the hub turns it with, and a bump at the camera or at the table."""
    hub = rotor.turning(orbit.turns_as, speed, orbit.beam).moment
    pulled = rotor.turning(orbit.turns_as, speed).force * orbit.beam
    # On a ring the arms are carried by the feet, and the shaft by itself carries the table.
    moment = knock * orbit.table if orbit.ring else hub + pulled + knock * max(orbit.lens_high, orbit.table)
    base = hub + pulled + knock * max(orbit.lens_high, orbit.table)
    material = design.catalogue.materials[orbit.shaft.material]
    modulus = float(orbit.shaft.section().modulus)
    works(
        tell,
        "rig.shaft",
        "shaft at the base",
        HAND_SWING * moment / modulus,
        bears(design, material),
        "wobble of the hub, its sideways shake at its height and a bump at the camera, times 1.5",
        (
            Given("M", hub, "N*m", "wobble of the hub", "balance.wobble"),
            Given("F", knock, "N", "bump at the camera"),
            Given("Z", modulus, "m^3", "its section modulus", "shaft.section"),
        ),
        "shaft.section",
        source="dynamics 2, statics 3",
    )
    pull = HAND_SWING * moment / (2 * FLANGE_LEVER)
    tell.add(
        by_method(
            "rig.flange",
            "A foot's screws are pulled with",
            pull,
            "N",
            "that moment over twice the lever of the base plate",
            (
                Given("M", HAND_SWING * moment, "N*m", "at the base", "shaft.section"),
                Given("a", FLANGE_LEVER, "m", "axis to a foot's screws"),
            ),
            source="statics 8.3",
        )
    )
    tell.hold(
        "rig.flange",
        "rig.flange_holds",
        "Shaft on its feet",
        STRUCTURE,
        "base.mass",
        "The screws of one foot are pulled with {}; two coach screws in soft wood hold {} safely.",
        at_most=FOOT_SCREWS,
    )
    # Bumped, the foot on that side bears its share of the weight and all of the moment.
    load = orbit.weight * GRAVITY / len(orbit.feet) + base / float(math.hypot(*orbit.feet[0]))
    board = design.catalogue.materials[orbit.foot.material]
    works(
        tell,
        "rig.foot",
        "foot of the base",
        HAND_SWING * load * float(math.hypot(*orbit.feet[0])) / float(orbit.foot.section().modulus),
        bears(design, board),
        "a foot held at the base plate, its share of the weight and the bumped moment at its end, times 1.5",
        (
            Given("P", load, "N", "on one foot", "base.mass"),
            Given("R", float(math.hypot(*orbit.feet[0])), "m", "axis to foot", "base.radius"),
            Given("Z", float(orbit.foot.section().modulus), "m^3", "of a board on edge", "base.section"),
        ),
        "base.section",
        source="statics 3",
    )


def _bearings(tell: Teller, design: Design, orbit: Orbit, speed: float, knock: float) -> None:
    """Pressed sideways by the hub's moment over their distance, and by what is out of balance."""
    if orbit.ring:
        _ring(tell, orbit, speed, knock)
        return
    made, apart = rotor.turning(orbit.turns_as, speed, orbit.beam), design.number("hub.apart")
    moment = made.moment + knock * abs(orbit.lens_high - orbit.beam)
    two = design.text("hub.bearings") == TWO
    load = moment / apart + (made.force + knock) / (2 if two else 1)
    tell.add(
        by_method(
            "rig.bearing",
            "A bearing is pressed with",
            load,
            "N",
            "moment of the hub over what they are apart, half of what shakes and bumps it",
            (
                Given("M", moment, "N*m", "hub and bump", "balance.wobble"),
                Given("e", apart, "m", "bearings apart", "hub.apart"),
            ),
            source="dynamics 2, 3.3",
        )
    )
    tell.hold(
        "rig.bearing",
        "rig.bearings",
        "Bearings of the hub",
        STRUCTURE,
        "hub.apart",
        "A bearing is pressed with {}; half of what a small flange bearing bears is {}.",
        at_most=BEARS / SAFE,
        remedies=(set_one("apart", "Bearings {} apart", "hub.apart", round(min(0.6, 2 * apart), 3), "m"),),
    )
    if not two:
        tell.findings.append(
            Finding(
                "rig.one_bearing",
                "One bearing",
                STRUCTURE,
                WATCH,
                "hub.bearings",
                Words(
                    "One bearing takes the hub's moment over its own height only: its play shows at the camera; a "
                    "ring bearing rated for moments, or two apart, does better."
                ),
                remedies=(set_one("two", "Two bearings", "hub.bearings", TWO),),
            )
        )


def _ring(tell: Teller, orbit: Orbit, speed: float, knock: float) -> None:
    """A bought ring is tilted by the hub's moment and a bump;
    it must bear twice that, and what it gives tilts the arm."""
    ring = orbit.ring
    assert ring is not None
    wobble = rotor.turning(orbit.turns_as, speed, orbit.beam).moment
    moment = wobble + knock * abs(orbit.lens_high - orbit.beam)
    tell.add(
        by_method(
            "rig.ring",
            "Ring is tilted with",
            moment,
            "N*m",
            "wobble of the hub and a bump at the camera",
            (Given("M", wobble, "N*m", "hub", "balance.wobble"), Given("F", knock, "N", "bump at the camera")),
            source="dynamics 2",
        )
    )
    tell.hold(
        "rig.ring",
        "rig.ring_holds",
        "Ring bearing",
        STRUCTURE,
        "hub.ring",
        "The ring is tilted with {}; half of what it is good for is {}.",
        at_most=ring.moment / SAFE,
        remedies=(set_one("wide", "The wider ring", "hub.ring", "plate-300"),)
        if ring.id == "plate-150"
        else (set_one("both", "A ring held both ways", "hub.ring", "ring-200"),)
        if ring.id == "plate-300"
        else (),
    )
    _pulled(tell, orbit, ring, wobble, moment)
    gives = wobble / ring.stiffness
    tell.add(
        by_method(
            "rig.ring_gives",
            "and leans by",
            gives,
            "rad",
            "the hub's moment over how stiff it is against tilting",
            (Given("k", ring.stiffness, "N*m/rad", "ring", "hub.ring"),),
            source="dynamics 2",
        )
    )


def _pulled(tell: Teller, orbit: Orbit, ring: Turntable, wobble: float, bumped: float) -> None:
    """A ring from which the arms hang is pulled apart by all their weight, also bumped; one they lie on only where what
    is out of balance tilts it off.
    """
    across = RING_ACROSS.get(ring.id, RING_ACROSS["plate-150"])
    weight = orbit.turning * GRAVITY
    # The moment as a pull round half of its edge, with or against the weight spread round all of it.
    pull = 4 * bumped / across + weight if orbit.overhead else 4 * wobble / across - weight
    tell.add(
        by_method(
            "rig.ring_pull",
            "Ring is pulled apart with",
            max(0.0, pull),
            "N",
            "the moment round its edge, with the weight that hangs from it and a bump, or less the weight that lies "
            "on it",
            (
                Given("M", bumped if orbit.overhead else wobble, "N*m", "tilts it", "rig.ring"),
                Given("W", weight, "N", "all that turns", "kit"),
                Given("d", across, "m", "across its balls", "hub.ring"),
            ),
            source="dynamics 2",
        )
    )
    both = (set_one("both", "A ring held both ways", "hub.ring", "ring-200"),) if ring.pull == 0 else ()
    tell.hold(
        "rig.ring_pull",
        "rig.ring_pulled",
        "Ring pulled apart",
        PEOPLE if orbit.overhead else STRUCTURE,
        "hub.ring",
        "The ring is pulled apart with {}; half of what its sheet states is {}."
        if ring.pull
        else "The ring is pulled apart with {}; one like this only presses, and {} may be asked of it."
        if pull > 0
        else "The arms press the ring together all round.",
        at_most=ring.pull / SAFE,
        remedies=both,
    )


def _screw(tell: Teller, orbit: Orbit, speed: float) -> None:
    """The camera's screw must clamp so that friction holds the pull outwards."""
    mass, radius = orbit.turns_as[0][:2]
    out = mass * speed**2 * radius
    # It slides on its plate, or tips over the plate's edge.
    tips = (out * float(orbit.kit_at[2] - orbit.mount_high) - mass * GRAVITY * EDGE) / EDGE
    clamp = 2 * max(out / FRICTION, tips)
    tell.add(
        by_method(
            "rig.clamp",
            "Camera screw must clamp with",
            clamp,
            "N",
            "twice the larger of the pull outwards over a friction of 0.15 and what keeps it from tipping over its "
            "plate's edge",
            (
                Given("m", mass, "kg", "camera kit", "kit"),
                Given("r", radius, "m", "its centre from the axis", "arm.front"),
            ),
            source="dynamics 2",
        )
    )
    tell.hold(
        "rig.clamp",
        "rig.screw",
        "Camera screw",
        STRUCTURE,
        "shot.time",
        "The camera's screw must clamp with {}; drawn tight by hand it gives about {}: add a second screw or a strap.",
        at_most=SCREW,
    )
