"""What a design parameter means: declared once, read by bench, file, command line, search and manual."""

from __future__ import annotations

import math
from typing import TypeAlias

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display, parse

Value: TypeAlias = float | str | tuple[str | tuple[float, ...], ...]
When: TypeAlias = tuple[str, tuple[str, ...]] | None  # a choice, and what of it asks for an input


class Quantity(Struct, frozen=True):
    """A number the builder sets, in SI, with its bounds; `only` names the constructions it matters to, empty for all,
    `when` the choice and those of its values that it matters to. `short` is its name where two share a line, `beside`
    says that it stands beside the one before; `sized` that other sizes of it are tried when a rig is sized.
    """

    key: str
    label: str
    unit: str
    low: float
    high: float
    default: float
    group: str
    words: str = ""
    station: str = "rig"
    only: tuple[str, ...] = ()
    short: str = ""
    beside: bool = False
    when: When = None
    sized: bool = False

    def check(self, value: object) -> float:
        """The value as a float; raises InputError naming the field, the value and the bounds."""
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not _finite(value):
            raise InputError(self.key, _shown(value), "must be a finite number")
        if not self.low - 1e-12 <= value <= self.high + 1e-12:
            show = Display()
            raise InputError(
                self.key,
                show.text(value, self.unit, fine=True),
                f"must lie between {show.text(self.low, self.unit, fine=True)} and "
                f"{show.text(self.high, self.unit, fine=True)}",
            )
        if self.unit == "count" and value != round(value):
            raise InputError(self.key, value, "must be a whole number")
        return float(value)

    def read(self, text: str, display: Display | None = None) -> float:
        return self.check(parse(text, self.unit, display, field=self.key))


def _finite(value: float) -> bool:
    try:
        return math.isfinite(value)
    except OverflowError:  # a whole number beyond all floats
        return False


def _shown(value: object) -> str:
    """A value as an error shows it; whole numbers of thousands of digits are not written out."""
    return (
        f"a whole number of {value.bit_length()} bits"
        if isinstance(value, int) and value.bit_length() > 1024
        else repr(value)
    )


class Choice(Struct, frozen=True):
    """One of a fixed list, or of a catalogue table named by `table`, or of both; `pictures` names a set of pictures
    to choose from where shape matters.
    """

    key: str
    label: str
    options: tuple[tuple[str, str], ...]
    default: str
    group: str
    words: str = ""
    station: str = "rig"
    table: str = ""
    only: tuple[str, ...] = ()
    pictures: str = ""
    short: str = ""
    beside: bool = False
    when: When = None

    def check(self, value: object) -> str:
        """The id; raises InputError when it is not on the list (catalogue ids are checked against the loaded
        catalogue).
        """
        if not isinstance(value, str):
            raise InputError(self.key, repr(value), "must be the id of a choice, as text")
        if self.options and not self.table and value not in dict(self.options):
            raise InputError(
                self.key, repr(value), "choose one of " + ", ".join(key or "(empty)" for key, _ in self.options)
            )
        return value

    def read(self, text: str, display: Display | None = None) -> str:
        return self.check(text.strip())


class Several(Struct, frozen=True):
    """A list of ids, such as the plates that hang on an arm; of those `known`, where it names any."""

    key: str
    label: str
    default: tuple[str, ...]
    group: str
    words: str = ""
    station: str = "balance"
    only: tuple[str, ...] = ()
    known: tuple[str, ...] = ()

    def check(self, value: object) -> tuple[str, ...]:
        if not isinstance(value, (list, tuple)) or not all(isinstance(item, str) for item in value):
            raise InputError(self.key, repr(value), "must be a list of ids")
        for item in value if self.known else ():
            if item not in self.known:
                raise InputError(self.key, repr(item), "must be one of " + ", ".join(self.known))
        return tuple(value)

    def read(self, text: str, display: Display | None = None) -> tuple[str, ...]:
        import json

        try:
            return self.check(json.loads(text))
        except (ValueError, RecursionError) as error:
            raise InputError(self.key, repr(text[:200]), 'write a list as JSON, such as ["p1", "p2"]') from error


class Readings(Struct, frozen=True):
    """Rows of numbers that were measured, such as heights at places, a quantity for each column; none to begin with.
    The first column grows from row to row; `another` is what the button for one more says.
    """

    key: str
    label: str
    columns: tuple[Quantity, ...]
    group: str
    words: str = ""
    station: str = "rig"
    only: tuple[str, ...] = ()
    default: tuple[tuple[float, ...], ...] = ()
    another: str = "Add a row"

    def check(self, value: object) -> tuple[tuple[float, ...], ...]:
        """The rows; raises InputError naming the row and what is wrong with it."""
        if not isinstance(value, (list, tuple)):
            raise InputError(self.key, repr(value), "must be a list of rows")
        found: list[tuple[float, ...]] = []
        for n, row in enumerate(value, 1):
            if not isinstance(row, (list, tuple)) or len(row) != len(self.columns):
                names = ", ".join(column.label.lower() for column in self.columns)
                raise InputError(f"{self.key}, row {n}", repr(row), f"must be {len(self.columns)} numbers: {names}")
            made = tuple(self._of(column, n).check(cell) for column, cell in zip(self.columns, row, strict=True))
            if found and made[0] <= found[-1][0]:
                raise InputError(f"{self.key}, row {n}", repr(row), "must lie further along than the row before")
            found.append(made)
        return tuple(found)

    def read(self, text: str, display: Display | None = None) -> tuple[tuple[float, ...], ...]:
        import json

        try:
            rows = json.loads(text)
        except (ValueError, RecursionError) as error:
            raise InputError(
                self.key, repr(text[:200]), 'write rows as JSON, such as [[0, "4 mm", 0], [1, 0, 0]]'
            ) from error
        if not isinstance(rows, list) or not all(isinstance(row, list) for row in rows):
            return self.check(rows)
        return self.check([self._read(row, n, display) for n, row in enumerate(rows, 1)])

    def _read(self, row: list[object], n: int, display: Display | None) -> list[object]:
        """A row with lengths typed with their units as numbers."""
        if len(row) != len(self.columns):
            return row
        return [
            self._of(column, n).read(cell, display) if isinstance(cell, str) else cell
            for column, cell in zip(self.columns, row, strict=True)
        ]

    def _of(self, column: Quantity, n: int) -> Quantity:
        """A column as an error of a row names it."""
        return replace(column, key=f"{self.key}, row {n}, {column.label.lower()}")


Parameter: TypeAlias = Quantity | Choice | Several | Readings
