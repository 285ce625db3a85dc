"""Whatever shot a builder draws, the rig that its main action sizes makes just that shot, or says why none does."""

from __future__ import annotations

import random

import numpy as np
import pytest
from bench.designs import constructions
from msgspec.structs import replace

from hazel_lantern.core.advice.adding import with_first
from hazel_lantern.core.document.project import replaced
from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import begun
from hazel_lantern.core.evaluate import evaluate, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.errors import InfeasibleError
from tests.helpers import SHELF, finding, value

ALIKE = 2e-3  # metres; sizes are rounded to whole millimetres and hundredths
BENT = ("jib", "cable_cam")  # whose way is no straight line: they meet the ends, or hang below


def drawn(kind, variant, seed):
    """A rig for a shot of its sort, as much higher, longer or shorter as chance has it."""
    chance = random.Random(f"{kind} {variant} {seed}")
    project = with_first(changes.add_rig(begun(), kind, variant))
    shot = project.shot_of(project.rigs[0], "")
    first, last = np.array(shot.start_at_m), np.array(shot.end_at_m)
    middle, times, up = (first + last) / 2, chance.uniform(0.7, 1.3), chance.uniform(-0.15, 0.25)
    wanted = replace(
        shot,
        start_at_m=tuple((middle + (first - middle) * times).tolist()),
        end_at_m=tuple((middle + (last - middle) * times).tolist()),
        start_height_m=shot.start_height_m + up,
        end_height_m=shot.end_height_m + up + (chance.uniform(-0.2, 0.3) if kind == "jib" else 0.0),
    )
    return replace(project, shots=replaced(project.shots, wanted)), project.rigs[0].id


def sized(project, rig):
    for action in KINDS[project.rigs[0].kind].actions:
        if (project.rigs[0].variant, action.station) != ("frame", "balance"):
            project = changes.set_values(project, rig, perform(project, SHELF, rig, action.station))
    return project


@pytest.mark.parametrize(("kind", "variant"), constructions())
@pytest.mark.parametrize("seed", [1, 2])
def test_a_sized_rig_makes_the_shot_that_was_drawn(kind, variant, seed):
    project, rig = drawn(kind, variant, seed)
    project = sized(project, rig)
    result = evaluate(project, SHELF, rig)
    shot = project.shot_of(project.rigs[0], "")
    lens = result.staged.camera.places
    assert "shot.travel" not in {one.key for one in result.findings if one.state == "stop"}
    if kind == "jib":
        assert lens[0, 2] == pytest.approx(shot.start_height_m, abs=ALIKE)
        assert lens[-1, 2] == pytest.approx(shot.end_height_m, abs=ALIKE)
    elif kind == "cable_cam":
        # It hangs deepest between the ends of its run; there it is as high as was wished, within its sag.
        assert abs(lens[:, 2] - shot.start_height_m).max() <= project.rigs[0].design["rope.sag"] + ALIKE
    else:
        assert value(result, "shot.stray") <= ALIKE
        assert np.ptp(lens[:, 2]) <= ALIKE
    if kind not in BENT and variant not in ("arc", "shaft", "ring", "desk"):
        went = np.linalg.norm(lens[-1] - lens[0])
        assert went == pytest.approx(np.linalg.norm(np.subtract(shot.end_at_m, shot.start_at_m)), abs=ALIKE)


@pytest.mark.parametrize("kind", ["slider", "jib", "gantry", "orbit"])
def test_sizing_twice_changes_nothing_more(kind):
    project, rig = drawn(kind, KINDS[kind].variants[0][0], 3)
    once = sized(project, rig)
    twice = sized(once, rig).rigs[0].design
    off = {key: (one, twice[key]) for key, one in once.rigs[0].design.items() if one != twice[key]}
    assert all(abs(a - b) <= 0.02 for a, b in off.values() if isinstance(a, float)), off


def test_a_move_beyond_any_rig_is_refused_with_its_measure():
    for kind, variant, far in (("slider", "rods", 30.0), ("gantry", "bar", 30.0), ("overhead", "twin", 30.0)):
        project, rig = drawn(kind, variant, 1)
        shot = replace(project.shot_of(project.rigs[0], ""), end_at_m=(far, 0.0))
        project = replace(project, shots=replaced(project.shots, shot))
        with pytest.raises(InfeasibleError, match=r"needs|longest"):
            perform(project, SHELF, rig, "rig")
        assert finding(evaluate(project, SHELF, rig), "shot.travel").state == "stop"


def test_what_looks_at_something_lies_about_it():
    """An arc from an empty window goes round what stands on the set, a circle round something of its own."""
    arc, _ = drawn("dolly", "arc", 4)
    shot, thing = arc.shot_of(arc.rigs[0], ""), arc.sets[0].things[0]
    ends = [np.linalg.norm(np.subtract(end, thing.at_m[:2])) for end in (shot.start_at_m, shot.end_at_m)]
    assert ends[0] == pytest.approx(ends[1])
    circle, _ = drawn("orbit", "shaft", 4)
    assert len(circle.sets) == 2 and circle.shots[0].set == circle.sets[1].id
