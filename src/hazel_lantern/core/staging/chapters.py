"""What the Shot station tells of every kind of rig: the chapters in the order they are read."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.catalogue import Catalogue, Head
from hazel_lantern.core.document.project import Drive, FilmSet, Shot, Thing
from hazel_lantern.core.document.shot import LOOK_DOWN, PLACES
from hazel_lantern.core.kinds.base import Carried, Chapter, Design, Kind, Limit, Members
from hazel_lantern.core.kinds.fall import FallZone, Hangs
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.motion.wanted import Move
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, STRUCTURE, WATCH, Finding
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens
from hazel_lantern.core.staging.axes import axes_figures
from hazel_lantern.core.staging.falls import fall_figures
from hazel_lantern.core.staging.framing import depths, subject_figures
from hazel_lantern.core.staging.from_above import from_above
from hazel_lantern.core.staging.hands import hand_figures
from hazel_lantern.core.staging.head import Aim
from hazel_lantern.core.staging.hidden import behind_it, outlines
from hazel_lantern.core.staging.hurry import hurry_figures
from hazel_lantern.core.staging.moves import Placing, Run, Scene, Staged, Stood, run_of, stood
from hazel_lantern.core.staging.over import over_figures
from hazel_lantern.core.staging.pace import depth_figures, pace_figures
from hazel_lantern.core.staging.passing import people
from hazel_lantern.core.staging.placing import placing_figures
from hazel_lantern.core.staging.room import place_figures, room
from hazel_lantern.core.staging.things import SORTS

TOTAL = Formula("T+T_before+T_after")
WIDEST = math.radians(110)


def chapters(kind: Kind) -> tuple[Chapter, ...]:
    """What holds for every kind of rig, in the order it is told."""
    found = (
        Chapter("run", run),
        Chapter("pieces", pieces),
        Chapter("on_set", on_set),
        Chapter("scene", scene),
        Chapter("staged", staged),
        Chapter("inside", inside_subject),
        Chapter("shapes", shapes),
        Chapter("timing", _time),
        Chapter("way_made", way_made),
        Chapter("in_frame", in_frame),
        Chapter("beside_it", beside_it),
        Chapter("hurry", hurry),
        Chapter("bench_below", bench_below),
        Chapter("room", in_room),
        Chapter("near", near),
        Chapter("axes", axes),
        Chapter("by_hand", by_hand),
    )
    only = (
        (Chapter("falls", falls), kind.falls is not None),
        (Chapter("places", places), kind.reaches is not None),
        (Chapter("passes", passes), kind.hangs is not None),
    )
    return (*found, *(chapter for chapter, there in only if there))


def run(kind: Kind, path: Path) -> Run:
    return run_of(kind, path)


def pieces(kind: Kind, model: object, run: Run) -> Members:
    """The rig's straight pieces at every moment."""
    return kind.members(model, run.poses.q)


def on_set(kind: Kind, path: Path, run: Run, aim: Aim, subject: Thing | None, placing: Placing) -> Stood | str:
    """The rig on its set, or why there is no picture of it."""
    try:
        return stood(kind, path, run, aim, subject, placing)
    except InputError as error:
        return error.allowed


def scene(on_set: Stood | str) -> Scene | str:
    return on_set if isinstance(on_set, str) else on_set.scene


def staged(on_set: Stood | str) -> Staged | str:
    return on_set if isinstance(on_set, str) else on_set.staged


def in_room(shot: Shot, stage: FilmSet, kind: Kind, pieces: Members, scene: Scene | str, staged: Staged | str) -> Told:
    """Rig in the picture, rig against things, room under the ceiling."""
    if isinstance(staged, str) or isinstance(scene, str):
        return Told()
    return room(shot, stage, kind, pieces, scene, staged)


def near(shot: Shot, stage: FilmSet, kind: Kind, pieces: Members, scene: Scene | str, staged: Staged | str) -> Told:
    if isinstance(staged, str) or isinstance(scene, str):
        return Told()
    return people(shot, stage, kind, pieces, scene, staged)


def axes(
    shot: Shot,
    kind: Kind,
    kit: Carried,
    camera_head: Head | None,
    shelf: Catalogue,
    design: Design,
    scene: Scene | str,
    staged: Staged | str,
) -> Told:
    if isinstance(staged, str) or isinstance(scene, str):
        return Told()
    return axes_figures(shot, kind, kit, camera_head, shelf, kind.hands(design), scene, staged)


def by_hand(
    shot: Shot, kind: Kind, drives: tuple[Drive, ...], suggest: bool, scene: Scene | str, staged: Staged | str
) -> Told:
    if isinstance(staged, str) or isinstance(scene, str) or shot.move == PLACES:
        return Told()
    return hand_figures(shot, kind, drives, scene, staged, suggest=suggest)


def hurry(shot: Shot, move: Move, limits: tuple[Limit, ...], beside_it: Told, suggest: bool) -> Told:
    if shot.move == PLACES:
        return Told()
    return hurry_figures(shot, move, limits, beside_it, suggest)


def falls(stage: FilmSet, design: Design, suggest: bool, staged: Staged | str, zone: FallZone) -> Told:
    return Told() if isinstance(staged, str) else fall_figures(stage, zone, design, suggest, staged)


def places(stage: FilmSet, kind: Kind, model: object, staged: Staged | str) -> Told:
    return Told() if isinstance(staged, str) else place_figures(stage, kind, model, staged)


def passes(stage: FilmSet, staged: Staged | str, low: Hangs) -> Told:
    return Told() if isinstance(staged, str) else over_figures(stage, low, staged)


def inside_subject(staged: Staged | str) -> Told:
    """A camera inside its subject: what needs the picture is left out."""
    if not isinstance(staged, str):
        return Told()
    return Told(
        findings=(
            Finding(
                "shot.inside",
                "Camera inside its subject",
                PICTURE,
                STOP,
                "shot.target",
                Words(f"{staged.capitalize()}."),
                0.0,
                0.0,
                "at_least",
                "m",
            ),
        )
    )


def shapes(staged: Staged | str) -> Told:
    """Moments at which the rig has no shape: nothing there can be worked out or built."""
    if isinstance(staged, str) or staged.poses.good.all():
        return Told()
    lost = float(np.mean(~staged.poses.good))
    words = Words("The rig has no shape in {} of the move.", ((lost, "1"),))
    return Told(
        findings=(
            Finding(
                "rig.shape", "No shape along the move", STRUCTURE, STOP, "shot.end", words, lost, 0.0, "at_most", "1"
            ),
        )
    )


def way_made(shot: Shot, scene: Scene | str, staged: Staged | str) -> Told:
    """The path it makes against the one asked for, or the places it comes to."""
    if isinstance(staged, str) or isinstance(scene, str):
        return Told()
    return placing_figures(shot, scene) if shot.move == PLACES else _path(staged)


def in_frame(shot: Shot, staged: Staged | str) -> Told:
    return (
        Told() if isinstance(staged, str) or staged.subject is None else subject_figures(shot, staged, staged.subject)
    )


def beside_it(shot: Shot, stage: FilmSet, suggest: bool, staged: Staged | str) -> Told:
    """Speed of things across the picture, near against far, what stands before and behind the subject."""
    things = [thing for thing in stage.things if SORTS[thing.kind].solid]
    if isinstance(staged, str) or not things:
        return Told()
    tell, boxes = Teller(), outlines(staged, things)
    if shot.move != PLACES:
        tell.take(pace_figures(shot, suggest, things, staged, boxes.aims))
    tell.take(depth_figures(shot, staged, things, boxes))
    if staged.subject in things and depths(staged) is not None and shot.move != LOOK_DOWN:
        tell.take(behind_it(shot, staged, staged.subject, things))
    return tell.told()


def bench_below(shot: Shot, stage: FilmSet, staged: Staged | str) -> Told:
    return from_above(shot, stage, staged) if shot.move == LOOK_DOWN and not isinstance(staged, str) else Told()


def _time(shot: Shot) -> Told:
    angle = lens.angle_of_view(shot.sensor_width_m, shot.focal_m, shot.squeeze)
    tell = Teller()
    if angle > WIDEST:
        words = Words(
            "The lens sees {} across: beyond {} only the middle of the picture is as it is drawn here.",
            ((angle, "rad"), (WIDEST, "rad")),
        )
        tell.findings.append(
            Finding(
                "shot.wide",
                "Very wide lens",
                PICTURE,
                WATCH,
                "shot.focal",
                words,
                angle,
                WIDEST,
                "at_most",
                "rad",
                figure="shot.view",
            )
        )
    if shot.hold_start_s or shot.hold_end_s:
        tell.add(
            by_formula(
                "shot.total",
                "With the holds",
                "s",
                TOTAL,
                (
                    Given("T", shot.duration_s, "s", "duration", "shot.time"),
                    Given("T_before", shot.hold_start_s, "s", "hold before", "shot.hold_start"),
                    Given("T_after", shot.hold_end_s, "s", "hold after", "shot.hold_end"),
                ),
                source="sum of times",
            )
        )
    if (
        shot.pixels_wide / shot.sensor_width_m / shot.squeeze < 0.99 * shot.pixels_high / shot.sensor_height_m
        or shot.pixels_wide / shot.sensor_width_m / shot.squeeze > 1.01 * shot.pixels_high / shot.sensor_height_m
    ):
        ratio = shot.pixels_wide * shot.sensor_height_m / (shot.pixels_high * shot.sensor_width_m * shot.squeeze)
        tell.findings.append(
            Finding(
                "shot.pixels",
                "Pixels are not square",
                PICTURE,
                WATCH,
                "shot.pixels_high",
                Words(
                    "The picture area and the pixels differ in shape by {}; one of them is probably wrong.",
                    ((abs(ratio - 1), "1"),),
                ),
                ratio,
                1.0,
                "at_most",
                "1",
            )
        )
    return tell.told()


def _path(seen: Staged) -> Told:
    """The path asked for against the one the rig makes."""
    tell = Teller()
    asked, made = seen.asked, seen.camera.places
    way = float(np.linalg.norm(np.diff(asked, axis=0), axis=1).sum())
    if way < 1e-6:
        tell.findings.append(
            Finding(
                "shot.still",
                "The move goes nowhere",
                PICTURE,
                WATCH,
                "shot.end",
                Words("Start and end are the same place."),
                0.0,
                0.01,
                "at_least",
                "m",
            )
        )
        return tell.told()
    off = np.linalg.norm(made - asked, axis=1)
    worst = int(np.argmax(off))
    given = (Given("way", way, "m", "way asked for"), Given("samples", len(asked), "count", "places compared"))
    tell.add(
        by_method(
            "shot.stray",
            "Strays from the path asked for",
            float(off[worst]),
            "m",
            "largest distance at the same moments, with the rig stood where its path fits best",
            given,
            assumptions=("an arm swings in an arc; a straight wish is never met exactly",),
            source="drive 6; geometry",
        )
    )
    state = CLEAR if off[worst] <= 0.15 * way + 0.02 else WATCH
    words = Words(
        "The rig makes the move within {} of the path asked for."
        if state == CLEAR
        else "The rig strays {} from the path asked for.",
        ((float(off[worst]), "m"),),
    )
    tell.hold(
        "shot.stray",
        "shot.stray",
        "Path asked for",
        PICTURE,
        "shot.end_x",
        words,
        at_most=0.15 * way + 0.02,
        state=state,
    )
    return tell.told()
