"""What a stabilised head leaves of a rig's turning."""

from __future__ import annotations

from hazel_lantern.core.nouns.figure import Given


def through_head(turning: float) -> Given:
    """The share of a turn that still reaches the picture [-], as an input of what is worked out with it."""
    return Given("s", turning, "1", "turning the head lets through", "kit.head")
