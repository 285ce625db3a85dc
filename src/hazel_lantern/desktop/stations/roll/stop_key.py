"""STOP: one key in any field, half-typed or not, in any dialog, at any station; a button in sight while it is led."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt
from PyQt6.QtGui import QKeyEvent
from PyQt6.QtWidgets import QApplication, QPushButton

from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.words import tip
from hazel_lantern.session.rolling import Rolling

KEY = Qt.Key.Key_F12  # nothing else uses it


def stop_button(name: str, rolling: Rolling, theme: Theme, tall: float, size: float) -> QPushButton:
    """A button nobody takes for another."""
    button, t = QPushButton("STOP  F12"), theme.tokens
    button.setObjectName(name)
    button.setFont(theme.font(size, weight=700))
    high = theme.px(tall)
    button.setFixedHeight(high)
    button.setStyleSheet(
        f"QPushButton {{ background: {t.stop}; color: {t.on_lantern}; border: 2px solid {t.ink}; min-height: "
        f"{high - 4}px; }}"
    )
    button.setToolTip(tip("Not an emergency stop: that is a switch in the supply, within reach of where you stand"))
    button.clicked.connect(lambda _=False: rolling.command("stop"))
    return button


class StopKey(QObject):
    """Listens, from the first look at Roll until the window closes, while something is led: every event of the
    application comes by here, which is too dear when there is nothing to stop.
    """

    def __init__(self, rolling: Rolling, theme: Theme) -> None:
        super().__init__(rolling)
        self._rolling, self._listens = rolling, False
        self.button = stop_button("roll.stop.always", rolling, theme, 34, 14)
        self._follow()
        rolling.status.connect(self._follow)

    def _follow(self, _: object = None) -> None:
        self._listen(self._rolling.now is not None)
        self.button.setVisible(self._listens and self.button.parent() is not None)

    def _listen(self, wanted: bool) -> None:
        application = QApplication.instance()
        if application is None or wanted == self._listens:
            return
        self._listens = wanted
        if wanted:
            application.installEventFilter(self)
        else:
            application.removeEventFilter(self)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if isinstance(event, QKeyEvent) and event.type() == QEvent.Type.KeyPress and event.key() == KEY:
            self._rolling.command("stop")
            return True
        return super().eventFilter(watched, event)

    def finish(self) -> None:
        """Listen no more."""
        self._rolling.status.disconnect(self._follow)
        self.button.hide()
        self._listen(False)
