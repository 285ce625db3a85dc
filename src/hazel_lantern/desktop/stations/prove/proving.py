"""What the Prove station works with: the tests of the rig at hand, the one that is open, and what may be done to it."""

from __future__ import annotations

from datetime import date

import numpy as np
from PyQt6.QtCore import QObject, pyqtSignal

from hazel_lantern.core.document.project import Measured, Proved
from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.editing.built import standing
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.proving.simulated import Bench, Built, rows
from hazel_lantern.core.proving.told import BY_KEY, Correction, Told, as_built, first_of, forecasts, refusal, told
from hazel_lantern.core.proving.trials.loads import PROOF
from hazel_lantern.session.instruments import Instruments
from hazel_lantern.session.session import Session


class Proving(QObject):
    """`said` is what was refused, in a sentence; `turned` tells that another test is open, or says something else."""

    said = pyqtSignal(str)
    turned = pyqtSignal()

    def __init__(self, session: Session) -> None:
        super().__init__()
        self.session = session
        self.told: tuple[Told, ...] = ()
        self._at = ""
        self._seen: object = None
        self.instruments = Instruments(self._truth, self)
        self.instruments.failed.connect(self.said)

    @property
    def at(self) -> str:
        """The test that is open."""
        return self._at

    @property
    def here(self) -> Told | None:
        """What the open test says; None where the rig has none."""
        return next((one for one in self.told if one.trial.key == self._at), None)

    def refresh(self) -> None:
        """All tests as the session has them now."""
        result = self.session.evaluation
        if result is None or (result is self._seen and self.told):
            return
        self._seen = result
        self.told = told(result, date.today())
        keys = [one.trial.key for one in self.told]
        self._at = self._at if self._at in keys else next((one.trial.key for one in self.told if one.rows), keys[0])
        self.turned.emit()

    def pick(self, key: str) -> None:
        """Open a test."""
        if key in BY_KEY and key != self._at:
            self._at = key
            self.turned.emit()

    def hindrance(self) -> str:
        """Why the open test may not be done yet, or should not be corrected by; "" where nothing is in the way."""
        here, result = self.here, self.session.evaluation
        if here is None or result is None:
            return ""
        if here.trial.key == PROOF and (why := refusal(result)):
            return f"No proof load yet: {why}."
        first = first_of(self.told, here)
        return f"First put right: {first.trial.name.lower()}. It changes this one." if first is not None else ""

    def note(self, values: tuple[float, ...]) -> None:
        """One more row of readings."""
        here, result = self.here, self.session.evaluation
        if here is None or result is None:
            return
        if here.trial.key == PROOF and refusal(result):
            self.said.emit(self.hindrance())
            return
        self._change(
            "Note readings",
            lambda: lists.read_off(
                self.session.document, self.session.rig_id, self._at, date.today().isoformat(), values
            ),
        )

    def strike(self, index: int) -> None:
        """Strike out a row of the rig's readings, or count it again; it stays in the file."""
        self._change("Strike readings out", lambda: lists.strike_out(self.session.document, self.session.rig_id, index))

    def mend(self) -> None:
        """The rig was changed as the open test says: the drawing follows, and what was read before counts no more."""
        here = self.here
        if here is None or here.outcome is None or here.outcome.mend is None:
            return
        words, outcome = here.outcome.mend.text(self.session.display), here.outcome
        spent = [n for n, row in enumerate(self._proofs()) if row.test == here.trial.key and not row.struck]

        def done():  # type: ignore[no-untyped-def]
            project = self.session.document
            for n in spent if outcome.spent else ():
                project = lists.strike_out(project, self.session.rig_id, n)
            return changes.set_values(project, self.session.rig_id, outcome.changes)

        self._change(words, done)

    def correct(self, correction: Correction) -> None:
        """The drawing as it was measured."""
        self._change(
            correction.words.text(self.session.display),
            lambda: changes.set_values(self.session.document, self.session.rig_id, correction.changes),
        )

    def keep(self, correction: Correction) -> None:
        """Beside the drawing, as built."""
        here, result = self.here, self.session.evaluation
        if here is not None and result is not None:
            row = as_built(result, here, correction, date.today().isoformat())
            self._change(
                "Keep as built", lambda: lists.keep_measured(self.session.document, self.session.rig_id, (row,))
            )

    def take(self, rows: tuple[Proved, ...], wrong: tuple[str, ...]) -> None:
        """Rows of a table, and what was wrong with others."""
        if rows:
            self._change("Read readings", lambda: lists.take_readings(self.session.document, self.session.rig_id, rows))
        said = f"{len(rows)} row{'s' if len(rows) != 1 else ''} of readings taken"
        left = f"; left out: {'; '.join(wrong[:3])}{' …' if len(wrong) > 3 else ''}" if wrong else ""
        self.said.emit(f"{said}{left}")

    def standing(self) -> dict[str, Measured]:
        """What was kept as built and counts: its pieces are as they were."""
        result = self.session.evaluation
        return {} if result is None else standing(self.session.document.rig(self.session.rig_id), result.laid)

    def _truth(self, unit: str) -> float:
        """What a simulated instrument finds of the open test, by the unit it reads in: as drawn, without a fault."""
        result, here = self.session.evaluation, self.here
        if result is None or here is None:
            return 0.0
        known = forecasts(result)
        if unit == "Hz":
            return known["bounce"].middle if "bounce" in known else 5.0
        try:
            row = rows(here.trial.key, Bench(known, Built(), np.random.default_rng(len(here.rows))))[-1]
        except KeyError:
            return 0.0
        same = [v for f, v in zip(here.trial.fields, row, strict=True) if f.quantity.unit == unit and not f.kept]
        return same[0] if same else 0.0

    def _proofs(self) -> tuple[Proved, ...]:
        return self.session.document.rig(self.session.rig_id).proofs

    def _change(self, words: str, work) -> None:  # type: ignore[no-untyped-def]
        try:
            self.session.change(words, work())
        except HazelError as error:
            self.said.emit(str(error))
