"""A sentence with numbers in it that is only worded where it is shown."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.nouns.units import Display, round_half_away

Amount = tuple[float, str] | tuple[float, str, float]


class Words(Struct, frozen=True):
    """A sentence with numbers in SI that is only worded at the edge: `Words("Bars close to {}", ((0.009, "m"),))`. A
    third number says how far the first may be off: `26 ± 6 mm`.
    """

    template: str
    amounts: tuple[Amount, ...] = ()

    def text(self, display: Display) -> str:
        return self.template.format(*(_worded(amount, display) for amount in self.amounts))


def _worded(amount: Amount, display: Display) -> str:
    value, unit, give = amount if len(amount) == 3 else (*amount, 0.0)
    whole = display.text(value, unit)
    if not give:
        return whole
    fine = not any(digit in display.number(give, unit) for digit in "123456789")
    number, either = display.number(value, unit, fine=fine), display.number(give, unit, fine=fine)
    decimals = len(either.partition(".")[2])
    if decimals > len(number.partition(".")[2]) and "/" not in number:  # as finely as it is known
        shown = round_half_away(value / display.unit(unit).factor, decimals)
        number = f"{shown:.{decimals}f}".replace("-", "−")
    if not whole.startswith(display.number(value, unit)):  # metres, or feet and inches
        number = whole
    return f"{number} ± {display.text(give, unit, fine=fine)}"


def within(name: str) -> str:
    """A name as it stands inside a sentence: its first letter small, unless it is all capitals as PVC is."""
    return name if name[1:2].isupper() else f"{name[:1].lower()}{name[1:]}"
