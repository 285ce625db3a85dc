"""Units at the edges: what people type and read, and SI inside.

A dimension is named by its SI unit in ASCII ("m", "kg", "N*m"); everything that carries a number
carries that name. Conversions are exact where the definitions are.
"""

from __future__ import annotations

import math
import re
from typing import TYPE_CHECKING

from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError

if TYPE_CHECKING:
    from fractions import Fraction

FINEST = 1 / 32  # inches under which a length is told in thousandths, where the tape shows no mark for it
INCH, FOOT, POUND = 0.0254, 0.3048, 0.45359237
GRAVITY = 9.80665
AIR_DENSITY = 1.225  # kilograms a cubic metre
POUND_FORCE = POUND * GRAVITY
DEGREE = math.pi / 180


class Unit(Struct, frozen=True):
    """A unit people use: how it is shown, its size in SI, the finest step worth showing."""

    shown: str
    factor: float
    step: float
    names: tuple[str, ...] = ()


class Dimension(Struct, frozen=True):
    """One SI unit with the units it may be typed and shown in."""

    metric: Unit
    imperial: Unit
    others: tuple[Unit, ...] = ()

    def unit(self, system: str) -> Unit:
        return self.imperial if system == "in" else self.metric

    def named(self, name: str) -> Unit | None:
        for unit in (self.metric, self.imperial, *self.others):
            if name == unit.shown.lower() or name in unit.names:
                return unit
        return None


def _same(shown: str, factor: float = 1.0, step: float = 0.1, *names: str) -> Dimension:
    unit = Unit(shown, factor, step, names)
    return Dimension(unit, unit)


DIMENSIONS: dict[str, Dimension] = {
    "m": Dimension(
        Unit("mm", 1e-3, 0.1, ("millimetre", "millimetres")),
        Unit("in", INCH, 1 / 16, ('"', "inch", "inches")),
        (Unit("cm", 1e-2, 0.01), Unit("m", 1.0, 1e-4), Unit("ft", FOOT, 0.01, ("'", "feet", "foot"))),
    ),
    "m:lens": _same("mm", 1e-3, 0.1),
    "m:tooth": _same("mm", 1e-3, 0.01),
    "kg": Dimension(
        Unit("kg", 1.0, 0.01),
        Unit("lb", POUND, 0.01, ("lbs", "pound", "pounds")),
        (Unit("g", 1e-3, 1), Unit("oz", POUND / 16, 0.1, ("ounce", "ounces"))),
    ),
    "rad": Dimension(
        Unit("°", DEGREE, 0.1, ("deg", "degree", "degrees")),
        Unit("°", DEGREE, 0.1),
        (Unit("rad", 1.0, 0.001), Unit("mrad", 1e-3, 0.1)),
    ),
    "N": Dimension(
        Unit("N", 1.0, 0.1), Unit("lbf", POUND_FORCE, 0.1), (Unit("kN", 1e3, 0.001), Unit("ozf", POUND_FORCE / 16, 0.1))
    ),
    "s": Dimension(
        Unit("s", 1.0, 0.1, ("sec",)),
        Unit("s", 1.0, 0.1),
        (Unit("min", 60.0, 0.1), Unit("h", 3600.0, 0.1), Unit("ms", 1e-3, 1)),
    ),
    "m/s": Dimension(Unit("m/s", 1.0, 0.01), Unit("ft/s", FOOT, 0.1), (Unit("mm/s", 1e-3, 1), Unit("in/s", INCH, 0.1))),
    "currency": _same("€", 1.0, 0.01, "eur", "$", "£"),
    "N*m": Dimension(Unit("N·m", 1.0, 0.1, ("nm", "n*m")), Unit("lb·ft", POUND_FORCE * FOOT, 0.1, ("lb*ft", "lbft"))),
    "kg*m": Dimension(Unit("kg·m", 1.0, 0.01, ("kg*m",)), Unit("lb·ft", POUND * FOOT, 0.1)),
    "h": _same("h", 1.0, 0.25, "hour", "hours"),
    "Hz": _same("Hz", 1.0, 0.1),
    "1/s": _same("fps", 1.0, 0.1),
    "px": _same("px", 1.0, 1),
    "px/s": _same("px/s", 1.0, 1),
    "rad/s": Dimension(Unit("°/s", DEGREE, 0.1), Unit("°/s", DEGREE, 0.1)),
    "rad/s:shaft": _same("rpm", 2 * math.pi / 60, 0.1, "rev/min"),
    "N*m:shaft": Dimension(
        Unit("N·m", 1.0, 0.001, ("nm", "n*m")),
        Unit("lb·in", POUND_FORCE * INCH, 0.01, ("lb*in", "lbin")),
        (Unit("kg·cm", GRAVITY / 100, 0.01, ("kg*cm", "kgcm")),),
    ),
    "kg*m^2": Dimension(Unit("kg·m²", 1.0, 0.001), Unit("lb·ft²", POUND * FOOT**2, 0.01)),
    "V": _same("V", 1.0, 0.1),
    "A": _same("A", 1.0, 0.01),
    "W*h": _same("Wh", 1.0, 0.1),
    "dB": _same("dB", 1.0, 1),
    "1": _same("", 1.0, 0.01),
    "count": _same("", 1.0, 1),
    "Pa": Dimension(Unit("MPa", 1e6, 0.1), Unit("psi", POUND_FORCE / INCH**2, 1), (Unit("GPa", 1e9, 0.1),)),
    "J": Dimension(Unit("J", 1.0, 0.1), Unit("ft·lb", POUND_FORCE * FOOT, 0.1)),
    "m^2": Dimension(Unit("mm²", 1e-6, 1), Unit("in²", INCH**2, 0.01)),
    "m^2:floor": Dimension(Unit("m²", 1.0, 0.01), Unit("ft²", FOOT**2, 0.1)),
    "m^3": Dimension(Unit("mm³", 1e-9, 1), Unit("in³", INCH**3, 0.001)),
    "N*m^2": Dimension(Unit("N·m²", 1.0, 1), Unit("lb·in²", POUND_FORCE * INCH**2, 1)),
    "m/s^2": Dimension(Unit("m/s²", 1.0, 0.01), Unit("ft/s²", FOOT, 0.1)),
    "N*m/rad": Dimension(Unit("N·m/rad", 1.0, 1), Unit("lb·ft/rad", POUND_FORCE * FOOT, 1)),
    "m/kg": Dimension(Unit("mm/kg", 1e-3, 0.1), Unit("in/lb", INCH / POUND, 0.01)),
    "N/m": Dimension(Unit("N/m", 1.0, 0.1), Unit("lbf/ft", POUND_FORCE / FOOT, 0.1)),
    "N/m:ground": Dimension(Unit("kN/m", 1e3, 1, ("kn/m",)), Unit("lbf/in", POUND_FORCE / INCH, 1)),
    "kg/m": Dimension(Unit("g/m", 1e-3, 1), Unit("oz/ft", POUND / 16 / FOOT, 0.1)),
    "K": Dimension(Unit("K", 1.0, 1), Unit("°F", 5 / 9, 1)),
    "1/K": Dimension(Unit("µm/m/K", 1e-6, 0.1), Unit("µin/in/°F", 1e-6 * 9 / 5, 0.1)),
    "rad/m": Dimension(Unit("°/mm", DEGREE * 1e3, 0.01), Unit("°/in", DEGREE / INCH, 0.1)),
}

_SUB_UNIT = {"ft": "in", "lb": "oz", "m": "cm"}
_GLYPHS = str.maketrans({"′": "'", "’": "'", "″": '"', "”": '"', "“": '"', "−": "-", "–": "-", "×": "*", "\u00a0": " "})
_VULGAR = {"½": " 1/2", "¼": " 1/4", "¾": " 3/4", "⅛": " 1/8", "⅜": " 3/8", "⅝": " 5/8", "⅞": " 7/8"}
_TERM = re.compile(r"\s*(?:(\d+)[\s-]+)?(?:(\d+)\s*/\s*(\d+)|(\d+[.,]?\d*|[.,]\d+))\s*([^\d\s+.,-][^\d\s+,-]*)?")


class Display(Struct, frozen=True):
    """How numbers are shown: millimetres or inches, the finest fraction, the money sign."""

    system: str = "mm"
    denominator: int = 16
    currency: str = "€"

    def unit(self, si: str) -> Unit:
        return DIMENSIONS[si].unit(self.system)

    def symbol(self, si: str) -> str:
        return self.currency if si == "currency" else self.unit(si).shown

    def step(self, si: str, *, fine: bool = False) -> float:
        """The finest shown step [SI]; `fine` is what fields and marks use."""
        unit = self.unit(si)
        if si == "m":
            return INCH / self.denominator if self.system == "in" else (1e-4 if fine else 1e-3)
        return unit.step * unit.factor / (10 if fine and si not in ("count", "currency") else 1)

    def number(self, value: float, si: str, *, fine: bool = False) -> str:
        """The number alone, in the shown unit, rounded half away from zero."""
        if math.isinf(value):
            return "∞" if value > 0 else "−∞"
        if si == "m" and self.system == "in":
            marks = value / INCH * self.denominator
            if 0 < abs(value) < FINEST * INCH and abs(marks - round(marks)) > 1e-6:
                # No tape shows it: a gap is told in thousandths.
                text = f"{round_half_away(value / INCH, 3):.3f}".rstrip("0").rstrip(".")
                return text.replace("-", "−") if text.strip("-0.") else "0"
            return inches(value, self.denominator)
        unit = self.unit(si)
        step = self.step(si, fine=fine) / unit.factor
        shown = value / unit.factor
        if si == "m" and not fine and abs(shown) < 100:
            step = 0.1
        elif not fine and si not in ("m", "m:lens", "count", "currency") and 0 < abs(shown) < 10 * step:
            step /= 10
        decimals = max(0, -math.floor(math.log10(step) + 1e-9))
        text = f"{round_half_away(shown, decimals):.{decimals}f}"
        if decimals and si != "currency" and (fine or si in ("m", "m:lens", "s", "1/s", "kg")):
            text = text.rstrip("0").rstrip(".")
        return text.replace("-", "−") if text.strip("-0.") else text.lstrip("-")

    def text(self, value: float, si: str, *, fine: bool = False) -> str:
        """The number with its unit."""
        number, symbol = self.number(value, si, fine=fine), self.symbol(si)
        if si == "m" and self.system == "in" and abs(value) >= 72 * INCH and math.isfinite(value):
            return feet_and_inches(value, self.denominator)
        if si == "m" and self.system == "mm" and 10 <= abs(value) < math.inf:
            return _metres(value, fine)
        return number + symbol if symbol == "°" else f"{number} {symbol}".rstrip()


def _metres(value: float, fine: bool) -> str:
    """A long way in metres, as finely as in millimetres where it is typed: `18.00 m`."""
    text = f"{round_half_away(value, 4 if fine else 2):.{4 if fine else 2}f}"
    return (text.rstrip("0").rstrip(".") if fine else text).replace("-", "−") + " m"


def round_half_away(value: float, decimals: int) -> float:
    """Round to `decimals` places, halves away from zero, as a tape is read."""
    scale = 10.0**decimals
    if not abs(value) * scale < 2**53:
        return value  # beyond this a float has no halves, and none is finer than it was
    return math.copysign(math.floor(abs(value) * scale + 0.5 + 1e-9) / scale, value)


def _fraction_of_inches(value: float, denominator: int) -> tuple[str, int, Fraction]:
    from fractions import Fraction

    count = math.floor(abs(value) / INCH * denominator + 0.5)
    whole, rest = divmod(count, denominator)
    return ("−" if value < 0 and count else ""), whole, Fraction(rest, denominator)


def inches(value: float, denominator: int) -> str:
    """A length as inches and a reduced fraction, half away from zero: `12 7/16`."""
    sign, whole, rest = _fraction_of_inches(value, denominator)
    if rest and whole:
        return f"{sign}{whole} {rest}"
    return f"{sign}{rest if rest else whole}"


def feet_and_inches(value: float, denominator: int) -> str:
    """A length as feet, inches and a reduced fraction: `5' 8 7/8"`."""
    sign, whole, rest = _fraction_of_inches(value, denominator)
    feet, inch = divmod(whole, 12)
    tail = " ".join(str(part) for part in (inch, rest) if part) or "0"
    return f"{sign}{feet}' {tail}\""


def parse(text: str, si: str, display: Display | None = None, *, field: str = "value") -> float:
    """Read what a person typed as a number in SI.

    A bare number is in the shown unit; a sign applies to the whole; decimal point or comma; sums
    (`12+45`), mixed units (`5' 8 7/8"`, `2 lb 3 oz`) and fractions are understood.

    Raises InputError naming what could not be read.
    """
    shown = (display or Display()).unit(si)
    cleaned = text.translate(_GLYPHS).strip()
    for glyph, plain in _VULGAR.items():
        cleaned = cleaned.replace(glyph, plain)
    sign = -1.0 if cleaned.startswith("-") else 1.0
    cleaned = cleaned.lstrip("+-").strip()
    if not cleaned:
        raise InputError(field, f"'{text}'", "type a number")
    total = 0.0
    for part in cleaned.split("+"):
        total += _parse_part(part, si, shown, text, field)
    return sign * total


def _parse_part(part: str, si: str, shown: Unit, text: str, field: str) -> float:
    position, total, previous = 0, 0.0, None
    part = part.strip()
    while position < len(part):
        match = _TERM.match(part, position)
        if not match:
            raise InputError(field, f"'{text}'", f"'{part[position:]}' cannot be read as a number")
        whole, top, bottom, plain, name = match.groups()
        if bottom is not None and int(bottom) == 0:
            raise InputError(field, f"'{text}'", "a fraction cannot end in zero")
        if plain is not None and whole is not None:
            raise InputError(field, f"'{text}'", "two numbers stand side by side; add them with +")
        number = float(plain.replace(",", ".")) if plain else int(top) / int(bottom) + int(whole or 0)
        unit = _unit(name, si, shown, previous, text, field)
        total += number * unit.factor
        previous, position = unit, match.end()
    if previous is None:
        raise InputError(field, f"'{text}'", "type a number on both sides of +")
    return total


def _unit(name: str | None, si: str, shown: Unit, previous: Unit | None, text: str, field: str) -> Unit:
    dimension = DIMENSIONS[si]
    if name is None:
        if previous is None:
            return shown
        below = dimension.named(_SUB_UNIT.get(previous.shown, ""))
        if below is None:
            raise InputError(field, f"'{text}'", f"say the unit of what follows {previous.shown}")
        return below
    unit = dimension.named(name.strip().lower())
    if unit is None:
        known = ", ".join(dict.fromkeys(u.shown for u in (dimension.metric, dimension.imperial, *dimension.others)))
        raise InputError(field, f"'{text}'", f"'{name.strip()}' is not a unit here; use {known or 'a plain number'}")
    if previous is not None and unit.factor >= previous.factor:
        raise InputError(field, f"'{text}'", "larger units come first")
    return unit
