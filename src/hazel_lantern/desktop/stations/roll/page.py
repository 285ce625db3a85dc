"""Roll: the whole move through the lens, what is accepted before, a hand that follows it or a controller that runs it,
and takes.
"""

from __future__ import annotations

import math

from msgspec.structs import replace
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.answers import LENS, Evaluation, Outline
from hazel_lantern.core.nouns.sketch import Note, Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.timing import focus_of
from hazel_lantern.desktop.stations.page import Desk, StationPage
from hazel_lantern.desktop.stations.roll.bench import RollBench
from hazel_lantern.desktop.stations.roll.card import Card
from hazel_lantern.desktop.stations.roll.coach import Coach
from hazel_lantern.desktop.stations.roll.stop_key import StopKey
from hazel_lantern.session.rolling import Rolling

LEAST = 170  # px of height under which captions would hide the picture


class Page(StationPage):
    """The lens view first; the pace coach under it."""

    on_set = True
    coach: Coach | None = None
    card: Card | None = None
    bench: RollBench | None = None

    def __init__(self, key: str, desk: Desk) -> None:
        super().__init__(key, desk)
        self.rolling = Rolling(desk.session)
        self.rolling.failed.connect(desk.tell)
        self._stop_key = StopKey(self.rolling, desk.theme)
        desk.keep_in_sight(self._stop_key.button)

    def opens_with(self, view: str, views: tuple[tuple[str, str], ...]) -> str:
        return LENS

    def below(self) -> QWidget:
        self.coach = Coach(self.rolling, self.desk.theme)
        self.coach.said.connect(self.desk.tell)
        return self.coach

    def extras(self) -> RollBench:
        self.bench = RollBench(self.rolling, self.desk.theme)
        self.bench.said.connect(self.desk.tell)
        self.bench.card_wanted.connect(self.show_card)
        return self.bench

    def show_card(self) -> None:
        """The set-up card in large letters over the stage."""
        if self.card is None:
            self.card = Card(self.desk.session, self.desk.theme, self.desk.stage.parentWidget() or self.desk.stage)
        self.card.open()

    def dressed(self, sketch: Sketch, outline: Outline, share: float, view: str) -> Sketch:
        """Through the lens: the shot's clock, the height of the lens, where it is focused, speed against judder."""
        stage = self.desk.stage
        if view != LENS or outline.model is None or stage.height() < self.desk.theme.px(LEAST):
            return sketch
        show = self.desk.session.display
        now = outline.moments.at(outline.scene, share)
        (x0, _, x1, y1), wide = sketch.box, sketch.box[2] - sketch.box[0]
        seconds = float(now.times[0])
        frames = round(seconds * outline.shot.capture_fps) % max(1, round(outline.shot.capture_fps))
        clock = f"{int(seconds // 60):02d}:{int(seconds % 60):02d}:{frames:02d}"
        focus = float(focus_of(outline.shot, now)[0])
        told = f"focus {show.text(focus, 'm')}" if math.isfinite(focus) else "nothing to focus on"
        high = show.text(float(outline.lens_at(share)[2]), "m")
        shot = outline.shot
        lines = (
            (x0 + 0.14 * wide, f"{clock} · {shot.capture_fps:g} fps, shown at {shot.shown_fps:g}"),
            (x1 - 0.21 * wide, f"{show.text(shot.focal_m, 'm:lens')}, lens {high} up · {told}"),
        )
        notes = tuple(
            Note((x, y1 - 0.035 * wide), Words(words.replace("{", "(").replace("}", ")")), "ink") for x, words in lines
        )
        return replace(sketch, items=(*sketch.items, *notes))

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> None:
        return None

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        if self.coach is not None:
            self.coach.refresh()

    def finish(self) -> None:
        if self.coach is not None:
            self.coach.finish()
        self._stop_key.finish()
        self.rolling.finish()
