"""Sizing over the catalogue: combinations screened a second, and whole searches of the sample's rigs against one
evaluation of the same rig; the longest step is how long a search goes on after it was stopped.

Run as `python -m bench.sizing [RIG …]`.
"""

from __future__ import annotations

import sys
import time
from pathlib import Path

import numpy as np

from hazel_lantern import assets
from hazel_lantern.core import catalogue
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.sizing.answers import Wish
from hazel_lantern.core.sizing.screen import MASS, MOST, Effects, screened, shortlist
from hazel_lantern.core.sizing.search import size
from hazel_lantern.files import project_file

SAMPLE = "orchard-at-dusk.lantern.json"


def rate() -> float:
    """Combinations screened and put in order a second."""
    rng, base = np.random.default_rng(1), np.array([100.0, 10.0, 5.0, 0.5, 2.0, 0.0])
    rows = int(MOST ** (1 / 5))
    effects = [Effects(base * rng.uniform(0.6, 1.5, (rows, 6))) for _ in range(5)]
    start = time.perf_counter()
    found = screened(base, effects)
    shortlist(found, MASS, np.full(6, np.inf), 10)
    return len(found.told) / (time.perf_counter() - start)


def main() -> None:
    print(f"screened: {rate() / 1e6:.1f} million a second")
    project, shelf = project_file.decode(assets.data("samples", SAMPLE), Path(SAMPLE)), catalogue.load()
    print("rig                evaluation  first answer   search  longest step  screened  answers")
    for rig in sys.argv[1:] or [one.id for one in project.rigs]:
        start = time.perf_counter()
        evaluate(project, shelf, rig)
        one, steps, last, first = time.perf_counter() - start, list[float](), time.perf_counter(), 0.0
        for step in size(project, shelf, rig, Wish()):
            now = time.perf_counter()
            steps.append(now - last)
            last, found = now, step.answer
            first = first or (sum(steps) if found is not None else 0.0)
        assert found is not None
        print(
            f"{rig:18} {one * 1e3:7.0f} ms {first / one:11.0f} × {sum(steps) / one:7.0f} × {max(steps) / one:10.1f} "
            f"×  {found.screened:8d}  {len(found.answers)}"
        )


if __name__ == "__main__":
    main()
