"""Sizes that keep an arm out of what holds it and what hangs off it: found again by throwing shapes together."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds.jib.constructions import STEEPEST, YOKE_CLEAR, YOKE_LONG, hook_for, yoke_swings
from hazel_lantern.core.mechanics.track import headed
from hazel_lantern.core.workshop.fouls import fouls, hulls
from hazel_lantern.core.workshop.laid import Pieces
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.reach import passed
from hazel_lantern.core.workshop.solids import Bar, Place, Tapered
from tests.core.test_fouls import apart
from tests.helpers import SHELF, value


def jib(variant, **values):
    project = changes.add_rig(blank(), "jib", variant)
    rig = project.rigs[0].id
    return evaluate(
        changes.set_values(project, rig, [(key.replace("__", "."), one) for key, one in values.items()]), SHELF, rig
    )


YOKED = {"post__made": "yoke", "post__section": "steel-channel-60x80x4", "arm__section": "al6063-oval-25x50x2"}


@pytest.mark.parametrize("bearing", ["plate-75", "plate-100", "plate-150", "washers"])
def test_in_a_yoke_the_arm_swings_until_its_lower_edge_meets_web_or_plate(bearing):
    model = jib("plain", **YOKED, pan__bearing=bearing).model
    swings, deep = yoke_swings(model), model.arm.depth / 2
    pivot, web = model.post_length - 0.02, model.post.width
    # Corners of web and plate against the line of the arm's lower edge, angle by angle.
    corners = np.array([(YOKE_LONG / 2, web - pivot), (model.pan.size / 2, -pivot)])
    angles = np.linspace(0, math.radians(80), 8001)
    under = corners @ np.array([np.sin(angles), np.cos(angles)])  # how far below the arm's line, square to it
    meets = angles[(-under - deep < YOKE_CLEAR * np.cos(angles)).any(axis=0)][0]
    assert swings == pytest.approx(meets, abs=math.radians(0.1))
    assert value(jib("plain", **YOKED, pan__bearing=bearing), "rig.angle_high") <= swings + 1e-9


@pytest.mark.parametrize("square", [False, True])
@pytest.mark.parametrize("above", [-0.03, 0.0, 0.05])
@pytest.mark.parametrize("radius", [0.05, 0.11, 0.2])
def test_what_hangs_clears_the_arm_at_every_angle_up_to_its_steepest(radius, above, square):
    arm = SHELF.sections["al6063-30x60x3"]
    hook = hook_for(arm, above, radius, square=square)
    around = np.linspace(0, 2 * math.pi, 721)
    shape = radius * np.array([np.cos(around), np.sin(around)])
    if square:
        shape = radius * np.array([(-1, 1), (1, 1), (1, -1), (-1, -1)]).T
    shape = shape + np.array([[0.0], [-hook - radius]])  # below its pin
    for angle in np.radians(np.arange(-50, 51)):
        below = shape[0] * math.sin(angle) - shape[1] * math.cos(angle)  # under the pin, square to the arm
        assert (below - above * 1.0).min() > arm.depth / 2 - 1e-9, math.degrees(angle)
    # No longer than it has to be, where it is more than the shortest.
    if hook > 0.061:
        edge = -shape[0] * math.sin(STEEPEST) - shape[1] * math.cos(STEEPEST)
        assert edge.min() - above < arm.depth / 2 + 0.015


def test_bolts_pass_the_web_of_a_channel_and_not_all_of_its_width():
    result = jib("plain", **YOKED, pan__bearing="plate-100")
    bolts = passed(result.laid, result.kind.bodies(result.model, result.poses(np.array([0.0]))), SHELF.bolts)
    through = next(one for one in bolts if {"Yoke", "Foot plate"} == set(one.pieces))
    web = SHELF.sections["steel-channel-60x80x4"].dims["t_web"]
    assert through.stack == pytest.approx(web + 0.018, abs=1e-6)
    assert through.short <= 0


def test_a_tapered_pole_meets_a_flat_just_where_no_plane_parts_them():
    thick, thin = SHELF.sections["al6063-round-40x2"], SHELF.sections["al6063-round-20x2"]
    pole = Tapered(thick, thin, SHELF.materials["al6063"], 0.2, 1.0)
    flat = Bar.of(SHELF, "al6063-flat-6x30", 0.2)
    rng, told = np.random.default_rng(5), set()
    for _ in range(80):
        along = float(rng.uniform(0.1, 0.95))
        aside = pole.thick(along) / 2 + 0.003 + float(rng.normal(0, 0.004))
        lean = float(rng.uniform(-1.0, 1.0))
        way, up = (math.sin(lean), 0.0, math.cos(lean)), (math.cos(lean), 0.0, -math.sin(lean))
        parts = (
            Part("A", "Pole", pole, (Place("a", (0.0, 0.0, 0.0)),)),
            Part("B", "Flat", flat, (Place("b", (along - 0.1 * way[0], aside, -0.1 * way[2]), way, up),)),
        )
        still = dict.fromkeys("ab", headed(np.zeros((1, 3)), 0.0))
        found = fouls(hulls(Pieces(parts)), still, 1)
        points = [part.solid.corners() @ part.places[0].axes.T + part.places[0].at for part in parts]
        parted = apart(*points)
        told.add(parted)
        if parted:
            # Directions of faces and edges alone may miss a plane by a hair, never by more.
            assert not found or found[0].deep < 5e-4 + 1e-6
        else:
            assert found or _nearly(points)
    assert told == {True, False}


def _nearly(points):
    """In one another by less than what counts as touching."""
    return apart(points[0], points[1] + np.array([0.0, 6e-4, 0.0]))
