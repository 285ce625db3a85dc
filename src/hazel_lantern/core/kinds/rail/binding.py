"""Fits: where along its travel a carriage binds between its rails, what that costs,
what to move and what to fix last."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.carriage import SHUTTLE
from hazel_lantern.core.kinds.rail.design import (
    ADJUSTED,
    ECCENTRIC,
    FLOATING,
    GUIDED,
    SHIMMED,
    SLOTTED,
    SPARE,
    UNADJUSTED,
)
from hazel_lantern.core.kinds.rail.model import INCLINED, Straight
from hazel_lantern.core.mechanics.binding import Contacts, Laid, Mend, mended, rocks, sideways
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PICTURE, STRUCTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

MIDDLES, PLACES = 121, 41  # places of the carriage that are looked at, of rails as they are allowed to be
RUBS = 0.2  # friction of a flat wheel's side against a rail, workshop judgement
EASY = 0.3  # of the push that binding may add before it is felt
ROCKS = 0.0005  # metres of gap under a wheel that a click is felt at, workshop judgement
DRAG = Formula("n*c*k*x")
PER_TENTH = Formula("n*c*k*0.0001")
TOLERANCE = Formula("max(0, p - abs(e))")
FEELS = {
    ECCENTRIC: "turn it until a finger just stops the wheel while the carriage moves, then a hair back",
    SLOTTED: "slide it in until the drag is felt, then back until it just goes, and tighten",
    SPARE: "take the hole that leaves the least play without a tight place",
    SHIMMED: "add tape, a layer of 0.1 mm at a time, until it neither rattles nor slows",
}


class Fit(Struct, frozen=True):
    """A carriage on its rails as they lie: where it stands (n,), by how much it binds there, below nought for room to
    spare (n,), and the gap under a wheel there (n,) [m]; how much too far apart the rails are along them, and whether
    that was measured.
    """

    middles: np.ndarray
    binds: np.ndarray
    gaps: np.ndarray
    places: np.ndarray
    apart: np.ndarray
    measured: bool

    @property
    def worst(self) -> int:
        """Where it binds most."""
        return int(np.argmax(self.binds))


class Touching(Struct, frozen=True):
    """What touches its rails: the contacts, their play as an input of a why, and how much more room is made."""

    contacts: Contacts
    play: Given
    looser: Callable[[float], tuple[Remedy, ...]]


def fitted(design: Design, rail: Straight, contacts: Contacts) -> Fit:
    """How it fits."""
    laid, apart, measured = _laid(design, rail)
    middles = np.linspace(rail.low, rail.high, MIDDLES)
    wider = design.number("fit.wider") if rail.count == 2 else 0.0
    binds = sideways(laid, contacts, middles, wider)
    gaps = rocks(laid, contacts, middles) if rail.count == 2 else np.zeros(MIDDLES)
    return Fit(middles, binds, gaps, laid.places, apart - wider, measured)


def contacts_of(design: Design, rail: Straight) -> Contacts | None:
    """What of a carriage on wheels touches its rails sideways; None where nothing holds it but its own wheels."""
    ahead, aside = rail.wheels[:, 0], rail.wheels[:, 1]
    side, play = np.where(aside > 0, 0, 1), np.full(len(ahead), design.number("fit.play") / 2)
    if rail.count == 2:
        right, left = play.copy(), play.copy()
        if design.text("fit.floats") == FLOATING:
            right[side == 1] = left[side == 1] = np.inf
        return Contacts(ahead, aside, side, right, left)
    if rail.wheel.shape != "grooved":
        return None
    # Wheels at either side of one profile stop it from one side each.
    return Contacts(ahead, aside, side, np.where(side == 0, play, np.inf), np.where(side == 1, play, np.inf))


def _laid(design: Design, rail: Straight) -> tuple[Laid, np.ndarray, bool]:
    """The rails as they were measured, or as badly as they are allowed to lie; how much too far apart they are, and
    whether that was measured.
    """
    rows = design.rows("fit.rails")
    measured = rows.ndim == 2 and len(rows) >= 2
    if measured:
        places, apart, bow, higher = rows.T
        left, right = bow, bow - apart
    else:
        places = np.linspace(0.0, rail.length, PLACES)
        share = places / rail.length
        # Out of parallel towards its far end, each bowed the other way: the worst that the three limits let through.
        parallel, bow = design.number("fit.parallel") * share, 4 * design.number("fit.straight") * share * (1 - share)
        left, right = parallel / 2 + bow, -parallel / 2 - bow
        if rail.count == 1:
            left, right = parallel / 2 + bow, bow - parallel / 2
        apart = left - right
        higher = design.number("fit.twist") * share if rail.count == 2 else np.zeros(PLACES)
    return Laid(places, left, right, higher / 2, -higher / 2), apart, measured


def fit_figures(design: Design, suggest: bool, rail: Straight) -> Told:
    """Wheels on their rails."""
    contacts = contacts_of(design, rail)
    if contacts is None:
        return Told()

    def looser(over: float) -> tuple[Remedy, ...]:
        play = round(design.number("fit.play") + 2 * over + 5e-5, 5)
        return (set_one("play", "Leave each wheel {} of play", "fit.play", play, "m"),) if play <= 0.02 else ()

    touching = Touching(contacts, design.given("p", "fit.play", "play of a wheel", "m"), looser)
    tell = Teller()
    fit = fits(tell, design, rail, touching, suggest=suggest)
    mend = mended(fit.places, fit.apart)
    _adjusted(tell, design, rail, fit, mend)
    if rail.count == 2 and len(rail.wheels) == 4:
        _rocks(tell, design, fit)
    return tell.told()


def fits(tell: Teller, design: Design, rail: Straight, touching: Touching, *, suggest: bool) -> Fit:
    """Room, cost and verdict of whatever touches its rails, told; and how it fits."""
    fit = fitted(design, rail, touching.contacts)
    _room(tell, design, rail, fit, touching.play)
    _costs(tell, design, rail, fit)
    _binds(tell, design, rail, fit, touching, suggest=suggest)
    return fit


def _room(tell: Teller, design: Design, rail: Straight, fit: Fit, play: Given) -> None:
    """Room at the tightest place, where that is, and what the rails may be out by."""
    k = fit.worst
    how = "measured" if fit.measured else "as far out as they are allowed"
    given = (play, Given("c", rail.wheelbase, "m", "between its axles or ends", rail.base_key))
    tell.add(
        by_method(
            "travel.room",
            "Room at the tightest place",
            -float(fit.binds[k]),
            "m",
            f"every contact of the carriage against both rails, {how}, shifted and turned as it fits best; minus binds",
            given,
            assumptions=("rigid rails and carriage",),
            source="statics 5.5",
        ),
        by_method(
            "travel.tightest",
            "It is tightest at",
            float(fit.middles[k]),
            "m",
            "its middle, from the rail's first end",
            given[1:],
            source="statics 5.5",
        ),
    )
    if rail.count == 2 and design.text("fit.floats") == GUIDED:
        tell.add(
            by_formula(
                "travel.tolerance",
                "Rails may be out of gauge by",
                "m",
                TOLERANCE,
                (given[0], design.given("e", "fit.wider", "wheels wider apart", "m")),
                assumptions=("either way; half of the play at either rail",),
                source="statics 5.5",
            )
        )
    tell.curves["travel.fit"] = Curve("travel.fit", "Room between wheels and rails", fit.middles, -fit.binds, "m", "m")
    tell.curves["travel.fit.apart"] = Curve("travel.fit.apart", "rails too far apart", fit.places, fit.apart, "m", "m")


def _costs(tell: Teller, design: Design, rail: Straight, fit: Fit) -> None:
    """What binding adds to the push at the worst place, and each tenth of a millimetre more."""
    flat = rail.wheel.shape not in ("grooved",) and rail.bar.shape not in ("round_tube", "solid_round")
    slides = rail.carrier == SHUTTLE
    per = rail.drag[1] if slides else RUBS if flat else rail.drag[1] / math.cos(INCLINED)
    given = (
        Given("n", 3.0 if slides else float(len(rail.wheels)), "count", "contacts that are pressed"),
        Given(
            "c",
            per,
            "1",
            "rubbing of their sides" if flat and not slides else "drag for each newton across",
            "carriage.wheel",
        ),
        design.given("k", "fit.gives", "rails and carriage give", "N/m"),
    )
    over = max(0.0, float(fit.binds[fit.worst]))
    tell.add(
        by_formula(
            "travel.bind_drag",
            "Binding adds to the push",
            "N",
            DRAG,
            (*given, Given("x", over, "m", "binds by", "travel.room")),
            source="statics 5.5, dynamics 3.2",
        ),
        by_formula(
            "travel.bind_tenth", "and each 0.1 mm more", "N", PER_TENTH, given, source="statics 5.5, dynamics 3.2"
        ),
    )


def _binds(tell: Teller, design: Design, rail: Straight, fit: Fit, touching: Touching, *, suggest: bool) -> None:
    """Where it binds, which of rails, gauge or wheels to move, and what to fix last."""
    mend = mended(fit.places, fit.apart)
    over, at = float(fit.binds[fit.worst]), float(fit.middles[fit.worst])
    if over <= 0:
        last = "" if rail.count == 1 else " Fix the second rail last, at each end with the carriage run up to it."
        words = Words(f"Wheels and rails leave {{}} where it is tightest, at {{}}.{last}", ((-over, "m"), (at, "m")))
        state = CLEAR
    else:
        state = WATCH
        words = _moved(rail, fit, mend, over, at)
    tell.hold(
        "travel.room",
        "travel.binds",
        "Binds along its travel",
        STRUCTURE,
        "fit.rails" if fit.measured else "fit.parallel",
        words,
        at_least=0.0,
        state=state,
        remedies=(*_mends(design, rail, fit, mend, over), *touching.looser(over)) if suggest and over > 0 else (),
    )


def _moved(rail: Straight, fit: Fit, mend: Mend, over: float, at: float) -> Words:
    """The one of rails, gauge or wheels whose moving leaves least."""
    binds = f"At {{}} the {rail.carrier} binds by {{}}: "
    amounts = ((at, "m"), (over, "m"))
    if rail.carrier == SHUTTLE:
        return Words(binds + "the rod is bowed; straighten or turn it, or bore wider.", amounts)
    if rail.count == 1:
        return Words(
            binds + "the profile is too wide or bowed there; let the third wheel out and nip it at that place.", amounts
        )
    if not fit.measured:
        return Words(
            f"Laid as far out as they are allowed the rails may bind the {rail.carrier} by {{}}, at {{}}. Fix the "
            "second rail "
            "last, at each end with the carriage run up to it.",
            ((over, "m"), (at, "m")),
        )
    ways = {"wheels": mend.wheels_leave, "end": mend.end_leaves, "spot": mend.spot_leaves}
    way = min(ways, key=lambda name: round(ways[name], 5))
    if way == "wheels":
        side = "further apart" if mend.wheels > 0 else "closer together"
        return Words(binds + f"move the wheels {{}} {side}; the rails are right.", (*amounts, (abs(mend.wheels), "m")))
    if way == "end":
        side = "inwards" if mend.end < 0 else "outwards"
        return Words(
            binds + f"bring the far end of the second rail {{}} {side}, and tighten it last, the {rail.carrier} run up "
            "to it.",
            (*amounts, (abs(mend.end), "m")),
        )
    return Words(
        binds + "one place of a rail stands out by {}, at {}: ease it there.",
        (*amounts, (abs(mend.spot_off), "m"), (mend.spot, "m")),
    )


def _mends(design: Design, rail: Straight, fit: Fit, mend: Mend, over: float) -> tuple[Remedy, ...]:
    """One rail guides; wheels moved; more play; rails laid better than allowed."""
    found: list[Remedy] = []
    if rail.count == 2 and design.text("fit.floats") == GUIDED:
        found.append(set_one("float", "Let the second rail's wheels shift", "fit.floats", FLOATING))
    if rail.count == 2 and abs(mend.wheels) > 1e-5 and abs(design.number("fit.wider") + mend.wheels) <= 0.02:
        wider = round(design.number("fit.wider") + mend.wheels, 5)
        found.append(set_one("wheels", "Wheels {} wider apart than rails", "fit.wider", wider, "m"))
    if not fit.measured:
        better = math.floor(max(0.0, design.number("fit.parallel") - 2 * over) * 1e4) / 1e4
        straight = math.floor(max(0.0, design.number("fit.straight") - over / 2) * 1e4) / 1e4
        changes = (("fit.parallel", better), ("fit.straight", straight))
        found.append(
            Remedy(
                "better",
                Words("Lay them parallel within {}, straight within {}", ((better, "m"), (straight, "m"))),
                changes,
            )
        )
    return tuple(found)


def _adjusted(tell: Teller, design: Design, rail: Straight, fit: Fit, mend: Mend) -> None:
    """What adjusts each running pair, whether its range reaches, and how the drag should feel."""
    by, reach = design.text("fit.adjust"), design.number("fit.range") / 2
    # From half-way it must take up how far the wheels are off, or on one profile the spread of its width.
    needs = abs(mend.wheels) if rail.count == 2 else float(np.ptp(fit.binds))
    if rail.count == 2 and design.text("fit.floats") == FLOATING:
        needs = 0.0
    tell.add(
        by_method(
            "build.adjusts",
            "Adjusting must reach",
            needs,
            "m",
            "from half-way, to bring wheels and rails together over all of the travel",
            (design.given("r", "fit.range", "it adjusts by", "m"),),
            source="statics 5.5",
        )
    )
    name = dict(ADJUSTED)[by].lower()
    if by == UNADJUSTED:
        words = Words(
            "Nothing adjusts the wheels, and {} is needed: what is drilled wrong stays wrong.", ((needs, "m"),)
        )
        state = WATCH if needs > 1e-5 else CLEAR
        reach = 0.0
    else:
        state = CLEAR if needs <= reach + 1e-9 else WATCH
        words = Words(
            f"{name[:1].upper()}{name[1:]} half-way reach{'' if name.endswith('s') else 'es'} {{}} either way, {{}} "
            f"is needed; {FEELS[by]}.",
            ((reach, "m"), (needs, "m")),
        )
    more = round(min(0.05, 2.2 * needs), 4)
    tell.hold(
        "build.adjusts",
        "build.adjusted",
        "Adjusting the wheels",
        BUILD,
        "fit.adjust",
        words,
        at_most=reach,
        state=state,
        remedies=(
            (set_one("range", "Adjust by {}", "fit.range", more, "m"),)
            if state == WATCH and by != UNADJUSTED and more >= 2 * needs
            else (Remedy("slot", Words("Slot the holes"), (("fit.adjust", SLOTTED), ("fit.range", more))),)
            if state == WATCH
            else ()
        ),
    )


def _rocks(tell: Teller, design: Design, fit: Fit) -> None:
    """The gap under a fourth wheel on twisted rails."""
    k = int(np.argmax(fit.gaps))
    tell.add(
        by_method(
            "travel.rocks",
            "Twist leaves under a wheel",
            float(fit.gaps[k]),
            "m",
            "front left and rear right against front right and rear left, largest along the travel",
            (design.given("t", "fit.twist", "twist over the rails", "m"),),
            assumptions=("rigid rails and carriage",),
            source="statics 5.5",
        )
    )
    better = math.floor(0.7 * design.number("fit.twist") * ROCKS / max(float(fit.gaps[k]), 1e-9) * 1e4) / 1e4
    tell.hold(
        "travel.rocks",
        "travel.rocked",
        "Fourth wheel on twisted rails",
        PICTURE,
        "fit.rails" if fit.measured else "fit.twist",
        Words(
            "At {} one wheel of four hangs over its rail by {}: shim the lower end, and fix that last.",
            ((float(fit.middles[k]), "m"), (float(fit.gaps[k]), "m")),
        )
        if fit.gaps[k] > ROCKS
        else Words(
            "The rails' twist leaves {} under a wheel; {} is felt as a click.",
            ((float(fit.gaps[k]), "m"), (ROCKS, "m")),
        ),
        at_most=ROCKS,
        state=WATCH if fit.gaps[k] > ROCKS else CLEAR,
        remedies=(set_one("twist", "Level them within {}", "fit.twist", better, "m"),)
        if not fit.measured and fit.gaps[k] > ROCKS
        else (),
    )
