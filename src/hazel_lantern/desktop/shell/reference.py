"""The reference chapters that ship with the application: what each why cites, with examples of the rigs at hand."""

from __future__ import annotations

import re
from collections.abc import Iterable
from functools import lru_cache
from html import escape

from msgspec import Struct

from hazel_lantern import assets
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.nouns.formula import symbol
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.desktop.theme.theme import Theme

WORKSHOP = "workshop"  # the chapter of what cites no other
CITED = re.compile(r"(statics|dynamics|drive)\s+|(\d+(?:\.\d+)?)")
EXAMPLES = 3


class Section(Struct, frozen=True):
    """One chapter: its key as it is cited, its title, its words, how far it holds, where it comes from."""

    key: str
    title: str
    words: str
    holds: str
    origin: str


@lru_cache(maxsize=1)
def sections() -> dict[str, Section]:
    """All chapters by key, in their order."""
    found = {}
    for block in assets.data("manual", "reference.md").decode().split("\n## ")[1:]:
        head, *lines = block.strip().split("\n")
        key, title = (part.strip() for part in head.split("·", 1))
        told = {"Holds for": "", "From": ""}
        words = []
        for line in lines:
            name, mark, rest = line.partition(": ")
            if mark and name in told:
                told[name] = rest.rstrip(".")
            else:
                words.append(line)
        found[key] = Section(key, title, "\n".join(words), told["Holds for"], told["From"])
    return found


def cited(source: str) -> list[Section]:
    """The chapters a source names, the workshop's where it names none: "statics 4.1, 7.6" names two."""
    book, found = "", []
    for match in CITED.finditer(source):
        if match.group(1):
            book = match.group(1)
        elif book and f"{book} {match.group(2)}" in sections():
            found.append(sections()[f"{book} {match.group(2)}"])
    return found or [sections()[WORKSHOP]]


def holds(figure: Figure) -> str:
    """How far a figure holds: as it says itself, else as the chapters do that it cites."""
    return figure.why.valid or "; ".join(dict.fromkeys(one.holds for one in cited(figure.why.source) if one.holds))


def page(figures: Iterable[Figure], show: Display, theme: Theme) -> str:
    """The whole reference, with contents, and under each chapter what cites it at the rig at hand."""
    t = theme.tokens
    by: dict[str, list[Figure]] = {}
    for figure in figures:
        for section in cited(figure.why.source):
            by.setdefault(section.key, []).append(figure)
    intro = assets.data("manual", "reference.md").decode().split("\n## ")[0].split("\n", 1)[1].strip()
    links = " · ".join(f"<a href='#{anchor(s.key)}'>{escape(s.title)}</a>" for s in sections().values())
    rows = [f"<p>{escape(intro)}</p><p>{links}</p>"]
    for section in sections().values():
        rows.append(
            f"<a name='{anchor(section.key)}'></a><h3 style='color: {t.lantern}; margin: 14px 0 2px 0'>"
            f"{escape(section.key)} · {escape(section.title)}</h3><p style='margin: 2px 0'>{escape(section.words)}</p>"
            f"<p style='color: {t.muted}; margin: 2px 0'>Holds for {escape(section.holds)}. From "
            f"{escape(section.origin)}.</p>"
        )
        rows += [_example(figure, show, t.muted) for figure in by.get(section.key, [])[:EXAMPLES]]
    return "".join(rows)


def _example(figure: Figure, show: Display, muted: str) -> str:
    why, value = figure.why, show.text(figure.value, figure.unit)
    if why.formula is None:
        said = f"{escape(why.method)}: {value}"
    else:
        numbers = why.formula.in_numbers({g.symbol: escape(show.text(g.value, g.unit)) for g in why.inputs})
        said = f"{why.formula.in_symbols()} = {numbers} = {escape(value)}"
        named = "; ".join(f"{symbol(g.symbol)} {escape(g.label)}" for g in why.inputs)
        said += f"<br><span style='color: {muted}'>{named}</span>"
    return f"<p style='margin: 2px 0 2px 18px'><b>{escape(figure.label)}</b>: {said}</p>"


def anchor(key: str) -> str:
    """Where a chapter stands on the page."""
    return key.replace(" ", "-")
