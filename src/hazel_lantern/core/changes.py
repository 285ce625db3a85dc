"""Named changes: a document in, a new document out. The only way anything is edited."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

import msgspec

from hazel_lantern.core import shot as shots
from hazel_lantern.core.errors import InputError
from hazel_lantern.core.kinds import DECLARED, Declared
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.project import Kit, Project, Rig, Shot, Thing, find, replaced
from hazel_lantern.core.quantity import Choice, Parameter, Quantity, Value
from hazel_lantern.core.staging.things import THINGS

MASS = Quantity("kit.mass", "Mass", "kg", 0.0, 60.0, 1.0, "Camera kit", "", "shot")
DEPTH = Quantity("kit.socket", "Screw hole depth", "m", 0.001, 0.05, 0.0065, "Where it sits on the mount", "thread in the camera's foot", "shot")
THREAD = Choice("kit.thread", "Screw thread", tuple((key, f"{key} inch") for key in CAMERA_THREADS), "1/4-20", "Where it sits on the mount", "in the camera's foot", "shot")
_AXES = (("x", "ahead", 0), ("y", "to the left", 1), ("z", "above the mount", 2))
_SPOT = (("x", "right", 0, -60.0, 60.0), ("y", "deep", 1, -60.0, 60.0), ("z", "off the ground", 2, 0.0, 12.0))
SOCKET = {"socket": "socket_depth_m", "thread": "socket_thread"}
FLOORS = (("grass", "Grass"), ("earth", "Soft earth"), ("boards", "Boards"), ("tiles", "Tiles or concrete"), ("carpet", "Carpet"))
_EXTENT = (("width", "wide", 0), ("depth", "deep across", 1), ("height", "high", 2))


def declared_of(rig: Rig) -> Declared:
    """What the rig's kind declares; raises InputError for a kind that does not exist."""
    if rig.kind not in DECLARED:
        raise InputError(f"rig {rig.id}, kind", repr(rig.kind), "must be one of " + ", ".join(DECLARED))
    return DECLARED[rig.kind]


def parameters(project: Project, rig_id: str, shot_id: str = "") -> dict[str, Parameter]:
    """Every parameter the bench, a handle or a remedy may set on this rig, the shot looked at (the first it serves where none is named) and its kit, by key."""
    rig = project.rig(rig_id)
    kit = project.kit_of(rig)
    kind = declared_of(rig)
    found: dict[str, Parameter] = {}
    if len(kind.variants) > 1:
        found["variant"] = Choice("variant", "Construction", kind.variants, rig.variant, kind.parameters[0].group, "the sizes stay; what only another needs waits")
    found |= {p.key: p for p in kind.parameters}
    shot = project.shot_of(rig, shot_id)
    found["shot"] = Choice(
        "shot", "Shot", tuple((s.id, s.name) for s in project.shots), shot.id, "The move", "a rig may serve several; picking one it does not serve yet makes it serve it", "shot"
    )
    found |= {p.key: p for p in shots.PARAMETERS}
    stage = project.set_of(shot)
    found["shot.set"] = Choice("shot.set", "Set", (("", "none"), *((s.id, s.name) for s in project.sets)), shot.set, "On the set", "", "shot")
    found["shot.target"] = Choice("shot.target", "Looks at", (("", "nothing"), *((t.id, t.name) for t in stage.things)), shot.target, "On the set", "", "shot")
    if stage.id:
        found["set.ceiling"] = Quantity("set.ceiling", "Ceiling", "m", 0.0, 20.0, 0.0, "On the set", "0 for open sky", "shot")
        found["set.floor"] = Choice("set.floor", "Floor", FLOORS, stage.floor, "On the set", "what wheels and feet stand on", "shot")
    for index in range(len(shot.via_m)):
        for axis, words, _, low, high in _SPOT:
            found[f"via.{index}.{axis}"] = Quantity(f"via.{index}.{axis}", f"Way point {index + 1}, {words}", "m", low, high, 0.0, "Way points", "the lens passes here", "shot")
    found["kit"] = Choice("kit", "Camera kit", tuple((k.id, k.name) for k in project.kits), rig.kit, "Camera kit", "", "shot")
    for index, item in enumerate(kit.items):
        found[f"kit.{index}.mass"] = _named(MASS, f"kit.{index}.mass", item.name)
    for index, item in enumerate(kit.items):
        for axis, words, _ in _AXES:
            found[f"kit.{index}.{axis}"] = Quantity(
                f"kit.{index}.{axis}", f"{item.name}, {words}", "m", -1.0, 1.0, 0.0, "Where it sits on the mount", "from the middle of the mount plate's top", "shot"
            )
    for axis, words, _ in _AXES:
        found[f"lens.{axis}"] = Quantity(f"lens.{axis}", f"Lens, {words}", "m", -1.0, 1.0, 0.05, "Where it sits on the mount", "front of the lens", "shot")
    found["kit.socket"], found["kit.thread"] = DEPTH, THREAD
    for thing in stage.things:
        key, name = f"thing.{thing.id}", thing.name
        for axis, words, _, low, high in _SPOT:
            found[f"{key}.{axis}"] = Quantity(f"{key}.{axis}", f"{name}, {words}", "m", low, high, 0.0, name, "", "shot")
        for axis, words, _ in _EXTENT:
            found[f"{key}.{axis}"] = Quantity(f"{key}.{axis}", f"{name}, {words}", "m", 0.01, 60.0, 0.5, name, "", "shot")
        found[f"{key}.turn"] = Quantity(f"{key}.turn", f"{name}, turned", "rad", -6.3, 6.3, 0.0, name, "", "shot")
    return found


def _named(quantity: Quantity, key: str, label: str) -> Quantity:
    """The same quantity under another key and label."""
    return Quantity(key, label, quantity.unit, quantity.low, quantity.high, quantity.default, quantity.group, quantity.words, quantity.station)


def value_of(project: Project, rig_id: str, key: str, shot_id: str = "") -> Value:
    """The document's value of a parameter [SI]."""
    rig = project.rig(rig_id)
    shot = project.shot_of(rig, shot_id)
    if key in shots.FIELDS:
        return getattr(shot, shots.FIELDS[key])  # type: ignore[no-any-return]
    if key in shots.INDEXED:
        field, index = shots.INDEXED[key]
        return float(getattr(shot, field)[index])
    if key in ("kit", "shot", "variant"):
        return {"kit": rig.kit, "shot": shot.id, "variant": rig.variant}[key]
    owner, *rest = key.split(".")
    if owner == "thing":
        thing, what = _thing(project, shot, rest[0]), rest[1]
        return thing.turn_rad if what == "turn" else thing.at_m["xyz".index(what)] if what in "xyz" else thing.size_m[_extent(what)]
    if owner == "set":
        stage = project.set_of(shot)
        return stage.ceiling_m if rest[0] == "ceiling" else stage.floor
    if owner == "via":
        return shot.via_m[int(rest[0])]["xyz".index(rest[1])]
    kit = project.kit_of(rig)
    if owner == "lens":
        return kit.lens_at_m["xyz".index(rest[0])]
    if owner == "kit":
        if rest[0] in SOCKET:
            return getattr(kit, SOCKET[rest[0]])  # type: ignore[no-any-return]
        item = kit.items[int(rest[0])]
        return item.mass_kg if rest[1] == "mass" else item.at_m["xyz".index(rest[1])]
    return rig.design[key]


def _extent(what: str) -> int:
    return [name for name, _, _ in _EXTENT].index(what)


def _thing(project: Project, shot: Shot, thing_id: str) -> Thing:
    stage = project.set_of(shot)
    return find(stage.things, thing_id, f"set {stage.id}, things")


def set_values(project: Project, rig_id: str, values: Sequence[tuple[str, object]], known: Mapping[str, Parameter] | None = None, shot_id: str = "") -> Project:
    """The document with these parameters of a rig, or of the shot looked at, changed; `known` are its parameters where they are at hand already.

    Raises InputError naming the field for an unknown key or a value outside its bounds; nothing is clamped.
    """
    known = parameters(project, rig_id, shot_id) if known is None else known
    for key, value in values:
        if key not in known:
            raise InputError(key, repr(value), "is not a parameter of this rig")
        project = accept_station(_set(project, rig_id, shot_id, key, known[key].check(value)), rig_id, known[key].station)
    return project


def _set(project: Project, rig_id: str, shot_id: str, key: str, value: Value) -> Project:
    rig, change = project.rig(rig_id), msgspec.structs.replace
    shot = project.shot_of(rig, shot_id)
    if key in shots.FIELDS:
        # What was looked at stands on the set that is left.
        aside = {"target": ""} if key == "shot.set" and value != shot.set else {}
        return change(project, shots=replaced(project.shots, change(shot, **{shots.FIELDS[key]: value}, **aside)))
    if key in shots.INDEXED:
        field, index = shots.INDEXED[key]
        return change(project, shots=replaced(project.shots, change(shot, **{field: _with(getattr(shot, field), index, value)})))
    if key == "variant":
        return change(project, rigs=replaced(project.rigs, _constructed(rig, str(value))))
    if key == "kit":
        return change(project, rigs=replaced(project.rigs, change(rig, kit=value)))
    if key == "shot":
        return change(project, rigs=replaced(project.rigs, change(rig, shots=(str(value), *(s for s in rig.shots if s != value)))))
    owner, *rest = key.split(".")
    if owner == "thing":
        stage, thing = project.set_of(shot), _thing(project, shot, rest[0])
        if rest[1] == "turn":
            thing = change(thing, turn_rad=value)
        elif rest[1] in "xyz":
            thing = change(thing, at_m=_with(thing.at_m, "xyz".index(rest[1]), value))
        else:
            thing = change(thing, size_m=_with(thing.size_m, _extent(rest[1]), value))
        return change(project, sets=replaced(project.sets, change(stage, things=replaced(stage.things, thing))))
    if owner == "set":
        stage = project.set_of(shot)
        return change(project, sets=replaced(project.sets, change(stage, **{"ceiling_m" if rest[0] == "ceiling" else "floor": value})))
    if owner == "via":
        index = int(rest[0])
        point = _with(shot.via_m[index], "xyz".index(rest[1]), value)
        return change(project, shots=replaced(project.shots, change(shot, via_m=(*shot.via_m[:index], point, *shot.via_m[index + 1 :]))))
    if owner in ("kit", "lens"):
        return change(project, kits=replaced(project.kits, _kit_with(project.kit_of(rig), owner, rest, value)))
    return change(project, rigs=replaced(project.rigs, change(rig, design={**rig.design, key: value})))


def _constructed(rig: Rig, variant: str) -> Rig:
    """The rig in another construction: what still stood at the old one's usual value takes the new one's."""
    kind = declared_of(rig)
    old, new = kind.usual.get(rig.variant, {}), kind.usual.get(variant, {})
    default = {p.key: p.default for p in kind.parameters}
    moved = {key: new.get(key, default[key]) for key in {**old, **new} if rig.design[key] == old.get(key, default[key])}
    return msgspec.structs.replace(rig, variant=variant, design={**rig.design, **moved})


def _kit_with(kit: Kit, owner: str, rest: list[str], value: Value) -> Kit:
    change = msgspec.structs.replace
    if owner == "lens":
        return change(kit, lens_at_m=_with(kit.lens_at_m, "xyz".index(rest[0]), value))
    if rest[0] in SOCKET:
        return change(kit, **{SOCKET[rest[0]]: value})
    index = int(rest[0])
    item = kit.items[index]
    item = change(item, mass_kg=value) if rest[1] == "mass" else change(item, at_m=_with(item.at_m, "xyz".index(rest[1]), value))
    return change(kit, items=(*kit.items[:index], item, *kit.items[index + 1 :]))


def _with(numbers: tuple[float, ...], index: int, value: Value) -> tuple[float, ...]:
    return (*numbers[:index], float(value), *numbers[index + 1 :])  # type: ignore[arg-type]


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
    return _with_rig(project, Rig(
        id=_free_id(project, kind_id), name=name or f"{kind.name} {len(project.rigs) + 1}", kind=kind_id, variant=variant,
        kit=project.kits[0].id, shots=(project.shots[0].id,), design={p.key: p.default for p in kind.parameters} | kind.usual.get(variant, {}),
    ))  # fmt: skip


def take_rig(project: Project, rig: Rig) -> Project:
    """The document with a rig made elsewhere, under an id and a name that are free."""
    taken = sum(r.name.startswith(rig.name) for r in project.rigs)
    return _with_rig(project, msgspec.structs.replace(rig, id=_free_id(project, rig.kind), name=f"{rig.name} {taken + 1}" if taken else rig.name))


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
    return msgspec.structs.replace(project, rigs=replaced(project.rigs, msgspec.structs.replace(rig, shots=(*rig.shots, shot_id))))


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
        project = _check_rig(project, rig)
    for kit in project.kits:
        for item in kit.items:
            MASS.check(item.mass_kg)
        DEPTH.check(kit.socket_depth_m)
        THREAD.check(kit.socket_thread)
    for stage in project.sets:
        for thing in stage.things:
            if thing.kind not in dict(THINGS):
                raise InputError(f"set {stage.id}, {thing.id}, kind", repr(thing.kind), "must be one of " + ", ".join(k for k, _ in THINGS))
        _unique(f"set {stage.id}, things", [thing.id for thing in stage.things])
    for name in ("sets", "kits", "shots", "rigs", "plates"):
        _unique(name, [item.id for item in getattr(project, name)])
    if project.units not in ("mm", "in"):
        raise InputError("units", repr(project.units), "must be mm or in")
    if project.fraction not in (16, 32, 64):
        raise InputError("fraction", project.fraction, "must be 16, 32 or 64")
    return project


def _unique(field: str, ids: list[str]) -> None:
    if len(set(ids)) != len(ids):
        raise InputError(field, ids, "every id may be used once")


def _check_rig(project: Project, rig: Rig) -> Project:
    kind = declared_of(rig)
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
    for parameter in parameters(project, rig.id).values():
        if parameter.station == "shot":
            parameter.check(value_of(project, rig.id, parameter.key))
    return project
