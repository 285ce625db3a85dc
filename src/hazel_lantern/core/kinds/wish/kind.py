"""A camera that goes where it is wanted, carried by nothing."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import (
    Carried,
    Chapter,
    Design,
    Figures,
    Kind,
    Member,
    Members,
    Place3,
    Standing,
    View,
)
from hazel_lantern.core.kinds.path import Asked, Path, Poses
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.moving import move_figures
from hazel_lantern.core.kinds.shared.props import camera_above, camera_side
from hazel_lantern.core.kinds.wish.design import DECLARED
from hazel_lantern.core.mechanics.track import Frames, headed
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.sketch import Sketch, Stroke
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Laid

INTO = math.pi / 2  # the way the set goes deep
ROOM = 0.6  # metres around the move in the drawing


class Wish(Struct, frozen=True):
    """Nothing but the camera."""

    laid: Laid


def build(kit: Carried) -> Wish:
    return Wish(Laid())


def follow(wish: Wish, asked: Asked) -> Poses:
    """The mount (n, 3) where it brings the lens to each place wanted."""
    offset = headed(np.zeros((1, 3)), INTO).place(asked.lens)[0]
    return Poses.of(asked.places - offset)


def mount(wish: Wish, poses: np.ndarray) -> Frames:
    return headed(poses, INTO)


def lay(wish: Wish, asked: Asked, subject: Place3 | None) -> Standing:
    """It stands where the set is."""
    return Standing(0.0, 0.0, 0.0)


def members(wish: Wish, poses: np.ndarray) -> Members:
    """The camera itself, which may hit something."""
    camera = Member("camera", 0.06)
    return Members.at(len(poses), [(camera, poses, poses + (0.0, 0.0, 0.1))])


def bodies(wish: Wish, poses: np.ndarray) -> Bodies:
    return {}


def nobody(design: Design) -> int:
    """Nothing is moved yet."""
    return 0


def shot_figures(move: Move, optics: Optics) -> Told:
    return move_figures(move, optics, move.length, "way of the lens", "")


def draw(kit: Carried, wish: Wish, path: Path, pose: np.ndarray, view: str) -> Sketch:
    """The camera on its way."""
    way = path.poses(np.linspace(0.0, 1.0, 25)).q
    flat = way[:, :2] if view == "above" else way[:, 1:]
    low, high = flat.min(axis=0) - ROOM, flat.max(axis=0) + ROOM
    at = pose[:2] if view == "above" else pose[1:]
    up = np.array([0.0, 1.0])
    camera = (
        camera_above(at, INTO, kit.lens_at_m[0]) if view == "above" else camera_side(at, np.array([1.0, 0.0]), up, kit)
    )
    box = (float(low[0]), float(low[1]) if view == "above" else 0.0, float(high[0]), float(high[1]))
    return Sketch((Stroke(flat, "path", dash=True), *camera), box, view, ground=view != "above")


def lines(move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    return headlines(move, optics, figures, move.length, Words(""), {})


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(),
    model=Chapter("wish", build),
    chapters=(Chapter("shot_as_made", shot_figures),),
    follow=follow,
    mount=mount,
    members=members,
    bodies=bodies,
    sketch=draw,
    headlines=lines,
    stations=("shot",),
    lay=lay,
    hands=nobody,
)
