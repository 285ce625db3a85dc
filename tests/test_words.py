"""The words of the command line: every example of its help does what it says, and the manual page tells all of them."""

from __future__ import annotations

import argparse
import re
import shlex
from pathlib import Path

import pytest

from hazel_lantern import cli
from hazel_lantern.arguments import EXAMPLES, commands, parser
from hazel_lantern.core.sizing import search, varied
from hazel_lantern.files import project_file
from hazel_lantern.man import page

ROOT = Path(__file__).parent.parent
OPENS_OR_WAITS = ("run", "simulate", "plan-cuts")


def test_every_command_has_examples_and_each_of_them_works(tmp_path, monkeypatch, capsys):
    monkeypatch.chdir(tmp_path)
    for name, value in (("ROWS", 2), ("SHARES", (1.0,))):  # sizes in a moment
        monkeypatch.setattr(varied, name, value)
    for name in ("EXACT", "POLISH"):
        monkeypatch.setattr(search, name, 2)
    assert set(EXAMPLES) == set(commands(parser()))
    assert cli.main(shlex.split(EXAMPLES["new"][0])) == 0
    made = tmp_path / "crane.lantern.json"
    made.rename(tmp_path / "mine.lantern.json")
    for name, examples in EXAMPLES.items():
        for example in examples:
            words = shlex.split(re.split(r" [<>] ", example)[0])
            args = parser().parse_args(words)
            if name in OPENS_OR_WAITS:
                continue
            assert cli.main(words) in (0, 1), example
            told = capsys.readouterr()
            assert not told.err, example
            out = getattr(args, "out", None)
            assert out.stat().st_size > 0 if out is not None else told.out or name == "check", example
    for path in tmp_path.glob("*.lantern.json"):
        project_file.read(path)  # whatever was written is whole


def test_the_manual_page_tells_every_command_and_option_and_nothing_is_taken_for_a_macro():
    text = page()
    lines = text.splitlines()
    macros = {line.split()[0] for line in lines if line.startswith((".", "'"))}
    assert macros <= {".TH", ".SH", ".SS", ".TP", ".B", ".I", ".RS", ".RE", ".nf", ".fi"}
    plain = text.replace("\\-", "-")
    for name, command in commands(parser()).items():
        assert f".SS {name}" in plain
        for action in command._actions:
            if action.help != argparse.SUPPRESS and action.dest != "help":
                assert (", ".join(action.option_strings) or action.dest.upper()) in plain, (name, action.dest)
                assert action.help, (name, action.dest)
    for line in lines:
        assert line and "`" not in line


SHOWN = [line for line in (ROOT / "README.md").read_text("utf-8").splitlines() if line.startswith("hazel-lantern ")]


@pytest.mark.parametrize("line", [line.split("#")[0].strip() for line in SHOWN])
def test_what_the_readme_shows_is_understood(line):
    assert parser().parse_args(shlex.split(line)[1:]).command
