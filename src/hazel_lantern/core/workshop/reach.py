"""Whether every bolt is as long as what it goes through: the pieces on its line, and the nut beyond them."""

from __future__ import annotations

import re
from collections.abc import Mapping
from fractions import Fraction

import numpy as np
from msgspec import Struct

from hazel_lantern.core.catalogue import Bolt
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, STOP
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import INCH
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Hole, Pieces, holes, on_one_line
from hazel_lantern.core.workshop.solids import END, SIDE, TOP, Bar, Tapered

BOLT = re.compile(r"^Bolt (?P<metric>M\d+)×(?P<mm>\d+)|^Bolt (?P<inch>\S+?)×(?P<whole>\d+ )?(?P<part>\d+(?:/\d+)?) in")
NUT = re.compile(r"\bnut\b")
SAME = 1e-6  # metres


class Through(Struct, frozen=True):
    """A bolt as it is bought, the longest stack of pieces on one of its lines, and how long it must be for that with
    its nut [m].
    """

    name: str
    pieces: tuple[str, ...]
    long: float
    stack: float
    needs: float

    @property
    def short(self) -> float:
        """By how much it is too short, below nought where it reaches [m]."""
        return self.needs - self.long


def passed(pieces: Pieces, bodies: Bodies, bolts: Mapping[str, Bolt]) -> tuple[Through, ...]:
    """Every bolt with a nut that goes through holes of the pieces.

    pieces: of a rig, with what goes through their holes
    bodies: the frame of every body at one pose, the rig put together
    bolts: threads by name

    Returns: one for every fastening, the one that is least long enough first. Brackets and bought things between the
    pieces are not counted. Source: drive 8.6.
    """
    found, by_key = [], {one.key: one for one in pieces.fastenings}
    lines: dict[str, list[Hole]] = {}
    for hole in holes(pieces.parts, bodies):
        if hole.mark.fastening in by_key and hole.mark.face != END:
            lines.setdefault(hole.mark.fastening, []).append(hole)
    for key, drilled in lines.items():
        sold = [match for item in by_key[key].items if NUT.search(item.name) and (match := BOLT.match(item.name))]
        nuts = any(NUT.search(item.name.lower()) for item in by_key[key].items)
        sold = sold or [match for item in by_key[key].items if nuts and (match := BOLT.match(item.name))]
        if not sold or (thread := sold[0]["metric"] or sold[0]["inch"]) not in bolts:
            continue
        row, long = bolts[thread], _long(sold[0])
        groups = on_one_line(drilled, by_key[key].reach)
        stack, group = max(((_stack(one), one) for one in groups), key=lambda pair: pair[0])
        names = tuple(dict.fromkeys(hole.part.name for hole in group))
        locks = any("lock nut" in item.name.lower() for item in by_key[key].items)
        # Of a lock nut one turn shows beyond its ring.
        nut = row.lock_nut + row.pitch if locks else row.nut + 2 * row.pitch
        found.append(Through(sold[0][0], names, long, stack, stack + nut))
    return tuple(sorted(found, key=lambda one: -one.short))


def _long(sold: re.Match[str]) -> float:
    """How long a bolt is by its name [m]."""
    if sold["metric"]:
        return float(sold["mm"]) / 1e3
    return float(int(sold["whole"] or 0) + Fraction(sold["part"])) * INCH


def _stack(group: list[Hole]) -> float:
    """From the outermost face to the outermost face, along a line of holes [m]."""
    way, edges, webs = group[0].way, [], []
    for hole in group:
        solid = hole.part.solid
        _, wide, deep = solid.box
        through = deep if hole.mark.face == TOP else wide
        if isinstance(solid, Tapered):
            through = solid.thick(hole.mark.at)
        at, half = float(hole.at @ way), through / 2
        if isinstance(solid, Bar) and solid.stock.shape == "channel" and hole.mark.face == SIDE:
            webs.append((at, half, solid.stock.dims["t_web"]))
            continue
        edges += [at - half, at + half]
    for at, half, web in webs:
        # Only the web of a channel, on the side of what it is bolted to.
        sides = ([at - half, at - half + web], [at + half - web, at + half])
        edges += min(sides, key=lambda side: float(np.ptp([*edges, *side])))
    return float(np.ptp(edges))


def told(found: tuple[Through, ...]) -> Told:
    """Whether any bolt is too short."""
    tell = Teller()
    if not found:
        return tell.told()
    worst = found[0]
    given = (Given("s", worst.stack, "m", "pieces on its line"), Given("L", worst.long, "m", "as it is bought"))
    tell.add(
        by_method(
            "build.bolt_over",
            "Bolt that reaches least, beyond its nut",
            -worst.short,
            "m",
            f"{worst.name}: its length less the pieces on its line, its nut and what shows beyond it",
            given,
            source="drive 8.6",
        )
    )
    words = Words(
        f"{worst.name} goes through {' and '.join(name.lower() for name in worst.pieces)}, {{}}, and needs {{}} with "
        "its nut.",
        ((worst.stack, "m"), (worst.needs, "m")),
    )
    short = worst.short > SAME
    tell.hold(
        "build.bolt_over",
        "build.bolts",
        "Bolts are long enough",
        BUILD,
        "build.bolt_over",
        words,
        at_least=0.0,
        state=STOP if short else CLEAR,
    )
    return tell.told()
