"""What a rig comes to for one shot, and what is drawn of it."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.case import READING
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import FilmSet, Measured, Rig, Shot
from hazel_lantern.core.driving.drawing import CHAIN, chain_drawing, chain_views
from hazel_lantern.core.driving.driven import Broken, Driven
from hazel_lantern.core.driving.gearbox import Box
from hazel_lantern.core.driving.teeth import MESH, mesh_drawing, mesh_views
from hazel_lantern.core.kinds import Kind
from hazel_lantern.core.kinds.base import Carried, OtherKit, reads
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Curve, Figure
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, Finding, worst
from hazel_lantern.core.nouns.sketch import Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.reading import Error, Failed, Reader
from hazel_lantern.core.staging.kit import kit_view
from hazel_lantern.core.staging.moves import Scene, Staged
from hazel_lantern.core.staging.picture import picture
from hazel_lantern.core.staging.plan import behind, plan
from hazel_lantern.core.staging.walking import stage_at
from hazel_lantern.core.stations import DRIVE, ROLL, SHOT
from hazel_lantern.core.workshop.cost import Line
from hazel_lantern.core.workshop.fouls import Foul, marked
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.plan import Order, SectionPlan

SET, SIDE, LENS, KIT = "set", "set-side", "lens", "kit"
SET_VIEWS = ((SET, "Above"), (SIDE, "Side"), (LENS, "Lens"), (KIT, "Kit"))


class Moments:
    """The rig staged at single moments: a bounded step of the memo, so that plan and picture of one moment stage it
    once.
    """

    def __init__(self, reader: Reader) -> None:
        self._reader = reader

    def at(self, scene: Scene, share: float) -> Staged:
        """The moment at a share of the move. Raises InputError when there is no picture of it."""
        staged: Staged = self._reader.kept(
            "moment", (self._reader.get("scene").version, share), lambda: scene.now(share)
        )
        return staged


class Outline(Struct, frozen=True):
    """A rig on its set, before anything is worked out of it: what a drag draws. `known` holds by name what its
    drawings read, the model only where it can be built.
    """

    rig: Rig
    shot: Shot
    stage: FilmSet
    kind: Kind
    catalogue: Catalogue
    carried: Carried
    others: tuple[OtherKit, ...]
    known: Mapping[str, Any]
    moments: Moments
    problem: Error | None

    @property
    def model(self) -> Any:
        """The rig as a mechanism; None when it cannot be built."""
        return self.known.get("model")

    @property
    def path(self) -> Path:
        found: Path = self.known["path"]
        return found

    @property
    def scene(self) -> Scene:
        """The rig on its set; raises InputError when there is no picture of it."""
        found = self.known["scene"]
        if isinstance(found, str):
            raise InputError("shot.target", self.shot.target, found)
        assert isinstance(found, Scene)
        return found

    @property
    def staged(self) -> Staged:
        """The usual moments of the move; raises InputError when there is no picture of it."""
        found = self.known["staged"]
        if isinstance(found, str):
            raise InputError("shot.target", self.shot.target, found)
        assert isinstance(found, Staged)
        return found

    def poses(self, u: np.ndarray) -> np.ndarray:
        """Poses (n, dof) at shares u of the move."""
        return self.path.at(u)

    def lens_at(self, share: float) -> np.ndarray:
        """Place (3,) of the lens in the rig frame at a share of the move [m]."""
        path = self.path
        return np.asarray(self.kind.mount(path.model, path.at(np.array([share]))).place(path.lens)[0])

    def views(self, station: str) -> tuple[tuple[str, str], ...]:
        """Keys and names of the drawings at a station; the Shot station shows the set."""
        if station == ROLL:
            return ((LENS, "Lens"), (SET, "On the set"), *((view.key, view.name) for view in self.kind.views))
        return SET_VIEWS if station == SHOT else tuple((view.key, view.name) for view in self.kind.views)

    def draw(self, share: float, view: str, picked: str = "") -> Sketch:
        """A drawing at a share of the move; the plan with the sizes of the thing that is picked. Raises InputError when
        the picture cannot be made, as with a camera inside its subject.
        """
        return self._draw(share, view, {}, picked)

    def still(self, pose: tuple[float, ...]) -> tuple[Sketch, np.ndarray]:
        """The first drawing of the rig alone at a pose, half-way of the move for (),
        and the place (3,) of its lens [m]."""
        q = np.asarray(pose, float) if pose else self.poses(np.array([0.5]))[0]
        path = self.path
        lens = np.asarray(self.kind.mount(path.model, q[None]).place(path.lens)[0])
        return self._sketch(q, self.kind.views[0].key, {}), lens

    def _draw(self, share: float, view: str, figures: Mapping[str, Figure], picked: str) -> Sketch:
        shot, stage, kind = self.shot, self.stage, self.kind
        if view == KIT:
            return kit_view(self.known["own_kit"], self.carried)
        if view == LENS:
            now = self.moments.at(self.scene, share)
            return picture(
                shot, stage_at(stage, float(now.times[0])), kind.members(self.model, now.poses.q), self.staged, now
            )
        if view == SET:
            now = self.moments.at(self.scene, share)
            above = self._sketch(now.poses.q[0], "above", figures)
            return plan(shot, stage, above, self.staged, now, self.known.get("zone"), picked)
        drawn = self._sketch(self.poses(np.array([share]))[0], kind.views[0].key if view == SIDE else view, figures)
        time = float(self.path.move.clock(np.array([share]))[0])
        return behind(shot, stage_at(stage, time), self.scene.where, drawn) if view == SIDE else drawn

    def _sketch(self, pose: np.ndarray, view: str, figures: Mapping[str, Figure]) -> Sketch:
        known = {**self.known, "pose": pose, "view": view, "figures": figures}
        return self.kind.sketch(**{name: known[name] for name in reads(self.kind.sketch)})


class Readings(Mapping[str, Any]):
    """What stations show beyond figures, by name: worked out when it is asked for, and kept where everything else is
    kept.
    """

    def __init__(self, reader: Reader, names: tuple[str, ...]) -> None:
        self._reader, self._names = reader, names

    def _told(self, name: object) -> Any:
        """What it comes to; None where nothing can be said of this rig."""
        value = self._reader.get(f"{READING}{name}").value if name in self._names else None
        return None if isinstance(value, Failed) else value

    def __getitem__(self, name: str) -> Any:
        value = self._told(name)
        if value is None:
            raise KeyError(name)
        return value

    def __contains__(self, name: object) -> bool:
        return self._told(name) is not None

    def offers(self, name: str) -> bool:
        """Whether the kind tells it, without working out whether it can of this rig."""
        return name in self._names

    def __iter__(self) -> Iterator[str]:
        return (name for name in self._names if name in self)

    def __len__(self) -> int:
        return sum(name in self for name in self._names)


class Evaluation(Outline, frozen=True):
    """What a rig comes to for one shot. When it cannot be built a stop says why,
    and figures that still exist remain."""

    figures: dict[str, Figure]
    curves: dict[str, Curve]
    findings: tuple[Finding, ...]
    laid: Laid
    order: Order
    cuts: tuple[SectionPlan, ...]
    lines: tuple[Line, ...]
    readings: Readings
    driven: tuple[Driven | Broken, ...]
    box: Box
    headlines: dict[str, Words]
    measured: Mapping[str, Measured]
    fouls: tuple[Foul, ...] = ()

    @property
    def basis(self) -> str:
        """Whether measured values stand in place of drawn ones."""
        return "built" if self.measured else "drawn"

    @property
    def parts(self) -> tuple[Part, ...]:
        """What is made for it, and for what drives it."""
        return self.laid.parts + self.box.parts

    def draw(self, share: float, view: str, picked: str = "") -> Sketch:
        if view.startswith(CHAIN):
            draws = mesh_drawing if view.startswith(MESH) else chain_drawing
            drawn = draws(self.driven, view, share)
            if drawn is not None:
                return drawn
            view = self.kind.views[0].key  # its last wheel was just taken out
        drawn = self._draw(share, view, self.figures, picked)
        marks = marked(self.fouls, self.kind.views[0].key if view == SIDE else view, share)
        return replace(drawn, items=(*drawn.items, *marks)) if marks else drawn

    def views(self, station: str) -> tuple[tuple[str, str], ...]:
        """Of the Drive station first every chain, and last every pair of gears."""
        if station != DRIVE:
            return super().views(station)
        return (*chain_views(self.driven), *super().views(station), *mesh_views(self.driven))

    def headline(self, station: str, show: Display) -> str:
        words = self.headlines.get(station)
        return words.text(show) if words else ""

    def state(self, station: str) -> str | None:
        if station == ROLL:  # whatever stops it anywhere holds it there
            held = any(f.state == STOP and f.about in (PEOPLE, STRUCTURE) for f in self.findings)
            return STOP if held else CLEAR if self.rig.accepted else None
        return worst([f.state for f in self.findings if f.station == station])

    def at(self, station: str) -> tuple[Finding, ...]:
        return tuple(f for f in self.findings if f.station == station)


# What is given
