"""Things, kits, shots and weights added, renamed and taken away: a document in, a new document out."""

from __future__ import annotations

from collections.abc import Iterable

from msgspec.structs import replace

from hazel_lantern.core.document.project import (
    SOON,
    AxisKey,
    Entry,
    FilmSet,
    Key,
    KitItem,
    Measured,
    Offcut,
    Owned,
    Project,
    Proved,
    Shot,
    Stop,
    Thing,
    axis_of,
    find,
    replaced,
)
from hazel_lantern.core.document.shot import EACH, FIXED, FOCUS, KEPT, KEYED
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.motion.shapes import EASED, FLOWING
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.staging.things import SORTS

LONGEST_BAR = 20.0  # metres


def free_id(stem: str, taken: Iterable[str]) -> str:
    """An id not yet taken."""
    used = set(taken)
    return next(f"{stem}-{n}" for n in range(1, len(used) + 2) if f"{stem}-{n}" not in used)


def _named(name: str) -> str:
    if not name.strip():
        raise InputError("name", repr(name), "a name is needed")
    return name.strip()


def _with_set(project: Project, stage: FilmSet) -> Project:
    return replace(project, sets=replaced(project.sets, stage))


def ensure_set(project: Project, shot_id: str) -> Project:
    """The document in which a shot has a set; an empty one is made for it when it had none."""
    shot = find(project.shots, shot_id, "shot")
    if shot.set:
        return project
    stage = FilmSet(id=free_id("set", (s.id for s in project.sets)), name=f"Set of {shot.name}")
    return replace(project, sets=(*project.sets, stage), shots=replaced(project.shots, replace(shot, set=stage.id)))


def add_thing(project: Project, shot_id: str, kind: str, at: tuple[float, float] | None = None) -> tuple[Project, str]:
    """The document with one more thing in front of the camera of a shot, or at a place of the set [m], and the thing's
    id. The first person or box is looked at.

    Raises InputError for a kind there is not.
    """
    if kind not in SORTS:
        raise InputError("thing", repr(kind), "must be one of " + ", ".join(SORTS))
    project = ensure_set(project, shot_id)
    shot = find(project.shots, shot_id, "shot")
    stage, sort = project.set_of(shot), SORTS[kind]
    key = free_id(kind, (thing.id for thing in stage.things))
    x, y = shot.start_at_m
    thing = Thing(
        id=key,
        kind=kind,
        name=f"{sort.name} {key.rpartition('-')[2]}",
        at_m=(*(at or (x + 0.6 * (len(stage.things) % 5) - 0.6, y + 3.0)), sort.foot),
        size_m=sort.size,
    )
    project = _with_set(project, replace(stage, things=(*stage.things, thing)))
    if not shot.target and kind in ("person", "box", "table"):
        project = replace(project, shots=replaced(project.shots, replace(shot, target=key)))
    return project, key


def remove_thing(project: Project, set_id: str, thing_id: str) -> Project:
    """The document without a thing; shots that looked at it look at nothing."""
    stage = find(project.sets, set_id, "set")
    find(stage.things, thing_id, "thing")
    project = _with_set(project, replace(stage, things=tuple(t for t in stage.things if t.id != thing_id)))
    shots = tuple(
        replace(shot, target="") if shot.set == set_id and shot.target == thing_id else shot for shot in project.shots
    )
    return replace(project, shots=shots)


def add_stop(project: Project, shot_id: str, thing_id: str) -> Project:
    """The document with one more stop of a thing on the shot's set: 1.5 m to the right of where it then is, at the end
    of the shot or three seconds after the stop before.
    """
    shot = find(project.shots, shot_id, "shot")
    stage = project.set_of(shot)
    thing = find(stage.things, thing_id, "thing")
    last = thing.stops[-1] if thing.stops else Stop(time_s=0.0, at_m=thing.at_m, turn_rad=thing.turn_rad)
    x, y, z = last.at_m
    time = round(max(last.time_s + 3.0, shot.keys[-1].time_s if not thing.stops else 0.0), 3)
    stop = Stop(time_s=time, at_m=(min(60.0, round(x + 1.5, 3)), y, z), turn_rad=last.turn_rad)
    thing = replace(thing, stops=(*thing.stops, stop))
    return _with_set(project, replace(stage, things=replaced(stage.things, thing)))


def remove_stop(project: Project, shot_id: str, thing_id: str) -> Project:
    """The document without the last stop of a thing; raises InputError for one that does not move."""
    stage = project.set_of(find(project.shots, shot_id, "shot"))
    thing = find(stage.things, thing_id, "thing")
    if not thing.stops:
        raise InputError("stops", 0, f"{thing.name} stands still: there is none to take away")
    return _with_set(project, replace(stage, things=replaced(stage.things, replace(thing, stops=thing.stops[:-1]))))


def rename_thing(project: Project, set_id: str, thing_id: str, name: str) -> Project:
    """The document with a thing renamed; raises InputError for an empty name."""
    stage = find(project.sets, set_id, "set")
    thing = replace(find(stage.things, thing_id, "thing"), name=_named(name))
    return _with_set(project, replace(stage, things=replaced(stage.things, thing)))


def add_item(project: Project, kit_id: str, name: str, mass: float = 0.2) -> Project:
    """The document with one more item in a kit, at the middle of the mount."""
    kit = find(project.kits, kit_id, "kit")
    return replace(
        project,
        kits=replaced(
            project.kits,
            replace(kit, items=(*kit.items, KitItem(name=_named(name), mass_kg=mass, at_m=(0.0, 0.0, 0.05)))),
        ),
    )


def remove_item(project: Project, kit_id: str, index: int) -> Project:
    """The document without an item of a kit; raises InputError for the last one, as nothing would be left to carry."""
    kit = find(project.kits, kit_id, "kit")
    if len(kit.items) <= 1:
        raise InputError("kit", kit.name, "the last item stays: a kit carries at least one thing")
    return replace(project, kits=replaced(project.kits, replace(kit, items=kit.items[:index] + kit.items[index + 1 :])))


def copy_kit(project: Project, kit_id: str, name: str) -> tuple[Project, str]:
    """The document with a copy of a kit under another name, and the copy's id."""
    kit = find(project.kits, kit_id, "kit")
    key = free_id("kit", (k.id for k in project.kits))
    return replace(project, kits=(*project.kits, replace(kit, id=key, name=_named(name)))), key


def copy_shot(project: Project, rig_id: str, shot_id: str, name: str) -> Project:
    """The document with a copy of a shot under another name, the last of its shots, which the rig serves too."""
    rig = project.rig(rig_id)
    shot: Shot = replace(
        project.shot_of(rig, shot_id), id=free_id("shot", (s.id for s in project.shots)), name=_named(name)
    )
    return replace(
        project, shots=(*project.shots, shot), rigs=replaced(project.rigs, replace(rig, shots=(*rig.shots, shot.id)))
    )


def remove_shot(project: Project, shot_id: str) -> Project:
    """The document without a shot. Raises InputError where a rig serves no other."""
    find(project.shots, shot_id, "shot")
    alone = [rig.name for rig in project.rigs if rig.shots == (shot_id,)]
    if alone:
        raise InputError("shot", shot_id, f"stays: {', '.join(alone)} serves no other; copy it first, or pick another")
    rigs = tuple(replace(rig, shots=tuple(key for key in rig.shots if key != shot_id)) for rig in project.rigs)
    return replace(project, shots=tuple(shot for shot in project.shots if shot.id != shot_id), rigs=rigs)


def shift_shot(project: Project, rig_id: str, shot_id: str, by: int) -> Project:
    """The document with a shot of a rig earlier (-1) or later (1) among those it serves: it changes places with its
    neighbour. Raises InputError at either end.
    """
    rig = project.rig(rig_id)
    served = list(rig.shots)
    at = served.index(shot_id)
    if not 0 <= at + by < len(served):
        name = find(project.shots, shot_id, "shot").name
        raise InputError("shot", name, f"is the {'first' if by < 0 else 'last'} of this rig already")
    change = {served[at]: served[at + by], served[at + by]: served[at]}
    by_id = {shot.id: shot for shot in project.shots}
    shots = tuple(by_id[change.get(shot.id, shot.id)] for shot in project.shots)
    rig = replace(rig, shots=tuple(change.get(key, key) for key in served))
    return replace(project, shots=shots, rigs=replaced(project.rigs, rig))


def turn_picture(project: Project, shot_id: str) -> Project:
    """The document with a shot's picture turned upright, or back: width and height changed over. Raises InputError for
    a lens that squeezes, which would squeeze the other way.
    """
    shot = find(project.shots, shot_id, "shot")
    if shot.squeeze != 1.0:
        raise InputError("shot.squeeze", shot.squeeze, "must be 1 for a picture that is turned")
    turned = replace(
        shot,
        sensor_width_m=shot.sensor_height_m,
        sensor_height_m=shot.sensor_width_m,
        pixels_wide=shot.pixels_high,
        pixels_high=shot.pixels_wide,
    )
    return replace(project, shots=replaced(project.shots, turned))


def add_way_point(project: Project, shot_id: str, at: tuple[float, float] | None = None) -> Project:
    """The document with one more way point of a shot, half-way on its last leg or over a place of the set [m]."""
    shot = find(project.shots, shot_id, "shot")
    before = shot.via_m[-1] if shot.via_m else (*shot.start_at_m, shot.start_height_m)
    end = (*shot.end_at_m, shot.end_height_m)
    middle = tuple(round((a + b) / 2, 3) for a, b in zip(before, end, strict=True))
    point = middle if at is None else (*at, middle[2])
    return replace(project, shots=replaced(project.shots, replace(shot, via_m=(*shot.via_m, point))))


def remove_way_point(project: Project, shot_id: str) -> Project:
    """The document without the shot's last way point; raises InputError when it has none."""
    shot = find(project.shots, shot_id, "shot")
    if not shot.via_m:
        raise InputError("way points", 0, "there is none to take away")
    return replace(project, shots=replaced(project.shots, replace(shot, via_m=shot.via_m[:-1])))


def add_key(project: Project, shot_id: str) -> Project:
    """The document with one more key of a shot, half-way through the longest stretch of its time, where the move then
    is; flowing on either side, so that it does not stop there.
    """
    shot = find(project.shots, shot_id, "shot")
    leaves = [key.time_s + key.hold_s for key in shot.keys[:-1]]
    longest = max(range(len(leaves)), key=lambda k: shot.keys[k + 1].time_s - leaves[k])
    middle = round((leaves[longest] + shot.keys[longest + 1].time_s) / 2, 3)
    profile = timing(shot.keys, shot.segments)
    share = float(profile.share((middle - shot.leaves_s) / profile.duration))
    key, through = Key(time_s=middle, share=round(share, 4)), replace(shot.segments[longest], shape=FLOWING)
    keys = (*shot.keys[: longest + 1], key, *shot.keys[longest + 1 :])
    segments = (*shot.segments[:longest], through, through, *shot.segments[longest + 1 :])
    return replace(project, shots=replaced(project.shots, replace(shot, keys=keys, segments=segments)))


def there_and_back(project: Project, shot_id: str) -> Project:
    """The document with a shot that goes back the way it came, with the same holds and shapes backwards."""
    shot = find(project.shots, shot_id, "shot")
    turns = shot.keys[-1].time_s + shot.keys[-1].hold_s
    came = shot.keys[-1].time_s
    back = tuple(
        replace(key, time_s=round(turns + came - key.time_s - key.hold_s, 9)) for key in reversed(shot.keys[:-1])
    )
    keys, segments = (*shot.keys, *back), (*shot.segments, *reversed(shot.segments))
    return replace(project, shots=replaced(project.shots, replace(shot, keys=keys, segments=segments)))


def once_more(project: Project, shot_id: str) -> Project:
    """The document with a shot that does all of it a second time. Raises InputError for one that does not end where it
    began.
    """
    shot = find(project.shots, shot_id, "shot")
    first, last = shot.keys[0], shot.keys[-1]
    if first.share != last.share:
        raise InputError("shot", shot.name, "must end where it began: let it go back first")
    later = last.time_s - first.time_s - first.hold_s + last.hold_s
    again = tuple(replace(key, time_s=round(key.time_s + later, 9)) for key in shot.keys[1:])
    changed = replace(shot, keys=(*shot.keys, *again), segments=(*shot.segments, *shot.segments))
    return replace(project, shots=replaced(project.shots, changed))


def key_axis(project: Project, shot_id: str, axis_id: str, time: float, value: float) -> Project:
    """The document with an axis of the head keyed at a moment of the shot's clock [s]; one that is fixed is fixed there
    instead. An axis other than focus makes the head one whose axes are worked each for itself.
    """
    shot = find(project.shots, shot_id, "shot")
    axis, key = axis_of(shot, axis_id), AxisKey(time_s=round(time, 3), value=round(value, 6))
    if axis.how == FIXED:
        keys: tuple[AxisKey, ...] = (replace(key, time_s=0.0),)
    else:
        others = axis.keys if axis.how == KEYED else ()
        far = tuple(other for other in others if abs(other.time_s - key.time_s) > SOON)
        keys = tuple(sorted((*far, key), key=lambda one: one.time_s))
    axis = replace(axis, how=FIXED if axis.how == FIXED else KEYED, keys=keys)
    aim = shot.aim if axis_id == FOCUS else EACH
    return replace(project, shots=replaced(project.shots, replace(shot, aim=aim, axes=replaced(shot.axes, axis))))


def unkey_axis(project: Project, shot_id: str, axis_id: str) -> Project:
    """The document without the last key of an axis; one that had but one is kept on the subject again. Raises
    InputError where it has none.
    """
    shot = find(project.shots, shot_id, "shot")
    axis = axis_of(shot, axis_id)
    if axis.how == KEPT or not axis.keys:
        raise InputError(axis_id, 0, "has no key to drop")
    left = axis.keys[:-1]
    axis = replace(axis, keys=left) if left else replace(axis, how=KEPT, keys=())
    return replace(project, shots=replaced(project.shots, replace(shot, axes=replaced(shot.axes, axis))))


def remove_key(project: Project, shot_id: str) -> Project:
    """The document without the last key of a shot before its end; raises InputError when there is none."""
    shot = find(project.shots, shot_id, "shot")
    if len(shot.keys) <= 2:
        raise InputError("keys", len(shot.keys), "a move keeps its first and its last")
    keys = (*shot.keys[:-2], shot.keys[-1])
    segments = shot.segments[:-1]
    if len(segments) == 1 and segments[0].shape == FLOWING:
        segments = (replace(segments[0], shape=EASED),)
    return replace(project, shots=replaced(project.shots, replace(shot, keys=keys, segments=segments)))


def add_weight(project: Project, plate: str) -> Project:
    """The document with one more weight owned, by its row in the catalogue of plates."""
    return replace(
        project, plates=(*project.plates, Owned(id=free_id("w", (weight.id for weight in project.plates)), plate=plate))
    )


def remove_weight(project: Project, weight_id: str) -> Project:
    """The document without that weight, taken off every rig it hung on. Raises InputError for one that is not owned."""
    find(project.plates, weight_id, "plates")

    def bare(value: object) -> object:
        return tuple(key for key in value if key != weight_id) if isinstance(value, tuple) else value

    rigs = tuple(replace(rig, design={key: bare(value) for key, value in rig.design.items()}) for rig in project.rigs)
    return replace(project, plates=tuple(weight for weight in project.plates if weight.id != weight_id), rigs=rigs)


def add_stock(project: Project, pieces: Iterable[Offcut]) -> Project:
    """The document with more bars or off-cuts at hand; like ones are counted together.
    Raises InputError for a bad one."""
    stock = list(project.stock)
    for piece in pieces:
        if not 0 < piece.length_m <= LONGEST_BAR or piece.count < 1:
            raise InputError("stock", piece.length_m, f"a length up to {LONGEST_BAR:g} m, one at the least")
        n = next((n for n, one in enumerate(stock) if replace(one, count=piece.count) == piece), None)
        if n is None:
            stock.append(piece)
        else:
            stock[n] = replace(piece, count=stock[n].count + piece.count)
    return replace(project, stock=tuple(stock))


def remove_stock(project: Project, index: int) -> Project:
    """The document with one less of a row of stock; raises InputError for a row there is not."""
    if not 0 <= index < len(project.stock):
        raise InputError("stock", index + 1, f"there are {len(project.stock)} rows")
    row = project.stock[index]
    left = (replace(row, count=row.count - 1),) if row.count > 1 else ()
    return replace(project, stock=(*project.stock[:index], *left, *project.stock[index + 1 :]))


def note_down(project: Project, day: str, text: str, rig_id: str = "") -> Project:
    """The document with one more entry in its build log; raises InputError for one that says nothing."""
    if not text.strip():
        raise InputError("log", repr(text), "a few words are needed")
    return replace(project, log=(*project.log, Entry(day=day, text=text.strip(), rig=rig_id)))


def read_off(project: Project, rig_id: str, test: str, day: str, readings: tuple[float, ...]) -> Project:
    """The document with one more row of readings of a test of a rig."""
    return take_readings(project, rig_id, (Proved(test=test, day=day, readings=readings),))


def take_readings(project: Project, rig_id: str, rows: Iterable[Proved]) -> Project:
    """The document with more rows of readings of a rig, as they were read."""
    rig = project.rig(rig_id)
    return replace(project, rigs=replaced(project.rigs, replace(rig, proofs=(*rig.proofs, *rows))))


def strike_out(project: Project, rig_id: str, index: int) -> Project:
    """The document with a row of readings struck out, or counted again; raises InputError for a row there is not."""
    rig = project.rig(rig_id)
    if not 0 <= index < len(rig.proofs):
        raise InputError("proofs", index + 1, f"there are {len(rig.proofs)} rows")
    row = rig.proofs[index]
    proofs = (*rig.proofs[:index], replace(row, struck=not row.struck), *rig.proofs[index + 1 :])
    return replace(project, rigs=replaced(project.rigs, replace(rig, proofs=proofs)))


def keep_measured(project: Project, rig_id: str, rows: Iterable[Measured]) -> Project:
    """The document with what was measured of a rig as built; earlier rows stay."""
    rig = project.rig(rig_id)
    return replace(project, rigs=replaced(project.rigs, replace(rig, measured=(*rig.measured, *rows))))
