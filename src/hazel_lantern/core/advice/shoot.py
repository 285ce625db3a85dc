"""All rigs of a shoot in one list: cost, mass, loads, longest piece, people; and what several of them share."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from msgspec import Struct

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.carrying import Load, loads, pieces_of
from hazel_lantern.core.workshop.cost import total
from hazel_lantern.core.workshop.part import Part

ALIKE = 4  # decimals of a metre to which two pieces are the same piece
BOUGHT, MADE = "bought", "made"


class Row(Struct, frozen=True):
    """A rig: cost [currency], mass [kg], what it is carried in, longest piece [m], people, what stops it, and "" or why
    it cannot be built.
    """

    rig: str
    name: str
    cost: float
    mass: float
    loads: tuple[Load, ...]
    longest: float
    people: int
    stops: int
    trouble: str


class Shared(Struct, frozen=True):
    """The same thing in more than one rig: whether it is made or bought, the price of one [currency], how many each rig
    has of it, by its id.
    """

    sort: str
    name: str
    price: float
    counts: tuple[tuple[str, int], ...]

    @property
    def apart(self) -> int:
        """How many where every rig has its own."""
        return sum(count for _, count in self.counts)

    @property
    def together(self) -> int:
        """How many where one rig stands at a time."""
        return max(count for _, count in self.counts)

    @property
    def saved(self) -> float:
        """What sharing it spares [currency]; nothing is told of what is cut from bars."""
        return (self.apart - self.together) * self.price


class Shoot(Struct, frozen=True):
    """Every rig, and what rigs share, dearest first."""

    rows: tuple[Row, ...]
    shared: tuple[Shared, ...]

    @property
    def saved(self) -> float:
        """What is spared where one rig stands at a time [currency]."""
        return sum(one.saved for one in self.shared)

    @property
    def people(self) -> int:
        """As many as the rig that takes most of them."""
        return max((row.people for row in self.rows), default=0)


def shoot(project: Project, catalogue: Catalogue, rigs: Iterable[str] = ()) -> Iterator[Progress[Shoot]]:
    """A step for each rig (all of the project where none are named), the list so far with each. Raises InputError for a
    rig there is not.
    """
    wanted = tuple(dict.fromkeys(rigs)) or tuple(rig.id for rig in project.rigs)
    found: list[Evaluation] = []
    memo = Memo()
    for n, rig in enumerate(wanted, 1):
        found.append(evaluate(project, catalogue, rig, memo=memo))
        yield Progress(n, len(wanted), Shoot(tuple(_row(project, one) for one in found), _shared(found)))


def told(row: Row, show: Display) -> str:
    """One rig of the list in a line."""
    if row.trouble:
        return row.trouble
    count = len(row.loads)
    said = [
        show.text(row.cost, "currency"),
        show.text(row.mass, "kg"),
        f"{count} load{'s' if count != 1 else ''}",
        f"longest {show.text(row.longest, 'm')}",
        f"{row.people} {'person' if row.people == 1 else 'people'}",
    ]
    return ", ".join(said + ([f"{row.stops} stop{'s' if row.stops > 1 else ''}"] if row.stops else []))


def summed(found: Shoot, show: Display) -> str:
    """All of it in a line."""
    cost, mass = sum(row.cost for row in found.rows), sum(row.mass for row in found.rows)
    spared = f"; {show.text(found.saved, 'currency')} less where one stands at a time" if found.saved > 0 else ""
    return (
        f"Together {show.text(cost, 'currency')}{spared}, {show.text(mass, 'kg')} in "
        f"{sum(len(row.loads) for row in found.rows)} loads."
    )


def _row(project: Project, result: Evaluation) -> Row:
    carry = project.carry
    pieces = pieces_of(result.laid, carry.lift_kg)
    heavy = max((piece.mass for piece in pieces), default=0.0)
    trouble = "" if result.model is not None else str(result.problem or "cannot be built")
    return Row(
        result.rig.id,
        result.rig.name,
        total(result.lines),
        result.laid.mass,
        loads(pieces, carry.bag_m, carry.lift_kg),
        max((part.length for part in result.parts), default=0.0),
        max(1, round(result.shot.crew), 2 if heavy > carry.lift_kg else 1),
        sum(f.state == STOP for f in result.findings),
        trouble,
    )


def _shared(found: Iterable[Evaluation]) -> tuple[Shared, ...]:
    """What is in more than one of them."""
    counts: dict[tuple[str, object], dict[str, int]] = {}
    named: dict[tuple[str, object], tuple[str, float]] = {}
    for result in found:
        rows: list[tuple[str, object, str, float, int]] = [
            (BOUGHT, (line.name, line.price), line.name, line.price, line.quantity)
            for line in result.lines
            if line.bar is None
        ]
        rows += [(MADE, _alike(part), part.name, 0.0, part.quantity) for part in result.parts]
        for sort, key, name, price, count in rows:
            here = counts.setdefault((sort, key), {})
            here[result.rig.id] = here.get(result.rig.id, 0) + count
            named.setdefault((sort, key), (name, price))
    several = (
        Shared(sort, *named[sort, key], tuple(here.items())) for (sort, key), here in counts.items() if len(here) > 1
    )
    return tuple(sorted(several, key=lambda one: (-one.saved, one.sort, one.name)))


def _alike(part: Part) -> object:
    """What makes a piece take another's place: what it is made of, its size, its holes."""
    box = tuple(round(float(side), ALIKE) for side in part.solid.box)
    marks = sorted(
        (round(mark.at, ALIKE), mark.face, round(mark.size, ALIKE), round(mark.across or 0.0, ALIKE))
        for mark in part.marks
    )
    return part.section, part.material, box, tuple(marks)
