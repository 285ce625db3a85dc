"""A formula that computes its own figure and can be read by a person.

One line of text is parsed once into a tree. The tree is turned into functions to evaluate (there is no `eval`),
and walked to be shown in symbols and with the numbers put in.
"""

from __future__ import annotations

import ast
import math
from collections.abc import Callable, Mapping
from operator import add, itemgetter, mul, sub, truediv

from hazel_lantern.core.nouns.units import GRAVITY

FUNCTIONS: dict[str, Callable[..., float]] = {
    "sin": math.sin,
    "cos": math.cos,
    "tan": math.tan,
    "sqrt": math.sqrt,
    "abs": abs,
    "min": min,
    "max": max,
    "asin": math.asin,
    "acos": math.acos,
    "atan2": math.atan2,
    "hypot": math.hypot,
    "log": math.log,
}
Work = Callable[[Mapping[str, float]], float]
CONSTANTS = {"g": GRAVITY, "pi": math.pi}
_GREEK = {
    "theta": "θ",
    "phi": "φ",
    "rho": "ρ",
    "mu": "μ",
    "sigma": "σ",
    "tau": "τ",
    "epsilon": "ε",
    "pi": "π",
    "omega": "ω",
    "eta": "η",
    "zeta": "ζ",
}
_BINARY: dict[type[ast.operator], tuple[str, int, Callable[[float, float], float]]] = {
    ast.Add: (" + ", 1, add),
    ast.Sub: (" − ", 1, sub),
    ast.Mult: (" · ", 2, mul),
    ast.Div: (" / ", 2, truediv),
}
_SUPERSCRIPT = str.maketrans("0123456789-", "⁰¹²³⁴⁵⁶⁷⁸⁹⁻")


def symbol(name: str) -> str:
    """A name as it is written by hand: `theta_hi` becomes θ with a lowered hi (HTML)."""
    head, _, tail = name.partition("_")
    head = _GREEK.get(head, head)
    return f"{head}<sub>{tail.replace('_', ' ')}</sub>" if tail else head


class Formula:
    """An arithmetic expression over named inputs."""

    __slots__ = ("_body", "_work", "names", "text")
    _work: Work | None

    def __init__(self, text: str) -> None:
        self.text = text
        self._body, self._work = ast.parse(text, mode="eval").body, None
        found = dict.fromkeys(node.id for node in ast.walk(self._body) if isinstance(node, ast.Name))
        self.names = tuple(name for name in found if name not in FUNCTIONS and name not in CONSTANTS)

    def value(self, inputs: Mapping[str, float]) -> float:
        """The number this formula gives for the inputs [SI]."""
        if self._work is None:
            self._work = _work(self._body)
        return self._work(inputs)

    def in_symbols(self) -> str:
        """The formula in symbols (HTML)."""
        return _show(self._body, {}, 0)

    def in_numbers(self, shown: Mapping[str, str]) -> str:
        """The formula with each name replaced by its shown value (HTML)."""
        return _show(self._body, shown, 0)


def _work(node: ast.expr) -> Work:
    """A function from inputs to the number of a part of the tree."""
    match node:
        case ast.Constant(value=constant):
            number = float(constant)  # type: ignore[arg-type]
            return lambda _: number
        case ast.Name(id=name) if name in CONSTANTS:
            return lambda _: CONSTANTS[name]
        case ast.Name(id=name):
            return itemgetter(name)
        case ast.UnaryOp(operand=operand):
            inner = _work(operand)
            return lambda names: -inner(names)
        case ast.BinOp(left=left, op=op, right=right):
            one, other, joined = _work(left), _work(right), pow if isinstance(op, ast.Pow) else _BINARY[type(op)][2]
            return lambda names: joined(one(names), other(names))
        case ast.Call(func=ast.Name(id=name), args=args):
            function, parts = FUNCTIONS[name], [_work(part) for part in args]
            return lambda names: function(*[part(names) for part in parts])
    raise AssertionError(ast.dump(node))


def _show(node: ast.expr, shown: Mapping[str, str], outer: int) -> str:
    if isinstance(node, ast.Constant):
        return f"{float(node.value):g}"  # type: ignore[arg-type]
    if isinstance(node, ast.Name):
        return shown.get(node.id, symbol(node.id))
    if isinstance(node, ast.UnaryOp):
        return "−" + _show(node.operand, shown, 2)
    if isinstance(node, ast.BinOp):
        if isinstance(node.op, ast.Pow):
            power = _show(node.right, shown, 0)
            base = _show(node.left, shown, 3)
            if isinstance(node.left, ast.Name) and node.left.id in shown:
                base = f"({base})"
            return base + (power.translate(_SUPERSCRIPT) if power.isdigit() else f"<sup>{power}</sup>")
        mark, rank, _ = _BINARY[type(node.op)]
        text = (
            _show(node.left, shown, rank)
            + mark
            + _show(node.right, shown, rank + isinstance(node.op, (ast.Sub, ast.Div)))
        )
        return f"({text})" if rank < outer else text
    assert isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
    inside = ", ".join(_show(part, shown, 0) for part in node.args)
    name = node.func.id
    if name == "sqrt":
        return f"√({inside})"
    if name == "abs":
        return f"|{inside}|"
    return f"{name}({inside})" if len(node.args) > 1 or not isinstance(node.args[0], ast.Name) else f"{name} {inside}"
