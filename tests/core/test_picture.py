"""The picture: corners where projection puts them, near things over far ones, nothing from behind the lens."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.document.project import Thing, replaced
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.sketch import Lines, Shape, Stroke
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.framing import focal_pixels
from hazel_lantern.core.staging.picture import PX
from hazel_lantern.core.staging.things import corners
from tests.helpers import SHELF, sample, solved

KEPT = Memo()  # the rig is the same throughout


def with_things(*things, target=""):
    project = sample()
    stage = replace(project.sets[0], things=things)
    shot = replace(project.shots[0], target=target, aim="kept" if target else "level")
    project = replace(project, sets=replaced(project.sets, stage), shots=replaced(project.shots, shot))
    return evaluate(project, SHELF, project.rigs[0].id, memo=KEPT)


def box(key, x, y, size=(0.5, 0.5, 0.75), turn=0.0, kind="box"):
    return Thing(id=key, kind=kind, name=key, at_m=(x, y, 0.0), size_m=size, turn_rad=turn)


def fills(result, role):
    return [item.points for item in result.draw(0.4, "lens").of(Shape) if item.role == role]


@pytest.mark.parametrize("turn", [0.0, 0.4, -1.1])
def test_corners_of_a_box_lie_where_an_independent_projection_puts_them(turn):
    thing = box("b", 0.3, 4.0, turn=turn)
    result = with_things(thing, target="b")
    seen, k, shot = result.scene.now(0.4), 0, result.shot
    local = pose.camera_points(seen.camera.matrices[k], seen.camera.places[k], corners(thing))
    pixels = pose.project(local, focal_pixels(shot), (shot.pixels_wide, shot.pixels_high))
    drawn = np.vstack(fills(result, "wood")) / PX
    drawn[:, 1] = shot.pixels_high - drawn[:, 1]
    for corner in drawn:
        assert np.min(np.linalg.norm(pixels - corner, axis=1)) < 0.01
    # From a level lens above it, two sides at most and the top are seen, never the far ones.
    assert 1 <= len(fills(result, "wood")) <= 3
    middle = thing.at_m[:2]
    eye = seen.camera.places[k, :2]
    nearest = np.argsort(np.linalg.norm(corners(thing)[:4, :2] - eye, axis=1))[0]
    assert any(
        np.min(np.linalg.norm(face / PX * (1, -1) + (0, shot.pixels_high) - pixels[nearest], axis=1)) < 0.01
        for face in fills(result, "wood")
    ), middle


def test_near_things_are_painted_over_far_ones_and_those_behind_are_not():
    result = with_things(
        box("far", 0.0, 8.0),
        box("near", 0.0, 3.0, kind="wall", size=(0.8, 0.2, 1.2)),
        box("behind", 0.0, -6.0, kind="table"),
    )
    order = [item.role for item in result.draw(0.4, "lens").of(Shape) if item.role in ("wood", "masonry")]
    assert order.index("masonry") > max(k for k, role in enumerate(order) if role == "wood")
    assert len(fills(with_things(box("behind", 0.0, -6.0)), "wood")) == 0


def test_a_longer_lens_makes_it_larger_and_nothing_is_not_a_number():
    project = sample()
    heights = []
    for focal in (0.024, 0.05):
        result = solved(changes.set_values(project, "hive-jib", [("shot.focal", focal)]))
        figure = np.vstack(fills(result, "figure"))
        heights.append(np.ptp(figure[:, 1]))
        for item in result.draw(0.4, "lens").items:
            if isinstance(item, (Shape, Stroke, Lines)):
                assert np.all(np.isfinite(item.points))
    assert heights[1] > 1.8 * heights[0]


def test_the_ground_ends_at_the_horizon_of_a_level_lens():
    result = with_things(box("b", 0.0, 5.0))
    sketch = result.draw(0.0, "lens")
    ground = next(item.points for item in sketch.of(Shape) if item.role == "floor")
    assert ground[:, 1].max() == pytest.approx(sketch.box[3] / 2, abs=0.01)


@pytest.mark.parametrize("kind", ["box", "person", "tree"])
def test_a_thing_leaves_the_picture_only_when_all_of_it_is_beside_the_frame(kind):
    # Carried across the view: the picture is painted with and without what was left out of the sketch.
    role = {"box": "wood", "person": "figure", "tree": "foliage"}[kind]
    shot = solved().shot
    wide, high = shot.pixels_wide * PX, shot.pixels_high * PX
    seen = []
    for x in np.linspace(-14, 14, 57):
        result = with_things(box("b", float(x), 5.0, size=(0.6, 0.5, 1.7), kind=kind))
        outlines = fills(result, role)
        seen.append(bool(outlines))
        if outlines:
            every = np.vstack(
                [item.points for item in result.draw(0.4, "lens").of(Shape) if item.role in (role, "figure")]
            )
            assert (every.max(axis=0) >= 0).all()
            assert (every.min(axis=0) <= (wide, high)).all()
    # One run of places, all around the middle, and as wide as the view at that depth or wider.
    changes_at = np.flatnonzero(np.diff(np.array(seen, int)))
    assert len(changes_at) == 2
    half = 5.0 * shot.sensor_width_m / (2 * shot.focal_m)
    assert sum(seen) * 0.5 >= 2 * half


def test_the_limit_of_sharpness_is_drawn_over_the_floor_at_that_depth():
    result = solved()
    seen, k = result.scene.now(0.6), 0
    shot, matrix, eye = result.shot, seen.camera.matrices[k], seen.camera.places[k]
    limit = result.figures["shot.sharp_far"].value
    (line,) = [item.points for item in result.draw(0.6, "lens").of(Stroke) if item.role == "water"]
    # Ahead of the camera along the floor until a point lies that deep.
    ahead = -matrix[:2, 2] / np.linalg.norm(matrix[:2, 2])
    low, high = 0.0, 100.0
    for _ in range(60):
        far = (low + high) / 2
        spot = pose.camera_points(matrix, eye, np.array([[*(eye[:2] + far * ahead), 0.0]]))
        low, high = (far, high) if spot[0, 2] < limit else (low, far)
    pixels = pose.project(spot, focal_pixels(shot), (shot.pixels_wide, shot.pixels_high))
    # The figure is of 25 moments, the drawing of one more.
    assert shot.pixels_high - line[:, 1] / PX == pytest.approx(pixels[0, 1], abs=2.0)


@pytest.mark.parametrize(("frame", "shape"), [("2.39", 2.39), ("1", 1.0), ("0.5625", 0.5625)])
def test_frame_lines_have_the_shape_asked_for_and_fill_the_picture_one_way(frame, shape):
    lines = next(
        item.points
        for item in solved(changes.set_values(sample(), "hive-jib", [("shot.frame", frame)]))
        .draw(0.4, "lens")
        .of(Lines)
        if item.role == "frame-line"
    )
    across, high = np.ptp(lines.reshape(-1, 2), axis=0)
    assert across / high == pytest.approx(shape)
    assert across == pytest.approx(3840 * PX) or high == pytest.approx(2160 * PX)
    assert lines.reshape(-1, 2).mean(axis=0) == pytest.approx((1920 * PX, 1080 * PX))
