"""A small form of each campaign; `./hazel bench --campaign` runs them at full size."""

from __future__ import annotations

import subprocess
import sys

import pytest
from bench import run
from bench.designs import constructions

from tests.audit.audit import BY_KIND, audited

SHARE = {"saving": 0.01, "journal": 0.01, "projects": 0.01, "packs": 0.01, "designs": 0.012, "actions": 0.01}


@pytest.mark.parametrize("name", list(SHARE))
def test_nothing_is_lost_and_nothing_falls_over(name):
    done = subprocess.run(
        [sys.executable, "-m", "bench.campaign", name, "--campaign", "--share", str(SHARE[name])],
        capture_output=True,
        text=True,
        timeout=120,
        check=False,
    )
    assert done.returncode == 0, done.stdout + done.stderr
    assert " 0 failed" in done.stdout


# A refusal over two lines; a reading that cannot be worked out.
@pytest.mark.parametrize(("name", "seed"), [("projects", 53693), ("designs", 50256)])
def test_what_once_failed_holds(name, seed):
    words = [sys.executable, "-m", "bench.campaign", "--campaign", name, "--seed", str(seed), "--share", "0.0001"]
    done = subprocess.run(words, capture_output=True, text=True, timeout=120, check=False)
    assert done.returncode == 0 and " 1 " in done.stdout and " 0 failed" in done.stdout, done.stdout + done.stderr


def test_what_a_drag_takes_is_measured_at_every_station(qtbot, monkeypatch, capsys):
    monkeypatch.setattr(run, "STEPS", 2)
    monkeypatch.setattr(run, "PASSES", 1)
    run.drag()
    said = capsys.readouterr().out
    assert said.count("what the hand moves median") == len(run.DRAGS) and said.count("evaluate ") == 5


@pytest.mark.parametrize("kind", list(BY_KIND))
def test_whole_designs_come_to_what_they_come_to_by_hand(kind):
    variants = [variant for name, variant in constructions() if name == kind]
    done = 0
    for seed in range(400, 440):
        found = audited(kind, variants[seed % len(variants)], seed)
        if found is None:
            continue
        differs, silent = found
        assert not any(text.endswith("UNSAFE") for text in differs), (seed, differs)
        assert not silent, (seed, silent)
        done += 1
        if done == 2:
            return
    raise AssertionError("too few designs could be built")
