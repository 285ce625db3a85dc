"""The bench under a camera that looks straight down: what of it is seen, and what it would take to see all of it."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens, pose, screen
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import SORTS, TABLE, inside, plain, turn

HEIGHT_FOR = Formula("B*f/(w*q)")
MOST = 40  # places put between two moments of the move
ON_IT = 0.02  # m: how far off a bench's top a thing may be and still stand on it
ACROSS = np.stack(
    np.meshgrid(np.linspace(-0.5, 0.5, 41), np.linspace(-0.5, 0.5, 17), indexing="ij"), axis=-1
)  # shares of a bench


def from_above(shot: Shot, stage: FilmSet, seen: Staged) -> Told:
    """Field on the bench and at the top of the work, how much of the bench is seen, frames and travel for all of it."""
    tell = Teller()
    tables = [thing for thing in stage.things if thing.kind == TABLE]
    bench = (
        seen.subject if seen.subject in tables else max(tables, key=lambda t: t.size_m[0] * t.size_m[1], default=None)
    )
    top = bench.at_m[2] + bench.size_m[2] if bench else 0.0
    height = float(seen.camera.places[:, 2].min()) - top
    focal, width = (
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
        Given("w", shot.sensor_width_m, "m:lens", "picture width on the sensor", "shot.sensor_width"),
    )
    squeeze = Given("q", shot.squeeze, "1", "squeeze", "shot.squeeze")
    tell.add(
        by_formula(
            "shot.height_for_cover",
            "Lens this high above the bench for the cover wanted",
            "m",
            HEIGHT_FOR,
            (Given("B", shot.wanted_cover_m, "m", "length to see", "shot.wanted_cover"), focal, width, squeeze),
            assumptions=("focused far away; add a focal length when near",),
            source="drive 5.8 turned round",
        )
    )
    work = max((t.size_m[2] for t in stage.things if bench and _stands_on(t, bench, top)), default=0.0)
    if height - work <= 2 * shot.focal_m:
        words = Words("The lens is only {} above the " + ("work." if work else "bench."), ((height - work, "m"),))
        tell.findings.append(
            Finding(
                "shot.too_close",
                "Lens on the bench",
                PICTURE,
                WATCH,
                "shot.start",
                words,
                height - work,
                0.2,
                "at_least",
                "m",
            )
        )
        return tell.told()
    wide, tall = (
        lens.field(shot.sensor_width_m, shot.focal_m, height, squeeze=shot.squeeze),
        lens.field(shot.sensor_height_m, shot.focal_m, height),
    )
    given = (Given("D", height, "m", "lens above the bench"), focal, width, squeeze)
    tell.add(
        by_method(
            "shot.sees_wide",
            "Sees of the bench, wide",
            wide,
            "m",
            "w q D / v with the lens focused on the bench",
            given,
            source="drive 5.2, 5.8",
        ),
        by_method(
            "shot.sees_tall",
            "Sees of the bench, high",
            tall,
            "m",
            "h D / v with the lens focused on the bench",
            given,
            source="drive 5.2, 5.8",
        ),
    )
    if work:
        tell.add(
            by_method(
                "shot.sees_work",
                "Sees at the top of the work, wide",
                screen.at_height(wide, height, work),
                "m",
                "field times (D − t) / D",
                (*given, Given("t", work, "m", "tallest thing on the bench")),
                source="drive 5.8",
            )
        )
    if bench:
        tell.take(_all_of_it(shot, seen, bench, (wide, tall), (height, work)))
    return tell.told()


def _stands_on(thing: Thing, bench: Thing, top: float) -> bool:
    return (
        thing is not bench
        and SORTS[thing.kind].solid
        and abs(thing.at_m[2] - top) < ON_IT
        and bool(inside(bench, np.array([thing.at_m]), ON_IT)[0])
    )


def _all_of_it(
    shot: Shot, seen: Staged, bench: Thing, field: tuple[float, float], heights: tuple[float, float]
) -> Told:
    """What of the bench comes into the picture, the strips that never do, and frames and travel to join for all of
    it.
    """
    tell = Teller()
    height, work = heights
    points = np.concatenate(
        [
            ACROSS * bench.size_m[:2] @ turn(bench.turn_rad) + bench.at_m[:2],
            np.full((*ACROSS.shape[:2], 1), bench.at_m[2] + bench.size_m[2]),
        ],
        axis=-1,
    )
    # Between two moments it moves less than half of what it sees.
    places, matrices = _close(seen.camera.places, seen.camera.matrices, min(field) / 2)
    local = pose.camera_points(matrices, places, points.reshape(-1, 3))
    tan_h, tan_v = shot.squeeze * shot.sensor_width_m / (2 * shot.focal_m), shot.sensor_height_m / (2 * shot.focal_m)
    shown = (pose.sides(local, tan_h, tan_v) >= 0).all(axis=-1).any(axis=0).reshape(ACROSS.shape[:2])
    share = float(shown.mean())
    ends, sides = _unseen(np.any(shown, axis=1), bench.size_m[0]), _unseen(np.any(shown, axis=0), bench.size_m[1])
    # The picture's width lies along the bench, or its height does.
    along = turn(bench.turn_rad)[0] @ seen.camera.matrices[seen.middle, :2, 0]
    side = field[0] if abs(along) > math.sqrt(0.5) else field[1]
    length, name = bench.size_m[0], plain(bench)
    given = (
        Given("B", length, "m", "bench", f"thing.{bench.id}.width"),
        Given("W", side, "m", "field along it"),
        Given("o", shot.wanted_overlap, "1", "overlap wanted", "shot.wanted_overlap"),
    )
    tell.add(
        by_method(
            "shot.bench_seen",
            f"Seen of {bench.name}",
            share,
            "1",
            "share of a grid of 41 × 17 points on its top that comes into the picture",
            given[:2],
            source="projection",
        ),
        by_method(
            "shot.bench_ends",
            "Never seen at an end, at most",
            ends,
            "m",
            "the same grid",
            given[:2],
            source="projection",
        ),
        by_method(
            "shot.bench_sides",
            "Never seen at a side, at most",
            sides,
            "m",
            "the same grid",
            given[:2],
            source="projection",
        ),
    )
    words = (
        Words(f"The move sees all of {name}.")
        if share >= 1 - 1e-9
        else Words(
            f"The move sees {{}} of {name}; up to {{}} at an end and {{}} at a side are never seen.",
            ((share, "1"), (ends, "m"), (sides, "m")),
        )
    )
    tell.hold(
        "shot.bench_seen",
        "shot.cover",
        "Bench covered",
        PICTURE,
        "shot.end_x",
        words,
        at_least=1.0,
        state=CLEAR if share >= 1 - 1e-9 else WATCH,
    )
    try:
        joined = screen.cover(length, screen.at_height(side, height, work), shot.wanted_overlap)
    except InfeasibleError:
        return tell.told()  # said above: the lens is on the work
    tell.add(
        by_method(
            "shot.cover_travel",
            "Travel to see all of its length",
            joined.travel,
            "m",
            "bench less the field at the top of the work",
            given,
            source="drive 5.8",
        ),
        by_method(
            "shot.cover_frames",
            "Frames to join for all of its length",
            float(joined.frames),
            "count",
            "(B − W) / (W (1 − o)), rounded up, and one",
            given,
            source="drive 5.8",
        ),
    )
    return tell.told()


def _close(places: np.ndarray, matrices: np.ndarray, step: float) -> tuple[np.ndarray, np.ndarray]:
    """Camera places (n, 3) and matrices with more put between, until no step is longer [m]; it aims as at the moment
    before.
    """
    steps = np.linalg.norm(np.diff(places, axis=0), axis=1)
    parts = min(MOST, max(1, math.ceil(float(steps.max(initial=0.0)) / step)))
    share = (np.arange(parts) / parts)[None, :, None]
    between = places[:-1, None] * (1 - share) + places[1:, None] * share
    return np.concatenate([between.reshape(-1, 3), places[-1:]]), np.concatenate(
        [np.repeat(matrices[:-1], parts, axis=0), matrices[-1:]]
    )


def _unseen(shown: np.ndarray, length: float) -> float:
    """The wider of the strips at both ends of which nothing is seen [m]."""
    if not shown.any():
        return length
    step = length / (len(shown) - 1)
    return float(max(np.argmax(shown), np.argmax(shown[::-1])) * step)
