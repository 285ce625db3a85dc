"""A rig to be shown to others, as Markdown: what it does, what it is made of, what it cost, what was learnt."""

from __future__ import annotations

from hazel_lantern.core.answers import Evaluation
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.told import told
from hazel_lantern.core.workshop.cost import total
from hazel_lantern.files.build_sheet import STATEMENT


def markdown(project: Project, result: Evaluation, show: Display) -> bytes:
    """Figures that head their stations, parts, costs, tests, open findings and the log. Raises InputError of a rig that
    cannot be built.
    """
    if not result.parts:
        raise InputError("rig", result.rig.id, "has no parts to share: " + result.findings[0].sentence.text(show))
    lines = [f"# {_plain(result.rig.name)}", "", f"{_plain(project.name)}, for “{_plain(result.shot.name)}”.", ""]
    main = [figure for figure in result.figures.values() if figure.headline]
    lines += [
        "## In figures",
        "",
        *(
            f"- {_plain(one.label)}: {_plain(show.text(float(one.value), one.unit))}"
            for one in main
            if isinstance(one.value, (int, float))
        ),
    ]
    lines += ["", "## Parts", "", "| Mark | Part | Cut from | Pieces | Length |", "|---|---|---|---|---|"]
    lines += [
        f"| {p.mark} | {_plain(p.name)} | {_plain(p.solid.cut_from)} | {p.quantity} | "
        f"{show.text(p.length, 'm', fine=True)} |"
        for p in result.parts
    ]
    lines += ["", f"## Bought for {show.text(total(result.lines), 'currency')}", ""]
    lines += [f"- {line.quantity} × {_plain(line.words(show))}" for line in result.lines]
    read = [one for one in told(result) if one.outcome is not None]
    if read:
        lines += ["", "## Tested", ""]
        lines += [f"- {one.trial.name}: {_plain(one.outcome.words.text(show))}" for one in read if one.outcome]
    bad = [finding for finding in result.findings if finding.state != CLEAR]
    if bad:
        lines += ["", "## Still to be looked at", ""]
        lines += [f"- {f.state}: {_plain(f.title)}. {_plain(f.sentence.text(show))}" for f in bad]
    notes = [one for one in project.log if one.rig in ("", result.rig.id)]
    if notes:
        lines += ["", "## Log", "", *(f"- {one.day}: {_plain(one.text)}" for one in notes)]
    return ("\n".join([*lines, "", STATEMENT]) + "\n").encode()


def _plain(words: str) -> str:
    """Words that mean nothing to Markdown."""
    for sign in "\\`*_[]<>#|":
        words = words.replace(sign, "\\" + sign)
    return words.replace("\n", " ")
