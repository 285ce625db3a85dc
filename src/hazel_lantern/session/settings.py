"""Preferences and recent files, in the platform's own place."""

from pathlib import Path

import msgspec

from hazel_lantern.files import atomic, places

RECENT = 8


class Settings(msgspec.Struct, kw_only=True):
    """What is remembered between sessions; unknown keys of other versions are ignored."""

    format: int = 1
    theme: str = "dusk"
    text_scale: int = 100
    reduced_motion: bool = False
    recent: list[str] = []
    window: str = ""


def folder() -> Path:
    return places.config()


def load() -> Settings:
    """The settings, or defaults where there are none or they cannot be read."""
    try:
        return msgspec.json.decode((folder() / "settings.json").read_bytes(), type=Settings)
    except (OSError, msgspec.DecodeError):
        return Settings()


def save(settings: Settings) -> None:
    """Keep the settings; raises FileError when the disk refuses."""
    folder().mkdir(parents=True, exist_ok=True)
    atomic.write(folder() / "settings.json", msgspec.json.format(msgspec.json.encode(settings)))


def opened(settings: Settings, path: Path) -> None:
    """Put a file first among the recent ones."""
    name = str(path.resolve())
    settings.recent = [name, *(other for other in settings.recent if other != name)][:RECENT]
