"""The arm under load, from the space frame: stress, sag, bounce, the swing after a pan, the stay cable."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.kinds.base import Carried, Design
from hazel_lantern.core.kinds.jib.design import CLAMPED
from hazel_lantern.core.kinds.jib.model import Jib
from hazel_lantern.core.kinds.jib.strength.frame import Bent, Swings, bent, build_frame, swings
from hazel_lantern.core.kinds.shared.creep import creeps
from hazel_lantern.core.kinds.shared.holes import NOTCH
from hazel_lantern.core.kinds.shared.steadied import through_head
from hazel_lantern.core.kinds.shared.validity import too_soft
from hazel_lantern.core.mechanics import sections
from hazel_lantern.core.mechanics.safety import HAND_SWING, rope_factor, safety_class
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PICTURE, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within
from hazel_lantern.core.optics.lens import focal_pixels

STRESS = Formula("k*(M/W_net + N/A)")
STRESS_BY_CABLE = Formula("k*(M/W_net + N/A) + P/A")
SWAY = Formula("min(v/(2*pi*f), 2*a/(2*pi*f)**2)")
SHOWS = Formula("L/1.5*W/(1000*F)")
SHOWS_STEADIED = Formula("L/1.5*W/(1000*F*s)")
SETTLE = Formula("max(0, log(A/A_1))/(zeta*2*pi*f)")
GIVES = 0.7  # of the arm's own bounce, under which something else gives more
BOUNCE, CALM = 3.0, 2.0
CLAMP_HOLDS = (
    900.0  # newtons along the arm that a clamp with two M6 holds by its grip, half of when it slips, workshop judgement
)
FRAME = "frame engine: arm, bars or cable, cheeks, bolts and head as they stand"


def flattest(jib: Jib, used: tuple[float, float]) -> float:
    """The angle nearest to level that a hand can bring the arm to, which bends it most [rad]: the shot's, or within
    the arm's limits.
    """
    return min(max(0.0, min(used[0], jib.limits.low)), max(used[1], jib.limits.high))


def steepest(used: tuple[float, float]) -> float:
    """The steepest angle of the shot, which presses the arm most [rad]."""
    return max(used, key=abs)


class Flat(Struct, frozen=True):
    """The arm at its flattest: how it bends, and how it swings."""

    bent: Bent
    swings: Swings


def at_flattest(design: Design, jib: Jib, flattest: float) -> Flat:
    """Raises SingularModelError for a loose structure."""
    frame = build_frame(design, jib, flattest)
    return Flat(bent(jib, frame), swings(jib, frame))


def at_steepest(design: Design, jib: Jib, steepest: float) -> Bent:
    """Raises SingularModelError for a loose structure."""
    return bent(jib, build_frame(design, jib, steepest))


def strength_figures(
    design: Design,
    kit: Carried,
    optics: Optics,
    suggest: bool,
    jib: Jib,
    flattest: float,
    steepest: float,
    at_flattest: Flat,
    at_steepest: Bent,
) -> Told:
    """Everything the frame says."""
    tell = Teller()
    angles, at = (flattest, steepest), (at_flattest.bent, at_steepest)
    worst = max(range(len(at)), key=lambda k: at[k].drop)
    # Brittle stuff does not even out what crowds beside a hole.
    drilled = sections.drilled(jib.arm_section, jib.bolt.clear_close, jib.arm.walls) / NOTCH[jib.arm_material.family]
    # Clamped on a head it is not drilled there.
    net = jib.bars * (float(jib.arm_section.modulus) if jib.held == CLAMPED else drilled)
    area = jib.bars * jib.arm_section.area
    most = max(at, key=lambda b: b.bends / net + (abs(b.thrust) + jib.cable_presses) / area)
    given = (
        design.given("L", "arm.front", "front arm", "m"),
        Given(
            "EI",
            jib.bars * jib.arm_material.E * jib.arm_section.upright,
            "N*m^2",
            "bending stiffness of the arm",
            "arm.section",
        ),
        Given("m", jib.head_mass, "kg", "head and camera", "kit"),
    )
    held = ("pivot held still", "no play in the pivots")
    pull = jib.cable_presses
    cable = (Given("P", pull, "N", "both runs of the levelling cable", "cable.tension"),) if pull else ()
    tell.add(
        by_method(
            "rig.sag",
            "Lens hangs lower by",
            at[worst].drop,
            "m",
            f"{FRAME}; worst at {math.degrees(angles[worst]):.0f}°",
            given,
            assumptions=held,
            valid="sag under a tenth of the arm",
            source="statics 4.1, 7.6",
        ),
        by_method(
            "rig.droop",
            "and noses down by",
            max((b.nose for b in at), key=abs),
            "rad",
            FRAME,
            given,
            assumptions=held,
            source="statics 4.1",
        ),
        by_formula(
            "rig.stress",
            "Stress at the pivot hole",
            "Pa",
            STRESS_BY_CABLE if cable else STRESS,
            (
                Given("k", HAND_SWING, "1", "for hand swings"),
                Given(
                    "M",
                    most.bends,
                    "N*m",
                    "bending at the pivot, of its front or its rear, from the frame",
                    "arm.front",
                ),
                Given("W_net", net, "m^3", "section left at the hole", "arm.section"),
                Given("N", abs(most.thrust), "N", "thrust along the arm, from the frame", "arm.section"),
                *cable,
                Given("A", area, "m^2", "area of the arm", "arm.section"),
            ),
            source="statics 4.1, 7.6, 9",
        ),
    )
    tell.take(_bounce(design, kit, optics, suggest, jib, given, at_flattest.swings))
    _arm_findings(tell, design, suggest, jib)
    creeps(tell, jib.arm_material, at[worst].drop, "arm.section", "Park it with the camera off.")
    mend = (*_stiffer(design, jib), *_stayed(jib)) if suggest else ()
    too_soft(tell, max(abs(b.nose) for b in at), at[worst].drop, jib.front, "The arm", "arm.section", mend)
    if jib.mast > 0:
        tell.take(_stay(design, jib, max(at, key=lambda b: b.stay).stay, min(at, key=lambda b: b.stay).stay))
    return tell.told()


def _bounce(
    design: Design, kit: Carried, optics: Optics, suggest: bool, jib: Jib, given: tuple[Given, ...], found: Swings
) -> Told:
    """First frequencies, and how long the camera swings on after a pan was stopped."""
    tell = Teller()
    modes = "natural frequencies by the frame engine, masses where they are"
    tell.add(
        by_method(
            "rig.bounce_locked",
            "Bounces, arm held",
            found.held,
            "Hz",
            modes,
            given,
            assumptions=("pivot held still, arm at its flattest",),
            source="statics 4.1, 7.6",
        ),
        by_method(
            "rig.sideways",
            "Sways sideways, pan held",
            found.sideways,
            "Hz",
            modes,
            given,
            assumptions=("what it pans on held against turning",),
            source="statics 4.1, 7.6",
        ),
    )
    if math.isfinite(found.free):
        tell.add(
            by_method(
                "rig.bounce",
                "Bounces, free on its pivot",
                found.free,
                "Hz",
                f"{modes}; the plain swing about the pivot left out",
                (*given, Given("m_hung", jib.hung, "kg", "weights hung", "weights.hung")),
                source="statics 7.6",
            )
        )
    focal = focal_pixels(optics.focal_m, optics.pixels_wide, optics.sensor_width_m, optics.squeeze)
    tell.add(
        by_formula(
            "rig.sway",
            "Swings on after a pan by",
            "m",
            SWAY,
            (
                design.given("v", "pan.speed", "lens when the pan stops", "m/s"),
                design.given("a", "pan.stop", "hardest stop", "m/s^2"),
                tell.given("f", "rig.sideways"),
            ),
            assumptions=("upper bound; the pan is held after the stop",),
            source="statics 7.6",
        ),
        by_formula(
            "rig.sway_shows",
            "Sway too small to notice",
            "m",
            SHOWS if kit.turning == 1 else SHOWS_STEADIED,
            (
                *((through_head(kit.turning),) if kit.turning < 1 else ()),
                design.given("L", "arm.front", "front arm", "m"),
                Given("W", optics.pixels_wide, "px", "picture width", "shot.pixels_wide"),
                Given("F", focal, "px", "focal length in pixels", "shot.focal"),
            ),
            assumptions=(
                "a thousandth of the picture's width",
                "the end of a bending arm turns by 1.5 of its sway over its length",
            ),
            source="drive 5.3",
        ),
    )
    if tell.value("rig.sway") > 0:
        tell.add(
            by_formula(
                "rig.settle",
                "Picture calm after a pan in",
                "s",
                SETTLE,
                (
                    tell.given("A", "rig.sway"),
                    tell.given("A_1", "rig.sway_shows"),
                    design.given("zeta", "arm.damping", "damping", "1"),
                    tell.given("f", "rig.sideways"),
                ),
                source="statics 7.6",
            )
        )
        settle = tell.value("rig.settle")
        tell.hold(
            "rig.settle",
            "rig.whip",
            "Swings on after a pan",
            PICTURE,
            "pan.stop",
            Words(
                "After a hard stop the lens sways {} and is calm in {}. Stop over one whole sway, {}, and it is calm "
                "at once.",
                ((tell.value("rig.sway"), "m"), (settle, "s"), (1 / found.sideways, "s")),
            ),
            at_most=CALM,
            remedies=(*_softer_stop(design, found.sideways, tell.value("rig.sway_shows")), *_stiffer(design, jib))
            if suggest
            else (),
        )
    _bouncy(tell, design, suggest, jib, found.held)
    return tell.told()


def _bouncy(tell: Teller, design: Design, suggest: bool, jib: Jib, held: float) -> None:
    """Whether it bounces too slowly, and what gives: the arm, or what it pans on."""
    ei = jib.bars * jib.arm_material.E * float(jib.arm_section.upright)
    arm = jib.mass_of("arm") * jib.front / (jib.front + jib.rear)
    alone = math.sqrt(3 * ei / (jib.front**3 * (jib.head_mass + 33 / 140 * arm))) / (2 * math.pi)
    by_arm = held > GIVES * alone
    stiffer = [row for row in design.catalogue.turntables.values() if row.stiffness >= 2 * jib.pan.stiffness]
    best = min(stiffer, key=lambda row: (row.price, row.id), default=None)
    pan = (set_one("pan", f"Pan on a {within(best.name)}", "pan.bearing", best.id),) if best else ()
    mend = (*_stiffer(design, jib), *_stayed(jib)) if by_arm else pan
    tell.hold(
        "rig.bounce_locked",
        "rig.bouncy",
        "Bounce of the arm" if by_arm else "Bounce of what it pans on",
        PICTURE,
        "arm.section" if by_arm else "pan.bearing",
        "The arm bounces at {}; under {} every start and stop shows."
        if by_arm
        else Words(
            "It bounces at {}, under {} every start and stop shows: what it pans on gives, the arm alone would "
            "bounce at {}.",
            ((held, "Hz"), (BOUNCE, "Hz"), (alone, "Hz")),
        ),
        at_least=BOUNCE,
        watch_at=0.99,
        remedies=mend if suggest else (),
    )


def _softer_stop(design: Design, sideways: float, shows: float) -> tuple[Remedy, ...]:
    """A stop so soft that the sway is over in time."""
    omega = 2 * math.pi * sideways
    allowed = shows * math.exp(0.75 * CALM * design.number("arm.damping") * omega)
    stop = math.floor(allowed * omega**2 / 2 * 100) / 100
    return (
        (set_one("stop", "Stop a pan with {}", "pan.stop", stop, "m/s^2"),)
        if 0.05 <= stop < design.number("pan.stop")
        else ()
    )


def _arm_findings(tell: Teller, design: Design, suggest: bool, jib: Jib) -> None:
    """Strength, sag and shape of the arm, whose stress and sag have been told."""
    safety = safety_class(design.text("safety"))
    stiffer = (*_stiffer(design, jib), *_stayed(jib)) if suggest else ()
    allowed = jib.arm_material.allowed(safety.strength(jib.arm_material.family))
    tell.hold(
        "rig.stress",
        "rig.arm_strong",
        "Arm at the pivot",
        STRUCTURE,
        "arm.section",
        "The arm works at {} of {} allowed; it fails this way: " + jib.arm_material.fails + ".",
        at_most=allowed,
        remedies=stiffer,
    )
    tell.hold(
        "rig.sag",
        "rig.soft",
        "Sag of the arm",
        PICTURE,
        "arm.section",
        "The lens hangs {} lower than drawn."
        if tell.value("rig.sag") < jib.front / 10
        else "The sag of {} is beyond what this method holds for.",
        at_most=jib.front / 50,
        remedies=stiffer,
    )
    if jib.arm.caution:
        # A thin tube is judged by its diameter over its wall, an open section by its twist over its bending stiffness.
        thin = jib.arm.shape == "round_tube"
        shape, limit_shape = (
            (jib.arm.depth / jib.arm.wall, 40.0) if thin else (jib.arm_section.j / jib.arm_section.iy, 0.2)
        )
        tell.findings.append(
            Finding(
                "rig.arm_shape",
                "Shape of the arm",
                STRUCTURE,
                WATCH,
                "arm.section",
                Words(f"Take care: {jib.arm.caution}."),
                shape,
                limit_shape,
                "at_most" if thin else "at_least",
                "1",
                stiffer,
            )
        )


def _stay(design: Design, jib: Jib, pull: float, least: float) -> Told:
    """The cable from the mast to the head end."""
    tell = Teller()
    rope = design.row("ropes", "stay.rope")
    given = (
        design.given("h", "stay.mast", "mast above the pivot", "m"),
        Given("EA", rope.ea, "N", "stiffness of the rope", "stay.rope"),
    )
    tell.add(
        by_method(
            "rig.stay",
            "Stay cable pulls",
            pull,
            "N",
            FRAME,
            given,
            assumptions=("tightened so that it never goes slack",),
            source="statics 4.1, 7.6",
        )
    )
    allowed = rope.breaking / rope_factor(design.text("safety"))
    # Tightened until it is never slack, it carries that pull everywhere.
    worked = HAND_SWING * (pull + max(0.0, -least))
    tell.add(
        by_method(
            "rig.stay_worked",
            "Stay cable, with hand swings",
            worked,
            "N",
            "the pull and what keeps it from going slack, times the hand's swing",
            (Given("T", pull, "N", "largest pull", "rig.stay"), Given("k", HAND_SWING, "1", "hand swings")),
            source="statics 4.1, 9",
        )
    )
    tell.hold(
        "rig.stay_worked",
        "rig.stay_strong",
        "Stay cable",
        STRUCTURE,
        "stay.rope",
        "With hand swings it is pulled with {} of {} allowed."
        if least >= 0
        else "It is pulled with up to {} of {} allowed, and goes slack at the end of the swing: tighten it.",
        at_most=allowed,
    )
    tell.hold(
        "rig.stay_worked",
        "rig.stay_clamps",
        "Clamps of the stay",
        STRUCTURE,
        "stay.rope",
        "The stay draws its clamps along the arm with up to {}; on a clean dry arm they hold {}, drawn up on two M6.",
        at_most=CLAMP_HOLDS,
    )
    return tell.told()


def _stiffer(design: Design, jib: Jib) -> tuple[Remedy, ...]:
    """The lightest stock section at least twice as stiff, of the same material and shape."""
    ei = jib.arm_material.E * jib.arm_section.upright
    found = []
    for bar in design.catalogue.sections.values():
        if (
            bar.shape != jib.arm.shape
            or bar.material != jib.arm.material
            or bar.system != jib.arm.system
            or bar.id == jib.arm.id
        ):
            continue
        section = bar.section()
        if section.upright * design.catalogue.materials[bar.material].E >= 1.9 * ei:
            found.append((section.area, bar))
    best = min(found, key=lambda pair: (pair[0], pair[1].id), default=None)
    return (
        ()
        if best is None
        else (set_one("stiffer", f"Use {best[1].name[0].lower()}{best[1].name[1:]}", "arm.section", best[1].id),)
    )


def _stayed(jib: Jib) -> tuple[Remedy, ...]:
    """A mast and a stay cable where there is none."""
    mast = round(0.25 * jib.front, 2)
    return (
        (set_one("stay", "Stay it from a mast of {}", "stay.mast", mast, "m"),) if jib.mast == 0 and mast <= 1.5 else ()
    )
