"""The words of the command line, apart from what they do: the window's start reads them too."""

from __future__ import annotations

import argparse
from pathlib import Path

from hazel_lantern import __version__
from hazel_lantern.files.exports import FORMATS

EXAMPLES = {
    "run": ("run mine.lantern.json", "run --sample"),
    "solve": ("solve mine.lantern.json", "solve mine.lantern.json --basis built --json"),
    "check": ("check mine.lantern.json",),
    "new": (
        "new jib --set arm.front=1.75m --set shot.end=2.6m --act rig --act balance -o crane.lantern.json",
        "new gantry --units in --own plate-5 --kit body=1.6lb --subject table -o over.lantern.json",
    ),
    "completion": ("completion bash",),
    "man": ("man > hazel-lantern.1",),
    "schema": ("schema > project.schema.json",),
    "kinds": ("kinds jib",),
    "export": ("export mine.lantern.json --to pdf -o sheet.pdf", "export mine.lantern.json --to gltf -o move.gltf"),
    "measure": ('measure mine.lantern.json --test sag "2 kg" "5.8 mm" -o measured.lantern.json',),
    "takes": ("takes mine.lantern.json -o takes.csv",),
    "size": (
        "size mine.lantern.json --limit mass=40 --keep stand --json",
        "size mine.lantern.json --take cheapest -o sized.lantern.json",
    ),
    "shoot": ("shoot mine.lantern.json -o loads.csv",),
    "simulate": ("simulate instrument scale --truth 24.5 --socket 7070", "simulate controller"),
    "plan-cuts": ("plan-cuts < order.json",),
}  # fmt: skip


def _run_words(run: argparse.ArgumentParser) -> argparse.ArgumentParser:
    run.add_argument("file", nargs="?", type=Path, help="a project to open")
    run.add_argument("--sample", action="store_true", help="open the sample project")
    run.add_argument("--quit-after-paint", action="store_true", help="exit after the first painted window")
    return run


def run_parser() -> argparse.ArgumentParser:
    """The words of `run` alone: the window's start reads no others."""
    return _run_words(argparse.ArgumentParser(prog="hazel-lantern run"))


def _out_words(command: argparse.ArgumentParser) -> None:
    command.add_argument("-o", "--out", type=Path, required=True, help="where it is written")
    command.add_argument("--force", action="store_true", help="write over a file that is there already")


def parser() -> argparse.ArgumentParser:
    """Every command with its words."""
    top = argparse.ArgumentParser(
        prog="hazel-lantern", description="Design, build, prove and operate moving camera rigs."
    )
    top.add_argument("--version", action="version", version=__version__)
    commands = top.add_subparsers(dest="command", metavar="COMMAND")
    _run_words(commands.add_parser("run", help="open the window"))
    solve = commands.add_parser("solve", help="every figure and finding of one rig")
    solve.add_argument("file", type=Path, help="a project")
    solve.add_argument("--rig", help="id of the rig, when the project has several")
    solve.add_argument(
        "--shot", default="", help="one shot of the rig; else all it serves, each finding where it is worst"
    )
    solve.add_argument(
        "--basis",
        choices=("drawn", "built"),
        default="drawn",
        help="as drawn, or with what was measured on the built rig in its place",
    )
    solve.add_argument("--json", action="store_true", help="as JSON, numbers in SI")
    check = commands.add_parser(
        "check", help="exit 0 when all is clear or watch, 1 with some stop, 2 for a file that cannot be used"
    )
    check.add_argument("file", type=Path, help="a project")
    check.add_argument("--shot", default="", help="for rigs that serve this shot, look at it alone")
    new = commands.add_parser("new", help="a project from defaults and named parameters")
    new.add_argument("kind", help="what rig, as kinds lists them")
    new.add_argument("--variant", default="", help="its construction; the first where it is not said")
    new.add_argument(
        "--set",
        action="append",
        default=[],
        metavar="NAME=VALUE",
        help='such as arm.front="5\' 9\\""; repeat as needed',
    )
    new.add_argument(
        "--act",
        action="append",
        default=[],
        metavar="STATION",
        help="then do the station's main action, such as rig (size it) or balance; repeat as needed",
    )
    new.add_argument("--units", default="", choices=("mm", "in"), help="millimetres, or inches and fractions")
    new.add_argument("--own", action="append", default=[], metavar="PLATE", help="a weight owned, by its catalogue row")
    new.add_argument("--kit", action="append", default=[], metavar="NAME=MASS", help="an item of the camera kit")
    new.add_argument("--subject", default="", metavar="KIND", help="what the shot looks at, such as person or table")
    _out_words(new)
    commands.add_parser("man", help="the manual page, to be read with man")
    shell = commands.add_parser("completion", help="a completion script for a shell")
    shell.add_argument("shell", choices=("bash", "fish"), help="bash or fish")
    commands.add_parser("schema", help="JSON Schema of the project file")
    kinds = commands.add_parser("kinds", help="kinds, variants and parameters as JSON")
    kinds.add_argument("kind", nargs="*", help="which of them; all where none is said")
    out = commands.add_parser("export", help="write a file: " + ", ".join(FORMATS))
    out.add_argument("file", type=Path, help="a project")
    out.add_argument("--rig", help="id of the rig, when the project has several")
    out.add_argument(
        "--to",
        required=True,
        choices=list(FORMATS),
        help="what is written: "
        + "; ".join(f"{key}: {row[0][:1].lower()}{row[0][1:]}" for key, row in FORMATS.items()),
    )
    _out_words(out)
    measure = commands.add_parser("measure", help="readings of tests of a built rig taken in, and what every test says")
    measure.add_argument("file", type=Path, help="a project")
    measure.add_argument("--rig", help="id of the rig, when the project has several")
    measure.add_argument("--csv", type=Path, help="a table of readings, as export --to tests-csv writes it")
    measure.add_argument(
        "--test",
        nargs="+",
        action="append",
        default=[],
        metavar=("KEY", "READING"),
        help='one row of a test, such as --test sag "2 kg" "5.8 mm"; repeat as needed',
    )
    measure.add_argument("--day", default="", help="such as 2027-04-08; today where it is not said")
    measure.add_argument("--basis", choices=("drawn", "built"), default="drawn", help="what readings are held against")
    measure.add_argument("--json", action="store_true", help="as JSON, numbers in SI")
    measure.add_argument("-o", "--out", type=Path, help="the project with these readings; without it none is written")
    measure.add_argument("--force", action="store_true", help="write over a file that is there already")
    taken = commands.add_parser("takes", help="the takes of a project as a table, or those of a table taken in")
    taken.add_argument("file", type=Path, help="a project")
    taken.add_argument("--csv", type=Path, help="a table of takes to take in, as this command writes it")
    taken.add_argument("-o", "--out", type=Path, help="where the table goes; printed where it is not said")
    taken.add_argument("--force", action="store_true", help="write over a file that is there already")
    sized = commands.add_parser(
        "size", help="sizes for a rig's shot over the whole catalogue: a few different good ones"
    )
    sized.add_argument("file", type=Path, help="a project")
    sized.add_argument("--rig", help="id of the rig, when the project has several")
    sized.add_argument("--shot", default="", help="the shot, where the rig serves several")
    sized.add_argument(
        "--limit", action="append", default=[], metavar="NAME=VALUE", help="cost, mass, wander or longest, SI"
    )
    sized.add_argument("--prefer", choices=("stock",), help="only sections that are at hand")
    sized.add_argument(
        "--keep", action="append", default=[], metavar="KEY", help="an input that stays as it is, such as stand"
    )
    sized.add_argument(
        "--take", choices=("lightest", "cheapest", "stiffest", "from stock"), help="the one that --out gets"
    )
    sized.add_argument("--json", action="store_true", help="as JSON, numbers in SI")
    sized.add_argument("-o", "--out", type=Path, help="where it is written")
    sized.add_argument("--force", action="store_true", help="write over a file that is there already")
    shoot = commands.add_parser(
        "shoot", help="all rigs in one list: cost, mass, loads to carry, longest piece, people, and what they share"
    )
    shoot.add_argument("file", type=Path, help="a project")
    shoot.add_argument("--rig", action="append", default=[], help="only this one; repeat for several")
    shoot.add_argument("--json", action="store_true", help="as JSON, numbers in SI")
    shoot.add_argument("-o", "--out", type=Path, help="a table of it, CSV")
    shoot.add_argument("--force", action="store_true", help="write over a file that is there already")
    stand_in = commands.add_parser(
        "simulate", help="a simulated device on a socket of this machine, until it is stopped"
    )
    stand_in.add_argument("what", choices=("instrument", "controller"), help="what it stands in for")
    stand_in.add_argument(
        "sort", nargs="?", default="scale", help="scale, inclinometer, tape, stopwatch, accelerometer"
    )
    stand_in.add_argument("--socket", type=int, default=0, help="its number; any free one where it is not said")
    stand_in.add_argument("--truth", type=float, default=0.0, help="what it finds, SI; an accelerometer: hertz")
    stand_in.add_argument("--seed", type=int, default=0, help="of its own error")
    commands.add_parser(
        "plan-cuts", help="exact cutting plans: what is ordered as JSON on standard input, plans as JSON"
    )
    for name, command in commands.choices.items():
        helped = next(one.help for one in commands._choices_actions if one.dest == name)  # noqa: SLF001
        command.description = f"{helped[:1].upper()}{helped[1:]}." if helped else None
        command.formatter_class = argparse.RawDescriptionHelpFormatter
        lines = "\n".join(f"  hazel-lantern {example}" for example in EXAMPLES.get(name, ()))
        command.epilog = f"examples:\n{lines}" if lines else None
    return top


def commands(top: argparse.ArgumentParser) -> dict[str, argparse.ArgumentParser]:
    """Every command by name."""
    # argparse tells its words in no other way.
    return dict(next(action.choices for action in top._actions if isinstance(action.choices, dict)))  # noqa: SLF001
