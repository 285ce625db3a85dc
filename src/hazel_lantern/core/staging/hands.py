"""Hands that push a rig: how far from one stance, where they take hold, and what they count by."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.drives import HAND
from hazel_lantern.core.document.project import Drive, Shot
from hazel_lantern.core.document.shot import PUSHES, STANCE
from hazel_lantern.core.kinds.base import DriveAxis, Kind
from hazel_lantern.core.motion.by_hand import BAND, SPACING, count_by
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.moves import Scene, Staged

# Shares of a standing person's height.
ELBOW, SHOULDER, GRIP = 0.63, 0.82, 0.39  # up to each, and from the shoulder to what the hand holds
STOOPS, STRETCHES = 0.42, 1.15  # below and above which a hand that steers is not steady
BESIDE, LEANS = 0.35, 0.20  # metres: from the shoulder to the line of the handle, and leant over each way
STILL = 1e-3  # metres or radians below which nobody moves an axis
REACHED = Formula("2*(s+sqrt((a*H)**2-b**2-d**2))")
NOT_STOOD = {key: said for key, said in PUSHES if key != STANCE}


def hand_figures(
    shot: Shot, kind: Kind, drives: tuple[Drive, ...], scene: Scene, seen: Staged, *, suggest: bool
) -> Told:
    """What hands do on axes that nothing else drives; nothing where nobody touches the rig."""
    driven = {drive.axis for drive in drives if drive.source != HAND}
    free = [axis for axis in kind.axes if axis.key not in driven and np.ptp(seen.poses.q[:, axis.freedom]) > STILL]
    tell = Teller()
    if not free or not seen.poses.good.all():
        return tell.told()
    _beat(tell, shot, free, seen, suggest=suggest)
    if not kind.pushed:
        return tell.told()
    handled, model = kind.handled, scene.path.model
    held = kind.mount(model, seen.poses.q).at if handled is None else handled(model, seen.poses.q)
    low, high = float(held[:, 2].min()), float(held[:, 2].max())
    elbow = ELBOW * shot.tall_m
    tall = Given("H", shot.tall_m, "m", "who moves it is tall", "shot.tall")
    _grip(tell, low, high, elbow, tall)
    if handled is not None:
        gap = float(np.linalg.norm(seen.where.on_set(held) - seen.camera.places, axis=1).max())
        tell.add(
            by_method(
                "shot.hand_lens",
                "Hand to the lens",
                gap,
                "m",
                "furthest over the move: beyond an arm's length a monitor hangs at the handle and focus is worked "
                "from there",
                (),
                source="geometry",
            )
        )
    longest = max((float(np.ptp(seen.poses.q[:, one.freedom])) for one in free if not one.turns), default=0.0)
    if longest > 0:
        _stance(tell, longest, shot, tall)
    return tell.told()


def _grip(tell: Teller, low: float, high: float, elbow: float, tall: Given) -> None:
    """How high the hands are, and the bar or pole that brings the handle to the elbow."""
    tell.add(
        by_method(
            "shot.hand_low", "Hands lowest at", low, "m", "where hands take hold, over the move", (), source="geometry"
        ),
        by_method(
            "shot.hand_high", "and highest at", high, "m", "where hands take hold, over the move", (), source="geometry"
        ),
        by_formula(
            "shot.elbow",
            "A handle goes at",
            "m",
            Formula("e*H"),
            (Given("e", ELBOW, "1", "elbow, of the height"), tall),
            source="drive 4.8",
        ),
    )
    least, most = STOOPS * tall.value, STRETCHES * tall.value
    heights = ((low, "m"), (high, "m"), (least, "m"), (most, "m"))
    if high > most:
        words = Words(
            "Hands come to {} and {}; between {} and {} they are steady. A pole or bar of {} brings a handle down to "
            "the elbow.",
            (*heights, (high - elbow, "m")),
        )
    elif low < least:
        words = Words(
            "Hands come to {} and {}; between {} and {} they are steady. An upright of {} brings a handle up to the "
            "elbow.",
            (*heights, (elbow - low, "m")),
        )
    else:
        words = Words("Hands come to {} and {}; between {} and {} they are steady.", heights)
    fits = low >= least and high <= most
    figure = "shot.hand_low" if high <= most and not fits else "shot.hand_high"
    limit = {"at_least": least} if figure == "shot.hand_low" else {"at_most": most}
    tell.hold(
        figure,
        "shot.grip",
        "Where hands take hold",
        PICTURE,
        "shot.tall",
        words,
        state=CLEAR if fits else WATCH,
        **limit,  # type: ignore[arg-type]
    )


def _stance(tell: Teller, way: float, shot: Shot, tall: Given) -> None:
    """How far one stance pushes: an arm's length about the shoulder, the handle at the elbow."""
    drop = (SHOULDER - ELBOW) * shot.tall_m
    tell.add(
        by_formula(
            "shot.stance",
            "One stance pushes",
            "m",
            REACHED,
            (
                Given("s", LEANS, "m", "leant over, each way"),
                Given("a", GRIP, "1", "shoulder to grip, of the height"),
                tall,
                Given("b", BESIDE, "m", "handle ahead of the shoulder"),
                Given("d", drop, "m", "and below it"),
            ),
            assumptions=("handle at the elbow",),
            source="drive 4.8",
        ),
        by_method(
            "shot.pushed", "Pushed over", way, "m", "longest way of an axis that nothing drives", (), source="drive 6"
        ),
    )
    reach, how = tell.value("shot.stance"), shot.pushes
    fits = way <= reach or how != STANCE
    words = (
        f"It is pushed over {{}}, {NOT_STOOD[how]}; one stance reaches {{}}."
        if how != STANCE
        else "It is pushed over {}; one stance reaches {}."
        if fits
        else "It is pushed over {}; one stance reaches {}, and a step shows."
    )
    mend = tuple(
        Remedy(key, Words(f"{said[:1].upper()}{said[1:]}"), (("shot.pushes", key),)) for key, said in NOT_STOOD.items()
    )
    tell.hold(
        "shot.pushed",
        "shot.one_stance",
        "From one stance",
        PICTURE,
        "shot.pushes",
        words,
        at_most=reach,
        watch_at=1.0,
        state=CLEAR if fits else WATCH,
        remedies=() if fits else mend,
    )


def _beat(tell: Teller, shot: Shot, free: list[DriveAxis], seen: Staged, *, suggest: bool) -> None:
    """Whether the marks of the beat that was set are far enough apart."""
    if not shot.beat_s:
        return
    ways = [float(np.abs(np.diff(seen.poses.q[:, one.freedom])).sum()) * (BAND if one.turns else 1.0) for one in free]
    longest = max(ways)
    given = (
        Given("T", shot.duration_s, "s", "duration", "shot.time"),
        Given("dt", shot.beat_s, "s", "counted by", "shot.beat"),
    )
    tell.add(
        by_method(
            "shot.marks_apart",
            "Pace marks apart",
            longest * shot.beat_s / shot.duration_s,
            "m",
            f"on average, along the longest way; what turns on a band of {BAND:g} m radius",
            given,
            source="drive 4.8",
        )
    )
    other = count_by(shot.duration_s, ways)
    better = longest * other / shot.duration_s >= min(SPACING, longest * shot.beat_s / shot.duration_s + 1e-9)
    mend: tuple[Remedy, ...] = (
        (set_one("beat", "Count by {}", "shot.beat", other, "s"),)
        if suggest and better and not math.isclose(other, shot.beat_s)
        else ()
    )
    tell.hold(
        "shot.marks_apart",
        "shot.marks",
        "Pace marks",
        PICTURE,
        "shot.beat",
        f"Counted by {Display().text(shot.beat_s, 's')} the marks lie {{}} apart; {{}} can be kept to.",
        at_least=SPACING,
        watch_at=1.0,
        remedies=mend,
    )
