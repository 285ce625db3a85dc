"""The main window: puts the parts together and carries out actions."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

from PyQt6.QtCore import QByteArray, Qt, QTimer, pyqtSignal
from PyQt6.QtGui import QCloseEvent, QPaintEvent
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QMainWindow, QMessageBox, QVBoxLayout, QWidget

from hazel_lantern.core.advice.proposals import Proposal
from hazel_lantern.core.editing import changes
from hazel_lantern.core.kinds.base import Action
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.stations import RIG, station
from hazel_lantern.desktop.shell import actions
from hazel_lantern.desktop.shell.arrivals import Arrivals
from hazel_lantern.desktop.shell.bench import Bench
from hazel_lantern.desktop.shell.centre import Centre
from hazel_lantern.desktop.shell.drawer import Drawer, Side
from hazel_lantern.desktop.shell.guide import Guide
from hazel_lantern.desktop.shell.help import Help
from hazel_lantern.desktop.shell.keys import KeyHand
from hazel_lantern.desktop.shell.look import Look
from hazel_lantern.desktop.shell.pages import Pages
from hazel_lantern.desktop.shell.project_files import ProjectFiles
from hazel_lantern.desktop.shell.rigs import Rigs
from hazel_lantern.desktop.shell.showing import Showing
from hazel_lantern.desktop.shell.top_line import TopLine
from hazel_lantern.desktop.shell.trail import Trail
from hazel_lantern.desktop.shell.voice import Voice
from hazel_lantern.desktop.stations import page
from hazel_lantern.desktop.stations.page import Extras, StationPage
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.quantity_edit import QuantityEdit
from hazel_lantern.desktop.widgets.words import Label
from hazel_lantern.files.errors import FileError
from hazel_lantern.session import settings as preferences
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.compare import Compare
    from hazel_lantern.desktop.shell.why import WhyPanel

TOLD = 9000  # ms that a sentence stays at the foot


class Window(QMainWindow):
    """One window on one session."""

    message: Label

    painted = pyqtSignal()

    def __init__(self, session: Session, theme: Theme, settings: Settings, *, welcome: bool = False) -> None:
        super().__init__()
        self.session, self.theme, self.settings = session, theme, settings
        self.setWindowTitle("Hazel Lantern")
        self.setMinimumSize(1100, 700)
        self.resize(1280, 800)
        self.station, self.view = "balance", "side"
        self._was_painted = False
        self.extras: Extras | None = None
        self._station_pages: dict[str, StationPage] = {}
        self._said = QTimer(self)
        self._said.setSingleShot(True)
        self._said.timeout.connect(lambda: self.message.hide())
        self.anew = QTimer(self)
        self.anew.setSingleShot(True)
        self.anew.timeout.connect(lambda: self.show_station(self.station))
        self.welcome_open = welcome
        self.showing = Showing(self, self)
        self._voice = Voice(self, self.tell, self.attempt)
        self.menu, self.actions_by_name = actions.build(self, self.take_typed)
        self.files = ProjectFiles(session, settings, self._voice, self.leave_welcome, self.take_typed)
        self.rigs, self.help = Rigs(session, self._voice), Help(session, lambda: self.theme, lambda: self.pages)
        self.guide, self.look = Guide(session, self, self.actions_by_name), Look(theme, settings, self.step_moves)
        self._comparing: Compare | None = None
        self.arrivals = Arrivals(session, self.files, self.rigs, self)
        self._build()
        session.changed.connect(self.showing.changed)
        session.cuts.found.connect(self.files.cuts_found)
        session.remedies_grown.connect(self._grown)
        session.remedies_ready.connect(self._remedies)
        session.rig_switched.connect(self._rig_switched)
        session.trouble.connect(self.tell)
        theme.changed.connect(self._rebuild)

    # Putting it together

    def _build(self) -> None:
        theme, session = self.theme, self.session
        if self.welcome_open:
            from hazel_lantern.desktop.shell.welcome import Welcome

            page = Welcome(theme, self.files.recent)
            page.chosen.connect(self.arrivals.way_in)
            self.setCentralWidget(page)
            return
        frame = QWidget()
        frame.setObjectName("frame")
        column = QVBoxLayout(frame)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        self.top = TopLine(session, theme, self.menu)
        self.top.rig_chosen.connect(self._choose_rig)
        self.top.rig_wanted.connect(self.arrivals.choose_rig)
        self.top.units_chosen.connect(self.use_units)
        self.top.found.connect(self.guide.go_to)
        self.top.picked.connect(self.guide.take)
        self.top.finder.entered.connect(lambda: self.top.offer(self.guide.finds()))
        column.addWidget(self.top)
        column.addWidget(theme.rule(across=True))
        row = QHBoxLayout()
        row.setSpacing(0)
        self.trail = Trail(session, theme)
        self.trail.chosen.connect(self.show_station)
        self.centre = Centre(session, theme)
        self.stage, self.reading, self.strip = self.centre.stage, self.centre.reading, self.centre.strip
        self.stage.chips.view_chosen.connect(self.use_view)
        self.stage.taken.connect(self._picked)
        self.plot = self.reading.plot
        self.strip.reduced = self.settings.reduced_motion
        self.strip.moved.connect(self.showing.moved)
        self.keys = KeyHand(session, self.strip)
        self.keys.refused.connect(self.stage.say)
        self.bench = Bench(session, theme)
        self.bench.why_wanted.connect(self.guide.why)
        self.bench.act_wanted.connect(self.act)
        self.drawer = Drawer(session, theme)
        self.drawer.where_wanted.connect(self.lead_to)
        self.drawer.pointed.connect(self.stage.light)
        self.drawer.stopped.connect(self.stage.show_stops)
        self.stage.stops.asked.connect(self.drawer.open)
        self.trail.worst_wanted.connect(lambda: self.drawer.open(""))
        side = Side(self.bench, self.drawer)
        for part in (self.trail, theme.rule(across=False), self.centre, theme.rule(across=False), side):
            row.addWidget(part, 1 if part is self.centre else 0)
        column.addLayout(row, 1)
        self.message = Label()
        self.message.setObjectName("message")
        self.message.setWordWrap(True)
        self.message.setMargin(8)
        self.message.hide()
        column.addWidget(self.message)
        self.setCentralWidget(frame)
        self.stage.setFocus()  # the drawing is what one came for, not the first button in the row
        for name in actions.AT_HAND:
            actions.offer(getattr(self, name), name, self.actions_by_name)
        self._frame = frame
        self._station_pages = {}
        self._why: WhyPanel | None = None
        self._pages: Pages | None = None
        self.arrivals.begin(self._frame, theme)
        self.show_station(self.station)

    @property
    def why_panel(self) -> WhyPanel:
        """Made when it is first asked for: a start does not need it."""
        if self._why is None:
            from hazel_lantern.desktop.shell.why import WhyPanel

            self._why = WhyPanel(self.session, self.theme, self._frame)
            self._why.followed.connect(self.guide.follow)
        return self._why

    @property
    def comparing(self) -> Compare:
        """Two rigs, or several ways, side by side; made when first asked for."""
        if self._comparing is None:
            from hazel_lantern.desktop.shell.compare import Compare

            self._comparing = Compare(self.session, self.theme, self._voice, lambda: self.pages)
        return self._comparing

    @property
    def pages(self) -> Pages:
        """Keys, manual, about; made when first asked for."""
        if self._pages is None:
            self._pages = Pages(self.theme, self._frame)
        return self._pages

    @property
    def page(self) -> StationPage:
        """The page of the station at hand; made, with what it puts over or in place of the drawing, when it is first
        shown.
        """
        key = self.station
        if key not in self._station_pages:
            made = self._station_pages[key] = page(key, self)
            self.centre.hold(key, made.above(), made.below(), made.centre())
        return self._station_pages[key]

    def keep_in_sight(self, urgent: QWidget) -> None:
        self.top.hold(urgent)

    def leave_welcome(self, station: str = "") -> None:
        """From the first page to the real window."""
        self.station = station or self.station
        if self.welcome_open:
            self.welcome_open = False
            self._build()

    def _rebuild(self) -> None:
        """After another look or text size: the same place, made anew."""
        app = QApplication.instance()
        assert isinstance(app, QApplication)
        self.theme.apply(app)
        self._finish()
        share = getattr(self, "strip", None) and self.strip.share
        self._build()
        if not self.welcome_open and share is not None:
            self.strip.go(share)

    def _choose_rig(self, rig_id: str) -> None:
        self.take_typed()
        self.session.switch(rig_id)

    def _rig_switched(self) -> None:
        """The bench is made anew, though not within a signal that may come from one of its own fields."""
        if not self.welcome_open:
            self.bench.drop_typed()
            self.anew.start()

    def take_typed(self) -> bool:
        """Take what stands half-typed in a field, before anything else is done. What is wrong stays in its field, and
        is told; the last good value stands.
        """
        for field in self.findChildren(QuantityEdit):
            if field.isModified() and not field.commit():
                self.tell(f"“{field.text()[:40]}” is not taken for {field.quantity.label}; its last good value stands.")
                return False
        return True

    def _offer_views(self) -> None:
        result = self.session.evaluation
        views = list(result.views(self.station)) if result else []
        if views and self.view not in dict(views):
            self.view = views[0][0]
        self.stage.chips.offer_views(views, self.view, layered=not self.page.whole(self.view))
        for made in self._station_pages.values():
            made.turned(on=made.key == self.station and bool(views), view=self.view)

    def show_station(self, key: str) -> None:
        """Go to a station."""
        if self.welcome_open:
            return
        self.take_typed()
        self.anew.stop()
        result = self.session.evaluation
        if result is not None:
            own = result.kind.stations
            if not station(key).holds(own):
                if key != self.station and station(self.station).holds(own):
                    self.tell(
                        f"{station(key).name} has nothing to say about a {result.kind.name.lower()}."
                        if self.session.has_rig
                        else "There is no rig yet: press one of those that can do it, or + rig above."
                    )
                    return
                key = RIG if station(RIG).holds(own) else own[0]
        self.station = key
        shown = self.page
        self.view = shown.opens_with(self.view, result.views(key)) if result is not None else self.view
        self._offer_views()
        self.trail.show_station(key)
        self.drawer.show_station(key)
        self.centre.turn_to(key)
        self._finish_extras()
        action = self._action()
        self.bench.build(key, action.label if action else "")
        self.extras = shown.extras() if self.session.rig_id else None
        if self.extras is not None:
            self.bench.add_extra(self.extras, self.extras.parts())
        self.refresh()

    def _finish_extras(self) -> None:
        if self.extras is not None:
            self.extras.finish()
        self.extras = None

    def _picked(self, key: str) -> None:
        """A thing on the set was taken hold of: its sizes come to the bench."""
        if key.startswith("thing."):
            thing = key.split(".")[1]
            if thing != self.session.thing:
                self.session.thing = thing
                self.anew.start()

    def _action(self) -> Action | None:
        result = self.session.evaluation
        return next((a for a in result.kind.actions if a.station == self.station), None) if result else None

    # Showing

    def refresh(self) -> None:
        """Everything as the session has it now."""
        self.showing.refresh()

    def _grown(self) -> None:
        """One more remedy was tried."""
        if not self.welcome_open:
            self.drawer.refresh()

    def _remedies(self) -> None:
        if not self.welcome_open:
            self.drawer.refresh()

    @property
    def playhead(self) -> float:
        """Where it stands, as a share of the move's time."""
        return self.strip.share

    def tell(self, words: str) -> None:
        """One clear sentence at the foot of the window, until the next one or a few seconds have passed."""
        if self.welcome_open:
            box = QMessageBox(QMessageBox.Icon.Warning, "Hazel Lantern", words, parent=self)
            box.setTextFormat(Qt.TextFormat.PlainText)
            box.exec()
            return
        self.message.setText(words)
        self.message.setVisible(bool(words))
        self._said.start(TOLD)

    # Going places

    def focus_find(self) -> None:
        self.top.finder.setFocus()
        self.top.finder.selectAll()

    def show_input(self, key: str) -> None:
        """Go to where an input is set, and light it up."""
        self.why_panel.shut()
        there = self.session.parameters()[key].station
        if there != self.station:
            self.show_station(there)
        self.bench.reveal(key)
        self.stage.light(key)

    def lead_to(self, where: str) -> None:
        """To what a finding is about: an input, or the figure it judges."""
        self.guide.follow(where)

    def show_chapter(self, key: str) -> None:
        """The reference, over the why that cites it."""
        self.why_panel.shut()
        self.help.show_reference(key)

    def show_finding(self, key: str) -> None:
        """At its own station, laid open."""
        self.show_station(key.partition(".")[0])
        self.drawer.open(key)

    def show_why(self, figure: Figure) -> None:
        """Where a figure comes from."""
        self.why_panel.open(figure)

    def use_view(self, key: str) -> None:
        self.view = key
        self._offer_views()
        self.showing.draw()

    def next_view(self) -> None:
        if self.session.evaluation:
            keys = [key for key, _ in self.session.evaluation.views(self.station)]
            self.use_view(keys[(keys.index(self.view) + 1) % len(keys)])

    def fit_view(self) -> None:
        self.stage.fit_view()

    def toggle_layer(self, layer: str) -> None:
        self.stage.toggle_layer(layer)

    # Editing

    def act(self) -> None:
        """The station's main action."""
        self.take_typed()
        if self.page.act():
            return
        action = self._action()
        if action:
            self.attempt(lambda: self.session.act(action.station, action.label))

    def show_ways(self) -> None:
        """Choices on which good builders differ."""
        self.comparing.ways()

    def take_proposal(self, proposal: Proposal) -> None:
        """A rig that was proposed becomes one of the project."""
        self.rigs.take_proposal(proposal)

    def export(self, to: str) -> None:
        """Ask where, and write one of the formats."""
        self.files.export_dialog(to)

    def attempt(self, work: Callable[[], None]) -> bool:
        """Run it; an error the builder can act on is told in one sentence."""
        try:
            work()
        except HazelError as error:
            text = str(error)
            self.tell(f"{text[:1].upper()}{text[1:]}.")
            return False
        return True

    def undo(self) -> None:
        self.session.undo()

    def redo(self) -> None:
        self.session.redo()

    def use_units(self, system: str) -> None:
        self.take_typed()
        self.session.change(
            f"Show {'inches' if system == 'in' else 'millimetres'}", changes.set_units(self.session.project, system)
        )
        self.show_station(self.station)

    def step_moves(self, reduced: bool) -> None:
        """Moves are stepped, or played."""
        self.strip.reduced = reduced
        self.tell("Moves are stepped, not played." if reduced else "Moves are played.")

    # Window

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if not self._was_painted:
            self._was_painted = True
            QTimer.singleShot(0, self.painted.emit)

    def closeEvent(self, event: QCloseEvent | None) -> None:
        if not self.welcome_open and not self.files.leave():
            event.ignore()
            return
        self.showing.halt()
        self.anew.stop()
        self._said.stop()
        self.session.journal.clear()
        self.settings.window = bytes(self.saveGeometry().toBase64().data()).decode()
        try:
            preferences.save(self.settings)
        except (FileError, OSError) as error:
            self.tell(f"The preferences could not be kept: {error}")
        self._finish()
        if not self.welcome_open:
            self.strip.halt()
        self.session.close()
        super().closeEvent(event)

    def _finish(self) -> None:
        """Stop what works in the background for the parts of this window."""
        if self._comparing is not None:
            self._comparing.finish()
        if not self.welcome_open:
            self._finish_extras()
            for made in self._station_pages.values():
                made.finish()
            if self._why is not None:
                self._why.finish()
            self.arrivals.finish()

    def restore(self) -> None:
        """The place and size of last time."""
        if self.settings.window:
            self.restoreGeometry(QByteArray.fromBase64(self.settings.window.encode()))
