"""Travel: the drawing with what the rail does under the carriage, or the whole field of a rig that serves one."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.page import MapReading, StationPage
from hazel_lantern.desktop.widgets.plot import Reading

MAP, CURVE = "map", "curve"


class Page(StationPage):
    """A map first, where the rig's kind has one."""

    def chips(self, result: Evaluation) -> tuple[tuple[str, str], ...]:
        return ((MAP, "Over the field"), (CURVE, "Along the move")) if "sag" in result.readings else ()

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> Reading | MapReading | None:
        if which != CURVE and "sag" in result.readings:
            pose = result.poses(np.array([share]))[0]
            spot = (float(pose[0]), float(pose[1]))
            return MapReading(result.readings["sag"], spot, ("bridge along the runways", "trolley across"))
        return super().reading(which, result, share, show)
