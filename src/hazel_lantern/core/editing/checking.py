"""The one checker of a document: at load, at every change, in `check`. What passes it can be shown, saved and worked
out; each error names the rig, kit, shot or thing, the value and what is allowed.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from contextlib import contextmanager
from datetime import date

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import shot as shots
from hazel_lantern.core.document.project import (
    Axis,
    FilmSet,
    Kit,
    Named,
    Project,
    Rig,
    Shot,
    Thing,
    axis_keyed,
    come,
    find,
    replaced,
)
from hazel_lantern.core.document.shot import FIXED, FOCUS, KEPT
from hazel_lantern.core.editing.bindings import (
    AT_STOP,
    AXIS_TIME,
    CARRY,
    CEILING,
    DEPTH,
    EXTENT,
    HOWS,
    MASS,
    ON_AXIS,
    ON_MOUNT,
    ON_SET,
    THREAD,
    TURN,
    WORKED,
    declared_of,
)
from hazel_lantern.core.editing.built import check_measured
from hazel_lantern.core.editing.drives import check_drives, drive_rows
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Quantity
from hazel_lantern.core.staging.things import THINGS
from hazel_lantern.core.workshop.tiling import corrected

MOST = {"rigs": 1000, "kits": 1000, "shots": 2000, "sets": 1000, "plates": 2000, "stock": 2000}
MOST_IN_ONE = 400  # things on a set, items of a kit, keys and way points of a shot
LONGEST = 80  # characters of an id
LEAST_MASS = 1e-3  # kilograms of a whole camera kit
KERF = Quantity("kerf", "Saw cut", "m", 0.0, 0.02, 0.0022, "Stock")
LENGTH = Quantity("length", "Length", "m", 1e-3, 30.0, 1.0, "Stock")
COUNT = Quantity("count", "Pieces", "count", 1, 10_000, 1, "Stock")
GIVE = Quantity("pm", "Give or take", "1", 0.0, 60.0, 0.0, "Camera kit")
HEADING = Quantity("heading", "Heading", "rad", -63.0, 63.0, 0.0, "On the set")
STANDS = Quantity("stands", "Stands at", "m", -60.0, 60.0, 0.0, "On the set")


def check(project: Project, since: Project | None = None) -> Project:
    """The document itself after all of it was checked; parameters that are missing get their defaults.

    since: a document that passed; what is the same in both is not looked at again. Raises InputError naming the place.
    """
    _check_frame(project)
    _check_days(project, since)
    for name, most in MOST.items():
        rows = getattr(project, name)
        if len(rows) > most:
            raise InputError(name, len(rows), f"a project holds at most {most}")
        if name != "stock" and (since is None or rows is not getattr(since, name)):
            _identified(name, rows)
    for name in ("kits", "shots"):
        if not getattr(project, name):
            raise InputError(name, "empty", "a project has at least one")
    for stage in _new(project.sets, since.sets if since else ()):
        with _at(f"set {stage.id}"):
            _check_set(stage)
    for kit in _new(project.kits, since.kits if since else ()):
        with _at(f"kit {kit.id}"):
            _check_kit(kit)
    known = since is not None and project.sets is since.sets
    for shot in _new(project.shots, since.shots if since and known else ()):
        with _at(f"shot {shot.id}"):
            _check_shot(project, shot)
    if since is None or project.kits is not since.kits or project.shots is not since.shots:
        _check_references(project)
    for rig in _new(project.rigs, since.rigs if since else ()):
        with _at(f"rig {rig.id}"):
            project = _check_rig(project, rig)
    return project


def check_rows(project: Project, catalogue: Catalogue) -> None:
    """Raises InputError for a choice that names no row of the catalogue."""
    for kit in project.kits:
        if kit.head:
            catalogue.row("heads", kit.head, f"kit {kit.id}, head")
    for rig in project.rigs:
        for parameter in declared_of(rig).parameters:
            if isinstance(parameter, Choice) and parameter.table:
                catalogue.row(parameter.table, str(rig.design[parameter.key]), f"rig {rig.id}, {parameter.key}")
        for table, key, field in drive_rows(rig.drives):
            catalogue.row(table, key, f"rig {rig.id}, {field}")


@contextmanager
def _at(place: str) -> Iterator[None]:
    """Errors within name the place too."""
    try:
        yield
    except InputError as error:
        raise InputError(f"{place}, {error.field}", error.value, error.allowed) from error


def _new(rows: Sequence[Named], old: Sequence[Named]):  # type: ignore[no-untyped-def]
    """The rows that are not among the old ones."""
    seen = {id(row) for row in old}
    return [row for row in rows if id(row) not in seen]


def _identified(field: str, rows: Iterable[Named]) -> None:
    """Every id may be used once, and can be written and read."""
    taken: set[str] = set()
    for row in rows:
        if not row.id or len(row.id) > LONGEST or not row.id.isprintable():
            raise InputError(f"{field}, id", repr(row.id), f"must be 1 to {LONGEST} characters that can be printed")
        if row.id in taken:
            raise InputError(f"{field}, id", repr(row.id), "is used twice: every id may be used once")
        taken.add(row.id)


def _check_name(field: str, name: str, *, needed: bool = True) -> None:
    if needed and not name.strip():
        raise InputError(field, repr(name), "a name is needed")
    if any("\ud800" <= c <= "\udfff" for c in name):
        raise InputError(field, repr(name), "holds half of a character, which no file can keep")


def _check_day(field: str, day: str) -> None:
    try:
        date.fromisoformat(day)
    except ValueError:
        raise InputError(field, repr(day), "must be a date such as 2027-04-08") from None


def _few(field: str, rows: Sequence[object]) -> None:
    if len(rows) > MOST_IN_ONE:
        raise InputError(field, len(rows), f"at most {MOST_IN_ONE}")


def _check_frame(project: Project) -> None:
    """What stands once in a project, and its stock."""
    for field in ("name", "notes", "currency"):
        _check_name(field, getattr(project, field), needed=False)
    if project.units not in ("mm", "in"):
        raise InputError("units", repr(project.units), "must be mm or in")
    if project.fraction not in (16, 32, 64):
        raise InputError("fraction", project.fraction, "must be 16, 32 or 64")
    KERF.check(project.kerf_m)
    for field in ("day", "week", "fixed", "resale", "tax"):
        Quantity(f"hire.{field}", "", "currency", 0.0, 1e6, 0.0, "").check(getattr(project.hire, field))
    for quantity in CARRY:
        quantity.check(getattr(project.carry, quantity.key.removeprefix("carry.")))
    for day, hours in enumerate(project.hours_h):
        Quantity(f"hours_h {day}", "", "h", 0.0, 15.0, 0.0, "").check(hours)
    for bar in project.printer_m:
        corrected(1.0, bar, 0.1)
    for n, offcut in enumerate(project.stock, 1):
        with _at(f"stock {n}"):
            _check_name("section", offcut.section)
            LENGTH.check(offcut.length_m)
            COUNT.check(offcut.count)
    for weight in project.plates:
        with _at(f"plates, {weight.id}"):
            _check_name("plate", weight.plate)


def _check_days(project: Project, since: Project | None) -> None:
    """Every day that was written down, of rigs that are not as they were."""
    for n, entry in enumerate(project.log, 1):
        _check_day(f"log {n}, day", entry.day)
    if project.begins:
        _check_day("begins", project.begins)
    for rig in _new(project.rigs, since.rigs if since else ()):
        for n, row in enumerate(rig.proofs, 1):
            _check_day(f"rig {rig.id}, proofs {n}, day", row.day)
        for key, day_done in rig.done.items():
            _check_day(f"rig {rig.id}, done {key}", day_done)


def _check_set(stage: FilmSet) -> None:
    _check_name("name", stage.name)
    CEILING.check(stage.ceiling_m)
    _few("things", stage.things)
    _identified("things", stage.things)
    for thing in stage.things:
        with _at(thing.id):
            _check_thing(thing)


def _check_thing(thing: Thing) -> None:
    _check_name("name", thing.name)
    if thing.kind not in dict(THINGS):
        raise InputError("kind", repr(thing.kind), "must be one of " + ", ".join(k for k, _ in THINGS))
    for quantity, value in zip((*ON_SET, *EXTENT, TURN), (*thing.at_m, *thing.size_m, thing.turn_rad), strict=True):
        quantity.check(value)
    _few("stops", thing.stops)
    for n, stop in enumerate(thing.stops):
        with _at(f"stop {n + 1}"):
            for quantity, value in zip((AT_STOP, *ON_SET, TURN), (stop.time_s, *stop.at_m, stop.turn_rad), strict=True):
                quantity.check(value)
            come(thing, n, stop.time_s)


def _check_kit(kit: Kit) -> None:
    _check_name("name", kit.name)
    _few("items", kit.items)
    for n, item in enumerate(kit.items, 1):
        with _at(f"item {n}"):
            _check_name("name", item.name)
            MASS.check(item.mass_kg)
            for give in (item.mass_pm_kg, *item.at_pm_m):
                GIVE.check(give)
            for quantity, value in zip(ON_MOUNT, item.at_m, strict=True):
                quantity.check(value)
    mass = sum(item.mass_kg for item in kit.items)
    if mass < LEAST_MASS:
        raise InputError("items", f"{mass:g} kg together", "a kit carries something: give one of them a mass")
    for quantity, value in zip(ON_MOUNT, kit.lens_at_m, strict=True):
        quantity.check(value)
    DEPTH.check(kit.socket_depth_m)
    THREAD.check(kit.socket_thread)


def _check_shot(project: Project, shot: Shot) -> None:
    _check_name("name", shot.name)
    _few("keys", shot.keys)
    _few("via", shot.via_m)
    if shot.keys and shot.keys[0].time_s != 0:
        raise InputError("keys.0.time", shot.keys[0].time_s, "must be 0: the clock starts at the first key")
    timing(shot.keys, shot.segments)
    times = {"shot.time": shot.duration_s, "shot.hold_start": shot.hold_start_s, "shot.hold_end": shot.hold_end_s}
    for parameter in shots.PARAMETERS:
        if parameter.key in shots.FIELDS:
            name, *index = shots.FIELDS[parameter.key]
            found = getattr(shot, str(name))
            parameter.check(found[index[0]] if index else found)
        elif parameter.key in times:
            parameter.check(times[parameter.key])
        else:
            for segment in shot.segments:
                parameter.check(segment.ramp)
    if [axis.id for axis in shot.axes] != list(HOWS):
        raise InputError("axes", ", ".join(axis.id for axis in shot.axes), "must be " + ", ".join(HOWS))
    for axis in shot.axes:
        with _at(f"axis {axis.id}"):
            _check_axis(axis)
    for spot in shot.via_m:
        for quantity, value in zip(ON_SET, spot, strict=True):
            quantity.check(value)
    if shot.set:
        find(project.sets, shot.set, "set")
    if shot.target:
        find(project.set_of(shot).things, shot.target, "target")


def _check_axis(axis: Axis) -> None:
    HOWS[axis.id].check(axis.how)
    WORKED.check(axis.by)
    _few("keys", axis.keys)
    if not axis.keys and axis.how != KEPT and (axis.how, axis.id) != (FIXED, FOCUS):
        raise InputError("keys", "none", "what is fixed or has keys has one at the least")
    for n, key in enumerate(axis.keys):
        AXIS_TIME.check(key.time_s)
        ON_AXIS[axis.id].check(key.value)
        axis_keyed(axis, n, key.time_s)


def _check_references(project: Project) -> None:
    """Every rig's kit and shots are there, whether or not the rig itself is new."""
    kits, shots = {kit.id for kit in project.kits}, {shot.id for shot in project.shots}
    for rig in project.rigs:
        if rig.kit not in kits or not shots.issuperset(rig.shots):
            with _at(f"rig {rig.id}"):
                _find_what_it_names(project, rig)


def _find_what_it_names(project: Project, rig: Rig) -> None:
    find(project.kits, rig.kit, "kit")
    for shot in rig.shots:
        find(project.shots, shot, "shots")


def _check_rig(project: Project, rig: Rig) -> Project:
    _check_name("name", rig.name)
    kind = declared_of(rig)
    if kind.id not in DECLARED:
        raise InputError("kind", repr(rig.kind), "must be one of " + ", ".join(DECLARED))
    if rig.variant not in dict(kind.variants):
        raise InputError("variant", repr(rig.variant), "must be one of " + ", ".join(k for k, _ in kind.variants))
    known = {p.key: p for p in kind.parameters}
    for key in rig.design:
        if key not in known:
            raise InputError(f"design.{key}", repr(rig.design[key]), f"is not a parameter of a {kind.name}")
    checked = {key: p.check(rig.design[key]) if key in rig.design else p.default for key, p in known.items()}
    check_measured(rig)
    check_drives(kind.axes, rig.drives)
    _find_what_it_names(project, rig)
    if not rig.shots or len(set(rig.shots)) < len(rig.shots):
        raise InputError("shots", list(rig.shots), "a rig serves at least one shot, each once")
    HEADING.check(rig.heading_rad)
    for value in rig.stands_m or ():
        STANDS.check(value)
    return (
        replace(project, rigs=replaced(project.rigs, replace(rig, design=checked)))
        if checked != rig.design
        else project
    )
