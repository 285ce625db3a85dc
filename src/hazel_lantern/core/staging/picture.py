"""The picture the lens makes of the set and of the rig itself, as a sketch: a thousandth of a pixel stands for a
metre.
"""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.document.shot import LOOK_DOWN
from hazel_lantern.core.kinds.base import Members
from hazel_lantern.core.kinds.shared.props import FIGURE, HEAD
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.sketch import Item, Lines, Note, Shape, Sketch, Stroke
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.framing import SHARP, depths, focal_pixels, in_focus
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import FACES, PERSON, SORTS, TREE, WATER, all_corners
from hazel_lantern.core.staging.walking import track

PX = 1e-3
NEAR = 0.03
ROUND = np.column_stack([np.cos(np.linspace(0, 2 * math.pi, 25)), np.sin(np.linspace(0, 2 * math.pi, 25))])
# Trunk, then crown, in shares of width and height; body, then head, in shares of the height.
TREE_SHAPE = np.concatenate(
    [[(-0.03, 0.0), (0.03, 0.0), (0.03, 0.45), (-0.03, 0.45)], ROUND * (0.5, 0.35) + (0.0, 0.65)]
)
PERSON_SHAPE = np.concatenate([FIGURE, HEAD])
FOOT = [[0, 1, 2, 3]]
# Lines on the floor, a metre apart, about the metre the lens stands over.
FLOOR = np.array(
    [[(i, -12, 0), (i, 16, 0)] for i in range(-12, 13)] + [[(-12, i + 4, 0), (12, i + 4, 0)] for i in range(-12, 13)],
    float,
)


def picture(shot: Shot, stage: FilmSet, made: Members, seen: Staged, now: Staged) -> Sketch:
    """What is in the frame `now`, of the whole move as it is `seen`, with the rig's own pieces as `made` now, far
    things first, with thirds, frame lines, the limits of sharpness on the floor and how much the subject fills.
    """
    return Sketch(tuple(_items(shot, stage, made, seen, now)), _frame(shot), "lens", ground=False, framed=True)


def _frame(shot: Shot) -> tuple[float, float, float, float]:
    return 0.0, 0.0, shot.pixels_wide * shot.squeeze * PX, shot.pixels_high * PX


class _Film:
    """Turns places on the set into places of the picture."""

    def __init__(self, shot: Shot, now: Staged) -> None:
        self.matrix, self.eye = now.camera.matrices[0], now.camera.places[0]
        across, up = focal_pixels(shot)
        self.focal = np.array([across * shot.squeeze * PX, up * PX])
        _, _, self.wide, self.tall = _frame(shot)
        self.middle = np.array([self.wide / 2, self.tall / 2])

    def local(self, points: np.ndarray) -> np.ndarray:
        return pose.camera_points(self.matrix, self.eye, points)

    def flat(self, local: np.ndarray) -> np.ndarray:
        """Camera points (..., 3) in the picture (..., 2); only those in front of the lens mean anything."""
        return np.asarray(self.middle + self.focal * local[..., :2] / np.maximum(local[..., 2:], NEAR))

    def beside(self, flat: np.ndarray) -> np.ndarray:
        """Which outlines (..., n, 2), whole in front of the lens, lie beside the frame and need no painting."""
        return np.asarray(((flat.max(axis=-2) < 0) | (flat.min(axis=-2) > 2 * self.middle)).any(axis=-1))

    def outline(self, local: np.ndarray) -> np.ndarray | None:
        """A polygon of camera points, cut where it passes the lens; None when all of it is behind."""
        front = local[:, 2] >= NEAR
        if front.all():
            return self.flat(local)
        if not front.any():
            return None
        kept = []
        for a, b in zip(local, np.roll(local, -1, axis=0), strict=True):
            if a[2] >= NEAR:
                kept.append(a)
            if (a[2] >= NEAR) != (b[2] >= NEAR):
                kept.append(a + (b - a) * (NEAR - a[2]) / (b[2] - a[2]))
        return self.flat(np.array(kept)) if len(kept) > 2 else None


def _items(shot: Shot, stage: FilmSet, made: Members, seen: Staged, now: Staged) -> list[Item]:
    film = _Film(shot, now)
    x1, y1 = film.wide, film.tall
    items: list[Item] = [Shape(np.array([(0, 0), (x1, 0), (x1, y1), (0, y1)]), "sky")]
    items += [*_floor(film), *_in_focus(shot, film, seen)]
    pieces = _boxes(film, [thing for thing in stage.things if thing.kind not in (PERSON, TREE)])
    pieces += _uprights(film, [thing for thing in stage.things if thing.kind in (PERSON, TREE)])
    local, tan = (
        film.local(seen.where.on_set(made.ends[0]).reshape(-1, 3)).reshape(-1, 2, 3),
        (x1 / 2 / film.focal[0], y1 / 2 / film.focal[1]),
    )
    radius = np.array([member.radius for member in made.pieces])
    for m in np.flatnonzero(pose.may_show(local, *tan, radius, NEAR)).tolist():
        member, ends = made.pieces[m], local[m]
        part = pose.clip(ends[0], ends[1], *tan, member.radius, NEAR)
        if part:
            inside = ends[0] + np.outer(part, ends[1] - ends[0])
            depth = float(inside[:, 2].mean())
            pieces.append((depth, Stroke(film.flat(inside), "aluminium", 2 * member.radius * film.focal[0] / depth)))
    items += [item for _, item in sorted(pieces, key=lambda piece: -piece[0])]
    thirds = np.array([[[(t * x1, 0), (t * x1, y1)], [(0, t * y1), (x1, t * y1)]] for t in (1 / 3, 2 / 3)]).reshape(
        -1, 2, 2
    )
    return [*items, *_size(shot, film, seen, now), Lines(thirds, "thirds", sk.SWEEP), *_frame_lines(shot)]


def _in_focus(shot: Shot, film: _Film, seen: Staged) -> list[Item]:
    """Where on the floor it begins and ends to look sharp, with one setting for the whole move."""
    depth, up, ahead = depths(seen), film.matrix[:, 1], -film.matrix[:, 2]
    sharp = in_focus(shot, depth) if depth is not None and up[2] > 0.05 else None
    found: list[Item] = []
    for limit, words in zip(sharp[1:] if sharp else (), SHARP, strict=False):
        # All of the floor at one depth is one level line of the picture.
        high = (
            film.flat(np.array([0.0, -(film.eye[2] + limit * ahead[2]) / up[2], limit]))[1]
            if math.isfinite(limit)
            else -1.0
        )
        if 0.0 <= high <= film.tall:
            found += [
                Stroke(np.array([(0.0, high), (film.wide, high)]), "water", dash=True, layer=sk.SWEEP),
                Note((film.wide * 0.8, float(high)), Words(words, ((limit, "m"),)), "water", sk.SWEEP),
            ]
    return found


def _size(shot: Shot, film: _Film, seen: Staged, now: Staged) -> list[Item]:
    """How much of the picture's height the subject fills."""
    if seen.subject is None or shot.move == LOOK_DOWN:
        return []
    foot = track(seen.subject, now.times)[0, :3]
    local = film.local(np.array([foot, foot + (0.0, 0.0, seen.subject.size_m[2])]))
    if local[:, 2].min() < 4 * NEAR:
        return []
    (_, low), (across, high) = film.flat(local).tolist()
    inside = (min(max(across, 0.0), film.wide), min(max(high, 0.0) + 0.06 * film.tall, 0.95 * film.tall))
    return [Note(inside, Words("{} of the height", (((high - low) / film.tall, "1"),)), "ink", sk.SWEEP)]


def _frame_lines(shot: Shot) -> list[Item]:
    """The largest frame of the shape wanted that fits into the picture."""
    if not shot.frame:
        return []
    _, _, wide, tall = _frame(shot)
    across, high = min(wide, tall * float(shot.frame)), min(tall, wide / float(shot.frame))
    left, low = (wide - across) / 2, (tall - high) / 2
    a, b, c, d = (left, low), (wide - left, low), (wide - left, tall - low), (left, tall - low)
    return [Lines(np.array([(a, b), (b, c), (c, d), (d, a)]), "frame-line", sk.SWEEP)]


def _floor(film: _Film) -> list[Item]:
    """Ground to the horizon with lines every metre."""
    x, y = film.eye[:2]
    far = 400.0
    ground = film.outline(
        film.local(
            np.array([(x - far, y - far, 0), (x + far, y - far, 0), (x + far, y + far, 0), (x - far, y + far, 0)])
        )
    )
    if ground is None:
        return []
    items: list[Item] = [Shape(ground, "floor")]
    lines = FLOOR + (round(x), round(y), 0)
    local = film.local(lines.reshape(-1, 3)).reshape(lines.shape)
    tan = (film.wide / 2 / film.focal[0], film.tall / 2 / film.focal[1])
    local = local[pose.may_show(local, *tan, near=NEAR)]
    # What passes the lens is cut there; the picture's own edge cuts the rest.
    a, b = local[:, 0], local[:, 1]
    span = b[:, 2] - a[:, 2]
    cut = a + (b - a) * np.divide(NEAR - a[:, 2], span, out=np.zeros_like(span), where=np.abs(span) > 1e-12)[:, None]
    a, b = np.where(a[:, 2:] < NEAR, cut, a), np.where(b[:, 2:] < NEAR, cut, b)
    ends = film.flat(np.concatenate([a, b])).reshape(2, -1, 2)
    return [*items, Lines(np.swapaxes(ends, 0, 1), "floor-line")]


def _boxes(film: _Film, things: list[Thing]) -> list[tuple[float, Item]]:
    """Visible faces of boxes with their depth; all corners go through the lens at once."""
    if not things:
        return []
    local = film.local(all_corners(things).reshape(-1, 3)).reshape(-1, 8, 3)
    ahead = local[..., 2] >= NEAR
    flat, before = film.flat(local), ahead.sum(axis=1).tolist()
    beside = film.beside(flat).tolist()
    found: list[tuple[float, Item]] = []
    for k, thing in enumerate(things):
        if before[k] == 0 or (before[k] == 8 and beside[k]):
            continue
        sort = SORTS[thing.kind]
        for face in _faces(film, thing) if sort.solid else FOOT:
            outline = flat[k, face] if before[k] == 8 else film.outline(local[k, face])
            if outline is None:
                continue
            if sort.solid:
                found.append((float(local[k, face, 2].mean()), Shape(outline, sort.fill)))
            elif thing.kind == WATER:
                found.append((1e6, Shape(outline, sort.fill)))
            else:
                found.append((1e6, Stroke(np.vstack([outline, outline[:1]]), sort.fill, dash=True)))
    return found


def _faces(film: _Film, thing: Thing) -> list[list[int]]:
    """The sides of a box that the lens stands beyond, and so sees."""
    x, y, z = film.eye.tolist()
    cos, sin = math.cos(thing.turn_rad), math.sin(thing.turn_rad)
    x, y = x - thing.at_m[0], y - thing.at_m[1]
    ahead, deep = x * cos + y * sin, y * cos - x * sin
    wide, depth = thing.size_m[0] / 2, thing.size_m[1] / 2
    seen = (deep < -depth, ahead > wide, deep > depth, ahead < -wide, z > thing.at_m[2] + thing.size_m[2])
    return [list(face) for face, shown in zip(FACES, seen, strict=True) if shown]


def _uprights(film: _Film, things: list[Thing]) -> list[tuple[float, Item]]:
    """People and trees, always seen broadside; all of them go through the lens at once."""
    if not things:
        return []
    feet, high = np.array([thing.at_m for thing in things]), np.array([[thing.size_m[2]] for thing in things])
    foot, top = film.local(np.concatenate([feet, feet + high * (0.0, 0.0, 1.0)])).reshape(2, -1, 3)
    up = (top - foot) / high
    # Square to the upright and to the view.
    aside = np.stack([up[:, 1], -up[:, 0], np.zeros(len(up))], axis=-1) / np.maximum(
        np.hypot(up[:, :1], up[:, 1:2]), 1e-9
    )
    depth, nearest = ((foot + top)[:, 2] / 2).tolist(), np.minimum(foot, top)[:, 2].tolist()
    found: list[tuple[float, Item]] = []
    for k, thing in enumerate(things):
        if nearest[k] < 4 * NEAR:
            continue
        tree, fill = thing.kind == TREE, SORTS[thing.kind].fill
        shape, parted = (TREE_SHAPE, 4) if tree else (PERSON_SHAPE, len(FIGURE))
        flat = film.flat(
            foot[k] + shape[:, :1] * aside[k] * thing.size_m[0 if tree else 2] + shape[:, 1:] * up[k] * thing.size_m[2]
        )
        if not film.beside(flat):
            found += [
                (depth[k], Shape(flat[:parted], "figure" if tree else fill)),
                (depth[k] - 0.01, Shape(flat[parted:], fill)),
            ]
    return found
