"""Which ways to build a jib go together, and the sizes that follow from one: said plainly, with what would do."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.catalogue import StockSection, Turntable
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import BETWEEN, CHEEKS, CLAMPED, HANGING, PAIR, TAPERED, UPRIGHT, YOKE
from hazel_lantern.core.kinds.jib.model import BY_BARS, BY_CABLE, BY_MOTOR, HOOK, Jib
from hazel_lantern.core.nouns.errors import GeometryError, Mend

YOKE_LONG, YOKE_CROWN = 0.1, 0.02  # metres of channel along the arm, of its flanges above the pivot
YOKE_CLEAR = 0.004  # metres kept between the arm and the yoke's web
YOKE_SWINGS = 0.015  # metres of room below the arm, to swing in
YOKE_PLAY = 0.006  # metres of room beside the arm and its faces that washers still fill
STEEPEST = math.radians(50)  # an arm hardly goes steeper
HOOK_CLEAR = 0.006  # metres kept between weights that hang and the arm
SLIDES_IN = 0.0002  # metres of room that one pole needs to slide into another
PAIRED = {  # tubes that slide into each other, and ends of a pole that tapers
    False: ("al6063-round-30x2", "al6063-round-25x2"),
    True: ("al6063-round-40x2", "al6063-round-20x2"),
}
POLES = ("round_tube", "oval_tube", "rectangular_tube")


def fits_together(design: Design, level: str, arm: StockSection, tip: StockSection | None, pan: Turntable) -> None:
    """Raises GeometryError for constructions that exclude each other."""
    held, made, post = design.text("post.made"), design.text("arm.made"), design.row("sections", "post.section")
    if held == BETWEEN and made != PAIR:
        raise GeometryError(
            "one post between two arm bars asks for an arm of two bars side by side",
            Mend("An arm of two bars", (("arm.made", PAIR),)),
            Mend("Cheeks on either side", (("post.made", CHEEKS),)),
        )
    if held in (YOKE, CLAMPED) and level != BY_MOTOR:
        what = "a yoke" if held == YOKE else "a fluid head"
        instead = "two bars" if level == BY_BARS else "a levelling cable"
        raise GeometryError(
            f"{what} holds one pivot alone; {instead} must be held by cheeks or an upright",
            Mend("Cheeks on either side", (("post.made", CHEEKS),)),
        )
    if held == CLAMPED and pan.fixing != "head":
        heads = [row for row in design.catalogue.turntables.values() if row.fixing == "head"]
        raise GeometryError(
            "clamped on a fluid head, the arm must also pan on it: choose a head for what it pans on",
            *(Mend(f"Pan on a {row.name.lower()}", (("pan.bearing", row.id),)) for row in heads),
        )
    if held == YOKE and post.shape != "channel":
        raise GeometryError("a yoke is a piece of channel: choose one for the post", *_channels(design, arm))
    if design.text("weights.carried") == UPRIGHT:
        if level != BY_BARS:
            raise GeometryError(
                "a rear upright is kept plumb by the upper bar; without one hang the weights below a pin",
                Mend("Hang them below a pin", (("weights.carried", HANGING),)),
            )
        if abs(design.number("weights.above")) < 0.02:
            raise GeometryError(
                "on a rear upright the weights' pin keeps 20 mm from the arm's: set how far below it is",
                Mend("Hang them lower", (("weights.above", -0.06),)),
            )
    if level == BY_CABLE and design.text("cable.over") == "pins":
        _pins(design, arm)
    if tip is not None:
        _poles(design, arm, tip)


def _pins(design: Design, arm: StockSection) -> None:
    post, head = design.number("cable.post_wheel"), design.number("cable.head_wheel")
    if abs(post - head) > 1e-4:
        raise GeometryError(
            f"the pins are {post * 1e3:.1f} mm apart at the post and {head * 1e3:.1f} mm at the head: one cable goes "
            "slack as the arm swings; make both alike",
            Mend("Both alike", (("cable.post_wheel", max(post, head)), ("cable.head_wheel", max(post, head)))),
        )
    if post < arm.depth + 0.02:
        apart = math.ceil(100 * (arm.depth + 0.03)) / 100
        raise GeometryError(
            f"cables between pins {post * 1e3:.0f} mm apart lie on the arm: set the pins further apart",
            Mend("Pins further apart", (("cable.post_wheel", apart), ("cable.head_wheel", apart))),
        )


def _poles(design: Design, arm: StockSection, tip: StockSection) -> None:
    """Poles that slide into each other, or one that tapers."""
    joint, sleeve, front = design.number("arm.joint"), design.number("arm.sleeve"), design.number("arm.front")
    tapers = design.text("arm.made") == TAPERED
    thick, thin = PAIRED[tapers]
    overlap = (("arm.sleeve", 0.2), ("arm.joint", round(max(0.25, 0.4 * front), 2)))
    sections = (("arm.section", thick), ("arm.tip", thin))
    mend = Mend("Two round tubes that fit", (*sections, *(() if tapers else overlap)))
    if arm.shape not in POLES or tip.shape != arm.shape:
        raise GeometryError("poles are tubes of one shape: choose tubes for the arm and its front pole or tip", mend)
    if tip.depth >= arm.depth or tip.material != arm.material:
        raise GeometryError("the front pole or tip must be thinner than the arm, and of the same stuff", mend)
    if tapers:
        return
    if not sleeve < joint < front - 0.05:
        raise GeometryError(
            f"poles overlap from {(joint - sleeve) * 1e3:.0f} mm to {joint * 1e3:.0f} mm ahead of the pivot: keep "
            "that between the pivot and the head",
            Mend("An overlap that does", overlap),
        )
    inner = min(arm.width, arm.depth) - 2 * arm.wall
    if tip.depth > inner - SLIDES_IN and tip.width > inner - SLIDES_IN:
        raise GeometryError(
            f"the front pole does not slide into one with {inner * 1e3:.1f} mm inside: take a thinner one", mend
        )


def _channels(design: Design, arm: StockSection) -> Iterator[Mend]:
    """Channels that take the arm between their flanges, or else the stiffest arm that one takes, on a bearing that lets
    it swing.
    """
    pan, sections = bearing_for_yoke(design), design.catalogue.sections.values()
    channels = [row for row in sections if row.shape == "channel"]
    tubes = [row for row in sections if row.shape in POLES and row.material == arm.material]
    for arms in ((arm,), sorted(tubes, key=lambda row: -float(row.section().iy))):
        fitting = [(row, one) for one in arms for row in channels if _fits_yoke(row, one)]
        for row, one in fitting[: len(channels) if arms == (arm,) else 1]:
            other = () if one is arm else (("arm.section", one.id),)
            words = f"{row.name}, on a {pan.name.lower()}" + ("" if one is arm else f", the arm {one.name.lower()}")
            yield Mend(words, (("post.section", row.id), ("pan.bearing", pan.id), *other))
        if fitting:
            return


def _fits_yoke(channel: StockSection, arm: StockSection) -> bool:
    deep = YOKE_CROWN + arm.depth / 2 + YOKE_CLEAR + channel.dims["t_web"] + YOKE_SWINGS
    return room_in_yoke(channel) >= arm.width + YOKE_PLAY and channel.width >= deep


def bearing_for_yoke(design: Design) -> Turntable:
    """The strongest bearing no wider than a yoke is long, over whose plates the arm swings as far as over the web."""
    fitting = (row for row in design.catalogue.turntables.values() if row.fixing != "head" and row.size <= YOKE_LONG)
    return max(fitting, key=lambda row: row.moment)


def hook_for(arm: StockSection, above: float, radius: float, *, square: bool) -> float:
    """Length of the hook on which weights of a radius clear the arm at its steepest, hung from a pin so far above its
    line; a bag is `square` [m]. Source: geometry.
    """
    out = math.tan(STEEPEST) if square else 1 / math.cos(STEEPEST) - 1
    return max(HOOK, round(radius * out + (arm.depth / 2 + above) / math.cos(STEEPEST) + HOOK_CLEAR, 3))


def flange_of(channel: StockSection) -> StockSection:
    """One flange of a yoke: as a cheek it is as thick as the flange and as deep as the yoke is long."""
    dims = {"b": channel.dims["t_flange"], "h": YOKE_LONG}
    return replace(
        channel, shape="flat_bar", dims=dims, name=f"Flange of the yoke, {channel.name[:1].lower()}{channel.name[1:]}"
    )


def room_in_yoke(channel: StockSection) -> float:
    """Between its flanges [m]."""
    return channel.depth - 2 * channel.dims["t_flange"]


def yoke_swings(jib: Jib) -> float:
    """How far the arm tilts either way before it meets the ends of the yoke's web, or of the plate below [rad].

    Raises GeometryError where it meets it lying level. Source: geometry.
    """
    under, deep = jib.post_length - YOKE_CROWN - YOKE_CLEAR, jib.arm.depth / 2
    room = under - jib.post.width
    if room <= deep:
        raise GeometryError("the arm is too deep for the yoke: it lies on its web; take a channel with wider flanges")
    # Half the depth over the cosine and half the length times the tangent fill the room, over web and foot plate.
    angles = np.linspace(0.0, math.radians(89), 2000)
    free = deep / np.cos(angles) + YOKE_LONG / 2 * np.tan(angles) <= room
    free &= deep / np.cos(angles) + jib.pan.size / 2 * np.tan(angles) <= under
    return float(angles[free][-1])
