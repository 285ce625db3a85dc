"""Keys that a move passes without stopping: against integration, and edited one by one."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.document.project import Key, Segment
from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.motion.keyframes import flow
from hazel_lantern.core.motion.profile import timing
from hazel_lantern.core.nouns.errors import InputError
from tests.helpers import SHELF, evaluate, sample

GAPS = st.lists(st.floats(0.2, 5.0), min_size=1, max_size=6)


@given(gaps=GAPS, data=st.data())
def test_a_flowing_move_meets_its_keys_never_overshoots_and_its_speed_is_its_way(gaps, data):
    t = np.concatenate([[0.0], np.cumsum(gaps)])
    s = np.array([data.draw(st.floats(-2.0, 2.0)) for _ in t])
    made = flow(t, s)
    assert made.at(t)[0] == pytest.approx(s, abs=1e-9)
    for k in range(len(t) - 1):
        fine = np.linspace(t[k], t[k + 1], 2001)
        place, speed = made.at(fine)
        assert place.min() >= min(s[k], s[k + 1]) - 1e-9
        assert place.max() <= max(s[k], s[k + 1]) + 1e-9
        summed = np.concatenate([[0.0], np.cumsum((speed[1:] + speed[:-1]) / 2 * np.diff(fine))])
        assert place - place[0] == pytest.approx(summed, abs=2e-5 * (1 + abs(s).max()))
        steps = np.abs(np.diff(speed) / np.diff(fine)).max()
        assert steps <= made.peak_acceleration * 1.001 + 1e-9
    # It turns and rests where its way turns.
    back = [k for k in range(1, len(t) - 1) if (s[k] - s[k - 1]) * (s[k + 1] - s[k]) <= 0]
    assert np.all(made.v[back] == 0)


def test_a_profile_flows_through_keys_and_stops_where_one_is_held():
    keys = (
        Key(time_s=0, share=0.0),
        Key(time_s=2, share=0.3),
        Key(time_s=5, share=0.6, hold_s=1),
        Key(time_s=9, share=1.0),
    )
    profile = timing(keys, (Segment(shape="flowing"),) * 3)
    share = lambda t: float(profile.share(t / 9))  # noqa: E731
    assert [share(t) for t in (0, 2, 5, 5.9, 9)] == pytest.approx([0, 0.3, 0.6, 0.6, 1.0], abs=1e-9)
    assert float(profile.speed(2 / 9)) > 0.05
    assert float(profile.speed(5.5 / 9)) == 0
    u = np.linspace(0, 1, 9001)
    assert np.abs(profile.speed(u)).max() == pytest.approx(profile.peak_speed, rel=1e-4)
    assert np.abs(np.gradient(profile.share(u), u * 9) - profile.speed(u)).max() < 1e-3


def test_keys_are_added_moved_held_and_taken_away_and_refused_with_the_nearest_that_would_do():
    project = sample()
    rig, shot = project.rigs[0].id, project.shots[0].id
    more = lists.add_key(lists.add_key(project, shot), shot)
    keys = more.shots[0].keys
    assert len(keys) == 4
    assert [key.time_s for key in keys] == sorted(key.time_s for key in keys)
    held = changes.set_values(more, rig, [("key.1.hold", 2.0), ("key.1.share", 0.4)])
    assert held.shots[0].keys[-1].time_s == pytest.approx(keys[-1].time_s + 2)
    with pytest.raises(InputError, match="must lie between"):
        changes.set_values(more, rig, [("key.1.time", keys[2].time_s + 1)])
    assert evaluate(held, SHELF, rig).figures["shot.speed"].value > 0
    assert lists.remove_key(lists.remove_key(more, shot), shot).shots[0].keys == project.shots[0].keys
    with pytest.raises(InputError):
        lists.remove_key(project, shot)
