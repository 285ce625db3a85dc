"""Elements as they come out: ratio or way for a turn, what they lose, their play, when they slip, break or jam, and the
wheels they are drawn with.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping
from functools import lru_cache

from msgspec.structs import replace

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Element
from hazel_lantern.core.driving.flexible import belt, beltway, capstan, chain, drum
from hazel_lantern.core.driving.piece import Disc, Made, Sizes, Trouble, number, up_to
from hazel_lantern.core.motion import screws, sectors
from hazel_lantern.core.motion.drives import TURN, Stage
from hazel_lantern.core.motion.gears import WANTED, Pair, gear, least_module, pair, tooth_bears
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.finding import BUILD, STOP, WATCH
from hazel_lantern.core.nouns.words import Words

FEWEST_TEETH = 12  # of a cut gear; fewer are undercut at 20 degrees and weak
E_STEEL, STEEL = 205e9, 7850.0
PRESSURE = math.radians(20)  # angle of a worm's flanks
BINDS, BINDS_BY = 0.00003, 0.03  # metres, and of the module: play under which cut teeth bind
TOOLS = {d.LASER: "this laser and sheet", d.ROUTER: "this bit", d.PRINTER: "this nozzle", d.SAW: "a hand saw"}
RULE = 0.15  # metres between two shafts that are not geared together, as they are drawn


def sizes_of(element: Element) -> dict[str, float | str]:
    """All sizes of an element, the usual ones where nothing else was said."""
    return {**d.SORTS[element.kind].usual(), **element.values}


def made(element: Element, span: float) -> Made:
    """An element of a drive whose axis goes `span` far [m], or [rad]. Raises InputError, and InfeasibleError for one
    that cannot be made at all.
    """
    return _made(element.kind, tuple(sizes_of(element).items()), span)


@lru_cache(maxsize=128)
def _made(kind: str, sizes: tuple[tuple[str, float | str], ...], span: float) -> Made:
    """Kept, since whoever drives, cuts and buys asks for the same ones, and a drag leaves most of them as they are."""
    return MAKERS[kind](dict(sizes), span)


def _few(values: Sizes, key: str, name: str) -> tuple[Trouble, ...]:
    teeth = number(values, key)
    if teeth >= FEWEST_TEETH:
        return ()
    words = Words(
        f"The {name} has {{}} teeth; under {{}} they are cut away at the root.",
        ((teeth, "count"), (FEWEST_TEETH, "count")),
    )
    return (
        Trouble(
            "few",
            "Enough teeth",
            BUILD,
            WATCH,
            words,
            teeth,
            FEWEST_TEETH,
            "at_least",
            "count",
            (key, FEWEST_TEETH, "count"),
        ),
    )


def gears_of(values: Sizes, *, whole: str = "driven") -> Pair:
    """The two gears of an element in mesh, each shifted as far as its teeth ask for. Raises InfeasibleError for teeth
    that cannot be.
    """
    module, angle, play = (number(values, key) for key in ("module", "angle", "play"))
    one, other = (gear(module, number(values, key), angle, None, play) for key in ("driver", whole))
    return pair(one, other)


def _meshed(kind: str, values: Sizes, span: float) -> Made:
    """Two spur gears, or a pinion and the part of a gear that an arm's sweep asks for."""
    driver, driven, width = (number(values, key) for key in ("driver", "driven", "width"))
    module = number(values, "module")
    mesh = gears_of(values)
    share = driver / (driver + driven)
    first, second = Disc(mesh.apart * share, round(driver)), Disc(mesh.apart * (1 - share), round(driven))
    stuff = d.GEAR_STUFF[str(values["stuff"])]
    bears = min(
        tooth_bears(module, width, max(FEWEST_TEETH, teeth), stuff[1], number(values, "angle")).force
        for teeth in (driver, driven)
    )
    troubles = [*_few(values, "driver", "driver"), *_few(values, "driven", "driven gear"), *_mesh(values, mesh)]
    said = f"{driver:.0f} : {driven:.0f}"
    if kind == d.SECTOR:
        if span < TURN * (1 - sectors.SPARE / driven):
            cut = sectors.sector(driven, driver, span, module)
            second, said = (
                replace(second, sweep=cut.teeth * TURN / driven),
                f"{driver:.0f} : {cut.teeth} of {driven:.0f}",
            )
        else:
            said += ", all round"
    inertia = math.pi / 2 * stuff[2] * width * second.radius**4 if kind == d.SPUR else 0.0
    stage = Stage(driven / driver, number(values, "efficiency"), number(values, "play") / second.radius, inertia)
    return Made(
        kind,
        stage,
        first,
        second,
        mesh.apart,
        breaks=bears * second.radius,
        troubles=tuple(troubles),
        said=said,
        mesh=mesh,
        fill=stuff[3],
    )


def _spur(values: Sizes, span: float) -> Made:
    return _meshed(d.SPUR, values, span)


def _sector(values: Sizes, span: float) -> Made:
    return _meshed(d.SECTOR, values, span)


def _mesh(values: Sizes, mesh: Pair) -> tuple[Trouble, ...]:
    """What is wrong with two gears in mesh: contact, tips that meet roots, teeth too small for the tool, play."""
    found: list[Trouble] = []
    module, play = number(values, "module"), number(values, "play")
    if mesh.contact < WANTED:
        words = Words("Only {} pairs of teeth are in contact; cut gears want {}.", ((mesh.contact, "1"), (WANTED, "1")))
        found.append(
            Trouble(
                "contact",
                "Teeth in contact",
                BUILD,
                WATCH,
                words,
                mesh.contact,
                WANTED,
                "at_least",
                "1",
                ("driver", number(values, "driver") + 4, "count"),
            )
        )
    if mesh.fouls:
        words = Words("A tip of the larger gear meets the root of the smaller one: they would jam.")
        found.append(
            Trouble(
                "fouls",
                "Tips clear of roots",
                BUILD,
                STOP,
                words,
                1.0,
                0.0,
                "at_most",
                "count",
                ("driver", number(values, "driver") + 4, "count"),
            )
        )
    tool = str(values["tool"])
    size = number(values, {d.LASER: "kerf", d.ROUTER: "bit", d.PRINTER: "nozzle"}.get(tool, "kerf"))
    least = max(least_module(tool, size, one, number(values, "width")) for one in (mesh.first, mesh.second))
    if module < least:
        words = Words(
            f"Teeth of module {{}} are too small for {TOOLS[tool]}: {{}} is the least.",
            ((module, "m:tooth"), (least, "m:tooth")),
        )
        found.append(
            Trouble(
                "tool",
                "Teeth for the tool",
                BUILD,
                WATCH,
                words,
                module,
                least,
                "at_least",
                "m:tooth",
                ("module", up_to(least, 0.00025), "m:tooth"),
            )
        )
    asks = BINDS + BINDS_BY * module
    if play < asks:
        words = Words("With {} of play cut teeth bind; {} is usual.", ((play, "m:tooth"), (asks, "m:tooth")))
        found.append(
            Trouble(
                "binds",
                "Play to run free",
                BUILD,
                WATCH,
                words,
                play,
                asks,
                "at_least",
                "m:tooth",
                ("play", up_to(asks, 0.00001), "m"),
            )
        )
    return tuple(found)


def _worm(values: Sizes, span: float) -> Made:
    starts, driven, module, lead = (number(values, key) for key in ("starts", "driven", "module", "lead"))
    found = screws.worm(lead, PRESSURE, number(values, "grip"))
    wheel = Disc(module * driven / 2, round(driven))
    worm = Disc(module * starts / (2 * math.tan(lead)))
    lost = number(values, "grip") / math.cos(PRESSURE)
    returned = (1 - lost / math.tan(lead)) / (1 + lost * math.tan(lead))  # below nought it must be driven back too
    stage = Stage(driven / starts, found.efficiency, number(values, "play") / wheel.radius, 0.0, returned)
    return Made(
        d.WORM,
        stage,
        worm,
        wheel,
        worm.radius + wheel.radius,
        holds=found.holds,
        said=f"{starts:.0f} : {driven:.0f} worm",
    )


def _rim(values: Sizes, span: float) -> Made:
    roller, rim = Disc(number(values, "roller") / 2), Disc(number(values, "driven") / 2)
    slips = number(values, "press") * number(values, "grip") * rim.radius
    stage = Stage(rim.radius / roller.radius, number(values, "efficiency"))
    return Made(
        d.RIM,
        stage,
        roller,
        rim,
        roller.radius + rim.radius,
        slips=slips,
        said=f"1 : {rim.radius / roller.radius:.3g} roller",
    )


def _screw(values: Sizes, span: float) -> Made:
    lead, outer, mean = (number(values, key) for key in ("lead", "outer", "mean"))
    thread = screws.Thread(lead, min(mean, outer), number(values, "half_angle"), number(values, "grip"))
    found = screws.driven(thread, 1.0)
    long, root = span + 0.1, max(1e-3, 2 * thread.mean - outer)
    whirls = 0.8 * screws.whirl(long, root, E_STEEL, STEEL, str(values["ends"]))
    area = math.pi / 4 * root**2
    buckles = math.pi**2 * E_STEEL * math.pi * root**4 / 64 / long**2 / 3
    inertia = math.pi / 32 * STEEL * long * thread.mean**4
    # Driven back it gives the torque of its own friction; below nought it locks.
    stage = Stage(1.0, found.efficiency, 0.0, inertia, -found.back / (lead / TURN))
    return Made(
        d.SCREW,
        stage,
        Disc(outer / 2),
        travel=lead,
        play=number(values, "play"),
        stiff=E_STEEL * area / long,
        breaks=buckles,
        holds=found.holds,
        whirls=whirls,
        said=f"lead {lead * 1e3:g} mm",
    )


def _roller(values: Sizes, span: float) -> Made:
    radius = number(values, "roller") / 2
    slips = number(values, "press") * number(values, "grip")
    stage = Stage(1.0, number(values, "efficiency"))
    return Made(d.ROLLER, stage, Disc(radius), travel=TURN * radius, slips=slips, said="roller on the rail")


def _rack(values: Sizes, span: float) -> Made:
    teeth, module = number(values, "teeth"), number(values, "module")
    stage = Stage(1.0, number(values, "efficiency"))
    return Made(
        d.RACK,
        stage,
        Disc(module * teeth / 2, round(teeth)),
        travel=math.pi * module * teeth,
        play=number(values, "play"),
        troubles=_few(values, "teeth", "pinion"),
        said=f"{teeth:.0f} teeth on the rack",
    )


MAKERS: Mapping[str, Callable[[Sizes, float], Made]] = {
    d.SPUR: _spur, d.SECTOR: _sector, d.BELT: belt, d.CHAIN: chain, d.WORM: _worm, d.RIM: _rim,
    d.SCREW: _screw, d.DRUM: drum, d.CAPSTAN: capstan, d.BELTWAY: beltway, d.ROLLER: _roller, d.RACK: _rack,
}  # fmt: skip


def misplaced(elements: tuple[Element, ...], turns: bool) -> tuple[int, str] | None:
    """The first element that stands where it cannot work, and what should stand there in words; None where all do."""
    for n, element in enumerate(elements):
        last = n == len(elements) - 1
        if d.SORTS[element.kind].gives == d.WAY and (not last or turns):
            if turns:
                return (
                    n,
                    "the axis turns, and this moves along a way: take it out, or take a sector, belt or roller on a "
                    "rim",
                )
            return n, "what moves along the way comes last"
        if element.kind == d.SECTOR and not (last and turns):
            return n, "a sector sits on the arm itself, so it comes last and only on what turns"
    if not turns and (not elements or d.SORTS[elements[-1].kind].gives == d.TURN):
        return len(elements), "nothing moves it along its way yet: add a screw, drum, cord, belt, roller or rack"
    return None


def clash(one: Made, next_one: Made, shaft: float) -> Trouble | None:
    """Whether the driven wheel of an element runs into the shaft that the next one drives, [m] thick."""
    if one.second is None or next_one.second is None:
        return None
    reach, room = one.second.radius * 1.05 + shaft / 2, next_one.apart
    if reach <= room:
        return None
    words = Words(
        "The driven wheel reaches {} out and would run into the next shaft, {} away.", ((reach, "m"), (room, "m"))
    )
    return Trouble("clash", "Clear of the next shaft", BUILD, STOP, words, reach, room, "at_most", "m")


def jams(error: InfeasibleError) -> Words:
    """What a screw or worm that cannot be driven is told."""
    text = str(error)
    return Words(f"{text[:1].upper()}{text[1:]}.")
