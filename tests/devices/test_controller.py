"""A simulated controller led through moves with everything that may befall it: one known end, nothing past a limit."""

from __future__ import annotations

from collections import Counter, deque

import numpy as np
import pytest

from hazel_lantern.core.rolling.takes import MOTOR, Take
from hazel_lantern.devices.conduct import LET_GO, Ended, Said, conduct
from hazel_lantern.devices.controller import (
    ARMED,
    DONE,
    FAULT,
    HELD,
    READY,
    RUNNING,
    STILL,
    STOPPED,
    Controller,
    SimulatedController,
    Upsets,
    points,
)
from hazel_lantern.devices.errors import DeviceError, RefusedByDeviceError
from hazel_lantern.devices.served import Beside, Trouble
from hazel_lantern.files import takes

TIMES = np.linspace(0.0, 6.0, 121)
PATH = 900 * (TIMES / 6) ** 2 * (3 - 2 * TIMES / 6)


class Clock:
    """A clock that only goes on when somebody waits."""

    def __init__(self):
        self.now = 0.0

    def __call__(self):
        return self.now

    def wait(self, seconds):
        self.now += seconds


def made(seed=0, upsets=None, trouble=None, low=-1.0, high=901.0):
    clock = Clock()
    device = SimulatedController(clock, seed, upsets)
    one = Controller(Beside(device, trouble), patience=0.01)
    one.upload(points(TIMES, [PATH], [(low, high)]))
    return clock, device, one


def led(clock, one, at, until=400):
    """Lead it with commands at beats; everything that was said, and how it ended."""
    commands, beats, ends, said = deque(), 0, [], []
    for step in conduct(one, commands, clock.wait):
        if isinstance(step, Ended):
            ends.append(step)
            commands.append(LET_GO)
            continue
        said.append(step)
        commands.extend(at.get(beats, ()))
        state = step.status.state
        if state == READY and "auto" in at:
            commands.append("arm")
        if state == ARMED and "auto" in at:
            commands.append("run")
        beats += 1
        if beats > until:
            commands.append(LET_GO)
    return said, ends


AUTO = {0: ("home",), "auto": ()}


def test_a_move_runs_as_it_was_uploaded_to_its_end():
    clock, device, one = made()
    said, (end,) = led(clock, one, AUTO)
    assert end.how == DONE and end.reached and end.places == pytest.approx((900.0,), abs=0.01)
    trace = np.array(end.trace)
    assert np.abs(trace[:, 1] - np.interp(trace[:, 0], TIMES, PATH)).max() < 0.01
    assert next(s.status.state for s in said) == "unhomed" and device.far <= 0


def test_hold_go_and_stop_stay_on_the_path_and_come_to_rest():
    clock, _, one = made()
    said, (end,) = led(clock, one, {**AUTO, 50: ("hold",), 80: ("go",), 90: ("stop",)})
    states = [s.status.state for s in said]
    assert HELD in states and end.how == STOPPED and "asked to stop" in end.words
    trace = np.array(end.trace)
    assert np.abs(trace[:, 1] - np.interp(trace[:, 0], TIMES, PATH)).max() < 0.03
    still = [s.status.places for s in said if s.status.state == HELD]
    assert len(set(still)) == 1 and len(still) > 10


def test_without_beats_it_stops_by_itself_within_a_second():
    clock, device, one = made()
    one.do("home")
    clock.wait(2.0)
    one.do("arm")
    clock.wait(2.0)
    one.do("run")
    for _ in range(20):
        clock.wait(0.1)
        one.beat()
    clock.wait(1.0)
    at = device.answer(("beat",))[3]
    clock.wait(5.0)
    device._heard = clock.now  # somebody looks again, long after
    found = one.beat()
    assert found.state == STOPPED and "no beat" in found.reason and f"{found.places[0]:.4f}" == at
    with pytest.raises(RefusedByDeviceError, match="not armed"):
        one.do("run")


@pytest.mark.parametrize(
    ("work", "says"),
    [
        (lambda one: one.do("arm"), "home it first"),
        (lambda one: one.do("run"), "not armed"),
        (lambda one: one.do("go"), "not held"),
        (lambda one: one.do("dance"), "does not know"),
        (lambda one: one.upload(points(TIMES, [PATH * 1.1], [(-1, 901)])), "soft limits"),
        (lambda one: one.upload(points(TIMES[::-1], [PATH], [None])), "out of order"),
        (lambda one: one.upload(points(TIMES, [PATH] * 9, [None] * 9)), "8 axes"),
    ],
)
def test_what_must_not_be_is_refused_with_its_reason(work, says):
    _, device, one = made()
    with pytest.raises(RefusedByDeviceError, match=says):
        work(one)
    assert device.answer(("beat",))[1] in STILL


def test_a_thousand_runs_with_faults_end_known_stopped_reported_and_no_take_is_lost(tmp_path):
    path, ends_of, rng = tmp_path / "day.takes.jsonl", Counter(), np.random.default_rng(9)
    runs = 0
    for seed in range(1000):
        upsets = Upsets(
            power=float(rng.choice([0, 0.05])), steps=float(rng.choice([0, 0.05])), bounce=float(rng.choice([0, 0.3]))
        )
        lost, garbled, late = (float(rng.choice([0, share])) for share in (0.1, 0.1, 0.05))
        trouble = Trouble(
            seed, lost=lost, garbled=garbled, late=late, doubled=0.05, unplugged=float(rng.choice([0, 0.002]))
        )
        stop = {**AUTO, int(rng.integers(30, 90)): ("stop",)} if seed % 3 == 0 else AUTO
        try:
            clock, device, one = made(seed, upsets, trouble)
        except DeviceError:
            ends_of["never begun"] += 1
            continue
        said, ends = led(clock, one, stop)
        assert all(isinstance(s, Said) for s in said) and len(ends) <= 1
        # Whatever happened it stands a second later, where it says, and never was past a limit.
        clock.wait(2.0)
        device._advance()
        rest = device._places.copy()
        clock.wait(2.0)
        device._advance()
        assert device._state in STILL and (rest == device._places).all() and device.far <= 1e-3
        for end in ends:
            ends_of[end.how] += 1
            assert end.words and (end.how == DONE or len(end.words) > 5)
            if end.trace:
                runs += 1
                takes.append(
                    path,
                    Take(
                        number=runs,
                        when="2027-04-08",
                        rig="jib",
                        shot="hives",
                        how=MOTOR,
                        lasted=end.lasted,
                        fault="" if end.how == DONE else end.words,
                    ),
                )
    kept, bad = takes.load(path)
    assert len(kept) == runs > 500 and bad == 0
    assert {DONE, STOPPED, FAULT, "lost"} <= set(ends_of) and RUNNING not in ends_of
