"""What every command of the command line does alike."""

from __future__ import annotations

import json
import math
import os
import sys
from pathlib import Path

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.files import packs
from hazel_lantern.files.errors import FileError

DONE, STOPPED, UNUSABLE = 0, 1, 2


def print_json(value: object) -> None:
    """JSON that stays JSON on a terminal of any encoding."""
    broad = (sys.stdout.encoding or "").lower().replace("-", "") in ("utf8", "utf16", "utf32")
    print(json.dumps(value, ensure_ascii=not broad, indent=1))


def load_shelf() -> Catalogue:
    """The catalogue with the builder's packs; of those left out is told why."""
    shelf = packs.load()
    for words in shelf.left_out:
        print(f"hazel-lantern: {words}", file=sys.stderr)
    return shelf.catalogue


def free(out: Path, force: bool, project: Path | None = None) -> Path:
    """Where an output may go: what is there is only written over when asked to, the project itself never."""
    if project is not None and os.path.exists(out) and os.path.samefile(out, project):
        raise FileError(out, "is the project itself, which no export replaces")
    if os.path.lexists(out) and not force and not out.is_dir():
        raise FileError(out, "is there already; --force writes over it")
    return out


def chosen(project: Project, rig: str | None) -> str:
    if rig is None and len(project.rigs) == 1:
        return project.rigs[0].id
    ids = ", ".join(r.id for r in project.rigs)
    if rig is None:
        raise InputError(
            "--rig",
            "missing",
            f"this project has {len(project.rigs)} rigs: {ids}" if project.rigs else "this project has no rigs",
        )
    return project.rig(rig).id


def number(value: float) -> float | str:
    return value if math.isfinite(value) else ("inf" if value > 0 else "-inf")
