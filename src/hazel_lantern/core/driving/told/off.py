"""What happens when nothing drives an axis, and what fingers, stops and hands meet."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.driving.load import STEP
from hazel_lantern.core.driving.needs import comes_back, runs_off
from hazel_lantern.core.motion import drives, screws
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

LEAST = 5  # newtons that a lock holds at the least
TWICE = 2.0  # times what pulls, that what holds it should
HOLDS = {d.BRAKE: "a brake", d.PIN: "a lock pin", d.TETHER: "a tether"}
ALL_ROUND = 2 * math.pi * 0.98


def off(given: Driven) -> Told:
    """Power off, wheels that draw in, the ends of the way."""
    tell = Teller()
    if given.drive.source not in (d.HAND, d.GRAVITY):
        _power_off(tell, given)
    if given.made:
        _guarded(tell, given)
    if given.source.motor is not None:
        _ends(tell, given)
        _soft(tell, given)
    return tell.told()


def _power_off(tell: Teller, given: Driven) -> None:
    key, held = given.key, given.held
    pulled = runs_off(given.load, held)
    lever = max(1e-6, float(given.way.max()))
    at_lens = pulled / lever
    inputs = (
        Given("W", float(abs(given.load.anywhere).max()), given.effort_unit, "weight pulls with, at its worst place"),
        Given("F", held.rubs, given.effort_unit, "its own friction holds"),
        Given("r", lever, "m", "lens goes for a metre of it, or a radian"),
    )
    tell.add(
        by_method(
            f"{key}.runs_off",
            "Nothing driving it, it pulls at the lens with",
            at_lens,
            "N",
            "weight at its worst place beyond its friction",
            inputs,
            source="drive 1.2",
        )
    )
    tell.findings.append(_verdict(given, pulled, at_lens, lever))


def _verdict(given: Driven, pulled: float, at_lens: float, lever: float) -> Finding:
    """Whether it stays where it is when the power goes.
    What locks by itself is watched until something else holds it."""
    key, title = f"{given.key}.off", f"{given.axis.name}: power off"
    where, figure = f"{given.key}.held", f"{given.key}.runs_off"
    weight = ((at_lens, "N"),)

    def said(state: str, words: Words, limit: float, remedies: tuple[Remedy, ...] = ()) -> Finding:
        return Finding(key, title, PEOPLE, state, where, words, at_lens, limit, "at_most", "N", remedies, figure=figure)

    if pulled <= 1e-9:
        return said(CLEAR, Words("With the power off its own friction holds it wherever it stands."), 1.0)
    asks = max(LEAST, math.ceil(1.25 * TWICE * at_lens))
    pin = (
        Remedy(
            "pin",
            Words("A lock pin that holds {}", ((float(asks), "N"),)),
            ((where, d.PIN), (f"{given.key}.holds", float(asks))),
        ),
    )
    by = given.settings.text("held")
    holds = given.settings.number("holds") if by != d.NO_HOLD else 0.0
    name = HOLDS.get(by, "")
    if given.held.locked > holds * lever:
        holds, name = given.held.locked / lever, "its lock"
    if holds > 0:
        state = CLEAR if holds >= TWICE * at_lens else WATCH if holds >= at_lens else STOP
        amounts = ((holds, "N"), *weight)
        return said(
            state,
            Words(f"With the power off {name} holds {{}} at the lens; it pulls with {{}}.", amounts),
            holds / TWICE,
            pin if state != CLEAR else (),
        )
    back = comes_back(given.chain, pulled)
    locks = [one for one in given.made if one.holds != screws.RUNS] or given.source.back == 0
    if locks:
        creeps = any(one.holds == screws.CREEPS for one in given.made)
        how = "may creep as it is shaken" if creeps else "holds as long as nothing shakes or oils it"
        return said(
            WATCH,
            Words(
                f"With the power off only what locks by itself keeps it, against {{}}: that {how}; a brake, a lock "
                "pin or a tether is asked for.",
                weight,
            ),
            at_lens,
            pin,
        )
    if TWICE * back <= given.source.holds:
        return said(
            WATCH,
            Words(
                "With the power off only the motor's own drag keeps it, against {}: a brake, a lock pin or a tether "
                "is asked for.",
                weight,
            ),
            at_lens,
            pin,
        )
    return said(STOP, Words("With the power off it runs away with {} at the lens: nothing holds it.", weight), 0.0, pin)


def _guarded(tell: Teller, given: Driven) -> None:
    key, covered = given.key, given.settings.text("guard") == d.COVERED
    names = [d.SORTS[one.kind].name.lower() for one in given.made]
    what = f"{', '.join(names)} draw{'s' if len(names) == 1 and not names[0].endswith('s') else ''} in"
    cut = " Cover it, and a switch in reach cuts its power." if given.source.motor is not None else " Cover it."
    open_to = f"Fingers, hair and cords: {what} whatever comes between.{cut}"
    words = Words("Covered where wheels run together." if covered else open_to)
    mend = () if covered else (set_one("cover", "Cover it", f"{key}.guard", d.COVERED),)
    tell.findings.append(
        Finding(
            f"{key}.pinch",
            f"{given.axis.name}: pinch points",
            PEOPLE,
            CLEAR if covered else WATCH,
            f"{key}.guard",
            words,
            remedies=mend,
        )
    )


def _ends(tell: Teller, given: Driven) -> None:
    """A motor that runs on into the end stops, and hands that cannot turn what is geared in."""
    key, span = given.key, given.held.span[1] - given.held.span[0]
    stall = given.source.motor.stall if given.source.motor else 0.0
    force = stall * given.chain.ratio * given.chain.efficiency
    force = (
        force * drives.TURN / given.chain.travel if given.chain.travel else force / max(1e-6, float(given.way.max()))
    )
    slips = [one.slips for one in given.made if math.isfinite(one.slips)]
    if slips and given.chain.travel:
        force = min(force, *slips)
    if not (given.axis.turns and span > ALL_ROUND):
        tell.add(
            by_method(
                f"{key}.shoves",
                "Run on into a stop it shoves with",
                force,
                "N",
                "its stall torque through the chain, at the lens of what turns",
                (
                    Given("T", stall, "N*m:shaft", "stalls at"),
                    Given(
                        "R", given.chain.per_output, "1" if given.axis.turns else "rad/m", "turns of the source for it"
                    ),
                ),
                source="drive 1.1",
            )
        )
        both = given.settings.text("switches") == d.BOTH_ENDS
        words = Words(
            "End switches cut it before its stops; without them it shoves with {}."
            if both
            else "Nothing cuts it at the ends: run on, it shoves its stop with {}.",
            ((force, "N"),),
        )
        mend = () if both else (set_one("switches", "A switch at both ends", f"{key}.switches", d.BOTH_ENDS),)
        tell.findings.append(
            Finding(
                f"{key}.ends",
                f"{given.axis.name}: ends of its way",
                STRUCTURE,
                CLEAR if both else WATCH,
                f"{key}.switches",
                words,
                remedies=mend,
            )
        )
    locked = given.chain.returned == 0 or given.source.back == 0
    if locked and given.settings.text("release") == d.LEFT_IN:
        words = Words("Geared in, hands cannot move it, not even away from somebody: let it be taken out of gear.")
        mend = (set_one("release", "Swung out of mesh", f"{key}.release", d.LIFTED),)
        tell.findings.append(
            Finding(
                f"{key}.by_hand",
                f"{given.axis.name}: moved by hand",
                PEOPLE,
                WATCH,
                f"{key}.release",
                words,
                remedies=mend,
            )
        )


def _soft(tell: Teller, given: Driven) -> None:
    """Soft limits against where the shot goes."""
    margin = given.settings.number("margin")
    if given.soft is None or not margin or not given.load.moves:
        return
    key, low, high = given.key, *given.held.span
    lever = given.held.lever if given.axis.turns else 1.0
    # The load is looked at a step inside either end of the way.
    edge = float(np.ptp(given.load.at)) * STEP / (1 - 2 * STEP)
    near = max(0.0, float(min(given.load.at.min() - low, high - given.load.at.max()) - edge) * lever)
    ends = (Given("a", low * lever, "m", "one end, at the lens"), Given("b", high * lever, "m", "the other"))
    tell.add(
        by_method(
            f"{key}.nears",
            "The shot comes to its ends by",
            near,
            "m",
            "nearest place of the move to an end of the axis, at the lens",
            ends,
            source="drive 6",
        )
    )
    fits = math.floor(near * 1e3) / 1e3
    tell.hold(
        f"{key}.nears",
        f"{key}.soft",
        f"{given.axis.name}: soft limits",
        STRUCTURE,
        f"{key}.margin",
        "The shot comes to {} from an end; soft limits stop it {} before.",
        at_least=margin,
        watch_at=1.0,
        state=CLEAR if near >= margin else STOP,
        remedies=(set_one("nearer", "Soft limits {} inside", f"{key}.margin", fits, "m"),) if near < margin else (),
    )
