"""Sizing held against an exhaustive search: for random wishes, the best answer against the best of every combination of
a few values of each input, each worked out exactly.

Run as `python -m bench.wishes [COUNT] [RIG …]`. A line for each rig: wishes for which the answer was no worse, by how
much the worst one was worse, and how long an answer took against one evaluation.
"""

from __future__ import annotations

import itertools
import sys
import time
from pathlib import Path

import numpy as np
from msgspec.structs import replace

from hazel_lantern import assets
from hazel_lantern.core import catalogue
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.sizing import search
from hazel_lantern.core.sizing.answers import LIMITS, WANDERS, Made, Wish, fits, limits_of
from hazel_lantern.core.sizing.screen import COST, MASS, WANDER
from hazel_lantern.files import project_file

SAMPLE = "orchard-at-dusk.lantern.json"
RIGS = (
    "hive-jib-plumb",
    "jar-slider-board",
    "jar-slider",
    "kitchen-gantry",
    "lane-dolly",
    "comb-turntable",
    "pond-line",
)
VALUES, MOST = 3, 300  # of each input in the grid; combinations of it
SEEN = {"px": 0.05, "m": 1e-4}  # wander below which nobody sees which is less
FRESH = 10  # wishes whose search knows nothing from the ones before


def grid(found: search.Survey, rng: np.random.Generator) -> list[Made]:
    """Every combination of a few values of each input, or a great many of them, those that could be built."""
    few = [
        sorted({0, *rng.choice(len(one.values), min(VALUES - 1, len(one.values)), replace=False).tolist()})
        for one in found.varied
    ]
    every = list(itertools.product(*few))
    picked = every if len(every) <= MOST else [every[k] for k in rng.choice(len(every), MOST, replace=False)]
    alone = replace(found, known={})
    places = {tuple(row): n for n, row in enumerate(found.every.rows.tolist())}
    for one in picked:
        search.work_out(alone, places[tuple(one)])
    return [one for one in alone.known.values() if one is not None and not one.stops]


def main() -> None:
    count = int(sys.argv[1]) if sys.argv[1:] else 50
    project, shelf = project_file.decode(assets.data("samples", SAMPLE), Path(SAMPLE)), catalogue.load()
    print("rig                wishes  no worse  worst by  answer takes")
    for rig in sys.argv[2:] or RIGS:
        rng = np.random.default_rng(20261128)
        if rig in KINDS:  # one that the sample has none of
            project = changes.add_rig(project, rig)
            rig = project.rigs[-1].id
        start = time.perf_counter()
        evaluate(project, shelf, rig)
        one = time.perf_counter() - start
        found = last(search.survey(project, shelf, rig))
        figures = found.now.evaluation.figures
        seen = SEEN.get(next((figures[key].unit for key in WANDERS if key in figures), ""), 0.0)
        good = grid(found, rng)
        told = np.array([made.told for made in good])
        if not len(told):
            print(f"{rig:18} nothing of the grid may be built")
            continue
        worse, took = [], []
        for n in range(count):
            column = int(rng.choice([COST, MASS, WANDER]))
            name = str(rng.choice([key for key in ("cost", "mass", "wander") if LIMITS[key] != column]))
            least = seen if name == "wander" else 0.0
            wish = Wish(
                {name: max(least, float(np.quantile(told[:, LIMITS[name]], rng.uniform(0.05, 1.0))) * 1.001 + 1e-9)}
            )
            within = [made for made in good if fits(made, limits_of(wish, project), owned=False)]
            if not within:
                continue
            best = min(float(made.told[column]) for made in within)
            survey = replace(found, known={}) if n < FRESH else found
            start = time.perf_counter()
            sizes = last(search.wished(survey, wish))
            took.append((time.perf_counter() - start) / one)
            mine = min((answer.told[column] for answer in sizes.answers), default=np.inf)
            least = seen if column == WANDER else 0.0
            worse.append(max(mine, least) / max(best, least, 1e-12))
        beaten = sum(ratio <= 1.1 for ratio in worse), sum(ratio <= 1.001 for ratio in worse)
        print(
            f"{rig:18} {len(worse):6d}  {beaten[1]:4d} ({beaten[0]} within a tenth)  {max(worse) - 1:8.1%}  "
            f"{np.median(took):6.0f} ×",
            flush=True,
        )


if __name__ == "__main__":
    main()
