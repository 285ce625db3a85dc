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


def set_one(key: str, label: str, parameter: str, value: object, unit: str = "") -> Remedy:
    """The remedy that sets one parameter; a number [SI] is named by the {} of its label."""
    amounts = ((value, unit),) if unit and isinstance(value, (int, float)) else ()
    return Remedy(key, Words(label, amounts), ((parameter, value),))


class Finding(Struct, frozen=True):
    """A verdict; as it stands one that says yes or no. The first word of its key is the station that shows it.

    `figure` names what it judges: its value, or its limit where the value is an input; none where it counts or says
    yes or no. `where` names the parameter or figure to look at, `shot` the shot it is worst in, where a rig serves
    several; `hint` says of a stop that nothing mends what was tried.
    """

    key: str
    title: str
    about: str
    state: str
    where: str
    sentence: Words
    value: float = 1.0
    limit: float = 0.0
    sense: str = "at_most"
    unit: str = "count"
    remedies: tuple[Remedy, ...] = ()
    shot: str = ""
    figure: str = ""
    hint: Words | None = None

    @property
    def station(self) -> str:
        return self.key.partition(".")[0]

    @property
    def says_yes_or_no(self) -> bool:
        """Whether there is no number to it."""
        return self.unit == "count" and self.limit == 0.0 and not self.figure

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
