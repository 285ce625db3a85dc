"""The builder's own catalogue packs: JSON or CSV files in the data folder, laid over ours by id."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import msgspec

from hazel_lantern.core import catalogue
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.files import places
from hazel_lantern.files.errors import FileError


class _Head(msgspec.Struct):
    """What a pack says of itself; its rows are read by the catalogue."""

    table: str


def folder() -> Path:
    """Where packs lie: one file a table, named as the builder likes."""
    return places.data() / "packs"


def _from_csv(path: Path) -> bytes:
    """A table of rows as the JSON pack it stands for: the file is called after its table, as in `sections-shed.csv`.

    A column `dims.b` fills the field b of dims; several values of a list are parted by semicolons. Numbers have a
    decimal point.
    """
    import csv
    import io

    table = path.stem.split("-")[0]
    kind = catalogue.TABLES.get(table)
    if kind is None:
        raise InputError("file name", path.name, "must begin with one of " + ", ".join(catalogue.TABLES))
    lists = {field.name for field in msgspec.structs.fields(kind) if "list" in str(field.type)}
    rows: list[dict[str, Any]] = []
    for line in csv.DictReader(io.StringIO(path.read_text(encoding="utf-8-sig"))):
        row: dict[str, Any] = {}
        for name, text in line.items():
            if name is None or text is None:
                raise InputError(f"row {len(rows) + 1}", line, "has more or fewer cells than the first line")
            head, _, inner = name.strip().partition(".")
            value: Any = [_value(part) for part in text.split(";") if part.strip()] if head in lists else _value(text)
            if inner and text.strip():
                row.setdefault(head, {})[inner] = value
            elif not inner and (head in lists or text.strip()):
                row[head] = value
        rows.append(row)
    return msgspec.json.encode({"format": catalogue.FORMAT, "table": table, "source": path.name, "rows": rows})


def _value(text: str) -> float | str:
    try:
        return float(text)
    except ValueError:
        return text.strip()


def load() -> Catalogue:
    """Our catalogue with every pack laid over it.

    Raises FileError naming the pack, the row and the cause.
    """
    found = []
    for path in sorted(p for p in folder().iterdir() if p.suffix in (".json", ".csv")) if folder().exists() else []:
        try:
            data = path.read_bytes() if path.suffix == ".json" else _from_csv(path)
            found.append((path.stem, msgspec.json.decode(data, type=_Head).table, data))
            catalogue.read_table(*found[-1][1:], pack=path.stem)
        except OSError as error:
            raise FileError(path, f"cannot be read: {error.strerror}") from error
        except (msgspec.DecodeError, InputError, UnicodeDecodeError) as error:
            raise FileError(path, str(error)) from error
    try:
        return catalogue.load(tuple(found))
    except InputError as error:
        raise FileError(folder(), str(error)) from error
