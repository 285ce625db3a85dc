"""What stands under the stage at each station."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.evaluate import Evaluation
from hazel_lantern.core.units import Display
from hazel_lantern.desktop.widgets.plot import Line, Reading


def reading(station: str, result: Evaluation, share: float, show: Display) -> Reading | None:
    """The station's plot at the playhead, or None where it has none."""
    if result.model is None or station == "shot":
        # The pictures above the set say more than a plot of the height.
        return None
    if station == "balance" and result.kind.drift:
        return _drift(result, share, show)
    path = result.curves.get(f"{station}.path")
    if path is None:
        return None
    if path.x_unit == "s":
        x, axis = share * float(path.x[-1]), "seconds"
    else:
        x = float(result.path(np.array([share]))[0, 0])
        axis = "arm angle" if path.x_unit == "rad" else f"along the rail, {show.symbol(path.x_unit)}"
    others = [curve for key, curve in result.curves.items() if key.startswith(f"{station}.path.")]
    marker = (x, float(np.interp(x, path.x, path.y)))
    return Reading(
        f"{path.label}, {show.symbol(path.y_unit) or path.y_unit}", path.x_unit, path.y_unit,
        (*(Line(c.x, c.y, c.label, "muted", dash=True) for c in others), Line(path.x, path.y, "as designed" if others else "")),
        marker=marker, axis=axis, least=math.radians(1) if path.y_unit == "rad" else 0.0, zero=bool(others),
    )  # fmt: skip


def _drift(result: Evaluation, share: float, show: Display) -> Reading:
    assert result.kind.drift is not None
    drift = result.kind.drift(result.context, result.model)
    curve = result.curves[drift.curve]
    angle = float(result.path(np.array([share]))[0, 0])
    friction = (-drift.friction, drift.friction)
    if drift.stays:
        spans = ", ".join(f"{show.text(a, 'rad')} to {show.text(b, 'rad')}" for a, b in drift.stays)
        aside, role = f"friction holds it {spans}", "clear"
    else:
        aside, role = "friction holds it nowhere", "stop"
    return Reading(
        f"Out of balance, {show.symbol(curve.y_unit)} (up: the camera end falls)", curve.x_unit, curve.y_unit, (Line(curve.x, curve.y),), axis="arm angle",
        aside=aside, aside_role=role, band=friction, span=drift.shot, marker=(angle, float(np.interp(angle, curve.x, curve.y))), zero=True,
    )  # fmt: skip
