"""The rig on its set: in its own picture, against things, near people, under a ceiling, over the places it serves."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.kinds.base import Kind, Member, Members
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, WATCH, Finding
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.moves import SAMPLES, Staged
from hazel_lantern.core.staging.things import ANCHOR, BEAM, BOX, PERSON, ROOM, TABLE, ZONE, inside, plain
from hazel_lantern.core.staging.walking import things_at

MARGIN = 0.05
ALONG = np.linspace(0.0, 1.0, 7)  # places looked at along each piece of a rig


def room(shot: Shot, stage: FilmSet, pieces: Members, staged: Staged | str) -> Told:
    """Rig in the picture, rig against things, room under the ceiling."""
    if isinstance(staged, str):
        return Told()
    tell, seen, made = Teller(), staged, pieces
    members, ends = made.pieces, seen.where.on_set(made.ends)
    radius = np.array([m.radius for m in members])
    tell.take(_in_picture(shot, members, ends, radius, seen))
    if stage.things:
        along = ends[:, :, None, 0] + (ends[:, :, 1] - ends[:, :, 0])[:, :, None] * ALONG[:, None]
        stood = things_at(stage.things, seen.times)
        tell.take(_meets(stood, members, along, float(radius.max())))
    ceiling = stage.ceiling_m
    if ceiling:
        tallest = float((ends[..., 2].max(axis=(0, 2)) + radius).max())
        tell.add(
            by_method(
                "shot.tallest",
                "Rig reaches up to",
                tallest,
                "m",
                "highest of all members over the move, with their thickness",
                (Given("h_end", shot.end_height_m, "m", "lens at the end", "shot.end"),),
                source="geometry",
            )
        )
        state = STOP if tallest > ceiling else WATCH if tallest > ceiling - 0.1 else CLEAR
        tell.hold(
            "shot.tallest",
            "shot.ceiling",
            "Room under the ceiling",
            PICTURE,
            "shot.end",
            "The rig reaches up to {} under a ceiling of {}.",
            at_most=ceiling,
            state=state,
        )
    return tell.told()


def _in_picture(shot: Shot, members: tuple[Member, ...], ends: np.ndarray, radius: np.ndarray, seen: Staged) -> Told:
    """Parts of the rig inside the view, a margin added; `ends` (poses, members, 2, 3) on the set."""
    tell = Teller()
    camera = seen.camera
    tan_h, tan_v = (
        (1 + MARGIN) * shot.squeeze * shot.sensor_width_m / (2 * shot.focal_m),
        (1 + MARGIN) * shot.sensor_height_m / (2 * shot.focal_m),
    )
    shape = ends.shape
    local = pose.camera_points(camera.matrices, camera.places, ends.reshape(shape[0], -1, 3)).reshape(shape)
    for k, m in np.argwhere(pose.may_show(local, tan_h, tan_v, radius)).tolist():
        if pose.clip(local[k, m, 0], local[k, m, 1], tan_h, tan_v, float(radius[m])):
            when = float(SAMPLES[k] * shot.duration_s)
            tell.findings.append(
                Finding(
                    "shot.rig_seen",
                    "Rig in the picture",
                    PICTURE,
                    WATCH,
                    "shot.focal",
                    Words(
                        f"The {members[m].name} comes into the picture at {{}}; a margin of a twentieth is kept.",
                        ((when, "s"),),
                    ),
                )
            )
            return tell.told()
    tell.findings.append(
        Finding(
            "shot.rig_seen",
            "Rig in the picture",
            PICTURE,
            CLEAR,
            "shot.focal",
            Words("No part of the rig comes into the picture."),
            0.0,
            0.0,
            "at_most",
            "count",
        )
    )
    return tell.told()


Stood = list[tuple[Thing, ...]]  # the things as they stand at each pose, or once for all where none of them moves


def _meets(stood: Stood, members: tuple[Member, ...], along: np.ndarray, grown: float) -> Told:
    """Parts of the rig inside things or no-go places; `along` (poses, members, points, 3) on the set."""
    tell = Teller()
    for n, thing in enumerate(stood[0]):
        if thing.kind in (ANCHOR, ROOM, BEAM):
            continue
        whole = [(thing, along)] if not thing.stops else [(stood[k][n], along[k : k + 1]) for k in range(len(along))]
        touched = np.any([_touched(one, part, grown) for one, part in whole], axis=0)
        if touched.any():
            member, no_go = members[int(np.argmax(touched))], thing.kind == ZONE
            tell.findings.append(
                Finding(
                    f"shot.hits.{thing.id}",
                    "Into a no-go place" if no_go else f"Rig meets {thing.name}",
                    PEOPLE if no_go or thing.kind == PERSON else PICTURE,
                    STOP,
                    f"thing.{thing.id}.x",
                    Words(f"The {member.name} runs into {plain(thing)} during the move. Move one of them."),
                )
            )
    return tell.told()


def _touched(thing: Thing, along: np.ndarray, grown: float) -> np.ndarray:
    """Which members (members,) come into a thing where it stands."""
    reach = math.hypot(*thing.size_m[:2]) / 2 + grown
    low, high = along.min(axis=(0, 1, 2)).tolist(), along.max(axis=(0, 1, 2)).tolist()
    if any(not a - reach <= at <= b + reach for a, at, b in zip(low[:2], thing.at_m[:2], high[:2], strict=True)):
        return np.zeros(along.shape[1], bool)
    return np.asarray(inside(thing, along.reshape(-1, 3), grown).reshape(along.shape[:3]).any(axis=(0, 2)))


def place_figures(stage: FilmSet, kind: Kind, model: object, seen: Staged) -> Told:
    """Tables and boxes that a rig which serves many places can be brought over, and from how high."""
    tell = Teller()
    wanted = [thing for thing in stage.things if thing.kind in (TABLE, BOX)]
    if not wanted or kind.reaches is None:
        return tell.told()
    tops = np.array([(*thing.at_m[:2], thing.at_m[2] + thing.size_m[2]) for thing in wanted])
    can = kind.reaches.over(model, seen.where.off_set(tops))
    missed = [plain(thing) for thing, within in zip(wanted, can, strict=True) if not within]
    words = (
        Words(f"Out of reach: {', '.join(missed)}.")
        if missed
        else Words("The camera can be brought over " + ", ".join(plain(thing) for thing in wanted) + ".")
    )
    tell.findings.append(
        Finding(
            "shot.places",
            "Places to reach",
            PICTURE,
            WATCH if missed else CLEAR,
            kind.reaches.set_by,
            words,
            float(len(missed)),
            0.0,
            "at_most",
            "count",
        )
    )
    above = seen.camera.places[:, 2].min() - tops[:, 2]
    for thing, height, within in zip(wanted, above, can, strict=True):
        if within:
            tell.add(
                by_method(
                    f"shot.above.{thing.id}",
                    f"Lens above {thing.name}",
                    float(height),
                    "m",
                    "lens height less the top of it",
                    (Given("z", float(thing.at_m[2] + thing.size_m[2]), "m", "its top", f"thing.{thing.id}.height"),),
                    source="geometry",
                )
            )
    return tell.told()
