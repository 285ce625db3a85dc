"""All that is told of every driven axis, in the order it is read."""

from __future__ import annotations

from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document import drives as d
from hazel_lantern.core.document.project import Shot
from hazel_lantern.core.driving.driven import Broken, Driven, first_pair
from hazel_lantern.core.driving.made import clash
from hazel_lantern.core.driving.needs import efforts
from hazel_lantern.core.driving.piece import Trouble
from hazel_lantern.core.driving.told.cord import cord
from hazel_lantern.core.driving.told.enough import enough
from hazel_lantern.core.driving.told.lapse import time_lapse
from hazel_lantern.core.driving.told.off import off
from hazel_lantern.core.driving.told.picture import picture
from hazel_lantern.core.driving.told.speeds import speeds
from hazel_lantern.core.driving.told.supply import supply
from hazel_lantern.core.kinds.base import DriveAxis
from hazel_lantern.core.motion.gears import Pair
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Figure, Given, by_method
from hazel_lantern.core.nouns.finding import BUILD, CLEAR, PEOPLE, PICTURE, STOP, Finding, Remedy, set_one
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words, within

SHAFT = 0.008  # metres, that gears between motor and axis turn on


def telling(
    axes: tuple[DriveAxis, ...], found: tuple[Driven | Broken, ...], shelf: Catalogue, shot: Shot, *, suggest: bool
) -> Told:
    """Everything about the drives of a rig; where several axes are driven each figure says of which."""
    tell = Teller()
    for one in found:
        if isinstance(one, Broken):
            tell.findings.append(_broken(one, axes))
            continue
        part = Teller()
        _order(part, one)
        _change_gears(part, one)
        part.take(enough(one, shelf, suggest=suggest))
        part.take(speeds(one, shot, shelf, suggest=suggest))
        part.take(picture(one, shot, suggest=suggest))
        part.take(cord(one))
        if one.drive.source == d.GRAVITY:
            _by_weight(part, one)
        part.take(time_lapse(one, shot))
        part.take(off(one))
        part.take(supply(one, shot))
        told = part.told()
        told = replace(
            told,
            findings=tuple(
                replace(f, remedies=tuple(r for r in f.remedies if _possible(r, one))) for f in told.findings
            ),
        )
        tell.take(
            told
            if len(found) == 1
            else Told(tuple(_said_of(f, one.axis) for f in told.figures), told.findings, told.curves)
        )
    return tell.told()


def _possible(remedy: Remedy, given: Driven) -> bool:
    """Whether what it changes of the drive stays within bounds."""
    kinds = [element.kind for element in given.drive.elements]
    for key, value in remedy.changes:
        parts = key.split(".")
        if parts[-1] == "chain":
            kinds = list(value)  # type: ignore[call-overload]
        if parts[0] != "drive" or parts[-1] in ("by", "chain", "changed", "times"):
            continue
        sizes = {size.key: size for size in d.SORTS[kinds[int(parts[2]) - 1]].sizes} if len(parts) > 3 else d.ALL
        try:
            sizes[parts[-1]].check(value)
        except InputError:
            return False
    return True


def _said_of(figure: Figure, axis: DriveAxis) -> Figure:
    return replace(figure, label=f"{axis.name}: {within(figure.label)}")


def _broken(one: Broken, axes: tuple[DriveAxis, ...]) -> Finding:
    axis = next(axis for axis in axes if one.where.split(".")[1] == axis.key)
    mend: tuple[Remedy, ...] = ()
    if one.chain is not None:
        names = ", ".join(d.SORTS[kind].name.lower() for kind in one.chain)
        mend = (Remedy("order", Words(f"Through {names}"), ((one.where, one.chain),)),)
    elif one.size is not None:
        teeth = not one.size[0].endswith(".grip")
        mend = (set_one("size", "{} teeth" if teeth else "Friction of {}", *one.size, "count" if teeth else "1"),)
    elif one.where.endswith(".by"):
        mend = (set_one("gearmotor", "A gearmotor on a battery", one.where, d.GEARMOTOR),)
    about = PEOPLE if one.where.endswith(".by") else BUILD
    return Finding(
        f"drive.{axis.key}.broken",
        f"{axis.name}: cannot be driven so",
        about,
        STOP,
        one.where,
        Words(one.words.replace("{", "(").replace("}", ")")),
        remedies=mend,
    )


def _order(tell: Teller, given: Driven) -> None:
    """What is wrong with an element by itself, and wheels that meet the next shaft."""
    for n, one in enumerate(given.made, 1):
        troubles = list(one.troubles)
        if n < len(given.made):
            met = clash(one, given.made[n], SHAFT)
            troubles += [met] if met else []
        for trouble in troubles:
            tell.findings.append(_trouble(given, n, trouble))
        if one.mesh is not None:
            _in_mesh(tell, given, n, one.mesh)
        fast = max(given.cruises[1] / _before(given, n), 0.0)
        if one.whirls < float("inf") and not given.pushed:
            words = Words(
                "The screw turns at {} and begins to whip at {}.",
                ((fast, "rad/s:shaft"), (one.whirls / 0.8, "rad/s:shaft")),
            )
            state = STOP if fast > one.whirls / 0.8 else "watch" if fast > one.whirls else CLEAR
            tell.findings.append(
                Finding(
                    f"{given.key}.{n}.whirl",
                    f"{given.axis.name}: screw runs true",
                    PICTURE,
                    state,
                    f"{given.key}.{n}.outer",
                    words,
                    fast,
                    one.whirls,
                    "at_most",
                    "rad/s:shaft",
                )
            )


def _in_mesh(tell: Teller, given: Driven, n: int, mesh: Pair) -> None:
    """How far its shafts stand apart, and how many teeth are in contact."""
    key, teeth = f"{given.key}.{n}", f"{mesh.first.teeth} : {mesh.second.teeth}"
    inputs = (
        Given("m", mesh.first.module, "m:tooth", "module", f"{key}.module"),
        Given("x", mesh.first.shift + mesh.second.shift, "1", "shifts together"),
    )
    tell.add(
        by_method(
            f"{key}.apart",
            f"{teeth}, shafts apart",
            mesh.apart,
            "m",
            "without play but their own, shifted as far as few teeth ask for",
            inputs,
            source="drive 3.2",
        ),
        by_method(
            f"{key}.contact",
            f"{teeth}, teeth in contact",
            mesh.contact,
            "1",
            "both tips' reach along the line of action, over a pitch on it",
            inputs,
            source="drive 3.2",
        ),
    )


def _change_gears(tell: Teller, given: Driven) -> None:
    """Whether the pairs that are changed stand on the same two shafts, and there is a pair to change."""
    rows, n = given.drive.changed, first_pair(given.drive)
    if not rows:
        return
    key, where = f"{given.key}.change", f"{given.key}.changed"
    title = f"{given.axis.name}: change gears"
    if n is None:
        words = Words("There is no pair of spur gears to change: put one in, ahead of all else.")
        ahead = (
            Remedy(
                "pair",
                Words("A pair of spur gears ahead"),
                ((f"{given.key}.chain", (d.SPUR, *(e.kind for e in given.drive.elements))),),
            ),
        )
        tell.findings.append(Finding(key, title, BUILD, STOP, where, words, remedies=ahead))
        return
    values = {**d.SORTS[d.SPUR].usual(), **given.drive.elements[n].values}
    total = float(values["driver"]) + float(values["driven"])
    off = max(rows, key=lambda row: abs(row[1] + row[2] - total))
    same = abs(off[1] + off[2] - total) < 0.5
    words = Words("All pairs have {} teeth together: they go on the same two shafts.", ((total, "count"),))
    mend: tuple[Remedy, ...] = ()
    if not same:
        words = Words(
            "{} and {} teeth do not go where {} teeth together stand.",
            ((off[1], "count"), (off[2], "count"), (total, "count")),
        )
        fits = tuple((time, a, total - a) for time, a, _ in rows)
        mend = (
            (Remedy("same", Words("Driven gears that make up the sum"), ((where, fits),)),)
            if all(row[2] >= 6 for row in fits)
            else ()
        )
    tell.findings.append(
        Finding(
            key, title, BUILD, CLEAR if same else STOP, where, words, off[1] + off[2], total, "at_most", "count", mend
        )
    )


def _before(given: Driven, n: int) -> float:
    """Turns of the source for one of the shaft that drives element n."""
    ratio = 1.0
    for one in given.made[: n - 1]:
        ratio *= one.stage.ratio
    return ratio


def _trouble(given: Driven, n: int, one: Trouble) -> Finding:
    key = f"{given.key}.{n}"
    mend: tuple[Remedy, ...] = ()
    if one.mends is not None:
        size, value, unit = one.mends
        label = next(row.label for row in d.SORTS[given.made[n - 1].kind].sizes if row.key == size)
        mend = (set_one(one.key, f"{label}: {{}}", f"{key}.{size}", value, unit),)
    elif one.key == "clash":
        mend = _clear_of_shaft(given, n)
    where = f"{key}.{one.mends[0]}" if one.mends else f"{key}.{d.SORTS[given.made[n - 1].kind].gears[0]}"
    title = f"{given.axis.name}: {within(one.title)}"
    return Finding(
        f"{key}.{one.key}",
        title,
        one.about,
        one.state,
        where,
        one.sentence,
        one.value,
        one.limit,
        one.sense,
        one.unit,
        mend,
    )


def _clear_of_shaft(given: Driven, n: int) -> tuple[Remedy, ...]:
    """Coarser teeth in the next pair, or its shafts further apart."""
    after, disc = given.drive.elements[n], given.made[n - 1].second
    assert disc is not None
    factor = 1.02 * (disc.radius * 1.05 + SHAFT / 2) / given.made[n].apart
    values = {**d.SORTS[after.kind].usual(), **after.values}
    key = "module" if "module" in values else "apart" if "apart" in values else ""
    if not key:
        return ()
    value = float(f"{float(values[key]) * factor + 5e-5:.2g}")
    unit = "m:tooth" if key == "module" else "m"
    return (
        set_one(
            "clear",
            "Next pair: module {}" if key == "module" else "Next shafts {} apart",
            f"{given.key}.{n + 1}.{key}",
            value,
            unit,
        ),
    )


def _by_weight(tell: Teller, given: Driven) -> None:
    """Whether weight alone takes it all the way; what a hand then brakes it with is what is asked for."""
    way = given.load.speed > 0
    signs = (1 if way.mean() >= 0.5 else -1) * efforts(given.load, given.held)
    worst = float(signs.max())
    runs = worst < 0
    words = Words(
        "Its weight takes it all the way."
        if runs
        else "Its weight does not take it all the way: {} is missing at the worst place.",
        () if runs else ((worst, given.effort_unit),),
    )
    mend = () if runs else (set_one("hand", "Move it by hand", f"{given.key}.by", d.HAND),)
    tell.findings.append(
        Finding(
            f"{given.key}.by_weight",
            f"{given.axis.name}: runs by itself",
            PICTURE,
            CLEAR if runs else STOP,
            f"{given.key}.by",
            words,
            remedies=mend,
        )
    )
