"""Bent track: arcs against circles through points, bows against the elastic line integrated, ties against the frame
engine, wheels put on circles, and whole designs on them.
"""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from Pynite import FEModel3D
from scipy.integrate import solve_ivp
from scipy.optimize import brentq, fsolve

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate, perform
from hazel_lantern.core.mechanics import arcs
from hazel_lantern.core.mechanics.track import headed, nosed, pitched
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from tests.helpers import SHELF, finding, sample, value

RIG = "supper-arc"


def arc(**design):
    values = [(key.replace("__", "."), to) for key, to in design.items()]
    return evaluate(changes.set_values(sample(), RIG, values), SHELF, RIG)


def test_two_hundred_arcs_are_the_circles_through_their_points():
    draw = np.random.default_rng(3)
    for chord, share, gauge in zip(
        draw.uniform(0.5, 9, 200), draw.uniform(0.01, 0.45, 200), draw.uniform(0.2, 0.9, 200), strict=True
    ):
        rise = share * chord
        found = arcs.arc_through(chord, rise)
        ends = np.array([(-chord / 2, 0.0), (chord / 2, 0.0), (0.0, rise)])
        x, y, r = fsolve(
            lambda u, ends=ends: np.hypot(*(ends - u[:2]).T) - u[2], [0.0, rise - found.radius, found.radius]
        )
        assert found.radius == pytest.approx(r, abs=1e-4)
        spread = math.atan2(chord / 2, -y)
        assert found.angle == pytest.approx(2 * spread, abs=1e-6)
        if r > gauge / 2:
            # Both pipes as polygons of many sides.
            around = np.linspace(-spread, spread, 20001)
            both = [
                float(np.hypot(*np.diff(np.array([np.sin(around), np.cos(around)]) * (r + s * gauge / 2))).sum())
                for s in (-1, 1)
            ]
            assert arcs.rails_of(found.radius, found.angle, gauge) == pytest.approx(both, abs=1e-4)
        assert x == pytest.approx(0.0, abs=1e-6)


def test_a_bow_is_the_elastic_line_integrated():
    length, chord, ei = 4.0, 3.7, 38.0

    def shape(pull):
        """Pulled together by its ends from where it turns most: angle and place along half of it."""

        def bends(_, y):
            return [y[1], -pull / ei * math.sin(y[0]), math.cos(y[0]), math.sin(y[0])]

        def ends(most):
            return solve_ivp(bends, (0.0, length / 2), [0.0, most, 0.0, 0.0], rtol=1e-10, atol=1e-12).y[:, -1]

        # Its end carries no bending.
        most = brentq(lambda m: ends(m)[1], 1e-3, 1.9 * math.sqrt(pull / ei))
        return ends(most), most

    pull = brentq(lambda p: 2 * shape(p)[0][2] - chord, math.pi**2 * ei / length**2 * 1.001, 60.0)
    end, most = shape(pull)
    found = arcs.bow(length, chord, ei)
    assert (found.pull, found.curved, found.rise) == pytest.approx((pull, most, abs(end[3])), rel=1e-5)
    assert arcs.bow(length, 0.99999 * length, ei).pull == pytest.approx(math.pi**2 * ei / length**2, rel=1e-4)
    for wrong in (4.0, 5.0, 1e-6):
        with pytest.raises(InputError, match="bow_chord"):
            arcs.bow(length, wrong, ei)


def test_ties_hold_a_pipe_as_the_frame_engine_says():
    """A straight beam pushed onto an arc at every tie."""
    ei, radius, spacing, ties = 38.0, 4.2, 0.5, 15
    model = FEModel3D()
    model.add_material("stuff", 1e9, 4e8, 0.3, 1.0)
    model.add_section("pipe", 1e-2, ei / 1e9, ei / 1e9, 1e-6)
    for n in range(ties):
        model.add_node(f"N{n}", n * spacing, 0.0, 0.0)
        model.def_support(f"N{n}", n == 0, True, True, n == 0, False, False)
        offset = (n - (ties - 1) / 2) * spacing
        model.def_node_disp(f"N{n}", "DY", -(offset**2) / (2 * radius))
    for n in range(ties - 1):
        model.add_member(f"M{n}", f"N{n}", f"N{n + 1}", "stuff", "pipe")
    model.analyze_linear()
    forces = [abs(model.nodes[f"N{n}"].RxnFY["Combo 1"]) for n in range(2)]
    held = arcs.tie_forces(ei, radius, spacing)
    assert (held.end, held.second) == pytest.approx(forces, rel=2e-3)
    assert held.curved == pytest.approx(1.268 / radius, rel=1e-3)


def test_wheels_and_camera_stand_where_a_circle_puts_them():
    radius, spacing, axles, gauge = 3.4, 0.9, 0.16, 0.62
    made = arcs.bogies(radius, spacing, axles, gauge)
    pivot = math.asin(spacing / 2 / radius)
    # A pivot on the circle: its tangent against the deck, which lies along the chord.
    assert made.turns == pytest.approx(pivot)
    chords = [math.sqrt((radius + s * gauge / 2) ** 2 - (axles / 2) ** 2) for s in (-1, 1)]
    assert made.gives == pytest.approx(chords[1] - chords[0] - gauge)
    with pytest.raises(InfeasibleError):
        arcs.bogies(0.4, 0.9, 0.1, 0.3)
    result = arc()
    model = result.model
    lens = result.staged.camera.places
    lanterns = next(t for t in result.stage.things if t.id == "lanterns")
    far = np.hypot(*(lens[:, :2] - np.asarray(lanterns.at_m[:2])).T)
    assert far == pytest.approx(np.full(len(far), 4.5), abs=0.003)
    assert np.ptp(lens[:, 2]) < 1e-9
    assert value(result, "rig.goes_round") == pytest.approx(4.5, abs=1e-6)
    # The deck's axles stand on the pipes' middle line, its middle inside of it.
    there = model.way.rides.at(np.array([model.way.length / 2])).at[0]
    assert there[1] == pytest.approx(
        model.bend.radius - math.sqrt(model.bend.radius**2 - (model.way.wheelbase / 2) ** 2)
    )


def test_pieces_are_as_long_as_their_arcs_and_no_joints_stand_opposite():
    result = arc()
    bend, parts = result.model.bend, result.parts
    for name, long in (("Outer pipe", bend.outer), ("Inner pipe", bend.inner)):
        cut = [part for part in parts if part.name.startswith(name)]
        assert sum(part.length * part.quantity for part in cut) == pytest.approx(long, abs=1e-3), name
    ties = next(part for part in parts if part.name == "Tie")
    marks = [
        mark.at for part in parts if part.name.startswith("Inner pipe") for mark in part.marks if "tie" in mark.note
    ]
    assert len(marks) == ties.quantity
    screwed = arc(bend__clips="drilled")
    holes = [
        m
        for p in screwed.parts
        if p.name.startswith(("Inner", "Outer"))
        for m in p.marks
        if m.what == "hole" and "tie" in m.note
    ]
    assert len(holes) == 2 * ties.quantity
    assert not [
        m
        for p in parts
        if p.name.startswith(("Inner", "Outer"))
        for m in p.marks
        if m.what == "hole" and "tie" in m.note
    ]
    # Each tie lies square under both pipes at its own angle.
    frame = result.laid
    placed = [piece for piece in frame.placed if piece.name == "Tie"]
    centre = np.array([0.0, bend.side * bend.radius])
    assert len(placed) == ties.quantity
    joints = next(part for part in parts if part.name.startswith("Joint"))
    first = result.model.way.track.at(np.array([0.0]))
    at = np.array([first.place(place.at)[0, :2] for place in joints.places]) - centre
    inner, outer = (
        [math.atan2(*p[::-1]) for p in at if (np.hypot(*p) < bend.radius) == within] for within in (True, False)
    )
    assert min(abs(a - b) for a in inner for b in outer) * bend.radius > 0.2


@pytest.mark.parametrize(
    ("design", "key", "state"),
    [
        ({"bend.by": "radius", "bend.radius": 2.5, "rail.length": 3.0}, "rig.bends", STOP),
        ({"rail.section": "galv-round-33.7x3.2"}, "rig.bends", STOP),
        ({"tie.spacing": 1.5}, "rig.bent_loaded", STOP),
        ({"bend.trolleys": "fixed"}, "travel.scrubs", STOP),
        ({"bend.held": "cord"}, "balance.springs", CLEAR),
        ({"tie.held": "laid"}, "balance.ties_hold", STOP),
        ({"bend.peg": 150.0}, "balance.ties_hold", STOP),
        ({}, "balance.ties_hold", CLEAR),
        ({"shot.time": 3.0}, "travel.outwards", WATCH),
        ({"rail.length": 3.0}, "shot.travel", STOP),
        ({"bend.away": 4.0}, "shot.round", WATCH),
    ],
)
def test_what_bends_slips_or_falls_short_is_said(design, key, state):
    project = changes.set_values(sample(), RIG, list(design.items()))
    assert finding(evaluate(project, SHELF, RIG), key).state == state


def test_what_is_no_arc_is_told_with_what_would_do():
    closes = arc(bend__by="radius", bend__radius=0.9, rail__length=6.0)
    assert closes.model is None and "meets itself" in str(closes.problem)
    narrow = arc(bend__by="radius", bend__radius=0.5, rail__spacing=1.2, stand__radius=0.4, rail__length=1.5)
    assert narrow.model is None and "no radius" in str(narrow.problem)
    near = arc(bend__away=0.3, camera__aside=-0.5)
    assert near.model is None
    # Chord and rise, radius, and distance name the same arc.
    one = arc()
    bend = one.model.bend
    other = arc(bend__by="chord", bend__chord=round(bend.chord, 9), bend__rise=round(bend.rise, 9))
    assert other.model.bend.radius == pytest.approx(bend.radius, abs=1e-6)
    third = arc(bend__by="radius", bend__radius=round(bend.radius, 9))
    assert value(third, "rig.outer") == pytest.approx(bend.outer, abs=1e-6)


def test_sized_for_an_arc_the_other_way_round_it_turns_to_the_right():
    project = changes.set_values(
        sample(), RIG, [("shot.arc", -math.radians(40)), ("shot.start_x", 1.3), ("shot.start_y", -3.6)]
    )
    sized = evaluate(changes.set_values(project, RIG, perform(project, SHELF, RIG, "rig")), SHELF, RIG)
    assert finding(sized, "shot.travel").state == CLEAR and finding(sized, "shot.round").state == CLEAR
    assert sized.model.bend.side == -1.0
    assert value(sized, "shot.stray") < 0.02


@given(st.lists(st.tuples(st.floats(-7, 7), st.floats(-3, 3)), min_size=1, max_size=6))
def test_a_frame_that_points_and_noses_up_is_one_that_points_turned_by_one_that_noses_up(angles):
    headings, lifts = np.array(angles).T
    places = np.column_stack([headings, lifts, headings - lifts])
    one, other = nosed(places, headings, lifts), headed(places, headings).turned(pitched(lifts))
    assert one.at == pytest.approx(other.at) and one.axes == pytest.approx(other.axes, abs=1e-12)
    # Ahead of it lies what it points at, above it nothing leans aside.
    assert one.axes[:, :, 0] == pytest.approx(
        np.column_stack([np.cos(headings) * np.cos(lifts), np.sin(headings) * np.cos(lifts), np.sin(lifts)]), abs=1e-12
    )
    assert one.axes[:, 2, 1] == pytest.approx(0.0)
