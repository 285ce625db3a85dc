"""Travel: the drawing with what the rail does under the carriage."""

from hazel_lantern.desktop.stations.page import StationPage as Page

__all__ = ["Page"]
