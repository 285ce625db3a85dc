"""What runs on what: whether a truck or the trolley lifts a wheel, what wheels, boards and bolts of both bear."""

from __future__ import annotations

import math

from hazel_lantern.core.kinds.base import Design
from hazel_lantern.core.kinds.gantry.design import BOARDS, TRUCKS
from hazel_lantern.core.kinds.gantry.legs import EDGE, WHEEL_IN, inset, truck_wide
from hazel_lantern.core.kinds.gantry.model import Gantry
from hazel_lantern.core.kinds.gantry.parts import SWING, TRUCK_HOLE, board_size
from hazel_lantern.core.kinds.gantry.strength.bending import Bent, both
from hazel_lantern.core.kinds.gantry.strength.boom import net_moment
from hazel_lantern.core.kinds.shared.drop_post import SOUND
from hazel_lantern.core.kinds.shared.wheels import wheels_bear
from hazel_lantern.core.kinds.shared.works import bears, bolt_bears, works
from hazel_lantern.core.mechanics import overhead
from hazel_lantern.core.mechanics.footing import knock_default
from hazel_lantern.core.mechanics.safety import HAND_SWING
from hazel_lantern.core.nouns.figure import Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, STOP, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.nouns.words import Words

THICK = 0.018
M8 = 36.6e-6  # square metres of an M8 in its thread
SCREW = 0.005
LEAST = 0.1  # of its share that the lightest wheel should keep


def running_figures(design: Design, gantry: Gantry, bent_at_worst: Bent, bent_without: Bent) -> Told:
    """The bridge on its runways and the trolley on the bridge, anywhere, with the camera on and off."""
    tell, rig, every = Teller(), gantry, both(bent_at_worst, bent_without)
    push = knock_default(rig.tip * GRAVITY)
    turned = net_moment(rig, push)
    weight = GRAVITY * (rig.tip + rig.boom_mass(rig.longest) + rig.counter + rig.trolley)
    _has_room(tell, design, rig)
    on_truck = every.ends / 2 + every.twists / rig.wheelbase
    _stays_down(tell, design, rig, every)
    on_trolley = weight / 4 + _pressed(rig, turned)
    most = max(float(on_truck.max()), on_trolley)
    tell.take(wheels_bear(design, rig.wheel, most, "boom.longest", _lighter(rig), "bridge.wheel"))
    load, twist = float(every.ends.max()), float(every.twists.max())
    _trucks(tell, design, rig, load, twist)
    _board(tell, design, rig, weight, turned)
    if design.variant == BOARDS:
        _screws(tell, design, rig, load - rig.bridge_ends * GRAVITY)
    return tell.told()


def _pressed(rig: Gantry, turned: float) -> float:
    """What the boom's moment adds to a wheel of the trolley, whichever way it points [N]; two wheels at either end or
    side.
    """
    if rig.side_rollers:
        return turned / 2 * max(1 / rig.trolley_base, 1 / rig.grip)
    return turned / 2 * math.hypot(1 / rig.trolley_base, 1 / rig.grip)


def _has_room(tell: Teller, design: Design, rig: Gantry) -> None:
    """Whether the trolley stops before it runs into the end trucks."""
    need = round(rig.trolley_base / 2 + rig.wheel.d / 2 + truck_wide(rig) - WHEEL_IN, 4)
    if rig.edge >= need:
        return
    better = math.ceil(need * 200) / 200
    tell.findings.append(
        Finding(
            "rig.trolley_room",
            "Trolley clear of the trucks",
            BUILD,
            STOP,
            "trolley.edge",
            Words(
                "The trolley stops {} short of the runways; under {} it runs into the end trucks.",
                ((rig.edge, "m"), (need, "m")),
            ),
            rig.edge,
            need,
            "at_least",
            "m",
            (set_one("edge", "Stop it {} short", "trolley.edge", better, "m"),),
        )
    )


def _stays_down(tell: Teller, design: Design, rig: Gantry, every: Bent) -> None:
    """Least load of a truck's wheel: the bridge is twisted by the boom, and tips over its wheels where it is short."""
    least = float((every.ends / 2 - every.twists / rig.wheelbase).min())
    k = int((every.ends / 2 - every.twists / rig.wheelbase).min(axis=1).argmin())
    side = int((every.ends[k] / 2 - every.twists[k] / rig.wheelbase).argmin())
    load, twist = float(every.ends[k, side]), float(every.twists[k, side])
    tell.add(
        by_method(
            "balance.truck",
            "Least on a wheel of a truck",
            least,
            "N",
            "half of what its end of the bridge weighs, less its twist over the wheelbase; camera on and off",
            (
                Given("R", load, "N", "of that end of the bridge with its truck"),
                Given("T", twist, "N*m", "twist it takes there", "boom.longest"),
                Given("c", rig.wheelbase, "m", "end wheels apart", "bridge.wheelbase"),
            ),
            source="statics 8.1",
        )
    )
    floor = LEAST * load / 2
    # Half as much again as the twist asks for at the very least.
    longer = math.ceil(1.5 * 2 * twist / load * 50) / 50 if load > 0 else math.inf
    tell.hold(
        "balance.truck",
        "balance.truck_lifts",
        "Bridge stays on its wheels",
        PEOPLE,
        "bridge.wheelbase",
        Words(
            "With the boom out along the runways a wheel of the bridge is lifted with {}: the bridge tips over."
            if least < 0
            else "The lightest wheel of the bridge keeps {}; {} should stay.",
            ((abs(least), "N"), (floor, "N")),
        ),
        at_least=floor,
        state=STOP if least < 0 else WATCH if least < floor else CLEAR,
        remedies=(
            *(
                (set_one("longer", "End wheels {} apart", "bridge.wheelbase", longer, "m"),)
                if longer <= min(1.0, rig.length - 0.05)
                else ()
            ),
            *_lighter(rig),
        ),
    )


def _lighter(rig: Gantry) -> tuple[Remedy, ...]:
    """A weight against the boom, a shorter boom."""
    counter = math.ceil(0.6 * (rig.tip * rig.longest) / max(rig.tail, 0.05) * 2) / 2
    found = []
    if rig.counter < counter <= 20:
        found.append(set_one("counter", "Hang {} behind the trolley", "boom.counter", counter, "kg"))
    shorter = round(0.75 * rig.longest, 2)
    if shorter >= max(rig.shortest, rig.parked[2], 0.05):
        found.append(set_one("shorter", "Boom out to {} at most", "boom.longest", shorter, "m"))
    return tuple(found)


def _trucks(tell: Teller, design: Design, rig: Gantry, load: float, twist: float) -> None:
    """The board between a truck's wheels, and the bolt by which the bridge hangs from it."""
    given = (
        Given("R", load, "N", "of an end of the bridge with its truck"),
        Given("T", twist, "N*m", "twist of the bridge there", "boom.longest"),
        Given("c", rig.wheelbase, "m", "end wheels apart", "bridge.wheelbase"),
    )
    # Across, from the bolt out to the wheels and in to the board's edge.
    behind = inset(rig) + EDGE
    inner = truck_wide(rig) - WHEEL_IN - behind
    modulus = (truck_wide(rig) - TRUCK_HOLE) * THICK**2 / 6
    board = design.catalogue.materials["plywood"]
    moment = HAND_SWING * (load * rig.wheelbase / 4 + twist / 2)
    works(
        tell,
        "rig.truck",
        "board of an end truck",
        moment / modulus,
        bears(design, board),
        "(R c / 4 + T / 2), times 1.5, over what its hole leaves",
        given,
        "bridge.wheelbase",
        source="statics 8.1, 9",
        remedies=(*_wider(design, rig, moment / (SOUND * bears(design, board))), *_shorter_base(rig), *_lighter(rig)),
    )
    works(
        tell,
        "rig.truck_bolt",
        "bolt of an end truck",
        HAND_SWING * (load * (1 + behind / inner) + 2 * twist / rig.bridge.width) / M8,
        bolt_bears(design),
        "the load, prying over the board's inner edge as the wheels stand off the bolt, and the twist over half the "
        "bridge's width, "
        "times 1.5, on one M8",
        (*given, Given("b", rig.bridge.width, "m", "width of the bridge", "bridge.section")),
        "bridge.section",
        source="statics 8.1, 13",
        about=PEOPLE,
        remedies=_lighter(rig),
    )


def _wider(design: Design, rig: Gantry, modulus: float) -> tuple[Remedy, ...]:
    """The narrowest board of an end truck of a section modulus [m^3]."""
    wide = modulus * 6 / THICK**2 + TRUCK_HOLE
    found = next((row for row in TRUCKS if design.catalogue.sections[row[0]].depth >= wide), None)
    return (set_one("truck", f"End trucks of {found[1].lower()}", "bridge.truck", found[0]),) if found else ()


def _shorter_base(rig: Gantry) -> tuple[Remedy, ...]:
    base = round(0.7 * rig.wheelbase, 2)
    return (set_one("base", "End wheels {} apart", "bridge.wheelbase", base, "m"),) if base >= 0.1 else ()


def _board(tell: Teller, design: Design, rig: Gantry, weight: float, turned: float) -> None:
    """The trolley's board, bent between its brackets by the swing bolt in its middle, the boom either way."""
    wide, long, out = board_size(rig)
    spans = ((rig.bridge.width + 2 * out, long), (rig.trolley_base, wide))
    stress = max(
        HAND_SWING * (weight * span / 4 + turned / 2) / ((across - SWING) * THICK**2 / 6) for span, across in spans
    )
    works(
        tell,
        "rig.board",
        "board of the trolley",
        stress,
        bears(design, design.catalogue.materials["plywood"]),
        "(W s / 4 + M / 2), times 1.5, over what the swing bolt leaves, along the bridge or across it",
        (
            Given("W", weight, "N", "trolley, boom and camera", "kit"),
            Given("M", turned, "N*m", "the boom's moment with a push at the camera", "boom.longest"),
            Given("s", max(span for span, _ in spans), "m", "between its brackets", "trolley.wheelbase"),
        ),
        "trolley.wheelbase",
        source="statics 3, 9",
        about=PEOPLE,
        remedies=(
            *(
                (set_one("wheels", "Wheels of the trolley {} apart", "trolley.wheelbase", base, "m"),)
                if (base := round(1.4 * rig.trolley_base, 3)) <= 0.6
                else ()
            ),
            *_lighter(rig),
        ),
    )


def _screws(tell: Teller, design: Design, rig: Gantry, shear: float) -> None:
    """A screw of the bridge's flange: what slides between flange and web."""
    thick = design.number("board.thick")
    bears_ = overhead.screw_shear(rig.bridge.material.density, SCREW, thick)
    force = HAND_SWING * shear * rig.bridge.screw
    closer = round(0.6 * design.number("board.screws"), 3)
    tell.add(
        by_method(
            "rig.screw_push",
            "Push on a screw of the bridge",
            force,
            "N",
            "γ E A a s V / EI, times 1.5",
            (
                Given("V", shear, "N", "greatest shear of the bridge"),
                design.given("s", "board.screws", "from screw to screw", "m"),
                Given("g", rig.bridge.joint, "1", "how well the joint works"),
            ),
            source="statics 2, 8.3",
        )
    )
    tell.hold(
        "rig.screw_push",
        "rig.screws",
        "Screws of the bridge",
        STRUCTURE,
        "board.screws",
        "A screw between flange and web is pushed with {}; {} is safe.",
        at_most=bears_,
        remedies=(set_one("closer", "A screw every {}", "board.screws", closer, "m"),) if closer >= 0.02 else (),
    )
