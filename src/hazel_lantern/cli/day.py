"""Commands about what is built and used: readings, takes, simulated devices."""

from __future__ import annotations

import argparse
import sys
from datetime import date

from hazel_lantern.cli.shared import DONE, chosen, free, load_shelf, print_json
from hazel_lantern.core.document.readable import readable
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.files import project_file


def measure(args: argparse.Namespace) -> int:
    """Take readings in, and print what every test of the rig says."""
    from hazel_lantern.files import measured

    project, shelf = project_file.read(args.file), load_shelf()
    rig = chosen(project, args.rig)
    day = args.day or date.today().isoformat()
    project = measured.taken(project, rig, args.csv, args.test, day)
    result = evaluate(readable(project), shelf, rig, built=args.basis == "built")
    if args.json:
        print_json(measured.as_json(result, date.fromisoformat(day)))
    else:
        print(
            measured.as_text(
                result, Display(project.units, project.fraction, project.currency), date.fromisoformat(day)
            )
        )
    if args.out is not None:
        project_file.write(project, free(args.out, args.force))
    return DONE


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
        free(args.out, args.force, args.file).write_bytes(takes.table(found))
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
