"""Belts, chains, cords, drums and beltways as they are made: pitches, lengths, teeth in mesh, how tight they bend."""

from __future__ import annotations

import math

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.piece import Disc, Made, Sizes, Trouble, disc_inertia, number, up_to
from hazel_lantern.core.motion import belts, drums
from hazel_lantern.core.motion.drives import TURN, Stage
from hazel_lantern.core.nouns.finding import BUILD, PICTURE, STOP, STRUCTURE, WATCH
from hazel_lantern.core.nouns.words import Words

FEWEST_IN_MESH = 6  # teeth of a belt that hold
GROWTH, RIPPLE = 0.03, 0.02  # of the speed, that is seen
CORD_BEND = 10.0  # of a cord's thickness, the least it may be bent round; workshop judgement


def belt(values: Sizes, span: float) -> Made:
    driver, driven, pitch, apart = (number(values, key) for key in ("driver", "driven", "pitch", "apart"))
    first, second = Disc(driver * pitch / TURN, round(driver)), Disc(driven * pitch / TURN, round(driven))
    troubles: list[Trouble] = []
    need = (first.radius + second.radius) * 1.02
    if apart < need:
        words = Words(
            "The pulleys would stand in each other: their shafts are {} apart, {} is the least.",
            ((apart, "m"), (need, "m")),
        )
        troubles.append(
            Trouble(
                "meets",
                "Pulleys clear each other",
                BUILD,
                STOP,
                words,
                apart,
                need,
                "at_least",
                "m",
                ("apart", up_to(need, 0.005), "m"),
            )
        )
    small = min(first, second, key=lambda one: one.radius)
    large = max(first, second, key=lambda one: one.radius)
    mesh = belts.in_mesh(2 * small.radius, 2 * large.radius, max(apart, need), small.teeth)
    words = Words(
        "The belt lies on {} teeth of the smaller pulley; {} are asked for.", ((mesh, "1"), (FEWEST_IN_MESH, "1"))
    )
    if mesh < FEWEST_IN_MESH:
        better = math.ceil(driver * FEWEST_IN_MESH / mesh + 1)
        mends = ("driver", float(better), "count") if driver <= driven else None
        troubles.append(
            Trouble(
                "in_mesh", "Teeth in the belt", STRUCTURE, WATCH, words, mesh, FEWEST_IN_MESH, "at_least", "1", mends
            )
        )
    stage = Stage(
        driven / driver,
        number(values, "efficiency"),
        number(values, "play") / second.radius,
        disc_inertia(second.radius, 0.012),
    )
    length = belts.belt_length(2 * first.radius, 2 * second.radius, max(apart, need))
    whole = round(length / pitch)
    return Made(
        d.BELT,
        stage,
        first,
        second,
        max(apart, need),
        same_way=True,
        troubles=tuple(troubles),
        said=f"{driver:.0f} : {driven:.0f}, belt of {whole} teeth",
    )


def chain(values: Sizes, span: float) -> Made:
    driver, driven, pitch, apart = (number(values, key) for key in ("driver", "driven", "pitch", "apart"))
    one, other = belts.sprocket(driver, pitch), belts.sprocket(driven, pitch)
    first, second = Disc(one.diameter / 2, round(driver)), Disc(other.diameter / 2, round(driven))
    troubles: list[Trouble] = []
    need = (first.radius + second.radius) * 1.05
    if apart < need:
        words = Words(
            "The sprockets would stand in each other: their shafts are {} apart, {} is the least.",
            ((apart, "m"), (need, "m")),
        )
        troubles.append(
            Trouble(
                "meets",
                "Sprockets clear each other",
                BUILD,
                STOP,
                words,
                apart,
                need,
                "at_least",
                "m",
                ("apart", up_to(need, 0.005), "m"),
            )
        )
    ripple = max(one.ripple, other.ripple)
    if ripple > RIPPLE:
        words = Words("On so small a sprocket the chain pulses by {}; {} is seen.", ((ripple, "1"), (RIPPLE, "1")))
        key = "driver" if driver <= driven else "driven"
        troubles.append(
            Trouble(
                "pulses",
                "Chain runs evenly",
                PICTURE,
                WATCH,
                words,
                ripple,
                RIPPLE,
                "at_most",
                "1",
                (key, 16.0, "count"),
            )
        )
    stage = Stage(
        driven / driver,
        number(values, "efficiency"),
        number(values, "play") / second.radius,
        disc_inertia(second.radius, 0.006),
    )
    links = belts.chain_links(driver, driven, pitch, max(apart, need))
    return Made(
        d.CHAIN,
        stage,
        first,
        second,
        max(apart, need),
        ripple=ripple,
        same_way=True,
        troubles=tuple(troubles),
        said=f"{driver:.0f} : {driven:.0f}, {links} links",
    )


def _cord(values: Sizes, wheel: float, what: str, size: str) -> tuple[Trouble, ...]:
    """Whether a cord may be bent round a wheel [m]."""
    cord = number(values, "cord")
    least = CORD_BEND * cord
    if wheel >= least:
        return ()
    words = Words(f"A cord of {{}} frays on so small a {what}: {{}} is the least for it.", ((cord, "m"), (least, "m")))
    return (
        Trouble(
            "bends", f"Cord on its {what}", STRUCTURE, WATCH, words, wheel, least, "at_least", "m", (size, least, "m")
        ),
    )


def drum(values: Sizes, span: float) -> Made:
    bare, width, cord = (number(values, key) for key in ("bare", "width", "cord"))
    pack = 1.0 if values["laid"] == d.STACKED else drums.NESTED
    drum = drums.Drum(bare, width, cord, pack)
    troubles = list(_cord(values, bare, "drum", "bare"))
    if width < cord:
        words = Words("A cord of {} does not lie between flanges {} apart.", ((cord, "m"), (width, "m")))
        troubles.append(
            Trouble(
                "room",
                "Room on the drum",
                BUILD,
                STOP,
                words,
                width,
                cord,
                "at_least",
                "m",
                ("width", up_to(cord, 0.005), "m"),
            )
        )
        drum = drums.Drum(bare, cord, cord, pack)
    wound = drums.wound(drum, max(span, cord))
    if wound.grows - 1 > GROWTH:
        wide = up_to(drums.one_layer(drum, span), 0.005)
        words = Words(
            "The cord lies in layers: the last runs {} faster than the first; {} is seen.",
            ((wound.grows - 1, "1"), (GROWTH, "1")),
        )
        mends = ("width", wide, "m") if wide <= 0.5 else None
        troubles.append(
            Trouble(
                "layers",
                "Even speed from the drum",
                PICTURE,
                WATCH,
                words,
                wound.grows - 1,
                GROWTH,
                "at_most",
                "1",
                mends,
            )
        )
    stage = Stage(1.0, number(values, "efficiency"))
    # The last layer pulls with the longest lever and runs the fastest: what is asked for is reckoned there.
    return Made(
        d.DRUM,
        stage,
        Disc(wound.last),
        travel=wound.last_turn,
        stiff=number(values, "stretch") / max(span, 0.05),
        breaks=number(values, "breaks") / 5,
        grows=wound.grows,
        troubles=tuple(troubles),
        said=f"{wound.turns:.1f} turns in {wound.layers} layer{'s' if wound.layers > 1 else ''}",
    )


def capstan(values: Sizes, span: float) -> Made:
    wheel, cord, tight = (number(values, key) for key in ("wheel", "cord", "tight"))
    grips = drums.capstan(number(values, "grip"), number(values, "wraps"))
    radius = (wheel + cord) / 2
    stage = Stage(1.0, number(values, "efficiency"))
    return Made(
        d.CAPSTAN,
        stage,
        Disc(radius),
        travel=TURN * radius,
        slips=tight * (grips - 1),
        stiff=2 * number(values, "stretch") / max(span, 0.05),
        breaks=number(values, "breaks") / 5,
        troubles=_cord(values, wheel, "wheel", "wheel"),
        said="looped cord",
    )


def beltway(values: Sizes, span: float) -> Made:
    teeth, pitch = number(values, "teeth"), number(values, "pitch")
    least = 12 if pitch <= 0.003 else 14
    troubles: tuple[Trouble, ...] = ()
    if teeth < least:
        words = Words(
            "A pulley of {} teeth bends the belt too sharply; {} is the least.", ((teeth, "count"), (least, "count"))
        )
        troubles = (
            Trouble(
                "few",
                "Enough teeth",
                STRUCTURE,
                WATCH,
                words,
                teeth,
                least,
                "at_least",
                "count",
                ("teeth", float(least), "count"),
            ),
        )
    stage = Stage(1.0, number(values, "efficiency"))
    return Made(
        d.BELTWAY,
        stage,
        Disc(teeth * pitch / TURN, round(teeth)),
        travel=teeth * pitch,
        play=number(values, "play"),
        stiff=2 * number(values, "stretch") / max(span, 0.05),
        breaks=number(values, "breaks") / 3,
        troubles=troubles,
        said=f"{teeth:.0f} teeth of {pitch * 1e3:g} mm",
    )
