"""Every row of the catalogue can be worked with, and a bad pack says which row is bad."""

from __future__ import annotations

import json

import pytest

from hazel_lantern.core import catalogue
from hazel_lantern.core.nouns.errors import InputError
from tests.helpers import SHELF

ROW = {
    "id": "mine",
    "name": "My tube",
    "shape": "round_tube",
    "dims": {"d": 0.02, "t": 0.002},
    "material": "steel",
    "lengths": [2.0],
    "prices": [5.0],
}


def pack(*rows, **head):
    return json.dumps({"format": 1, "source": "my shop"} | head | {"rows": list(rows)}).encode()


def test_every_table_names_its_source_and_every_bar_has_a_section_that_floats_in_reason():
    assert all(SHELF.sources[table] for table in catalogue.TABLES)
    for bar in SHELF.sections.values():
        section = bar.section()
        assert 0 < section.area <= bar.width * bar.depth * 1.001
        assert 0 < section.iy <= section.area * bar.depth**2 / 4 * 1.001
        assert list(bar.lengths) == sorted(bar.lengths)
    for bolt in SHELF.bolts.values():
        assert bolt.stress_area == pytest.approx(3.14159 / 4 * (bolt.d - 0.9382 * bolt.pitch) ** 2, rel=0.04)
        assert bolt.d < bolt.clear_close < bolt.clear_normal
    for material in SHELF.materials.values():
        assert material.E_low <= material.E <= material.E_high


def test_a_builders_pack_lies_over_ours_and_says_so():
    shelf = catalogue.load((("my shop", "sections", pack(ROW, ROW | {"id": "al6063-25x50x2", "material": "steel"})),))
    assert shelf.sections["mine"].pack == "my shop"
    assert shelf.sections["al6063-25x50x2"].material == "steel"
    assert shelf.version != SHELF.version
    assert len(shelf.sections) == len(SHELF.sections) + 1


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (b"{", "sections"),
        (pack(ROW, format=2), "format 1"),
        (pack(ROW | {"dims": {"d": 0.02, "t": 0.02}}), "t is"),
        (pack(ROW | {"prices": []}), "mine, prices"),
        (pack(ROW | {"shape": "star"}), "star"),
        (pack(ROW | {"colour": 1}), "colour"),
        (pack(ROW | {"material": "cheese"}), "cheese"),
        (pack({"id": "x"}), "name"),
    ],
)
def test_bad_packs_say_where_and_why(data, says):
    with pytest.raises(InputError, match=says):
        catalogue.load((("my shop", "sections", data),))
    with pytest.raises(InputError, match="cheese"):
        SHELF.row("sections", "cheese", "arm.section")
