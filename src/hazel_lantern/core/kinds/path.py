"""The way of the camera as a rig makes it: poses along the move."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np
from msgspec import Struct

from hazel_lantern.core.motion.wanted import Move


class Asked(Struct, frozen=True):
    """What the lens is wanted to do: shares of the way (n,), places (n, 3) [m], the first and the last place of the
    whole move (3,) [m], where the
    lens sits in the mount frame as the head holds it (3,) [m], and how far it goes round what it looks at, 0 where it
    does not [rad].

    Where the rig stands follows from its own path: unless a kind lays itself, only heights, and distances between
    places, mean anything to it.
    """

    share: np.ndarray
    places: np.ndarray
    first: np.ndarray
    last: np.ndarray
    lens: np.ndarray
    arc: float = 0.0

    def along(self, whole: float) -> np.ndarray:
        """How far each place lies from the middle of the straight line from first to last (n,) [m]; a move that stays
        over one place is taken as `whole`.
        """
        chord = self.last - self.first
        if np.hypot(*chord[:2]) <= 1e-9:
            return whole * (self.share - 0.5)
        length = float(np.linalg.norm(chord))
        return np.asarray((self.places - self.first) @ chord / length - length / 2)


class Poses(Struct, frozen=True):
    """Places of a mechanism's freedoms (n, dof), what a solver left over at each (n,), and which of them are good
    (n,).
    """

    q: np.ndarray
    residual: np.ndarray
    good: np.ndarray

    @classmethod
    def of(cls, q: np.ndarray) -> Poses:
        """Poses that a closed form gives."""
        return cls(q, np.zeros(len(q)), np.ones(len(q), bool))


class Path(Struct, frozen=True):
    """The rig's own move: what `follow` makes of the shot's wish, at any share of its time."""

    model: Any
    move: Move
    lens: np.ndarray
    follow: Callable[[Any, Asked], Poses]

    def asked(self, u: np.ndarray) -> Asked:
        return self.wish(self.move.share(u))

    def wish(self, share: np.ndarray) -> Asked:
        """What the lens is wanted to do at shares of the way (n,)."""
        return Asked(share, self.move.places(share), *self.move.ends, self.lens, self.move.arc_rad)

    def poses(self, u: np.ndarray) -> Poses:
        return self.follow(self.model, self.asked(u))

    def at(self, u: np.ndarray) -> np.ndarray:
        """Poses (n, dof) at shares u of the time."""
        return self.poses(u).q

    @property
    def ends(self) -> np.ndarray:
        """Poses (2, dof) where the move is least and furthest along its path."""
        return self.at(self.move.far)
