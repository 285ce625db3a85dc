"""Elements as they come out: ratio or way for a turn, what they lose, their play, when they slip, break or jam, and the
wheels they are drawn with.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Mapping

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Element
from hazel_lantern.core.motion import belts, drums, screws, sectors
from hazel_lantern.core.motion.drives import TURN, Stage
from hazel_lantern.core.motion.gears import WANTED, Pair, gear, least_module, pair, tooth_bears
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.finding import BUILD, PICTURE, STOP, STRUCTURE, WATCH
from hazel_lantern.core.nouns.words import Words

FEWEST_IN_MESH = 6  # teeth of a belt that hold
FEWEST_TEETH = 12  # of a cut gear; fewer are undercut at 20 degrees and weak
CORD_BEND = 10.0  # of a cord's thickness, the least it may be bent round; workshop judgement
GROWTH, RIPPLE = 0.03, 0.02  # of the speed, that is seen
E_STEEL, STEEL = 205e9, 7850.0
PRESSURE = math.radians(20)  # angle of a worm's flanks
BINDS, BINDS_BY = 0.00003, 0.03  # metres, and of the module: play under which cut teeth bind
TOOLS = {d.LASER: "this laser and sheet", d.ROUTER: "this bit", d.PRINTER: "this nozzle", d.SAW: "a hand saw"}
WOOD = 650.0  # kilograms a cubic metre, of plywood that gears are cut from
RULE = 0.15  # metres between two shafts that are not geared together, as they are drawn


class Disc(Struct, frozen=True):
    """A wheel as it is drawn: its radius where it meets [m], teeth (0 for a smooth one), and of a sector the angle its
    teeth take, 0 for all round [rad].
    """

    radius: float
    teeth: int = 0
    sweep: float = 0.0


class Trouble(Struct, frozen=True):
    """What is wrong with an element: the last words of its key, title, what it is about, its state, the sentence, value
    and limit with their sense and unit, and the size that would mend it, with the value that does.
    """

    key: str
    title: str
    about: str
    state: str
    sentence: Words
    value: float
    limit: float
    sense: str
    unit: str
    mends: tuple[str, float, str] | None = None


class Made(Struct, frozen=True):
    """An element: its stage as the chain reckons it, the way it makes for a turn of its last shaft [m] (0 for one that
    turns), play along that way [m], what it slips at (effort at its output, N or N*m), how stiff it is along the way
    [N/m], what it breaks at, how far its speed grows over the run and ripples [-], whether it holds by itself, the speed
    it must stay under [rad/s], its wheels, how far their shafts stand apart [m], whether both turn one way, its troubles,
    what is said of it, and of gears their mesh and what they are painted as.
    """

    kind: str
    stage: Stage
    first: Disc
    second: Disc | None = None
    apart: float = 0.0
    travel: float = 0.0
    play: float = 0.0
    slips: float = math.inf
    stiff: float = math.inf
    breaks: float = math.inf
    grows: float = 1.0
    ripple: float = 0.0
    holds: str = screws.RUNS
    whirls: float = math.inf
    same_way: bool = False
    troubles: tuple[Trouble, ...] = ()
    said: str = ""
    mesh: Pair | None = None
    fill: str = ""

    @property
    def gives(self) -> str:
        return d.SORTS[self.kind].gives


Sizes = Mapping[str, float | str]


def sizes_of(element: Element) -> dict[str, float | str]:
    """All sizes of an element, the usual ones where nothing else was said."""
    return {**d.SORTS[element.kind].usual(), **element.values}


def made(element: Element, span: float) -> Made:
    """An element of a drive whose axis goes `span` far [m], or [rad]. Raises InputError, and InfeasibleError for one
    that cannot be made at all.
    """
    values = sizes_of(element)
    return MAKERS[element.kind](values, span)


def _number(values: Sizes, key: str) -> float:
    return float(values[key])


def _disc_inertia(radius: float, width: float) -> float:
    """Of a wooden wheel about its shaft [kg*m^2]."""
    return math.pi / 2 * WOOD * width * radius**4


def _few(values: Sizes, key: str, name: str) -> tuple[Trouble, ...]:
    teeth = _number(values, key)
    if teeth >= FEWEST_TEETH:
        return ()
    words = Words(f"The {name} has {{}} teeth; under {{}} they are cut away at the root.", ((teeth, "count"), (FEWEST_TEETH, "count")))  # fmt: skip
    return (Trouble("few", "Enough teeth", BUILD, WATCH, words, teeth, FEWEST_TEETH, "at_least", "count", (key, FEWEST_TEETH, "count")),)  # fmt: skip


def gears_of(values: Sizes, *, whole: str = "driven") -> Pair:
    """The two gears of an element in mesh, each shifted as far as its teeth ask for. Raises InfeasibleError for teeth
    that cannot be.
    """
    module, angle, play = (_number(values, key) for key in ("module", "angle", "play"))
    one, other = (gear(module, _number(values, key), angle, None, play) for key in ("driver", whole))
    return pair(one, other)


def _meshed(kind: str, values: Sizes, span: float) -> Made:
    """Two spur gears, or a pinion and the part of a gear that an arm's sweep asks for."""
    driver, driven, width = (_number(values, key) for key in ("driver", "driven", "width"))
    module = _number(values, "module")
    mesh = gears_of(values)
    share = driver / (driver + driven)
    first, second = Disc(mesh.apart * share, round(driver)), Disc(mesh.apart * (1 - share), round(driven))
    stuff = d.GEAR_STUFF[str(values["stuff"])]
    bears = min(
        tooth_bears(module, width, max(FEWEST_TEETH, teeth), stuff[1], _number(values, "angle")).force
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
    stage = Stage(driven / driver, _number(values, "efficiency"), _number(values, "play") / second.radius, inertia)
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
    module, play = _number(values, "module"), _number(values, "play")
    if mesh.contact < WANTED:
        words = Words("Only {} pairs of teeth are in contact; cut gears want {}.", ((mesh.contact, "1"), (WANTED, "1")))
        found.append(Trouble("contact", "Teeth in contact", BUILD, WATCH, words, mesh.contact, WANTED, "at_least", "1", ("driver", _number(values, "driver") + 4, "count")))  # fmt: skip
    if mesh.fouls:
        words = Words("A tip of the larger gear meets the root of the smaller one: they would jam.")
        found.append(Trouble("fouls", "Tips clear of roots", BUILD, STOP, words, 1.0, 0.0, "at_most", "count", ("driver", _number(values, "driver") + 4, "count")))  # fmt: skip
    tool = str(values["tool"])
    size = _number(values, {d.LASER: "kerf", d.ROUTER: "bit", d.PRINTER: "nozzle"}.get(tool, "kerf"))
    least = max(least_module(tool, size, one, _number(values, "width")) for one in (mesh.first, mesh.second))
    if module < least:
        words = Words(f"Teeth of module {{}} are too small for {TOOLS[tool]}: {{}} is the least.", ((module, "m:tooth"), (least, "m:tooth")))  # fmt: skip
        found.append(Trouble("tool", "Teeth for the tool", BUILD, WATCH, words, module, least, "at_least", "m:tooth", ("module", _up(least, 0.00025), "m:tooth")))  # fmt: skip
    asks = BINDS + BINDS_BY * module
    if play < asks:
        words = Words("With {} of play cut teeth bind; {} is usual.", ((play, "m:tooth"), (asks, "m:tooth")))
        found.append(Trouble("binds", "Play to run free", BUILD, WATCH, words, play, asks, "at_least", "m:tooth", ("play", _up(asks, 0.00001), "m")))  # fmt: skip
    return tuple(found)


def _belt(values: Sizes, span: float) -> Made:
    driver, driven, pitch, apart = (_number(values, key) for key in ("driver", "driven", "pitch", "apart"))
    first, second = Disc(driver * pitch / TURN, round(driver)), Disc(driven * pitch / TURN, round(driven))
    troubles: list[Trouble] = []
    need = (first.radius + second.radius) * 1.02
    if apart < need:
        words = Words("The pulleys would stand in each other: their shafts are {} apart, {} is the least.", ((apart, "m"), (need, "m")))  # fmt: skip
        troubles.append(Trouble("meets", "Pulleys clear each other", BUILD, STOP, words, apart, need, "at_least", "m", ("apart", _up(need, 0.005), "m")))  # fmt: skip
    small = min(first, second, key=lambda one: one.radius)
    large = max(first, second, key=lambda one: one.radius)
    mesh = belts.in_mesh(2 * small.radius, 2 * large.radius, max(apart, need), small.teeth)
    words = Words("The belt lies on {} teeth of the smaller pulley; {} are asked for.", ((mesh, "1"), (FEWEST_IN_MESH, "1")))  # fmt: skip
    if mesh < FEWEST_IN_MESH:
        better = math.ceil(driver * FEWEST_IN_MESH / mesh + 1)
        mends = ("driver", float(better), "count") if driver <= driven else None
        troubles.append(Trouble("in_mesh", "Teeth in the belt", STRUCTURE, WATCH, words, mesh, FEWEST_IN_MESH, "at_least", "1", mends))  # fmt: skip
    stage = Stage(driven / driver, _number(values, "efficiency"), _number(values, "play") / second.radius, _disc_inertia(second.radius, 0.012))  # fmt: skip
    length = belts.belt_length(2 * first.radius, 2 * second.radius, max(apart, need))
    whole = round(length / pitch)
    return Made(d.BELT, stage, first, second, max(apart, need), same_way=True, troubles=tuple(troubles), said=f"{driver:.0f} : {driven:.0f}, belt of {whole} teeth")  # fmt: skip


def _chain(values: Sizes, span: float) -> Made:
    driver, driven, pitch, apart = (_number(values, key) for key in ("driver", "driven", "pitch", "apart"))
    one, other = belts.sprocket(driver, pitch), belts.sprocket(driven, pitch)
    first, second = Disc(one.diameter / 2, round(driver)), Disc(other.diameter / 2, round(driven))
    troubles: list[Trouble] = []
    need = (first.radius + second.radius) * 1.05
    if apart < need:
        words = Words("The sprockets would stand in each other: their shafts are {} apart, {} is the least.", ((apart, "m"), (need, "m")))  # fmt: skip
        troubles.append(Trouble("meets", "Sprockets clear each other", BUILD, STOP, words, apart, need, "at_least", "m", ("apart", _up(need, 0.005), "m")))  # fmt: skip
    ripple = max(one.ripple, other.ripple)
    if ripple > RIPPLE:
        words = Words("On so small a sprocket the chain pulses by {}; {} is seen.", ((ripple, "1"), (RIPPLE, "1")))
        key = "driver" if driver <= driven else "driven"
        troubles.append(Trouble("pulses", "Chain runs evenly", PICTURE, WATCH, words, ripple, RIPPLE, "at_most", "1", (key, 16.0, "count")))  # fmt: skip
    stage = Stage(driven / driver, _number(values, "efficiency"), _number(values, "play") / second.radius, _disc_inertia(second.radius, 0.006))  # fmt: skip
    links = belts.chain_links(driver, driven, pitch, max(apart, need))
    return Made(d.CHAIN, stage, first, second, max(apart, need), ripple=ripple, same_way=True, troubles=tuple(troubles), said=f"{driver:.0f} : {driven:.0f}, {links} links")  # fmt: skip


def _worm(values: Sizes, span: float) -> Made:
    starts, driven, module, lead = (_number(values, key) for key in ("starts", "driven", "module", "lead"))
    found = screws.worm(lead, PRESSURE, _number(values, "grip"))
    wheel = Disc(module * driven / 2, round(driven))
    worm = Disc(module * starts / (2 * math.tan(lead)))
    lost = _number(values, "grip") / math.cos(PRESSURE)
    returned = (1 - lost / math.tan(lead)) / (1 + lost * math.tan(lead))  # below nought it must be driven back too
    stage = Stage(driven / starts, found.efficiency, _number(values, "play") / wheel.radius, 0.0, returned)
    return Made(d.WORM, stage, worm, wheel, worm.radius + wheel.radius, holds=found.holds, said=f"{starts:.0f} : {driven:.0f} worm")  # fmt: skip


def _rim(values: Sizes, span: float) -> Made:
    roller, rim = Disc(_number(values, "roller") / 2), Disc(_number(values, "driven") / 2)
    slips = _number(values, "press") * _number(values, "grip") * rim.radius
    stage = Stage(rim.radius / roller.radius, _number(values, "efficiency"))
    return Made(d.RIM, stage, roller, rim, roller.radius + rim.radius, slips=slips, said=f"1 : {rim.radius / roller.radius:.3g} roller")  # fmt: skip


def _screw(values: Sizes, span: float) -> Made:
    lead, outer, mean = (_number(values, key) for key in ("lead", "outer", "mean"))
    thread = screws.Thread(lead, min(mean, outer), _number(values, "half_angle"), _number(values, "grip"))
    found = screws.driven(thread, 1.0)
    long, root = span + 0.1, max(1e-3, 2 * thread.mean - outer)
    whirls = 0.8 * screws.whirl(long, root, E_STEEL, STEEL, str(values["ends"]))
    area = math.pi / 4 * root**2
    buckles = math.pi**2 * E_STEEL * math.pi * root**4 / 64 / long**2 / 3
    inertia = math.pi / 32 * STEEL * long * thread.mean**4
    # Driven back it gives the torque of its own friction; below nought it locks.
    stage = Stage(1.0, found.efficiency, 0.0, inertia, -found.back / (lead / TURN))
    return Made(d.SCREW, stage, Disc(outer / 2), travel=lead, play=_number(values, "play"), stiff=E_STEEL * area / long, breaks=buckles, holds=found.holds, whirls=whirls, said=f"lead {lead * 1e3:g} mm")  # fmt: skip


def _cord(values: Sizes, wheel: float, what: str, size: str) -> tuple[Trouble, ...]:
    """Whether a cord may be bent round a wheel [m]."""
    cord = _number(values, "cord")
    least = CORD_BEND * cord
    if wheel >= least:
        return ()
    words = Words(f"A cord of {{}} frays on so small a {what}: {{}} is the least for it.", ((cord, "m"), (least, "m")))
    return (Trouble("bends", f"Cord on its {what}", STRUCTURE, WATCH, words, wheel, least, "at_least", "m", (size, least, "m")),)  # fmt: skip


def _drum(values: Sizes, span: float) -> Made:
    bare, width, cord = (_number(values, key) for key in ("bare", "width", "cord"))
    pack = 1.0 if values["laid"] == d.STACKED else drums.NESTED
    drum = drums.Drum(bare, width, cord, pack)
    troubles = list(_cord(values, bare, "drum", "bare"))
    if width < cord:
        words = Words("A cord of {} does not lie between flanges {} apart.", ((cord, "m"), (width, "m")))
        troubles.append(Trouble("room", "Room on the drum", BUILD, STOP, words, width, cord, "at_least", "m", ("width", _up(cord, 0.005), "m")))  # fmt: skip
        drum = drums.Drum(bare, cord, cord, pack)
    wound = drums.wound(drum, max(span, cord))
    if wound.grows - 1 > GROWTH:
        wide = _up(drums.one_layer(drum, span), 0.005)
        words = Words("The cord lies in layers: the last runs {} faster than the first; {} is seen.", ((wound.grows - 1, "1"), (GROWTH, "1")))  # fmt: skip
        mends = ("width", wide, "m") if wide <= 0.5 else None
        troubles.append(Trouble("layers", "Even speed from the drum", PICTURE, WATCH, words, wound.grows - 1, GROWTH, "at_most", "1", mends))  # fmt: skip
    stage = Stage(1.0, _number(values, "efficiency"))
    # The last layer pulls with the longest lever and runs the fastest: what is asked for is reckoned there.
    return Made(
        d.DRUM, stage, Disc(wound.last), travel=wound.last_turn, stiff=_number(values, "stretch") / max(span, 0.05), breaks=_number(values, "breaks") / 5,
        grows=wound.grows, troubles=tuple(troubles), said=f"{wound.turns:.1f} turns in {wound.layers} layer{'s' if wound.layers > 1 else ''}",
    )  # fmt: skip


def _capstan(values: Sizes, span: float) -> Made:
    wheel, cord, tight = (_number(values, key) for key in ("wheel", "cord", "tight"))
    grips = drums.capstan(_number(values, "grip"), _number(values, "wraps"))
    radius = (wheel + cord) / 2
    stage = Stage(1.0, _number(values, "efficiency"))
    return Made(d.CAPSTAN, stage, Disc(radius), travel=TURN * radius, slips=tight * (grips - 1), stiff=2 * _number(values, "stretch") / max(span, 0.05), breaks=_number(values, "breaks") / 5, troubles=_cord(values, wheel, "wheel", "wheel"), said="looped cord")  # fmt: skip


def _beltway(values: Sizes, span: float) -> Made:
    teeth, pitch = _number(values, "teeth"), _number(values, "pitch")
    least = 12 if pitch <= 0.003 else 14
    troubles: tuple[Trouble, ...] = ()
    if teeth < least:
        words = Words("A pulley of {} teeth bends the belt too sharply; {} is the least.", ((teeth, "count"), (least, "count")))  # fmt: skip
        troubles = (Trouble("few", "Enough teeth", STRUCTURE, WATCH, words, teeth, least, "at_least", "count", ("teeth", float(least), "count")),)  # fmt: skip
    stage = Stage(1.0, _number(values, "efficiency"))
    return Made(d.BELTWAY, stage, Disc(teeth * pitch / TURN, round(teeth)), travel=teeth * pitch, play=_number(values, "play"), stiff=2 * _number(values, "stretch") / max(span, 0.05), breaks=_number(values, "breaks") / 3, troubles=troubles, said=f"{teeth:.0f} teeth of {pitch * 1e3:g} mm")  # fmt: skip


def _roller(values: Sizes, span: float) -> Made:
    radius = _number(values, "roller") / 2
    slips = _number(values, "press") * _number(values, "grip")
    stage = Stage(1.0, _number(values, "efficiency"))
    return Made(d.ROLLER, stage, Disc(radius), travel=TURN * radius, slips=slips, said="roller on the rail")


def _rack(values: Sizes, span: float) -> Made:
    teeth, module = _number(values, "teeth"), _number(values, "module")
    stage = Stage(1.0, _number(values, "efficiency"))
    return Made(d.RACK, stage, Disc(module * teeth / 2, round(teeth)), travel=math.pi * module * teeth, play=_number(values, "play"), troubles=_few(values, "teeth", "pinion"), said=f"{teeth:.0f} teeth on the rack")  # fmt: skip


def _up(value: float, step: float) -> float:
    return round(math.ceil(value / step - 1e-9) * step, 6)


MAKERS: Mapping[str, Callable[[Sizes, float], Made]] = {
    d.SPUR: _spur, d.SECTOR: _sector, d.BELT: _belt, d.CHAIN: _chain, d.WORM: _worm, d.RIM: _rim,
    d.SCREW: _screw, d.DRUM: _drum, d.CAPSTAN: _capstan, d.BELTWAY: _beltway, d.ROLLER: _roller, d.RACK: _rack,
}  # fmt: skip


def misplaced(elements: tuple[Element, ...], turns: bool) -> tuple[int, str] | None:
    """The first element that stands where it cannot work, and what should stand there in words; None where all do."""
    for n, element in enumerate(elements):
        last = n == len(elements) - 1
        if d.SORTS[element.kind].gives == d.WAY and (not last or turns):
            if turns:
                return (
                    n,
                    "the axis turns, and this moves along a way: take it out, or take a sector, belt or roller on a rim",
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
    words = Words("The driven wheel reaches {} out and would run into the next shaft, {} away.", ((reach, "m"), (room, "m")))  # fmt: skip
    return Trouble("clash", "Clear of the next shaft", BUILD, STOP, words, reach, room, "at_most", "m")


def jams(error: InfeasibleError) -> Words:
    """What a screw or worm that cannot be driven is told."""
    text = str(error)
    return Words(f"{text[:1].upper()}{text[1:]}.")
