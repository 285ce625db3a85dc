"""What the balance of a jib asks for: other kits, where it stays, how its weights are carried, the camera off."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Design, OtherKit
from hazel_lantern.core.kinds.jib.design import BAG, FIXED_PLACE, HANGING, HOLES
from hazel_lantern.core.kinds.jib.model import BY_MOTOR, LEAST, Jib
from hazel_lantern.core.mechanics import balance
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, PEOPLE, PICTURE, STOP, WATCH, Finding, Remedy, judge, set_one
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
                ADD,
                (new, camera, length, place),
                assumptions=("the arm is in balance now", "at the same place; minus takes off"),
                source="statics 7.5",
            ),
        )
    return tell.told()


def balance_findings(
    tell: Teller,
    design: Design,
    jib: Jib,
    remedies: tuple[Remedy, ...],
    stays: tuple[tuple[float, float], ...],
    shot: tuple[float, float],
) -> None:
    """Whether it stays where it is left, what hangs too high or beside its slot; the moments have been told."""
    arm, drift, friction = jib.arm_balance, tell.value("balance.drift"), tell.value("balance.friction")
    here = next((span for span in stays if span[0] <= shot[1] and span[1] >= shot[0]), None)
    level = balance.front_up_moment(arm, 0.0)
    way = "The camera end sinks" if level < 0 else "The camera end rises"
    if here is None:
        words = Words(
            way + " with {} wherever it is left.", ((tell.value("balance.push") - friction / jib.front, "N"),)
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
    lost = abs(level) > 0.25 * tell.value("balance.front")
    state = STOP if lost else judge(drift, friction, "at_most", PICTURE)
    tell.hold(
        "balance.drift",
        "balance.stays",
        "Stays where it is left",
        PEOPLE if lost else PICTURE,
        "weights.place",
        words,
        at_most=max(friction, 1e-9),
        state=state,
        remedies=remedies,
    )
    if arm.above > 0:
        _top_heavy(tell, design, jib, max(abs(shot[0]), abs(shot[1])))
    tell.take(carried_figures(design, jib))
    tell.findings.append(_on_slot(design, remedies))


def _top_heavy(tell: Teller, design: Design, jib: Jib, steepest: float) -> None:
    """What weights above the pivot line do at the steepest angle of the shot [rad]."""
    arm, friction = jib.arm_balance, tell.value("balance.friction")
    top_heavy = GRAVITY * arm.above * math.sin(steepest)
    lower = round(
        design.number("weights.above") - arm.above / max(jib.hung + design.number("weights.holder"), 1e-9) - 0.002, 3
    )
    tell.add(
        by_method(
            "balance.runs_away",
            "Drifting, it runs away with",
            top_heavy,
            "N*m",
            "g N sin θ at the steeper end of the shot",
            (Given("N", arm.above, "kg*m", "moment above the pivot line", "weights.above"),),
            source="statics 7.5",
        )
    )
    tell.hold(
        "balance.runs_away",
        "balance.top_heavy",
        "Weights above the pivot line",
        PEOPLE,
        "weights.above",
        "Once it starts to drift it runs away; at the end of the shot that is {}.",
        at_most=max(friction, 1e-9),
        state=judge(top_heavy, friction, "at_most", PICTURE),
        remedies=(set_one("lower", "Hang weights at {}", "weights.above", lower, "m"),) if lower >= -0.4 else (),
    )


def _on_slot(design: Design, remedies: tuple[Remedy, ...]) -> Finding:
    """Whether the weights hang where they can."""
    place, rear, near = (design.number(key) for key in ("weights.place", "arm.rear", "weights.nearest"))
    fixed = design.text("weights.carried") in FIXED_PLACE
    near = 0.05 if fixed else near
    if near > rear:
        return Finding(
            "balance.slot",
            "Slot for the weights",
            BUILD,
            STOP,
            "weights.nearest",
            Words("The slot would start at {}, behind the end of the arm at {}.", ((near, "m"), (rear, "m"))),
            near,
            rear,
            "at_most",
            "m",
            (set_one("slot", "Slide from {}", "weights.nearest", round(0.7 * rear, 3), "m"),),
        )
    inside = near - 1e-9 <= place <= rear + 1e-9
    nearest = min(max(place, near), rear)
    return Finding(
        "balance.on_slot",
        "Weights on the slot",
        BUILD,
        "clear" if inside else STOP,
        "weights.place",
        Words(
            f"The weights hang at {{}}; {'there is arm' if fixed else 'the slot runs'} from {{}} to {{}}.",
            ((place, "m"), (near, "m"), (rear, "m")),
        ),
        place,
        rear if place > near else near,
        "at_most" if place > near else "at_least",
        "m",
        () if inside else (set_one("on_slot", "Hang at {}", "weights.place", nearest, "m"), *remedies),
    )


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
                "weights.place",
                Words("The pin would sit {} off the nearest hole, at {}.", ((off, "m"), (hole, "m"))),
                off,
                close,
                "at_most",
                "m",
                (set_one("hole", "Hang at {}", "weights.place", round(hole, 4), "m"),)
                if off > close and 0.05 <= hole <= 3
                else (),
            )
        )
    if carried in (HANGING, BAG):
        tell.findings.append(
            Finding(
                "balance.swinging",
                "Hanging weights",
                PEOPLE,
                WATCH,
                "weights.carried",
                Words(
                    "{} hang free: they swing after every stop and may strike the stand. Steady them with a cord; "
                    "keep heads clear.",
                    ((jib.hung, "kg"),),
                ),
                jib.hung,
                0.0,
                "at_most",
                "kg",
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
    tell.hold(
        "balance.camera_off",
        "balance.shoots_up",
        "Camera off, weights on",
        PEOPLE,
        "weights.hung",
        "Take the weights off before the camera: the arm would shoot up with {}.",
        at_most=limit,
        state=WATCH if energy > 0.8 * limit else "clear",
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
            STRAP,
            (worst, friction, design.given("l", "park.lever", "strap ahead of the pivot", "m")),
            assumptions=("camera off, weights on", "strap square to the arm"),
            source="lever",
        )
    )
    held, lever = tell.value("balance.parked"), design.number("park.lever")
    further = round(min(3.0, 0.9 * jib.front, 1.3 * lever * held / STRAP_LIMIT), 2)
    tell.hold(
        "balance.parked",
        "balance.parking",
        "Parked with the weights on",
        PEOPLE,
        "park.lever",
        "Strap the arm down before the camera comes off: the strap holds {}, and {} is as much as a hand can still "
        "manage.",
        at_most=STRAP_LIMIT,
        remedies=(set_one("further", "Strap it {} ahead", "park.lever", further, "m"),) if further > lever else (),
    )
    return tell.told()
