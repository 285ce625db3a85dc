"""Document and rig id in, everything everyone shows out: one pure function built from memoised steps."""

from __future__ import annotations

from collections.abc import Callable, Hashable
from typing import Any, TypeVar

import numpy as np
from msgspec import Struct, field

from hazel_lantern.core.catalogue import Catalogue, Plate
from hazel_lantern.core.changes import declared_of
from hazel_lantern.core.errors import GeometryError, InfeasibleError, InputError, RefusedError, SingularModelError
from hazel_lantern.core.figure import Curve, Figure, Given, by_method
from hazel_lantern.core.finding import BUILD, CLEAR, RANK, STOP, STRUCTURE, WATCH, Finding, Words, worst
from hazel_lantern.core.kinds import KINDS, Context, Kind, Report
from hazel_lantern.core.kinds.base import OtherKit
from hazel_lantern.core.mechanics.payload import Payload, payload
from hazel_lantern.core.project import Kit, Project, Rig
from hazel_lantern.core.sketch import Sketch
from hazel_lantern.core.staging.moves import Staged, at_share
from hazel_lantern.core.staging.picture import picture
from hazel_lantern.core.staging.plan import behind, plan
from hazel_lantern.core.staging.seen import shot_figures
from hazel_lantern.core.units import Display
from hazel_lantern.core.workshop.cost import Line, total
from hazel_lantern.core.workshop.cutting import first_fit
from hazel_lantern.core.workshop.part import Buy, Part
from hazel_lantern.core.workshop.plan import Cutter, SectionPlan, buy_list, plans

SET, SIDE, LENS = "set", "set-side", "lens"
STATIONS = (("shot", "Shot"), ("rig", "Rig"), ("balance", "Balance"), ("travel", "Travel"), ("build", "Build"))
T = TypeVar("T")


class Memo(Struct):
    """The last answer of each step, kept while its inputs stay the same. Belongs to whoever evaluates."""

    kept: dict[str, tuple[Hashable, Any]] = field(default_factory=dict)

    def step(self, name: str, key: Hashable, work: Callable[[], T]) -> T:
        held = self.kept.get(name)
        if held is not None and held[0] == key:
            answer: T = held[1]
            return answer
        made = work()
        self.kept[name] = (key, made)
        return made


class Outline(Struct, frozen=True):
    """A rig as a mechanism, before anything is worked out of it: what a drag draws. `model` is None when it cannot be built; `kept` holds it staged at shares already drawn."""

    rig: Rig
    kind: Kind
    context: Context
    model: Any
    problem: Exception | None
    kept: dict[float, tuple[Staged, int]]

    def path(self, u: np.ndarray) -> np.ndarray:
        return self.kind.path(self.context, self.model, u)

    def lens_at(self, share: float) -> np.ndarray:
        """Place (3,) of the lens in the rig frame at a share of the move [m]."""
        places, _ = self.kind.lens(self.context, self.model, self.path(np.array([share])))
        return np.asarray(places[0])

    def views(self, station: str) -> tuple[tuple[str, str], ...]:
        """Keys and names of the drawings at a station; the Shot station shows the set."""
        if station == "shot":
            return ((SET, "Above"), (SIDE, "Side"), (LENS, "Lens"))
        return tuple((view.key, view.name) for view in self.kind.views)

    def draw(self, share: float, view: str) -> Sketch:
        """A drawing at a share of the move. Raises InputError when the picture cannot be made, as with a camera inside its subject."""
        return self._draw(share, view, Report())

    def _draw(self, share: float, view: str, report: Report) -> Sketch:
        context, kind, model = self.context, self.kind, self.model
        if view in (LENS, SET):
            if share not in self.kept:
                self.kept[share] = at_share(context, kind, model, share)
            seen, k = self.kept[share]
            return picture(context, kind, model, seen, k) if view == LENS else plan(context, kind, model, report, seen, k)
        key = kind.views[0].key if view == SIDE else view
        drawn = kind.sketch(context, model, report, self.path(np.array([share]))[0], key)
        return behind(context, kind, model, drawn) if view == SIDE else drawn


class Evaluation(Outline, frozen=True):
    """What a rig comes to. When it cannot be built a stop says why, and figures that still exist remain."""

    figures: dict[str, Figure]
    curves: dict[str, Curve]
    findings: tuple[Finding, ...]
    parts: tuple[Part, ...]
    bought: tuple[Buy, ...]
    cuts: tuple[SectionPlan, ...]
    lines: tuple[Line, ...]

    def draw(self, share: float, view: str) -> Sketch:
        return self._draw(share, view, Report(self.figures, self.curves))

    def headline(self, station: str, show: Display) -> str:
        words = self.kind.headlines(self.context, Report(self.figures)).get(station)
        return words.text(show) if words else ""

    def state(self, station: str) -> str | None:
        return worst([f.state for f in self.findings if f.station == station])

    def at(self, station: str) -> tuple[Finding, ...]:
        return tuple(f for f in self.findings if f.station == station)


def cuts_key(parts: tuple[Part, ...], project: Project, catalogue: Catalogue) -> Hashable:
    """What a cutting plan depends on."""
    return parts, project.stock, project.kerf_m, catalogue.version


def context_of(project: Project, catalogue: Catalogue, rig_id: str, memo: Memo | None = None) -> Context:
    """What the rig's kind may read; raises InputError for broken references."""
    rig = project.rig(rig_id)
    kit, shot = project.kit_of(rig), project.shot_of(rig)
    stage = project.set_of(shot)
    load, owned, others = (memo or Memo()).step("kits", (kit, project.kits, project.plates, catalogue.version), lambda: _carried(project, catalogue, kit))
    return Context(rig, kit, shot, stage, load, owned, others, catalogue)


def _carried(project: Project, catalogue: Catalogue, kit: Kit) -> tuple[Payload, tuple[tuple[str, Plate], ...], tuple[OtherKit, ...]]:
    """The camera kit as a load, the weights owned, and the other kits."""
    items = kit.items
    load = payload(np.array([i.mass_kg for i in items]), np.array([i.at_m for i in items]), np.array([i.mass_pm_kg for i in items]), np.array([i.at_pm_m for i in items]))
    owned = tuple((weight.id, catalogue.row("plates", weight.plate, f"plates, {weight.id}")) for weight in project.plates)
    return load, owned, tuple(_other_kit(k) for k in project.kits if k.id != kit.id)


def _other_kit(kit: Kit) -> OtherKit:
    mass = sum(item.mass_kg for item in kit.items)
    ahead, aside = (sum(item.mass_kg * item.at_m[axis] for item in kit.items) / mass if mass else 0.0 for axis in (0, 1))
    return OtherKit(kit.id, kit.name, mass, ahead, aside, kit.socket_thread)


REFUSALS = (GeometryError, InfeasibleError, RefusedError, InputError, SingularModelError)


def _built(context: Context) -> Hashable:
    """All that a kind's model depends on: the same objects as before are found the same at once."""
    return context.rig, context.kit, context.owned, context.other_kits, context.catalogue.version


def _read(context: Context, kind: Kind) -> Hashable:
    """All that a kind's report depends on."""
    return _built(context), context.shot, kind.of_set(context) if kind.of_set is not None else None


def outline(project: Project, catalogue: Catalogue, rig_id: str, memo: Memo | None = None) -> Outline:
    """The rig as a mechanism only; raises InputError for broken references."""
    memo = memo or Memo()
    context = context_of(project, catalogue, rig_id, memo)
    kind = KINDS[declared_of(context.rig).id]
    try:
        model = memo.step("model", _built(context), lambda: kind.model(context))
        return Outline(context.rig, kind, context, model, None, {})
    except REFUSALS as error:
        return Outline(context.rig, kind, context, None, error, {})


def _of_rig(context: Context, kind: Kind, model: Any, *, suggest: bool) -> tuple[Report, Exception | None]:
    """What the kind says of its rig, whatever else stands on the set, and why where it cannot all be worked out: what still can be, stands."""
    report = Report(suggest=suggest)
    try:
        kind.report(context, model, report)
    except REFUSALS as error:
        return report, error
    return report, None


def _made_of(context: Context, kind: Kind, model: Any) -> tuple[tuple[Part, ...], tuple[Buy, ...], Exception | None]:
    """Parts and things to buy, whatever the shot."""
    try:
        return *kind.parts(context, model), None
    except REFUSALS as error:
        return (), (), error


def evaluate(
    project: Project, catalogue: Catalogue, rig_id: str, memo: Memo | None = None, *, drawn: Outline | None = None, suggest: bool = False, cutter: Cutter = first_fit,
) -> Evaluation:  # fmt: skip
    """Everything about one rig, from its outline where that is known already; with `suggest` also remedies, not tried yet.

    A design that cannot work is a stop, not an error. Raises InputError only for broken references.
    """
    memo = memo or Memo()
    drawn = drawn or outline(project, catalogue, rig_id, memo)
    context, kind, model, problem = drawn.context, drawn.kind, drawn.model, drawn.problem
    report = Report(suggest=suggest)
    parts: tuple[Part, ...] = ()
    bought: tuple[Buy, ...] = ()
    if problem is None:
        own, problem = memo.step("rig", (suggest, _read(context, kind)), lambda: _of_rig(context, kind, model, suggest=suggest))
        parts, bought, unmade = memo.step("parts", _built(context), lambda: _made_of(context, kind, model))
        problem = problem or unmade
        report = Report(dict(own.figures), dict(own.curves), list(own.findings), suggest)
        try:
            known, k = next(iter(drawn.kept.values()), (None, 0))
            seen = shot_figures(context, kind, model, report, known and known.without(k))
            # Start and end of the move are among the moments already staged.
            drawn.kept.update({} if seen is None else {0.0: (seen, 0), 1.0: (seen, len(seen.asked) - 1)})
        except REFUSALS as error:
            problem = problem or error
    if problem is not None:
        report.findings.append(_impossible(problem, built=model is not None))
    cuts = memo.step("cuts", cuts_key(parts, project, catalogue), lambda: plans(parts, project.stock, catalogue, project.kerf_m, cutter))
    lines = memo.step("lines", (cuts, bought), lambda: buy_list(cuts, bought))
    if parts:
        _build(report, parts, cuts, lines)
        _too_long(context, kind, model, report, parts, cuts)
    findings = tuple(sorted(report.findings, key=lambda f: (-RANK[f.state], -min(f.use, 1e9))))
    return Evaluation(context.rig, kind, context, model, problem, drawn.kept, report.figures, report.curves, findings, parts, bought, cuts, lines)


def _impossible(error: Exception, *, built: bool) -> Finding:
    text = str(error)
    where = error.field if isinstance(error, InputError) else ""
    title = "Cannot be worked out" if built else "Cannot be built like this"
    return Finding("rig.impossible", title, STRUCTURE, STOP, 1.0, 0.0, "at_most", "count", where, "rig", Words(f"{text[0].upper()}{text[1:]}.".replace("{", "(").replace("}", ")")))


def _build(report: Report, parts: tuple[Part, ...], cuts: tuple[SectionPlan, ...], lines: tuple[Line, ...]) -> None:
    """Figures and findings about making it that hold for every kind."""
    count = sum(part.quantity for part in parts)
    pieces = tuple(Given(part.mark, part.mass * part.quantity, "kg", part.name) for part in parts)
    done = [made.plan for made in cuts if made.plan]
    bought = sum(made.stocks[bar.stock].length for made in cuts if made.plan for bar in made.plan.bars)
    used = sum(cut for plan in done for bar in plan.bars for cut in bar.cuts)
    report.add(
        by_method("build.pieces", "Pieces to cut", count, "count", "build", "parts counted", pieces, source="parts list"),
        by_method("build.mass", "Cut parts weigh", sum(p.mass * p.quantity for p in parts), "kg", "build", "sum of all pieces", pieces, source="sections and densities"),
        by_method("build.cost", "To buy", total(lines), "currency", "build", "sum of the buy list", tuple(
            Given(f"p_{i}", line.total, "currency", line.name) for i, line in enumerate(lines)), source="example prices"),
        by_method("build.cut_cost", "Bars for the cuts", sum(plan.cost for plan in done), "currency", "build", "the cheapest plan found: first fit at once, the exact search when it was run", (
            Given("bound", sum(plan.bound for plan in done), "currency", "no plan can cost less than"),), source="drive 7.2"),
    )  # fmt: skip
    if bought:
        report.add(by_method("build.waste", "Left over of the bars", 1 - used / bought, "1", "build", "one minus cut length over bar length", (), source="cutting plan"))
    if done and all(made.plan for made in cuts):
        cost, bound = sum(plan.cost for plan in done), sum(plan.bound for plan in done)
        report.findings.append(Finding(
            "build.cuts", "Cuts from stock", BUILD, CLEAR if cost <= bound + 0.005 else WATCH, cost, bound, "at_most", "currency", "", "build",
            Words("The bars cost {}; no plan is known to be possible under {}.", ((cost, "currency"), (bound, "currency"))),
        ))  # fmt: skip


def _too_long(context: Context, kind: Kind, model: Any, report: Report, parts: tuple[Part, ...], cuts: tuple[SectionPlan, ...]) -> None:
    """A piece longer than any bar sold: some kinds can join it."""
    uncut = {made.section: made for made in cuts if made.plan is None}
    if not uncut:
        return
    longest = max((part for part in parts if part.section in uncut), key=lambda part: part.length)
    made = uncut[longest.section]
    sold = max(stock.length for stock in made.stocks)
    words = Words(f"{longest.name} {longest.mark} is {{}} long; {made.name} is sold up to {{}}.", ((longest.length, "m"), (sold, "m")))
    remedies = kind.joined(context, model, longest, sold) if kind.joined is not None and report.suggest else ()
    report.findings.append(Finding("build.stock", "Too long for the stock", BUILD, STOP, longest.length, sold, "at_most", "m", "arm.section", "build", words, remedies))
