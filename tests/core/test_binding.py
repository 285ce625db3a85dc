"""Rails and wheels that fit or bind: against a direct search over every place a carriage may take between its rails."""

from __future__ import annotations

import numpy as np
import pytest
from scipy.optimize import linprog

from hazel_lantern.core.editing import changes
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.mechanics import built_up
from hazel_lantern.core.mechanics.binding import Contacts, Laid, excess, mended, rocks, sideways
from tests.helpers import SHELF, changed, finding, value

MM = 1e-3


def new(kind: str, variant: str, **values):
    project = changes.add_rig(blank(), kind, variant)
    rig = project.rigs[0].id
    pairs = [(key.replace("__", "."), one) for key, one in values.items()]
    return evaluate(changes.set_values(project, rig, pairs), SHELF, rig)


def directly(rails: Laid, contacts: Contacts, middle: float, wider: float) -> float:
    """The least by which all gaps would have to be wider, in millimetres by a solver of its own: shift, turn, gap."""
    rows, bounds = [], []
    for ahead, side, right, left in zip(contacts.ahead, contacts.rail, contacts.right, contacts.left, strict=True):
        at = middle + ahead
        rail = np.interp(at, rails.places, rails.left if side == 0 else rails.right)
        wheel = (wider if side == 0 else -wider) / 2
        for sign, play in ((1, left), (-1, right)):
            if np.isfinite(play):
                rows.append((sign, sign * ahead, -1.0))
                bounds.append((sign * (rail - wheel) + play) / MM)
    found = linprog((0.0, 0.0, 1.0), A_ub=rows, b_ub=bounds, bounds=[(None, None)] * 3)
    assert found.success
    return float(found.fun) * MM


def test_two_hundred_random_pairs_of_rails_bind_where_a_direct_search_says():
    chance = np.random.default_rng(7)
    for case in range(200):
        long, base = chance.uniform(0.6, 3.0), chance.uniform(0.06, 0.4)
        places = np.sort([0.0, long, *chance.uniform(0.0, long, chance.integers(0, 6))])
        rails = Laid(places, *chance.normal(0.0, 0.6 * MM, (4, len(places))))
        half = base / 2
        ahead = np.array([half, -half, half, -half]) if case % 3 else np.array([half, -half, 0.0])
        side = np.array([0, 0, 1, 1])[: len(ahead)]
        right, left = chance.uniform(0.0, 0.9 * MM, (2, len(ahead)))
        if case % 5 == 0:
            right[side == 1] = left[side == 1] = np.inf
        contacts = Contacts(ahead, np.where(side == 0, 0.1, -0.1), side, right, left)
        middles, wider = np.linspace(half, long - half, 7), chance.normal(0.0, 0.4 * MM)
        found = sideways(rails, contacts, middles, wider)
        for middle, binds in zip(middles, found, strict=True):
            assert binds == pytest.approx(directly(rails, contacts, middle, wider), abs=1e-9)
        gap = rocks(rails, contacts, middles)
        if len(ahead) == 4:
            up = [rails.above(middles + a, s) for a, s in zip(ahead, side, strict=True)]
            # Three of four stand: the fourth is off the plane through them.
            plane = up[0] - up[1] + up[3]
            assert gap == pytest.approx(np.abs(up[2] - plane), abs=1e-12)
        else:
            assert not gap.any()


def test_more_play_gives_as_much_room():
    free = np.array([[1.0, 0.1], [1.0, -0.1], [1.0, 0.1], [1.0, -0.1]])
    lies = np.array([[0.3, -0.2, 0.9, 0.1]]) * MM
    tight = excess(free, lies, lies)
    assert excess(free, lies - 0.2 * MM, lies + 0.2 * MM) == pytest.approx(tight - 0.2 * MM)


@pytest.mark.parametrize(
    ("apart", "way"),
    [((0.6, 0.6, 0.6, 0.6, 0.6), "wheels"), ((0.0, 0.3, 0.6, 0.9, 1.2), "end"), ((0.0, 0.0, 0.9, 0.0, 0.0), "spot")],
)
def test_what_to_move_is_what_leaves_nothing_over(apart, way):
    mend = mended(np.linspace(0.0, 1.2, 5), np.array(apart) * MM)
    leaves = {"wheels": mend.wheels_leave, "end": mend.end_leaves, "spot": mend.spot_leaves}
    assert leaves[way] == pytest.approx(0.0, abs=1e-12)
    assert min(leaves, key=leaves.get) == way
    moved = {"wheels": mend.wheels, "end": -mend.end, "spot": mend.spot_off}
    assert moved[way] == pytest.approx(max(apart) * MM)


def test_measured_rails_are_told_where_they_bind_and_each_remedy_gives_room():
    rows = [[0.0, 0.0, 0.0, 0.0], [0.6, 0.7e-3, 0.0, 0.0], [1.2, 1.4e-3, 0.0, 0.2e-3]]
    told = new("slider", "rods", fit__rails=rows)
    over = -value(told, "travel.room")
    rail = told.model.way
    # Rails that part by 1.4 mm over their length, against 1 mm of play at both of them together.
    at = rail.high + rail.wheelbase / 2
    assert over == pytest.approx((1.4e-3 * at / 1.2 - 1e-3) / 2, rel=1e-9)
    assert value(told, "travel.tightest") == pytest.approx(rail.high)
    binds = finding(told, "travel.binds")
    assert binds.state == "watch" and "far end of the second rail" in binds.sentence.template
    assert value(told, "travel.bind_drag") == pytest.approx(4 * over * 1e5 * rail.drag[1] * 2**0.5)
    for changes_ in ({"fit__floats": "floating"}, {"fit__play": 2e-3}, {"fit__wider": 0.7e-3}):
        assert value(new("slider", "rods", fit__rails=rows, **changes_), "travel.room") > 0
    assert value(told, "travel.rocks") == pytest.approx(0.2e-3 * rail.wheelbase / 0.6, rel=0.02)


def test_what_cannot_ride_a_rail_is_refused_with_what_would():
    for kind, variant, values, words in (
        ("slider", "grooved", {"carriage__wheel": "bearing-22"}, "grooved wheels"),
        ("slider", "rods", {"carriage__wheel": "swivel-50"}, "inclined pairs"),
        ("slider", "rods", {"carriage__wheel": "v-25"}, "too wide for the groove"),
        ("slider", "flats", {"carriage__wheel": "swivel-50"}, "too narrow"),
        ("slider", "rods", {"pair__apart": 0.09}, "over their edge"),
    ):
        told = new(kind, variant, **values)
        stop = next(f for f in told.findings if f.key in ("build.rides", "build.pair") and f.state == "stop")
        assert words in stop.sentence.template
    rides = new("slider", "flats", carriage__wheel="swivel-50", rail__section="beech-30x60")
    assert finding(rides, "build.rides").state == "clear"
    free = new("slider", "flats", carriage__wheel="swivel-50", rail__section="beech-30x60", carriage__casters="free")
    assert value(free, "travel.swings_round") == pytest.approx(2 * SHELF.wheels["swivel-50"].trail)
    assert finding(free, "travel.reversed").state == "watch" and finding(rides, "travel.reversed").state == "clear"


def test_a_board_under_the_rods_and_a_stop_at_their_ends_do_what_they_weigh_and_hold():
    bare, based = new("slider", "rods", support="two"), new("slider", "rods", support="two", rail__base="board")
    rods, board = bare.model.way.beam, based.model.way.beam
    wood, metal = SHELF.materials["plywood"], SHELF.materials["al6063"]
    # Between two loose layers and two glued ones, which bend about their common middle.
    loose = rods.ei + wood.E * 0.21 * 0.018**3 / 12
    tube, ply = 2 * metal.E * SHELF.sections["al6063-round-30x2"].section().area, wood.E * 0.21 * 0.018
    glued = loose + tube * ply / (tube + ply) * 0.024**2
    assert loose < board.ei < glued
    whole = built_up.layers(rods.ei, tube, loose - rods.ei, ply, 0.024, 1.0)
    assert (whole.ei, built_up.layers(rods.ei, tube, loose - rods.ei, ply, 0.024, 0.0).ei) == pytest.approx(
        (glued, loose)
    )
    # What both take of a bending adds up to it: their own bending, and the pull in one against the push in the other.
    way = based.model.way
    pulls = way.layered.joint * tube * way.layered.upper / board.ei
    assert pulls == pytest.approx(ply * way.layered.lower / board.ei)
    assert loose / board.ei + pulls * 0.024 == pytest.approx(1.0)
    assert value(based, "travel.dip") < value(bare, "travel.dip")
    # All the energy of the carriage goes into the stop as into a spring.
    speed, mass = value(bare, "travel.end_speed"), bare.model.way.moving
    assert value(bare, "travel.end_hit") * 0.01 / 2 == pytest.approx(mass * speed**2 / 2)
    steep = new("slider", "rods", support="two", rail__slope=np.radians(60), place__kept="hand")
    assert value(steep, "travel.end_speed") > 3.0 > speed
    locked = new("slider", "rods", support="two", rail__slope=np.radians(60), place__kept="lock")
    assert value(locked, "travel.end_speed") < 1.0


def test_the_sample_says_how_its_rods_are_to_be_moved():
    project = changed()
    told = evaluate(project, SHELF, "jar-slider-board", suggest=True)
    assert {remedy.key for remedy in finding(told, "travel.binds").remedies} >= {"float", "wheels"}
