"""Where each parameter sits in the document: the one table through which values are read and written, whoever asks."""

from __future__ import annotations

import math
from functools import partial
from typing import Any

from msgspec.structs import replace

from hazel_lantern.core.document import shot as shots
from hazel_lantern.core.document.project import (
    Axis,
    AxisKey,
    Kit,
    Project,
    Rig,
    Shot,
    Thing,
    axis_keyed,
    come,
    held,
    keyed,
    replaced,
    rested,
    timed,
)
from hazel_lantern.core.document.readable import plain
from hazel_lantern.core.editing.drives import of_drives
from hazel_lantern.core.editing.place import Binding, Place, Rows, changed_by, named
from hazel_lantern.core.kinds import DECLARED, Declared, declared
from hazel_lantern.core.mechanics.pins import CAMERA_THREADS
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.motion.shapes import EASED, SHAPES
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Value
from hazel_lantern.core.workshop.tiling import FURTHEST

IN_LABEL = 28  # characters of a name in the label of one of its sizes
MASS = Quantity("kit.mass", "Mass", "kg", 0.0, 60.0, 1.0, "Camera kit", "", "shot")
DEPTH = Quantity(
    "kit.socket",
    "Screw hole depth",
    "m",
    0.001,
    0.05,
    0.0065,
    "Where it sits on the mount",
    "thread in the camera's foot",
    "shot",
)
THREAD = Choice(
    "kit.thread",
    "Screw thread",
    tuple((key, f"{key} inch") for key in CAMERA_THREADS),
    "1/4-20",
    "Where it sits on the mount",
    "in the camera's foot",
    "shot",
)
# Places and sizes, each with the last word of its key and of its label; who uses them says of what.
ON_MOUNT = tuple(
    Quantity(
        key,
        words,
        "m",
        -1.0,
        1.0,
        0.0,
        "Where it sits on the mount",
        "from the middle of the mount plate's top",
        "shot",
    )
    for key, words in (("x", "ahead"), ("y", "to the left"), ("z", "above the mount"))
)
ON_SET = tuple(
    Quantity(key, words, "m", low, high, 0.0, "On the set", "", "shot")
    for key, words, low, high in (
        ("x", "right", -60.0, 60.0),
        ("y", "deep", -60.0, 60.0),
        ("z", "off the ground", 0.0, 12.0),
    )
)
EXTENT = tuple(
    Quantity(key, words, "m", 0.01, 60.0, 0.5, "On the set", "", "shot")
    for key, words in (("width", "wide"), ("depth", "deep across"), ("height", "high"))
)
TURN = Quantity("turn", "turned", "rad", -6.3, 6.3, 0.0, "On the set", "", "shot")
AT_KEY = Quantity("time", "at", "s", 0.0, 36000.0, 1.0, "Over time", "when it is reached", "shot")
AT_STOP = Quantity("time", "at", "s", 0.01, 36000.0, 1.0, "On the set", "of the shot's clock", "shot")
SHARE = Quantity("share", "of the way", "1", 0.0, 1.0, 0.5, "Over time", "0 at the start, 1 at the end", "shot")
STAYS = Quantity(
    "hold", "stays", "s", 0.0, 600.0, 0.0, "Over time", "still at this key; all that follows is later", "shot"
)
AXIS_TIME = Quantity("time", "when", "s", 0.0, 36000.0, 0.0, "Axes of the head", "of the shot's clock", "shot")
ON_AXIS = {
    axis: (Quantity("value", words, unit, low, high, usual, "Axes of the head", said, "shot"))
    for axis, words, unit, low, high, usual, said in (
        (shots.PAN, "reads", "rad", -6.3, 6.3, 0.0, "from straight ahead of its mount, positive to the left"),
        (shots.TILT, "reads", "rad", -1.5708, 1.5708, 0.0, "from level on its mount, positive up"),
        (shots.ROLL, "reads", "rad", -3.1416, 3.1416, 0.0, "from upright on its mount, positive to its own right"),
        (shots.FOCUS, "set at", "m", 0.02, 1000.0, 2.0, "from the lens, square to the picture"),
    )
}
HOWS = {
    axis: Choice("how", axis.capitalize(), ((shots.FIXED, "fixed"), (shots.KEPT, kept), (shots.KEYED, "by its keys")),
        shots.KEPT, "Axes of the head", "", "shot")
    for axis, kept in ((shots.PAN, "kept on the subject"), (shots.TILT, "kept on the subject"),
        (shots.ROLL, "kept level"), (shots.FOCUS, "kept on the subject"))
}  # fmt: skip
WORKED = Choice(
    "by", "worked by", shots.WORKED_BY, shots.HAND, "Axes of the head", "who turns it while the camera runs", "shot"
)
HEAD = Choice(
    "kit.head",
    "Head",
    (("", "none listed"),),
    "",
    "Axes of the head",
    "its mass and height are added to the kit; items and lens are then given from its top",
    "shot",
    table="heads",
)
MOVES = Choice("shape", "Shape", SHAPES, EASED, "Over time", "how it goes from key to key", "shot")
RPM = Quantity(
    "shot.rpm", "Turns a minute", "1", 0.001, 1000.0, 6.0, "Turning", "at its fastest; the shot's time follows"
)
PRINTED = tuple(
    Quantity(
        f"printer.{key}",
        f"A bar of 100 mm prints, {words}",
        "m",
        0.1 / (1 + FURTHEST),
        0.1 / (1 - FURTHEST),
        0.1,
        "Printer",
        "measured on a template printed uncorrected; templates are drawn so that it comes true",
        "build",
        short=words.capitalize(),
        beside=beside,
    )
    for key, words, beside in (("across", "across", False), ("up", "up the page", False))
)
DAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
HOURS = tuple(
    Quantity(f"hours.{n}", day, "h", 0.0, 15.0, 0.0, "Hours to build",
        "from nine in the morning; evenings are counted from there too", "build", short=day[:3], beside=n % 2 == 1)
    for n, day in enumerate(DAYS)
)  # fmt: skip
HIRE = tuple(
    Quantity(f"hire.{key}", words, "1" if key == "tax" else "currency", 0.0, 100.0 if key == "tax" else 100000.0, 0.0,
        "Hire or build", said, "build", short=short, beside=beside)
    for key, words, short, said, beside in (
        ("day", "Hired for a day", "A day", "0 where none can be hired", False),
        ("week", "for a week", "A week", "0 where there is no such price", True),
        ("fixed", "once for every hire", "Once", "delivery, cleaning", False),
        ("resale", "Built, it is sold for after", "Sold for", "", True),
        ("tax", "Tax on what is bought, per cent", "Tax, %", "0 where prices hold it", False),
    )
)  # fmt: skip
CARRY = tuple(
    Quantity(f"carry.{key}", words, unit, low, high, usual, "Carrying", said, "build", short=short, beside=beside)
    for key, words, short, unit, low, high, usual, said, beside in (
        ("bag_m", "Longest in the bag", "In the bag", "m", 0.0, 5.0, 0.0, "0 without bags", False),
        ("car_m", "Longest in the car", "In the car", "m", 0.0, 20.0, 0.0, "0 where that does not matter", False),
        ("door_m", "Door, clear width", "Door", "m", 0.0, 5.0, 0.0, "0 where that does not matter", False),
        ("hall_m", "Hall behind it, clear width", "Hall", "m", 0.0, 20.0, 0.0, "0 where one goes straight in", False),
        ("lift_kg", "One person lifts", "Lift", "kg", 1.0, 50.0, 20.0, "local rules may say less", False),
    )
)  # fmt: skip
CEILING = Quantity("set.ceiling", "Ceiling", "m", 0.0, 20.0, 0.0, "On the set", "0 for open sky", "shot")


def declared_of(rig: Rig) -> Declared:
    """What the rig's kind declares; raises InputError for a kind that does not exist."""
    found = declared(rig.kind)
    if found is None:
        raise InputError(f"rig {rig.id}, kind", repr(rig.kind), "must be one of " + ", ".join(DECLARED))
    return found


def bindings(project: Project, rig_id: str, shot_id: str = "") -> dict[str, Binding]:
    """Every parameter the bench, a handle or a remedy may set on this rig, the shot looked at (the first it serves
    where none is named), its set and its kit, by key.

    They depend on what there is, not on its values, so one table serves as long as rigs, kits, shots, sets and things
    stay. Raises InputError for an unknown rig or shot.
    """
    rig = Place(lambda p: p.rig(rig_id), lambda p, new: replace(p, rigs=replaced(p.rigs, new)))
    shot = Place(lambda p: p.shot_of(rig.get(p), shot_id), lambda p, new: replace(p, shots=replaced(p.shots, new)))
    kit = Place(lambda p: p.kit_of(rig.get(p)), lambda p, new: replace(p, kits=replaced(p.kits, new)))
    stage = Place(lambda p: p.set_of(shot.get(p)), lambda p, new: replace(p, sets=replaced(p.sets, new)))
    rows = [*_of_rig(project, rig), *_of_shot(project, rig, shot), *_of_kit(project, rig, kit)]
    if declared_of(rig.get(project)).turns and shot.get(project).move in (shots.ARC, shots.CIRCLE):
        rows.append((RPM, changed_by(shot, Place(lambda p: _rpm(shot.get(p)), shot.put), _turning_at)))
    week = Place(lambda p: p.hours_h, lambda p, new: replace(p, hours_h=new))
    rows += [(hours, week.item(n)) for n, hours in enumerate(HOURS)]
    printer = Place(lambda p: p.printer_m, lambda p, new: replace(p, printer_m=new))
    rows += [(bar, printer.item(n)) for n, bar in enumerate(PRINTED)]
    hire = Place(lambda p: p.hire, lambda p, new: replace(p, hire=new))
    rows += [(one, hire.field(one.key.removeprefix("hire."))) for one in HIRE]
    carry = Place(lambda p: p.carry, lambda p, new: replace(p, carry=new))
    rows += [(one, carry.field(one.key.removeprefix("carry."))) for one in CARRY]
    if stage.get(project).id:
        rows.append((CEILING, stage.field("ceiling_m")))
    for thing in stage.get(project).things:
        rows += _of_thing(thing, named(stage.field("things"), thing.id, f"set {stage.get(project).id}, things"))
    return {parameter.key: Binding(parameter, place) for parameter, place in rows}


def _rpm(shot: Shot) -> float:
    """Turns a minute at its fastest."""
    turns = 1.0 if shot.move == shots.CIRCLE else abs(shot.arc_rad) / (2 * math.pi)
    return 60 * turns * timing(shot.keys, shot.segments).peak_speed


def _turning_at(shot: Shot, value: float) -> Shot:
    """The shot with its time such that it turns so fast; raises InputError where that is no time for a move."""
    time = shot.duration_s * _rpm(shot) / value
    shots.TIME.check(time)
    return timed(shot, time)


def parameters(project: Project, rig_id: str, shot_id: str = "") -> dict[str, Parameter]:
    """The same without their places."""
    return {key: binding.parameter for key, binding in bindings(project, rig_id, shot_id).items()}


def value_of(project: Project, rig_id: str, key: str, shot_id: str = "") -> Value:
    """The document's value of one parameter [SI]; for many, use the table. Raises InputError for an unknown key."""
    known = bindings(project, rig_id, shot_id)
    if key not in known:
        raise InputError("key", repr(key), "is not a parameter of this rig")
    found: Value = known[key].place.get(project)
    return found


def _of_rig(project: Project, rig: Place[Rig]) -> Rows:
    kind = declared_of(rig.get(project))
    if len(kind.variants) > 1:
        construction = Choice(
            "variant",
            "Construction",
            kind.variants,
            rig.get(project).variant,
            kind.parameters[0].group,
            "the sizes stay; what only another needs waits",
        )
        yield (
            construction,
            Place(lambda p: rig.get(p).variant, lambda p, variant: rig.put(p, _constructed(rig.get(p), variant))),
        )
    for parameter in kind.parameters:
        yield parameter, rig.field("design").entry(parameter.key)
    yield from of_drives(kind.axes, rig.get(project), rig.field("drives"))


def _constructed(rig: Rig, variant: str) -> Rig:
    """The rig in another construction: what still stood at the old one's usual value takes the new one's."""
    kind = declared_of(rig)
    old, new = kind.usual.get(rig.variant, {}), kind.usual.get(variant, {})
    default = {p.key: p.default for p in kind.parameters}
    moved = {key: new.get(key, default[key]) for key in {**old, **new} if rig.design[key] == old.get(key, default[key])}
    return replace(rig, variant=variant, design={**rig.design, **moved})


def _of_shot(project: Project, rig: Place[Rig], shot: Place[Shot]) -> Rows:
    now = shot.get(project)
    serving = Choice(
        "shot",
        "Shot",
        tuple((s.id, s.name) for s in project.shots),
        now.id,
        "The move",
        "a rig may serve several; picking one it does not serve yet makes it serve it",
        "shot",
    )
    yield (
        serving,
        Place(
            lambda p: shot.get(p).id,
            lambda p, new: rig.put(p, replace(rig.get(p), shots=(new, *(s for s in rig.get(p).shots if s != new)))),
        ),
    )
    timing = {
        "shot.time": Place(lambda p: shot.get(p).duration_s, lambda p, time: shot.put(p, timed(shot.get(p), time))),
        "shot.hold_start": Place(
            lambda p: shot.get(p).hold_start_s, lambda p, hold: shot.put(p, held(shot.get(p), hold))
        ),
        "shot.hold_end": shot.field("keys").item(-1).field("hold_s"),
        "shot.ramp": Place(
            lambda p: shot.get(p).ramp,
            lambda p, ramp: shot.put(
                p, replace(shot.get(p), segments=tuple(replace(s, ramp=ramp) for s in shot.get(p).segments))
            ),
        ),
    }
    things = tuple((t.id, t.name) for t in project.set_of(now).things)
    target = Choice(
        "shot.target",
        "Looks at",
        (("", "nothing"), *things),
        now.target,
        "The move",
        "",
        "shot",
        short="Looks at",
        beside=True,
    )
    for parameter in shots.PARAMETERS:
        if parameter.key == "shot.ramp":  # beside the time
            yield target, shot.field("target")
        yield parameter, timing.get(parameter.key) or _field(shot, *shots.FIELDS[parameter.key])
    yield from _of_keys(shot, now)
    yield from _of_axes(shot, now)
    # What was looked at stands on the set that is left.
    staged = Place(
        lambda p: shot.get(p).set,
        lambda p, new: shot.put(p, replace(shot.get(p), set=new, **({"target": ""} if new != shot.get(p).set else {}))),
    )
    yield (
        Choice(
            "shot.set",
            "Set",
            (("", "none"), *((s.id, s.name) for s in project.sets)),
            now.set,
            "On the set",
            "",
            "shot",
        ),
        staged,
    )
    for n in range(len(now.via_m)):
        for axis, place in enumerate(ON_SET):
            passed = _of(place, f"via.{n}", f"Way point {n + 1}", group="Way points", words="the lens passes here")
            yield passed, shot.field("via_m").item(n).item(axis)


def _of_keys(shot: Place[Shot], now: Shot) -> Rows:
    """Keys after the first where there are more than two, and the shape of every stretch."""
    last = len(now.keys) - 1
    for n in range(1, len(now.keys)) if last > 1 else ():
        key = shot.field("keys").item(n)
        yield _of(AT_KEY, f"key.{n}", f"Key {n + 1}"), changed_by(shot, key.field("time_s"), partial(keyed, n=n))
        yield _of(SHARE, f"key.{n}", f"Key {n + 1}"), key.field("share")
        if n < last:
            yield _of(STAYS, f"key.{n}", f"Key {n + 1}"), changed_by(shot, key.field("hold_s"), partial(rested, n=n))
    for n in range(len(now.segments)):
        name = "Shape" if len(now.segments) == 1 else f"From key {n + 1}"
        shape = replace(MOVES, key=f"stretch.{n}.shape", label=name)
        yield shape, shot.field("segments").item(n).field("shape")


def _of_axes(shot: Place[Shot], now: Shot) -> Rows:
    """How each axis of the head is worked and by whom; what only heads worked axis by axis ask is left out for
    others."""
    for axis in now.axes:
        place, key, name = named(shot.field("axes"), axis.id, "axes"), f"axis.{axis.id}", axis.id.capitalize()
        apart = axis.id == shots.FOCUS or now.aim == shots.EACH
        if apart:
            yield replace(HOWS[axis.id], key=f"{key}.how"), changed_by(place, place.field("how"), _worked)
        if apart or (axis.id != shots.ROLL and now.aim == shots.KEPT):
            yield replace(WORKED, key=f"{key}.by", label=f"{name}, worked by"), place.field("by")
        if apart and axis.how != shots.KEPT:
            many = len(axis.keys) if axis.how == shots.KEYED else min(1, len(axis.keys))
            for n in range(many):
                stands = place.field("keys").item(n)
                at = f"{name}, key {n + 1}" if axis.how == shots.KEYED else f"{name}, fixed"
                if axis.how == shots.KEYED:
                    time = changed_by(place, stands.field("time_s"), partial(axis_keyed, n=n))
                    yield _of(AXIS_TIME, f"{key}.{n}", at), time
                yield _of(ON_AXIS[axis.id], f"{key}.{n}", at), stands.field("value")


def _worked(axis: Axis, value: str) -> Axis:
    """The axis worked in another way; one that has keys has one at the least,
    a focus that is set once may have none."""
    bare = value == shots.KEPT or (value, axis.id) == (shots.FIXED, shots.FOCUS)
    keys = axis.keys or (() if bare else (AxisKey(time_s=0.0, value=ON_AXIS[axis.id].default),))
    return replace(axis, how=value, keys=keys)


def _of(quantity: Quantity, key: str, name: str, **other: Any) -> Quantity:
    """A place or size of one thing in particular."""
    return replace(quantity, key=f"{key}.{quantity.key}", label=f"{plain(name, IN_LABEL)}, {quantity.label}", **other)


def _field(shot: Place[Shot], name: str, index: int | None = None) -> Place[Any]:
    return shot.field(name) if index is None else shot.field(name).item(index)


def _of_kit(project: Project, rig: Place[Rig], kit: Place[Kit]) -> Rows:
    yield (
        Choice(
            "kit",
            "Camera kit",
            tuple((k.id, k.name) for k in project.kits),
            rig.get(project).kit,
            "Camera kit",
            "",
            "shot",
        ),
        rig.field("kit"),
    )
    yield HEAD, kit.field("head")
    items = kit.get(project).items
    for n, item in enumerate(items):
        yield (
            replace(MASS, key=f"kit.{n}.mass", label=plain(item.name, IN_LABEL)),
            kit.field("items").item(n).field("mass_kg"),
        )
    for n, item in enumerate(items):
        for axis, place in enumerate(ON_MOUNT):
            yield _of(place, f"kit.{n}", item.name), kit.field("items").item(n).field("at_m").item(axis)
    for axis, place in enumerate(ON_MOUNT):
        lens = _of(place, "lens", "Lens", words="front of the lens", default=0.05)
        yield lens, kit.field("lens_at_m").item(axis)
    yield DEPTH, kit.field("socket_depth_m")
    yield THREAD, kit.field("socket_thread")


def _of_thing(thing: Thing, place: Place[Thing]) -> Rows:
    key, name = f"thing.{thing.id}", thing.name
    for axis, where in enumerate(ON_SET):
        yield _of(where, key, name, group=name), place.field("at_m").item(axis)
    for axis, extent in enumerate(EXTENT):
        yield _of(extent, key, name, group=name), place.field("size_m").item(axis)
    yield _of(TURN, key, name, group=name), place.field("turn_rad")
    for n in range(len(thing.stops)):
        stop, at, words = place.field("stops").item(n), f"{key}.stop.{n}", f"{name}, stop {n + 1}"
        yield _of(AT_STOP, at, words, group=name), changed_by(place, stop.field("time_s"), partial(come, n=n))
        for axis, where in enumerate(ON_SET):
            yield _of(where, at, words, group=name), stop.field("at_m").item(axis)
        yield _of(TURN, at, words, group=name), stop.field("turn_rad")
