"""Tables of readings, takes and vibration logs with anything in them: read, or refused in one sentence;
never half of it."""

from __future__ import annotations

from datetime import date
from io import BytesIO

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from pypdf import PdfReader

from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.errors import HazelError
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.nouns.units import Display
from hazel_lantern.core.proving.told import BY_KEY, told
from hazel_lantern.core.rolling.takes import Take
from hazel_lantern.files import measured, takes, test_sheet, vibration_log
from tests.helpers import SHELF, sample

ANY = settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
CELLS = st.one_of(st.text(max_size=8), st.floats(allow_nan=True).map(str),
    st.sampled_from(["sag", "2026-09-12", "added", "kg", "1e999", "=1+1", '"', ";", "struck out"]))  # fmt: skip
TABLE = st.lists(st.lists(CELLS, min_size=1, max_size=9), max_size=12)


def written(path, head, rows):
    lines = [",".join(head), *(",".join(cell.replace("\n", " ").replace("\r", " ") for cell in row) for row in rows)]
    path.write_text("\n".join(lines), encoding="utf-8", errors="replace")
    return path


def one_sentence(work):
    try:
        return work()
    except HazelError as error:
        words = str(error)
        assert words
        assert "\n" not in words
        assert len(words) < 700
        return None


@ANY
@given(rows=TABLE)
def test_any_table_of_readings_is_taken_row_by_row_or_refused(rows, tmp_path):
    found = one_sentence(lambda: test_sheet.read(written(tmp_path / "r.csv", test_sheet.HEAD, rows)))
    if found is None:
        return
    good, wrong = found
    for row in good:
        BY_KEY[row.test].check(row.readings)
    assert all("line" in words for words in wrong)
    project = lists.take_readings(sample(), "hive-jib", good)
    assert len(project.rig("hive-jib").proofs) == len(sample().rig("hive-jib").proofs) + len(good)


@ANY
@given(rows=TABLE)
def test_any_table_of_takes_is_taken_row_by_row_or_refused(rows, tmp_path):
    found = one_sentence(lambda: takes.read_table(written(tmp_path / "t.csv", takes.HEAD, rows)))
    for take in found[0] if found else ():
        takes.append(tmp_path / "x.takes.jsonl", take)
    kept, bad = takes.load(tmp_path / "x.takes.jsonl")
    assert bad == 0 and len(kept) <= len(rows) * 60


@ANY
@given(st.binary(max_size=3000))
def test_any_bytes_as_a_log_are_read_or_refused(tmp_path, data):
    path = tmp_path / "log.csv"
    path.write_bytes(data)
    log = one_sentence(lambda: last(vibration_log.read(path)))
    assert log is None or np.isfinite(log.samples).all()


@ANY
@given(
    rows=st.lists(st.tuples(st.floats(0, 60), *[st.floats(-40, 40)] * 3), min_size=64, max_size=300),
    mark=st.sampled_from([",", ";", "\t", " "]),
)
def test_numbers_in_any_order_come_out_in_order_of_time(rows, mark, tmp_path):
    path = tmp_path / "log.txt"
    path.write_text("\n".join(mark.join(f"{value:.6f}" for value in row) for row in rows))
    log = one_sentence(lambda: last(vibration_log.read(path)))
    if log is not None:
        assert log.samples.shape[1] == 3 and len(log.samples) >= 64 and log.sampling > 0


@given(st.binary(max_size=400))
@ANY
def test_lines_that_are_no_takes_are_counted_and_left_out(tmp_path, data):
    path = tmp_path / "y.takes.jsonl"
    path.unlink(missing_ok=True)
    takes.append(path, Take(number=1, when="2027-04-08", rig="jib", shot="hives"))
    with path.open("ab") as file:
        file.write(data + b"\n")
    takes.append(path, Take(number=2, when="2027-04-08", rig="jib", shot="hives"))
    kept, _ = takes.load(path)
    assert {take.number for take in kept} >= {1, 2}


@pytest.mark.parametrize("kind", list(KINDS))
def test_the_test_sheet_has_every_test_with_what_to_do_and_rows_to_write_in(kind):
    for variant, _ in KINDS[kind].variants[:2]:
        project = changes.add_rig(sample(), kind, variant)
        result = evaluate(project, SHELF, project.rigs[-1].id)
        every = told(result)
        for show in (Display(), Display("in")):
            pages = PdfReader(BytesIO(test_sheet.pdf(project, result, show))).pages
            page = " ".join(" ".join(one.extract_text() for one in pages).split())
            for one in every:
                assert one.trial.name in page, one.trial.key
                assert one.trial.does.split(".")[0][:30] in page
        text = measured.as_text(result, Display(), date(2027, 4, 8))
        assert all(one.trial.name in text for one in every)
        told_as = measured.as_json(result, date(2027, 4, 8))
        assert set(told_as) == {one.trial.key for one in every} and told_as["wear"]["overdue"]


def test_readings_go_out_and_come_back_for_every_rig(tmp_path):
    for rig in (one.id for one in sample().rigs if one.proofs):
        result = evaluate(sample(), SHELF, rig)
        path = tmp_path / f"{rig}.csv"
        path.write_bytes(test_sheet.csv(sample(), result, Display()))
        good, wrong = test_sheet.read(path)
        assert not wrong
        before = sample().rig(rig).proofs
        assert [(row.test, row.day, row.struck) for row in good] == [(row.test, row.day, row.struck) for row in before]
        for new, old in zip(good, before, strict=True):
            assert new.readings[: len(old.readings)] == pytest.approx(old.readings)
