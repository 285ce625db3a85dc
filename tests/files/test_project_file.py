"""Project files: nothing lost, nothing damaged, every bad file answered in one sentence."""

from __future__ import annotations

import json
import os
import random
import stat
import time
from pathlib import Path

import msgspec
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.document.project import FORMAT
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.files import atomic, project_file
from hazel_lantern.files.errors import FileError
from tests.helpers import SAMPLES, SHELF, changed, sample
from tests.validation.verify import CASES


@pytest.mark.parametrize("name", SAMPLES)
def test_what_is_written_is_read_back_and_stays_the_same_bytes(tmp_path, name):
    project, path = sample(name), tmp_path / "a.lantern.json"
    project_file.write(project, path)
    assert project_file.read(path) == project
    before = path.read_bytes()
    project_file.write(project_file.read(path), path)
    assert path.read_bytes() == before


@given(st.floats(0.3, 6.0), st.text(min_size=1, max_size=20).filter(str.strip), st.floats(0, 60))
def test_any_number_and_name_survives(length, name, mass):
    project = changes.rename_rig(changed(arm__front=length, kit__0__mass=mass), "hive-jib", name)
    path = os.path.join("x", "y.lantern.json")
    assert project_file.decode(project_file.encode(project), path) == project


def test_two_hundred_damaged_files_are_each_answered_by_one_sentence(tmp_path):
    whole = project_file.encode(sample())
    path = tmp_path / "hurt.lantern.json"
    chance = random.Random(7)
    answered = 0
    for number in range(200):
        data = bytearray(whole)
        way = number % 5
        at = chance.randrange(len(data))
        if way == 0:
            del data[at:]
        elif way == 1:
            for _ in range(30):
                data[chance.randrange(len(data))] = chance.randrange(256)
        elif way == 2:
            data[at:at] = b'"surplus": 1,'
        elif way == 3:
            del data[at : at + 40]
        else:
            text = data.decode()
            keys = [
                '"mass_kg": 0.72',
                '"arm.front": 1.75',
                '"format": 2',
                '"kind": "jib"',
                '"kit": "meadow"',
                '"at_m": [',
                '"safety": "C"',
                '"start_height_m": 0.55',
            ]
            bad = [
                '"mass_kg": -1',
                '"arm.front": "long"',
                '"format": 0',
                '"kind": "ship"',
                '"kit": "none"',
                '"at_m": [9,',
                '"safety": "E"',
                '"start_height_m": -3',
            ]
            pick = number // 5 % len(keys)
            data = bytearray(text.replace(keys[pick], bad[pick]).encode())
        path.write_bytes(data)
        try:
            project_file.read(path)
        except FileError as error:
            answered += 1
            said = str(error)
            assert said.startswith("hurt.lantern.json: ")
            assert len(said) < 600
            assert "Traceback" not in said
        assert path.read_bytes() == bytes(data)
    assert answered >= 190


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"", "JSON"),
        (b"[]", "no 'format'"),
        (b"{}", "no 'format'"),
        (b'{"format": 99}', "newer version"),
        (b'{"format": "1"}', "whole number"),
        (b'{"format": true}', "whole number"),
        (b'{"format": 1}', "name"),
        (b'{"format": 1, "name": "x", "colour": 2}', "colour"),
        (b'{"format": 1, "name": "x", "units": "cubits"}', "mm or in"),
        (b"\xff\xfe", "JSON"),
        (b"[" * 100000, "JSON"),
    ],
)
def test_bad_files_say_where_and_why(tmp_path, data, says):
    path = tmp_path / "bad.lantern.json"
    path.write_bytes(data)
    with pytest.raises(FileError, match=says):
        project_file.read(path)


def test_missing_files_and_numbers_that_are_none_are_refused(tmp_path):
    with pytest.raises(FileError, match="cannot be read"):
        project_file.read(tmp_path / "none.lantern.json")
    project = sample()
    hurt = msgspec.structs.replace(project, kerf_m=float("nan"))
    with pytest.raises(FileError, match="kerf_m is not a finite number"):
        project_file.write(hurt, tmp_path / "a.lantern.json")
    assert not (tmp_path / "a.lantern.json").exists()


def test_older_files_without_newer_parameters_get_their_defaults():
    data = json.loads(project_file.encode(sample()))
    del data["rigs"][0]["design"]["limit.bars"]
    project = project_file.decode(json.dumps(data).encode(), "old.lantern.json")
    assert project.rigs[0].design["limit.bars"] == 0.008


def test_every_kit_is_checked_whether_a_rig_uses_it_or_not():
    data = json.loads(project_file.encode(sample()))
    for field, value, says in (("socket_thread", "M8", "1/4-20, 3/8-16"), ("socket_depth_m", 0.2, "must lie between")):
        hurt = json.loads(json.dumps(data))
        next(kit for kit in hurt["kits"] if kit["id"] == "phone")[field] = value
        with pytest.raises(FileError, match=says):
            project_file.decode(json.dumps(hurt).encode(), "x.lantern.json")


def test_saving_keeps_the_previous_file_and_leaves_nothing_beside(tmp_path):
    path = tmp_path / "a.lantern.json"
    project_file.write(sample(), path)
    first = path.read_bytes()
    project_file.write(changed(arm__front=1.9), path)
    assert (tmp_path / "a.lantern.json~").read_bytes() == first
    assert sorted(p.name for p in tmp_path.iterdir()) == ["a.lantern.json", "a.lantern.json~"]


def test_a_write_that_breaks_leaves_the_old_file_whole(tmp_path, monkeypatch):
    path = tmp_path / "a.lantern.json"
    project_file.write(sample(), path)
    first = path.read_bytes()

    def full(*_):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(FileError, match="No space left"):
        project_file.write(changed(arm__front=1.9), path)
    assert path.read_bytes() == first
    assert [p.name for p in tmp_path.iterdir()] == ["a.lantern.json"]


def test_rights_of_the_file_are_kept_and_the_umask_for_a_new_one(tmp_path):
    path = tmp_path / "a"
    path.write_bytes(b"x")
    path.chmod(0o600)
    atomic.write(path, b"y")
    assert stat.S_IMODE(path.stat().st_mode) == 0o600
    before = os.umask(0o027)
    try:
        atomic.write(tmp_path / "b", b"y")
    finally:
        os.umask(before)
    assert stat.S_IMODE((tmp_path / "b").stat().st_mode) == 0o640


def test_where_links_are_refused_the_previous_copy_is_copied(tmp_path, monkeypatch):
    path = tmp_path / "a.lantern.json"

    def refused(*_):
        raise PermissionError(1, "Operation not permitted")

    monkeypatch.setattr(os, "link", refused)
    kept = []
    for front in (1.6, 1.7, 1.8):
        project_file.write(changed(arm__front=front), path)
        kept.append(path.read_bytes())
    assert (tmp_path / "a.lantern.json~").read_bytes() == kept[-2]
    assert sorted(p.name for p in tmp_path.iterdir()) == ["a.lantern.json", "a.lantern.json~"]


def test_through_a_link_what_it_leads_to_is_written_and_nothing_but_a_regular_file_is_replaced(tmp_path):
    (tmp_path / "deep").mkdir()
    real, link, pipe = tmp_path / "deep" / "a.lantern.json", tmp_path / "link.lantern.json", tmp_path / "pipe"
    project_file.write(sample(), real)
    link.symlink_to(real)
    project_file.write(changed(arm__front=1.9), link)
    assert link.is_symlink()
    assert project_file.read(real) == changed(arm__front=1.9)
    assert (tmp_path / "deep" / "a.lantern.json~").exists()
    os.mkfifo(pipe)
    for path, words in ((pipe, "no regular file"), (tmp_path / "deep", "is a folder"), (Path(""), "no name")):
        with pytest.raises(FileError, match=words):
            project_file.write(sample(), path)
        with pytest.raises(FileError, match=r"regular file|folder"):
            project_file.read(path)
    assert stat.S_ISFIFO(pipe.stat().st_mode)


def test_what_a_killed_writer_left_goes_and_what_is_being_written_stays(tmp_path):
    path = tmp_path / "a.lantern.json"
    for name, age in (("old", 2 * atomic.STALE), ("young", 0.0)):
        half = tmp_path / f".a.lantern.json.{name}{atomic.BESIDE}"
        half.write_bytes(b"half")
        os.utime(half, (time.time() - age,) * 2)
    atomic.write(path, b"y")
    assert sorted(p.name for p in tmp_path.iterdir()) == [f".a.lantern.json.young{atomic.BESIDE}", "a.lantern.json"]


def test_the_published_schema_knows_every_field_and_parameter():
    schema = project_file.schema()
    project = schema["$defs"]["Project"]
    assert project["additionalProperties"] is False
    assert set(json.loads(project_file.encode(sample()))) <= set(project["properties"])
    design = schema["$defs"]["design of a jib"]["properties"]
    assert set(design) == set(sample().rigs[0].design)
    assert design["arm.front"] == {
        "type": "number",
        "minimum": 0.3,
        "maximum": 6.0,
        "default": 1.75,
        "description": "Front arm [m]",
    }


def test_a_file_of_format_1_opens_with_its_move_in_keys_and_is_written_in_todays_format():
    path = CASES / "old" / "format-1.lantern.json"
    old, project = json.loads(path.read_text()), project_file.read(path)
    shot = project.shots[0]
    assert (shot.duration_s, shot.ramp, shot.hold_start_s, shot.hold_end_s) == (11.5, 0.2, 1.25, 0.75)
    # Inputs that came later stand at their defaults.
    assert project.rigs[0].design.items() >= old["rigs"][0]["design"].items()
    assert evaluate(project, SHELF, "slider-1").figures["shot.speed"].value == pytest.approx(0.11369565217391304)
    again = json.loads(project_file.encode(project))
    assert again["format"] == FORMAT
    assert [name for name in old["shots"][0] if name not in again["shots"][0]] == [
        "hold_start_s",
        "hold_end_s",
        "duration_s",
        "ramp",
    ]
    assert [name for name in old["sets"][0] if name not in again["sets"][0]] == ["floor"]


@pytest.mark.parametrize(
    ("name", "value", "told"),
    [
        ("duration_s", "soon", "a number"),
        ("duration_s", 0.0, r"keys\.1\.time"),
        ("ramp", 0.9, r"segments\.0\.ramp"),
        ("keys", [], "format 1 does not know"),
        ("hold_end_s", -1, r"keys\.1\.hold"),
    ],
)
def test_a_wrong_file_of_format_1_is_answered_like_any_other(name, value, told):
    old = json.loads((CASES / "old" / "format-1.lantern.json").read_text())
    old["shots"][0][name] = value
    with pytest.raises(FileError, match=told):
        project_file.decode(json.dumps(old).encode(), "old")
