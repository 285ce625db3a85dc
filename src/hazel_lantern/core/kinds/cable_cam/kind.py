"""Cable cams: a carriage on a tight rope."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import asdict

from hazel_lantern.core.document.drives import CAPSTAN, SORTS
from hazel_lantern.core.document.project import Drive
from hazel_lantern.core.kinds.base import Action, Chapter, Design, Figures, Held, Kind, Limit, View
from hazel_lantern.core.kinds.cable_cam.carriage import carriage_figures
from hazel_lantern.core.kinds.cable_cam.design import DECLARED, GRAVITY_RUN, LOOP, SCHOOLS, TOLD_APART_BY
from hazel_lantern.core.kinds.cable_cam.drawing import draw, strip
from hazel_lantern.core.kinds.cable_cam.ends import ends_figures
from hazel_lantern.core.kinds.cable_cam.fit import fit_figures, sized_cable
from hazel_lantern.core.kinds.cable_cam.foreseen import foreseen, tested
from hazel_lantern.core.kinds.cable_cam.line import (
    clear_asked,
    clearance_figures,
    line_figures,
    lowest,
    sag_curve,
    sag_for,
)
from hazel_lantern.core.kinds.cable_cam.model import (
    CARRIAGE,
    Cable,
    follow,
    frames,
    lens_heights,
    members,
    mount,
    wind_on,
)
from hazel_lantern.core.kinds.cable_cam.parts import build
from hazel_lantern.core.kinds.cable_cam.ride import ran
from hazel_lantern.core.kinds.cable_cam.running import running_figures
from hazel_lantern.core.kinds.cable_cam.swings import Swung, swing_figures, swung
from hazel_lantern.core.kinds.cable_cam.tight import wind_aside
from hazel_lantern.core.kinds.fall import FallZone, Hangs
from hazel_lantern.core.kinds.shared.clearing import Way, among, clearing_by
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.lead import drag, drawn
from hazel_lantern.core.kinds.shared.weighed import weighed
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, WATCH, Finding, Remedy
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Laid

SHORT = DECLARED.short
BESIDE = 0.2  # metres that camera and carriage reach to either side of the rope


def _clearance(design: Design, cable: Cable, swing: Swung) -> Told:
    return clearance_figures(design, cable, swing.most)


def _weighed(design: Design, laid: Laid) -> Told:
    return weighed(design, laid, CARRIAGE, "carriage.mass", "Carriage")


def _headlines(design: Design, move: Move, optics: Optics, cable: Cable, figures: Figures) -> dict[str, Words]:
    rig = Words(f"{SHORT[design.variant]}, {cable.stock.name.lower()}, {{}}", ((cable.span, "m"),))
    lines = {
        "balance": ("sag {}, ends {}", ("balance.sag", "balance.pull")),
        "travel": ("swings {}, bounces at {}", ("travel.swing_most", "travel.bounce")),
    }
    return headlines(move, optics, figures, move.length, rig, lines)


def _loading(design: Design, cable: Cable) -> tuple[Words, ...]:
    """Setting up, in order; it is taken down backwards."""
    steps = [
        Words(
            "Rope off the strip, half of its height to either side and {} out behind both ends; nobody in it from "
            "here on",
            ((1.5 * cable.span, "m"),),
        ),
        Words("Look over rope, eyes, shackles, stakes: broken wires, loose clips and bent pins are thrown away"),
        Words("Ends first: posts on their plates, side guys, then guys; pull-test each stake or tree, five minutes"),
        Words(
            "Rope out along the ground, both ends on with their shackles secured, tensioner open; haul line beside it"
        ),
        Words(
            "Tighten by hand, gloves and glasses on, from beside the line, never in it; read {} across while empty",
            ((cable.bare, "N"),),
        ),
        Words(
            "Stops and buffers on; carriage on with a sandbag of {} in the camera's place, safety cable round the rope",
            ((cable.moving, "kg"),),
        ),
        Words(
            "Run it from stop to stop; measure {} of sag in the middle; look at the ends again",
            ((float(cable.now.sag[cable.middle]), "m"),),
        ),
        Words("Let the sandbag hang for ten minutes, tighten clips and rope once more, then the camera"),
    ]
    by = design.text("haul.by")
    if by == LOOP:
        steps.append(Words("Loop tightened, drive tried slowly, emergency stop tried"))
    elif by == GRAVITY_RUN:
        steps.append(
            Words("Brake line in a gloved hand, round a post once; nobody lets it go before the carriage is caught")
        )
    steps.append(Words("Nobody under it while it is tight; taken down for wind, lightning and the night"))
    return tuple(steps)


def _falls(cable: Cable) -> FallZone:
    """Half of its height to either side of the rope, and out behind both ends."""
    core, aside = strip(cable)
    return FallZone(core, aside, True, "could fall, or the rope could whip", "nobody here while it is tight")


def _hangs(design: Design, cable: Cable, swing: Swung) -> Hangs:
    """The lowest of what hangs between its stops, at its longest, and what it must clear things by."""
    low, at = lowest(cable)
    places = np.column_stack([at - cable.span / 2, np.zeros_like(at), low])
    pushed = wind_aside(design, cable)
    return Hangs(places, clear_asked(design, cable, at, swing.most), BESIDE + cable.apart / 2 + pushed)


def _limits(design: Design) -> tuple[Limit, ...]:
    return (Limit("what its brake slows it by", design.number("brake.slows"), "brake.slows"),)


def _held(design: Design, cable: Cable, swings: Told) -> tuple[Held, ...]:
    """Rolling and the wind against it; the haul line runs along."""
    rolls = design.number("carriage.rolling") * cable.moving * GRAVITY
    against = wind_on(design, cable.stock)[0] + drag(design, cable.high - cable.low, _middle(cable), hung=False)
    bounces = swings.number("travel.bounce")
    rings = (("it bounces on its rope", bounces),) if bounces > 0 else ()

    def weighs(x: np.ndarray) -> np.ndarray:
        return np.asarray(cable.moving * GRAVITY * np.sin(cable.way.at(x)[0]))

    span, starts = (cable.low, cable.high), 1.5 * rolls + against
    return (
        Held(
            rolls + against,
            starts,
            span,
            rings=rings,
            spins=cable.haul_line,
            weighs=weighs,
            lined=design.text("haul.by") == LOOP,
        ),
    )


def _middle(cable: Cable) -> float:
    """Height of the lens half-way [m]."""
    return float(lens_heights(cable, np.array([(cable.low + cable.high) / 2]))[0])


def _lead(design: Design, cable: Cable) -> Told:
    """A lead from the ground beside the middle of its run."""
    push = design.number("carriage.rolling") * cable.moving * GRAVITY
    return drawn(design, cable.high - cable.low, _middle(cable), push, by="rope.span")


def _same_loop(design: Design, drives: tuple[Drive, ...]) -> Told:
    """The loop that a drive turns is the haul line: one wheel, one wrap."""
    looped = [element for drive in drives for element in drive.elements if element.kind == CAPSTAN]
    if not looped:
        return Told()
    tell, values = Teller(), {**SORTS[CAPSTAN].usual(), **looped[-1].values}
    wheel, wraps = float(values["wheel"]), float(values["wraps"])
    here, wrapped = design.number("haul.wheel"), design.number("haul.wrap")
    same = design.text("haul.by") == LOOP and abs(wheel - here) < 5e-4 and abs(wraps - wrapped) < 0.01
    words = Words(
        "Drive and haul line agree."
        if same
        else "The haul line runs round a wheel of {} by {}; the drive reckons with {} by {}.",
        () if same else ((here, "m"), (wrapped, "rad"), (wheel, "m"), (wraps, "rad")),
    )
    changes = (("haul.by", LOOP), ("haul.wheel", wheel), ("haul.wrap", wraps))
    fits = 0.02 <= wheel <= 0.5 and wraps <= math.radians(1440)
    mend = (Remedy("same", Words("The haul line as the drive has it"), changes),) if fits and not same else ()
    tell.findings.append(
        Finding(
            "drive.travel.line",
            "Travel: one haul line",
            BUILD,
            CLEAR if same else WATCH,
            "haul.wheel",
            words,
            remedies=mend,
        )
    )
    return tell.told()


CLEARING = (
    Way("carriage.drop", "Mount {} below the rope", 0.03, high=2.0, matters=among("camera kit", "drop post")),
    Way("carriage.wheelbase", "Wheels {} apart", 0.03, high=2.0),
)

KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", sized_cable), Action("balance", "Tighten it for me", sag_for)),
    model=Chapter("cable", build),
    chapters=(
        Chapter("ride", ran),
        Chapter("swing", swung),
        Chapter("fit", fit_figures),
        Chapter("lines", line_figures),
        Chapter("clearance", _clearance),
        Chapter("ends", ends_figures),
        Chapter("running", running_figures),
        Chapter("swings", swing_figures),
        Chapter("pieces_bear", carriage_figures),
        Chapter("weighed", _weighed),
        Chapter("sags", sag_curve),
        Chapter("lead", _lead),
        Chapter("same_loop", _same_loop),
    ),
    follow=follow,
    limits=_limits,
    held=_held,
    clearing=clearing_by(build, frames, *CLEARING),
    falls=_falls,
    hangs=_hangs,
    pushed=False,
    tested=tested,
    mount=mount,
    members=members,
    bodies=frames,
    sketch=draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"loading": _loading, "foreseen": foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
)
