"""What a station puts on the bench besides its quantities; each is loaded when its station is first shown."""

from __future__ import annotations

from collections.abc import Callable
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.window import Window
    from hazel_lantern.desktop.stations.balance_extras import BalanceExtras
    from hazel_lantern.desktop.stations.build_extras import BuildExtras
    from hazel_lantern.desktop.stations.shot_extras import ShotExtras


def _shot(window: Window) -> ShotExtras:
    from hazel_lantern.desktop.stations.shot_extras import ShotExtras

    made = ShotExtras(window.session, window.theme)
    made.refused.connect(window.tell)
    made.rebuilt.connect(lambda: window.show_station("shot"))
    made.taken.connect(window.rigs.take_proposal)
    return made


def _balance(window: Window) -> BalanceExtras:
    from hazel_lantern.desktop.stations.balance_extras import BalanceExtras

    made = BalanceExtras(window.session, window.theme)
    made.refused.connect(window.tell)
    made.ways_wanted.connect(lambda: window.comparing.ways())
    return made


def _build(window: Window) -> BuildExtras:
    from hazel_lantern.desktop.stations.build_extras import BuildExtras

    made = BuildExtras(window.session, window.theme)
    made.export_wanted.connect(window.files.export_dialog)
    return made


MAKERS: dict[str, Callable[[Window], BalanceExtras | BuildExtras | ShotExtras]] = {"shot": _shot, "balance": _balance, "build": _build}


def extras_for(window: Window, station: str) -> BalanceExtras | BuildExtras | ShotExtras | None:
    """The extras of a station, wired to the window; None where it has none, or there is no rig."""
    make = MAKERS.get(station)
    return make(window) if make is not None and window.session.rig_id else None
