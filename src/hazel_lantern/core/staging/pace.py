"""How fast things cross the picture, and how near and far move against each other."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import Shot, Thing
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import screen
from hazel_lantern.core.staging.framing import focal_pixels
from hazel_lantern.core.staging.hidden import Outlines
from hazel_lantern.core.staging.moves import Staged

GAP = Formula("v_px/(f_shot*W)")
CROSSING = Formula("W/(v_px/f_shot*f_shown)")
BLUR = Formula("v_px/f_shot*shutter/(2*pi)")
SLIDE_FOR = Formula("p*w*q/f/(1/D_near-1/D_far)")
TIME_FOR = Formula("T*T_wanted/T_cross")
STRICTNESS = {"usual": 0, "stricter": 1, "looser": -1}


def pace_figures(shot: Shot, suggest: bool, things: list[Thing], seen: Staged, points: np.ndarray) -> Told:
    """The fastest thing in the picture, of those whose aims (moments, things, 3) are in it; its jumps and its blur."""
    tell = Teller()
    focal, picture = focal_pixels(shot), np.array([shot.pixels_wide, shot.pixels_high])
    depth = np.where(points[..., 2] > 0.05, points[..., 2], np.nan)
    pixels = np.stack([focal[0] * points[..., 0] / depth, focal[1] * points[..., 1] / depth], axis=-1)
    visible = np.all(np.abs(pixels) <= picture / 2, axis=-1)
    speed = np.linalg.norm(np.diff(pixels, axis=0), axis=-1) / (np.diff(seen.times)[:, None])
    speed = np.where(visible[1:] & visible[:-1], speed, 0.0)
    if not speed.any():
        return tell.told()
    fastest = things[int(np.unravel_index(np.argmax(speed), speed.shape)[1])]
    pace = screen.pace(
        float(speed.max()),
        shot.pixels_wide,
        shot.capture_fps,
        shot.shown_fps,
        shot.shutter_rad,
        shift_band=STRICTNESS[shot.judder],
    )
    v = Given("v_px", pace.speed, "px/s", f"speed of {fastest.name} in the picture", "shot.image_speed")
    wide, captured = (
        Given("W", shot.pixels_wide, "px", "picture width", "shot.pixels_wide"),
        Given("f_shot", shot.capture_fps, "1/s", "frame rate shot", "shot.capture"),
    )
    shown, shutter = (
        Given("f_shown", shot.shown_fps, "1/s", "frame rate shown", "shot.shown"),
        Given("shutter", shot.shutter_rad, "rad", "shutter", "shot.shutter"),
    )
    tell.add(
        by_method(
            "shot.image_speed",
            f"Fastest in the picture, {fastest.name}",
            pace.speed,
            "px/s",
            f"projected at {len(points)} moments, fastest step",
            (
                Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
                Given("T", shot.duration_s, "s", "duration", "shot.time"),
            ),
            source="drive 5.4, 6.1",
        ),
        by_formula(
            "shot.crossing", "Would cross the screen in", "s", CROSSING, (v, wide, captured, shown), source="drive 5.4"
        ),
        by_formula("shot.gap", "Jumps each frame, of the width", "1", GAP, (v, wide, captured), source="drive 5.4"),
        by_formula("shot.blur", "Smeared over", "px", BLUR, (v, captured, shutter), source="drive 5.4"),
    )
    tell.add(
        by_formula(
            "shot.time_for_crossing",
            "Take this long for the crossing wanted",
            "s",
            TIME_FOR,
            (
                Given("T", shot.duration_s, "s", "duration", "shot.time"),
                Given("T_wanted", shot.wanted_crossing_s, "s", "crossing wanted", "shot.wanted_crossing"),
                tell.given("T_cross", "shot.crossing"),
            ),
            assumptions=("same way and ease",),
            source="drive 5.4 turned round",
        )
    )
    limit = screen.GAPS[0]
    state = CLEAR if pace.band == screen.COMFORTABLE else WATCH
    amount = ((pace.crossing, "s"),)
    said = {
        screen.COMFORTABLE: Words("Slow enough: nothing would cross the screen in under {}.", amount),
        screen.NOTICEABLE: Words("Some judder: the fastest thing would cross the screen in {}.", amount),
        screen.STRONG: Words("Strong judder: the fastest thing would cross the screen in {}.", amount),
        screen.WHIP: Words("Reads as a whip move: across the screen in {}.", amount),
    }
    longer = (
        math.ceil(
            shot.duration_s
            * max(pace.gap / shot.pixels_wide / limit, screen.slowest_crossing(shot.shown_fps) / pace.crossing)
            * 2
        )
        / 2
    )
    remedies = (set_one("slower", "Take {}", "shot.time", longer, "s"),) if suggest and longer <= 36000 else ()
    tell.hold(
        "shot.gap",
        "shot.judder",
        "Speed across the picture",
        PICTURE,
        "shot.time",
        said[pace.band],
        at_most=limit,
        state=state,
        remedies=remedies if state != CLEAR else (),
    )
    return tell.told()


def depth_figures(shot: Shot, seen: Staged, things: list[Thing], boxes: Outlines) -> Told:
    """Foreground against background, of all that comes into the picture, over the move."""
    tell = Teller()
    edge = np.array([shot.squeeze * shot.sensor_width_m, shot.sensor_height_m]) / (2 * shot.focal_m)
    shown = np.asarray((boxes.ahead & ((boxes.low <= edge) & (boxes.high >= -edge)).all(axis=-1)).any(axis=0))
    ahead = [
        (float(boxes.aims[seen.middle, k, 2]), thing)
        for k, thing in enumerate(things)
        if shown[k] and boxes.aims[seen.middle, k, 2] > 0.1
    ]
    if len(ahead) < 2:
        return tell.told()
    (near, first), (far, last) = min(ahead, key=lambda p: p[0]), max(ahead, key=lambda p: p[0])
    if far <= near * 1.001:
        return tell.told()
    given = (
        Given("p", shot.wanted_parallax, "1", "share of the width wanted", "shot.wanted_parallax"),
        Given("w", shot.sensor_width_m, "m:lens", "picture width on the sensor", "shot.sensor_width"),
        Given("q", shot.squeeze, "1", "squeeze", "shot.squeeze"),
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
        Given("D_near", near, "m", f"distance of {first.name}"),
        Given("D_far", far, "m", f"distance of {last.name}"),
    )
    across = screen.parallax(focal_pixels(shot)[0], near, far)
    moved = float(np.linalg.norm(seen.camera.places[np.argmax(seen.share)] - seen.camera.places[np.argmin(seen.share)]))
    tell.add(
        by_method(
            "shot.parallax",
            f"{first.name} shifts against {last.name}",
            across * moved,
            "px",
            "F (1/D_near − 1/D_far) times the way of the lens",
            (*given[4:], Given("way", moved, "m", "straight way of the lens")),
            assumptions=("moving square to the view, at the depths half-way",),
            source="drive 5.5",
        ),
        by_formula(
            "shot.slide_for_parallax",
            "Slide this far for the shift wanted",
            "m",
            SLIDE_FOR,
            given,
            source="drive 5.5 turned round",
        ),
    )
    return tell.told()
