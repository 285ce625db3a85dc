"""What stands before the subject and what lies behind it, as the lens sees them."""

from __future__ import annotations

import numpy as np
from msgspec import Struct

from hazel_lantern.core.finding import CLEAR, PICTURE, WATCH, Finding, Words
from hazel_lantern.core.kinds.base import Context, Report
from hazel_lantern.core.optics import pose
from hazel_lantern.core.project import Thing
from hazel_lantern.core.staging.moves import MIDDLE, SAMPLES, Staged
from hazel_lantern.core.staging.things import SORTS, aim_point, corners, plain

NEAREST = 0.05


class Outlines(Struct, frozen=True):
    """Boxes around things as the lens sees them: lowest and highest across and up (moments, things, 2) at a depth of one, mean depth [m], and which are wholly before the lens."""

    low: np.ndarray
    high: np.ndarray
    depth: np.ndarray
    ahead: np.ndarray


def outlines(seen: Staged, things: list[Thing]) -> Outlines:
    """All things at all moments. One that reaches behind the lens has no outline of its corners, so it is not `ahead`."""
    camera = seen.camera
    boxes = pose.camera_points(camera.matrices, camera.places, np.concatenate([corners(thing) for thing in things])).reshape(len(camera.places), len(things), 8, 3)
    depth = boxes[..., 2]
    flat = boxes[..., :2] / np.maximum(depth, NEAREST)[..., None]
    return Outlines(flat.min(axis=2), flat.max(axis=2), depth.mean(axis=-1), depth.min(axis=-1) > NEAREST)


def behind_it(context: Context, seen: Staged, thing: Thing, report: Report) -> None:
    """Whether the subject is hidden for a part of the move, and what is behind it at the start, half-way and at the end.

    A thing counts as the box around it: what is just beside a tree's trunk may be called hidden.
    """
    others = [other for other in context.stage.things if other is not thing and SORTS[other.kind].solid]
    if not others:
        return
    point = pose.camera_points(seen.camera.matrices, seen.camera.places, aim_point(thing)[None])[:, 0]
    boxes, aim = outlines(seen, others), (point[:, :2] / point[:, 2:])[:, None]
    over = boxes.ahead & ((boxes.low <= aim) & (aim <= boxes.high)).all(axis=-1)
    before = over & (boxes.depth < point[:, 2:])
    if before.any():
        k, m = (int(n) for n in np.argwhere(before)[0])
        words = Words(
            f"{plain(others[m])} hides {plain(thing)} at {{}}, in {{}} of the move.", ((float(SAMPLES[k] * context.shot.duration_s), "s"), (float(before.any(axis=1).mean()), "1"))
        )
        report.findings.append(
            Finding("shot.hidden", "Subject hidden", PICTURE, WATCH, float(before.any(axis=1).mean()), 0.0, "at_most", "1", f"thing.{others[m].id}.x", "shot", words)
        )
        return
    back = np.where(over, boxes.depth, np.inf)
    names = ["open ground" if np.isinf(back[k]).all() else plain(others[int(np.argmin(back[k]))]) for k in (0, MIDDLE, -1)]
    words = (
        Words(f"Behind {plain(thing)}: {names[0]} all the way.")
        if len(set(names)) == 1
        else Words(f"Behind {plain(thing)}: {names[0]}, half-way {names[1]}, at the end {names[2]}.")
    )
    report.findings.append(Finding("shot.hidden", "Subject in sight", PICTURE, CLEAR, 0.0, 0.0, "at_most", "1", "shot.target", "shot", words))
