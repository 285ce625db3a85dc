"""The Shot station used as a person does: the set dragged about, things and items added, a proposal taken."""

from __future__ import annotations

import numpy as np
import pytest
from PyQt6.QtCore import QCoreApplication, QPoint, QPointF, QRect, Qt
from PyQt6.QtGui import QImage
from PyQt6.QtTest import QTest
from PyQt6.QtWidgets import QComboBox, QInputDialog, QLabel, QPushButton

from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.desktop.shell.bench import FigureRow
from hazel_lantern.desktop.shell.strip import TALL
from hazel_lantern.desktop.stage.marks import Grip
from hazel_lantern.desktop.stations.shot.pictures import Picture
from hazel_lantern.desktop.stations.shot.proposals import ProposalCard
from tests.desktop.test_window import design, named, type_into
from tests.helpers import SHELF, sample, turn


def thing(window, key):
    return next(t for t in window.session.project.sets[0].things if t.id == key)


@pytest.fixture
def shot(make):
    return make(station="shot")


def drag(grip, dx, dy):
    middle = QPoint(15, 15)
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=middle)
    at = grip.mapToGlobal(middle)
    for step in (0.5, 1.0):
        QTest.mouseMove(grip, grip.mapFromGlobal(at + QPoint(round(dx * step), round(dy * step))))
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)


def test_dragging_the_subject_over_the_set_changes_plan_picture_and_figures_in_one_step(shot):
    start = shot.session.project
    before = shot.page.pictures.frames[1].grab().toImage()
    far = shot.session.evaluation.figures["shot.far_start"].value
    drag(named(shot, "handle.thing.keeper.x", Grip), 40, 60)
    x, y, _ = thing(shot, "keeper").at_m
    assert x > -0.35
    assert y < 5.2
    assert shot.session.evaluation.figures["shot.far_start"].value < far
    assert shot.page.pictures.frames[1].grab().toImage() != before
    assert shot.session.undo_words == "Move Keeper"
    shot.undo()
    turn()
    assert shot.session.project is start
    grip = named(shot, "handle.thing.keeper.x", Grip)
    grip.setFocus()
    QTest.keyClick(grip, Qt.Key.Key_Up)
    assert thing(shot, "keeper").at_m[1] == pytest.approx(5.201)


def test_findings_and_pictures_keep_step_while_the_hand_still_holds_and_escape_takes_all_back(shot, qtbot):
    grip, start = named(shot, "handle.thing.keeper.x", Grip), shot.session.project
    rows = lambda: {row.key: row.accessibleName() for row in shot.findChildren(FigureRow) if row.isVisibleTo(shot)}  # noqa: E731
    QTest.mouseClick(
        next(b for b in shot.bench.findChildren(QPushButton) if b.text().startswith("Show all ")),
        Qt.MouseButton.LeftButton,
    )
    figures, pictures = rows(), [frame.grab().toImage() for frame in shot.page.pictures.frames]
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=QPoint(15, 15))
    QTest.mouseMove(grip, QPoint(75, 45))
    qtbot.waitUntil(lambda: rows() != figures, timeout=5000)
    assert all(
        frame.grab().toImage() != before for frame, before in zip(shot.page.pictures.frames, pictures, strict=True)
    )
    assert (
        shot.session.evaluation.figures["shot.far_start"].value
        == evaluate(shot.session.project, SHELF, "hive-jib").figures["shot.far_start"].value
    )
    QTest.keyClick(grip, Qt.Key.Key_Escape)
    assert shot.session.project is start
    qtbot.waitUntil(lambda: rows() == figures, timeout=5000)
    assert [frame.grab().toImage() for frame in shot.page.pictures.frames] == pictures


def standing(window):
    """Pixels (height, width, 4) of the drawing and the pictures as they stand on the screen, put together of all that
    was painted by and by.
    """
    QCoreApplication.processEvents()
    screen = window.screen().grabWindow(window.winId()).toImage().convertToFormat(QImage.Format.Format_RGB32)
    parts = [part for part in (window.stage, *window.findChildren(Picture)) if part.isVisible()]
    pieces = [screen.copy(QRect(part.mapTo(window, QPoint(0, 0)), part.size())) for part in parts]
    return [
        np.frombuffer(p.constBits().asarray(p.sizeInBytes()), np.uint8).reshape(p.height(), p.width(), 4).astype(int)
        for p in pieces
    ]


@pytest.mark.parametrize(
    ("rig", "station"), [("hive-jib", "shot"), ("hive-jib", "rig"), ("kitchen-gantry", "shot"), ("jar-slider", "rig")]
)
def test_what_is_painted_piece_by_piece_in_a_drag_is_what_painting_it_whole_gives(make, rig, station):
    window = make(station=station)
    window.session.switch(rig)
    turn()

    def check():
        QCoreApplication.processEvents()
        window.showing.refresh_findings()
        window.showing.refresh_aside()
        pieces = standing(window)
        for part in (window.stage, *window.findChildren(Picture)):
            part.update()
        for piece, whole in zip(pieces, standing(window), strict=True):
            # Edges that run far out of the picture are rounded a little differently, and so are letters
            # cut by the edge of what is painted.
            off = np.abs(piece - whole).max(axis=-1)
            assert off.max() <= 40
            assert (off > 3).sum() <= 20

    changed = 0
    for grip in [grip for grip in window.stage.findChildren(Grip) if grip.isVisible()][:6]:
        QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=QPoint(15, 15))
        for step in (1, 2):
            before = window.session.project
            QTest.mouseMove(grip, QPoint(15 + 9 * step, 15 - 6 * step))
            changed += window.session.project is not before
            check()
        QTest.keyClick(grip, Qt.Key.Key_Escape)
        QTest.mouseRelease(grip, Qt.MouseButton.LeftButton)
        check()
    assert changed > 0
    for act in (
        lambda: window.stage.show_layer("sizes", False),
        lambda: window.use_units("in"),
        lambda: window.stage.zoom(1.7, QPointF(200, 200)),
        window.fit_view,
    ):
        act()
        check()


def test_from_the_side_a_thing_is_dragged_and_stepped_along_the_rigs_line_and_up(shot):
    shot.use_view("set-side")
    result, start = shot.session.evaluation, shot.session.project
    heading = result.scene.where.heading
    before = np.array(thing(shot, "keeper").at_m)
    grip = named(shot, "handle.thing.keeper.x", Grip)
    drag(grip, -30, -40)
    moved = np.array(thing(shot, "keeper").at_m) - before
    along = moved[:2] @ (np.cos(heading), np.sin(heading))
    # Each number snaps to a centimetre.
    assert (along, moved[2]) == pytest.approx((-30 / shot.stage.scale.px, 40 / shot.stage.scale.px), abs=0.02)
    assert np.hypot(*moved[:2]) == pytest.approx(-along, abs=0.02)
    shot.undo()
    turn()
    assert shot.session.project is start
    QTest.keyClick(grip, Qt.Key.Key_Up)
    assert thing(shot, "keeper").at_m == pytest.approx((*before[:2], before[2] + 0.001))
    QTest.keyClick(grip, Qt.Key.Key_Right, Qt.KeyboardModifier.ShiftModifier)
    assert np.hypot(*(np.array(thing(shot, "keeper").at_m) - before)[:2]) == pytest.approx(0.01)
    QTest.keyClick(grip, Qt.Key.Key_Down, Qt.KeyboardModifier.ShiftModifier)
    assert "between" in shot.stage.findChild(QLabel, "said").text()


def test_a_picked_thing_shows_its_sizes_and_new_ones_join_and_leave(shot, monkeypatch):
    box = named(shot, "thing.picked", QComboBox)
    index = box.findData("hive-2")
    box.activated.emit(index)
    type_into(shot, "edit.thing.hive-2.height", "900")
    assert thing(shot, "hive-2").size_m[2] == pytest.approx(0.9)
    add = named(shot, "thing.add", QPushButton)
    next(a for a in add.menu().actions() if a.text() == "Wall").trigger()
    assert thing(shot, "wall-1").size_m == (3.0, 0.12, 2.5)
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Barn", True))
    QTest.mouseClick(named(shot, "thing.rename", QPushButton), Qt.MouseButton.LeftButton)
    assert thing(shot, "wall-1").name == "Barn"
    QTest.mouseClick(named(shot, "thing.remove", QPushButton), Qt.MouseButton.LeftButton)
    assert all(t.id != "wall-1" for t in shot.session.project.sets[0].things)
    for _ in range(4):
        shot.undo()
        turn()
    assert not shot.session.dirty


def test_way_points_are_added_dragged_over_the_plan_and_dropped(shot):
    QTest.mouseClick(named(shot, "via.add", QPushButton), Qt.MouseButton.LeftButton)
    assert len(shot.session.project.shots[0].via_m) == 1
    drag(named(shot, "handle.via.0.x", Grip), 50, -40)
    x, y = shot.session.project.shots[0].via_m[0][:2]
    assert x > 0.1
    assert y > 0.1
    type_into(shot, "edit.via.0.z", "2 m")
    assert shot.session.project.shots[0].via_m[0] == pytest.approx((x, y, 2.0))
    QTest.mouseClick(named(shot, "via.remove", QPushButton), Qt.MouseButton.LeftButton)
    QTest.mouseClick(named(shot, "via.remove", QPushButton), Qt.MouseButton.LeftButton)
    assert "none to take away" in shot.message.text()
    type_into(shot, "edit.set.ceiling", "2.4 m")
    assert any(f.key == "shot.ceiling" and f.state == "stop" for f in shot.session.findings())


def test_a_thing_is_given_stops_that_are_dragged_and_typed_each_as_one_step(shot):
    before = shot.session.project
    QTest.mouseClick(named(shot, "stop.add", QPushButton), Qt.MouseButton.LeftButton)
    added = shot.session.project

    def stop():
        return next(t for t in shot.session.project.sets[0].things if t.stops).stops[0]

    key = f"thing.{shot.session.thing}.stop.0"
    x, y, _ = stop().at_m
    drag(named(shot, f"handle.{key}.x", Grip), 40, -30)
    assert stop().at_m[0] > x
    assert stop().at_m[1] > y
    shot.session.undo()
    assert shot.session.project == added
    type_into(shot, f"edit.{key}.time", "5 s")
    assert stop().time_s == pytest.approx(5.0)
    assert "walk" in " ".join(f.sentence.text(shot.session.display) for f in shot.session.findings())
    shot.session.undo()
    shot.session.undo()
    assert shot.session.project == before


def test_kit_items_and_shots_are_added_by_hand_and_the_last_item_stays(shot, monkeypatch):
    before = shot.session.evaluation.carried.payload.mass
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Matte box", True))
    QTest.mouseClick(named(shot, "kit.add", QPushButton), Qt.MouseButton.LeftButton)
    assert shot.session.evaluation.carried.payload.mass == pytest.approx(before + 0.2)
    QTest.mouseClick(named(shot, "shot.copy", QPushButton), Qt.MouseButton.LeftButton)
    assert [s.name for s in shot.session.project.shots][-1] == "Matte box"
    assert shot.session.project.rigs[0].shots == ("hives", shot.session.shot_id)
    assert shot.session.shot.name == "Matte box"
    shot.session.set("kit", "pocket")
    QTest.mouseClick(named(shot, "kit.remove", QPushButton), Qt.MouseButton.LeftButton)
    QTest.mouseClick(named(shot, "kit.remove", QPushButton), Qt.MouseButton.LeftButton)
    assert "last item stays" in shot.message.text()
    assert len(next(k for k in shot.session.project.kits if k.id == "pocket").items) == 1


def test_shots_are_put_in_order_turned_upright_and_removed_but_never_the_last(shot, monkeypatch):
    monkeypatch.setattr(QInputDialog, "getText", lambda *a, **k: ("Closer", True))
    QTest.mouseClick(named(shot, "shot.remove", QPushButton), Qt.MouseButton.LeftButton)
    assert "serves no other" in shot.message.text()
    QTest.mouseClick(named(shot, "shot.copy", QPushButton), Qt.MouseButton.LeftButton)
    copied = shot.session.shot_id
    QTest.mouseClick(named(shot, "shot.earlier", QPushButton), Qt.MouseButton.LeftButton)
    assert shot.session.shot_id == copied
    assert shot.session.project.rigs[0].shots == (copied, "hives")
    QTest.mouseClick(named(shot, "shot.earlier", QPushButton), Qt.MouseButton.LeftButton)
    assert "first of this rig already" in shot.message.text()
    QTest.mouseClick(named(shot, "shot.turn", QPushButton), Qt.MouseButton.LeftButton)
    now = shot.session.shot
    assert now.pixels_high > now.pixels_wide
    assert now.sensor_height_m > now.sensor_width_m
    QTest.mouseClick(named(shot, "shot.remove", QPushButton), Qt.MouseButton.LeftButton)
    assert copied not in [one.id for one in shot.session.project.shots]
    assert shot.session.shot_id == "hives"


def test_a_proposal_appears_by_itself_and_one_click_makes_it_a_rig(shot, qtbot):
    qtbot.waitUntil(lambda: bool(shot.findChildren(ProposalCard)), timeout=30000)
    card = next(c for c in shot.findChildren(ProposalCard) if c.objectName() == "proposal.jib.two_bars")
    said = card.accessibleName()
    QTest.mouseClick(card, Qt.MouseButton.LeftButton)
    # Mass, cost and the worst finding are those of the rig it makes.
    made = shot.session.evaluation
    assert f"{made.figures['rig.mass'].value:.2f} kg" in said
    assert f"{made.figures['build.cost'].value:.2f} €" in said
    assert made.findings[0].title.lower() in said.lower()
    assert len(shot.session.project.rigs) == len(sample().rigs) + 1
    assert shot.session.rig_id == shot.session.project.rigs[-1].id
    assert design(shot, "arm.front") == 1.75


def test_a_camera_inside_its_subject_is_said_and_the_last_picture_stays(shot):
    kept = shot.page.pictures.frames[0].grab().toImage()
    place = shot.session.evaluation.stage
    assert place.things
    z = shot.session.project.shots[0].start_height_m
    shot.session.apply(
        "Put the keeper into the lens",
        [("shot.aim", "kept"), ("thing.keeper.height", 0.1), ("thing.keeper.z", z - 0.088)],
    )
    shot.use_view("lens")
    assert shot.session.evaluation is not None
    shot.undo()
    turn()
    assert shot.page.pictures.frames[0].grab().toImage() == kept


def test_kits_are_compared_by_mass_and_by_what_a_swap_moves(shot):
    text = shot.extras._kits.text()
    kits = {kit.id: kit for kit in shot.session.project.kits}

    def centre(kit):
        return sum(i.mass_kg * i.at_m[0] for i in kit.items) / sum(i.mass_kg for i in kit.items)

    moved = (centre(kits["dusk-zoom"]) - centre(kits["meadow"])) * 1e3
    line = next(words for words in text.splitlines() if words.startswith("Mirrorless with a zoom"))
    assert "0.4 kg heavier" in line
    assert f"{abs(moved):.1f}".rstrip("0").rstrip(".") in line
    assert ("ahead" in line) == (moved > 0)


def test_the_corner_of_the_ease_is_dragged_on_the_strip_as_one_step(make):
    window = make(station="shot")
    strip, before = window.strip, window.session.project
    track, ramp = strip._track(), window.session.shot.ramp

    def at(share, high=TALL):
        return QPoint(
            round(strip._across(share * window.session.shot.duration_s)), round(track.bottom() - high * track.height())
        )

    QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=at(ramp))
    for share in (0.3, 0.2):
        QTest.mouseMove(strip, at(share))
    QTest.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=at(0.2))
    assert window.session.shot.ramp == pytest.approx(0.2, abs=0.01)
    turn()
    # Beyond half of the time there is no ease: it stays, and why is said.
    QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=at(window.session.shot.ramp))
    QTest.mouseMove(strip, at(0.8))
    assert window.session.shot.ramp <= 0.5
    assert "0.5" in window.stage._said.text()
    QTest.keyClick(strip, Qt.Key.Key_Escape)
    window.session.undo()
    assert window.session.project == before
    turn()
    # Under the curve the playhead is taken instead.
    QTest.mouseClick(strip, Qt.MouseButton.LeftButton, pos=at(ramp, 0.2))
    assert strip.share == pytest.approx(ramp, abs=0.01)
    assert window.session.project == before


def test_a_key_is_dragged_along_the_strip_as_one_step_and_stays_between_its_neighbours(make):
    window = make(station="shot")
    before = window.session.project
    window.findChild(QPushButton, "key.add").click()
    turn()
    added, strip = window.session.project, window.strip
    key = window.session.shot.keys[1]

    def at(time):
        return QPoint(round(strip._across(time)), round(strip._track().bottom()))

    QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=at(key.time_s))
    for time in (key.time_s + 0.5, key.time_s + 1.0):
        QTest.mouseMove(strip, at(time))
    QTest.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=at(key.time_s + 1.0))
    assert window.session.shot.keys[1].time_s == pytest.approx(key.time_s + 1.0, abs=0.06)
    # Beyond its neighbour it stays, and why is said.
    QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=at(window.session.shot.keys[1].time_s))
    QTest.mouseMove(strip, at(window.session.shot.keys[2].time_s + 3))
    assert window.session.shot.keys[1].time_s < window.session.shot.keys[2].time_s
    QTest.keyClick(strip, Qt.Key.Key_Escape)
    window.session.undo()
    assert window.session.project == added
    window.session.undo()
    assert window.session.project == before


def test_the_last_key_the_first_hold_and_keys_of_an_axis_are_dragged_on_the_strip(make):
    window = make(station="shot")
    strip, before = window.strip, window.session.project

    def drag(ring, time):
        """From a ring of the strip to a moment of its clock."""
        found = next(one for one in strip._rings if one.key == ring)
        high = round(strip._high(strip._track(), found))
        QTest.mousePress(strip, Qt.MouseButton.LeftButton, pos=QPoint(round(strip._across(found.time)), high))
        QTest.mouseMove(strip, QPoint(round(strip._across(time)), high))
        QTest.mouseRelease(strip, Qt.MouseButton.LeftButton, pos=QPoint(round(strip._across(time)), high))
        turn()

    drag("shot.time", 7.0)
    assert window.session.shot.duration_s == pytest.approx(7.0, abs=0.06)
    drag("shot.hold_start", 1.0)
    assert window.session.shot.hold_start_s == pytest.approx(1.0, abs=0.06)
    assert window.session.shot.duration_s == pytest.approx(7.0, abs=0.06)
    tall = strip.height()
    for share in (0.0, 1.0):
        strip.go(share)
        menu = window.findChild(QPushButton, "axis.key").menu()
        next(action for action in menu.actions() if action.text() == "Tilt").trigger()
        turn()
    assert strip.height() > tall
    keys = window.session.shot.axes[1].keys
    assert len(keys) == 2 and keys[0].value > keys[1].value
    drag("axis.tilt.1.time", 5.0)
    assert window.session.shot.axes[1].keys[1].time_s == pytest.approx(5.0, abs=0.06)
    assert window.bench.reveal("axis.tilt.1.value")
    window.findChild(QPushButton, "move.back").click()
    turn()
    assert [key.share for key in window.session.shot.keys] == [0, 1, 0]
    for _ in range(6):
        window.session.undo()
    assert window.session.project == before


def test_a_thing_of_the_palette_is_dragged_onto_the_plan_sized_there_and_taken_away(shot):
    before, palette = shot.session.project, shot.page.palette
    button = named(shot, "put.table")
    spot = shot.stage.scale.at((2.0, 1.0)).toPoint()
    QTest.mousePress(button, Qt.MouseButton.LeftButton, pos=QPoint(10, 10))
    QTest.mouseRelease(button, Qt.MouseButton.LeftButton, pos=button.mapFromGlobal(shot.stage.mapToGlobal(spot)))
    turn()
    table = shot.session.project.set_of(shot.session.shot).things[-1]
    assert (table.kind, shot.session.thing) == ("table", table.id)
    assert table.at_m[:2] == pytest.approx((2.0, 1.0), abs=0.05)
    assert palette.bar.isVisible()
    pill = next(p for p in shot.stage._pills if p.key == f"thing.{table.id}.width" and p.isVisible())
    shot.stage.type_into(pill.key)
    field = named(shot, "pill-editor")
    field.selectAll()
    QTest.keyClicks(field, "1200")
    QTest.keyClick(field, Qt.Key.Key_Return)
    assert thing(shot, table.id).size_m[0] == pytest.approx(1.2)
    QTest.mouseClick(named(shot, "picked.remove"), Qt.MouseButton.LeftButton)
    turn()
    assert shot.session.project == before
    shot.use_view("lens")
    assert not palette.box.isVisible()


def test_the_kit_is_seen_on_its_mount_and_an_item_dragged_there(shot):
    shot.use_view("kit")
    kit = shot.session.project.kit_of(shot.session.project.rigs[0])
    grip = named(shot, "handle.kit.1.x", Grip)
    before = shot.session.evaluation.carried.payload.cg.copy()
    QTest.mousePress(grip, Qt.MouseButton.LeftButton, pos=QPoint(15, 15))
    QTest.mouseMove(grip, QPoint(75, 15))
    QTest.mouseRelease(grip, Qt.MouseButton.LeftButton, pos=QPoint(75, 15))
    moved = shot.session.project.kit_of(shot.session.project.rigs[0]).items[1].at_m[0] - kit.items[1].at_m[0]
    assert moved > 0.005
    mass = sum(item.mass_kg for item in kit.items)
    after = shot.session.evaluation.carried.payload.cg
    assert after[0] - before[0] == pytest.approx(moved * kit.items[1].mass_kg / mass)


def test_still_places_are_judged_by_how_near_each_is_reached(shot):
    QTest.mouseClick(named(shot, "tile.places"), Qt.MouseButton.LeftButton)
    result = shot.session.evaluation
    keys = {finding.key for finding in result.findings}
    assert "shot.reached" in keys and not keys & {"shot.judder", "shot.hurry", "shot.stray"}
    move = result.path.move
    ends = np.array(move.ends)
    lens = result.staged.camera.places[[0, -1]]
    assert result.figures["shot.place_off"].value == pytest.approx(
        float(np.linalg.norm(lens - ends, axis=1).max()), abs=1e-6
    )
    assert result.figures["shot.change"].value == pytest.approx(np.linalg.norm(ends[1] - ends[0]) / 0.25 + 15)
