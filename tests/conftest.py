"""Every test has its own settings and journal, and leaves no thread behind."""

from __future__ import annotations

import os
import threading

import pytest
from hypothesis import settings

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
settings.register_profile("ours", deadline=None, derandomize=True, max_examples=60)
settings.load_profile("ours")


@pytest.fixture(autouse=True)
def own_folders(tmp_path, monkeypatch):
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    monkeypatch.setenv("XDG_STATE_HOME", str(tmp_path / "state"))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "data"))


@pytest.fixture(autouse=True)
def no_threads_left():
    before = set(threading.enumerate())
    yield
    left = [thread for thread in threading.enumerate() if thread not in before and not thread.daemon]
    assert not left
