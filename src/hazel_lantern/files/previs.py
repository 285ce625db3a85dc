"""The move for other programs: the camera path as CSV, the animated camera and a simple set as glTF 2.0."""

from __future__ import annotations

import base64
import math

import msgspec
import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.answers import Outline
from hazel_lantern.core.document.project import Project, Thing
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.optics.lens import angle_of_view
from hazel_lantern.core.optics.pose import TO_Y_UP, quaternion
from hazel_lantern.core.staging.things import SORTS, corners
from hazel_lantern.core.staging.timing import Frames, focus_of, frames, smooth
from hazel_lantern.core.staging.walking import track
from hazel_lantern.files.tables import as_csv

HEAD = "frame,time_s,x_m,y_m,z_m,pan_deg,tilt_deg,roll_deg,qx,qy,qz,qw,focal_mm,focus_m,path_m"
_TRIANGLES = np.array(
    [
        (0, 2, 1),
        (0, 3, 2),
        (4, 5, 6),
        (4, 6, 7),
        (0, 1, 5),
        (0, 5, 4),
        (1, 2, 6),
        (1, 6, 5),
        (2, 3, 7),
        (2, 7, 6),
        (3, 0, 4),
        (3, 4, 7),
    ],
    np.uint16,
)


def path_csv(result: Outline) -> bytes:
    """One row for each captured frame; z up, pan 0 along +y, metres and degrees. Raises InputError as `frames` does."""
    made = frames(result.shot, result.scene)
    focal = result.shot.focal_m * 1e3
    rows = [HEAD]
    turned = (made.sight.pan, made.sight.tilt, made.sight.roll)
    for k, time in enumerate(made.times):
        numbers = [*made.sight.places[k], *(math.degrees(angle[k]) + 0.0 for angle in turned)]
        turn = ",".join(f"{q:.9f}" for q in made.quaternions[k])
        focus = "inf" if math.isinf(made.focus[k]) else f"{made.focus[k]:.6f}"
        rows.append(
            f"{k},{time:.6f},"
            + ",".join(f"{n:.6f}" for n in numbers)
            + f",{turn},{focal:.6f},{focus},{made.way[k]:.6f}"
        )
    return ("\n".join(rows) + "\n").encode()


def keys_csv(result: Outline) -> bytes:
    """One row for each key of the move, reached and left: where the camera then is and looks, z up, metres and degrees;
    and how the move goes on. Raises InputError for a camera inside its subject.
    """
    shot, scene = result.shot, result.scene
    rows: list[list[object]] = []
    for n, key in enumerate(shot.keys):
        clock = np.array([key.time_s, key.time_s + key.hold_s])
        seen = scene.at(np.clip((clock - shot.leaves_s) / shot.duration_s, 0.0, 1.0), clock)
        after = shot.segments[n].shape if n < len(shot.segments) else ""
        for k in range(2 if key.hold_s else 1):
            x, y, z = seen.camera.places[k].tolist()
            pan, tilt = math.degrees(seen.camera.pan[k]), math.degrees(seen.camera.tilt[k])
            numbers = [round(v, 6) for v in (clock[k], key.share, x, y, z, pan, tilt)]
            rows.append([n + 1, "leaves" if k else "reaches", *numbers, "" if key.hold_s and not k else after])
    return as_csv(["key", "", "time_s", "share", "x_m", "y_m", "z_m", "pan_deg", "tilt_deg", "goes on"], rows)


def head_csv(result: Outline) -> bytes:
    """The head's scales and the focus at every whole second of the clock and at every key: what is marked on them, and
    what a motor plays. Raises InputError for a camera inside its subject.
    """
    shot, scene = result.shot, result.scene
    total = shot.keys[-1].time_s + shot.hold_end_s
    keys = [key.time_s for axis in shot.axes for key in axis.keys] + [
        moment for key in shot.keys for moment in (key.time_s, key.time_s + key.hold_s)
    ]
    clock = np.unique(np.round([*np.arange(0, math.floor(total) + 1), total, *(t for t in keys if t <= total)], 6))
    seen = scene.at(np.clip((clock - shot.leaves_s) / shot.duration_s, 0.0, 1.0), clock)
    read, focus = seen.scales, focus_of(shot, seen)
    columns = [*(np.degrees(angle) + 0.0 for angle in (read.pan, read.tilt, read.roll)), focus]
    rows: list[list[object]] = [
        [round(float(t), 6), round(float(seen.share[k]), 6), *(round(float(column[k]), 6) for column in columns)]
        for k, t in enumerate(clock)
    ]
    return as_csv(["time_s", "share", "head_pan_deg", "head_tilt_deg", "head_roll_deg", "focus_m"], rows)


def shots_csv(project: Project, show: Display) -> bytes:
    """One row for each shot of the project."""
    rows: list[list[object]] = []
    for shot in project.shots:
        rigs = ", ".join(rig.name for rig in project.rigs if shot.id in rig.shots)
        looks = next((thing.name for thing in project.set_of(shot).things if thing.id == shot.target), "")
        rows.append(
            [
                shot.name,
                shot.move,
                show.text(shot.start_height_m, "m"),
                show.text(shot.end_height_m, "m"),
                round(shot.duration_s, 3),
                round(shot.hold_start_s, 3),
                round(shot.hold_end_s, 3),
                round(shot.focal_m * 1e3, 3),
                shot.aperture,
                shot.capture_fps,
                shot.shown_fps,
                round(math.degrees(shot.shutter_rad), 1),
                looks,
                project.set_of(shot).name,
                rigs,
            ]
        )
    return as_csv(
        [
            "shot",
            "move",
            "starts at",
            "ends at",
            "seconds",
            "hold before s",
            "hold after s",
            "lens mm",
            "f-number",
            "shot fps",
            "shown fps",
            "shutter deg",
            "looks at",
            "set",
            "rigs",
        ],
        rows,
    )


def gltf(result: Outline) -> bytes:
    """Animated camera and the boxes of the set, y up, one file. Raises InputError as `frames` does."""
    made, shot = frames(result.shot, result.scene), result.shot
    pack = _Pack()
    turns = smooth(np.array([quaternion(TO_Y_UP @ m) for m in made.sight.matrices]))
    places = made.sight.places @ TO_Y_UP.T
    nodes: list[dict[str, object]] = [
        {"name": "camera", "camera": 0, "translation": places[0].tolist(), "rotation": turns[0].tolist()}
    ]
    meshes: list[dict[str, object]] = []
    ways = {0: (places, turns)}
    for thing in result.stage.things:
        if SORTS[thing.kind].solid:
            # One that moves is drawn about its own foot, and its node goes its way.
            shape = replace(thing, at_m=(0.0, 0.0, 0.0), turn_rad=0.0) if thing.stops else thing
            points, faces = (
                pack.add(corners(shape) @ TO_Y_UP.T, "VEC3", 34962),
                pack.add(_TRIANGLES.ravel(), "SCALAR", 34963),
            )
            meshes.append({"name": thing.name, "primitives": [{"attributes": {"POSITION": points}, "indices": faces}]})
            node: dict[str, object] = {"name": thing.name, "mesh": len(meshes) - 1}
            if thing.stops:
                at, swing = ways[len(nodes)] = _way(thing, made.times)
                node |= {"translation": at[0].tolist(), "rotation": swing[0].tolist()}
            nodes.append(node)
    document: dict[str, object] = {
        "asset": {"version": "2.0", "generator": "Hazel Lantern"},
        "scene": 0,
        "scenes": [{"nodes": list(range(len(nodes)))}],
        "nodes": nodes,
        "cameras": [
            {
                "type": "perspective",
                "perspective": {
                    "yfov": angle_of_view(shot.sensor_height_m, shot.focal_m),
                    "aspectRatio": shot.squeeze * shot.sensor_width_m / shot.sensor_height_m,
                    "znear": 0.01,
                },
            }
        ],
    }
    if meshes:
        document["meshes"] = meshes
    if len(made.times) > 1:
        document["animations"] = [_animation(pack, made, ways)]
    return msgspec.json.encode(document | pack.parts())


def _way(thing: Thing, times: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """Places (n, 3) and turns (n, 4) of a thing that moves, y up."""
    way = track(thing, times)
    half, still = way[:, 3] / 2, np.zeros(len(times))
    return way[:, :3] @ TO_Y_UP.T, np.column_stack([still, np.sin(half), still, np.cos(half)])


def _animation(pack: _Pack, made: Frames, ways: dict[int, tuple[np.ndarray, np.ndarray]]) -> dict[str, object]:
    """The ways of nodes by their number: places (n, 3) and turns (n, 4) at every frame."""
    times = pack.add(made.times, "SCALAR")
    outputs = [
        (node, path, pack.add(rows, kind))
        for node, way in ways.items()
        for path, rows, kind in zip(("translation", "rotation"), way, ("VEC3", "VEC4"), strict=True)
    ]
    return {
        "name": "move",
        "samplers": [{"input": times, "output": output, "interpolation": "LINEAR"} for *_, output in outputs],
        "channels": [{"sampler": i, "target": {"node": n, "path": path}} for i, (n, path, _) in enumerate(outputs)],
    }


class _Pack:
    """Arrays gathered into one little-endian buffer, each on a multiple of four bytes."""

    def __init__(self) -> None:
        self._bytes = bytearray()
        self._views: list[dict[str, object]] = []
        self._accessors: list[dict[str, object]] = []

    def add(self, numbers: np.ndarray, shape: str, target: int | None = None) -> int:
        whole = np.issubdtype(numbers.dtype, np.integer)
        data = np.ascontiguousarray(numbers, "<u2" if whole else "<f4")
        self._bytes += b"\0" * (-len(self._bytes) % 4)
        view: dict[str, object] = {"buffer": 0, "byteOffset": len(self._bytes), "byteLength": data.nbytes}
        self._views.append(view | ({"target": target} if target else {}))
        self._bytes += data.tobytes()
        rows = data.reshape(len(data), -1)
        self._accessors.append(
            {
                "bufferView": len(self._views) - 1,
                "componentType": 5123 if whole else 5126,
                "count": len(rows),
                "type": shape,
                "min": rows.min(axis=0).tolist(),
                "max": rows.max(axis=0).tolist(),
            }
        )
        return len(self._accessors) - 1

    def parts(self) -> dict[str, object]:
        uri = "data:application/octet-stream;base64," + base64.b64encode(bytes(self._bytes)).decode()
        return {
            "buffers": [{"byteLength": len(self._bytes), "uri": uri}],
            "bufferViews": self._views,
            "accessors": self._accessors,
        }
