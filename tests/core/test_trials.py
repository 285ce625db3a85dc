"""Tests of built rigs with hidden faults: what is read holds the truth as often as it says, and its advice mends."""

from __future__ import annotations

import math
from datetime import date

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.document.project import Proved, replaced
from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.mechanics import balance, rotor
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY, Display
from hazel_lantern.core.proving.bending import on_edge
from hazel_lantern.core.proving.instruments import held as instruments_on
from hazel_lantern.core.proving.spin import slowed
from hazel_lantern.core.proving.told import BY_KEY, TRIALS, forecasts, refusal, told
from hazel_lantern.core.proving.told import tests_of as keys_of
from hazel_lantern.core.proving.trial import Reads
from hazel_lantern.core.proving.unknown import Bent, measured_bar
from hazel_lantern.files import packs
from tests.helpers import SHELF, finding, sample

MANY = 2000
RIGS = ("hive-jib", "jar-slider", "jar-slider-board", "lane-dolly", "comb-turntable", "pond-line", "kitchen-gantry")


@pytest.fixture(scope="module")
def results():
    return {rig: evaluate(sample(), SHELF, rig) for rig in RIGS}


def says(key, result, rows):
    """What rows of a test say of a rig."""
    known = forecasts(result)
    return BY_KEY[key].outcome(
        tuple(tuple(map(float, row)) for row in rows), Reads(known[key], known, result.rig.design)
    )


def held(key, result, truth, rows_of):
    """How often the give or take of a test holds the truth, over seeded readings."""
    known, rng, count = forecasts(result), np.random.default_rng(21), 0
    reads = Reads(known[key], known, result.rig.design)
    for _ in range(MANY):
        found = BY_KEY[key].outcome(tuple(map(tuple, rows_of(rng))), reads)
        count += abs(found.value - truth) <= found.give
    return count / MANY


def shares(result):
    """What each test of one rig reads with a hidden fault, and the truth behind it: key, truth, rows of noise."""
    known = forecasts(result)

    def middle(key):
        return known[key].middle if key in known else 1.0

    def takes(key, name):
        return known[key].takes[name] if key in known else 1.0

    def noise(rng, size, n=5):
        return rng.normal(0, size, n)

    return {
        "level": (0.01, lambda rng: np.column_stack([0.013 + noise(rng, 5e-4), -0.007 + noise(rng, 5e-4), np.ones(5)])),
        "roll": (
            0.025,
            lambda rng: (lambda k: np.column_stack([k + 0.01, k / np.sqrt(1 + k**2), np.ones(5)]))(
                0.025 + noise(rng, 1e-3)
            ),
        ),
        "sag": (
            1.2 * middle("sag"),
            lambda rng: np.column_stack([np.full(5, 2.0), 2.0 * 1.2 * middle("sag") * (1 + noise(rng, 0.03))]),
        ),
        "bounce": (
            0.9 * middle("bounce"),
            lambda rng: np.column_stack(
                [
                    np.full(5, 20.0),
                    20 / 0.9 / middle("bounce") * (1 + noise(rng, 0.01)),
                    np.full(5, 0.012),
                    np.full(5, 0.0012),
                ]
            ),
        ),
        "heavy": (
            0.3,
            lambda rng: (lambda t: np.column_stack([5 * t, np.full(5, 5.0), np.full(5, 0.1), np.zeros(5)]))(
                2
                * math.pi
                * np.sqrt(takes("heavy", "inertia") / (0.3 * GRAVITY * math.sin(0.1)))
                * (1 + noise(rng, 0.01))
            ),
        ),
        "pluck": (
            90.0,
            lambda rng: np.column_stack(
                [
                    np.full(5, 20.0),
                    20
                    / (np.sqrt(90.0 / 4 / takes("pluck", "line")) / takes("pluck", "length"))
                    * (1 + noise(rng, 0.01)),
                ]
            ),
        ),
        "hangs": (0.65, lambda rng: np.column_stack([np.full(5, 3.0), 2.35 + noise(rng, 0.004)])),
        "repeat": (0.002, lambda rng: (0.002 + rng.normal(0, 5e-4, 6))[:, None]),
        "play": (0.0012, lambda rng: np.column_stack([0.0012 + noise(rng, 3e-4), noise(rng, 3e-4)])),
        "speed": (
            -0.04,
            lambda rng: np.column_stack([np.ones(5), 1 / (0.1 * 0.96) * (1 + noise(rng, 0.01)), np.full(5, 0.1)]),
        ),
    }


@pytest.mark.parametrize(
    ("rig", "keys"),
    [
        ("jar-slider", ("level", "roll", "sag", "bounce", "repeat", "play", "speed")),
        ("comb-turntable", ("heavy",)),
        ("pond-line", ("pluck", "hangs")),
    ],
)
def test_the_stated_interval_of_every_test_holds_the_hidden_truth(results, rig, keys):
    for key in keys:
        assert 0.93 <= held(key, results[rig], *shares(results[rig])[key]) <= 0.985, key


def test_drift_spin_down_head_and_trial_weights_hold_the_truth_too(results):
    slider = evaluate(changes.set_values(sample(), "jar-slider", [("support", "tripod")]), SHELF, "jar-slider")
    jib, table = results["hive-jib"], results["comb-turntable"]

    def turned(rng):
        angles = 2.0 * GRAVITY * 0.5 / 900.0 * (1 + rng.normal(0, 0.03, 5))
        return np.column_stack([np.full(5, 2.0), np.full(5, 0.5), angles])

    def swings(rng):
        theta = np.radians([-35, -15, 5, 25, 45])
        pull = 0.3 + GRAVITY / 1.5 * (0.05 * np.cos(theta) - 0.1 * np.sin(theta)) + rng.normal(0, 0.012, 5)
        return np.column_stack([theta, pull + 0.2, pull - 0.2, np.full(5, 1.5), np.full(5, 0.3)])

    inertia = rotor.turning(table.model.turns_as, 0.0).inertia
    slows = 0.17 / inertia

    def turns(rng):
        angle = 2 * np.pi * np.arange(8)
        times = (3.2 - np.sqrt(3.2**2 - 2 * slows * angle)) / slows
        return np.column_stack([np.arange(8), np.maximum(0.0, times + 0.5 + rng.normal(0, 0.01, 8))])

    def runs(rng):
        trial = forecasts(table)["runs"].takes["trial"]
        off = 0.02 * np.exp(0.7j)
        shakes = [abs(off)] + [abs(off + trial * np.exp(2j * np.pi * k / 3)) for k in range(3)]
        return [(k, 1e3 * shakes[k] + rng.normal(0, 0.8)) for k in range(4) for _ in range(3)]

    assert 0.93 <= held("head", slider, 900.0, turned) <= 0.985
    # Both also reckon with the step of their instrument, or fit what is only nearly straight.
    assert 0.93 <= held("drift", jib, GRAVITY * 0.05, swings) <= 0.99
    assert 0.93 <= held("coast", table, 0.17, turns) <= 0.985
    assert 0.92 <= held("runs", table, 0.02, runs) <= 0.985


def test_air_is_told_from_bearings_where_it_slows_enough():
    """Marks of turns that fall to a fourth of their speed, by integrating the motion with small steps."""
    inertia, rubs, air = 2.0, 0.15, 0.02
    spin, angle, now, marks = 9.0, 0.0, 0.0, [0.0]
    while len(marks) < 16:
        spin -= (rubs + air * spin**2) / inertia * 1e-4
        angle, now = angle + spin * 1e-4, now + 1e-4
        if angle >= 2 * math.pi * len(marks):
            marks.append(now)
    found = slowed(marks, inertia)
    assert (
        found.told_apart
        and found.friction == pytest.approx(rubs, rel=0.01)
        and found.drag == pytest.approx(air, rel=0.01)
    )
    alone = slowed(marks[:6], inertia)
    assert not alone.told_apart and alone.friction > rubs
    with pytest.raises(InfeasibleError, match="faster"):
        slowed([0.0, 3.0, 5.0, 6.5, 7.5, 8.2], inertia)


def test_a_jib_corrected_as_the_drift_test_advises_is_in_balance(results):
    """Forces of the arm as it is drawn, out of balance by what its weights lack; the advice moves them."""
    rng, theta = np.random.default_rng(8), np.radians([-35.0, -10.0, 15.0, 40.0])
    for place in (0.55, 0.63, 0.66):
        project = changes.set_values(sample(), "hive-jib", [("weights.place", place)])
        result = evaluate(project, SHELF, "hive-jib")
        arm = result.model.arm_balance
        pull = -balance.front_up_moment(arm, theta) / 1.5 + rng.normal(0, 0.01, 4)
        found = says("drift", result, zip(theta, pull + 0.2, pull - 0.2, [1.5] * 4, [0.0] * 4, strict=True))
        assert found.value == pytest.approx(GRAVITY * arm.along, abs=found.give + 0.05)
        if abs(found.value) > 2 * found.give:
            mended = changes.set_values(project, "hive-jib", found.changes)
            after = evaluate(mended, SHELF, "hive-jib").model.arm_balance
            assert found.spent and abs(after.along) < 0.25 * abs(arm.along)
    assert results["hive-jib"].model.arm_balance.along < 0


def read_by(project, rig, rows):
    """The project with more rows read of a rig; nothing else of it was."""
    found = project.rig(rig)
    proofs = tuple(Proved(test=key, day="2027-04-08", readings=tuple(map(float, row))) for key, row in rows)
    return replace(project, rigs=replaced(project.rigs, replace(found, proofs=proofs)))


def of(project, rig, key):
    return next(one for one in told(evaluate(project, SHELF, rig)) if one.trial.key == key)


@pytest.mark.parametrize("rig", ["hive-jib", "jar-slider", "comb-turntable", "kitchen-gantry"])
def test_a_rig_that_was_found_softer_is_reckoned_softer(rig):
    """Two tests of the same find four fifths of the stiffness: the drawing corrected so sinks as was measured."""
    plain = sample()
    softer = forecasts(evaluate(plain, SHELF, rig))["sag"].middle / 0.8
    rows = [("sag", (1.0, softer * (1 + e))) for e in (0.01, -0.01, 0.012, 0.011, -0.01, -0.012)]
    once = of(read_by(plain, rig, rows[:3]), rig, "sag").corrections[0]
    assert once.trouble and once.tests == 1
    both = of(read_by(plain, rig, rows), rig, "sag").corrections[0]
    assert not both.trouble and both.tests == 2
    mended = evaluate(changes.set_values(plain, rig, both.changes), SHELF, rig)
    assert forecasts(mended)["sag"].middle == pytest.approx(softer, rel=0.02)


def test_tests_that_differ_are_not_believed_and_the_order_is_kept(results):
    plain, sags = sample(), forecasts(results["hive-jib"])["sag"].middle
    near = [("sag", (1.0, sags * f)) for f in (1.0, 1.002, 0.998)]
    far = [("sag", (1.0, sags * f)) for f in (1.3, 1.302, 1.298)]
    against = of(read_by(plain, "hive-jib", near + far), "hive-jib", "sag").corrections[0]
    assert "contradict" in against.trouble
    lane = of(plain, "lane-dolly", "gauge")
    assert lane.outcome.state == "watch" and "Open it at" in lane.outcome.words.template
    slack = of(plain, "jar-slider", "pull")
    assert slack.outcome.state == "watch" and slack.outcome.words.amounts[0][0] == pytest.approx(0.3)
    assert not slack.corrections


def test_what_cannot_be_is_refused_with_the_reason_and_nothing_changes(results):
    jib, slider = results["hive-jib"], results["jar-slider"]
    with pytest.raises(InputError, match="2 more"):
        says("drift", jib, [(0.0, 1.0, 0.5, 1.5, 0.0)])
    with pytest.raises(InputError, match="dies away"):
        says("bounce", slider, [(20, 4.0, 0.001, 0.01)] * 3)
    with pytest.raises(InfeasibleError, match="beyond half to twice"):
        says("bounce", slider, [(20, 1.0, 0.012, 0.0012), (20, 1.01, 0.012, 0.0012), (20, 1.02, 0.012, 0.0012)])
    with pytest.raises(InfeasibleError, match="number 2 is"):
        says("drift", jib, [(-0.5, 1.0, 0.6, 1.5, 0.0), (0.0, 6.0, 5.6, 1.5, 0.0), (0.5, 1.0, 0.6, 1.5, 0.0)])
    with pytest.raises(InputError, match="must lie between"):
        says("repeat", jib, [(9.0,)] * 8)
    project = lists.strike_out(sample(), "hive-jib", 0)
    proofs = project.rig("hive-jib").proofs
    assert proofs[0].struck and len(proofs) == len(sample().rig("hive-jib").proofs)
    first = of(project, "hive-jib", "level")
    assert not first.rows and first.outcome is None
    with pytest.raises(InputError, match="there are"):
        lists.strike_out(project, "hive-jib", 99)


def test_gauge_and_level_across_name_the_place_and_rocking_the_wheel(results):
    dolly = results["lane-dolly"]
    x = np.arange(6) * 0.6
    true = [(float(p), 0.72 + 1e-4 * (-1) ** k) for k, p in enumerate(x)]
    assert says("gauge", dolly, true).state == "clear"
    wide = [(p, g + 0.003 * (k == 3)) for k, (p, g) in enumerate(true)]
    found = says("gauge", dolly, wide)
    assert found.words.template.startswith("Close") and found.words.amounts[0][0] == pytest.approx(x[3])
    across = says(
        "crosswise", dolly, [(p, 0.001 + 0.008 * (k == 2), 0.001 - 0.008 * (k == 2)) for k, p in enumerate(x)]
    )
    assert across.words.amounts[0][0] == pytest.approx(x[2]) and across.words.amounts[1][0] == pytest.approx(
        0.008 * 0.72
    )
    rocks = says("rocking", dolly, [(0.0, 0.004, 0.0, 0.0)])
    assert rocks.state == "watch" and rocks.value == pytest.approx(0.004)


def test_loads_are_judged_stop_the_rig_and_are_refused_while_another_stop_stands(results):
    table, jib = results["comb-turntable"], results["hive-jib"]
    asks = 1.5 * table.carried.payload.mass
    for stayed, load, state in ((0.0001, asks, "clear"), (0.003, asks, "stop"), (0.0, asks / 2, "stop")):
        assert says("proof", table, [(load, 0.004, stayed)]).state == state
        project = lists.read_off(sample(), "hive-jib", "proof", "2027-04-08", (load, 0.004, stayed))
        assert finding(evaluate(project, SHELF, "hive-jib"), "prove.proof").state == state
    assert not any(one.key == "prove.proof" for one in jib.findings)
    assert "is a stop" in refusal(jib)
    worn = lists.read_off(sample(), "hive-jib", "wear", "2027-04-08", (2.0,))
    assert finding(evaluate(worn, SHELF, "hive-jib"), "prove.wear").state == "stop"
    today = {one.trial.key: one for one in told(table, date(2026, 9, 19))}
    later = {one.trial.key: one for one in told(table, date(2027, 10, 1))}
    assert not today["wear"].overdue and later["wear"].overdue and later["proof"].overdue
    stake = results["pond-line"]
    asked = forecasts(stake)["stake_a"].low
    assert says("stake_a", stake, [(asked + 1, 5.0, 0.0)]).changes == (("tested.a", asked + 1),)
    for row in ((asked + 1, 2.0, 0.0), (asked + 1, 5.0, 0.02), (asked - 50, 5.0, 0.0)):
        assert says("stake_a", stake, [row]).state == "stop"


def test_every_kind_and_construction_has_tests_with_instruments_where_they_are_held():
    assert len({trial.key for trial in TRIALS}) == len(TRIALS)
    for rig in (one.id for one in sample().rigs):
        result = evaluate(sample(), SHELF, rig)
        design = Design(result.rig.variant, result.rig.design, SHELF)
        every = told(result)
        assert {one.trial.key for one in every} == set(keys_of(result.kind, design, driven=bool(result.rig.drives)))
        assert len(every) >= 6
        for one in every:
            sketch, lens = result.still(one.foreseen.pose)
            dressed = instruments_on(sketch, lens, one.trial, one.foreseen)
            assert len(dressed.items) > 3 and all(math.isfinite(v) for v in dressed.box)
            if one.outcome is not None:
                assert one.outcome.words.text(Display()) and one.outcome.words.text(Display("in"))
    for kind in KINDS.values():
        for variant, _ in kind.variants:
            project = changes.add_rig(sample(), kind.id, variant)
            result = evaluate(project, SHELF, project.rigs[-1].id)
            design = Design(result.rig.variant, result.rig.design, SHELF)
            assert {k for k in forecasts(result) if k in BY_KEY} == set(
                keys_of(kind, design, driven=bool(result.rig.drives))
            )


def test_a_bar_of_unknown_stuff_becomes_a_row_as_stiff_and_heavy_as_it_was_read():
    like, rng = SHELF.sections["al6063-20x40x2"], np.random.default_rng(5)
    area, upright = float(like.section().area), float(like.section().upright)
    true, dense, inside = 52e9, 2500.0, 0
    for _ in range(300):
        drops = tuple(2.0 * GRAVITY * 1.0**3 / (48 * true * upright) * (1 + rng.normal(0, 0.02, 3)))
        found = measured_bar("Shed pole", like, Bent(1.0, 2.0, drops, 1.6 * area * dense, 1.6), SHELF)
        inside += found.material.E_low <= true <= found.material.E_high
    assert 0.91 <= inside / 300 <= 0.985 and found.material.density == pytest.approx(dense)
    assert found.material.strength == min(m.strength for m in SHELF.materials.values() if m.fill == "aluminium")
    packs.put("measured", "materials", found.material)
    packs.put("measured", "sections", found.section)
    shelf = packs.load()
    assert not shelf.left_out and pytest.approx(found.material.E) == shelf.catalogue.materials[found.section.id].E
    arm = evaluate(
        changes.set_values(sample(), "hive-jib", [("arm.section", found.section.id)]), shelf.catalogue, "hive-jib"
    )
    assert (
        forecasts(arm)["sag"].middle
        > forecasts(evaluate(changes.set_values(sample(), "hive-jib", [("arm.section", like.id)]), SHELF, "hive-jib"))[
            "sag"
        ].middle
    )
    for wrong, words in (
        (Bent(1.0, 2.0, (0.001, 0.001), 1.0, 1.6), "3 readings"),
        (Bent(1.0, 2.0, (0.05,) * 3, 1.0, 1.6), "times as stiff"),
        (Bent(0.3, 2.0, (0.001,) * 3, 1.0, 1.6), "times the bar's depth"),
        (Bent(2.0, 2.0, (0.001,) * 3, 1.0, 1.6), "within the bar's length"),
    ):
        with pytest.raises((InputError, InfeasibleError), match=words):
            measured_bar("Shed pole", like, wrong, SHELF)
    edge = on_edge(2.0, 0.71, 0.69, 1.5)
    assert (edge.at, edge.moment) == pytest.approx((0.7, 1.4))
