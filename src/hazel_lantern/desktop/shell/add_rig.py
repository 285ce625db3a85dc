"""A page of all rigs to choose from, by picture: what each does, how it may be built, what it costs."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QKeyEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import (
    QButtonGroup,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from hazel_lantern.core.advice.gallery import Example, gallery
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.kinds.base import Declared
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.sketch import BODY, GHOST, Sketch
from hazel_lantern.desktop.stage.painter import paint_sketch
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.flow import Flow
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

COLUMNS, PICTURE = 4, 104


class Picture(QWidget):
    """A rig from the side, to scale, with somebody beside it."""

    def __init__(self, theme: Theme) -> None:
        super().__init__()
        self._theme = theme
        self._sketch: Sketch | None = None
        self.setFixedHeight(theme.px(PICTURE))

    def show_sketch(self, sketch: Sketch | None) -> None:
        self._sketch = sketch
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("ground"))
        box = QRectF(self.rect())
        painter.drawRoundedRect(box, 6, 6)
        if self._sketch is not None:
            painter.setClipRect(box.adjusted(2, 2, -2, -2))
            inner = box.adjusted(theme.px(8), theme.px(8), -theme.px(8), -theme.px(8))
            paint_sketch(painter, self._sketch, inner, theme, {BODY, GHOST})
        else:
            painter.setPen(theme.color("muted"))
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, "drawing it…")


class KindCard(QFrame):
    """One kind: picture, what it does, its constructions as chips, about what it costs."""

    chosen = pyqtSignal(str, str)

    def __init__(self, kind: Declared, theme: Theme, group: QButtonGroup) -> None:
        super().__init__()
        self.kind, self._theme, self.live = kind, theme, False
        column = QVBoxLayout(self)
        column.setContentsMargins(10, 10, 10, 10)
        column.setSpacing(4)
        self.picture = Picture(theme)
        column.addWidget(self.picture)
        name, about = Label(kind.name), Label(kind.about)
        name.setFont(theme.font(14, weight=700))
        about.setFont(theme.font(12))
        about.setWordWrap(True)
        theme.ink(about, "muted")
        column.addWidget(name)
        column.addWidget(about)
        chips = QWidget()
        flow = Flow(chips, theme.px(5))
        self.chips: dict[str, QPushButton] = {}
        for variant, words in kind.variants:
            chip = QPushButton(kind.short.get(variant, words))
            chip.setCheckable(True)
            chip.setProperty("solid", True)
            chip.setProperty("chip", True)
            chip.setObjectName(f"construction.{kind.id}.{variant}")
            chip.setAccessibleName(f"{kind.name}, {words.lower()}")
            chip.setToolTip(words)
            chip.clicked.connect(lambda _=False, variant=variant: self.chosen.emit(kind.id, variant))
            group.addButton(chip)
            flow.addWidget(chip)
            self.chips[variant] = chip
        column.addWidget(chips)
        column.addStretch(1)
        self._cost = Label("…")
        self._cost.setFont(theme.font(12))
        theme.ink(self._cost, "muted")
        column.addWidget(self._cost)

    def say(self, cost: str) -> None:
        self._cost.setText(cost)

    def mousePressEvent(self, event: object) -> None:
        self.chosen.emit(self.kind.id, next(iter(self.chips)))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        painter, theme = QPainter(self), self._theme
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setPen(QPen(theme.color("lantern" if self.live else "line"), 1.4))
        painter.setBrush(theme.color("glow" if self.live else "raised"))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 9, 9)


class AddRig(QFrame):
    """Over everything but the trail; Esc closes it."""

    wanted = pyqtSignal(str)
    shot_wanted = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, session: Session, theme: Theme, parent: QWidget) -> None:
        super().__init__(parent)
        self._session, self._theme = session, theme
        self.found: dict[tuple[str, str], Example] = {}
        self._at = ("", "")
        self.setObjectName("add-rig-page")
        t = theme.tokens
        self.setStyleSheet(
            f"#add-rig-page {{ background: {t.panel}; border: 1px solid {t.line}; border-radius: 10px; }}"
        )
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        column.addLayout(self._head())
        area = self._area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setObjectName("bench")
        inner = QWidget()
        grid = QGridLayout(inner)
        grid.setContentsMargins(0, 0, 0, 0)
        grid.setSpacing(10)
        self._group = QButtonGroup(self)
        self._cards: dict[str, KindCard] = {}
        columns = COLUMNS if theme.scale < 1.4 else 2
        for n, kind in enumerate(DECLARED.values()):
            card = KindCard(kind, theme, self._group)
            card.chosen.connect(self.choose)
            for chip in card.chips.values():
                chip.installEventFilter(self)
            self._cards[kind.id] = card
            grid.addWidget(card, *divmod(n, columns))
        for k in range(columns):
            grid.setColumnStretch(k, 1)
        grid.setRowStretch(grid.rowCount(), 1)
        area.setWidget(inner)
        column.addWidget(area, 1)
        column.addWidget(self._detail())
        self._job = Job(self)
        self._job.stepped.connect(self._stepped)
        self._job.failed.connect(lambda error: self.failed.emit(f"The rigs could not be drawn: {error}"))
        self.hide()

    def _head(self) -> QHBoxLayout:
        theme = self._theme
        row = QHBoxLayout()
        title = Label("Add a rig")
        title.setFont(theme.font(16, weight=700))
        words = Label(
            "Pick how the camera is carried and how that is built. Sizes start from the shot at hand where it can be "
            "made."
        )
        words.setFont(theme.font(12))
        words.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        theme.ink(words, "muted")
        close = QPushButton("Close  Esc")
        close.setObjectName("add-rig.close")
        close.clicked.connect(self.hide)
        row.addWidget(title)
        row.addSpacing(8)
        row.addWidget(words, 1)
        row.addWidget(close)
        return row

    def _detail(self) -> QWidget:
        """What the chosen construction does well and asks for, and the two ways on."""
        theme = self._theme
        box = QWidget()
        row = QHBoxLayout(box)
        row.setContentsMargins(4, 6, 4, 0)
        row.setSpacing(16)
        self._lines: dict[str, Label] = {}
        for key, head in (("well", "Does well"), ("asks", "Asks for"), ("size", "Comes as")):
            cell = QVBoxLayout()
            cell.setSpacing(1)
            name, words = Label(head), Label()
            name.setFont(theme.font(12.5, weight=700))
            theme.ink(name, "lantern")
            words.setFont(theme.font(12))
            words.setWordWrap(True)
            words.setAlignment(Qt.AlignmentFlag.AlignTop)
            cell.addWidget(name)
            cell.addWidget(words, 1)
            self._lines[key] = words
            row.addLayout(cell, 1)
        ways = QVBoxLayout()
        self._add = QPushButton("Add this rig")
        self._add.setObjectName("add-rig.add")
        self._add.setProperty("act", True)
        self._add.clicked.connect(lambda _=False: self._take())
        shot = QPushButton("Start from the shot instead")
        shot.setObjectName("add-rig.shot")
        shot.clicked.connect(self._to_shot)
        ways.addWidget(self._add)
        ways.addWidget(shot)
        row.addLayout(ways)
        return box

    def open(self) -> None:
        """Show the page; pictures are drawn when it is first opened."""
        parent = self.parentWidget()
        left = self._theme.px(40)
        self.setGeometry(left, self._theme.px(54), parent.width() - 2 * left, parent.height() - self._theme.px(66))
        if not self.found and not self._job.running:
            project, shelf = self._session.project, self._session.catalogue
            self._job.start(lambda: gallery(project, shelf))
        if not self._at[0]:
            kind = next(iter(DECLARED.values()))
            self.choose(kind.id, kind.variants[0][0])
        self.show()
        self.raise_()
        self._cards[self._at[0]].chips[self._at[1]].setFocus()

    def choose(self, kind_id: str, variant: str) -> None:
        """Lay one construction open."""
        self._at = (kind_id, variant)
        kind = DECLARED[kind_id]
        for card in self._cards.values():
            card.live = card.kind.id == kind_id
            card.update()
        self._cards[kind_id].chips[variant].setChecked(True)
        self._lines["well"].setText(kind.well)
        self._lines["asks"].setText(kind.asks)
        self._add.setText(f"Add this {kind.name.lower()}")
        self._fill(kind_id)

    def _fill(self, kind_id: str) -> None:
        """What is known of a kind's picture, sizes and cost."""
        chosen = self._at[1] if self._at[0] == kind_id else DECLARED[kind_id].variants[0][0]
        example, show = self.found.get((kind_id, chosen)), self._session.display
        card = self._cards[kind_id]
        if example is None:
            if self._at[0] == kind_id:
                self._lines["size"].setText("being sized…")
            return
        result = example.evaluation
        drawn = result.draw(0.6, result.kind.views[0].key)
        card.picture.show_sketch(drawn)
        cost, mass = (show.text(result.figures[k].value, result.figures[k].unit) for k in ("build.cost", "rig.mass"))
        card.say(f"about {cost} · {mass}")
        if self._at[0] == kind_id:
            words = dict(DECLARED[kind_id].variants)[chosen]
            self._lines["size"].setText(
                f"{words}. {result.headline('rig', show).split(', ')[-1]}; {mass}, about {cost}."
            )

    def _stepped(self, step: Progress[tuple[Example, ...]]) -> None:
        for example in step.answer or ():
            key = (example.kind, example.variant)
            if key not in self.found:
                self.found[key] = example
                self._fill(example.kind)

    def _take(self) -> None:
        self.hide()
        self.wanted.emit("/".join(self._at))

    def _to_shot(self) -> None:
        self.hide()
        self.shot_wanted.emit()

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        """Arrows lead through all constructions in their order, whatever stands beside what."""
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress:
            by = {Qt.Key.Key_Right: 1, Qt.Key.Key_Down: 1, Qt.Key.Key_Left: -1,
                Qt.Key.Key_Up: -1}.get(Qt.Key(event.key()), 0)  # fmt: skip
            if by:
                every = [(kind, variant) for kind, card in self._cards.items() for variant in card.chips]
                kind, variant = every[(every.index(self._at) + by) % len(every)]
                self.choose(kind, variant)
                chip = self._cards[kind].chips[variant]
                chip.setFocus()
                self._area.ensureWidgetVisible(chip)
                return True
        return super().eventFilter(watched, event)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        if event.key() == Qt.Key.Key_Escape:
            self.hide()
        elif Qt.Key(event.key()) in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self._take()
        else:
            super().keyPressEvent(event)

    def finish(self) -> None:
        """Stop what works in the background."""
        self._job.finish()
