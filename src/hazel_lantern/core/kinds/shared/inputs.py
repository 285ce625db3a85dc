"""Inputs that several kinds have."""

from __future__ import annotations

from hazel_lantern.core.nouns.quantity import Quantity


def least_bump(group: str) -> Quantity:
    """The input that says what a rig must stand at the least when bumped."""
    words = "0: 20 N, or 5 N where nobody is near (A); set it where you know better, and why"
    return Quantity("bump.least", "Stands a bump of at least", "N", 0.0, 400.0, 0.0, group, words)
