"""The chapters of a report that drives add, for every kind alike."""

from __future__ import annotations

from typing import Any

import numpy as np

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Drive, Shot
from hazel_lantern.core.driving.bought import drive_list
from hazel_lantern.core.driving.driven import Broken, Driven, put_together
from hazel_lantern.core.driving.gearbox import Box, boxes
from hazel_lantern.core.driving.load import Load, Moving, load, moving
from hazel_lantern.core.driving.seen import lens_way, pixels
from hazel_lantern.core.driving.told.telling import telling
from hazel_lantern.core.kinds.base import Chapter, DriveAxis, Held, Kind
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Buy

DRIVES = "driven_told"


def chapters(kind: Kind, drives: tuple[Drive, ...]) -> tuple[Chapter, ...]:
    """What drives ask of a kind's own chapters; none where nothing is driven."""
    if not drives:
        return ()
    return (
        Chapter("held_axes", kind.held),
        Chapter("in_motion", in_motion),
        Chapter("loads", loads),
        Chapter("driven", driven),
        Chapter("gearbox", gearbox),
        Chapter("driven_bought", bought),
        Chapter(DRIVES, told),
    )


def each(kind: Kind, drives: tuple[Drive, ...]) -> list[tuple[int, DriveAxis, Drive]]:
    """The driven axes in the kind's own order, with their place in it."""
    by_key = {drive.axis: drive for drive in drives}
    return [(n, axis, by_key[axis.key]) for n, axis in enumerate(kind.axes) if axis.key in by_key]


def in_motion(kind: Kind, model: Any, move: Move, path: Path, laid: Laid) -> Moving:
    """The rig over its move, for all of its axes."""
    return moving(model, move, path, laid, kind.bodies)


def loads(
    kind: Kind, drives: tuple[Drive, ...], held_axes: tuple[Held, ...], in_motion: Moving, model: Any
) -> tuple[Load, ...]:
    """What every driven axis has to move over the shot, whatever stands on the set."""
    return tuple(load(axis, in_motion, model, kind.bodies, held_axes[n]) for n, axis, _ in each(kind, drives))


def driven(
    kind: Kind,
    drives: tuple[Drive, ...],
    held_axes: tuple[Held, ...],
    loads: tuple[Load, ...],
    move: Move,
    path: Path,
    shelf: Catalogue,
    optics: Optics,
    staged: Staged | str,
) -> tuple[Driven | Broken, ...]:
    """Every driven axis put together over the shot; without a picture of it nothing is said in pixels."""
    found = []
    for (n, axis, drive), loaded in zip(each(kind, drives), loads, strict=True):
        held = held_axes[n]
        if isinstance(staged, str):
            seen = np.zeros(1), np.full(1, held.lever)
        else:
            seen = pixels(axis, path, optics, staged, kind.mount), lens_way(axis, path, staged, kind.mount)
        found.append(put_together(axis, drive, held, loaded, shelf, move.duration_s, seen))
    return tuple(found)


def gearbox(kind: Kind, drives: tuple[Drive, ...], held_axes: tuple[Held, ...], shelf: Catalogue) -> Box:
    """What is cut for them."""
    return boxes(each(kind, drives), held_axes, shelf)


def bought(
    kind: Kind, drives: tuple[Drive, ...], held_axes: tuple[Held, ...], shelf: Catalogue, gearbox: Box
) -> tuple[Buy, ...]:
    """All that drives add to the buy list."""
    rows = each(kind, drives)
    found = tuple(buy for n, axis, drive in rows for buy in drive_list(axis, drive, held_axes[n], shelf))
    return found + gearbox.bought


def told(kind: Kind, driven: tuple[Driven | Broken, ...], shelf: Catalogue, shot: Shot, suggest: bool) -> Told:
    """What is said of them."""
    return telling(kind.axes, driven, shelf, shot, suggest=suggest)


def headline(kind: Kind, drives: tuple[Drive, ...], found: tuple[Driven | Broken, ...]) -> Words:
    """The station's line: the first driven axis, and how many are."""
    rows = each(kind, drives)
    if not rows:
        return Words("nothing driven yet")
    if len(rows) > 1:
        names = ", ".join(f"{axis.name.lower()} {d.NAMES[drive.source]}" for _, axis, drive in rows)
        return Words(names)
    one, words = found[0] if found else None, d.NAMES[rows[0][2].source]
    if not isinstance(one, Driven) or not one.made:
        return Words(words)
    if one.chain.travel:
        return Words(f"{words}, {{}} a turn", ((one.chain.travel / one.chain.ratio, "m"),))
    return Words(f"{words}, 1 : {one.chain.ratio:.4g}")
