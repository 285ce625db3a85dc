"""Safety classes: what failure would hit, and the factors that follow."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError, RefusedError


class SafetyClass(Struct, frozen=True):
    """Factors on strength by material family, on tipping, on buckling, and on the breaking load of ropes [-]."""

    id: str
    words: str
    ductile: float
    wood: float
    brittle: float
    tipping: float
    buckling: float
    rope: float

    def strength(self, family: str) -> float:
        return {"ductile": self.ductile, "wood": self.wood, "brittle": self.brittle}[family]


CLASSES = {
    "A": SafetyClass("A", "on a table or floor, nobody near", 1.5, 2.0, 3.0, 1.3, 2.0, 4.0),
    "B": SafetyClass("B", "on a stand, a fall breaks gear", 2.0, 2.5, 4.0, 1.5, 3.0, 5.0),
    "C": SafetyClass("C", "moving mass near people", 2.5, 3.0, 5.0, 2.0, 3.0, 6.0),
    "D": SafetyClass("D", "overhead, area below kept clear", 3.0, 4.0, 6.0, 2.0, 4.0, 8.0),
}
PIN_FACTOR = 3.0
HAND_SWING = 1.5
SHEAR = {"ductile": 0.58, "wood": 0.2, "brittle": 0.4}  # shear allowed over bending allowed, workshop judgement


def safety_class(key: str) -> SafetyClass:
    """The factors of a class.

    key: A, B, C or D; E is refused

    Returns: SafetyClass. Raises: RefusedError for anything over people; InputError for another letter.
    Source: statics 9, workshop judgement.
    """
    if key == "E":
        raise RefusedError("nothing that hangs over people is designed here", "OVER_PEOPLE")
    if key not in CLASSES:
        raise InputError("safety", repr(key), "must be A, B, C or D")
    return CLASSES[key]


def rope_factor(key: str) -> float:
    """Factor on a rope's breaking load.

    key: safety class, A to D

    Returns: factor [-]. Raises: RefusedError, InputError. Source: statics 9.
    """
    return safety_class(key).rope
