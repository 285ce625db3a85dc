"""Damaged files: projects, packs and CSV tables hurt at random, by value and by byte. One seed, one damage."""

from __future__ import annotations

import json
import random
from copy import deepcopy
from typing import Any

NASTY: tuple[Any, ...] = (
    None, True, 0, -1, 1e308, -1e308, 10**400, 3.5, "", " ", "x", "=1+1", "\x00\x07", "<b>x</b>", "﹢x", "\ud800",
    "n" * 10_000, [], {}, [[]], [1, 2, 3], {"a": 1},
    "nowhere", -0.0, 1e-320, 12, "1e5", ["x", "x"], "\u202e\ufffe",
)  # fmt: skip


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """The path to everything in a document of JSON."""
    inner = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    return [path, *(found for key, item in inner for found in places(item, (*path, key)))]


def hurt(document: Any, chance: random.Random) -> Any:
    """The document with one to three of its values replaced, taken away or doubled."""
    made = json.loads(json.dumps(document))
    for _ in range(chance.choice((1, 1, 1, 2, 3))):
        path = chance.choice([p for p in places(made) if p])
        above = made
        for key in path[:-1]:
            above = above[key]
        what = chance.random()
        if what < 0.15:
            del above[path[-1]]
        elif what < 0.25 and isinstance(above, list):
            above.append(json.loads(json.dumps(above[path[-1]])))
        elif what < 0.35 and isinstance(above, dict):
            above[chance.choice(("", "extra", "format", "\x00"))] = deepcopy(chance.choice(NASTY))
        elif what < 0.6:
            above[path[-1]] = deepcopy(chance.choice(NASTY))
        else:
            above[path[-1]] = _other(above[path[-1]], chance)
    return made


def _other(value: Any, chance: random.Random) -> Any:
    """Another value of the same sort: what a checker finds harder to tell from a right one."""
    if isinstance(value, bool) or value is None:
        return not value
    if isinstance(value, (int, float)):
        value = float(value) if abs(value) < 1e300 else 1.0
        return chance.choice(
            (0.0, -value, value * 1000, value / 1000, value + 1e-9, 1e-12, round(value), 30.0, 0.05, 12345.678)
        )
    if isinstance(value, str):
        return chance.choice(
            ("", " ", value + " ", value.upper(), "p1", "hive-jib", "meadow", "slider", value * 30, "a\nb", value[:-1])
        )
    if isinstance(value, list):
        return chance.choice(([], value[:1], value + value, value[::-1]))
    return {}


def damaged(data: bytes, chance: random.Random) -> bytes:
    """A file of JSON hurt by value, or by byte: cut short, bits turned, a part doubled."""
    if chance.random() < 0.8:
        return json.dumps(hurt(json.loads(data), chance), ensure_ascii=chance.random() < 0.5).encode(
            "utf-8", "surrogatepass"
        )
    return bytes_hurt(data, chance)


def bytes_hurt(data: bytes, chance: random.Random) -> bytes:
    """Any file: cut short, bytes turned, a part doubled, or something else altogether."""
    made, what = bytearray(data), chance.random()
    at = chance.randrange(max(1, len(made)))
    if what < 0.3:
        return bytes(made[:at])
    if what < 0.7:
        for _ in range(chance.randint(1, 8)):
            made[chance.randrange(len(made))] = chance.randrange(256)
        return bytes(made)
    if what < 0.85:
        return bytes(made[:at] + made[max(0, at - 200) :])
    return chance.choice((b"", b"\x00" * 50, b"[" * 100_000, b'{"a":' * 50_000, b"\xff\xfe" + data[:100], b"9" * 5000))
