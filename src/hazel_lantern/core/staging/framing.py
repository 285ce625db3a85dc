"""How the subject sits in the picture: its size, its place, whether it is sharp."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import Shot, Thing, axis_of
from hazel_lantern.core.document.shot import ARC, CIRCLE, FIXED, FOCUS, KEPT, LOOK_DOWN
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens, pose, screen
from hazel_lantern.core.staging.head import focused
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import plain, stands

FILL = Formula("f*h/(h_s*D)")
DEGREES = Formula("arc/T")
DISTANCE_FOR = Formula("f*h/(h_s*s)")
DEPTH = Formula("D_max-D_min")
MARGIN = 0.05
SHARP = ("sharp from {}", "sharp up to {}")


def focal_pixels(shot: Shot) -> tuple[float, float]:
    """Focal length across and up, in pixels of the delivered picture."""
    return lens.focal_pixels(shot.focal_m, shot.pixels_wide, shot.sensor_width_m, shot.squeeze), lens.focal_pixels(
        shot.focal_m, shot.pixels_high, shot.sensor_height_m
    )


def depths(seen: Staged) -> np.ndarray | None:
    """How far ahead of the camera its subject is, moment by moment (n,) [m]; None where there is none, or it is
    behind the camera for a part.
    """
    if seen.target is None:
        return None
    depth = np.asarray(pose.camera_points(seen.camera.matrices, seen.camera.places, seen.target[:, None])[:, 0, 2])
    return None if np.any(depth <= 1e-6) else depth


def in_focus(shot: Shot, depth: np.ndarray) -> tuple[float, float, float] | None:
    """The one focus setting that serves a subject at these depths (n,) best, and what then looks sharp, from and up
    to [m]; None nearer than the lens can focus.
    """
    near, far = float(depth.min()), float(depth.max())
    if near <= shot.focal_m * 1.01:
        return None
    setting = lens.best_focus(near, far)
    return setting, *lens.sharp_range(
        shot.focal_m,
        shot.aperture,
        lens.blur_allowed(shot.sensor_width_m, shot.sensor_height_m, shot.pixels_wide),
        setting,
    )


def subject_figures(shot: Shot, seen: Staged, thing: Thing) -> Told:
    """Distance, size in the picture, framing and focus."""
    tell = Teller()
    camera = seen.camera
    assert seen.target is not None
    focal = focal_pixels(shot)
    picture = (shot.pixels_wide, shot.pixels_high)
    in_camera = pose.camera_points(camera.matrices, camera.places, seen.target[:, None])[:, 0]
    depth = in_camera[:, 2]
    if np.any(depth <= 1e-6):
        tell.findings.append(
            Finding(
                "shot.behind",
                "Subject behind the camera",
                PICTURE,
                WATCH,
                "shot.aim",
                Words(f"{plain(thing)} is behind the camera for part of the move."),
                float(depth.min()),
                0.0,
                "at_least",
                "m",
                (set_one("keep", "Keep the camera on it", "shot.aim", "kept"),),
            )
        )
        return tell.told()
    straight = np.linalg.norm(camera.places - seen.target, axis=1)
    given = stands(thing)
    for key, words, value in (
        ("shot.far_start", "Subject away at the start", straight[0]),
        ("shot.far_end", "Subject away at the end", straight[-1]),
    ):
        tell.add(by_method(key, words, float(value), "m", "straight line from the lens", given, source="geometry"))
    nearest = float(depth.min())
    tell.add(
        by_formula(
            "shot.fill",
            "Subject fills, at most",
            "1",
            FILL,
            (
                Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
                Given("h_s", shot.sensor_height_m, "m:lens", "picture height on the sensor", "shot.sensor_height"),
                Given("h", thing.size_m[2], "m", "subject's height", f"thing.{thing.id}.height"),
                Given("D", nearest, "m", "nearest distance"),
            ),
            assumptions=("of the picture's height, seen level",),
            source="drive 5.2",
        )
    )
    pixels = pose.project(in_camera, focal, picture)
    if shot.move != LOOK_DOWN:
        # A bench seen from above is passed over, not kept in the middle.
        tell.take(_framing(shot, thing, pixels, picture))
    tell.take(_focus(shot, thing, seen, depth))
    tell.add(
        by_formula(
            "shot.distance_for_fill",
            "Stand this far for the size wanted",
            "m",
            DISTANCE_FOR,
            (
                Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
                Given("h", thing.size_m[2], "m", "subject's height", f"thing.{thing.id}.height"),
                Given("h_s", shot.sensor_height_m, "m:lens", "picture height on the sensor", "shot.sensor_height"),
                Given("s", shot.wanted_fill, "1", "share wanted", "shot.wanted_fill"),
            ),
            source="drive 5.2 turned round",
        )
    )
    if shot.move in (ARC, CIRCLE) and thing.stops:
        tell.take(_left(thing, seen.target))
    if shot.move in (ARC, CIRCLE):
        angle = 2 * math.pi if shot.move == CIRCLE else abs(shot.arc_rad)
        tell.add(
            by_formula(
                "shot.turning",
                "Turns about the subject",
                "rad/s",
                DEGREES,
                (
                    Given("arc", angle, "rad", "arc", "shot.arc"),
                    Given("T", shot.duration_s, "s", "duration", "shot.time"),
                ),
                assumptions=("average; the ease makes the middle faster",),
                source="drive 5.6",
            )
        )
    return tell.told()


def _left(thing: Thing, target: np.ndarray) -> Told:
    """An arc is laid about one place: said where its subject walks off from there."""
    off = float(np.hypot(*(target[:, :2] - thing.at_m[:2]).T).max())
    words = Words(
        f"The camera goes round where {plain(thing)} sets out, and it moves {{}} away from there.", ((off, "m"),)
    )
    key = f"thing.{thing.id}.stop.0.x"
    told = Finding("shot.centre", "Middle of the arc", PICTURE, WATCH, key, words, off, 0.0, "at_most", "m")
    return Told(findings=(told,))


def _framing(shot: Shot, thing: Thing, pixels: np.ndarray, picture: tuple[float, float]) -> Told:
    """Whether the subject stays in the frame, and how far it wanders."""
    tell = Teller()
    share = np.abs(pixels - np.array(picture) / 2) / (np.array(picture) / 2)
    worst = float(share.max())
    wander = float(np.linalg.norm(screen.drift(pixels), axis=1).max())
    tell.add(
        by_method(
            "shot.wander",
            "Subject wanders in the picture",
            wander,
            "px",
            "largest distance from its mean place over the move",
            (Given("W", shot.pixels_wide, "px", "picture width", "shot.pixels_wide"),),
            assumptions=("the head worked as chosen, without error",),
            source="drive 5.3, 6.1",
        )
    )
    tell.add(
        by_method(
            "shot.to_edge",
            "Subject goes this far to the edge",
            worst,
            "1",
            "largest share of half the picture, across or up, over the move",
            (Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),),
            source="drive 5.9",
        )
    )
    state = CLEAR if worst <= 1 - MARGIN else WATCH
    words = Words(
        f"{plain(thing)} stays in the frame, at most {{}} of the way to its edge."
        if worst <= 1
        else f"{plain(thing)} leaves the frame.",
        ((worst, "1"),) if worst <= 1 else (),
    )
    remedies = (
        (set_one("keep", "Keep the camera on it", "shot.aim", "kept"),)
        if shot.aim != "kept" and shot.move != LOOK_DOWN
        else ()
    )
    tell.hold(
        "shot.to_edge",
        "shot.framing",
        "Framing",
        PICTURE,
        "shot.aim",
        words,
        at_most=1 - MARGIN,
        state=state,
        remedies=remedies if state != CLEAR else (),
    )
    return tell.told()


def _focus(shot: Shot, thing: Thing, seen: Staged, depth: np.ndarray) -> Told:
    """One focus setting, or a pull; or what becomes of the sharpness where focus is set otherwise."""
    tell = Teller()
    found = in_focus(shot, depth)
    if found is None:
        return tell.told()
    how = axis_of(shot, FOCUS).how
    if how != KEPT:
        tell.take(_set_focus(shot, thing, seen, depth, found[0]))
    setting, *sharp = found
    near, far, blur = (
        float(depth.min()),
        float(depth.max()),
        lens.blur_allowed(shot.sensor_width_m, shot.sensor_height_m, shot.pixels_wide),
    )
    given = (
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
        Given("N", shot.aperture, "1", "f-number", "shot.aperture"),
        Given("D", setting, "m", "focus set at"),
        Given("c", blur, "m:lens", "blur taken for a point"),
    )
    tell.add(
        by_method(
            "shot.focus",
            "Best single focus",
            setting,
            "m",
            "2 D_min D_max / (D_min + D_max) over the move",
            (Given("D_min", near, "m", "nearest"), Given("D_max", far, "m", "farthest")),
            source="drive 5.10",
        ),
        by_method(
            "shot.sharp_near",
            "Sharp from",
            sharp[0],
            "m",
            "D (H − f) / (H + D − 2 f)",
            given,
            assumptions=("thin lens, no diffraction",),
            source="drive 5.10",
        ),
        by_method(
            "shot.sharp_far",
            "Sharp up to",
            sharp[1],
            "m",
            "D (H − f) / (H − D), endless beyond H",
            given,
            assumptions=("thin lens, no diffraction",),
            source="drive 5.10",
        ),
    )
    tell.add(
        by_formula(
            "shot.depth",
            "Distance to focus over",
            "m",
            DEPTH,
            (Given("D_min", near, "m", "nearest"), Given("D_max", far, "m", "farthest")),
            source="drive 5.10",
        )
    )
    if how != KEPT:
        return tell.told()
    held = sharp[0] <= near * (1 + 1e-9) and far <= sharp[1] * (1 + 1e-9)
    words = (
        Words("No pull needed: one setting at {} holds from {} to {}.", ((setting, "m"), *((d, "m") for d in sharp)))
        if held
        else Words(
            f"Pull focus on {plain(thing)} from {{}} to {{}}.", ((float(depth[0]), "m"), (float(depth[-1]), "m"))
        )
    )
    tell.hold(
        "shot.depth",
        "shot.pull",
        "Focus",
        PICTURE,
        "shot.aperture",
        words,
        at_most=max(0.0, sharp[1] - sharp[0]),
        state=CLEAR if held else WATCH,
    )
    return tell.told()


def _set_focus(shot: Shot, thing: Thing, seen: Staged, depth: np.ndarray, best: float) -> Told:
    """How much of the move the subject is soft, with the focus left alone or pulled by its own keys."""
    tell, axis = Teller(), axis_of(shot, FOCUS)
    at = focused(shot.axes, seen.times, depth, best)
    blur = lens.blur_allowed(shot.sensor_width_m, shot.sensor_height_m, shot.pixels_wide)
    near = np.array([lens.sharp_range(shot.focal_m, shot.aperture, blur, max(d, shot.focal_m * 1.01)) for d in at])
    soft = float(np.mean((depth < near[:, 0] * (1 - 1e-9)) | (depth > near[:, 1] * (1 + 1e-9))))
    tell.add(
        by_method(
            "shot.soft",
            "Subject out of focus for",
            soft,
            "1",
            f"share of {len(at)} moments at which it lies outside what is sharp",
            (
                Given("D", float(at[0]), "m", "focus at the start", "axis.focus.how"),
                Given("N", shot.aperture, "1", "f-number", "shot.aperture"),
            ),
            source="drive 5.10",
        )
    )
    whose = "Left where it is set, the focus" if axis.how == FIXED else "Pulled by its keys, the focus"
    words = (
        f"{whose} keeps {plain(thing)} sharp."
        if not soft
        else f"{whose} leaves {plain(thing)} soft in {{}} of the move."
    )
    tell.hold(
        "shot.soft",
        "shot.pull",
        "Focus",
        PICTURE,
        "axis.focus.how",
        Words(words, ((soft, "1"),) if soft else ()),
        at_most=0.0,
        state=WATCH if soft else CLEAR,
        remedies=(set_one("kept", "Pull it with the subject", "axis.focus.how", KEPT),),
    )
    return tell.told()
