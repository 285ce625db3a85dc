"""A sentence with numbers in it that is only worded where it is shown."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.nouns.units import Display


class Words(Struct, frozen=True):
    """A sentence with numbers in SI that is only worded at the edge: `Words("Bars close to {}", ((0.009, "m"),))`."""

    template: str
    amounts: tuple[tuple[float, str], ...] = ()

    def text(self, display: Display) -> str:
        return self.template.format(*(display.text(value, unit) for value, unit in self.amounts))


def within(name: str) -> str:
    """A name as it stands inside a sentence: its first letter small, unless it is all capitals as PVC is."""
    return name if name[1:2].isupper() else f"{name[:1].lower()}{name[1:]}"
