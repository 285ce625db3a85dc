"""Which ways to build a jib go together, and the sizes that follow from one: said plainly, with what would do."""

from __future__ import annotations

import math

import numpy as np
from msgspec.structs import replace

from hazel_lantern.core.catalogue import StockSection, Turntable
from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.jib.design import BETWEEN, CLAMPED, PAIR, TAPERED, UPRIGHT, YOKE
from hazel_lantern.core.kinds.jib.model import BY_BARS, BY_CABLE, BY_MOTOR, Jib
from hazel_lantern.core.nouns.errors import GeometryError

YOKE_LONG, YOKE_CROWN = 0.1, 0.02  # metres of channel along the arm, of its flanges above the pivot
YOKE_CLEAR = 0.004  # metres kept between the arm and the yoke's web
YOKE_PLAY = 0.006  # metres of room beside the arm and its faces that washers still fill
SLIDES_IN = 0.0002  # metres of room that one pole needs to slide into another
POLES = ("round_tube", "oval_tube", "rectangular_tube")


def fits_together(design: Design, level: str, arm: StockSection, tip: StockSection | None, pan: Turntable) -> None:
    """Raises GeometryError for constructions that exclude each other."""
    held, made, post = design.text("post.made"), design.text("arm.made"), design.row("sections", "post.section")
    if held == BETWEEN and made != PAIR:
        raise GeometryError("one post between two arm bars asks for an arm of two bars side by side")
    if held in (YOKE, CLAMPED) and level != BY_MOTOR:
        what = "a yoke" if held == YOKE else "a fluid head"
        instead = "two bars" if level == BY_BARS else "a levelling cable"
        raise GeometryError(f"{what} holds one pivot alone; {instead} must be held by cheeks or an upright")
    if held == CLAMPED and pan.fixing != "head":
        raise GeometryError("clamped on a fluid head, the arm must also pan on it: choose a head for what it pans on")
    if held == YOKE and post.shape != "channel":
        raise GeometryError("a yoke is a piece of channel: choose one for the post")
    if design.text("weights.carried") == UPRIGHT:
        if level != BY_BARS:
            raise GeometryError(
                "a rear upright is kept plumb by the upper bar; without one hang the weights below a pin"
            )
        if abs(design.number("weights.above")) < 0.02:
            raise GeometryError(
                "on a rear upright the weights' pin keeps 20 mm from the arm's: set how far below it is"
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
            "slack "
            "as the arm swings; make both alike"
        )
    if post < arm.depth + 0.02:
        raise GeometryError(f"cables between pins {post * 1e3:.0f} mm apart lie on the arm: set the pins further apart")


def _poles(design: Design, arm: StockSection, tip: StockSection) -> None:
    """Poles that slide into each other, or one that tapers."""
    if arm.shape not in POLES or tip.shape != arm.shape:
        raise GeometryError("poles are tubes of one shape: choose tubes for the arm and its front pole or tip")
    if tip.depth >= arm.depth or tip.material != arm.material:
        raise GeometryError("the front pole or tip must be thinner than the arm, and of the same stuff")
    joint, sleeve, front = design.number("arm.joint"), design.number("arm.sleeve"), design.number("arm.front")
    if design.text("arm.made") == TAPERED:
        return
    if not sleeve < joint < front - 0.05:
        raise GeometryError(
            f"poles overlap from {(joint - sleeve) * 1e3:.0f} mm to {joint * 1e3:.0f} mm ahead of the pivot: keep "
            "that between "
            "the pivot and the head"
        )
    inner = min(arm.width, arm.depth) - 2 * arm.wall
    if tip.depth > inner - SLIDES_IN and tip.width > inner - SLIDES_IN:
        raise GeometryError(
            f"the front pole does not slide into one with {inner * 1e3:.1f} mm inside: take a thinner one"
        )


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
    """How far the arm tilts either way before it meets the yoke's web at its ends [rad].

    Raises GeometryError where it meets it lying level. Source: geometry.
    """
    room, half, deep = jib.post_length - YOKE_CROWN - jib.post.width - YOKE_CLEAR, YOKE_LONG / 2, jib.arm.depth / 2
    if room <= deep:
        raise GeometryError("the arm is too deep for the yoke: it lies on its web; take a channel with wider flanges")
    # Half the depth over the cosine and half the length times the tangent fill the room.
    angles = np.linspace(0.0, math.radians(89), 2000)
    free = deep / np.cos(angles) + half * np.tan(angles) <= room
    return float(angles[free][-1])
