"""An orbit rig let go or braked: how long it turns on, what the brake takes, how a lead winds up."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun, twists
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STRUCTURE, WATCH, set_one
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.words import Words

LONG = 10.0  # seconds of coasting from which it needs a brake
CAMERA_FACE = 0.015  # square metres that meet the air
TURNS_A_METRE = 1.0  # that a loose lead takes


def stops_by_itself(tell: Teller, design: Design, orbit: Orbit, spin: Spun) -> None:
    """Spin-up, coasting and the brake."""
    friction, brake = design.number("hub.friction"), design.number("brake.torque")
    half = orbit.bar.depth
    arms = [orbit.radius, orbit.rear] if orbit.cameras == 1 else [orbit.radius] * orbit.cameras
    drag = rotor.air_drag(((CAMERA_FACE, 1.2, orbit.radius),) * orbit.cameras, [(half, arm) for arm in arms])
    inertia = Given("I", spin.hub.inertia, "1", "inertia about the axis, kg·m²")
    coast = rotor.coast(spin.hub.inertia, spin.fastest, friction, drag)
    up = design.number("spin.up")
    torque = spin.hub.inertia * spin.fastest / up + friction
    tell.add(
        by_method(
            "balance.coasts",
            "Let go, it turns on for",
            coast.time,
            "s",
            "bearings and air",
            (inertia, design.given("f", "hub.friction", "turns with", "N*m")),
            source="dynamics 2, 8.11",
        ),
        by_method(
            "balance.coast_turns",
            "and so many turns",
            coast.turns,
            "1",
            "bearings and air",
            (inertia, design.given("f", "hub.friction", "turns with", "N*m")),
            source="dynamics 2, 8.11",
        ),
        by_method(
            "balance.spin_up",
            "Bring it up to speed with",
            torque,
            "N*m",
            "inertia times its speed over the time, and its friction",
            (inertia, design.given("t", "spin.up", "up to speed in", "s")),
            source="dynamics 2",
        ),
        by_method(
            "balance.hand",
            "a hand at the arm's end with",
            torque / orbit.radius,
            "N",
            "that over the camera arm",
            (Given("r", orbit.radius, "m", "camera arm", "arm.front"),),
            source="dynamics 2",
        ),
    )
    if not orbit.overhead:
        hard = max(torque, brake)
        tell.add(
            by_method(
                "balance.twist",
                "Feet hold a twist of",
                twists(design, orbit),
                "N*m",
                "grip of the feet at their distance over one and a half",
                (
                    design.given("mu", "base.grip", "grip", "1"),
                    design.given("R", "base.radius", "feet from the axis", "m"),
                ),
                source="dynamics 2",
            )
        )
        tell.hold(
            "balance.twist",
            "balance.twists",
            "Base does not turn round",
            STRUCTURE,
            "spin.up",
            Words(
                "Brought up to speed, or braked, with {}, its feet hold {}.",
                ((hard, "N*m"), (twists(design, orbit), "N*m")),
            ),
            at_least=hard,
            remedies=(set_one("gently", "Up to speed in {}", "spin.up", min(60.0, round(1.5 * up, 1)), "s"),)
            if torque >= brake
            else (set_one("softer", "A brake of {}", "brake.torque", round(0.7 * twists(design, orbit), 2), "N*m"),),
        )
    stops = spin.hub.inertia * spin.fastest / (brake + friction) if brake > 0 else coast.time
    enough = math.ceil((spin.hub.inertia * spin.fastest / 5.0) * 10) / 10
    if brake > 0:
        tell.add(
            by_method(
                "balance.braked",
                "Its brake stops it in",
                stops,
                "s",
                "inertia times its speed, over brake and bearings",
                (inertia, design.given("b", "brake.torque", "brake", "N*m")),
                source="dynamics 2",
            )
        )
    tell.hold(
        "balance.braked" if brake > 0 else "balance.coasts",
        "balance.stop",
        "Stops by itself",
        PEOPLE,
        "brake.torque",
        Words(
            "Its brake stops it in {}." if brake > 0 else "Let go, it turns on for {}: keep out until it stands.",
            ((stops, "s"),),
        ),
        at_most=LONG,
        value=stops,
        watch_at=1.0,
        state=CLEAR if stops <= LONG else WATCH,
        remedies=(set_one("brake", "A brake of {}", "brake.torque", min(50.0, max(0.1, enough)), "N*m"),),
    )


def lead_winds(tell: Teller, design: Design, move: Move, spin: Spun) -> None:
    """How many turns a loose lead takes."""
    free = design.number("lead.free")
    if free <= 0:
        return
    takes, asks = TURNS_A_METRE * free, spin.sweep / (2 * math.pi)
    tell.add(
        by_method(
            "balance.winds",
            "Its lead takes turns",
            takes,
            "1",
            "one turn a metre of soft lead",
            (design.given("l", "lead.free", "loose lead", "m"),),
            source="dynamics 2",
        )
    )
    tell.hold(
        "balance.winds",
        "balance.lead_winds",
        "Lead at the hub",
        PICTURE,
        "lead.free",
        "The move asks for {} turns, its loose lead takes {}: unwind it between takes.",
        at_least=asks,
        watch_at=1.0,
        state=CLEAR if takes >= asks else WATCH,
        remedies=(
            set_one("longer", "A loose lead of {}", "lead.free", min(10.0, round(1.2 * asks / TURNS_A_METRE, 2)), "m"),
        ),
    )
