"""Commands that tell what there is: kinds with their inputs, the schema of a file, completions."""

from __future__ import annotations

import argparse
from typing import Any

from hazel_lantern.cli.shared import DONE, load_shelf, print_json
from hazel_lantern.cli.told import unit_name
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.drives import CRANK, GEARMOTOR, HAND, SLOW, SORTS, STEPPER, TURN
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.editing import bindings, changes
from hazel_lantern.core.editing.starting import blank, furnished
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity
from hazel_lantern.files import project_file


def kinds(args: argparse.Namespace) -> int:
    """Print kinds, variants and parameters, with the keys of their figures and findings. Raises InputError for a kind
    that is none.
    """
    shelf, found = load_shelf(), {}
    for name in args.kind:
        if name not in DECLARED:
            raise InputError("kind", name, "must be one of " + ", ".join(DECLARED))
    for kind in (DECLARED[name] for name in args.kind or DECLARED):
        project = driven(changes.add_rig(blank(), kind.id), GEARMOTOR)
        listed = [_declared(p, shelf) for p in bindings.parameters(project, project.rigs[0].id).values()]
        # Each construction has figures and findings of its own, and so has each move on a set.
        designs = [changes.add_rig(blank(), kind.id, variant) for variant, _ in kind.variants] + [
            changes.add_rig(project, kind.id) for project in furnished()
        ]
        # And so has whatever moves it.
        designs += [driven(designs[0], source) for source in (HAND, CRANK, GEARMOTOR, STEPPER, SLOW)]
        results = [evaluate(made, shelf, made.rigs[0].id, suggest=False) for made in designs]
        found[kind.id] = {
            "name": kind.name,
            "variants": dict(kind.variants),
            "axes": {axis.key: {"name": axis.name, "turns": axis.turns} for axis in kind.axes},
            "elements": {
                key: {"name": sort.name, "gives": sort.gives, "sizes": [_declared(size, shelf) for size in sort.sizes]}
                for key, sort in SORTS.items()
                if sort.gives == TURN or not all(axis.turns for axis in kind.axes)
            },
            "parameters": listed,
            "figures": {f.key: unit_name(f.unit) for result in results for f in result.figures.values()},
            "curves": list(dict.fromkeys(key for result in results for key in result.curves)),
            "findings": sorted({f.key for result in results for f in result.findings}),
        }
    print_json(found)
    return DONE


def driven(project: Project, source: str) -> Project:
    """The document with every axis of its first rig moved by a source."""
    rig = project.rigs[0]
    by = [(f"drive.{axis.key}.by", source) for axis in bindings.declared_of(rig).axes]
    return changes.set_values(project, rig.id, by)


def _declared(p: Parameter, shelf: Catalogue) -> dict[str, Any]:
    """What may be set, for `kinds`."""
    row: dict[str, Any] = {"key": p.key, "label": p.label, "group": p.group, "words": p.words}
    if isinstance(p, Quantity):
        row |= {"unit": p.unit.partition(":")[0], "low": p.low, "high": p.high, "default": p.default}
    elif isinstance(p, Choice):
        known = [*(key for key, _ in p.options), *(getattr(shelf, p.table) if p.table else ())]
        row |= {"options": known, "default": p.default}
    else:
        row |= {"list": True, "default": list(p.default)}
        known = list(getattr(p, "known", ()))
        row |= {"options": known} if known else {}
    when = getattr(p, "when", None)
    asked = {"when": {when[0]: list(when[1])}} if when else {}
    return row | ({"variants": list(p.only)} if p.only else {}) | asked


def schema(args: argparse.Namespace) -> int:
    """Print the JSON Schema."""
    print_json(project_file.schema())
    return DONE


def completion(args: argparse.Namespace) -> int:
    """Print what a shell completes."""
    from hazel_lantern import completion as words

    print(words.bash() if args.shell == "bash" else words.fish(), end="")
    return DONE


def man(args: argparse.Namespace) -> int:
    """Print the manual page."""
    from hazel_lantern.man import page

    print(page(), end="")
    return DONE
