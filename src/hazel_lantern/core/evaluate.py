"""Document, rig and shot in, everything everyone shows out: one pure function built from memoised chapters."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from msgspec.structs import replace

from hazel_lantern.core.answers import Evaluation, Moments, Outline, Readings
from hazel_lantern.core.case import Case, case_of
from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import Project
from hazel_lantern.core.document.shot import PARAMETERS
from hazel_lantern.core.driving import chapters as driving
from hazel_lantern.core.driving.driven import Broken, Driven
from hazel_lantern.core.driving.gearbox import Box
from hazel_lantern.core.editing.bindings import declared_of
from hazel_lantern.core.editing.built import provenance
from hazel_lantern.core.kinds import KINDS, Kind
from hazel_lantern.core.kinds.base import Changes, reads
from hazel_lantern.core.memo import Kept, Memo
from hazel_lantern.core.nouns.errors import GeometryError, InputError
from hazel_lantern.core.nouns.figure import Figure, Given
from hazel_lantern.core.nouns.finding import CLEAR, RANK, STOP, STRUCTURE, Finding, Remedy
from hazel_lantern.core.nouns.quantity import Choice
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.proving.told import findings as proved
from hazel_lantern.core.proving.told import tests_of
from hazel_lantern.core.reading import REFUSALS, Error, Failed
from hazel_lantern.core.rolling.cautions import headline as rolling
from hazel_lantern.core.stations import DRIVE, PROVE, ROLL
from hazel_lantern.core.workshop.building import Built, build_figures, cuts_of, too_long
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.plan import Exact, Order, SectionPlan

IMPOSSIBLE = "rig.impossible"  # the finding of a rig that cannot be built as it stands


def outline(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    shot_id: str = "",
    memo: Memo | None = None,
    *,
    on_set: bool = True,
) -> Outline:
    """The rig as a mechanism, and where it stands unless it is drawn without its set; raises InputError for broken
    references.
    """
    return Outline(
        **_outlined(case_of(project, catalogue, rig_id, shot_id, memo or Memo(), suggest=False), on_set=on_set)
    )


def _outlined(case: Case, *, on_set: bool = True) -> dict[str, Any]:
    """The fields of an outline."""
    reader, kind = case.reader, case.kind
    names = dict.fromkeys(
        (
            *(("scene", "staged") if on_set else ()),
            *(("zone",) if on_set and kind.falls is not None else ()),
            "model",
            "path",
            "kit",
            "own_kit",
            "others",
            *(n for n in reads(kind.sketch) if n not in ("pose", "view", "figures")),
        )
    )
    known = {name: reader.get(name).value for name in names}
    problem = next((value.error for value in known.values() if isinstance(value, Failed)), None)
    known = {name: value for name, value in known.items() if not isinstance(value, Failed)}
    return {
        "rig": case.rig,
        "shot": case.shot,
        "stage": case.stage,
        "kind": kind,
        "catalogue": case.catalogue,
        "carried": known["kit"],
        "others": known["others"],
        "known": known,
        "moments": Moments(reader),
        "problem": problem,
    }


def perform(
    project: Project, catalogue: Catalogue, rig_id: str, station: str, shot_id: str = "", memo: Memo | None = None
) -> Changes:
    """The changes that carry out a station's main action. Raises InputError where the kind has none there, and what
    stands in the action's way.
    """
    actions = {action.station: action for action in KINDS[declared_of(project.rig(rig_id)).id].actions}
    if station not in actions:
        raise InputError("action", repr(station), "this kind acts at: " + ", ".join(actions))
    changes: Changes = ask(project, catalogue, rig_id, actions[station].run, shot_id, memo)
    return changes


def ask(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    work: Callable[..., Any],
    shot_id: str = "",
    memo: Memo | None = None,
) -> Any:
    """What a function makes of the names it asks for, of a rig and its shot. Raises InputError for broken references,
    and what keeps a name from being worked out.
    """
    return case_of(project, catalogue, rig_id, shot_id, memo or Memo(), suggest=False).reader.call(work)


def evaluate(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    shot_id: str = "",
    memo: Memo | None = None,
    *,
    suggest: bool = False,
    exact: Exact | None = None,
    built: bool = False,
) -> Evaluation:
    """Everything about one rig for one shot, the first it serves where none is named; with `suggest` also remedies,
    not tried yet; `built` as it was measured.

    `exact` holds cutting plans that were searched to the end, by what was ordered: where one is known it stands in
    place of the quick plan.
    A design that cannot work is a stop, not an error. Raises InputError only for broken references.
    """
    memo = memo or Memo()
    case = case_of(project, catalogue, rig_id, shot_id, memo, suggest=suggest, built=built)
    reader, kind = case.reader, case.kind
    drawn = _outlined(case)
    told, failed = reader.tell(case.told)
    laid = reader.get("laid")
    if isinstance(laid.value, Failed):
        failed = [*failed, laid.value.error] if str(laid.value.error) not in map(str, failed) else failed
        laid = Kept(0, Laid())
    order = reader.get("order")
    order = Kept(0, Order(())) if isinstance(order.value, Failed) else order
    known = (exact or {}).get(order.value)
    cuts = (
        memo.source("exact", known)
        if known is not None
        else memo.step("cuts", order.version, lambda: cuts_of(order.value))
    )
    drives = reader.get("driven_bought") if case.rig.drives else Kept(0, ())
    drives = Kept(0, ()) if isinstance(drives.value, Failed) else drives
    box = reader.get("gearbox") if case.rig.drives else Kept(0, Box())
    box = Kept(0, Box()) if isinstance(box.value, Failed) else box

    def made() -> Built:
        every = replace(laid.value, parts=laid.value.parts + box.value.parts)
        return build_figures(every, cuts.value, drives.value, project.hire, project.carry)

    terms = memo.source("terms", (project.hire, project.carry)).version
    making = memo.step("build", (laid.version, cuts.version, drives.version, box.version, terms), made)
    figures = {figure.key: _sourced(figure, case) for part in (*told, making.value.told) for figure in part.figures}
    curves = {curve.key: curve for part in told for curve in part.curves}
    findings = [finding for part in told for finding in part.findings]
    if failed:
        findings.append(_impossible(case.kind, failed, built="model" in drawn["known"]))
    findings += _come_along(case, laid.value, making.value.told.findings, suggest=suggest)
    findings += _too_long(case, laid.value, cuts.value, suggest=suggest)
    worked_out = Evaluation(
        **drawn,
        figures=figures,
        curves=curves,
        findings=_sorted(findings),
        laid=laid.value,
        order=order.value,
        cuts=cuts.value,
        lines=making.value.lines,
        measured=case.measured,
        readings=Readings(reader, tuple(kind.readings) if "model" in drawn["known"] else ()),
        driven=_driven(case),
        box=box.value,
        headlines=_headlines(case, figures),
        fouls=() if isinstance(reader.get("fouls").value, Failed) else reader.get("fouls").value,
    )
    whole = replace(worked_out, findings=_sorted([*worked_out.findings, *proved(worked_out)]))
    return replace(whole, headlines={**whole.headlines, ROLL: rolling(whole)}) if whole.headlines else whole


def _driven(case: Case) -> tuple[Driven | Broken, ...]:
    """The driven axes put together; none where nothing is driven, or the rig cannot be built."""
    found = case.reader.get("driven").value if case.rig.drives else ()
    return () if isinstance(found, Failed) else tuple(found)


def _sourced(figure: Figure, case: Case) -> Figure:
    """The figure, each input that was measured saying so; what only follows from a measured value does not."""
    rows = case.measured
    if not any(given.ref in rows for given in figure.why.inputs):
        return figure

    def sourced(given: Given) -> Given:
        row = rows.get(given.ref)
        return (
            given if row is None or given.value != row.value else replace(given, measured=provenance(row, given.unit))
        )

    return replace(figure, why=replace(figure.why, inputs=tuple(map(sourced, figure.why.inputs))))


def _sorted(findings: list[Finding]) -> tuple[Finding, ...]:
    """Worst first."""
    return tuple(sorted(findings, key=lambda f: (-RANK[f.state], -min(f.use, 1e9))))


def _headlines(case: Case, figures: dict[str, Figure]) -> dict[str, Words]:
    """One line for each station; none where what they case cannot be worked out."""
    try:
        lines: dict[str, Words] = case.reader.call(case.kind.headlines, figures=figures)
    except REFUSALS:
        return {}
    lines = {**lines, PROVE: _proved(case)}
    return {**lines, DRIVE: driving.headline(case.kind, case.rig.drives, _driven(case))} if case.kind.axes else lines


def _proved(case: Case) -> Words:
    """How many of its tests were read."""
    every = tests_of(case.kind, case.reader.get("design").value, driven=bool(case.rig.drives))
    read = {row.test for row in case.rig.proofs if not row.struck}
    return Words(f"{sum(key in read for key in every)} of {len(every)} tests")


def _impossible(kind: Kind, errors: list[Error], *, built: bool) -> Finding:
    """What stands in the way; it leads to an input where the first error names one that can be set."""
    title = "Cannot be worked out" if built else "Cannot be built like this"
    settable = {p.key for p in (*kind.parameters, *PARAMETERS)}
    where = next((error.field for error in errors if isinstance(error, InputError) and error.field in settable), "")
    texts = [str(error) for error in errors]
    words = " ".join(f"{text[0].upper()}{text[1:]}." for text in texts).replace("{", "(").replace("}", ")")
    mends = [mend for error in errors if isinstance(error, GeometryError) for mend in error.mends]
    remedies = tuple(
        Remedy(f"mend_{n}", Words(mend.words, tuple((long, "m") for long in mend.lengths)), mend.changes)
        for n, mend in enumerate(mends)
    )
    return Finding(IMPOSSIBLE, title, STRUCTURE, STOP, where, Words(words), remedies=remedies)


def _come_along(case: Case, laid: Laid, found: tuple[Finding, ...], *, suggest: bool) -> list[Finding]:
    """Findings about making; kinds that can join a piece that is too long to come along say how."""
    joined, long = case.kind.joined, max(laid.parts, key=lambda part: part.length, default=None)
    if not suggest or joined is None or long is None:
        return list(found)
    over = next((one for one in found if one.key == "build.in_car" and one.state != CLEAR), None)
    if over is None:
        return list(found)
    pieces = case.reader.call(joined, part=long, sold=over.limit)
    return [replace(one, remedies=pieces) if one is over else one for one in found]


def _too_long(case: Case, laid: Laid, cuts: tuple[SectionPlan, ...], *, suggest: bool) -> tuple[Finding, ...]:
    """A piece longer than any bar sold: some kinds can join it."""
    found = too_long(laid.parts, cuts)
    if found is None:
        return ()
    part, sold, finding = found
    values, joined = case.rig.design, case.kind.joined
    where = next(
        (
            p.key
            for p in case.kind.parameters
            if isinstance(p, Choice) and p.table == "sections" and values.get(p.key) == part.section
        ),
        "build.pieces",
    )
    finding = replace(finding, where=where)
    return (
        replace(finding, remedies=case.reader.call(joined, part=part, sold=sold))
        if suggest and joined is not None
        else finding,
    )


def over_shots(
    project: Project,
    catalogue: Catalogue,
    rig_id: str,
    memo: Memo | None = None,
    *,
    suggest: bool = False,
    exact: Exact | None = None,
    built: bool = False,
) -> Evaluation:
    """A rig over all the shots it serves: the first shot's evaluation, each finding as it is in the shot where it is
    worst, and that shot named.
    """
    memo = memo or Memo()
    shots = project.rig(rig_id).shots
    every = [
        evaluate(project, catalogue, rig_id, shot, memo, suggest=suggest, exact=exact, built=built)
        for shot in shots or ("",)
    ]
    if len(every) == 1:
        return every[0]
    merged: dict[str, Finding] = {}
    for result in every:
        for finding in result.findings:
            held = merged.get(finding.key)
            if held is None or (RANK[finding.state], finding.use) > (RANK[held.state], held.use):
                merged[finding.key] = replace(finding, shot=result.shot.name)
    return replace(every[0], findings=_sorted(list(merged.values())))
