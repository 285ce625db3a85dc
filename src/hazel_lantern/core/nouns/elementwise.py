"""Functions of a number that also take arrays, so that one formula serves a single design and a million candidates.

Where nothing given is an array they are those of the standard library, which is many times quicker for a single number.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np

# What closed forms take and give: floats for floats; for arrays that broadcast together an array of their common shape.
Numbers = Any


def _both(one: Callable[..., Any], many: Callable[..., Any]) -> Callable[..., Numbers]:
    def chosen(*values: Numbers) -> Numbers:
        return many(*values) if any(isinstance(value, np.ndarray) for value in values) else one(*values)

    return chosen


sqrt, exp, log = _both(math.sqrt, np.sqrt), _both(math.exp, np.exp), _both(math.log, np.log)
sin, cos, tan = _both(math.sin, np.sin), _both(math.cos, np.cos), _both(math.tan, np.tan)
asin, acos, atan2 = _both(math.asin, np.arcsin), _both(math.acos, np.arccos), _both(math.atan2, np.arctan2)
tanh, hypot = _both(math.tanh, np.tanh), _both(math.hypot, np.hypot)
larger, smaller = _both(max, np.maximum), _both(min, np.minimum)


def where(so: Numbers, then: Numbers, otherwise: Numbers) -> Numbers:
    """One or the other, element by element; both have been worked out before."""
    return np.where(so, then, otherwise) if isinstance(so, np.ndarray) else then if so else otherwise


def negated(so: Numbers) -> Numbers:
    """Where it is not so."""
    return ~so if isinstance(so, np.ndarray) else not so


def some(so: Numbers) -> bool:
    """Whether it is so anywhere."""
    return bool(np.any(so)) if isinstance(so, np.ndarray) else bool(so)


def first(values: Numbers, so: Numbers) -> float:
    """The value at the first place where it is so; there must be one."""
    return (
        float(np.broadcast_to(values, np.shape(so)).ravel()[np.flatnonzero(so)[0]])
        if isinstance(so, np.ndarray)
        else float(values)
    )
