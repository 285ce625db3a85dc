"""The rope itself: how far it sags, how hard it pulls, how many times stronger it is, and how low it comes."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Changes, Design
from hazel_lantern.core.kinds.cable_cam.design import BY_SAG, PEOPLE_BELOW, SWINGS
from hazel_lantern.core.kinds.cable_cam.fittings import cut_length
from hazel_lantern.core.kinds.cable_cam.model import BELOW_MOUNT, Cable, Lanes, dynamic, wind_on
from hazel_lantern.core.kinds.cable_cam.tight import (
    left_of,
    needed,
    stored_told,
    strength_told,
    tightening_told,
    weather_told,
)
from hazel_lantern.core.kinds.shared.hung import caution, refusal, tether_figures
from hazel_lantern.core.mechanics import rigging, rope
from hazel_lantern.core.nouns.errors import InputError, RefusedError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

SAGS = (0.008, 0.12)  # of the span, from where to where its pull is shown
SLIGHT = 0.5  # of what a pulley asks for, that a wheel does round which the rope hardly turns, workshop judgement
PARABOLA = 0.03  # of the sag, by which the quick sum may differ where the rope is flat
FLAT = 0.08  # of the span


def line_figures(design: Design, cable: Cable, suggest: bool) -> Told:
    """Sag, pull, strength, what is stored, weather, tightening, refusals."""
    tell = Teller()
    tell.findings.append(
        caution(
            cable.moving,
            "a rope tight over the ground, nobody under it or in line with it, tightened in gloves and glasses",
            "rig.moving",
        )
    )
    _mass(tell, cable)
    _hangs(tell, design, cable)
    _pulls(tell, design, cable)
    strength_told(tell, design, cable)
    stored_told(tell, cable)
    weather_told(tell, design, cable)
    tightening_told(tell, design, cable)
    _wheels(tell, design, cable)
    _below(tell, design)
    tell.take(tether_figures(design, cable.moving, "carriage with camera"))
    return tell.told()


def _mass(tell: Teller, cable: Cable) -> None:
    given = (Given("m", cable.moving, "kg", "carriage with camera", "carriage.mass"),)
    tell.add(
        by_method(
            "rig.mass",
            "Everything weighs",
            cable.laid.mass,
            "kg",
            "carriage, camera kit, rope and posts; without guys and lines",
            given,
            source="catalogue",
        ),
        by_method(
            "rig.moving",
            "Carriage with the camera",
            cable.moving,
            "kg",
            "what runs on the rope",
            given,
            source="geometry",
        ),
    )


def _hangs(tell: Teller, design: Design, cable: Cable) -> None:
    middle, source = cable.middle, "dynamics 1.1"
    given = (
        Given("P", cable.load, "N", "on a rope, with half of its haul line", "carriage.mass"),
        design.given("l", "rope.span", "span", "m"),
        Given("h", cable.rise, "m", "end B over end A", "end.b"),
        Given("w", float(cable.line.weight), "N/m", "rope a metre", "rope.line"),
        Given("EA", float(cable.line.ea), "N", "stiffness, with what the ends give"),
    )
    left = float(cable.now.residual.max())
    how = "elastic catenary, the carriage on free wheels, by Newton's iteration"
    deepest = int(cable.now.sag.argmax())
    tell.add(
        by_method(
            "balance.sag",
            "Sag with the camera, in the middle",
            float(cable.now.sag[middle]),
            "m",
            how,
            given,
            residual=left,
            source=source,
            headline=True,
        ),
        by_method(
            "balance.sag_most",
            "at the most",
            float(cable.now.sag[deepest]),
            "m",
            f"{how}; at every place of the run",
            (*given, Given("x", float(cable.at[deepest]), "m", "from end A")),
            residual=left,
            source=source,
        ),
        by_method(
            "balance.sag_empty",
            "while empty",
            cable.states.empty,
            "m",
            "the rope alone, in its middle",
            given[1:],
            residual=left,
            source=source,
        ),
        by_method(
            "balance.rope",
            "Rope from end to end, not stretched",
            cable.length,
            "m",
            how,
            given,
            residual=left,
            source="dynamics 1.2",
        ),
        by_method(
            "rig.cut",
            "Rope to cut, with both eyes",
            cut_length(design, cable),
            "m",
            "that, less what shackles and tensioner reach, and what its eyes take",
            (Given("L", cable.length, "m", "rope from end to end", "balance.rope"),),
            source="geometry",
        ),
        by_method(
            "balance.quick",
            "A quick sum says",
            _quick(cable),
            "m",
            "parabola with the rope's stretch, in the middle",
            given,
            source="dynamics 1.2",
        ),
    )
    off = abs(tell.value("balance.quick") / tell.value("balance.sag") - 1)
    flat = tell.value("balance.sag") < FLAT * cable.span and abs(cable.rise) < 0.3 * cable.span
    if flat and off > PARABOLA * 3:
        tell.findings.append(
            Finding(
                "balance.two_ways",
                "Two ways to reckon",
                STRUCTURE,
                WATCH,
                "rope.sag",
                Words("The exact shape and a quick sum differ by {}: check rope and carriage.", ((off, "1"),)),
            )
        )


def _quick(cable: Cable) -> float:
    """Sag in the middle by the parabola [m]: the one positive root for the pull across."""
    l, slope = cable.span, math.atan2(cable.rise, cable.span)
    ea, weight, load = float(cable.line.ea), float(cable.line.weight) / math.cos(slope), cable.load
    a = b = l / 2
    energy = weight**2 * l**3 / 12 + load**2 * a * b / l + load * weight * a * b
    roots = np.roots(
        [
            cable.length / math.cos(slope) / ea,
            cable.length - l / math.cos(slope),
            0.0,
            -0.5 * math.cos(slope) ** 3 * energy,
        ]
    )
    pull = max(float(r.real) for r in roots if abs(r.imag) < 1e-6 * abs(r))
    return a * b * (load / l + weight / 2) / pull


def _pulls(tell: Teller, design: Design, cable: Cable) -> None:
    hung, worst = cable.now, cable.states.worst
    k, w = int(hung.pull.argmax()), int(worst.pull.argmax())
    ropes = f", each of {cable.count} ropes" if cable.count > 1 else ""
    where = (
        Given("x", float(cable.at[k]), "m", "carriage from end A"),
        Given("P", cable.load, "N", "on a rope", "carriage.mass"),
    )
    for end, out, down in (("a", hung.out_a, hung.down_a), ("b", hung.out_b, hung.down_b)):
        pull = np.hypot(out, down)
        n = int(pull.argmax())
        tell.add(
            by_method(
                f"balance.pull_{end}",
                f"End {end.upper()} is pulled with",
                float(pull[n]),
                "N",
                f"the most over the run{ropes}",
                (Given("x", float(cable.at[n]), "m", "carriage from end A"),),
                source="dynamics 1.1",
            ),
            by_method(
                f"balance.angle_{end}",
                "downwards by",
                float(np.arctan2(down, out)[n]),
                "rad",
                "below level, where it pulls most; minus for upwards",
                (Given("x", float(cable.at[n]), "m", "carriage from end A"),),
                source="dynamics 1.1",
            ),
        )
    pushed, _ = wind_on(design, cable.stock)
    tell.add(
        by_method(
            "balance.pull",
            "Most pull on an end",
            float(hung.pull[k]),
            "N",
            f"of both ends, over the run{ropes}",
            where,
            source="dynamics 1.1",
            headline=True,
        ),
        by_method(
            "balance.bare",
            "Pull across while empty",
            cable.bare,
            "N",
            f"read with a scale in the line{ropes}",
            (Given("L", cable.length, "m", "rope from end to end", "balance.rope"),),
            source="dynamics 1.2",
        ),
        by_method(
            "balance.worst",
            "Pull it is designed for",
            float(worst.pull[w]),
            "N",
            "the most over the run with its load times phi, gusts across it, and the rope as short as the weather "
            f"makes it{ropes}",
            (
                Given(
                    "phi",
                    dynamic(design),
                    "1",
                    "1.25 eased by a loop, 2 where a stop is hit or a line breaks",
                    "haul.by",
                ),
                Given("P", cable.load, "N", "on a rope", "carriage.mass"),
                Given("F_w", pushed, "N", "wind on the carriage", "wind.speed"),
                Given("x", float(cable.at[w]), "m", "carriage from end A"),
            ),
            source="dynamics 1.4, 1.9",
        ),
    )


def _wheels(tell: Teller, design: Design, cable: Cable) -> None:
    ratio, least = design.number("carriage.wheel") / cable.stock.d, SLIGHT * rigging.stock(cable.stock.sort).wheel
    tell.add(
        by_formula(
            "rig.wheel_ratio",
            "Wheels over the rope's thickness",
            "1",
            Formula("D/d"),
            (design.given("D", "carriage.wheel", "wheel", "m"), Given("d", cable.stock.d, "m", "rope", "rope.line")),
            source="dynamics 1.3",
        )
    )
    better = math.ceil(least * cable.stock.d * 200) / 200
    tell.hold(
        "rig.wheel_ratio",
        "rig.wheels",
        "Wheels large enough",
        STRUCTURE,
        "carriage.wheel",
        "A wheel is {} times as wide as the rope is thick; under {} it wears the rope.",
        at_least=least,
        state=CLEAR if ratio >= least else WATCH,
        remedies=(set_one("larger", "Wheels of {}", "carriage.wheel", better, "m"),) if better <= 0.2 else (),
    )


def _below(tell: Teller, design: Design) -> None:
    if design.text("below") == PEOPLE_BELOW:
        try:
            rigging.refuse_people(True)
        except RefusedError as error:
            tell.findings.append(refusal("below", str(error)))


def clearance_figures(design: Design, cable: Cable, swings: float) -> Told:
    """The lowest of what hangs over level ground, at its longest, swung out."""
    tell = Teller()
    low, at = lowest(cable)
    k = int(low.argmin())
    asks = clear_asked(design, cable, at, swings)
    tell.add(
        by_method(
            "balance.low",
            "Passes over the ground at",
            float(low[k]),
            "m",
            "the lowest of what hangs, between its stops, the rope warm and grown",
            (
                Given("x", float(at[k]), "m", "from end A"),
                design.given("d", "carriage.drop", "mount below the rope", "m"),
                Given("s", float(cable.states.longest.sag.max()), "m", "sags, warm and grown", "balance.sag_longest"),
            ),
            source="dynamics 1.2",
            headline=True,
        )
    )
    up = math.ceil((float(asks.max()) - float(low[k])) * 20) / 20
    highest = max(cable.ends) + up
    mend = (
        (
            Remedy(
                "raise",
                Words("Both ends {} higher", ((up, "m"),)),
                (("end.a", round(cable.ends[0] + up, 3)), ("end.b", round(cable.ends[1] + up, 3))),
            ),
        )
        if up > 0 and highest <= 12
        else ()
    )
    if float(low[k]) <= 0:
        words = Words(
            "On its way it would lie on the ground, {} deep: higher ends, or less sag.", ((-float(low[k]), "m"),)
        )
    else:
        words = Words("It passes over the ground at {}; {} is asked.", ((float(low[k]), "m"), (float(asks[k]), "m")))
    tell.hold(
        "balance.low",
        "balance.clears",
        "Clear of the ground",
        PEOPLE,
        "end.a",
        words,
        at_least=float(asks[k]),
        watch_at=0.9,
        remedies=mend,
    )
    return tell.told()


def clear_asked(design: Design, cable: Cable, at: np.ndarray, swings: float) -> np.ndarray:
    """What it must clear things by at places from A (n,) [m]: what is set, a tenth of its sag, what it drops as it
    swings out that far [rad].
    """
    drops = cable.drop * (1 - math.cos(min(swings, 1.0))) if design.text("carriage.hang") == SWINGS else 0.0
    sag = np.maximum(np.interp(at, cable.at, cable.states.longest.sag), 0.0)
    return np.asarray(design.number("clear.least") + 0.1 * sag + drops)


def lowest(cable: Cable) -> tuple[np.ndarray, np.ndarray]:
    """Height of the lowest of what hangs, at its longest, from stop to stop, and where (n,) [m] from A."""
    first, last = cable.low + cable.span / 2, cable.high + cable.span / 2
    at = np.array([first, *cable.at[(cable.at > first) & (cable.at < last)], last])
    height = np.interp(at, cable.at, cable.states.longest.height)
    return cable.ends[0] + height - cable.drop - BELOW_MOUNT, at


def sag_curve(design: Design, cable: Cable) -> Told:
    """Pull on an end against the sag it is given, from where the rope is too weak to where it comes too low."""
    if design.text("rope.set") != BY_SAG:
        return Told()
    middle, now = cable.at[[cable.middle]], design.number("rope.sag")
    sags = np.geomspace(min(SAGS[0] * cable.span, now), max(SAGS[1] * cable.span, now), 33)
    hung = rope.rolling_at_sag(cable.line, sags, cable.load, float(middle[0]))
    fine = np.flatnonzero(hung.good)
    try:
        strong = (
            left_of(design, cable.stock.sort, cable.stock.d) * cable.stock.breaking / needed(design, cable.stock.sort)
        )
    except (RefusedError, InputError):
        return Told()
    if len(fine) < 5:
        return Told()
    sags, pull, lengths = sags[fine], hung.pull[fine], hung.length[fine]
    lanes, n = Lanes(cable.line), len(fine)
    for length in lengths.tolist():
        lanes.worst(design, cable.stock, middle, length, cable.load, cable.count)
    for length in lengths.tolist():
        lanes.longest(design, cable.stock, middle, length, cable.load)
    found = lanes.solve(strict=False)
    # Over the run it pulls more, and comes lower, than in the middle, by as much as it does now.
    k = cable.middle
    worst = found.pull[:n] * (float(cable.states.worst.pull.max()) / float(cable.states.worst.pull[k]))
    low, _ = lowest(cable)
    lower = float(low.min()) - (cable.ends[0] + float(cable.states.longest.height[k]) - cable.drop - BELOW_MOUNT)
    spare = cable.ends[0] + found.height[n:] - cable.drop - BELOW_MOUNT + lower
    spare -= design.number("clear.least") + 0.1 * found.sag[n:]
    tight = float(np.interp(-strong, -worst, sags)) if worst.min() < strong else math.inf
    deep = float(np.interp(0.0, -spare, sags)) if spare.max() > 0 else -math.inf
    curve = Curve(
        "balance.sags",
        "Pull on an end, camera in the middle",
        sags,
        pull,
        "m",
        "N",
        "sag with the camera",
        now,
        (tight, deep),
        ("too tight for the rope", "too low over the ground"),
        "rope.sag",
    )
    return Told(curves=(curve,))


def sag_for(design: Design, cable: Cable) -> Changes:
    """Main action of Balance: the sag with which the rope is as strong as asked, a little more, or the least its ends
    allow.
    """
    found = sag_curve(design, cable).curves
    if not found:
        return ()
    tight, deep = found[0].safe
    if not tight < deep:
        return ()
    return (("rope.sag", round(min(max(1.15 * tight, 0.03 * cable.span), 0.98 * deep), 2)),)
