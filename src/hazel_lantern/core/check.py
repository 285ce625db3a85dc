"""Guards for numbers that enter the core."""

from __future__ import annotations

import math

from hazel_lantern.core.errors import InputError


def positive(**values: float) -> None:
    """Raise InputError unless every value is finite and above zero."""
    for field, value in values.items():
        if not (math.isfinite(value) and value > 0):
            raise InputError(field, value, "must be a number above zero")


def not_negative(**values: float) -> None:
    """Raise InputError unless every value is finite and at least zero."""
    for field, value in values.items():
        if not (math.isfinite(value) and value >= 0):
            raise InputError(field, value, "must be a number of zero or more")


def finite(**values: float) -> None:
    """Raise InputError unless every value is finite."""
    for field, value in values.items():
        if not math.isfinite(value):
            raise InputError(field, value, "must be a finite number")
