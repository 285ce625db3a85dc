"""How a carriage fits its rails: the room that is left at every place of its travel, or by how much it binds."""

from __future__ import annotations

from functools import lru_cache
from itertools import combinations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative
from hazel_lantern.core.nouns.errors import InputError

TINY = 1e-12


class Laid(Struct, frozen=True):
    """Two rails as they were laid, at places along them (n,): how far each lies to the left of where it was drawn, and
    above it (n,) [m]. Between the places they run straight.
    """

    places: np.ndarray
    left: np.ndarray
    right: np.ndarray
    left_up: np.ndarray
    right_up: np.ndarray

    def aside(self, at: np.ndarray, side: int) -> np.ndarray:
        """How far the left rail, side 0, or the right one lies to the left at places of any shape [m]."""
        return np.asarray(np.interp(at, self.places, self.left if side == 0 else self.right))

    def above(self, at: np.ndarray, side: int) -> np.ndarray:
        """Likewise upwards [m]."""
        return np.asarray(np.interp(at, self.places, self.left_up if side == 0 else self.right_up))


class Contacts(Struct, frozen=True):
    """Where a carriage touches: ahead of its middle and to its left (k,) [m], the rail of each, 0 left and 1 right
    (k,), how far it may shift to the right and to the left on it (k,) [m], infinite where nothing stops it.
    """

    ahead: np.ndarray
    aside: np.ndarray
    rail: np.ndarray
    right: np.ndarray
    left: np.ndarray


@lru_cache(maxsize=64)
def _corners(rows: tuple[tuple[float, ...], ...]) -> np.ndarray:
    """Weights (m, 2 k) of contacts, those that push up first, that hold each other in balance: each row adds up to one
    and none of it is below nought. Rows of the freedoms come one a contact (k, d).
    """
    freedoms = np.array(rows)
    count, size = freedoms.shape
    signed = np.vstack([freedoms, -freedoms])
    found = []
    for held in range(2, size + 2):
        for picked in combinations(range(2 * count), held):
            # A contact cannot hold against itself but from its other side.
            system = np.vstack([signed[list(picked)].T, np.ones(held)])
            wanted = np.zeros(size + 1)
            wanted[-1] = 1.0
            shares, *_ = np.linalg.lstsq(system, wanted, rcond=None)
            if np.abs(system @ shares - wanted).max() < 1e-9 and shares.min() > TINY:
                row = np.zeros(2 * count)
                row[list(picked)] = shares
                found.append(row)
    return np.unique(np.round(found, 12), axis=0) if found else np.zeros((0, 2 * count))


def excess(freedoms: np.ndarray, low: np.ndarray, high: np.ndarray) -> np.ndarray:
    """By how much what must fit everywhere at once does not, placed as well as it can be.

    freedoms: what each contact moves by for each freedom of the body (k, d)
    low: how far each contact may at the least be moved (n, k) [m], minus infinity where nothing stops it
    high: and at the most (n, k) [m]

    Returns: the least distance by which all bounds would have to be widened (n,), below nought where there is room to
    spare [m].

    Source: linear programming; by duality the greatest of the sums that contacts in balance with each other make.
    """
    weights = _corners(tuple(tuple(float(v) for v in row) for row in np.round(freedoms, 12)))
    if not len(weights):
        raise InputError("contacts", len(freedoms), "nothing holds the carriage: it needs contacts on both sides")
    # Moved up against its upper bound, or down against its lower one.
    gaps = np.concatenate([np.asarray(high, float), -np.asarray(low, float)], axis=-1)
    shut = np.where(np.isfinite(gaps), gaps, 0.0)
    sums = -(shut @ weights.T)
    # What nothing stops holds nothing.
    sums[(~np.isfinite(gaps)).astype(float) @ (weights.T > 0) > 0] = -np.inf
    return np.asarray(sums.max(axis=-1))


def sideways(rails: Laid, contacts: Contacts, middles: np.ndarray, wider: float = 0.0) -> np.ndarray:
    """By how much a carriage binds between its rails wherever it stands; it may shift and turn to fit.

    rails: as they were laid
    contacts: of the carriage
    middles: places of its middle (n,) [m]
    wider: how much further apart its wheels are than the rails were drawn [m]

    Returns: what it binds by (n,), below nought where there is room [m]. Source: geometry; rigid rails and carriage.
    """
    at = middles[:, None] + contacts.ahead
    lies = np.where(contacts.rail == 0, rails.aside(at, 0), rails.aside(at, 1))
    off = np.where(contacts.rail == 0, wider / 2, -wider / 2)
    freedoms = np.column_stack([np.ones(len(contacts.ahead)), contacts.ahead])
    return excess(freedoms, lies - off - contacts.right, lies - off + contacts.left)


def rocks(rails: Laid, contacts: Contacts, middles: np.ndarray) -> np.ndarray:
    """The gap under the wheel that is left in the air where the other three stand on twisted rails.

    rails: as they were laid
    contacts: of the carriage, its four corners
    middles: places of its middle (n,) [m]

    Returns: the gap (n,), 0 for three corners [m]. Source: geometry; rigid rails and carriage.
    """
    if len(contacts.ahead) != 4:
        return np.zeros(len(middles))
    at = middles[:, None] + contacts.ahead
    up = np.where(contacts.rail == 0, rails.above(at, 0), rails.above(at, 1))
    front, left = contacts.ahead > 0, contacts.rail == 0
    sign = np.where(front == left, 1.0, -1.0)
    return np.asarray(np.abs(up @ sign))


class Mend(Struct, frozen=True):
    """What would mend rails that bind: all wheels further apart by so much [m], or the far end of the right rail moved
    to the right by so much [m], or a spot of it straightened; what would still be left over of each [m].
    """

    wheels: float
    wheels_leave: float
    end: float
    end_leaves: float
    spot: float
    spot_off: float
    spot_leaves: float


def mended(places: np.ndarray, apart: np.ndarray) -> Mend:
    """What to move where rails are not as far apart as they should be.

    places: along them (n,) [m]
    apart: how much too far apart they are there (n,) [m]

    Returns: the three ways, a `Mend`. Raises: InputError for fewer than two places.
    Source: half of the spread is left when all of it is moved; a line by least squares; a place against both its
    neighbours.
    """
    if len(places) < 2:
        raise InputError("places", len(places), "at least two are needed")
    not_negative(length=float(places[-1] - places[0]))
    high, low = float(apart.max()), float(apart.min())
    middle = (high + low) / 2
    slope, start = np.polyfit(places, apart, 1)
    line = start + slope * places
    rest = apart - line
    # A place stands out from the straight line between its neighbours.
    out = np.concatenate([[0.0], apart[1:-1] - _between(places, apart), [0.0]])
    worst = int(np.argmax(np.abs(out)))
    eased = apart - np.where(np.arange(len(places)) == worst, out, 0.0)
    return Mend(
        middle,
        (high - low) / 2,
        float(-slope * (places[-1] - places[0])),
        float(np.abs(rest - (rest.max() + rest.min()) / 2).max()),
        float(places[worst]),
        float(out[worst]),
        float(np.abs(eased).max()),
    )


def _between(places: np.ndarray, apart: np.ndarray) -> np.ndarray:
    """What lies half-way, by place, between both neighbours of each inner place."""
    before, after = places[1:-1] - places[:-2], places[2:] - places[1:-1]
    return np.asarray((apart[:-2] * after + apart[2:] * before) / (before + after))
