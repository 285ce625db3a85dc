"""Plots under the drawing."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.figure import Curve
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.widgets.plot import Line, Reading

RUMBLE, SWINGS = "travel.rumble", "travel.swings"
ALONG = "travel.along."  # curves over the place along the run
FIT = "travel.fit"  # room between wheels and rails, over the place along the rail
OWN = {"balance": "front axle"}  # what the curve itself is called beside others


def path_plot(station: str, result: Evaluation, share: float, show: Display) -> Reading | None:
    """The curve `<station>.path` with its marker at the playhead, others of its sort dashed beside it; None where
    there is none.
    """
    path = result.curves.get(f"{station}.path")
    if path is None:
        return None
    if path.x_unit == "s":
        x, axis = share * float(path.x[-1]), "seconds"
    else:
        x = float(result.poses(np.array([share]))[0, 0])
        axis = "arm angle" if path.x_unit == "rad" else f"along the rail, {show.symbol(path.x_unit)}"
    others = [curve for key, curve in result.curves.items() if key.startswith(f"{station}.path.")]
    marker = (x, float(np.interp(x, path.x, path.y)))
    return Reading(
        f"{path.label}, {show.symbol(path.y_unit) or path.y_unit}",
        path.x_unit,
        path.y_unit,
        (
            *(Line(c.x, c.y, c.label, "muted", dash=True) for c in others),
            Line(path.x, path.y, OWN.get(station, "as designed") if others else ""),
        ),
        marker=marker,
        axis=axis,
        least=math.radians(1) if path.y_unit == "rad" else 0.0,
        zero=bool(others),
    )


def along_plot(curve: Curve, result: Evaluation, share: float, show: Display) -> Reading:
    """A curve over where the carriage stands along its run, with the playhead."""
    x = float(result.poses(np.array([share]))[0, 0])
    return Reading(
        f"{curve.label}, {show.symbol(curve.y_unit) or curve.y_unit}",
        curve.x_unit,
        curve.y_unit,
        (Line(curve.x, curve.y),),
        marker=(x, float(np.interp(x, curve.x, curve.y))),
        axis=f"along the run, from its middle, {show.symbol(curve.x_unit)}",
        zero=True,
    )


def fit_plot(result: Evaluation, share: float, show: Display) -> Reading:
    """The room that a carriage has between its rails wherever it stands, over how far apart they are."""
    room, apart = result.curves[FIT], result.curves[f"{FIT}.apart"]
    tightest = result.figures["travel.tightest"].value
    x = float(result.poses(np.array([share]))[0, 0])
    binds = float(room.y.min()) < 0
    return Reading(
        f"Room between wheels and rails, {show.symbol('m')}; under nought it binds",
        "m",
        "m",
        (Line(apart.x, apart.y, "rails too far apart", "muted", dash=True), Line(room.x, room.y, "room")),
        marker=(x, float(np.interp(x, room.x, room.y))),
        axis=f"along the rail, {show.symbol('m')}",
        aside=f"{'binds' if binds else 'tightest'} at {show.text(tightest, 'm')}",
        aside_role="watch" if binds else "clear",
        least=5e-4,
        zero=True,
    )


def rumble_plot(result: Evaluation, show: Display) -> Reading:
    """What shakes, over speed, what can swing as level lines, and the move's fastest."""
    sources = [curve for key, curve in result.curves.items() if key.startswith(RUMBLE)]
    swings = [curve for key, curve in result.curves.items() if key.startswith(SWINGS)]
    speed = result.figures["shot.speed"].value
    first = sources[0]
    return Reading(
        "Shaken at, Hz; where a slant crosses a level line it rumbles",
        "m/s",
        "Hz",
        (*(Line(c.x, c.y, c.label, "muted", dash=True) for c in swings), *(Line(c.x, c.y, c.label) for c in sources)),
        marker=(speed, float(np.interp(speed, first.x, first.y))),
        axis=f"speed, {show.symbol('m/s')}; the line stands at this move's fastest",
        zero=True,
    )


def against(curve: Curve, show: Display) -> Reading:
    """A curve over an input with what is set marked, where it is safe, and what it is outside."""
    low, high = curve.safe
    ends = float(curve.x[0]), float(curve.x[-1])
    bounded = low > ends[0] or high < ends[1]
    said = [show.text(edge, curve.x_unit) for edge in curve.safe if math.isfinite(edge) and edge > 0]
    safe = " to ".join(said) if len(said) == 2 else f"up to {said[0]}" if said else ""
    none = high <= low
    return Reading(
        f"{curve.label}, {show.symbol(curve.y_unit) or curve.y_unit}",
        curve.x_unit,
        curve.y_unit,
        (Line(curve.x, curve.y),),
        marker=(curve.now, float(np.interp(curve.now, curve.x, curve.y))),
        axis=f"{curve.over}, {show.symbol(curve.x_unit)}".rstrip(", "),
        safe=curve.safe if bounded else None,
        outside=curve.outside,
        aside=("safe nowhere" if none else f"safe {safe}") if bounded else "",
        aside_role="stop" if none else "clear",
        sets=curve.sets,
        zero=True,
    )
