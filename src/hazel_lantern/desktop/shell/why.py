"""The why panel: the formula in symbols and with numbers, where each input is set, what would change the verdict."""

from __future__ import annotations

from collections.abc import Mapping
from html import escape

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QColor, QGuiApplication, QKeyEvent
from PyQt6.QtWidgets import QFrame, QGraphicsDropShadowEffect, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from hazel_lantern.core.advice.sensitivity import Turn, judged_by, turning_points
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.nouns.formula import symbol
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.shell.guide import REFERENCE
from hazel_lantern.desktop.shell.reference import cited, holds
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session


class WhyPanel(QFrame):
    """Opens over the stage for one figure; Esc closes it."""

    followed = pyqtSignal(str)
    closed = pyqtSignal()

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self._job = Job(self)
        self._job.stepped.connect(self._turns)
        self._job.failed.connect(
            lambda error: self._verdict.setText(
                f"What would change the verdict could not be worked out: {escape(str(error))}"
            )
        )
        self._figure: Figure | None = None
        self._told = 0
        self.setObjectName("why")
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        t = theme.tokens
        self.setStyleSheet(f"#why {{ background: {t.raised}; border: 1px solid {t.lantern}; border-radius: 10px; }}")
        shadow = QGraphicsDropShadowEffect(self)
        shadow.setBlurRadius(36)
        shadow.setOffset(0, 8)
        shadow.setColor(QColor(0, 0, 0, 150))
        self.setGraphicsEffect(shadow)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 14, 20, 16)
        column.setSpacing(8)
        head = QHBoxLayout()
        self._title = Label()
        self._title.setFont(theme.font(14.5, weight=700))
        self._title.setWordWrap(True)
        close = QPushButton("Esc")
        close.setProperty("flat", True)
        close.setAccessibleName("Close")
        close.clicked.connect(self.shut)
        head.addWidget(self._title, 1)
        head.addWidget(close)
        column.addLayout(head)
        self._symbols, self._numbers, self._notes, self._verdict = QLabel(), QLabel(), QLabel(), QLabel()
        for label, size in ((self._symbols, 15), (self._numbers, 13), (self._notes, 12), (self._verdict, 12.5)):
            label.setWordWrap(True)
            label.setTextFormat(Qt.TextFormat.RichText)
            label.setFont(theme.font(size))
            label.setTextInteractionFlags(Qt.TextInteractionFlag.TextBrowserInteraction)
            label.linkActivated.connect(self.followed)
            column.addWidget(label)
        theme.ink(self._numbers, "muted")
        theme.ink(self._notes, "muted")
        row = QHBoxLayout()
        self._copy = QPushButton("Copy")
        self._copy.clicked.connect(self.copy)
        row.addWidget(self._copy)
        row.addStretch(1)
        column.addLayout(row)
        self.hide()

    def open(self, figure: Figure) -> None:
        """Show where a figure comes from, and work out in the background what would change its verdict."""
        self._figure = figure
        show, why = self._session.display, figure.why
        value = show.text(figure.value, figure.unit)
        self._title.setText(f"Why: {figure.label.lower()} is {value}")
        known = self._session.parameters()
        if why.formula is not None:
            self._symbols.setText(f"{why.formula.in_symbols()}")
            shown = {g.symbol: _link(show.text(g.value, g.unit), g.ref, known, self._theme) for g in why.inputs}
            self._numbers.setText("= " + why.formula.in_numbers(shown))
        else:
            self._symbols.setText(escape(why.method))
            left = f"<br>What is left over: {why.residual:.2g}" if why.residual is not None else ""
            self._numbers.setText(
                "from "
                + ", ".join(
                    f"{symbol(g.symbol)} = {_link(show.text(g.value, g.unit), g.ref, known, self._theme)}"
                    for g in why.inputs
                )
                + left
                if why.inputs
                else left
            )
        self._numbers.setVisible(bool(self._numbers.text()))
        where = "; ".join(f"{symbol(g.symbol)} {escape(g.named(show))}" for g in why.inputs[:8])
        lines = [
            where,
            *(escape(f"{a[0].upper()}{a[1:]}.") for a in why.assumptions),
            escape(f"Holds for {holds(figure)}."),
            f"Read more: {_chapters(why.source, self._theme)}" + (f" ({escape(why.source)})" if why.source else ""),
        ]
        self._notes.setText("<br>".join(line for line in lines if line))
        self._verdict.setText("")
        self._verdict.hide()
        self._told = 0
        self._ask()
        self.setFixedWidth(min(self._theme.px(440), self.parentWidget().width() - 40))
        self._centre()
        self.show()
        self.raise_()
        self.setFocus()

    def _centre(self) -> None:
        self.adjustSize()
        tall = self.heightForWidth(self.width())
        self.resize(self.width(), max(self.sizeHint().height(), tall))
        parent = self.parentWidget()
        self.move(
            (parent.width() - self.width()) // 2 - self._theme.px(58), max(60, (parent.height() - self.height()) // 2)
        )

    def _ask(self) -> None:
        result = self._session.evaluation
        finding = judged_by(result, self._figure) if result and self._figure else None
        self._job.cancel()
        if finding is None or self._figure is None:
            return
        known = self._session.parameters()
        keys = list(
            dict.fromkeys(
                [g.ref for g in self._figure.why.inputs if isinstance(known.get(g.ref), Quantity)]
                + ([finding.where] if isinstance(known.get(finding.where), Quantity) else [])
            )
        )[:4]
        project, catalogue, rig, shot = (
            self._session.project,
            self._session.catalogue,
            self._session.rig_id,
            self._session.shot_id,
        )
        self._job.start(lambda: turning_points(project, catalogue, rig, shot, finding, keys))

    def _turns(self, step: Progress[tuple[Turn, ...]]) -> None:
        """What would change the verdict, as far as it is known."""
        turns = step.answer or ()
        if step.done < step.total and len(turns) == self._told:
            return
        self._told = len(turns)
        known, show = self._session.parameters(), self._session.display
        said = []
        for turn in turns:
            quantity = known.get(turn.key)
            if isinstance(quantity, Quantity):
                color = self._theme.tokens.of(turn.state)
                said.append(
                    f"{escape(quantity.label.lower())} at {show.text(turn.value, quantity.unit)} turns it to <b "
                    f"style='color:{color}'>{turn.state}</b>"
                )
        self._verdict.setText(
            "The verdict: " + "; ".join(said) + ("." if step.done == step.total else " …")
            if said
            else "No single input here changes the verdict within its bounds."
        )
        self._verdict.show()
        self._centre()

    def copy(self) -> None:
        """The panel's words to the clipboard."""
        if self._figure:
            QGuiApplication.clipboard().setText(_plain(self._figure, self._session.display))

    def shut(self) -> None:
        self._job.cancel()
        self.hide()
        self.closed.emit()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.shut()
        else:
            super().keyPressEvent(event)

    def finish(self) -> None:
        """Stop background work."""
        self._job.finish()


def _link(text: str, ref: str, known: Mapping[str, object], theme: Theme) -> str:
    return (
        f"<a href='{escape(ref)}' style='color:{theme.tokens.lantern}'>{escape(text)}</a>"
        if ref in known or (ref.count(".") == 1 and ref)
        else escape(text)
    )


def _plain(figure: Figure, show: Display) -> str:
    why = figure.why
    left = why.formula.text if why.formula else why.method
    inputs = "\n".join(f"  {g.symbol} = {show.text(g.value, g.unit)}  {g.named(show)}" for g in why.inputs)
    return f"{figure.label}: {show.text(figure.value, figure.unit)}\n{left}\n{inputs}\n" + "\n".join(
        (*why.assumptions, f"Source: {why.source}")
    )


def _chapters(source: str, theme: Theme) -> str:
    """Links to the reference chapters that a source names."""
    color = theme.tokens.lantern
    return ", ".join(
        f"<a style='color: {color}' href='{REFERENCE}{escape(section.key)}'>{escape(section.title)}</a>"
        for section in cited(source)
    )
