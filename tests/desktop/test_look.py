"""The look: contrast, labels that never meet, names for everything that takes the focus."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from PyQt6.QtCore import QRectF, Qt
from PyQt6.QtGui import QColor
from PyQt6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QWidget

from hazel_lantern.core.evaluate import STATIONS
from hazel_lantern.desktop.stage.painter import dashes
from hazel_lantern.desktop.theme.tokens import THEMES
from tests.helpers import SAMPLES


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


@pytest.mark.parametrize("name", SAMPLES)
@pytest.mark.parametrize("size", [(1280, 800), (1100, 700), (1920, 1080)])
def test_no_two_labels_meet_and_none_leaves_the_stage(make, name, size):
    window = make(name, size=size)
    window.stage.show_layer("loads", True)
    for rig in window.session.project.rigs:
        window.session.switch(rig.id)
        for station in ("shot", "rig", "balance", "travel"):
            if station not in window.session.evaluation.kind.stations:
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
                        assert not one.intersects(two), (rig.id, station, view, share)


def test_dashes_lie_on_their_line_and_cover_their_share_of_it():
    around = np.linspace(0, 2 * np.pi, 400)
    circle = 100 * np.column_stack([np.cos(around), np.sin(around)])
    pieces = dashes(circle, 3.0, 5.0)
    length = np.hypot(*(pieces[:, 1] - pieces[:, 0]).T)
    assert length.sum() == pytest.approx(2 * np.pi * 100 * 3 / 8, rel=0.02)
    assert np.allclose(np.hypot(*pieces[:, 0].T), 100, atol=0.05)
    assert len(dashes(circle * 1e4, 3.0, 5.0)) < 1100
    assert len(dashes(np.zeros((2, 2)), 3.0, 5.0)) == 0


def test_everything_that_takes_the_focus_has_a_name_and_is_large_enough(make):
    window = make()
    for station, _ in STATIONS:
        window.show_station(station)
        for widget in window.findChildren(QWidget):
            if widget.isVisible() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus and isinstance(widget, (QAbstractButton, QLineEdit, QComboBox)):
                assert widget.accessibleName() or (isinstance(widget, QAbstractButton) and widget.text()), widget
                if isinstance(widget, QLineEdit) and widget.parent() is not None and isinstance(widget.parent(), QComboBox):
                    continue
                assert widget.height() >= 20, (widget.objectName(), widget.height())


@pytest.mark.parametrize(("look", "scale"), [("dusk", 100), ("daylight", 175)])
def test_every_station_paints_in_both_looks_and_at_large_text(make, look, scale):
    window = make(look=look, scale=scale)
    for station, _ in STATIONS:
        window.show_station(station)
        image = window.grab().toImage()
        colors = {image.pixel(x, y) for x in range(0, image.width(), 23) for y in range(0, image.height(), 23)}
        assert len(colors) > 6
