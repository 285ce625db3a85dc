"""People under or beside what could fall or swing to them:
the zone of a rig against those who sit and stand on the set."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document.project import FilmSet, Thing
from hazel_lantern.core.kinds.base import Design, Standing
from hazel_lantern.core.kinds.fall import FallZone
from hazel_lantern.core.nouns.figure import by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, WATCH, Remedy, set_one
from hazel_lantern.core.nouns.sketch import SWEEP, Item, Note, Stroke
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import PERSON, plain, stands
from hazel_lantern.core.staging.walking import places

SPARE = 0.05  # metres beyond the zone to which people are moved
AROUND = np.linspace(0.0, 2 * math.pi, 73)


def fall_figures(stage: FilmSet, zone: FallZone, design: Design, suggest: bool, seen: Staged) -> Told:
    """The person nearest to where something could fall, or deepest inside it; and where all would stand clear."""
    tell = Teller()
    people = [thing for thing in stage.things if thing.kind == PERSON]
    if not people:
        return Told()
    core = seen.where.on_set(np.column_stack([zone.core, np.zeros(len(zone.core))]))[:, :2]
    # Those who walk are taken where their way comes nearest to it.
    people = [min(places(person), key=lambda at: _gap(core, zone.grown, at)) for person in people]
    gaps = [_gap(core, zone.grown, person) for person in people]
    gap, person = min(zip(gaps, people, strict=True), key=lambda pair: pair[0])
    tell.add(
        by_method(
            "shot.fall_gap",
            "Nearest person to the fall zone",
            gap,
            "m",
            "over the ground from where anything could fall or swing to over the whole travel; minus is inside",
            stands(person),
            source="geometry",
        )
    )
    inside = [other for other, far in zip(people, gaps, strict=True) if far < 0]
    known = zone.reckons is not None and design.text(zone.reckons[0]) == zone.reckons[1]
    state = CLEAR if gap >= 0 else WATCH if known else STOP
    named = ", ".join(plain(other) for other in inside) or plain(person)
    words = Words(
        f"{named}: {{}} inside of where the rig {zone.does}."
        + (" Agree on who moves when; nobody under the arm." if known else " Nobody stands or sits there.")
        if gap < 0
        else f"Nobody is where the rig {zone.does}; the nearest is {named}, {{}} away.",
        ((abs(gap), "m"),),
    )
    tell.hold(
        "shot.fall_gap",
        "shot.fall_zone",
        "People where it could fall",
        PEOPLE,
        f"thing.{person.id}.x",
        words,
        at_least=0.0,
        state=state,
        remedies=_mend(stage, core, zone, inside, design) if suggest else (),
    )
    return tell.told()


def _gap(core: np.ndarray, grown: float, person: Thing) -> float:
    """From the zone to a person's outline, below zero inside [m]."""
    return distance(core, np.asarray(person.at_m[:2]))[0] - grown - person.size_m[0] / 2


def distance(core: np.ndarray, point: np.ndarray) -> tuple[float, np.ndarray]:
    """How far a point lies from a convex outline, below zero inside, and which way leads out of it.

    core: corners (k, 2) in order, two for a line, one for a place [m]
    point: (2,) [m]

    Returns: distance [m] and unit vector (2,). Source: nearest point of each edge.
    """
    ends = np.roll(core, -1, axis=0)
    along = ends - core
    length = np.maximum((along**2).sum(axis=1), 1e-18)
    share = np.clip(((point - core) * along).sum(axis=1) / length, 0.0, 1.0)
    near = core + share[:, None] * along
    away = point - near
    far = np.hypot(*away.T)
    k = int(far.argmin())
    turns = along[:, 0] * (point - core)[:, 1] - along[:, 1] * (point - core)[:, 0]
    within = len(core) > 2 and (np.all(turns > 0) or np.all(turns < 0))
    way = away[k] / far[k] if far[k] > 1e-9 else np.array([0.0, 1.0])
    return (-float(far[k]), -way) if within else (float(far[k]), way)


def _mend(stage: FilmSet, core: np.ndarray, zone: FallZone, inside: list[Thing], design: Design) -> tuple[Remedy, ...]:
    """Those inside moved straight out of the zone, with the whole of their way; for an arm also the class that reckons
    with people.
    """
    if not inside:
        return ()
    changes: list[tuple[str, object]] = []
    most = 0.0
    for person in inside:
        at = np.asarray(person.at_m[:2])
        far, way = distance(core, at)
        step = zone.grown + person.size_m[0] / 2 + SPARE - far
        most = max(most, step)
        set_out = next(thing for thing in stage.things if thing.id == person.id)
        key = f"thing.{person.id}"
        whole = [(key, set_out.at_m), *((f"{key}.stop.{n}", stop.at_m) for n, stop in enumerate(set_out.stops))]
        for name, place in whole:
            x, y = (float(v) for v in np.round(np.asarray(place[:2]) + step * way, 3))
            changes += [(f"{name}.x", x), (f"{name}.y", y)]
    who = ", ".join(plain(person) for person in inside)
    found = [Remedy("aside", Words(f"Move {who} out, by up to {{}}", ((most, "m"),)), tuple(changes))]
    if zone.reckons is not None and design.text(zone.reckons[0]) != zone.reckons[1]:
        key, value, words = zone.reckons
        found.append(set_one("class", words, key, value))
    return tuple(found)


def drawn(zone: FallZone, where: Standing) -> list[Item]:
    """The zone on the plan: its outline, and what it is."""
    ring = zone.grown * np.column_stack([np.cos(AROUND), np.sin(AROUND)])
    # The furthest of the outline each way, grown: the outline of all circles round its corners.
    furthest = zone.core[np.argmax(zone.core @ ring.T, axis=0)]
    line = where.on_set(np.column_stack([furthest + ring, np.zeros(len(ring))]))[:, :2]
    top = line[int(np.argmax(line[:, 1]))]
    return [
        Stroke(line, "stop", dash=True, layer=SWEEP),
        Note((float(top[0]), float(top[1]) + 0.12), Words(zone.called), "stop", SWEEP),
    ]
