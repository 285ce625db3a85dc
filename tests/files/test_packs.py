"""The builder's own packs: laid over ours where they are whole, left out with one sentence where they are not."""

from __future__ import annotations

import json
import os
import random

import platformdirs
import pytest
from bench.damage import bytes_hurt, damaged

from hazel_lantern.files import packs, places
from tests.helpers import SHELF

PLATE = {"id": "brick", "name": "Brick", "mass": 3.1, "radius": 0.1, "thickness": 0.07}
TUBE = {
    "id": "shed-tube", "name": "Tube from the shed", "shape": "rectangular_tube",
    "dims": {"b": 0.025, "h": 0.05, "t": 0.002}, "material": "al6063", "lengths": [2.4], "prices": [6],
}  # fmt: skip
HEAD = "id,name,shape,dims.b,dims.h,dims.t,material,lengths,prices\n"


def write(name, text="", **data):
    packs.folder().mkdir(parents=True, exist_ok=True)
    (packs.folder() / name).write_text(text or json.dumps({"format": 1, "source": "weighed at home"} | data))


def test_packs_lie_over_ours_and_none_is_fine():
    assert packs.load() == packs.Shelf(SHELF)
    write("mine.json", table="plates", rows=[PLATE])
    shelf = packs.load().catalogue
    assert shelf.plates["brick"].pack == "mine"
    assert shelf.plates["brick"].mass == 3.1
    assert len(shelf.plates) == len(SHELF.plates) + 1


def test_a_pack_may_be_a_table_of_rows_named_after_its_table():
    write(
        "sections-shed.csv",
        HEAD + "shed-tube,Tube from the shed,rectangular_tube,0.025,0.05,0.002,al6063,2.4;6,0;18.5\n",
    )
    write("plates-shed.csv", "id,name,mass,radius,thickness\nbrick,Brick,3.1,0.1,0.07\n")
    shelf = packs.load().catalogue
    tube, ours = shelf.sections["shed-tube"], SHELF.sections["al6063-25x50x2"]
    assert tube.section() == ours.section()
    assert tube.lengths == [2.4, 6.0]
    assert shelf.plates["brick"].mass == 3.1


BAD = [
    ("hurt.json", json.dumps({"rows": [PLATE]}), "table"),
    ("hurt.json", json.dumps({"format": 1, "table": "cheese", "rows": []}), "cheese"),
    ("hurt.json", json.dumps({"format": 1, "table": "plates", "rows": [PLATE | {"mass": -1.0}]}), "mass"),
    ("hurt.json", json.dumps({"format": 1, "table": "plates", "rows": [PLATE | {"radius": 1e300}]}), "radius"),
    ("hurt.json", json.dumps({"format": 1, "table": "plates", "rows": [{"id": "x"}]}), "name"),
    ("hurt.json", json.dumps({"format": 1, "table": "plates", "rows": [PLATE | {"id": ""}]}), "id of 1 to 80"),
    ("hurt.json", json.dumps({"format": 1, "table": "sections",
        "rows": [TUBE | {"dims": {"b": 0.025, "h": 0.05}}]}), "dims"),
    ("hurt.json", json.dumps({"format": 1, "table": "sections",
        "rows": [TUBE | {"dims": TUBE["dims"] | {"d": 1}}]}), "dims"),
    ("hurt.json", json.dumps({"format": 1, "table": "sections",
        "rows": [TUBE | {"dims": {"b": 1e99, "h": 1e99, "t": 1}}]}), "dims"),
    ("hurt.json", '{"rows":' * 100_000, "hurt"),
    ("cheese.csv", "id,name\nx,y\n", "must begin with"),
    ("plates.csv", "id,name,mass\nx,y,heavy\n", "mass"),
    ("plates.csv", "id,name,mass,radius,thickness\nx,y,1,0.1\n", "cells"),
    ("plates.csv", "id,name,mass,radius,thickness\nx,y,nan,0.1,0.1\n", "mass"),
    ("plates.csv", "id,name,mass,radius,thickness\nx," + "y" * 200_000 + ",1,0.1,0.1\n", "field larger"),
    ("sections.csv", HEAD.replace("dims.b", "dims,dims.b") + "x,y,flat_bar,1,0.02,0.05,0.002,steel,2,1\n",
        "beside a column dims"),
    ("sections.csv", "id,name,shape,dims.d,dims.t,material,lengths,prices\nx,y,round_tube,0.02,0.02,steel,2,1\n",
        "t is"),
    ("sections.csv", "id,name,shape,dims.d,material,lengths,prices\nx,y,solid_round,0.02,cheese,2,1\n", "cheese"),
]  # fmt: skip


@pytest.mark.parametrize(("name", "text", "says"), BAD)
def test_a_bad_pack_is_left_out_with_one_sentence_and_the_others_are_read(name, text, says):
    write(name, text)
    write("mine.json", table="plates", rows=[PLATE])
    shelf = packs.load()
    assert len(shelf.left_out) == 1
    assert says in shelf.left_out[0]
    assert name.partition(".")[0] in shelf.left_out[0]
    assert "\n" not in shelf.left_out[0]
    assert len(shelf.left_out[0]) < 400
    assert shelf.catalogue.plates.keys() == SHELF.plates.keys() | {"brick"}
    assert shelf.catalogue.sections == SHELF.sections


def test_what_is_no_pack_and_a_folder_that_is_none_trouble_nothing():
    packs.folder().mkdir(parents=True)
    (packs.folder() / "a.json").mkdir()
    os.mkfifo(packs.folder() / "b.csv")
    assert [words.partition(" ")[0] for words in packs.load().left_out] == ["a.json", "b.csv"]
    (packs.folder() / "a.json").rmdir()
    (packs.folder() / "b.csv").unlink()
    packs.folder().rmdir()
    packs.folder().write_text("a file")
    shelf = packs.load()
    assert shelf.catalogue == SHELF
    assert "cannot be opened" in shelf.left_out[0]


def test_a_pack_of_sections_may_be_made_of_another_packs_material():
    larch = {name: getattr(SHELF.materials["pine"], name) for name in SHELF.materials["pine"].__struct_fields__}
    write("z.json", table="materials", rows=[larch | {"id": "larch", "name": "Larch"}])
    write("a.json", table="sections", rows=[TUBE | {"material": "larch"}])
    assert packs.load().catalogue.sections["shed-tube"].material == "larch"


def test_packs_hurt_at_random_are_read_or_left_out():
    good = json.dumps({"format": 1, "table": "sections", "rows": [TUBE], "source": "x"}).encode()
    table = (HEAD + "shed-tube,Tube,rectangular_tube,0.025,0.05,0.002,al6063,2.4;6,0;18.5\n").encode()
    packs.folder().mkdir(parents=True)
    for seed in range(100):
        chance = random.Random(seed)
        (packs.folder() / "a.json").write_bytes(damaged(good, chance))
        (packs.folder() / "sections-b.csv").write_bytes(bytes_hurt(table, chance))
        shelf = packs.load()
        assert shelf.catalogue.sections.keys() >= SHELF.sections.keys(), seed
        for row in shelf.catalogue.sections.values():
            assert 0 < row.section().area < 1e4, seed


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
