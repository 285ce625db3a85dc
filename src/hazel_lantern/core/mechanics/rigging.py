"""What a tight rope is made of and held by: rope stock, its ends, guyed posts, dead weights, redirect pulleys."""

from __future__ import annotations

import math

from msgspec import Struct

from hazel_lantern.core.nouns.check import finite, not_negative, positive
from hazel_lantern.core.nouns.errors import InputError, RefusedError
from hazel_lantern.core.nouns.units import GRAVITY

WIRE, FIBRE = "wire", "fibre"
CLIPS, SWAGED, SPLICE, KNOT = "clips", "swaged", "splice", "knot"
THICKNESS = (0.003, 0.006)  # metres, between which the table holds
LEAST = {WIRE: 5.0, FIBRE: 7.0}  # times stronger than the worst pull, over kept-clear ground
STEEP_GUY = math.radians(60)
OK, STOP = "OK", "STOP"


class Stock(Struct, frozen=True):
    """A sort of rope: its family, and for one millimetre squared of its diameter mass [kg/m], breaking load and
    stiffness EA [N]; its thermal expansion [1/K], the smallest wheel it may run over, in diameters, and what a knot
    leaves of it.
    """

    family: str
    mass: float
    breaking: float
    ea: float
    expands: float
    wheel: float
    knotted: float
    track: bool = True


STOCK = {
    "wire7x7": Stock(WIRE, 0.0040, 530.0, 27e3, 16e-6, 25.0, 0.0),
    "wire7x19": Stock(WIRE, 0.00385, 495.0, 22e3, 16e-6, 18.0, 0.0),
    "hmpe": Stock(FIBRE, 0.00062, 950.0, 28e3, -12e-6, 10.0, 0.35),
    "aramid": Stock(FIBRE, 0.0008, 800.0, 24e3, -3e-6, 10.0, 0.5),
    "polyester": Stock(FIBRE, 0.0008, 240.0, 1.7e3, 0.0, 10.0, 0.65),
    "nylon": Stock(FIBRE, 0.00075, 220.0, 0.55e3, 0.0, 10.0, 0.65, track=False),
}
# What an end leaves of a rope, by the families it is made in.
ENDS = {SWAGED: 0.9, CLIPS: 0.8, SPLICE: 0.9, "bowline": 0.65, "figure8": 0.65, "overhand": 0.5}
MADE_IN = {SWAGED: (WIRE,), CLIPS: (WIRE,), SPLICE: (FIBRE,)}
KNOTS = ("bowline", "figure8", "overhand")


class Rope(Struct, frozen=True):
    """One rope: mass a metre [kg/m], breaking load and stiffness EA [N], thermal expansion [1/K]."""

    mass: float
    breaking: float
    ea: float
    expands: float


def stock(sort: str) -> Stock:
    """A row of the table.

    sort: of rope, as wire7x7

    Returns: the row, a `Stock`. Raises: InputError. Source: dynamics 1.3.
    """
    if sort not in STOCK:
        raise InputError("rope", repr(sort), f"must be one of {', '.join(STOCK)}")
    return STOCK[sort]


def rope(sort: str, thick: float) -> Rope:
    """What a rope of a thickness comes to; a maker's own figures go before these.

    sort: of rope, as wire7x7
    thick: diameter [m]

    Returns: a `Rope`. Raises: InputError outside 3 to 6 mm. Source: dynamics 1.3.
    """
    row = stock(sort)
    if not THICKNESS[0] - 1e-9 <= thick <= THICKNESS[1] + 1e-9:
        raise InputError("diameter", thick, "must lie between 3 and 6 mm")
    square = (thick * 1e3) ** 2
    return Rope(row.mass * square, row.breaking * square, row.ea * square, row.expands)


def end_left(sort: str, end: str) -> float:
    """What an end leaves of a rope's strength.

    sort: of rope, as wire7x7
    end: swaged, clips, splice, bowline, figure8 or overhand

    Returns: share [-]. Raises: InputError for an end that is not known or not made in that rope; RefusedError for a
    knot in wire rope. Source: dynamics 1.3.
    """
    row = stock(sort)
    if end not in ENDS:
        raise InputError("end", repr(end), f"must be one of {', '.join(ENDS)}")
    if end in KNOTS:
        if row.family == WIRE:
            raise RefusedError("a knot in wire rope is refused: it crushes and slips", "KNOT_IN_WIRE")
        return min(ENDS[end], row.knotted)
    if row.family not in MADE_IN[end]:
        raise InputError("end", repr(end), f"is made in {' or '.join(MADE_IN[end])} rope only")
    return ENDS[end]


def tied_left(sort: str) -> float:
    """What is left of a line or guy at its ends: the best knot of a fibre one, clips on a wire.

    sort: of rope, as wire7x7

    Returns: share [-]. Raises: InputError. Source: dynamics 1.3.
    """
    row = stock(sort)
    return ENDS[CLIPS] if row.family == WIRE else row.knotted


def bend_left(thick: float, over: float) -> float:
    """What bending a rope over a pin or wheel leaves of its strength.

    thick: diameter of the rope [m]
    over: diameter of the pin or wheel [m]

    Returns: share [-]. Raises: InputError where the pin is thinner than the rope. Source: dynamics 1.3.
    """
    positive(thick=thick, over=over)
    if over < thick:
        raise InputError("pin_diameter", over, "must not be thinner than the rope")
    return 1 - 0.5 / math.sqrt(over / thick)


def refuse_people(near: bool) -> None:
    """Nothing runs over people.

    near: whether anybody may be under a tight rope or beside it

    Returns: nothing. Raises: RefusedError where somebody may. Source: dynamics 1.4.
    """
    if near:
        raise RefusedError(
            "nothing is designed here that runs over people or near them: it needs a qualified rigger and the local "
            "rules",
            "OVER_PEOPLE",
        )


def verdict(sort: str, factor: float) -> str:
    """Whether a rope is strong enough as a track over kept-clear ground.

    sort: of rope, as wire7x7
    factor: how many times stronger it is than its worst pull [-]

    Returns: OK or STOP. Raises: InputError. Source: dynamics 1.4.
    """
    row = stock(sort)
    positive(factor=factor)
    return OK if row.track and factor >= LEAST[row.family] else STOP


class Post(Struct, frozen=True):
    """A guyed post: pull in each guy and pressing force down the post [N]."""

    guy: float
    pressed: float


def guyed_post(out: float, down: float, slope: float, guys: int = 1, half_angle: float = 0.0) -> Post:
    """A post with a pinned foot, pulled at its top, guyed away from the pull.

    out: pull across [N]
    down: pull down, minus for up [N]
    slope: of the guys above the ground [rad]
    guys: 1 or 2
    half_angle: of two, either side of the line of the pull, seen from above [rad]

    Returns: forces, a `Post`. Raises: InputError. Source: dynamics 1.5.
    """
    not_negative(out=out)
    finite(down=down)
    if guys not in (1, 2):
        raise InputError("guys", guys, "must be 1 or 2")
    if not 0 < slope < math.pi / 2:
        raise InputError("guy_angle", slope, "must lie between level and upright")
    if not 0 <= half_angle < math.pi / 2:
        raise InputError("plan_half_angle", half_angle, "must lie between 0 and 90 degrees")
    each = out / (guys * math.cos(slope) * (math.cos(half_angle) if guys == 2 else 1.0))
    return Post(each, down + guys * each * math.sin(slope))


def dead_weight(guy: float, slope: float, grip: float, factor: float = 1.5) -> float:
    """Mass on the ground that a guy neither drags nor lifts.

    guy: its pull [N]
    slope: of the guy above the ground [rad]
    grip: friction on the ground [-]
    factor: against being dragged [-]

    Returns: mass [kg]. Raises: InputError. Source: dynamics 1.5.
    """
    not_negative(guy=guy)
    positive(grip=grip, factor=factor)
    return guy * (factor * math.cos(slope) / grip + math.sin(slope)) / GRAVITY


def redirect(one: float, other: float, turned: float) -> float:
    """What a pulley is pulled with that turns a rope round.

    one: pull on the one side [N]
    other: pull on the other [N]
    turned: by how much the rope turns at it, 0 where it goes straight on [rad]

    Returns: force [N]. Raises: InputError. Source: dynamics 1.5.
    """
    finite(turned=turned)
    not_negative(one=one, other=other)
    return math.sqrt(max(0.0, one**2 + other**2 - 2 * one * other * math.cos(turned)))


def stored(pull: float, length: float, ea: float) -> float:
    """What a tight rope stores.

    pull: its tension [N]
    length: unstretched [m]
    ea: its stiffness [N]

    Returns: energy [J]. Raises: InputError. Source: dynamics 1.3.
    """
    positive(length=length, ea=ea)
    return pull**2 * length / (2 * ea)
