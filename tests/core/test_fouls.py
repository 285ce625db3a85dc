"""Nothing of a rig is in the way of anything, bolts are as long as what they pass, and what is planted is found."""

from __future__ import annotations

import numpy as np
import pytest
from msgspec.structs import replace
from scipy.optimize import linprog

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.workshop.fouls import fouls, hulls
from hazel_lantern.core.workshop.part import EXACT, FREE, MATCH
from hazel_lantern.core.workshop.reach import passed
from tests.helpers import SHELF, finding, sample

RIGS = [rig.id for rig in sample().rigs]


def apart(a, b):
    """Whether a plane lies between two hulls, found by a solver of its own:
    the way it looks and how wide it parts them."""
    rows = np.vstack(
        [
            np.column_stack([a, -np.ones(len(a)), np.ones(len(a))]),
            np.column_stack([-b, np.ones(len(b)), np.ones(len(b))]),
        ]
    )
    found = linprog(
        (0, 0, 0, 0, -1), A_ub=rows, b_ub=np.zeros(len(rows)), bounds=[(-1, 1)] * 3 + [(None, None), (None, 1)]
    )
    assert found.success
    return -found.fun > 1e-9


@pytest.mark.parametrize("name", ["orchard-at-dusk", "orchard-at-dusk-inches"])
@pytest.mark.parametrize("rig", RIGS)
def test_no_two_pieces_of_a_sample_are_in_one_another_anywhere_and_every_bolt_reaches(rig, name):
    result = evaluate(sample(name), SHELF, rig)
    assert finding(result, "build.fouls").state == "clear"
    bolts = passed(result.laid, result.kind.bodies(result.model, result.poses(np.array([0.0]))), SHELF.bolts)
    assert all(one.short <= 1e-6 for one in bolts)
    assert all(item.quantity > 0 for item in result.laid.bought)
    assert {part.kept[0] for part in result.parts} <= {MATCH, EXACT, FREE}


@pytest.mark.parametrize("rig", ["hive-jib", "kitchen-gantry", "comb-turntable", "lane-dolly"])
def test_two_pieces_are_told_to_be_in_one_another_just_where_no_plane_parts_them(rig):
    """Every two pieces, thrown together by chance, against a plane looked for between their hulls."""
    result = evaluate(sample(), SHELF, rig)
    laid = result.laid
    bodies = result.kind.bodies(result.model, result.poses(np.array([0.5])))
    rng, told = np.random.default_rng(7), []
    parts = [part for part in laid.parts if part.places][:6]
    for _ in range(60):
        one, other = (parts[k] for k in rng.choice(len(parts), 2, replace=False))
        place = one.places[0]
        thrown = replace(place, at=tuple(np.array(place.at) + rng.normal(0, 0.06, 3)))
        there = replace(other, places=(replace(thrown, along=other.places[0].along, up=other.places[0].up),))
        pair = replace(
            laid, parts=(replace(one, name="a", places=(place,)), replace(there, name="b")), things=(), nested=()
        )
        points = [
            p.solid.corners() @ p.places[0].frame(bodies).axes[0].T + p.places[0].frame(bodies).at[0]
            for p in pair.parts
        ]
        found = fouls(hulls(pair), bodies, 1)
        told.append(bool(found))
        # What only just touches may be called either.
        if found and found[0].deep > 2e-3:
            assert not apart(*points)
        elif not found:
            shrunk = [hull.mean(axis=0) + 0.97 * (hull - hull.mean(axis=0)) for hull in points]
            assert apart(*shrunk)
    assert 0 < sum(told) < 60


def test_a_truck_is_as_wide_as_the_runway_asks_and_its_bolt_stays_on_it():
    for section in ("al6063-slot-40x40", "pine-45x95", "al6063-slot-80x80"):
        project = changes.set_values(sample(), "kitchen-gantry", [("runway.section", section)])
        result = evaluate(project, SHELF, "kitchen-gantry")
        truck = next(part for part in result.parts if part.name == "End truck")
        hole = next(mark for mark in truck.marks if mark.note == "bridge")
        assert truck.solid.box[1] - hole.across >= 0.024 - 1e-9, section
        assert 0 < finding(result, "rig.truck_bolt").value < 1e9 and finding(result, "build.fouls").state == "clear"


def test_planted_fouls_are_found_named_and_drawn():
    project = changes.set_values(sample(), "hive-jib", [("weights.place", 0.27)])
    result = evaluate(project, SHELF, "hive-jib")
    found = finding(result, "build.fouls")
    assert found.state == "stop" and {result.fouls[0].one, result.fouls[0].other} == {"Foot plate", "weights"}
    drawn = [note for note in result.draw(1.0, "side").items if "weights" in str(getattr(note, "words", ""))]
    assert len(drawn) == 1 and not [
        n for n in result.draw(0.5, "side").items if "weights" in str(getattr(n, "words", ""))
    ]


def test_a_bolt_too_short_for_its_stack_is_found():
    """The post bracket of a gantry's boom, by hand: tube 25, bracket 3, two washers, lock nut, a turn of thread."""
    result = evaluate(sample(), SHELF, "kitchen-gantry")
    bought = next(item for item in result.laid.bought if "brackets of the drop post" in item.note)
    row = SHELF.bolts["M5"]
    assert 0.025 + 0.003 + 2 * row.washer_t + row.lock_nut + row.pitch <= 0.040 and "M5×40" in bought.name
    short = tuple(
        replace(one, items=tuple(replace(item, name=item.name.replace("M5×40", "M5×30")) for item in one.items))
        for one in result.laid.fastenings
    )
    bodies = result.kind.bodies(result.model, result.poses(np.array([0.0])))
    worst = passed(replace(result.laid, fastenings=short), bodies, SHELF.bolts)[0]
    assert worst.name == "Bolt M5×30" and worst.short == pytest.approx(0.025 + row.lock_nut + row.pitch - 0.030)
    # Every upright has its own bolts: four through the feet of a handle's uprights and braces.
    dolly = evaluate(sample(), SHELF, "lane-dolly").laid
    assert next(item.quantity for item in dolly.bought if item.note == "handle, with the bracket") == 4


def thrown(rig, seed):
    """A sample rig with some of its pieces moved at random, and its frames over its move."""
    result = evaluate(sample(), SHELF, rig)
    rng = np.random.default_rng(seed)
    parts = tuple(
        replace(
            part,
            places=tuple(
                replace(
                    place, at=tuple(np.array(place.at) + rng.normal(0, 0.08, 3)) if rng.random() < 0.5 else place.at
                )
                for place in part.places
            ),
        )
        for part in result.laid.parts
    )
    return replace(result.laid, parts=parts), result


@pytest.mark.parametrize("rig", RIGS)
@pytest.mark.parametrize("seed", [1, 2])
def test_over_a_move_each_two_pieces_are_told_at_the_pose_where_they_are_deepest(rig, seed):
    """All poses in one go against each pose by itself, where the pieces of one body are told again every time."""
    laid, result = thrown(rig, seed)
    shares = np.linspace(0, 1, 5)
    solids = hulls(laid)
    bodies = result.kind.bodies(result.model, result.poses(shares))
    found = {frozenset((one.one, one.other)): one for one in fouls(solids, bodies, len(shares))}
    deepest: dict[frozenset[str], float] = {}
    for share in shares:
        at_it = result.kind.bodies(result.model, result.poses(np.array([share])))
        for one in fouls(solids, at_it, 1):
            names = frozenset((one.one, one.other))
            deepest[names] = max(deepest.get(names, 0.0), one.deep)
    assert found.keys() == deepest.keys()
    for names, deep in deepest.items():
        assert found[names].deep == pytest.approx(deep, rel=1e-6)
        alone = result.kind.bodies(result.model, result.poses(shares[found[names].pose : found[names].pose + 1]))
        there = {frozenset((one.one, one.other)): one for one in fouls(solids, alone, 1)}[names]
        assert there.deep == pytest.approx(deep, rel=1e-6)
    order = [one.deep for one in fouls(solids, bodies, len(shares))]
    assert order == sorted(order, reverse=True)


@pytest.mark.parametrize("rig", RIGS)
def test_hulls_hold_every_solid_once_where_its_part_says(rig):
    result = evaluate(sample(), SHELF, rig)
    solids = hulls(result.laid)
    rough = {name for name, other in result.laid.nested if not other}
    placed = [(part.name, place) for part in result.laid.parts for place in part.places if part.name not in rough]
    assert list(solids.names[: len(placed)]) == [name for name, _ in placed]
    assert solids.starts[-1] == len(solids.points) and solids.turns[-1] == len(solids.ways)
    assert (np.diff(solids.starts) >= 4).all() and (np.diff(solids.turns) >= 3).all()
    assert np.linalg.norm(solids.ways, axis=1) == pytest.approx(1.0)
    by_name = {part.name: part for part in result.laid.parts}
    for k, (name, place) in enumerate(placed):
        points = solids.points[solids.starts[k] : solids.starts[k + 1]]
        own = (points - np.array(place.at)) @ place.axes
        assert own == pytest.approx(by_name[name].solid.corners(), abs=1e-9)


def test_nothing_is_in_nothings_way():
    none = hulls(replace(evaluate(sample(), SHELF, "jar-slider").laid, parts=(), things=()))
    assert fouls(none, {}, 3) == ()
