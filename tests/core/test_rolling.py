"""On the day: cautions accepted and lapsing, a hand's pace ranked, takes kept, read back and summed up."""

from __future__ import annotations

import math

import numpy as np
import pytest
from msgspec.structs import replace

from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import STOP
from hazel_lantern.core.rolling import pace
from hazel_lantern.core.rolling.cautions import accept, before, withdraw
from hazel_lantern.core.rolling.takes import Take, say
from hazel_lantern.files import project_file, takes
from hazel_lantern.files.errors import FileError
from tests.helpers import SHELF, sample


def way(u):
    return u**2 * (3 - 2 * u)


def test_a_stop_cannot_be_accepted_and_a_caution_lapses_when_it_gets_worse(tmp_path):
    project = sample()
    held = before(evaluate(project, SHELF, "hive-jib"))
    assert held.stops and "1 stop" in held.holds
    with pytest.raises(InputError, match="solved, not accepted"):
        accept(project, "hive-jib", "hives", held.stops[0], "2027-04-08", "Ada")
    rig, shot = "comb-turntable", evaluate(project, SHELF, "comb-turntable").shot.id
    open_ = before(evaluate(project, SHELF, rig))
    assert open_.open == len(open_.cautions) >= 2 and f"{open_.open} cautions" in open_.holds
    with pytest.raises(InputError, match="types a name"):
        accept(project, rig, shot, open_.cautions[0].finding, "2027-04-08", "  ")
    for one in open_.cautions:
        project = accept(project, rig, shot, one.finding, "2027-04-08", "Ada")
    path = tmp_path / "p.lantern.json"
    project_file.write(project, path)
    assert project_file.read(path) == project
    done = before(evaluate(project, SHELF, rig))
    assert done.open == 0 and not done.stops and done.holds == ""  # its proof load is recorded
    coasts = next(one.finding for one in done.cautions if one.finding.unit == "s")
    faster = changes.set_values(project, rig, [("hub.friction", 0.11)])
    worse = before(evaluate(faster, SHELF, rig))
    lapsed = [one.finding.key for one in worse.cautions if one.lapsed]
    assert coasts.key in lapsed and worse.holds
    slower = before(evaluate(changes.set_values(project, rig, [("hub.friction", 0.16)]), SHELF, rig))
    assert not any(one.lapsed for one in slower.cautions)
    assert before(evaluate(withdraw(project, rig, shot, coasts.key), SHELF, rig)).open == 1
    loose = lists.strike_out(
        project, rig, next(n for n, row in enumerate(project.rig(rig).proofs) if row.test == "proof")
    )
    dangerous = changes.set_values(loose, rig, [("safety", "C")])
    assert "a proof load" in before(evaluate(dangerous, SHELF, rig)).holds
    assert all(f.state == STOP for f in held.stops)
    decides = {one.finding.about: one.decides for one in before(evaluate(project, SHELF, "comb-ring")).cautions}
    assert (
        "on the set" in decides["people"] and "qualified" in decides["structure"]
    )  # a rail that is nearly used up too


def test_the_pace_score_ranks_hands_and_names_what_is_wrong_with_each():
    points = {sort: [] for sort in pace.HANDS}
    said = {sort: [] for sort in pace.HANDS}
    for seed in range(60):
        duration, length = 5.0 + seed % 9, 0.4 + 0.1 * (seed % 20)
        for sort in pace.HANDS:
            one = pace.scored(*pace.hand(sort, way, duration, length, seed), way, duration, length, 1000.0)
            points[sort].append(one.points)
            said[sort].append(one.advice)
            assert 0 <= one.points <= 100 and one.pixels == pytest.approx(1000 * one.off)
    for sort in ("late", "jerky", "drifting"):
        assert all(good > bad for good, bad in zip(points["steady"], points[sort], strict=True)), sort
    assert min(points["steady"]) > 80
    for sort, words in (("late", "late:"), ("jerky", "saws"), ("drifting", "grew faster|past the end|early")):
        told = np.mean([any(one in text for one in words.split("|")) for text in said[sort]])
        assert told > 0.8, (sort, said[sort][:3])
    t = np.arange(0, 6.6, 0.02)
    perfect = pace.scored(t, 1.2 * way(np.clip(t / 6, 0, 1)), way, 6.0, 1.2)
    assert perfect.points >= 97 and perfect.within > 0.99 and abs(perfect.late) < 0.03
    over = pace.scored(t, 1.2 * 1.05 * way(np.clip(t / 6, 0, 1)), way, 6.0, 1.2)
    assert over.arrives == pytest.approx(0.06, abs=0.002) and over.points < perfect.points
    for bad, words in (
        ((t[:5], t[:5]), "readings"),
        ((t[::-1], t), "clock jumped"),
        ((t[:60], t[:60]), "half of the move"),
    ):
        with pytest.raises(InputError, match=words):
            pace.scored(*bad, way, 6.0, 1.2)
    with pytest.raises(InputError):
        pace.scored(t, np.where(t > 1, math.nan, t), way, 6.0, 1.2)


def take(n, **of):
    return Take(number=n, when="2027-04-08T20:15:00", rig="jib", shot="hives", **of)


def test_takes_are_safe_line_by_line_and_come_back_from_tables(tmp_path):
    path = takes.beside(tmp_path / "orchard.lantern.json")
    faults = ("", "stuck at 40 %", "bump at joint 2", "jammed again")
    for n in range(1, 9):
        takes.append(path, take(n, fault=faults[n % 4], lasted=8.1, points=90 + n))
    takes.append(path, take(3, stars=2, note="steady, lamp lit on cue"))
    with path.open("ab") as file:
        file.write(b'{"number": 9, "when": "20')  # cut off by a power failure
    found, bad = takes.load(path)
    assert len(found) == 8 and bad == 1 and found[2].stars == 2 and found[2].note.startswith("steady")
    takes.append(path, take(9))
    assert takes.load(path)[0] == (*found, take(9))  # the cut line takes no other along
    found = takes.load(path)[0]
    told = say(found, "jib")
    assert told[0].sort == "stuck" and told[0].times == 3 and told[0].leads == "travel.binding" and len(told) == 2
    table = tmp_path / "takes.csv"
    table.write_bytes(takes.table(found))
    again, wrong = takes.read_table(table)
    assert [replace(one, trace="", design="") for one in found] == list(again) and not wrong
    table.write_bytes(takes.table(found).replace(b",hand,", b",foot,", 1))
    assert len(takes.read_table(table)[0]) == 8 and "line 2" in takes.read_table(table)[1][0]
    table.write_text("roll,scene,comment\n1,2,3\n")
    with pytest.raises(FileError, match="another tool"):
        takes.read_table(table)
    for bad_take in (take(0), take(1, stars=9), replace(take(1), when="yesterday"), take(1, how="crane")):
        with pytest.raises(InputError):
            takes.append(path, bad_take)
    trace = takes.keep_trace(path, take(3), ((0.0, 1.0), (0.1, 2.0)))
    assert path.with_name(trace).read_text(encoding="utf-8-sig").splitlines()[0] == "time_s,axis 1"
    elsewhere = takes.beside(tmp_path / "copy.lantern.json")
    takes.carry(path, elsewhere)
    assert takes.load(elsewhere)[0] == found and path.exists()
    takes.append(path, replace(take(3), trace=trace))
    away = takes.beside(tmp_path / "away" / "orchard.lantern.json")
    away.parent.mkdir()
    first = (replace(take(1), rig="slider"),)
    takes.carry(path, away, first)
    assert takes.load(away)[0] == first + takes.load(path)[0] and away.with_name(trace).exists()
    many = tmp_path / "many.takes.jsonl"
    lines = [path.read_bytes().splitlines()[0].replace(b'"number":1,', b'"number":%d,' % n) for n in range(1, 10001)]
    many.write_bytes(b"\n".join(lines))
    assert len(takes.load(many)[0]) == 10000
