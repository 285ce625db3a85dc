"""The application on a real X display, a virtual one: starts, paints once, ends; and refuses a bad file."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys

import pytest

from hazel_lantern.files import project_file
from tests.helpers import sample


@pytest.fixture(scope="module")
def display():
    assert shutil.which("Xvfb"), "Xvfb is needed: ./hazel test installs it"
    read, write = os.pipe()
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", str(write), "-screen", "0", "1280x800x24", "-nolisten", "tcp"],
        pass_fds=[write],
        stderr=subprocess.DEVNULL,
    )
    os.close(write)
    with os.fdopen(read) as number:
        yield f":{number.readline().strip()}"
    server.terminate()
    server.wait()


def run(display, *args):
    env = {key: value for key, value in os.environ.items() if key not in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY")} | {
        "DISPLAY": display,
        "QT_QPA_PLATFORM": "xcb",
    }
    return subprocess.run(
        [sys.executable, "-m", "hazel_lantern", "run", *map(str, args), "--quit-after-paint"],
        env=env,
        capture_output=True,
        timeout=60,
        check=False,
    )


def test_it_opens_paints_and_quits(display, tmp_path):
    path = tmp_path / "a.lantern.json"
    project_file.write(sample(), path)
    for args in ((), ("--sample",), (path,)):
        done = run(display, *args)
        assert done.returncode == 0, done.stderr


def test_a_bad_file_is_told_on_the_terminal(display, tmp_path):
    (tmp_path / "bad.json").write_text("{")
    done = run(display, tmp_path / "bad.json")
    assert done.returncode == 2
    assert b"bad.json: is not readable as JSON" in done.stderr
