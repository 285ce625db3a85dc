"""From parts to bars: one cutting plan for each stock section, with offcuts at hand used first."""

from __future__ import annotations

from collections.abc import Callable, Mapping

from msgspec import Struct

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Offcut
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.workshop.cost import Line
from hazel_lantern.core.workshop.cutting import Plan, Stock
from hazel_lantern.core.workshop.part import Buy, Part

Cutter = Callable[[list[tuple[float, int]], list[Stock], float, float], Plan]


class SectionPlan(Struct, frozen=True):
    """Cuts of one section: its stocks, the plan, and why there is none."""

    section: str
    name: str
    fill: str
    stocks: tuple[Stock, ...]
    plan: Plan | None
    trouble: str = ""

    def marks(self, parts: tuple[Part, ...]) -> list[list[str]]:
        """Marks of the parts on each bar, in the order of its cuts."""
        assert self.plan is not None
        waiting: dict[float, list[str]] = {}
        for part in parts:
            if part.section == self.section:
                waiting.setdefault(part.length, []).extend([part.mark] * part.quantity)

        def next_of(cut: float) -> str:
            """A plan takes lengths that differ by less than a hair as one."""
            return waiting[min((long for long in waiting if waiting[long]), key=lambda long: abs(long - cut))].pop(0)

        return [[next_of(cut) for cut in bar.cuts] for bar in self.plan.bars]


class Ordered(Struct, frozen=True):
    """What is wanted of one section: lengths [m] with how many of each, and the bars and offcuts it can be cut from."""

    section: str
    name: str
    fill: str
    wanted: tuple[tuple[float, int], ...]
    stocks: tuple[Stock, ...]


class Order(Struct, frozen=True):
    """All that a cutting plan depends on: what is wanted section by section, and the saw cut [m]."""

    sections: tuple[Ordered, ...]
    kerf: float = 0.0


Exact = Mapping[Order, tuple[SectionPlan, ...]]


def order_of(parts: tuple[Part, ...], offcuts: tuple[Offcut, ...], catalogue: Catalogue, kerf: float) -> Order:
    """What is to be cut, and from what.

    parts: pieces to make; those cut from no stock section are left out
    offcuts: pieces at hand, free
    catalogue: where lengths and prices stand
    kerf: saw cut [m]

    Returns: the order. Source: drive 7.2.
    """
    found = []
    for key in dict.fromkeys(part.section for part in parts if part.section):
        bar = catalogue.sections[key]
        stocks = [Stock(length, price, None, "buy") for length, price in zip(bar.lengths, bar.prices, strict=True)]
        stocks += [Stock(piece.length_m, 0.0, piece.count, "at hand") for piece in offcuts if piece.section == key]
        wanted = tuple((part.length, part.quantity) for part in parts if part.section == key)
        found.append(Ordered(key, bar.name, catalogue.materials[bar.material].fill, wanted, tuple(stocks)))
    return Order(tuple(found), kerf)


def plans(order: Order, cutter: Cutter) -> tuple[SectionPlan, ...]:
    """One plan for each section that is cut.

    order: what is cut, and from what
    cutter: first_fit or exact

    Returns: plans; a section that cannot be cut carries the reason. Source: drive 7.2.
    """
    found = []
    for one in order.sections:
        try:
            found.append(
                SectionPlan(
                    one.section,
                    one.name,
                    one.fill,
                    one.stocks,
                    cutter(list(one.wanted), list(one.stocks), order.kerf, 0.0),
                )
            )
        except InfeasibleError as error:
            found.append(SectionPlan(one.section, one.name, one.fill, one.stocks, None, str(error)))
    return tuple(found)


def buy_list(section_plans: tuple[SectionPlan, ...], bought: tuple[Buy, ...]) -> tuple[Line, ...]:
    """Bars to buy, then things.

    section_plans: the cutting plans
    bought: things bought ready-made

    Returns: lines. Source: drive 10.1.
    """
    lines = []
    for made in section_plans:
        for index, stock in enumerate(made.stocks):
            count = sum(bar.stock == index for bar in made.plan.bars) if made.plan else 0
            if count and stock.name == "buy":
                bar = made.name, stock.length
                lines.append(Line(f"{made.name}, {stock.length:g} m", count, stock.price, bar=bar))
    return tuple(lines) + tuple(Line(item.name, item.quantity, item.price, item.note) for item in bought)
