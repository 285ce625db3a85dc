"""What parts of the shell may ask of the window they act for; the window itself knows them, they do not know it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Protocol

from PyQt6.QtGui import QAction
from PyQt6.QtWidgets import QWidget

from hazel_lantern.desktop.shell.bench import Bench
from hazel_lantern.desktop.shell.top_line import TopLine
from hazel_lantern.desktop.stage.stage import Stage
from hazel_lantern.desktop.stations.page import Desk
from hazel_lantern.session.settings import Settings

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.pages import Pages
    from hazel_lantern.desktop.shell.why import WhyPanel


class Frame(Desk, Protocol):
    """The window as its parts see it."""

    settings: Settings
    station: str
    bench: Bench
    stage: Stage
    top: TopLine
    actions_by_name: dict[str, QAction]
    welcome_open: bool

    @property
    def why_panel(self) -> WhyPanel:
        """Made when it is first asked for."""

    @property
    def pages(self) -> Pages:
        """Made when they are first asked for."""

    @property
    def widget(self) -> QWidget:
        """What dialogs stand over."""

    def leave_welcome(self, station: str = "") -> None:
        """From the first page to the real window."""
