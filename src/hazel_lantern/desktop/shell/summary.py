"""What stands inside a folded group of the bench, in a few words, so that nothing has to be opened to be read."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import cast

from hazel_lantern.core.document.drives import SORTS
from hazel_lantern.core.document.shot import AIMS
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Several
from hazel_lantern.session.session import Session

NAMED = 2  # values that stand for a group that has no words of its own


def summary(session: Session, group: str, members: Sequence[Parameter]) -> str:
    """One short line for a group of inputs."""
    known = GROUPS.get(group)
    if known is not None:
        return known(session)
    listed = next((p for p in members if isinstance(p, Several) and p.known), None)
    if listed is not None:
        kinds = cast(tuple[str, ...], session.value(listed.key))
        return ", ".join(SORTS[kind].name.lower() for kind in kinds) or "nothing"
    return ", ".join(_value(session, parameter) for parameter in members[:NAMED])


def _value(session: Session, parameter: Parameter) -> str:
    value = session.value(parameter.key)
    if isinstance(parameter, Quantity):
        return session.display.text(float(value), parameter.unit)  # type: ignore[arg-type]
    if isinstance(parameter, Choice):
        name = dict(session.options(parameter)).get(str(value), str(value)).split(",")[0]
        return name[:1].lower() + name[1:]
    return str(len(value))  # type: ignore[arg-type]


def _picture(session: Session) -> str:
    shot, show = session.shot, session.display
    pixels = f"{shot.pixels_wide:.0f}×{shot.pixels_high:.0f}"
    return f"{show.text(shot.focal_m, 'm:lens')}, f/{shot.aperture:g}, {pixels}"


def _kit(session: Session) -> str:
    result = session.evaluation
    return session.display.text(result.carried.payload.mass, "kg") if result else ""


def _set(session: Session) -> str:
    things = session.shown.set_of(session.shot).things
    return f"{len(things)} {'thing' if len(things) == 1 else 'things'}"


def _time(session: Session) -> str:
    shot = session.shot
    shapes = ", ".join(dict.fromkeys(segment.shape for segment in shot.segments))
    return f"{len(shot.keys)} keys, {shapes}" if len(shot.keys) > 2 else shapes


def _head(session: Session) -> str:
    shot, kit = session.shot, session.shown.kit_of(session.shown.rig(session.rig_id))
    heads = session.catalogue.heads
    name = heads[kit.head].name.split(",")[0].lower() if kit.head in heads else dict(AIMS)[shot.aim].lower()
    people = f"{shot.crew:.0f} {'person' if shot.crew == 1 else 'people'}"
    return f"{name}, {people}"


def _shot(session: Session) -> str:
    served = len(session.shown.rig(session.rig_id).shots)
    return "the only one of this rig" if served == 1 else f"one of {served}"


GROUPS: dict[str, Callable[[Session], str]] = {
    "Picture": _picture,
    "Camera kit": _kit,
    "On the set": _set,
    "Over time": _time,
    "Axes of the head": _head,
    "This shot": _shot,
}
