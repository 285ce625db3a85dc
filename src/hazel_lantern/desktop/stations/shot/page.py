"""Shot: the set with three pictures of the move over it."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import Evaluation, Outline
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import StationPage
from hazel_lantern.desktop.stations.shot.extras import ShotExtras
from hazel_lantern.desktop.stations.shot.pictures import END, NOW, START, Pictures
from hazel_lantern.desktop.stations.shot.proposals import Proposals


class Page(StationPage):
    """The pictures say more than a plot of the height would."""

    on_set = True
    pictures: Pictures | None = None
    proposals: Proposals | None = None

    def above(self) -> QWidget:
        self.pictures = Pictures(self.desk.theme)
        return self.pictures

    def extras(self) -> ShotExtras:
        made = ShotExtras(self.desk.session, self.desk.theme, lambda: self.desk.playhead)
        made.refused.connect(self.desk.tell)
        made.rebuilt.connect(lambda: self.desk.show_station(self.key))
        return made

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

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        # The picture at the playhead was drawn with the stage.
        if self.pictures is not None:
            self.pictures.show_move(result, share, show, (START, END))
        if self.proposals is not None:
            self.proposals.refresh()
