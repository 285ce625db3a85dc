"""The builder's own packs, found in the data folder."""

from __future__ import annotations

import json

import pytest

from hazel_lantern.files import packs
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
    "data", [{"rows": [PLATE]}, {"table": "cheese", "rows": []}, {"table": "plates", "rows": [PLATE | {"mass": -1.0}]}, {"table": "plates", "rows": [{"id": "x"}]}]
)
def test_a_bad_pack_is_named_with_its_cause(data):
    write("hurt.json", **data)
    with pytest.raises(FileError, match=r"hurt\.json: "):
        packs.load()
