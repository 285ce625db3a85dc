"""The document: what the builder decided. Immutable; every change makes a new one.

Numbers are SI with the unit in the key. The classes are msgspec structs because one declaration then gives
validation, the published JSON Schema and the file; nothing here reads or writes files.
"""

import math
from typing import Protocol, TypeVar

import msgspec
from msgspec.structs import replace

from hazel_lantern.core.nouns.errors import InputError

FORMAT = 3
MANY = 12  # ids that an error lists
Place = tuple[float, float, float]


class Named(Protocol):
    """Whatever has an id."""

    @property
    def id(self) -> str: ...


P = TypeVar("P", bound=Named)


class Part(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Common to all parts of the document."""


class KitItem(Part, frozen=True, kw_only=True):
    """One thing in the camera kit: mass and place of its centre in the mount frame (x forward, y left, z up)."""

    name: str
    mass_kg: float
    at_m: Place = (0.0, 0.0, 0.0)
    mass_pm_kg: float = 0.0
    at_pm_m: Place = (0.0, 0.0, 0.0)


class Kit(Part, frozen=True, kw_only=True):
    """A camera kit; the mount frame starts at the centre of the mount plate's top. A head, by its row in the catalogue,
    stands between plate and camera: items and lens are then given from its own top.
    """

    id: str
    name: str
    items: tuple[KitItem, ...]
    lens_at_m: Place = (0.08, 0.0, 0.06)
    socket_depth_m: float = 0.0065
    socket_thread: str = "1/4-20"
    head: str = ""


class Stop(Part, frozen=True, kw_only=True):
    """Where a thing that moves has come to, and how it is turned, at a time of the shot's clock."""

    time_s: float
    at_m: Place
    turn_rad: float = 0.0


class Thing(Part, frozen=True, kw_only=True):
    """Something on the set that matters to the shot: foot of its middle, width, depth and height, turned about its
    upright axis. One that moves sets out from there when the clock starts, and passes its stops.
    """

    id: str
    kind: str
    name: str
    at_m: Place = (0.0, 0.0, 0.0)
    size_m: Place = (0.5, 0.5, 0.5)
    turn_rad: float = 0.0
    stops: tuple[Stop, ...] = ()


class FilmSet(Part, frozen=True, kw_only=True):
    """Where a shot is made: x right, y into the scene, z up. A ceiling of 0 is open sky."""

    id: str
    name: str
    things: tuple[Thing, ...] = ()
    ceiling_m: float = 0.0


class Key(Part, frozen=True, kw_only=True):
    """When the move reaches a share of its path, 0..1, and how long it stays there."""

    time_s: float
    share: float
    hold_s: float = 0.0


class Segment(Part, frozen=True, kw_only=True):
    """How the move goes from one key to the next: a shape, the share of its time each ramp takes, and of a ramp each
    corner.
    """

    shape: str = "eased"
    ramp: float = 0.35
    corner: float = 0.5


class AxisKey(Part, frozen=True, kw_only=True):
    """Where an axis of the head has come to at a time of the shot's clock: an angle on its mount [rad], or a distance
    to focus on [m].
    """

    time_s: float
    value: float


class Axis(Part, frozen=True, kw_only=True):
    """One axis of the camera's head in a shot: how it is worked, by whom, and its keys; the first is where one that is
    fixed stays, a focus without any at its best single setting.
    """

    id: str
    how: str = "kept"
    by: str = "hand"
    keys: tuple[AxisKey, ...] = ()


AXES = (
    Axis(id="pan"),
    Axis(id="tilt"),
    Axis(id="roll", how="fixed", keys=(AxisKey(time_s=0.0, value=0.0),)),
    Axis(id="focus"),
)


class Shot(Part, frozen=True, kw_only=True):
    """A wanted move: where the lens goes, when, what it looks at, lens and picture. Places are on the set; start, way
    points and end make the path, keys say when.
    """

    id: str
    name: str
    move: str = "rise"
    start_height_m: float = 0.6
    end_height_m: float = 2.4
    start_at_m: tuple[float, float] = (0.0, 0.0)
    end_at_m: tuple[float, float] = (0.0, 0.0)
    via_m: tuple[Place, ...] = ()
    arc_rad: float = 1.5707963267948966
    set: str = ""
    target: str = ""
    aim: str = "kept"
    axes: tuple[Axis, ...] = AXES
    crew: float = 1.0
    tall_m: float = 1.75
    pushes: str = "stance"
    beat_s: float = 0.0
    keys: tuple[Key, ...] = (Key(time_s=0.0, share=0.0), Key(time_s=8.0, share=1.0))
    segments: tuple[Segment, ...] = (Segment(),)
    focal_m: float = 0.024
    sensor_width_m: float = 0.0235
    sensor_height_m: float = 0.0132
    capture_fps: float = 25.0
    shown_fps: float = 25.0
    shutter_rad: float = 3.141592653589793
    aperture: float = 4.0
    squeeze: float = 1.0
    pixels_wide: float = 3840.0
    pixels_high: float = 2160.0
    judder: str = "usual"
    frame: str = ""
    wanted_parallax: float = 0.5
    wanted_crossing_s: float = 8.0
    wanted_cover_m: float = 1.2
    wanted_overlap: float = 0.2
    wanted_fill: float = 0.5

    @property
    def leaves_s(self) -> float:
        """When the move leaves its first key [s]."""
        return self.keys[0].time_s + self.keys[0].hold_s

    @property
    def duration_s(self) -> float:
        """From leaving the first key to reaching the last, to the nanosecond [s]."""
        return round(self.keys[-1].time_s - self.leaves_s, 9)

    @property
    def ramp(self) -> float:
        """Share of its time each ramp of the first stretch takes."""
        return self.segments[0].ramp

    @property
    def hold_start_s(self) -> float:
        """Still before the move [s]."""
        return self.keys[0].hold_s

    @property
    def hold_end_s(self) -> float:
        """Still after it [s]."""
        return self.keys[-1].hold_s


class Measured(Part, frozen=True, kw_only=True):
    """What was found on the built rig: which parameter, its value and the give or take [SI], when and by which test,
    the readings, and the pieces it
    depends on (their marks) with a fingerprint of them as they were drawn then.
    """

    key: str
    value: float
    date: str
    pm: float = 0.0
    test: str = ""
    readings: tuple[float, ...] = ()
    pieces: tuple[str, ...] = ()
    fingerprint: str = ""


class Proved(Part, frozen=True, kw_only=True):
    """One row of readings of a test of the built rig, with its day; struck out it is kept and not counted."""

    test: str
    day: str
    readings: tuple[float, ...]
    struck: bool = False


class Accepted(Part, frozen=True, kw_only=True):
    """A caution accepted before rolling: which finding of which shot, its value and limit then [SI], the day, and the
    name that was typed.
    """

    key: str
    shot: str
    value: float
    limit: float
    day: str
    name: str


class Element(Part, frozen=True, kw_only=True):
    """One element between what drives and what is moved: its sort, and sizes that are not the usual ones [SI]."""

    kind: str
    values: dict[str, float | str] = {}


class Drive(Part, frozen=True, kw_only=True):
    """What moves one axis of a rig: its source with sizes that are not the usual ones [SI], the elements in order from
    there, further times that it is wanted in [s], change gears as rows of such a time with the teeth that its first
    pair of gears then has, and gears at hand as rows of teeth and how many.
    """

    axis: str
    source: str
    values: dict[str, float | str] = {}
    elements: tuple[Element, ...] = ()
    times_s: tuple[float, ...] = ()
    changed: tuple[tuple[float, float, float], ...] = ()
    owned: tuple[tuple[float, float], ...] = ()


class Rig(Part, frozen=True, kw_only=True):
    """One rig: its kind, construction, the design values by parameter key, what was measured on it, in the order it
    was, and what drives its axes; one that is not named there is not worked on yet;
    `done` are steps of building it that are ticked, each with its day;
    `proofs` rows of readings of its tests; `accepted` cautions before rolling.
    """

    id: str
    name: str
    kind: str
    variant: str
    kit: str
    shots: tuple[str, ...]
    design: dict[str, float | str | tuple[str | tuple[float, ...], ...]]
    measured: tuple[Measured, ...] = ()
    done: dict[str, str] = {}
    proofs: tuple[Proved, ...] = ()
    accepted: tuple[Accepted, ...] = ()
    worked: tuple[str, ...] = ()
    stands_m: tuple[float, float] | None = None
    heading_rad: float = 0.0
    drives: tuple[Drive, ...] = ()


class Owned(Part, frozen=True, kw_only=True):
    """A weight at hand, by its own id and its row in the catalogue."""

    id: str
    plate: str


class Offcut(Part, frozen=True, kw_only=True):
    """A piece of stock at hand."""

    section: str
    length_m: float
    count: int = 1
    note: str = ""


class Entry(Part, frozen=True, kw_only=True):
    """A dated note of the build: which rig it is about and what was done or learnt."""

    day: str
    text: str
    rig: str = ""


class Hire(Part, frozen=True, kw_only=True):
    """What hiring such a rig costs: a day, a week, once each time; what a built one is sold for after; tax [%]."""

    day: float = 0.0
    week: float = 0.0
    fixed: float = 0.0
    resale: float = 0.0
    tax: float = 0.0


class Carry(Part, frozen=True, kw_only=True):
    """How it comes to the set: longest in the bag and in the car, clear widths of the door and of the hall behind it, 0
    where that is not asked; what one person lifts.
    """

    bag_m: float = 0.0
    car_m: float = 0.0
    door_m: float = 0.0
    hall_m: float = 0.0
    lift_kg: float = 20.0


class Project(Part, frozen=True, kw_only=True):
    """Everything in one file."""

    format: int
    name: str
    units: str = "mm"
    fraction: int = 16
    currency: str = "€"
    kerf_m: float = 0.0022
    printer_m: tuple[float, float] = (0.1, 0.1)
    hours_h: tuple[float, float, float, float, float, float, float] = (0.0, 1.5, 0.0, 1.5, 0.0, 4.0, 3.0)
    begins: str = ""
    hire: Hire = Hire()
    carry: Carry = Carry()
    log: tuple[Entry, ...] = ()
    sets: tuple[FilmSet, ...] = ()
    kits: tuple[Kit, ...] = ()
    shots: tuple[Shot, ...] = ()
    rigs: tuple[Rig, ...] = ()
    plates: tuple[Owned, ...] = ()
    stock: tuple[Offcut, ...] = ()
    notes: str = ""

    def rig(self, rig_id: str) -> Rig:
        return find(self.rigs, rig_id, "rig")

    def kit_of(self, rig: Rig) -> Kit:
        return find(self.kits, rig.kit, f"rig {rig.id}, kit")

    def set_of(self, shot: Shot) -> FilmSet:
        """The set of a shot; an empty one when it names none."""
        return find(self.sets, shot.set, f"shot {shot.id}, set") if shot.set else FilmSet(id="", name="No set")

    def shot_of(self, rig: Rig, shot_id: str = "") -> Shot:
        """The shot looked at, where the rig serves it; else the first it serves."""
        if not rig.shots:
            raise InputError(f"rig {rig.id}, shots", "[]", "a rig serves at least one shot")
        return find(self.shots, shot_id if shot_id in rig.shots else rig.shots[0], f"rig {rig.id}, shots")


def find(items: tuple[P, ...], key: str, field: str) -> P:
    """The item with that id; raises InputError naming the field."""
    for item in items:
        if item.id == key:
            return item
    known = ", ".join(item.id for item in items[:MANY]) + (", …" if len(items) > MANY else "")
    raise InputError(field, repr(key), f"names nothing in this project; known: {known or 'none'}")


def replaced(items: tuple[P, ...], new: P) -> tuple[P, ...]:
    """The items with the one of the same id exchanged."""
    return tuple(new if item.id == new.id else item for item in items)


SOON = 0.01  # seconds between two keys at the least


def timed(shot: Shot, duration: float) -> Shot:
    """The shot with its move stretched to last this long [s], the first hold as it was, those between stretched
    along.
    """
    first, start = shot.keys[0], shot.leaves_s
    stretch = duration / (shot.keys[-1].time_s - start)
    between = tuple(
        replace(key, time_s=start + (key.time_s - start) * stretch, hold_s=key.hold_s * stretch)
        for key in shot.keys[1:-1]
    )
    return replace(shot, keys=(first, *between, replace(shot.keys[-1], time_s=start + duration)))


def keyed(shot: Shot, n: int, value: float) -> Shot:
    """The shot with a key after the first reached at another moment [s]. Raises InputError for one that would come
    before the key ahead of it is left, or run into the next.
    """
    before, key = shot.keys[n - 1], shot.keys[n]
    latest = shot.keys[n + 1].time_s - key.hold_s if n + 1 < len(shot.keys) else math.inf
    _in_order(f"key.{n}.time", value, before.time_s + before.hold_s, latest, "its neighbours' times")
    return replace(shot, keys=(*shot.keys[:n], replace(key, time_s=value), *shot.keys[n + 1 :]))


def axis_of(shot: Shot, axis: str) -> Axis:
    """One axis of the head in a shot; raises InputError for one that no head has."""
    return find(shot.axes, axis, f"shot {shot.id}, axes")


def axis_keyed(axis: Axis, n: int, value: float) -> Axis:
    """The axis with one of its keys at another moment [s]. Raises InputError for one before the key ahead of it or
    beyond the next.
    """
    clock = [-SOON, *(key.time_s for key in axis.keys), math.inf]
    _in_order(f"axis.{axis.id}.{n}.time", value, clock[n], clock[n + 2], "in the order of its keys")
    return replace(axis, keys=(*axis.keys[:n], replace(axis.keys[n], time_s=value), *axis.keys[n + 1 :]))


def _in_order(field: str, value: float, before: float, after: float, words: str) -> None:
    """Raises InputError for a time [s] that is not a moment after the one before and before the one after."""
    soonest, latest = round(before + SOON, 3), round(after - SOON, 3)
    if not soonest <= value <= latest:
        upto = f" and {latest:g} s" if math.isfinite(latest) else ""
        allowed = f"must {'lie between' if upto else 'come after'} {soonest:g} s{upto}, {words}"
        raise InputError(field, value, allowed)


def come(thing: Thing, n: int, value: float) -> Thing:
    """The thing come to one of its stops at another moment [s]. Raises InputError for one before the stop ahead of it
    or beyond the next.
    """
    clock = [0.0, *(stop.time_s for stop in thing.stops), math.inf]
    _in_order(f"thing.{thing.id}.stop.{n}.time", value, clock[n], clock[n + 2], "in the order of its stops")
    return replace(thing, stops=(*thing.stops[:n], replace(thing.stops[n], time_s=value), *thing.stops[n + 1 :]))


def rested(shot: Shot, n: int, value: float) -> Shot:
    """The shot held this long at a key between the others [s]; all that follows is as much later."""
    later = value - shot.keys[n].hold_s
    after = tuple(replace(key, time_s=round(key.time_s + later, 9)) for key in shot.keys[n + 1 :])
    return replace(shot, keys=(*shot.keys[:n], replace(shot.keys[n], hold_s=value), *after))


def held(shot: Shot, hold: float) -> Shot:
    """The shot held this long at its start [s]; all that follows is as much later."""
    later = hold - shot.keys[0].hold_s
    return replace(
        shot,
        keys=(replace(shot.keys[0], hold_s=hold), *(replace(key, time_s=key.time_s + later) for key in shot.keys[1:])),
    )
