"""Guards for numbers that enter the core; of an array they name the first wrong value."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.nouns.elementwise import Numbers, first
from hazel_lantern.core.nouns.errors import InputError


def positive(**values: Numbers) -> None:
    """Raise InputError unless every value is finite and above zero."""
    for field, value in values.items():
        if isinstance(value, np.ndarray):
            refused(field, value, ~(np.isfinite(value) & (value > 0)), "must be a number above zero")
        elif not (math.isfinite(value) and value > 0):
            raise InputError(field, value, "must be a number above zero")


def not_negative(**values: Numbers) -> None:
    """Raise InputError unless every value is finite and at least zero."""
    for field, value in values.items():
        if isinstance(value, np.ndarray):
            refused(field, value, ~(np.isfinite(value) & (value >= 0)), "must be a number of zero or more")
        elif not (math.isfinite(value) and value >= 0):
            raise InputError(field, value, "must be a number of zero or more")


def finite(**values: Numbers) -> None:
    """Raise InputError unless every value is finite."""
    for field, value in values.items():
        if isinstance(value, np.ndarray):
            refused(field, value, ~np.isfinite(value), "must be a finite number")
        elif not math.isfinite(value):
            raise InputError(field, value, "must be a finite number")


def refused(field: str, value: Numbers, wrong: Numbers, allowed: str) -> None:
    """Raise InputError for a value where it is wrong, the first of several."""
    if np.any(wrong) if isinstance(wrong, np.ndarray) else wrong:
        raise InputError(field, first(value, wrong), allowed)
