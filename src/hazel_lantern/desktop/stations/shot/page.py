"""Shot: the set with three pictures of the move over it."""

from __future__ import annotations

from collections.abc import Callable

from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import SET, Evaluation, Outline
from hazel_lantern.core.document.project import Thing
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import StationPage
from hazel_lantern.desktop.stations.shot.extras import ShotExtras
from hazel_lantern.desktop.stations.shot.palette import Palette
from hazel_lantern.desktop.stations.shot.pictures import END, NOW, START, Pictures
from hazel_lantern.desktop.stations.shot.proposals import Proposals


class Page(StationPage):
    """The pictures say more than a plot of the height would."""

    on_set = True
    pictures: Pictures | None = None
    proposals: Proposals | None = None
    palette: Palette | None = None
    bench_part: ShotExtras | None = None
    on_plan = False

    def above(self) -> QWidget:
        self.pictures = Pictures(self.desk.theme)
        return self.pictures

    def extras(self) -> ShotExtras:
        made = ShotExtras(self.desk.session, self.desk.theme, lambda: self.desk.playhead)
        made.refused.connect(self.desk.tell)
        made.rebuilt.connect(lambda: self.desk.show_station(self.key))
        self.bench_part = made
        return made

    def turned(self, *, on: bool, view: str) -> None:
        if self.palette is None and on:
            self.palette = Palette(self.desk.stage, self.desk.theme, self._picked)
            self.palette.put.connect(lambda what, at: self._made(lambda extras: extras.put(what, at)))
            self.palette.renamed.connect(lambda: self._made(lambda extras: extras.rename_thing()))
            self.palette.removed.connect(lambda: self._made(lambda extras: extras.remove_thing()))
        if self.palette is not None:
            self.on_plan = on and view == SET
            self.palette.show(on=self.on_plan)

    def _made(self, work: Callable[[ShotExtras], None]) -> None:
        if self.bench_part is not None:
            work(self.bench_part)

    def _picked(self) -> Thing | None:
        session = self.desk.session
        things = session.shown.set_of(session.shot).things
        return next((thing for thing in things if thing.id == session.thing), None)

    def below(self) -> QWidget:
        self.proposals = Proposals(self.desk.session, self.desk.theme)
        self.proposals.taken.connect(self.desk.take_proposal)
        self.proposals.why_wanted.connect(self.desk.tell)
        self.proposals.failed.connect(self.desk.tell)
        return self.proposals

    def finish(self) -> None:
        if self.proposals is not None:
            self.proposals.finish()

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> None:
        return None

    def drawn(self, outline: Outline, share: float, show: Display) -> None:
        if self.pictures is not None:
            self.pictures.show_move(outline, share, show, (NOW,))
        if self.palette is not None:
            self.palette.lay(on=self.on_plan)

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        # The picture at the playhead was drawn with the stage.
        if self.pictures is not None:
            self.pictures.show_move(result, share, show, (START, END))
        if self.proposals is not None:
            self.proposals.refresh()
