"""Drive: the chain from its source to what it moves, and what is asked of the source over the move."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.drives import HAND
from hazel_lantern.core.driving.drawing import CHAIN
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stations.drive.extras import DriveExtras
from hazel_lantern.desktop.stations.page import MapReading, StationPage
from hazel_lantern.desktop.widgets.plot import Line, Reading


class Page(StationPage):
    """A reading for every driven axis."""

    _bench: DriveExtras | None = None  # its part of the bench, as it was made last

    def extras(self) -> DriveExtras:
        made = DriveExtras(self.desk.session, self.desk.theme)
        made.refused.connect(self.desk.tell)
        self._bench = made
        return made

    def act(self) -> bool:
        """Find the gears of the first axis that has wheels."""
        return self._bench is not None and self._bench.find()

    def whole(self, view: str) -> bool:
        return view.startswith(CHAIN)

    def opens_with(self, view: str, views: tuple[tuple[str, str], ...]) -> str:
        """The drive itself, where wheels drive an axis."""
        return views[0][0] if views and self.whole(views[0][0]) else view

    def chips(self, result: Evaluation) -> tuple[tuple[str, str], ...]:
        there = _moving(result)
        found = [(one.axis.key, one.axis.name) for one in there]
        steps = "{}: steps to avoid" if len(there) > 1 else "Steps to avoid"
        found += [
            (f"{one.key}.rates", steps.format(one.axis.name)) for one in there if f"{one.key}.rates" in result.curves
        ]
        lapse = "{}: time-lapse" if len(there) > 1 else "Time-lapse"
        found += [
            (f"{one.key}.lapse", lapse.format(one.axis.name)) for one in there if f"{one.key}.lapse" in result.curves
        ]
        return tuple(found) if len(found) > 1 else ()

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> Reading | MapReading | None:
        if which.endswith(".lapse") and which in result.curves:
            return lapse_plot(which, result, show)
        if which in result.curves:
            return steps_plot(which, result, share)
        there = _moving(result)
        given = next((one for one in there if one.axis.key == which), there[0] if there else None)
        return None if given is None else asked_plot(given, result, share, show)


def _moving(result: Evaluation) -> list[Driven]:
    """The driven axes that the shot moves."""
    return [one for one in result.driven if isinstance(one, Driven) and one.load.moves]


def asked_plot(given: Driven, result: Evaluation, share: float, show: Display) -> Reading:
    """What is asked of a source over the move, under what it gives, and the least there is to spare."""
    asked, gives = result.curves[f"{given.key}.asked"], result.curves[f"{given.key}.given"]
    spare, at = result.figures[f"{given.key}.spare"].value, result.figures[f"{given.key}.least_at"].value
    enough = spare >= given.source.spare
    who = "a hand" if given.drive.source == HAND else "the crank" if given.source.motor is None else "the motor"
    time = share * float(asked.x[-1])
    return Reading(
        f"Asked of {who} over the move, {show.symbol(given.unit)}",
        "s",
        given.unit,
        (Line(gives.x, gives.y, gives.label, "ink", dash=True), Line(asked.x, asked.y, asked.label)),
        axis="seconds",
        aside=f"×{spare:.3g} to spare, the least, at {show.text(at, 's')}" if spare < 1e6 else "nothing is asked",
        aside_role="clear" if enough else "watch" if spare >= 1 else "stop",
        marker=(time, float(np.interp(time, asked.x, asked.y))),
        zero=True,
    )


def lapse_plot(key: str, result: Evaluation, show: Display) -> Reading:
    """A few frames of a time-lapse about the fastest of it: standing for each, and moving on."""
    stands, goes = result.curves[key], result.curves[f"{key}.gliding"]
    opened = [curve for name, curve in result.curves.items() if name.startswith(f"{key}.open.")]
    return Reading(
        f"Some frames at the fastest of the move, {show.symbol(stands.y_unit)}",
        "s",
        stands.y_unit,
        (
            Line(goes.x, goes.y, goes.label, "muted", dash=True),
            Line(stands.x, stands.y, stands.label),
            *(Line(c.x, c.y, c.label, "clear") for c in opened),
        ),
        axis="seconds",
        zero=True,
    )


def steps_plot(key: str, result: Evaluation, share: float) -> Reading:
    """How fast steps come over the move, and the rates that swing the rig with them."""
    rates = result.curves[key]
    avoided = [curve for name, curve in result.curves.items() if name.startswith(f"{key}.")]
    time = share * float(rates.x[-1])
    return Reading(
        "Steps of the motor over the move, Hz",
        "s",
        "Hz",
        (*(Line(c.x, c.y, c.label, "watch", dash=True) for c in avoided), Line(rates.x, rates.y, rates.label)),
        axis="seconds",
        marker=(time, float(np.interp(time, rates.x, rates.y))),
        zero=True,
    )
