"""The move written for other programs, read back by an independent loader."""

from __future__ import annotations

import base64
import csv
import io
import json

import numpy as np
import pytest
import trimesh
from scipy.spatial.transform import Rotation

from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.staging.timing import frames
from hazel_lantern.files import previs
from tests.helpers import changed, sample, solved


def test_gltf_opens_elsewhere_with_the_set_in_place_and_the_camera_on_its_way():
    result = solved()
    data = previs.gltf(result)
    scene = trimesh.load(io.BytesIO(data), file_type="gltf")
    hive = next(t for t in sample().sets[0].things if t.id == "hive-2")
    low, high = scene.geometry[hive.name].bounds
    x, y, _ = hive.at_m
    assert (low + high) / 2 == pytest.approx((x, hive.size_m[2] / 2, -y), abs=1e-6)
    document = json.loads(data)
    assert document["cameras"][0]["perspective"]["yfov"] == pytest.approx(angle_of_view(0.0132, 0.024))
    buffer = base64.b64decode(document["buffers"][0]["uri"].split(",")[1])

    def array(index, columns):
        accessor = document["accessors"][index]
        view = document["bufferViews"][accessor["bufferView"]]
        assert view["byteOffset"] % 4 == 0
        return np.frombuffer(buffer[view["byteOffset"] : view["byteOffset"] + view["byteLength"]], "<f4").reshape(
            -1, columns
        )

    move = document["animations"][0]
    turns, places = array(move["samplers"][1]["output"], 4), array(move["samplers"][0]["output"], 3)
    made = frames(result.shot, result.scene)
    assert len(places) == len(made.times) == 8 * 50 + 1
    assert np.all(np.sum(turns[1:] * turns[:-1], axis=1) > 0)
    # The subject lies on the optical axis of the exported camera: it looks along its own -z.
    keeper = next(t for t in sample().sets[0].things if t.id == "keeper")
    x, y, _ = keeper.at_m
    target = np.array([x, 0.88 * keeper.size_m[2], -y])
    for k in (0, 200, 400):
        local = Rotation.from_quat(turns[k]).inv().apply(target - places[k])
        assert np.allclose(local[:2] / -local[2], 0, atol=1e-5)


def test_the_path_is_one_row_for_each_frame_and_its_turns_agree_with_its_angles():
    result = solved(changed(shot__hold_start=0.5))
    rows = list(csv.DictReader(io.StringIO(previs.path_csv(result).decode())))
    assert len(rows) == 425 + 1
    assert rows[0]["z_m"] == rows[24]["z_m"] == "0.550000"
    assert float(rows[-1]["z_m"]) == pytest.approx(2.8)
    assert float(rows[0]["qw"]) >= 0
    row = rows[300]
    turn = Rotation.from_quat([float(row[f"q{axis}"]) for axis in "xyzw"])
    ahead = turn.apply([0, 0, -1])
    pan, tilt = np.radians(float(row["pan_deg"])), np.radians(float(row["tilt_deg"]))
    assert ahead == pytest.approx((-np.sin(pan) * np.cos(tilt), np.cos(pan) * np.cos(tilt), np.sin(tilt)), abs=1e-6)


def test_the_keys_are_where_the_camera_path_is_at_their_times():
    project = lists.add_key(sample(), sample().shots[0].id)
    result = solved(changes.set_values(project, "hive-jib", [("key.1.hold", 2.0)]))
    keys = list(csv.DictReader(io.StringIO(previs.keys_csv(result).decode("utf-8-sig"))))
    path = list(csv.DictReader(io.StringIO(previs.path_csv(result).decode())))
    assert [row["key"] for row in keys] == ["1", "2", "2", "3"]
    assert float(keys[2]["time_s"]) - float(keys[1]["time_s"]) == pytest.approx(2.0)
    for row in keys:
        frame = path[round(float(row["time_s"]) * result.shot.capture_fps)]
        for name in ("x_m", "y_m", "z_m", "pan_deg", "tilt_deg"):
            assert float(row[name]) == pytest.approx(float(frame[name]), abs=1e-5)


def test_shot_list_and_what_cannot_be_written():
    text = previs.shots_csv(sample(), Display()).decode("utf-8-sig")
    assert "Rise over the hives" in text
    assert "Keeper" in text
    with pytest.raises(InputError, match="frames"):
        frames(*(lambda r: (r.shot, r.scene))(solved(changed(shot__time=36000.0))))
