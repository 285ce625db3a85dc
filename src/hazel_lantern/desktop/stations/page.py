"""What a station puts into the frame of the window. A station's own page says only what is special to it."""

from __future__ import annotations

from collections.abc import Callable
from typing import Protocol

from msgspec import Struct
from PyQt6.QtWidgets import QWidget

from hazel_lantern.core.advice.proposals import Proposal
from hazel_lantern.core.answers import Evaluation, Outline
from hazel_lantern.core.nouns.figure import Field
from hazel_lantern.core.nouns.sketch import Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.stage.stage import Stage
from hazel_lantern.desktop.stations.readings import path_plot
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.plot import Reading
from hazel_lantern.session.session import Session


class Desk(Protocol):
    """What a page may ask of the window it stands in."""

    session: Session
    theme: Theme
    stage: Stage

    @property
    def playhead(self) -> float:
        """Where it stands, as a share of the move's time."""

    def keep_in_sight(self, urgent: QWidget) -> None:
        """Put something where it is seen at every station."""

    def tell(self, words: str) -> None:
        """One clear sentence at the foot of the window."""

    def attempt(self, work: Callable[[], None]) -> bool:
        """Run it; an error the builder can act on is told."""

    def show_station(self, key: str) -> None:
        """Go to a station."""

    def lead_to(self, where: str) -> None:
        """To an input or a figure, by its key."""

    def show_ways(self) -> None:
        """Choices on which good builders differ."""

    def take_proposal(self, proposal: Proposal) -> None:
        """A rig that was proposed becomes one of the project."""

    def export(self, to: str) -> None:
        """Ask where, and write one of the formats."""


class MapReading(Struct, frozen=True):
    """A map to read: the field, where the playhead stands on it, what its axes are called."""

    field: Field
    spot: tuple[float, float]
    axes: tuple[str, str]


class Extras(QWidget):
    """What a station puts on the bench between its inputs and its figures."""

    def parts(self) -> tuple[tuple[str, QWidget], ...]:
        """What it puts beside inputs, by the group they stand in; without any it stands as a whole below them all."""
        return ()

    def refresh(self) -> None:
        """Everything as the session has it now."""

    def finish(self) -> None:
        """Stop what works in the background."""


class StationPage:
    """One station in the window: the drawing with a reading under it, unless it says otherwise."""

    on_set = False  # whether its drawings show the set the rig stands on

    def __init__(self, key: str, desk: Desk) -> None:
        self.key, self.desk = key, desk

    def whole(self, view: str) -> bool:
        """Whether a view is drawn from all that was worked out, even while something is dragged."""
        return False

    def opens_with(self, view: str, views: tuple[tuple[str, str], ...]) -> str:
        """The view that is shown on coming here from another."""
        return view

    def above(self) -> QWidget | None:
        """Something over the drawing; asked for once."""
        return None

    def below(self) -> QWidget | None:
        """Something between the drawing and the strip; asked for once."""
        return None

    def centre(self) -> QWidget | None:
        """Something in place of the drawing, in the whole centre; asked for once."""
        return None

    def extras(self) -> Extras | None:
        """The station's own part of the bench, made anew whenever the bench is."""
        return None

    def chips(self, result: Evaluation) -> tuple[tuple[str, str], ...]:
        """Keys and names of the readings to choose from; none where there is but one."""
        return ()

    def reading(self, which: str, result: Evaluation, share: float, show: Display) -> Reading | MapReading | None:
        """What is read under the drawing at the playhead, of a rig that can be built."""
        return path_plot(self.key, result, share, show)

    def dressed(self, sketch: Sketch, outline: Outline, share: float, view: str) -> Sketch:
        """The drawing with what the station adds to it."""
        return sketch

    def turned(self, *, on: bool, view: str) -> None:
        """Its drawing is shown, in one of its views, or no longer."""

    def drawn(self, outline: Outline, share: float, show: Display) -> None:
        """The drawing was drawn: what must keep step with the hand."""

    def refreshed(self, result: Evaluation, share: float, show: Display) -> None:
        """All else was refreshed; the rig can be built."""

    def settled(self) -> None:
        """Nothing has changed for a while."""

    def act(self) -> bool:
        """The station's own main action; False where the rig's kind has the say."""
        return False

    def finish(self) -> None:
        """Stop what works in the background."""
