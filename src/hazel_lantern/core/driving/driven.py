"""One driven axis put together: its elements made, its chain, its source, what they are asked for."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Drive, Element
from hazel_lantern.core.driving.load import Load
from hazel_lantern.core.driving.made import made, misplaced
from hazel_lantern.core.driving.needs import Needs, asked, needs, reverses
from hazel_lantern.core.driving.piece import Made
from hazel_lantern.core.driving.source import Settings, Source, source_of
from hazel_lantern.core.kinds.base import DriveAxis, Held
from hazel_lantern.core.motion import drives
from hazel_lantern.core.motion.drives import Chain, Stage
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.quantity import Quantity


class Broken(Struct, frozen=True):
    """Why a drive cannot work as it is, in a sentence, the key of what to look at, and the elements, or the one size of
    an element, that would do.
    """

    words: str
    where: str
    chain: tuple[str, ...] | None = None
    size: tuple[str, float] | None = None


class Driven(Struct, frozen=True):
    """An axis with what drives it: elements made, the chain, the source, its needs at every wanted time, the shot's
    first; pixels a metre or radian over the move and how far the lens goes for it (n,); by how much the torque that is
    asked of the source changes over the move [N*m].
    """

    axis: DriveAxis
    drive: Drive
    held: Held
    load: Load
    made: tuple[Made, ...]
    chain: Chain
    source: Source
    needs: tuple[Needs, ...]
    pixels: np.ndarray
    way: np.ndarray
    ripple: float

    @property
    def key(self) -> str:
        return f"drive.{self.axis.key}"

    @property
    def settings(self) -> Settings:
        return Settings(self.drive)

    @property
    def unit(self) -> str:
        """Of what the source gives."""
        return "N" if self.pushed and not self.axis.turns else "N*m:shaft"

    @property
    def effort_unit(self) -> str:
        """Of what the axis asks for."""
        return "N*m" if self.axis.turns else "N"

    @property
    def pushed(self) -> bool:
        """Whether hands or weight move the axis itself, with no shaft."""
        return self.drive.source in d.BARE

    @property
    def worst(self) -> Needs:
        """The wanted time with the least to spare."""
        return min(self.needs, key=lambda one: float(one.spare.min()))

    @property
    def last(self) -> Made | None:
        return self.made[-1] if self.made else None

    @property
    def cruises(self) -> tuple[float, float]:
        """The slowest and the fastest that the source goes at its fastest, of all wanted times [rad/s] or [m/s]."""
        fastest = [float(one.speed.max()) for one in self.needs]
        return min(fastest), max(fastest)

    @property
    def margin(self) -> float:
        """How far inside its ends its soft limits are [m] or [rad]; they are set at the lens."""
        return self.settings.number("margin") / (self.held.lever if self.axis.turns else 1.0)

    @property
    def soft(self) -> tuple[float, float] | None:
        """From where to where it may go [m] or [rad]; what goes all the way round has no end."""
        low, high = self.held.span
        if self.axis.turns and high - low >= 2 * math.pi - 1e-9:
            return None
        return low + self.margin, high - self.margin

    @property
    def play(self) -> float:
        """Free play of the axis [m] or [rad]."""
        return drives.lost_motion(self.chain)


def chain_of(source_play: float, elements: tuple[Made, ...]) -> Chain:
    """The chain of elements, the source's own play ahead of it."""
    last = elements[-1] if elements else None
    stages = (Stage(1.0, play=source_play), *(one.stage for one in elements)) if elements else ()
    return drives.chain(stages, last.travel if last else 0.0, last.play if last else 0.0)


def put_together(
    axis: DriveAxis,
    drive: Drive,
    held: Held,
    load: Load,
    shelf: Catalogue,
    shot: float,
    seen: tuple[np.ndarray, np.ndarray],
) -> Driven | Broken:
    """A drive at work on its axis.

    axis: that it moves
    drive: as it was decided
    held: what the axis meets
    load: what it asks for over the shot
    shelf: the catalogue its motor is in
    shot: time of the shot's move [s]
    seen: pixels a metre or radian, and the way of the lens for it, over the move (n,)

    Returns: it, or why it cannot work. Raises: InputError for a motor that is not there. Source: drive 1.
    """
    broken = refused(axis, drive)
    if broken is not None:
        return broken
    pulls = Settings(drive).number("preload") * float(seen[1].max())
    if pulls and drive.source not in d.BARE:
        held = replace(held, sprung=math.copysign(pulls, reverses(load, held)[1]))
    span, elements = held.span[1] - held.span[0], () if drive.source in d.BARE else drive.elements
    found: list[Made] = []
    for n, element in enumerate(elements, 1):
        try:
            found.append(made(element, span))
        except InfeasibleError as error:
            return _unmade(error, element, f"drive.{axis.key}.{n}", span)
    try:
        bare = source_of(drive, shelf, axis.turns, 0.0)
        chain = chain_of(bare.play, tuple(found))
        moving = np.abs(load.speed) > 0.05 * np.abs(load.speed).max() if load.moves else np.ones(len(load.u), bool)
        torque = asked(load, held, chain, bare.inertia)[0]
        ripple = float(np.ptp(torque[moving]))
        source = source_of(drive, shelf, axis.turns, ripple)
    except InputError as error:
        return Broken(f"{str(error)[:1].upper()}{str(error)[1:]}.", error.field)
    times = (shot, *drive.times_s)
    try:
        swapped = tuple(_changed(drive, row, held, load, source, shot, span) for row in drive.changed)
    except InfeasibleError as error:
        return Broken(f"Change gears: {error}.", f"drive.{axis.key}.changed")
    return Driven(
        axis,
        drive,
        held,
        load,
        tuple(found),
        chain,
        source,
        tuple(needs(load, held, chain, source, shot, time) for time in times) + swapped,
        *seen,
        ripple,
    )


def _changed(
    drive: Drive, row: tuple[float, float, float], held: Held, load: Load, source: Source, shot: float, span: float
) -> Needs:
    """What is asked in a time for which the first pair of gears is changed."""
    time, driver, driven = row
    elements, n = list(drive.elements), first_pair(drive)
    if n is not None:
        values = {**elements[n].values, "driver": driver, "driven": driven}
        elements[n] = Element(kind=elements[n].kind, values=values)
    chain = chain_of(source.play, tuple(made(element, span) for element in elements))
    return needs(load, held, chain, source, shot, time)


def first_pair(drive: Drive) -> int | None:
    """Which element the change gears take the place of; None where there is none."""
    return next((n for n, element in enumerate(drive.elements) if element.kind == d.SPUR), None)


def _unmade(error: InfeasibleError, element: Element, key: str, span: float) -> Broken:
    """An element that cannot be made at all: more teeth of a gear may do, less friction of a thread."""
    text, values = str(error), {**d.SORTS[element.kind].usual(), **element.values}
    sizes = ("driver", "driven") if "driver" in values else ("grip",)
    for size in sizes:
        now = float(values[size])
        tries = range(round(now) + 1, 61) if size != "grip" else (0.2, 0.1, 0.05)
        for value in tries:
            try:
                made(Element(kind=element.kind, values={**element.values, size: float(value)}), span)
            except InfeasibleError:
                continue
            return Broken(f"{text[:1].upper()}{text[1:]}.", f"{key}.{size}", size=(f"{key}.{size}", float(value)))
    return Broken(f"{text[:1].upper()}{text[1:]}.", f"{key}.{sizes[0]}")


def refused(axis: DriveAxis, drive: Drive) -> Broken | None:
    """A source that is not designed for, or elements out of order, with the nearest that would do."""
    key = f"drive.{axis.key}"
    if drive.source == d.MAINS:
        words = (
            "Drills, saws, grinders and winches are not designed for as drives: far more torque than fingers "
            "survive, no slow range, and mains at your hands. A gearmotor on a battery does it."
        )
        return Broken(words, f"{key}.by")
    if drive.source in d.BARE:
        return None
    kinds = tuple(element.kind for element in drive.elements)
    if drive.source == d.REEL and (not kinds or kinds[-1] != d.DRUM):
        kept = tuple(kind for kind in kinds if d.SORTS[kind].gives == d.TURN and kind != d.SECTOR)
        return Broken(
            "A reel pulls a cord that is wound on a drum: the drum comes last.", f"{key}.chain", (*kept, d.DRUM)
        )
    wrong = misplaced(drive.elements, axis.turns)
    if wrong is None:
        return None
    n, words = wrong
    name = d.SORTS[kinds[n]].name if n < len(kinds) else "Drive"
    turning = [kind for kind in kinds if d.SORTS[kind].gives == d.TURN and kind != d.SECTOR]
    ends = [kind for kind in kinds if (d.SORTS[kind].gives == d.WAY if not axis.turns else kind == d.SECTOR)]
    usual = () if axis.turns else (d.BELTWAY,)
    better = (*turning, *(tuple(ends[:1]) or usual))
    return Broken(f"{name}: {words}.", f"{key}.chain", better or ((d.SPUR,) if axis.turns else (d.BELTWAY,)))


def geared(given: Driven, factor: float) -> tuple[str, float, str] | None:
    """The size of one element that gears the drive down by a factor, what it would be, and its unit; None where none of
    them can within its bounds.
    """
    if not (math.isfinite(factor) and factor > 0):
        return None
    for n in reversed(range(len(given.drive.elements))):
        element = given.drive.elements[n]
        key, power = d.SORTS[element.kind].gears
        size = next(one for one in d.SORTS[element.kind].sizes if one.key == key)
        assert isinstance(size, Quantity)
        value = float(element.values.get(key, size.default)) * factor**power
        step = 1.0 if size.unit == "count" else 10 ** math.floor(math.log10(value) - 1) / 2
        # Rounded to the side that gears it further.
        steps = math.ceil(value / step - 1e-9) if (power > 0) == (factor > 1) else math.floor(value / step + 1e-9)
        if size.low <= steps * step <= size.high:
            return f"{given.key}.{n + 1}.{key}", float(f"{steps * step:.6g}"), size.unit
    return None
