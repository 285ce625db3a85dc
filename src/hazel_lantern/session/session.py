"""The document at hand, its undo history and its evaluation. The one door through which anything is edited."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from msgspec import Struct
from msgspec.structs import replace
from PyQt6.QtCore import QObject, QTimer, pyqtSignal

from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.answers import Evaluation, Outline
from hazel_lantern.core.case import check_owned
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project, Rig, Shot
from hazel_lantern.core.document.readable import readable
from hazel_lantern.core.editing import changes, checking
from hazel_lantern.core.editing.bindings import bindings
from hazel_lantern.core.editing.place import Binding
from hazel_lantern.core.editing.wish import with_wish, without_wish
from hazel_lantern.core.evaluate import evaluate, outline, perform
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.finding import Finding
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.quantity import Choice, Parameter, Quantity, Readings, Several, Value
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.files import project_file, takes
from hazel_lantern.files.errors import ChangedError, FileError
from hazel_lantern.session.cut_plans import CutPlans
from hazel_lantern.session.history import History
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.recovery import Journal

NAME = 40  # characters of a name that the window shows
REMEDY_DELAY, JOURNAL_DELAY = 120, 1500  # ms


PREVIEW, LOOK, CUTS, SAVED, OPENED = "preview", "look", "cuts", "saved", "opened"


class Change(Struct, frozen=True):
    """What is another than before: fields of the document, or what is looked at; and whether a gesture is on, so that
    the hand must not wait.
    """

    what: frozenset[str]
    gesture: bool = False

    def touches(self, *names: str) -> bool:
        """Whether any of these changed."""
        return OPENED in self.what or not self.what.isdisjoint(names)


class Session(QObject):
    """Owns the document, the memo and the history."""

    changed = pyqtSignal(object)
    remedies_grown = pyqtSignal()
    remedies_ready = pyqtSignal()
    rig_switched = pyqtSignal()
    trouble = pyqtSignal(str)

    def __init__(
        self,
        project: Project,
        catalogue: Catalogue,
        path: Path | None = None,
        parent: QObject | None = None,
        *,
        mark: str = "",
    ) -> None:
        super().__init__(parent)
        self.catalogue = catalogue
        self._memo = Memo()
        self.built = False
        self.journal = Journal()
        self._unkept = False
        self._vetting = Job(self)
        self._vetting.stepped.connect(self._vetted)
        self.cuts = CutPlans(self)
        self.cuts.found.connect(self._cut)
        self.cuts.failed.connect(self.trouble)
        self._vetting.failed.connect(lambda error: self.trouble.emit(f"Remedies could not be tried: {error}"))
        self._settle = QTimer(self)
        self._settle.setSingleShot(True)
        self._settle.setInterval(REMEDY_DELAY)
        self._settle.timeout.connect(self._vet)
        self._keep = QTimer(self)
        self._keep.setSingleShot(True)
        self._keep.setInterval(JOURNAL_DELAY)
        self._keep.timeout.connect(self.write_journal)
        self.open(project, path, mark=mark)

    def open(self, project: Project, path: Path | None, *, mark: str = "", saved: bool = True) -> None:
        """Start on another document with an empty history; mark: of the file it was read from; `saved` False for one
        rescued after a kill.

        Raises InputError, and keeps the document at hand, when its references lead nowhere.
        """
        checking.check(project)
        check_owned(project, self.catalogue)
        self.project, self.path, self._mark = project, path, mark
        self._saved: Project | None = project if saved else None
        self._history = History()
        self.in_gesture = False
        self._looked: dict[str, str] = {}
        self._at_hand: tuple[Project, str, str, Shot] | None = None
        self._known: tuple[object, dict[str, Binding], dict[str, Parameter]] | None = None
        self._asked: tuple[Project, str, str, dict[str, Binding]] | None = None
        self._preview: Project | None = None
        self._readable: tuple[Project, Project] | None = None
        self._wish: Rig | None = None
        self._stood: tuple[Project, Project] | None = None
        self.rig_id = self.document.rigs[0].id
        self.thing = ""
        self._offered: tuple[Finding, ...] = ()
        self._vetting.cancel()
        self._stale()
        self.rig_switched.emit()
        self.changed.emit(Change(frozenset({OPENED})))
        self._settle.start()

    def rest(self) -> None:
        """Try no remedies yet: a start is painted first."""
        self._settle.stop()

    def wake(self) -> None:
        """Try remedies again."""
        self._settle.start()

    # What is shown

    @property
    def shown(self) -> Project:
        """The document as it is shown: what is only tried on, names that fit on a screen."""
        now = self._preview or self.document
        if self._readable is None or self._readable[0] is not now:
            self._readable = (now, readable(now, NAME))
        return self._readable[1]

    @property
    def document(self) -> Project:
        """The document to work on: where it has no rig, with what stands in for one."""
        if self._stood is None or self._stood[0] is not self.project:
            self._stood = (self.project, with_wish(self.project, self._wish))
        return self._stood[1]

    @property
    def has_rig(self) -> bool:
        """Whether there is a rig at hand, and not just what stands in for one."""
        return bool(self.project.rigs)

    @property
    def shot(self) -> Shot:
        """The shot looked at; only with a rig at hand."""
        shown, looked = self.shown, self._looked.get(self.rig_id, "")
        if self._at_hand is None or self._at_hand[0] is not shown or self._at_hand[1:3] != (self.rig_id, looked):
            self._at_hand = (shown, self.rig_id, looked, shown.shot_of(shown.rig(self.rig_id), looked))
        return self._at_hand[3]

    @property
    def shot_id(self) -> str:
        return self.shot.id if self.rig_id else ""

    def look(self, shot_id: str) -> None:
        """Look at another shot: one the rig serves edits nothing, another is served from now on. Raises InputError
        for one that is not there.
        """
        if shot_id not in self.document.rig(self.rig_id).shots:
            self._looked[self.rig_id] = shot_id
            self.change(f"Serve {self._named_shot(shot_id)}", changes.serve(self.document, self.rig_id, shot_id))
        elif shot_id != self.shot_id:
            self._looked[self.rig_id] = shot_id
            self._preview = None
            self._stale()
            self.changed.emit(Change(frozenset({LOOK})))

    def _named_shot(self, shot_id: str) -> str:
        return next((shot.name for shot in self.project.shots if shot.id == shot_id), shot_id)

    @property
    def display(self) -> Display:
        p = self.project
        return Display(p.units, p.fraction, p.currency)

    def _stale(self) -> None:
        """What was worked out no longer holds; it is worked out again when it is next asked for."""
        self._evaluation: Evaluation | None = None

    @property
    def evaluation(self) -> Evaluation | None:
        """Everything about the rig as shown; None without a rig."""
        if self._evaluation is None and self.rig_id:
            self._evaluation = evaluate(
                self.shown,
                self.catalogue,
                self.rig_id,
                self.shot_id,
                self._memo,
                exact=self.cuts.known,
                built=self.built,
            )
        return self._evaluation

    def outline(self, *, on_set: bool = True) -> Outline | None:
        """The rig as a mechanism: all that a drag needs to draw it, with its set or without."""
        if self._evaluation is not None:
            return self._evaluation
        return (
            outline(self.shown, self.catalogue, self.rig_id, self.shot_id, self._memo, on_set=on_set)
            if self.rig_id
            else None
        )

    @property
    def offered(self) -> bool:
        """Whether the remedies shown were tried on the document as it is."""
        return bool(self._offered) and not self._vetting.running

    def findings(self) -> tuple[Finding, ...]:
        """Findings worst first, with the remedies that were tried and hold."""
        if self._offered and self.evaluation:
            # States come from the evaluation at hand; only the remedies were worked out aside.
            remedies = {f.key: f.remedies for f in self._offered}
            return tuple(replace(f, remedies=remedies.get(f.key, ())) for f in self.evaluation.findings)
        return tuple(_bare(f) for f in (self.evaluation.findings if self.evaluation else ()))

    def bindings(self) -> dict[str, Binding]:
        """Parameters of the rig at hand and their places, by key; they only change with its kind, its set, the kits
        and the shots.
        """
        if not self.rig_id:
            return {}
        shown = self.shown
        shot = self.shot
        if self._asked is not None and self._asked[0] is shown and self._asked[1:3] == (self.rig_id, shot.id):
            return self._asked[3]
        rig = shown.rig(self.rig_id)
        # Parameters depend on what there is, not on where it stands: a drag over the set changes none of them.
        key = (
            self.rig_id,
            rig.kit,
            rig.kind,
            rig.variant,
            shot.id,
            shot.set,
            len(shot.via_m),
            len(shot.keys),
            shot.move,
            shot.aim,
            [(axis.how, len(axis.keys)) for axis in shot.axes],
            [(drive.axis, [element.kind for element in drive.elements]) for drive in rig.drives],
            [item.name for item in shown.kit_of(rig).items],
            [(k.id, k.name) for k in shown.kits],
            [(t.id, t.name, len(t.stops)) for t in shown.set_of(shot).things],
            [(s.id, s.name) for s in shown.shots],
            [(s.id, s.name) for s in shown.sets],
        )
        if self._known is None or self._known[0] != key:
            table = bindings(shown, self.rig_id, shot.id)
            self._known = (key, table, {name: binding.parameter for name, binding in table.items()})
        self._asked = (shown, self.rig_id, shot.id, self._known[1])
        return self._known[1]

    def parameters(self) -> dict[str, Parameter]:
        """Parameters of the rig at hand by key."""
        return self._known[2] if self.bindings() and self._known is not None else {}

    def value(self, key: str) -> Value:
        found: Value = self.bindings()[key].place.get(self.shown)
        return found

    def restock(self, catalogue: Catalogue) -> None:
        """Another catalogue, such as one with a bar that was just measured."""
        self.catalogue = catalogue
        self._known = None
        self._stale()
        self.changed.emit(Change(frozenset({PREVIEW})))

    # Editing

    def change(self, words: str, project: Project, gesture: int = 0) -> None:
        """Make `project` the document; the same gesture number merges into one step.

        Raises InputError, and changes nothing, where it is not one that could be saved and read again.
        """
        project, stood = without_wish(project)
        project = checking.check(project, since=self.project)
        if stood is not None and stood != self._wish:
            self._wish, self._stood = stood, None
        if project.plates is not self.project.plates:
            check_owned(project, self.catalogue)
        self._preview = None
        before = self.project
        if project == before:
            self._refresh(before)
            return
        self._history.record(words, before, project, gesture)
        self.project = project
        self.in_gesture = bool(gesture)
        self._refresh(before)
        self.in_gesture = False

    def new_gesture(self) -> int:
        """A number that makes the changes of one drag one step."""
        return self._history.new_gesture()

    def abandon(self, gesture: int) -> None:
        """Take back a drag as if it never was."""
        self._go_to(self._history.abandon(gesture))

    def set(self, key: str, value: object, gesture: int = 0) -> None:
        """Change one parameter of the current rig; raises InputError and changes nothing for a bad value."""
        parameter = self.bindings()[key].parameter
        if key == "shot":
            self.look(str(parameter.check(value)))
            return
        project = changes.set_values(self.document, self.rig_id, [(key, value)], self.bindings(), self.shot_id)
        self.change(f"{parameter.label} {self.words(parameter, value)}".strip(), project, gesture)

    def words(self, parameter: Parameter, value: object) -> str:
        """A value as the builder reads it."""
        if isinstance(parameter, Quantity):
            return "to " + self.display.text(float(value), parameter.unit, fine=True)  # type: ignore[arg-type]
        if isinstance(parameter, Choice):
            return "to " + dict(self.options(parameter)).get(str(value), str(value))
        assert isinstance(parameter, (Several, Readings))
        return f"({len(value)})"  # type: ignore[arg-type]

    def options(self, choice: Choice) -> list[tuple[str, str]]:
        """Ids and names of a choice, from its own list or from the catalogue."""
        if choice.table:
            rows = getattr(self.catalogue, choice.table)
            now = str(self.value(choice.key))
            system = self.project.units
            kept = ((k, row.name) for k, row in rows.items() if getattr(row, "system", system) == system or k == now)
            return [*choice.options, *kept]
        return list(choice.options)

    def apply(self, words: str, values: Sequence[tuple[str, object]], gesture: int = 0) -> None:
        """Several parameters as one step: a remedy, a station's main action, a drag over the set."""
        self.change(
            words, changes.set_values(self.document, self.rig_id, values, self.bindings(), self.shot_id), gesture
        )

    def preview(self, values: Sequence[tuple[str, object]] | None) -> None:
        """Show the document with these values without changing it; None shows it as it is."""
        self._preview = changes.set_values(self.document, self.rig_id, values, shot_id=self.shot_id) if values else None
        self._stale()
        self.changed.emit(Change(frozenset({PREVIEW})))

    def act(self, station: str, words: str) -> None:
        """Carry out a station's main action as one step. Raises what stands in its way."""
        self.apply(words, perform(self.document, self.catalogue, self.rig_id, station, self.shot_id, self._memo))

    def search_cuts(self) -> None:
        """Search the exact cutting plan of the rig as it is, unless it is known; a preview is not worth one."""
        if self.evaluation is not None and self._preview is None:
            self.cuts.search(self.evaluation.order)

    def _cut(self, order: object) -> None:
        if self._evaluation is not None and self._evaluation.order == order:
            self._stale()
            self.changed.emit(Change(frozenset({CUTS})))

    def _refresh(self, before: Project) -> None:
        self._offered = ()
        self._vetting.cancel()
        if self.rig_id not in {rig.id for rig in self.document.rigs}:
            self.rig_id = self.document.rigs[0].id
            self.rig_switched.emit()
        self._stale()
        what = frozenset(
            name for name in Project.__struct_fields__ if getattr(before, name) is not getattr(self.project, name)
        )
        self.changed.emit(Change(what, self.in_gesture))
        self._settle.start()
        if not self._keep.isActive():
            self._keep.start()  # not started anew: who edits without a pause is kept too

    def _vet(self) -> None:
        if self.evaluation is None or self._preview is not None:
            return
        project, catalogue, rig, built = self.document, self.catalogue, self.rig_id, self.built
        self._vetting.start(lambda: vetted(project, catalogue, rig, built=built))

    def _vetted(self, step: Progress[tuple[Finding, ...]]) -> None:
        self._offered = step.answer or ()
        if step.done < step.total:
            self.remedies_grown.emit()
            return
        self._vetting.cancel()  # nothing is left to try
        self.remedies_ready.emit()

    def switch(self, rig_id: str) -> None:
        """Look at another rig of the project."""
        self.rig_id, self._preview, self._offered, self.built = rig_id, None, (), False
        self._vetting.cancel()
        self._stale()
        self.rig_switched.emit()
        self.changed.emit(Change(frozenset({LOOK})))
        self._settle.start()

    def look_built(self, *, on: bool) -> None:
        """Figures with what was measured on the built rig in place of what was drawn, or as it is drawn."""
        self.built, self._offered = on, ()
        self._vetting.cancel()
        self._stale()
        self.changed.emit(Change(frozenset({LOOK})))
        self._settle.start()

    # History

    @property
    def undo_words(self) -> str:
        return self._history.undo_words

    @property
    def redo_words(self) -> str:
        return self._history.redo_words

    def undo(self) -> None:
        """Back one step."""
        self._go_to(self._history.back())

    def redo(self) -> None:
        """Forward one step."""
        self._go_to(self._history.forward())

    def _go_to(self, project: Project | None) -> None:
        """Another state of the same document; None where there is none."""
        if project is not None:
            before = self.project
            self.project, self._preview = project, None
            self._refresh(before)

    # Files

    @property
    def dirty(self) -> bool:
        return self.project is not self._saved and self.project != self._saved

    @property
    def overtaken(self) -> bool:
        """Whether the file is no longer what was opened; one that is gone is not."""
        return self.path is not None and project_file.mark(self.path) not in ("", self._mark)

    def save(self, path: Path, *, over: bool = False) -> None:
        """Write the document; raises FileError and keeps everything when the disk refuses, ChangedError when the file
        is no longer what was opened, unless it may be written `over`.
        """
        if not over and path == self.path and self.overtaken:
            raise ChangedError(path)
        self._mark = project_file.write(self.project, path)
        shipped = takes.shipped(self.project.name) if self.path is None else ()
        takes.carry(takes.beside(self.path, self.project.name), takes.beside(path), shipped)
        self.path, self._saved = path, self.project
        self._keep.stop()
        self.journal.clear()
        self.changed.emit(Change(frozenset({SAVED})))

    def write_journal(self) -> None:
        """Keep unsaved work where a later start finds it; what is saved needs no keeping."""
        self._keep.stop()
        try:
            if self.dirty:
                self.journal.keep(self.project, self.path, self._mark)
            else:
                self.journal.clear()
        except (OSError, FileError) as error:
            if not self._unkept:
                self.trouble.emit(f"Unsaved work cannot be kept safe, save it now: {error}")
            self._unkept = True
        else:
            self._unkept = False

    def close(self) -> None:
        """Stop all background work."""
        self._settle.stop()
        self._keep.stop()
        self.cuts.stop()
        self._vetting.finish()
        self.journal.close()


def _bare(finding: Finding) -> Finding:
    return replace(finding, remedies=())
