"""The builder's own catalogue packs: JSON files in the data folder, laid over ours by id."""

from __future__ import annotations

from pathlib import Path

import msgspec
import platformdirs

from hazel_lantern.core import catalogue
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.errors import InputError
from hazel_lantern.files.errors import FileError


class _Head(msgspec.Struct):
    """What a pack says of itself; its rows are read by the catalogue."""

    table: str


def folder() -> Path:
    """Where packs lie: one file a table, named as the builder likes."""
    return Path(platformdirs.user_data_path("hazel-lantern")) / "packs"


def load() -> Catalogue:
    """Our catalogue with every pack laid over it.

    Raises FileError naming the pack, the row and the cause.
    """
    found = []
    for path in sorted(folder().glob("*.json")) if folder().exists() else []:
        try:
            data = path.read_bytes()
            found.append((path.stem, msgspec.json.decode(data, type=_Head).table, data))
            catalogue.read_table(*found[-1][1:], pack=path.stem)
        except OSError as error:
            raise FileError(path, f"cannot be read: {error.strerror}") from error
        except (msgspec.DecodeError, InputError) as error:
            raise FileError(path, str(error)) from error
    try:
        return catalogue.load(tuple(found))
    except InputError as error:
        raise FileError(folder(), str(error)) from error
