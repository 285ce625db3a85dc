"""How the beam is worked out."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import asdict, replace

from hazel_lantern.core.kinds.base import Action, Chapter, Kind, Member, Members, Standing, View
from hazel_lantern.core.kinds.path import Poses
from hazel_lantern.core.kinds.shared.props import camera_above
from hazel_lantern.core.mechanics.track import headed, pitched
from hazel_lantern.core.nouns.errors import GeometryError, InfeasibleError
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula
from hazel_lantern.core.nouns.finding import CLEAR, STOP, STRUCTURE, Finding, Remedy
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.sketch import Shape, Size, Sketch, Stroke, box_outline, handle
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid, Pieces
from hazel_lantern.core.workshop.laid import lay as put_together
from hazel_lantern.core.workshop.part import Buy, Part
from hazel_lantern.core.workshop.solids import Bar, Place
from tests.spinner.design import DECLARED

# Share of a turn beyond which the mask says there is no shape, where turns are asked for that the shaft does not make.
BROKEN = 0.9


class Beam(Struct, frozen=True):
    radius: float
    height: float
    turns: float
    pitch: float
    mass: float
    laid: Laid


def build(design, kit):
    radius = design.number("beam.radius")
    if radius < 0.25:
        raise GeometryError("the beam is shorter than the camera it carries")
    solid = Bar.of(design.catalogue, design.text("beam.section"), radius)
    pieces = Pieces((Part("S1", "Beam", solid, (Place("beam"),)),), loose=(Buy("Shaft with bearing", 1, 12.0),))
    beam = Beam(
        radius,
        design.number("beam.height"),
        design.number("beam.turns"),
        design.number("camera.pitch"),
        solid.mass + kit.payload.mass,
        Laid(),
    )
    return replace(beam, laid=put_together(pieces, bodies(beam, np.zeros((1, 1)))))


def bodies(beam, poses):
    return {"beam": headed(np.tile((0.0, 0.0, beam.height), (len(poses), 1)), poses[:, 0])}


def follow(beam, asked):
    q = 2 * math.pi * beam.turns * asked.share
    # A shaft that turns no further than it can: beyond, nothing is solved.
    good = q <= 2 * math.pi * 3 + 1e-9
    return Poses(q[:, None], np.where(good, 0.0, 1.0), good)


def mount(beam, poses):
    angle = poses[:, 0]
    places = np.column_stack(
        [beam.radius * np.cos(angle), beam.radius * np.sin(angle), np.full(len(angle), beam.height)]
    )
    return headed(places, angle + math.pi).turned(pitched(-beam.pitch))


def lay(beam, asked, subject):
    """The shaft stands under what is looked at, the beam's start towards the start of the move."""
    x, y = (subject or (0.0, 0.0, 0.0))[:2]
    return Standing(x, y, math.atan2(asked.first[1] - y, asked.first[0] - x))


def pull(beam, move, suggest):
    peak = 2 * math.pi * beam.turns * move.profile.peak_speed
    figure = by_formula(
        "rig.pull",
        "Pull on the mount",
        "N",
        Formula("m*w**2*r"),
        (
            Given("m", beam.mass, "kg", "all that turns", "kit"),
            Given("w", peak, "rad/s", "fastest turning", "shot.time"),
            Given("r", beam.radius, "m", "beam", "beam.radius"),
        ),
        source="a point on a circle",
    )
    state = STOP if figure.value > 120 else CLEAR
    shorter = Remedy("shorter", Words("A beam of {}", ((2.5, "m"),)), (("beam.radius", 2.5),))
    finding = Finding(
        "rig.pulls",
        "Pull",
        STRUCTURE,
        state,
        "beam.radius",
        Words("The mount pulls with {}.", ((figure.value, "N"),)),
        figure.value,
        120.0,
        "at_most",
        "N",
        (shorter,) if suggest and state == STOP else (),
    )
    return Told((figure,), (finding,))


def turning(beam, path):
    u = np.linspace(0, 1, 21)
    return Told(curves=(Curve("rig.path", "Angle", u * path.move.duration_s, path.at(u)[:, 0], "s", "rad"),))


def members(beam, poses):
    tip = mount(beam, poses).at
    still = (Member("shaft", 0.02, False), (0.0, 0.0, 0.0), (0.0, 0.0, beam.height))
    return Members.at(len(poses), [(Member("beam", 0.025), (0.0, 0.0, beam.height), tip), still])


def draw(kit, beam, path, figures, pose, view):
    x, y, z = mount(beam, pose[None]).at[0]
    tip = (float(x), float(y)) if view == "above" else (float(x), float(z))
    root = (0.0, 0.0) if view == "above" else (0.0, beam.height)
    items = [
        Shape(box_outline(root, tip, 0.05), "aluminium"),
        Size(root, tip, 0.1, beam.radius, "m", "beam.radius"),
        handle("beam.radius", tip, (math.cos(pose[0]), math.sin(pose[0]))),
    ]
    items += (
        camera_above(np.array(tip), float(pose[0]) + math.pi, kit.lens_at_m[0])
        if view == "above"
        else [Stroke(np.array([(0.0, 0.0), root]), "steel", 0.04)]
    )
    far = beam.radius + 0.4
    return Sketch(
        tuple(items),
        (-far, -far if view == "above" else 0.0, far, far if view == "above" else beam.height + 0.4),
        view,
        ground=view != "above",
    )


def size_it(move, subject):
    if move.centre is None or subject is None:
        raise InfeasibleError("it goes round its subject and nowhere else")
    return (
        (
            "beam.radius",
            round(math.hypot(move.start_at_m[0] - subject.at_m[0], move.start_at_m[1] - subject.at_m[1]) + 0.13, 3),
        ),
        ("beam.height", move.start_height_m),
    )


def headlines(beam, figures):
    return {
        "shot": Words("once round"),
        "rig": Words("one arm, {}", ((beam.radius, "m"),)),
        "build": Words("{} pieces", ((figures["build.pieces"].value, "count"),)),
    }


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", size_it),),
    model=Chapter("beam", build),
    chapters=(Chapter("turning", turning), Chapter("pull", pull)),
    follow=follow,
    mount=mount,
    members=members,
    bodies=bodies,
    sketch=draw,
    headlines=headlines,
    stations=("shot", "rig", "build"),
    lay=lay,
)
