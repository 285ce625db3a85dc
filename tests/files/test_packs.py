"""The builder's own packs, found in the data folder."""

from __future__ import annotations

import json

import platformdirs
import pytest

from hazel_lantern.files import packs, places
from hazel_lantern.files.errors import FileError
from tests.helpers import SHELF

PLATE = {"id": "brick", "name": "Brick", "mass": 3.1, "radius": 0.1, "thickness": 0.07}


def write(name, **data):
    packs.folder().mkdir(parents=True, exist_ok=True)
    (packs.folder() / name).write_text(json.dumps({"format": 1, "source": "weighed at home"} | data))


def test_packs_lie_over_ours_and_none_is_fine():
    assert packs.load() == SHELF
    write("mine.json", table="plates", rows=[PLATE])
    shelf = packs.load()
    assert shelf.plates["brick"].pack == "mine"
    assert shelf.plates["brick"].mass == 3.1
    assert len(shelf.plates) == len(SHELF.plates) + 1


@pytest.mark.parametrize(
    "data",
    [
        {"rows": [PLATE]},
        {"table": "cheese", "rows": []},
        {"table": "plates", "rows": [PLATE | {"mass": -1.0}]},
        {"table": "plates", "rows": [{"id": "x"}]},
    ],
)
def test_a_bad_pack_is_named_with_its_cause(data):
    write("hurt.json", **data)
    with pytest.raises(FileError, match=r"hurt\.json: "):
        packs.load()


def test_a_pack_may_be_a_table_of_rows_named_after_its_table():
    packs.folder().mkdir(parents=True, exist_ok=True)
    head = "id,name,shape,dims.b,dims.h,dims.t,material,lengths,prices\n"
    (packs.folder() / "sections-shed.csv").write_text(
        head + "shed-tube,Tube from the shed,rectangular_tube,0.025,0.05,0.002,al6063,2.4;6,0;18.5\n"
    )
    (packs.folder() / "plates-shed.csv").write_text("id,name,mass,radius,thickness\nbrick,Brick,3.1,0.1,0.07\n")
    shelf = packs.load()
    tube, ours = shelf.sections["shed-tube"], SHELF.sections["al6063-25x50x2"]
    assert tube.section() == ours.section()
    assert tube.lengths == [2.4, 6.0]
    assert shelf.plates["brick"].mass == 3.1


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("cheese.csv", "id,name\nx,y\n"),
        ("plates.csv", "id,name,mass\nx,y,heavy\n"),
        ("plates.csv", "id,name,mass,radius,thickness\nx,y,1,0.1\n"),
        ("sections.csv", "id,name,shape,dims.d,dims.t,material,lengths,prices\nx,y,round_tube,0.02,0.02,steel,2,1\n"),
        ("sections.csv", "id,name,shape,dims.d,material,lengths,prices\nx,y,solid_round,0.02,cheese,2,1\n"),
    ],
)
def test_a_bad_table_of_rows_is_named_with_its_cause(name, text):
    packs.folder().mkdir(parents=True, exist_ok=True)
    (packs.folder() / name).write_text(text)
    with pytest.raises(FileError):
        packs.load()


@pytest.mark.parametrize("named", [True, False])
def test_our_folders_are_those_of_the_usual_library(monkeypatch, tmp_path, named):
    monkeypatch.setenv("HOME", str(tmp_path))
    for kind in ("config", "data", "state"):
        if named:
            monkeypatch.setenv(f"XDG_{kind.upper()}_HOME", str(tmp_path / "elsewhere" / kind))
        else:
            monkeypatch.delenv(f"XDG_{kind.upper()}_HOME")
        assert getattr(places, kind)() == getattr(platformdirs, f"user_{kind}_path")("hazel-lantern")
    monkeypatch.setenv("XDG_DATA_HOME", "not/absolute")
    assert places.data() == tmp_path / ".local/share/hazel-lantern"
