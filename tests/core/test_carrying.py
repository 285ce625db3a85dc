"""Carried to the set: loads against the fewest possible, round a corner against brute force, limits that are kept, and
all rigs of a shoot in one list.
"""

from __future__ import annotations

import csv
import itertools
import json
import math

import numpy as np
import pytest

from hazel_lantern import cli
from hazel_lantern.core.advice.shoot import BOUGHT, MADE, shoot
from hazel_lantern.core.document.project import Carry
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.nouns.finding import CLEAR, WATCH
from hazel_lantern.core.nouns.progress import last
from hazel_lantern.core.workshop.carrying import (
    BAG,
    BUNDLE,
    CASE,
    TWO,
    Piece,
    loads,
    longest_way,
    pieces_of,
    round_corner,
)
from hazel_lantern.files import project_file
from tests.helpers import SHELF, finding, sample


def fewest(masses: list[float], lift: float) -> int:
    """The least number of loads, by every way of putting pieces together."""
    best = len(masses)

    def put(rest: list[float], open_: list[float]) -> None:
        nonlocal best
        if len(open_) >= best:
            return
        if not rest:
            best = len(open_)
            return
        for n in range(len(open_)):
            if open_[n] + rest[0] <= lift + 1e-9:
                put(rest[1:], [*open_[:n], open_[n] + rest[0], *open_[n + 1 :]])
        put(rest[1:], [*open_, rest[0]])

    put(sorted(masses, reverse=True), [])
    return best


def test_loads_hold_every_piece_once_and_are_hardly_more_than_the_fewest():
    rng = np.random.default_rng(11)
    for _ in range(150):
        lift, bag = float(rng.uniform(8, 25)), float(rng.choice([0.0, 0.8, 1.2]))
        pieces = [
            Piece(f"p{n}", float(rng.uniform(0.2, lift * 1.15)), float(rng.uniform(0.1, 2.5)), n == 0)
            for n in range(rng.integers(1, 9))
        ]
        found = loads(pieces, bag, lift)
        assert sorted(p.name for load in found for p in load.pieces) == sorted(p.name for p in pieces)
        for load in found:
            assert load.mass <= lift + 1e-9 or (load.sort == TWO and len(load.pieces) == 1)
            assert load.sort != BAG or load.longest <= bag + 1e-9
        sorts = {p.name: CASE if p.alone else BAG if bag > 0 and p.length <= bag else BUNDLE for p in pieces}
        for sort in (CASE, BAG, BUNDLE):
            masses = [p.mass for p in pieces if p.mass <= lift and sorts[p.name] == sort]
            count = sum(load.sort == sort for load in found)
            assert fewest(masses, lift) <= count <= math.floor(11 / 9 * fewest(masses, lift) + 6 / 9)


def test_the_longest_round_a_corner_is_that_of_every_angle_tried():
    for door, hall in itertools.product((0.6, 0.8, 1.2), (0.7, 1.0, 2.5)):
        angles = np.linspace(1e-3, math.pi / 2 - 1e-3, 200_001)
        assert round_corner(door, hall) == pytest.approx(
            np.min(door / np.cos(angles) + hall / np.sin(angles)), rel=1e-8
        )
        assert round_corner(door, hall) == pytest.approx(round_corner(hall, door))
    assert round_corner(0.8, 0.0) == math.inf and longest_way(Carry()) == (math.inf, "")
    assert longest_way(Carry(car_m=2.2, door_m=0.8, hall_m=1.0)) == (2.2, "car")
    assert longest_way(Carry(car_m=2.7, door_m=0.8, hall_m=1.0)) == (round_corner(0.8, 1.0), "door")


def test_what_does_not_come_along_is_said_and_pieces_are_offered():
    free = changes.set_values(sample(), "jar-slider-board", [("carry.car_m", 0.0)])
    assert not [f for f in evaluate(free, SHELF, "jar-slider-board").findings if f.key == "build.in_car"]
    project = changes.set_values(free, "jar-slider-board", [("carry.car_m", 1.0), ("carry.lift_kg", 3.0)])
    result = evaluate(project, SHELF, "jar-slider-board", suggest=True)
    long = finding(result, "build.in_car")
    assert long.state == WATCH and long.value == result.figures["build.longest"].value > long.limit == 1.0
    for kind, variant in (("overhead", ""), ("dolly", ""), ("jib", "two_bars")):
        usual = changes.add_rig(project, kind, variant)
        rig = usual.rigs[-1].id
        longest = evaluate(usual, SHELF, rig).figures["build.longest"].value
        tight = changes.set_values(usual, rig, [("carry.car_m", 0.8 * longest)])
        said = finding(evaluate(tight, SHELF, rig, suggest=True), "build.in_car")
        assert said.state == WATCH and said.remedies, kind
        for remedy in said.remedies:
            after = evaluate(changes.set_values(tight, rig, remedy.changes), SHELF, rig)
            assert finding(after, "build.in_car").state == CLEAR, (kind, remedy.key)
    heavy = finding(result, "build.lifted")
    assert heavy.state == WATCH and heavy.limit == 3.0
    mine = pieces_of(result.laid, 3.0)
    assert result.figures["build.loads"].value == len(loads(mine, project.carry.bag_m, 3.0))
    assert sum(one.mass for one in mine) == pytest.approx(result.laid.mass)
    ballast = pieces_of(evaluate(project, SHELF, "lane-dolly").laid, 15.0)
    assert sum(one.name == "Ballast" and one.mass == 10.0 for one in ballast) == 2  # sand is poured into two bags
    with pytest.raises(InputError, match=r"carry\.lift_kg"):
        changes.set_values(project, "jar-slider", [("carry.lift_kg", 0.0)])


def test_a_shoot_lists_every_rig_and_shares_what_is_alike(tmp_path, capsys):
    project = changes.set_values(sample(), "jar-slider", [("carry.bag_m", 0.9)])
    twin = changes.keep_alternative(project, "comb-turntable")
    new = next(rig.id for rig in twin.rigs if rig.id not in {one.id for one in project.rigs})
    found = last(shoot(twin, SHELF, ("comb-turntable", new, "jar-slider")))
    a, b, other = found.rows
    assert (
        (a.cost, a.mass, a.longest, len(a.loads))
        == (b.cost, b.mass, b.longest, len(b.loads))
        != (other.cost, other.mass, other.longest, len(other.loads))
    )
    result = evaluate(project, SHELF, "comb-turntable")
    made = {one.name: dict(one.counts) for one in found.shared if one.sort == MADE}
    for part in result.parts:  # everything that is made for one turns up for its twin
        assert made[part.name]["comb-turntable"] == made[part.name][new]
    for one in found.shared:
        assert one.together == max(n for _, n in one.counts) and one.apart == sum(n for _, n in one.counts)
        assert one.sort != BOUGHT or one.saved == pytest.approx((one.apart - one.together) * one.price)
    path = tmp_path / "p.lantern.json"
    project_file.write(twin, path)
    table = tmp_path / "shoot.csv"
    assert cli.main(["shoot", str(path), "--rig", "comb-turntable", "--rig", new, "--json", "-o", str(table)]) == 0
    told = json.loads(capsys.readouterr().out)
    assert told["rigs"][new]["cost"] == a.cost and told["saved"] <= a.cost
    rows = list(csv.reader(table.read_text("utf-8-sig").splitlines()))
    assert len(rows) == 1 + 2 * len(a.loads) and sum(float(row[6]) for row in rows[1:]) == pytest.approx(
        2 * a.mass, abs=0.01
    )
    assert cli.main(["shoot", str(path), "-o", str(table)]) == 2  # it is there already
    assert cli.main(["shoot", str(path), "--rig", "nobody"]) == 2
