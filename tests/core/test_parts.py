"""Fourteen designs whose lists were written down before the code that makes them: bars, holes, bolts, plates."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from hazel_lantern.core.evaluate import evaluate
from tests.helpers import SHELF
from tests.parts_lists import lists_of, project_of

CASES = sorted((Path(__file__).parent.parent / "cases" / "parts").glob("*.json"))


@pytest.mark.parametrize("case", CASES, ids=lambda path: path.stem)
def test_the_lists_say_just_what_was_written_down(case):
    wanted = json.loads(case.read_text(encoding="utf-8"))
    project = project_of(wanted)
    found = lists_of(evaluate(project, SHELF, project.rigs[0].id))
    assert sorted(found["cut"]) == sorted(wanted["cut"])
    assert {mark: sorted(holes) for mark, holes in found["holes"].items()} == {
        mark: sorted(holes) for mark, holes in wanted["holes"].items()
    }
    assert sorted(found["bought"]) == sorted(wanted["bought"])


def test_there_are_fourteen_of_them():
    assert len(CASES) == 14
