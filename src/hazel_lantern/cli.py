"""The command line: everything the bench can set and every figure it shows, without Qt."""

from __future__ import annotations

import argparse
import contextlib
import io
import json
import math
import os
import sys
from datetime import date
from pathlib import Path
from typing import Any

import msgspec
from msgspec import Struct
from msgspec.structs import replace
from numpy import ndarray

from hazel_lantern import __version__
from hazel_lantern.arguments import parser
from hazel_lantern.core.advice.adding import with_first
from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.drives import CRANK, GEARMOTOR, HAND, SLOW, SORTS, STEPPER, TURN
from hazel_lantern.core.document.project import FORMAT, Project, replaced
from hazel_lantern.core.document.readable import readable
from hazel_lantern.core.editing import bindings, changes, checking, starting
from hazel_lantern.core.editing.starting import blank, furnished
from hazel_lantern.core.evaluate import evaluate, over_shots, perform
from hazel_lantern.core.kinds import DECLARED
from hazel_lantern.core.nouns.errors import HazelError, InputError
from hazel_lantern.core.nouns.finding import STOP, Finding
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.marks import Mark
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.plan import Order, plans
from hazel_lantern.core.workshop.solids import Place
from hazel_lantern.files import packs, project_file
from hazel_lantern.files.errors import FileError
from hazel_lantern.files.exports import export

DONE, STOPPED, UNUSABLE = 0, 1, 2


def main(argv: list[str]) -> int:
    """Run one command; the answer is the exit code."""
    args = parser().parse_args(argv)
    try:
        for stream in (sys.stdout, sys.stderr):
            # Whatever the terminal cannot show is shown as well as it can.
            if isinstance(stream, io.TextIOWrapper):
                stream.reconfigure(errors="backslashreplace")
        code = COMMANDS[args.command](args)
        sys.stdout.flush()
        return code
    except BrokenPipeError:
        _drop_output()  # whoever was reading has seen enough
        return DONE
    except HazelError as error:
        return _unusable(str(error))
    except OSError as error:
        _drop_output()
        return _unusable(f"the output cannot be written: {error.strerror}")


def _unusable(words: str) -> int:
    with contextlib.suppress(OSError):
        print(f"hazel-lantern: {words}", file=sys.stderr, flush=True)
    return UNUSABLE


def _drop_output() -> None:
    """The interpreter's own flush at the end must not stumble over what could not be written."""
    with contextlib.suppress(OSError, ValueError):
        os.dup2(os.open(os.devnull, os.O_WRONLY), sys.stdout.fileno())


def _print_json(value: object) -> None:
    """JSON that stays JSON on a terminal of any encoding."""
    broad = (sys.stdout.encoding or "").lower().replace("-", "") in ("utf8", "utf16", "utf32")
    print(json.dumps(value, ensure_ascii=not broad, indent=1))


def _shelf() -> Catalogue:
    """The catalogue with the builder's packs; of those left out is told why."""
    shelf = packs.load()
    for words in shelf.left_out:
        print(f"hazel-lantern: {words}", file=sys.stderr)
    return shelf.catalogue


def _free(out: Path, force: bool, project: Path | None = None) -> Path:
    """Where an output may go: what is there is only written over when asked to, the project itself never."""
    if project is not None and os.path.exists(out) and os.path.samefile(out, project):
        raise FileError(out, "is the project itself, which no export replaces")
    if os.path.lexists(out) and not force and not out.is_dir():
        raise FileError(out, "is there already; --force writes over it")
    return out


def _chosen(project: Project, rig: str | None) -> str:
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


def _number(value: float) -> float | str:
    return value if math.isfinite(value) else ("inf" if value > 0 else "-inf")


def _for_shot(project: Project, rig_id: str, shot: str) -> Project:
    """The project with a rig serving that shot alone; raises InputError for one it does not serve."""
    rig = project.rig(rig_id)
    if shot not in rig.shots:
        raise InputError("--shot", repr(shot), f"rig {rig_id} serves " + (", ".join(rig.shots) or "no shot"))
    return replace(project, rigs=replaced(project.rigs, replace(rig, shots=(shot,))))


def _titled(finding: Finding) -> str:
    """A finding's title, with the shot it is worst in where there are several."""
    return f"{finding.title} ({finding.shot})" if finding.shot else finding.title


def solve(args: argparse.Namespace) -> int:
    """Print every figure, finding and part of one rig."""
    project = readable(project_file.read(args.file))
    shelf = _shelf()
    rig = _chosen(project, args.rig)
    if args.shot:
        project = _for_shot(project, rig, args.shot)
    built = args.basis == "built"
    result = over_shots(project, shelf, rig, built=built)
    findings = last(vetted(project, shelf, rig, built=built))
    if args.json:
        _print_json(as_json(result, findings))
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


def why_text(figure, show: Display) -> str:  # type: ignore[no-untyped-def]
    """A why in one line of plain text."""
    why = figure.why
    named = ", ".join(f"{g.symbol} = {show.text(g.value, g.unit)} ({g.named(show)})" for g in why.inputs)
    left = why.formula.text.replace("**", "^") if why.formula else why.method
    tail = "".join(
        f"; {text}" for text in (*why.assumptions, why.valid, f"source: {why.source}" if why.source else "") if text
    )
    return f"{left}; {named}{tail}" if named else f"{left}{tail}"


def _unit(unit: str) -> str:
    """The SI unit alone; what follows a colon only chooses how it is shown."""
    return unit.split(":")[0]


def as_json(result: Evaluation, findings: tuple[Finding, ...]) -> dict[str, Any]:
    """The published form of an evaluation: SI values, infinity as "inf"."""
    plain = Display()
    return {
        "format": FORMAT,
        "version": __version__,
        "rig": {"id": result.rig.id, "kind": result.rig.kind},
        "shot": result.shot.id,
        "basis": result.basis,
        "figures": {
            f.key: {"label": f.label, "value": _number(f.value), "unit": _unit(f.unit), "why": why_text(f, plain)}
            for f in result.figures.values()
        },
        "curves": {
            c.key: {"x": c.x.tolist(), "y": c.y.tolist(), "x_unit": _unit(c.x_unit), "y_unit": _unit(c.y_unit)}
            for c in result.curves.values()
        },
        "findings": [
            {
                "key": f.key,
                "about": f.about,
                "state": f.state,
                "value": _number(f.value),
                "limit": _number(f.limit),
                "sense": f.sense,
                "unit": _unit(f.unit),
                "where": f.where,
                "sentence": f.sentence.text(plain),
                **({"shot": f.shot} if f.shot else {}),
                "remedies": [
                    {"key": r.key, "label": r.label.text(plain), "changes": dict(r.changes)} for r in f.remedies
                ],
            }
            for f in findings
        ],
        "readings": {name: _plain(value) for name, value in result.readings.items()},
        "parts": [
            {
                "mark": p.mark,
                "name": p.name,
                "section": p.section,
                "made_from": p.solid.cut_from,
                "length": p.length,
                "quantity": p.quantity,
                "mass": p.mass,
                "matched": p.matched,
                "marks": [_marked(p, m) for m in p.marks],
                "places": [_placed(a) for a in p.places],
            }
            for p in result.parts
        ],
        "things": [
            {"name": t.name, "mass": t.mass, "places": [_placed(a) for a in t.places]} for t in result.laid.things
        ],
    }


def _marked(part: Part, mark: Mark) -> dict[str, Any]:
    """A mark with the face it is on, how far across it lies [m], and what goes through."""
    across = part.spot(mark)[1]
    return {
        "at": mark.at,
        "across": across,
        "face": mark.face,
        "what": mark.what,
        "size": mark.size,
        "until": mark.until,
        "note": mark.note,
        "fastening": mark.fastening,
    }


def _placed(place: Place) -> dict[str, Any]:
    """The body a solid moves with, and where and how it sits on it."""
    return {"body": place.body, "at": place.at, "along": place.along, "up": place.up}


def _plain(value: object) -> Any:
    """A reading in plain JSON: sentences worded, arrays as lists."""
    if isinstance(value, Words):
        return value.text(Display())
    if isinstance(value, Struct):
        return {name: _plain(getattr(value, name)) for name in value.__struct_fields__}
    if isinstance(value, dict):
        return {key: _plain(item) for key, item in value.items()}
    if isinstance(value, (tuple, list)):
        return [_plain(item) for item in value]
    return (
        _plain(value.tolist()) if isinstance(value, ndarray) else _number(value) if isinstance(value, float) else value
    )


def check(args: argparse.Namespace) -> int:
    """Say what stops, if anything does."""
    project = readable(project_file.read(args.file))
    shelf, stopped = _shelf(), False
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
    shelf = _shelf()
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
    project_file.write(checking.check(project), _free(args.out, args.force))
    return DONE


def _driven(project: Project, source: str) -> Project:
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


def kinds(args: argparse.Namespace) -> int:
    """Print kinds, variants and parameters, with the keys of their figures and findings."""
    shelf = _shelf()
    found = {}
    for kind in DECLARED.values():
        project = _driven(changes.add_rig(blank(), kind.id), GEARMOTOR)
        listed = [_declared(p, shelf) for p in bindings.parameters(project, project.rigs[0].id).values()]
        # Each construction has figures and findings of its own, and so has each move on a set.
        designs = [changes.add_rig(blank(), kind.id, variant) for variant, _ in kind.variants] + [
            changes.add_rig(project, kind.id) for project in furnished()
        ]
        # And so has whatever moves it.
        designs += [_driven(designs[0], source) for source in (HAND, CRANK, GEARMOTOR, STEPPER, SLOW)]
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
            "figures": {f.key: _unit(f.unit) for result in results for f in result.figures.values()},
            "curves": list(dict.fromkeys(key for result in results for key in result.curves)),
            "findings": sorted({f.key for result in results for f in result.findings}),
        }
    _print_json(found)
    return DONE


def schema(args: argparse.Namespace) -> int:
    """Print the JSON Schema."""
    _print_json(project_file.schema())
    return DONE


def completion(args: argparse.Namespace) -> int:
    """Print what a shell completes."""
    from hazel_lantern import completion as words

    print(words.bash() if args.shell == "bash" else words.fish(), end="")
    return DONE


def measure(args: argparse.Namespace) -> int:
    """Take readings in, and print what every test of the rig says."""
    from hazel_lantern.files import measured

    project, shelf = project_file.read(args.file), _shelf()
    rig = _chosen(project, args.rig)
    day = args.day or date.today().isoformat()
    project = measured.taken(project, rig, args.csv, args.test, day)
    result = evaluate(readable(project), shelf, rig, built=args.basis == "built")
    if args.json:
        _print_json(measured.as_json(result, date.fromisoformat(day)))
    else:
        print(
            measured.as_text(
                result, Display(project.units, project.fraction, project.currency), date.fromisoformat(day)
            )
        )
    if args.out is not None:
        project_file.write(project, _free(args.out, args.force))
    return DONE


def size(args: argparse.Namespace) -> int:
    """Print a few different good sizes of a rig; write the project with one of them."""
    from hazel_lantern.core.sizing import search

    project, shelf = project_file.read(args.file), _shelf()
    rig = _chosen(project, args.rig)
    limits: dict[str, float] = {}
    for text in args.limit:
        name, _, value = text.partition("=")
        try:
            limits[name] = float(value)
        except ValueError:
            raise InputError(f"--limit {name}", repr(value), "must be a number, as in cost=80") from None
    found = last(search.size(project, shelf, rig, search.Wish(limits, args.prefer == "stock"), args.shot))
    show = Display(project.units, project.fraction, project.currency)
    columns = ("cost", "mass", "wander", "use", "longest")
    if args.json:
        _print_json({"screened": found.screened, "now": dict(zip(columns, found.now, strict=True)), "trouble": found.trouble.text(show) if found.trouble else "", "answers": {one.name: {**dict(zip(columns, one.told, strict=True)), "changes": dict(one.changes)} for one in found.answers}})  # fmt: skip
    else:
        for one in found.answers:
            print(f"{one.name:9} {show.text(one.told[0], 'currency')}, {show.text(one.told[1], 'kg')}, longest {show.text(one.told[4], 'm')}: " + ", ".join(f"{key}={value}" for key, value in one.changes))  # fmt: skip
        for words in (found.trouble, found.smaller):
            if words is not None:
                print(words.text(show))
    if args.out is not None:
        name = args.take or next((one.name for one in found.answers), "")
        answer = next((one for one in found.answers if one.name == name), None)
        if answer is None:
            raise InputError("--take", repr(name), "is none of the answers: " + (", ".join(one.name for one in found.answers) or "there are none"))  # fmt: skip
        project_file.write(changes.set_values(project, rig, answer.changes), _free(args.out, args.force))
    return DONE if found.answers else STOPPED


def takes_table(args: argparse.Namespace) -> int:
    """Print or write the takes beside a project, or take those of a table in."""
    from hazel_lantern.files import takes

    project_file.read(args.file)
    path = takes.beside(args.file)
    if args.csv is not None:
        good, wrong = takes.read_table(args.csv)
        if wrong:
            raise InputError(args.csv.name, "; ".join(wrong[:3]), "must be rows of takes")
        for take in good:
            takes.append(path, take)
    found, bad = takes.load(path)
    if bad:
        print(f"hazel-lantern: {bad} lines of {path.name} are no takes and were left out", file=sys.stderr)
    if args.out is not None:
        _free(args.out, args.force, args.file).write_bytes(takes.table(found))
    else:
        print(takes.table(found).decode("utf-8-sig"), end="")
    return DONE


def simulate(args: argparse.Namespace) -> int:
    """A stand-in on a socket of this machine."""
    from hazel_lantern.devices import served, standing_in

    controls = args.what == "controller"
    device = standing_in.controller(args.seed) if controls else standing_in.instrument(args.sort, args.truth, args.seed)
    try:
        one = served.Served(device, args.socket)
    except OSError as error:
        raise InputError("--socket", args.socket, f"cannot be used: {error.strerror}") from error
    print(f"{args.what if controls else args.sort} at socket:{one.number}; Ctrl+C stops it", flush=True)
    one.wait()
    return DONE


def export_file(args: argparse.Namespace) -> int:
    """Write one export."""
    project = readable(project_file.read(args.file))
    export(project, _shelf(), _chosen(project, args.rig), args.to, _free(args.out, args.force, args.file))
    return DONE


def plan_cuts(args: argparse.Namespace) -> int:
    """The exact plans, for the window's background process."""
    from hazel_lantern.core.workshop.cutting import exact

    try:
        order = msgspec.json.decode(sys.stdin.buffer.read(), type=Order)
    except msgspec.DecodeError as error:
        raise InputError("standard input", "an order", f"cannot be read: {error}") from error
    sys.stdout.buffer.write(msgspec.json.encode(plans(order, exact)))
    return DONE


COMMANDS = {
    "completion": completion,
    "solve": solve,
    "check": check,
    "new": new,
    "kinds": kinds,
    "schema": schema,
    "export": export_file,
    "measure": measure,
    "simulate": simulate,
    "takes": takes_table,
    "size": size,
    "plan-cuts": plan_cuts,
}
