"""Frames in space, and tracks that carry something along: what straight, curved and hanging rails have in common."""

from __future__ import annotations

import math
from typing import Protocol

import numpy as np
from msgspec import Struct


class Frames(Struct, frozen=True):
    """Places (n, 3) [m] and turns (n, 3, 3) whose columns point ahead, to the left and up."""

    at: np.ndarray
    axes: np.ndarray

    def __len__(self) -> int:
        return len(self.at)

    def place(self, offset: np.ndarray | tuple[float, float, float]) -> np.ndarray:
        """Places (n, 3) of a point fixed in each frame: ahead, to the left, up (3,) or (n, 3) [m]."""
        return np.asarray(self.at + (self.axes @ np.asarray(offset, float)[..., None])[..., 0])

    def turned(self, turns: np.ndarray) -> Frames:
        """The same places, each frame turned within itself (3, 3) or (n, 3, 3)."""
        return Frames(self.at, self.axes @ turns)

    def some(self, rows: np.ndarray) -> Frames:
        """The frames of those rows."""
        return Frames(self.at[rows], self.axes[rows])


def headed(places: np.ndarray, headings: np.ndarray | float) -> Frames:
    """Level frames at places, each pointing along a heading.

    places: shape (n, 3) [m]
    headings: from the x axis, positive to the left, one for all or one each, shape (n,) [rad]

    Returns: frames. Source: geometry.
    """
    axes = np.zeros((len(places), 3, 3))
    cos, sin = np.cos(headings), np.sin(headings)
    axes[:, 0, 0], axes[:, 0, 1], axes[:, 1, 0], axes[:, 1, 1], axes[:, 2, 2] = cos, -sin, sin, cos, 1.0
    return Frames(np.asarray(places, float), axes)


def pitched(angle: np.ndarray | float) -> np.ndarray:
    """A turn about the left axis that lifts the nose.

    angle: positive lifts what points ahead, any shape [rad]

    Returns: turns (..., 3, 3), columns ahead, left, up. Source: geometry.
    """
    cos, sin = np.cos(angle), np.sin(angle)
    turns = np.zeros((*np.shape(angle), 3, 3))
    turns[..., 0, 0], turns[..., 0, 2], turns[..., 2, 0], turns[..., 2, 2], turns[..., 1, 1] = cos, -sin, sin, cos, 1.0
    return turns


def nosed(places: np.ndarray, headings: np.ndarray, lifts: np.ndarray) -> Frames:
    """Frames at places, each pointing along a heading and then pitched: `headed` and `pitched` in one go.

    places: shape (n, 3) [m]
    headings: from the x axis, positive to the left, shape (n,) [rad]
    lifts: of the nose, shape (n,) [rad]

    Returns: frames. Source: geometry.
    """
    c, s, up, down = np.cos(headings), np.sin(headings), np.cos(lifts), np.sin(lifts)
    axes = np.zeros((len(places), 3, 3))
    axes[:, 0, 0], axes[:, 0, 1], axes[:, 0, 2] = c * up, -s, -c * down
    axes[:, 1, 0], axes[:, 1, 1], axes[:, 1, 2] = s * up, c, -s * down
    axes[:, 2, 0], axes[:, 2, 2] = down, up
    return Frames(np.asarray(places, float), axes)


class Track(Protocol):
    """Something to run along: its length [m], and the frame of its top at any place along it."""

    @property
    def length(self) -> float: ...

    def at(self, along: np.ndarray) -> Frames:
        """Frames at places along the track (n,), from its first end [m]."""
        ...


class ArcTrack(Struct, frozen=True):
    """A level track bent to an arc: its length [m] where that is measured, `measured` from the arc's centre; how far
    its middle lies from there, plus where it turns to the left [m], and its height above the floor [m]. The middle of
    the arc stands over the rig frame's origin, its travel there along x.
    """

    length: float
    height: float
    radius: float
    measured: float

    def turned(self, along: np.ndarray) -> np.ndarray:
        """How far it has turned to the left at places along it, from its middle (n,) [rad]."""
        return np.asarray(
            math.copysign(1.0, self.radius) * (np.asarray(along, float) - self.length / 2) / self.measured
        )

    def at(self, along: np.ndarray) -> Frames:
        """Frames at places along the track (n,), from its first end [m]."""
        angle = self.turned(np.atleast_1d(np.asarray(along, float)))
        places = np.stack(
            [self.radius * np.sin(angle), self.radius * (1 - np.cos(angle)), np.full_like(angle, self.height)], axis=-1
        )
        return headed(places, angle)


class StraightTrack(Struct, frozen=True):
    """A straight track: length [m], height of its middle above the floor [m], slope along the travel [rad]. Its
    middle stands over the rig frame's origin.
    """

    length: float
    height: float
    slope: float

    def at(self, along: np.ndarray) -> Frames:
        """Frames at places along the track (n,), from its first end [m]."""
        out = np.atleast_1d(np.asarray(along, float)) - self.length / 2
        zero = np.zeros_like(out)
        places = np.stack([out * math.cos(self.slope), zero, self.height + out * math.sin(self.slope)], axis=-1)
        return Frames(places, np.broadcast_to(pitched(self.slope), (len(out), 3, 3)))
