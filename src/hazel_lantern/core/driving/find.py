"""Gears for a drive: trains and change gears that serve all its wanted times, best first, each tried in place."""

from __future__ import annotations

import math
from collections.abc import Iterator

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Element
from hazel_lantern.core.driving.driven import Broken, Driven, chain_of, put_together
from hazel_lantern.core.driving.made import made
from hazel_lantern.core.driving.needs import needs
from hazel_lantern.core.kinds.base import Changes
from hazel_lantern.core.motion import drives, ratios
from hazel_lantern.core.motion.drives import Chain, Stage
from hazel_lantern.core.motion.ratios import Train
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.progress import Progress

SHOWN, TRIES = 4, 31  # answers; ratios tried between the ends of a window
INSIDE = 0.97  # of a window's ends, that a ratio keeps inside
PAIR = 0.92  # efficiency of a pair of cut gears


class Answer(Struct, frozen=True):
    """One way to gear it: its train, change gears as rows of time, driver and driven, what it comes to in place, how
    far its ratio is off what was looked for, and the changes that take it.
    """

    train: Train
    changed: tuple[tuple[float, float, float], ...]
    given: Driven
    changes: Changes

    @property
    def said(self) -> str:
        """Its pairs, and what comes last."""
        pairs = [f"{a}:{b}" for a, b in zip(self.train.drivers, self.train.driven, strict=True)]
        return " · ".join(pairs)

    @property
    def long(self) -> float:
        """From the first shaft to the last of its pairs [m]."""
        return sum(one.apart for one in self.given.made[: len(self.train.drivers)])

    @property
    def largest(self) -> float:
        """Outside of its largest gear [m]."""
        meshes = [one.mesh for one in self.given.made[: len(self.train.drivers)] if one.mesh]
        return max(2 * max(mesh.first.tip, mesh.second.tip) for mesh in meshes)

    @property
    def spare(self) -> float:
        return float(self.given.worst.spare.min())


class Search(Struct, frozen=True):
    """How far a search is: pairs looked at, answers so far, what was looked for, and a sentence where there is none."""

    target: float
    answers: tuple[Answer, ...]
    count: int = 0
    proven: bool = False
    words: str = ""


def find(given: Driven, shelf: Catalogue) -> Iterator[Progress[Search]]:
    """The best gears for a drive, in steps.

    given: a driven axis as it is; what comes last of it stays, and so do its sizes
    shelf: the catalogue its motor is in

    Returns: steps, the last with the answers, proven best within the gears that were allowed. Source: drive 2.
    """
    rest = tuple(element for element in given.drive.elements if element.kind not in (d.SPUR, d.BELT, d.CHAIN))
    last = chain_of(given.source.play, tuple(made(element, _span(given)) for element in rest))
    groups = _groups(given, last)
    if groups is None:
        yield Progress(1, 1, Search(0.0, (), words="No move asks anything of this axis: there is nothing to gear."))
        return
    made_box: ratios.ChangeGears | str | None = None
    for targets in _targets(given, last, groups):
        base = math.exp(sum(math.log(target) for target in targets) / len(targets))
        made_box = _box(given, targets, base) if len(groups) > 1 else None
        if not isinstance(made_box, str):
            break
    number, sizes, owned = given.settings.number, _sizes(given), {int(t): int(n) for t, n in given.drive.owned}
    pairs = round(number("pairs")) - (1 if len(groups) > 1 else 0)
    if isinstance(made_box, str):
        yield Progress(1, 1, Search(base, (), words=made_box))
        return
    box: ratios.ChangeGears | None = made_box
    if pairs < 1 or abs(math.log(base)) < number("off"):
        answers = [one for one in [_tried(given, shelf, None, rest, groups, box)] if one] if box else []
        words = "" if answers else "It needs no gears ahead of what comes last."
        yield Progress(1, 1, Search(base, tuple(answers), len(answers), proven=True, words=words))
        return
    found = None
    for n, found in enumerate(ratios.steps(sizes, base, number("off"), pairs, None, 3 * SHOWN, owned), 1):
        answers = [one for one in (_tried(given, shelf, train, rest, groups, box) for train in found.trains) if one]
        yield Progress(n, pairs, Search(base, tuple(answers[:SHOWN]), found.count, proven=True))
    if found is not None and not found.trains:
        words = (
            f"No train of up to {pairs} pairs of these gears makes 1 : {base:.4g}; 1 : {found.furthest:.4g} is the "
            "furthest they reach. Allow larger gears, another pair, or a ratio that is further off."
        )
        yield Progress(pairs, pairs, Search(base, (), 0, proven=True, words=words))


def _span(given: Driven) -> float:
    return given.held.span[1] - given.held.span[0]


def _sizes(given: Driven) -> list[int]:
    """Tooth counts that are allowed: those at hand, else all between two."""
    if given.drive.owned:
        return sorted({int(teeth) for teeth, _ in given.drive.owned})
    number = given.settings.number
    return list(range(round(number("fewest")), round(number("most")) + 1))


def _groups(given: Driven, last: Chain) -> list[list[float]] | None:
    """Wanted times that one ratio each can serve, the quickest first; None of an axis that does not move."""
    if not given.load.moves:
        return None
    times = sorted({*(one.time for one in given.needs)})
    source = given.source
    slowest = source.slowest or source.fastest / 120
    span = source.fastest / slowest
    if span <= 1.0 + 1e-9:
        return [[time] for time in times]
    groups: list[list[float]] = [[times[0]]]
    for time in times[1:]:
        if time / groups[-1][0] <= span * 0.98:
            groups[-1].append(time)
        else:
            groups.append([time])
    return groups


def _window(given: Driven, last: Chain, times: list[float]) -> tuple[float, float]:
    """From and up to which ratio ahead of what comes last the source runs smoothly in all of some times."""
    source, shot = given.source, given.needs[0].time
    if source.one_speed:
        only = source.fastest * times[0] / (float(np.abs(given.load.speed).mean()) * last.per_output * shot)
        return only, only
    fast = float(np.abs(given.load.speed).max()) * last.per_output * shot
    most = source.fastest / (fast / min(times))
    return max((source.slowest or 0.0) / (fast / max(times)), most / 1000), most


def _targets(given: Driven, last: Chain, groups: list[list[float]]) -> list[list[float]]:
    """A ratio for every group of times, in two ways: those that leave most to spare in the quickest; where no few gears
    make these, those nearest to each other.
    """
    windows = [_window(given, last, times) for times in groups]
    strongest = _strongest(given, last, groups[0], windows[0])
    if len(groups) == 1:
        return [[strongest]]
    inner = [math.sqrt(least * most) for least, most in windows[1:-1]]
    slow = windows[-1][0] / INSIDE
    return [[strongest, *inner, max(slow, strongest)], [windows[0][1] * INSIDE, *inner, slow]]


def _strongest(given: Driven, last: Chain, times: list[float], window: tuple[float, float]) -> float:
    """The ratio of a window that leaves the source most to spare."""
    source, shot, (least, most) = given.source, given.needs[0].time, window
    least, most = least / INSIDE, most * INSIDE
    tries = np.geomspace(least, most, TRIES) if least < most else np.array([math.sqrt(least * most)])

    def spare(ratio: float) -> float:
        stage = Stage(float(ratio), PAIR ** max(1, math.ceil(abs(math.log(ratio)) / math.log(5))))
        chain = drives.chain((stage, *last.stages), last.travel, last.play)
        return min(float(needs(given.load, given.held, chain, source, shot, time).spare.min()) for time in times)

    return float(max(tries, key=spare))


def _box(given: Driven, targets: list[float], base: float) -> ratios.ChangeGears | str:
    """Change gears round the middle of all ratios, or why there are none."""
    number = given.settings.number
    fewest, most = round(number("fewest")), round(number("most"))
    try:
        return ratios.change_gears(
            [target / base for target in targets], max(0.03, number("off")), (2 * fewest, 2 * most), fewest, most
        )
    except InfeasibleError:
        spread = max(targets) / min(targets)
        return (
            f"These times ask for ratios {spread:.3g} times apart, which no pairs of {fewest} to {most} teeth on the "
            "same shafts make: allow larger gears, or take another stage out for the slow ones."
        )


def _tried(
    given: Driven,
    shelf: Catalogue,
    train: Train | None,
    rest: tuple[Element, ...],
    groups: list[list[float]],
    box: ratios.ChangeGears | None,
) -> Answer | None:
    """A train in place, its change gears ahead of it; None where it cannot be made."""
    sizes = next((dict(e.values) for e in given.drive.elements if e.kind == d.SPUR), {})
    pairs = list(zip(train.drivers, train.driven, strict=True)) if train is not None else []
    changed: tuple[tuple[float, float, float], ...] = ()
    if box is not None:
        pairs = [box.pairs[0], *pairs]
        changed = tuple(
            (time, float(a), float(b))
            for group, (a, b) in zip(groups[1:], box.pairs[1:], strict=True)
            for time in group
        )
    spurs = tuple(Element(kind=d.SPUR, values={**sizes, "driver": float(a), "driven": float(b)}) for a, b in pairs)
    slow = {time for time, _, _ in changed}
    shot = given.needs[0].time
    times = tuple(t for group in groups for t in group if t not in slow and t != shot)
    elements = (*spurs, *rest)
    drive = replace(given.drive, elements=elements, changed=changed, times_s=tuple(sorted(times)))
    try:
        found = put_together(
            given.axis, drive, replace(given.held, sprung=0.0), given.load, shelf, shot, (given.pixels, given.way)
        )
    except InputError:
        return None
    if isinstance(found, Broken):
        return None
    whole = Train(
        tuple(int(a) for a, _ in pairs), tuple(int(b) for _, b in pairs), found.chain.ratio, train.off if train else 0.0
    )
    return Answer(whole, changed, found, _changes(given, spurs, rest, changed, times))


def _changes(
    given: Driven,
    spurs: tuple[Element, ...],
    rest: tuple[Element, ...],
    changed: tuple[tuple[float, float, float], ...],
    times: tuple[float, ...],
) -> Changes:
    """What sets the drive so: the chain, then every size of its gears."""
    key = given.key
    found: list[tuple[str, object]] = [(f"{key}.chain", tuple(element.kind for element in (*spurs, *rest)))]
    for n, element in enumerate(spurs, 1):
        found += [(f"{key}.{n}.{name}", value) for name, value in element.values.items()]
    found += [(f"{key}.changed", changed), (f"{key}.times", tuple((time,) for time in sorted(times)))]
    return tuple(found)
