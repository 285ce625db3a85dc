"""Takes: what was shot with which rig, how it went, and what many of them say of the rig."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence

from msgspec import Struct

from hazel_lantern.core.nouns.errors import InputError

HAND, MOTOR = "hand", "motor"
RECENT = 100  # takes; what was mended long ago is not told
MANY = 2  # takes with one fault, from which on it is the rig's
WORDS = (
    ("stuck", r"stuck|jam|bind|stopp?ed at"), ("bump", r"bump|knock|jolt|joint"), ("late", r"late|slow off"),
    ("shake", r"shak|wobbl|vibrat|bounc"), ("drift", r"drift|creep|wander"),
    ("lost steps", r"lost step|missed step|steps"), ("no answer", r"no answer|unplug|gone|garbl|does not answer"),
)  # fmt: skip
LEADS = {
    "stuck": ("travel.binding", "carriage and rails: hunt the bind at Prove, gauge there first"),
    "bump": ("travel.joints", "joints and wheels: a larger wheel, or the joint dressed flush"),
    "late": ("shot.beat", "cues: count in, and practise the start with the pace coach"),
    "shake": ("travel.bounce", "stiffness and damping: log it at Prove and see what makes it"),
    "drift": ("balance.drift", "balance and level: the drift test at Prove"),
    "lost steps": ("drive.travel.torque", "the drive: slower, gentler, or more torque"),
    "no answer": ("drive.travel.source", "cable, plug and supply of the controller"),
}


class Take(Struct, frozen=True, kw_only=True, omit_defaults=True):
    """One take: its number, slate, day and time, rig, shot and kit, whether by hand or by motor; how long it lasted
    [s], points of the pace; stars 0 to 3; a note, what went wrong; what tells the design it was taken with; the file
    its trace is in.
    """

    number: int
    when: str
    rig: str
    shot: str
    kit: str = ""
    slate: str = ""
    how: str = HAND
    lasted: float = 0.0
    points: int = -1
    stars: int = 0
    note: str = ""
    fault: str = ""
    design: str = ""
    trace: str = ""


def checked(take: Take) -> Take:
    """The take; raises InputError naming what is wrong with it."""
    if take.number < 1:
        raise InputError("take", take.number, "numbers begin at 1")
    if not 0 <= take.stars <= 3:
        raise InputError("stars", take.stars, "must be 0 to 3")
    if take.how not in (HAND, MOTOR):
        raise InputError("how", repr(take.how), "must be hand or motor")
    if not re.fullmatch(r"\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2})?)?", take.when):
        raise InputError("when", repr(take.when), "must be a day and time such as 2027-04-08T20:15")
    return take


def sort_of(fault: str) -> str:
    """What sort of fault some words tell, "" for one not known."""
    return next((name for name, pattern in WORDS if re.search(pattern, fault, re.IGNORECASE)), "")


class Repeats(Struct, frozen=True):
    """A fault that came again: its sort, how often, of how many takes, and where it leads."""

    sort: str
    times: int
    of: int
    leads: str
    advice: str


def say(takes: Sequence[Take], rig: str) -> tuple[Repeats, ...]:
    """What the last takes of a rig say about it: faults that came more than once, the most frequent first."""
    mine = [take for take in takes if take.rig == rig][-RECENT:]
    counts = Counter(sort_of(take.fault) for take in mine if take.fault)
    return tuple(
        Repeats(sort, times, len(mine), *LEADS[sort]) for sort, times in counts.most_common() if sort and times >= MANY
    )
