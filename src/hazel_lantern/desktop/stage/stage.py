"""The stage: the rig to scale, with pills to type in and handles to drag."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from PyQt6.QtCore import QPoint, QPointF, QRectF, QSizeF, Qt, pyqtSignal
from PyQt6.QtGui import QFontMetricsF, QMouseEvent, QPainter, QPaintEvent, QPixmap, QResizeEvent, QWheelEvent
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import Finding
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.sketch import BODY, GHOST, LOADS, SIZES, SWEEP, Arrow, Handle, Note, Size, Sketch
from hazel_lantern.desktop.stage.chips import Chips
from hazel_lantern.desktop.stage.drawing import Drawing
from hazel_lantern.desktop.stage.labels import place
from hazel_lantern.desktop.stage.marks import Grip, Pill
from hazel_lantern.desktop.stage.painter import (
    Mark,
    Scale,
    arrow_start,
    fit,
    mark,
    paint_ground,
    shown,
    size_line,
    size_mark,
    text_mark,
)
from hazel_lantern.desktop.stage.verdicts import StopMarks
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.session import Session

TOP, EDGE = 50, 14
USUAL = frozenset({BODY, SIZES, GHOST, SWEEP})
EXTRA = {"balance": {LOADS}}  # what a station shows beyond the usual


class Stage(QWidget):
    """Shows one sketch. Pans by dragging empty ground, zooms about the pointer, Home fits."""

    layers_changed = pyqtSignal()
    taken = pyqtSignal(str)
    play_wanted = pyqtSignal()

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self.setObjectName("stage")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMinimumHeight(220)
        self.setAttribute(Qt.WidgetAttribute.WA_OpaquePaintEvent)  # what lies under it need not be painted first
        self.setAccessibleName("Stage")
        self._session, self._theme = session, theme
        self._sketch: Sketch | None = None
        self._scale: Scale | None = None
        self._own_view = False
        self._station = ""
        self._pan_from: QPointF | None = None
        self._pills: list[Pill] = []
        self._grips: dict[str, Grip] = {}
        self._boxes: list[QRectF] = []
        self._drawing, self._labels = Drawing(), Drawing()
        self._editor: QuantityEdit | None = None
        self._ground: tuple[object, QPixmap] | None = None
        self.layers = set(USUAL)
        self._layers_of: dict[str, set[str]] = {}
        self.greyed = ""
        self._aside: QWidget | None = None
        self.chips = Chips(self)
        self.chips.show_layers(self.layers)
        self.chips.layer_turned.connect(self.show_layer)
        self._said = Label(parent=self)
        self._said.setObjectName("said")
        self._said.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self._said.hide()
        self.stops = StopMarks(theme, self)

    def show_stops(self, stops: Sequence[Finding]) -> None:
        """What stops the rig, marked on the drawing."""
        self.stops.show_stops(stops)
        self.stops.lay(self._sketch, self._scale, self._boxes)

    def show_layer(self, layer: str, on: bool) -> None:
        """Show or hide sizes, sweep, loads or ghosts."""
        (self.layers.add if on else self.layers.discard)(layer)
        self.chips.show_layers(self.layers)
        self._lay_out()
        self.layers_changed.emit()

    def toggle_layer(self, layer: str) -> None:
        self.show_layer(layer, layer not in self.layers)

    def show_sketch(self, sketch: Sketch | None, station: str, greyed: str = "") -> None:
        """Another drawing, with what this station may set; a greyed one is the last that was possible, with the
        reason.
        """
        if station != self._station:
            self._station = station
            self.layers = self._layers_of.setdefault(station, set(USUAL | EXTRA.get(station, set())))  # as it was left
            self.chips.show_layers(self.layers)
        if sketch is not None:
            if self._sketch is None or self._sketch.title != sketch.title:
                self._own_view = False
            self._sketch = sketch
        if self.greyed != greyed:
            self.greyed = greyed
            self.update()
        self._lay_out()

    def clear(self, words: str) -> None:
        """No drawing at all, and what to do about it."""
        self._sketch, self.greyed, self._boxes = None, words, []
        for widget in (*self._pills, *self._grips.values()):
            widget.hide()
        self.update()

    # Layout

    def keep_clear(self, aside: QWidget | None) -> None:
        """What stands over its right edge: drawing, labels and chips leave room for it."""
        if aside is not self._aside:
            self._aside = aside
            self._fit_chips()
            self._lay_out()

    @property
    def _right(self) -> int:
        """Where what is free of it ends [px]."""
        return self.width() if self._aside is None else self._aside.x()

    def _area(self) -> QRectF:
        return QRectF(0, 0, self._right, self.height()).adjusted(EDGE, self._top, -EDGE, -6)

    def _here(self, key: str) -> bool:
        """Whether a size or handle belongs to the station at hand; computed sizes belong everywhere."""
        parameter = self._session.parameters().get(key)
        return not key or (parameter is not None and parameter.station == self._station)

    def _sizes(self) -> list[Size]:
        return (
            [size for size in self._sketch.of(Size) if self._here(size.key)]
            if self._sketch and SIZES in self.layers
            else []
        )

    def _lay_out(self) -> None:
        """Scale, then boxes for every label, then the widgets to their places."""
        if self._sketch is None or self.width() < 50:
            return
        if self._scale is None or not (self._own_view or self._session.in_gesture):
            self._scale = fit(self._sketch.box, self._area())
        scale, show, sizes = self._scale, self._session.display, self._sizes()
        while len(self._pills) < len(sizes):
            pill = Pill(self._session, self._theme, self)
            pill.edit_wanted.connect(self.type_into)
            pill.refused.connect(self.say)
            self._pills.append(pill)
        wanted: list[tuple[QSizeF, list[QPointF]]] = []
        for pill, size in zip(self._pills, sizes, strict=False):
            text = f"{show.text(size.value, size.unit)} {size.words}".strip()
            a, b = size_line(size, scale)
            wanted.append((pill.wanted(text), [a + (b - a) * t for t in (0.5, 0.35, 0.65, 0.2, 0.8)]))
            pill.show_size(size, text)
        texts = self._wanted_texts()
        keep = [
            QRectF(scale.at(h.at).x() - 11, scale.at(h.at).y() - 11, 22, 22)
            for h in self._sketch.of(Handle)
            if self._here(h.key)
        ]
        boxes = place(
            wanted + [(w, c) for w, c, _, _ in texts],
            QRectF(0, 0, self._right, self.height()).adjusted(4, self._top - 6, -4, -4),
            keep,
        )
        self._boxes = boxes
        for index, pill in enumerate(self._pills):
            used = index < len(sizes)
            if used:
                pill.setGeometry(boxes[index].toAlignedRect())
            pill.setVisible(used and not self.greyed)
        self._place_grips(scale)
        labels = [
            *zip(sizes, boxes, strict=False),
            *((text, box, role) for (_, _, text, role), box in zip(texts, boxes[len(sizes) :], strict=True)),
        ]
        self._lay_marks(self._sketch, labels)
        self.stops.lay(self._sketch, scale, boxes)

    def _lay_marks(self, sketch: Sketch, labels: list[tuple[Any, ...]]) -> None:
        """What is painted, and only where it changed."""
        scale, theme, area = self.scale, self._theme, QRectF(self.rect())
        setting = (
            self.size(),
            scale.px,
            scale.x,
            scale.y,
            sketch.ground,
            sketch.framed and sketch.box,
            self._session.display.system,
        )

        def label(wanted: tuple[Any, ...]) -> Mark:
            what, box, *role = wanted
            return text_mark(box, what, role[0], theme) if role else size_mark(what, scale, theme, box)

        changed = self._drawing.lay(setting, shown(sketch, self.layers), lambda item: mark(item, scale, theme, area))
        relabelled = self._labels.lay(setting, labels, label)
        if changed is None or relabelled is None:
            self.update()
        else:
            self.update(changed | relabelled)

    def _wanted_texts(self) -> list[tuple[QSizeF, list[QPointF], str, str]]:
        assert self._sketch is not None and self._scale is not None
        metrics, show, found = QFontMetricsF(self._theme.font(12)), self._session.display, []
        for item in self._sketch.items:
            if isinstance(item, Note) and item.layer in self.layers:
                text, spots, role = item.words.text(show), [self._scale.at(item.at)], item.role
            elif isinstance(item, Arrow) and item.layer in self.layers:
                tip = arrow_start(item, self._scale)
                text, spots, role = (
                    show.text(item.newtons, "N"),
                    [tip + QPointF(dx, dy) for dx, dy in ((0, 12), (34, -2), (-34, -2))],
                    "water",
                )
            else:
                continue
            found.append(
                (
                    QSizeF(metrics.horizontalAdvance(text) + 6, metrics.height()),
                    spots,
                    text,
                    {"path": "lantern", "size": "water"}.get(role, role),
                )
            )
        return found

    def _place_grips(self, scale: Scale) -> None:
        assert self._sketch is not None
        handles = (
            {h.key: h for h in self._sketch.of(Handle) if self._here(h.key)}
            if SIZES in self.layers and not self.greyed
            else {}
        )
        for key, handle in handles.items():
            grip = self._grips.get(key)
            if grip is None:
                grip = self._grips[key] = Grip(self._session, self._theme, self)
                grip.refused.connect(self.say)
                grip.taken.connect(self.taken)
            grip.show_handle(handle, scale.at(handle.at), scale.px)
            grip.show()
        for key, grip in self._grips.items():
            if key not in handles:
                grip.hide()

    @property
    def has_scale(self) -> bool:
        """Whether there is anything drawn, to a scale."""
        return self._scale is not None

    @property
    def scale(self) -> Scale:
        """The scale in force."""
        assert self._scale is not None
        return self._scale

    def label_boxes(self) -> list[QRectF]:
        """Where all labels stand: no two may meet."""
        return self._boxes

    def light(self, key: str) -> None:
        """Show for a moment where a size is set on the drawing."""
        for pill in self._pills:
            if pill.key == key and pill.isVisible():
                pill.light()
        for grip in self._grips.values():
            if grip.key == key and grip.isVisible():
                grip.light()

    # Typing into a pill

    def type_into(self, key: str) -> None:
        """A field in place of the pill."""
        pill = next((p for p in self._pills if p.key == key and p.isVisible()), None)
        quantity = self._session.parameters().get(key)
        if pill is None or not isinstance(quantity, Quantity):
            return
        self._close_editor()
        editor = QuantityEdit(quantity, self._session.display, self)
        editor.setObjectName("pill-editor")
        editor.show_value(float(self._session.value(key)))  # type: ignore[arg-type]
        editor.setFixedWidth(max(pill.width() + 30, 110))
        editor.move(min(pill.x() - 10, self.width() - editor.width() - 4), pill.y() - 3)
        rig = self._session.rig_id
        editor.edited.connect(lambda value: self._typed(rig, key, value))
        editor.wrong.connect(self.say)
        editor.left.connect(self._close_editor)
        editor.returnPressed.connect(lambda: None if editor.isModified() else self._close_editor())
        self._editor = editor
        editor.show()
        editor.setFocus()
        editor.selectAll()

    def _typed(self, rig: str, key: str, value: float) -> None:
        try:
            if rig != self._session.rig_id or key not in self._session.bindings():
                raise InputError(key, value, "was typed for another rig, and is not taken")
            self._session.set(key, value)
        except InputError as error:
            if self._editor is not None:
                self._editor.refuse(error.allowed)  # which the editor says, and keeps what was typed

    def _close_editor(self) -> None:
        if self._editor is not None:
            editor, self._editor = self._editor, None
            editor.hide()
            editor.deleteLater()
            self.setFocus()

    def say(self, words: str) -> None:
        """A short word over the drawing, such as why a value was refused; empty takes it away."""
        self._said.setText(words[:1].upper() + words[1:])
        self._said.setVisible(bool(words))
        self._said.adjustSize()
        self._said.move((self.width() - self._said.width()) // 2, self._top)
        self._said.raise_()

    # Painting, panning, zooming

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter = QPainter(self)
        if self._sketch is None or self._scale is None:
            painter.fillRect(self.rect(), self._theme.color("ground"))
            self._grey(painter)
            return
        if self._sketch.framed:
            x0, y0, x1, y1 = self._sketch.box
            painter.fillRect(self.rect(), self._theme.color("ground"))
            painter.setClipRect(QRectF(self._scale.at((x0, y1)), self._scale.at((x1, y0))))
        else:
            painter.drawPixmap(0, 0, self._backdrop(self._sketch.ground))
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setFont(self._theme.font(12))
        self._drawing.paint(painter, event.rect())
        painter.setClipping(False)
        self._labels.paint(painter, event.rect())
        self._grey(painter)

    def _backdrop(self, ground: bool) -> QPixmap:
        """Ground and grid, painted once for a scale."""
        assert self._scale is not None
        key = (
            self.size(),
            self._scale.px,
            self._scale.x,
            self._scale.y,
            self._theme.tokens,
            ground,
            self._session.display.system,
        )
        if self._ground is None or self._ground[0] != key:
            picture = QPixmap(self.size() * self.devicePixelRatio())
            picture.setDevicePixelRatio(self.devicePixelRatio())
            painter = QPainter(picture)
            paint_ground(
                painter,
                QRectF(self.rect()),
                self._scale,
                self._theme,
                ground=ground,
                system=self._session.display.system,
            )
            painter.end()
            self._ground = (key, picture)
        return self._ground[1]

    def _grey(self, painter: QPainter) -> None:
        """The reason over a drawing that is no longer possible, or over none."""
        if self.greyed:
            painter.fillRect(self.rect(), self._theme.color("ground", 170))
            painter.setPen(self._theme.color("ink"))
            painter.setFont(self._theme.font(14, weight=600))
            how = Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap
            room = QRectF(self.rect().adjusted(60, 60, -60, -60))
            if self._sketch is not None:  # lines of the drawing do not run through the words
                words = painter.boundingRect(room, how, self.greyed).adjusted(-12, -8, 12, 8)
                painter.fillRect(words, self._theme.color("ground"))
            painter.drawText(room, how, self.greyed)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._fit_chips()
        self._lay_out()

    @property
    def _top(self) -> int:
        """Height of the row of chips."""
        return max(TOP, self._theme.px(42))

    def _fit_chips(self) -> None:
        self.chips.setGeometry(0, 0, self._right, self._top)
        self.chips.fit()

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        self.say("")
        if event.button() in (Qt.MouseButton.LeftButton, Qt.MouseButton.MiddleButton):
            self.setFocus()
            self._pan_from = event.position()

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if self._pan_from is not None and self._scale is not None:
            moved = event.position() - self._pan_from
            self._pan_from, self._own_view = event.position(), True
            self._scale.x += moved.x()
            self._scale.y += moved.y()
            self._lay_out()

    def mouseReleaseEvent(self, event: QMouseEvent | None) -> None:
        self._pan_from = None

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        self.zoom(1.0015 ** event.angleDelta().y(), event.position())

    def zoom(self, times: float, about: QPointF) -> None:
        if self._scale is None:
            return
        x, y = self._scale.metres(about)
        px = min(max(self._scale.px * times, 20.0), 20000.0)
        self._scale = Scale(px, about.x() - x * px, about.y() + y * px)
        self._own_view = True
        self._lay_out()

    def fit_view(self) -> None:
        """Everything in sight again."""
        self._own_view = False
        self._lay_out()

    def keyPressEvent(self, event) -> None:  # type: ignore[no-untyped-def]
        if event.key() == Qt.Key.Key_Home:
            self.fit_view()
        elif event.key() == Qt.Key.Key_Space:
            self.play_wanted.emit()
        elif event.key() in (Qt.Key.Key_Plus, Qt.Key.Key_Minus):
            self.zoom(
                1.2 if event.key() == Qt.Key.Key_Plus else 1 / 1.2,
                QPointF(QPoint(self.width() // 2, self.height() // 2)),
            )
        else:
            super().keyPressEvent(event)
