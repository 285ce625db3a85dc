"""Which of the weights owned to hang, and where."""

from __future__ import annotations

from msgspec import Struct

from hazel_lantern.core.kinds.base import Changes, Design, Owned
from hazel_lantern.core.kinds.jib.design import BAG, FIXED_PLACE, HOLES
from hazel_lantern.core.kinds.jib.model import LEAST, WEIGHTS, Jib
from hazel_lantern.core.mechanics import balance
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.finding import BUILD, STOP, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words

MOST_IN_BAG = 40.0  # kilograms


class Racked(Struct, frozen=True):
    """The best of the weights owned and where they hang, as changes; or why none will do, and the least mass that
    would [kg].
    """

    changes: Changes
    why_not: str = ""
    least: float = 0.0


def racked(design: Design, owned: Owned, jib: Jib) -> Racked:
    """What of the weights owned balances this arm."""
    try:
        return Racked(rack(design, owned, jib.front_moment))
    except InfeasibleError as error:
        return Racked((), str(error), error.nearest.get("least_mass", 0.0))
    except InputError as error:
        return Racked((), str(error))


def balance_remedies(design: Design, jib: Jib, racked: Racked) -> tuple[Remedy, ...]:
    """Balance it with what is owned; or slide what hangs; or raise or lower it onto the pivot line."""
    found: list[Remedy] = []
    mass = jib.hung + design.number("weights.holder")
    carried, rear = design.text("weights.carried"), design.number("arm.rear")
    near = 0.05 if carried in FIXED_PLACE else design.number("weights.nearest")
    if mass >= LEAST and jib.front_moment > 0 and near <= jib.front_moment / mass <= rear:
        place = jib.front_moment / mass
        if carried == HOLES:
            step = design.number("weights.step")
            place = near + round((place - near) / step) * step
        place = round(place, 4)
        if abs(place - design.number("weights.place")) > 5e-4:
            words = "Drill its hole at {}" if carried in FIXED_PLACE else "Slide to {}"
            found.append(set_one("slide", words, "weights.place", place, "m"))
    # When the owned weights cannot do it, plates_finding says what is missing.
    if racked.changes:
        found.append(Remedy("balance", Words("Balance it for me"), racked.changes))
    others = sum(b.mass * b.above for b in jib.bodies if b.frame == "arm" and b.name not in WEIGHTS)
    height = round(-others / mass, 4) if mass >= LEAST else 0.0
    if mass >= LEAST and -0.4 <= height <= 0.4 and abs(height - design.number("weights.above")) > 2e-3:
        line = ("weights.above", height)
        found.append(Remedy("line", Words("Raise weights onto the arm's line"), (line,)))
        found += [
            Remedy(
                f"{r.key}_line", Words(r.label.template + ", on the arm's line", r.label.amounts), (*r.changes, line)
            )
            for r in found[:-1]
        ]
    return tuple(found)


def balance_it(design: Design, owned: Owned, jib: Jib) -> Changes:
    """The changes that hang the best of the owned weights at the place that balances this arm.

    Raises InfeasibleError with the range of mass that would do.
    """
    return rack(design, owned, jib.front_moment)


def rack(design: Design, owned: Owned, front_moment: float) -> Changes:
    """The best of the owned weights and their place for a moment of the camera side [kg*m], or what a bag is filled to;
    raises InfeasibleError, InputError.
    """
    carried = design.text("weights.carried")
    if carried == BAG:
        return _filled(design, owned, front_moment)
    owned = owned[: balance.MOST_WEIGHTS]
    if not owned:
        raise InfeasibleError(
            "no weights are owned: add plates to the project first", least_mass=front_moment / design.number("arm.rear")
        )
    near, rear = design.number("weights.nearest"), design.number("arm.rear")
    step = design.number("weights.step") if carried == HOLES else 0.0
    if carried in FIXED_PLACE:
        # One hole, so a row that ends where it begins.
        near = rear = design.number("weights.place")
        step = 1.0
    best = balance.choose_weights(
        front_moment, [plate.mass for _, plate in owned], near, rear, design.number("weights.holder"), step
    )
    return (("weights.hung", tuple(owned[i][0] for i in best.chosen)), ("weights.place", round(best.place, 4)))


def _filled(design: Design, owned: Owned, front_moment: float) -> Changes:
    """What the bag is filled to, beside plates that hang there too."""
    plates = dict(owned)
    off: Changes = ()
    pin = design.number("weights.holder")
    beside = sum(plates[key].mass for key in design.several("weights.hung"))
    mass = front_moment / design.number("weights.place") - pin - beside
    if mass < 0 < beside:
        mass, off = mass + beside, (("weights.hung", ()),)
    if not 0 <= mass <= MOST_IN_BAG:
        raise InfeasibleError(
            f"the bag would have to weigh {mass:.2f} kg: hang it elsewhere, or take plates off"
            if mass < 0
            else f"the bag would have to weigh {mass:.2f} kg: hang it further out",
            least_mass=max(mass, 0.0),
        )
    return (*off, ("weights.bag", round(mass, 2)))


def plates_finding(design: Design, owned: Owned, jib: Jib, racked: Racked) -> Told:
    """Whether the weights owned can balance this arm at all."""
    tell = Teller()
    longer = round(min(3.0, jib.rear * 1.25), 2)
    if design.text("weights.carried") not in FIXED_PLACE and design.number("weights.nearest") > design.number(
        "arm.rear"
    ):
        return tell.told()
    if racked.why_not:
        tell.findings.append(
            Finding(
                "balance.plates",
                "Weights at hand",
                BUILD,
                STOP,
                "weights.hung",
                Words(f"{racked.why_not[0].upper()}{racked.why_not[1:]}."),
                sum(p.mass for _, p in owned),
                racked.least,
                "at_least",
                "kg",
                (set_one("rear", "Rear arm {}", "arm.rear", longer, "m"),),
            )
        )
    return tell.told()
