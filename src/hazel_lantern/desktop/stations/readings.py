"""Plots under the drawing."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.widgets.plot import Line, Reading

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
