"""In which order a drive is put on, so that every screw is reached and every mesh can be set."""

from __future__ import annotations

from hazel_lantern.core.document import drives as d
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.nouns.words import Words

MESHES = {d.SPUR, d.SECTOR, d.WORM, d.RACK}
TIGHTENS = {d.BELT: "belt", d.CHAIN: "chain", d.BELTWAY: "belt", d.CAPSTAN: "cord"}
PRESSES = {d.RIM, d.ROLLER}


def steps(given: Driven) -> tuple[Words, ...]:
    """From what is moved back to the source: the last element is set first, the power comes last.
    Taken off backwards."""
    if not given.made:
        return ()
    sits = dict(d.SITS)[given.settings.text("sits")]
    found = [
        Words(f"Tie the {given.axis.name.lower()} so that it cannot move"),
        Words(f"Drive plate {sits}, its clamp finger-tight, its slots at their middle"),
    ]
    for n in reversed(range(len(given.made))):
        found += _element(given, n)
    found.append(
        Words(
            "Source on from outside, its screws reached with every wheel on; key or grub screw on the flat of its shaft"
        )
    )
    found.append(
        Words("Turn it by hand from end to end: nothing rubs, no place is stiffer; then the clamp and all slots tight")
    )
    if given.settings.text("guard") == d.COVERED:
        found.append(Words("Cover on; it comes off without taking anything else out"))
    if given.source.motor is not None:
        if given.settings.text("switches") == d.BOTH_ENDS:
            found.append(Words("Press both end switches by hand with the motor running free: it must stop at each"))
        found.append(Words("Fuse in, the switch in reach tried, slowest speed first; everybody's hands away"))
    if given.settings.text("held") != d.NO_HOLD:
        found.append(Words("Power off half-way: what holds it is tried before the camera is on"))
    released = {d.LIFTED: "Swing it out of mesh", d.SLACKED: "Slacken belt or cord", d.CLUTCH: "Let the clutch go"}
    if given.settings.text("release") in released:
        found.append(
            Words(
                f"{released[given.settings.text('release')]} and work the rig by hand; back in, the mesh is as it was"
            )
        )
    return tuple(found)


def _element(given: Driven, n: int) -> list[Words]:
    """One element: where its shafts stand, and what sets it."""
    one, name = given.made[n], d.SORTS[given.made[n].kind].name
    values = given.drive.elements[n].values
    found = []
    if one.apart:
        found.append(Words(f"{name}: shafts {{}} apart", ((one.apart, "m"),)))
    if one.kind in MESHES:
        size = next(size for size in d.SORTS[one.kind].sizes if size.key == "play")
        play = float(values.get("play", size.default))  # type: ignore[arg-type]
        found.append(
            Words(
                f"{name}: set the mesh with a strip of paper between the teeth, to {{}} of play at every place round",
                ((play, "m"),),
            )
        )
    elif one.kind in TIGHTENS:
        found.append(Words(f"{name}: tighten the {TIGHTENS[one.kind]} with its tightener half-way through its range"))
    elif one.kind in PRESSES:
        press = float(values.get("press", next(s for s in d.SORTS[one.kind].sizes if s.key == "press").default))  # type: ignore[arg-type]
        found.append(Words(f"{name}: its spring presses with {{}}; wipe both faces", ((press, "N"),)))
    elif one.kind == d.DRUM:
        found.append(
            Words(f"{name}: wind the cord on under a light pull, turn beside turn, its end knotted inside the flange")
        )
    elif one.kind == d.SCREW:
        found.append(Words(f"{name}: nut screwed on last, with the carriage at either end, so that it cannot bind"))
    return found
