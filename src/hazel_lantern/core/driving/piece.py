"""One piece of a drive as it is made: its discs, what it multiplies by, what it loses, what is wrong with it."""

from __future__ import annotations

import math
from collections.abc import Mapping

from msgspec import Struct

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.motion import screws
from hazel_lantern.core.motion.drives import Stage
from hazel_lantern.core.motion.gears import Pair
from hazel_lantern.core.nouns.words import Words

WOOD = 650.0  # kilograms a cubic metre, of plywood that gears are cut from
Sizes = Mapping[str, float | str]


class Disc(Struct, frozen=True):
    """A wheel as it is drawn: its radius where it meets [m], teeth (0 for a smooth one), and of a sector the angle its
    teeth take, 0 for all round [rad].
    """

    radius: float
    teeth: int = 0
    sweep: float = 0.0


class Trouble(Struct, frozen=True):
    """What is wrong with an element: the last words of its key, title, what it is about, its state, the sentence, value
    and limit with their sense and unit, and the size that would mend it, with the value that does.
    """

    key: str
    title: str
    about: str
    state: str
    sentence: Words
    value: float
    limit: float
    sense: str
    unit: str
    mends: tuple[str, float, str] | None = None


class Made(Struct, frozen=True):
    """An element: its stage as the chain reckons it, the way it makes for a turn of its last shaft [m] (0 for one that
    turns), play along that way [m], what it slips at (effort at its output, N or N*m), how stiff it is along the way
    [N/m], what it breaks at, how far its speed grows over the run and ripples [-], whether it holds by itself, the
    speed it must stay under [rad/s], its wheels, how far their shafts stand apart [m], whether both turn one way, its
    troubles, what is said of it, and of gears their mesh and what they are painted as.
    """

    kind: str
    stage: Stage
    first: Disc
    second: Disc | None = None
    apart: float = 0.0
    travel: float = 0.0
    play: float = 0.0
    slips: float = math.inf
    stiff: float = math.inf
    breaks: float = math.inf
    grows: float = 1.0
    ripple: float = 0.0
    holds: str = screws.RUNS
    whirls: float = math.inf
    same_way: bool = False
    troubles: tuple[Trouble, ...] = ()
    said: str = ""
    mesh: Pair | None = None
    fill: str = ""

    @property
    def gives(self) -> str:
        return d.SORTS[self.kind].gives


def number(values: Sizes, key: str) -> float:
    return float(values[key])


def disc_inertia(radius: float, width: float) -> float:
    """Of a wooden wheel about its shaft [kg*m^2]."""
    return math.pi / 2 * WOOD * width * radius**4


def up_to(value: float, step: float) -> float:
    return round(math.ceil(value / step - 1e-9) * step, 6)
