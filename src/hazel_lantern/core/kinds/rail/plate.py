"""The carriage's plate: a board bent between its wheels by what stands or hangs on it."""

from __future__ import annotations

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.rail.model import Straight
from hazel_lantern.core.kinds.rail.parts import PLATE
from hazel_lantern.core.kinds.shared.holes import board_modulus
from hazel_lantern.core.kinds.shared.works import bears, works
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given
from hazel_lantern.core.nouns.finding import set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.solids import ACROSS, Sheet


def plate_figures(design: Design, rail: Straight, laid: Laid) -> Told:
    """Bending of the plate along the travel and across it, over what its holes leave; the weight half-way between the
    wheels, a hard stop and a push at the camera.
    """
    part = next((part for part in laid.parts if part.name == PLATE), None)
    if part is None or not isinstance(part.solid, Sheet):
        return Told()
    turned = part.places[0].along == ACROSS
    weight, high = rail.moving * GRAVITY, abs(float(rail.mount[2]))
    apart = max(float(rail.wheels[:, 1].max() - rail.wheels[:, 1].min()), 0.0)
    brake = rail.moving * design.number("push.brake") * high
    push = design.number("push.side") * abs(float(rail.lens[2]))
    worst = max(
        (HAND_SWING * (_bent(weight, span, abs(float(off))) + turn / 2) / modulus, name, span, turn, modulus)
        for name, span, off, turn, modulus in (
            ("along", rail.wheelbase, rail.cg[0], brake, board_modulus(part, crosswise=turned)),
            ("across", apart, rail.cg[1], push, board_modulus(part, crosswise=not turned)),
        )
    )
    stress, name, span, turn, modulus = worst
    tell = Teller()
    works(
        tell,
        "rig.plate",
        "carriage plate",
        stress,
        bears(design, part.solid.material),
        f"{name} the travel: the weight half-way between the wheels and half of a stop's or push's moment, times 1.5, over "
        "what its holes leave",
        (
            Given("W", weight, "N", "carriage and camera kit", "kit"),
            Given("c", span, "m", "between its wheels", rail.base_key),
            Given("M", turn, "N*m", "hard stop or push at the camera", "push.brake"),
            Given("Z", modulus, "m^3", "section modulus left of the plate"),
        ),
        rail.base_key,
        source="statics 3, 9",
        remedies=(set_one("shorter", "Wheels {} apart", rail.base_key, round(0.6 * rail.wheelbase, 3), "m"),)
        if name == "along" and 0.6 * rail.wheelbase > 0.06
        else (),
    )
    return tell.told()


def _bent(weight: float, span: float, off: float) -> float:
    """A load half-way between two wheels, or beyond them [N*m]."""
    return weight * max(span / 4, off - span / 2)
