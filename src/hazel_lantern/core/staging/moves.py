"""Where the rig stands to bring the camera where it is wanted, and what it then does there."""

from __future__ import annotations

import math
from collections.abc import Callable

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.kinds.base import Kind, Standing
from hazel_lantern.core.kinds.path import Asked, Path, Poses
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.staging.head import Aim, Sight, on_head, set_once, sight
from hazel_lantern.core.staging.things import aim_point, turn
from hazel_lantern.core.staging.walking import aims

Placing = tuple[tuple[float, float] | None, float]


def subject(stage: FilmSet, shot: Shot) -> Thing | None:
    """What the shot looks at; None when it looks at nothing, or at what is no longer there."""
    return next((thing for thing in stage.things if thing.id == shot.target), None) if shot.target else None


def laid(wish: Asked, made: np.ndarray, facing: float, looked_at: Thing | None) -> Standing:
    """Where a rig stands whose path (n, 3) lies best on the one asked for.

    A rig that travels is laid along the move; one that only rises turns its camera, which faces `facing` in the rig
    frame, to the subject.
    """
    asked, low, high = wish.places, int(np.argmin(wish.share)), int(np.argmax(wish.share))
    run, way = made[high, :2] - made[low, :2], asked[high, :2] - asked[low, :2]
    if np.hypot(*run) > 0.2 and np.hypot(*way) > 0.2 and np.hypot(*way) > 0.3 * abs(asked[high, 2] - asked[low, 2]):
        heading = math.atan2(way[1], way[0]) - math.atan2(run[1], run[0])
    elif looked_at is not None:
        away = aim_point(looked_at)[:2] - asked[low, :2]
        heading = math.atan2(away[1], away[0]) - facing
    else:
        heading = math.pi / 2 - facing
    heading = math.remainder(heading, 2 * math.pi)
    # Half-way between the furthest off: the least it strays, whatever the move does over time.
    off = asked[:, :2] - made[:, :2] @ turn(heading)
    x, y = (off.min(axis=0) + off.max(axis=0)) / 2
    return Standing(float(x), float(y), heading)


class Staged(Struct, frozen=True):
    """A rig on its set at some moments: its poses, the path asked for (n, 3) and the share of it made (n,), where it
    stands, the frames of its mount, its camera along the path it really makes, the subject and where the lens aims at
    it (n, 3), the shot's clock (n,) [s].
    """

    poses: Poses
    asked: np.ndarray
    share: np.ndarray
    where: Standing
    mount: Frames
    camera: Sight
    subject: Thing | None
    target: np.ndarray | None
    times: np.ndarray

    @property
    def middle(self) -> int:
        """The first moment nearest to half-way along the path."""
        return half_way(self.share)

    @property
    def scales(self) -> Sight:
        """What the head's own scales read."""
        return on_head(self.mount, self.camera)


class Scene(Struct, frozen=True):
    """A rig stood on its set: all that says where it and its camera are at any moment of the move."""

    path: Path
    mount: Callable[[object, np.ndarray], Frames]
    where: Standing
    aim: Aim
    subject: Thing | None

    def at(self, u: np.ndarray, times: np.ndarray | None = None) -> Staged:
        """The rig at shares u of the time (n,); where it holds, the clock (n,) runs on [s]. Raises InputError for a
        camera inside its subject.
        """
        asked = self.path.asked(u)
        poses = self.path.follow(self.path.model, asked)
        clock = self.path.move.clock(u) if times is None else times
        return self.seen(asked, poses, on_set(self.where, self.mount(self.path.model, poses.q)), clock)

    def seen(self, asked: Asked, poses: Poses, frames: Frames, times: np.ndarray) -> Staged:
        """What the camera does on its mount frames, already on the set. Raises InputError for a camera inside its
        subject.
        """
        target = None if self.subject is None else aims(self.subject, times)
        seen = sight(frames, self.path.lens, self.aim, self.path.move.down, target, times)
        return Staged(poses, asked.places, asked.share, self.where, frames, seen, self.subject, target, times)

    def now(self, share: float) -> Staged:
        """The rig at one moment. Raises InputError when there is no picture of it: a camera inside its subject, a rig
        that has no shape.
        """
        staged = self.at(np.array([share]))
        if not staged.poses.good.all():
            raise InputError("rig", f"{share:.0%} of the move", "the rig has no shape at this moment of the move")
        return staged


def half_way(share: np.ndarray) -> int:
    """The first moment nearest to half of the way made, of shares (n,)."""
    return int(np.argmin(np.round(np.abs(share - (share.min() + share.max()) / 2), 9)))


def on_set(where: Standing, frames: Frames) -> Frames:
    """Frames of the rig as they stand on the set."""
    cos, sin = math.cos(where.heading), math.sin(where.heading)
    return Frames(where.on_set(frames.at), np.array([[cos, -sin, 0.0], [sin, cos, 0.0], [0.0, 0.0, 1.0]]) @ frames.axes)


class Stood(Struct, frozen=True):
    """A rig stood on its set, and the usual moments of its move there."""

    scene: Scene
    staged: Staged


class Run(Struct, frozen=True):
    """The usual moments of a rig's move wherever it stands: what is asked, its poses, and its mount frames in the rig
    frame.
    """

    asked: Asked
    poses: Poses
    mount: Frames


def run_of(kind: Kind, path: Path) -> Run:
    """The usual moments of a move."""
    asked = path.asked(path.move.moments)
    poses = path.follow(path.model, asked)
    return Run(asked, poses, kind.mount(path.model, poses.q))


def stood(kind: Kind, path: Path, run: Run, aim: Aim, subject: Thing | None, placing: Placing) -> Stood:
    """Stand a rig on its set: as the builder put it, as its kind says, else where its path fits best. Raises
    InputError for a camera inside its subject.
    """
    asked, mount = run.asked, run.mount
    stands, heading = placing
    if stands is not None:
        where = Standing(*stands, heading)
    elif kind.lay is not None:
        where = kind.lay(path.model, asked, None if subject is None else subject.at_m)
    else:
        ahead = mount.axes[0, :, 0]
        where = laid(asked, mount.place(path.lens), math.atan2(ahead[1], ahead[0]), subject)
    times, frames = path.move.clock(path.move.moments), on_set(where, mount)
    middle = [half_way(asked.share)]
    target = None if subject is None else aims(subject, times[middle])[0]
    once = set_once(frames.some(np.array(middle)), path.lens, aim.mode, path.move.down, target)
    scene = Scene(path, kind.mount, where, replace(aim, once=once), subject)
    return Stood(scene, scene.seen(asked, run.poses, frames, times))
