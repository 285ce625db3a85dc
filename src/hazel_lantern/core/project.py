"""The document: what the builder decided. Immutable; every change makes a new one.

Numbers are SI with the unit in the key. The classes are msgspec structs because one declaration then gives
validation, the published JSON Schema and the file; nothing here reads or writes files.
"""

from typing import Protocol, TypeVar

import msgspec

from hazel_lantern.core.errors import InputError

FORMAT = 1
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
    """A camera kit; the mount frame starts at the centre of the mount plate's top."""

    id: str
    name: str
    items: tuple[KitItem, ...]
    lens_at_m: Place = (0.08, 0.0, 0.06)
    socket_depth_m: float = 0.0065
    socket_thread: str = "1/4-20"


class Thing(Part, frozen=True, kw_only=True):
    """Something on the set that matters to the shot: foot of its middle, width, depth and height, turned about its upright axis."""

    id: str
    kind: str
    name: str
    at_m: Place = (0.0, 0.0, 0.0)
    size_m: Place = (0.5, 0.5, 0.5)
    turn_rad: float = 0.0


class FilmSet(Part, frozen=True, kw_only=True):
    """Where a shot is made: x right, y into the scene, z up. A ceiling of 0 is open sky."""

    id: str
    name: str
    things: tuple[Thing, ...] = ()
    floor: str = "grass"
    ceiling_m: float = 0.0


class Shot(Part, frozen=True, kw_only=True):
    """A wanted move: where the lens goes, what it looks at, time, lens and picture. Places are on the set."""

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
    hold_start_s: float = 0.0
    hold_end_s: float = 0.0
    duration_s: float = 8.0
    ramp: float = 0.35
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


class Rig(Part, frozen=True, kw_only=True):
    """One rig: its kind, construction and the design values by parameter key."""

    id: str
    name: str
    kind: str
    variant: str
    kit: str
    shots: tuple[str, ...]
    design: dict[str, float | str | tuple[str, ...]]
    worked: tuple[str, ...] = ()
    stands_m: tuple[float, float] | None = None
    heading_rad: float = 0.0


class Owned(Part, frozen=True, kw_only=True):
    """A weight at hand, by its own id and its row in the catalogue."""

    id: str
    plate: str


class Offcut(Part, frozen=True, kw_only=True):
    """A piece of stock at hand."""

    section: str
    length_m: float
    count: int = 1


class Project(Part, frozen=True, kw_only=True):
    """Everything in one file."""

    format: int
    name: str
    units: str = "mm"
    fraction: int = 16
    currency: str = "€"
    kerf_m: float = 0.0022
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
    raise InputError(field, repr(key), "names nothing in this project; known: " + (", ".join(item.id for item in items) or "none"))


def replaced(items: tuple[P, ...], new: P) -> tuple[P, ...]:
    """The items with the one of the same id exchanged."""
    return tuple(new if item.id == new.id else item for item in items)
