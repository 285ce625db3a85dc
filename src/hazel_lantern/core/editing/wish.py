"""A project without a rig: one that stands in for it, put in to be shown and worked on, taken out to be kept."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.document.project import Project, Rig
from hazel_lantern.core.kinds import WISH


def wish(project: Project, now: Rig | None = None) -> Rig:
    """What stands in for a rig: as it was, where its kit and shots still are there, else with the first of each."""
    shots = tuple(key for key in (now.shots if now else ()) if any(shot.id == key for shot in project.shots))
    kit = now.kit if now and any(kit.id == now.kit for kit in project.kits) else project.kits[0].id
    return Rig(
        id=WISH.id,
        name=WISH.name,
        kind=WISH.id,
        variant=WISH.variants[0][0],
        kit=kit,
        shots=shots or (project.shots[0].id,),
        design={},
        worked=("shot",),
    )


def with_wish(project: Project, now: Rig | None = None) -> Project:
    """The document with what stands in for a rig, where it has none."""
    return project if project.rigs else replace(project, rigs=(wish(project, now),))


def without_wish(project: Project) -> tuple[Project, Rig | None]:
    """The document without what stood in for a rig, and that."""
    stood = next((rig for rig in project.rigs if rig.kind == WISH.id), None)
    return (
        (project, None)
        if stood is None
        else (replace(project, rigs=tuple(r for r in project.rigs if r is not stood)), stood)
    )
