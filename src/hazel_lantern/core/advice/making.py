"""Building a rig: its steps, which are done, when the others are, and what fits into half an hour."""

from __future__ import annotations

from datetime import date, datetime

from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project, Rig, replaced
from hazel_lantern.core.driving import fitting
from hazel_lantern.core.driving.driven import Driven
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.workshop.schedule import Slot, calendar, network
from hazel_lantern.core.workshop.work import Step, steps_of

STARTS = 9.0  # hour of the day that work begins at
SHORT = 0.5  # hours of an evening


class Agenda(Struct, frozen=True):
    """All steps in an order they can be done in, keys of those that are done, when each of the others is worked on, by
    key, why there is no calendar, hours of work that are left, and tools in the order they are first needed.
    """

    steps: tuple[Step, ...]
    done: frozenset[str]
    slots: dict[str, Slot]
    trouble: str
    left: float
    tools: tuple[str, ...]

    @property
    def ready(self) -> datetime | None:
        """When the last of it is through; None where it is, or no calendar was made."""
        return max((slot.end for slot in self.slots.values()), default=None)

    @property
    def open_now(self) -> tuple[Step, ...]:
        """What nothing stands before any more, in order."""
        return tuple(s for s in self.steps if s.key not in self.done and self.done.issuperset(s.after))

    @property
    def tonight(self) -> tuple[Step, ...]:
        """What of it fits into half an hour, gluing and painting first: it dries at night."""
        fits = [step for step in self.open_now if step.work <= SHORT]
        return tuple(sorted(fits, key=lambda step: (-step.wait, -step.work)))


def agenda(project: Project, result: Evaluation, show: Display, today: date) -> Agenda:
    """What is to be done for a rig, from a day on; steps ticked that its design no longer has are left out."""
    loading = [words.text(show) for words in result.readings["loading"]] if "loading" in result.readings else []
    drive = [words.text(show) for one in result.driven if isinstance(one, Driven) for words in fitting.steps(one)]
    laid = replace(result.laid, parts=result.parts)
    steps = steps_of(laid, result.cuts, loading, drive) if laid.parts else ()
    order = network([step.task for step in steps]).order
    steps = tuple(sorted(steps, key=lambda step: order.index(step.key))) if steps else ()
    done = frozenset(result.rig.done) & {step.key for step in steps}
    rest = [step for step in steps if step.key not in done]
    tasks = [replace(step.task, after=tuple(key for key in step.after if key not in done)) for step in rest]
    slots, trouble = {}, ""
    begins = datetime.combine(
        max(today, date.fromisoformat(project.begins) if project.begins else today), datetime.min.time()
    )
    try:
        slots = {slot.key: slot for slot in calendar(tasks, begins, STARTS, dict(enumerate(project.hours_h)))}
    except InfeasibleError as error:
        trouble = str(error)
    # As the days come; what has none keeps its place after.
    last = max((slot.end for slot in slots.values()), default=begins)
    steps = tuple(sorted(steps, key=lambda s: (s.key not in done, slots[s.key].start if s.key in slots else last)))
    tools = tuple(dict.fromkeys(tool for step in rest for tool in step.tools))
    return Agenda(steps, done, slots, trouble, sum(step.work for step in rest), tools)


def ticked(project: Project, rig_id: str, key: str, day: str) -> Project:
    """The project with a step done on a day, or with an empty day not done. Raises InputError for no date."""
    if day:
        try:
            date.fromisoformat(day)
        except ValueError:
            raise InputError(f"rig {rig_id}, done {key}", repr(day), "must be a date such as 2027-04-08") from None
    rig: Rig = project.rig(rig_id)
    done = {one: when for one, when in rig.done.items() if one != key}
    return replace(project, rigs=replaced(project.rigs, replace(rig, done={**done, key: day} if day else done)))
