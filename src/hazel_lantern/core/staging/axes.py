"""The axes of the head along a move: how far and how fast each turns, what the head allows,
and how many hands it takes."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue, Head
from hazel_lantern.core.document.project import Axis, Shot, axis_of
from hazel_lantern.core.document.shot import (
    EACH,
    FOCUS,
    HAND,
    KEPT,
    KEYED,
    LOOK_DOWN,
    MOTOR,
    ONCE,
    PAN,
    REAR,
    REMOTE,
    ROLL,
    TILT,
)
from hazel_lantern.core.kinds.base import Carried, Kind
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Given, by_formula, by_method
from hazel_lantern.core.nouns.finding import CLEAR, PICTURE, STRUCTURE, WATCH, Finding, Remedy, set_one
from hazel_lantern.core.nouns.formula import Formula
from hazel_lantern.core.nouns.told import Teller, Told
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.staging.framing import depths, in_focus
from hazel_lantern.core.staging.head import Sight
from hazel_lantern.core.staging.moves import Scene, Staged

MOVES = math.radians(0.5)  # less than this nobody turns a head by
FINER = 8  # looks between two of the usual moments, for how fast an axis goes
ARM = 1.2  # metres between the hands that move a rig and its head, that one person can span
HIGH, LOW = 2.0, 0.35  # metres of the lens above ground that a hand at the head reaches
TWO = 2  # hands
RESET = 60.0  # seconds between two takes
TAKES = Formula("3600*h/(T+T_reset)")
NAMES = {PAN: "Pan", TILT: "Tilt", ROLL: "Roll"}


class Worked(Struct, frozen=True):
    """What has to be done while the camera runs: axes that move, with who works each; hands on the rig itself, by the
    head and with a remote.
    """

    axes: tuple[Axis, ...]
    on_rig: int
    at_head: int
    remote: int
    apart: bool

    @property
    def people(self) -> int:
        """How many it takes: two hands each; who moves the rig does not reach a head that is far away."""
        rig, head = self.on_rig, self.at_head
        needed = math.ceil(rig / TWO) + math.ceil(head / TWO) if self.apart else math.ceil((rig + head) / TWO)
        return needed + math.ceil(max(0, self.remote - (TWO * needed - rig - head)) / TWO)


def axes_figures(
    shot: Shot,
    kind: Kind,
    kit: Carried,
    head: Head | None,
    catalogue: Catalogue,
    hands: int,
    scene: Scene,
    seen: Staged,
) -> Told:
    """Everything about the head in this shot; hands: on the rig itself while it moves."""
    tell = Teller()
    if shot.move != LOOK_DOWN:
        tell.take(_turns(shot, scene, seen))
    moving = tuple(_moving(shot, seen))
    away = kind.handled(scene.path.model, seen.poses.q) if kind.handled is not None else None
    there = seen.camera.places
    far = away is not None and float(np.linalg.norm(seen.where.on_set(away) - there, axis=1).max()) > ARM
    if hands:
        tell.take(_hands(shot, worked(moving, hands, far), seen))
    if head is not None:
        tell.take(_head(shot, kit, head, catalogue, moving, seen))
    return tell.told()


def _turns(shot: Shot, scene: Scene, seen: Staged) -> Told:
    """How far the head's axes turn on their scales, and how fast at the most."""
    tell = Teller()
    moments = scene.path.move.moments
    share = np.interp(
        np.linspace(0, len(moments) - 1, FINER * (len(moments) - 1) + 1), np.arange(len(moments)), moments
    )
    fine = scene.at(share)
    aim = Given("T", shot.duration_s, "s", "duration", "shot.time")
    for axis, angle in scales(fine.scales).items():
        over = float(np.ptp(angle))
        if over < MOVES:
            continue
        rate = float(np.abs(np.diff(angle) / np.diff(fine.times)).max())
        name = NAMES[axis].lower()
        words = f"largest less smallest reading of the head's {name} scale over the move"
        tell.add(
            by_method(f"shot.{axis}_over", f"Head's {name} goes over", over, "rad", words, (aim,), source="drive 6.1"),
            by_method(
                f"shot.{axis}_rate",
                f"{NAMES[axis]} at most",
                rate,
                "rad/s",
                f"steepest of {len(angle)} readings of its scale",
                (aim,),
                source="drive 6.1",
            ),
        )
    return tell.told()


def scales(seen: Sight) -> dict[str, np.ndarray]:
    """Readings of a head's scales (n,) by axis [rad]."""
    return {PAN: seen.pan, TILT: seen.tilt, ROLL: seen.roll}


def reading(scene: Scene, axis: str, share: float) -> tuple[float, float]:
    """The clock at a share of the time [s], and where one axis must stand then to be on the subject, or stands where
    there is none [rad, m of focus]. Raises InputError with nothing to focus on, and where there is no picture.
    """
    kept = tuple(replace(one, how=KEPT) if one.id == axis and scene.subject else one for one in scene.aim.axes)
    now = replace(scene, aim=replace(scene.aim, axes=kept)).now(share)
    return float(now.times[0]), _stands(axis, now)


def _stands(axis: str, now: Staged) -> float:
    if axis != FOCUS:
        return float(scales(now.scales)[axis][0])
    depth = depths(now)
    if depth is None:
        raise InputError("focus", "nothing", "the camera looks at nothing to focus on; type a distance instead")
    return float(depth[0])


def _moving(shot: Shot, seen: Staged):  # type: ignore[no-untyped-def]
    """The axes that somebody or something works while the camera runs."""
    if shot.move != LOOK_DOWN and (shot.aim == EACH or (shot.aim == KEPT and seen.target is not None)):
        for name, angle in scales(seen.scales).items():
            if np.ptp(angle) >= MOVES:
                yield axis_of(shot, name)
    focus = axis_of(shot, FOCUS)
    depth = depths(seen)
    if focus.how == KEYED and len(focus.keys) > 1:
        yield focus
    elif focus.how == KEPT and depth is not None:
        found = in_focus(shot, depth)
        if found is not None and not (found[1] <= depth.min() and depth.max() <= found[2]):
            yield focus


def worked(moving: tuple[Axis, ...], hands: int, far: bool) -> Worked:
    """Who does what: pan and tilt share a handle, a joystick, or the cords from the rear."""
    by: dict[str, int] = dict.fromkeys((HAND, REAR, REMOTE, MOTOR), 0)
    for where in by:
        mine = {axis.id for axis in moving if axis.by == where}
        by[where] = bool(mine & {PAN, TILT}) + (ROLL in mine) + (FOCUS in mine)
        if where == REMOTE:
            by[where] = bool(mine - {FOCUS}) + (FOCUS in mine)
    return Worked(moving, hands + by[REAR], by[HAND], by[REMOTE], far)


def _hands(shot: Shot, work: Worked, seen: Staged) -> Told:
    """Whether those there have hands enough, and reach the head."""
    tell = Teller()
    jobs = _jobs(work)
    crew = Given("n", shot.crew, "count", "people there", "shot.crew")
    tell.add(
        by_method(
            "shot.people",
            "People it takes",
            work.people,
            "count",
            "two hands each: the move itself" + "".join(f", {job}" for job in jobs),
            (crew,),
            assumptions=(
                "moved by hand until it has a drive",
                "pan and tilt share one hand",
                *((f"who moves the rig stands more than {ARM:g} m from the head",) if work.apart else ()),
            ),
            source="hands counted",
        )
    )
    said = " and ".join((", ".join(["The move itself", *jobs[:-1]]), jobs[-1])) if jobs else "The move itself"
    by = {axis.id: axis.by for axis in work.axes}
    remedies: tuple[Remedy, ...] = (
        set_one("crew", "Have {} people", "shot.crew", float(work.people), "count"),
        *((set_one("once", "Aim once and lock the head", "shot.aim", ONCE),) if PAN in by or TILT in by else ()),
    )
    tell.hold(
        "shot.people",
        "shot.hands",
        "Hands enough",
        PICTURE,
        "shot.crew",
        Words(
            f"{said} {'take' if jobs else 'takes'} {{}} {'person' if work.people == 1 else 'people'}, two hands each;"
            f" {{}} {'is' if shot.crew == 1 else 'are'} there.",
            ((float(work.people), "count"), (shot.crew, "count")),
        ),
        at_most=shot.crew,
        state=CLEAR if work.people <= shot.crew else WATCH,
        remedies=remedies,
    )
    if work.at_head:
        high, low = float(seen.camera.places[:, 2].max()), float(seen.camera.places[:, 2].min())
        worst, limit, sense = (high, HIGH, "at_most") if high - HIGH >= LOW - low else (low, LOW, "at_least")
        out = high > HIGH or low < LOW
        axis = next(axis for axis in work.axes if axis.by == HAND)
        # Who works an axis is asked where each is for itself, of the focus, and of pan and tilt kept on the subject.
        asked = shot.aim == EACH or axis.id == FOCUS or (shot.aim == KEPT and axis.id != ROLL)
        tell.findings.append(
            Finding(
                "shot.head_reach",
                "Head within reach",
                PICTURE,
                WATCH if out else CLEAR,
                f"axis.{axis.id}.by" if asked else "shot.aim",
                Words(
                    f"The lens comes to {{}} above ground: a hand at the head does not reach there, so {axis.id} "
                    "must be "
                    "worked from the rear, by a remote or a motor."
                    if out
                    else "The head stays within a hand's reach, at most {} above ground.",
                    ((worst, "m"),),
                ),
                worst,
                limit,
                sense,
                "m",
                (set_one("rear", "Work it from the rear", f"axis.{axis.id}.by", REAR),)
                if out and work.apart and asked
                else (),
            )
        )
    return tell.told()


def _jobs(work: Worked) -> list[str]:
    """What there is to do beside the move itself, in words."""
    by = {axis.id: axis.by for axis in work.axes if axis.by != MOTOR}
    turned = [name for name in (PAN, TILT) if name in by]
    pairs = [" and ".join(turned)] if len({by[name] for name in turned}) == 1 else turned
    return [*pairs, *(name for name in (ROLL, FOCUS) if name in by)]


def _head(shot: Shot, kit: Carried, head: Head, catalogue: Catalogue, moving: tuple[Axis, ...], seen: Staged) -> Told:
    """What this head turns, how far, under which load, how it may stand, and how long its battery lasts."""
    tell = Teller()
    name = f"The {_short(head)}"
    missing = [axis.id for axis in moving if axis.id in NAMES and axis.id not in head.axes]
    better = next(
        (h for h in catalogue.heads.values() if {*missing} <= {*h.axes} and h.carries >= head.carries / 2), None
    )
    swap = (set_one("head", f"Use a {_short(better)}", "kit.head", better.id),) if better else ()
    words = f"{name} does not {' or '.join(missing)} while the camera runs." if missing else f"{name} turns as asked."
    tell.findings.append(
        Finding(
            "shot.head_axes",
            "Head turns as asked",
            PICTURE,
            WATCH if missing else CLEAR,
            "kit.head",
            Words(words),
            float(len(missing)),
            0.0,
            "at_most",
            "count",
            (*swap, set_one("once", "Aim once and lock the head", "shot.aim", ONCE)) if missing else (),
        )
    )
    tell.take(_ranges(head, name, seen))
    load = kit.payload.mass - head.mass
    tell.add(
        by_method(
            "shot.head_load",
            "Head carries",
            load,
            "kg",
            "everything of the kit above its head",
            (
                Given("m", kit.payload.mass, "kg", "kit with head", "kit"),
                Given("m_head", head.mass, "kg", "head", "kit.head"),
            ),
            source="sum of masses",
        )
    )
    tell.hold(
        "shot.head_load",
        "shot.head_carries",
        "Head carries the kit",
        STRUCTURE,
        "kit.head",
        "The head carries {}; it is good for {}.",
        at_most=head.carries,
    )
    if head.hours:
        tell.add(
            by_formula(
                "shot.takes",
                "Takes on one battery",
                "count",
                TAKES,
                (
                    Given("h", head.hours, "1", "hours of its battery", "kit.head"),
                    Given("T", shot.hold_start_s + shot.duration_s + shot.hold_end_s, "s", "a take", "shot.time"),
                    Given("T_reset", RESET, "s", "between two takes, still switched on"),
                ),
                assumptions=("fresh battery, about 20 °C; half of it in the cold",),
                source="times counted",
            )
        )
    driven = [axis.id for axis in moving if axis.id in NAMES and axis.by in (REMOTE, MOTOR)]
    if driven and not head.powered:
        tell.findings.append(
            Finding(
                "shot.head_driven",
                "Head has motors",
                PICTURE,
                WATCH,
                "kit.head",
                Words(f"{name} has no motors: {' and '.join(driven)} must be worked by hand, or by another head."),
                float(len(driven)),
                0.0,
                "at_most",
                "count",
                tuple(
                    set_one("motors", f"Use a {_short(h)}", "kit.head", h.id)
                    for h in catalogue.heads.values()
                    if h.powered and {*driven} <= {*h.axes} and h.carries >= load
                )[:1],
            )
        )
    return tell.told()


def _short(head: Head) -> str:
    """What it is called within a sentence."""
    name = head.name.split(",")[0]
    return name[:1].lower() + name[1:]


def _ranges(head: Head, name: str, seen: Staged) -> Told:
    """Whether each axis comes as far as it must, and how the head's foot stands."""
    tell, read = Teller(), scales(seen.scales)
    limits = {PAN: (-head.pan, head.pan), TILT: (-head.tilt_down, head.tilt_up), ROLL: (-head.roll, head.roll)}
    # What one turn more or less shows is the same.
    pan = read[PAN] - 2 * math.pi * round(float(read[PAN].mean()) / (2 * math.pi))
    over, axis, angle = max(
        (max(low - float(a.min()), float(a.max()) - high), key, max(a.tolist(), key=lambda x: max(low - x, x - high)))
        for key, (low, high), a in ((k, limits[k], pan if k == PAN else read[k]) for k in limits)
        if high > low or np.abs(a).max() > MOVES
    )
    low, high = limits[axis]
    limit = high if angle >= (low + high) / 2 else low
    tell.findings.append(
        Finding(
            "shot.head_range",
            "Head's range",
            PICTURE,
            WATCH if over > MOVES else CLEAR,
            "kit.head",
            Words(
                f"{name} comes to {{}} of {axis}; the shot asks for {{}}."
                if over > MOVES
                else f"{name} comes as far as asked; nearest to its end is {axis}: {{}}, asked {{}}.",
                ((limit, "rad"), (angle, "rad")),
            ),
            abs(angle),
            abs(limit),
            "at_most",
            "rad",
        )
    )
    leans = float(np.arccos(np.clip(seen.mount.axes[:, 2, 2], -1, 1)).max())
    hung = leans > math.pi / 2
    off = math.pi - leans if hung else leans
    bad = off > head.leans or (hung and not head.inverts)
    tell.findings.append(
        Finding(
            "shot.head_stands",
            "How the head stands",
            PICTURE,
            WATCH if bad else CLEAR,
            "kit.head",
            Words(
                f"{name} hangs upside down, which it is not made for."
                if hung and not head.inverts
                else f"{name} stands {{}} off upright at most; it may stand {{}}.",
                () if hung and not head.inverts else ((off, "rad"), (head.leans, "rad")),
            ),
            off,
            head.leans,
            "at_most",
            "rad",
        )
    )
    return tell.told()
