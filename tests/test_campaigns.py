"""A small form of each campaign; `./hazel bench --campaign` runs them at full size."""

from __future__ import annotations

import subprocess
import sys

import pytest

SHARE = {"saving": 0.01, "journal": 0.01, "projects": 0.01, "packs": 0.01, "designs": 0.012, "actions": 0.01}


@pytest.mark.parametrize("name", list(SHARE))
def test_nothing_is_lost_and_nothing_falls_over(name):
    done = subprocess.run(
        [sys.executable, "-m", "bench.campaign", name, "--campaign", "--share", str(SHARE[name])], capture_output=True, text=True, timeout=120, check=False
    )  # fmt: skip
    assert done.returncode == 0, done.stdout + done.stderr
    assert " 0 failed" in done.stdout
