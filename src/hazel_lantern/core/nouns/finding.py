"""A finding: a figure held against a limit, in one plain sentence, with remedies."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.words import Words

CLEAR, WATCH, STOP = "clear", "watch", "stop"
RANK = {CLEAR: 0, WATCH: 1, STOP: 2}
PEOPLE, STRUCTURE, PICTURE, BUILD = "people", "structure", "picture", "build"


class Remedy(Struct, frozen=True):
    """A change that can be tried with one click: parameter keys and their new values in SI."""

    key: str
    label: Words
    changes: tuple[tuple[str, object], ...]
    elsewhere: Words | None = None


class Finding(Struct, frozen=True):
    """A verdict. `figure` names what it judges: its value, or its limit where the value is an input; none where it
    counts or says yes or no.

    `where` names the parameter or figure to look at, `shot` the shot it is worst in, where a rig serves several.
    """

    key: str
    title: str
    about: str
    state: str
    value: float
    limit: float
    sense: str
    unit: str
    where: str
    station: str
    sentence: Words
    remedies: tuple[Remedy, ...] = ()
    shot: str = ""
    figure: str = ""

    @property
    def use(self) -> float:
        """How much of the limit is used: 1 is at the limit."""
        return utilisation(self.value, self.limit, self.sense)


def utilisation(value: float, limit: float, sense: str) -> float:
    """Share of the limit used, above 1 when broken; "at_least" limits are turned round."""
    if math.isnan(value) or math.isnan(limit):
        return math.inf
    demand, allowed = (limit, value) if sense == "at_least" else (value, limit)
    if allowed <= 0:
        return 0.0 if demand <= 0 and sense == "at_most" else math.inf
    return max(0.0, demand / allowed)


def judge(value: float, limit: float, sense: str, about: str, *, watch_at: float = 0.8) -> str:
    """Clear up to `watch_at` of the limit, watch up to all of it, stop beyond; about the picture never worse than
    watch.
    """
    use = utilisation(value, limit, sense)
    if not use <= 1 + 1e-12:
        return WATCH if about in (PICTURE, BUILD) else STOP
    return WATCH if use > watch_at else CLEAR


def worst(states: list[str]) -> str | None:
    """The worst of the states, None of an empty list."""
    return max(states, key=RANK.__getitem__, default=None)
