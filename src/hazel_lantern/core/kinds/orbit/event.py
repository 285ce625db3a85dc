"""Something filmed as it bursts, pours or sparks: room for it, and cues for spinner, recorder and trigger."""

from __future__ import annotations

import numpy as np

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.orbit.clearance import swept
from hazel_lantern.core.kinds.orbit.model import Orbit
from hazel_lantern.core.kinds.orbit.spun import Spun
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, PICTURE, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

SPARE = 0.05  # metres between a splash and the lens
STEADY, LOOKED_AT = 0.98, 801  # of its fastest; moments of a move
SETTLES = 0.5  # seconds at its speed before anything is let go


def event_figures(design: Design, move: Move, optics: Optics, orbit: Orbit, spin: Spun) -> Told:
    """Nothing where nothing happens."""
    reach, lasts = design.number("event.reach"), design.number("event.time")
    if reach <= 0:
        return Told()
    tell = Teller()
    splash = design.given("s", "event.reach", "splashes out to", "m")
    rings = swept(orbit)
    # Only what is above the table meets what flies off it.
    above = [inner for name, (inner, _, top) in rings.items() if top > orbit.table and name not in ("beam", "hub")]
    near = min(above, default=orbit.radius)
    gap = min(near, orbit.lens_at if orbit.inward else near) - reach
    tell.add(
        by_method(
            "travel.splash",
            "Splash stays short of the camera by",
            gap,
            "m",
            "the nearest of camera, riser and weights above the table, less how far it splashes",
            (splash, Given("r", orbit.lens_at, "m", "lens goes round at", "rig.radius")),
            source="geometry",
        )
    )
    arm = round(orbit.radius + SPARE - gap + 0.01, 3)
    tell.hold(
        "travel.splash",
        "travel.room",
        "Room for what happens",
        STRUCTURE,
        "event.reach",
        "It splashes to {} short of what turns; {} is wanted, and a clear pane before the lens."
        if gap >= 0
        else "It splashes onto what turns: {} short of it; {} is wanted, and a clear pane before the lens.",
        at_least=SPARE,
        watch_at=1.0,
        remedies=(set_one("out", "Camera arm {}", "arm.front", arm, "m"),) if arm <= 2.5 else (),
    )
    _cues(tell, design, move, optics, spin, lasts)
    words = Words(
        "Glass, sparks and splinters: screens for everybody, glasses for who lets it go; nobody nearer than the circle."
    )
    tell.findings.append(Finding("balance.event", "What flies off", PEOPLE, WATCH, "event.reach", words))
    return tell.told()


def cue_times(design: Design, move: Move) -> tuple[float, float, float]:
    """When recorder and trigger are given, and when it is over, from the start of the turn [s]."""
    start = _steady(move)[0]
    trigger = start + SETTLES
    return start, trigger, trigger + design.number("event.time")


def _steady(move: Move) -> tuple[float, float]:
    """The longest time over which it turns within a fiftieth of its fastest, from and to [s]."""
    share = np.linspace(0.0, 1.0, LOOKED_AT)
    speed = np.abs(move.profile.speed(share))
    fast = np.concatenate([[False], speed >= STEADY * speed.max(), [False]])
    edges = np.flatnonzero(fast[1:] != fast[:-1]).reshape(-1, 2)
    first, last = edges[int(np.argmax(edges[:, 1] - edges[:, 0]))]
    return float(share[first]) * move.duration_s, float(share[last - 1]) * move.duration_s


def _cues(tell: Teller, design: Design, move: Move, optics: Optics, spin: Spun, lasts: float) -> None:
    start, trigger, over = cue_times(design, move)
    until = _steady(move)[1]
    given = (
        design.given("t", "event.time", "it lasts", "s"),
        Given("T", move.duration_s, "s", "duration", "shot.time"),
    )
    turned = lasts * spin.fastest
    tell.add(
        by_method(
            "travel.cue_record",
            "Start the recorder at",
            start,
            "s",
            "as soon as it turns within a fiftieth of its fastest",
            given,
            source="dynamics 2",
        ),
        by_method(
            "travel.cue_trigger", "Let it go at", trigger, "s", "half a second after that", given, source="dynamics 2"
        ),
        by_method(
            "travel.event_turn",
            "It is seen turning by",
            turned,
            "rad",
            "its time at the fastest turn",
            given,
            source="dynamics 2",
        ),
        by_method(
            "travel.event_plays",
            "It plays for",
            lasts * optics.capture_fps / optics.shown_fps,
            "s",
            "its time at the rate shown",
            given,
            source="drive 5.7",
        ),
    )
    fits = over <= until
    tell.hold(
        "travel.cue_trigger",
        "travel.cues",
        "Cues",
        PICTURE,
        "shot.time",
        Words(
            "Spin from 0, record from {}, let go at {}: over before it slows."
            if fits
            else "Spin from 0, record from {}, let go at {}: it slows before that is over; turn longer, or eased less.",
            ((start, "s"), (trigger, "s")),
        ),
        at_most=max(0.0, until - lasts),
        state=CLEAR if fits else WATCH,
    )
    holds = design.number("recorder.time")
    if holds > 0:
        needs = over - start
        tell.add(
            by_method(
                "travel.event_needs",
                "Recorder must hold",
                needs,
                "s",
                "from its start until it is over",
                given,
                source="dynamics 2",
            )
        )
        tell.hold(
            "travel.event_needs",
            "travel.event_buffer",
            "Recorder and what happens",
            PICTURE,
            "recorder.time",
            "From record to the end it takes {}; the recorder holds {}.",
            at_most=holds,
            state=CLEAR if needs <= holds else WATCH,
        )
