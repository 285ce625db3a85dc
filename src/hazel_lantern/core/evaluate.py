"""Document, rig and shot in, everything everyone shows out: one pure function built from memoised chapters."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any

import numpy as np
from msgspec import Struct
from msgspec.structs import replace

from hazel_lantern.core.catalogue import Catalogue
from hazel_lantern.core.document.project import FilmSet, Kit, Measured, Offcut, Project, Rig, Shot
from hazel_lantern.core.document.shot import PARAMETERS
from hazel_lantern.core.editing.bindings import declared_of
from hazel_lantern.core.editing.built import overlaid, provenance, standing
from hazel_lantern.core.kinds import KINDS, Kind
from hazel_lantern.core.kinds.base import Carried, Changes, Chapter, Design, OtherKit, Owned, Path, reads
from hazel_lantern.core.mechanics.payload import payload
from hazel_lantern.core.memo import Kept, Memo
from hazel_lantern.core.motion.wanted import Move, Optics
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.figure import Curve, Figure, Given
from hazel_lantern.core.nouns.finding import RANK, STOP, STRUCTURE, Finding, worst
from hazel_lantern.core.nouns.quantity import Choice
from hazel_lantern.core.nouns.sketch import Sketch
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.nouns.words import Words
from hazel_lantern.core.reading import REFUSALS, Error, Failed, Reader
from hazel_lantern.core.staging.chapters import chapters
from hazel_lantern.core.staging.head import lens_on_mount
from hazel_lantern.core.staging.moves import Scene, Staged, subject
from hazel_lantern.core.staging.picture import picture
from hazel_lantern.core.staging.plan import behind, plan
from hazel_lantern.core.stations import RIG, SHOT
from hazel_lantern.core.workshop.building import build_figures, cuts_of, too_long
from hazel_lantern.core.workshop.cost import Line
from hazel_lantern.core.workshop.laid import Laid
from hazel_lantern.core.workshop.part import Part
from hazel_lantern.core.workshop.plan import Exact, Order, SectionPlan, order_of

READING = "reading."
SET, SIDE, LENS = "set", "set-side", "lens"
SET_VIEWS = ((SET, "Above"), (SIDE, "Side"), (LENS, "Lens"))


class Moments:
    """The rig staged at single moments: a bounded step of the memo, so that plan and picture of one moment stage it once."""

    def __init__(self, reader: Reader) -> None:
        self._reader = reader

    def at(self, scene: Scene, share: float) -> Staged:
        """The moment at a share of the move. Raises InputError when there is no picture of it."""
        staged: Staged = self._reader.kept("moment", (self._reader.get("scene").version, share), lambda: scene.now(share))
        return staged


class Outline(Struct, frozen=True):
    """A rig on its set, before anything is worked out of it: what a drag draws. `known` holds by name what its drawings read, the model only where it can be built."""

    rig: Rig
    shot: Shot
    stage: FilmSet
    kind: Kind
    catalogue: Catalogue
    carried: Carried
    others: tuple[OtherKit, ...]
    known: Mapping[str, Any]
    moments: Moments
    problem: Error | None

    @property
    def model(self) -> Any:
        """The rig as a mechanism; None when it cannot be built."""
        return self.known.get("model")

    @property
    def path(self) -> Path:
        found: Path = self.known["path"]
        return found

    @property
    def scene(self) -> Scene:
        """The rig on its set; raises InputError when there is no picture of it."""
        found = self.known["scene"]
        if isinstance(found, str):
            raise InputError("shot.target", self.shot.target, found)
        assert isinstance(found, Scene)
        return found

    @property
    def staged(self) -> Staged:
        """The usual moments of the move; raises InputError when there is no picture of it."""
        found = self.known["staged"]
        if isinstance(found, str):
            raise InputError("shot.target", self.shot.target, found)
        assert isinstance(found, Staged)
        return found

    def poses(self, u: np.ndarray) -> np.ndarray:
        """Poses (n, dof) at shares u of the move."""
        return self.path.at(u)

    def lens_at(self, share: float) -> np.ndarray:
        """Place (3,) of the lens in the rig frame at a share of the move [m]."""
        path = self.path
        return np.asarray(self.kind.mount(path.model, path.at(np.array([share]))).place(path.lens)[0])

    def views(self, station: str) -> tuple[tuple[str, str], ...]:
        """Keys and names of the drawings at a station; the Shot station shows the set."""
        return SET_VIEWS if station == SHOT else tuple((view.key, view.name) for view in self.kind.views)

    def draw(self, share: float, view: str) -> Sketch:
        """A drawing at a share of the move. Raises InputError when the picture cannot be made, as with a camera inside its subject."""
        return self._draw(share, view, {})

    def _draw(self, share: float, view: str, figures: Mapping[str, Figure]) -> Sketch:
        shot, stage, kind = self.shot, self.stage, self.kind
        if view == LENS:
            now = self.moments.at(self.scene, share)
            return picture(shot, stage, kind.members(self.model, now.poses.q), self.staged, now)
        if view == SET:
            now = self.moments.at(self.scene, share)
            return plan(shot, stage, self._sketch(now.poses.q[0], "above", figures), self.staged, now)
        drawn = self._sketch(self.poses(np.array([share]))[0], kind.views[0].key if view == SIDE else view, figures)
        return behind(shot, stage, self.scene.where, drawn) if view == SIDE else drawn

    def _sketch(self, pose: np.ndarray, view: str, figures: Mapping[str, Figure]) -> Sketch:
        known = {**self.known, "pose": pose, "view": view, "figures": figures}
        return self.kind.sketch(**{name: known[name] for name in reads(self.kind.sketch)})


class Readings(Mapping[str, Any]):
    """What stations show beyond figures, by name: worked out when it is asked for, and kept where everything else is kept."""

    def __init__(self, reader: Reader, names: tuple[str, ...]) -> None:
        self._reader, self._names = reader, names

    def __getitem__(self, name: str) -> Any:
        value = self._reader.get(f"{READING}{name}").value if name in self._names else None
        if value is None or isinstance(value, Failed):
            raise KeyError(name)
        return value

    def __contains__(self, name: object) -> bool:
        return name in self._names

    def __iter__(self) -> Iterator[str]:
        return iter(self._names)

    def __len__(self) -> int:
        return len(self._names)


class Evaluation(Outline, frozen=True):
    """What a rig comes to for one shot. When it cannot be built a stop says why, and figures that still exist remain."""

    figures: dict[str, Figure]
    curves: dict[str, Curve]
    findings: tuple[Finding, ...]
    laid: Laid
    order: Order
    cuts: tuple[SectionPlan, ...]
    lines: tuple[Line, ...]
    readings: Readings
    headlines: dict[str, Words]
    measured: Mapping[str, Measured]

    @property
    def basis(self) -> str:
        """Whether measured values stand in place of drawn ones."""
        return "built" if self.measured else "drawn"

    @property
    def parts(self) -> tuple[Part, ...]:
        """What is made for it."""
        return self.laid.parts

    def draw(self, share: float, view: str) -> Sketch:
        return self._draw(share, view, self.figures)

    def headline(self, station: str, show: Display) -> str:
        words = self.headlines.get(station)
        return words.text(show) if words else ""

    def state(self, station: str) -> str | None:
        return worst([f.state for f in self.findings if f.station == station])

    def at(self, station: str) -> tuple[Finding, ...]:
        return tuple(f for f in self.findings if f.station == station)


# What is given


class _Read(Struct):
    """One rig and shot of a document, and the reader that answers for them."""

    rig: Rig
    shot: Shot
    stage: FilmSet
    kind: Kind
    reader: Reader
    catalogue: Catalogue
    told: tuple[str, ...]
    measured: dict[str, Measured]


def _read(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str, memo: Memo, *, suggest: bool, built: bool = False) -> _Read:
    """The names a rig's chapters may read. Raises InputError for broken references, and for a kit without mass.

    The one door for values: `built` puts what was measured in place of what was drawn.
    """
    rig = project.rig(rig_id)
    rows: dict[str, Measured] = {}
    if built and rig.measured:
        drawn = _read(project, catalogue, rig_id, shot_id, memo, suggest=suggest).reader.get("laid").value
        rows = {} if isinstance(drawn, Failed) else standing(rig, drawn)
        rig = replace(rig, design=overlaid(rig.design, rows))
    kit, shot = project.kit_of(rig), project.shot_of(rig, shot_id)
    stage = project.set_of(shot)
    kind = KINDS[declared_of(rig).id]
    looked_at = subject(stage, shot)
    shelf = memo.source("catalogue", catalogue, catalogue.version)
    given = {
        "design": memo.source("design", Design(rig.variant, rig.design, catalogue), (rig.variant, rig.design, catalogue.version)),
        "kit": memo.step("kit", (memo.source("own kit", kit).version,), lambda: _carried(kit)),
        "owned": memo.step("owned", (memo.source("plates", project.plates).version, shelf.version), lambda: _owned(project, catalogue)),
        "others": memo.source("others", tuple(_other_kit(k) for k in project.kits if k.id != kit.id)),
        "move": memo.source("move", Move.of(shot, looked_at)),
        "optics": memo.source("optics", Optics.of(shot)),
        "subject": memo.source("subject", looked_at),
        "suggest": memo.source("suggest", suggest),
        "shot": memo.source("shot", shot),
        "stage": memo.source("stage", stage),
        "aim": memo.source("aim", shot.aim),
        "placing": memo.source("placing", (rig.stands_m, rig.heading_rad)),
        "stock": memo.source("stock", project.stock),
        "kerf": memo.source("kerf", project.kerf_m),
    }  # fmt: skip
    own = tuple(chapter for chapter in kind.chapters if not chapter.only or rig.variant in chapter.only)
    common = chapters(kind)
    readings = (Chapter(f"{READING}{name}", work) for name, work in kind.readings.items())
    reader = Reader(memo, kind.id, given, (kind.model, *own, *common, Chapter("laid", _laid), Chapter("path", _path_of(kind)), Chapter("order", _order), *readings))
    reader.alias("model", kind.model.key)
    return _Read(rig, shot, stage, kind, reader, catalogue, tuple(chapter.key for chapter in (*own, *common)), rows)


def _path_of(kind: Kind):  # type: ignore[no-untyped-def]
    def path(model: Any, move: Move, kit: Carried) -> Path:
        return Path(model, move, lens_on_mount(kit.lens_at_m, move.down), kind.follow)

    return path


def _laid(model: Any) -> Laid:
    laid: Laid = model.laid
    return laid


def _order(laid: Laid, design: Design, stock: tuple[Offcut, ...], kerf: float) -> Order:
    return order_of(laid.parts, stock, design.catalogue, kerf)


def _carried(kit: Kit) -> Carried:
    """The camera kit as a load."""
    items = kit.items
    load = payload(np.array([i.mass_kg for i in items]), np.array([i.at_m for i in items]), np.array([i.mass_pm_kg for i in items]), np.array([i.at_pm_m for i in items]))
    return Carried(load, kit.lens_at_m, kit.socket_depth_m, kit.socket_thread)


def _owned(project: Project, catalogue: Catalogue) -> Owned:
    return tuple((weight.id, catalogue.row("plates", weight.plate, f"plates, {weight.id}")) for weight in project.plates)


def _other_kit(kit: Kit) -> OtherKit:
    mass = sum(item.mass_kg for item in kit.items)
    ahead, aside = (sum(item.mass_kg * item.at_m[axis] for item in kit.items) / mass if mass else 0.0 for axis in (0, 1))
    return OtherKit(kit.id, kit.name, mass, ahead, aside, kit.socket_thread)


def check_rig(project: Project, catalogue: Catalogue, rig_id: str) -> None:
    """Raises InputError when a rig names what is not there, or carries nothing."""
    rig = project.rig(rig_id)
    declared_of(rig)
    project.set_of(project.shot_of(rig))
    _carried(project.kit_of(rig))
    _owned(project, catalogue)


# What it comes to


def outline(project: Project, catalogue: Catalogue, rig_id: str, shot_id: str = "", memo: Memo | None = None, *, on_set: bool = True) -> Outline:
    """The rig as a mechanism, and where it stands unless it is drawn without its set; raises InputError for broken references."""
    return Outline(**_outlined(_read(project, catalogue, rig_id, shot_id, memo or Memo(), suggest=False), on_set=on_set))


def _outlined(read: _Read, *, on_set: bool = True) -> dict[str, Any]:
    """The fields of an outline."""
    reader, kind = read.reader, read.kind
    names = dict.fromkeys((*(("scene", "staged") if on_set else ()), "model", "path", "kit", "others", *(n for n in reads(kind.sketch) if n not in ("pose", "view", "figures"))))
    known = {name: reader.get(name).value for name in names}
    problem = next((value.error for value in known.values() if isinstance(value, Failed)), None)
    known = {name: value for name, value in known.items() if not isinstance(value, Failed)}
    return {
        "rig": read.rig, "shot": read.shot, "stage": read.stage, "kind": kind, "catalogue": read.catalogue, "carried": known["kit"], "others": known["others"],
        "known": known, "moments": Moments(reader), "problem": problem,
    }  # fmt: skip


def perform(project: Project, catalogue: Catalogue, rig_id: str, station: str, shot_id: str = "", memo: Memo | None = None) -> Changes:
    """The changes that carry out a station's main action. Raises InputError where the kind has none there, and what stands in the action's way."""
    actions = {action.station: action for action in KINDS[declared_of(project.rig(rig_id)).id].actions}
    if station not in actions:
        raise InputError("action", repr(station), "this kind acts at: " + ", ".join(actions))
    changes: Changes = ask(project, catalogue, rig_id, actions[station].run, shot_id, memo)
    return changes


def ask(project: Project, catalogue: Catalogue, rig_id: str, work: Callable[..., Any], shot_id: str = "", memo: Memo | None = None) -> Any:
    """What a function makes of the names it asks for, of a rig and its shot. Raises InputError for broken references, and what keeps a name from being worked out."""
    return _read(project, catalogue, rig_id, shot_id, memo or Memo(), suggest=False).reader.call(work)


def evaluate(
    project: Project, catalogue: Catalogue, rig_id: str, shot_id: str = "", memo: Memo | None = None, *, suggest: bool = False, exact: Exact | None = None, built: bool = False,
) -> Evaluation:  # fmt: skip
    """Everything about one rig for one shot, the first it serves where none is named; with `suggest` also remedies, not tried yet; `built` as it was measured.

    `exact` holds cutting plans that were searched to the end, by what was ordered: where one is known it stands in place of the quick plan.
    A design that cannot work is a stop, not an error. Raises InputError only for broken references.
    """
    memo = memo or Memo()
    read = _read(project, catalogue, rig_id, shot_id, memo, suggest=suggest, built=built)
    reader, kind = read.reader, read.kind
    drawn = _outlined(read)
    told, failed = reader.tell(read.told)
    laid = reader.get("laid")
    if isinstance(laid.value, Failed):
        failed = [*failed, laid.value.error] if str(laid.value.error) not in map(str, failed) else failed
        laid = Kept(0, Laid())
    order = reader.get("order")
    order = Kept(0, Order(())) if isinstance(order.value, Failed) else order
    known = (exact or {}).get(order.value)
    cuts = memo.source("exact", known) if known is not None else memo.step("cuts", order.version, lambda: cuts_of(order.value))
    making = memo.step("build", (laid.version, cuts.version), lambda: build_figures(laid.value, cuts.value))
    figures = {figure.key: _sourced(figure, read) for part in (*told, making.value.told) for figure in part.figures}
    curves = {curve.key: curve for part in told for curve in part.curves}
    findings = [finding for part in told for finding in part.findings]
    if failed:
        findings.append(_impossible(read.kind, failed, built="model" in drawn["known"]))
    findings += making.value.told.findings
    findings += _too_long(read, laid.value, cuts.value, suggest=suggest)
    return Evaluation(
        **drawn, figures=figures, curves=curves, findings=_sorted(findings), laid=laid.value, order=order.value, cuts=cuts.value,
        lines=making.value.lines, measured=read.measured, readings=Readings(reader, tuple(kind.readings) if "model" in drawn["known"] else ()), headlines=_headlines(read, figures),
    )  # fmt: skip


def _sourced(figure: Figure, read: _Read) -> Figure:
    """The figure, each input that was measured saying so; what only follows from a measured value does not."""
    rows = read.measured
    if not any(given.ref in rows for given in figure.why.inputs):
        return figure

    def sourced(given: Given) -> Given:
        row = rows.get(given.ref)
        return given if row is None or given.value != row.value else replace(given, measured=provenance(row, given.unit))

    return replace(figure, why=replace(figure.why, inputs=tuple(map(sourced, figure.why.inputs))))


def _sorted(findings: list[Finding]) -> tuple[Finding, ...]:
    """Worst first."""
    return tuple(sorted(findings, key=lambda f: (-RANK[f.state], -min(f.use, 1e9))))


def _headlines(read: _Read, figures: dict[str, Figure]) -> dict[str, Words]:
    """One line for each station; none where what they read cannot be worked out."""
    try:
        lines: dict[str, Words] = read.reader.call(read.kind.headlines, figures=figures)
    except REFUSALS:
        return {}
    return lines


def _impossible(kind: Kind, errors: list[Error], *, built: bool) -> Finding:
    """What stands in the way; it leads to an input where the first error names one that can be set."""
    title = "Cannot be worked out" if built else "Cannot be built like this"
    settable = {p.key for p in (*kind.parameters, *PARAMETERS)}
    where = next((error.field for error in errors if isinstance(error, InputError) and error.field in settable), "")
    texts = [str(error) for error in errors]
    words = " ".join(f"{text[0].upper()}{text[1:]}." for text in texts).replace("{", "(").replace("}", ")")
    return Finding("rig.impossible", title, STRUCTURE, STOP, 1.0, 0.0, "at_most", "count", where, RIG, Words(words))


def _too_long(read: _Read, laid: Laid, cuts: tuple[SectionPlan, ...], *, suggest: bool) -> tuple[Finding, ...]:
    """A piece longer than any bar sold: some kinds can join it."""
    found = too_long(laid.parts, cuts)
    if found is None:
        return ()
    part, sold, finding = found
    values, joined = read.rig.design, read.kind.joined
    where = next((p.key for p in read.kind.parameters if isinstance(p, Choice) and p.table == "sections" and values.get(p.key) == part.section), "build.pieces")
    finding = replace(finding, where=where)
    return (replace(finding, remedies=read.reader.call(joined, part=part, sold=sold)) if suggest and joined is not None else finding,)


def over_shots(
    project: Project, catalogue: Catalogue, rig_id: str, memo: Memo | None = None, *, suggest: bool = False, exact: Exact | None = None, built: bool = False,
) -> Evaluation:  # fmt: skip
    """A rig over all the shots it serves: the first shot's evaluation, each finding as it is in the shot where it is worst, and that shot named."""
    memo = memo or Memo()
    shots = project.rig(rig_id).shots
    every = [evaluate(project, catalogue, rig_id, shot, memo, suggest=suggest, exact=exact, built=built) for shot in shots or ("",)]
    if len(every) == 1:
        return every[0]
    merged: dict[str, Finding] = {}
    for result in every:
        for finding in result.findings:
            held = merged.get(finding.key)
            if held is None or (RANK[finding.state], finding.use) > (RANK[held.state], held.use):
                merged[finding.key] = replace(finding, shot=result.shot.name)
    return replace(every[0], findings=_sorted(list(merged.values())))
