"""Exports: true millimetres, readable by independent readers, safe to open in a spreadsheet."""

from __future__ import annotations

import csv
import io
import itertools
import json
import math
import xml.etree.ElementTree as ET

import ezdxf
import numpy as np
import pytest
from msgspec.structs import replace
from pypdf import PdfReader

from hazel_lantern.core.document.readable import plain
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display, parse
from hazel_lantern.core.workshop.tiling import A4, LETTER, corrected, tiling
from hazel_lantern.files.exports import FORMATS, export
from tests.files.pages import drawn
from tests.helpers import SHELF, changed, sample, solved


@pytest.fixture
def made(tmp_path):
    def make(to, project=None):
        path = tmp_path / f"out{FORMATS[to][1]}"
        project = project or sample()
        export(project, SHELF, project.rigs[0].id, to, path)
        return path

    return make


def rows(path):
    return list(csv.DictReader(io.StringIO(path.read_bytes().decode("utf-8-sig"))))


def test_lists_hold_every_part_and_mark_in_millimetres(made):
    parts, result = rows(made("parts-csv")), solved()
    assert [float(row["length mm"]) for row in parts] == pytest.approx(
        [p.length * 1e3 for p in result.parts], abs=0.005
    )
    marks = rows(made("marks-csv"))
    assert len(marks) == sum(len(p.marks) for p in result.parts)
    assert [float(m["at mm"]) for m in marks if m["mark"] == "A1"] == pytest.approx(
        [m.at * 1e3 for m in result.parts[0].marks]
    )
    bought = rows(made("buy-csv"))
    total = sum(float(row[key]) for row in bought for key in row if key and key.startswith("total"))
    assert total == pytest.approx(result.figures["build.cost"].value)


ODD = (
    "\x00\x07nul",
    "<b>&amp;</b>",
    "=1+1",
    " \t=cmd|x",
    "＝A1",
    "\u202eback",
    "\ufffe",
    "line\nbreak",
    "n" * 10_000,
    "'\";]]>",
    "🙂é漢",
)


def oddly_named(name):
    """The sample with one name for everything."""
    project = sample()
    return replace(
        project,
        name=name,
        kits=tuple(replace(k, name=name, items=tuple(replace(i, name=name) for i in k.items)) for k in project.kits),
        shots=tuple(replace(shot, name=name) for shot in project.shots),
        sets=tuple(replace(s, name=name, things=tuple(replace(t, name=name) for t in s.things)) for s in project.sets),
        rigs=tuple(replace(rig, name=name) for rig in project.rigs),
    )


@pytest.mark.parametrize("name", ODD)
def test_whatever_things_are_called_every_export_is_read_by_others(made, name):
    project = oddly_named(name)
    seen = plain(name)
    assert all(c.isprintable() for c in seen)
    assert len(seen) <= 60
    root = ET.fromstring(made("svg", project).read_bytes())
    assert seen in "".join(root.itertext())
    assert "svg" in root.tag
    pages = PdfReader(made("pdf", project)).pages
    assert "Parts" in pages[0].extract_text()
    ezdxf.readfile(made("dxf", project))
    gltf = json.loads(made("gltf", project).read_bytes())
    assert seen in [node["name"] for node in gltf["nodes"]]
    for to in ("parts-csv", "marks-csv", "buy-csv", "shots-csv", "path-csv", "keys-csv", "head-csv"):
        table = list(
            csv.reader(io.StringIO(made(to, project).read_bytes().decode("utf-8-sig"), newline=""), strict=True)
        )
        assert len({len(row) for row in table}) == 1
        for row in table:
            for cell in row:
                assert "\x00" not in cell
                assert not cell.strip().startswith(("=", "+", "@", "＝"))


def test_cells_that_people_name_cannot_start_a_formula(made):
    from hazel_lantern.files.tables import as_csv

    text = as_csv(["a"], [["=1+1"], ["@x"], ["-cmd"], ["plain"], [-3.0]]).decode("utf-8-sig").split()
    assert text == ["a", "'=1+1", "'@x", "'-cmd", "plain", "-3.0"]


def test_svg_is_at_full_size_and_escapes_what_is_typed(made):
    project = changes.rename_rig(sample(), "hive-jib", '<b>&"jib"</b>')
    root = ET.fromstring(made("svg", project).read_bytes())
    x0, y0, x1, y1 = solved().draw(0.5, "side").box
    assert root.attrib["width"] == f"{(x1 - x0) * 1e3:.2f}mm"
    assert root.attrib["viewBox"].split()[2:] == [f"{(x1 - x0) * 1e3:.2f}", f"{(y1 - y0) * 1e3:.2f}"]
    assert "<b>" in root[0].text
    words = {node.text for node in root.iter("{http://www.w3.org/2000/svg}text")}
    assert "1750 mm" in words


def test_dxf_passes_an_audit_and_its_arm_is_as_long_asdrawn(made):
    document = ezdxf.readfile(made("dxf"))
    assert not document.audit().errors
    assert document.header["$INSUNITS"] == 4
    outlines = document.modelspace().query("LWPOLYLINE[layer=='CUT']")
    assert all(line.closed for line in outlines)
    spans = []
    for line in outlines:
        points = [p[:2] for p in line.get_points()]
        if len(points) == 4:
            spans.append(max(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5 for a, b in itertools.pairwise(points)))
    assert any(abs(span - (1750 + 660 + 50)) < 0.1 for span in spans)
    assert len(document.modelspace().query("CIRCLE")) >= 5


@pytest.mark.parametrize("name", ["orchard-at-dusk", "orchard-at-dusk-inches"])
def test_build_sheet_holds_sizes_parts_marks_and_the_statement(made, name):
    project = sample(name)
    reader = PdfReader(made("pdf", project))
    assert [round(float(v) * 25.4 / 72) for v in reader.pages[0].mediabox[2:]] == [210, 297]
    text = "\n".join(page.extract_text() for page in reader.pages)
    for words in (
        "Hive jib",
        "Parts",
        "Cut from stock",
        "Mark out A1",
        "drill with B1",
        "To buy",
        "Cautions",
        "Screening only",
        "Bumped, camera off",
    ):
        assert words in text, words
    assert ("69 in" if project.units == "in" else "1750 mm") in text
    for line in text.splitlines():
        if line.replace("\u00a0", " ").startswith("1  slot"):
            number = line.split(" from ")[1].split(" to ")[0]
            assert parse(number, "m", Display(project.units)) == pytest.approx(
                solved(project).parts[0].marks[0].at, abs=1e-3
            )
            break
    else:
        pytest.fail("no slot on the sheet")


def test_names_are_no_markup_on_the_sheet_and_its_long_lists_go_on_over_the_page(made):
    project = sample()
    rig = replace(project.rigs[0], name="<b>Cheap & cheerful</b>")
    reader = PdfReader(made("pdf", replace(project, name="A < B", rigs=(rig,))))
    text = "\n".join(page.extract_text() for page in reader.pages)
    assert "<b>Cheap & cheerful</b>" in text and "A < B" in text
    for number, page in enumerate(reader.pages, 1):
        assert f"page {number}" in page.extract_text()


def test_a_rig_that_cannot_be_drawn_says_so_and_an_unknown_format_too(made, tmp_path):
    with pytest.raises(InputError, match="already touch"):
        made("svg", changed(pivot__spacing=0.03))
    with pytest.raises(InputError, match="must be one of"):
        export(sample(), SHELF, "hive-jib", "xls", tmp_path / "a")


def test_the_build_sheet_gives_the_order_of_loading_in_the_shown_units(made):
    text = "".join(page.extract_text() for page in PdfReader(made("pdf", sample("orchard-at-dusk-inches"))).pages)
    assert "Loading and unloading" in text
    steps = text[text.index("Loading and unloading") :]
    assert steps.index("Strap the arm down") < steps.index("camera on") < steps.index("Hang the weights")
    assert "10 lb" in steps


def test_a_template_is_as_large_as_the_part(tmp_path):
    """Holes of a wheel bracket where its marks say, each as wide, read from the page's own curves."""
    path = tmp_path / "t.pdf"
    export(sample(), SHELF, "lane-dolly", "template", path)
    text = "".join(page.extract_text() for page in PdfReader(path).pages)
    result = evaluate(sample(), SHELF, "lane-dolly")
    part = next(part for part in result.parts if part.name == "Wheel bracket")
    assert "W1 Wheel bracket" in text and "bend down by 45°" in text and "Print at 100 %" in text
    circles, lines = drawn(path)
    mm = 72 / 25.4
    rings = np.array([[*a, *b] for a, b in circles]).reshape(-1, 4, 4) / mm  # four arcs each
    found = np.column_stack(
        [
            (rings[:, :, 0].min(axis=1) + rings[:, :, 0].max(axis=1)) / 2,
            (rings[:, :, 1].min(axis=1) + rings[:, :, 1].max(axis=1)) / 2,
            np.ptp(rings[:, :, 0], axis=1),
        ]
    )
    holes = [mark for mark in part.marks if mark.size]
    small = found[np.isclose(found[:, 2, None], [mark.size * 1e3 for mark in holes], rtol=1e-3).any(axis=1)]
    assert len(small) >= len(holes)
    spread = np.ptp(small[: len(holes), :2], axis=0)
    along = [mark.at * 1e3 for mark in holes]
    assert spread.max() == pytest.approx(max(along) - min(along), rel=1e-4)
    longest = max(math.dist(a, b) for a, b in lines if abs(a[0] - b[0]) < 1e-6 or abs(a[1] - b[1]) < 1e-6)
    assert longest / mm >= part.length * 1e3 - 1e-3


@pytest.mark.parametrize(("to", "page", "bar"), [("template", A4, 0.1), ("template-letter", LETTER, 0.099)])
def test_a_part_larger_than_a_page_goes_over_several_that_join_to_a_tenth_of_a_millimetre(tmp_path, to, page, bar):
    path, project = (
        tmp_path / "t.pdf",
        changes.set_values(sample(), "hive-jib", [("printer.across", bar), ("printer.up", bar)]),
    )
    export(project, SHELF, "hive-jib", to, path)
    sector = next(part for part in evaluate(project, SHELF, "hive-jib").parts if part.name.startswith("Sector"))
    outline = np.array(sector.solid.outline) * 1e3 + (0.0, sector.solid.width * 500)
    made = tiling(sector.length, sector.solid.width, page)
    first = next(
        n
        for n, one in enumerate(PdfReader(path).pages)
        if "Sector" in one.extract_text() and " · A1 of " in one.extract_text()
    )
    size, mm = np.array(page[::-1] if made.turned else page) * 1e3, 72 / 25.4
    seen = []
    for row in range(made.rows):
        for column in range(made.columns):
            _, lines = drawn(path, first + row * made.columns + column)
            # As it comes from a printer that makes 100 mm as long as the bar was.
            on_paper = (np.array(lines) / mm - size / 2) * bar / 0.1 + size / 2
            long = np.linalg.norm(np.diff(on_paper, axis=1)[:, 0], axis=1)
            for true in (100.0, 101.6):
                assert (np.abs(long - true) < 0.01).sum() >= 2  # both ways
            seen.append(on_paper.reshape(-1, 2) - 10.0 + np.array(made.corner(column, row)) * 1e3)
    gaps = np.linalg.norm(np.vstack(seen)[None] - outline[:, None], axis=2).min(axis=1)
    assert made.pages > 1 and gaps.max() < 0.1


def test_pages_that_show_nothing_and_printers_that_fit_to_the_page_are_refused():
    with pytest.raises(InputError, match="less than 0 mm, or a larger page"):
        tiling(1.0, 1.0, (0.1, 0.2), 0.05, 0.01)
    with pytest.raises(InputError, match="fit to page"):
        corrected(1.0, 0.09, 0.1)
    for wide, high in np.random.default_rng(5).uniform(0.05, 2.0, (40, 2)):
        made = tiling(wide, high)
        x, y = np.array(made.corner(made.columns - 1, made.rows - 1)) + made.window
        assert x >= wide - 1e-9 and y >= high - 1e-9  # all of it is shown
        fewer = [tiling(wide, high, A4[::-1]).pages, tiling(wide, high).pages]
        assert made.pages == min(fewer)
