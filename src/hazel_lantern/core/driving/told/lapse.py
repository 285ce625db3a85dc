"""Time-lapse of a driven axis: what an interval must hold, how far it goes between frames, what it smears."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.motion import drives
from hazel_lantern.core.motion.lapse import Lapse, settling, shoot_move_shoot
from hazel_lantern.core.nouns.figure import Curve, Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STOP, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

SWAYS = 0.02  # damping of what sways; workshop judgement
SHORTEST, FILMED = 2.0, 8.0  # seconds of film: the least that is one; a usual one
TRIES = 40  # of an interval
AROUND = 2  # frames drawn before and after the longest step
STILL, SMEARED = 0.25, 1.0  # pixels that are not seen: of a sway, of a smear
SMEAR = Formula("v*t_e*p")
SHOWN = Formula("N/f")
GLIDES = Formula("t_e+t_d")


def time_lapse(given: Driven, shot: Shot) -> Told:
    """A time-lapse over the longest of its wanted times; nothing of an axis that is filmed, or stands."""
    tell, key, mode, number = Teller(), given.key, given.settings.text("lapse"), given.settings.number
    if mode == d.FILM or given.drive.source not in d.MOTORS or not given.load.moves:
        return tell.told()
    total = max(one.time for one in given.needs)
    times = (
        Given("T", total, "s", "longest of its times"),
        Given("I", number("interval"), "s", "a frame every", f"{key}.interval"),
    )
    tell.add(
        by_method(
            f"{key}.frames",
            "Time-lapse frames",
            math.floor(total / number("interval") + 1e-9) + 1,
            "count",
            "one at the start and one every interval until the end",
            times,
            source="drive 4.6",
        )
    )
    count = tell.value(f"{key}.frames")
    tell.add(
        by_formula(
            f"{key}.film",
            "shown in",
            "s",
            SHOWN,
            (tell.given("N", f"{key}.frames"), Given("f", shot.shown_fps, "1/s", "frame rate shown", "shot.shown")),
            source="drive 4.6",
        )
    )
    if count < 2:
        words = Words("A frame every {} leaves one frame of {}.", ((number("interval"), "s"), (total, "s")))
        often = (set_one("often", "A frame every {}", f"{key}.interval", max(0.1, math.floor(total) / 100), "s"),)
        tell.findings.append(
            Finding(
                f"{key}.few_frames",
                f"{given.axis.name}: frames",
                PICTURE,
                STOP,
                f"{key}.interval",
                words,
                remedies=often,
            )
        )
        return tell.told()
    _long_enough(tell, given, shot)
    _card(tell, given, total)
    (_stills if mode == d.STILLS else _gliding)(tell, given, shot, total)
    _both_ways(tell, given, shot, total)
    return tell.told()


def _long_enough(tell: Teller, given: Driven, shot: Shot) -> None:
    """Whether the film made of it is long enough to be seen; else the time that makes one."""
    key = given.key
    longer = math.ceil(FILMED * shot.shown_fps * given.settings.number("interval"))
    times = (*sorted({*given.drive.times_s, float(longer)}),)
    mend = (
        (Remedy("longer", Words("Take {} for it", ((longer, "s"),)), ((f"{key}.times", tuple((t,) for t in times)),)),)
        if longer <= 86400 and len(times) <= d.MOST_TIMES
        else ()
    )
    tell.hold(
        f"{key}.film",
        f"{key}.film_long",
        f"{given.axis.name}: long enough to be seen",
        PICTURE,
        f"{key}.interval",
        "All frames together are shown in {}; at least {} are wanted.",
        at_least=SHORTEST,
        state=WATCH if tell.value(f"{key}.film") < SHORTEST else CLEAR,
        remedies=mend,
    )


def _card(tell: Teller, given: Driven, total: float) -> None:
    key, card = given.key, given.settings.number("card")
    seldom = math.ceil(total / (card - 1) * 10) / 10
    mend = (set_one("seldom", "A frame every {}", f"{key}.interval", seldom, "s"),) if seldom <= 3600 else ()
    tell.hold(
        f"{key}.frames",
        f"{key}.card",
        f"{given.axis.name}: room on the card",
        PICTURE,
        f"{key}.card",
        "{} frames are shot, the card holds {}.",
        at_most=card,
        watch_at=1.0,
        remedies=mend,
    )


def _stills(tell: Teller, given: Driven, shot: Shot, total: float) -> None:
    key, number = given.key, given.settings.number
    gentle, pixels = number("gentle"), float(given.pixels.max())
    made, settle = _made(given, shot, total, number("interval"))
    unit, asks = (
        "rad" if given.axis.turns else "m",
        (
            Given("I", number("interval"), "s", "a frame every", f"{key}.interval"),
            Given("t_e", number("exposed"), "s", "exposed", f"{key}.exposed"),
            Given("t_d", number("writes"), "s", "not ready", f"{key}.writes"),
            Given("a", gentle, "m/s^2", "a step is sped up by", f"{key}.gentle"),
        ),
    )
    tell.add(
        by_method(
            f"{key}.lapse_step",
            "Longest step between frames",
            made.step,
            unit,
            "places at the frames, straight on between 97 moments of the move",
            asks[:1],
            source="drive 4.6",
        ),
        by_method(
            f"{key}.lapse_step_px",
            "in the picture",
            made.step * pixels,
            "px",
            "where it shows most",
            (Given("p", pixels, "1", "pixels for a metre of the axis, or a radian"),),
            source="drive 5.3",
        ),
        by_method(
            f"{key}.lapse_moves",
            "is made in",
            made.moving,
            "s",
            "from rest to rest with even ramps",
            asks[3:],
            source="drive 4.6",
        ),
        by_method(
            f"{key}.settles",
            "and stands still after",
            settle,
            "s",
            "until what sways by itself does so by less than a quarter of a pixel, at a fiftieth of critical damping",
            asks[3:],
            source="drive 4.6",
        ),
        by_method(
            f"{key}.lapse_needs",
            "Least interval",
            made.least,
            "s",
            "step, standing still, exposure and writing, one after the other",
            asks[1:],
            source="drive 4.6",
            headline=True,
        ),
    )
    _strong(tell, given, made.step)
    least = made.least
    for _ in range(TRIES):  # a longer interval makes longer steps
        least = math.ceil(least * 10 - 1e-9) / 10
        if least >= total or (needs := _made(given, shot, total, least)[0].least) <= least:
            break
        least = needs
    mend = [set_one("interval", "A frame every {}", f"{key}.interval", least, "s")] if least < min(total, 3600) else []
    if settle > made.moving:
        mend.append(Remedy("gentler", Words("Step more gently"), ((f"{key}.gentle", max(0.001, gentle / 2)),)))
    tell.hold(
        f"{key}.lapse_needs",
        f"{key}.interval_holds",
        f"{given.axis.name}: an interval holds it all",
        PICTURE,
        f"{key}.interval",
        "Step, standing still, exposure and writing take {}; a frame is shot every {}.",
        at_most=number("interval"),
        watch_at=1.0,
        state=STOP if made.left < 0 else CLEAR,
        remedies=tuple(mend),
    )


def _strong(tell: Teller, given: Driven, step: float) -> None:
    """Whether the motor makes a step so quickly, at the fastest of it,
    against weight and friction where most is asked."""
    key, load, held = given.key, given.load, given.held
    sped = given.settings.number("gentle") / float(given.way.max())
    effort = float(np.abs(load.weight).max()) + held.rubs + abs(held.sprung) + float(load.inertia.max()) * sped
    asked = float(drives.source_torque(given.chain, np.array([effort]), np.array([sped]), given.source.inertia)[0])
    fastest = min(math.sqrt(sped * step) * given.chain.per_output, given.source.fastest)
    gives = float(given.source.gives(np.array([fastest]))[0])
    inputs = (
        Given("F", effort, given.effort_unit, "weight, friction and inertia at the axis"),
        Given("T", asked, "N*m:shaft", "asked of the motor"),
        Given("T_g", gives, "N*m:shaft", "it gives at the fastest of a step"),
        Given("a", given.settings.number("gentle"), "m/s^2", "a step is sped up by", f"{key}.gentle"),
    )
    tell.add(
        by_method(
            f"{key}.step_spare",
            "Least to spare in a step",
            gives / max(asked, 1e-12),
            "1",
            "what it gives over what is asked, at the most of everything together",
            inputs,
            source="drive 1.2, 4.6",
        )
    )
    asks, spare = given.source.spare, tell.value(f"{key}.step_spare")
    gentler = (
        Remedy(
            "gentler", Words("Step more gently"), ((f"{key}.gentle", max(0.001, given.settings.number("gentle") / 4)),)
        ),
    )
    tell.hold(
        f"{key}.step_spare",
        f"{key}.steps_strong",
        f"{given.axis.name}: strong enough for a step",
        PICTURE,
        f"{key}.gentle",
        "In a step the motor gives {} times what is asked; {} times is safe.",
        at_least=asks,
        state=STOP if spare < 1 else WATCH if spare < asks else CLEAR,
        remedies=gentler,
    )


def _made(given: Driven, shot: Shot, total: float, interval: float) -> tuple[Lapse, float]:
    """What an interval [s] holds where it stands for each frame, and how long it then sways after a step [s]."""
    number, way, pixels = given.settings.number, float(given.way.max()), float(given.pixels.max())
    clock = np.arange(math.floor(total / interval + 1e-9) + 1) * interval / total
    places, gentle = np.interp(clock, given.load.u, given.load.at), number("gentle")
    step, settle = float(np.abs(np.diff(places)).max()), 0.0
    if pixels > 0:
        still = STILL * way / pixels
        settle = max((settling(step * way, gentle, f, SWAYS, still) for _, f in given.held.rings if f > 0), default=0.0)
    fastest = given.source.fastest / given.chain.per_output
    return shoot_move_shoot(
        places, interval, number("exposed"), settle, number("writes"), shot.shown_fps, gentle / way, fastest
    ), settle


def _both_ways(tell: Teller, given: Driven, shot: Shot, total: float) -> None:
    """Some frames about the fastest of the move, standing for each and moving on."""
    key, number, interval = given.key, given.settings.number, given.settings.number("interval")
    made, _ = _made(given, shot, total, interval)
    clock, last = np.arange(math.floor(total / interval + 1e-9) + 1) * interval, len(given.load.u) - 1
    places = np.interp(clock / total, given.load.u, given.load.at)
    n = min(len(places) - 2, int(np.argmax(np.abs(np.diff(places)))))
    some = slice(max(0, n - AROUND), n + AROUND + 2)
    t, at, unit = clock[some] - clock[some][0], places[some], "rad" if given.axis.turns else "m"
    fine = np.linspace(0.0, t[-1], 8 * last)
    goes = np.interp((fine + clock[some][0]) / total, given.load.u, given.load.at)
    # The frame is exposed and written first; then it steps, and stands until the next.
    leaves = t[:-1] + number("exposed") + number("writes")
    share = np.clip((fine[:, None] - leaves) / max(made.moving, 1e-9), 0.0, 1.0)
    stands = at[0] + (np.where(share < 0.5, 2 * share**2, 1 - 2 * (1 - share) ** 2) * np.diff(at)).sum(axis=1)
    tell.curves[f"{key}.lapse"] = Curve(f"{key}.lapse", "stands for each frame", fine, stands - at[0], "s", unit)
    tell.curves[f"{key}.lapse.gliding"] = Curve(f"{key}.lapse.gliding", "moves on", fine, goes - at[0], "s", unit)
    ends = np.array([0.0, number("exposed")])
    for k, start in enumerate(t[:-1]):
        name = f"{key}.lapse.open.{k}"
        tell.curves[name] = Curve(
            name, "lens open" if k == 0 else "", start + ends, np.full(2, at[k] - at[0]), "s", unit
        )


def _gliding(tell: Teller, given: Driven, shot: Shot, total: float) -> None:
    key, number = given.key, given.settings.number
    speed = float(np.abs(given.load.speed).max()) * shot.duration_s / total
    exposed, writes = (
        Given("t_e", number("exposed"), "s", "exposed", f"{key}.exposed"),
        Given("t_d", number("writes"), "s", "not ready", f"{key}.writes"),
    )
    inputs = (
        Given("v", speed, "rad/s" if given.axis.turns else "m/s", "fastest of the axis in that time"),
        exposed,
        Given("p", float(given.pixels.max()), "1", "pixels for a metre of the axis, or a radian"),
    )
    tell.add(
        by_formula(
            f"{key}.lapse_needs", "Least interval", "s", GLIDES, (exposed, writes), source="drive 4.6", headline=True
        ),
        by_formula(f"{key}.smear_px", "A frame is smeared by", "px", SMEAR, inputs, source="drive 4.6, 5.3"),
    )
    interval = number("interval")
    least = math.ceil(tell.value(f"{key}.lapse_needs") * 10) / 10
    often = (set_one("interval", "A frame every {}", f"{key}.interval", least, "s"),)
    tell.hold(
        f"{key}.lapse_needs",
        f"{key}.interval_holds",
        f"{given.axis.name}: an interval holds it all",
        PICTURE,
        f"{key}.interval",
        "Exposure and writing take {}; a frame is shot every {}.",
        at_most=interval,
        watch_at=1.0,
        state=STOP if tell.value(f"{key}.lapse_needs") > interval else CLEAR,
        remedies=often,
    )
    stop = (Remedy("stills", Words("Stand for each frame"), ((f"{key}.lapse", d.STILLS),)),)
    smeared = tell.value(f"{key}.smear_px") > SMEARED
    tell.hold(
        f"{key}.smear_px",
        f"{key}.smear",
        f"{given.axis.name}: frames are sharp",
        PICTURE,
        f"{key}.exposed",
        "Moving on, a frame is smeared by {}; from {} on it is seen, and may be wanted.",
        at_most=SMEARED,
        watch_at=1.0,
        state=WATCH if smeared else CLEAR,
        remedies=stop,
    )
