"""Two rigs of the project on one page: what differs stands out."""

from __future__ import annotations

from html import escape
from typing import TYPE_CHECKING

from PyQt6.QtWidgets import QInputDialog

from hazel_lantern.core import comparison
from hazel_lantern.core.evaluate import STATIONS, Evaluation, evaluate
from hazel_lantern.core.figure import Figure
from hazel_lantern.core.units import Display
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import NAMES

if TYPE_CHECKING:
    from hazel_lantern.desktop.shell.window import Window


class Compare:
    """Asks which other rig, and shows both."""

    def __init__(self, window: Window) -> None:
        self._window = window

    def compare(self) -> None:
        """This rig beside another: one of its own kind first."""
        session = self._window.session
        here = session.evaluation
        others = [rig for rig in session.project.rigs if rig.id != session.rig_id]
        if here is None or not others:
            self._window.tell("There is no other rig to compare with; keep this one as an alternative first.")
            return
        others.sort(key=lambda rig: rig.kind != here.rig.kind)
        if len(others) > 1:
            name, said = QInputDialog.getItem(self._window, "Compare", f"{here.rig.name} beside", [rig.name for rig in others], 0, False)
            if not said:
                return
            others = [rig for rig in others if rig.name == name]
        there = evaluate(session.project, session.catalogue, others[0].id)
        self._window.pages.open(f"{here.rig.name} beside {there.rig.name}", page(here, there, session.display, self._window.theme))


def page(one: Evaluation, other: Evaluation, show: Display, theme: Theme) -> str:
    """Both rigs as a page: findings that differ, then every figure, differences in lantern colour."""
    t = theme.tokens

    def cell(text: str, differs: bool) -> str:
        return f"<td align=right style='padding: 1px 12px'>{f'<b style=color:{t.lantern}>{escape(text)}</b>' if differs else escape(text)}</td>"

    def value(figure: Figure | None) -> str:
        return "—" if figure is None else show.text(figure.value, figure.unit)

    def head(words: str) -> str:
        return f"<tr><td style='padding-top: 10px; color: {t.lantern}'><b>{words}</b></td><td align=right style='padding: 10px 12px 1px'>{escape(one.rig.name)}</td><td align=right style='padding: 10px 12px 1px'>{escape(other.rig.name)}</td></tr>"

    rows = [head("Findings")]
    for verdict in comparison.findings(one, other):
        if verdict.differs:
            rows.append(
                f"<tr><td>{escape(verdict.title)}</td>{cell(NAMES[verdict.one] if verdict.one else '—', True)}{cell(NAMES[verdict.other] if verdict.other else '—', True)}</tr>"
            )
    same = sum(not v.differs for v in comparison.findings(one, other))
    rows.append(f"<tr><td colspan=3 style='color: {t.muted}'>{same} are the same</td></tr>")
    names = dict(STATIONS)
    station = ""
    for pair in comparison.figures(one, other):
        if pair.station != station:
            station = pair.station
            rows.append(head(names[station]))
        rows.append(f"<tr><td>{escape(pair.label)}</td>{cell(value(pair.one), pair.differs)}{cell(value(pair.other), pair.differs)}</tr>")
    return f"<table cellspacing=0 width='100%'>{''.join(rows)}</table>"
