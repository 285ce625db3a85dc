"""What ships with the application: fonts, icons, sample projects, the manual."""

from __future__ import annotations

from importlib import resources


def data(*path: str) -> bytes:
    """The bytes of a packaged file."""
    return resources.files(__package__).joinpath(*path).read_bytes()


def names(folder: str) -> list[str]:
    """Names of the files in a packaged folder, sorted."""
    return sorted(item.name for item in resources.files(__package__).joinpath(folder).iterdir() if item.is_file())
