"""Shot and Rig: whether the arm makes the move, how far it reaches, what stops it."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.constructions import YOKE_LONG, bearing_for_yoke, yoke_swings
from hazel_lantern.core.kinds.jib.design import YOKE
from hazel_lantern.core.kinds.jib.model import BY_BARS, Jib
from hazel_lantern.core.kinds.path import Asked, Path
from hazel_lantern.core.kinds.shared.home_built import built_figures
from hazel_lantern.core.kinds.shared.moving import move_figures
from hazel_lantern.core.kinds.shared.stand import stand_fits
from hazel_lantern.core.kinds.shared.standing import bump
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, PICTURE, STOP, Finding, Remedy, judge, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

RISE = Formula("h_end - h_start")
ANGLE = Formula("asin((h - z_lens - H)/L)")
HEIGHT = Formula("H + L*sin(theta) + z_lens")
TRAVEL = Formula("L*(sin(theta_hi) - sin(theta_lo))")
REACH = Formula("L + x_kit")
ARC = Formula("L*(max(cos(theta_a), cos(theta_b), flat) - min(cos(theta_a), cos(theta_b)))")
USE_TO = math.radians(50)
STEEP = math.radians(44)  # that an arm is sized to swing either way
SPARE = math.radians(0.5)  # kept of what a yoke lets it swing
SHORT = 1.2  # metres of arm that a tripod head still carries as a riser


def lens_up(jib: Jib, path: Path) -> float:
    """How far the lens is above the head pin, as the head holds it for this shot [m]."""
    return float(jib.mount[1] + path.lens[2])


def used_angles(move: Move, path: Path) -> tuple[float, float]:
    """Lowest and highest arm angle of the shot, held inside the arm's limits [rad]."""
    places = np.array([(0.0, 0.0, height) for height in move.heights])
    angles = path.follow(
        path.model, Asked(np.linspace(0.0, 1.0, len(places)), places, places[0], places[-1], path.lens)
    ).q[:, 0]
    return float(angles.min()), float(angles.max())


def shot_figures(design: Design, move: Move, optics: Optics, jib: Jib, used: tuple[float, float], path: Path) -> Told:
    """The move as this arm makes it."""
    tell = Teller()
    limits = jib.limits
    start = Given("h_start", move.start_height_m, "m", "lens at the start", "shot.start")
    end = Given("h_end", move.end_height_m, "m", "lens at the end", "shot.end")
    length, height = (
        design.given("L", "arm.front", "front arm", "m"),
        design.given("H", "pivot.height", "pivot height", "m"),
    )
    z_lens = Given("z_lens", lens_up(jib, path), "m", "lens above the head pin", "head.rise")
    u = np.linspace(0, 1, 81)
    tell.curves["shot.path"] = Curve(
        "shot.path",
        "Height of the lens over time",
        u * move.duration_s,
        jib.lens_height(path.at(u)[:, 0]) - jib.lens[1] + z_lens.value,
        "s",
        "m",
    )
    tell.add(by_formula("shot.rise", "Rise", "m", RISE, (start, end), source="difference of heights", headline=True))
    rise = tell.value("shot.rise")
    tell.take(move_figures(move, optics, abs(rise), "rise", "shot.rise" if rise >= 0 else ""))
    ends = []
    for key, label, given in (
        ("shot.angle_start", "Arm angle at the start", start),
        ("shot.angle_end", "Arm angle at the end", end),
    ):
        inputs = (Given("h", given.value, "m", given.label, given.ref), z_lens, height, length)
        try:
            tell.add(by_formula(key, label, "rad", ANGLE, inputs, source="statics 7.1"))
            ends.append(tell.value(key))
        except ValueError:
            tell.findings.append(
                Finding(
                    f"{key}.reach",
                    "Out of reach",
                    PICTURE,
                    STOP,
                    given.ref,
                    Words(
                        "The arm cannot bring the lens to {} from a pivot at {}.",
                        ((given.value, "m"), (jib.height, "m")),
                    ),
                    given.value,
                    float(jib.lens_height(limits.high if given.value > jib.height else limits.low)),
                    "at_most" if given.value > jib.height else "at_least",
                    "m",
                    reach_remedies(design, move, jib, path),
                )
            )
    if len(ends) == 2:
        tell.take(_fits(design, move, jib, path, ends))
    tell.add(
        by_formula(
            "shot.arc",
            "Swings fore and aft",
            "m",
            ARC,
            (
                length,
                *(
                    Given(s, a, "rad", w)
                    for s, a, w in zip(
                        ("theta_a", "theta_b"), used, ("lowest angle used", "highest angle used"), strict=True
                    )
                ),
                Given("flat", 1.0 if used[0] <= 0 <= used[1] else 0.0, "1", "1 when the arm passes level"),
            ),
            assumptions=("the head moves on an arc, not a plumb line",),
            source="statics 7.1",
        )
    )
    return tell.told()


def _fits(design: Design, move: Move, jib: Jib, path: Path, ends: list[float]) -> Told:
    """The swing the shot needs against the swing the arm has, at both ends."""
    tell = Teller()
    limits = jib.limits
    for key, angle, end, limit, stop, ref in (
        ("shot.low", min(ends), "lower", limits.low, limits.low_by, "shot.start"),
        ("shot.high", max(ends), "upper", limits.high, limits.high_by, "shot.end"),
    ):
        spare = (angle - limit) if end == "lower" else (limit - angle)
        state = STOP if spare < 0 else judge(abs(angle), USE_TO, "at_most", PICTURE, watch_at=1.0)
        if spare < 0:
            words = Words("The shot needs {}, but " + stop + " stops the arm at {}.", ((angle, "rad"), (limit, "rad")))
        else:
            words = Words("The shot uses {}; " + stop + " would stop the arm at {}.", ((angle, "rad"), (limit, "rad")))
        against, sense = (
            (limit, "at_least" if end == "lower" else "at_most")
            if spare < 0
            else (math.copysign(USE_TO, angle), "at_least" if angle < 0 else "at_most")
        )
        tell.findings.append(
            Finding(
                key,
                f"{end.capitalize()} end of the swing",
                PICTURE,
                state,
                ref,
                words,
                angle,
                against,
                sense,
                "rad",
                () if state == "clear" else reach_remedies(design, move, jib, path),
                figure=("shot.angle_start", "shot.angle_end")[ends.index(angle)],
            )
        )
    return tell.told()


def sized(move: Move, jib: Jib, path: Path) -> tuple[float, float]:
    """Pivot height midway of the move, within the stand's reach, and an arm that needs at most 44 degrees either way,
    or what its yoke lets it swing [m].
    """
    most = min(STEEP, yoke_swings(jib) - SPARE) if jib.held == YOKE else STEEP
    post, up = jib.post_length, lens_up(jib, path)
    middle = (move.start_height_m + move.end_height_m) / 2 - up
    above_stand = post - jib.crown + jib.pan.height
    height = step(min(max(middle, jib.stand.height_min + above_stand, 0.3), jib.stand.height_max + above_stand, 3.0))
    reach = max(abs(move.start_height_m - up - height), abs(move.end_height_m - up - height))
    return height, max(0.3, step(reach / math.sin(max(most, 0.05)), up=True))


def reach_remedies(design: Design, move: Move, jib: Jib, path: Path) -> tuple[Remedy, ...]:
    """A pivot midway of the move, and an arm long enough for it; a smaller bearing where a yoke's is in its way."""
    found = []
    if jib.held == YOKE and jib.pan.size > YOKE_LONG:
        pan = bearing_for_yoke(design)
        height, front = sized(move, replace(jib, pan=pan), path)
        words = Words(f"A {pan.name.lower()}, arm {{}}, pivot {{}}", ((front, "m"), (height, "m")))
        changes = (("pan.bearing", pan.id), ("arm.front", front), ("pivot.height", height))
        found.append(Remedy("bearing", words, changes))
    height, front = sized(move, jib, path)
    if abs(height - jib.height) > 5e-3:
        found.append(set_one("pivot", "Pivot at {}", "pivot.height", height, "m"))
    if front <= 6 and abs(front - jib.front) > 5e-3:
        found.append(
            Remedy(
                "arm",
                Words("Arm {}, pivot {}", ((front, "m"), (height, "m"))),
                (("arm.front", front), ("pivot.height", height)),
            )
        )
    return tuple(found)


def step(length: float, step: float = 0.01, *, up: bool = False) -> float:
    return round((math.ceil(length / step - 1e-9) if up else round(length / step)) * step, 6)


def rig_figures(design: Design, jib: Jib) -> Told:
    """Reach, heights, travel and what stops the arm."""
    tell = Teller()
    limits = jib.limits
    length, height = (
        design.given("L", "arm.front", "front arm", "m"),
        design.given("H", "pivot.height", "pivot height", "m"),
    )
    z_lens = Given("z_lens", jib.lens[1], "m", "lens above the head pin", "head.rise")
    stops = "; ".join(f"{name} at {math.degrees(angle):.1f}°" for name, angle in limits.stops)
    for key, label, angle, by in (
        ("rig.angle_low", "Arm swings down to", limits.low, limits.low_by),
        ("rig.angle_high", "and up to", limits.high, limits.high_by),
    ):
        tell.add(
            by_method(
                key,
                label,
                angle,
                "rad",
                f"the nearest of all stops ({stops}); {by} governs",
                (height, length),
                source="statics 7.1",
            )
        )
    low, high = tell.given("theta_lo", "rig.angle_low"), tell.given("theta_hi", "rig.angle_high")
    tell.add(
        by_formula(
            "rig.lens_low",
            "Lens, lowest",
            "m",
            HEIGHT,
            (height, length, Given("theta", low.value, "rad", "lowest arm angle", "rig.angle_low"), z_lens),
            source="statics 7.1",
        ),
        by_formula(
            "rig.lens_high",
            "Lens, highest",
            "m",
            HEIGHT,
            (height, length, Given("theta", high.value, "rad", "highest arm angle", "rig.angle_high"), z_lens),
            source="statics 7.1",
        ),
        by_formula(
            "rig.travel", "Rise of the arm", "m", TRAVEL, (length, low, high), source="statics 7.1", headline=True
        ),
        by_formula(
            "rig.reach",
            "Reach from the post",
            "m",
            REACH,
            (length, Given("x_kit", _kit_ahead(jib), "m", "camera ahead of the pin", "head.ahead")),
            assumptions=("to the camera's centre of mass, arm level",),
            source="statics 7.1",
        ),
        by_method(
            "rig.mass",
            "Everything together",
            jib.mass,
            "kg",
            "sum of all bodies",
            tuple(Given(f"m_{i}", b.mass, "kg", b.name) for i, b in enumerate(jib.bodies)),
            source="sections and densities",
        ),
        by_method(
            "rig.longest",
            "Longest piece",
            longest_piece(design, jib),
            "m",
            "the longest of arm, its pieces where it is joined, and upper bar, with their ends",
            (length, design.given("L_rear", "arm.rear", "rear arm", "m")),
            source="sizes",
        ),
    )
    tell.take(_stand(design, jib))
    return tell.told()


def longest_piece(design: Design, jib: Jib) -> float:
    """Length of the longest piece to carry [m]."""
    end, joint = design.number("arm.end"), design.number("arm.joint")
    arm = max(jib.rear + joint, jib.front - joint) + end if 0 < joint < jib.front else jib.front + jib.rear + 2 * end
    return max(arm, jib.upper + 2 * end if jib.level == BY_BARS else 0.0)


def _kit_ahead(jib: Jib) -> float:
    return next(body.along for body in jib.bodies if body.name == "camera kit")


def _stand(design: Design, jib: Jib) -> Told:
    stand = jib.stand
    tell = Teller()
    carried = sum(b.mass for b in jib.bodies if b.frame != "fixed")
    tell.add(
        by_method(
            "rig.carried",
            "The stand carries",
            carried,
            "kg",
            "sum of all that rests on the stand",
            tuple(Given(f"m_{i}", b.mass, "kg", b.name) for i, b in enumerate(jib.bodies) if b.frame != "fixed"),
            source="sections and densities",
        )
    )
    column = jib.column
    stronger = [
        s
        for s in design.catalogue.stands.values()
        if s.load_limit * 0.8 >= carried and s.height_min <= column <= s.height_max
    ]
    best = min(stronger, key=lambda s: s.mass, default=None)
    change = (
        ()
        if best is None
        else (
            Remedy(
                "stand",
                Words(f"Use {best.name.lower()}"),
                (
                    ("stand", best.id),
                    ("stand.radius", min(max(design.number("stand.radius"), best.radius_min), best.radius_max)),
                ),
            ),
        )
    )
    state = judge(carried, stand.load_limit, "at_most", PEOPLE)
    tell.hold(
        "rig.carried",
        "rig.stand_load",
        "Load on the stand",
        PEOPLE,
        "stand",
        "The stand carries {}; its maker allows {}.",
        at_most=stand.load_limit,
        state=state,
        remedies=change,
    )
    tell.take(
        stand_fits(
            design,
            stand,
            (column,),
            "pivot height less the post below it and what it pans on",
            (design.given("H", "pivot.height", "pivot", "m"),),
            ("pivot.height", "Pivot at {}"),
        )
    )
    lens = float(jib.lens_height(jib.limits.high))
    spread, push = design.number("stand.radius"), bump(design, jib.mass)
    tell.take(built_figures(design, stand, column, spread, carried * GRAVITY, push, lens))
    return tell.told()
