"""Moments about the pivot over the whole swing: where the arm stays, where it drifts, what a weight is worth."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried, Design, Drift, OtherKit
from hazel_lantern.core.kinds.jib.balance.weights import Racked, balance_remedies
from hazel_lantern.core.kinds.jib.design import HANGING, HOLES
from hazel_lantern.core.kinds.jib.model import ARM, BAR, BY_CABLE, BY_MOTOR, FACES, LEAST, LEVEL, WEIGHTS, Jib
from hazel_lantern.core.mechanics import balance
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, PEOPLE, PICTURE, STOP, WATCH, Finding, Remedy, judge
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

FRONT = Formula("g*(m_kit*L + m_head*L + m_arm*s_arm + m_more*s_more)")
FRONT_HELD = Formula("g*(m_kit*(L + x_kit) + m_head*(L + x_head) + m_arm*s_arm + m_more*s_more)")
REAR = Formula("g*(m_hung + m_pin)*s")
NEEDED = Formula("S/s - m_pin")
FRICTION = Formula("n*mu*F*(2/3)*(r_o**3 - r_i**3)/(r_o**2 - r_i**2) + mu*r_i*(g*(m_swung + m_head) + P)")
SLIDE = Formula("L/(m_hung + m_pin)")
GRAM = Formula("(m_hung + m_pin)/L")
ADD = Formula("(m_new - m_kit)*L/s")
STEP = Formula("g*(m_hung + m_pin)*h/2")
STRAP = Formula("max(Q_off, M_f)/l")
HOLD = Formula("(Q + M_f)/L")
KIT = Formula("s + (m_new - m_kit)*L/(m_hung + m_pin)")
KIT_HELD = Formula("s + (m_new*(L + x_new) - m_kit*(L + x_kit))/(m_hung + m_pin)")
STRAP_LIMIT = 150.0  # newtons a webbing strap and one hand manage, workshop judgement
SHOOT = Formula("g*m_kit*L*(sin(theta_hi) - sin(theta_lo))")


def moments(jib: Jib) -> tuple[np.ndarray, np.ndarray]:
    """Arm angles over the whole swing [rad] and the moment that lifts the camera there [N*m]."""
    angles = np.linspace(jib.limits.low, jib.limits.high, 61)
    return angles, balance.front_up_moment(jib.arm_balance, angles)


def stays(jib: Jib) -> tuple[tuple[float, float], ...]:
    """Spans of arm angle that friction holds [rad]."""
    return tuple(balance.stay_put(jib.arm_balance, jib.limits.low, jib.limits.high))


def balance_figures(
    design: Design, kit: Carried, others: tuple[OtherKit, ...], suggest: bool, jib: Jib, used: tuple[float, float],
    moments: tuple[np.ndarray, np.ndarray], stays: tuple[tuple[float, float], ...], racked: Racked,
) -> Told:  # fmt: skip
    """Moments about the pivot over the whole swing, and what the weights are worth."""
    tell = Teller()
    arm = jib.arm_balance
    bodies = {body.name: body for body in jib.bodies}
    length = design.given("L", "arm.front", "front arm", "m")
    camera = Given("m_kit", bodies["camera kit"].mass, "kg", "camera kit", "kit")
    head = Given("m_head", jib.head_mass - camera.value, "kg", "head and uprights", "head.mass")
    hung, holder = Given("m_hung", jib.hung, "kg", "weights hung", "weights.hung"), design.given("m_pin", "weights.holder", "weight pin and collars", "kg")
    place = design.given("s", "weights.place", "weights behind the pivot", "m")
    fine = "weights act as forces at their own centres; level parts act at the head pin"
    more = [body for body in jib.bodies if body.frame in (ARM, BAR) and body.name not in ("arm", *WEIGHTS)]
    massed = sum(body.mass for body in more)
    sides: tuple[Given, ...] = (
        camera, length, head, Given("m_arm", bodies["arm"].mass, "kg", "arm", "arm.section"), Given("s_arm", bodies["arm"].along, "m", "centre of the arm ahead of the pivot", "arm.rear"),
        Given("m_more", massed, "kg", "upper bar, cable, sleeve, stay: what there is of them", "rig.mass"),
        Given("s_more", sum(body.mass * body.along for body in more) / massed if massed else 0.0, "m", "their centre ahead of the pivot", "arm.front"),
    )  # fmt: skip
    held = jib.level == BY_MOTOR
    if held:
        heads = [body for body in jib.bodies if body.frame == LEVEL and body.name != "camera kit"]
        sides = (*sides, Given("x_kit", bodies["camera kit"].along, "m", "camera ahead of the head pin", "head.ahead"),
                 Given("x_head", sum(b.mass * b.along for b in heads) / max(head.value, 1e-9), "m", "head ahead of its pin", "head.ahead"))  # fmt: skip
        fine = "a motor holds the head level, so camera and head count where they are"
    tell.add(
        by_formula("balance.front", "Camera side", "N*m", "balance", FRONT_HELD if held else FRONT, sides,
            assumptions=("arm level", fine, "not counted: cable drag, wind"), source="statics 7.5"),
        by_formula("balance.rear", "Rear side", "N*m", "balance", REAR, (hung, holder, place), assumptions=("arm level",), source="statics 7.5"),
        by_formula("balance.needed", "Weight needed there", "kg", "balance", NEEDED, (
            Given("S", jib.front_moment, "kg*m", "camera side to balance", "balance.front"), place, holder), source="statics 7.5", headline=True),
        by_formula("balance.friction", "Friction in the pivots", "N*m", "balance", FRICTION, (
            Given("n", FACES[jib.level], "count", "clamped faces", "pivot.bearing"), Given("mu", jib.bearing.mu, "1", "friction of the faces", "pivot.bearing"), design.given("F", "pivot.clamp", "clamping", "N"),
            Given("r_o", jib.bolt.washer_od / 2, "m", "washer radius", "pin.bolt"), Given("r_i", jib.bolt.d / 2, "m", "bolt radius", "pin.bolt"),
            Given("m_swung", sum(b.mass for b in jib.bodies if b.frame in ("arm", "bar", "level")), "kg", "all that swings", "rig.mass"),
            Given("m_head", 0.0 if held else jib.head_mass, "kg", "all that hangs on the head pin", "head.mass"),
            Given("P", 4 * jib.cable.tension if jib.level == BY_CABLE else 0.0, "N", "pull of the cable on both pins", "rig.mass")),
            assumptions=("all pivots turn by the same angle, two faces each, new washers", "pins loaded by weight, arm level"), source="statics 7.4"),
    )  # fmt: skip
    if jib.hung + holder.value >= LEAST:
        tell.add(
            by_formula("balance.slide", "Slide for a heavier camera", "m/kg", "balance", SLIDE, (length, hung, holder), source="statics 7.5"),
            by_formula("balance.gram", "Sliding is worth", "kg/m", "balance", GRAM, (length, hung, holder), source="statics 7.5"),
        )
        if design.text("weights.carried") == HOLES:
            tell.add(
                by_formula(
                    "balance.step",
                    "Left over between two holes, at most",
                    "N*m",
                    "balance",
                    STEP,
                    (hung, holder, design.given("h", "weights.step", "hole to hole", "m")),
                    source="statics 7.5",
                )
            )
    tell.take(_kit_changes(design, kit, others, jib, (camera, length, hung, holder, place)))
    low, high = used
    angles, moment = moments
    tell.curves["balance.moment"] = Curve("balance.moment", "camera end falling", angles, -moment, "rad", "N*m")
    shot = np.linspace(low, high, 41)
    pull = balance.front_up_moment(arm, shot)
    worst = int(np.argmax(np.abs(pull)))
    rest = balance.equilibrium(arm)
    sums = (
        Given("S", arm.along, "kg*m", "static moment along the arm", "weights.place"),
        Given("N", arm.above, "kg*m", "static moment above the pivot line", "weights.above"),
        Given("K", arm.level, "kg*m", "moment of what a motor holds level", "head.ahead"),
        tell.given("M_f", "balance.friction"),
    )
    tell.add(
        by_method("balance.drift", "Out of balance, most", abs(float(pull[worst])), "N*m", "balance",
                  "largest of 41 arm angles of the shot of g (S cos θ − N sin θ + K)", sums, source="statics 7.5"),
        by_formula("balance.push", "Push at the camera to move", "N", "balance", HOLD, (
            Given("Q", abs(float(pull[worst])), "N*m", "out of balance, most", "balance.drift"), tell.given("M_f", "balance.friction"), length),
            assumptions=("square to the arm, at the worst angle of the shot",), source="statics 7.5"),
    )  # fmt: skip
    if rest is not None:
        tell.add(by_method("balance.rest", "Comes to rest at", rest, "rad", "balance", "where S cos θ − N sin θ + K is nought, without friction", sums, source="statics 7.5"))
    within = max(stays, key=lambda span: span[1] - span[0], default=None)
    if within is not None:
        for key, label, angle in (("balance.stays_from", "Stays where it is left from", within[0]), ("balance.stays_to", "to", within[1])):
            tell.add(by_method(key, label, angle, "rad", "balance", "angles where |g (S cos θ − N sin θ + K)| is at most M_f", sums, source="statics 7.5"))
    tell.take(_findings(design, jib, tell.told(), balance_remedies(design, jib, racked) if suggest else (), stays, used))
    tell.take(_camera_off(design, kit, jib, camera, length, tell.given("M_f", "balance.friction"), moments))
    return tell.told()


def _kit_changes(design: Design, kit: Carried, others: tuple[OtherKit, ...], jib: Jib, given: tuple[Given, Given, Given, Given, Given]) -> Told:
    """Where the same weights balance each other kit of the project, starting from a balanced arm, and what would do instead of sliding."""
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
            by_formula(f"balance.kit.{other.id}", f"Slide to, with {name}", "m", "balance", KIT_HELD if jib.level == BY_MOTOR else KIT, inputs, assumptions=balanced, valid=slot, source="statics 7.5"),
            by_formula(f"balance.kit_add.{other.id}", f"Or hang more, with {name}", "kg", "balance", ADD, (new, camera, length, place),
                       assumptions=("the arm is in balance now", "at the same place; minus takes off"), source="statics 7.5"),
        )  # fmt: skip
    return tell.told()


def _findings(design: Design, jib: Jib, said: Told, remedies: tuple[Remedy, ...], stays: tuple[tuple[float, float], ...], shot: tuple[float, float]) -> Told:
    """Whether it stays where it is left, what hangs too high or beside its slot; `said` are the moments."""
    tell, arm = Teller(), jib.arm_balance
    drift, friction = said.value("balance.drift"), said.value("balance.friction")
    here = next((span for span in stays if span[0] <= shot[1] and span[1] >= shot[0]), None)
    level = balance.front_up_moment(arm, 0.0)
    way = "The camera end sinks" if level < 0 else "The camera end rises"
    if here is None:
        words = Words(way + " with {} wherever it is left.", ((said.value("balance.push") - friction / jib.front, "N"),))
    elif here[0] <= shot[0] and here[1] >= shot[1]:
        words = Words("Friction holds the arm anywhere in the shot; {} of {} is used.", ((drift, "N*m"), (friction, "N*m")))
    else:
        words = Words("Friction holds the arm from {} to {}; the shot uses {} to {}.", ((here[0], "rad"), (here[1], "rad"), (shot[0], "rad"), (shot[1], "rad")))
    lost = abs(level) > 0.25 * said.value("balance.front")
    state = STOP if lost else judge(drift, friction, "at_most", PICTURE)
    tell.findings.append(Finding(
        "balance.stays", "Stays where it is left", PEOPLE if lost else PICTURE, state, drift, max(friction, 1e-9), "at_most", "N*m", "weights.place", "balance",
        words, remedies if state != "clear" else (), figure="balance.drift"
    ))  # fmt: skip
    top_heavy = GRAVITY * arm.above * math.sin(max(abs(shot[0]), abs(shot[1])))
    if arm.above > 0:
        lower = round(design.number("weights.above") - arm.above / max(jib.hung + design.number("weights.holder"), 1e-9) - 0.002, 3)
        tell.add(by_method("balance.runs_away", "Drifting, it runs away with", top_heavy, "N*m", "balance", "g N sin θ at the steeper end of the shot", (
            Given("N", arm.above, "kg*m", "moment above the pivot line", "weights.above"),), source="statics 7.5"))  # fmt: skip
        tell.findings.append(Finding(
            "balance.top_heavy", "Weights above the pivot line", PEOPLE, judge(top_heavy, friction, "at_most", PICTURE), top_heavy, max(friction, 1e-9), "at_most", "N*m",
            "weights.above", "balance", Words("Once it starts to drift it runs away; at the end of the shot that is {}.", ((top_heavy, "N*m"),)),
            (Remedy("lower", Words("Hang weights at {}", ((lower, "m"),)), (("weights.above", lower),)),) if lower >= -0.4 else (), figure="balance.runs_away"
        ))  # fmt: skip
    tell.take(_carried(design, jib))
    place, rear, near = (design.number(key) for key in ("weights.place", "arm.rear", "weights.nearest"))
    if near > rear:
        tell.findings.append(Finding(
            "balance.slot", "Slot for the weights", BUILD, STOP, near, rear, "at_most", "m", "weights.nearest", "balance",
            Words("The slot would start at {}, behind the end of the arm at {}.", ((near, "m"), (rear, "m"))),
            (Remedy("slot", Words("Slide from {}", ((round(0.7 * rear, 3), "m"),)), (("weights.nearest", round(0.7 * rear, 3)),)),),
        ))  # fmt: skip
    else:
        inside = near - 1e-9 <= place <= rear + 1e-9
        nearest = min(max(place, near), rear)
        tell.findings.append(Finding(
            "balance.on_slot", "Weights on the slot", BUILD, "clear" if inside else STOP, place, rear if place > near else near,
            "at_most" if place > near else "at_least", "m", "weights.place", "balance",
            Words("The weights hang at {}; the slot runs from {} to {}.", ((place, "m"), (near, "m"), (rear, "m"))),
            () if inside else (Remedy("on_slot", Words("Hang at {}", ((nearest, "m"),)), (("weights.place", nearest),)), *remedies),
        ))  # fmt: skip
    return tell.told()


def _carried(design: Design, jib: Jib) -> Told:
    """Weights between two holes, weights that swing."""
    tell = Teller()
    carried, near, place = design.text("weights.carried"), design.number("weights.nearest"), design.number("weights.place")
    if carried == HOLES:
        step = design.number("weights.step")
        hole = min(max(0, round((place - near) / step)), math.floor((design.number("arm.rear") - near) / step + 1e-9)) * step + near
        off, close = abs(place - hole), 1e-3
        tell.findings.append(Finding(
            "balance.on_hole", "Pin in its hole", BUILD, "clear" if off <= close else STOP, off, close, "at_most", "m", "weights.place", "balance",
            Words("The pin would sit {} off the nearest hole, at {}.", ((off, "m"), (hole, "m"))),
            (Remedy("hole", Words("Hang at {}", ((round(hole, 4), "m"),)), (("weights.place", round(hole, 4)),)),) if off > close and 0.05 <= hole <= 3 else (),
        ))  # fmt: skip
    if carried == HANGING:
        tell.findings.append(Finding(
            "balance.swinging", "Hanging weights", PEOPLE, WATCH, jib.hung, 0.0, "at_most", "kg", "weights.carried", "balance",
            Words("{} hang free: they swing after every stop and may strike the stand. Steady them with a cord; keep heads clear.", ((jib.hung, "kg"),)),
        ))  # fmt: skip
    return tell.told()


def drift(jib: Jib, used: tuple[float, float], stays: tuple[tuple[float, float], ...]) -> Drift:
    """What the reading under the stage shows at Balance."""
    return Drift("balance.moment", jib.arm_balance.friction, used, stays)


def _camera_off(design: Design, kit: Carried, jib: Jib, camera: Given, length: Given, friction: Given, moments: tuple[np.ndarray, np.ndarray]) -> Told:
    """What the arm does when the camera is taken off with the weights still on."""
    tell = Teller()
    tell.add(by_formula("balance.camera_off", "Stored when the camera comes off", "J", "balance", SHOOT, (
        camera, length, Given("theta_hi", jib.limits.high, "rad", "highest arm angle", "rig.angle_high"), Given("theta_lo", jib.limits.low, "rad", "lowest arm angle", "rig.angle_low")),
        assumptions=("the arm is balanced with the camera on", "let go at its lowest, stopped at its highest"), source="work of the missing weight"))  # fmt: skip
    energy, limit = tell.value("balance.camera_off"), 10.0
    tell.findings.append(Finding(
        "balance.shoots_up", "Camera off, weights on", PEOPLE, WATCH if energy > 0.8 * limit else "clear", energy, limit, "at_most", "J", "weights.hung", "balance",
        Words("Take the weights off before the camera: the arm would shoot up with {}.", ((energy, "J"),)), figure="balance.camera_off"
    ))  # fmt: skip
    mass = jib.mass_of("camera kit")
    ahead = jib.front + (jib.mount[0] + float(kit.payload.cg[0]) if jib.level == BY_MOTOR else 0.0)
    angles, moment = moments
    off = moment + GRAVITY * mass * (jib.front * np.cos(angles) + ahead - jib.front)
    worst = Given("Q_off", float(np.abs(off).max()), "N*m", "out of balance with the camera off, worst angle")
    tell.add(by_formula("balance.parked", "Parking strap holds", "N", "balance", STRAP, (
        worst, friction, design.given("l", "park.lever", "strap ahead of the pivot", "m")),
        assumptions=("camera off, weights on", "strap square to the arm"), source="lever"))  # fmt: skip
    held, lever = tell.value("balance.parked"), design.number("park.lever")
    further = round(min(3.0, 0.9 * jib.front, 1.3 * lever * held / STRAP_LIMIT), 2)
    tell.findings.append(Finding(
        "balance.parking", "Parked with the weights on", PEOPLE, judge(held, STRAP_LIMIT, "at_most", PEOPLE), held, STRAP_LIMIT, "at_most", "N", "park.lever", "balance",
        Words("Strap the arm down before the camera comes off: the strap holds {}, and {} is as much as a hand can still manage.", ((held, "N"), (STRAP_LIMIT, "N"))),
        (Remedy("further", Words("Strap it {} ahead", ((further, "m"),)), (("park.lever", further),)),) if held > 0.8 * STRAP_LIMIT and further > lever else (), figure="balance.parked"
    ))  # fmt: skip
    return tell.told()
