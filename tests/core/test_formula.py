"""A formula shows what it computes."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from hazel_lantern.core.nouns.formula import Formula

SAG = Formula("P*L**3/(3*EI) + w*L**4/(8*EI)")


def test_symbols_and_numbers_keep_the_brackets_that_matter():
    assert SAG.in_symbols() == "P · L³ / (3 · EI) + w · L⁴ / (8 · EI)"
    assert Formula("a - (b - c)").in_symbols() == "a − (b − c)"
    assert Formula("a/(b/c)").in_symbols() == "a / (b / c)"
    assert Formula("theta_hi*sqrt(x)").in_symbols() == "θ<sub>hi</sub> · √(x)"
    assert Formula("L**2").in_numbers({"L": "69 in"}) == "(69 in)²"


@given(*[st.floats(0.1, 10) for _ in range(4)])
def test_the_value_is_that_of_the_same_expression_in_python(p, length, ei, w):
    assert SAG.value({"P": p, "L": length, "EI": ei, "w": w}) == pytest.approx(
        p * length**3 / (3 * ei) + w * length**4 / (8 * ei), rel=1e-12
    )


def test_names_are_listed_once_and_functions_are_not_names():
    assert Formula("L*(sin(theta_hi) - sin(theta_lo)) + g*L").names == ("L", "theta_hi", "theta_lo")
    assert Formula("g").value({}) == pytest.approx(9.80665)
    with pytest.raises(KeyError):
        Formula("__import__('os')").value({})
    assert Formula("-atan2(a, b)").value({"a": 1, "b": 1}) == pytest.approx(-math.pi / 4)
