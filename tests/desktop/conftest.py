"""A real window on the sample, offscreen."""

from __future__ import annotations

import pytest
from PyQt6.QtCore import QCoreApplication, QEvent

from hazel_lantern.desktop.shell.window import Window
from hazel_lantern.desktop.theme.theme import Theme, load_fonts
from hazel_lantern.session.session import Session
from hazel_lantern.session.settings import Settings
from tests.helpers import SHELF, sample


@pytest.fixture(scope="session")
def fonts(qapp):
    load_fonts()


@pytest.fixture
def make(qtbot, qapp, fonts):
    made = []

    def window(name="orchard-at-dusk", look="dusk", size=(1280, 800), station="rig", scale=100):
        theme = Theme(look, scale)
        theme.apply(qapp)
        w = Window(Session(sample(name), SHELF), theme, Settings())
        w.resize(*size)
        w.show()
        w.show_station(station)
        qtbot.waitUntil(lambda: w.stage.width() > 100, timeout=5000)
        made.append(w)
        return w

    yield window
    for w in made:
        w.take_typed()  # first: taken only as it closes, it would ask whether to save, and nobody is there to answer
        w.session.open(w.session.project, None)
        w.close()
        w.deleteLater()
    # Left to the next event loop they would pile up, and every style sheet would be laid on all of them.
    QCoreApplication.sendPostedEvents(None, QEvent.Type.DeferredDelete)


@pytest.fixture
def window(make):
    return make()
