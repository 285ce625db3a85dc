"""What a shot asks for: the way of the lens in space and time, and what takes the picture. Scalars only, so that
equal wishes are found equal.
"""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.project import Key, Place, Segment, Shot, Thing
from hazel_lantern.core.document.shot import ARC, CIRCLE, LOOK_DOWN
from hazel_lantern.core.motion.profile import Profile, timing

PARTS, LEAST_PARTS = 24, 4  # of a move's time between two moments looked at; of one stretch at the least


class Optics(Struct, frozen=True):
    """Lens and recorded picture of a shot."""

    focal_m: float
    sensor_width_m: float
    sensor_height_m: float
    squeeze: float
    pixels_wide: float
    pixels_high: float
    capture_fps: float
    shown_fps: float

    @classmethod
    def of(cls, shot: Shot) -> Optics:
        return cls(*(getattr(shot, name) for name in cls.__struct_fields__))


class Move(Struct, frozen=True):
    """The way asked of the lens on the set and the time it takes; an arc turns about `centre`."""

    move: str
    start_height_m: float
    end_height_m: float
    start_at_m: tuple[float, float]
    end_at_m: tuple[float, float]
    via_m: tuple[Place, ...]
    arc_rad: float
    centre: tuple[float, float] | None
    keys: tuple[Key, ...]
    segments: tuple[Segment, ...]

    @classmethod
    def of(cls, shot: Shot, looked_at: Thing | None) -> Move:
        """Of a shot and what it looks at."""
        round_it = shot.move in (ARC, CIRCLE) and looked_at is not None
        arc = math.copysign(2 * math.pi, shot.arc_rad or 1.0) if shot.move == CIRCLE else shot.arc_rad
        return cls(
            shot.move,
            shot.start_height_m,
            shot.end_height_m,
            shot.start_at_m,
            shot.end_at_m,
            shot.via_m,
            arc if round_it else 0.0,
            (looked_at.at_m[0], looked_at.at_m[1]) if looked_at is not None and round_it else None,
            shot.keys,
            shot.segments,
        )

    @property
    def down(self) -> bool:
        """Whether the camera looks straight down."""
        return self.move == LOOK_DOWN

    @property
    def profile(self) -> Profile:
        """The way over time."""
        return timing(self.keys, self.segments)

    @property
    def duration_s(self) -> float:
        """From leaving the first key to reaching the last [s]."""
        return self.profile.duration

    @property
    def moments(self) -> np.ndarray:
        """The moments at which a move is looked at, as shares of its time (n,): evenly over every stretch and every
        hold between two, so that none is passed over however many there are.
        """
        leaves, whole = self.keys[0].time_s + self.keys[0].hold_s, self.duration_s
        clock = [(key.time_s, key.time_s + key.hold_s) for key in self.keys[1:-1]]
        edges = np.unique([0.0, *((t - leaves) / whole for pair in clock for t in pair), 1.0])
        each = max(LEAST_PARTS, round(PARTS / (len(edges) - 1)))
        parts = [np.linspace(a, b, each, endpoint=False) for a, b in pairwise(edges)]
        return np.concatenate([*parts, [1.0]])

    @property
    def far(self) -> np.ndarray:
        """The moments (2,) at which the move first is least and furthest along its path, as shares of its time."""
        shares = [key.share for key in self.keys]
        leaves = self.keys[0].time_s + self.keys[0].hold_s
        clock = [self.keys[shares.index(find(shares))].time_s for find in (min, max)]
        return np.clip((np.array(clock) - leaves) / self.duration_s, 0.0, 1.0)

    def clock(self, u: np.ndarray) -> np.ndarray:
        """The shot's clock at shares u of the time (n,) [s]; it starts at the first key."""
        leaves = self.keys[0].time_s + self.keys[0].hold_s
        return np.asarray(leaves + np.asarray(u, float) * (self.keys[-1].time_s - leaves))

    def share(self, u: np.ndarray) -> np.ndarray:
        """Share of the way made at shares u of the time."""
        return self.profile.share(u)

    def places(self, share: np.ndarray) -> np.ndarray:
        """Places of the lens (n, 3) on the set at shares of the way [m]."""
        start, end = np.array([*self.start_at_m, self.start_height_m]), np.array([*self.end_at_m, self.end_height_m])
        if not self.via_m and self.centre is None:
            return np.asarray(start + share[:, None] * (end - start))
        if self.centre is not None:
            angle, arm = self.arc_rad * share, start[:2] - self.centre
            flat = (
                np.column_stack(
                    [arm[0] * np.cos(angle) - arm[1] * np.sin(angle), arm[0] * np.sin(angle) + arm[1] * np.cos(angle)]
                )
                + self.centre
            )
            return np.column_stack([flat, start[2] + (end[2] - start[2]) * share])
        stops = np.array([start, *self.via_m, end])
        run = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(stops, axis=0), axis=1))])
        if run[-1] == 0:
            return np.repeat(start[None], len(share), axis=0)
        return np.column_stack([np.interp(share * run[-1], run, stops[:, k]) for k in range(3)])

    @property
    def length(self) -> float:
        """The whole way of the lens along its path [m]."""
        if self.centre is not None:
            radius = math.dist(self.start_at_m, self.centre)
            return math.hypot(self.arc_rad * radius, self.end_height_m - self.start_height_m)
        stops = np.array([self.ends[0], *self.via_m, self.ends[1]])
        return float(np.linalg.norm(np.diff(stops, axis=0), axis=1).sum())

    @property
    def ends(self) -> tuple[np.ndarray, np.ndarray]:
        """The first and the last place of the lens on the set (3,) [m]."""
        if self.centre is not None:
            first, last = self.places(np.array([0.0, 1.0]))
            return first, last
        return np.array([*self.start_at_m, self.start_height_m]), np.array([*self.end_at_m, self.end_height_m])

    @property
    def heights(self) -> tuple[float, ...]:
        """Heights of the lens at the start, at each way point and at the end [m]."""
        via = () if self.centre is not None else tuple(z for _, _, z in self.via_m)
        return self.start_height_m, *via, self.end_height_m

    @property
    def floor_way(self) -> float:
        """Straight way over the floor from start to end [m]."""
        if self.centre is None:
            return math.hypot(self.end_at_m[0] - self.start_at_m[0], self.end_at_m[1] - self.start_at_m[1])
        return (
            2
            * math.hypot(self.start_at_m[0] - self.centre[0], self.start_at_m[1] - self.centre[1])
            * abs(math.sin(self.arc_rad / 2))
        )

    @property
    def chord(self) -> float:
        """Straight way from start to end [m]; 0 when they stand over one place."""
        flat = self.floor_way
        return math.hypot(flat, self.end_height_m - self.start_height_m) if flat > 1e-9 else 0.0
