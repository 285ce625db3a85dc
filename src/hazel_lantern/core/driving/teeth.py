"""Two gears in mesh drawn close, turned as far as the move has turned them: flanks, pitch circles, line of action."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.drawing import CHAIN, DIRECTION, shafts_of
from hazel_lantern.core.driving.driven import Broken, Driven
from hazel_lantern.core.motion.gears import Gear, Pair, tooth
from hazel_lantern.core.nouns.sketch import Item, Note, Ring, Shape, Size, Sketch, Stroke
from hazel_lantern.core.nouns.words import Words

MESH = f"{CHAIN}mesh."
FINE = 1e-5  # metres that a drawn flank may stray
ROUND = 97  # points of a circle


def mesh_views(found: tuple[Driven | Broken, ...]) -> tuple[tuple[str, str], ...]:
    """A drawing for every pair of gears, named by its teeth."""
    return tuple(
        (f"{MESH}{one.axis.key}.{n}", f"{made.mesh.first.teeth} : {made.mesh.second.teeth}")
        for one in found
        if isinstance(one, Driven)
        for n, made in enumerate(one.made)
        if made.mesh is not None
    )


def mesh_drawing(found: tuple[Driven | Broken, ...], view: str, share: float) -> Sketch | None:
    """One of them at a share of the move; None where there is no such pair."""
    axis, _, number = view.removeprefix(MESH).rpartition(".")
    given = next((one for one in found if isinstance(one, Driven) and one.axis.key == axis), None)
    if given is None or int(number) >= len(given.made) or given.made[int(number)].mesh is None:
        return None
    n = int(number)
    one, shafts = given.made[n], shafts_of(given, share)
    assert one.mesh is not None
    before = sum(made.second is not None for made in given.made[:n])
    mesh, fill = one.mesh, one.fill
    small, large = mesh.first, mesh.second
    angles = shafts[before].angle, shafts[before + 1].angle + DIRECTION + math.pi / large.teeth
    apart, reach = mesh.apart, 1.25 * min(small.tip, large.tip)
    items: list[Item] = [
        Shape(_turned(large, angles[1]) + (apart, 0.0), fill),
        Shape(_turned(small, angles[0]), fill),
        *_lines(mesh),
        Ring((0.0, 0.0), 0.004),
        Ring((apart, 0.0), 0.004),
    ]
    left, right = -small.tip - 0.35 * reach, min(apart + large.tip, small.pitch + 2.6 * reach) + 0.2 * reach
    high = 1.35 * max(reach, min(small.tip, 0.4 * (right - left)))
    items += _words(mesh, (left, right, high), given, n)
    return Sketch(
        tuple(items),
        (left, -high * 1.15, right, high * 1.15),
        f"{d.SORTS[one.kind].name} {n + 1}",
        ground=False,
        framed=True,
    )


def _turned(made: Gear, angle: float) -> np.ndarray:
    """The whole gear, turned, about its own middle (n, 2) [m]."""
    turns = angle + 2 * math.pi * np.arange(made.teeth) / made.teeth
    cos, sin = np.cos(turns)[:, None], np.sin(turns)[:, None]
    x, y = tooth(made, FINE).T
    return np.stack([cos * x - sin * y, sin * x + cos * y], axis=2).reshape(-1, 2)


def _lines(mesh: Pair) -> list[Item]:
    """Pitch circles of the pair as it stands, and the line that contact runs along, as far as it does."""
    around = np.linspace(0.0, 2 * math.pi, ROUND)
    circle = np.column_stack([np.cos(around), np.sin(around)])
    rolls = mesh.apart * mesh.first.teeth / (mesh.first.teeth + mesh.second.teeth)
    items: list[Item] = [
        Stroke(circle * rolls, "muted", dash=True),
        Stroke(circle * (mesh.apart - rolls) + (mesh.apart, 0.0), "muted", dash=True),
    ]
    way = np.array([math.sin(mesh.angle), math.cos(mesh.angle)])
    pole = np.array([rolls, 0.0])

    def along(gear: Gear, radius: float) -> float:
        return math.sqrt(max(0.0, gear.tip**2 - gear.base**2)) - radius * math.sin(mesh.angle)

    ends = pole + way * along(mesh.first, rolls), pole - way * along(mesh.second, mesh.apart - rolls)
    long = 1.7 * max(abs(along(mesh.first, rolls)), abs(along(mesh.second, mesh.apart - rolls)))
    items.append(Stroke(np.array([pole - way * long, pole + way * long]), "water", dash=True))
    items.append(Stroke(np.array(ends), "water", 0.0012))
    return [*items, *(Ring((float(x), float(y)), 0.3 * mesh.first.module) for x, y in ends)]


def _words(mesh: Pair, box: tuple[float, float, float], given: Driven, n: int) -> list[Item]:
    """Sizes and what is said of the pair."""
    left, right, high = box
    small, large = mesh.first, mesh.second
    shown = min(mesh.apart, right - 0.1 * (right - left))
    items: list[Item] = []
    if shown == mesh.apart:
        items.append(Size((0.0, 0.0), (mesh.apart, 0.0), high * 0.92, mesh.apart, "m", words="between shafts"))
    else:
        items.append(Note(((left + right) / 2, high * 1.02), Words("{} between shafts", ((mesh.apart, "m"),)), "ink"))
    step = 0.085 * high
    told = (
        (Words(f"{small.teeth} teeth, outside {{}}", ((2 * small.tip, "m"),)), "ink"),
        (
            Words("shifted out by {}", ((small.shift * small.module, "m:tooth"),))
            if small.shift
            else Words("not shifted"),
            "muted",
        ),
    )
    items += [Note((0.0, -0.35 * small.pitch - step * k), words, role) for k, (words, role) in enumerate(told)]
    side = small.pitch + 0.55 * (right - small.pitch)
    of_large = Words(f"{large.teeth} teeth, outside {{}}", ((2 * large.tip, "m"),))
    for k, (words, role) in enumerate(
        (
            (of_large, "ink"),
            (Words("{} pairs of teeth in contact", ((mesh.contact, "1"),)), "water"),
            (Words("play {} at the pitch circle", ((small.backlash, "m:tooth"),)), "watch"),
        )
    ):
        items.append(Note((side, -0.72 * high - step * 1.4 * k), words, role))
    return items
