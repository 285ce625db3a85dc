"""Commands of the workshop: sizes, exports, exact cutting plans."""

from __future__ import annotations

import argparse
import sys

import msgspec

from hazel_lantern.cli.shared import DONE, STOPPED, chosen, free, load_shelf, print_json
from hazel_lantern.core.document.readable import readable
from hazel_lantern.core.editing import changes
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.plan import Order, plans
from hazel_lantern.files import atomic, project_file
from hazel_lantern.files.exports import export


def size(args: argparse.Namespace) -> int:
    """Print a few different good sizes of a rig; write the project with one of them."""
    from hazel_lantern.core.sizing.answers import Dot, Wish
    from hazel_lantern.core.sizing.search import size as sized

    project, shelf = project_file.read(args.file), load_shelf()
    rig = chosen(project, args.rig)
    limits: dict[str, float] = {}
    for text in args.limit:
        name, _, value = text.partition("=")
        try:
            limits[name] = float(value)
        except ValueError:
            raise InputError(f"--limit {name}", repr(value), "must be a number, as in cost=80") from None
    found = last(sized(project, shelf, rig, Wish(limits, args.prefer == "stock", tuple(args.keep)), args.shot))
    show = Display(project.units, project.fraction, project.currency)
    columns = ("cost", "mass", "wander", "use", "longest", "stops")

    def dotted(one: Dot) -> dict[str, object]:
        return {"cost": one.cost, "mass": one.mass, "wander": one.wander, "bounce": one.bounce, "sound": one.sound}

    if args.json:
        answers = {
            one.aims[0]: {"aims": one.aims, **dict(zip(columns, one.told, strict=True)), "changes": dict(one.changes)}
            for one in found.answers
        }
        trouble = found.trouble.text(show) if found.trouble else ""
        print_json(
            {
                "screened": found.screened,
                "now": dotted(found.now),
                "trouble": trouble,
                "answers": answers,
                "cloud": [dotted(one) for one in found.cloud],
            }
        )
    else:
        for one in found.answers:
            print(
                f"{one.name}: {show.text(one.told[0], 'currency')}, {show.text(one.told[1], 'kg')}, longest "
                f"{show.text(one.told[4], 'm')}; " + ", ".join(f"{key}={value}" for key, value in one.changes)
            )
        for words in (found.trouble, found.smaller):
            if words is not None:
                print(words.text(show))
    if args.out is not None:
        name = args.take or next((one.aims[0] for one in found.answers), "")
        answer = next((one for one in found.answers if name in one.aims), None)
        if answer is None:
            raise InputError(
                "--take",
                repr(name),
                "is none of the answers: " + ("; ".join(one.name for one in found.answers) or "there are none"),
            )
        project_file.write(changes.set_values(project, rig, answer.changes), free(args.out, args.force))
    return DONE if found.answers else STOPPED


def shoot(args: argparse.Namespace) -> int:
    """Print all rigs of a project in one list, and what they share."""
    from hazel_lantern.core.advice import shoot as listed
    from hazel_lantern.files import shoot_csv

    project = readable(project_file.read(args.file))
    found = last(listed.shoot(project, load_shelf(), args.rig))
    show = Display(project.units, project.fraction, project.currency)
    if args.json:
        carried = {
            row.rig: [
                {"sort": load.sort, "mass": load.mass, "longest": load.longest, "pieces": len(load.pieces)}
                for load in row.loads
            ]
            for row in found.rows
        }
        print_json(
            {
                "rigs": {
                    row.rig: {
                        "cost": row.cost,
                        "mass": row.mass,
                        "longest": row.longest,
                        "people": row.people,
                        "stops": row.stops,
                        "trouble": row.trouble,
                        "loads": carried[row.rig],
                    }
                    for row in found.rows
                },
                "shared": [
                    {
                        "sort": one.sort,
                        "name": one.name,
                        "price": one.price,
                        "counts": dict(one.counts),
                        "saved": one.saved,
                    }
                    for one in found.shared
                ],
                "people": found.people,
                "saved": found.saved,
            }
        )
    else:
        for row in found.rows:
            print(f"{row.name}: {listed.told(row, show)}")
        print(listed.summed(found, show))
        for one in found.shared:
            print(
                f"  {one.sort}: {one.name}, {one.together} in place of {one.apart}: "
                f"{', '.join(rig for rig, _ in one.counts)}"
            )
    if args.out is not None:
        atomic.write(free(args.out, args.force, args.file), shoot_csv.write(found))
    return DONE


def export_file(args: argparse.Namespace) -> int:
    """Write one export."""
    project = readable(project_file.read(args.file))
    export(project, load_shelf(), chosen(project, args.rig), args.to, free(args.out, args.force, args.file))
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
