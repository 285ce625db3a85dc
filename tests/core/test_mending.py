"""What a builder may choose is buildable, or a press makes it so: every choice by itself, heavy kits, main actions."""

from __future__ import annotations

import pytest
from bench.designs import ASKS, FOR_ONE, constructions
from msgspec.structs import replace

from hazel_lantern.core.advice.adding import added, with_first
from hazel_lantern.core.advice.remedies import order_of, vetted
from hazel_lantern.core.case import case_of
from hazel_lantern.core.editing import bindings, changes
from hazel_lantern.core.editing.starting import begun, blank, furnish, looking_at
from hazel_lantern.core.evaluate import evaluate, perform
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.memo import Memo
from hazel_lantern.core.nouns.errors import InfeasibleError
from hazel_lantern.core.nouns.quantity import Choice, Quantity
from tests.helpers import SHELF, finding

OWN = ("rig", "balance", "travel")  # stations whose choices are pieces of a rig


def stops(result):
    return {one.key for one in result.findings if one.state == "stop"}


def chosen(kind, variant):
    """The usual rig of a construction with one input another: every choice that is no row of the catalogue, every size
    a quarter more and a fifth less, one that was nothing a tenth of the most.
    """
    project = added(blank(), SHELF, kind, variant)
    rig = project.rigs[0].id
    for key, one in bindings.parameters(project, rig).items():
        if one.station not in OWN or key == "variant":
            continue
        if isinstance(one, Choice) and not one.table:
            for option, _ in one.options:
                if variant in FOR_ONE.get((key, option), (variant,)):
                    yield key, option, changes.set_values(project, rig, ((key, option), *ASKS.get((key, option), ())))
        elif isinstance(one, Quantity) and one.unit in ("m", "rad"):
            now = bindings.value_of(project, rig, key)
            for value in {1.25 * now, 0.8 * now} if now else {one.high / 10}:
                yield key, value, changes.set_values(project, rig, [(key, min(max(value, one.low), one.high))])


def fouls(project):
    case = case_of(project, SHELF, project.rigs[0].id, "", Memo(), suggest=False)
    found = case.reader.get("fouls").value
    return found if isinstance(found, tuple) else ()


@pytest.mark.parametrize(("kind", "variant"), constructions())
def test_no_input_by_itself_leaves_pieces_in_one_another_that_no_press_parts(kind, variant):
    for key, option, project in chosen(kind, variant):
        if not fouls(project):
            continue
        remedies = finding(evaluate(project, SHELF, project.rigs[0].id, suggest=True), "build.fouls").remedies
        mended = [changes.set_values(project, project.rigs[0].id, one.changes) for one in remedies]
        assert any(not fouls(one) for one in mended), (key, option)


@pytest.mark.parametrize(
    ("kind", "variant", "chosen"),
    [
        ("jib", "two_bars", (("arm.made", "telescopic"),)),
        ("jib", "cable", (("arm.made", "tapered"),)),
        ("jib", "two_bars", (("post.made", "between"), ("arm.made", "one"))),
        ("jib", "two_bars", (("post.made", "yoke"),)),
        ("jib", "two_bars", (("head.spacing", 0.4),)),
        ("jib", "plain", (("post.made", "yoke"),)),
        ("jib", "plain", (("post.made", "head"),)),
        ("jib", "plain", (("weights.carried", "upright"),)),
        ("jib", "cable", (("cable.over", "pins"), ("cable.post_wheel", 0.12), ("cable.head_wheel", 0.14))),
        ("overhead", "trolley", (("support.inset", 1.0),)),
        ("overhead", "shuttle", (("rail.section", "al6063-20x20x1.5"),)),
        ("overhead", "shuttle", (("shuttle.made", "rods"), ("shuttle.guide", 0.08))),
        ("overhead", "shuttle", (("shuttle.made", "rods"), ("shuttle.bore", 0.04))),
        ("slider", "rods", (("support.inset", 0.8),)),
        ("slider", "rods", (("rail.joint_every", 0.1),)),
        ("dolly", "pipe", (("rail.section", "al6063-20x20x1.5"),)),
        ("dolly", "pipe", (("tie.section", "steel-20x20x1.5"),)),
        ("dolly", "pipe", (("camera.ahead", -0.4),)),
        ("dolly", "frame", (("frame.section", "al6063-20x20x1.5"),)),
        ("gantry", "bar", (("bridge.wheelbase", 1.0), ("runway.length", 0.8))),
        ("gantry", "bar", (("trolley.edge", 0.9),)),
        ("gantry", "bar", (("runway.posts", 6.0), ("runway.length", 0.5))),
        ("gantry", "bar", (("foot.rake", 0.01),)),
        ("gantry", "bar", (("boom.out", 1.4),)),
        ("gantry", "boards", (("boom.section", "plywood-18x100"), ("boom.stages", 2.0))),
    ],
)
def test_what_cannot_be_built_says_what_would_do_and_it_does(kind, variant, chosen):
    project = added(blank(), SHELF, kind, variant)
    rig = project.rigs[0].id
    project = changes.set_values(project, rig, chosen)
    stop = finding(evaluate(project, SHELF, rig, suggest=True), "rig.impossible")
    assert stop.remedies
    for remedy in stop.remedies:
        result = evaluate(changes.set_values(project, rig, remedy.changes), SHELF, rig)
        assert "rig.impossible" not in stops(result), remedy.label


def test_a_slim_bridge_is_packed_up_and_a_deep_boom_hangs_its_weight_lower():
    gantry = added(blank(), SHELF, "gantry", "bar")
    rig = gantry.rigs[0].id
    slim = changes.set_values(gantry, rig, [("bridge.section", "al6063-25x25x2"), ("boom.section", "plywood-18x200")])
    laid = evaluate(slim, SHELF, rig).laid
    assert any(item.name.startswith("Packing of") for item in laid.bought)
    assert any(item.name.startswith("Threaded rod M10, 300") for item in laid.bought)
    assert not fouls(slim)


@pytest.mark.parametrize(("kind", "variant"), constructions())
def test_its_main_actions_size_every_construction_for_its_own_shot_with_nothing_in_the_way(kind, variant):
    project = with_first(changes.add_rig(begun(), kind, variant))
    rig = project.rigs[0].id
    for action in KINDS[kind].actions:
        if (variant, action.station) == ("frame", "balance"):
            with pytest.raises(InfeasibleError, match="on its head"):
                perform(project, SHELF, rig, action.station)
            continue
        project = changes.set_values(project, rig, perform(project, SHELF, rig, action.station))
    assert not fouls(project)
    assert all(key.startswith("balance.tested_") for key in stops(evaluate(project, SHELF, rig)))


@pytest.mark.parametrize(("kind", "variant"), [("overhead", "trolley"), ("cable_cam", "single"), ("dolly", "three")])
def test_a_heavy_kit_is_mended_press_by_press(kind, variant):
    project = with_first(changes.add_rig(furnish(blank(), SHELF, kit=["body=6 kg"]), kind, variant))
    rig = project.rigs[0].id
    for action in KINDS[kind].actions:
        project = changes.set_values(project, rig, perform(project, SHELF, rig, action.station))
    assert stops(evaluate(project, SHELF, rig))
    for _ in range(8):
        *_, last = vetted(project, SHELF, rig)
        worst = next((one for one in last.answer if one.state == "stop"), None)
        if worst is None:
            break
        project = changes.set_values(project, rig, worst.remedies[0].changes)
    assert not stops(evaluate(project, SHELF, rig))


def test_what_goes_round_is_put_where_its_rig_goes_round():
    for kind, variant in (("orbit", "shaft"), ("dolly", "arc")):
        project = looking_at(with_first(changes.add_rig(blank(), kind, variant)), "table")
        rig = project.rigs[0].id
        sized = changes.set_values(project, rig, perform(project, SHELF, rig, "rig"))
        assert not {"rig.bends", "shot.travel", "shot.circle"} & stops(evaluate(sized, SHELF, rig))
        assert replace(sized, rigs=()) == replace(project, rigs=())


def test_the_least_of_an_input_that_clears_is_offered():
    """Every smaller value that was tried leaves something in something."""
    project = added(blank(), SHELF, "jib", "plain")
    rig = project.rigs[0].id
    project = changes.set_values(project, rig, [("head.rise", 0.05)])
    assert fouls(project)
    found = finding(evaluate(project, SHELF, rig, suggest=True), "build.fouls").remedies
    ((key, least),) = next(one.changes for one in found if one.changes[0][0] == "head.rise")
    tried = [0.05 + n * (n + 1) / 2 * 0.02 for n in range(1, 7)]
    assert least == pytest.approx(min(value for value in tried if value >= least - 1e-9))
    for value in tried:
        there = fouls(changes.set_values(project, rig, [(key, round(value, 4))]))
        assert bool(there) == (value < least - 1e-9)


def test_a_rig_that_cannot_be_built_is_worse_than_one_with_many_stops_of_which_all_is_known():
    project = added(blank(), SHELF, "jib", "two_bars")
    rig = project.rigs[0].id
    broken = changes.set_values(project, rig, [("arm.made", "telescopic"), ("kit.0.mass", 5.0)])
    *_, last = vetted(broken, SHELF, rig)
    stop = next(one for one in last.answer if one.key == "rig.impossible")
    after = evaluate(changes.set_values(broken, rig, stop.remedies[0].changes), SHELF, rig)
    assert len(stops(after)) > 1 and order_of(after.findings) < order_of(last.answer)


@pytest.mark.parametrize(
    ("kind", "variant", "changed", "key", "place"),
    [
        ("overhead", "trolley", (("kit.0.mass", 5.0),), "rig.platform", "post.platform"),
        (
            "gantry",
            "bar",
            (("bridge.wheelbase", 0.55),),
            "rig.truck",
            "bridge.truck",
        ),
        ("overhead", "shuttle", (("shuttle.bore", 0.024),), "build.bore", "shuttle.bore"),
        ("jib", "two_bars", (("arm.joint", 1.5),), "rig.sleeve_place", "arm.joint"),
        ("slider", "rods", (("pair.apart", 0.004),), "build.pair", "pair.apart"),
    ],
)
def test_a_member_that_is_too_weak_or_misplaced_names_what_would_do_and_it_does(kind, variant, changed, key, place):
    project = added(blank(), SHELF, kind, variant)
    rig = project.rigs[0].id
    project = changes.set_values(project, rig, changed)
    told = finding(evaluate(project, SHELF, rig, suggest=True), key)
    assert told.state == "stop"
    remedy = next(one for one in told.remedies if one.changes[0][0] == place)
    after = evaluate(changes.set_values(project, rig, remedy.changes), SHELF, rig)
    assert key not in stops(after)
    if told.figure and told.figure.endswith("_stress"):
        assert finding(after, key).value <= 0.81 * finding(after, key).limit


def test_a_shuttle_passes_the_pieces_of_its_rod_and_a_pole_its_plate_and_nothing_else():
    project = added(blank(), SHELF, "overhead", "shuttle")
    rig = project.rigs[0].id
    jointed = changes.set_values(project, rig, [("rail.joint_every", 0.5), ("post.held", "clamp")])
    assert not fouls(jointed)
    laid = evaluate(jointed, SHELF, rig).laid
    (plate,) = (part for part in laid.parts if part.name == "Carriage plate")
    (pole,) = (part for part in laid.parts if part.name == "Drop pole")
    (hole,) = (mark for mark in plate.marks if "pole" in mark.note)
    assert hole.size == pytest.approx(pole.solid.box[1] + 0.002)
    above = pole.places[0].at[2] - plate.places[0].at[2]
    assert above > 0.09  # what it is slid down by


def test_a_frame_on_feet_ends_in_its_tee_and_is_cut_so():
    project = added(blank(), SHELF, "orbit", "desk")
    rig = project.rigs[0].id
    free = changes.set_values(project, rig, [("frame.held", "free")])
    laid = evaluate(free, SHELF, rig).laid
    (post,) = (part for part in laid.parts if part.name == "Post")
    (cross,) = (part for part in laid.parts if part.name == "Cross pipe")
    top = cross.places[0].at[2] + cross.solid.box[2] / 2
    assert post.places[0].at[2] == pytest.approx(top)
    assert post.length == pytest.approx(free.rigs[0].design["frame.height"] - top)
    assert not fouls(free)


def test_a_motor_too_slow_for_the_move_is_told_its_fastest_and_the_time_that_would_do():
    project = added(blank(), SHELF, "dolly", "frame")
    rig = project.rigs[0].id
    project = changes.set_values(project, rig, [("drive.travel.by", "gearmotor")])
    result = evaluate(project, SHELF, rig, suggest=True)
    stop = finding(result, "drive.travel.strong")
    needs = result.driven[0].worst
    assert stop.state == "stop" and stop.sentence.amounts[0][0] == pytest.approx(max(abs(needs.speed)))
    slower = next(one for one in stop.remedies if one.changes[0][0] == "shot.time")
    after = changes.set_values(project, rig, slower.changes)
    assert "drive.travel.strong" not in stops(evaluate(after, SHELF, rig))


@pytest.mark.parametrize(
    ("kind", "variant", "key", "most"),
    [
        ("gantry", "bar", "bridge.section", 5),  # thinner than the wheels of its trolley
        ("gantry", "boards", "boom.section", 0),
        ("slider", "flats", "stand", 0),
        ("dolly", "pipe", "carriage.wheel", 2),  # wheels of a foot across
        ("jib", "two_bars", "post.section", 0),
        ("jib", "two_bars", "pan.bearing", 0),
        ("cable_cam", "single", "post.section", 0),
    ],
)
def test_what_the_catalogue_offers_can_be_built_with_or_a_press_makes_it_so(kind, variant, key, most):
    """Every row of a table in its place; only what is absurd there leaves pieces in one another."""
    project = added(blank(), SHELF, kind, variant)
    rig = project.rigs[0].id
    left, rows = [], getattr(SHELF, bindings.parameters(project, rig)[key].table)
    for row in rows:
        other = changes.set_values(project, rig, [(key, row)])
        if not fouls(other):
            continue
        remedies = finding(evaluate(other, SHELF, rig, suggest=True), "build.fouls").remedies
        if all(fouls(changes.set_values(other, rig, one.changes)) for one in remedies):
            left.append(row)
    assert len(rows) > 4 and len(left) <= most, left


def test_a_new_board_under_the_camera_is_in_every_list_and_as_heavy_as_it_is_wide():
    project = added(blank(), SHELF, "overhead", "trolley")
    rig = project.rigs[0].id
    mass, wide = [], []
    for board in ("plywood-18x60", "plywood-18x150"):
        result = evaluate(changes.set_values(project, rig, [("post.platform", board)]), SHELF, rig)
        (part,) = (one for one in result.parts if one.name == "Camera platform")
        mass.append(part.mass)
        wide.append(part.solid.box[1])
        assert part.section == board and any(board in plan.section for plan in result.cuts)
        assert result.figures["rig.platform_stress"].value > 0
    assert mass[1] / mass[0] == pytest.approx(wide[1] / wide[0], rel=0.02) == 2.5
