"""Rigs of the project, or the shots of one, on one page: what differs stands out."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from html import escape

from PyQt6.QtWidgets import QInputDialog

from hazel_lantern.core.advice import comparison
from hazel_lantern.core.advice.schools import Schools, ways
from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.figure import Figure
from hazel_lantern.core.nouns.progress import Progress
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.stations import STATIONS
from hazel_lantern.desktop.shell.pages import Pages
from hazel_lantern.desktop.shell.voice import Voice
from hazel_lantern.desktop.theme.theme import Theme
from hazel_lantern.desktop.widgets.glyphs import NAMES
from hazel_lantern.session.jobs import Job
from hazel_lantern.session.session import Session

MOST = 5  # shots side by side
NAMES_WIDE = (60, 52, 46, 40, 36, 33, 30, 28, 26)  # of a table [%], by how many figures stand beside the names


class Compare:
    """Asks which other rig, and shows both."""

    def __init__(self, session: Session, theme: Theme, voice: Voice, pages: Callable[[], Pages]) -> None:
        self._session, self._theme, self._voice, self._pages = session, theme, voice, pages
        self._trying = Job(voice.over)
        self._trying.stepped.connect(self._tried)
        self._trying.failed.connect(lambda error: self._voice.tell(f"The ways could not be tried: {error}"))

    def compare(self) -> None:
        """This rig beside another: one of its own kind first."""
        session = self._session
        here = session.evaluation
        others = [rig for rig in session.shown.rigs if rig.id != session.rig_id]
        if here is None or not others:
            self._voice.tell("There is no other rig to compare with; keep this one as an alternative first.")
            return
        others.sort(key=lambda rig: rig.kind != here.rig.kind)
        if len(others) > 1:
            name, said = QInputDialog.getItem(
                self._voice.over, "Compare", "Beside which rig?", [rig.name for rig in others], 0, False
            )
            if not said:
                return
            others = [rig for rig in others if rig.name == name]
        there = evaluate(session.shown, session.catalogue, others[0].id)
        self._pages().open(
            f"{here.rig.name} beside {there.rig.name}",
            page((here, there), (here.rig.name, there.rig.name), session.display, self._theme, all_of_it=True),
        )

    def shots(self) -> None:
        """All shots that this rig serves, side by side."""
        session = self._session
        here = session.evaluation
        if here is None or len(here.rig.shots) < 2:
            self._voice.tell("This rig serves one shot only; copy it, or pick another for it at Shot.")
            return
        memo = Memo()
        those = [evaluate(session.shown, session.catalogue, here.rig.id, key, memo) for key in here.rig.shots[:MOST]]
        left = len(here.rig.shots) - len(those)
        more = f"<p>{left} more of its shots are not shown.</p>" if left else ""
        made = page(those, [one.shot.name for one in those], session.display, self._theme, all_of_it=False)
        self._pages().open(f"Shots of {here.rig.name}", made + more)

    def ways(self) -> None:
        """Choices on which good builders differ, each tried on this rig."""
        session = self._session
        result = session.evaluation
        if result is None or not result.kind.schools:
            self._voice.tell("Nothing is recorded of this kind on which builders differ.")
            return
        project, shelf, rig, shot = session.project, session.catalogue, session.rig_id, session.shot_id
        self._pages().open(f"Where builders differ: {result.rig.name}", "<p>Trying each way on this rig…</p>")
        self._trying.start(lambda: ways(project, shelf, rig, shot))

    def _tried(self, step: Progress[Schools]) -> None:
        """Schools as far as they were tried; closing the page ends it."""
        if not self._pages().isVisible():
            self._trying.cancel()
            return
        left = f"<p>{step.done} of {step.total} tried…</p>" if step.done < step.total else ""
        self._pages().fill(ways_page(step.answer or (), self._session.display, self._theme) + left)

    def finish(self) -> None:
        """Stop trying."""
        self._trying.finish()


def _whole(words: str) -> str:
    """Kept on one line."""
    return escape(words).replace(" ", "&nbsp;")


def ways_page(schools: Schools, show: Display, theme: Theme) -> str:
    """Each school as a table: its ways, what they cost and give in words and in figures; the way taken now stands
    out.
    """
    t = theme.tokens
    rows = [
        f"<p style='color: {t.muted}'>Good builders differ on these. Each way was tried on this rig as it stands, "
        "nothing was changed.</p>"
    ]
    for title, found in schools:
        # Only what tells the ways apart.
        keys = [
            key
            for key in dict.fromkeys(key for way in found for key in way.figures)
            if len({show.text(w.figures[key].value, w.figures[key].unit) if key in w.figures else "" for w in found})
            > 1
        ]
        heads = [next(w.figures[k].label for w in found if k in w.figures) for k in keys]
        names = NAMES_WIDE[min(len(keys), len(NAMES_WIDE) - 1)]
        each = (97 - names) // (len(keys) + 1)
        # Room beside a cell's words is the table's: that of a cell's own style is left out where columns are measured.
        rows.append(
            f"<h3 style='color: {t.lantern}; margin: 12px 0 2px 0'>{escape(title)}</h3>"
            f"<table cellspacing=0 cellpadding=4 width='100%'><tr><td width='{names}%'></td>"
            + "".join(
                f"<td align=right width='{each}%' style='color: {t.muted}'>{escape(head)}</td>"
                for head in (*heads, "Findings")
            )
            + "</tr>"
        )
        for way in found:
            name = escape(way.name)
            name = f"<b style='color: {t.lantern}'>{name}, now</b>" if way.taken else f"<b>{name}</b>"
            counted = [_whole(f"{n} {word}") for n, word in ((way.stops, "stop"), (way.watches, "watch")) if n]
            cells = [
                _whole(show.text(way.figures[k].value, way.figures[k].unit)) if k in way.figures else "—" for k in keys
            ]
            rows.append(
                f"<tr><td>{name}<br><span style='color: {t.muted}'>{escape(way.words)}</span></td>"
                + "".join(f"<td align=right>{cell}</td>" for cell in (*cells, ", ".join(counted) or "clear"))
                + "</tr>"
            )
        rows.append("</table>")
    return "".join(rows)


def page(those: Sequence[Evaluation], heads: Sequence[str], show: Display, theme: Theme, *, all_of_it: bool) -> str:
    """Several evaluations as a page: findings that differ, then the figures, differences in lantern colour; figures
    that are the same in each are left out unless all of it is wanted.
    """
    t = theme.tokens

    def cell(text: str, differs: bool) -> str:
        return (
            "<td align=right style='padding: 1px "
            f"12px'>{f'<b style=color:{t.lantern}>{escape(text)}</b>' if differs else escape(text)}</td>"
        )

    def value(figure: Figure | None) -> str:
        return "—" if figure is None else show.text(figure.value, figure.unit)

    def head(words: str) -> str:
        names = "".join(f"<td align=right style='padding: 10px 12px 1px'>{escape(name)}</td>" for name in heads)
        return f"<tr><td style='padding-top: 10px; color: {t.lantern}'><b>{words}</b></td>{names}</tr>"

    rows, verdicts = [head("Findings")], comparison.findings(those)
    for verdict in verdicts:
        if verdict.differs:
            cells = "".join(cell(NAMES[state] if state else "—", True) for state in verdict.each)
            rows.append(f"<tr><td>{escape(verdict.title)}</td>{cells}</tr>")
    wide, same = len(heads) + 1, sum(not verdict.differs for verdict in verdicts)
    rows.append(f"<tr><td colspan={wide} style='color: {t.muted}'>{same} are the same</td></tr>")
    names = {station.key: station.name for station in STATIONS}
    station, left_out = "", 0
    for row in comparison.figures(those):
        texts = [value(figure) for figure in row.each]
        if len(set(texts)) == 1 and not all_of_it:
            left_out += 1
            continue
        if row.station != station:
            station = row.station
            rows.append(head(names[station]))
        cells = "".join(cell(text, text != texts[0] or texts.count(text) < len(texts)) for text in texts)
        rows.append(f"<tr><td>{escape(row.label)}</td>{cells}</tr>")
    if left_out:
        rows.append(f"<tr><td colspan={wide} style='color: {t.muted}'>{left_out} figures are the same</td></tr>")
    return f"<table cellspacing=0 width='100%'>{''.join(rows)}</table>"
