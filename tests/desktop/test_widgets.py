"""Small widgets on their own: the field, the glyphs, label places, plots."""

from __future__ import annotations

import math
import random
from itertools import combinations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from PyQt6.QtCore import QPoint, QPointF, QRectF, QSizeF, Qt
from PyQt6.QtGui import QImage, QPainter, QWheelEvent
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QApplication

from hazel_lantern.core.nouns.finding import STOP, STRUCTURE, WATCH, Finding
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.desktop.stage.labels import place
from hazel_lantern.desktop.stage.painter import fit
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.chooser import Chooser
from hazel_lantern.desktop.widgets.finding_card import FindingCard
from hazel_lantern.desktop.widgets.glyphs import NAMES, ROLES, paint_lantern
from hazel_lantern.desktop.widgets.plot import Line, Plot, Reading, ticks
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import together

LENGTH = Quantity("x", "Length", "m", 0.1, 2.0, 1.0, "Sizes")
KEYS, KEYS_NONE = Qt.Key, Qt.KeyboardModifier.NoModifier


@pytest.fixture
def edit(qtbot):
    def make(display=None):
        field = QuantityEdit(LENGTH, display or Display())
        field.show_value(1.0)
        field.show()
        qtbot.addWidget(field)
        field.setFocus()
        heard = []
        field.edited.connect(heard.append)
        return field, heard

    return make


def test_showing_a_value_is_not_an_edit_and_typing_is(edit):
    field, heard = edit()
    field.show_value(1.2)
    assert heard == []
    field.selectAll()
    QTest.keyClicks(field, "1 m + 5 cm")
    field.show_value(1.3)
    assert field.text() == "1 m + 5 cm"
    QTest.keyClick(field, KEYS.Key_Return)
    assert heard == [pytest.approx(1.05)]
    assert field.text() == "1050 mm"


def test_keys_and_wheel_step_in_the_shown_unit_and_stop_at_the_bounds(edit):
    field, heard = edit()
    QTest.keyClick(field, KEYS.Key_Up)
    QTest.keyClick(field, KEYS.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert heard == [pytest.approx(1.001), pytest.approx(0.991)]
    wheel = QWheelEvent(
        QPointF(5, 5),
        QPointF(5, 5),
        QPoint(0, 0),
        QPoint(0, 120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    field.setFocus()
    QApplication.sendEvent(field, wheel)
    assert heard[-1] == pytest.approx(0.992) or not field.hasFocus()
    field.show_value(2.0)
    count = len(heard)
    QTest.keyClick(field, KEYS.Key_Up)
    assert len(heard) == count
    assert field.property("wrong")
    inch, told = edit(Display("in", 16))
    QTest.keyClick(inch, KEYS.Key_Up)
    assert told == [pytest.approx(1.0 + 0.0254 / 16)]


@pytest.mark.parametrize(
    ("text", "says"),
    [("3 m", "must lie between"), ("0", "must lie between"), ("", "type a number"), ("one", "cannot be read")],
)
def test_refused_text_stays_until_it_is_mended_or_left(edit, text, says):
    field, heard = edit()
    reasons = []
    field.wrong.connect(reasons.append)
    field.selectAll()
    QTest.keyClick(field, KEYS.Key_Delete)
    QTest.keyClicks(field, text)
    QTest.keyClick(field, KEYS.Key_Return)
    assert heard == []
    assert says in reasons[-1].lower()
    QTest.keyClick(field, KEYS.Key_Escape)
    assert field.text() == "1000 mm"
    assert reasons[-1] == ""


def test_the_four_lanterns_differ_in_shape_without_any_colour(qapp):
    shapes = []
    for state in NAMES:
        image = QImage(48, 48, QImage.Format.Format_ARGB32)
        image.fill(0)
        painter = QPainter(image)
        paint_lantern(painter, QRectF(0, 0, 48, 48), state, Theme(), role="ink")
        painter.end()
        shapes.append(np.array([[image.pixelColor(x, y).alpha() > 100 for x in range(48)] for y in range(48)]))
    for one, two in combinations(shapes, 2):
        assert (one != two).sum() > 25


@given(st.integers(0, 10_000), st.integers(1, 16))
def test_labels_wanted_at_one_spot_find_room_without_meeting(seed, count):
    chance = random.Random(seed)
    spot = QPointF(chance.uniform(-50, 850), chance.uniform(-50, 650))
    wanted = [(QSizeF(chance.uniform(20, 110), 24), [spot + QPointF(chance.uniform(-9, 9), 0)]) for _ in range(count)]
    area = QRectF(0, 0, 800, 600)
    boxes = place(wanted, area, [QRectF(380, 280, 40, 40)])
    for box in boxes:
        assert area.contains(box)
    for one, two in combinations([*boxes, QRectF(380, 280, 40, 40)], 2):
        assert not one.intersects(two)


@given(st.floats(-1e4, 1e4), st.floats(1e-3, 1e4), st.integers(2, 12))
def test_ticks_are_round_inside_and_few(low, span, most):
    found = ticks(low, low + span, most)
    assert len(found) <= most + 1
    assert np.all(found >= low - 1e-6 * span)
    assert np.all(found <= low + span + 1e-6 * span)
    if len(found) > 1:
        step = found[1] - found[0]
        lead = step / 10 ** math.floor(math.log10(step) + 1e-9)
        assert min(abs(lead - nice) for nice in (1, 2, 2.5, 5, 10)) < 1e-4
    assert ticks(3.0, 3.0, 5).tolist() == [3.0]


@given(st.floats(-5, 5), st.floats(0.1, 9), st.floats(0.1, 9))
def test_the_scale_shows_the_whole_box_and_comes_back_from_pixels(x, wide, tall):
    area = QRectF(20, 50, 700, 500)
    scale = fit((x, -0.1, x + wide, tall), area)
    for corner in ((x, -0.1), (x + wide, tall)):
        point = scale.at(corner)
        assert area.adjusted(-1e-6, -1e-6, 1e-6, 1e-6).contains(point)
        assert scale.metres(point) == pytest.approx(corner, abs=1e-9)


def test_a_plot_paints_its_line_where_its_numbers_say(qtbot):
    theme = Theme()
    plot = Plot(theme)
    qtbot.addWidget(plot)
    plot.resize(700, 200)
    x = np.linspace(0, 8, 50)
    images = []
    for y in (np.full(50, 1.0), np.linspace(1, 2, 50)):
        plot.show_reading(
            Reading(
                "Height", "s", "m", (Line(x, y),), marker=(4.0, float(y[25])), band=(0.9, 1.1), span=(1, 3), zero=True
            ),
            Display(),
        )
        plot.show()
        images.append(plot.grab().toImage())
    assert images[0] != images[1]
    color = theme.color("lantern").rgb()
    rows = [[y for y in range(200) if images[1].pixel(px, y) == color] for px in (120, 600)]
    assert min(rows[1]) < min(rows[0])
    plot.show_reading(None, Display())
    assert not plot.isVisible()


def test_a_list_is_turned_by_the_wheel_only_in_focus_and_opens_as_wide_as_its_words(qtbot):
    theme = Theme()
    box = Chooser(theme)
    qtbot.addWidget(box)
    box.addItems(["Tube", "A rectangular tube of twenty-five by fifty by two"])
    box.setFixedWidth(90)
    box.show()

    def turn():
        return QWheelEvent(
            QPointF(5, 5),
            QPointF(5, 5),
            QPoint(),
            QPoint(0, -120),
            Qt.MouseButton.NoButton,
            KEYS_NONE,
            Qt.ScrollPhase.NoScrollPhase,
            False,
        )

    QApplication.sendEvent(box, turn())
    assert box.currentIndex() == 0
    box.setFocus()
    qtbot.waitUntil(box.hasFocus, timeout=5000)
    QApplication.sendEvent(box, turn())
    assert box.currentIndex() == 1
    box.showPopup()
    assert box.view().width() >= theme.px(270) - 4 > box.width()
    box.hidePopup()


@pytest.mark.parametrize("state", [WATCH, STOP])
def test_a_card_carries_its_state_along_its_edge_and_changes_with_it(qtbot, state):
    theme = Theme()
    card = FindingCard(theme)
    qtbot.addWidget(card)
    card.resize(300, 120)
    card.show()
    card.show_finding(
        Finding("rig.x", "Soft", STRUCTURE, state, "arm.front", Words("Too soft."), 1.2, 1.0, "at_most", "m"),
        Display(),
        tried=True,
    )
    picture = card.grab().toImage()
    assert picture.pixelColor(1, 60).name() == theme.tokens.of(ROLES[state])
    assert picture.pixelColor(290, 100).name() == theme.tokens.raised
    assert card.accessibleName() == f"Soft, {state}"


def test_the_names_of_lines_keep_out_of_all_lines_while_there_is_room(qtbot):
    """Of two lines that part and one that crosses both, no name lies on the ink of any."""
    theme, x = Theme(), np.linspace(0.0, 1.0, 61)
    lines = (
        Line(x, 1.0 - 1.5 * x, "goes down"),
        Line(x, 1.2 * x, "goes up", dash=True, role="muted"),
        Line(x, np.full(61, 0.9), "stands", role="water"),
    )
    plot = Plot(theme)
    qtbot.addWidget(plot)
    plot.resize(700, 260)
    plot.show_reading(Reading("Three", "m", "m", lines, marker=(0.5, 0.25)), Display())
    plot.show()
    with_names = plot.grab().toImage()
    plot.show_reading(
        Reading("Three", "m", "m", tuple(replace(one, name="") for one in lines), marker=(0.5, 0.25)), Display()
    )
    without = plot.grab().toImage()
    changed = {
        (i, j)
        for i in range(with_names.width())
        for j in range(with_names.height())
        if with_names.pixel(i, j) != without.pixel(i, j)
    }
    assert len(changed) > 200
    inks = {theme.color(role).name() for role in ("lantern", "water")}
    assert not [at for at in changed if without.pixelColor(*at).name() in inks]


def test_a_bare_field_leaves_its_usual_unit_out_and_a_word_stands_for_nought(qtbot):
    far = Quantity("x", "Along", "m", 0.0, 50.0, 0.0, "Sizes")
    bare, word = QuantityEdit(far, Display(), bare=True), QuantityEdit(far, Display(), zero="any")
    heard = []
    for field in (bare, word):
        qtbot.addWidget(field)
        field.show()
        field.edited.connect(heard.append)
    for value, mm, inches in ((0.3, "300", "11 13/16"), (12.0, "12.00 m", "39' 4 7/16\"")):
        bare.show_value(value, Display())
        assert bare.text() in (mm, mm.replace("12.00", "12"))
        bare.show_value(value, Display(system="in"))
        assert bare.text() == inches
    word.show_value(0.0)
    assert word.text() == "any"
    for typed, taken, shown in (
        ("450", 0.45, "450 mm"),
        ("", 0.0, "any"),
        ("1 m", 1.0, "1000 mm"),
        ("any", 0.0, "any"),
    ):
        word.setFocus()
        word.selectAll()
        QTest.keyClick(word, KEYS.Key_Delete)
        QTest.keyClicks(word, typed)
        QTest.keyClick(word, KEYS.Key_Return)
        assert heard[-1] == pytest.approx(taken) and word.text() == shown


@given(st.floats(-500, 500), st.sampled_from(["m", "kg", "N", "rad", "s"]), st.sampled_from(["mm", "in"]))
def test_a_number_stays_on_one_line_with_its_unit_and_its_fraction(value, unit, system):
    text = Display(system=system).text(value, unit)
    kept = together(f"about {text} of it")
    # Only before and after the whole of it may a line end; nothing but blanks was changed.
    assert kept.replace("\u00a0", " ") == f"about {text} of it"
    assert kept.split(" ")[1].replace("\u00a0", " ").startswith(text)
