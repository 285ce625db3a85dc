"""Figures of a move that every kind shows the same way."""

from __future__ import annotations

from hazel_lantern.core.figure import Given, by_formula
from hazel_lantern.core.formula import Formula
from hazel_lantern.core.kinds.base import Context, Report

PEAK = Formula("way/T/(1-r)")
PLAYED = Formula("T*f_shot/f_shown")
VIEW = Formula("2*atan2(w*q,2*f)")


def move_figures(context: Context, report: Report, way: float, words: str, ref: str) -> None:
    """Fastest speed over a way [m], the time on the screen, the angle the lens sees."""
    shot = context.shot
    time = Given("T", shot.duration_s, "s", "duration", "shot.time")
    report.add(
        by_formula("shot.speed", "Fastest", "m/s", "shot", PEAK, (Given("way", way, "m", words, ref), time, Given("r", shot.ramp, "1", "ease", "shot.ramp")),
                   assumptions=("soft ramps at both ends, steady between",), source="drive 4.1"),
        by_formula("shot.played", "Plays for", "s", "shot", PLAYED, (
            time, Given("f_shot", shot.capture_fps, "1/s", "frame rate shot", "shot.capture"),
            Given("f_shown", shot.shown_fps, "1/s", "frame rate shown", "shot.shown")), source="frames counted twice"),
        by_formula("shot.view", "Lens sees", "rad", "shot", VIEW, (
            Given("w", shot.sensor_width_m, "m:lens", "picture width on the sensor", "shot.sensor_width"),
            Given("q", shot.squeeze, "1", "squeeze", "shot.squeeze"), Given("f", shot.focal_m, "m:lens", "focal length", "shot.focal")), assumptions=("focused far away",), source="drive 5.2"),
    )  # fmt: skip
