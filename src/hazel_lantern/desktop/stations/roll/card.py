"""The set-up card in letters that are read at two metres, with ticks, a page at a time."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QCheckBox, QFrame, QHBoxLayout, QPushButton, QScrollArea, QVBoxLayout, QWidget

from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STRUCTURE
from hazel_lantern.core.rolling.cautions import GENERAL
from hazel_lantern.desktop.stations.prove.meaning import emptied
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.session import Session

LARGE = 22  # px at 100 %
SIGNALS = (
    "Rolling: who leads says it, both thumbs up come back before anybody moves",
    "Go: the count of three, aloud, then the move",
    "Hold: a flat hand, and the word; the move stops and stays",
    "Stop: crossed arms, and the word, by anybody; all let go of what moves",
)
STOPS = ("Wind that moves the rig by itself, 8 m/s at the most", "Lightning, rain on mains power",
    "Anybody inside the marked distances")  # fmt: skip


class Card(QFrame):
    """Steps of building up with a box to tick, cautions, signals, what stops the shoot, taking down."""

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self._ticked: set[str] = set()
        t = theme.tokens
        self.setObjectName("roll.card")
        self.setStyleSheet(
            f"#roll\\.card {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 10px; }} QCheckBox "
            f"{{ spacing: 14px; }} QCheckBox::indicator {{ width: 24px; height: 24px; border: 2px solid {t.muted}; "
            f"border-radius: 4px; }} QCheckBox::indicator:checked {{ background: {t.clear}; }}"
        )
        column = QVBoxLayout(self)
        scroll = QScrollArea()
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        inner = QWidget()
        self._lines = QVBoxLayout(inner)
        self._lines.setSpacing(theme.px(10))
        scroll.setWidget(inner)
        close = QPushButton("Close")
        close.setObjectName("card.close")
        close.clicked.connect(lambda _=False: self.hide())
        foot = QHBoxLayout()
        foot.addWidget(close)
        foot.addStretch(1)
        column.addWidget(scroll, 1)
        column.addLayout(foot)
        self.hide()

    def _line(self, words: str, size: float = LARGE, weight: int = 400, role: str = "ink") -> None:
        label = Label(words)
        label.setFont(self._theme.font(size, weight=weight))
        label.setWordWrap(True)
        self._theme.ink(label, role)
        self._lines.addWidget(label)

    def _box(self, words: str) -> None:
        box, line, label = QCheckBox(), QHBoxLayout(), Label(words)
        box.setAccessibleName(words)
        box.setChecked(words in self._ticked)
        box.toggled.connect(lambda on: (self._ticked.add if on else self._ticked.discard)(words))
        label.setFont(self._theme.font(LARGE))
        label.setWordWrap(True)
        line.addWidget(box, 0, Qt.AlignmentFlag.AlignTop)
        line.addWidget(label, 1)
        self._lines.addLayout(line)

    def open(self) -> None:
        """Fill the stage."""
        emptied(self._lines)
        result, show = self._session.evaluation, self._session.display
        if result is None:
            return
        self._line(f"{result.rig.name} · {result.shot.name}", 30, 700, "lantern")
        self._line(f"{show.text(result.laid.mass, 'kg')} in all; {result.headline('roll', show)}", role="muted")
        bad = [f for f in result.findings if f.state != CLEAR and f.about in (PEOPLE, STRUCTURE)]
        if bad:
            self._line("Cautions", 24, 700, "watch")
            for finding in bad:
                self._line(f"{finding.title}: {finding.sentence.text(show)}")
        steps = result.readings.get("loading", ())
        if steps:
            self._line("Building up", 24, 700, "lantern")
            for n, words in enumerate(steps, 1):
                self._box(f"{n}  {words.text(show)}")
        for title, lines in (
            ("Signals", SIGNALS),
            ("What stops the shoot", STOPS),
            (
                "Taking down",
                (
                    "The camera comes off first, what holds it last",
                    "Arm strapped, carriage locked, power off before hands go near what runs",
                ),
            ),
        ):
            self._line(title, 24, 700, "lantern")
            for words in lines:
                self._line(f"·  {words}")
        self._line(GENERAL, 14, role="muted")
        self._lines.addStretch(1)
        area = self.parentWidget().rect()
        self.setGeometry(area.adjusted(12, 12, -12, -12))
        self.show()
        self.raise_()
        self.setFocus()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event is not None and event.key() == Qt.Key.Key_Escape:
            self.hide()
        else:
            super().keyPressEvent(event)
