"""What every sample comes to, in a file: numbers, states, keys, words, parts and drawings. `python -m tests.golden`
writes it anew.

A change of the house must leave all of it as it was; a change of an answer shows here, line by line, and is meant.
"""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np

from hazel_lantern.cli.told import as_json
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.sketch import Arrow, Handle, Lines, Note, Ring, Shape, Size, Stroke
from hazel_lantern.core.nouns.units import Display
from tests.helpers import SAMPLES, SHELF, sample

FOLDER = Path(__file__).parent / "cases" / "golden"
SHARE = 0.3


def spread(numbers) -> list[float]:
    """A line of numbers in brief: how many, first, last, sum and sum of squares."""
    row = np.asarray(numbers, float).ravel()
    return [len(row), float(row[0]), float(row[-1]), float(row.sum()), float(np.sum(row**2))]


def coordinates(item) -> list[float]:
    if isinstance(item, (Shape, Stroke, Lines)):
        return np.asarray(item.points).ravel().tolist()
    if isinstance(item, Size):
        return [*item.a, *item.b, item.value]
    if isinstance(item, Arrow):
        return [*item.at, item.newtons]
    assert isinstance(item, (Ring, Handle, Note))
    return list(item.at)


def drawn(result, station: str) -> dict[str, object]:
    views = {}
    for view, _ in result.views(station):
        sketch = result.draw(SHARE, view)
        words = sorted(
            {item.words.text(Display()) for item in sketch.items if isinstance(item, Note)}
            | {i.key for i in sketch.items if isinstance(i, (Size, Handle))}
        )
        # Dust of a rounding must not count: each kind of item for itself, in painting order.
        views[view] = {"box": list(sketch.box), "words": words}
        for sort in (Shape, Stroke, Lines, Ring, Size, Handle, Note, Arrow):
            numbers = [n for item in sketch.items if isinstance(item, sort) for n in coordinates(item)]
            if numbers:
                views[view][sort.__name__] = spread(numbers)
    return views


def told(name: str) -> dict[str, object]:
    """Everything about one sample, rig by rig."""
    project, found = sample(name), {}
    show = Display(project.units, project.fraction, project.currency)
    for rig in project.rigs:
        result = evaluate(project, SHELF, rig.id, suggest=True)
        said = json.loads(json.dumps(as_json(result, result.findings)))
        said = {key: said[key] for key in ("figures", "curves", "findings", "parts")}
        said["curves"] = {
            key: [c["x_unit"], c["y_unit"], *spread(c["x"]), *spread(c["y"])] for key, c in said["curves"].items()
        }
        said["findings"] = {row.pop("key"): row for row in said["findings"]}
        for finding in result.findings:
            said["findings"][finding.key] |= {
                "title": finding.title,
                "station": finding.station,
                "shown": finding.sentence.text(show),
            }
        said["stations"] = {f.key: f.station for f in result.figures.values()}
        said["lines"] = {key: result.headline(key, show) for key in ("shot", "rig", "balance", "travel", "build")}
        said["buy"] = [[line.name, line.quantity, line.price, line.note] for line in result.lines]
        said["drawn"] = {"rig": drawn(result, "rig"), "shot": drawn(result, "shot")}
        found[rig.id] = said
    return found


def differences(now, then, where: str = "") -> list[str]:
    """Where two such records differ: numbers by more than a billionth, anything else at all."""
    if isinstance(now, dict) and isinstance(then, dict):
        return [
            line
            for key in dict.fromkeys([*then, *now])
            for line in differences(now.get(key), then.get(key), f"{where}/{key}")
        ]
    if isinstance(now, list) and isinstance(then, list) and len(now) == len(then):
        return [
            line for k, (a, b) in enumerate(zip(now, then, strict=True)) for line in differences(a, b, f"{where}/{k}")
        ]
    numbers = all(isinstance(v, (int, float)) and not isinstance(v, bool) for v in (now, then))
    same = abs(now - then) <= 1e-9 * max(1.0, abs(then)) if numbers else now == then
    return [] if same else [f"{where}: {now!r}, was {then!r}"]


def path(name: str) -> Path:
    return FOLDER / f"{name}.json"


if __name__ == "__main__":
    for name in SAMPLES:
        path(name).write_text(
            json.dumps(told(name), ensure_ascii=False, separators=(",", ":")).replace('},"', '},\n"') + "\n"
        )
