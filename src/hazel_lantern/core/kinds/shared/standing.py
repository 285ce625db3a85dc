"""What rigs that stand on their feet are asked: left alone with a factor, and bumped."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.mechanics import footing
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, Finding, Remedy, judge
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

NUDGE, NOBODY_NEAR = 5.0, "A"  # newtons, safety class


def bump(design: Design, mass: float) -> float:
    """The push a rig of so much mass [kg] must stand at its camera [N]. Source: statics 6."""
    asked = design.number("bump.least")
    usual = NUDGE if design.text("safety") == NOBODY_NEAR else footing.LEAST_KNOCK
    return footing.knock_default(mass * GRAVITY, asked or usual)


def standing_findings(
    factor: float,
    needed: float,
    tips: float,
    knock: float,
    *,
    where: str,
    bumped: tuple[str, str],
    field: str,
    mend: tuple[Remedy, ...],
) -> list[Finding]:
    """Footing factor [-] against the one needed, and the push that tips it [N] against a knock; at or below zero it
    falls by itself.

    `where` names the worst pose; `bumped` is the second finding's title and words; `field` leads to what mends both.
    """
    found = []
    for key, figure, title, value, limit, unit, words in (
        (
            "balance.stands",
            "balance.footing",
            "Footing",
            factor,
            needed,
            "1",
            where + " it stands with a factor of {}; {} is wanted.",
        ),
        ("balance.bump", "balance.tips_at", bumped[0], tips, knock, "N", bumped[1]),
    ):
        state = judge(value, limit, "at_least", PEOPLE)
        said = (
            Words(words, ((value, unit), (limit, unit)))
            if value > 0
            else Words(where + " it falls over by itself; {} is wanted.", ((limit, unit),))
        )
        found.append(
            Finding(
                key,
                title,
                PEOPLE,
                state,
                field,
                said,
                value,
                limit,
                "at_least",
                unit,
                mend if state != CLEAR else (),
                figure=figure,
            )
        )
    return found
