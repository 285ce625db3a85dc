"""What of a rig other sizes may be tried of, and which:
sections, wheels, ropes, stands of the catalogue, and lengths."""

from __future__ import annotations

import math
from collections.abc import Container, Sequence

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue, StockSection
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Value

TABLES = ("sections", "wheels", "stands", "lines")
ROWS = 14  # of the catalogue tried of each choice
SHARES = (1.0, 0.7, 0.8, 0.9, 1.1, 1.25, 1.4)  # of a length, its own first
MORE = (0.0, -1.0, 1.0, 2.0)  # of a count


Changes = tuple[tuple[str, Value], ...]


class Varied(Struct, frozen=True):
    """One input with the values it is tried at, its own first; `brings` are the changes that each asks for beside it,
    such as another spread of the feet of another stand.
    """

    parameter: Parameter
    values: tuple[Value, ...]
    brings: tuple[Changes, ...] = ()

    @property
    def key(self) -> str:
        return self.parameter.key

    @property
    def cut(self) -> bool:
        """Whether it names what is cut from bars, which may be at hand."""
        return isinstance(self.parameter, Choice) and self.parameter.table == "sections"


def together(every: Sequence[Varied], places: Sequence[int]) -> Changes:
    """What a combination changes: what its values bring, unless another value is picked for that itself."""
    found: dict[str, Value] = {one.key: one.values[0] for one in every}
    for one, n in zip(every, places, strict=True):
        found.update(one.brings[n])
    found.update({one.key: one.values[n] for one, n in zip(every, places, strict=True) if n})
    return tuple(found.items())


def varied(project: Project, catalogue: Catalogue, result: Evaluation, keep: Container[str] = ()) -> tuple[Varied, ...]:
    """Inputs of a rig that other sizes are tried of, but those to keep: rows about as stiff or as large as now, those
    at hand among them, and lengths about as long.
    """
    stock = {piece.section for piece in project.stock}
    found = []
    for p in result.kind.parameters:
        if not isinstance(p, (Choice, Quantity)) or p.key in keep or (p.only and result.rig.variant not in p.only):
            continue
        if p.when is not None and result.rig.design.get(p.when[0]) not in p.when[1]:
            continue
        now = result.rig.design[p.key]
        if isinstance(p, Choice) and p.table in TABLES:
            found.append(Varied(p, _rows(p, catalogue, str(now), project.units, stock)))
        elif isinstance(p, Quantity) and p.sized and isinstance(now, float) and now > 0:
            found.append(Varied(p, _lengths(p, now)))
    return tuple(one for one in found if len(one.values) > 1)


def _rows(choice: Choice, catalogue: Catalogue, now: str, units: str, stock: Container[str]) -> tuple[str, ...]:
    table = getattr(catalogue, choice.table)
    ranked = sorted(table, key=lambda key: _like(table[key], table.get(now)))
    usual = [key for key in ranked if getattr(table[key], "system", units) == units]
    at_hand = [key for key in ranked if choice.table == "sections" and key in stock]
    return tuple(dict.fromkeys([now, *usual[:ROWS], *at_hand[:ROWS]]))


def _lengths(quantity: Quantity, now: float) -> tuple[float, ...]:
    """Values about it within its bounds."""
    tried = (
        [now + more for more in MORE]
        if quantity.unit == "count"
        else [now, *(round(now * share, 3) for share in SHARES[1:])]
    )
    found = []
    for value in dict.fromkeys(tried):
        try:
            found.append(quantity.check(value))
        except InputError:
            continue  # beyond what it may be
    return tuple(found)


def _like(row: object, now: object) -> float:
    """How far a row is from the one that is used now: by stiffness, or by size."""

    def measure(one: object) -> float:
        if isinstance(one, StockSection):
            return math.log(max(1e-12, float(one.section().upright)))
        return math.log(max(1e-6, float(getattr(one, "d", 0.0) or getattr(one, "load_limit", 1.0) or 1.0)))

    if now is None:
        return 0.0
    shape = 0.0 if getattr(row, "shape", "") == getattr(now, "shape", "") else 1.5
    return abs(measure(row) - measure(now)) + shape
