"""How near the moving part of a rig comes to people, those who stand and those who walk."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Shot, Thing
from hazel_lantern.core.kinds.base import Kind, Members
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, WATCH
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.moves import Scene, Staged
from hazel_lantern.core.staging.things import PERSON, plain, stands
from hazel_lantern.core.staging.walking import fastest, track

NEAR_PEOPLE = 1.0
BRISK = 2.0  # m/s, about as fast as people walk
FINER = 2  # times 16 closer: a thousandth of a second of an eight-second move
STEP = 0.02  # seconds between the moments of a hold that are looked at


def people(shot: Shot, stage: FilmSet, kind: Kind, pieces: Members, scene: Scene, seen: Staged) -> Told:
    """The smallest gap between what moves and a person at the same moment, holds included; how fast people walk."""
    tell = Teller()
    gaps = [
        (_nearest(shot, kind, pieces, scene, seen, thing) - thing.size_m[0] / 2, thing)
        for thing in stage.things
        if thing.kind == PERSON
    ]
    if not gaps:
        return tell.told()
    gap, person = min(gaps, key=lambda pair: pair[0])
    tell.add(
        by_method(
            "shot.passes",
            "Passes people at",
            gap,
            "m",
            "least distance over the ground from what moves, less half a person's width",
            stands(person),
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
    tell.take(_walkers([thing for thing in stage.things if thing.kind == PERSON and thing.stops]))
    return tell.told()


def _nearest(shot: Shot, kind: Kind, pieces: Members, scene: Scene, seen: Staged, person: Thing) -> float:
    """Least distance over the ground from anything that moves to the middle of a person [m]."""
    moving = np.array([member.moves for member in pieces.pieces])
    lines = seen.where.on_set(pieces.ends)[:, moving, :, :2]

    def gaps(share: np.ndarray) -> np.ndarray:
        ends = kind.members(scene.path.model, scene.path.at(share)).ends
        at = track(person, scene.path.move.clock(share))[:, :2]
        return away(scene.where.on_set(ends)[:, moving, :, :2], at)

    moments = scene.path.move.moments
    far = away(lines, track(person, seen.times)[:, :2])
    found = [float(far.min())]
    # Between the usual moments it may come nearer still.
    for k in range(len(far)):
        low, high = max(0, k - 1), min(len(far) - 1, k + 1)
        if far[k] <= far[low] and far[k] <= far[high]:
            found.append(_least(gaps, float(moments[low]), float(moments[high])))
    if person.stops:
        arrives = float(seen.times[-1])
        for from_, to, pose in ((0.0, float(seen.times[0]), lines[0]), (arrives, arrives + shot.hold_end_s, lines[-1])):
            if to > from_:
                at = track(person, np.linspace(from_, to, 2 + int((to - from_) / STEP)))[:, :2]
                found.append(float(away(pose[None], at).min()))
    return min(found)


def _least(of: Callable[[np.ndarray], np.ndarray], low: float, high: float) -> float:
    """The least of a figure between two shares of the time, looked at ever more closely."""
    least = np.inf
    for _ in range(FINER):
        share = np.linspace(low, high, 33)
        there = of(share)
        k = int(there.argmin())
        least = min(least, float(there[k]))
        low, high = share[max(0, k - 1)], share[min(32, k + 1)]
    return least


def away(lines: np.ndarray, at: np.ndarray) -> np.ndarray:
    """Least distance (n,) from points (n, 2) to any of the straight lines (n or 1, m, 2, 2) of the same moment [m]."""
    start, along = lines[..., 0, :], lines[..., 1, :] - lines[..., 0, :]
    length = np.maximum((along**2).sum(axis=-1), 1e-18)
    to = at[:, None] - start
    share = np.clip((to * along).sum(axis=-1) / length, 0.0, 1.0)
    return np.asarray(np.linalg.norm(to - share[..., None] * along, axis=-1).min(axis=-1))


def _walkers(walkers: list[Thing]) -> Told:
    """Whether anybody would have to run."""
    tell = Teller()
    if not walkers:
        return tell.told()
    pace, person = max(((fastest(thing), thing) for thing in walkers), key=lambda pair: pair[0])
    key = f"thing.{person.id}.stop.0.time"
    tell.add(
        by_method(
            "shot.walk",
            "People walk at most at",
            pace,
            "m/s",
            "greatest speed over the ground between stops, passed without stopping",
            (Given("t", person.stops[0].time_s, "s", f"{person.name}, at the first stop", key),),
            source="drive 4.4",
        )
    )
    state = WATCH if pace > BRISK else CLEAR
    said = "would have to run, at {}" if state == WATCH else "walks at up to {}"
    words = Words(f"{plain(person)} {said}.", ((pace, "m/s"),))
    tell.hold("shot.walk", "shot.walking", "Walking", PEOPLE, key, words, at_most=BRISK, state=state)
    return tell.told()
