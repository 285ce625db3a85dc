"""What a motor draws, how long its battery lasts, and whether it is heard."""

from __future__ import annotations

import math

import numpy as np

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.driving.source import draws
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STRUCTURE, WATCH, Finding, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

USED, FUSE = 0.8, 1.25  # of a battery; over what it draws, that a fuse should be


def supply(given: Driven, shot: Shot) -> Told:
    """Current, fuse, battery and sound of a motor."""
    tell, motor = Teller(), given.source.motor
    if motor is None:
        return tell.told()
    key, number = given.key, given.settings.number
    volts = number("volts") if given.drive.source != d.SLOW else motor.volts
    most = max(draws(given.source, float(np.abs(one.asked).max()), volts) for one in given.needs)
    first = given.needs[0]
    usual = float(np.mean([draws(given.source, float(t), volts) for t in first.asked]))
    torque = Given("T", tell_most(given), "N*m:shaft", "most torque asked", f"{key}.needs" if given.load.moves else "")
    tell.add(
        by_method(
            f"{key}.draws",
            "Draws at the most",
            most,
            "A",
            "current without a load, and as much more as torque is asked",
            (torque,),
            source="drive 1.9",
        ),
        by_method(
            f"{key}.lasts",
            "Battery lasts",
            USED * number("battery") / (volts * usual) * 3600,
            "s",
            "four fifths of it, at what the move draws over its time",
            (
                Given("E", number("battery"), "W*h", "battery", f"{key}.battery"),
                Given("U", volts, "V", "supply", f"{key}.volts"),
                Given("I", usual, "A", "over the move"),
            ),
            source="energy",
        ),
        by_method(
            f"{key}.runs_for",
            "takes of this shot",
            math.floor(USED * number("battery") / (volts * usual) * 3600 / (2 * shot.duration_s)),
            "count",
            "there and back",
            (Given("T", shot.duration_s, "s", "duration", "shot.time"),),
            source="energy",
        ),
    )
    if given.settings.text("lapse") != d.FILM and given.load.moves:
        _lapse_long(tell, given, usual, volts)
    amps = number("amps")
    more = (set_one("amps", "A supply of {}", f"{key}.amps", math.ceil(1.3 * most * 2) / 2, "A"),)
    tell.hold(
        f"{key}.draws",
        f"{key}.supply",
        f"{given.axis.name}: supply",
        STRUCTURE,
        f"{key}.amps",
        "It draws up to {}, the supply gives {}.",
        at_most=amps,
        state=WATCH if most > 0.9 * amps else CLEAR,
        remedies=more if 1.3 * most <= 60 else (),
    )
    fuse, better = number("fuse"), math.ceil(FUSE * most * 2) / 2
    # A stepper, and a motor of one speed, draw no more when they are stalled.
    blows = given.source.stepper is not None or given.source.one_speed or motor.stall_current >= fuse
    words = Words("The fuse of {} lets {} through", ((fuse, "A"), (most, "A")))
    said = (
        "."
        if fuse >= FUSE * most and blows
        else ", and blows while it works."
        if fuse < FUSE * most
        else f", but stalled it draws {motor.stall_current:g} A: it would never blow."
    )
    mend = (
        (set_one("fuse", "A fuse of {}", f"{key}.fuse", better, "A"),)
        if better < motor.stall_current or given.source.stepper
        else ()
    )
    tell.findings.append(
        Finding(
            f"{key}.fuse",
            f"{given.axis.name}: fuse",
            STRUCTURE,
            CLEAR if said == "." else WATCH,
            f"{key}.fuse",
            Words(words.template + said, words.amounts),
            most,
            fuse / FUSE,
            "at_most",
            "A",
            mend if said != "." else (),
            figure=f"{key}.draws",
        )
    )
    if given.settings.text("sound") == d.RECORDED:
        _heard(tell, given, motor.sounds)
    return tell.told()


def _lapse_long(tell: Teller, given: Driven, usual: float, volts: float) -> None:
    """Whether the battery lasts a time-lapse, its motor held on between the steps."""
    key, total = given.key, max(one.time for one in given.needs)
    asked = volts * usual * total / 3600
    most = 2000.0
    bigger = math.ceil(asked / USED / 10) * 10.0
    inputs = (
        Given("U", volts, "V", "supply", f"{key}.volts"),
        Given("I", usual, "A", "over the move"),
        Given("T", total, "s", "longest of its times"),
    )
    tell.add(
        by_method(
            f"{key}.lapse_draws",
            "A time-lapse takes",
            asked,
            "W*h",
            "what the move draws, over all of its time: held on between steps it draws no less",
            inputs,
            source="energy",
        )
    )
    mend = (set_one("battery", "A battery of {}", f"{key}.battery", bigger, "W*h"),) if bigger <= most else ()
    holds = USED * given.settings.number("battery")
    tell.hold(
        f"{key}.lapse_draws",
        f"{key}.lapse_battery",
        f"{given.axis.name}: battery for the time-lapse",
        PICTURE,
        f"{key}.battery",
        "It takes {}; four fifths of the battery are {}.",
        at_most=holds,
        state=WATCH if asked > holds else CLEAR,
        remedies=mend,
    )


def tell_most(given: Driven) -> float:
    return max(float(np.abs(one.asked).max()) for one in given.needs)


def _heard(tell: Teller, given: Driven, sounds: float) -> None:
    key, near, hush = given.key, given.settings.number("near"), given.settings.number("hush")
    loud = sounds - 20 * math.log10(near)
    tell.add(
        by_method(
            f"{key}.heard",
            "Heard at the microphone",
            loud,
            "dB",
            "its sound at a metre, six decibels less for twice as far",
            (Given("L", sounds, "dB", "at a metre"), Given("d", near, "m", "microphone from it", f"{key}.near")),
            source="spherical spreading",
        )
    )
    away = math.ceil(near * 10 ** ((loud - hush) / 20) * 10) / 10
    mend = (set_one("away", "Microphone {} away", f"{key}.near", away, "m"),) if away <= 30 else ()
    state = WATCH if loud > hush else CLEAR
    tell.hold(
        f"{key}.heard",
        f"{key}.sound",
        f"{given.axis.name}: heard in the sound",
        PICTURE,
        f"{key}.near",
        "It is heard with {} at the microphone; {} is wanted at the most.",
        at_most=hush,
        state=state,
        remedies=mend,
    )
