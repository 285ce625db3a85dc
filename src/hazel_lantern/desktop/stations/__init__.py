"""The stations' pages: a folder each, found by the key of the station's row in `core.stations`."""

from __future__ import annotations

from importlib import import_module

from hazel_lantern.desktop.stations.page import Desk, StationPage

HOMES: dict[str, str] = {}  # packages of pages that lie elsewhere than in a folder here named after their station


def page(key: str, desk: Desk) -> StationPage:
    """The page of a station, loaded when it is first asked for."""
    made: StationPage = import_module(f"{HOMES.get(key, f'{__name__}.{key}')}.page").Page(key, desk)
    return made
