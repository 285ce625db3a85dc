"""What a rig kind is: a folder that declares its parameters and turns a design into a mechanism, chapters of a
report, drawings and parts.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

import numpy as np
from msgspec import Struct, field
from msgspec.structs import force_setattr
from numpy.typing import ArrayLike

from hazel_lantern.core.catalogue import Catalogue, Plate
from hazel_lantern.core.kinds.fall import FallZone, Hangs
from hazel_lantern.core.kinds.path import Asked, Poses
from hazel_lantern.core.mechanics.payload import Payload
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.nouns.figure import Figure, Given
from hazel_lantern.core.nouns.finding import Remedy
from hazel_lantern.core.nouns.quantity import Parameter, Value
from hazel_lantern.core.nouns.sketch import Sketch
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies

Owned = tuple[tuple[str, Plate], ...]
Place3 = tuple[float, float, float]
Changes = tuple[tuple[str, object], ...]
HEAD_FOOT = "3/8-16"  # thread in the foot of a camera head, with a bush for 1/4-20


# What a kind may read


class Design(Struct, frozen=True):
    """What the builder decided about a rig: its construction, values by parameter key, and the catalogue they name
    rows of.
    """

    variant: str
    values: Mapping[str, Value]
    catalogue: Catalogue

    def number(self, key: str) -> float:
        return float(self.values[key])  # type: ignore[arg-type]

    def text(self, key: str) -> str:
        return str(self.values[key])

    def several(self, key: str) -> tuple[str, ...]:
        return tuple(self.values[key])  # type: ignore[arg-type]

    def rows(self, key: str) -> np.ndarray:
        """What was measured (rows, columns), (0,) where nothing was."""
        return np.array(self.values[key], float)

    def row(self, table: str, key: str) -> Any:
        """The catalogue row a choice names; raises InputError naming the parameter."""
        return self.catalogue.row(table, self.text(key), key)

    def given(self, symbol: str, key: str, label: str, unit: str) -> Given:
        return Given(symbol, self.number(key), unit, label, key)


class Carried(Struct, frozen=True):
    """The camera kit as a load with its head, where its lens is in the mount frame [m], its screw's thread and how deep
    the hole is [m], how much of a rig's turning still reaches the picture [-], and the height of the head [m].
    """

    payload: Payload
    lens_at_m: Place3
    socket_depth_m: float
    socket_thread: str
    turning: float = 1.0
    rise: float = 0.0

    @property
    def stands_on(self) -> str:
        """The thread in the foot of what stands on the rig:
        of its head where it has one, else of the camera's clamp."""
        return HEAD_FOOT if self.rise > 0 else self.socket_thread


class OtherKit(Struct, frozen=True):
    """Another camera kit of the project: its mass [kg], how far its centre lies ahead and to the left of the mount's
    middle [m], and the thread of its screw.
    """

    id: str
    name: str
    mass: float
    ahead: float
    aside: float
    thread: str


# Chapters: what is worked out, each from what it says it reads


class Chapter(Struct, frozen=True):
    """One subject of a report: a key, and a function whose parameters name what it reads and nothing else reaches it.

    Named may be: `design`, `kit`, `owned` (weights), `others` (kits), `drives`, `move`, `optics`, `subject` (the thing
    looked at, or None), `suggest` (whether remedies
    are asked for), `path`, and the key of any other chapter, for what that one returned. It returns a typed result
    for others, or what it tells.
    `only` names the constructions it is worked out for, empty for all.
    """

    key: str
    work: Callable[..., Any]
    only: tuple[str, ...] = ()
    reads: tuple[str, ...] = ()

    def __post_init__(self) -> None:
        # Asked for at every evaluation, so it is found once.
        force_setattr(self, "reads", reads(self.work))


def reads(work: Callable[..., Any]) -> tuple[str, ...]:
    """The names of what a function asks for."""
    code = work.__code__
    return code.co_varnames[: code.co_argcount]


# Ways


class Standing(Struct, frozen=True):
    """Where the rig stands on the set [m] and which way its front points, from the set's right, positive to the left
    [rad].
    """

    x: float
    y: float
    heading: float

    @property
    def _turn(self) -> np.ndarray:
        cos, sin = np.cos(self.heading), np.sin(self.heading)
        return np.array([[cos, sin], [-sin, cos]])

    def on_set(self, points: np.ndarray) -> np.ndarray:
        """Points of the rig frame (..., 3) on the set [m]."""
        placed = np.array(points, float)
        placed[..., :2] = placed[..., :2] @ self._turn + (self.x, self.y)
        return placed

    def off_set(self, points: np.ndarray) -> np.ndarray:
        """Points of the set (..., 3) in the rig frame [m]."""
        placed = np.array(points, float)
        placed[..., :2] = (placed[..., :2] - (self.x, self.y)) @ self._turn.T
        return placed


class Member(Struct, frozen=True):
    """A straight piece of a rig and half its thickness [m]; `moves` with the camera or stands still."""

    name: str
    radius: float
    moves: bool = True


Run = tuple[
    Member, ArrayLike, ArrayLike
]  # a piece and its ends: (k,) where it stays as it is, (poses, k) where it does not; k is 3, or 2 in a plane


class Members(Struct, frozen=True):
    """The straight pieces of a rig and where each begins and ends at n poses, (n, pieces, 2, 3)
    in the rig frame [m]."""

    pieces: tuple[Member, ...]
    ends: np.ndarray

    @classmethod
    def at(cls, poses: int, laid: Sequence[Run]) -> Members:
        """From every piece as it is laid."""
        ends = np.empty((poses, len(laid), 2, np.shape(laid[0][1])[-1]))
        for k, (_, a, b) in enumerate(laid):
            ends[:, k, 0], ends[:, k, 1] = a, b
        return cls(tuple(member for member, _, _ in laid), ends)


# What stations show beyond figures


class View(Struct, frozen=True):
    """A drawing a kind offers: its key and its name on the stage."""

    key: str
    name: str


class Drift(Struct, frozen=True):
    """What the balance reading shows: the curve's key, the friction band [N*m], the shot's span and the spans that
    stay [rad].
    """

    curve: str
    friction: float
    shot: tuple[float, float]
    stays: tuple[tuple[float, float], ...]


class Swap(Struct, frozen=True):
    """What another camera kit asks for: the kit, what to do about it, and the changes that do it (empty where none is
    known).
    """

    kit: str
    words: Words
    changes: Changes


class School(Struct, frozen=True):
    """A choice on which good builders differ: its ways, each with its name, the changes that take it, and what it
    costs and gives in one line.
    """

    title: str
    ways: tuple[tuple[str, Changes, str], ...]


class Action(Struct, frozen=True):
    """A station's main action: what it is called, and a function of what it reads that gives the changes to carry it
    out.
    """

    station: str
    label: str
    run: Callable[..., Changes]


class First(Struct, frozen=True):
    """A move that rigs of a kind are made for, by which a new one is sized where there is none it can make: from and to
    on the set [m], its time [s]; longer or lower for some constructions.
    """

    move: str
    start: Place3
    end: Place3
    time: float = 8.0


class DriveAxis(Struct, frozen=True):
    """A freedom of a rig that something may drive: its key and name, which of the poses' columns it is, and whether it
    `turns` or goes along a way; its values are along the way, or of the angle.
    """

    key: str
    name: str
    freedom: int
    turns: bool


class Declared(Struct, frozen=True, kw_only=True):
    """What a kind is called and what may be set on it: all that a file, a menu or the command line needs of it.

    `home` is the package its kind module lies in; usual[variant] -> values a new rig of that variant starts with in
    place of the defaults; short[variant] -> its name in a few words; `about` what it does, `well` what it does well and
    `asks` what it asks for, a sentence each; first[variant] -> a move it is made for, that of "" for all others;
    `turns` says that its speed is told in turns a minute; `axes` are what something may drive.
    """

    id: str
    name: str
    home: str
    variants: tuple[tuple[str, str], ...]
    parameters: tuple[Parameter, ...]
    usual: dict[str, dict[str, Value]] = field(default_factory=dict)
    short: dict[str, str] = field(default_factory=dict)
    about: str = ""
    well: str = ""
    asks: str = ""
    first: dict[str, First] = field(default_factory=dict)
    turns: bool = False
    axes: tuple[DriveAxis, ...] = ()


class Held(Struct, frozen=True):
    """What an axis meets beside weight and inertia: what it rubs with as it moves and when it starts [N], or [N*m]
    where it turns; from where to where it goes [m], or [rad]; how far its lens is from where it turns, 1 where it does
    not; what of it swings by itself, each with a name and a frequency [Hz]; what holds it against running off [N] or
    [N*m]; what turns or runs along with it beside what is laid out, as inertia of the axis [kg] or [kg*m^2]; what a
    spring always pulls it with, along the axis [N] or [N*m]; and where more than its own pieces is lifted as it moves,
    as of a rope, what weight asks for at places of the axis (n,) [N] or [N*m]; and whether a looped line with its wheel
    is among its own pieces.
    """

    rubs: float
    starts: float
    span: tuple[float, float]
    lever: float = 1.0
    rings: tuple[tuple[str, float], ...] = ()
    locked: float = 0.0
    spins: float = 0.0
    sprung: float = 0.0
    weighs: Callable[[np.ndarray], np.ndarray] | None = None
    lined: bool = False


Drawer = Callable[..., Sketch]


class Reaches(Struct, frozen=True):
    """over(model, points (n, 3) in the rig frame) -> which of them the camera can be brought over; and the parameter
    that sets how far.
    """

    over: Callable[[Any, np.ndarray], np.ndarray]
    set_by: str


def undriven() -> tuple[Held, ...]:
    """Of a rig without an axis."""
    return ()


def unlimited() -> tuple[Limit, ...]:
    """Nothing known."""
    return ()


def uncleared() -> tuple[Remedy, ...]:
    """Of a rig that knows of none."""
    return ()


def untested(design: Design) -> tuple[str, ...]:
    """Of a rig without tests of its own."""
    return ()


def one_hand(design: Design) -> int:
    """What moves under one hand."""
    return 1


class Limit(Struct, frozen=True):
    """What a rig may be sped up with at the most [m/s^2], why in words, and the input it comes from."""

    words: str
    value: float
    key: str


class Kind(Declared, frozen=True, kw_only=True):
    """One rig kind: what it declares, and the functions that work it out. They are pure.

    model: the chapter that makes the rig as a mechanism, the same for every shot (raises GeometryError when it cannot
    be built); its `laid` are all pieces in space;
    chapters: the report, in the order it is read;
    follow(model, asked) -> poses that bring the lens where it is wanted, as near as the rig can;
    mount(model, poses) -> frames in which the camera kit sits on an unworked head, in the rig frame (x ahead, y left,
    z above ground);
    members(model, poses) -> the straight pieces that may come into the picture or hit something;
    bodies(model, poses) -> the frame of every body that pieces sit on, by its name;
    sketch(..., path, figures, pose, view) -> Sketch: what it reads, then what the rig comes to as far as that is
    known, the pose and the view;
    joined: remedies for a `part` longer than any bar `sold` [m];
    headlines: one line per station, from `figures` and what else it reads;
    readings by name, each a function of what it reads: `drift` -> Drift; `footing` -> Field over pan and lens height;
    `sag` -> Field over the places it serves; `foreseen`, what each test of the built rig is foreseen to read; `swaps`,
    what each other camera kit asks for; `loading`, the steps of loading in order, taken off backwards;
    schools: choices on which good builders differ, and the figures that tell them apart;
    lay(model, asked, subject) -> Standing, for kinds that know where on the set they belong; the rest is laid where
    its path fits best;
    falls: where something of it could fall, swing or fly to, from what it reads, for kinds that hang or reach over
    people; reaches: which places the camera can be brought over, for kinds that serve named places;
    hangs: how low it comes over its whole travel, from what it reads, for kinds that pass over things;
    handled(model, poses) -> where hands move it (n, 3) in the rig frame, for kinds that are not moved at the camera;
    hands(design) -> how many it takes; `pushed` where they take hold of it, not of a line that hauls it;
    tested(design) -> keys of its own tests, those that its `foreseen` foresees;
    limits: from what it reads, what bounds its acceleration: grip, tipping, the hard stop everything on it is judged
    by; held: from what it reads, what each of its axes meets, in their order;
    clearing: from what it reads, what may be tried where pieces are in one another.
    """

    views: tuple[View, ...]
    actions: tuple[Action, ...]
    model: Chapter
    chapters: tuple[Chapter, ...]
    follow: Callable[[Any, Asked], Poses]
    mount: Callable[[Any, np.ndarray], Frames]
    members: Callable[[Any, np.ndarray], Members]
    bodies: Callable[[Any, np.ndarray], Bodies]
    sketch: Drawer
    headlines: Callable[..., dict[str, Words]]
    readings: Mapping[str, Callable[..., Any]] = field(default_factory=dict)
    schools: tuple[School, ...] = ()
    told_apart_by: tuple[str, ...] = ()
    joined: Callable[..., Any] | None = None
    lay: Callable[[Any, Asked, Place3 | None], Standing] | None = None
    reaches: Reaches | None = None
    falls: Callable[..., FallZone] | None = None
    hangs: Callable[..., Hangs] | None = None
    handled: Callable[[Any, np.ndarray], np.ndarray] | None = None
    hands: Callable[[Design], int] = one_hand
    pushed: bool = True
    limits: Callable[..., tuple[Limit, ...]] = unlimited
    held: Callable[..., tuple[Held, ...]] = undriven
    clearing: Callable[..., tuple[Remedy, ...]] = uncleared
    tested: Callable[[Design], tuple[str, ...]] = untested
    stations: tuple[str, ...] = ("shot", "rig", "balance", "build")


Figures = Mapping[str, Figure]
