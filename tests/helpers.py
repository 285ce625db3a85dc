"""What many tests share: the sample, the catalogue, a design with a few values changed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from msgspec.structs import replace

from hazel_lantern import assets
from hazel_lantern.core import catalogue
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.finding import Finding
from hazel_lantern.files import project_file

SHELF = catalogue.load()
SAMPLES = ("orchard-at-dusk", "orchard-at-dusk-inches")


def sample(name: str = "orchard-at-dusk") -> Project:
    file = f"{name}.lantern.json"
    return project_file.decode(assets.data("samples", file), Path(file))


# The Hive jib with a pair of gears and a sector.
PLAIN_DRIVE = (
    ("drive.swing.chain", ()), ("drive.swing.chain", ("spur", "sector")), ("drive.swing.changed", ()),
    ("drive.swing.times", ()),
    ("drive.swing.1.driver", 20.0), ("drive.swing.1.driven", 40.0), ("drive.swing.2.driver", 16.0),
    ("drive.swing.2.driven", 160.0),
    *((f"drive.swing.{n}.{key}", value) for n in (1, 2) for key,
        value in (("tool", "router"), ("bit", 0.0015), ("width", 0.012 if n == 1 else 0.015))),
)  # fmt: skip


def one_rig() -> Project:
    """The sample with its first rig alone."""
    project = sample()
    return replace(project, rigs=project.rigs[:1])


def changed(project: Project | None = None, **values: Any) -> Project:
    """The sample with values set; double underscores stand for the dots of a key."""
    project = project or sample()
    return changes.set_values(
        project, project.rigs[0].id, [(key.replace("__", "."), value) for key, value in values.items()]
    )


def solved(project: Project | None = None, *, suggest: bool = False) -> Evaluation:
    project = project or sample()
    return evaluate(project, SHELF, project.rigs[0].id, suggest=suggest)


def model(project: Project | None = None):
    """What the builder decided, and the rig as a mechanism."""
    result = solved(project)
    return result.known["design"], result.model


def finding(result: Evaluation, key: str) -> Finding:
    return next(f for f in result.findings if f.key == key)


def value(result: Evaluation, key: str) -> float:
    return result.figures[key].value


def of_each_kind(project):
    """Ids of one rig of each kind."""
    return list({rig.kind: rig.id for rig in project.rigs}.values())


def turn() -> None:
    """One turn of the event loop: what a signal put off, such as making the bench anew, is done, what is no longer
    needed is gone.
    """
    from PyQt6.QtCore import QCoreApplication, QEvent

    QCoreApplication.processEvents()
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)
