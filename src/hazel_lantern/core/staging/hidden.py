"""What stands before the subject and what lies behind it, as the lens sees them."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.finding import CLEAR, PICTURE, WATCH, Finding, Words
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.optics import pose
from hazel_lantern.core.project import Thing
from hazel_lantern.core.staging.moves import MIDDLE, SAMPLES, Staged
from hazel_lantern.core.staging.things import aim_point, corners, plain

NEAREST = 0.05


class Outlines(Struct, frozen=True):
    """Things as the lens sees them along the move: where it would aim at each, in camera axes (moments, things, 3) [m]; the boxes around them, lowest and highest
    across and up (moments, things, 2) at a depth of one, their mean depth [m], and which are wholly before the lens."""

    aims: np.ndarray
    low: np.ndarray
    high: np.ndarray
    depth: np.ndarray
    ahead: np.ndarray


def outlines(seen: Staged, things: list[Thing]) -> Outlines:
    """All things at all moments. One that reaches behind the lens has no outline of its corners, so it is not `ahead`."""
    points = np.concatenate([*(corners(thing) for thing in things), [aim_point(thing) for thing in things]])
    local = pose.camera_points(seen.camera.matrices, seen.camera.places, points)
    boxes, aims = local[:, : -len(things)].reshape(len(local), len(things), 8, 3), local[:, -len(things) :]
    depth = boxes[..., 2]
    flat = boxes[..., :2] / np.maximum(depth, NEAREST)[..., None]
    return Outlines(aims, flat.min(axis=2), flat.max(axis=2), depth.mean(axis=-1), depth.min(axis=-1) > NEAREST)


def behind_it(context: Context, seen: Staged, thing: Thing, things: list[Thing], boxes: Outlines, report: Report) -> None:
    """Whether the subject is hidden for a part of the move, and what is behind it at the start, half-way and at the end.

    A thing counts as the box around it: what is just beside a tree's trunk may be called hidden.
    """
    point, other = boxes.aims[:, things.index(thing)], np.array([one is not thing for one in things])
    aim = (point[:, :2] / point[:, 2:])[:, None]
    over = other & boxes.ahead & ((boxes.low <= aim) & (aim <= boxes.high)).all(axis=-1)
    before = over & (boxes.depth < point[:, 2:])
    if before.any():
        k, m = (int(n) for n in np.argwhere(before)[0])
        words = Words(
            f"{plain(things[m])} hides {plain(thing)} at {{}}, in {{}} of the move.", ((float(SAMPLES[k] * context.shot.duration_s), "s"), (float(before.any(axis=1).mean()), "1"))
        )
        report.findings.append(
            Finding("shot.hidden", "Subject hidden", PICTURE, WATCH, float(before.any(axis=1).mean()), 0.0, "at_most", "1", f"thing.{things[m].id}.x", "shot", words)
        )
        return
    back = np.where(over, boxes.depth, np.inf)
    names = ["open ground" if np.isinf(back[k]).all() else plain(things[int(np.argmin(back[k]))]) for k in (0, MIDDLE, -1)]
    words = (
        Words(f"Behind {plain(thing)}: {names[0]} all the way.")
        if len(set(names)) == 1
        else Words(f"Behind {plain(thing)}: {names[0]}, half-way {names[1]}, at the end {names[2]}.")
    )
    report.findings.append(Finding("shot.hidden", "Subject in sight", PICTURE, CLEAR, 0.0, 0.0, "at_most", "1", "shot.target", "shot", words))
