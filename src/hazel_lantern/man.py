"""The manual page: made from the words of the command line and their examples, so that it never says something else."""

from __future__ import annotations

import argparse

from hazel_lantern import __version__
from hazel_lantern.arguments import EXAMPLES, commands, parser

PROGRAM = "hazel-lantern"
EXIT = (("0", "done; `check`: no stop"), ("1", "`check`: some stop; `size`: no size does"),
    ("2", "a file or a value that cannot be used, said in one sentence"))  # fmt: skip
FILES = (
    ("NAME.lantern.json", "a project; the previous file is kept beside it with a ~"),
    ("NAME.takes.jsonl", "its takes, one a line"),
    ("$XDG_DATA_HOME/hazel-lantern/packs", "catalogue packs of your own"),
    ("$XDG_STATE_HOME/hazel-lantern/recovery", "unsaved work of windows that were killed"),
)


def page() -> str:
    """The page in roff, section 1."""
    top = parser()
    rows = [
        f'.TH HAZEL\\-LANTERN 1 "" "hazel\\-lantern {_plain(__version__)}"',
        ".SH NAME",
        f"hazel\\-lantern \\- {_plain((top.description or '').rstrip('.').lower())}",
        ".SH SYNOPSIS",
        ".B hazel\\-lantern",
        ".I COMMAND",
        "[OPTIONS]",
        ".SH DESCRIPTION",
        _plain(
            "Without a command, and as run, it opens the window; every other command does without one. Numbers may "
            "carry "
            "their units: 1.2m, 5' 9\", 80 kg. Written numbers are SI."
        ),
        ".SH COMMANDS",
    ]
    for name, command in commands(top).items():
        rows += [f".SS {_plain(name)}", _plain(command.description or "")]
        for action in command._actions:  # noqa: SLF001  argparse tells its words in no other way
            if action.help != argparse.SUPPRESS and action.dest != "help":
                rows += [".TP", f".B {_named(action)}", _plain((action.help or "") % {"default": action.default})]
        for example in EXAMPLES.get(name, ()):
            rows += [".RS", ".nf", f"{PROGRAM.replace('-', chr(92) + '-')} {_plain(example)}", ".fi", ".RE"]
    for title, told in (("EXIT STATUS", EXIT), ("FILES", FILES)):
        rows.append(f".SH {title}")
        for name, words in told:
            rows += [".TP", f".B {_plain(name)}", _plain(words)]
    return "\n".join(row for row in rows if row) + "\n"


def _named(action: argparse.Action) -> str:
    """An option or a word as it is typed."""
    names = ", ".join(action.option_strings) or (action.metavar if isinstance(action.metavar, str) else action.dest)
    takes = "" if action.nargs == 0 or not action.option_strings else " " + _metavar(action)
    return _plain(names.upper() if not action.option_strings else names) + _plain(takes)


def _metavar(action: argparse.Action) -> str:
    if isinstance(action.metavar, tuple):
        return " ".join(action.metavar)
    if action.metavar:
        return str(action.metavar)
    few = action.choices is not None and len(list(action.choices)) < 6
    return "|".join(map(str, action.choices or ())) if few else action.dest.upper()


def _plain(words: str) -> str:
    """Words that roff takes for nothing else."""
    safe = words.replace("\\", "\\e").replace("-", "\\-").replace("~", "\\(ti").replace("^", "\\(ha").replace("`", "")
    return f"\\&{safe}" if safe[:1] in (".", "'") else safe
