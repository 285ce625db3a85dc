"""Build: bars to cut and a part to mark out in the whole centre; what to buy, what to take to the bench."""

from __future__ import annotations

from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.build.extras import BuildExtras
from hazel_lantern.desktop.stations.build.log import LogView
from hazel_lantern.desktop.stations.build.sheets import Sheets
from hazel_lantern.desktop.stations.build.shoot import ShootView
from hazel_lantern.desktop.stations.build.steps import StepsView
from hazel_lantern.desktop.stations.build.stock import StockView
from hazel_lantern.desktop.stations.build.view import BuildPage
from hazel_lantern.desktop.stations.page import StationPage

NAMES = ("Cutting", "Order of work", "Stock at hand", "Log and mishaps", "Shoot")


class Page(StationPage):
    """The quick cutting plan at once; the exact one is searched when nothing has changed for a while."""

    page: BuildPage | None = None
    steps: StepsView | None = None
    stock: StockView | None = None
    shoot: ShootView | None = None
    log: LogView | None = None

    def centre(self) -> QWidget:
        self.page = BuildPage(self.desk.session, self.desk.theme)
        self.steps = StepsView(self.desk.session, self.desk.theme)
        self.stock = StockView(self.desk.session, self.desk.theme)
        self.shoot = ShootView(self.desk.session, self.desk.theme)
        self.log = LogView(self.desk.session, self.desk.theme)
        for told in (self.steps.told, self.stock.told, self.shoot.told, self.log.told):
            told.connect(self.desk.tell)
        pages: tuple[QWidget, ...] = (self.page, self.steps, self.stock, self.log, self.shoot)
        return Sheets(tuple(zip(NAMES, pages, strict=True)), self.desk.theme)

    def extras(self) -> BuildExtras:
        made = BuildExtras(self.desk.session, self.desk.theme)
        made.export_wanted.connect(self.desk.export)
        return made

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> None:
        return None

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        if self.page is not None:
            self.page.view.refresh()
        for view in (self.steps, self.stock, self.shoot, self.log):
            if view is not None:
                view.refresh()

    def finish(self) -> None:
        if self.shoot is not None:
            self.shoot.finish()

    def settled(self) -> None:
        self.desk.session.search_cuts()

    def act(self) -> bool:
        """The exact cutting plan."""
        self.desk.session.search_cuts()
        return True
