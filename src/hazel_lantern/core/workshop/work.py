"""The order of work: what is done to every piece, what comes before what, with which tool,
and where to stop and check."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from msgspec import Struct

from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Fastening, Part
from hazel_lantern.core.workshop.plan import SectionPlan
from hazel_lantern.core.workshop.schedule import Task
from hazel_lantern.core.workshop.solids import Bar, Sheet, Turned

# Hours of work, workshop judgement: to set a saw, for a cut; to mark and drill a hole; to deburr a piece; to saw a
# plate out; to turn or print one; to paint; for a joint loose, and tight; to try and to prove.
SET_UP, CUT, HOLE, DEBURR, SAW_OUT, TURN = 0.15, 0.05, 0.06, 0.05, 0.3, 0.4
PAINT, DRIES, LOOSE, TIGHT, TRY, PROVE = 0.1, 24.0, 0.06, 0.03, 0.3, 0.5
STICKS = 8.0  # hours that a made piece lies in a printer
SPIN, LOCK = "lock nut, spins freely without shake", "lock nut, hand tight and a quarter turn"
WOODS = ("wood",)


class Step(Struct, frozen=True):
    """One step: its key, what is done, hours of work and of waiting after it, keys of what comes before, tools, the
    marks of the parts it makes, the fastenings it puts in, a caution; `hold` where it is ticked before anything after
    it.
    """

    key: str
    words: str
    work: float
    wait: float = 0.0
    after: tuple[str, ...] = ()
    tools: tuple[str, ...] = ()
    parts: tuple[str, ...] = ()
    puts_in: tuple[str, ...] = ()
    caution: str = ""
    hold: bool = False

    @property
    def task(self) -> Task:
        return Task(self.key, self.work, self.wait, self.after)


METAL, WOOD, PLASTIC = "metal", "wood", "plastic"
CAUTIONS = {
    METAL: "Eye protection; clamp it down; no gloves at the drill; chips are sharp. Coated or plated metal is never "
    "heated or welded: its fumes are poisonous.",
    WOOD: "Eye and ear protection; hands behind the blade; a dust mask.",
    PLASTIC: "Eye protection; fine plastic dust is not breathed; slow feed, or it melts and grabs.",
}
SAWS = {METAL: "hacksaw", WOOD: "hand saw or mitre saw", PLASTIC: "fine saw"}


def stuff(part: Part) -> str:
    """What a piece is worked as."""
    family = part.solid.material.family
    return METAL if family == "ductile" else WOOD if family in WOODS else PLASTIC


def steps_of(
    laid: Laid, cuts: Sequence[SectionPlan], loading: Sequence[str] = (), drive: Sequence[str] = ()
) -> tuple[Step, ...]:
    """All steps of building a rig, in an order they can be done in.

    laid: its pieces and what goes through their holes
    cuts: how bars are cut
    loading: steps of loading it the first time, in words, from its kind
    drive: steps of putting its drive on

    Returns: steps from cutting to the proof; what runs together is assembled loose, run, and then tightened; nothing is
    drilled or glued before what matches it is there. Source: workshop practice.
    """
    found = [*_cut(laid.parts, cuts)]
    made: dict[str, str] = {}  # part -> the step after which it is ready
    for part in laid.parts:
        # What is drilled with another waits until that is cut too.
        with_it = [other for other in laid.parts if other is not part and re.search(rf"\b{other.mark}\b", part.matched)]
        steps = list(_worked(part, tuple(dict.fromkeys(map(_cut_key, (part, *with_it))))))
        found += steps
        made[part.mark] = steps[-1].key
    woods = [part for part in laid.parts if stuff(part) == WOOD]
    if woods:
        after = tuple(dict.fromkeys(made[part.mark] for part in woods))
        found.append(
            Step(
                "paint",
                f"Oil or paint {_names(woods)}; not where wheels run or wood is glued",
                PAINT * len(woods),
                DRIES,
                after,
                ("brush",),
                (),
                (),
                "Air the room; rags with oil are laid flat outside, they can set themselves on fire.",
            )
        )
        made.update({part.mark: "paint" for part in woods})
    found += _assembled(laid, made)
    last = found[-1].key
    for n, words in enumerate(drive, 1):
        found.append(Step(f"drive.{n}", words, LOOSE * 3, 0.0, (last,), ("spanner",)))
        last = f"drive.{n}"
    found.append(
        Step(
            "empty",
            "Move it from end to end empty, slowly, listening: it neither binds nor knocks anywhere",
            TRY,
            0.0,
            (last,),
            (),
            hold=True,
        )
    )
    last = "empty"
    for n, words in enumerate(loading, 1):
        found.append(Step(f"load.{n}", words, 0.05, 0.0, (last,), (), hold=n == 1))
        last = f"load.{n}"
    found.append(
        Step(
            "proof",
            "Load it with half as much again as it will carry, sand in the camera's place, ten minutes; look at "
            "every joint, then unload",
            PROVE,
            0.2,
            (last,),
            ("hanging scale",),
            hold=True,
            caution="Nobody under or beside it while it is loaded.",
        )
    )
    return tuple(found)


def _cut_key(part: Part) -> str:
    return f"cut.{part.section}" if part.section else f"saw.{part.mark}"


def _names(parts: Sequence[Part]) -> str:
    return ", ".join(f"{part.mark} {part.name.lower()}" for part in parts)


def _cut(parts: Sequence[Part], cuts: Sequence[SectionPlan]) -> Iterable[Step]:
    for made in cuts:
        some = [part for part in parts if part.section == made.section]
        if not some:
            continue
        count = sum(part.quantity for part in some)
        kind = stuff(some[0])
        free = (
            "; measure each against the last: twins are cut from one setting"
            if any(part.matched and part.quantity > 1 for part in some)
            else ""
        )
        yield Step(
            f"cut.{made.section}",
            f"Cut {count} from {made.name}: {_names(some)}{free}",
            SET_UP + CUT * count,
            0.0,
            (),
            (SAWS[kind], "tape", "square"),
            tuple(p.mark for p in some),
            (),
            CAUTIONS[kind],
        )
    for part in parts:
        if part.section:
            continue
        kind, count = stuff(part), part.quantity
        if isinstance(part.solid, Turned):
            yield Step(
                f"saw.{part.mark}",
                f"Turn or print {count} × {part.name.lower()}",
                TURN * count,
                STICKS,
                (),
                ("lathe or printer",),
                (part.mark,),
                (),
                CAUTIONS[kind],
            )
        else:
            yield Step(
                f"saw.{part.mark}",
                f"Glue its template on and saw out {count} × {part.name.lower()}",
                SAW_OUT * count,
                0.0,
                (),
                ("jigsaw" if isinstance(part.solid, Sheet) else SAWS[kind], "template"),
                (part.mark,),
                (),
                CAUTIONS[kind],
            )


def _worked(part: Part, cut: tuple[str, ...]) -> Iterable[Step]:
    """Marking, drilling and deburring of one part."""
    holes = [mark for mark in part.marks if mark.size]
    last, kind = cut, stuff(part)
    if part.marks:
        taken = part.kept
        yield Step(
            f"mark.{part.mark}",
            f"Mark {part.mark} {part.name.lower()} from {part.from_datum}, {taken[0]}",
            HOLE / 3 * len(part.marks) * (1 if part.matched else part.quantity),
            0.0,
            last,
            ("tape", "square", "punch"),
            (part.mark,),
        )
        last = (f"mark.{part.mark}",)
    if holes:
        pairs = f", {part.matched}" if part.matched else ""
        count = len(holes) * (1 if part.matched else part.quantity)
        bits = ", ".join(f"{size:g}" for size in sorted({round(mark.size * 1e3, 1) for mark in holes}))
        yield Step(
            f"drill.{part.mark}",
            f"Drill {part.mark} {part.name.lower()}: {len(holes)} holes, {bits} mm{pairs}",
            HOLE * count,
            0.0,
            last,
            ("drill press or drill with a guide", f"drill bits {bits} mm", "clamps"),
            (part.mark,),
            (),
            CAUTIONS[kind],
            hold="drill" in part.matched,
        )
        last = (f"drill.{part.mark}",)
    if kind != WOOD or not isinstance(part.solid, Bar):
        yield Step(
            f"clean.{part.mark}",
            f"Take the edges and burrs off {part.mark} {part.name.lower()}",
            DEBURR * part.quantity,
            0.0,
            last,
            ("file", "countersink"),
            (part.mark,),
        )
    elif last == cut:
        yield Step(
            f"clean.{part.mark}",
            f"Break the edges of {part.mark} {part.name.lower()}",
            DEBURR * part.quantity,
            0.0,
            last,
            ("sandpaper",),
            (part.mark,),
        )


def _assembled(laid: Laid, made: dict[str, str]) -> list[Step]:
    """What stays together put together loose, then what joins those, run, and tightened in the same order."""
    bodies: dict[str, list[Part]] = {}
    for part in laid.parts:
        bodies.setdefault(part.places[0].body if part.places else "", []).append(part)
    known = {one.key: one for one in laid.fastenings}
    on: dict[str, set[str]] = {}
    for body, parts in bodies.items():
        for part in parts:
            for mark in part.marks:
                if mark.fastening in known:
                    on.setdefault(mark.fastening, set()).add(body)
    found, loose = [], []
    for body, parts in bodies.items():
        inner = [key for key, where in on.items() if where == {body}]
        words = f"Put {body or 'the rest'} together, bolts finger tight: {_names(parts)}"
        after = tuple(dict.fromkeys(made[part.mark] for part in parts))
        found.append(
            Step(
                f"loose.{body}",
                words,
                LOOSE * (len(parts) + len(inner)),
                0.0,
                after,
                ("spanner", "screwdriver"),
                (),
                tuple(inner),
            )
        )
        loose.append(f"loose.{body}")
    between = [key for key, where in on.items() if len(where) > 1]
    names = ", ".join(_bought(known[key]) for key in between) or "by their own fittings"
    found.append(
        Step(
            "join",
            f"Join them: {names}; still loose",
            LOOSE * (1 + len(between)),
            0.0,
            tuple(loose),
            ("spanner",),
            (),
            tuple(between),
        )
    )
    found.append(
        Step(
            "run",
            "Run everything that moves from end to end while it is loose: what binds is shifted now",
            TRY,
            0.0,
            ("join",),
        )
    )
    last = "run"
    for body in bodies:
        tight = f"Tighten {body or 'the rest'}: {LOCK}; clamps and screws until nothing shifts"
        found.append(
            Step(f"tight.{body}", tight, TIGHT * max(1, len(bodies[body])), 0.0, (last,), ("spanner",), hold=True)
        )
        last = f"tight.{body}"
    found.append(
        Step(
            "pivots",
            f"Pivots, axles and pins last: {SPIN}; each stays where it is left",
            TIGHT * (1 + len(between)),
            0.0,
            (last,),
            ("spanner",),
            hold=True,
        )
    )
    return found


def _bought(fastening: Fastening) -> str:
    return fastening.items[0].name if fastening.items else fastening.key


def without(steps: Sequence[Step], tool: str) -> tuple[tuple[str, str], ...]:
    """What changes where a tool is missing: keys of steps that use it, and what is done in its place."""
    instead = INSTEAD.get(tool, "borrow it, or have it done")
    return tuple((step.key, instead) for step in steps if any(tool in name for name in step.tools))


INSTEAD = {
    "drill press": "a hand drill with a guide block: holes within 0.5 mm in place of 0.25, so twins are clamped and "
    "drilled together",
    "jigsaw": "a coping saw, half a millimetre outside the line, then a file",
    "mitre saw": "a hand saw in a box; square to half a degree",
    "lathe": "a printed piece in place of a turned one",
}
