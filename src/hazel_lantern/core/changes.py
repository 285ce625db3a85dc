"""Named changes: a document in, a new document out. The only way anything is edited."""

from __future__ import annotations

from collections.abc import Sequence

import msgspec

from hazel_lantern.core import shot as shots
from hazel_lantern.core.errors import InputError
from hazel_lantern.core.kinds import KINDS, Kind
from hazel_lantern.core.project import Kit, KitItem, Project, Rig, find, replaced
from hazel_lantern.core.quantity import Choice, Parameter, Quantity, Value

MASS = Quantity("kit.mass", "Mass", "kg", 0.0, 60.0, 1.0, "Camera kit", "", "shot")


def kind_of(rig: Rig) -> Kind:
    """The rig's kind; raises InputError for one that does not exist."""
    if rig.kind not in KINDS:
        raise InputError(f"rig {rig.id}, kind", repr(rig.kind), "must be one of " + ", ".join(KINDS))
    return KINDS[rig.kind]


def parameters(project: Project, rig_id: str) -> dict[str, Parameter]:
    """Every parameter the bench, a handle or a remedy may set on this rig, its shot and its kit, by key."""
    rig = project.rig(rig_id)
    kit = project.kit_of(rig)
    found: dict[str, Parameter] = {p.key: p for p in kind_of(rig).parameters}
    found |= {q.key: q for q in shots.QUANTITIES}
    found["kit"] = Choice("kit", "Camera kit", tuple((k.id, k.name) for k in project.kits), rig.kit, "Camera kit", "", "shot")
    for index, item in enumerate(kit.items):
        found[f"kit.{index}.mass"] = _named(MASS, f"kit.{index}.mass", item.name)
    return found


def _named(quantity: Quantity, key: str, label: str) -> Quantity:
    """The same quantity under another key and label."""
    return Quantity(key, label, quantity.unit, quantity.low, quantity.high, quantity.default, quantity.group, quantity.words, quantity.station)


def value_of(project: Project, rig_id: str, key: str) -> Value:
    """The document's value of a parameter [SI]."""
    rig = project.rig(rig_id)
    if key in shots.FIELDS:
        return float(getattr(project.shot_of(rig), shots.FIELDS[key]))
    if key == "kit":
        return rig.kit
    if key.startswith("kit."):
        return _item(project.kit_of(rig), key).mass_kg
    return rig.design[key]


def _item(kit: Kit, key: str) -> KitItem:
    return kit.items[int(key.split(".")[1])]


def set_values(project: Project, rig_id: str, values: Sequence[tuple[str, object]]) -> Project:
    """The document with these parameters of a rig changed.

    Raises InputError naming the field for an unknown key or a value outside its bounds; nothing is clamped.
    """
    known = parameters(project, rig_id)
    for key, value in values:
        if key not in known:
            raise InputError(key, repr(value), "is not a parameter of this rig")
        project = accept_station(_set(project, rig_id, key, known[key].check(value)), rig_id, known[key].station)
    return project


def _set(project: Project, rig_id: str, key: str, value: Value) -> Project:
    rig = project.rig(rig_id)
    change = msgspec.structs.replace
    if key in shots.FIELDS:
        return change(project, shots=replaced(project.shots, change(project.shot_of(rig), **{shots.FIELDS[key]: value})))
    if key == "kit":
        return change(project, rigs=replaced(project.rigs, change(rig, kit=value)))
    if key.startswith("kit."):
        kit, index = project.kit_of(rig), int(key.split(".")[1])
        items = tuple(change(item, mass_kg=value) if i == index else item for i, item in enumerate(kit.items))
        return change(project, kits=replaced(project.kits, change(kit, items=items)))
    return change(project, rigs=replaced(project.rigs, change(rig, design={**rig.design, key: value})))


def rename_rig(project: Project, rig_id: str, name: str) -> Project:
    """The document with a rig renamed; raises InputError for an empty name."""
    if not name.strip():
        raise InputError("name", repr(name), "a rig needs a name")
    rig = msgspec.structs.replace(project.rig(rig_id), name=name.strip())
    return msgspec.structs.replace(project, rigs=replaced(project.rigs, rig))


def add_rig(project: Project, kind_id: str, variant: str = "", name: str = "") -> Project:
    """The document with one more rig of default sizes, on the first kit and shot."""
    if kind_id not in KINDS:
        raise InputError("kind", repr(kind_id), "must be one of " + ", ".join(KINDS))
    kind = KINDS[kind_id]
    variant = variant or kind.variants[0][0]
    if variant not in dict(kind.variants):
        raise InputError("variant", repr(variant), "must be one of " + ", ".join(key for key, _ in kind.variants))
    return _with_rig(project, Rig(
        id=_free_id(project, kind_id), name=name or f"{kind.name} {len(project.rigs) + 1}", kind=kind_id, variant=variant,
        kit=project.kits[0].id, shots=(project.shots[0].id,), design={p.key: p.default for p in kind.parameters},
    ))  # fmt: skip


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


def accept_station(project: Project, rig_id: str, station: str) -> Project:
    """The document that remembers the builder has worked on, or accepted, a station."""
    rig = project.rig(rig_id)
    if station in rig.worked:
        return project
    return msgspec.structs.replace(project, rigs=replaced(project.rigs, msgspec.structs.replace(rig, worked=(*rig.worked, station))))


def check(project: Project) -> Project:
    """The document itself, after every reference and every design value was checked; missing parameters get their defaults.

    Raises InputError naming the place.
    """
    for rig in project.rigs:
        kind = kind_of(rig)
        if rig.variant not in dict(kind.variants):
            raise InputError(f"rig {rig.id}, variant", repr(rig.variant), "must be one of " + ", ".join(k for k, _ in kind.variants))
        known = {p.key: p for p in kind.parameters}
        for key in rig.design:
            if key not in known:
                raise InputError(f"rig {rig.id}, design.{key}", repr(rig.design[key]), f"is not a parameter of a {kind.name}")
        checked = {key: p.check(rig.design[key]) if key in rig.design else p.default for key, p in known.items()}
        project.kit_of(rig)
        for shot in rig.shots:
            find(project.shots, shot, f"rig {rig.id}, shots")
        project = msgspec.structs.replace(project, rigs=replaced(project.rigs, msgspec.structs.replace(rig, design=checked)))
        for quantity in shots.QUANTITIES:
            quantity.check(value_of(project, rig.id, quantity.key))
    for kit in project.kits:
        for item in kit.items:
            MASS.check(item.mass_kg)
    for name in ("kits", "shots", "rigs", "plates"):
        ids = [item.id for item in getattr(project, name)]
        if len(set(ids)) != len(ids):
            raise InputError(name, ids, "every id may be used once")
    if project.units not in ("mm", "in"):
        raise InputError("units", repr(project.units), "must be mm or in")
    if project.fraction not in (16, 32, 64):
        raise InputError("fraction", project.fraction, "must be 16, 32 or 64")
    return project
