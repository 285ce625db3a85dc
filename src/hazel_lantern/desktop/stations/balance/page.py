"""Balance: drift over the swing, or the map of the footing; weights, other kits, the order of loading."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.kinds.base import Drift
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.balance.extras import BalanceExtras
from hazel_lantern.desktop.stations.page import MapReading, StationPage
from hazel_lantern.desktop.stations.readings import against, path_plot
from hazel_lantern.desktop.widgets.plot import Line, Reading

CURVE, MAP = "curve", "map"


class Page(StationPage):
    """Chooses between two readings where the rig's kind has both."""

    def extras(self) -> BalanceExtras:
        made = BalanceExtras(self.desk.session, self.desk.theme)
        made.refused.connect(self.desk.tell)
        made.ways_wanted.connect(self.desk.show_ways)
        return made

    def chips(self, result: Evaluation) -> tuple[tuple[str, str], ...]:
        return ((CURVE, "Out of balance"), (MAP, "Footing")) if result.readings.offers("footing") else ()

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> Reading | MapReading | None:
        footing = result.readings.get("footing") if which == MAP else None
        if footing is not None:
            pose = result.poses(np.array([share]))[0]
            return MapReading(
                footing,
                (float(pose[1]), float(result.lens_at(share)[2])),
                ("pan of the arm, 0° as drawn", "lens height"),
            )
        over = next((curve for key, curve in result.curves.items() if curve.over and key.startswith(self.key)), None)
        if over is not None:
            return against(over, show)
        drift = result.readings.get("drift")
        return path_plot(self.key, result, share, show) if drift is None else drift_plot(drift, result, share, show)


def drift_plot(drift: Drift, result: Evaluation, share: float, show: Display) -> Reading:
    """Moment over the swing with the band that friction holds."""
    curve = result.curves[drift.curve]
    angle = float(result.poses(np.array([share]))[0, 0])
    friction = (-drift.friction, drift.friction)
    if drift.stays:
        spans = ", ".join(f"{show.text(a, 'rad')} to {show.text(b, 'rad')}" for a, b in drift.stays)
        aside, role = f"friction holds it {spans}", "clear"
    else:
        aside, role = "friction holds it nowhere", "stop"
    return Reading(
        f"Out of balance, {show.symbol(curve.y_unit)} (up: the camera end falls)",
        curve.x_unit,
        curve.y_unit,
        (Line(curve.x, curve.y),),
        axis="arm angle",
        aside=aside,
        aside_role=role,
        band=friction,
        span=drift.shot,
        marker=(angle, float(np.interp(angle, curve.x, curve.y))),
        zero=True,
    )
