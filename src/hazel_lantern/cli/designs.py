"""Commands that make a design, work it out and judge it."""

from __future__ import annotations

import argparse

from msgspec.structs import replace

from hazel_lantern.cli.shared import DONE, STOPPED, chosen, free, load_shelf, print_json
from hazel_lantern.cli.told import as_json, why_text
from hazel_lantern.core.advice.adding import with_first
from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.document.project import Project, replaced
from hazel_lantern.core.document.readable import readable
from hazel_lantern.core.editing import bindings, changes, checking, starting
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import over_shots, perform
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import STOP, Finding
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.files import project_file


def solve(args: argparse.Namespace) -> int:
    """Print every figure, finding and part of one rig."""
    project = readable(project_file.read(args.file))
    shelf = load_shelf()
    rig = chosen(project, args.rig)
    if args.shot:
        project = _for_shot(project, rig, args.shot)
    built = args.basis == "built"
    result = over_shots(project, shelf, rig, built=built)
    findings = last(vetted(project, shelf, rig, built=built))
    if args.json:
        print_json(as_json(result, findings))
        return DONE
    show = Display(project.units, project.fraction, project.currency)
    for figure in result.figures.values():
        print(f"{figure.label}: {show.text(figure.value, figure.unit)}  [{figure.key}]")
        print(f"    {why_text(figure, show)}")
    for finding in findings:
        print(f"{finding.state.upper():6}{_titled(finding)}: {finding.sentence.text(show)}  [{finding.key}]")
        if finding.hint:
            print(f"      {finding.hint.text(show)}")
        for remedy in finding.remedies:
            print(
                f"      try: {remedy.label.text(show)}"
                + (f" ({remedy.elsewhere.text(show)})" if remedy.elsewhere else "")
            )
    return DONE


def _for_shot(project: Project, rig_id: str, shot: str) -> Project:
    """The project with a rig serving that shot alone; raises InputError for one it does not serve."""
    rig = project.rig(rig_id)
    if shot not in rig.shots:
        raise InputError("--shot", repr(shot), f"rig {rig_id} serves " + (", ".join(rig.shots) or "no shot"))
    return replace(project, rigs=replaced(project.rigs, replace(rig, shots=(shot,))))


def _titled(finding: Finding) -> str:
    """A finding's title, with the shot it is worst in where there are several."""
    return f"{finding.title} ({finding.shot})" if finding.shot else finding.title


def check(args: argparse.Namespace) -> int:
    """Say what stops, if anything does."""
    project = readable(project_file.read(args.file))
    shelf, stopped = load_shelf(), False
    show = Display(project.units, project.fraction, project.currency)
    for rig in project.rigs:
        for finding in over_shots(
            _for_shot(project, rig.id, args.shot) if args.shot in rig.shots else project, shelf, rig.id
        ).findings:
            if finding.state == STOP:
                stopped = True
                print(f"{rig.name}: {_titled(finding)}: {finding.sentence.text(show)}")
    return STOPPED if stopped else DONE


def new(args: argparse.Namespace) -> int:
    """Write a project made of defaults and the parameters given."""
    project = blank(args.out.name.removesuffix(project_file.SUFFIX))
    shelf = load_shelf()
    project = starting.furnish(project, shelf, args.units, args.own, args.kit)
    project = with_first(changes.add_rig(project, args.kind, args.variant))
    rig = project.rigs[0].id
    if args.subject:
        project = starting.looking_at(project, args.subject)
    for setting in args.set:
        key, mark, text = setting.partition("=")
        known = bindings.parameters(project, rig)
        if not mark:
            raise InputError("--set", repr(setting), "must be NAME=VALUE")
        if key not in known:
            raise InputError(key, repr(text), "is not a parameter; hazel-lantern kinds lists them")
        project = changes.set_values(project, rig, [(key, known[key].read(text))])
    project = checking.check(project)
    checking.check_rows(project, shelf)
    for station in args.act:
        project = changes.set_values(project, rig, perform(project, shelf, rig, station))
    project_file.write(checking.check(project), free(args.out, args.force))
    return DONE
