"""A cord wound on a drum: it pulls, and never pushes."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.driving.told.picture import sprung
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, WATCH, Remedy
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words


def cord(given: Driven) -> Told:
    """Whether the cord of a drum stays tight all along the move, and what brings it back."""
    tell, kinds = Teller(), [element.kind for element in given.drive.elements]
    moving = np.abs(given.load.speed) > 1e-9
    if not given.made or kinds[-1] != d.DRUM or not moving.any():
        return tell.told()
    key, speed = given.key, given.load.speed[moving]
    # What of its own friction slows it down needs no cord to hold it back.
    pull = float(given.needs[0].effort[moving].min())
    tell.add(
        by_method(
            f"{key}.pull",
            f"{given.axis.name}: least pull of its cord",
            pull,
            "N",
            "weight, inertia, spring and friction along the move; below nought it would have to push",
            (Given("F", given.held.rubs, "N", "rubs with"), Given("s", given.held.sprung, "N", "spring")),
            source="drive 1.2",
        )
    )
    turns_back = bool(speed.min() < 0 < speed.max())
    if turns_back:
        words = Words(
            "The move goes back on itself, and a cord on a drum only pulls: a second cord, a weight or a loop draws "
            "it back."
        )
    elif pull < 0:
        words = Words("Slowing down it runs on, and the cord goes slack: {} more drag keeps it tight.", ((-pull, "N"),))
    else:
        words = Words("The cord stays tight, by {} at the least; back to its start it goes by hand.", ((pull, "N"),))
    good = pull >= 0 and not turns_back
    loop = Remedy("loop", Words("A loop round a grooved wheel"), ((f"{key}.chain", (*kinds[:-1], d.CAPSTAN)),))
    tell.hold(
        f"{key}.pull",
        f"{key}.tight",
        f"{given.axis.name}: cord stays tight",
        PICTURE,
        f"{key}.chain",
        words,
        at_least=0.0,
        state=CLEAR if good else WATCH,
        remedies=() if good else (*(() if turns_back else sprung(given)), loop),
    )
    return tell.told()
