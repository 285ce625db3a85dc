"""Every construction as it comes of ordinary size, to choose from by its picture."""

from __future__ import annotations

from collections.abc import Iterator

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.advice.adding import added
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.progress import Progress


class Example(Struct, frozen=True):
    """One construction, and what it comes to on a move it is made for."""

    kind: str
    variant: str
    evaluation: Evaluation


def gallery(project: Project, catalogue: Catalogue) -> Iterator[Progress[tuple[Example, ...]]]:
    """An example of every construction, a step each, with the weights that the project owns, in the project's units."""
    plain = replace(blank(), plates=project.plates or blank().plates)
    all_of_them = [(kind.id, variant) for kind in DECLARED.values() for variant, _ in kind.variants]
    found: list[Example] = []
    for kind, variant in all_of_them:
        made = added(plain, catalogue, kind, variant)
        found.append(Example(kind, variant, evaluate(made, catalogue, made.rigs[-1].id)))
        yield Progress(len(found), len(all_of_them), tuple(found))
