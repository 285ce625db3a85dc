"""How far the straight-line answer of the frame engine holds: small turns, small sags."""

from __future__ import annotations

from hazel_lantern.core.nouns.finding import STOP, STRUCTURE, WATCH, Finding, Remedy
from hazel_lantern.core.nouns.told import Teller
from hazel_lantern.core.nouns.words import Words

ROUGH, LOST = 0.05, 0.15  # radians
SHARE = 0.1  # of the span or arm


def too_soft(
    tell: Teller, turn: float, sag: float, span: float, what: str, where: str, remedies: tuple[Remedy, ...]
) -> None:
    """Say where a structure bends further than the method holds for: figures are rough beyond 0.05 rad, and no answer
    beyond 0.15 rad or a sag of a tenth of the span.

    turn: the largest turn anywhere [rad]; sag: the largest [m]; span: of the rail, frame or arm [m]
    """
    lost = not (turn <= LOST and sag <= SHARE * span)
    if turn <= ROUGH and not lost:
        return
    by_sag = lost and turn <= LOST
    value, limit, unit = (sag, SHARE * span, "m") if by_sag else (turn, LOST if lost else ROUGH, "rad")
    words = f"{what} bends by {{}}: " + (
        "beyond {} this method has no answer, and its other figures are not to be trusted. Stiffen it first."
        if lost
        else "beyond {} its figures are rough. Stiffen it, or measure."
    )
    tell.findings.append(
        Finding(
            "rig.too_soft",
            "Too soft to be reckoned",
            STRUCTURE,
            STOP if lost else WATCH,
            where,
            Words(words, ((value, unit), (limit, unit))),
            value,
            limit,
            "at_most",
            unit,
            remedies,
        )
    )
