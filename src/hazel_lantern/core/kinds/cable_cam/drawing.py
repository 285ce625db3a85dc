"""Drawings of a cable cam: the whole line from the side, and from above with the strip that nobody enters."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.kinds.base import Carried, Design, Figures
from hazel_lantern.core.kinds.cable_cam.design import FRAME, POSTS, TREE
from hazel_lantern.core.kinds.cable_cam.fittings import guys_of
from hazel_lantern.core.kinds.cable_cam.model import CARRIAGE, GROUND, Cable, frames, lens_heights, mount, side
from hazel_lantern.core.kinds.cable_cam.parts import ROPE
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.kinds.shared.props import camera_above, camera_side, person, person_above
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.sketch import Arrow, Handle, Item, Note, Ring, Shape, Size, Sketch, Stroke, handle
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.workshop.silhouette import ABOVE, SIDE, outlines

SEEN = 4.0  # metres of view that are drawn
BELOW = -0.9  # metres under the ground that the drawing reaches down to
AROUND = 1.2
PLACES = 81
AWAY = 0.13  # of the span from an end, where the arrow of its pull ends
LOOKED = 0.65  # metres round the carriage that are drawn larger above it
CLOSE = 0.18  # of the span, the radius they are drawn within
TREE_HIGH, CROWN = 1.6, 1.3


def draw(
    design: Design,
    kit: Carried,
    optics: Optics,
    cable: Cable,
    path: Path,
    figures: Figures,
    pose: np.ndarray,
    view: str,
) -> Sketch:
    """At a pose, from one of its views."""
    if view == "above":
        return _above(design, kit, optics, cable, path, pose)
    return _side(design, kit, optics, cable, path, figures, pose)


def strip(cable: Cable) -> tuple[np.ndarray, float]:
    """Where nobody may be: the line (2, 2) out behind both ends as far as a rope that breaks may whip, and how far to
    either side of it, half of its height [m].
    """
    out = cable.span / 2 + 1.5 * cable.span
    return np.array([(-out, 0.0), (out, 0.0)]), max(cable.ends) / 2


def _side(
    design: Design, kit: Carried, optics: Optics, cable: Cable, path: Path, figures: Figures, pose: np.ndarray
) -> Sketch:
    x, half = float(pose[0]), cable.span / 2
    bodies = frames(cable, pose[None])
    place = mount(cable, pose[None])
    items: list[Item] = [*person(-half - 2.2)]
    for end, at in (("a", -half), ("b", half)):
        items += _end_side(design, cable, end, at)
    items += _no_go(cable)
    items += outlines(cable.laid, bodies, SIDE, without=(KIT, REST, ROPE), on=(GROUND, CARRIAGE))
    for first in (True, False):
        items.append(Stroke(side(cable, x, first=first), "rope", max(cable.stock.d, 0.012)))
    ahead = place.axes[0][:, 0]
    foot, up = place.at[0][[0, 2]], place.axes[0][:, 2][[0, 2]]
    items += camera_side(foot, ahead[[0, 2]], up, kit)
    reach = SEEN * math.hypot(ahead[0], ahead[2])
    if reach > 0.3:
        view = angle_of_view(optics.sensor_height_m, optics.focal_m) / 2
        eye = place.place(cable.lens)[0][[0, 2]]
        way = math.atan2(ahead[2], ahead[0])
        cone = [eye, *(eye + reach * np.array([math.cos(way + s * view), math.sin(way + s * view)]) for s in (1, -1))]
        items.insert(0, Shape(np.array(cone), "view"))
    run = np.linspace(cable.low, cable.high, PLACES)
    items.append(Stroke(np.column_stack([run, lens_heights(cable, run)]), "path", dash=True))
    for ghost in path.ends[:, 0]:
        if abs(float(ghost) - x) > 0.3:
            there = mount(cable, np.array([[float(ghost)]]))
            items += camera_side(
                there.at[0][[0, 2]], there.axes[0][:, 0][[0, 2]], there.axes[0][:, 2][[0, 2]], kit, sk.GHOST
            )
    items += _close_up(cable, kit, pose)
    items.append(Stroke(np.array([(-half, cable.ends[0]), (half, cable.ends[1])]), "muted", dash=True, layer=sk.SIZES))
    items += _sizes(design, cable, x)
    items += _loads(cable, figures, x)
    top = _circle(cable)[1] + CLOSE * cable.span + 0.05 * cable.span
    edge = half + max(3.0, 0.12 * cable.span)
    return Sketch(tuple(items), (-edge, BELOW, edge, top), "from the side")


def _circle(cable: Cable) -> tuple[float, float]:
    """The middle of what is drawn larger [m]."""
    return 0.0, max(cable.ends) + (CLOSE + 0.05) * cable.span


def _close_up(cable: Cable, kit: Carried, pose: np.ndarray) -> list[Item]:
    """The carriage with its camera, larger, in a circle above the line, and a thread that leads to it."""
    x = float(pose[0])
    place = mount(cable, pose[None])
    about = np.array([x, float(cable.height.at(np.array([x]))[0][0]) - 0.45 * cable.drop])
    to, radius = np.array(_circle(cable)), CLOSE * cable.span
    times = radius / max(LOOKED, 0.75 * cable.drop)
    ring = np.linspace(0.0, 2 * math.pi, 73)
    round_ = np.column_stack([np.cos(ring), np.sin(ring)])
    circle = to + radius * round_
    seen: list[Item] = []
    for first in (True, False):
        # The rope near the carriage, as far as the circle shows it.
        points = side(cable, x, first=first)
        near, far = (points[-1], points[-2]) if first else (points[0], points[1])
        long = float(np.hypot(*(far - near)))
        seen.append(
            Stroke(
                np.array([near, near + (far - near) * min(1.0, 0.93 * radius / times / long)]), "rope", cable.stock.d
            )
        )
    seen += outlines(cable.laid, frames(cable, pose[None]), SIDE, without=(KIT, REST, ROPE), on=(CARRIAGE,))
    wheel = float(cable.wheel)
    tilt = float(cable.way.at(np.array([x]))[0][0]) if cable.stiff else 0.0
    middle = np.array([x, float(cable.height.at(np.array([x]))[0][0])])
    for side_ in (-0.5, 0.5):
        at = (
            middle
            + np.array([math.cos(tilt), math.sin(tilt)]) * side_ * cable.wheelbase
            + np.array([-math.sin(tilt), math.cos(tilt)]) * wheel / 2
        )
        seen.append(Shape(at + wheel / 2 * round_, "steel"))
    ahead, up = place.axes[0][:, 0][[0, 2]], place.axes[0][:, 2][[0, 2]]
    seen += camera_side(place.at[0][[0, 2]], ahead, up, kit)
    return [
        Shape(circle, "ground"),
        Stroke(circle, "muted"),
        Stroke(np.array([to - (0.0, radius), about]), "muted"),
        *(_larger(item, about, times, to) for item in seen),
        Note(
            (float(to[0] + 1.45 * radius), float(to[1] + 0.5 * radius)),
            Words("{} hangs", ((cable.moving, "kg"),)),
            "ink",
        ),
    ]


def _larger(item: Item, about: np.ndarray, times: float, to: np.ndarray) -> Item:
    """An item drawn so many times larger, a place of it moved to another."""
    if isinstance(item, (Stroke, Shape)):
        made = replace(item, points=(item.points - about) * times + to)
        return (
            replace(made, width=item.width * times) if isinstance(made, Stroke) and isinstance(item, Stroke) else made
        )
    if isinstance(item, Ring):
        at = (np.asarray(item.at) - about) * times + to
        return replace(item, at=(float(at[0]), float(at[1])), radius=item.radius * times)
    return item


def _end_side(design: Design, cable: Cable, end: str, at: float) -> list[Item]:
    """What holds an end, behind it: guys, a tree, a wall."""
    kind, high = design.text(f"anchor.{end}"), cable.ends[0 if end == "a" else 1]
    back = -1.0 if end == "a" else 1.0
    if kind in POSTS:
        out = (
            high
            / math.tan(design.number("guy.slope"))
            * (math.cos(design.number("guy.spread")) if guys_of(kind) == 2 else 1.0)
        )
        ground = (at + back * out, 0.0)
        return [
            Stroke(np.array([(at, high), ground]), "rope", 0.01),
            Stroke(np.array([(ground[0] + back * 0.08, 0.25), (ground[0] - back * 0.12, -0.4)]), "steel", 0.04),
        ]
    if kind == TREE:
        trunk = np.array([(at + back * 0.2, 0.0), (at + back * 0.2, high + TREE_HIGH)])
        around = np.linspace(0.0, 2 * math.pi, 33)
        crown = np.column_stack([np.cos(around), np.sin(around)]) * CROWN + trunk[1]
        return [Shape(crown, "foliage"), Stroke(trunk, "wood", 0.35)]
    wall = np.array([(at, 0.0), (at + back * 0.35, 0.0), (at + back * 0.35, high + 0.9), (at, high + 0.9)])
    return [Shape(wall, "masonry"), Note((at + back * 0.2, high + 1.05), Words("refused"), "stop")]


def _no_go(cable: Cable) -> list[Item]:
    """Between each stop and its end the carriage does not go."""
    items: list[Item] = []
    low = min(cable.ends) - cable.drop - 0.3
    for edge, stop in (
        (-cable.span / 2, cable.low - cable.wheelbase / 2),
        (cable.span / 2, cable.high + cable.wheelbase / 2),
    ):
        top = cable.ends[0 if edge < 0 else 1]
        items.append(Stroke(np.array([(stop, top - 0.02), (stop, low)]), "stop", dash=True, layer=sk.SIZES))
    return items


def _sizes(design: Design, cable: Cable, x: float) -> list[Item]:
    half, low = cable.span / 2, -0.45
    z = float(cable.height.at(np.array([0.0]))[0][0])
    on = (cable.ends[0] + cable.ends[1]) / 2
    stop_a, stop_b = cable.low - cable.wheelbase / 2, cable.high + cable.wheelbase / 2
    items: list[Item] = [
        Size((-half, low), (half, low), 0.0, cable.span, "m", "rope.span"),
        Size((-half - 0.5, 0.0), (-half - 0.5, cable.ends[0]), 0.0, cable.ends[0], "m", "end.a"),
        Size((half + 0.5, 0.0), (half + 0.5, cable.ends[1]), 0.0, cable.ends[1], "m", "end.b"),
        Size((-half, 0.35), (stop_a, 0.35), 0.0, stop_a + half, "m", "run.short_a"),
        Size((stop_b, 0.35), (half, 0.35), 0.0, half - stop_b, "m", "run.short_b"),
        handle("end.a", (-half, cable.ends[0]), (0.0, 1.0)),
        handle("end.b", (half, cable.ends[1]), (0.0, 1.0)),
        handle("rope.span", (half, 0.0), (1.0, 0.0), 2.0),
        handle("run.short_a", (stop_a, cable.ends[0] - 0.25), (1.0, 0.0)),
        handle("run.short_b", (stop_b, cable.ends[1] - 0.25), (-1.0, 0.0)),
    ]
    # The sag is measured in the middle, whether or not the carriage stands there.
    sagged = float(cable.now.sag[cable.middle])
    by_sag = design.text("rope.set") == "sag"
    items.append(Size((0.0, on), (0.0, z), 0.0, sagged, "m", "rope.sag" if by_sag else "", "sag"))
    if by_sag:
        items.append(Handle((0.0, z), (("rope.sag", (0.0, -1.0)),)))
    lens = float(lens_heights(cable, np.array([x]))[0])
    if abs(x) > 0.05 * cable.span:
        items.append(Size((x, 0.0), (x, lens), 0.0, lens, "m", "", "lens"))
    return items


def _loads(cable: Cable, figures: Figures, x: float) -> list[Item]:
    """The rope's pull at both ends with the carriage here, and what hangs."""
    at = x + cable.span / 2
    hung = cable.now
    items: list[Item] = [
        Arrow((x, float(cable.height.at(np.array([x]))[0][0]) - 0.1), (0.0, -1.0), cable.load * cable.count)
    ]
    for edge, out, down, way in (
        (-cable.span / 2, hung.out_a, hung.down_a, 1.0),
        (cable.span / 2, hung.out_b, hung.down_b, -1.0),
    ):
        h, v = cable.count * float(np.interp(at, cable.at, out)), cable.count * float(np.interp(at, cable.at, down))
        pull = math.hypot(h, v)
        toward = (way * h / pull, -v / pull)
        along = AWAY * cable.span
        end = (edge + along * toward[0], cable.ends[0 if edge < 0 else 1] + along * toward[1])
        items.append(Arrow(end, toward, pull))
    return items


def _above(design: Design, kit: Carried, optics: Optics, cable: Cable, path: Path, pose: np.ndarray) -> Sketch:
    x, half = float(pose[0]), cable.span / 2
    _, aside = strip(cable)
    box = np.array([(-half, -aside), (half, -aside), (half, aside), (-half, aside), (-half, -aside)])
    place = mount(cable, pose[None])
    items: list[Item] = [Stroke(box, "stop", dash=True, layer=sk.SWEEP)]
    for at in (-half, half):
        back = math.copysign(min(3.0, 1.5 * cable.span), at)
        items.append(Stroke(np.array([(at, -aside), (at + back, -aside)]), "stop", dash=True, layer=sk.SWEEP))
        items.append(Stroke(np.array([(at, aside), (at + back, aside)]), "stop", dash=True, layer=sk.SWEEP))
    items.append(
        Note(
            (0.0, aside + 0.25),
            Words("nobody here while it is tight, nor {} out behind its ends", ((1.5 * cable.span, "m"),)),
            "stop",
            sk.SWEEP,
        )
    )
    looks, eye = cable.heading, place.place(cable.lens)[0][:2]
    view = angle_of_view(optics.sensor_width_m, optics.focal_m, optics.squeeze) / 2
    cone = [eye, *(eye + SEEN * np.array([math.cos(looks + a), math.sin(looks + a)]) for a in (view, -view))]
    items.append(Shape(np.array(cone), "view"))
    for y in (0.0,) if cable.count == 1 else (-cable.apart / 2, cable.apart / 2):
        items.append(Stroke(np.array([(-half, y), (half, y)]), "rope", max(cable.stock.d, 0.012)))
    for end, at in (("a", -half), ("b", half)):
        items += _guys_above(design, cable, end, at)
    items += outlines(cable.laid, frames(cable, pose[None]), ABOVE, without=(KIT, REST, ROPE), on=(GROUND, CARRIAGE))
    for ghost in path.ends[:, 0]:
        if abs(float(ghost) - x) > 0.3:
            items += camera_above(mount(cable, np.array([[float(ghost)]])).at[0][:2], looks, kit.lens_at_m[0])
    items += camera_above(place.at[0][:2], looks, kit.lens_at_m[0])
    items += person_above((-half - 1.0, -aside - 0.6))
    low = -aside - 0.5
    items += [
        Size((-half, low), (half, low), 0.0, cable.span, "m", "rope.span"),
        Size((0.0, 0.0), (0.0, aside), 0.0, aside, "m", "", "half its height"),
        handle("rope.span", (half, 0.0), (1.0, 0.0), 2.0),
    ]
    edge = half + max(3.5, 0.12 * cable.span)
    high = max(aside + 0.6, 0.2 * cable.span)
    return Sketch(tuple(items), (-edge, -high, edge, high), "from above", ground=False)


def _guys_above(design: Design, cable: Cable, end: str, at: float) -> list[Item]:
    kind, high = design.text(f"anchor.{end}"), cable.ends[0 if end == "a" else 1]
    back = -1.0 if end == "a" else 1.0
    if kind not in POSTS:
        around = np.linspace(0.0, 2 * math.pi, 33)
        if kind == TREE:
            return [
                Shape(np.column_stack([np.cos(around), np.sin(around)]) * CROWN + (at + back * 0.2, 0.0), "foliage")
            ]
        return [Shape(np.array([(at, -1.5), (at + back * 0.35, -1.5), (at + back * 0.35, 1.5), (at, 1.5)]), "masonry")]
    out = high / math.tan(design.number("guy.slope"))
    spread = design.number("guy.spread") if guys_of(kind) == 2 else 0.0
    ways = [back * math.cos(spread) * out + 1j * s * math.sin(spread) * out for s in ((-1, 1) if spread else (0,))]
    if kind != FRAME:
        ways += [1j * out, -1j * out]
    return [Stroke(np.array([(at, 0.0), (at + way.real, way.imag)]), "rope", 0.01) for way in ways]
