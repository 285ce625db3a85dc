"""One field for every quantity: reads what people type, steps with keys and wheel, never clamps."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, Qt, pyqtSignal
from PyQt6.QtGui import QFocusEvent, QKeyEvent, QKeySequence, QWheelEvent
from PyQt6.QtWidgets import QLineEdit, QWidget

from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.quantity import Quantity
from hazel_lantern.core.nouns.units import Display

BIG = 10


class QuantityEdit(QLineEdit):
    """Shows SI values in the chosen units. `edited` fires only when a person changed it; `wrong` says why text was
    refused.
    """

    edited = pyqtSignal(float)
    wrong = pyqtSignal(str)
    left = pyqtSignal()

    def __init__(
        self, quantity: Quantity, display: Display, parent: QWidget | None = None, *, bare: bool = False, zero: str = ""
    ) -> None:
        """`bare` where the usual unit is said over it; `zero` a word that stands for nought."""
        super().__init__(parent)
        self._bare, self._zero = bare, zero
        self.quantity, self._display, self._value = quantity, display, quantity.default
        self._refusal = ""
        self.setObjectName(f"edit.{quantity.key}")
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.setAccessibleName(f"{quantity.label}, {display.symbol(quantity.unit) or 'number'}")
        self.setAccessibleDescription(quantity.words)
        self.setToolTip(quantity.words)
        self.returnPressed.connect(self.commit)

    def show_value(self, value: float, display: Display | None = None) -> None:
        """Show another value; text being typed is left alone."""
        self._display = display or self._display
        self._value = value
        if not self.isModified():
            self._write()

    def _write(self) -> None:
        text = self._display.text(self._value, self.quantity.unit, fine=True)
        if self._zero and self._value == 0:
            text = self._zero
        self.setText(text.removesuffix(f" {self._display.symbol(self.quantity.unit)}") if self._bare else text)
        self.setModified(False)
        self._mark("")

    def commit(self) -> bool:
        """Take what was typed; False, with the reason at the field, when it cannot be."""
        if not self.isModified():
            return True
        try:
            typed = self.text()
            value = self.quantity.read("0" if self._zero and typed in ("", self._zero) else typed, self._display)
        except InputError as error:
            self._mark(f"{error.allowed}" if error.field == self.quantity.key else str(error))
            return False
        self.setModified(False)
        self._mark("")
        if abs(value - self._value) > 1e-12 and not self._take(value):
            self.setModified(True)  # what was typed stays, as what is wrong by itself does
            return False
        self._write()
        return True

    def refuse(self, reason: str) -> None:
        """Say, from within `edited`, that the document does not take the value."""
        self._refusal = reason

    def _take(self, value: float) -> bool:
        """Offer another value; whether it was taken."""
        before, self._value, self._refusal = self._value, value, ""
        self.edited.emit(value)
        if self._refusal:
            self._value = before
            self._mark(self._refusal)
        return not self._refusal

    def _mark(self, reason: str) -> None:
        if bool(self.property("wrong")) != bool(reason):
            self.setProperty("wrong", bool(reason))
            self.style().unpolish(self)
            self.style().polish(self)
        self.wrong.emit(reason[:1].upper() + reason[1:] if reason else "")

    def step(self, count: int) -> None:
        """Move by so many sensible steps: whole millimetres, the finest fraction, a tenth of a degree."""
        if self.isModified() and not self.commit():
            return
        size = self._display.step(self.quantity.unit, fine=self.quantity.unit == "m" and self.quantity.high < 0.2)
        try:
            value = self.quantity.check(round(self._value + count * size, 9))
        except InputError as error:
            self._mark(error.allowed)
            return
        if self._take(value):
            self._write()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        times = BIG if event.modifiers() & Qt.KeyboardModifier.ShiftModifier else 1
        if event.key() == Qt.Key.Key_Up:
            self.step(times)
        elif event.key() == Qt.Key.Key_Down:
            self.step(-times)
        elif event.key() == Qt.Key.Key_Escape:
            self._write()
            self.left.emit()
        else:
            super().keyPressEvent(event)

    def event(self, event: QEvent | None) -> bool:
        """With nothing half-typed, undo and redo are those of the document."""
        asked = isinstance(event, QKeyEvent) and event.type() == QEvent.Type.ShortcutOverride and not self.isModified()
        if asked and any(event.matches(key) for key in (QKeySequence.StandardKey.Undo, QKeySequence.StandardKey.Redo)):
            event.ignore()
            return False
        return super().event(event)

    def wheelEvent(self, event: QWheelEvent | None) -> None:
        if self.hasFocus() and event.angleDelta().y():
            self.step(1 if event.angleDelta().y() > 0 else -1)
            event.accept()
        else:
            event.ignore()

    def focusInEvent(self, event: QFocusEvent | None) -> None:
        super().focusInEvent(event)
        if event.reason() in (
            Qt.FocusReason.TabFocusReason,
            Qt.FocusReason.BacktabFocusReason,
            Qt.FocusReason.ShortcutFocusReason,
        ):
            self.selectAll()

    def focusOutEvent(self, event: QFocusEvent | None) -> None:
        super().focusOutEvent(event)
        if event.reason() != Qt.FocusReason.PopupFocusReason:
            if not self.commit():
                return
            self.left.emit()
