"""Three trial runs read backwards: which side is heavy, and what goes where against it."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.mechanics import rotor
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, STRUCTURE, WATCH, Finding
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

RUNS = (0.0, 1.0, 2.0, 3.0)


def trial_figures(design: Design, orbit: Orbit) -> Told:
    """Nothing before anything was read; what is missing, or does not agree, is said."""
    rows = design.rows("trial.runs").reshape(-1, 2)
    if not len(rows):
        return Told()
    tell = Teller()
    trial = design.number("trial.mass") * design.number("trial.arm")
    shakes = {float(run): float(shake) for run, shake in rows}
    given = (
        design.given("m", "trial.mass", "trial weight", "kg"),
        design.given("r", "trial.arm", "its radius", "m"),
        *(Given(f"A_{run:.0f}", shake, "1", f"shake of run {run:.0f}", "trial.runs") for run, shake in shakes.items()),
    )
    words = _missing(shakes)
    if not words:
        try:
            found = rotor.three_runs(shakes[0.0], (shakes[1.0], shakes[2.0], shakes[3.0]), trial)
        except (InputError, InfeasibleError) as error:
            words = f"{str(error)[:1].upper()}{str(error)[1:]}."
    if words:
        tell.findings.append(
            Finding("balance.trials", "Three trial runs", STRUCTURE, WATCH, "trial.runs", Words(words))
        )
        return tell.told()
    # Something as heavy as the trial weight goes opposite the heavy side, as far out as balances it.
    opposite = math.remainder(found.angle + math.pi, 2 * math.pi)
    out = found.unbalance / design.number("trial.mass")
    source = "dynamics 8.12"
    how = "how the three runs differ from the one without, all at one speed"
    tell.add(
        by_method("balance.heavy", "Heavy side is out by", found.unbalance, "kg*m", how, given, source=source),
        by_method(
            "balance.heavy_at",
            "It lies round from the camera arm by",
            found.angle,
            "rad",
            f"{how}; to the left, seen from above",
            given,
            source=source,
        ),
        by_method(
            "balance.against_at",
            "Put the trial weight round from it at",
            opposite,
            "rad",
            "opposite the heavy side",
            given,
            source=source,
        ),
        by_method(
            "balance.against_out", "at a radius of", out, "m", "unbalance over the trial weight", given, source=source
        ),
    )
    said = Words(
        "Fix the trial weight {} round from the camera arm, {} out, and run again.", ((opposite, "rad"), (out, "m"))
    )
    tell.findings.append(
        Finding(
            "balance.trials",
            "Three trial runs",
            STRUCTURE,
            CLEAR,
            "trial.runs",
            said,
            found.unbalance,
            trial,
            "at_most",
            "kg*m",
            figure="balance.heavy",
        )
    )
    return tell.told()


def _missing(shakes: dict[float, float]) -> str:
    lacks = [f"{run:.0f}" for run in RUNS if run not in shakes]
    return f"Four runs are read: run {' and '.join(lacks)} is missing." if lacks else ""
