"""The dolly: its track against pipes on push-only ties, its tipping against moments, and what cannot be built."""

from __future__ import annotations

import math

import numpy as np
import pytest

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds.dolly.model import LAST, tie_places
from hazel_lantern.core.kinds.rail.bends import ride
from hazel_lantern.core.mechanics import ties
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.units import GRAVITY
from hazel_lantern.core.workshop.solids import TOP
from tests.helpers import SHELF, finding, sample, value

RIG = "lane-dolly"


def dolly(**design):
    values = [(key.replace("__", "."), to) for key, to in design.items()]
    return evaluate(changes.set_values(sample(), RIG, values), SHELF, RIG)


@pytest.mark.parametrize("seed", range(5))
def test_both_pipes_ride_as_pipes_on_ties_that_only_push(seed):
    """Half of every axle on either pipe, each tie giving half as easily under one of them."""
    rng = np.random.default_rng(seed)
    stiffness = float(10 ** rng.uniform(4.7, 7))
    found = dolly(
        rail__joint_every=0.0, ground__stiffness=stiffness, tie__spacing=float(rng.uniform(0.4, 1.6)),
        camera__ahead=float(rng.uniform(-0.04, 0.04)), rail__section=("galv-round-33.7x3.2", "al6063-round-50x2")[seed % 2],
    ).model  # fmt: skip
    way, at = found.way, float(rng.uniform(found.way.low, found.way.high))
    front, rear = way.axles()
    # Ends beyond the last ties hang over; their weight is left out of both.
    light = type(way.beam)(way.length, way.beam.ei, way.beam.gj, 0.0, way.beam.rests, 0.0)
    ours = ride(way, light, np.array([at]))
    pipe = ties.laid(
        found.ties, stiffness / 2, way.beam.ei / 2, 0.0, [(at + way.wheelbase / 2, front / 2), (at - way.wheelbase / 2, rear / 2)]
    )  # fmt: skip
    assert ours.reactions[0] == pytest.approx(2 * pipe.reactions, rel=1e-4, abs=1e-3)
    drop = (pipe.sag[0] + pipe.sag[1]) / 2
    pitch = (pipe.sag[0] - pipe.sag[1]) / way.wheelbase
    assert ours.pitch[0] == pytest.approx(pitch, rel=1e-3, abs=1e-9)
    assert ours.drop[0] == pytest.approx(drop + pitch * way.lens[0] - ours.roll[0] * way.lens[1], rel=1e-3)


def test_a_load_aside_leans_by_the_difference_of_its_pipes():
    found = dolly(
        rail__joint_every=0.0, camera__aside=0.2, camera__on="deck", camera__rise=0.2, tie__held="pegged"
    ).model
    way, at = found.way, float(found.way.low + 0.31)
    share = float(way.cg[1]) / way.spacing
    stiffness, ours = found.way.beam.rests[0].kz / 2, ride(way, x=np.array([at]))
    sides = []
    for part in (0.5 + share, 0.5 - share):
        loads = [(at + s * way.wheelbase / 2, axle * part) for s, axle in zip((1, -1), way.axles(), strict=True)]
        sides.append(ties.laid(found.ties, stiffness, way.beam.ei / 2, 0.0, loads, held=True).sag.mean())
    assert ours.roll[0] == pytest.approx(-(sides[0] - sides[1]) / way.spacing, rel=0.06)


def test_ties_lie_no_further_apart_than_asked_and_never_under_a_joint():
    rng = np.random.default_rng(1)
    for _ in range(200):
        length, most, every = rng.uniform(0.8, 8), rng.uniform(0.15, 3), rng.uniform(0.4, 4)
        places = np.array(tie_places(length, most))
        spans = np.diff(places)
        assert spans.max() <= max(most, 0) + 1e-9 or len(places) == 2
        if len(spans) > 2:
            assert spans[[0, -1]] == pytest.approx(LAST * spans[1], rel=1e-9)
        cuts = tuple(np.arange(every, length - 1e-9, every))
        moved = tie_places(length, most, cuts)
        assert all(abs(tie - cut) >= 0.03 - 1e-9 for tie in moved for cut in cuts)


def test_it_tips_when_stopped_as_its_moments_say():
    """Uphill and down, against moments about the axle; more ballast down low steadies it."""
    slope = math.radians(4)
    result = dolly(rail__slope=slope, camera__ahead=0.04, place__kept="lock")
    way = result.model.way
    ahead, _, up = way.cg
    half = way.wheelbase / 2
    stop = GRAVITY * ((half - ahead) * math.cos(slope) / up + math.sin(slope))
    start = GRAVITY * ((half + ahead) * math.cos(slope) / up - math.sin(slope))
    assert value(result, "balance.tips_from") == pytest.approx(min(stop, start))
    assert value(dolly(ballast__mass=80.0), "balance.tips_from") > value(dolly(ballast__mass=0.0), "balance.tips_from")
    assert (
        finding(
            dolly(
                push__brake=10.0,
                ballast__mass=0.0,
                carriage__wheelbase=0.7,
                camera__on="deck",
                camera__rise=0.2,
                handle__height=0.0,
            ),
            "balance.braked",
        ).state
        == CLEAR
    )
    tall = dolly(push__brake=10.0, ballast__mass=0.0)
    assert finding(tall, "balance.braked").state == STOP


def test_a_tripod_that_is_not_strapped_tips_out_of_its_cups():
    """About the nearest edge of its three feet, half their radius from the middle."""
    result = dolly(stand__held="loose")
    deck = result.model
    mass, high = deck.stand.mass + value(result, "balance.carried"), float(deck.way.lens[2]) - deck.top
    assert value(result, "balance.cups") == pytest.approx(mass * GRAVITY * 0.2 / high, rel=0.05)
    assert finding(result, "balance.in_cups").state == STOP
    assert finding(dolly(), "balance.in_cups").state == CLEAR
    assert finding(dolly(camera__on="deck"), "rig.low").state == STOP
    assert finding(dolly(camera__on="deck", camera__rise=0.2), "rig.low").state == CLEAR


def test_wheels_of_a_pair_keep_clear_of_each_other_and_of_their_edges():
    wide = dolly(carriage__wheel="skate-54", rail__section="galv-round-26.9x2.6")
    assert value(wide, "rig.pair_gap") == pytest.approx((0.0269 - 0.032) * math.sqrt(0.5))
    assert finding(wide, "rig.pair_meets").state == STOP
    assert finding(dolly(), "rig.pair_meets").state == finding(dolly(), "rig.edges").state == CLEAR
    assert finding(dolly(carriage__wheel="bearing-22"), "rig.edges").state == WATCH


def test_what_it_weighs_is_what_its_pieces_say():
    result = dolly(ballast__mass=33.0)
    deck = result.model
    kit = deck.way.moving - sum(one.mass for one in deck.borne)
    assert kit == pytest.approx(value(result, "balance.carried"))
    placed = {piece.name: piece.mass for piece in result.laid.placed}
    assert placed["Ballast"] == 33.0
    bought = {row.name: row.quantity for row in result.laid.bought}
    ties_, joints = len(deck.ties), 2 * len(deck.way.joints.cuts)
    assert bought["Self-tapping screw 4.2×13, flat head"] == 2 * joints
    # No head stands out of the sides of a pipe, where the wheels run.
    assert {mark.face for part in result.parts if part.name.startswith(("Rail", "Joint")) for mark in part.marks} == {
        TOP
    }
    assert (bought["Countersunk screw 5×40"], bought["Pair of wedges, 1 in 8"]) == (2 * ties_, 2 * ties_)
    assert bought["Skate wheel 72 mm, soft"] == bought["Axle bolt M8×45 with two nuts"] == 8
    assert result.laid.weigh("load")[0] == pytest.approx(33.0 + deck.stand.mass)


@pytest.mark.parametrize(
    ("design", "words"),
    [
        ({"rail__spacing": 0.2}, "feet"),
        ({"rail__spacing": 0.2, "camera__on": "deck", "camera__rise": 0.2, "carriage__wheel": "nylon-28"}, ""),
        ({"stand__radius": 0.6}, "a gauge of|wheels of"),
        ({"carriage__wheel": "v-25"}, "flat tread"),
        ({"rail__section": "al6063-slot-40x40"}, "round pipe"),
        ({"tie__section": "steel-rod-10"}, "boards"),
        ({"rail__length": 0.9}, "travel|longer than"),
    ],
)
def test_what_does_not_fit_is_said_with_what_would(design, words):
    result = dolly(**design)
    stops = " ".join(f.sentence.template for f in result.findings if f.state == STOP)
    assert (result.model is None) == bool(words)
    if words:
        assert any(word in stops for word in words.split("|")), stops
