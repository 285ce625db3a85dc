"""What a builder weighs: what is in the drawer, hiring, screws for a head or a clamp, a lapse's battery,
a pole overhead."""

from __future__ import annotations

import math

import pytest
from msgspec.structs import replace

from hazel_lantern.core.advice.have import would_do
from hazel_lantern.core.document.project import Offcut
from hazel_lantern.core.editing import changes, lists
from hazel_lantern.core.editing.starting import blank
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.nouns.errors import InputError
from hazel_lantern.core.workshop import money
from tests.helpers import SHELF, finding, sample, value


def test_what_is_in_the_drawer_is_tried_and_says_what_it_changes():
    project = lists.add_stock(
        sample(), [Offcut(section="al6063-30x60x3", length_m=3.0), Offcut(section="steel-rod-10", length_m=1.0)]
    )
    found = would_do(project, SHELF, "hive-jib")
    arm = next(one for one in found if one.place == "Arm")
    assert arm.at_hand == SHELF.sections["al6063-30x60x3"].name and not any(
        "rod" in one.at_hand.lower() for one in found
    )
    before = evaluate(project, SHELF, "hive-jib")
    after = evaluate(changes.set_values(project, "hive-jib", arm.changes), SHELF, "hive-jib")
    assert arm.mass == pytest.approx(after.figures["rig.mass"].value - before.figures["rig.mass"].value)
    assert arm.cost == pytest.approx(value(after, "build.cost") - value(before, "build.cost"))
    states = [[f.state for f in one.findings].count("stop") for one in (before, after)]
    assert arm.stops == states[1] - states[0]
    assert [one.does for one in found] == sorted((one.does for one in found), reverse=True)


def test_stock_is_counted_together_and_taken_away_piece_by_piece():
    piece = Offcut(section="al6063-25x25x2", length_m=0.8)
    project = lists.add_stock(
        lists.add_stock(blank(), [piece]), [replace(piece, count=2), replace(piece, length_m=0.7)]
    )
    assert [(one.length_m, one.count) for one in project.stock] == [(0.8, 3), (0.7, 1)]
    less = lists.remove_stock(lists.remove_stock(project, 1), 0)
    assert [(one.length_m, one.count) for one in less.stock] == [(0.8, 2)]
    with pytest.raises(InputError, match="up to 20 m"):
        lists.add_stock(project, [replace(piece, length_m=25.0)])
    with pytest.raises(InputError, match="there are 2 rows"):
        lists.remove_stock(project, 5)
    with pytest.raises(InputError, match="a few words"):
        lists.note_down(project, "2027-04-08", "   ")


def test_hiring_says_from_how_many_days_building_pays():
    project = changes.set_values(sample(), "jar-slider", [("hire.day", 18.0), ("hire.fixed", 10.0), ("hire.tax", 21.0)])
    result = evaluate(project, SHELF, "jar-slider")
    gross = value(result, "build.gross")
    assert gross == pytest.approx(round(1.21 * value(result, "build.cost"), 2), abs=0.011)
    days = int(value(result, "build.pays_from"))
    assert gross <= money.hire(days, 18.0, None, 10.0) and gross > money.hire(days - 1, 18.0, None, 10.0)
    never = changes.set_values(project, "jar-slider", [("hire.day", 0.001)])
    assert finding(evaluate(never, SHELF, "jar-slider"), "build.hire").state == "watch"


def test_a_head_is_screwed_on_by_its_foot_and_a_camera_by_its_clamp():
    project = sample()
    bare = next(line for line in evaluate(project, SHELF, "jar-slider").lines if line.name.startswith("Camera screw"))
    assert bare.name.startswith("Camera screw 1/4-20") and "into the clamp" in bare.note
    head = next(iter(SHELF.heads.values()))
    headed = evaluate(changes.set_values(project, "jar-slider", [("kit.head", head.id)]), SHELF, "jar-slider")
    screw = next(line for line in headed.lines if line.name.startswith("Camera screw"))
    assert screw.name.startswith("Camera screw 3/8-16") and "the head's foot" in screw.note
    assert not any(line.name.startswith("Quick-release") for line in headed.lines)
    hole = next(mark.size for part in headed.parts for mark in part.marks if mark.fastening == "camera")
    assert hole > 0.0095


def test_a_time_lapse_asks_its_battery_for_all_of_its_time_and_draws_both_ways():
    project = changes.set_values(
        sample(), "hive-jib", [("drive.swing.lapse", "stills"), ("drive.swing.interval", 10.0)]
    )
    result = evaluate(project, SHELF, "hive-jib", suggest=True)
    total = max(one.time for one in result.driven[0].needs)
    asked = value(result, "drive.swing.lapse_draws")
    lasts = value(result, "drive.swing.lasts")
    assert asked == pytest.approx(0.8 * 40.0 * total / lasts, rel=1e-9)
    held = finding(result, "drive.swing.lapse_battery")
    assert (held.state == "watch") == (asked > 0.8 * 40.0)
    stands, goes = result.curves["drive.swing.lapse"], result.curves["drive.swing.lapse.gliding"]
    # Both ways come to the same frames.
    assert stands.y[-1] == pytest.approx(goes.y[-1], abs=abs(goes.y[-1]) * 0.35)
    small = changes.set_values(project, "hive-jib", [("drive.swing.battery", 1.0)])
    mend = finding(evaluate(small, SHELF, "hive-jib", suggest=True), "drive.swing.lapse_battery").remedies
    after = evaluate(changes.set_values(small, "hive-jib", mend[0].changes), SHELF, "hive-jib")
    assert finding(after, "drive.swing.lapse_battery").state == "clear"


def test_hands_that_cannot_reach_are_told_how_long_a_pole_must_be():
    project = changes.set_values(sample(), "kitchen-beams", [("shot.tall", 1.2)])
    result = evaluate(project, SHELF, "kitchen-beams")
    high, elbow = value(result, "shot.hand_high"), value(result, "shot.elbow")
    grip = finding(result, "shot.grip")
    assert elbow == pytest.approx(0.63 * 1.2)
    if high > 1.15 * 1.2:
        assert grip.state == "watch" and grip.sentence.amounts[-1][0] == pytest.approx(high - elbow)
    assert math.isfinite(high)
