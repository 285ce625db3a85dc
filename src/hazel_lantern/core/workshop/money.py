"""Packs, tax, and building against hiring: exact decimals, rounded once."""

from __future__ import annotations

import math
from collections.abc import Sequence
from decimal import ROUND_HALF_UP, Decimal

from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive

DAYS = 3650  # looked through for the day from which building pays
WEEK = 7
HUNDREDTH = Decimal("0.01")


class Wanted(Struct, frozen=True):
    """One thing: how much is needed and owned, how much is in a pack, and the price of a pack; None where it is not
    known.
    """

    need: float
    owned: float = 0.0
    pack: float = 1.0
    price: float | None = 0.0

    @property
    def packs(self) -> int:
        """How many are bought."""
        return math.ceil(max(0.0, self.need - self.owned) / self.pack - 1e-9)

    @property
    def left(self) -> float:
        """What is left in the packs bought."""
        return max(0.0, self.packs * self.pack - max(0.0, self.need - self.owned))


class Sum(Struct, frozen=True):
    """Packs of every line (n,), the sum before tax, the tax, both together, what is left over is worth [currency], and
    which lines have no price.
    """

    packs: tuple[int, ...]
    net: float
    tax: float
    gross: float
    left_worth: float
    unpriced: tuple[int, ...]


def summed(lines: Sequence[Wanted], tax: float = 0.0, *, tax_inside: bool = False) -> Sum:
    """What a list of things costs.

    lines: what is wanted
    tax: rate [%]
    tax_inside: whether prices hold it already

    Returns: sums; a line without a price is in none of them and named. Raises: InputError. Source: drive 10.1.
    """
    not_negative(tax=tax)
    for line in lines:
        positive(pack=line.pack)
        not_negative(need=line.need, owned=line.owned)
        if line.price is not None:
            not_negative(price=line.price)
    known = [line for line in lines if line.price is not None]
    whole = sum((Decimal(str(line.price)) * line.packs for line in known), Decimal(0))
    rate = Decimal(str(tax)) / 100
    net = whole / (1 + rate) if tax_inside else whole
    net_shown, tax_shown = _cents(net), _cents(net * rate)
    left = sum(
        (Decimal(str(line.left)) / Decimal(str(line.pack)) * Decimal(str(line.price)) for line in known), Decimal(0)
    )
    return Sum(
        tuple(line.packs for line in lines),
        float(net_shown),
        float(tax_shown),
        float(net_shown + tax_shown),
        float(_cents(left)),
        tuple(n for n, line in enumerate(lines) if line.price is None),
    )


def _cents(amount: Decimal) -> Decimal:
    return amount.quantize(HUNDREDTH, ROUND_HALF_UP)


def hire(days: int, day: float, week: float | None = None, fixed: float = 0.0) -> float:
    """What hiring costs [currency].

    days: that it is had for
    day: price of a day [currency]
    week: price of a week, None where there is none [currency]
    fixed: once for every hire [currency]

    Returns: cost; the rest of a week never costs more than a whole one. Source: drive 10.2.
    """
    if week is None:
        return fixed + days * day
    return fixed + days // WEEK * week + min(days % WEEK * day, week)


def pays_from(
    build: float, day: float, week: float | None = None, fixed: float = 0.0, resale: float = 0.0, daily: float = 0.0
) -> int | None:
    """From how many days on building costs no more than hiring.

    build: cost of it [currency]
    day, week, fixed: of hiring [currency]
    resale: what it is sold for after [currency]
    daily: what a day with one's own costs [currency]

    Returns: days, the first of them; None where it never pays within ten years. Raises: InputError. Source: drive 10.2.
    """
    not_negative(build=build, day=day, fixed=fixed, resale=resale, daily=daily)
    return next((n for n in range(1, DAYS + 1) if build - resale + n * daily <= hire(n, day, week, fixed) + 1e-9), None)
