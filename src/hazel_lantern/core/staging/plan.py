"""The set from above with the rig standing on it, and the set behind the rig from the side."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.document.shot import ARC, CIRCLE, LOOK_DOWN
from hazel_lantern.core.kinds.base import Standing
from hazel_lantern.core.kinds.fall import FallZone
from hazel_lantern.core.kinds.shared.props import person
from hazel_lantern.core.nouns.sketch import SIZES, SWEEP, Handle, Item, Note, Point, Ring, Shape, Size, Sketch, Stroke
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.staging import falls
from hazel_lantern.core.staging.framing import SHARP, depths, in_focus
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import (
    ANCHOR,
    BEAM,
    PERSON,
    ROOM,
    SORTS,
    TREE,
    WALL,
    ZONE,
    all_corners,
    corners,
    plain,
    turn,
)
from hazel_lantern.core.staging.walking import things_at, track

BESIDE = 0.2  # metres that sizes of a thing stand off it
CIRCLE_LINE = np.column_stack([np.cos(np.linspace(0, 2 * math.pi, 49)), np.sin(np.linspace(0, 2 * math.pi, 49))])
FAR = 2.0  # times the rest, that a zone is shown whole up to


def plan(
    shot: Shot, stage: FilmSet, drawn: Sketch, seen: Staged, now: Staged, zone: FallZone | None = None, picked: str = ""
) -> Sketch:
    """The set from above with the rig as it is `drawn` now, of the whole move as it is `seen`: drag the camera, the
    subject or anything on it; `zone` is where it could fall or swing to; what is `picked` shows its sizes.
    """
    camera = seen.camera
    items: list[Item] = []
    at_now = things_at(stage.things, now.times)[0]
    for thing, box in zip(at_now, all_corners(at_now), strict=True):
        items += _outline(thing, box)
    items += _wedge(shot, now)
    items += _placed(drawn, seen.where)
    items += falls.drawn(zone, seen.where) if zone is not None else []
    items += [Stroke(seen.asked[:, :2], "muted", dash=True), Stroke(camera.places[:, :2], "path", dash=True)]
    if now.subject is not None:
        eye, at = now.camera.places[0], track(now.subject, now.times)[0, :3]
        items.append(Size(_pair(eye), _pair(at), 0.0, float(np.linalg.norm(at[:2] - eye[:2])), "m", "", "away"))
    for thing, stands in zip(stage.things, at_now, strict=True):
        items += _walk(thing, seen.times)
        if thing.id == picked:
            items += _sizes(thing)
        items.append(
            Handle(
                _pair(thing.at_m),
                _flat(f"thing.{thing.id}.x", f"thing.{thing.id}.y"),
                thing.name,
                thing.id != shot.target,
            )
        )
        if not SORTS[thing.kind].solid or thing.id == shot.target:
            items.append(
                Note(
                    (stands.at_m[0], stands.at_m[1] - 0.32 - (0.0 if thing.id == shot.target else thing.size_m[1] / 2)),
                    Words(plain(thing)),
                    SORTS[thing.kind].fill if thing.kind in (ZONE, ROOM) else "ink",
                )
            )
    first, last = np.array(shot.start_at_m), np.array(shot.end_at_m)
    items.append(Handle(_pair(first), _flat("shot.start_x", "shot.start_y"), "Start of the move"))
    for index, point in enumerate(shot.via_m):
        items.append(Handle(_pair(point), _flat(f"via.{index}.x", f"via.{index}.y"), f"Way point {index + 1}"))
    items += _sharp(shot, seen, now) if shot.move != LOOK_DOWN else []
    way = float(np.linalg.norm(first - last))
    if shot.move not in (ARC, CIRCLE) and way > 1e-6:
        items.append(Handle(_pair(last), _flat("shot.end_x", "shot.end_y"), "End of the move"))
        items.append(Size(_pair(first), _pair(last), 0.25, way, "m", "", "travel"))
    return Sketch(tuple(items), _box(stage, seen, items), "set from above", ground=False)


def _sizes(thing: Thing) -> list[Item]:
    """How wide and deep it is, beside it where it sets out, to be typed."""
    across, deep = turn(thing.turn_rad)
    middle, (wide, depth, _) = np.asarray(thing.at_m[:2]), thing.size_m
    corner = middle - across * wide / 2 - deep * depth / 2
    key = f"thing.{thing.id}"
    return [
        Size(_pair(corner), _pair(corner + across * wide), -BESIDE, wide, "m", f"{key}.width", "wide"),
        Size(_pair(corner + deep * depth), _pair(corner), -BESIDE, depth, "m", f"{key}.depth", "deep"),
    ]


def _walk(thing: Thing, times: np.ndarray) -> list[Item]:
    """The way of a thing that moves, and its stops to be dragged."""
    if not thing.stops:
        return []
    moments = np.linspace(0.0, max(float(times[-1]), thing.stops[-1].time_s), 61)
    items: list[Item] = [Stroke(track(thing, moments)[:, :2], "ink", dash=True)]
    for n, stop in enumerate(thing.stops):
        key = f"thing.{thing.id}.stop.{n}"
        items.append(Ring(_pair(stop.at_m), 0.07))
        items.append(Note((stop.at_m[0] + 0.12, stop.at_m[1] + 0.12), Words("at {}", ((stop.time_s, "s"),)), "muted"))
        items.append(Handle(_pair(stop.at_m), _flat(f"{key}.x", f"{key}.y"), f"{thing.name}, stop {n + 1}"))
    return items


def _flat(x: str, y: str) -> tuple[tuple[str, Point], ...]:
    """What a handle over the plan moves."""
    return (x, (1.0, 0.0)), (y, (0.0, 1.0))


def _pair(point: object) -> tuple[float, float]:
    return float(point[0]), float(point[1])  # type: ignore[index]


def _box(stage: FilmSet, seen: Staged, items: list[Item]) -> tuple[float, float, float, float]:
    """Everything but what reaches out of sight."""
    points = [
        seen.asked[:, :2],
        seen.camera.places[:, :2],
        np.array([thing.at_m[:2] for thing in stage.things]).reshape(-1, 2),
        np.array([stop.at_m[:2] for thing in stage.things for stop in thing.stops]).reshape(-1, 2),
    ]
    lines = [item for item in items if isinstance(item, (Shape, Stroke)) and item.role != "view"]
    every = np.concatenate([*points, *(item.points for item in lines if item.layer != SWEEP)])
    whole = np.concatenate([every, *(item.points for item in lines)])
    # A zone that reaches far out is not made room for.
    if (np.ptp(whole, axis=0) <= FAR * np.maximum(np.ptp(every, axis=0), 1.0)).all():
        every = whole
    low, high = every.min(axis=0) - 0.5, every.max(axis=0) + 0.5
    return float(low[0]), float(low[1]), float(high[0]), float(high[1])


def _outline(thing: Thing, box: np.ndarray) -> tuple[Item, ...]:
    """One thing from above, by the corners of its box (8, 3)."""
    outline, fill = box[:4, :2], SORTS[thing.kind].fill
    closed = np.vstack([outline, outline[:1]])
    if thing.kind == TREE:
        at, radius = np.asarray(thing.at_m[:2]), thing.size_m[0] / 2
        return Shape(CIRCLE_LINE * radius + at, fill), Shape(CIRCLE_LINE * radius * 0.08 + at, "wood")
    if thing.kind == PERSON:
        at, swing = np.asarray(thing.at_m[:2]), turn(thing.turn_rad)
        return Shape((CIRCLE_LINE * (thing.size_m[0] / 2, thing.size_m[1] / 2)) @ swing + at, fill), Shape(
            CIRCLE_LINE * 0.1 + at, "figure-head"
        )
    if thing.kind == ROOM:
        return (
            Stroke(
                CIRCLE_LINE * (thing.size_m[0] / 2, thing.size_m[1] / 2) + np.asarray(thing.at_m[:2]), fill, dash=True
            ),
        )
    if thing.kind in (ZONE, BEAM):
        return (Stroke(closed, fill, dash=True),)
    return (Ring(_pair(thing.at_m), 0.06) if thing.kind == ANCHOR else Shape(outline, fill),)


def _wedge(shot: Shot, now: Staged) -> list[Item]:
    """The field of view on the ground."""
    if shot.move == LOOK_DOWN:
        return []
    half = angle_of_view(shot.sensor_width_m, shot.focal_m, shot.squeeze) / 2
    eye, pan = now.camera.places[0, :2], float(now.camera.pan[0])
    reach = 12.0

    def edge(angle: float) -> np.ndarray:
        return eye + reach * np.array([-math.sin(pan + angle), math.cos(pan + angle)])

    return [Shape(np.array([eye, edge(half), edge(-half)]), "view")]


def _sharp(shot: Shot, seen: Staged, now: Staged) -> list[Item]:
    """Near and far limit of what is sharp, as arcs across the view."""
    depth = depths(seen)
    sharp = in_focus(shot, depth) if depth is not None else None
    found: list[Item] = []
    for limit, words in zip(sharp[1:] if sharp else (), SHARP, strict=False):
        if limit >= 15:
            continue
        eye, pan = now.camera.places[0, :2], float(now.camera.pan[0])
        around = pan + np.linspace(-0.3, 0.3, 13)
        arc = eye + limit * np.column_stack([-np.sin(around), np.cos(around)])
        found += [
            Stroke(arc, "water", 0.0, dash=True, layer=SWEEP),
            Note(_pair(arc[0]), Words(words, ((limit, "m"),)), "water", SWEEP),
        ]
    return found


def _placed(drawn: Sketch, where: Standing) -> list[Item]:
    """What a kind draws of itself from above, moved to where it stands; people and sizes stay behind."""
    swing, at = turn(where.heading), np.array([where.x, where.y])
    found: list[Item] = []
    for item in drawn.items:
        if isinstance(item, (Shape, Stroke)) and item.role not in ("view", "person", "person-head"):
            found.append(replace(item, points=item.points @ swing + at))
        elif isinstance(item, Ring):
            found.append(replace(item, at=_pair(np.asarray(item.at) @ swing + at)))
    return found


def behind(shot: Shot, stage: FilmSet, where: Standing, drawn: Sketch) -> Sketch:
    """A side view with the set behind the rig: what lies along the rig's heading, at its true heights, to be dragged
    along and up.
    """
    ahead = np.array([math.cos(where.heading), math.sin(where.heading)])
    items: list[Item] = []
    grips: list[Handle] = []
    x0, y0, x1, y1 = drawn.box
    for thing in stage.things:
        if not SORTS[thing.kind].solid:
            continue
        along = (corners(thing)[:, :2] - (where.x, where.y)) @ ahead
        low, high, foot, top = float(along.min()), float(along.max()), thing.at_m[2], thing.at_m[2] + thing.size_m[2]
        items += _upright(thing, low, high)
        looked_at = thing.id == shot.target
        if looked_at:
            items.append(Note(((low + high) / 2, top + 0.15), Words(plain(thing)), "muted", SIZES))
            x0, x1, y1 = min(x0, low - 0.4), max(x1, high + 0.4), max(y1, top + 0.3)
        moves = (
            (f"thing.{thing.id}.x", _pair((ahead[0], 0.0))),
            (f"thing.{thing.id}.y", _pair((ahead[1], 0.0))),
            (f"thing.{thing.id}.z", (0.0, 1.0)),
        )
        if not thing.stops:  # what is on its way stands elsewhere than where it sets out
            grips.append(Handle(((low + high) / 2, (foot + top) / 2), moves, thing.name, not looked_at))
    seen = [grip for grip in grips if x0 <= grip.at[0] <= x1 and grip.at[1] <= y1]
    return replace(drawn, items=(*items, *drawn.items, *seen), box=(x0, y0, x1, y1))


def _upright(thing: Thing, low: float, high: float) -> list[Item]:
    """One thing from the side, quiet behind the rig; a wall as its outline alone."""
    foot, top, middle = thing.at_m[2], thing.at_m[2] + thing.size_m[2], (low + high) / 2
    if thing.kind == PERSON:
        return person(middle, thing.size_m[2], foot)
    if thing.kind == TREE:
        trunk, (_, _, height) = 0.03 * (high - low), thing.size_m
        crown = CIRCLE_LINE * ((high - low) / 2, 0.35 * height) + (middle, foot + 0.65 * height)
        return [
            Shape(
                np.array(
                    [
                        (middle - trunk, foot),
                        (middle + trunk, foot),
                        (middle + trunk, foot + height / 2),
                        (middle - trunk, foot + height / 2),
                    ]
                ),
                "person",
            ),
            Shape(crown, "person"),
        ]
    if thing.kind == ANCHOR:
        return [Ring((middle, foot), 0.06)]
    outline = np.array([(low, foot), (high, foot), (high, top), (low, top), (low, foot)])
    return [Stroke(outline, "muted", dash=True)] if thing.kind == WALL else [Shape(outline[:4], "person")]
