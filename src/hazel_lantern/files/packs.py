"""The builder's own catalogue packs: JSON or CSV files in the data folder, laid over ours by id."""

from __future__ import annotations

import stat
from pathlib import Path
from typing import Any

import msgspec

from hazel_lantern.core import catalogue
from hazel_lantern.core.catalogue import Catalogue, Row
from hazel_lantern.core.nouns.errors import HazelError, InputError
from hazel_lantern.files import atomic, places
from hazel_lantern.files.errors import FileError

LARGEST = 8 * 2**20
Pack = tuple[str, str, bytes]


class _Head(msgspec.Struct):
    """What a pack says of itself; its rows are read by the catalogue."""

    table: str


class Shelf(msgspec.Struct, frozen=True):
    """Our catalogue with the builder's packs laid over it, and a sentence for each pack that had to be left out."""

    catalogue: Catalogue
    left_out: tuple[str, ...] = ()


def folder() -> Path:
    """Where packs lie: one file a table, named as the builder likes."""
    return places.data() / "packs"


def load() -> Shelf:
    """Our catalogue with every pack that is whole laid over it; one that is not troubles no other."""
    sound: list[Pack] = []
    left_out: list[str] = []
    for path in _found(left_out):
        try:
            sound.append(_read(path))
        except HazelError as error:
            left_out.append(_left_out(path.name, error))
    # Materials first: sections of another pack may be made of them.
    sound.sort(key=lambda pack: pack[1] != "materials")
    try:
        return Shelf(catalogue.load(tuple(sound)), tuple(left_out))
    except InputError:
        return _one_by_one(sound, left_out)


def put(name: str, table: str, row: Row) -> None:
    """Lay a row down in a pack of the builder's own, in place of one with the same id. Raises FileError."""
    path = folder() / f"{name}-{table}.json"
    rows: list[Any] = []
    try:
        if path.exists():
            rows = [one for one in msgspec.json.decode(path.read_bytes())["rows"] if one["id"] != row.id]
        path.parent.mkdir(parents=True, exist_ok=True)
    except (OSError, msgspec.DecodeError, KeyError, TypeError) as error:
        raise FileError(path, f"cannot be added to: {error}") from error
    made = {key: value for key, value in msgspec.to_builtins(row).items() if key != "pack"}
    whole = {"format": catalogue.FORMAT, "table": table, "source": "measured by the builder", "rows": [*rows, made]}
    atomic.write(path, msgspec.json.format(msgspec.json.encode(whole), indent=1) + b"\n")


def _one_by_one(sound: list[Pack], left_out: list[str]) -> Shelf:
    """Packs that are whole but do not fit the others, such as sections of a material nobody has, are left out."""
    kept: list[Pack] = []
    for pack in sound:
        try:
            catalogue.load((*kept, pack))
            kept.append(pack)
        except InputError as error:
            left_out.append(_left_out(pack[0], error))
    return Shelf(catalogue.load(tuple(kept)), tuple(left_out))


def _left_out(name: str, error: HazelError) -> str:
    words = str(error).removeprefix(f"{name}: ")
    return f"{name} is left out of the catalogue: {words}"


def _found(left_out: list[str]) -> list[Path]:
    """All packs; none where there is no folder."""
    try:
        return sorted(path for path in folder().iterdir() if path.suffix in (".json", ".csv"))
    except FileNotFoundError:
        return []
    except OSError as error:
        left_out.append(f"No pack is read: {folder().name} cannot be opened ({error.strerror}).")
        return []


def _read(path: Path) -> Pack:
    """A pack that is whole by itself. Raises FileError or InputError with the cause."""
    try:
        found = path.stat()
        if not stat.S_ISREG(found.st_mode) or found.st_size > LARGEST:
            raise FileError(path, f"is no regular file of at most {LARGEST // 2**20} MB")
        data = path.read_bytes() if path.suffix == ".json" else _from_csv(path)
        pack = (path.stem, msgspec.json.decode(data, type=_Head).table, data)
        catalogue.read_table(*pack[1:], pack=path.stem)
        return pack
    except OSError as error:
        raise FileError(path, f"cannot be read: {error.strerror}") from error
    except (msgspec.DecodeError, UnicodeError, RecursionError) as error:
        raise FileError(path, str(error)) from error


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
    try:
        lines = list(csv.DictReader(io.StringIO(path.read_text(encoding="utf-8-sig"), newline="")))
    except csv.Error as error:
        raise FileError(path, f"is no table: {error}") from error
    for line in lines:
        row: dict[str, Any] = {}
        for name, text in line.items():
            if name is None or text is None:
                raise InputError(f"row {len(rows) + 1}", line, "has more or fewer cells than the first line")
            head, _, inner = name.strip().partition(".")
            value: Any = [_value(part) for part in text.split(";") if part.strip()] if head in lists else _value(text)
            if inner and text.strip():
                below = row.setdefault(head, {})
                if not isinstance(below, dict):
                    raise InputError(f"row {len(rows) + 1}", name.strip(), f"stands beside a column {head}")
                below[inner] = value
            elif not inner and (head in lists or text.strip()):
                if head in row:
                    raise InputError(f"row {len(rows) + 1}", name.strip(), "stands there twice")
                row[head] = value
        rows.append(row)
    return msgspec.json.encode({"format": catalogue.FORMAT, "table": table, "source": path.name, "rows": rows})


def _value(text: str) -> float | str:
    try:
        return float(text)
    except ValueError:
        return text.strip()
