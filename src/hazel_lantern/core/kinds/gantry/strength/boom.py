"""What the boom bears where it hangs: its section at the swing bolt, and the bolt itself."""

from __future__ import annotations

import math

from msgspec.structs import replace

from hazel_lantern.core.catalogue import StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.gantry.parts import SWING
from hazel_lantern.core.mechanics.footing import knock_default
from hazel_lantern.core.mechanics.safety import HAND_SWING, PIN_FACTOR, safety_class
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import PEOPLE, STOP, Finding, Remedy, judge, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

WASHER = 0.012  # metres from the bolt's middle to the edge its thrust washer tips about
CORE = 58.0e-6  # square metres of an M10 bolt in its thread
SHORTER = 0.05  # metres, a hole


def boom_figures(design: Design, gantry: Gantry) -> Told:
    """Bending of the boom drawn out, at the hole of its swing bolt, and the pull in that bolt; the camera's weight, a
    push at the camera and the counterweight, each with and without the others.

    Source: statics 2, 3, 9; the bolt as a tie with its washer's edge as the fulcrum.
    """
    tell, rig, stock = Teller(), gantry, gantry.boom
    steel, material = design.catalogue.materials["steel"], design.catalogue.materials[stock.material]
    push = knock_default(rig.tip * GRAVITY)
    left = stock.left_at(SWING)
    if left <= 0:
        return Told((), (_nothing_left(stock),))
    front, tail = moments(rig, rig.longest, push)
    weight = GRAVITY * (rig.tip + rig.boom_mass(rig.longest) + rig.counter)
    given = (
        Given("r", rig.longest, "m", "boom drawn out", "boom.longest"),
        Given("m", rig.tip, "kg", "camera kit with its drop post", "kit"),
        Given("h", rig.drop, "m", "mount below the bridge", "camera.drop"),
        Given("F", push, "N", "push at the camera"),
        Given("m_c", rig.counter, "kg", "weight behind the trolley", "boom.counter"),
    )
    tell.add(
        by_method(
            "rig.boom_stress",
            "Stress in the boom",
            _stress(rig, push),
            "Pa",
            "the larger moment, of the camera's side with a push or of the tail, times 1.5, over the section left at "
            "its hole",
            given,
            source="statics 3, 9",
        ),
        by_method(
            "rig.swing_stress",
            "Stress in the swing bolt",
            HAND_SWING * (max(front, tail) / WASHER + weight) / CORE,
            "Pa",
            "that moment over 12 mm to the edge of the thrust washer, and the weight, times 1.5, over 58 mm² of an M10",
            given,
            source="statics 9",
        ),
    )
    allowed = material.allowed(safety_class("D").strength(material.family))
    stress, pulled = tell.value("rig.boom_stress"), tell.value("rig.swing_stress")
    thicker = _thicker(design, rig, push) if stress > 0.8 * allowed else ()
    bolt = steel.strength / PIN_FACTOR
    tell.findings += [
        _strong(
            "rig.boom",
            "Strength of the boom",
            "The boom",
            stress,
            allowed,
            "rig.boom_stress",
            (*thicker, *_mend(rig, stress, allowed)),
        ),
        _strong(
            "rig.swing", "Swing bolt", "The swing bolt", pulled, bolt, "rig.swing_stress", _mend(rig, pulled, bolt)
        ),
    ]
    return tell.told()


def _stress(rig: Gantry, push: float) -> float:
    """Bending of the boom at its hole [Pa]."""
    return HAND_SWING * max(moments(rig, rig.longest, push)) / rig.boom.left_at(SWING)


def _thicker(design: Design, rig: Gantry, push: float) -> tuple[Remedy, ...]:
    """The lightest tube that is stiff enough for its hole; none where none is."""
    rows, materials = design.catalogue, design.catalogue.materials
    sound = []
    for stock in rows.sections.values():
        if stock.shape != "rectangular_tube" or stock.left_at(SWING) <= 0:
            continue
        material = materials[stock.material]
        line = stock.line(material)
        bears = 0.8 * material.allowed(safety_class("D").strength(material.family))
        if _stress(replace(rig, boom=stock, boom_line=line), push) <= bears:
            sound.append((line, stock.id, stock.name))
    if not sound:
        return ()
    _, key, name = min(sound)
    return (set_one("section", f"Boom of {name}", "boom.section", key),)


def _nothing_left(stock: StockSection) -> Finding:
    return Finding(
        "rig.boom",
        "Strength of the boom",
        PEOPLE,
        STOP,
        "boom.section",
        Words(
            "The hole of the swing bolt, {}, leaves too little of a boom {} wide to reckon with: take a wider one.",
            ((SWING, "m"), (stock.width, "m")),
        ),
        SWING,
        stock.width,
        "at_most",
        "m",
    )


def moments(rig: Gantry, out: float, push: float) -> tuple[float, float]:
    """Moments about the swing bolt [N*m]: of the camera's side, of the tail."""
    front = GRAVITY * (rig.tip * out + rig.boom_line * out**2 / 2) + push * rig.drop
    return front, GRAVITY * (rig.counter * rig.tail + rig.boom_line * rig.tail_end**2 / 2)


def net_moment(rig: Gantry, push: float) -> float:
    """The most the boom turns the trolley with [N*m]: drawn out with a push at the camera against what hangs behind,
    or what hangs behind with the camera off.
    """
    front, tail = moments(rig, rig.longest, push)
    return max(front - tail, push * rig.drop, tail - front + GRAVITY * rig.payload * rig.longest + push * rig.drop)


def _mend(rig: Gantry, value: float, limit: float) -> tuple[Remedy, ...]:
    """A boom as much shorter as the value is over what is sound; none where it is not over."""
    if value <= 0.8 * limit:
        return ()
    out = round(math.floor(rig.longest * 0.8 * limit / value / SHORTER) * SHORTER, 3)
    if out <= max(rig.shortest, 0.05):
        return ()
    return (set_one("shorter", "Boom drawn out {}", "boom.longest", out, "m"),)


def _strong(
    key: str, title: str, what: str, value: float, limit: float, figure: str, remedies: tuple[Remedy, ...]
) -> Finding:
    return Finding(
        key,
        title,
        PEOPLE,
        judge(value, limit, "at_most", PEOPLE),
        "boom.section" if key == "rig.boom" else "boom.longest",
        Words(what + " works at {} of {} allowed overhead.", ((value, "Pa"), (limit, "Pa"))),
        value,
        limit,
        "at_most",
        "Pa",
        remedies,
        figure=figure,
    )
