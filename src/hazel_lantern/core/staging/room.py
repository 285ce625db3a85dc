"""The rig on its set: in its own picture, against things, near people, under a ceiling, over the places it serves."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Shot
from hazel_lantern.core.kinds.base import Kind, Member, Members
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, WATCH, Finding
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.moves import SAMPLES, Staged
from hazel_lantern.core.staging.things import ANCHOR, BEAM, BOX, PERSON, ROOM, TABLE, ZONE, inside, plain

MARGIN = 0.05
ALONG = np.linspace(0.0, 1.0, 7)  # places looked at along each piece of a rig
NEAR_PEOPLE = 1.0


def room(shot: Shot, stage: FilmSet, pieces: Members, staged: Staged | str) -> Told:
    """Rig in the picture, rig against things, people near."""
    if isinstance(staged, str):
        return Told()
    tell, seen, made = Teller(), staged, pieces
    members, ends = made.pieces, seen.where.on_set(made.ends)
    radius = np.array([m.radius for m in members])
    tell.take(_in_picture(shot, members, ends, radius, seen))
    if stage.things:
        along = ends[:, :, None, 0] + (ends[:, :, 1] - ends[:, :, 0])[:, :, None] * ALONG[:, None]
        tell.take(_meets(stage, members, along, float(radius.max())))
        tell.take(_people(stage, along[:, [m.moves for m in members]].reshape(-1, 3)))
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
    local = pose.camera_points(camera.matrices[::4], camera.places[::4], ends.reshape(shape[0], -1, 3)).reshape(shape)
    for k, m in np.argwhere(pose.may_show(local, tan_h, tan_v, radius)).tolist():
        if pose.clip(local[k, m, 0], local[k, m, 1], tan_h, tan_v, float(radius[m])):
            when = float(SAMPLES[4 * k] * shot.duration_s)
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


def _meets(stage: FilmSet, members: tuple[Member, ...], along: np.ndarray, grown: float) -> Told:
    """Parts of the rig inside things or no-go places; `along` (poses, members, points, 3) on the set."""
    tell = Teller()
    low, high = along.min(axis=(0, 1, 2)).tolist(), along.max(axis=(0, 1, 2)).tolist()
    for thing in stage.things:
        reach = math.hypot(*thing.size_m[:2]) / 2 + grown
        if thing.kind in (ANCHOR, ROOM, BEAM) or any(
            not a - reach <= at <= b + reach for a, at, b in zip(low[:2], thing.at_m[:2], high[:2], strict=True)
        ):
            continue
        touched = inside(thing, along.reshape(-1, 3), grown).reshape(along.shape[:3]).any(axis=(0, 2))
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


def _people(stage: FilmSet, moving: np.ndarray) -> Told:
    """The smallest gap between what moves, points (n, 3), and a person."""
    tell = Teller()
    people = [thing for thing in stage.things if thing.kind == PERSON]
    gaps = [
        (float(np.hypot(*(moving[:, :2] - person.at_m[:2]).T).min()) - person.size_m[0] / 2, person)
        for person in people
    ]
    if gaps:
        gap, person = min(gaps, key=lambda pair: pair[0])
        given = (
            Given("x", person.at_m[0], "m", f"{person.name}, right", f"thing.{person.id}.x"),
            Given("y", person.at_m[1], "m", f"{person.name}, deep", f"thing.{person.id}.y"),
        )
        tell.add(
            by_method(
                "shot.passes",
                "Passes people at",
                gap,
                "m",
                "least distance over the ground from what moves, less half a person's width",
                given,
                source="geometry",
            )
        )
        state = WATCH if gap < NEAR_PEOPLE else CLEAR
        words = Words(
            f"The moving part passes {{}} from {plain(person)}."
            + (" Agree on hand signals; nobody under or beside it." if state == WATCH else ""),
            ((max(0.0, gap), "m"),),
        )
        tell.hold(
            "shot.passes",
            "shot.people",
            "People near the move",
            PEOPLE,
            "shot.target",
            words,
            at_least=NEAR_PEOPLE,
            state=state,
        )
    return tell.told()


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
