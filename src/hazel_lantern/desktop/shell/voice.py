"""How a part of the window speaks to the builder, without knowing the window."""

from __future__ import annotations

from collections.abc import Callable

from msgspec import Struct
from PyQt6.QtWidgets import QWidget


class Voice(Struct, frozen=True):
    """What dialogs stand over; `tell` says one clear sentence; `attempt` runs something and tells what the builder
    can act on, and whether it went well.
    """

    over: QWidget
    tell: Callable[[str], None]
    attempt: Callable[[Callable[[], None]], bool]
