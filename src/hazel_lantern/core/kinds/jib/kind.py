"""Jibs and cranes: an arm that swings a camera up and down on a post."""

from __future__ import annotations

from msgspec.structs import asdict

from hazel_lantern.core.kinds.base import Action, Context, Kind, Report, View
from hazel_lantern.core.kinds.jib.design import DECLARED
from hazel_lantern.core.kinds.jib.drawing import draw
from hazel_lantern.core.kinds.jib.hang import balance_figures, balance_it, drift, plates_finding
from hazel_lantern.core.kinds.jib.headlines import headlines
from hazel_lantern.core.kinds.jib.kits import SCHOOLS, TOLD_APART_BY, loading, swaps
from hazel_lantern.core.kinds.jib.levelling import pair_figures
from hazel_lantern.core.kinds.jib.model import Jib, build, lens, members, path
from hazel_lantern.core.kinds.jib.parts import joined, parts
from hazel_lantern.core.kinds.jib.reach import rig_figures, shot_figures, size_it, used_angles
from hazel_lantern.core.kinds.jib.standing import footing_figures, safe_map
from hazel_lantern.core.kinds.jib.strength import strength_figures


def _report(context: Context, jib: Jib, report: Report) -> None:
    shot_figures(context, jib, report)
    rig_figures(context, jib, report)
    strength_figures(context, jib, report)
    balance_figures(context, jib, report)
    plates_finding(context, jib, report)
    footing_figures(context, jib, report)
    pair_figures(context, jib, report, used_angles(context, jib))


KIND = Kind(
    **asdict(DECLARED),
    views=(View("side", "Side"), View("above", "Above")),
    actions=(Action("rig", "Size it for me", size_it), Action("balance", "Balance it for me", balance_it),),
    model=build, report=_report, path=path, lens=lens, members=members, sketch=draw, parts=parts, headlines=headlines, drift=drift,
    safe=safe_map, swaps=swaps, loading=loading, schools=SCHOOLS, told_apart_by=TOLD_APART_BY, joined=joined,
)  # fmt: skip
