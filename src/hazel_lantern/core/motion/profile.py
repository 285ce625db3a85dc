"""The move over time: stretches between keys, each with its shape, and the holds between them."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Protocol

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.motion.keyframes import flow, flowed
from hazel_lantern.core.motion.shapes import FLOWING, Shape, shape
from hazel_lantern.core.nouns.check import finite, not_negative
from hazel_lantern.core.nouns.errors import InputError

FIELDS = {"beta": "ramp", "kind": "shape"}  # of a segment, for what a shape calls its own


class Stretch(Struct, frozen=True):
    """From one key to the next: when it leaves and arrives [s], shares of the path there, and its shape."""

    leaves: float
    arrives: float
    start: float
    end: float
    shape: Shape

    @property
    def time(self) -> float:
        """How long it takes [s]."""
        return self.arrives - self.leaves

    @property
    def way(self) -> float:
        """Share of the path it covers, whichever way."""
        return abs(self.end - self.start)

    @property
    def peak_speed(self) -> float:
        """Greatest speed [paths a second]."""
        return self.way * self.shape.c_v / self.time


class Profile(Struct, frozen=True):
    """A move from the moment it leaves its first key to that when it reaches its last; `u` is the share of that time,
    0..1.
    """

    stretches: tuple[Stretch, ...]

    @property
    def duration(self) -> float:
        """From leaving to arriving [s]."""
        return self.stretches[-1].arrives - self.stretches[0].leaves

    def share(self, u: np.ndarray | float) -> np.ndarray:
        """Share of the path at shares of the time, clipped to 0..1."""
        return self._over(u, lambda one, w: one.start + (one.end - one.start) * one.shape.share(w), still=True)

    def speed(self, u: np.ndarray | float) -> np.ndarray:
        """Speed in paths a second, 0 in a hold [1/s]."""
        return self._over(u, lambda one, w: (one.end - one.start) / one.time * one.shape.speed(w))

    def acceleration(self, u: np.ndarray | float) -> np.ndarray:
        """Acceleration in paths a second squared, 0 in a hold."""
        return self._over(u, lambda one, w: (one.end - one.start) / one.time**2 * one.shape.acceleration(w))

    @property
    def fastest(self) -> Stretch:
        """The stretch in which the greatest speed is reached."""
        return max(self.stretches, key=lambda one: one.peak_speed)

    @property
    def peak_speed(self) -> float:
        """Greatest speed [paths a second]."""
        return self.fastest.peak_speed

    @property
    def peak_acceleration(self) -> float:
        """Greatest acceleration [paths a second squared]; infinite where a shape starts at full speed."""
        return max(one.way * one.shape.c_a / one.time**2 if one.way else 0.0 for one in self.stretches)

    def _over(
        self, u: np.ndarray | float, work: Callable[[Stretch, np.ndarray], np.ndarray], *, still: bool = False
    ) -> np.ndarray:
        """Every moment by the stretch it lies in; between two it is as the one before left it."""
        share = np.clip(np.asarray(u, float), 0.0, 1.0)
        first = self.stretches[0]
        if len(self.stretches) == 1:
            return np.asarray(work(first, share))
        t = first.leaves + share * self.duration
        found = np.full(t.shape, first.start if still else 0.0)
        for one in self.stretches:
            w = (t - one.leaves) / one.time
            found = np.where(
                w < 0,
                found,
                work(one, np.clip(w, 0.0, 1.0)) if still else np.where(w <= 1, work(one, np.clip(w, 0.0, 1.0)), 0.0),
            )
        return np.asarray(found)


class Key(Protocol):
    """When a share of the path is reached, and how long it stays there."""

    @property
    def time_s(self) -> float: ...
    @property
    def share(self) -> float: ...
    @property
    def hold_s(self) -> float: ...


class Segment(Protocol):
    """Shape, ramp and corner between two keys."""

    @property
    def shape(self) -> str: ...
    @property
    def ramp(self) -> float: ...
    @property
    def corner(self) -> float: ...


def timing(keys: Sequence[Key], segments: Sequence[Segment]) -> Profile:
    """A move from its keys.

    keys: when each is reached [s], share of the path there, 0..1 [-], how long it stays [s]
    segments: shape, ramp and corner [-] of each stretch, one fewer than keys

    Returns: the profile. Raises: InputError for fewer than two keys, a key that is reached before the one before it
    was left, a share outside 0..1, a negative hold, a bad shape.
    Source: drive 4.1, 4.4.
    """
    if len(keys) < 2:
        raise InputError("keys", len(keys), "a move has at least two")
    if len(segments) != len(keys) - 1:
        raise InputError("segments", len(segments), f"there must be one between every two keys: {len(keys) - 1}")
    for k, key in enumerate(keys):
        finite(**{f"keys.{k}.time": key.time_s})
        not_negative(**{f"keys.{k}.hold": key.hold_s})
        if not 0 <= key.share <= 1:
            raise InputError(f"keys.{k}.share", key.share, "must lie between 0 and 1")
    found = []
    for k, (one, key, after) in enumerate(zip(segments, keys[:-1], keys[1:], strict=True)):
        leaves = key.time_s + key.hold_s
        if not after.time_s > leaves:
            raise InputError(
                f"keys.{k + 1}.time", after.time_s, f"must come after {leaves:g} s, when the key before it is left"
            )
        try:
            made = shape(one.shape, one.ramp, one.corner)
        except InputError as error:
            raise InputError(
                f"segments.{k}.{FIELDS.get(error.field, error.field)}", error.value, error.allowed
            ) from error
        found.append(Stretch(leaves, after.time_s, key.share, after.share, made))
    return Profile(_flowing(found, [segment.shape for segment in segments]))


def _flowing(stretches: list[Stretch], shapes: Sequence[str]) -> tuple[Stretch, ...]:
    """The stretches, those that flow into each other without a hold between them through their keys at speed."""
    found, start = list(stretches), 0
    while start < len(found):
        end = start + 1
        if shapes[start] == FLOWING:
            while end < len(found) and shapes[end] == FLOWING and found[end].leaves == found[end - 1].arrives:
                end += 1
            run = stretches[start:end]
            made = flow([run[0].leaves, *(one.arrives for one in run)], [run[0].start, *(one.end for one in run)])
            for k, one in enumerate(run):
                if one.way:
                    found[start + k] = replace(one, shape=flowed(made.coefficients(k) / (one.end - one.start)))
        start = end
    return tuple(found)
