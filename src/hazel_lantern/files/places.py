"""Where the builder's own files lie: the folders of the XDG base directory rules.

Three lines of our own, because the usual library costs a start as much as our own catalogue does; a test holds them
against it.
"""

from __future__ import annotations

import os
from pathlib import Path

NAME = "hazel-lantern"


def _place(variable: str, usual: str) -> Path:
    """The folder a variable names, or the usual one where it is unset or not absolute, as the rules ask."""
    named = os.environ.get(variable, "")
    return (Path(named) if os.path.isabs(named) else Path.home() / usual) / NAME


def config() -> Path:
    """Preferences."""
    return _place("XDG_CONFIG_HOME", ".config")


def data() -> Path:
    """What the builder adds, such as catalogue packs."""
    return _place("XDG_DATA_HOME", ".local/share")


def state() -> Path:
    """What a later start may pick up, such as unsaved work."""
    return _place("XDG_STATE_HOME", ".local/state")
