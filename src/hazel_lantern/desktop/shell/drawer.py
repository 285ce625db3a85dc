"""The findings drawer: pinned under the bench, the worst open, the rest one line each, where the eye already is."""

from __future__ import annotations

from PyQt6.QtCore import QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent
from PyQt6.QtWidgets import (
    QAbstractButton,
    QButtonGroup,
    QFrame,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH, Finding, Remedy
from hazel_lantern.core.stations import station
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.finding_card import FindingCard
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.glyphs import ROLES, paint_lantern
from hazel_lantern.desktop.widgets.words import Label, copies, tip
from hazel_lantern.session.session import Session

MOST = 0.45  # share of the column's height
ROW = 28


class FindingRow(QAbstractButton):
    """One finding in a line: glyph, title, its station where another is at hand, value. Pressing opens it in place."""

    pointed = pyqtSignal(str)

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.finding: Finding | None = None
        self._value, self._aside = "", ""
        copies(self, lambda: f"{self.finding.title}: {self._value}" if self.finding else "")
        self.setFixedHeight(theme.px(ROW))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def show_finding(self, finding: Finding, value: str, aside: str) -> None:
        if (finding.key, finding.state, finding.title, value, aside) == (
            self.finding.key if self.finding else "",
            self.finding.state if self.finding else "",
            self.finding.title if self.finding else "",
            self._value,
            self._aside,
        ):
            self.finding = finding
            return
        self.finding, self._value, self._aside = finding, value, aside
        self.setObjectName(f"finding.{finding.key}")
        self.setAccessibleName(f"{finding.title}, {finding.state}, {value}")
        self.setToolTip(tip(finding.title))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self.finding is None:
            return
        painter, theme = QPainter(self), self._theme
        live, high = self.underMouse() or self.hasFocus(), self.height()
        if live:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.setPen(theme.color("lantern") if self.hasFocus() else Qt.PenStyle.NoPen)
            painter.setBrush(theme.color("raised"))
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6)
        size = theme.px(18)
        paint_lantern(painter, QRectF(theme.px(12), (high - size) / 2, size, size), self.finding.state, theme)
        painter.setFont(theme.font(12.5, weight=700, numbers=True))
        painter.setPen(theme.color(ROLES[self.finding.state]))
        middle = Qt.AlignmentFlag.AlignVCenter
        painter.drawText(
            self.rect().adjusted(0, 0, -theme.px(10), 0), Qt.AlignmentFlag.AlignRight | middle, self._value
        )
        right = self.width() - painter.fontMetrics().horizontalAdvance(self._value) - theme.px(18)
        left = theme.px(38)
        painter.setFont(theme.font(12.5))
        painter.setPen(theme.color("ink"))
        short = painter.fontMetrics().elidedText(self.finding.title, Qt.TextElideMode.ElideRight, right - left)
        painter.drawText(QRectF(left, 0, right - left, high), Qt.AlignmentFlag.AlignLeft | middle, short)
        left += painter.fontMetrics().horizontalAdvance(short) + theme.px(8)
        if self._aside and left < right:
            painter.setFont(theme.font(12))
            painter.setPen(theme.color("muted"))
            aside = painter.fontMetrics().elidedText(self._aside, Qt.TextElideMode.ElideRight, right - left)
            painter.drawText(QRectF(left, 0, right - left, high), Qt.AlignmentFlag.AlignLeft | middle, aside)

    def enterEvent(self, event: object) -> None:
        if self.finding is not None:
            self.pointed.emit(self.finding.where)
        super().enterEvent(event)  # type: ignore[arg-type]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.click()
        else:
            super().keyPressEvent(event)


class Drawer(QWidget):
    """Verdicts of the station at hand, or of the whole rig."""

    where_wanted = pyqtSignal(str)
    stopped = pyqtSignal(list)  # what stops the rig at this station
    pointed = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.setObjectName("drawer")
        self._station, self._opened, self._clear_open = "", "", False
        self._rows: list[FindingRow] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(theme.rule(across=True, role="lantern"))
        column.addLayout(self._head())
        self._area = QScrollArea()
        self._area.setWidgetResizable(True)
        self._area.setFrameShape(QFrame.Shape.NoFrame)
        self._area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._area.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._area.setObjectName("bench")
        inner = QWidget()
        self._column = QVBoxLayout(inner)
        self._column.setContentsMargins(12, 2, 10, 8)
        self._column.setSpacing(2)
        self.card = FindingCard(theme)
        self.card.tried.connect(self._try)
        self.card.previewed.connect(self._preview)
        self.card.where_clicked.connect(self.where_wanted)
        self._column.addWidget(self.card)
        self._clear = QPushButton()
        self._clear.setProperty("flat", True)
        self._clear.setObjectName("clear-line")
        self._clear.clicked.connect(self._toggle_clear)
        self._column.addWidget(self._clear, 0, Qt.AlignmentFlag.AlignLeft)
        self._column.addStretch(1)
        self._area.setWidget(inner)
        column.addWidget(self._area, 1)

    def _head(self) -> QHBoxLayout:
        theme = self._theme
        row = QHBoxLayout()
        row.setContentsMargins(14, 6, 10, 4)
        row.setSpacing(5)
        title = Label("Findings")
        title.setFont(theme.font(13, weight=700))
        theme.ink(title, "lantern")
        told = QWidget()
        flow = Flow(told, theme.px(6))
        for one in (told, title):
            one.setMinimumHeight(theme.px(28))  # as high as the buttons beside it
        flow.addWidget(title)
        self._counts = {}
        for state in (STOP, WATCH, CLEAR):
            label = self._counts[state] = Label()
            label.setFont(theme.font(12, weight=600, numbers=True))
            theme.ink(label, state)
            flow.addWidget(label)
        row.addWidget(told, 1)
        self._scope = QButtonGroup(self)
        self.here, self.all = QPushButton("here"), QPushButton("all")
        for button, words in ((self.here, "Findings of this station"), (self.all, "Findings of the whole rig")):
            button.setCheckable(True)
            button.setProperty("solid", True)
            button.setProperty("tight", True)
            button.setMinimumHeight(theme.px(28))
            button.setAccessibleName(words)
            button.setObjectName(f"findings.{button.text()}")
            button.clicked.connect(self._rescope)
            self._scope.addButton(button)
            row.addWidget(button)
        self.here.setChecked(True)
        return row

    def _rescope(self) -> None:
        self._opened = ""
        self.refresh()

    def _toggle_clear(self) -> None:
        self._clear_open = not self._clear_open
        self.refresh()

    def show_station(self, key: str) -> None:
        """The station at hand is another."""
        if key != self._station:
            self._station, self._opened, self._clear_open = key, "", False

    def open(self, key: str) -> None:
        """Lay one finding open, of whatever station; empty for the worst of the whole rig."""
        found = next((f for f in self._session.findings() if f.key == key), None)
        if found is None or found.station != self._station:
            self.all.setChecked(True)
        self._opened = key
        self.refresh()

    def refresh(self) -> None:
        """Verdicts as they are now: rows change where they stand."""
        result = self._session.evaluation
        self.setVisible(result is not None)
        if result is None:
            return
        whole = [f for f in self._session.findings() if self.all.isChecked() or f.station == self._station]
        for state, label in self._counts.items():
            count = sum(f.state == state for f in whole)
            label.setText(f"{count} {state}")
            label.setVisible(count > 0)
        self.stopped.emit([f for f in whole if f.state == STOP])
        pressing = [f for f in whole if f.state != CLEAR]
        calm = [f for f in whole if f.state == CLEAR]
        listed = [*pressing, *(calm if self._clear_open else ())]
        opened = next((f for f in listed if f.key == self._opened), listed[0] if pressing else None)
        self._lay(listed, opened)
        if opened is not None:
            self.card.show_finding(opened, self._session.display, tried=self._session.offered)
        self._clear.setText(
            f"{'Everything else' if pressing else 'Everything'} · {len(calm)} clear {'▾' if self._clear_open else '▸'}"
        )
        self._clear.setVisible(bool(calm))
        self.fit()

    def _lay(self, listed: list[Finding], opened: Finding | None) -> None:
        """A row for each but the one laid open, which stands in its place in the order."""
        show = self._session.display
        rest = [f for f in listed if opened is None or f.key != opened.key]
        while len(self._rows) < len(rest):
            row = FindingRow(self._theme)
            row.clicked.connect(lambda _=False, row=row: self._open_row(row))
            row.pointed.connect(self.pointed)
            self._rows.append(row)
            self._column.insertWidget(self._column.count() - 2, row)
        for n, row in enumerate(self._rows):
            row.setVisible(n < len(rest))
            if n < len(rest):
                aside = station(rest[n].station).name if rest[n].station != self._station else ""
                said = "" if rest[n].says_yes_or_no else show.text(rest[n].value, rest[n].unit)
                row.show_finding(rest[n], said, aside)
        at = next((n for n, f in enumerate(listed) if opened is not None and f.key == opened.key), 0)
        self.card.setVisible(opened is not None)
        if self._column.indexOf(self.card) != at:
            self._column.removeWidget(self.card)
            self._column.insertWidget(at, self.card)

    def _open_row(self, row: FindingRow) -> None:
        if row.finding is not None:
            self._opened = row.finding.key
            self.refresh()
            self.card.setFocus()
            self.pointed.emit(row.finding.where)

    def fit(self) -> None:
        """As tall as what it holds, up to its share of the column."""
        column = self.parentWidget()
        whole = column.height() if column is not None else 0
        inner = self._area.widget()
        inner.layout().activate()
        wide = self._area.viewport().width() or self.width()
        wanted = (
            inner.layout().heightForWidth(wide) if inner.layout().hasHeightForWidth() else inner.sizeHint().height()
        )
        self.setFixedHeight(min(round(MOST * whole), wanted + self._theme.px(42)))

    def _try(self, remedy: Remedy) -> None:
        self._session.apply(remedy.label.text(self._session.display), remedy.changes)

    def _preview(self, remedy: Remedy | None) -> None:
        self._session.preview(remedy.changes if remedy else None)


class Side(QWidget):
    """The right-hand column: the bench, and the drawer pinned under it."""

    def __init__(self, bench: QWidget, drawer: Drawer, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._drawer = drawer
        self.setFixedWidth(bench.width())
        self.setSizePolicy(QSizePolicy.Policy.Fixed, QSizePolicy.Policy.Expanding)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(bench, 1)
        column.addWidget(drawer)

    def resizeEvent(self, event: object) -> None:
        super().resizeEvent(event)  # type: ignore[arg-type]
        self._drawer.fit()
