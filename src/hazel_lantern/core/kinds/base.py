"""What a rig kind is: a folder that declares its parameters and turns a design into figures, findings, drawings and parts."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Sequence
from typing import Any, TypeVar

import numpy as np
from msgspec import Struct, field
from numpy.typing import ArrayLike

from hazel_lantern.core.catalogue import Catalogue, Plate
from hazel_lantern.core.figure import Curve, Field, Figure, Given
from hazel_lantern.core.finding import Finding, Remedy, Words
from hazel_lantern.core.mechanics.payload import Payload
from hazel_lantern.core.project import FilmSet, Kit, Rig, Shot
from hazel_lantern.core.quantity import Parameter, Value
from hazel_lantern.core.sketch import Sketch
from hazel_lantern.core.workshop.part import Buy, Part

T = TypeVar("T")
MOST_KEPT = 16  # answers a mechanism holds on to; a drag of the shot asks for a new one each time


class OtherKit(Struct, frozen=True):
    """Another camera kit of the project: its mass [kg], how far its centre lies ahead and to the left of the mount's middle [m], and the thread of its screw."""

    id: str
    name: str
    mass: float
    ahead: float
    aside: float
    thread: str


class Context(Struct, frozen=True):
    """All that a kind may read: the rig, its kit, shot and set, the weights owned, the other kits, the catalogue."""

    rig: Rig
    kit: Kit
    shot: Shot
    stage: FilmSet
    payload: Payload
    owned: tuple[tuple[str, Plate], ...]
    other_kits: tuple[OtherKit, ...]
    catalogue: Catalogue

    def number(self, key: str) -> float:
        return float(self.rig.design[key])  # type: ignore[arg-type]

    def text(self, key: str) -> str:
        return str(self.rig.design[key])

    def several(self, key: str) -> tuple[str, ...]:
        return tuple(self.rig.design[key])  # type: ignore[arg-type]

    def row(self, table: str, key: str) -> Any:
        """The catalogue row a choice names; raises InputError naming the parameter."""
        return self.catalogue.row(table, self.text(key), key)

    def given(self, symbol: str, key: str, label: str, unit: str) -> Given:
        return Given(symbol, self.number(key), unit, label, key)


class Report(Struct):
    """What a kind says of a design; filled step by step, read-only afterwards.

    `suggest` asks for remedies too: they cost more than all the rest, and a drag does not need them.
    """

    figures: dict[str, Figure] = field(default_factory=dict)
    curves: dict[str, Curve] = field(default_factory=dict)
    findings: list[Finding] = field(default_factory=list)
    suggest: bool = False

    def add(self, *figures: Figure) -> None:
        self.figures.update((figure.key, figure) for figure in figures)

    def value(self, key: str) -> float:
        return self.figures[key].value

    def given(self, symbol: str, key: str) -> Given:
        """A figure as an input of another figure's why."""
        figure = self.figures[key]
        return Given(symbol, figure.value, figure.unit, figure.label.lower(), key)


class View(Struct, frozen=True):
    """A drawing a kind offers: its key and its name on the stage."""

    key: str
    name: str


class Drift(Struct, frozen=True):
    """What the balance reading shows: the curve's key, the friction band [N*m], the shot's span and the spans that stay [rad]."""

    curve: str
    friction: float
    shot: tuple[float, float]
    stays: tuple[tuple[float, float], ...]


class Swap(Struct, frozen=True):
    """What another camera kit asks for: the kit, what to do about it, and the changes that do it (empty where none is known)."""

    kit: str
    words: Words
    changes: tuple[tuple[str, object], ...]


class School(Struct, frozen=True):
    """A choice on which good builders differ: its ways, each with its name, the changes that take it, and what it costs and gives in one line."""

    title: str
    ways: tuple[tuple[str, tuple[tuple[str, object], ...], str], ...]


class Model(Struct, frozen=True, dict=True):
    """A rig as a mechanism, made from the rig and its kit alone, whatever the shot."""

    def once(self, what: Hashable, work: Callable[[], T]) -> T:
        """Something that follows from the mechanism alone: worked out when it is first asked for, found again while a drag leaves the rig as it is."""
        kept = self.__dict__.setdefault("kept", {})
        # The last asked for stands last; the one not asked for longest goes.
        answer: T = kept.pop(what) if what in kept else work()
        kept[what] = answer
        if len(kept) > MOST_KEPT:
            del kept[next(iter(kept))]
        return answer


class Action(Struct, frozen=True):
    """A station's main action: what it is called, and the changes that carry it out."""

    station: str
    label: str
    run: Callable[[Context], tuple[tuple[str, object], ...]]


class Member(Struct, frozen=True):
    """A straight piece of a rig and half its thickness [m]; `moves` with the camera or stands still."""

    name: str
    radius: float
    moves: bool = True


Laid = tuple[Member, ArrayLike, ArrayLike]  # a piece and its ends: (k,) where it stays as it is, (poses, k) where it does not; k is 3, or 2 in a plane


class Members(Struct, frozen=True):
    """The straight pieces of a rig and where each begins and ends at n poses, (n, pieces, 2, 3) in the rig frame [m]."""

    pieces: tuple[Member, ...]
    ends: np.ndarray

    @classmethod
    def at(cls, poses: int, laid: Sequence[Laid]) -> Members:
        """From every piece as it is laid."""
        ends = np.empty((poses, len(laid), 2, np.shape(laid[0][1])[-1]))
        for k, (_, a, b) in enumerate(laid):
            ends[:, k, 0], ends[:, k, 1] = a, b
        return cls(tuple(member for member, _, _ in laid), ends)


class Declared(Struct, frozen=True, kw_only=True):
    """What a kind is called and what may be set on it: all that a file, a menu or the command line needs of it.

    usual[variant] -> values a new rig of that variant starts with in place of the defaults.
    """

    id: str
    name: str
    variants: tuple[tuple[str, str], ...]
    parameters: tuple[Parameter, ...]
    usual: dict[str, dict[str, Value]] = field(default_factory=dict)


class Kind(Declared, frozen=True, kw_only=True):
    """One rig kind: what it declares, and the functions that work it out. They are pure.

    model(context) -> the rig as a mechanism, the same for every shot (raises GeometryError when it cannot be built);
    report(context, model, report) fills figures, curves and findings, station by station;
    path(context, model, u) -> pose (n, dof) at shares u of the move;
    lens(context, model, poses) -> places (n, 3) of the lens in the rig frame (x ahead, y left, z above ground) [m] and where an unworked head points (n,) [rad];
    members(context, model, poses) -> the straight pieces that may come into the picture or hit something;
    sketch(context, model, report, pose, view) -> Sketch; parts(context, model) -> parts and things to buy, the same for every shot;
    headlines(context, report) -> one line per station;
    drift(context, model) -> the balance reading; safe(context, model) -> map of the footing over pan and lens height;
    swaps(context, model) -> what each other camera kit asks for; loading(context, model) -> the steps of loading, in order, taken off backwards;
    schools: choices on which good builders differ, and the figures that tell them apart;
    joined(context, model, part, sold) -> remedies for a part longer than any bar sold [m];
    of_set(context) -> what of the film set its report reads (a number, or several), for kinds that read any: nothing else of the set may change them;
    reaches(context, model, points (n, 3) in the rig frame) -> which of them the camera can be brought over, for kinds that serve named places.
    """

    views: tuple[View, ...]
    actions: tuple[Action, ...]
    model: Callable[[Context], Any]
    report: Callable[[Context, Any, Report], None]
    path: Callable[[Context, Any, np.ndarray], np.ndarray]
    lens: Callable[[Context, Any, np.ndarray], tuple[np.ndarray, np.ndarray]]
    members: Callable[[Context, Any, np.ndarray], Members]
    sketch: Callable[[Context, Any, Report, np.ndarray, str], Sketch]
    parts: Callable[[Context, Any], tuple[tuple[Part, ...], tuple[Buy, ...]]]
    headlines: Callable[[Context, Report], dict[str, Words]]
    drift: Callable[[Context, Any], Drift] | None = None
    safe: Callable[[Context, Any], Field] | None = None
    swaps: Callable[[Context, Any], tuple[Swap, ...]] | None = None
    loading: Callable[[Context, Any], tuple[Words, ...]] | None = None
    schools: tuple[School, ...] = ()
    told_apart_by: tuple[str, ...] = ()
    joined: Callable[[Context, Any, Part, float], tuple[Remedy, ...]] | None = None
    of_set: Callable[[Context], object] | None = None
    reaches: Callable[[Context, Any, np.ndarray], np.ndarray] | None = None
    stations: tuple[str, ...] = ("shot", "rig", "balance", "build")
