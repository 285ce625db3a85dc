"""The look: contrast, labels that never meet, names for everything that takes the focus."""

from __future__ import annotations

from itertools import combinations, pairwise

import numpy as np
import pytest
from PyQt6.QtCore import QCoreApplication, QPoint, QRect, QRectF, Qt
from PyQt6.QtGui import QColor, QImage, QPainter
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QWidget

from hazel_lantern.core.nouns.sketch import Ring, Shape, Stroke
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.core.stations import station as station_row
from hazel_lantern.desktop.shell.trail import Stop
from hazel_lantern.desktop.stage.drawing import Drawing
from hazel_lantern.desktop.stage.painter import Scale, in_sight, mark
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.theme.tokens import THEMES
from hazel_lantern.desktop.widgets.field_plot import PATTERNS, sorts
from hazel_lantern.desktop.widgets.scroll import Scroll
from tests.helpers import SAMPLES, of_each_kind, turn


def luminance(color: str) -> float:
    c = QColor(color)
    parts = [v / 12.92 if v <= 0.03928 else ((v + 0.055) / 1.055) ** 2.4 for v in (c.redF(), c.greenF(), c.blueF())]
    return 0.2126 * parts[0] + 0.7152 * parts[1] + 0.0722 * parts[2]


@pytest.mark.parametrize("look", THEMES)
def test_text_stands_out_on_every_ground(look):
    t = THEMES[look]
    for text in (t.ink, t.muted, t.lantern, t.clear, t.watch, t.stop, t.water):
        for ground in (t.ground, t.panel, t.raised):
            light, dark = sorted((luminance(text), luminance(ground)), reverse=True)
            assert (light + 0.05) / (dark + 0.05) >= 4.5, (text, ground)
    light, dark = sorted((luminance(t.on_lantern), luminance(t.lantern)), reverse=True)
    assert (light + 0.05) / (dark + 0.05) >= 4.5


@pytest.mark.parametrize(
    ("name", "size"), [(SAMPLES[0], (1280, 800)), (SAMPLES[0], (1920, 1080)), (SAMPLES[1], (1100, 700))]
)
def test_no_two_labels_meet_and_none_leaves_the_stage(make, name, size):
    window = make(name, size=size)
    window.stage.show_layer("loads", True)
    # Where there is most room, one rig of each kind.
    rigs = [rig.id for rig in window.session.project.rigs]
    for rig in rigs if size < (1920, 1080) else of_each_kind(window.session.project):
        window.session.switch(rig)
        turn()
        for station in ("shot", "rig", "balance", "travel", "drive"):
            if not station_row(station).holds(window.session.evaluation.kind.stations):
                continue
            window.show_station(station)
            for view, _ in window.session.evaluation.views(station):
                window.use_view(view)
                for share in (0.0, 0.5, 1.0):
                    window.strip.go(share)
                    boxes = window.stage.label_boxes()
                    for box in boxes:
                        assert QRectF(window.stage.rect()).contains(box)
                    for one, two in combinations(boxes, 2):
                        assert not one.intersects(two), (rig, station, view, share)


@pytest.mark.parametrize("look", ["dusk", "daylight"])
def test_the_row_at_hand_of_an_open_list_is_readable(make, qtbot, look):
    window = make(look=look)
    box = next(c for c in window.bench.findChildren(QComboBox) if c.objectName() == "choose.variant")
    box.showPopup()
    view = box.view()
    qtbot.waitUntil(view.isVisible, timeout=5000)
    picture, row = view.viewport().grab().toImage(), view.visualRect(box.model().index(box.currentIndex(), 0))
    found = {picture.pixelColor(x, row.center().y()).name() for x in range(2, row.width() - 2)}
    box.hidePopup()
    tokens = THEMES[look]
    assert tokens.lantern in found
    light = luminance(tokens.lantern)
    assert max((max(luminance(c), light) + 0.05) / (min(luminance(c), light) + 0.05) for c in found) > 4.5


def test_of_a_line_zoomed_far_in_just_what_shows_is_kept():
    around = np.linspace(0, 2 * np.pi, 400)
    circle = 1e5 * np.column_stack([np.cos(around), np.sin(around)]) + (150, -1e5 + 100)
    parts = in_sight(circle, QRectF(0, 0, 300, 200))
    assert len(parts) >= 1
    for part in parts:
        assert ((part >= (-4.001, -4.001)) & (part <= (304.001, 204.001))).all()
        assert np.allclose(np.linalg.norm(part - (150, -1e5 + 100), axis=1), 1e5, rtol=1e-2)
    assert 250 < sum(float(np.linalg.norm(b - a)) for a, b in parts) < 700


def test_a_drawing_laid_anew_tells_just_where_it_was_and_is_another(qapp):
    theme, scale, area, drawing = Theme(), Scale(100.0, 0.0, 400.0), QRectF(0, 0, 400, 400), Drawing()
    square = np.array([(0.5, 0.5), (1.0, 0.5), (1.0, 1.0), (0.5, 1.0)])
    still, one = Shape(square + 2.0, "wood"), Shape(square, "wood")

    def lay(*items):
        return drawing.lay("here", items, lambda item: mark(item, scale, theme, area))

    assert lay(still, one) is None
    assert lay(Shape(square + 2.0, "wood"), Shape(square.copy(), "wood")).isEmpty()
    moved = lay(still, Shape(square + (0.6, 0.0), "wood"))
    assert moved.contains(QPoint(75, 325)) and moved.contains(QPoint(140, 325))
    assert not moved.intersects(QRect(240, 80, 50, 50))
    for other in (
        Shape(square + (0.6, 0.0), "steel"),
        Shape(square[:3] + (0.6, 0.0), "steel"),
        Stroke(square + (0.6, 0.0), "steel", layer="ghost"),
        Ring((0.5, 0.5), 0.2),
    ):
        assert not lay(still, other).isEmpty()
        assert lay(still, other).isEmpty()
    assert lay(still) is None
    assert drawing.lay("elsewhere", (still,), lambda item: mark(item, scale, theme, area)) is None


def test_everything_that_takes_the_focus_has_a_name_and_is_large_enough(make):
    window = make()
    for station in (row.key for row in STATIONS):
        window.show_station(station)
        for widget in window.findChildren(QWidget):
            if (
                widget.isVisible()
                and widget.focusPolicy() & Qt.FocusPolicy.TabFocus
                and isinstance(widget, (QAbstractButton, QLineEdit, QComboBox))
            ):
                assert widget.accessibleName() or (isinstance(widget, QAbstractButton) and widget.text()), widget
                if (
                    isinstance(widget, QLineEdit)
                    and widget.parent() is not None
                    and isinstance(widget.parent(), QComboBox)
                ):
                    continue
                assert widget.height() >= 20, (widget.objectName(), widget.height())


@pytest.mark.parametrize(("look", "scale"), [("dusk", 100), ("daylight", 175)])
def test_every_station_paints_in_both_looks_and_at_large_text(make, look, scale):
    window = make(look=look, scale=scale)
    for station in (row.key for row in STATIONS):
        window.show_station(station)
        QCoreApplication.processEvents()
        image = window.grab().toImage()
        colors = {image.pixel(x, y) for x in range(0, image.width(), 23) for y in range(0, image.height(), 23)}
        assert len(colors) > 6
        # Nothing is cut off at the side, however large the text.
        assert window.bench.widget().minimumSizeHint().width() <= window.bench.viewport().width(), station
        shown = [chip for chip in window.stage.findChildren(QAbstractButton) if chip.isVisible()]
        assert all(chip.width() >= chip.sizeHint().width() for chip in shown), station
        # Nor does one lie over another: what has no room is scrolled to.
        turn()
        stops = [stop for stop in window.findChildren(Stop) if stop.isVisible()]
        for above, below in pairwise(stops):
            assert above.y() + above.height() <= below.y(), (station, below.key)
        chosen = next(stop for stop in stops if stop.isChecked())
        assert not chosen.visibleRegion().isEmpty()
        for scroll in window.centre.findChildren(Scroll):
            if scroll.isVisible():
                assert scroll.widget().height() >= scroll.widget().minimumSizeHint().height(), station


@pytest.mark.parametrize(("size", "scale"), [((1100, 700), 150), ((1280, 800), 100), ((1920, 1080), 130)])
def test_no_chip_is_cut_and_the_stage_keeps_its_room(make, size, scale):
    window = make(size=size, station="balance", scale=scale)
    chips = [b for b in window.findChildren(QAbstractButton) if b.property("chip") and b.isVisibleTo(window)] + list(
        window.top._buttons.values()
    )
    assert len(chips) > 4
    for chip in chips:
        assert chip.width() >= chip.sizeHint().width() - 1, chip.text()
    assert window.stage.width() > 0.35 * size[0]
    shown = set(window.top._buttons)
    rest = [action.text() for action in window.top._rest.menu().actions()]
    assert len(shown) + len(rest) == len(window.session.project.rigs)
    # The rig at hand always has its chip, wherever it stands in the list.
    last = window.session.project.rigs[-1].id
    window.session.switch(last)
    turn()
    assert last in window.top._buttons
    assert window.top._buttons[last].isChecked()


def test_what_cannot_make_the_shot_is_named_by_its_construction_only_where_others_can(make, qtbot):
    window = make(station="shot")
    qtbot.waitUntil(lambda: "gantry" in window.page.proposals.reasons.lower(), timeout=60000)
    lines = window.page.proposals.reasons.splitlines()
    assert any(line.startswith("Jib: short riser, two bars:") for line in lines)
    assert any(line.startswith("Slider, Overhead slider, Dolly:") for line in lines)


def test_the_map_is_told_by_pattern_and_names_its_shares(make):
    window = make(station="balance")
    window.reading.choose("map")
    field = window.reading.map
    use = np.array([[0.2, 0.9, 1.4], [0.8, 1.0, 1.01]])
    assert sorts(use).tolist() == [[0, 1, 2], [0, 1, 2]]
    assert len({pattern for pattern, _ in PATTERNS}) == 3
    shares = [float(part.rpartition(" ")[2].rstrip("%")) for part in field.accessibleName().split(". ")[1].split(", ")]
    assert sum(shares) == pytest.approx(100, abs=1.5)


def test_what_the_lens_sees_fades_the_same_every_time_whichever_way_it_looks(qtbot):
    theme, eye = Theme(), np.array([0.0, 0.0])
    for heading in np.linspace(0.0, 6.0, 9):
        ahead, aside = np.array([np.cos(heading), np.sin(heading)]), np.array([-np.sin(heading), np.cos(heading)])
        fan = Shape(np.array([eye, 4 * ahead + 2 * aside, 4 * ahead - 2 * aside]), "view")
        image = QImage(400, 400, QImage.Format.Format_ARGB32_Premultiplied)
        image.fill(QColor(0, 0, 0, 0))
        painter = QPainter(image)
        mark(fan, Scale(80.0, 200.0, 200.0), theme, QRectF(image.rect())).paint(painter)
        painter.end()
        at = [
            image.pixelColor(*(int(v) for v in (200 + 80 * way * ahead[0], 200 - 80 * way * ahead[1]))).alpha()
            for way in (0.4, 0.8, 1.2, 1.6, 2.0)
        ]
        assert at == pytest.approx([60 * (1 - way / 2.2) for way in (0.4, 0.8, 1.2, 1.6, 2.0)], abs=3)
