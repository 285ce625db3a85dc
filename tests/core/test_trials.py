"""Tests of built rigs with hidden faults: what is read holds the truth as often as it says, and its advice mends."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.mechanics import balance, rotor
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving.trials import BY_KEY, TRIALS, told, trials_of
from tests.helpers import SHELF, finding, sample

MANY = 2000


@pytest.fixture(scope="module")
def results():
    return {rig: evaluate(sample(), SHELF, rig) for rig in ("hive-jib", "jar-slider", "comb-turntable")}


def held(key, result, truth, rows_of):
    """How often the give or take of a test holds the truth, over seeded readings."""
    rng, count = np.random.default_rng(21), 0
    for _ in range(MANY):
        found = BY_KEY[key].outcome(tuple(map(tuple, rows_of(rng))), result)
        count += abs(found.value - truth) <= found.give
    return count / MANY


def test_the_stated_interval_of_every_test_holds_the_hidden_truth(results):
    slider, jib, table = results["jar-slider"], results["hive-jib"], results["comb-turntable"]

    def rolls(rng):
        keeps = 0.025 + rng.normal(0, 0.001, 5)
        return np.column_stack([keeps + 0.01, keeps / np.sqrt(1 + keeps**2), np.ones(5)])

    def bounces(rng):
        return np.column_stack(
            [np.full(5, 20.0), 20 / 4.4 + rng.normal(0, 0.02, 5), np.full(5, 0.012), np.full(5, 0.0012)]
        )

    def swings(rng):
        theta = np.radians([-35, -15, 5, 25, 45])
        pull = GRAVITY / 1.5 * (0.05 * np.cos(theta) - 0.1 * np.sin(theta)) + rng.normal(0, 0.012, 5)
        return np.column_stack([theta, pull + 0.2, pull - 0.2, np.full(5, 1.5)])

    inertia = rotor.turning(table.model.turns_as, 0.0).inertia
    slows = 0.17 / inertia

    def turns(rng):
        angle = 2 * np.pi * np.arange(8)
        times = (3.2 - np.sqrt(3.2**2 - 2 * slows * angle)) / slows
        return np.column_stack([np.arange(8), np.maximum(0.0, times + 0.5 + rng.normal(0, 0.01, 8))])

    assert 0.93 <= held("roll", slider, 0.025, rolls) <= 0.98
    assert 0.93 <= held("bounce", slider, 4.4, bounces) <= 0.98
    # The drift test knows its scale's step too, which the readings here do not have.
    assert 0.93 <= held("drift", jib, GRAVITY * 0.05, swings) <= 0.99
    assert 0.93 <= held("coast", table, 0.17, turns) <= 0.98


def test_a_jib_corrected_as_the_drift_test_advises_is_in_balance(results):
    """Forces of the arm as it is drawn, out of balance by what its weights lack; the advice moves them."""
    result, rng = results["hive-jib"], np.random.default_rng(8)
    theta = np.radians([-35.0, -10.0, 15.0, 40.0])
    for place in (0.55, 0.63, 0.66):
        project = changes.set_values(sample(), "hive-jib", [("weights.place", place)])
        arm = evaluate(project, SHELF, "hive-jib").model.arm_balance
        pull = -balance.front_up_moment(arm, theta) / 1.5 + rng.normal(0, 0.01, 4)
        rows = tuple(zip(theta.tolist(), (pull + 0.2).tolist(), (pull - 0.2).tolist(), [1.5] * 4, strict=True))
        found = BY_KEY["drift"].outcome(rows, evaluate(project, SHELF, "hive-jib"))
        assert found.value == pytest.approx(GRAVITY * arm.along, abs=found.give + 0.05)
        if abs(found.value) > 2 * found.give:
            mended = changes.set_values(project, "hive-jib", found.mend.changes)
            after = evaluate(mended, SHELF, "hive-jib").model.arm_balance
            assert abs(after.along) < 0.25 * abs(arm.along)
    assert result.model.arm_balance.along < 0


def test_what_cannot_be_is_refused_with_the_reason_and_nothing_changes(results):
    jib, slider = results["hive-jib"], results["jar-slider"]
    with pytest.raises(InputError, match="2 more"):
        BY_KEY["drift"].outcome(((0.0, 1.0, 0.5, 1.5),), jib)
    with pytest.raises(InputError, match="first swing must be larger"):
        BY_KEY["bounce"].outcome(((20, 4.0, 0.001, 0.01),) * 3, slider)
    with pytest.raises(InfeasibleError, match="times what was predicted"):
        BY_KEY["bounce"].outcome(((20, 1.0, 0.012, 0.0012), (20, 1.01, 0.012, 0.0012), (20, 1.02, 0.012, 0.0012)), slider)  # fmt: skip
    with pytest.raises(InfeasibleError, match="number 2 is"):
        BY_KEY["drift"].outcome(((-0.5, 1.0, 0.6, 1.5), (0.0, 6.0, 5.6, 1.5), (0.5, 1.0, 0.6, 1.5)), jib)
    with pytest.raises(InputError, match="must lie between"):
        BY_KEY["repeat"].outcome(((9.0,),) * 8, jib)
    project = lists.strike_out(sample(), "hive-jib", 0)
    assert project.rig("hive-jib").proofs[0].struck and len(project.rig("hive-jib").proofs) == len(sample().rig("hive-jib").proofs)  # fmt: skip
    first = next(one for one in told(evaluate(project, SHELF, "hive-jib")) if one.trial.key == "level")
    assert first.rows == 0 and first.outcome is None
    with pytest.raises(InputError, match="there are"):
        lists.strike_out(project, "hive-jib", 99)


def test_binding_is_found_where_it_is_and_a_proof_load_says_whether_it_passed(results):
    slider, jib = results["jar-slider"], results["hive-jib"]
    weight, x = slider.model.way.weight, np.linspace(-0.4, 0.4, 9)
    rub = np.where(np.arange(9) == 6, 0.09, 0.02) + 0.0004 * np.cos(7 * np.arange(9))
    rows = tuple(zip(x.tolist(), (rub * weight).tolist(), (rub * weight).tolist(), strict=True))
    found = BY_KEY["pull"].outcome(rows, slider)
    assert found.state == "watch" and found.words.amounts[0][0] == pytest.approx(x[6])
    asks = 1.5 * jib.carried.payload.mass
    assert BY_KEY["proof"].outcome(((asks, 0.004, 0.0001),), jib).state == "clear"
    assert BY_KEY["proof"].outcome(((asks, 0.004, 0.003),), jib).state == "stop"
    assert BY_KEY["proof"].outcome(((asks / 2, 0.004, 0.0),), jib).state == "stop"
    for stayed, state in ((0.0001, "clear"), (0.003, "stop")):
        project = lists.read_off(sample(), "hive-jib", "proof", "2027-04-08", (asks, 0.004, stayed))
        assert finding(evaluate(project, SHELF, "hive-jib"), "prove.proof").state == state
    assert not any(one.key == "prove.proof" for one in jib.findings)
    level = BY_KEY["level"].outcome(((math.radians(1.0), math.radians(0.2), 1.0),), jib)
    assert level.value == pytest.approx(math.radians(0.4)) and level.state == "watch"
    assert len({trial.key for trial in TRIALS}) == len(TRIALS) and all(len(trials_of(KINDS[kind])) >= 2 for kind in ("jib", "slider", "overhead", "gantry", "dolly", "orbit", "cable_cam"))  # fmt: skip
