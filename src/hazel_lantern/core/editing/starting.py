"""What a new project holds."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.document.project import FORMAT, FilmSet, Key, Kit, KitItem, Owned, Project, Shot, Stop, Thing
from hazel_lantern.core.document.shot import MOVES
from hazel_lantern.core.editing.changes import add_rig
from hazel_lantern.core.kinds import DECLARED


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


def begun() -> Project:
    """A new project with a rig of the first kind."""
    return add_rig(blank(), next(iter(DECLARED)), name="First rig")


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
