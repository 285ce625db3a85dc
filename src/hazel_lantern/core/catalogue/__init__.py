"""The catalogue: materials, sections, bolts, bearings, ropes, stands, turntables, wheels and plates as data rows with
their sources.
"""

import math
import pkgutil
from collections.abc import Callable
from typing import Any, Literal, TypeVar
from zlib import crc32

import msgspec

from hazel_lantern.core.mechanics import sections
from hazel_lantern.core.mechanics.sections import Section
from hazel_lantern.core.nouns.errors import InputError

FORMAT = 1


SOLID, TUBES = ("solid_round", "flat_bar"), ("rectangular_tube", "round_tube", "oval_tube")


class Row(msgspec.Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What every row has; `pack` names the builder's pack it came from, empty for ours."""

    id: str
    name: str
    pack: str = ""


class Material(Row, frozen=True, kw_only=True):
    """Stiffness and strength [Pa], density [kg/m^3], long-load factor and creep multiplier [-]."""

    fill: Literal["steel", "wood", "plastic", "aluminium"]
    E: float
    E_low: float
    E_high: float
    G: float
    density: float
    strength: float
    long_load: float
    creep: float
    family: Literal["ductile", "wood", "brittle"]
    fails: str

    @property
    def short(self) -> str:
        """Its name without what is said about it."""
        return self.name.split(",")[0]

    def allowed(self, factor: float) -> float:
        """Allowed stress under a standing load [Pa]."""
        return self.long_load * self.strength / factor


class StockSection(Row, frozen=True, kw_only=True):
    """A stock section: its shape, sizes [m], material, lengths sold [m] and example prices."""

    shape: str
    dims: dict[str, float]
    material: str
    lengths: list[float]
    prices: list[float]
    system: Literal["mm", "in"] = "mm"

    @property
    def depth(self) -> float:
        return self.dims.get("h", self.dims.get("d", 0.0))

    @property
    def width(self) -> float:
        return self.dims.get("b", self.dims.get("d", 0.0))

    @property
    def wall(self) -> float:
        """Thickness of one wall a cross bolt passes, the whole width of a solid bar [m]."""
        return self.dims.get("t", self.dims.get("t_web", self.width))

    @property
    def walls(self) -> float:
        """All the material a cross bolt passes [m]."""
        return 2 * self.wall if self.shape in TUBES else self.wall

    @property
    def caution(self) -> str:
        """What it is bad at, "" for nothing."""
        return sections.caution(self.shape, self.dims)

    def line(self, material: Material) -> float:
        """Mass of a metre of it [kg/m]."""
        return self.section().area * material.density

    def left_at(self, hole: float) -> float:
        """Section modulus left where a hole goes through upright [m^3]; zero or less where nothing is left."""
        wall = self.depth / 2 if self.shape in SOLID else self.wall if self.shape in TUBES else None
        return float(sections.bored(self.section(), hole, self.width, self.depth, wall))

    def left_across(self, hole: float) -> float:
        """Section modulus left where a hole goes through sideways, half-way up [m^3]; zero where nothing is left."""
        section = self.section()
        return 0.0 if hole >= self.depth else max(0.0, float(sections.drilled(section, hole, self.walls)))

    @property
    def twist_modulus(self) -> float:
        """Torsion over the shear it makes [m^3]: twice the area inside the middle of a closed wall times the wall; else
        the torsion constant over the thickest part.
        """
        dims, section = self.dims, self.section()
        if self.shape == "rectangular_tube":
            return 2 * (self.width - dims["t"]) * (self.depth - dims["t"]) * dims["t"]
        if self.shape == "round_tube":
            return math.pi / 2 * (self.depth - dims["t"]) ** 2 * dims["t"]
        if self.shape == "oval_tube":
            return math.pi / 2 * (self.width - dims["t"]) * (self.depth - dims["t"]) * dims["t"]
        thick = max((dims[name] for name in ("t", "t_web", "t_flange") if name in dims), default=0.0)
        return float(section.j) / (thick or min(self.width, self.depth))

    def section(self) -> Section:
        """Its computed section; raises InputError for sizes that make none."""
        shapes: dict[str, Callable[..., Section]] = {
            "solid_round": sections.solid_round,
            "round_tube": sections.round_tube,
            "flat_bar": sections.flat_bar,
            "rectangular_tube": sections.rectangular_tube,
            "oval_tube": sections.oval_tube,
            "angle": sections.angle,
            "channel": sections.channel,
            "profile": sections.profile,
        }
        if self.shape not in shapes:
            raise InputError(f"section {self.id}, shape", self.shape, "must be one of " + ", ".join(shapes))
        return shapes[self.shape](**self.dims)


class Bolt(Row, frozen=True, kw_only=True):
    """A thread with its nut and washer [m], stress area [m^2] and an example price."""

    d: float
    pitch: float
    clear_close: float
    clear_normal: float
    stress_area: float
    across_flats: float
    nut: float
    lock_nut: float
    washer_od: float
    washer_t: float
    price: float
    system: Literal["mm", "in"] = "mm"


class Grade(Row, frozen=True, kw_only=True):
    """Strength class of a bolt: yield [Pa], and the threads it is sold in."""

    yield_: float
    system: Literal["mm", "in", "any"] = "mm"


class Bearing(Row, frozen=True, kw_only=True):
    """What a pivot turns on: friction, thickness of one face [mm], example price."""

    mu: float
    face: float
    price: float
    words: str = ""


class Stand(Row, frozen=True, kw_only=True):
    """A support: legs, foot radius [m], mass [kg], height of its centre of mass as a share, load limit [kg], heights
    [m].
    """

    shape: Literal["stand", "tripod", "post"]
    legs: int
    radius_min: float
    radius_max: float
    mass: float
    cg_height: float
    load_limit: float
    height_min: float
    height_max: float
    price: float
    words: str = ""


class Wheel(Row, frozen=True, kw_only=True):
    """A wheel: grooved or round, diameter and width [m], mass [kg], rolling coefficient from and to, starting over
    running friction [-], the load it is good for [kg] and how stiff its tread is [N/m], 0 where nobody said; its bore
    [m]; how far its contact trails behind its swivel [m], for casters, which come with fork and axle.
    """

    shape: Literal["round", "grooved", "caster"]
    d: float
    rolling: float
    rolling_high: float
    start: float
    price: float
    width: float = 0.01
    mass: float = 0.0
    carries: float = 0.0
    gives: float = 0.0
    bore: float = 0.008
    trail: float = 0.0
    words: str = ""


class Plate(Row, frozen=True, kw_only=True):
    """A weight: mass [kg], radius and thickness [m]."""

    mass: float
    radius: float
    thickness: float
    price: float = 0.0


class Rope(Row, frozen=True, kw_only=True):
    """A wire or fibre rope: diameter [m], stiffness EA and breaking load [N], mass a metre [kg/m], smallest wheel in
    diameters [-], price a metre.
    """

    d: float
    ea: float
    breaking: float
    density: float
    bend: float
    price: float
    words: str = ""


class TightRope(Row, frozen=True, kw_only=True):
    """A rope to stretch and run on, to haul or to guy with: its sort, diameter [m], mass a metre [kg/m], stiffness EA
    and breaking load [N], price a metre.
    """

    sort: Literal["wire7x7", "wire7x19", "hmpe", "aramid", "polyester", "nylon"]
    d: float
    mass: float
    ea: float
    breaking: float
    price: float
    words: str = ""


class Turntable(Row, frozen=True, kw_only=True):
    """What a rig pans on: friction and greatest tilting moment [N*m], stiffness against tilt [N*m/rad], mass [kg],
    height [m], and what it may be pulled apart with [N], 0 where it only presses; what fixes it to a plate, and how
    wide that is [m].
    """

    friction: float
    moment: float
    stiffness: float
    mass: float
    height: float
    price: float
    pull: float = 0.0
    fixing: Literal["screws", "head", "bolt"] = "screws"
    size: float = 0.1
    words: str = ""


class Head(Row, frozen=True, kw_only=True):
    """A camera head between mount and camera: which axes turn while it rolls, mass and the load it is good for [kg],
    height [m], how far each turns from straight ahead and level and how far its foot may lean [rad]; whether motors
    work it, whether it may hang, the share of turning it takes out of the picture [-], hours of its battery.
    """

    axes: list[Literal["pan", "tilt", "roll"]]
    mass: float
    height: float
    carries: float
    pan: float
    tilt_down: float
    tilt_up: float
    roll: float
    leans: float
    price: float
    powered: bool = False
    inverts: bool = False
    steadies: float = 0.0
    hours: float = 0.0
    words: str = ""


class Motor(Row, frozen=True, kw_only=True):
    """A motor with whatever gear is built into it: its supply [V], mass [kg], diameter or side, length and shaft [m],
    how loud at a metre [dB], inertia of its shaft [kg*m^2] and its free play [rad].

    A gearmotor has a speed without a load [rad/s] and a torque that stalls it [N*m], with the currents there [A], and
    whether an encoder keeps its speed; a stepper a holding torque [N*m] at its current [A], resistance [ohm] and
    inductance [H] of a phase, and steps a turn; a slow motor the one speed [rad/s] and the most torque [N*m] it has.
    What comes back through it when nothing drives it is `back` of the ideal, 0 where it locks; what it holds then
    [N*m].
    """

    volts: float
    mass: float
    size: float
    length: float
    shaft: float
    sounds: float
    price: float
    no_load: float = 1.0
    stall: float = 1.0
    free_current: float = 0.1
    stall_current: float = 1.0
    encoder: bool = False
    resistance: float = 1.0
    inductance: float = 0.0
    steps: float = 200.0
    inertia: float = 0.0
    play: float = 0.0
    back: float = 1.0
    holds: float = 0.0
    words: str = ""


TABLES: dict[str, type[Row]] = {
    "materials": Material, "sections": StockSection, "bolts": Bolt, "grades": Grade, "bearings": Bearing,
    "stands": Stand, "plates": Plate, "wheels": Wheel,
    "ropes": Rope, "lines": TightRope, "turntables": Turntable, "heads": Head, "gearmotors": Motor,
    "steppers": Motor, "slow_motors": Motor,
}  # fmt: skip
R = TypeVar("R", bound=Row)


class Catalogue(msgspec.Struct, frozen=True):
    """All tables by id; the builder's packs already laid over ours. The version is a check sum of all that was read."""

    version: str
    materials: dict[str, Material]
    sections: dict[str, StockSection]
    bolts: dict[str, Bolt]
    grades: dict[str, Grade]
    bearings: dict[str, Bearing]
    stands: dict[str, Stand]
    plates: dict[str, Plate]
    wheels: dict[str, Wheel]
    ropes: dict[str, Rope]
    lines: dict[str, TightRope]
    turntables: dict[str, Turntable]
    heads: dict[str, Head]
    gearmotors: dict[str, Motor]
    steppers: dict[str, Motor]
    slow_motors: dict[str, Motor]
    sources: dict[str, str]

    def row(self, table: str, key: str, field: str) -> Any:
        """A row by id; raises InputError naming the field that asked for it."""
        rows: dict[str, Row] = getattr(self, table)
        if key not in rows:
            raise InputError(
                field, repr(key), f"is not in the catalogue of {table}; known: {', '.join(list(rows)[:6])} …"
            )
        return rows[key]


def read_table(table: str, data: bytes, pack: str = "") -> tuple[dict[str, Any], str]:
    """Rows of one table by id, and their source note, from a JSON pack.

    Raises InputError that says which row is wrong and how.
    """
    kind = TABLES.get(table)
    if kind is None:
        raise InputError("table", repr(table), "must be one of " + ", ".join(TABLES))
    try:
        head = msgspec.json.decode(data, type=dict[str, Any])
        rows: list[Row] = msgspec.convert(head.get("rows"), list[kind])  # type: ignore[valid-type]
    except (msgspec.DecodeError, msgspec.ValidationError, RecursionError, OverflowError) as error:
        raise InputError(f"catalogue table {table}", pack or "packaged", str(error)) from error
    if head.get("format") != FORMAT:
        raise InputError(f"catalogue table {table}", head.get("format"), f"only format {FORMAT} is understood")
    found: dict[str, Any] = {}
    for row in rows:
        _physical(table, row)
        found[row.id] = msgspec.structs.replace(row, pack=pack) if pack else row
    return found, str(head.get("source", ""))


# What may be nothing: nobody pays for it, it weighs or adds next to nothing.
MAY_BE_ZERO = {
    "dims",
    "creep",
    "price",
    "pull",
    "prices",
    "height",
    "mass",
    "carries",
    "gives",
    "trail",
    "mu",
    "friction",
    "face",
    "rolling",
    "rolling_high",
    "pan",
    "tilt_down",
    "tilt_up",
    "roll",
    "leans",
    "steadies",
    "hours",
    "inductance",
    "inertia",
    "play",
    "back",
    "holds",
    "sounds",
}
LARGEST = {"m": 100.0, "any": 1e13}  # metres of a size, anything else


def _physical(table: str, row: Row) -> None:
    """Refuse rows that no workshop could have: sizes of nothing or without end, unmatched prices, impossible sections,
    ids that cannot be written.
    """
    if not (row.id.isprintable() and 0 < len(row.id) <= 80 and row.name.strip()):
        raise InputError(
            f"{table}, row", repr(row.id), "needs an id of 1 to 80 characters that can be printed, and a name"
        )
    where = f"{table}, row {row.id}"
    for name in row.__struct_fields__:
        value = getattr(row, name)
        numbers = value.values() if isinstance(value, dict) else value if isinstance(value, list) else (value,)
        most = LARGEST["m" if name in ("dims", "lengths", "d") else "any"]
        for number in numbers:
            if isinstance(number, bool) or not isinstance(number, (int, float)):
                continue
            if not (0 <= number < most) or (number == 0 and name not in MAY_BE_ZERO):
                raise InputError(f"{where}, {name}", number, f"must be above zero and below {most:g}")
    if isinstance(row, StockSection):
        if len(row.lengths) != len(row.prices) or not row.lengths:
            raise InputError(f"{where}, prices", row.prices, "needs one price for each length")
        try:
            row.section()
        except TypeError as error:
            raise InputError(
                f"{where}, dims", ", ".join(row.dims), f"are not the sizes of a {row.shape}: {error}"
            ) from error


def load(packs: tuple[tuple[str, str, bytes], ...] = ()) -> Catalogue:
    """Our catalogue with the builder's packs (pack name, table, JSON) laid over it by id."""
    tables: dict[str, dict[str, Any]] = {}
    sources: dict[str, str] = {}
    read: list[int] = []
    for table in TABLES:
        data = pkgutil.get_data(__name__, f"data/{table}.json") or b""
        read.append(crc32(data))
        tables[table], sources[table] = read_table(table, data)
    for name, table, data in packs:
        read.append(crc32(data, crc32(f"{name}/{table}/".encode())))
        rows, source = read_table(table, data, name)
        tables[table].update(rows)
        sources[f"{table} ({name})"] = source
    for bar in tables["sections"].values():
        if bar.material not in tables["materials"]:
            raise InputError(f"sections, row {bar.id}, material", bar.material, "is not in the catalogue of materials")
    return Catalogue("".join(f"{part:08x}" for part in read), sources=sources, **tables)
