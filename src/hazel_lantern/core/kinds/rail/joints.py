"""Rails in pieces: where they are joined, by what, and what a joint bears."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.catalogue import SOLID, StockSection
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.design import BUTT, PLATE, SLEEVE, SPIGOT
from hazel_lantern.core.kinds.shared.splices import Splice, splice
from hazel_lantern.core.mechanics.rails import Joint, Rest
from hazel_lantern.core.nouns.errors import GeometryError, Mend, mend_at
from hazel_lantern.core.nouns.finding import Remedy, set_one
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.part import Part

SHORTEST = 0.2  # metres of a piece of rail
ON_SUPPORT = 0.02  # metres from a support's middle that both ends still rest on it
PLAIN = {BUTT: "butted", SLEEVE: "a tube let into both", SPIGOT: "a bar let into both", PLATE: "plates at both sides"}


class Joints(Struct, frozen=True):
    """Where a rail is cut [m], how it is joined there, by what, None where nothing here fits, and for butted ends
    whether each piece bears on two supports.
    """

    cuts: tuple[float, ...] = ()
    how: str = BUTT
    splice: Splice | None = None
    sound: bool = True

    @property
    def in_beam(self) -> tuple[Joint, ...]:
        """As the beam meets them; where a joint carries nothing its rail is reckoned as one piece, and stopped."""
        if not self.sound:
            return ()
        stiff = self.splice.stiffness if self.splice else 0.0
        return tuple(Joint(x, stiff) for x in self.cuts)


def joints_of(design: Design, bar: StockSection, length: float, rests: tuple[Rest, ...]) -> Joints:
    """The joints of a rail in pieces. Raises GeometryError for pieces too short to be a rail."""
    every = design.number("rail.joint_every")
    if not 0 < every < length:
        return Joints()
    if every < SHORTEST:
        raise GeometryError(
            f"pieces of rail shorter than {SHORTEST * 1e3:.0f} mm: joints stand too close",
            mend_at("A joint every {}", "rail.joint_every", SHORTEST),
            Mend("In one piece", (("rail.joint_every", 0.0),)),
        )
    cuts = tuple(every * k for k in range(1, math.ceil(length / every - 1e-9)))
    how = design.text("rail.joint")
    if how == BUTT:
        at = [min((rest.x for rest in rests), key=lambda x: abs(x - cut)) for cut in cuts]
        held = all(abs(x - cut) <= ON_SUPPORT for x, cut in zip(at, cuts, strict=True))
        sound = held and all(_bears(rests, a, b) for a, b in zip((0.0, *at), (*at, length), strict=True))
        # Both ends rest on the support: it is there that the rail turns.
        return Joints(cuts, how, None, sound) if not sound else Joints(tuple(at), how)
    room = min(every, length - cuts[-1])
    found = splice(design.catalogue, bar, how, room, free=_wheels_reach(design, bar))
    return Joints(cuts, how, found, found is not None)


def _bears(rests: tuple[Rest, ...], start: float, end: float) -> bool:
    """Whether a piece rests on two supports."""
    return sum(start - ON_SUPPORT <= rest.x <= end + ON_SUPPORT for rest in rests) >= 2


def _wheels_reach(design: Design, bar: StockSection) -> float:
    """How far down the sides of the rail its wheels run [m]: all of it where they lie flat at its sides."""
    wheel = design.row("wheels", "carriage.wheel")
    if wheel.shape == "grooved":
        return bar.depth
    return 0.0 if bar.shape not in (*SOLID, "rectangular_tube", "profile") else wheel.d / 2


def ways_that_fit(design: Design, bar: StockSection, length: float) -> tuple[Remedy, ...]:
    """Other ways to join the pieces, and the rail in one."""
    every = design.number("rail.joint_every")
    now = design.text("rail.joint")
    found = [
        set_one(how, f"Join them by {PLAIN[how]}", "rail.joint", how)
        for how in (SLEEVE, SPIGOT, PLATE)
        if how != now and splice(design.catalogue, bar, how, every, free=_wheels_reach(design, bar))
    ]
    if length <= max(bar.lengths):
        found.append(set_one("whole", "Take a rail in one piece", "rail.joint_every", 0.0))
    return tuple(found)


def joined(design: Design, part: Part, sold: float) -> tuple[Remedy, ...]:
    """A rail longer than its stock made of equal pieces, joined in every way that fits."""
    length, bar = design.number("rail.length"), design.row("sections", "rail.section")
    if part.section != bar.id:
        return ()
    every = round(length / math.ceil(length / sold), 4) + 1e-4
    if design.number("rail.joint_every") > 0:
        return (Remedy("shorter", Words("Pieces of {}", ((every, "m"),)), (("rail.joint_every", every),)),)
    return tuple(
        Remedy(
            how,
            Words(f"Pieces of {{}}, {PLAIN[how]}", ((every, "m"),)),
            (("rail.joint_every", every), ("rail.joint", how)),
        )
        for how in (SLEEVE, SPIGOT, PLATE)
        if splice(design.catalogue, bar, how, every, free=_wheels_reach(design, bar))
    )
