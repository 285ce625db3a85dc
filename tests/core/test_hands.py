"""What follows the camera and who moves it: leads against a chain shot end to end, hands, boards under feet."""

from __future__ import annotations

import math

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.optimize import root

from hazel_lantern.core.driving.programme import programme
from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds.shared.lead import BESIDE
from hazel_lantern.core.mechanics.lead import slack
from hazel_lantern.core.nouns.errors import InfeasibleError
from tests.helpers import SHELF, sample


def chain(span, rise, length, weight):
    """The same line as a row of short links in balance, shot from its tie: along, down at its end, and lowest."""
    ds, n = length / 20000, 20000
    s = (np.arange(n) + 0.5) * ds

    def miss(given):
        along, up = math.exp(given[0]), weight * s - given[1]
        pull = np.hypot(along, up)
        return [(along / pull).sum() * ds - span, (up / pull).sum() * ds - rise]

    found = root(miss, [math.log(0.3 * weight * span + 0.01), weight * length / 2], tol=1e-12)
    assert found.success
    along, tied = math.exp(found.x[0]), found.x[1]
    y = np.cumsum((weight * s - tied) / np.hypot(along, weight * s - tied)) * ds
    return along, weight * length - tied, max(0.0, -y.min())


@pytest.mark.parametrize(
    "case", [(1.2, 0.4, 2, 0.4), (0.3, -0.4, 2, 0.4), (2, 1.5, 2.6, 1), (3, -2, 3.7, 1), (1, 0, 1.0005, 1)]
)
def test_a_lead_hangs_as_a_row_of_links_does(case):
    found = slack(*case)
    assert [float(part[0]) for part in (found.along, found.down, found.low)] == pytest.approx(
        chain(*case), rel=1e-5, abs=1e-6
    )
    with pytest.raises(InfeasibleError, match="does not reach"):
        slack(2.0, 1.0, 2.2, 1.0)


def test_a_lead_is_felt_by_what_drives_and_its_loop_is_told():
    bare = changes.add_rig(blank(), "overhead", "")
    rig = bare.rigs[0].id
    project = changes.set_values(bare, rig, [("lead.line", 0.1)])
    result = evaluate(project, SHELF, rig)
    way, figures = result.model.way, result.figures
    half, high = (way.high - way.low) / 2, abs(float(way.lens[2]))
    length = figures["travel.lead"].value
    along, _, _ = chain(math.hypot(half, BESIDE), -high, length, 0.1 * 9.80665)
    assert figures["travel.lead_pull"].value == pytest.approx(along * half / math.hypot(half, BESIDE), rel=1e-4)
    assert figures["travel.lead_loop"].value == pytest.approx(chain(BESIDE, -high, length, 0.98)[2], rel=1e-4)
    drive = ("drive.travel.by", "gearmotor")
    rubs = [evaluate(changes.set_values(one, rig, [drive]), SHELF, rig).driven[0].held.rubs for one in (bare, project)]
    assert rubs[1] - rubs[0] == pytest.approx(figures["travel.lead_pull"].value)
    dragged = evaluate(changes.set_values(sample(), "pond-line", [("lead.line", 0.05)]), SHELF, "pond-line")
    run = (dragged.model.high - dragged.model.low) / 2
    assert dragged.figures["travel.lead_pull"].value == pytest.approx(0.5 * 0.05 * 9.80665 * run)


def test_hands_say_when_a_step_shows_and_beats_say_what_would_do():
    rig = "lane-dolly"
    project = changes.set_values(sample(), rig, [("shot.tall", 1.6), ("shot.pushes", "stance"), ("shot.beat", 0.02)])
    result = evaluate(project, SHELF, rig, suggest=True)
    held = {finding.key: finding for finding in result.findings}
    sideways = math.sqrt((0.39 * 1.6) ** 2 - 0.35**2 - (0.19 * 1.6) ** 2)
    assert result.figures["shot.stance"].value == pytest.approx(2 * (0.2 + sideways))
    assert held["shot.one_stance"].state == "watch"
    crowded = held["shot.marks"]
    assert crowded.state == "watch"
    mended = changes.set_values(project, rig, crowded.remedies[0].changes)
    assert next(f for f in evaluate(mended, SHELF, rig).findings if f.key == "shot.marks").state == "clear"


def test_soft_limits_inside_the_move_are_refused_with_what_would_do():
    rig = "pond-line"
    plain = evaluate(sample(), SHELF, rig).driven[0]
    near = min(plain.load.at.min() - plain.held.span[0], plain.held.span[1] - plain.load.at.max())
    project = changes.set_values(sample(), rig, [("drive.travel.margin", float(round(near + 0.02, 3)))])
    result = evaluate(project, SHELF, rig, suggest=True)
    soft = next(f for f in result.findings if f.key == "drive.travel.soft")
    assert soft.state == "stop"
    with pytest.raises(InfeasibleError, match=r"; 33\.\d\d mm further out they would do"):
        programme(result.shot, result.scene, result.kind.axes, result.driven, ())
    mended = changes.set_values(project, rig, soft.remedies[0].changes)
    result = evaluate(mended, SHELF, rig)
    assert programme(result.shot, result.scene, result.kind.axes, result.driven, ()).channels[0].limits is not None
    assert next(f for f in evaluate(mended, SHELF, rig).findings if f.key == "drive.travel.soft").state == "clear"


def test_soft_ground_asks_for_boards_that_bear_all_that_stands():
    project = changes.set_values(sample(), "hive-jib", [("ground.board", 0.0), ("ground.falls", math.radians(6))])
    result = evaluate(project, SHELF, "hive-jib", suggest=True)
    mass = sum(piece.mass for piece in result.laid.placed)
    assert result.figures["balance.board"].value == pytest.approx(math.sqrt(mass * 9.80665 / 75e3))
    legs = [np.array([math.cos(a), math.sin(a)]) * 0.8 for a in (0, 2 * math.pi / 3, 4 * math.pi / 3)]
    turned = [np.array([math.cos(b), math.sin(b)]) for b in np.linspace(0, 2 * math.pi, 721)]
    worst = max(max(leg @ down for leg in legs) - min(leg @ down for leg in legs) for down in turned)
    radius = float(result.rig.design["stand.radius"])
    assert result.figures["balance.wedge"].value == pytest.approx(
        worst / 0.8 * radius * math.tan(math.radians(6)), rel=1e-4
    )
    sinks = next(f for f in result.findings if f.key == "balance.ground")
    mended = changes.set_values(project, "hive-jib", sinks.remedies[0].changes)
    assert next(f for f in evaluate(mended, SHELF, "hive-jib").findings if f.key == "balance.ground").state == "clear"
    assert replace(sinks, remedies=()).state == "stop"
