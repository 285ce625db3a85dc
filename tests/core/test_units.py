"""What people type, and what they read back."""

from __future__ import annotations

import math

import pint
import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import DIMENSIONS, Display, parse

MM, INCH = Display(), Display("in", 16)
ORACLE = {
    "m": {"mm": "mm", "cm": "cm", "m": "m", "in": "inch", "ft": "foot"},
    "kg": {"kg": "kg", "g": "g", "lb": "lb", "oz": "oz"},
    "N": {"N": "N", "lbf": "lbf", "kN": "kN"},
    "s": {"s": "s", "min": "minute", "h": "hour"},
    "m/s": {"m/s": "m/s", "ft/s": "ft/s", "in/s": "inch/s"},
    "rad": {"°": "degree", "rad": "rad"},
    "Pa": {"MPa": "MPa", "psi": "psi"},
    "N*m": {"lb·ft": "lbf*ft"},
    "J": {"ft·lb": "foot*lbf"},
}


@pytest.mark.parametrize(
    ("si", "unit", "name"), [(si, unit, name) for si, names in ORACLE.items() for unit, name in names.items()]
)
def test_units_have_the_size_an_independent_library_gives_them(si, unit, name):
    oracle = pint.UnitRegistry().Quantity(3.7, name).to(si.replace("*", " * ")).magnitude
    assert parse(f"3.7 {unit}", si, MM) == pytest.approx(oracle, rel=1e-9)


@pytest.mark.parametrize(
    ("text", "display", "metres"),
    [
        ("1750", MM, 1.75),
        ("1.75 m", MM, 1.75),
        ("1,75m", MM, 1.75),
        ("12+45", MM, 0.057),
        ("68 7/8", INCH, 68.875 * 0.0254),
        ("7/8", INCH, 0.875 * 0.0254),
        ("5' 8 7/8\"", MM, 68.875 * 0.0254),
        ("5ft 8-7/8in", MM, 68.875 * 0.0254),
        ("5′ 8⅞″", MM, 68.875 * 0.0254),
        ("5' 8", INCH, 68 * 0.0254),
        ("-5' 8\"", MM, -68 * 0.0254),
        ("−22", MM, -0.022),
        ("1 m + 2 cm", MM, 1.02),
        (" 3 in ", MM, 3 * 0.0254),
        (".5", MM, 0.0005),
        ("1 m 20", MM, 1.2),
    ],
)
def test_lengths_are_read_as_they_are_written_in_a_workshop(text, display, metres):
    assert parse(text, "m", display) == pytest.approx(metres, rel=1e-12)


def test_mixed_masses():
    assert parse("2 lb 3 oz", "kg", INCH) == pytest.approx(35 * 0.45359237 / 16, rel=1e-12)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "number"),
        ("abc", "cannot be read"),
        ("3 parsec", "not a unit here"),
        ("1/0", "zero"),
        ("12 45", "side by side"),
        ("3 in 2 ft", "larger units"),
        ("1+", "both sides"),
        ("1..2", "unit of what follows"),
        ("--", "number"),
        ("3 kg", "not a unit"),
        ("1e999", "unit"),
        ("nan", "cannot be read"),
        ("12+abc", "cannot be read"),
    ],
)
def test_what_cannot_be_read_says_why(text, says):
    with pytest.raises(InputError, match=says) as caught:
        parse(text, "m", MM, field="arm.front")
    assert caught.value.field == "arm.front"


@given(
    st.sampled_from(sorted(DIMENSIONS)),
    st.floats(-1e4, 1e4),
    st.sampled_from(["mm", "in"]),
    st.sampled_from([16, 32, 64]),
)
def test_reading_back_what_is_shown_loses_at_most_half_a_step(si, number, system, denominator):
    display = Display(system, denominator)
    value = number * display.unit(si).factor
    step = display.step(si, fine=True)
    assert abs(parse(display.text(value, si, fine=True), si, display) - value) <= step / 2 * (1 + 1e-6) + 1e-12


@given(st.integers(-4000, 4000), st.sampled_from([16, 32, 64]))
def test_inch_fractions_on_the_tape_survive_exactly(count, denominator):
    display = Display("in", denominator)
    value = count * 0.0254 / denominator
    assert parse(display.text(value, "m"), "m", display) == pytest.approx(value, abs=1e-12)


def test_rounding_is_half_away_from_zero_and_infinity_is_shown():
    assert MM.text(0.00025, "m") == "0.3 mm"
    assert MM.text(-0.00025, "m") == "−0.3 mm"
    assert MM.text(math.inf, "1") == "∞"
    assert Display(currency="£").text(2.005, "currency") == "2.01 £"
    assert MM.text(-0.0000001, "m") == "0 mm"
