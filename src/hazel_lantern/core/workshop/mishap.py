"""A piece that came out wrong: whether it matters, the cheapest way to save it, and what else it still makes."""

from __future__ import annotations

from collections.abc import Sequence

from msgspec import Struct

from hazel_lantern.core.nouns.check import positive
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.walls import from_ends

PLUG = {"wood": "plug the hole with a glued dowel and drill it anew",
    "ductile": "turn the piece over or end for end and drill on the other face; metal is not filled",
    "brittle": "make it again: filled holes crack"}  # fmt: skip
SLACK = 0.5  # of a hole's room over its bolt that may be used up


class Mishap(Struct, frozen=True):
    """Whether it matters, what to do, in the order of what it costs, and marks of parts that the piece still makes."""

    matters: bool
    saves: tuple[str, ...]
    still_makes: tuple[str, ...] = ()


def cut_to(parts: Sequence[Part], mark: str, length: float, show: Display) -> Mishap:
    """A piece that was cut to another length.

    parts: of the rig
    mark: of the piece
    length: as it came out [m]
    show: how lengths are said

    Returns: what that means. Raises: InputError for a part there is not, or no length. Source: drive 7.5, 8.4.
    """
    positive(length=length)
    part = _named(parts, mark)
    how, within = part.kept
    off = length - part.length
    said = show.text(abs(off), "m", fine=True)
    if abs(off) <= within + 1e-9:
        return Mishap(False, (f"{said} off is within what it is kept to, {how}: leave it.",))
    others = tuple(
        p.mark for p in parts if p is not part and p.section and p.section == part.section and p.length <= length
    )
    if off > 0:
        return Mishap(True, (f"Saw {said} off the end that nothing is measured from; the marks stand.",), others)
    saves = []
    near = _ends_hold(part, -off)
    if near:
        saves.append(
            f"Keep it: every hole is measured from {part.from_datum}, and the last still holds {near} from its end."
        )
    if how == "match its twin":
        saves.append(
            f"Cut all {part.quantity} of them to {show.text(length, 'm', fine=True)}: what matters is that they "
            "match; then set that size as built and look at the figures."
        )
    saves.append(f"Cut {part.mark} again; the short piece goes back to stock.")
    return Mishap(True, tuple(saves), others)


def _ends_hold(part: Part, shorter: float) -> str:
    """How far the last hole is then from the end, in words; empty where it would tear out or is gone."""
    holes = [mark for mark in part.marks if mark.size and mark.face != "end"]
    if not holes:
        return ""
    wall = from_ends((part,))
    last = part.length - max(mark.at for mark in holes)
    if wall is None or last - shorter <= 0:
        return ""
    asked = min(wall.mark.at, part.length - wall.mark.at) - wall.left
    return f"{(last - shorter) * 1e3:.0f} mm" if last - shorter >= asked else ""


def hole_off(parts: Sequence[Part], mark: str, number: int, off: float, show: Display) -> Mishap:
    """A hole that was drilled beside its mark.

    parts: of the rig
    mark: of the piece; `number` which of its marks, from 1
    off: how far beside [m]
    show: how lengths are said

    Returns: what that means. Raises: InputError. Source: drive 7.5, 8.1.
    """
    part = _named(parts, mark)
    if not 1 <= number <= len(part.marks) or not part.marks[number - 1].size:
        raise InputError("hole", number, f"{mark} has holes by their numbers up to {len(part.marks)}")
    size = part.marks[number - 1].size
    room = SLACK * 0.1 * size
    said = show.text(abs(off), "m", fine=True)
    if abs(off) <= room:
        return Mishap(False, (f"{said} is less than the room of its bolt: leave it.",))
    wider = size + 2 * abs(off)
    first = (
        f"Drill both pieces to {show.text(wider, 'm', fine=True)} and bush it, or take the next bolt."
        if wider <= 1.4 * size
        else ""
    )
    saves = [
        words
        for words in (
            first,
            f"{PLUG[part.solid.material.family][:1].upper()}{PLUG[part.solid.material.family][1:]}.",
            f"Make {part.mark} again.",
        )
        if words
    ]
    if part.matched:
        saves.insert(0, f"Drill its twin through this one, so that both are off alike: {part.matched}.")
    return Mishap(True, tuple(saves))


def _named(parts: Sequence[Part], mark: str) -> Part:
    found = next((part for part in parts if part.mark == mark), None)
    if found is None:
        raise InputError("part", repr(mark), "must be one of " + ", ".join(part.mark for part in parts))
    return found
