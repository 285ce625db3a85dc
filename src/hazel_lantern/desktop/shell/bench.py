"""The bench: a station's inputs in small groups, and what it comes to."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QPainter, QPaintEvent
from PyQt6.QtWidgets import QAbstractButton, QFrame, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.nouns.finding import RANK, Finding
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Several
from hazel_lantern.desktop.shell.summary import summary
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.fold import Fold
from hazel_lantern.desktop.widgets.parameter_row import ParameterRow
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import Label, copies, tip
from hazel_lantern.session.session import Session

WIDTH = 322
FIRST_FIGURES = 5
LARGE = 1.4  # text so large that each input takes a line of its own


class FigureRow(QAbstractButton):
    """A figure's name and value, painted so that a changing number moves nothing; pressing it asks why."""

    def __init__(self, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._theme = theme
        self.setFixedHeight(theme.px(28))
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAttribute(Qt.WidgetAttribute.WA_Hover)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.key, self._label, self._value = "", "", ""
        copies(self, lambda: f"{self._label}: {self._value}")

    def show_figure(self, figure: Figure, text: str) -> None:
        if (figure.key, text) == (self.key, self._value):
            return
        if self.key != figure.key:
            self.key, self._label = figure.key, figure.label
            self.setObjectName(f"figure.{figure.key}")
            self.setToolTip(tip(f"{figure.label}: why?"))
        self._value = text
        self.setAccessibleName(f"{figure.label}, {text}, why")
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        live = self.underMouse() or self.hasFocus()
        painter.setFont(theme.font(13, weight=600, numbers=True))
        painter.setPen(theme.color("ink"))
        painter.drawText(
            self.rect().adjusted(0, 0, -3, 0), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, self._value
        )
        room = self.width() - painter.fontMetrics().horizontalAdvance(self._value) - theme.px(10)
        painter.setFont(theme.font(12.5))
        painter.setPen(theme.color("lantern" if live else "muted"))
        short = painter.fontMetrics().elidedText(self._label, Qt.TextElideMode.ElideRight, room)
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignVCenter, short)
        if self.hasFocus():
            painter.setPen(theme.color("lantern"))
            painter.drawLine(0, self.height() - 1, self.width(), self.height() - 1)


def _beside(parameter: Parameter) -> bool:
    """Whether it shares a line with the one before it."""
    return isinstance(parameter, (Quantity, Choice)) and parameter.beside


def _listed(parameter: Parameter) -> bool:
    """Whether the station itself shows it, as a list to put in and take out of."""
    return isinstance(parameter, Several) and bool(parameter.known)


def by_use(figures: list[Figure], findings: Sequence[Finding]) -> list[Figure]:
    """Figures that matter most first: the station's headlines, then what is judged, worst first, then the rest."""
    judged: dict[str, int] = {}
    for finding in findings:
        judged[finding.figure] = max(judged.get(finding.figure, 0), 1 + RANK[finding.state])
    return sorted(figures, key=lambda figure: (not figure.headline, -judged.get(figure.key, 0)))


class Bench(QScrollArea):
    """The right-hand column for one station."""

    why_wanted = pyqtSignal(str)
    act_wanted = pyqtSignal()

    def __init__(self, session: Session, theme: Theme, parent: QWidget | None = None) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.setFixedWidth(theme.side(WIDTH))
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setObjectName("bench")
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._station = ""
        self._rows: dict[str, ParameterRow] = {}
        self._folds: dict[str, Fold] = {}
        self._members: dict[str, list[Parameter]] = {}
        self._columns: dict[str, QVBoxLayout] = {}
        self._opened: dict[tuple[str, str], bool] = {}
        self._figure_rows: list[FigureRow] = []
        self._all_figures = False
        self._act = QPushButton()
        self._built = False

    def build(self, station: str, action: str) -> None:
        """Everything anew for a station, to be refreshed afterwards; `action` names its main action, empty for none."""
        for title, fold in self._folds.items():
            self._opened[(self._station, title)] = fold.opened
        self._station = station
        self._rows, self._folds, self._members, self._columns, self._figure_rows = {}, {}, {}, {}, []
        self._extra = QVBoxLayout()
        # A field that is being typed in may be the reason for all this: it goes only after its own event is over.
        old = self.takeWidget()
        if old is not None:
            self.drop_typed(old)
            old.hide()
            old.deleteLater()
        content = QWidget()
        self._column = QVBoxLayout(content)
        self._column.setContentsMargins(14, 10, 10, 12)
        self._column.setSpacing(8)
        self._built = bool(self._session.rig_id)
        if self._built:
            self._lay_inputs(station)
            self._lay_action(action)
            self._column.addLayout(self._extra)
            self._lay_figures()
        else:
            self._column.addWidget(Label("No rig yet. Use + rig above to begin."))
        self._column.addStretch(1)
        self.setWidget(content)

    def drop_typed(self, fields: QWidget | None = None) -> None:
        """Fields that go, or whose rig is no longer at hand: what they still lose, such as the focus, sets nothing."""
        for field in (fields or self).findChildren(QuantityEdit):
            field.setModified(False)
            field.blockSignals(True)

    def _lay_inputs(self, station: str) -> None:
        """Parameters in folds by their groups; the first is open, or as the builder left it."""
        groups: dict[str, list[Parameter]] = {}
        for parameter in self._here():
            groups.setdefault(parameter.group, []).append(parameter)
        for index, (title, members) in enumerate(groups.items()):
            usual = index == 0 or len(groups) <= 2 or members[0].key.startswith("thing.") or _listed(members[0])
            fold = Fold(self._theme, title, opened=self._opened.get((station, title), usual))
            self._folds[title], self._members[title], self._columns[title] = fold, members, QVBoxLayout()
            self._columns[title].setSpacing(fold.rows.spacing())
            fold.rows.addLayout(self._columns[title])
            self._column.addWidget(fold)
            fold.folded.connect(lambda _, title=title: self._unfold(title))
            if fold.opened:
                self._lay_rows(title)

    def _unfold(self, title: str) -> None:
        """A group was opened or folded: its rows are made when they are first seen."""
        if self._folds[title].opened:
            self._lay_rows(title)
        self.refresh()

    def _lay_rows(self, title: str) -> None:
        """The inputs of a group, unless they are there already."""
        members, column = [m for m in self._members[title] if not _listed(m)], self._columns[title]
        for n, parameter in enumerate(members if column.isEmpty() else ()):
            paired = _beside(parameter) or (n + 1 < len(members) and _beside(members[n + 1]))
            row = ParameterRow(self._session, self._theme, parameter, paired=paired and self._theme.scale < LARGE)
            self._rows[parameter.key] = row
            if _beside(parameter) and self._theme.scale < LARGE:
                self._pair(column, row)
            else:
                column.addWidget(row)

    @staticmethod
    def _pair(column: QVBoxLayout, row: ParameterRow) -> None:
        """Put a row beside the last of a group, both as wide."""
        last = column.takeAt(column.count() - 1).widget()
        line = QHBoxLayout()
        line.setSpacing(10)
        line.addWidget(last, 1)
        line.addWidget(row, 1)
        column.addLayout(line)

    def _lay_action(self, words: str) -> None:
        """The station's main action; none where it has no words."""
        if not words:
            return
        self._act = QPushButton(words)
        self._act.setProperty("act", True)
        self._act.setObjectName("act")
        self._act.setToolTip("F5")
        self._act.clicked.connect(self.act_wanted)
        self._column.addWidget(self._act, 0, Qt.AlignmentFlag.AlignLeft)

    def _lay_figures(self) -> None:
        """What it comes to, and a line that shows the rest."""
        self._comes = self._heading("What it comes to", "why?")
        self._column.addWidget(self._comes)
        self._figures = QVBoxLayout()
        self._figures.setSpacing(0)
        self._column.addLayout(self._figures)
        self._more = QPushButton()
        self._more.setProperty("flat", True)
        self._more.clicked.connect(self._toggle_figures)
        self._column.addWidget(self._more, 0, Qt.AlignmentFlag.AlignLeft)

    def _here(self) -> list[Parameter]:
        """Parameters of this station that matter to the construction; of all the things on the set only the picked
        one is laid open.
        """
        picked, variant = (
            f"thing.{self._session.thing}.",
            self._session.value("variant") if "variant" in self._session.parameters() else "",
        )
        return [
            p
            for p in self._session.parameters().values()
            if p.station == self._station
            and (not p.key.startswith("thing.") or p.key.startswith(picked))
            and (not p.only or variant in p.only)
        ]

    def _asked(self, parameter: Parameter) -> bool:
        """Whether what was chosen elsewhere asks for an input."""
        when = getattr(parameter, "when", None)
        return when is None or self._session.value(when[0]) in when[1]

    def fits(self) -> bool:
        """Whether the rows are those of the document as it is; things and kit items come and go."""
        return not self._built or {(p.key, p.label) for p in self._here()} == {
            (member.key, member.label) for members in self._members.values() for member in members
        }

    def add_extra(self, widget: QWidget, parts: Sequence[tuple[str, QWidget]]) -> None:
        """Something a station puts between its inputs and its figures, or its parts beside the inputs of a group."""
        if not parts:
            self._extra.addWidget(widget)
        else:
            widget.setParent(self)
            widget.hide()
        for title, part in parts:
            if title not in self._folds:
                fold = Fold(self._theme, title, opened=self._opened.get((self._station, title), False))
                fold.folded.connect(lambda _: self.refresh())
                self._folds[title], self._members[title] = fold, []
                self._extra.addWidget(fold)
            self._folds[title].rows.addWidget(part)

    def _heading(self, words: str, aside: str) -> QWidget:
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(0, 4, 2, 0)
        left, right = Label(words), Label(aside)
        left.setFont(self._theme.font(13, weight=700))
        self._theme.ink(left, "lantern")
        right.setFont(self._theme.font(12))
        self._theme.ink(right, "muted")
        row.addWidget(left, 1)
        row.addWidget(right)
        return box

    def _toggle_figures(self) -> None:
        self._all_figures = not self._all_figures
        self.refresh()

    def refresh(self) -> None:
        """Values of the document and its evaluation as they are now."""
        result = self._session.evaluation
        if result is None or not self._built:
            return
        show = self._session.display
        for row in self._rows.values():
            row.setVisible(self._asked(row.parameter))
            if row.isVisibleTo(self):
                row.refresh()
        for title, fold in self._folds.items():
            members = [parameter for parameter in self._members[title] if self._asked(parameter)]
            fold.setVisible(bool(members) or not self._members[title])
            fold.say("" if fold.opened else summary(self._session, title, members))
        figures = by_use([f for f in result.figures.values() if f.station == self._station], result.findings)
        shown = figures if self._all_figures else figures[:FIRST_FIGURES]
        while len(self._figure_rows) < len(shown):
            line = FigureRow(self._theme)
            line.clicked.connect(lambda _=False, line=line: self.why_wanted.emit(line.key))
            self._figure_rows.append(line)
            self._figures.addWidget(line)
        for index, line in enumerate(self._figure_rows):
            line.setVisible(index < len(shown))
            if index < len(shown):
                line.show_figure(shown[index], show.text(shown[index].value, shown[index].unit))
        self._comes.setVisible(bool(figures))
        self._more.setVisible(len(figures) > FIRST_FIGURES)
        self._more.setText("Show fewer" if self._all_figures else f"Show all {len(figures)}")

    def open_group(self, title: str) -> None:
        """Open a folded group; raises KeyError where there is none of that title."""
        self._folds[title].open()
        self.refresh()

    def reveal(self, key: str) -> bool:
        """Open the group of an input, scroll to it and put the cursor there."""
        title = next((title for title, members in self._members.items() if key in (m.key for m in members)), None)
        if title is None:
            return False
        self._folds[title].open()
        if key not in self._rows:
            return False
        row = self._rows[key]
        row.show()
        row.refresh()
        self.ensureWidgetVisible(row)
        row.field.setFocus(Qt.FocusReason.ShortcutFocusReason)
        return True
