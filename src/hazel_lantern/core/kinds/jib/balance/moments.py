"""Moments about the pivot over the whole swing: where the arm stays, where it drifts, what a weight is worth."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Carried, Design, Drift, OtherKit
from hazel_lantern.core.kinds.jib.balance.verdicts import balance_findings, camera_off, kit_changes
from hazel_lantern.core.kinds.jib.balance.weights import Racked, balance_remedies
from hazel_lantern.core.kinds.jib.design import CLAMPED, HOLES
from hazel_lantern.core.kinds.jib.model import ARM, BAR, BY_CABLE, BY_MOTOR, LEAST, LEVEL, REAR, WEIGHTS, Jib
from hazel_lantern.core.mechanics import balance
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told

FRONT = Formula("g*(m_kit*L + m_head*L + m_arm*s_arm + m_more*s_more)")
FRONT_HELD = Formula("g*(m_kit*(L + x_kit) + m_head*(L + x_head) + m_arm*s_arm + m_more*s_more)")
REAR_SIDE = Formula("g*(m_hung + m_pin)*s")
NEEDED = Formula("S/s - m_pin")
FRICTION = Formula("n*mu*F*(2/3)*(r_o**3 - r_i**3)/(r_o**2 - r_i**2) + mu*r_i*(g*(m_swung + m_head) + P)")
SLIDE = Formula("L/(m_hung + m_pin)")
GRAM = Formula("(m_hung + m_pin)/L")
STEP = Formula("g*(m_hung + m_pin)*h/2")
HOLD = Formula("(Q + M_f)/L")


def moments(jib: Jib) -> tuple[np.ndarray, np.ndarray]:
    """Arm angles over the whole swing [rad] and the moment that lifts the camera there [N*m]."""
    angles = np.linspace(jib.limits.low, jib.limits.high, 61)
    return angles, balance.front_up_moment(jib.arm_balance, angles)


def stays(jib: Jib) -> tuple[tuple[float, float], ...]:
    """Spans of arm angle that friction holds [rad]."""
    return tuple(balance.stay_put(jib.arm_balance, jib.limits.low, jib.limits.high))


class Sides(Struct, frozen=True):
    """What stands on either side of the pivot, as inputs of a why: camera, front arm, head, weights hung, their pin
    and their place.
    """

    camera: Given
    length: Given
    head: Given
    hung: Given
    holder: Given
    place: Given

    @classmethod
    def of(cls, design: Design, jib: Jib) -> Sides:
        """Of a design and its mechanism."""
        camera = Given("m_kit", jib.mass_of("camera kit"), "kg", "camera kit", "kit")
        return cls(
            camera,
            design.given("L", "arm.front", "front arm", "m"),
            Given("m_head", jib.head_mass - camera.value, "kg", "head and uprights", "head.mass"),
            Given("m_hung", jib.hung, "kg", "weights hung", "weights.hung"),
            design.given("m_pin", "weights.holder", "weight pin and collars", "kg"),
            design.given("s", "weights.place", "weights behind the pivot", "m"),
        )


def balance_figures(
    design: Design,
    kit: Carried,
    others: tuple[OtherKit, ...],
    suggest: bool,
    jib: Jib,
    used: tuple[float, float],
    moments: tuple[np.ndarray, np.ndarray],
    stays: tuple[tuple[float, float], ...],
    racked: Racked,
) -> Told:
    """Moments about the pivot over the whole swing, and what the weights are worth."""
    tell, sides = Teller(), Sides.of(design, jib)
    tell.take(_either_side(jib, sides))
    tell.take(_friction(design, jib))
    tell.take(_sliding(design, jib, sides))
    given = (sides.camera, sides.length, sides.hung, sides.holder, sides.place)
    tell.take(kit_changes(design, kit, others, jib, given))
    held = tell.given("M_f", "balance.friction")
    tell.take(_left_alone(jib, sides, held, used, moments, stays))
    mend = balance_remedies(design, jib, racked) if suggest else ()
    balance_findings(tell, design, jib, mend, stays, used)
    tell.take(camera_off(design, kit, jib, sides.camera, sides.length, held, moments))
    return tell.told()


def _either_side(jib: Jib, given: Sides) -> Told:
    """The camera side, the rear side, and the weight that makes them even."""
    tell, bodies = Teller(), {body.name: body for body in jib.bodies}
    fine = "weights act as forces at their own centres; level parts act at the head pin"
    more = [body for body in jib.bodies if body.frame in (ARM, BAR, REAR) and body.name not in ("arm", *WEIGHTS)]
    massed = sum(body.mass for body in more)
    # What a rear upright weighs acts at its pin.
    turned = sum(body.mass * (-jib.place if body.frame == REAR else body.along) for body in more)
    sides: tuple[Given, ...] = (
        given.camera,
        given.length,
        given.head,
        Given("m_arm", bodies["arm"].mass, "kg", "arm", "arm.section"),
        Given("s_arm", bodies["arm"].along, "m", "centre of the arm ahead of the pivot", "arm.rear"),
        Given(
            "m_more", massed, "kg", "upper bar, rear upright, cable, sleeve, stay: what there is of them", "rig.mass"
        ),
        Given("s_more", turned / massed if massed else 0.0, "m", "their centre ahead of the pivot", "arm.front"),
    )
    held = jib.level == BY_MOTOR
    if held:
        heads = [body for body in jib.bodies if body.frame == LEVEL and body.name != "camera kit"]
        sides = (
            *sides,
            Given("x_kit", bodies["camera kit"].along, "m", "camera ahead of the head pin", "head.ahead"),
            Given(
                "x_head",
                sum(b.mass * b.along for b in heads) / max(given.head.value, 1e-9),
                "m",
                "head ahead of its pin",
                "head.ahead",
            ),
        )
        fine = "a motor holds the head level, so camera and head count where they are"
    tell.add(
        by_formula(
            "balance.front",
            "Camera side",
            "N*m",
            FRONT_HELD if held else FRONT,
            sides,
            assumptions=("arm level", fine, "not counted: cable drag, wind"),
            source="statics 7.5",
        ),
        by_formula(
            "balance.rear",
            "Rear side",
            "N*m",
            REAR_SIDE,
            (given.hung, given.holder, given.place),
            assumptions=("arm level",),
            source="statics 7.5",
        ),
        by_formula(
            "balance.needed",
            "Weight needed there",
            "kg",
            NEEDED,
            (
                Given("S", jib.front_moment, "kg*m", "camera side to balance", "balance.front"),
                given.place,
                given.holder,
            ),
            source="statics 7.5",
            headline=True,
        ),
    )
    return tell.told()


def _friction(design: Design, jib: Jib) -> Told:
    """What the pivots hold by themselves."""
    held = jib.level == BY_MOTOR
    if jib.held == CLAMPED:
        drag = Given("T", jib.pan.friction, "N*m", "drag of the head it is clamped on", "pan.bearing")
        return Told(
            (
                by_formula(
                    "balance.friction",
                    "Friction in the pivots",
                    "N*m",
                    Formula("T"),
                    (drag,),
                    assumptions=("a fluid head tilts with the drag that it pans with",),
                    source="catalogue",
                ),
            )
        )
    figure = by_formula(
        "balance.friction",
        "Friction in the pivots",
        "N*m",
        FRICTION,
        (
            Given("n", jib.faces, "count", "clamped faces", "pivot.bearing"),
            Given("mu", jib.bearing.mu, "1", "friction of the faces", "pivot.bearing"),
            design.given("F", "pivot.clamp", "clamping", "N"),
            Given("r_o", jib.bolt.washer_od / 2, "m", "washer radius", "pin.bolt"),
            Given("r_i", jib.bolt.d / 2, "m", "bolt radius", "pin.bolt"),
            Given(
                "m_swung",
                sum(b.mass for b in jib.bodies if b.frame in (ARM, BAR, LEVEL, REAR)),
                "kg",
                "all that swings",
                "rig.mass",
            ),
            Given("m_head", 0.0 if held else jib.head_mass, "kg", "all that hangs on the head pin", "head.mass"),
            Given(
                "P",
                4 * jib.cable.tension if jib.level == BY_CABLE else 0.0,
                "N",
                "pull of the cable on both pins",
                "rig.mass",
            ),
        ),
        assumptions=(
            "all pivots turn by the same angle, two faces each, new washers",
            "pins loaded by weight, arm level",
        ),
        source="statics 7.4",
    )
    return Told((figure,))


def _sliding(design: Design, jib: Jib, given: Sides) -> Told:
    """What a little more camera, or a little slide, is worth; nothing where no weights hang."""
    tell = Teller()
    if jib.hung + given.holder.value < LEAST:
        return tell.told()
    tell.add(
        by_formula(
            "balance.slide",
            "Slide for a heavier camera",
            "m/kg",
            SLIDE,
            (given.length, given.hung, given.holder),
            source="statics 7.5",
        ),
        by_formula(
            "balance.gram",
            "Sliding is worth",
            "kg/m",
            GRAM,
            (given.length, given.hung, given.holder),
            source="statics 7.5",
        ),
    )
    if design.text("weights.carried") == HOLES:
        tell.add(
            by_formula(
                "balance.step",
                "Left over between two holes, at most",
                "N*m",
                STEP,
                (given.hung, given.holder, design.given("h", "weights.step", "hole to hole", "m")),
                source="statics 7.5",
            )
        )
    return tell.told()


def _left_alone(
    jib: Jib,
    given: Sides,
    held: Given,
    used: tuple[float, float],
    moments: tuple[np.ndarray, np.ndarray],
    stays: tuple[tuple[float, float], ...],
) -> Told:
    """How far it is out of balance over the shot, where it comes to rest and where it stays."""
    tell, arm = Teller(), jib.arm_balance
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
        held,
    )
    tell.add(
        by_method(
            "balance.drift",
            "Out of balance, most",
            abs(float(pull[worst])),
            "N*m",
            "largest of 41 arm angles of the shot of g (S cos θ − N sin θ + K)",
            sums,
            source="statics 7.5",
        ),
        by_formula(
            "balance.push",
            "Push at the camera to move",
            "N",
            HOLD,
            (Given("Q", abs(float(pull[worst])), "N*m", "out of balance, most", "balance.drift"), held, given.length),
            assumptions=("square to the arm, at the worst angle of the shot",),
            source="statics 7.5",
        ),
    )
    if rest is not None:
        tell.add(
            by_method(
                "balance.rest",
                "Comes to rest at",
                rest,
                "rad",
                "where S cos θ − N sin θ + K is nought, without friction",
                sums,
                source="statics 7.5",
            )
        )
    within = max(stays, key=lambda span: span[1] - span[0], default=None)
    if within is not None:
        for key, label, angle in (
            ("balance.stays_from", "Stays where it is left from", within[0]),
            ("balance.stays_to", "to", within[1]),
        ):
            tell.add(
                by_method(
                    key,
                    label,
                    angle,
                    "rad",
                    "angles where |g (S cos θ − N sin θ + K)| is at most M_f",
                    sums,
                    source="statics 7.5",
                )
            )
    return tell.told()


def drift(jib: Jib, used: tuple[float, float], stays: tuple[tuple[float, float], ...]) -> Drift:
    """What the reading under the stage shows at Balance."""
    return Drift("balance.moment", jib.arm_balance.friction, used, stays)
