"""As built: what was measured stands in place of what was drawn, says so, and lapses when its pieces are drawn anew."""

from __future__ import annotations

import json

import pytest

from hazel_lantern import cli
from hazel_lantern.core.document.project import Measured
from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.built import fingerprint
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.files import project_file
from tests.helpers import SHELF, sample, value

RIG, SLIDER = "hive-jib", "jar-slider"


def row(project, key, found, pieces=("A1",), date="2026-11-02", rig=RIG):
    laid = evaluate(project, SHELF, rig).laid
    return Measured(
        key=key, value=found, pm=0.0005, date=date, test="tape", pieces=pieces, fingerprint=fingerprint(laid, pieces)
    )


def numbers(result):
    return {key: figure.value for key, figure in result.figures.items()}


def test_what_was_measured_stands_for_what_was_drawn_everywhere_and_says_so():
    drawn = sample()
    project = changes.measure(drawn, RIG, row(drawn, "arm.front", 1.758))
    as_if = changes.set_values(drawn, RIG, [("arm.front", 1.758)])
    built = evaluate(project, SHELF, RIG, built=True)
    assert numbers(built) == numbers(evaluate(as_if, SHELF, RIG))
    assert built.basis == "built"
    assert numbers(evaluate(project, SHELF, RIG)) == numbers(evaluate(drawn, SHELF, RIG))
    (given,) = [g for g in built.figures["balance.front"].why.inputs if g.measured]
    assert given.named(Display()) == "front arm, measured, tape, 2026-11-02, ± 0.5 mm"
    assert all(g.measured is None for g in evaluate(project, SHELF, RIG).figures["balance.front"].why.inputs)


def test_the_last_row_counts_and_none_whose_pieces_are_drawn_anew():
    drawn = sample()
    project = changes.measure(drawn, RIG, row(drawn, "arm.front", 1.758))
    project = changes.measure(project, RIG, row(drawn, "arm.front", 1.755, date="2026-11-03"))
    project = changes.measure(project, RIG, row(drawn, "head.mass", 0.52, pieces=()))
    assert [r.value for r in project.rig(RIG).measured] == [1.758, 1.755, 0.52]
    assert evaluate(project, SHELF, RIG, built=True).model.front == 1.755
    # A longer rear end is another piece A1; what hangs on the head was weighed by itself.
    anew = changes.set_values(project, RIG, [("arm.rear", 0.7)])
    built = evaluate(anew, SHELF, RIG, built=True)
    assert built.model.front == 1.75
    assert set(built.measured) == {"head.mass"}
    # Sizes of other pieces do not touch it.
    assert (
        evaluate(changes.set_values(project, RIG, [("post.length", 0.5)]), SHELF, RIG, built=True).model.front == 1.755
    )
    # A rig that cannot be drawn has nothing to measure.
    broken = changes.set_values(project, RIG, [("arm.front", 0.3), ("head.spacing", 0.5)])
    assert evaluate(broken, SHELF, RIG, built=True).basis == "drawn"


def test_rows_are_checked_kept_in_the_file_and_answered_on_the_command_line(tmp_path, capsys):
    drawn = sample()
    for bad, field in ((("arm.frnt", 1.7), "key"), (("arm.section", 1.0), "key"), (("arm.front", 60.0), "arm.front")):
        with pytest.raises(InputError, match=field):
            changes.measure(drawn, RIG, row(drawn, *bad))
    with pytest.raises(InputError, match="pieces"):
        row(drawn, "arm.front", 1.7, pieces=("Z9",))
    project = changes.measure(drawn, SLIDER, row(drawn, "rail.length", 1.194, pieces=("R1",), rig=SLIDER))
    path = tmp_path / "built.lantern.json"
    path.write_bytes(project_file.encode(project))
    assert project_file.read(path) == project
    answers = {}
    for basis in ("drawn", "built"):
        assert cli.main(["solve", str(path), "--rig", SLIDER, "--json", "--basis", basis]) == cli.DONE
        answers[basis] = json.loads(capsys.readouterr().out)
    assert {basis: answer["basis"] for basis, answer in answers.items()} == {"drawn": "drawn", "built": "built"}
    assert answers["drawn"]["figures"]["rig.travel"]["value"] == value(evaluate(drawn, SHELF, SLIDER), "rig.travel")
    assert "measured, tape" in answers["built"]["figures"]["rig.travel"]["why"]
    spoilt = path.read_text().replace('"key":"rail.length"', '"key":"rail.lenght"')
    path.write_text(
        spoilt
        if spoilt != path.read_text()
        else path.read_text().replace('"key": "rail.length"', '"key": "rail.lenght"')
    )
    assert cli.main(["check", str(path)]) == cli.UNUSABLE
    assert "measured 1" in capsys.readouterr().err
