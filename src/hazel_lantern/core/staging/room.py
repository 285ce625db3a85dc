"""The rig on its set: in its own picture, against things, near people, under a ceiling, over the places it serves."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.kinds.base import Kind, Member, Members
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STOP, WATCH, Finding
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.moves import Scene, Staged
from hazel_lantern.core.staging.passing import STEP
from hazel_lantern.core.staging.things import ANCHOR, BEAM, BOX, PERSON, ROOM, TABLE, ZONE, inside, plain
from hazel_lantern.core.staging.walking import things_at, track

MARGIN = 0.05
ALONG = np.linspace(0.0, 1.0, 7)  # places looked at along each piece of a rig
FINE, FINEST = 0.02, 60  # metres moved between two looks at what may meet, and how many looks there are at the most


class Swept(Struct, frozen=True):
    """Where members are over some moments: points all along them (n, members, points, 3), the box those lie in, from
    `low` to `high` (3,), and how thick each is (members,) [m].
    """

    points: np.ndarray
    thick: np.ndarray
    low: tuple[float, ...]
    high: tuple[float, ...]

    @classmethod
    def of(cls, ends: np.ndarray, thick: np.ndarray) -> Swept:
        """Of members from end to end (n, members, 2, 3) [m]."""
        flat = ends.reshape(-1, 3).T.copy()
        return cls(along(ends), thick, tuple(flat.min(axis=1).tolist()), tuple(flat.max(axis=1).tolist()))

    def grown(self, by: float) -> Swept:
        """All of it thicker by so much [m]."""
        return replace(self, thick=self.thick + by)

    def at(self, moment: int) -> Swept:
        """At one of the moments, by number."""
        return replace(self, points=self.points[moment : moment + 1])


def room(shot: Shot, stage: FilmSet, kind: Kind, pieces: Members, scene: Scene, seen: Staged) -> Told:
    """Rig in the picture, rig against things, room under the ceiling."""
    tell, made = Teller(), pieces
    members, ends = made.pieces, seen.where.on_set(made.ends)
    radius = np.array([m.radius for m in members])
    tell.take(_in_picture(shot, members, ends, radius, seen))
    if stage.things:
        tell.take(_meets(shot, stage, kind, scene, seen, members, ends, radius))
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
            when = float(seen.times[k] - shot.leaves_s)
            tell.findings.append(
                Finding(
                    "shot.rig_seen",
                    "Rig in the picture",
                    PICTURE,
                    WATCH,
                    "shot.focal",
                    Words(
                        f"The picture shows the {members[m].name} at {{}}; a margin of a twentieth is kept.",
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


def _meets(
    shot: Shot,
    stage: FilmSet,
    kind: Kind,
    scene: Scene,
    seen: Staged,
    members: tuple[Member, ...],
    ends: np.ndarray,
    grown: np.ndarray,
) -> Told:
    """Parts of the rig inside things or no-go places, holds included; `ends` (poses, members, 2, 3) on the set, each
    member as thick as `grown` (members,) says.
    """
    tell, path, swept = Teller(), scene.path, Swept.of(ends, grown)
    step = float(np.linalg.norm(np.diff(ends, axis=0), axis=-1).max(initial=0.0))
    for thing in stage.things:
        if thing.kind in (ANCHOR, ROOM, BEAM):
            continue
        touched = _ever(thing, seen.times, swept)
        walked = _steps(thing, seen.times)
        if not touched.any() and _ever(thing, seen.times, swept.grown(step / 2 + walked)).any():
            # It comes near: looked at as closely as two centimetres between the usual moments.
            finer = min(FINEST, math.ceil((step + walked) / FINE))
            share = np.interp(np.arange(0, len(ends) - 1, 1 / finer), np.arange(len(ends)), path.move.moments)
            there = scene.where.on_set(kind.members(path.model, path.at(share)).ends)
            touched = _ever(thing, path.move.clock(share), Swept.of(there, grown))
        if thing.stops and not touched.any():
            for still, clock in _holds(shot, ends, seen.times):
                touched = touched | _ever(thing, clock, Swept.of(np.repeat(still[None], len(clock), axis=0), grown))
        if touched.any():
            member, no_go = members[int(np.argmax(touched))], thing.kind == ZONE
            tell.findings.append(
                Finding(
                    f"shot.hits.{thing.id}",
                    "Into a no-go place" if no_go else f"Rig meets {thing.name}",
                    PEOPLE if no_go or thing.kind == PERSON else PICTURE,
                    STOP,
                    f"thing.{thing.id}.x",
                    Words(f"The {member.name} and {plain(thing)} meet during the move. Move one of them."),
                )
            )
    return tell.told()


def along(ends: np.ndarray) -> np.ndarray:
    """Points (poses, members, points, 3) all along pieces whose ends are (poses, members, 2, 3)."""
    return np.asarray(ends[:, :, None, 0] + (ends[:, :, 1] - ends[:, :, 0])[:, :, None] * ALONG[:, None])


def _steps(thing: Thing, times: np.ndarray) -> float:
    """The furthest any of it moves between two of those moments [m]."""
    if not thing.stops:
        return 0.0
    way = track(thing, times)
    turned = np.abs(np.diff(way[:, 3])).max(initial=0.0) * math.hypot(*thing.size_m[:2]) / 2
    return float(np.linalg.norm(np.diff(way[:, :3], axis=0), axis=1).max(initial=0.0) + turned)


def _holds(shot: Shot, ends: np.ndarray, times: np.ndarray) -> list[tuple[np.ndarray, np.ndarray]]:
    """How the rig stands before it leaves and after it has come, and the clock meanwhile."""
    waits = ((ends[0], 0.0, float(times[0])), (ends[-1], float(times[-1]), float(times[-1]) + shot.hold_end_s))
    return [(still, np.arange(begins, stops, STEP)) for still, begins, stops in waits if stops > begins]


def _ever(thing: Thing, times: np.ndarray, swept: Swept) -> np.ndarray:
    """Which members (members,) come into a thing at any of those moments (n,)."""
    if not thing.stops:
        return _touched(thing, swept)
    stood = things_at([thing], times)
    return np.asarray(np.any([_touched(now, swept.at(k)) for k, (now,) in enumerate(stood)], axis=0))


def _touched(thing: Thing, swept: Swept) -> np.ndarray:
    """Which members (members,) come into a thing where it stands, each by its own thickness."""
    reach, points = math.hypot(*thing.size_m[:2]) / 2 + float(swept.thick.max()), swept.points
    bounds = zip(swept.low[:2], thing.at_m[:2], swept.high[:2], strict=True)
    if any(not low - reach <= at <= high + reach for low, at, high in bounds):
        return np.zeros(points.shape[1], bool)
    thick = np.broadcast_to(swept.thick[:, None], points.shape[:3]).ravel()
    return np.asarray(inside(thing, points.reshape(-1, 3), thick).reshape(points.shape[:3]).any(axis=(0, 2)))


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
