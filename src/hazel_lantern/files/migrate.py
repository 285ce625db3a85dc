"""Files of older formats, made into those of this one: one step a format, over what JSON gave."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from hazel_lantern.core.document.project import FORMAT
from hazel_lantern.files.errors import FileError


def current(head: dict[str, Any], path: Path) -> dict[str, Any]:
    """The same document in today's format, its number included;
    raises FileError where the old one was wrong already."""
    for step in range(head["format"], FORMAT):
        head = STEPS[step](head, path) | {"format": step + 1}
    return head


def _keys(head: dict[str, Any], path: Path) -> dict[str, Any]:
    """From 1: time, holds and ease of a shot become keys and a segment; what the floor is made of goes, because
    nothing read it.
    """
    shots = [_shot_with_keys(shot, path, f"shots[{k}]") for k, shot in enumerate(_dicts(head, "shots"))]
    sets = [{name: value for name, value in stage.items() if name != "floor"} for stage in _dicts(head, "sets")]
    return head | ({"shots": shots} if shots else {}) | ({"sets": sets} if sets else {})


def _dicts(head: dict[str, Any], name: str) -> list[dict[str, Any]]:
    """The objects of a list; none where it is no list of objects, which the check that follows says better."""
    found = head.get(name)
    return found if isinstance(found, list) and all(isinstance(item, dict) for item in found) else []


def _shot_with_keys(shot: dict[str, Any], path: Path, place: str) -> dict[str, Any]:
    old = {"hold_start_s": 0.0, "duration_s": 8.0, "hold_end_s": 0.0, "ramp": 0.35}
    found = {name: shot.get(name, usual) for name, usual in old.items()}
    for name, value in found.items():
        if isinstance(value, bool) or not isinstance(value, (int, float)):
            raise FileError(path, f"{place}.{name} is {value!r}: must be a number")
    for name in ("keys", "segments"):
        if name in shot:
            raise FileError(path, f"{place} holds {name!r}, which format 1 does not know")
    keys = [
        {"time_s": 0.0, "share": 0.0, "hold_s": found["hold_start_s"]},
        {"time_s": found["hold_start_s"] + found["duration_s"], "share": 1.0, "hold_s": found["hold_end_s"]},
    ]
    return {name: value for name, value in shot.items() if name not in old} | {
        "keys": keys,
        "segments": [{"shape": "eased", "ramp": found["ramp"]}],
    }


def _drives(head: dict[str, Any], path: Path) -> dict[str, Any]:
    """From 2: nothing was said of drives; a file that holds some is none of that format."""
    for k, rig in enumerate(_dicts(head, "rigs")):
        if "drives" in rig:
            raise FileError(path, f"rigs[{k}] holds 'drives', which format 2 does not know")
    return head


STEPS = {1: _keys, 2: _drives}
