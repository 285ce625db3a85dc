"""Named changes: a document in, a new document out. The only way anything is edited."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import msgspec

from hazel_lantern.core.document.project import Drive, Measured, Project, Rig, find, replaced
from hazel_lantern.core.editing.bindings import bindings
from hazel_lantern.core.editing.built import check_measured
from hazel_lantern.core.editing.place import Binding
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.kinds.base import Declared
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Value


def set_values(
    project: Project,
    rig_id: str,
    values: Sequence[tuple[str, object]],
    known: Mapping[str, Binding] | None = None,
    shot_id: str = "",
) -> Project:
    """The document with these parameters of a rig, or of the shot looked at, changed; `known` are its bindings where
    they are at hand already.

    Raises InputError naming the field for an unknown key or a value outside its bounds; nothing is clamped.
    """
    known = bindings(project, rig_id, shot_id) if known is None else known
    for key, value in values:
        if key not in known:  # what was set just now may have brought it
            known = bindings(project, rig_id, shot_id)
        if key not in known:
            raise InputError(key, repr(value), "is not a parameter of this rig")
        parameter, place = known[key].parameter, known[key].place
        drives = project.rig(rig_id).drives
        project = accept_station(place.put(project, parameter.check(value)), rig_id, parameter.station)
        if _shape(project.rig(rig_id).drives) != _shape(drives):  # elements come and go, and their sizes with them
            known = bindings(project, rig_id, shot_id)
    return project


def _shape(drives: tuple[Drive, ...]) -> list[tuple[str, list[str]]]:
    return [(drive.axis, [element.kind for element in drive.elements]) for drive in drives]


def measure(project: Project, rig_id: str, row: Measured) -> Project:
    """The document with one more row of what was measured on a rig; rows are only ever added. Raises InputError for
    what is no quantity of its kind.
    """
    rig = project.rig(rig_id)
    rig = msgspec.structs.replace(rig, measured=(*rig.measured, row))
    check_measured(rig)
    return msgspec.structs.replace(project, rigs=replaced(project.rigs, rig))


def rename_rig(project: Project, rig_id: str, name: str) -> Project:
    """The document with a rig renamed; raises InputError for an empty name."""
    if not name.strip():
        raise InputError("name", repr(name), "a rig needs a name")
    rig = msgspec.structs.replace(project.rig(rig_id), name=name.strip())
    return msgspec.structs.replace(project, rigs=replaced(project.rigs, rig))


def add_rig(project: Project, kind_id: str, variant: str = "", name: str = "") -> Project:
    """The document with one more rig of default sizes, on the first kit and shot."""
    if kind_id not in DECLARED:
        raise InputError("kind", repr(kind_id), "must be one of " + ", ".join(DECLARED))
    kind = DECLARED[kind_id]
    variant = variant or kind.variants[0][0]
    if variant not in dict(kind.variants):
        raise InputError("variant", repr(variant), "must be one of " + ", ".join(key for key, _ in kind.variants))
    return _with_rig(
        project,
        Rig(
            id=_free_id(project, kind_id),
            name=name or f"{kind.name} {len(project.rigs) + 1}",
            kind=kind_id,
            variant=variant,
            kit=project.kits[0].id,
            shots=(project.shots[0].id,),
            design=_owned(project, usual_values(kind, variant)),
        ),
    )


def usual_values(kind: Declared, variant: str) -> dict[str, Value]:
    """What a new rig of a construction begins with."""
    return {**{p.key: p.default for p in kind.parameters}, **kind.usual.get(variant, {})}


def _owned(project: Project, design: dict[str, Value]) -> dict[str, Value]:
    """The design with no weights hung where the project does not own all of them."""
    owned = {weight.id for weight in project.plates}
    return {
        key: () if isinstance(value, tuple) and not owned.issuperset(value) else value for key, value in design.items()
    }


def take_rig(project: Project, rig: Rig) -> Project:
    """The document with a rig made elsewhere, under an id and a name that are free."""
    taken = sum(r.name.startswith(rig.name) for r in project.rigs)
    return _with_rig(
        project,
        msgspec.structs.replace(
            rig, id=_free_id(project, rig.kind), name=f"{rig.name} {taken + 1}" if taken else rig.name
        ),
    )


def keep_alternative(project: Project, rig_id: str) -> Project:
    """The document with a copy of the rig kept beside it."""
    rig = project.rig(rig_id)
    copy = msgspec.structs.replace(rig, id=_free_id(project, rig.kind), name=f"{rig.name} B", design=dict(rig.design))
    return _with_rig(project, copy)


def remove_rig(project: Project, rig_id: str) -> Project:
    """The document without that rig."""
    project.rig(rig_id)
    return msgspec.structs.replace(project, rigs=tuple(rig for rig in project.rigs if rig.id != rig_id))


def _with_rig(project: Project, rig: Rig) -> Project:
    return msgspec.structs.replace(project, rigs=(*project.rigs, rig))


def _free_id(project: Project, stem: str) -> str:
    taken = {rig.id for rig in project.rigs}
    return next(f"{stem}-{n}" for n in range(1, len(taken) + 2) if f"{stem}-{n}" not in taken)


def set_units(project: Project, system: str, fraction: int | None = None) -> Project:
    """The document shown in millimetres or inches."""
    if system not in ("mm", "in"):
        raise InputError("units", repr(system), "must be mm or in")
    return msgspec.structs.replace(project, units=system, fraction=fraction or project.fraction)


def serve(project: Project, rig_id: str, shot_id: str) -> Project:
    """The document in which a rig also serves that shot. Raises InputError for a shot that is not there."""
    rig = project.rig(rig_id)
    find(project.shots, shot_id, "shot")
    if shot_id in rig.shots:
        return project
    return msgspec.structs.replace(
        project, rigs=replaced(project.rigs, msgspec.structs.replace(rig, shots=(*rig.shots, shot_id)))
    )


def accept_station(project: Project, rig_id: str, station: str) -> Project:
    """The document that remembers the builder has worked on, or accepted, a station."""
    rig = project.rig(rig_id)
    if station in rig.worked:
        return project
    return msgspec.structs.replace(
        project, rigs=replaced(project.rigs, msgspec.structs.replace(rig, worked=(*rig.worked, station)))
    )
