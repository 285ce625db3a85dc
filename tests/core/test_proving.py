"""Readings with hidden faults and noise: what they are read to mean holds the truth as often as it says,
or is refused."""

from __future__ import annotations

import math
from itertools import pairwise

import numpy as np
import pytest

from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.proving import shaken
from hazel_lantern.core.proving.along import pulls, reversed_level, roll_angle, timed_roll
from hazel_lantern.core.proving.drift import correction, drift
from hazel_lantern.core.proving.repeats import combined, mean, outlier, repeats_for
from hazel_lantern.core.workshop.money import Wanted, hire, pays_from, summed
from hazel_lantern.core.workshop.schedule import Task, calendar, network

MANY = 2000


def test_a_mean_and_the_balance_of_an_arm_hold_the_truth_in_95_of_100_cases():
    rng, held, arms = np.random.default_rng(11), 0, np.zeros(2)
    theta = np.radians([-40, -20, 0, 20, 40, 55])
    for _ in range(MANY):
        found = mean(rng.normal(2.0, 0.3, 5))
        held += abs(found.value - 2.0) <= found.half_width
        along, above = rng.uniform(-0.5, 0.5, 2)
        pull = GRAVITY / 1.2 * (along * np.cos(theta) - above * np.sin(theta)) + rng.normal(0, 0.05, len(theta))
        read = drift(theta, pull, 1.2)
        arms += [abs(read.along - along) <= read.along_doubt, abs(read.above - above) <= read.above_doubt]
    assert 0.93 <= held / MANY <= 0.98
    assert ((arms / MANY >= 0.93) & (arms / MANY <= 0.98)).all()


def test_what_the_drift_test_advises_balances_the_arm_and_contradictions_are_refused():
    theta = np.radians([-35.0, -10.0, 15.0, 40.0, 55.0])
    true = GRAVITY / 1.2 * (0.3 * np.cos(theta) - 0.1 * np.sin(theta))
    read = drift(theta, true, 1.2, 0.02)
    mend = correction(read.along, read.above, 6.0, 0.4)
    # The arm's first moments with the weights slid out and across, statics by hand.
    assert 0.3 - 6.0 * mend.slide_out == pytest.approx(0, abs=1e-9) and 0.1 + 6.0 * mend.across == pytest.approx(
        0, abs=1e-9
    )
    odd = true + np.array([0, 0, 3.0, 0, 0])
    assert drift(theta, odd, 1.2, 0.02).dropped == 2 and drift(theta, odd, 1.2, 0.02).along == pytest.approx(
        0.3, rel=1e-6
    )
    with pytest.raises(InfeasibleError, match="number 3 is"):
        drift(theta[:4], odd[:4], 1.2, 0.02)
    with pytest.raises(InputError, match="further apart"):
        drift(np.radians([10.0, 12.0, 13.0]), [1, 1, 1], 1.2)


def test_one_reading_that_does_not_belong_is_named_and_clean_ones_are_left_alone():
    rng = np.random.default_rng(2)
    alone = sum(outlier(rng.normal(0, 1, 8)).index >= 0 for _ in range(MANY))
    assert 0.03 <= alone / MANY <= 0.07
    far = rng.normal(0, 1, 8)
    far[5] += 12
    assert outlier(far).index == 5 and outlier(far[:3]).index == -1
    n = repeats_for(0.2, 0.1)
    assert mean(np.tile([0.2, -0.2], n)[:n]).half_width < 0.12 and repeats_for(0.2, 10.0) == 2
    agree, differ = combined([1.0, 1.05], [0.05, 0.05]), combined([1.0, 2.0], [0.05, 0.05])
    assert agree.value == pytest.approx(1.025) and not agree.contradicts and differ.contradicts
    assert differ.doubt == pytest.approx(0.05 / math.sqrt(2) * differ.ratio)


def test_a_rail_is_read_by_level_rise_and_pull():
    read = reversed_level(3.4e-3, -1.8e-3, 0.9)
    assert (read.slope + read.error, -read.slope + read.error) == pytest.approx((3.4e-3, -1.8e-3))
    alpha = math.radians(2.0)
    assert roll_angle(1.2 * math.sin(alpha), 1.2) == pytest.approx(math.tan(alpha))
    run = 0.5 * GRAVITY * (math.sin(alpha) - 0.01 * math.cos(alpha)) / 1.05 * 4.0**2
    assert timed_roll(alpha, run, 4.0, 1.05) == pytest.approx(0.01)
    x = np.linspace(0, 3, 13)
    ground = 0.004 * np.sin(x)
    slope = np.arctan(0.004 * np.cos(x))
    rub = np.where(np.arange(13) == 7, 0.03, 0.012)
    up, down = (200 * (rub + side * np.sin(slope)) for side in (1, -1))
    found = pulls(x, up, down, 200.0)
    assert found.coefficients == pytest.approx(rub) and found.heights == pytest.approx(ground, abs=3e-5)
    assert np.flatnonzero(found.binds).tolist() == [7]
    with pytest.raises(InputError, match="twice the weight"):
        pulls([0.0], [500.0], [0.0], 200.0)
    with pytest.raises(InputError, match="less than the rail"):
        roll_angle(1.3, 1.2)


def test_planted_lines_of_a_log_are_found_with_gaps_drift_and_uneven_sampling():
    rng = np.random.default_rng(3)
    for k in range(60):
        fs, long = float(rng.choice([50, 100, 200, 400])), rng.uniform(15, 60)
        n = int(fs * long)
        t = np.arange(n) / fs + rng.uniform(-0.02, 0.02, n) / fs * (k % 3 == 0)
        noise, lines = 10 ** rng.uniform(-2.5, -0.5), rng.uniform(1.2, 0.4 * fs, 2)
        a = noise * rng.normal(size=n) + 0.02 * t
        for hz in lines:
            size = math.sqrt(2 * noise**2 / (fs / 2) * 0.2 * 10 ** rng.uniform(1.8, 3.0))
            a += size * np.sin(2 * math.pi * hz * t + rng.uniform(0, 6))
        kept = (t < 0.4 * long) | (t > 0.4 * long + 1.5) if k % 2 else np.ones(n, bool)
        log = shaken.even(t[kept] * (1e3 if fs < 100 else 1), a[kept])
        power = shaken.spectrum(log)
        found = shaken.peaks(power, log.trusted, [("wheel", float(lines[0]))])
        if abs(lines[0] - lines[1]) > 4 * power.step:
            for hz in lines:
                assert min(abs(peak.frequency - hz) for peak in found) <= 1.5 * power.step
            assert any("wheel" in peak.causes for peak in found)
    rest = shaken.even(np.arange(200) / 100, np.zeros(200))
    assert shaken.peaks(shaken.spectrum(rest), 45.0) == ()
    with pytest.raises(InputError, match="64"):
        shaken.even(np.arange(50) / 100, np.zeros(50))


def test_money_is_rounded_once_and_what_has_no_price_is_named():
    found = summed([Wanted(22, 4, 10, 3.95), Wanted(7, 0, 1, 12.49), Wanted(1, 0, 1, None)], 21)
    assert found.packs == (2, 7, 1) and found.unpriced == (2,)
    assert found.net == pytest.approx(95.33) and found.gross == pytest.approx(round(95.33 * 1.21, 2))
    inside = summed([Wanted(1, 0, 1, 121.0)], 21, tax_inside=True)
    assert (inside.net, inside.tax, inside.gross) == (100.0, 21.0, 121.0)
    assert hire(6, 28.0, 120.0, 15.0) == 135.0 and hire(8, 28.0, 120.0) == 148.0
    n = pays_from(150.0, 28.0, None, 15.0)
    assert hire(n, 28.0, None, 15.0) >= 150 and hire(n - 1, 28.0, None, 15.0) < 150 and pays_from(1e9, 1.0) is None
    with pytest.raises(InputError, match="pack"):
        summed([Wanted(1, 0, 0, 1.0)])


def test_a_calendar_keeps_what_comes_first_and_works_only_in_its_hours():
    from datetime import datetime

    rng = np.random.default_rng(4)
    for _ in range(30):
        tasks = [
            Task(
                f"t{n}",
                float(rng.integers(0, 9)) / 2,
                float(rng.integers(0, 3)) * 8,
                tuple(f"t{k}" for k in range(n) if rng.random() < 0.3),
            )
            for n in range(8)
        ]
        hours = {0: 2.0, 3: 3.5, 5: 6.0}
        known = network(tasks)
        slots = {slot.key: slot for slot in calendar(tasks, datetime(2027, 4, 8), 9, hours)}
        for task in tasks:
            slot = slots[task.key]
            assert all(slots[one].end <= slot.start for one in task.after)
            if task.work:
                assert slot.start.weekday() in hours and 9 <= slot.start.hour < 15
        busy = sorted((slot.start, slot.worked) for slot in slots.values() if slot.worked > slot.start)
        assert all(a[1] <= b[0] for a, b in pairwise(busy))
        assert min(known.slack.values()) == pytest.approx(0, abs=1e-9)
    with pytest.raises(InputError, match="wait for one another"):
        network([Task("a", 1, 0, ("b",)), Task("b", 1, 0, ("a",))])
    with pytest.raises(InfeasibleError, match="no day"):
        calendar([Task("a", 1)], datetime(2027, 4, 8), 9, {})
