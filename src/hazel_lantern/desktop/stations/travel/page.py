"""Travel: the drawing with what the rig does along its move, over a field it serves, against speed or an input."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import MapReading, StationPage
from hazel_lantern.desktop.stations.readings import ALONG, FIT, RUMBLE, against, along_plot, fit_plot, rumble_plot
from hazel_lantern.desktop.widgets.plot import Reading

MAP, CURVE, SPEED = "map", "curve", "speed"


class Page(StationPage):
    """A map first where the rig's kind has one, then along the move, against speed, against what may be set."""

    def chips(self, result: Evaluation) -> tuple[tuple[str, str], ...]:
        found = [
            (MAP, "Over the field", result.readings.offers("sag")),
            (CURVE, "Along the move", "travel.path" in result.curves),
            (SPEED, "Against speed", RUMBLE in result.curves),
            (FIT, "Room in the rails", FIT in result.curves),
        ]
        there = [(key, name) for key, name, is_there in found if is_there]
        there += [
            (key, f"Against {curve.over}")
            for key, curve in result.curves.items()
            if curve.over and key.startswith(self.key)
        ]
        there += [(key, curve.label) for key, curve in result.curves.items() if key.startswith(ALONG)]
        return tuple(there) if len(there) > 1 else ()

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> Reading | MapReading | None:
        offered = [key for key, _ in self.chips(result)]
        which = which if which in offered else next(iter(offered), CURVE)
        sag = result.readings.get("sag") if which == MAP else None
        if sag is not None:
            pose = result.poses(np.array([share]))[0]
            spot = (float(pose[0]), float(pose[1]))
            return MapReading(sag, spot, ("bridge along the runways", "trolley across"))
        if which == SPEED:
            return rumble_plot(result, show)
        if which == FIT:
            return fit_plot(result, share, show)
        if which.startswith(ALONG):
            return along_plot(result.curves[which], result, share, show)
        if which in result.curves:
            return against(result.curves[which], show)
        return super().reading(which, result, share, show)
