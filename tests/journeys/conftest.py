"""The same window as the desktop tests use."""

from tests.desktop.conftest import fonts, make

__all__ = ["fonts", "make"]
