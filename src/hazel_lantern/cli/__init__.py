"""The command line: everything the bench can set and every figure it shows, without Qt."""

from __future__ import annotations

import contextlib
import io
import os
import sys

from hazel_lantern.arguments import parser
from hazel_lantern.cli import day, designs, lists, making
from hazel_lantern.cli.shared import DONE, UNUSABLE
from hazel_lantern.core.nouns.errors import HazelError


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


COMMANDS = {
    "completion": lists.completion,
    "man": lists.man,
    "solve": designs.solve,
    "check": designs.check,
    "new": designs.new,
    "kinds": lists.kinds,
    "schema": lists.schema,
    "export": making.export_file,
    "measure": day.measure,
    "simulate": day.simulate,
    "takes": day.takes_table,
    "size": making.size,
    "shoot": making.shoot,
    "plan-cuts": making.plan_cuts,
}
