"""What has to be bought and what it costs."""

from __future__ import annotations

from decimal import ROUND_HALF_UP, Decimal

from msgspec import Struct

from hazel_lantern.core.nouns.units import Display


class Line(Struct, frozen=True):
    """One line of the buy list: price [currency] of one, and of all; of a bar from stock its section and length [m]."""

    name: str
    quantity: int
    price: float
    note: str = ""
    bar: tuple[str, float] | None = None

    def words(self, show: Display) -> str:
        """What to ask for; bars by the builder's own tape."""
        if self.bar is None or show.system == "mm":
            return self.name
        return f"{self.bar[0]}, {show.text(self.bar[1], 'm')}"

    @property
    def total(self) -> float:
        return float(Decimal(str(self.price)) * self.quantity)


def total(lines: tuple[Line, ...]) -> float:
    """Sum of all lines, rounded to a hundredth once, half up.

    lines: the buy list

    Returns: cost [currency]. Source: drive 10.1.
    """
    exact = sum((Decimal(str(line.price)) * line.quantity for line in lines), Decimal(0))
    return float(exact.quantize(Decimal("0.01"), ROUND_HALF_UP))
