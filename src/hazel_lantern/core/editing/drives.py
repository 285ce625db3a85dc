"""What drives the axes of a rig: its parameters with their places, elements put in and taken out, and the checks."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import partial
from operator import attrgetter
from typing import Any

from msgspec.structs import replace

from hazel_lantern.core.document.drives import (
    ALL,
    CHANGED,
    LAPSE,
    MOST_TIMES,
    MOUNTING,
    NOTHING,
    OWNED,
    SEARCH,
    SIZES,
    SORTS,
    TIME,
    begins,
    fits,
)
from hazel_lantern.core.document.project import Drive, Element, Project, Rig, replaced
from hazel_lantern.core.editing.place import Place, Rows
from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Readings, Several

MOST = 8  # elements of one drive


def of_drives(axes: tuple[DriveAxis, ...], rig: Rig, drives: Place[tuple[Drive, ...]]) -> Rows:
    """Everything that may be set of the drives of a rig: of an axis that nothing drives only what shall."""
    for axis in axes:
        place, key = _drive_at(axis, drives), f"drive.{axis.key}"
        now = next((drive for drive in rig.drives if drive.axis == axis.key), None)
        words = "what moves it; hands push it themselves, all else turns a shaft"
        by = Choice(f"{key}.by", "Moved by", fits(axis.turns), NOTHING, axis.name, words, "drive", pictures="sources")
        yield by, _seen(place, attrgetter("source"), partial(_moved_by, axis=axis))
        if now is None:
            continue
        for size in SIZES:
            yield _named(size, key, axis.name), _valued(place, size)
        sorts = Several(
            f"{key}.chain",
            "Through",
            (),
            f"{axis.name}, through",
            "in order from what drives it",
            "drive",
            known=tuple(SORTS),
        )
        yield sorts, _seen(place, lambda drive: tuple(e.kind for e in drive.elements), _through)
        for n, element in enumerate(now.elements):
            sort = SORTS[element.kind]
            at = place.field("elements").item(n)
            for size in sort.sizes:
                yield _named(size, f"{key}.{n + 1}", f"{axis.name}, {n + 1} {sort.name.lower()}"), _valued(at, size)
        mounting = f"{axis.name}, mounting"
        for size in MOUNTING:
            yield _named(size, key, mounting), _valued(place, size)
        beside = "beside the time of the shot, the shorter first"
        times = Readings(f"{key}.times", "Also wanted in", (TIME,), mounting, beside, "drive", another="Add a time")
        yield times, _seen(place, lambda drive: tuple((t,) for t in drive.times_s), _timed)
        wanted = "a time, and the teeth that the first pair then has: the same shafts ask for the same sum of teeth"
        changed = Readings(f"{key}.changed", "Change gears", CHANGED, mounting, wanted, "drive", another="Add a pair")
        yield changed, place.field("changed")
        for size in LAPSE:
            yield _named(size, key, f"{axis.name}, time-lapse"), _valued(place, size)
        looked = f"{axis.name}, gears to find"
        for size in SEARCH:
            yield _named(size, key, looked), _valued(place, size)
        hand = "where there are some, only these are looked through"
        owned = Readings(f"{key}.owned", "Gears at hand", OWNED, looked, hand, "drive", another="Add a gear")
        yield owned, place.field("owned")


def _seen(place: Place[Drive], get: Callable[[Drive], Any], change: Callable[[Drive, Any], Drive]) -> Place[Any]:
    """What of a drive is looked at, and the drive with it changed."""
    return Place(lambda p: get(place.get(p)), lambda p, value: place.put(p, change(place.get(p), value)))


def _timed(drive: Drive, rows: tuple[tuple[float, ...], ...]) -> Drive:
    return replace(drive, times_s=tuple(time for (time,) in rows))


def _named(size: Parameter, key: str, group: str) -> Parameter:
    """A size of one drive or element in particular."""
    when = getattr(size, "when", None)
    asked = {"when": (f"{key}.{when[0]}", when[1])} if when else {}
    return replace(size, key=f"{key}.{size.key}", group=group, **asked)


def _drive_at(axis: DriveAxis, drives: Place[tuple[Drive, ...]]) -> Place[Drive]:
    """The drive of an axis; one that moves nothing where it has none, and which then goes."""

    def get(project: Project) -> Drive:
        return next((d for d in drives.get(project) if d.axis == axis.key), Drive(axis=axis.key, source=NOTHING))

    def put(project: Project, new: Drive) -> Project:
        others = tuple(d for d in drives.get(project) if d.axis != axis.key)
        return drives.put(project, others if new.source == NOTHING else (*others, new))

    return Place(get, put)


def _valued(place: Place[Any], size: Parameter) -> Place[Any]:
    """A size of a drive or an element, the usual one where nothing else was said."""

    def get(project: Project) -> Any:
        return place.get(project).values.get(size.key, size.default)

    def put(project: Project, value: Any) -> Project:
        now = place.get(project)
        return place.put(project, replace(now, values={**now.values, size.key: value}))

    return Place(get, put)


def _moved_by(drive: Drive, source: str, axis: DriveAxis) -> Drive:
    """The drive with another source; one that has no elements yet begins with those such a source usually has."""
    elements = drive.elements or tuple(Element(kind=kind) for kind in begins(source, axis.turns))
    return replace(drive, source=source, elements=elements)


def _through(drive: Drive, kinds: tuple[str, ...]) -> Drive:
    """The drive through elements of these sorts in order; what was there already keeps its sizes."""
    if len(kinds) > MOST:
        raise InputError(f"drive.{drive.axis}.chain", len(kinds), f"at most {MOST} elements")
    left, found = list(drive.elements), []
    for kind in kinds:
        element = next((e for e in left if e.kind == kind), None)
        if element is not None:
            left.remove(element)
        found.append(element or Element(kind=kind))
    return replace(drive, elements=tuple(found))


def drive_of(project: Project, rig_id: str, axis: str) -> Drive:
    """What drives an axis of a rig; raises InputError where nothing does."""
    for drive in project.rig(rig_id).drives:
        if drive.axis == axis:
            return drive
    raise InputError(f"drive.{axis}", "nothing", "drives this axis yet")


def put_element(project: Project, rig_id: str, axis: str, kind: str, at: int) -> Project:
    """The document with one more element of a drive, before the one that stands there now. Raises InputError for a
    sort there is not, and for one too many.
    """
    if kind not in SORTS:
        raise InputError(f"drive.{axis}.chain", repr(kind), "must be one of " + ", ".join(SORTS))
    elements = drive_of(project, rig_id, axis).elements
    if len(elements) >= MOST:
        raise InputError(f"drive.{axis}.chain", len(elements) + 1, f"at most {MOST} elements")
    return _with(project, rig_id, axis, (*elements[:at], Element(kind=kind), *elements[at:]))


def take_element(project: Project, rig_id: str, axis: str, at: int) -> Project:
    """The document without one element of a drive."""
    elements = drive_of(project, rig_id, axis).elements
    return _with(project, rig_id, axis, (*elements[:at], *elements[at + 1 :]))


def move_element(project: Project, rig_id: str, axis: str, at: int, to: int) -> Project:
    """The document with an element of a drive moved to another place in its order, counted once it is taken out."""
    elements = list(drive_of(project, rig_id, axis).elements)
    element = elements.pop(at)
    elements.insert(to, element)
    return _with(project, rig_id, axis, tuple(elements))


def _with(project: Project, rig_id: str, axis: str, elements: tuple[Element, ...]) -> Project:
    rig, drive = project.rig(rig_id), drive_of(project, rig_id, axis)
    drives = tuple(replace(d, elements=elements) if d is drive else d for d in rig.drives)
    return replace(project, rigs=replaced(project.rigs, replace(rig, drives=drives)))


def check_drives(axes: tuple[DriveAxis, ...], drives: tuple[Drive, ...]) -> None:
    """Raises InputError for a drive of no axis, a source or element that there is not, or a size outside its bounds."""
    known, seen = {axis.key: axis for axis in axes}, set()
    for drive in drives:
        field = f"drive.{drive.axis}"
        if drive.axis not in known:
            raise InputError(
                "drives", repr(drive.axis), "must be one of " + (", ".join(known) or "none: it has no axis")
            )
        if drive.axis in seen:
            raise InputError("drives", repr(drive.axis), "is driven twice: one drive an axis")
        seen.add(drive.axis)
        sources = [key for key, _ in fits(known[drive.axis].turns) if key]
        if drive.source not in sources:
            raise InputError(f"{field}.by", repr(drive.source), "must be one of " + ", ".join(sources))
        if len(drive.elements) > MOST:
            raise InputError(f"{field}.chain", len(drive.elements), f"at most {MOST} elements")
        _check_values(field, drive.values, ALL)
        for n, element in enumerate(drive.elements, 1):
            if element.kind not in SORTS:
                raise InputError(f"{field}.{n}", repr(element.kind), "must be one of " + ", ".join(SORTS))
            _check_values(f"{field}.{n}", element.values, {size.key: size for size in SORTS[element.kind].sizes})
        if len(drive.times_s) > MOST_TIMES or list(drive.times_s) != sorted(set(drive.times_s)):
            raise InputError(
                f"{field}.times", list(drive.times_s), f"at most {MOST_TIMES}, each longer than the one before"
            )
        for time in drive.times_s:
            TIME.check(time)
        for name, columns, rows in (("changed", CHANGED, drive.changed), ("owned", OWNED, drive.owned)):
            Readings(f"{field}.{name}", name, columns, "").check(rows)


def _check_values(field: str, values: dict[str, float | str], known: dict[str, Any]) -> None:
    for key, value in values.items():
        if key not in known:
            raise InputError(f"{field}.{key}", repr(value), "is not a size it has; known: " + ", ".join(known))
        replace(known[key], key=f"{field}.{key}").check(value)


def drive_rows(drives: tuple[Drive, ...]) -> Iterator[tuple[str, str, str]]:
    """Table, id and field of every row of the catalogue that drives name, or would as they are usual."""
    for drive in drives:
        for size in SIZES:
            if isinstance(size, Choice) and size.table and drive.source == size.when[1][0]:  # type: ignore[index]
                yield size.table, str(drive.values.get(size.key, size.default)), f"drive.{drive.axis}.{size.key}"
