"""The picture the lens makes of the set and of the rig itself, as a sketch: a thousandth of a pixel stands for a metre."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core import sketch as sk
from hazel_lantern.core.kinds.base import Context, Kind
from hazel_lantern.core.optics import pose
from hazel_lantern.core.project import Shot, Thing
from hazel_lantern.core.sketch import Item, Lines, Shape, Sketch, Stroke
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.seen import focal_pixels
from hazel_lantern.core.staging.things import FACES, PERSON, SORTS, TREE, corners, turn

PX = 1e-3
NEAR = 0.03
ROUND = np.column_stack([np.cos(np.linspace(0, 2 * math.pi, 25)), np.sin(np.linspace(0, 2 * math.pi, 25))])
# A standing figure in shares of its height: foot and top of each limb, half its width, how far aside; drive 6.1.
LIMBS = ((0.0, 0.48, 0.045, -0.055), (0.0, 0.48, 0.045, 0.055), (0.44, 0.80, 0.035, -0.13), (0.44, 0.80, 0.035, 0.13), (0.48, 0.82, 0.09, 0.0))


def picture(context: Context, kind: Kind, model: object, seen: Staged, k: int, share: float) -> Sketch:
    """What is in the frame at a share of the move, the k-th place staged, far things first, with thirds."""
    return Sketch(tuple(_items(context, kind, model, seen, k, share)), _frame(context.shot), "lens", ground=False, framed=True)


def _frame(shot: Shot) -> tuple[float, float, float, float]:
    return 0.0, 0.0, shot.pixels_wide * shot.squeeze * PX, shot.pixels_high * PX


class _Film:
    """Turns places on the set into places of the picture."""

    def __init__(self, shot: Shot, seen: Staged, k: int) -> None:
        self.matrix, self.eye = seen.camera.matrices[k], seen.camera.places[k]
        across, up = focal_pixels(shot)
        self.focal = across * shot.squeeze * PX, up * PX
        _, _, self.wide, self.tall = _frame(shot)

    def local(self, points: np.ndarray) -> np.ndarray:
        return pose.camera_points(self.matrix, self.eye, points)

    def flat(self, local: np.ndarray) -> np.ndarray:
        """Camera points in front of the lens (n, 3) in the picture (n, 2)."""
        return np.column_stack([self.wide / 2 + self.focal[0] * local[:, 0] / local[:, 2], self.tall / 2 + self.focal[1] * local[:, 1] / local[:, 2]])

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


def _items(context: Context, kind: Kind, model: object, seen: Staged, k: int, share: float) -> list[Item]:
    film = _Film(context.shot, seen, k)
    x1, y1 = film.wide, film.tall
    items: list[Item] = [Shape(np.array([(0, 0), (x1, 0), (x1, y1), (0, y1)]), "sky")]
    items += _floor(film)
    pieces: list[tuple[float, Item]] = []
    for thing in context.stage.things:
        pieces += _thing(film, thing)
    pose_now = kind.path(context, model, np.array([share]))[0]
    for member in kind.members(context, model, pose_now):
        ends = film.local(seen.where.on_set(np.array([member.a, member.b])))
        part = pose.clip(ends[0], ends[1], x1 / 2 / film.focal[0], y1 / 2 / film.focal[1], member.radius, NEAR)
        if part:
            inside = ends[0] + np.outer(part, ends[1] - ends[0])
            depth = float(inside[:, 2].mean())
            pieces.append((depth, Stroke(film.flat(inside), "aluminium", 2 * member.radius * film.focal[0] / depth)))
    items += [item for _, item in sorted(pieces, key=lambda piece: -piece[0])]
    thirds = np.array([[[(t * x1, 0), (t * x1, y1)], [(0, t * y1), (x1, t * y1)]] for t in (1 / 3, 2 / 3)]).reshape(-1, 2, 2)
    return [*items, Lines(thirds, "thirds", sk.SWEEP)]


def _floor(film: _Film) -> list[Item]:
    """Ground to the horizon with lines every metre."""
    x, y = film.eye[:2]
    far = 400.0
    ground = film.outline(film.local(np.array([(x - far, y - far, 0), (x + far, y - far, 0), (x + far, y + far, 0), (x - far, y + far, 0)])))
    if ground is None:
        return []
    items: list[Item] = [Shape(ground, "floor")]
    n = np.arange(-12, 13)
    x0, y0 = round(x), round(y)
    lines = np.array([[(x0 + i, y0 - 12, 0), (x0 + i, y0 + 16, 0)] for i in n] + [[(x0 - 12, y0 + i + 4, 0), (x0 + 12, y0 + i + 4, 0)] for i in n], float)
    local = film.local(lines.reshape(-1, 3)).reshape(lines.shape)
    tan = (film.wide / 2 / film.focal[0], film.tall / 2 / film.focal[1])
    local = local[~(pose.sides(local, *tan, near=NEAR) < 0).all(axis=1).any(axis=-1)]
    # What passes the lens is cut there; the picture's own edge cuts the rest.
    a, b = local[:, 0], local[:, 1]
    span = b[:, 2] - a[:, 2]
    cut = a + (b - a) * np.divide(NEAR - a[:, 2], span, out=np.zeros_like(span), where=np.abs(span) > 1e-12)[:, None]
    a, b = np.where(a[:, 2:] < NEAR, cut, a), np.where(b[:, 2:] < NEAR, cut, b)
    ends = film.flat(np.concatenate([a, b])).reshape(2, -1, 2)
    return [*items, Lines(np.swapaxes(ends, 0, 1), "floor-line")]


def _thing(film: _Film, thing: Thing) -> list[tuple[float, Item]]:
    """A thing's visible faces with their depth."""
    fill = SORTS[thing.kind].fill
    if thing.kind in (PERSON, TREE):
        return _upright(film, thing, fill)
    local = film.local(corners(thing))
    if (local[:, 2] < NEAR).all():
        return []
    if not SORTS[thing.kind].solid:
        flat = film.outline(local[:4])
        return [] if flat is None else [(1e6, Stroke(np.vstack([flat, flat[:1]]), fill, dash=True))]
    found: list[tuple[float, Item]] = []
    # A side is seen when the lens stands beyond it.
    ahead, deep = (film.eye[:2] - thing.at_m[:2]) @ turn(-thing.turn_rad)
    wide, depth = thing.size_m[0] / 2, thing.size_m[1] / 2
    seen = (deep < -depth, ahead > wide, deep > depth, ahead < -wide, film.eye[2] > thing.at_m[2] + thing.size_m[2])
    for face, shown in zip(FACES, seen, strict=True):
        if not shown:
            continue
        corner = local[list(face)]
        flat = film.outline(corner)
        if flat is not None:
            found.append((float(corner[:, 2].mean()), Shape(flat, fill)))
    return found


def _upright(film: _Film, thing: Thing, fill: str) -> list[tuple[float, Item]]:
    """A person or a tree, always seen broadside."""
    wide, _, high = thing.size_m
    foot, top = film.local(np.array([thing.at_m, np.asarray(thing.at_m) + (0, 0, high)]))
    depth = float((foot[2] + top[2]) / 2)
    if min(foot[2], top[2]) < 4 * NEAR:
        return []
    up = (top - foot) / high
    aside = np.cross(up, (0.0, 0.0, 1.0))
    aside = aside / max(float(np.linalg.norm(aside)), 1e-9)

    def limb(low: float, tall: float, half: float, at: float) -> np.ndarray:
        a, b, s = foot + up * low, foot + up * tall, aside * half
        return film.flat(np.array([a - s, a + s, b + s, b - s]) + aside * at)

    def ball(middle: float, across: float, tall: float) -> np.ndarray:
        return film.flat((foot + up * middle) + ROUND[:, :1] * aside * across + ROUND[:, 1:] * up * tall)

    if thing.kind == TREE:
        return [(depth, Shape(limb(0.0, 0.45 * high, 0.03 * wide, 0.0), "figure")), (depth - 0.01, Shape(ball(0.65 * high, wide / 2, 0.35 * high), fill))]
    found: list[tuple[float, Item]] = [(depth, Shape(limb(a * high, b * high, w * high, at * high), fill)) for a, b, w, at in LIMBS]
    return [*found, (depth - 0.01, Shape(ball(0.935 * high, 0.055 * high, 0.065 * high), fill))]
