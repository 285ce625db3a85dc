"""The dolly: its track against pipes on push-only ties, its tipping against moments, and what cannot be built."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.kinds.dolly.model import LAST, tie_places
from hazel_lantern.core.kinds.rail.bends import ride
from hazel_lantern.core.kinds.rail.rumble import rumble
from hazel_lantern.core.mechanics import platform, rolling, ties, vibration
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
        rail__joint_every=0.0,
        ground__stiffness=stiffness,
        tie__spacing=float(rng.uniform(0.4, 1.6)),
        camera__ahead=float(rng.uniform(-0.04, 0.04)),
        rail__section=("galv-round-33.7x3.2", "al6063-round-50x2")[seed % 2],
    ).model
    way, at = found.way, float(rng.uniform(found.way.low, found.way.high))
    front, rear = way.axles()
    # Ends beyond the last ties hang over; their weight is left out of both.
    light = type(way.beam)(way.length, way.beam.ei, way.beam.gj, 0.0, way.beam.rests, 0.0)
    ours = ride(way, light, np.array([at]))
    pipe = ties.laid(
        found.ties,
        stiffness / 2,
        way.beam.ei / 2,
        0.0,
        [(at + way.wheelbase / 2, front / 2), (at - way.wheelbase / 2, rear / 2)],
    )
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
        assert np.diff(moved).max() <= np.diff(places).max() + 1e-9
    deck = dolly().model
    joints = deck.way.joints
    # A tie's screw meets no joint tube.
    assert min(abs(tie - cut) for tie in deck.ties for cut in joints.cuts) > joints.splice.overlap


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
    assert bought["Skate wheel 72 mm, soft"] == bought["Axle bolt M8×55 with two nuts"] == 8
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


def other(variant, **design):
    """A dolly of another construction, as a new one begins, on the sample's lane."""
    project = changes.add_rig(sample(), "dolly", variant)
    rig = project.rigs[-1].id
    values = [(key.replace("__", "."), to) for key, to in design.items()]
    project = changes.set_values(changes.serve(project, rig, "cart"), rig, values)
    return evaluate(project, SHELF, rig, "cart")


@pytest.mark.parametrize("seed", range(4))
def test_three_corners_ride_each_on_its_own_pipe(seed):
    """Loads from moments about the pipes and about the single corner; either pipe on ties that only push."""
    rng = np.random.default_rng(seed)
    stiffness = float(10 ** rng.uniform(5, 7))
    found = other(
        "three",
        rail__joint_every=0.0,
        ground__stiffness=stiffness,
        tie__spacing=float(rng.uniform(0.4, 1.2)),
        camera__ahead=float(rng.uniform(-0.02, 0.02)),
        stand__radius=0.3,
        handle__height=float(rng.uniform(0.0, 1.2)),
    ).model
    way, at = found.way, float(rng.uniform(found.way.low, found.way.high))
    weight, (x, y, _) = way.moving * GRAVITY, way.cg
    single = weight * (0.5 - y / way.spacing)
    front = (weight - single) / 2 + weight * x / way.wheelbase
    rear = weight - single - front
    assert [load for _, load in way.stands()] == pytest.approx([front, single, rear])
    light = type(way.beam)(way.length, way.beam.ei, way.beam.gj, 0.0, way.beam.rests, 0.0)
    ours = ride(way, light, np.array([at]))
    half = way.wheelbase / 2
    left, right = (
        ties.laid(found.ties, stiffness / 2, way.beam.ei / 2, 0.0, loads)
        for loads in ([(at + half, front), (at - half, rear)], [(at, single)])
    )
    middle = (left.sag[0] + left.sag[1]) / 2
    pitch, roll = (left.sag[0] - left.sag[1]) / way.wheelbase, (right.sag[0] - middle) / way.spacing
    assert (ours.pitch[0], ours.roll[0]) == pytest.approx((pitch, roll), rel=2e-3, abs=1e-9)
    drop = (middle + right.sag[0]) / 2 + pitch * way.lens[0] - roll * way.lens[1]
    assert ours.drop[0] == pytest.approx(drop, rel=2e-3)
    assert ours.reactions[0] == pytest.approx(left.reactions + right.reactions, rel=1e-3, abs=1e-2)


def test_a_frame_keeps_its_trolleys_under_three_feet_and_nothing_else_moves_them():
    found = other("frame", rail__spacing=0.66, stand__radius=0.9, camera__ahead=0.3, rider="sits").model
    feet = found.feet + found.way.mount[:2]
    order = [int(np.argmin(np.hypot(*(feet - corner).T))) for corner in found.way.wheels]
    assert feet[order] == pytest.approx(found.way.wheels, abs=1e-9)
    assert np.hypot(*found.feet.T) == pytest.approx(np.full(3, 0.44))
    assert not [thing for thing in found.laid.things if thing.name == "Person aboard"]


def test_wedges_lay_both_pipes_in_one_plane_and_least_of_all():
    rows = ((0.0, 0.004, -0.003), (1.3, 0.021, 0.012), (2.6, -0.008, 0.0), (4.0, 0.006, 0.009))
    result = dolly(ground__heights=rows, rail__slope=0.01, ground__packed=0.005, place__kept="lock")
    deck, ground = result.model, np.array(rows)
    tops = np.column_stack([np.interp(deck.ties, ground[:, 0], ground[:, k]) for k in (1, 2)]) + deck.wedges
    assert np.ptp(tops - math.sin(0.01) * np.array(deck.ties)[:, None]) < 1e-12
    assert deck.wedges.min() == pytest.approx(0.005)
    level = dolly(ground__heights=tuple((x, z, z) for x, z, _ in rows), ground__packed=0.0).model
    packed = ties.packing(ground[:, 0], ground[:, 1], level.ties, level=True)
    assert level.wedges == pytest.approx(np.column_stack([packed, packed]))
    # The pipes lie over the lowest ground: their tops are where the drawing and the lens take them.
    under = deck.way.on_floor(deck.ties[0])[1] - deck.way.bar.depth - deck.tie
    assert under == pytest.approx(
        deck.wedges[0, 0] + np.interp(deck.ties[0], ground[:, 0], ground[:, 1]) - ground[:, 1:].min()
    )
    laid = dolly(ground__heights=rows, ground__lies="as-it-lies")
    assert finding(laid, "travel.unlevel").state == WATCH and len(laid.model.wedges) == 0
    assert finding(dolly(ground__heights=rows[:2]), "rig.measured").state == WATCH


def test_a_wheel_over_a_step_does_the_work_of_lifting_and_swings_what_rides_on_it():
    """The push round the edge, summed over the way, lifts the load; the swing against an integrated oscillator."""
    d, h, load = 0.125, 0.018, 310.0
    x, z = rolling.over_step(d, h, 4000)
    push = [load * (x[-1] - at) / (d / 2 - h + up) for at, up in zip(x, z, strict=True)]
    assert np.trapezoid(push, x) == pytest.approx(load * h, rel=1e-4)
    assert push[0] == pytest.approx(float(rolling.step(d, h, 1.0, load).climb))
    assert z[-1] == pytest.approx(h) and rolling.over_gap(d, 0.02)[1].min() == pytest.approx(
        -float(rolling.gap(d, 0.02, 1.0).depth)
    )
    for met, hz in (
        (rolling.over_step(d, 0.002), 9.0),
        (rolling.over_gap(d, 0.01), 21.0),
        (rolling.over_step(d, 0.001), 2.0),
    ):
        times, base, w, zeta = met[0] / 0.4, met[1], 2 * math.pi * hz, 0.06

        def swings(t, y, times=times, base=base, w=w, zeta=zeta):
            moved = np.interp(t, times, base)
            slope = (np.interp(t + 1e-7, times, base) - np.interp(t - 1e-7, times, base)) / 2e-7
            return [y[1], w * w * (moved - y[0]) + 2 * zeta * w * (slope - y[1])]

        end = times[-1] + 1.2 / hz
        whole = solve_ivp(swings, (0, end), [0.0, 0.0], max_step=min(1e-3, times[1] - times[0]), rtol=1e-8, atol=1e-12)
        ours = vibration.carried_over(np.array([hz]), zeta, times, base)
        assert ours[0] == pytest.approx(np.abs(whole.y[0]).max(), rel=2e-2)


def test_stopped_dead_it_goes_over_from_where_its_swing_lifts_it():
    """A point mass thrown about the wheel it stops at, followed until it stands over it or falls back."""
    reach, high, slope = 0.4, 0.9, math.radians(-3)
    radius = math.hypot(reach, high)

    def top(speed):
        turn, angle = speed * high / radius**2, math.atan2(high, -reach) + slope
        lifted = angle
        for _ in range(200_000):
            turn += GRAVITY / radius * math.cos(lifted) * 1e-5
            lifted -= turn * 1e-5
            if turn <= 0 or lifted <= math.pi / 2:
                break
        return lifted <= math.pi / 2

    limit = platform.trips_from(reach, high, slope)
    assert top(1.01 * limit) and not top(0.99 * limit)
    assert platform.trips_from(reach, high, math.radians(3)) > limit
    assert math.isfinite(value(dolly(), "balance.trips_from"))
    assert platform.chock(0.072, 100.0, 100.0) == pytest.approx(0.036 * (1 - math.sqrt(0.5)))


def test_on_the_floor_gaps_are_calmed_by_ballast_and_steps_by_none():
    gaps = other("floor", floor__step=0.0, floor__gap=0.006, camera__heading=0.0)
    curve = gaps.curves["travel.ballast"].y
    assert curve[-1] < curve[0]
    assert value(gaps, "travel.kick_px") == pytest.approx(
        np.interp(gaps.model.ballast, gaps.curves["travel.ballast"].x, curve), rel=1e-6
    )
    smooth = other("floor", floor__step=0.0, floor__gap=0.0)
    assert "travel.kick_px" not in smooth.figures and finding(smooth, "travel.rocking").state == CLEAR
    assert finding(other("floor", floor__step=0.045, carriage__wheel="caster-50"), "travel.joint").state == STOP
    loud = other("floor", sound__recorded="sound", carriage__wheel="poly-100")
    assert (
        finding(loud, "travel.heard").state,
        finding(other("floor", sound__recorded="sound", floor__gap=0.0, floor__step=0.0), "travel.heard").state,
    ) == (WATCH, CLEAR)
    free = other("trucks", truck__lean="free")
    way = free.model.way
    lean = 4.0 * float(way.lens[2]) + way.weight * abs(float(way.cg[1]))
    assert value(free, "travel.turns") == pytest.approx(way.wheelbase * 120.0 / (2 * lean))
    assert finding(free, "travel.steers").state == WATCH and finding(other("trucks"), "travel.steers").state == CLEAR
    assert (
        finding(other("trucks", truck__lean="free", truck__stiffness=5.0, ballast__mass=60.0), "travel.steers").state
        == STOP
    )


def test_who_rides_is_a_caution_at_best():
    assert not [f for f in dolly().findings if f.key == "balance.rides"]
    asked = {"rider": "sits", "ballast__mass": 0.0, "deck__ribs": "four", "carriage__mass": 30.0}
    assert finding(dolly(**asked), "balance.rides").state == STOP  # no brake
    braked = dolly(**asked, place__kept="lock")
    assert finding(braked, "balance.rides").state == WATCH
    assert finding(dolly(**asked, place__kept="lock", push__brake=6.0), "balance.rides").state == STOP
    assert value(braked, "rig.plate_stress") < value(
        dolly(**(asked | {"deck__ribs": "none"}), place__kept="lock"), "rig.plate_stress"
    )
    assert value(braked, "balance.rider") < value(braked, "balance.tips_from")


@pytest.mark.parametrize(
    ("wheel", "pipe"),
    [("skate-72", "galv-round-33.7x3.2"), ("skate-54", "al6063-round-50x2"), ("rubber-125", "galv-round-33.7x3.2")],
)
def test_a_flat_bar_bent_at_its_marks_holds_the_wheels_where_they_lean(wheel, pipe):
    """The blank folded by 45 degrees at both bends: each axle's line passes the middle of its wheel, square to its
    wing, and the wing clears wheel and pipe."""
    result = dolly(carriage__wheel=wheel, rail__section=pipe, rail__spacing=0.9, carriage__wheelbase=1.1)
    way, part = result.model.way, next(p for p in result.parts if p.name == "Wheel bracket")
    sheet, place = part.solid, part.places[0]
    wheels = next(thing for thing in result.laid.things if thing.name == way.wheel.name)
    bends = [mark.at for mark in part.marks if mark.note.startswith("bend")]
    axles = [mark.at for mark in part.marks if "axle" in mark.note]
    middle, down = sheet.length / 2, float(place.at[2])
    lane = float(place.at[1]) + middle
    for bend, axle, side in zip(bends, axles, (-1.0, 1.0), strict=True):
        out = np.array([side, -1.0]) * math.sqrt(0.5)  # the way the wing goes once it is bent down: outwards at first
        along = abs(axle - bend)
        hinge = np.array([lane + side * abs(bend - middle), down])
        inward = np.array([-side, -1.0]) * math.sqrt(0.5)
        spot = hinge + inward * along
        normal = np.array([side, -1.0]) * math.sqrt(0.5)
        near = [
            np.array(p.at[1:])
            for p in wheels.places
            if 0 < (p.at[1] - lane) * side < 0.3 and abs(p.at[0] - place.at[0]) < 1e-9
        ]
        (centre,) = near
        off = centre - spot
        assert abs(off @ inward) < 1e-9  # on the axle's line
        assert off @ normal == pytest.approx(way.wheel.width / 2 + 0.006 + sheet.thickness / 2)
        assert along >= 0.012 and np.allclose(out, normal)
        tip = hinge + inward * (along + 0.016)
        pipe_middle = np.array([lane, -way.bar.depth / 2])
        assert np.hypot(*(tip - pipe_middle)) > way.bar.depth / 2 + 0.003


def test_a_deck_sags_as_a_plate_between_its_wheels_and_battens_take_their_share():
    bare, ribbed = dolly(), dolly(deck__ribs="four")
    part = next(p for p in bare.parts if p.name == "Carriage plate")
    load = (bare.model.way.moving - bare.rig.design["carriage.mass"]) * GRAVITY
    wide = max(part.solid.length, part.solid.width) if part.places[0].along[1] else part.solid.width
    stiff = part.solid.material.E * min(wide, 1.1 * 0.9) * part.solid.thickness**3 / 12
    assert value(bare, "rig.deck_sag") == pytest.approx(load * 0.9**3 / 48 / stiff, rel=1e-6)
    batten = next(p for p in ribbed.parts if p.name == "Batten, along")
    more = 4 * batten.solid.material.E * 0.028 * 0.045**3 / 12
    assert value(ribbed, "rig.deck_sag") / value(bare, "rig.deck_sag") == pytest.approx(
        stiff / (stiff + more), rel=1e-6
    )
    assert (batten.quantity, value(ribbed, "rig.plate_stress") < value(bare, "rig.plate_stress")) == (4, True)


def test_a_lead_is_long_enough_and_pulls_as_it_scrapes_or_hangs():
    scraped = dolly(lead__line=0.1)
    way = scraped.model.way
    half = (way.high - way.low) / 2
    assert value(scraped, "travel.lead_pull") == pytest.approx(0.5 * 0.1 * GRAVITY * half)
    assert value(scraped, "travel.lead") > math.hypot(half, way.height + float(way.lens[2]))
    jar = evaluate(changes.set_values(sample(), "jar-slider", [("lead.line", 0.4)]), SHELF, "jar-slider")
    assert finding(jar, "travel.lead_felt").state == WATCH and finding(scraped, "travel.lead_felt").state == CLEAR
    assert "travel.lead" not in dolly(lead__line=0.0).figures
    jib = evaluate(changes.set_values(sample(), "hive-jib", [("lead.line", 0.1)]), SHELF, "hive-jib")
    assert value(jib, "balance.lead_moment") == pytest.approx(0.1 * GRAVITY * 1.75**2 / 2)


def test_the_slower_time_that_is_offered_shakes_nothing():
    """Over many speeds, lines and modes: what is told is the nearest, and the remedy lies in no band."""
    rng = np.random.default_rng(5)
    move = dolly().path.move
    offered = 0
    for _ in range(300):
        fastest = float(rng.uniform(0.1, 1.5))
        lines = [("wheel", float(rng.uniform(0.1, 0.5)), 1), ("tie", float(rng.uniform(0.3, 1.0)), 1)]
        modes = [("rail", float(rng.uniform(0.5, 12)), 0.02), ("nod", float(rng.uniform(0.5, 12)), 0.06)]
        told = rumble(move, fastest, lines, modes, (), suggest=True)
        bands = [
            (hz * way / order * (1 - half), hz * way / order * (1 + half))
            for _, way, order in lines
            for _, hz, z in modes
            for half in (max(0.1, 2 * z),)
            if hz * way / order <= 4 * fastest
        ]
        hit = any(low <= fastest <= high for low, high in bands)
        if not told.findings:
            assert not bands
            continue
        assert (told.findings[0].state == WATCH) == hit
        for remedy in told.findings[0].remedies:
            speed = fastest * move.duration_s / remedy.changes[0][1]
            assert not any(low <= speed <= high for low, high in bands)
            offered += 1
    assert offered > 20
