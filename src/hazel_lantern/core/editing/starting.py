"""What a new project holds."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import (
    FORMAT,
    FilmSet,
    Key,
    Kit,
    KitItem,
    Owned,
    Project,
    Shot,
    Stop,
    Thing,
    find,
    replaced,
)
from hazel_lantern.core.document.shot import ARC, CIRCLE, MOVES
from hazel_lantern.core.editing.bindings import MASS
from hazel_lantern.core.editing.changes import set_units
from hazel_lantern.core.editing.lists import add_thing
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.staging.things import SORTS


def blank(name: str = "Untitled") -> Project:
    """A project with one plain kit, one shot and a few plates."""
    kit = Kit(
        id="kit",
        name="Camera with a small lens",
        items=(
            KitItem(name="Camera body", mass_kg=0.75, at_m=(0.0, 0.0, 0.045)),
            KitItem(name="Lens", mass_kg=0.4, at_m=(0.075, 0.0, 0.045)),
            KitItem(name="Battery and monitor", mass_kg=0.45, at_m=(-0.04, 0.0, 0.12)),
        ),
    )
    owned = ("plate-5", "plate-2.5", "plate-2.5", "plate-1.25", "plate-1.25", "plate-0.5", "plate-0.5", "plate-0.25")
    plates = tuple(Owned(id=f"w{i + 1}", plate=plate) for i, plate in enumerate(owned))
    return Project(format=FORMAT, name=name, kits=(kit,), shots=(Shot(id="shot", name="First shot"),), plates=plates)


def begun(name: str = "Untitled") -> Project:
    """A new project with one person standing on a set, and a shot of them; no rig until one is taken."""
    person = Thing(id="subject", kind="person", name="Subject", at_m=(0.0, 3.5, 0.0), size_m=(0.45, 0.3, 1.72))
    project = blank(name)
    shot = replace(project.shots[0], set="set", target="subject")
    return replace(project, sets=(FilmSet(id="set", name="Set", things=(person,)),), shots=(shot,))


def furnish(
    project: Project, catalogue: Catalogue, units: str = "", owned: Sequence[str] = (), kit: Sequence[str] = ()
) -> Project:
    """The document in other units, with other weights owned (rows of the catalogue), with another kit: items as
    NAME=KILOGRAMS. Raises InputError for what there is not.
    """
    if units:
        project = set_units(project, units)
    if owned:
        for row in owned:
            catalogue.row("plates", row, "own")
        plates = tuple(Owned(id=f"w{n}", plate=row) for n, row in enumerate(owned, 1))
        project = replace(project, plates=plates)
    if kit:
        items = tuple(_item(text) for text in kit)
        project = replace(project, kits=(replace(project.kits[0], name="Camera kit", items=items), *project.kits[1:]))
    return project


def _item(text: str) -> KitItem:
    name, mark, mass = text.rpartition("=")
    if not mark or not name.strip():
        raise InputError("kit", repr(text), "must be NAME=MASS, such as body=0.75 kg")
    return KitItem(name=name.strip(), mass_kg=MASS.read(mass), at_m=(0.0, 0.0, 0.05))


def looking_at(project: Project, kind: str) -> Project:
    """The document whose first shot looks at something on its set: 3.5 m into it, or in the middle of what goes round.
    Raises InputError for no sort of thing.
    """
    if kind not in SORTS:
        raise InputError("subject", repr(kind), "must be one of " + ", ".join(SORTS))
    shot = project.shots[0]
    project, key = add_thing(project, shot.id, kind)
    shot = find(project.shots, shot.id, "shot")
    stage = project.set_of(shot)
    into = 0.0 if shot.move in (ARC, CIRCLE) else 3.5
    thing = replace(find(stage.things, key, "thing"), at_m=(0.0, into, 0.0))
    project = replace(project, sets=replaced(project.sets, replace(stage, things=replaced(stage.things, thing))))
    return replace(project, shots=replaced(project.shots, replace(shot, target=key)))


def furnished() -> tuple[Project, ...]:
    """New projects with something of most sorts on a set under a ceiling, one for each move: what shows every figure
    and finding there is.
    """
    walks = Stop(time_s=6.0, at_m=(-0.2, 3.5, 0.0))
    things = (
        Thing(id="THING", kind="table", name="Table", at_m=(0.0, 2.5, 0.0), size_m=(1.8, 0.8, 0.74)),
        Thing(
            id="person", kind="person", name="Person", at_m=(0.5, 3.5, 0.0), size_m=(0.45, 0.3, 1.72), stops=(walks,)
        ),
        Thing(id="box", kind="box", name="Box", at_m=(0.3, 2.5, 0.74), size_m=(0.2, 0.2, 0.2)),
        Thing(id="wall", kind="wall", name="Wall", at_m=(0.0, 6.0, 0.0), size_m=(5.0, 0.1, 2.5)),
    )
    project = blank()
    stage = FilmSet(id="set", name="Set", things=things, ceiling_m=2.6)
    moves = (
        replace(
            project.shots[0],
            move=move,
            set="set",
            target="THING",
            end_at_m=(0.8, 0.0),
            keys=(Key(time_s=0.0, share=0.0), Key(time_s=8.0, share=1.0, hold_s=1.0)),
        )
        for move, _ in MOVES
    )
    return tuple(replace(project, sets=(stage,), shots=(shot,)) for shot in moves)
