"""The order of work on paper and as a calendar, and the sheet that goes along to the set."""

from __future__ import annotations

from datetime import UTC, date, datetime
from itertools import groupby

from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer

from hazel_lantern.core.advice.making import Agenda, agenda
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, PEOPLE, STRUCTURE
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.schedule import Slot
from hazel_lantern.core.workshop.work import Step
from hazel_lantern.files.build_sheet import QUIET, STATEMENT, STRONG, heading, pages, paragraph, title

BOX = "[  ]"
FOLDED = 73  # bytes of a calendar's line after its first


def pdf(project: Project, result: Evaluation, show: Display) -> bytes:
    """Steps with boxes to tick, their days, tools and cautions. Raises InputError where nothing is built."""
    made = _made(project, result, show)

    def flow() -> list[Flowable]:
        tools = ", ".join(made.tools)
        found: list[Flowable] = [
            title(result.rig.name, f"{project.name} · order of work"),
            paragraph(f"{made.left:.1f} h of work left. Tools: {tools}.", QUIET),
        ]
        if made.trouble:
            found.append(paragraph(made.trouble, STRONG))
        for day, steps in groupby(made.steps, key=lambda step: _day(made.slots.get(step.key))):
            found.append(heading(day or "Done, or without a day"))
            found += [_step(step, step.key in made.done) for step in steps]
        cautions = tuple(dict.fromkeys(step.caution for step in made.steps if step.caution))
        return [
            *found,
            heading("Cautions"),
            *(paragraph(words, QUIET) for words in cautions),
            paragraph(STATEMENT, QUIET),
        ]

    return pages(f"{project.name} · {result.rig.name} · order of work", flow)


def _made(project: Project, result: Evaluation, show: Display) -> Agenda:
    made = agenda(project, result, show, date.today())
    if not made.steps:
        raise InputError("rig", result.rig.id, "has nothing to build")
    return made


def _day(slot: Slot | None) -> str:
    return slot.start.strftime("%A %d %B %Y") if slot else ""


def _step(step: Step, done: bool) -> Flowable:
    wait = f", then wait {step.wait:.0f} h" if step.wait else ""
    tools = f" · {', '.join(step.tools)}" if step.tools else ""
    hold = " · HOLD: checked before anything after it" if step.hold else ""
    box = "[x]" if done else BOX
    return KeepTogether(
        [
            paragraph(f"{box}  {step.words}"),
            paragraph(f"{step.work * 60:.0f} min{wait}{tools}{hold}", QUIET),
            Spacer(0, 1.2 * mm),
        ]
    )


def ical(project: Project, result: Evaluation, show: Display) -> bytes:
    """An iCalendar of the steps that are left, local times. Raises InputError where nothing is built, or no hour is
    there for it.
    """
    made = _made(project, result, show)
    if made.trouble:
        raise InputError("hours", "0", made.trouble)
    stamp = datetime.now(UTC).strftime("%Y%m%dT%H%M%SZ")
    lines = ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//Hazel Lantern//Order of work//EN"]
    for step in made.steps:
        slot = made.slots.get(step.key)
        if slot is None:
            continue
        tools = f"Tools: {', '.join(step.tools)}. " if step.tools else ""
        lines += [
            "BEGIN:VEVENT",
            f"UID:{result.rig.id}.{_escaped(step.key)}@hazel-lantern",
            f"DTSTAMP:{stamp}",
            f"DTSTART:{slot.start:%Y%m%dT%H%M%S}",
            f"DTEND:{slot.worked:%Y%m%dT%H%M%S}",
            f"SUMMARY:{_escaped(step.words)}",
            f"DESCRIPTION:{_escaped(tools + step.caution)}",
            "END:VEVENT",
        ]
    lines.append("END:VCALENDAR")
    return ("\r\n".join(_folded(line) for line in lines) + "\r\n").encode()


def _escaped(words: str) -> str:
    return words.replace("\\", "\\\\").replace(";", "\\;").replace(",", "\\,").replace("\n", "\\n")


def _folded(line: str) -> str:
    """No line of a calendar is longer than 75 bytes; it goes on after a blank."""
    pieces, now = [], ""
    for letter in line:
        if len((now + letter).encode()) > FOLDED:
            pieces.append(now)
            now = ""
        now += letter
    return "\r\n ".join([*pieces, now])


def set_up(project: Project, result: Evaluation, show: Display) -> bytes:
    """What goes along to the set: pieces by weight and length, order of building up and taking down, cautions."""
    laid = result.laid
    if not laid.placed:
        raise InputError("rig", result.rig.id, "has no pieces: " + result.findings[0].sentence.text(show))
    pieces = sorted(laid.placed, key=lambda piece: -piece.mass)
    long = max(result.parts, key=lambda part: part.length, default=None)
    people = max(1.0, result.shot.crew, 2.0 if pieces[0].mass > project.carry.lift_kg else 1.0)
    loading = [words.text(show) for words in result.readings["loading"]] if "loading" in result.readings else []
    bad = [f for f in result.findings if f.state != CLEAR and f.about in (PEOPLE, STRUCTURE)]

    def flow() -> list[Flowable]:
        found: list[Flowable] = [title(result.rig.name, f"{project.name} · {result.shot.name} · set-up")]
        heaviest = ", ".join(f"{piece.name.lower()} {show.text(piece.mass, 'kg')}" for piece in pieces[:4])
        found.append(
            paragraph(
                f"{show.text(laid.mass, 'kg')} in all; heaviest: {heaviest}. {people:.0f} "
                f"{'person' if people == 1 else 'people'}."
            )
        )
        if long is not None:
            found.append(paragraph(f"Longest: {long.mark} {long.name.lower()}, {show.text(long.length, 'm')}.", QUIET))
        found.append(heading("In which bag"))
        for words, some in _bags(result, show, project.carry.bag_m or LONG):
            found.append(paragraph(f"{BOX}  {words}: {some}"))
        found.append(heading("Building up"))
        found += [paragraph(f"{BOX}  {n}  {words}") for n, words in enumerate(loading, 1)]
        found.append(heading("Between takes, and taking down"))
        found += [paragraph(f"{BOX}  {words}") for words in PARKED]
        found.append(
            paragraph("Taken down in the opposite order; the camera comes off first, what holds it last.", QUIET)
        )
        found.append(heading("Cautions"))
        found += [paragraph(f"{f.state.upper()}  {f.title}: {f.sentence.text(show)}") for f in bad] or [
            paragraph("Nothing stands open about people or structure.", QUIET)
        ]
        found.append(paragraph(STATEMENT, QUIET))
        return found

    return pages(f"{project.name} · {result.rig.name} · set-up", flow)


LONG = 0.6  # metres a bag holds where nobody said
PARKED = (
    "Nobody steps away from a rig that can move by itself: strap, chock or lock it first, or take the camera off",
    "Carriage to the low end and locked; arm strapped down; nothing left hanging over people",
    "Power off and the plug in a pocket before hands go near what runs",
)


def _bags(result: Evaluation, show: Display, bag: float) -> list[tuple[str, str]]:
    """Long pieces in one, plates and small pieces in another, weights low and by themselves, the camera in its own."""
    parts = result.parts
    long = [p for p in parts if p.length > bag]
    short = [p for p in parts if p.length <= bag]
    weights = [t for t in result.laid.things if t.fill == "weight" and t.mass > 0]
    fixings = [item for item in result.laid.bought if item.quantity]
    rows = (
        ("Long, tied together", ", ".join(f"{p.quantity} × {p.mark}" for p in long)),
        (f"Bag, up to {show.text(bag, 'm')}", ", ".join(f"{p.quantity} × {p.mark}" for p in short)),
        ("Weights, low in the car", ", ".join(f"{t.name.lower()} {show.text(t.mass, 'kg')}" for t in weights)),
        (
            "Tin of fixings",
            f"{sum(item.quantity for item in fixings)} bolts, nuts, washers and fittings; spanner, spare of each",
        ),
        ("Camera case", "camera kit, quick-release plate, leash, batteries, card"),
    )
    return [(bag, what) for bag, what in rows if what]
