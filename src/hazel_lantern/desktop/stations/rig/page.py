"""Rig: the drawing with the curve of the camera's path."""

from hazel_lantern.desktop.stations.page import StationPage as Page

__all__ = ["Page"]
