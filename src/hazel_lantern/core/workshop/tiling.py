"""Templates larger than a page: which pages show which window of them, and what corrects a printer."""

from __future__ import annotations

import math

import numpy as np
from msgspec import Struct

from hazel_lantern.core.nouns.check import not_negative, positive
from hazel_lantern.core.nouns.errors import InputError

A4, LETTER = (0.210, 0.297), (0.2159, 0.2794)  # metres, upright
MARGIN, OVERLAP = 0.010, 0.015  # metres
FURTHEST = 0.05  # that a printer's scale may be off


class Tiling(Struct, frozen=True):
    """Columns and rows of pages, whether they lie on their side, and the printable window of each [m]; `overlap` is
    shown on both neighbours.
    """

    columns: int
    rows: int
    turned: bool
    window: tuple[float, float]
    overlap: float

    @property
    def pages(self) -> int:
        return self.columns * self.rows

    def corner(self, column: int, row: int) -> tuple[float, float]:
        """The lower left corner of a page's window on the template [m]."""
        return column * (self.window[0] - self.overlap), row * (self.window[1] - self.overlap)


def tiling(
    wide: float, high: float, page: tuple[float, float] = A4, margin: float = MARGIN, overlap: float = OVERLAP
) -> Tiling:
    """The fewest pages, upright where both ways take as many.

    wide, high: of the template [m]
    page: width and height, upright [m]
    margin: on every side that nothing is printed on [m]
    overlap: shown twice, on both of two neighbours [m]

    Returns: the pages. Raises: InputError, also for a page that nothing fits on. Source: drive 9.
    """
    positive(w=wide, h=high, page_wide=page[0], page_high=page[1])
    not_negative(margin=margin, overlap=overlap)
    found = []
    for turned in (False, True):
        window = tuple(side - 2 * margin for side in (page[::-1] if turned else page))
        if min(window) <= overlap:
            raise InputError(
                "overlap",
                overlap,
                f"a page of {page[0] * 1e3:g} × {page[1] * 1e3:g} mm shows nothing new beside it: "
                f"less than {max(0.0, min(window)) * 1e3:g} mm, or a larger page",
            )
        columns, rows = (
            max(1, math.ceil((long - overlap) / (side - overlap) - 1e-9))
            for long, side in zip((wide, high), window, strict=True)
        )
        found.append(Tiling(columns, rows, turned, (window[0], window[1]), overlap))
    return min(found, key=lambda one: one.pages)


def corrected(scale: float, measured: float, nominal: float) -> float:
    """The scale that makes a printer true.

    scale: it printed with [-]
    measured: length of the bar on paper [m]
    nominal: what it stands for [m]

    Returns: the scale to print with next [-]. Raises: InputError for one further off than a printer is: it fits to the
    page. Source: drive 9.
    """
    positive(scale=scale, measured=measured, nominal=nominal)
    better = scale * nominal / measured
    if abs(better - 1) > FURTHEST + 1e-9:
        raise InputError(
            "measured",
            measured,
            f"is {measured / nominal:.1%} of the bar: between {1 / (1 + FURTHEST):.1%} and {1 / (1 - FURTHEST):.1%} "
            "is a printer's; turn off “fit to page”",
        )
    return better


def crosses(made: Tiling) -> list[tuple[float, float]]:
    """Places that neighbours share: the middle of every overlap, half-way along it [m].

    made: the pages

    Returns: (x, y) on the template, each shown on both neighbours. Source: drive 9.
    """
    found = []
    w, h = made.window
    for row in range(made.rows):
        for column in range(made.columns):
            x, y = made.corner(column, row)
            if column + 1 < made.columns:
                found += [(x + w - made.overlap / 2, y + share * h) for share in (0.25, 0.75)]
            if row + 1 < made.rows:
                found += [(x + share * w, y + h - made.overlap / 2) for share in (0.25, 0.75)]
    return list(map(tuple, np.unique(np.round(found, 9), axis=0))) if found else []
