"""What the pieces of a body weigh against what it is said to weigh."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, WATCH, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

KIT = "Camera kit"
REST = "Head and small parts"  # makes up what the pieces listed leave of the mass entered


def weighed(design: Design, laid: Laid, body: str, key: str, what: str) -> Told:
    """Whether what is listed for a body fits into the mass entered for it under `key`; `what` it is called."""
    tell, said = Teller(), design.number(key)
    listed = [piece for piece in laid.placed if piece.body == body and piece.name not in (REST, KIT)]
    mass = sum(piece.mass for piece in listed)
    given = tuple(Given(f"m_{i}", piece.mass, "kg", piece.name) for i, piece in enumerate(listed))
    method = "sum of the pieces that move with it; head, screws and small parts not counted"
    tell.add(by_method("build.listed", f"{what} as listed", mass, "kg", method, given, source="sections and densities"))
    better, heavy = math.ceil(mass * 20 + 1e-9) / 20, mass > said
    mend = (set_one("weigh", f"{what} {{}}", key, better, "kg"),) if heavy and better <= 20 else ()
    words = Words(
        f"{what} as listed: {{}} without its head and small parts; {{}} was entered for all of it.",
        ((mass, "kg"), (said, "kg")),
    )
    tell.hold(
        "build.listed",
        "build.weighed",
        f"Mass of the {what.lower()}",
        BUILD,
        key,
        words,
        at_most=said,
        state=WATCH if heavy else CLEAR,
        remedies=mend,
    )
    return tell.told()
