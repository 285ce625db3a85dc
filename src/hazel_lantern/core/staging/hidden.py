"""What stands before the subject and what lies behind it, as the lens sees them."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.document.project import Shot, Thing
from hazel_lantern.core.nouns.figure import by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Finding
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.moves import Staged
from hazel_lantern.core.staging.things import aim_point, all_corners, crossings, plain, stands
from hazel_lantern.core.staging.walking import things_at

NEAREST = 0.05
TOUCHING = 1e-6  # share of the line of sight: what the subject leans on does not hide it


class Outlines(Struct, frozen=True):
    """Things as the lens sees them along the move: where it would aim at each, in camera axes (moments, things, 3)
    [m]; the boxes around them, lowest and highest
    across and up (moments, things, 2) at a depth of one, their mean depth [m], and which are wholly before the lens."""

    aims: np.ndarray
    low: np.ndarray
    high: np.ndarray
    depth: np.ndarray
    ahead: np.ndarray


def outlines(seen: Staged, things: list[Thing]) -> Outlines:
    """All things at all moments. One that reaches behind the lens has no outline of its corners, so it is not
    `ahead`.
    """
    # Where nothing moves one row of points serves every moment.
    points = np.stack(
        [
            np.concatenate([all_corners(stood).reshape(-1, 3), [aim_point(thing) for thing in stood]])
            for stood in things_at(things, seen.times)
        ]
    )
    local = pose.camera_points(seen.camera.matrices, seen.camera.places, points)
    boxes, aims = local[:, : -len(things)].reshape(len(local), len(things), 8, 3), local[:, -len(things) :]
    depth = boxes[..., 2]
    flat = boxes[..., :2] / np.maximum(depth, NEAREST)[..., None]
    return Outlines(aims, flat.min(axis=2), flat.max(axis=2), depth.mean(axis=-1), depth.min(axis=-1) > NEAREST)


def behind_it(shot: Shot, seen: Staged, thing: Thing, things: list[Thing]) -> Told:
    """Whether the subject is hidden for a part of the move, and what is behind it at the start, half-way and at the
    end: what the line of sight to it passes through.
    """
    tell = Teller()
    places, other = seen.camera.places, np.array([one.id != thing.id for one in things])
    assert seen.target is not None
    stood = things_at(things, seen.times)
    if len(stood) == 1:
        enter, leave = crossings(stood[0], places, seen.target)
    else:
        met = [crossings(now, places[k : k + 1], seen.target[k : k + 1]) for k, now in enumerate(stood)]
        enter, leave = (np.concatenate(part) for part in zip(*met, strict=True))
    through = other & (enter < leave) & (leave > 0)
    before = through & (enter < 1 - TOUCHING)
    if before.any():
        k, m = (int(n) for n in np.argwhere(before)[0])
        share = float(before.any(axis=1).mean())
        tell.add(
            by_method(
                "shot.hidden_for",
                "Subject hidden for",
                share,
                "1",
                f"share of {len(seen.times)} moments at which something cuts the line of sight",
                stands(things[m]),
                source="geometry",
            )
        )
        words = Words(
            f"{plain(things[m])} hides {plain(thing)} at {{}}, in {{}} of the move.",
            ((float(seen.times[k] - shot.leaves_s), "s"), (share, "1")),
        )
        tell.hold(
            "shot.hidden_for",
            "shot.hidden",
            "Subject hidden",
            PICTURE,
            f"thing.{things[m].id}.x",
            words,
            at_most=0.0,
            state=WATCH,
        )
        return tell.told()
    beyond = np.where(through, enter, np.inf)
    names = [
        "open ground" if np.isinf(beyond[k]).all() else plain(things[int(np.argmin(beyond[k]))])
        for k in (0, seen.middle, -1)
    ]
    said = (
        f"{names[0]} all the way."
        if len(set(names)) == 1
        else f"{names[0]}, half-way {names[1]}, at the end {names[2]}."
    )
    tell.findings.append(
        Finding(
            "shot.hidden",
            "Subject in sight",
            PICTURE,
            CLEAR,
            "shot.target",
            Words(f"Behind {plain(thing)}: {said}"),
            0.0,
            0.0,
            "at_most",
            "1",
        )
    )
    return tell.told()
