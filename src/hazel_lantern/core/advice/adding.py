"""A new rig of usual sizes that makes a shot: one the project has, or one that such rigs are made for."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import FilmSet, Key, Project, Shot, Thing, replaced
from hazel_lantern.core.document.shot import ARC, CIRCLE
from hazel_lantern.core.editing.changes import add_rig, set_values
from hazel_lantern.core.editing.lists import free_id
from hazel_lantern.core.evaluate import evaluate, outline, perform
from hazel_lantern.core.kinds import DECLARED, KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.staging.things import BOX

TRIED = 3  # shots of the project that a new rig is tried on


def added(
    project: Project, catalogue: Catalogue, kind_id: str, variant: str = "", name: str = "", shot_id: str = ""
) -> Project:
    """The document with one more rig, sized and balanced for the first of its shots that it makes without a stop, the
    one named first; else for a new shot of the sort its kind is made for.

    Raises InputError for an unknown kind or construction.
    """
    plain = add_rig(project, kind_id, variant, name)
    order = sorted(project.shots, key=lambda shot: shot.id != shot_id)[:TRIED]
    for shot in order if project.rigs or shot_id else ():
        made = suited(plain, catalogue, shot.id)
        if made is not None and not any(finding.state == STOP for finding in made[1].findings):
            return made[0]
    own = with_first(plain)
    made = suited(own, catalogue, own.shots[-1].id)
    return made[0] if made is not None else own


def suited(project: Project, catalogue: Catalogue, shot_id: str) -> tuple[Project, Evaluation] | None:
    """The document with its last rig serving a shot, its kind's own actions carried out for it, and what it comes to;
    None where it cannot make it.
    """
    rig = replace(project.rigs[-1], shots=(shot_id,))
    project, kind, memo = replace(project, rigs=replaced(project.rigs, rig)), KINDS[rig.kind], Memo()
    try:
        for action in kind.actions:
            drawn = outline(project, catalogue, rig.id, memo=memo)
            if drawn.problem is not None:
                return None
            project = set_values(project, rig.id, perform(project, catalogue, rig.id, action.station, memo=memo))
        return project, evaluate(project, catalogue, rig.id, memo=memo)
    except HazelError:
        return None


def with_first(project: Project) -> Project:
    """The document whose last rig serves a new shot of the sort its kind is made for; a shot that nothing was done to
    yet becomes it.
    """
    rig = project.rigs[-1]
    declared = DECLARED[rig.kind]
    first = declared.first.get(rig.variant) or declared.first.get("")
    if first is None:
        return project
    untouched = len(project.rigs) == 1 and len(project.shots) == 1
    base = project.shots[0] if untouched else Shot(id=free_id("shot", (s.id for s in project.shots)), name="")
    name = dict(NAMES).get(first.move, first.move.capitalize())
    shot = replace(
        base,
        name=base.name or name,
        move=first.move,
        start_at_m=first.start[:2],
        end_at_m=first.end[:2],
        start_height_m=first.start[2],
        end_height_m=first.end[2],
        keys=(Key(time_s=0.0, share=0.0), Key(time_s=first.time, share=1.0)),
    )
    if shot.move == CIRCLE:
        project, shot = _to_go_round(project, shot)
    elif shot.move == ARC:
        shot = _about(project, shot)
    shots = replaced(project.shots, shot) if untouched else (*project.shots, shot)
    return replace(project, shots=shots, rigs=replaced(project.rigs, replace(rig, shots=(shot.id,))))


def _about(project: Project, shot: Shot) -> Shot:
    """An arc whose ends lie about what the shot looks at as they would about the set's middle."""
    thing = next(
        (thing for one in project.sets if one.id == shot.set for thing in one.things if thing.id == shot.target), None
    )
    x, y = thing.at_m[:2] if thing is not None else (0.0, 0.0)
    (ax, ay), (bx, by) = shot.start_at_m, shot.end_at_m
    return replace(shot, start_at_m=(ax + x, ay + y), end_at_m=(bx + x, by + y))


def _to_go_round(project: Project, shot: Shot) -> tuple[Project, Shot]:
    """A circle goes round something small on a set of its own, beside those there are: nobody stands in the middle of
    the rig, and nothing that was put on a set is lost.
    """
    low = max(0.0, shot.start_height_m - 0.6 * SMALL)
    filmed = Thing(id="filmed", kind=BOX, name="What is filmed", at_m=(0.0, 0.0, low), size_m=(SMALL, SMALL, SMALL))
    stage = FilmSet(id=free_id("table-top", (one.id for one in project.sets)), name="Table top", things=(filmed,))
    return replace(project, sets=(*project.sets, stage)), replace(shot, set=stage.id, target=filmed.id)


SMALL = 0.2  # metres, of what stands on a table to be gone round
NAMES = (("rise", "Rise"), ("slide", "Slide past"), ("follow", "Push along"), ("look_down", "Over the table"))
