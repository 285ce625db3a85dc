"""Sliders: a carriage on one or two rails that stand on a tripod, two stands or a table."""

from __future__ import annotations

from contextlib import suppress

import numpy as np
from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import Action, Carried, Chapter, Design, Figures, Held, Kind, View
from hazel_lantern.core.kinds.foreseen import WIDE, Forecast, around
from hazel_lantern.core.kinds.path import Asked, Path, Poses
from hazel_lantern.core.kinds.rail import bends, drawing, fit, model, rolling
from hazel_lantern.core.kinds.rail.binding import fit_figures
from hazel_lantern.core.kinds.rail.driven import meets
from hazel_lantern.core.kinds.rail.foreseen import on_rails, on_way, tests_of
from hazel_lantern.core.kinds.rail.held import held_figures
from hazel_lantern.core.kinds.rail.joints import joined
from hazel_lantern.core.kinds.rail.kept import kept_figures
from hazel_lantern.core.kinds.rail.limits import limits
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import CARRIAGE
from hazel_lantern.core.kinds.rail.plate import plate_figures
from hazel_lantern.core.kinds.rail.riding import caster_figures, riding_figures
from hazel_lantern.core.kinds.rail.round_rail import round_figures
from hazel_lantern.core.kinds.rail.stops import stop_figures
from hazel_lantern.core.kinds.rail.strength import strength_figures
from hazel_lantern.core.kinds.shared.clearing import Way, among, clearing_by
from hazel_lantern.core.kinds.shared.handling import centred_for_other_kits, stood_up
from hazel_lantern.core.kinds.shared.headline import headlines
from hazel_lantern.core.kinds.shared.home_built import BUILT
from hazel_lantern.core.kinds.shared.props import legs_above, legs_side
from hazel_lantern.core.kinds.shared.under_feet import under_feet
from hazel_lantern.core.kinds.shared.weighed import weighed
from hazel_lantern.core.kinds.slider.design import (
    DECLARED,
    GROOVED,
    SCHOOLS,
    TABLE,
    TOLD_APART_BY,
    TRIPOD,
    TWO,
    VARIANTS,
)
from hazel_lantern.core.kinds.slider.model import FLOOR, Slider, build, frames, members, rests_for
from hazel_lantern.core.kinds.slider.standing import soft_head, standing_figures
from hazel_lantern.core.mechanics.rails import Rest
from hazel_lantern.core.mechanics.track import Frames
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import GeometryError
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import set_one
from hazel_lantern.core.nouns.sketch import Item, Ring, Shape, Size, Sketch, box_outline, handle
from hazel_lantern.core.nouns.told import Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.workshop.laid import Bodies, Laid
from hazel_lantern.core.workshop.silhouette import ABOVE, SIDE, outlines

NAMES = {TRIPOD: "one tripod", TWO: "two stands", TABLE: "a table"}


def _rail(slider: Slider) -> Straight:
    return slider.way


def _mass_figures(slider: Slider, rail: Straight) -> Told:
    given = (Given("m", rail.moving, "kg", "carriage and kit", "kit"),)
    return Told(
        (
            by_method(
                "rig.mass",
                "Everything weighs",
                slider.laid.mass,
                "kg",
                "carriage, kit, rails with their ties, and stands",
                given,
                source="catalogue",
            ),
        )
    )


def _weighed(design: Design, laid: Laid) -> Told:
    return weighed(design, laid, CARRIAGE, "carriage.mass", "Carriage")


def _supports(design: Design, slider: Slider) -> bends.Supports:
    """The other ways to stand it, as far as this rail can stand so."""
    others: list[tuple[str, tuple[Rest, ...]]] = []
    for held in (TRIPOD, TWO):
        with suppress(GeometryError):
            if held != slider.held:
                others.append((NAMES[held], rests_for(design, held)))
    two = (set_one("two", "Stand it on two stands", "support", TWO),) if slider.held == TRIPOD else ()
    return bends.Supports(tuple(others), two)


def _follow(slider: Slider, asked: Asked) -> Poses:
    return model.follow(slider.way, asked)


def _mount(slider: Slider, poses: np.ndarray) -> Frames:
    return model.mount(slider.way, poses)


def _bodies(slider: Slider, poses: np.ndarray) -> Bodies:
    return frames(slider.way, poses)


def _draw(kit: Carried, move: Move, optics: Optics, slider: Slider, path: Path, pose: np.ndarray, view: str) -> Sketch:
    rig, way, x, ends = slider, slider.way, float(pose[0]), path.ends[:, 0]
    legs = len(rig.feet) // len(rig.places)
    held: list[Item] = []
    built = rig.held != TABLE and rig.stand.shape == BUILT
    if built:
        seen = ABOVE if view == "above" else SIDE
        held += outlines(rig.laid, frames(way, pose[None]), seen, without=(rig.stand.name,), on=(FLOOR,))
    for k, place in enumerate(() if built else rig.places):
        ahead, top = (float(v) for v in way.on_floor(place, -way.bar.depth))
        feet = rig.feet[k * legs : (k + 1) * legs]
        if view == "above":
            held += (
                legs_above((ahead, 0.0), feet - (ahead, 0.0))
                if rig.held != TABLE
                else [Ring((float(fx), float(fy)), 0.02) for fx, fy in feet]
            )
        elif rig.held != TABLE:
            held += legs_side(ahead, top, feet[:, 0] - ahead)
        else:
            held.append(Shape(box_outline((ahead, 0.0), (ahead, top), 0.03), "wood"))
    if view == "above":
        return drawing.above(kit, move, optics, way, rig.laid, ends, x, held)
    sizes = drawing.rail_sizes(way, x)
    if rig.held != TRIPOD:
        inset = rig.places[0]
        a, b = drawing.spot(way, 0.0, -0.3), drawing.spot(way, inset, -0.3)
        sizes += [Size(a, b, 0.0, inset, "m", "support.inset"), handle("support.inset", b, (1.0, 0.0))]
    return drawing.side(kit, optics, way, rig.laid, ends, x, held, sizes)


def _headlines(design: Design, move: Move, optics: Optics, figures: Figures) -> dict[str, Words]:
    rig = Words(dict(VARIANTS)[design.variant].lower().split(",")[0] + ", {}", ((design.number("rail.length"), "m"),))
    lines = {
        "balance": ("lightest wheel {}", ("balance.least",)),
        "travel": ("dips {}, picture {}", ("travel.dip", "travel.shift")),
    }
    return headlines(move, optics, figures, move.chord, rig, lines)


def _ground(design: Design, laid: Laid) -> Told:
    return under_feet(design, laid, "stand.radius") if design.text("support") != TABLE else Told()


def _meets(design: Design, slider: Slider, smooth: Told) -> tuple[Held, ...]:
    return meets(design, slider.way, smooth.number("travel.bounce"))


def _loading(design: Design, kit: Carried, slider: Slider) -> tuple[Words, ...]:
    return stood_up(design, kit, 0 if slider.held == TABLE else len(slider.places))


def _tested(design: Design) -> tuple[str, ...]:
    twin = design.variant != GROOVED
    own = ("head",) if design.text("support") == TRIPOD else ()
    return (*tests_of(design, railed=True, twin=twin, four=twin), *own)


def _foreseen(design: Design, slider: Slider, smooth: Told) -> Forecast:
    way = slider.way
    found = {
        **on_way(design, way),
        **on_rails(design, way, smooth.number("travel.bounce"), "head.stiffness" if slider.held == TRIPOD else ""),
    }
    if slider.held == TRIPOD:
        ahead = float(way.on_floor(slider.places[0])[0])
        found["head"] = around(
            design.number("head.stiffness"), WIDE, corrects="head.stiffness", at=(ahead, way.height - 0.1)
        )
    return found


CLEARING = (
    Way("carriage.wheelbase", "Wheelbase {}", 0.03, high=1.0),
    Way("pair.apart", "Wheels of a pair {} apart", 0.004, high=0.2),
    Way("rail.spacing", "Rails {} apart", 0.02, high=1.2),
    Way("camera.rise", "Mount {} above the rail", 0.02, high=1.0, matters=among("camera kit")),
)

KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(
        Action("rig", "Size it for me", fit.sized_rail),
        Action("balance", "Centre it for me", fit.over_the_wheels),
    ),
    model=Chapter("slider", build),
    chapters=(
        Chapter("rail", _rail),
        Chapter("fits", fit.travel_figures),
        Chapter("mass", _mass_figures),
        Chapter("weighed", _weighed),
        *bends.chapters(_supports),
        Chapter("strong", strength_figures),
        Chapter("held", held_figures),
        Chapter("fitting", fit_figures),
        Chapter("riding", riding_figures),
        Chapter("casters", caster_figures),
        Chapter("stops", stop_figures),
        Chapter("plate", plate_figures),
        Chapter("kept", kept_figures),
        Chapter("round", round_figures),
        Chapter("head", soft_head),
        *rolling.CHAPTERS,
        Chapter("standing", standing_figures),
        Chapter("ground", _ground),
    ),
    follow=_follow,
    limits=lambda design, slider: limits(design, slider.way),
    held=_meets,
    clearing=clearing_by(build, _bodies, *CLEARING),
    tested=_tested,
    mount=_mount,
    members=members,
    bodies=_bodies,
    sketch=_draw,
    headlines=_headlines,
    stations=("shot", "rig", "balance", "travel", "build"),
    readings={"swaps": centred_for_other_kits, "loading": _loading, "foreseen": _foreseen},
    schools=SCHOOLS,
    told_apart_by=TOLD_APART_BY,
    joined=joined,
)
