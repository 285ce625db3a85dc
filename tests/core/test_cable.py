"""Cable cams as whole designs: each worst over the run by brute force, what breaks first, what is refused,
what to buy."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import solve_ivp

from hazel_lantern.core.document.project import FilmSet, Thing
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import ask, evaluate, perform
from hazel_lantern.core.mechanics import rope
from hazel_lantern.core.nouns.finding import CLEAR, STOP, WATCH
from hazel_lantern.core.nouns.units import GRAVITY
from tests.helpers import SHELF, finding, sample, value

RIG = "pond-line"


def changed(**design):
    return changes.set_values(sample(), RIG, [(key.replace("__", "."), to) for key, to in design.items()])


def cable(**design):
    return evaluate(changed(**design), SHELF, RIG)


def test_every_worst_of_the_run_is_the_worst_of_a_closer_look():
    """Four times as many places, found one by one for a rope as long as the model's."""
    result = cable(end__b=3.6, rope__sag=0.75)
    model, d = result.model, result.rig.design
    at = np.linspace(0.02, 0.98, 161) * model.span
    now = rope.rolling(model.line, model.length, model.load, at)
    assert value(result, "balance.pull") == pytest.approx(now.pull.max(), rel=1e-3)
    assert value(result, "balance.pull_b") > value(result, "balance.pull_a")
    assert value(result, "balance.sag_most") == pytest.approx(now.sag.max(), rel=1e-3)
    wind = 0.5 * 1.225 * d["wind.speed"] ** 2
    windy = math.hypot(float(model.line.weight), wind * 1.2 * model.stock.d)
    cold = model.length * (1 - 16e-6 * d["weather.range"])
    heavy = math.hypot(1.25 * model.load, wind * d["wind.area"])
    worst = rope.rolling(rope.Line(model.span, model.rise, windy, model.line.ea), cold, heavy, at)
    assert value(result, "balance.worst") == pytest.approx(worst.pull.max(), rel=1e-3)
    assert value(result, "balance.factor") == pytest.approx(0.8 * model.stock.breaking / worst.pull.max(), rel=1e-3)
    grown = rope.rolling(model.line, model.length * (1 + 16e-6 * d["weather.range"] + d["rope.creep"]), model.load, at)
    x = at - model.span / 2
    inside = (x >= model.low) & (x <= model.high)
    low = d["end.a"] + grown.height[inside] - d["carriage.drop"] - 0.03
    assert value(result, "balance.low") == pytest.approx(low.min(), abs=2e-3)


def test_the_lens_goes_the_way_of_the_rope_and_the_picture_with_it():
    result = cable(carriage__hang="stiff")
    model = result.model
    places = result.staged.camera.places
    exact = rope.rolling(model.line, model.length, model.load, result.staged.poses.q[:, 0] + model.span / 2)
    below = model.drop - float(model.lens[2])
    want = model.ends[0] + exact.height - below * np.cos(exact.way) + float(model.lens[0]) * np.sin(exact.way)
    assert places[:, 2] == pytest.approx(want, abs=1e-3)
    level = cable(carriage__hang="swings")
    assert np.ptp(level.staged.camera.places[:, 2]) == pytest.approx(np.ptp(exact.height), abs=2e-3)


def test_it_swings_and_runs_away_as_equations_of_motion_say():
    result = cable(carriage__drop=0.8)
    model, move = result.model, ask(changed(carriage__drop=0.8), SHELF, RIG, lambda move: move)
    length, time = model.hangs, move.duration_s

    def swings(t, y):
        pushed = float(move.profile.acceleration(min(t / time, 1.0))) * move.chord if t < time else 0.0
        return [y[1], -(GRAVITY * math.sin(y[0]) + pushed * math.cos(y[0])) / length]

    full = solve_ivp(swings, (0.0, time + 4), [0.0, 0.0], max_step=0.02, rtol=1e-8, atol=1e-10)
    assert value(result, "travel.swing_most") == pytest.approx(np.abs(full.y[0][full.t <= time]).max(), rel=0.02)
    assert value(result, "travel.swing") == pytest.approx(np.abs(full.y[0][full.t > time]).max(), rel=0.03, abs=1e-4)
    # Lost at the stop at the move's fastest it gains what the rope falls, less what its wheels take.
    x = np.linspace(model.low, model.high, 2001)
    way, (_, slope) = model.way.at(x)[0], model.height.at(x)
    pull = np.sin(way) * (np.cos(way) + np.sin(way) * slope)
    gain = -np.concatenate([[0.0], np.cumsum((pull[1:] + pull[:-1]) / 2 * np.diff(x))]) - 0.02 * (x - x[0])
    top = math.sqrt((move.profile.peak_speed * move.chord) ** 2 + 2 * GRAVITY * gain.max())
    assert value(result, "travel.runaway") == pytest.approx(top, rel=1e-3)
    # Its line holds it braked on the steepest place, by whatever it is moved.
    held = model.moving * (result.rig.design["brake.slows"] + GRAVITY * np.abs(np.sin(way)).max())
    for by in ("loop", "line", "gravity"):
        assert value(cable(carriage__drop=0.8, haul__by=by), "travel.line_pull") >= 0.999 * held


@pytest.mark.parametrize(
    ("design", "key"),
    [
        ({"below": "people"}, "balance.refused"),
        ({"anchor.a": "wall"}, "balance.wall_a"),
        ({"anchor.b": "tree", "tested.b": 0.0}, "balance.tested_b"),
        ({"rope.eyes": "bowline"}, "balance.eyes"),
        ({"rope.line": "nylon-6", "rope.eyes": "bowline"}, "balance.stuff"),
        ({"rope.sag": 0.12}, "balance.strong"),
        ({"rope.fitting": 300.0}, "balance.fittings"),
        ({"rope.fitting": 0.0}, "balance.fittings"),
        ({"wind.speed": 9.0}, "balance.wind"),
        ({"end.a": 1.0, "end.b": 1.0}, "balance.clears"),
        ({"guy.held": "weights", "guy.weight": 5.0}, "balance.weighs_a"),
        ({"post.section": "al6063-15x15x1.5"}, "balance.buckles_a"),
        ({"guy.line": "nylon-5"}, "balance.nylon_a"),
        ({"buffer.stroke": 0.02}, "travel.stops"),
        ({"haul.tight": 0.0}, "travel.slips"),
        ({"buffer.stop": 20.0}, "travel.stop_holds"),
        ({"haul.line": "wire7x7-4"}, "travel.knots"),
        ({"carriage.mass": 30.0, "rope.line": "wire7x7-6", "rope.sag": 1.2}, "rig.axle"),
        ({"haul.by": "gravity"}, "travel.by_weight"),
        ({"rope.tensioner": 0.02}, "balance.tensioner"),
    ],
)
def test_what_breaks_slips_or_runs_away_first_is_a_stop(design, key):
    project = changes.set_values(sample(), RIG, list(design.items()))
    assert finding(evaluate(project, SHELF, RIG), key).state == STOP


def test_a_haul_line_pulls_the_ends_too():
    """A tightened loop turns back at both ends: what it is tightened to, twice, on top of the rope."""
    slack, tight = cable(haul__tight=20.0), cable(haul__tight=100.0)
    guys = 2 * math.cos(slack.rig.design["guy.slope"]) * math.cos(slack.rig.design["guy.spread"])
    more = value(tight, "balance.guy_a") - value(slack, "balance.guy_a")
    assert more == pytest.approx(2 * 80.0 / guys, rel=1e-6)
    assert value(tight, "balance.pull") == value(slack, "balance.pull")


def test_a_guy_keeps_what_its_own_knots_leave():
    for line, left in (("polyester-6", 0.65), ("hmpe-4", 0.35), ("aramid-4", 0.5), ("wire7x7-4", 0.8)):
        result = cable(guy__line=line)
        want = left * SHELF.lines[line].breaking / value(result, "balance.guy_a")
        assert value(result, "balance.guy_factor_a") == pytest.approx(want)


def test_what_cannot_hang_is_told_with_the_nearest_that_can():
    tight = cable(rope__sag=0.02, carriage__mass=20.0, rope__line="polyester-4")
    assert tight.model is None and "at least" in str(tight.problem)
    least = float(str(tight.problem).split("a sag of ")[1].split(" mm")[0]) / 1e3
    assert cable(rope__sag=round(least + 0.01, 3), carriage__mass=20.0, rope__line="polyester-4").model is not None
    short = cable(run__short_a=9.0, run__short_b=9.0)
    assert short.model is None and "leave no run" in str(short.problem)


def test_a_wished_sag_and_its_pull_are_the_same_rope():
    by_sag = cable()
    by_pull = cable(rope__set="pull", rope__pull=round(value(by_sag, "balance.bare"), 6))
    assert value(by_pull, "balance.sag") == pytest.approx(0.6, rel=1e-5)
    assert value(by_pull, "balance.rope") == pytest.approx(value(by_sag, "balance.rope"), rel=1e-9)
    # Sag without end: within what the curve calls safe, rope and ground are clear; outside one of them is not.
    curve = by_sag.curves["balance.sags"]
    tight, deep = curve.safe
    for sag, key, state in (
        (tight * 1.02, "balance.strong", None),
        (tight * 0.95, "balance.strong", STOP),
        (deep * 1.05, "balance.clears", STOP),
    ):
        found = finding(cable(rope__sag=round(sag, 4)), key)
        assert found.state == state if state else found.state != STOP, (sag, key)


def test_two_ropes_share_the_load_and_keep_the_horizon():
    one = cable()
    project = changes.set_values(sample(), RIG, [("variant", "twin"), ("twin.uneven", 0.0), ("carriage.mass", 3.0)])
    two = evaluate(project, SHELF, RIG)
    assert two.model.load == pytest.approx(one.model.load / 2, rel=1e-6)
    assert value(two, "travel.roll") < value(one, "travel.roll")
    assert value(two, "balance.test_b") > value(one, "balance.test_b") * 0.9
    uneven = evaluate(changes.set_values(project, RIG, [("twin.uneven", 0.2)]), SHELF, RIG)
    slack, tight = (
        rope.rolling(
            two.model.line,
            float(rope.bare_length(two.model.line, two.model.bare * s)[0][0]),
            two.model.load,
            two.model.span / 2,
        ).sag[0]
        for s in (0.9, 1.1)
    )
    assert value(uneven, "travel.uneven") == pytest.approx((slack - tight) / two.model.apart, rel=1e-3)
    (track,) = (line for line in two.laid.bought if line.name == "Steel rope 4 mm, 7×7, by the metre")
    assert track.quantity == 2 * math.ceil(value(two, "rig.cut"))


def test_sized_for_a_shot_its_lens_is_where_it_was_wished_and_people_stay_out():
    project = changes.set_values(
        sample(), RIG, [("shot.start", 2.4), ("shot.end", 1.8), ("end.a", 2.0), ("rope.span", 10.0)]
    )
    sized = evaluate(changes.set_values(project, RIG, perform(project, SHELF, RIG, "rig")), SHELF, RIG)
    assert finding(sized, "shot.travel").state == CLEAR and finding(sized, "shot.height").state == CLEAR
    assert value(sized, "shot.lens_off") < 0.65 * value(sized, "shot.bows") + 0.02
    # Half as high as the rope, to either side, is nobody's place; nor is the jetty higher than it is asked to be.
    inside = changes.set_values(sample(), RIG, [("thing.keeper-5.y", -1.2), ("thing.keeper-5.x", 0.0)])
    assert finding(evaluate(inside, SHELF, RIG), "shot.fall_zone").state == STOP
    higher = changes.set_values(sample(), RIG, [("thing.jetty.height", 1.2)])
    assert finding(evaluate(higher, SHELF, RIG), "shot.over.jetty").state in (WATCH, STOP)
    assert finding(evaluate(sample(), SHELF, RIG), "shot.over.jetty").state == CLEAR


def test_the_set_is_a_box_where_the_rope_hangs_over_it():
    """What it passes a box by is the rope's own height there."""
    project = sample()
    stage = next(stage for stage in project.sets if stage.id == "pond")
    assert isinstance(stage, FilmSet)
    jetty = next(thing for thing in stage.things if thing.id == "jetty")
    assert isinstance(jetty, Thing)
    result = evaluate(project, SHELF, RIG)
    model = result.model
    x = np.linspace(jetty.at_m[0] - jetty.size_m[0] / 2, jetty.at_m[0] + jetty.size_m[0] / 2, 41)
    grown = model.length * (1 + 16e-6 * 12.0 + 0.002)
    hung = rope.rolling(model.line, grown, model.load, x + model.span / 2)
    gap = (model.ends[0] + hung.height).min() - model.drop - 0.03 - jetty.size_m[2]
    assert value(result, "shot.over.jetty") == pytest.approx(gap, abs=0.03)
