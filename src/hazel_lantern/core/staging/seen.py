"""What the lens sees of the move: figures and findings of the Shot station that hold for every kind of rig."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.document.shot import ARC, CIRCLE, LOOK_DOWN
from hazel_lantern.core.kinds.base import Chapter, Kind, Member, Members, Path
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, STRUCTURE, WATCH, Finding, Remedy
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import lens, pose, screen
from hazel_lantern.core.staging.from_above import from_above
from hazel_lantern.core.staging.hidden import Outlines, behind_it, outlines
from hazel_lantern.core.staging.moves import MIDDLE, SAMPLES, Placing, Run, Scene, Staged, Stood, run_of, stood
from hazel_lantern.core.staging.things import ANCHOR, BEAM, BOX, PERSON, ROOM, SORTS, TABLE, ZONE, aim_point, inside, plain

GAP = Formula("v_px/(f_shot*W)")
CROSSING = Formula("W/(v_px/f_shot*f_shown)")
BLUR = Formula("v_px/f_shot*shutter/(2*pi)")
FILL = Formula("f*h/(h_s*D)")
DEGREES = Formula("arc/T")
SLIDE_FOR = Formula("p*w*q/f/(1/D_near-1/D_far)")
TIME_FOR = Formula("T*T_wanted/T_cross")
DISTANCE_FOR = Formula("f*h/(h_s*s)")
DEPTH = Formula("D_max-D_min")
TOTAL = Formula("T+T_before+T_after")
MARGIN = 0.05
WIDEST = math.radians(110)
SHARP = ("sharp from {}", "sharp up to {}")
ALONG = np.linspace(0.0, 1.0, 7)  # places looked at along each piece of a rig
NEAR_PEOPLE = 1.0
STRICTNESS = {"usual": 0, "stricter": 1, "looser": -1}


def focal_pixels(shot: Shot) -> tuple[float, float]:
    """Focal length across and up, in pixels of the delivered picture."""
    return lens.focal_pixels(shot.focal_m, shot.pixels_wide, shot.sensor_width_m, shot.squeeze), lens.focal_pixels(shot.focal_m, shot.pixels_high, shot.sensor_height_m)


def depths(seen: Staged) -> np.ndarray | None:
    """How far ahead of the camera its subject is, moment by moment (n,) [m]; None where there is none, or it is behind the camera for a part."""
    if seen.subject is None:
        return None
    depth = np.asarray(pose.camera_points(seen.camera.matrices, seen.camera.places, aim_point(seen.subject)[None])[:, 0, 2])
    return None if np.any(depth <= 1e-6) else depth


def in_focus(shot: Shot, depth: np.ndarray) -> tuple[float, float, float] | None:
    """The one focus setting that serves a subject at these depths (n,) best, and what then looks sharp, from and up to [m]; None nearer than the lens can focus."""
    near, far = float(depth.min()), float(depth.max())
    if near <= shot.focal_m * 1.01:
        return None
    setting = lens.best_focus(near, far)
    return setting, *lens.sharp_range(shot.focal_m, shot.aperture, lens.blur_allowed(shot.sensor_width_m, shot.sensor_height_m, shot.pixels_wide), setting)


def chapters(kind: Kind) -> tuple[Chapter, ...]:
    """What holds for every kind of rig, in the order it is told."""

    def run(path: Path) -> Run:
        return run_of(kind, path)

    def pieces(model: object, run: Run) -> Members:
        """The rig's straight pieces at every fourth moment."""
        return kind.members(model, run.poses.q[::4])

    def on_set(path: Path, run: Run, aim: str, subject: Thing | None, placing: Placing) -> Stood | str:
        """The rig on its set, or why there is no picture of it."""
        try:
            return stood(kind, path, run, aim, subject, placing)
        except InputError as error:
            return error.allowed

    def scene(on_set: Stood | str) -> Scene | str:
        return on_set if isinstance(on_set, str) else on_set.scene

    def staged(on_set: Stood | str) -> Staged | str:
        return on_set if isinstance(on_set, str) else on_set.staged

    def places(stage: FilmSet, model: object, staged: Staged | str) -> Told:
        return Told() if isinstance(staged, str) else _places(stage, kind, model, staged)

    found = [
        Chapter("run", run),
        Chapter("pieces", pieces),
        Chapter("on_set", on_set),
        Chapter("scene", scene),
        Chapter("staged", staged),
        Chapter("inside", inside_subject),
        Chapter("shapes", shapes),
        Chapter("timing", _time),
        Chapter("way_made", way_made),
    ]
    found += [Chapter("in_frame", in_frame), Chapter("beside_it", beside_it), Chapter("bench_below", bench_below), Chapter("room", room)]
    return (*found, Chapter("places", places)) if kind.reaches is not None else tuple(found)


def inside_subject(staged: Staged | str) -> Told:
    """A camera inside its subject: what needs the picture is left out."""
    if not isinstance(staged, str):
        return Told()
    return Told(findings=(Finding("shot.inside", "Camera inside its subject", PICTURE, STOP, 0.0, 0.0, "at_least", "m", "shot.target", "shot", Words(f"{staged.capitalize()}.")),))


def shapes(staged: Staged | str) -> Told:
    """Moments at which the rig has no shape: nothing there can be worked out or built."""
    if isinstance(staged, str) or staged.poses.good.all():
        return Told()
    lost = float(np.mean(~staged.poses.good))
    words = Words("The rig has no shape in {} of the move.", ((lost, "1"),))
    return Told(findings=(Finding("rig.shape", "No shape along the move", STRUCTURE, STOP, lost, 0.0, "at_most", "1", "shot.end", "rig", words),))


def way_made(staged: Staged | str) -> Told:
    return Told() if isinstance(staged, str) else _path(staged)


def in_frame(shot: Shot, staged: Staged | str) -> Told:
    return Told() if isinstance(staged, str) or staged.subject is None else _subject(shot, staged, staged.subject)


def beside_it(shot: Shot, stage: FilmSet, suggest: bool, staged: Staged | str) -> Told:
    """Speed of things across the picture, near against far, what stands before and behind the subject."""
    things = [thing for thing in stage.things if SORTS[thing.kind].solid]
    if isinstance(staged, str) or not things:
        return Told()
    tell, boxes = Teller(), outlines(staged, things)
    tell.take(_pace(shot, suggest, things, boxes.aims))
    tell.take(_depths(shot, staged, things, boxes))
    if staged.subject in things and depths(staged) is not None and shot.move != LOOK_DOWN:
        tell.take(behind_it(shot, staged, staged.subject, things))
    return tell.told()


def bench_below(shot: Shot, stage: FilmSet, staged: Staged | str) -> Told:
    return from_above(shot, stage, staged) if shot.move == LOOK_DOWN and not isinstance(staged, str) else Told()


def _places(stage: FilmSet, kind: Kind, model: object, seen: Staged) -> Told:
    """Tables and boxes that a rig which serves many places can be brought over, and from how high."""
    tell = Teller()
    wanted = [thing for thing in stage.things if thing.kind in (TABLE, BOX)]
    if not wanted or kind.reaches is None:
        return tell.told()
    tops = np.array([(*thing.at_m[:2], thing.at_m[2] + thing.size_m[2]) for thing in wanted])
    can = kind.reaches.over(model, seen.where.off_set(tops))
    missed = [plain(thing) for thing, within in zip(wanted, can, strict=True) if not within]
    words = Words(f"Out of reach: {', '.join(missed)}.") if missed else Words("The camera can be brought over " + ", ".join(plain(thing) for thing in wanted) + ".")
    tell.findings.append(
        Finding("shot.places", "Places to reach", PICTURE, WATCH if missed else CLEAR, float(len(missed)), 0.0, "at_most", "count", kind.reaches.set_by, "shot", words)
    )
    above = seen.camera.places[:, 2].min() - tops[:, 2]
    for thing, height, within in zip(wanted, above, can, strict=True):
        if within:
            tell.add(
                by_method(
                    f"shot.above.{thing.id}",
                    f"Lens above {thing.name}",
                    float(height),
                    "m",
                    "shot",
                    "lens height less the top of it",
                    (Given("z", float(thing.at_m[2] + thing.size_m[2]), "m", "its top", f"thing.{thing.id}.height"),),
                    source="geometry",
                )
            )
    return tell.told()


def _time(shot: Shot) -> Told:
    angle = lens.angle_of_view(shot.sensor_width_m, shot.focal_m, shot.squeeze)
    tell = Teller()
    if angle > WIDEST:
        words = Words("The lens sees {} across: beyond {} only the middle of the picture is as it is drawn here.", ((angle, "rad"), (WIDEST, "rad")))
        tell.findings.append(Finding("shot.wide", "Very wide lens", PICTURE, WATCH, angle, WIDEST, "at_most", "rad", "shot.focal", "shot", words, figure="shot.view"))
    if shot.hold_start_s or shot.hold_end_s:
        tell.add(by_formula("shot.total", "With the holds", "s", "shot", TOTAL, (
            Given("T", shot.duration_s, "s", "duration", "shot.time"), Given("T_before", shot.hold_start_s, "s", "hold before", "shot.hold_start"),
            Given("T_after", shot.hold_end_s, "s", "hold after", "shot.hold_end")), source="sum of times"))  # fmt: skip
    if (
        shot.pixels_wide / shot.sensor_width_m / shot.squeeze < 0.99 * shot.pixels_high / shot.sensor_height_m
        or shot.pixels_wide / shot.sensor_width_m / shot.squeeze > 1.01 * shot.pixels_high / shot.sensor_height_m
    ):
        ratio = shot.pixels_wide * shot.sensor_height_m / (shot.pixels_high * shot.sensor_width_m * shot.squeeze)
        tell.findings.append(Finding("shot.pixels", "Pixels are not square", PICTURE, WATCH, ratio, 1.0, "at_most", "1", "shot.pixels_high", "shot", Words(
            "The picture area and the pixels differ in shape by {}; one of them is probably wrong.", ((abs(ratio - 1), "1"),))))  # fmt: skip
    return tell.told()


def _path(seen: Staged) -> Told:
    """The path asked for against the one the rig makes."""
    tell = Teller()
    asked, made = seen.asked, seen.camera.places
    way = float(np.linalg.norm(np.diff(asked, axis=0), axis=1).sum())
    if way < 1e-6:
        tell.findings.append(
            Finding("shot.still", "The move goes nowhere", PICTURE, WATCH, 0.0, 0.01, "at_least", "m", "shot.end", "shot", Words("Start and end are the same place."))
        )
        return tell.told()
    off = np.linalg.norm(made - asked, axis=1)
    worst = int(np.argmax(off))
    given = (Given("way", way, "m", "way asked for"), Given("samples", len(asked), "count", "places compared"))
    tell.add(by_method("shot.stray", "Strays from the path asked for", float(off[worst]), "m", "shot", "largest distance at the same moments, with the rig stood where its path fits best", given,
                         assumptions=("an arm swings in an arc; a straight wish is never met exactly",), source="drive 6; geometry"))  # fmt: skip
    state = CLEAR if off[worst] <= 0.15 * way + 0.02 else WATCH
    words = Words("The rig makes the move within {} of the path asked for." if state == CLEAR else "The rig strays {} from the path asked for.", ((float(off[worst]), "m"),))
    tell.findings.append(
        Finding("shot.stray", "Path asked for", PICTURE, state, float(off[worst]), 0.15 * way + 0.02, "at_most", "m", "shot.end_x", "shot", words, figure="shot.stray")
    )
    return tell.told()


def _subject(shot: Shot, seen: Staged, thing: Thing) -> Told:
    """Distance, size in the picture, framing and focus."""
    tell = Teller()
    camera = seen.camera
    point = aim_point(thing)
    focal = focal_pixels(shot)
    picture = (shot.pixels_wide, shot.pixels_high)
    in_camera = pose.camera_points(camera.matrices, camera.places, point[None])[:, 0]
    depth = in_camera[:, 2]
    if np.any(depth <= 1e-6):
        tell.findings.append(Finding("shot.behind", "Subject behind the camera", PICTURE, WATCH, float(depth.min()), 0.0, "at_least", "m", "shot.aim", "shot", Words(
            f"{plain(thing)} is behind the camera for part of the move."), (Remedy("keep", Words("Keep the camera on it"), (("shot.aim", "kept"),)),)))  # fmt: skip
        return tell.told()
    straight = np.linalg.norm(camera.places - point, axis=1)
    given = (Given("x", thing.at_m[0], "m", f"{thing.name}, right", f"thing.{thing.id}.x"), Given("y", thing.at_m[1], "m", f"{thing.name}, deep", f"thing.{thing.id}.y"))
    for key, words, value in (("shot.far_start", "Subject away at the start", straight[0]), ("shot.far_end", "Subject away at the end", straight[-1])):
        tell.add(by_method(key, words, float(value), "m", "shot", "straight line from the lens", given, source="geometry"))
    nearest = float(depth.min())
    tell.add(by_formula("shot.fill", "Subject fills, at most", "1", "shot", FILL, (
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
        Given("h_s", shot.sensor_height_m, "m:lens", "picture height on the sensor", "shot.sensor_height"), Given("h", thing.size_m[2], "m", "subject's height", f"thing.{thing.id}.height"),
        Given("D", nearest, "m", "nearest distance")), assumptions=("of the picture's height, seen level",), source="drive 5.2"))  # fmt: skip
    pixels = pose.project(in_camera, focal, picture)
    if shot.move != LOOK_DOWN:
        # A bench seen from above is passed over, not kept in the middle.
        tell.take(_framing(shot, thing, pixels, picture))
    tell.take(_focus(shot, thing, depth))
    tell.add(by_formula("shot.distance_for_fill", "Stand this far for the size wanted", "m", "shot", DISTANCE_FOR, (
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"), Given("h", thing.size_m[2], "m", "subject's height", f"thing.{thing.id}.height"),
        Given("h_s", shot.sensor_height_m, "m:lens", "picture height on the sensor", "shot.sensor_height"), Given("s", shot.wanted_fill, "1", "share wanted", "shot.wanted_fill")), source="drive 5.2 turned round"))  # fmt: skip
    if shot.move in (ARC, CIRCLE):
        angle = 2 * math.pi if shot.move == CIRCLE else abs(shot.arc_rad)
        tell.add(by_formula("shot.turning", "Turns about the subject", "rad/s", "shot", DEGREES, (
            Given("arc", angle, "rad", "arc", "shot.arc"), Given("T", shot.duration_s, "s", "duration", "shot.time")), assumptions=("average; the ease makes the middle faster",), source="drive 5.6"))  # fmt: skip
    return tell.told()


def _framing(shot: Shot, thing: Thing, pixels: np.ndarray, picture: tuple[float, float]) -> Told:
    """Whether the subject stays in the frame, and how far it wanders."""
    tell = Teller()
    share = np.abs(pixels - np.array(picture) / 2) / (np.array(picture) / 2)
    worst = float(share.max())
    wander = float(np.linalg.norm(screen.drift(pixels), axis=1).max())
    tell.add(by_method("shot.wander", "Subject wanders in the picture", wander, "px", "shot", "largest distance from its mean place over the move", (
        Given("W", shot.pixels_wide, "px", "picture width", "shot.pixels_wide"),), assumptions=("the head worked as chosen, without error",), source="drive 5.3, 6.1"))  # fmt: skip
    tell.add(by_method("shot.to_edge", "Subject goes this far to the edge", worst, "1", "shot", "largest share of half the picture, across or up, over the move", (
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),), source="drive 5.9"))  # fmt: skip
    state = CLEAR if worst <= 1 - MARGIN else WATCH
    words = Words(
        f"{plain(thing)} stays in the frame, at most {{}} of the way to its edge." if worst <= 1 else f"{plain(thing)} leaves the frame.", ((worst, "1"),) if worst <= 1 else ()
    )
    remedies = (Remedy("keep", Words("Keep the camera on it"), (("shot.aim", "kept"),)),) if shot.aim != "kept" and shot.move != LOOK_DOWN else ()
    tell.findings.append(
        Finding("shot.framing", "Framing", PICTURE, state, worst, 1 - MARGIN, "at_most", "1", "shot.aim", "shot", words, remedies if state != CLEAR else (), figure="shot.to_edge")
    )
    return tell.told()


def _focus(shot: Shot, thing: Thing, depth: np.ndarray) -> Told:
    """One focus setting, or a pull."""
    tell = Teller()
    found = in_focus(shot, depth)
    if found is None:
        return tell.told()
    setting, *sharp = found
    near, far, blur = float(depth.min()), float(depth.max()), lens.blur_allowed(shot.sensor_width_m, shot.sensor_height_m, shot.pixels_wide)
    given = (
        Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"), Given("N", shot.aperture, "1", "f-number", "shot.aperture"),
        Given("D", setting, "m", "focus set at"), Given("c", blur, "m:lens", "blur taken for a point"),
    )  # fmt: skip
    tell.add(
        by_method("shot.focus", "Best single focus", setting, "m", "shot", "2 D_min D_max / (D_min + D_max) over the move", (Given("D_min", near, "m", "nearest"), Given("D_max", far, "m", "farthest")), source="drive 5.10"),
        by_method("shot.sharp_near", "Sharp from", sharp[0], "m", "shot", "D (H − f) / (H + D − 2 f)", given, assumptions=("thin lens, no diffraction",), source="drive 5.10"),
        by_method("shot.sharp_far", "Sharp up to", sharp[1], "m", "shot", "D (H − f) / (H − D), endless beyond H", given, assumptions=("thin lens, no diffraction",), source="drive 5.10"),
    )  # fmt: skip
    tell.add(
        by_formula("shot.depth", "Distance to focus over", "m", "shot", DEPTH, (Given("D_min", near, "m", "nearest"), Given("D_max", far, "m", "farthest")), source="drive 5.10")
    )
    held = sharp[0] <= near * (1 + 1e-9) and far <= sharp[1] * (1 + 1e-9)
    words = Words("No pull needed: one setting at {} holds from {} to {}.", ((setting, "m"), *((d, "m") for d in sharp))) if held else Words(
        f"Pull focus on {plain(thing)} from {{}} to {{}}.", ((float(depth[0]), "m"), (float(depth[-1]), "m")))  # fmt: skip
    tell.findings.append(
        Finding(
            "shot.pull", "Focus", PICTURE, CLEAR if held else WATCH, far - near, max(0.0, sharp[1] - sharp[0]), "at_most", "m", "shot.aperture", "shot", words, figure="shot.depth"
        )
    )
    return tell.told()


def _pace(shot: Shot, suggest: bool, things: list[Thing], points: np.ndarray) -> Told:
    """The fastest thing in the picture, of those whose aims (moments, things, 3) are in it; its jumps and its blur."""
    tell = Teller()
    focal, picture = focal_pixels(shot), np.array([shot.pixels_wide, shot.pixels_high])
    depth = np.where(points[..., 2] > 0.05, points[..., 2], np.nan)
    pixels = np.stack([focal[0] * points[..., 0] / depth, focal[1] * points[..., 1] / depth], axis=-1)
    visible = np.all(np.abs(pixels) <= picture / 2, axis=-1)
    speed = np.linalg.norm(np.diff(pixels, axis=0), axis=-1) / (shot.duration_s * (SAMPLES[1] - SAMPLES[0]))
    speed = np.where(visible[1:] & visible[:-1], speed, 0.0)
    if not speed.any():
        return tell.told()
    fastest = things[int(np.unravel_index(np.argmax(speed), speed.shape)[1])]
    pace = screen.pace(float(speed.max()), shot.pixels_wide, shot.capture_fps, shot.shown_fps, shot.shutter_rad, shift_band=STRICTNESS[shot.judder])
    v = Given("v_px", pace.speed, "px/s", f"speed of {fastest.name} in the picture", "shot.image_speed")
    wide, captured = Given("W", shot.pixels_wide, "px", "picture width", "shot.pixels_wide"), Given("f_shot", shot.capture_fps, "1/s", "frame rate shot", "shot.capture")
    shown, shutter = Given("f_shown", shot.shown_fps, "1/s", "frame rate shown", "shot.shown"), Given("shutter", shot.shutter_rad, "rad", "shutter", "shot.shutter")
    tell.add(
        by_method("shot.image_speed", f"Fastest in the picture, {fastest.name}", pace.speed, "px/s", "shot", "projected at 25 moments, fastest step", (
            Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"), Given("T", shot.duration_s, "s", "duration", "shot.time")), source="drive 5.4, 6.1"),
        by_formula("shot.crossing", "Would cross the screen in", "s", "shot", CROSSING, (v, wide, captured, shown), source="drive 5.4"),
        by_formula("shot.gap", "Jumps each frame, of the width", "1", "shot", GAP, (v, wide, captured), source="drive 5.4"),
        by_formula("shot.blur", "Smeared over", "px", "shot", BLUR, (v, captured, shutter), source="drive 5.4"),
    )  # fmt: skip
    tell.add(by_formula("shot.time_for_crossing", "Take this long for the crossing wanted", "s", "shot", TIME_FOR, (
        Given("T", shot.duration_s, "s", "duration", "shot.time"), Given("T_wanted", shot.wanted_crossing_s, "s", "crossing wanted", "shot.wanted_crossing"),
        tell.given("T_cross", "shot.crossing")), assumptions=("same way and ease",), source="drive 5.4 turned round"))  # fmt: skip
    limit = screen.GAPS[0]
    state = CLEAR if pace.band == screen.COMFORTABLE else WATCH
    amount = ((pace.crossing, "s"),)
    said = {
        screen.COMFORTABLE: Words("Slow enough: nothing would cross the screen in under {}.", amount), screen.NOTICEABLE: Words("Some judder: the fastest thing would cross the screen in {}.", amount),
        screen.STRONG: Words("Strong judder: the fastest thing would cross the screen in {}.", amount), screen.WHIP: Words("Reads as a whip move: across the screen in {}.", amount),
    }  # fmt: skip
    longer = math.ceil(shot.duration_s * max(pace.gap / shot.pixels_wide / limit, screen.slowest_crossing(shot.shown_fps) / pace.crossing) * 2) / 2
    remedies = (Remedy("slower", Words("Take {}", ((longer, "s"),)), (("shot.time", longer),)),) if suggest and longer <= 36000 else ()
    tell.findings.append(
        Finding(
            "shot.judder",
            "Speed across the picture",
            PICTURE,
            state,
            pace.gap / shot.pixels_wide,
            limit,
            "at_most",
            "1",
            "shot.time",
            "shot",
            said[pace.band],
            remedies if state != CLEAR else (),
            figure="shot.gap",
        )
    )
    return tell.told()


def _depths(shot: Shot, seen: Staged, things: list[Thing], boxes: Outlines) -> Told:
    """Foreground against background, of all that comes into the picture, over the move."""
    tell = Teller()
    edge = np.array([shot.squeeze * shot.sensor_width_m, shot.sensor_height_m]) / (2 * shot.focal_m)
    shown = np.asarray((boxes.ahead & ((boxes.low <= edge) & (boxes.high >= -edge)).all(axis=-1)).any(axis=0))
    ahead = [(float(boxes.aims[MIDDLE, k, 2]), thing) for k, thing in enumerate(things) if shown[k] and boxes.aims[MIDDLE, k, 2] > 0.1]
    if len(ahead) < 2:
        return tell.told()
    (near, first), (far, last) = min(ahead, key=lambda p: p[0]), max(ahead, key=lambda p: p[0])
    if far <= near * 1.001:
        return tell.told()
    given = (
        Given("p", shot.wanted_parallax, "1", "share of the width wanted", "shot.wanted_parallax"), Given("w", shot.sensor_width_m, "m:lens", "picture width on the sensor", "shot.sensor_width"),
        Given("q", shot.squeeze, "1", "squeeze", "shot.squeeze"), Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal"),
        Given("D_near", near, "m", f"distance of {first.name}"), Given("D_far", far, "m", f"distance of {last.name}"),
    )  # fmt: skip
    across = screen.parallax(focal_pixels(shot)[0], near, far)
    moved = float(np.linalg.norm(seen.camera.places[-1] - seen.camera.places[0]))
    tell.add(
        by_method("shot.parallax", f"{first.name} shifts against {last.name}", across * moved, "px", "shot", "F (1/D_near − 1/D_far) times the way of the lens", (*given[4:], Given("way", moved, "m", "straight way of the lens")),
                  assumptions=("moving square to the view, at the depths half-way",), source="drive 5.5"),
        by_formula("shot.slide_for_parallax", "Slide this far for the shift wanted", "m", "shot", SLIDE_FOR, given, source="drive 5.5 turned round"),
    )  # fmt: skip
    return tell.told()


def room(shot: Shot, stage: FilmSet, pieces: Members, staged: Staged | str) -> Told:
    """Rig in the picture, rig against things, people near."""
    if isinstance(staged, str):
        return Told()
    tell, seen, made = Teller(), staged, pieces
    members, ends = made.pieces, seen.where.on_set(made.ends)
    radius = np.array([m.radius for m in members])
    tell.take(_in_picture(shot, members, ends, radius, seen))
    if stage.things:
        along = ends[:, :, None, 0] + (ends[:, :, 1] - ends[:, :, 0])[:, :, None] * ALONG[:, None]
        tell.take(_meets(stage, members, along, float(radius.max())))
        tell.take(_people(stage, along[:, [m.moves for m in members]].reshape(-1, 3)))
    ceiling = stage.ceiling_m
    if ceiling:
        tallest = float((ends[..., 2].max(axis=(0, 2)) + radius).max())
        tell.add(
            by_method(
                "shot.tallest",
                "Rig reaches up to",
                tallest,
                "m",
                "shot",
                "highest of all members over the move, with their thickness",
                (Given("h_end", shot.end_height_m, "m", "lens at the end", "shot.end"),),
                source="geometry",
            )
        )
        state = STOP if tallest > ceiling else WATCH if tallest > ceiling - 0.1 else CLEAR
        tell.findings.append(Finding("shot.ceiling", "Room under the ceiling", PICTURE, state, tallest, ceiling, "at_most", "m", "shot.end", "shot", Words(
            "The rig reaches up to {} under a ceiling of {}.", ((tallest, "m"), (ceiling, "m"))), figure="shot.tallest"))  # fmt: skip
    return tell.told()


def _in_picture(shot: Shot, members: tuple[Member, ...], ends: np.ndarray, radius: np.ndarray, seen: Staged) -> Told:
    """Parts of the rig inside the view, a margin added; `ends` (poses, members, 2, 3) on the set."""
    tell = Teller()
    camera = seen.camera
    tan_h, tan_v = (1 + MARGIN) * shot.squeeze * shot.sensor_width_m / (2 * shot.focal_m), (1 + MARGIN) * shot.sensor_height_m / (2 * shot.focal_m)
    shape = ends.shape
    local = pose.camera_points(camera.matrices[::4], camera.places[::4], ends.reshape(shape[0], -1, 3)).reshape(shape)
    for k, m in np.argwhere(pose.may_show(local, tan_h, tan_v, radius)).tolist():
        if pose.clip(local[k, m, 0], local[k, m, 1], tan_h, tan_v, float(radius[m])):
            when = float(SAMPLES[4 * k] * shot.duration_s)
            tell.findings.append(Finding("shot.rig_seen", "Rig in the picture", PICTURE, WATCH, 1.0, 0.0, "at_most", "count", "shot.focal", "shot", Words(
                f"The {members[m].name} comes into the picture at {{}}; a margin of a twentieth is kept.", ((when, "s"),))))  # fmt: skip
            return tell.told()
    tell.findings.append(
        Finding("shot.rig_seen", "Rig in the picture", PICTURE, CLEAR, 0.0, 0.0, "at_most", "count", "shot.focal", "shot", Words("No part of the rig comes into the picture."))
    )
    return tell.told()


def _meets(stage: FilmSet, members: tuple[Member, ...], along: np.ndarray, grown: float) -> Told:
    """Parts of the rig inside things or no-go places; `along` (poses, members, points, 3) on the set."""
    tell = Teller()
    low, high = along.min(axis=(0, 1, 2)).tolist(), along.max(axis=(0, 1, 2)).tolist()
    for thing in stage.things:
        reach = math.hypot(*thing.size_m[:2]) / 2 + grown
        if thing.kind in (ANCHOR, ROOM, BEAM) or any(not a - reach <= at <= b + reach for a, at, b in zip(low[:2], thing.at_m[:2], high[:2], strict=True)):
            continue
        touched = inside(thing, along.reshape(-1, 3), grown).reshape(along.shape[:3]).any(axis=(0, 2))
        if touched.any():
            member, no_go = members[int(np.argmax(touched))], thing.kind == ZONE
            tell.findings.append(Finding(
                f"shot.hits.{thing.id}", "Into a no-go place" if no_go else f"Rig meets {thing.name}", PEOPLE if no_go or thing.kind == PERSON else PICTURE, STOP, 1.0, 0.0, "at_most", "count",
                f"thing.{thing.id}.x", "shot", Words(f"The {member.name} runs into {plain(thing)} during the move. Move one of them."),
            ))  # fmt: skip
    return tell.told()


def _people(stage: FilmSet, moving: np.ndarray) -> Told:
    """The smallest gap between what moves, points (n, 3), and a person."""
    tell = Teller()
    people = [thing for thing in stage.things if thing.kind == PERSON]
    gaps = [(float(np.hypot(*(moving[:, :2] - person.at_m[:2]).T).min()) - person.size_m[0] / 2, person) for person in people]
    if gaps:
        gap, person = min(gaps, key=lambda pair: pair[0])
        given = (Given("x", person.at_m[0], "m", f"{person.name}, right", f"thing.{person.id}.x"), Given("y", person.at_m[1], "m", f"{person.name}, deep", f"thing.{person.id}.y"))
        tell.add(
            by_method("shot.passes", "Passes people at", gap, "m", "shot", "least distance over the ground from what moves, less half a person's width", given, source="geometry")
        )
        state = WATCH if gap < NEAR_PEOPLE else CLEAR
        words = Words(
            f"The moving part passes {{}} from {plain(person)}." + (" Agree on hand signals; nobody under or beside it." if state == WATCH else ""), ((max(0.0, gap), "m"),)
        )
        tell.findings.append(Finding("shot.people", "People near the move", PEOPLE, state, gap, NEAR_PEOPLE, "at_least", "m", "shot.target", "shot", words, figure="shot.passes"))
    return tell.told()
