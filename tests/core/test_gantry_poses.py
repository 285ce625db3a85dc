"""The gantry's frame at many poses in one go, held against one frame with one load case for every pose."""

from __future__ import annotations

import numpy as np
import pytest
from bench.designs import design
from msgspec.structs import replace

from hazel_lantern.core.evaluate import case_of
from hazel_lantern.core.kinds.gantry.strength.bending import (
    _frame,
    bent,
    bent_at_worst,
    bent_both,
    bent_without,
    worst_poses,
)
from hazel_lantern.core.mechanics.frame_loads import inside, loads, solve
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.units import GRAVITY
from tests.helpers import SHELF, sample

FIELDS = ("drop", "turn_x", "turn_y", "bending", "torsion", "runway", "reactions", "ends", "twists")


def rigs():
    """The sample's gantries and some near what is usual, as mechanisms with what was decided."""
    found = [(sample(), "kitchen-gantry"), (sample(), "kitchen-beams")]
    for variant in ("bar", "boards"):
        for seed in (3, 5, 9):
            project = design(SHELF, "gantry", variant, seed)
            found.append((project, project.rigs[0].id))
    for project, rig in found:
        known = case_of(project, SHELF, rig, "", Memo(), suggest=False).reader
        try:
            yield known.value("design"), known.value("gantry")
        except HazelError:  # one that cannot be built has no frame
            continue


def one_by_one(decided, rig, pose):
    """Bending and torsion of the bridge, reactions of the posts, and where the trolley sinks to, of a single pose."""
    x, across, angle, out = pose
    made = _frame(decided, rig, x, rig.runway.section())
    line = rig.boom_line * GRAVITY
    weight = (rig.tip + rig.trolley + rig.counter) * GRAVITY + line * (out + rig.tail_end)
    lever = (rig.tip * out - rig.counter * rig.tail) * GRAVITY + line * (out**2 - rig.tail_end**2) / 2
    twist = (-lever * np.sin(angle), lever * np.cos(angle), 0.0)
    ends = [(0, made.node(f"{s} {x:.6f}"), (0, 0, -rig.bridge_ends * GRAVITY, 0, 0, 0)) for s in ("right", "left")]
    spread = [(0, n, (0.0, 0.0, -e.mass * GRAVITY)) for n, e in enumerate(made.elements)]
    answer = solve(made, loads(1, [(0, 0, across, (0.0, 0.0, -weight), twist)], spread, ends))
    spots = np.array([across, across + min(1e-9, rig.span - across), rig.span / 2])
    moved, inner = inside(answer, np.zeros(3, int), np.zeros(3, int), spots)
    posts = [6 * made.node(f"{s} {p:.6f}") + 2 for s in ("right", "left") for p in rig.posts]
    total = (
        weight
        + 2 * rig.bridge_ends * GRAVITY
        + sum(e.mass * GRAVITY * float(length) for e, length in zip(made.elements, made.lengths, strict=True))
    )
    return np.abs(inner[:, 4]).max(), np.abs(inner[:2, 3]).max(), answer.reactions[posts, 0], moved[0], total


@pytest.mark.parametrize(("decided", "rig"), list(rigs()))
def test_every_pose_is_what_its_own_frame_says_and_the_posts_carry_all_of_it(decided, rig):
    rng = np.random.default_rng(11)
    half = rig.wheelbase / 2
    n = 12
    poses = np.column_stack(
        [
            np.repeat(rng.uniform(half, rig.length - half, 4), 3),
            [rig.across(float(s)) for s in rng.uniform(0, 1, n)],
            rng.uniform(0, 2 * np.pi, n),
            rng.uniform(0.5, 1.0, n) * rig.longest,
        ]
    )
    every = bent(decided, rig, poses)
    for k, pose in enumerate(poses):
        bending, torsion, posts, moved, total = one_by_one(decided, rig, pose)
        assert every.bending[k] == pytest.approx(bending, rel=1e-8)
        assert every.torsion[k] == pytest.approx(torsion, rel=1e-8, abs=1e-9)
        assert every.reactions[k] == pytest.approx(posts, rel=1e-8, abs=1e-6)
        assert every.reactions[k].sum() == pytest.approx(total, rel=1e-9)
        # The boom bends by itself below the trolley: what hangs on it sinks by more.
        assert every.drop[k] > -moved[2] - abs(moved[3] * pose[3]) - abs(moved[4] * pose[3])


@pytest.mark.parametrize(("decided", "rig"), list(rigs())[:3])
def test_with_and_without_the_camera_are_those_of_either_and_poses_do_not_meet(decided, rig):
    both = bent_both(decided, rig)
    on, off = bent_at_worst(both), bent_without(both)
    bare = replace(rig, tip=rig.tip - rig.payload)
    rng = np.random.default_rng(2)
    poses = worst_poses(rig)
    some = np.sort(rng.choice(len(poses), 9, replace=False))
    for found, of in ((on, rig), (off, bare)):
        alone = bent(decided, of, poses[some])
        for name in FIELDS:
            assert getattr(alone, name) == pytest.approx(getattr(found, name)[some], rel=1e-8, abs=1e-9), name
    # Whatever order the poses are asked in.
    shuffled = rng.permutation(some)
    again, plain = bent(decided, rig, poses[shuffled]), bent(decided, rig, poses[some])
    order = np.argsort(shuffled)
    assert again.bending[order] == pytest.approx(plain.bending, rel=1e-10)
    # Lighter, it sinks less and leans less on every post that it leans on.
    assert float(off.drop.max()) < float(on.drop.max())


@pytest.mark.parametrize(("decided", "rig"), list(rigs()))
def test_what_is_told_as_worst_is_the_worst_of_a_fine_sweep(decided, rig):
    """Every answer that a finding stands on, against three times as many places of the bridge
    and angles of the boom."""
    both = bent_both(decided, rig)
    half = rig.wheelbase / 2
    ways = (
        np.linspace(half, rig.length - half, 25),
        np.linspace(rig.edge, rig.span - rig.edge, 7),
        np.radians(np.arange(0, 360, 5.0)),
        [rig.longest],
    )
    poses = np.stack(np.meshgrid(*ways, indexing="ij"), axis=-1).reshape(-1, 4)
    fine = [bent(decided, rig, poses, np.full(len(poses), tip)) for tip in (rig.tip, rig.tip - rig.payload)]
    for name in ("drop", "bending", "torsion", "runway", "reactions", "ends", "twists"):
        most = max(float(getattr(one, name).max()) for one in fine)
        assert float(getattr(both, name).max()) >= 0.985 * most, name

    def least(one):
        return float((one.ends / 2 - one.twists / rig.wheelbase).min())

    load = float(both.ends.max()) / 2
    assert least(both) <= min(map(least, fine)) + 0.02 * load
    assert float(both.reactions.min()) <= min(float(one.reactions.min()) for one in fine) + 0.02 * load
