"""Whole designs taken at random and reckoned again by hand, without the program's mechanics: forces, bending and
stresses of every member, footing at every pose. `./hazel bench --audit [--seed N] [--count N] [KIND …]`.

What differs by more than a fiftieth is listed, and whether the program's answer is the unsafe one; what is beyond what
it may bear must be a stop.
"""

from __future__ import annotations

import argparse
import os
import sys
import time
from collections import Counter
from collections.abc import Iterator

os.environ.setdefault("OPENBLAS_NUM_THREADS", "1")

import numpy as np
from bench import designs

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.editing import checking
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, STRUCTURE
from tests.audit.dolly import dolly
from tests.audit.gantry import gantry
from tests.audit.jib import jib
from tests.audit.orbit import orbit
from tests.audit.rails import rails
from tests.audit.rig import DIFFERS, SHELF, Rig, allowed
from tests.audit.ropes import cable_cam

BY_KIND = {
    "slider": rails,
    "overhead": rails,
    "gantry": gantry,
    "jib": jib,
    "dolly": dolly,
    "orbit": orbit,
    "cable_cam": cable_cam,
}


def audited(kind: str, variant: str, seed: int) -> tuple[list[str], list[str]] | None:
    """What differs and what is silent of one design; None where it is none, or cannot be built."""
    project = designs.design(SHELF, kind, variant, seed, (designs.NEAR, designs.WITHIN)[seed % 2])
    try:
        checking.check(project)
        result = evaluate(project, SHELF, project.rigs[0].id)
    except HazelError:
        return None
    if result.model is None or any(f.key in ("rig.impossible", "rig.too_soft") for f in result.findings):
        return None
    rig = Rig(project, result)
    rig.lens = np.asarray(project.kit_of(rig.rig).lens_at_m)
    differs = []
    for key, by_hand_value, more, *against in BY_KIND[kind](rig):
        if key not in result.figures:
            continue
        said = result.figures[key].value
        scale = max(abs(by_hand_value), abs(said), 1e-9, *against)
        if abs(said - by_hand_value) > DIFFERS * scale:
            unsafe = said < by_hand_value if more else said > by_hand_value
            differs.append(f"{key} {said:.6g}, by hand {by_hand_value:.6g}{' UNSAFE' if unsafe else ''}")
    bears = {f.figure: f.limit for f in result.findings}
    wrong = [
        f"{figure} is held against {bears[figure]:.4g}, by hand {limit:.4g}"
        for figure, limit in limits(rig)
        if figure in bears and abs(bears[figure] - limit) > 1e-6 * limit
    ]
    return differs, [*silent(result), *wrong]


def limits(r: Rig) -> Iterator[tuple[str, float]]:
    """What main members may be worked at, by the figure that is held against it [Pa]."""
    overhead = r.rig.kind in ("gantry", "overhead")
    letter = "D" if overhead else r.letter
    for figure, key in (
        ("rig.stress", "rail.section"),
        ("rig.stress", "arm.section"),
        ("rig.runway_stress", "runway.section"),
        ("rig.boom_stress", "boom.section"),
    ):
        if key in r.d:
            yield figure, allowed(r.bar(key).material, letter)
    if r.rig.kind == "gantry" and r.rig.variant == "bar":
        yield "rig.stress", allowed(r.bar("bridge.section").material, letter)


def silent(result: Evaluation) -> list[str]:
    """Stresses that no finding judges, and limits passed that are no stop."""
    judged = {f.figure for f in result.findings}
    found = [
        f"{key} is judged by nobody"
        for key, figure in result.figures.items()
        if figure.unit == "Pa" and key not in judged
    ]
    for f in result.findings:
        beyond = f.value > f.limit * (1 + 1e-9) if f.sense == "at_most" else f.value < f.limit * (1 - 1e-9)
        if f.unit == "Pa" and f.about in (STRUCTURE, PEOPLE) and beyond and f.state != STOP:
            found.append(f"{f.key} is beyond its limit and {f.state}")
    return found


def main(args: list[str] | None = None) -> int:
    parser = argparse.ArgumentParser(prog="audit", description=__doc__)
    parser.add_argument("--audit", action="store_true", help=argparse.SUPPRESS)
    parser.add_argument("kinds", nargs="*", help="of " + ", ".join(BY_KIND))
    parser.add_argument("--seed", type=int, default=0)
    parser.add_argument("--count", type=int, default=300, help="designs a kind")
    chosen = parser.parse_args(args)
    bad = 0
    for kind in chosen.kinds or list(BY_KIND):
        variants = [v for k, v in designs.constructions() if k == kind]
        done, off, unsafe, quiet, keys, started = 0, 0, 0, 0, Counter(), time.perf_counter()
        seed = chosen.seed
        while done < chosen.count:
            found = audited(kind, variants[seed % len(variants)], seed)
            seed += 1
            if found is None:
                continue
            done += 1
            differs, silences = found
            off += bool(differs)
            unsafe += any(text.endswith("UNSAFE") for text in differs)
            quiet += bool(silences)
            keys.update(text.split(" ")[0] + (" UNSAFE" if text.endswith("UNSAFE") else "") for text in differs)
            for text in [*differs, *silences]:
                print(f"{kind} {variants[(seed - 1) % len(variants)]} seed {seed - 1}: {text}")
        print(
            f"{kind}: {done} designs, {off} differ by more than 2 %, {unsafe} on the unsafe side, {quiet} silent; "
            f"{time.perf_counter() - started:.0f} s"
        )
        print("   ", dict(keys))
        bad += off > chosen.count / 50 or unsafe > 0 or quiet > 0
    return int(bad > 0)


if __name__ == "__main__":
    sys.exit(main())
