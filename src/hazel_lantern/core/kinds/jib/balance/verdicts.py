"""What the balance of a jib asks for: other kits, where it stays, how its weights are carried, the camera off."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Design, OtherKit
from hazel_lantern.core.kinds.jib.design import HANGING, HOLES
from hazel_lantern.core.kinds.jib.model import BY_MOTOR, LEAST, Jib
from hazel_lantern.core.mechanics import balance
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, PEOPLE, PICTURE, STOP, WATCH, Finding, Remedy, judge
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

ADD = Formula("(m_new - m_kit)*L/s")
STRAP = Formula("max(Q_off, M_f)/l")
KIT = Formula("s + (m_new - m_kit)*L/(m_hung + m_pin)")
KIT_HELD = Formula("s + (m_new*(L + x_new) - m_kit*(L + x_kit))/(m_hung + m_pin)")
STRAP_LIMIT = 150.0  # newtons a webbing strap and one hand manage, workshop judgement
SHOOT = Formula("g*m_kit*L*(sin(theta_hi) - sin(theta_lo))")


def kit_changes(
    design: Design,
    kit: Carried,
    others: tuple[OtherKit, ...],
    jib: Jib,
    given: tuple[Given, Given, Given, Given, Given],
) -> Told:
    """Where the same weights balance each other kit of the project, starting from a balanced arm, and what would do
    instead of sliding.
    """
    tell = Teller()
    camera, length, hung, holder, place = given
    if hung.value + holder.value < LEAST:
        return tell.told()
    near, rear = (design.number(key) for key in ("weights.nearest", "arm.rear"))
    for other in others:
        new = Given("m_new", other.mass, "kg", other.name.lower())
        slot = f"places on the slot, {near * 1e3:.0f} to {rear * 1e3:.0f} mm; else change the weights"
        name = f"{other.name[0].lower()}{other.name[1:]}"
        inputs: tuple[Given, ...] = (place, new, camera, length, hung, holder)
        if jib.level == BY_MOTOR:
            inputs += (
                Given("x_new", jib.mount[0] + other.ahead, "m", "its centre ahead of the head pin"),
                Given("x_kit", jib.mount[0] + float(kit.payload.cg[0]), "m", "this kit's", "head.ahead"),
            )
        balanced = ("the arm is in balance now", "the same weights stay on")
        tell.add(
            by_formula(
                f"balance.kit.{other.id}",
                f"Slide to, with {name}",
                "m",
                "balance",
                KIT_HELD if jib.level == BY_MOTOR else KIT,
                inputs,
                assumptions=balanced,
                valid=slot,
                source="statics 7.5",
            ),
            by_formula(
                f"balance.kit_add.{other.id}",
                f"Or hang more, with {name}",
                "kg",
                "balance",
                ADD,
                (new, camera, length, place),
                assumptions=("the arm is in balance now", "at the same place; minus takes off"),
                source="statics 7.5",
            ),
        )
    return tell.told()


def balance_findings(
    design: Design,
    jib: Jib,
    said: Told,
    remedies: tuple[Remedy, ...],
    stays: tuple[tuple[float, float], ...],
    shot: tuple[float, float],
) -> Told:
    """Whether it stays where it is left, what hangs too high or beside its slot; `said` are the moments."""
    tell, arm = Teller(), jib.arm_balance
    drift, friction = said.value("balance.drift"), said.value("balance.friction")
    here = next((span for span in stays if span[0] <= shot[1] and span[1] >= shot[0]), None)
    level = balance.front_up_moment(arm, 0.0)
    way = "The camera end sinks" if level < 0 else "The camera end rises"
    if here is None:
        words = Words(
            way + " with {} wherever it is left.", ((said.value("balance.push") - friction / jib.front, "N"),)
        )
    elif here[0] <= shot[0] and here[1] >= shot[1]:
        words = Words(
            "Friction holds the arm anywhere in the shot; {} of {} is used.", ((drift, "N*m"), (friction, "N*m"))
        )
    else:
        words = Words(
            "Friction holds the arm from {} to {}; the shot uses {} to {}.",
            ((here[0], "rad"), (here[1], "rad"), (shot[0], "rad"), (shot[1], "rad")),
        )
    lost = abs(level) > 0.25 * said.value("balance.front")
    state = STOP if lost else judge(drift, friction, "at_most", PICTURE)
    tell.findings.append(
        Finding(
            "balance.stays",
            "Stays where it is left",
            PEOPLE if lost else PICTURE,
            state,
            drift,
            max(friction, 1e-9),
            "at_most",
            "N*m",
            "weights.place",
            "balance",
            words,
            remedies if state != "clear" else (),
            figure="balance.drift",
        )
    )
    top_heavy = GRAVITY * arm.above * math.sin(max(abs(shot[0]), abs(shot[1])))
    if arm.above > 0:
        lower = round(
            design.number("weights.above") - arm.above / max(jib.hung + design.number("weights.holder"), 1e-9) - 0.002,
            3,
        )
        tell.add(
            by_method(
                "balance.runs_away",
                "Drifting, it runs away with",
                top_heavy,
                "N*m",
                "balance",
                "g N sin θ at the steeper end of the shot",
                (Given("N", arm.above, "kg*m", "moment above the pivot line", "weights.above"),),
                source="statics 7.5",
            )
        )
        tell.findings.append(
            Finding(
                "balance.top_heavy",
                "Weights above the pivot line",
                PEOPLE,
                judge(top_heavy, friction, "at_most", PICTURE),
                top_heavy,
                max(friction, 1e-9),
                "at_most",
                "N*m",
                "weights.above",
                "balance",
                Words(
                    "Once it starts to drift it runs away; at the end of the shot that is {}.", ((top_heavy, "N*m"),)
                ),
                (Remedy("lower", Words("Hang weights at {}", ((lower, "m"),)), (("weights.above", lower),)),)
                if lower >= -0.4
                else (),
                figure="balance.runs_away",
            )
        )
    tell.take(carried_figures(design, jib))
    place, rear, near = (design.number(key) for key in ("weights.place", "arm.rear", "weights.nearest"))
    if near > rear:
        tell.findings.append(
            Finding(
                "balance.slot",
                "Slot for the weights",
                BUILD,
                STOP,
                near,
                rear,
                "at_most",
                "m",
                "weights.nearest",
                "balance",
                Words("The slot would start at {}, behind the end of the arm at {}.", ((near, "m"), (rear, "m"))),
                (
                    Remedy(
                        "slot",
                        Words("Slide from {}", ((round(0.7 * rear, 3), "m"),)),
                        (("weights.nearest", round(0.7 * rear, 3)),),
                    ),
                ),
            )
        )
    else:
        inside = near - 1e-9 <= place <= rear + 1e-9
        nearest = min(max(place, near), rear)
        tell.findings.append(
            Finding(
                "balance.on_slot",
                "Weights on the slot",
                BUILD,
                "clear" if inside else STOP,
                place,
                rear if place > near else near,
                "at_most" if place > near else "at_least",
                "m",
                "weights.place",
                "balance",
                Words("The weights hang at {}; the slot runs from {} to {}.", ((place, "m"), (near, "m"), (rear, "m"))),
                ()
                if inside
                else (
                    Remedy("on_slot", Words("Hang at {}", ((nearest, "m"),)), (("weights.place", nearest),)),
                    *remedies,
                ),
            )
        )
    return tell.told()


def carried_figures(design: Design, jib: Jib) -> Told:
    """Weights between two holes, weights that swing."""
    tell = Teller()
    carried, near, place = (
        design.text("weights.carried"),
        design.number("weights.nearest"),
        design.number("weights.place"),
    )
    if carried == HOLES:
        step = design.number("weights.step")
        hole = (
            min(max(0, round((place - near) / step)), math.floor((design.number("arm.rear") - near) / step + 1e-9))
            * step
            + near
        )
        off, close = abs(place - hole), 1e-3
        tell.findings.append(
            Finding(
                "balance.on_hole",
                "Pin in its hole",
                BUILD,
                "clear" if off <= close else STOP,
                off,
                close,
                "at_most",
                "m",
                "weights.place",
                "balance",
                Words("The pin would sit {} off the nearest hole, at {}.", ((off, "m"), (hole, "m"))),
                (Remedy("hole", Words("Hang at {}", ((round(hole, 4), "m"),)), (("weights.place", round(hole, 4)),)),)
                if off > close and 0.05 <= hole <= 3
                else (),
            )
        )
    if carried == HANGING:
        tell.findings.append(
            Finding(
                "balance.swinging",
                "Hanging weights",
                PEOPLE,
                WATCH,
                jib.hung,
                0.0,
                "at_most",
                "kg",
                "weights.carried",
                "balance",
                Words(
                    "{} hang free: they swing after every stop and may strike the stand. Steady them with a cord; keep heads clear.",
                    ((jib.hung, "kg"),),
                ),
            )
        )
    return tell.told()


def camera_off(
    design: Design,
    kit: Carried,
    jib: Jib,
    camera: Given,
    length: Given,
    friction: Given,
    moments: tuple[np.ndarray, np.ndarray],
) -> Told:
    """What the arm does when the camera is taken off with the weights still on."""
    tell = Teller()
    tell.add(
        by_formula(
            "balance.camera_off",
            "Stored when the camera comes off",
            "J",
            "balance",
            SHOOT,
            (
                camera,
                length,
                Given("theta_hi", jib.limits.high, "rad", "highest arm angle", "rig.angle_high"),
                Given("theta_lo", jib.limits.low, "rad", "lowest arm angle", "rig.angle_low"),
            ),
            assumptions=("the arm is balanced with the camera on", "let go at its lowest, stopped at its highest"),
            source="work of the missing weight",
        )
    )
    energy, limit = tell.value("balance.camera_off"), 10.0
    tell.findings.append(
        Finding(
            "balance.shoots_up",
            "Camera off, weights on",
            PEOPLE,
            WATCH if energy > 0.8 * limit else "clear",
            energy,
            limit,
            "at_most",
            "J",
            "weights.hung",
            "balance",
            Words("Take the weights off before the camera: the arm would shoot up with {}.", ((energy, "J"),)),
            figure="balance.camera_off",
        )
    )
    mass = jib.mass_of("camera kit")
    ahead = jib.front + (jib.mount[0] + float(kit.payload.cg[0]) if jib.level == BY_MOTOR else 0.0)
    angles, moment = moments
    off = moment + GRAVITY * mass * (jib.front * np.cos(angles) + ahead - jib.front)
    worst = Given("Q_off", float(np.abs(off).max()), "N*m", "out of balance with the camera off, worst angle")
    tell.add(
        by_formula(
            "balance.parked",
            "Parking strap holds",
            "N",
            "balance",
            STRAP,
            (worst, friction, design.given("l", "park.lever", "strap ahead of the pivot", "m")),
            assumptions=("camera off, weights on", "strap square to the arm"),
            source="lever",
        )
    )
    held, lever = tell.value("balance.parked"), design.number("park.lever")
    further = round(min(3.0, 0.9 * jib.front, 1.3 * lever * held / STRAP_LIMIT), 2)
    tell.findings.append(
        Finding(
            "balance.parking",
            "Parked with the weights on",
            PEOPLE,
            judge(held, STRAP_LIMIT, "at_most", PEOPLE),
            held,
            STRAP_LIMIT,
            "at_most",
            "N",
            "park.lever",
            "balance",
            Words(
                "Strap the arm down before the camera comes off: the strap holds {}, and {} is as much as a hand can still manage.",
                ((held, "N"), (STRAP_LIMIT, "N")),
            ),
            (Remedy("further", Words("Strap it {} ahead", ((further, "m"),)), (("park.lever", further),)),)
            if held > 0.8 * STRAP_LIMIT and further > lever
            else (),
            figure="balance.parked",
        )
    )
    return tell.told()
