"""One rig and shot of a document as a case to be worked out: the one door through which values reach its chapters."""

from __future__ import annotations

from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue, Head
from hazel_lantern.core.document.project import FilmSet, Kit, KitItem, Measured, Offcut, Project, Rig, Shot
from hazel_lantern.core.driving import chapters as driving
from hazel_lantern.core.editing.bindings import declared_of
from hazel_lantern.core.editing.built import overlaid, standing
from hazel_lantern.core.kinds import KINDS, Kind
from hazel_lantern.core.kinds.base import Carried, Chapter, Design, OtherKit, Owned
from hazel_lantern.core.kinds.path import Path
from hazel_lantern.core.mechanics.payload import payload
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.nouns.finding import Remedy
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.reading import Failed, Reader
from hazel_lantern.core.staging.chapters import chapters
from hazel_lantern.core.staging.head import Aim, lens_on_mount
from hazel_lantern.core.staging.moves import subject
from hazel_lantern.core.workshop.fouls import LOOKED, Foul, Hulls, fouls, hulls
from hazel_lantern.core.workshop.fouls import told as foul_told
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.plan import Order, order_of
from hazel_lantern.core.workshop.reach import passed
from hazel_lantern.core.workshop.reach import told as bolts_told

READING = "reading."


class Case(Struct):
    """One rig and shot of a document, and the reader that answers for them."""

    rig: Rig
    shot: Shot
    stage: FilmSet
    kind: Kind
    reader: Reader
    catalogue: Catalogue
    told: tuple[str, ...]
    measured: dict[str, Measured]


def case_of(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo, *, suggest: bool, built: bool = False
) -> Case:
    """The names a rig's chapters may read. Raises InputError for broken references, and for a kit without mass.

    The one door for values: `built` puts what was measured in place of what was drawn.
    """
    rig = project.rig(rig_id)
    rows: dict[str, Measured] = {}
    if built and rig.measured:
        drawn = case_of(project, catalogue, rig_id, shot_id, memo, suggest=suggest).reader.get("laid").value
        rows = {} if isinstance(drawn, Failed) else standing(rig, drawn)
        rig = replace(rig, design=overlaid(rig.design, rows))
    kit, shot = project.kit_of(rig), project.shot_of(rig, shot_id)
    stage = project.set_of(shot)
    kind = KINDS[declared_of(rig).id]
    looked_at = subject(stage, shot)
    shelf = memo.source("catalogue", catalogue, catalogue.version)
    given = {
        "design": memo.source(
            "design", Design(rig.variant, rig.design, catalogue), (rig.variant, rig.design, catalogue.version)
        ),
        "own_kit": memo.source("own kit", kit),
        "kit": memo.step(
            "kit", (memo.source("own kit", kit).version, shelf.version), lambda: carried_by(kit, catalogue)
        ),
        "kind": memo.source("kind", kind, kind.id),
        "camera_head": memo.source("camera head", head_of(kit, catalogue)),
        "shelf": memo.source("shelf", catalogue, catalogue.version),
        "owned": memo.step(
            "owned", (memo.source("plates", project.plates).version, shelf.version), lambda: _owned(project, catalogue)
        ),
        "others": memo.source("others", tuple(_other_kit(k, catalogue) for k in project.kits if k.id != kit.id)),
        "move": memo.source("move", Move.of(shot, looked_at)),
        "optics": memo.source("optics", Optics.of(shot)),
        "subject": memo.source("subject", looked_at),
        "suggest": memo.source("suggest", suggest),
        "shot": memo.source("shot", shot),
        "stage": memo.source("stage", stage),
        "aim": memo.source("aim", Aim(shot.aim, shot.axes)),
        "placing": memo.source("placing", (rig.stands_m, rig.heading_rad)),
        "stock": memo.source("stock", project.stock),
        "kerf": memo.source("kerf", project.kerf_m),
        "drives": memo.source("drives", rig.drives),
    }
    own = tuple(chapter for chapter in kind.chapters if not chapter.only or rig.variant in chapter.only)
    common, of_drives = chapters(kind), driving.chapters(kind, rig.drives)
    readings = (Chapter(f"{READING}{name}", work) for name, work in kind.readings.items())
    reader = Reader(
        memo,
        kind.id,
        given,
        (
            kind.model,
            *own,
            *common,
            *of_drives,
            Chapter("laid", _laid),
            Chapter("path", _path_of(kind)),
            Chapter("order", _order),
            Chapter("hulls", _hulls),
            Chapter("fouls", _fouls),
            Chapter("clearing", kind.clearing),
            Chapter("in_the_way", _in_the_way),
            Chapter("first_pose", _first_pose),
            Chapter("bolts_reach", _bolts_reach),
            *readings,
            Chapter("limits", kind.limits),
            *((Chapter("zone", kind.falls),) if kind.falls is not None else ()),
            *((Chapter("low", kind.hangs),) if kind.hangs is not None else ()),
        ),
    )
    reader.alias("model", kind.model.key)
    return Case(
        rig,
        shot,
        stage,
        kind,
        reader,
        catalogue,
        (*(chapter.key for chapter in (*own, *common, *of_drives)), "in_the_way", "bolts_reach"),
        rows,
    )


def _path_of(kind: Kind):  # type: ignore[no-untyped-def]
    def path(model: Any, move: Move, kit: Carried) -> Path:
        return Path(model, move, lens_on_mount(kit.lens_at_m, move.down, kit.rise), kind.follow)

    return path


def _laid(model: Any) -> Laid:
    """All pieces. Raises GeometryError for one of which nothing would be left."""
    laid: Laid = model.laid
    for part in laid.parts:
        if not part.length > 0:
            long = Display().text(part.length, "m")
            raise GeometryError(f"the {part.name.lower()} ({part.mark}) would be {long} long: there is no room for it")
    return laid


def _hulls(laid: Laid) -> Hulls:
    return hulls(laid)


def _fouls(kind: Kind, hulls: Hulls, path: Path) -> tuple[Foul, ...]:
    """Pieces in one another at the poses of a move, and at nothing else."""
    return fouls(hulls, kind.bodies(path.model, path.at(LOOKED)), len(LOOKED))


def _first_pose(path: Path) -> tuple[float, ...]:
    """How the rig stands before it moves."""
    return tuple(path.at(LOOKED[:1])[0].tolist())


def _bolts_reach(kind: Kind, model: Any, laid: Laid, first_pose: tuple[float, ...], shelf: Catalogue) -> Told:
    return bolts_told(passed(laid, kind.bodies(model, np.array([first_pose])), shelf.bolts))


def _in_the_way(fouls: tuple[Foul, ...], clearing: tuple[Remedy, ...]) -> Told:
    return foul_told(fouls, LOOKED, clearing)


def _order(laid: Laid, design: Design, stock: tuple[Offcut, ...], kerf: float) -> Order:
    return order_of(laid.parts, stock, design.catalogue, kerf)


def head_of(kit: Kit, catalogue: Catalogue) -> Head | None:
    """The head of a kit; None where it lists none. Raises InputError for one that is not in the catalogue."""
    found: Head | None = catalogue.row("heads", kit.head, f"kit {kit.id}, head") if kit.head else None
    return found


def carried_by(kit: Kit, catalogue: Catalogue) -> Carried:
    """The camera kit as a load, its head below it. Raises InputError for a head that is not in the catalogue."""
    head = head_of(kit, catalogue)
    up = head.height if head is not None else 0.0
    own = () if head is None else (KitItem(name=head.name, mass_kg=head.mass, at_m=(0.0, 0.0, -up / 2)),)
    items = (*kit.items, *own)
    load = payload(
        np.array([i.mass_kg for i in items]),
        np.array([i.at_m for i in items]) + (0.0, 0.0, up),
        np.array([i.mass_pm_kg for i in items]),
        np.array([i.at_pm_m for i in items]),
    )
    x, y, z = kit.lens_at_m
    turning = 1.0 - head.steadies if head is not None else 1.0
    return Carried(load, (x, y, z + up), kit.socket_depth_m, kit.socket_thread, turning, up)


def _owned(project: Project, catalogue: Catalogue) -> Owned:
    return tuple(
        (weight.id, catalogue.row("plates", weight.plate, f"plates, {weight.id}")) for weight in project.plates
    )


def _other_kit(kit: Kit, catalogue: Catalogue) -> OtherKit:
    load = carried_by(kit, catalogue).payload
    mass, ahead, aside = load.mass, float(load.cg[0]), float(load.cg[1])
    return OtherKit(kit.id, kit.name, mass, ahead, aside, kit.socket_thread)


def check_owned(project: Project, catalogue: Catalogue) -> None:
    """Raises InputError for a weight, or a head of a kit, that the catalogue does not know."""
    _owned(project, catalogue)
    for kit in project.kits:
        head_of(kit, catalogue)
