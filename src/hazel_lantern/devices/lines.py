"""The grammar of the line protocol, version 1: ASCII lines with a number in sequence and a check sum.

`@SEQ WORD WORD …*CCCC` and a line feed; SEQ counts the questions 0 to 9999, an answer bears that of its question. CCCC
is the CRC-16 (polynomial 1021, start FFFF) of what stands between @ and *, in four hexadecimal digits. Words are of
letters, digits and `.,:;+-_/^`, parted by single spaces; numbers are SI with a decimal point. An answer begins with
`ok`, or with `no` and the reason in words.
"""

from __future__ import annotations

import re

from msgspec import Struct

from hazel_lantern.devices.errors import GarbledError

VERSION = "1"
NUMBERS = 10000  # of questions before they begin again
LONGEST = 4096  # characters of a line
WORD = re.compile(r"[A-Za-z0-9.,:;+\-_/^]+")
LINE = re.compile(r"@(\d{1,4})((?: [A-Za-z0-9.,:;+\-_/^]+)+)\*([0-9A-F]{4})")


class Line(Struct, frozen=True):
    """One line taken apart."""

    number: int
    words: tuple[str, ...]


def check_sum(text: str) -> int:
    """CRC-16 of ASCII text."""
    crc = 0xFFFF
    for byte in text.encode("ascii"):
        crc ^= byte << 8
        for _ in range(8):
            crc = ((crc << 1) ^ 0x1021 if crc & 0x8000 else crc << 1) & 0xFFFF
    return crc


def encode(line: Line) -> bytes:
    """A line as it goes over the wire. Raises ValueError for a word that none may hold."""
    for word in line.words:
        if not WORD.fullmatch(word):
            raise ValueError(f"{word!r} holds what no word of the protocol may hold")
    inside = " ".join((str(line.number), *line.words))
    made = f"@{inside}*{check_sum(inside):04X}\n".encode("ascii")
    if len(made) > LONGEST:
        raise ValueError(f"a line of {len(made)} characters; {LONGEST} at the most")
    return made


def decode(raw: bytes) -> Line:
    """A line taken apart. Raises GarbledError for one that is not whole."""
    try:
        text = raw.decode("ascii").strip()
    except UnicodeDecodeError:
        raise GarbledError("a line holds bytes that are no text") from None
    found = LINE.fullmatch(text)
    if found is None or check_sum(f"{found[1]}{found[2]}") != int(found[3], 16):
        raise GarbledError("a line does not bear its check sum")
    return Line(int(found[1]), tuple(found[2].split()))


def said(reason: str) -> str:
    """A reason as one word of the protocol."""
    return re.sub(r"[^A-Za-z0-9.,:;+\-/]+", "_", reason.strip()) or "no_reason"


def heard(word: str) -> str:
    """A reason as a sentence again."""
    return word.replace("_", " ")
