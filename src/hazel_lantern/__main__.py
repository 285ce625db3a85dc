"""Entry point: the window for `run`, the command line for all else."""

from __future__ import annotations

import gc
import os
import sys


def main() -> int:
    """Exit code of the command in sys.argv; `run` is the default."""
    argv = sys.argv[1:] or ["run"]
    # Our matrices are small: more threads would only wait for one another, and for whatever else is busy.
    os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")
    if argv[0] == "run":
        # Nothing of a start is garbage; collections begin once the first window has been painted.
        gc.disable()
        from hazel_lantern.arguments import run_parser
        from hazel_lantern.desktop.application import run

        code = run(run_parser().parse_args(argv[1:]))
        # Everything is saved and no thread runs: taking the window apart piece by piece would only take time.
        sys.stdout.flush()
        sys.stderr.flush()
        os._exit(code)
    from hazel_lantern import cli

    return cli.main(argv)


if __name__ == "__main__":
    sys.exit(main())
