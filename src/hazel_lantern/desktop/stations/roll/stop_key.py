"""The stop key: in any field, half-typed or not, in any dialog, at any station."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication

from hazel_lantern.session.rolling import Rolling

KEY = Qt.Key.Key_F12  # nothing else uses it


class StopKey(QObject):
    """Listens from the first look at Roll until the window closes."""

    def __init__(self, rolling: Rolling) -> None:
        super().__init__(rolling)
        self._rolling = rolling
        application = QApplication.instance()
        assert application is not None
        application.installEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and event.key() == KEY:
            self._rolling.command("stop")
            return True
        return super().eventFilter(watched, event)

    def finish(self) -> None:
        """Listen no more."""
        application = QApplication.instance()
        if application is not None:
            application.removeEventFilter(self)
