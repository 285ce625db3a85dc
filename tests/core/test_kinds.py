"""What every kind is held to, and a kind of its own that shows how little one takes."""

from __future__ import annotations

import inspect
import json
import math

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern import cli
from hazel_lantern.cli.told import as_json
from hazel_lantern.core.advice.proposals import proposals
from hazel_lantern.core.advice.remedies import vetted
from hazel_lantern.core.document.project import replaced, timed
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate, over_shots, perform
from hazel_lantern.core.kinds import DECLARED, KINDS
from hazel_lantern.core.kinds.base import reads
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.optics import pose
from hazel_lantern.core.staging.things import aim_point
from hazel_lantern.files import exports, project_file
from tests.helpers import SHELF, finding, sample
from tests.spinner.design import DECLARED as SPINNER

GIVEN = {
    "design", "kit", "owned", "others", "move", "optics", "subject", "suggest", "path", "model", "laid", "drives",
}  # fmt: skip


@pytest.fixture
def spinner(monkeypatch):
    """The sample with a beam that circles its subject, in a registry that knows it."""
    monkeypatch.setitem(DECLARED, "spinner", SPINNER)
    project = sample()
    shot = replace(
        project.shots[0], move="circle", start_at_m=(1.2, 3.0), start_height_m=1.2, end_height_m=1.2, aim="level"
    )
    return changes.add_rig(replace(project, shots=replaced(project.shots, timed(shot, 20.0))), "spinner")


def turned(project, **values):
    rig = project.rigs[-1].id
    return changes.set_values(project, rig, [(key.replace("__", "."), value) for key, value in values.items()]), rig


@pytest.mark.parametrize("kind", list(DECLARED))
def test_chapters_read_what_is_given_or_told_before_them_and_never_in_a_circle(kind):
    made = KINDS[kind]
    known = {chapter.key: chapter for chapter in (made.model, *made.chapters)}
    assert len(known) == len(made.chapters) + 1
    for chapter in known.values():
        assert set(reads(chapter.work)) <= GIVEN | set(known), chapter.key
        # Everything it asks for is handed to it by name; nothing has a value of its own.
        assert all(p.default is inspect.Parameter.empty for p in inspect.signature(chapter.work).parameters.values()), (
            chapter.key
        )

    def below(key, above=()):
        assert key not in above, (*above, key)
        for name in reads(known[key].work):
            if name in known:
                below(name, (*above, key))

    for key in known:
        below(key)


def test_a_kind_of_its_own_stands_under_its_subject_and_looks_down_all_round(spinner):
    project, rig = turned(spinner, beam__radius=1.5, camera__pitch=0.35)
    result = evaluate(project, SHELF, rig)
    scene = result.scene
    keeper = aim_point(scene.subject)
    seen = scene.at(np.linspace(0, 1, 73)).camera
    assert (scene.where.x, scene.where.y) == tuple(scene.subject.at_m[:2])
    # A full circle at one distance, starting on the side of the move's start.
    away = np.hypot(*(seen.places[:, :2] - keeper[:2]).T)
    assert np.allclose(away, away[0])
    assert np.allclose(seen.places[0], seen.places[-1])
    assert away[0] < 1.5
    # The camera points inwards and down by its pitch, at every moment; its horizon stays level.
    ahead, right = -seen.matrices[:, :, 2], seen.matrices[:, :, 0]
    assert np.allclose(ahead[:, 2], -math.sin(0.35))
    assert np.allclose(right[:, 2], 0.0, atol=1e-12)
    inwards = (keeper - seen.places)[:, :2] / away[:, None]
    lens_aside = np.sum(ahead[:, :2] * inwards, axis=1) / math.cos(0.35)
    assert np.all(lens_aside > 0.999)
    assert np.allclose(seen.tilt, -0.35)
    assert np.ptp(seen.pan) == pytest.approx(2 * math.pi)
    # What the lens sees is drawn from there: the subject comes in where an independent projection puts it.
    local = pose.camera_points(seen.matrices[:1], seen.places[:1], keeper[None])
    assert local[0, 0, 2] > 0
    for view in ("set", "set-side", "lens", "side", "above"):
        assert result.draw(0.3, view).items


def test_a_kind_of_its_own_reports_proposes_and_exports(spinner, tmp_path, capsys):
    project, rig = turned(spinner, beam__radius=3.5, **{"shot.time": 3.0})
    result = evaluate(project, SHELF, rig)
    assert finding(result, "rig.pulls").state == STOP
    assert result.figures["rig.pull"].value == pytest.approx(result.model.mass * (2 * math.pi / 3 / 0.65) ** 2 * 3.5)
    mended, *_ = next(f for f in last(vetted(project, SHELF, rig)) if f.key == "rig.pulls").remedies
    after = evaluate(changes.set_values(project, rig, mended.changes), SHELF, rig)
    assert finding(after, "rig.pulls").state != STOP
    assert as_json(result, result.findings)["curves"]["rig.path"]["y"][-1] == pytest.approx(2 * math.pi)
    assert dict(perform(project, SHELF, rig, "rig"))["beam.height"] == 1.2
    found = [p for p in last(proposals(project, SHELF, rig)) if p.kind == "spinner"]
    assert [p.variant for p in found if p.evaluation is not None] == ["plain", "short"]
    for to in ("pdf", "gltf", "path-csv", "svg", "dxf", "parts-csv"):
        path = tmp_path / f"a.{to}"
        exports.export(project, SHELF, rig, to, path)
        assert path.stat().st_size > 100
    assert project_file.decode(project_file.encode(project), "x") == project
    cli.main(["kinds", "spinner"])
    assert json.loads(capsys.readouterr().out)["spinner"]["figures"]["rig.pull"] == "N"


def test_where_it_has_no_shape_it_is_a_stop_and_no_picture(spinner):
    project, rig = turned(spinner, beam__turns=4.0)
    result = evaluate(project, SHELF, rig)
    lost = finding(result, "rig.shape")
    assert lost.state == STOP
    assert 0 < lost.value < 0.5
    assert result.draw(0.1, "lens").items
    with pytest.raises(Exception, match="no shape"):
        result.draw(0.99, "lens")
    bad, rig = turned(spinner, beam__radius=0.2)
    result = evaluate(bad, SHELF, rig)
    assert result.model is None
    assert "shorter than the camera" in finding(result, "rig.impossible").sentence.template


def test_findings_over_several_shots_are_each_as_in_their_worst_and_name_it(spinner):
    project, rig = turned(spinner, beam__radius=1.5)
    slow = replace(timed(project.shots[0], 60.0), id="slow", name="Slowly round")
    quick = replace(timed(project.shots[0], 2.0), id="quick", name="Quickly round")
    project = replace(project, shots=(*project.shots, slow, quick))
    project = changes.serve(changes.serve(project, rig, "slow"), rig, "quick")
    alone = {shot: evaluate(project, SHELF, rig, shot, Memo()) for shot in project.rig(rig).shots}
    assert {shot: result.shot.id for shot, result in alone.items()} == {
        "hives": "hives",
        "slow": "slow",
        "quick": "quick",
    }
    merged = over_shots(project, SHELF, rig)
    pulls = finding(merged, "rig.pulls")
    assert pulls.value == max(finding(result, "rig.pulls").value for result in alone.values())
    assert pulls.shot == "Quickly round"
    assert {f.key: f.value for f in merged.figures.values()} == {
        f.key: f.value for f in alone["hives"].figures.values()
    }
    assert {f.key for f in merged.findings} == {f.key for result in alone.values() for f in result.findings}
