"""A dolly's bent track from above: pipes, ties, deck, the way of the lens, and what may be dragged."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.kinds.base import Carried
from hazel_lantern.core.kinds.dolly.bend import Bend, inner_cuts
from hazel_lantern.core.kinds.dolly.inputs import BY_CHORD, BY_DISTANCE
from hazel_lantern.core.kinds.dolly.model import Dolly
from hazel_lantern.core.kinds.rail import model
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE, frames
from hazel_lantern.core.kinds.shared.props import camera_above, person_above
from hazel_lantern.core.kinds.shared.weighed import KIT, REST
from hazel_lantern.core.motion.wanted import Optics
from hazel_lantern.core.nouns import sketch as sk
from hazel_lantern.core.nouns.sketch import Handle, Item, Note, Ring, Shape, Size, Sketch, Stroke
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.workshop.silhouette import ABOVE, outlines

PLACES = 73
SEEN = 0.85  # of the radius, how far the view is drawn
ROOM = 0.7


def bent_above(kit: Carried, optics: Optics, rig: Dolly, bend: Bend, ends: np.ndarray, x: float, by: str) -> Sketch:
    """From above, the middle of the arc's travel to the right."""
    way = rig.way
    assert isinstance(way, Straight)
    along = np.linspace(0.0, way.length, PLACES)
    items: list[Item] = [*_ties(rig, way)]
    for lane in (way.spacing / 2, -way.spacing / 2):
        items.append(Stroke(way.track.at(along).place((0.0, lane, 0.0))[:, :2], way.material.fill, way.bar.width))
    items += _joints(rig, way, bend)
    items += outlines(rig.laid, frames(way, np.array([[x]])), ABOVE, without=(KIT, REST), on=(CARRIAGE,))
    there = model.mount(way, np.array([[x]]))
    for foot in rig.feet:
        hub, cup = (
            way.place(x + float(way.mount[0] + s * foot[0]), float(way.mount[1] + s * foot[1]))[:2] for s in (0.25, 1.0)
        )
        items += [Stroke(np.array([hub, cup]), "steel", 0.025), Ring((float(cup[0]), float(cup[1])), 0.025)]
    looks = math.atan2(there.axes[0, 1, 0], there.axes[0, 0, 0])
    eye = there.place(np.asarray(kit.lens_at_m))[0, :2]
    half = angle_of_view(optics.sensor_width_m, optics.focal_m, optics.squeeze) / 2
    reach = max(2.0, SEEN * bend.radius)
    cone = [eye, *(eye + reach * np.array([math.cos(looks + a), math.sin(looks + a)]) for a in (half, -half))]
    items.insert(0, Shape(np.array(cone), "view"))
    run = np.linspace(way.low, way.high, PLACES)
    items.append(Stroke(model.mount(way, run[:, None]).place(np.asarray(kit.lens_at_m))[:, :2], "path", dash=True))
    for end in ends:
        if abs(float(end) - x) > 0.05:
            ghost = model.mount(way, np.array([[float(end)]]))
            items += camera_above(
                ghost.at[0, :2], math.atan2(ghost.axes[0, 1, 0], ghost.axes[0, 0, 0]), kit.lens_at_m[0]
            )
    items += camera_above(there.at[0, :2], looks, kit.lens_at_m[0])
    first, last = (tuple(float(v) for v in way.track.at(np.array([at])).at[0, :2]) for at in (0.0, way.length))
    items += _sizes(way, bend, by, first, last)
    points = np.concatenate([item.points for item in items if isinstance(item, Stroke)])
    low, high = points.min(axis=0) - ROOM, points.max(axis=0) + ROOM
    items += person_above((float(low[0]) + 0.4, float(low[1]) + 0.3))
    return Sketch(
        tuple(items), (float(low[0]), float(low[1]), float(high[0]), float(high[1])), "from above", ground=False
    )


def _ties(rig: Dolly, way: Straight) -> list[Item]:
    half = way.spacing / 2 + 0.06
    board = next((part for part in rig.laid.parts if part.name == "Tie"), None)
    wide = board.solid.box[1] if board is not None else 0.08
    found: list[Item] = []
    for tie in rig.ties:
        there = way.track.at(np.array([tie]))
        found.append(Stroke(np.array([there.place((0.0, y, 0.0))[0, :2] for y in (-half, half)]), "wood", wide))
    return found


def _joints(rig: Dolly, way: Straight, bend: Bend) -> list[Item]:
    """Joints ringed: those of the inner pipe lie between those of the outer."""
    found: list[Item] = []
    for cuts, lane in ((way.joints.cuts, -bend.side), (inner_cuts(way, rig.ties), bend.side)):
        for cut in cuts:
            at = way.track.at(np.array([cut])).place((0.0, lane * way.spacing / 2, 0.0))[0]
            found.append(Ring((float(at[0]), float(at[1])), 0.035))
    return found


def _sizes(way: Straight, bend: Bend, by: str, first: tuple[float, ...], last: tuple[float, ...]) -> list[Item]:
    """Chord, rise, gauge, and the radius; ends and middle are dragged."""
    middle = (0.0, 0.0)
    chord = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
    a, b = (float(first[0]), float(first[1])), (float(last[0]), float(last[1]))
    inner = way.track.at(np.array([0.2 * way.length]))
    gauge = [tuple(float(v) for v in inner.place((0.0, y, 0.0))[0, :2]) for y in (-way.spacing / 2, way.spacing / 2)]
    chorded = by == BY_CHORD
    items: list[Item] = [
        Stroke(np.array([a, b]), "muted", dash=True, layer=sk.SIZES),
        Size(a, b, 0.0, bend.chord, "m", "bend.chord" if chorded else "", "chord"),
        Size(chord, middle, 0.0, bend.rise, "m", "bend.rise" if chorded else "", "rise"),
        Size((gauge[0][0], gauge[0][1]), (gauge[1][0], gauge[1][1]), 0.0, way.spacing, "m", "rail.spacing"),
    ]
    tangent = way.track.at(np.array([way.length])).axes[0][:2, 0]
    if chorded:
        items += [
            Handle(b, (("bend.chord", (2.0, 0.0)),), "End of the track"),
            Handle(middle, (("bend.rise", (0.0, -bend.side)),), "Middle of the arc"),
        ]
    else:
        key = "bend.away" if by == BY_DISTANCE else "bend.radius"
        share = 2 * bend.radius / (bend.radius + way.spacing / 2)
        items += [
            Handle(b, (("rail.length", (float(tangent[0]) * share, float(tangent[1]) * share)),), "End of the track"),
            Note((0.0, bend.side * 0.35 + 0.1), Words("radius {}", ((bend.radius, "m"),)), "size", sk.SIZES),
            Handle((0.0, bend.side * way.spacing), ((key, (0.0, bend.side * 4.0)),), "Radius"),
        ]
    return items
