"""Moves for hands and controllers: replayed by a reader of their own, strips measured on the page."""

from __future__ import annotations

import csv
import io
import math
import re

import numpy as np
import pytest
from msgspec.structs import replace
from pypdf import PdfReader

from hazel_lantern.core.document.project import Key, Segment
from hazel_lantern.core.editing import changes
from hazel_lantern.core.evaluate import evaluate
from hazel_lantern.core.motion.by_hand import count_by, pace_marks, timed
from hazel_lantern.core.motion.lapse import settling, shoot_move_shoot
from hazel_lantern.core.motion.shapes import shape
from hazel_lantern.core.nouns.errors import InfeasibleError, InputError, RefusedError
from hazel_lantern.files.exports import FORMATS, export
from tests.files.pages import drawn
from tests.helpers import SHELF, sample

KEYS = (Key(time_s=0.0, share=0.0), Key(time_s=3.331, share=0.4, hold_s=1.5), Key(time_s=9.07, share=1.0))
STEADY = [("stand.radius", 0.85)]


def keyed(shot_id, *, hold=0.0, longer=1.0):
    """The sample with a key off the frames and a hold in one of its shots."""
    project = sample()
    shot = next(one for one in project.shots if one.id == shot_id)
    keys = tuple(replace(key, time_s=longer * key.time_s) for key in (*KEYS[:2], replace(KEYS[2], hold_s=hold)))
    shot = replace(shot, keys=keys, segments=(Segment(shape="quintic"), Segment(shape="eased")))
    return replace(project, shots=tuple(shot if one.id == shot_id else one for one in project.shots))


def written(tmp_path, project, rig, to, shot=""):
    path = tmp_path / f"move{FORMATS[to][1]}"
    export(project, SHELF, rig, to, path, shot)
    return path


def replayed(text):
    """Times and places of a move as a controller makes them, one reader of the words in docs/motion.md."""
    at, clock, times, rows = {}, 0.0, [], []
    for line in text.split("; ")[-1].splitlines()[1:]:
        words = {word[0]: float(word[1:]) for word in line.split()[1:]}
        if line.startswith("G92"):
            at = words
        elif line.startswith("G4"):
            clock += words["P"]
        elif line.startswith("G1"):
            clock += 60 / words.pop("F")
            at = {**at, **words}
        else:
            assert line in ("G21", "G90", "G93", "M2")
            continue
        times.append(clock)
        rows.append([at[letter] for letter in sorted(at)])
    return np.array(times), np.array(rows), sorted(at)


def test_a_replayed_move_is_at_every_key_when_the_shot_says(tmp_path):
    project = keyed("comb", hold=0.7, longer=2.0)
    text = written(tmp_path, project, "comb-turntable", "motion").read_text("ascii")
    times, places, letters = replayed(text)
    assert letters == ["X"]
    assert times[-1] == pytest.approx(18.84, abs=1e-3)
    for moment, share in ((0, 0), (6.662, 0.4), (8.162, 0.4), (18.14, 1)):
        assert math.radians(np.interp(moment, times, places[:, 0])) == pytest.approx(2 * math.pi * share, abs=1e-6)
    half = np.interp(6.662 / 2, times, places[:, 0])
    assert half == pytest.approx(0.2 * 360, abs=0.02)  # half-way by symmetry, between two frames
    # Waits are the holds; a start too slow for four decimals is one more.
    waits = [float(wait) for wait in re.findall(r"G4 P([\d.]+)", text)]
    assert [wait for wait in waits if wait > 0.1] == pytest.approx([1.5, 0.7], abs=0.03)
    assert not re.search(r"\b(M3|M4|M5|S\d)", text.split("G21")[1])


def test_the_jib_played_by_its_words_brings_the_lens_where_the_shot_wants_it(tmp_path):
    project = changes.set_values(keyed("hives"), "hive-jib", STEADY)
    result = evaluate(project, SHELF, "hive-jib")
    times, places, letters = replayed(written(tmp_path, project, "hive-jib", "motion").read_text("ascii"))
    freedom = next(axis.freedom for axis in result.kind.axes if axis.key == "swing")
    for key in KEYS:
        at = [np.interp(key.time_s, times, column) for column in places.T]
        pose = result.poses(np.array([0.0]))
        pose[:, freedom] = math.radians(at[letters.index("X")])
        lens = result.kind.mount(result.model, pose).place(result.path.lens)[0]
        wish = result.shot.start_height_m + key.share * (result.shot.end_height_m - result.shot.start_height_m)
        assert lens[2] == pytest.approx(wish, abs=5e-6)
    table = list(csv.reader(io.StringIO(written(tmp_path, project, "hive-jib", "motion-csv").read_text("utf-8-sig"))))
    assert table[0][1].startswith("Swing deg, from -")
    rows = np.array(table[1:], float)
    assert np.interp(rows[:, 0], times, places[:, letters.index("X")]) == pytest.approx(rows[:, 1], abs=1e-4)


def test_no_move_is_written_that_could_hurt_or_that_the_rig_cannot_make(tmp_path):
    for to in ("motion", "motion-csv", "pace"):
        with pytest.raises(RefusedError, match="Bumped, camera off is a stop"):
            written(tmp_path, sample(), "hive-jib", to)
    assert not list(tmp_path.iterdir())
    with pytest.raises(RefusedError, match="no motor that works drives it"):
        written(tmp_path, sample(), "lane-dolly", "motion")
    driven = [
        ("stand.radius", 0.7),
        ("ballast.mass", 15.0),
        ("drive.travel.by", "stepper"),
        ("drive.travel.chain", ("beltway",)),
    ]
    short = changes.set_values(sample(), "jar-slider", [*driven, ("rail.length", 0.8)])
    with pytest.raises(InfeasibleError, match=r"Travel comes to its end .* it has 77\.0 to 723\.0 mm") as error:
        written(tmp_path, short, "jar-slider", "motion")
    assert error.value.code == "AXIS_LIMIT"
    weak = [("drive.swing.gearmotor", "spur-6v-100"), ("drive.swing.chain", ()), ("drive.swing.volts", 6.0)]
    with pytest.raises(InfeasibleError, match="asked for more than it gives"):
        written(tmp_path, changes.set_values(sample(), "hive-jib", [*STEADY, *weak]), "hive-jib", "motion")


def test_strips_are_true_to_the_tenth_of_a_millimetre_on_the_page(tmp_path):
    project = keyed("bench-down")
    path = written(tmp_path, project, "kitchen-gantry", "pace")
    mm = 72 / 25.4
    upright = [(a, b) for a, b in drawn(path)[1] if abs(a[0] - b[0]) < 1e-6 and b[1] > a[1]]
    flat = sorted({(a[0], a[1], b[0]) for a, b in drawn(path)[1] if abs(a[1] - b[1]) < 1e-6 and 20 < a[0] / mm < 40})
    pieces = sorted(flat, key=lambda row: -row[1])
    found = []
    for n, (left, base, _) in enumerate(pieces):
        found += [n * 160 + (a[0] - left) / mm for a, _ in upright if abs(a[1] - base) < 1e-3]
    result = evaluate(project, SHELF, "kitchen-gantry")
    times = [*range(10), 9.07]
    ways = [
        shape("quintic").share(np.clip(t / 3.331, 0, 1)) * 0.4
        if t < 4.831
        else 0.4 + 0.6 * shape("eased", 0.35).share(np.array((t - 4.831) / (9.07 - 4.831)))
        for t in times
    ]
    full = np.ptp(result.poses(np.linspace(0, 1, 5))[:, 0]) * 1e3
    wanted = sorted({round(float(way) * full, 1) for way in ways})
    assert len(pieces) == math.ceil(full / 160)
    assert sorted(set(np.round(found, 1))) == pytest.approx(wanted, abs=0.1)
    text = "".join(page.extract_text() for page in PdfReader(path).pages)
    tilted = written(tmp_path, sample(), "hive-jib-plumb", "pace")
    result = evaluate(sample(), SHELF, "hive-jib-plumb")
    tilt = np.array([result.scene.at(np.array([t / 8])).scales.tilt[0] for t in range(9)])
    bases = sorted({a[1] for a, b in drawn(tilted)[1] if abs(a[1] - b[1]) < 1e-6 and 20 < a[0] / mm < 40})
    ticks = {round(a[0] / mm - 25, 1) for a, b in drawn(tilted)[1] if abs(a[1] - bases[0]) < 1e-3 and b[1] > a[1] + 1}
    assert sorted(ticks) == pytest.approx(sorted({round(v, 1) for v in 100 * (tilt[0] - tilt)}), abs=0.11)
    assert "Count 60 beats a minute" in text and "The last beat is shorter" in text and "Every beat" in text


def test_marks_times_and_intervals_keep_to_what_hands_and_cameras_can(tmp_path):
    even = pace_marks(lambda u: u, -0.9, 9.0, 1.0)
    assert even.at == pytest.approx(-0.1 * np.arange(10)) and not even.odd
    assert pace_marks(lambda u: u, 1.0, 9.4, 1.0).odd
    assert count_by(8.0, [0.9]) == 1 and count_by(1800.0, [0.9]) == 30
    assert count_by(8.0, [0.9, 0.002]) == 1 and count_by(8.0, [0.01]) == 2 and count_by(2.0, [0.001]) == 1
    with pytest.raises(InputError, match="dt is 20"):
        pace_marks(lambda u: u, 1.0, 9.0, 20.0)
    with pytest.raises(InputError, match="3 readings at the least"):
        timed(0.1, 1.0, [10.0, 10.1], 100.0)
    given = dict(exposure=2.0, settle=1.0, dead=0.5, fps=25.0, acceleration=0.05, speed=0.02)
    places = 1.2 * shape("quintic").share(np.linspace(0, 1, 90))
    least = shoot_move_shoot(places, 8.0, **given).least
    tight = shoot_move_shoot(places[::-1], least, **given)
    assert tight.left == pytest.approx(0, abs=1e-12)
    assert tight.step == pytest.approx(1.2 / 89 * 15 / 8, rel=1e-3)
    assert shoot_move_shoot(places, least - 0.1, **given).left == pytest.approx(-0.1)
    # A step by even ramps shakes what sways; simulated, its sway is never more than the bound, nor ever calms later.
    a, ramp, f, zeta = 0.3, 0.11, 3.0, 0.02
    step, w = a * ramp**2, 2 * math.pi * f
    clock = np.arange(0, 12, 1e-4)
    force = -a * ((clock < ramp) * 1.0 - ((clock >= ramp) & (clock < 2 * ramp)))
    x, v, way = 0.0, 0.0, []
    for push in force:
        v += 1e-4 * (push - w * w * x - 2 * zeta * w * v)
        x += 1e-4 * v
        way.append(abs(x))
    calm = clock[np.flatnonzero(np.array(way) > 1e-4)[-1]] - 2 * ramp
    assert 0.7 < calm / settling(step, a, f, zeta, 1e-4) <= 1.0


def test_a_time_lapse_says_what_an_interval_must_hold_and_its_remedy_does():
    def lapse(*values):
        project = changes.set_values(sample(), "hive-jib", [("drive.swing.lapse", "stills"), *values])
        result = evaluate(project, SHELF, "hive-jib", suggest=True)
        return project, result, next(f for f in result.findings if f.key == "drive.swing.interval_holds")

    project, result, held = lapse(("drive.swing.interval", 1.0))
    assert held.state == "stop"
    swing = result.driven[0]
    frames = np.interp(np.arange(1801) / 1800, swing.load.u, swing.load.at)
    longest = np.abs(np.diff(frames)).max()
    assert result.figures["drive.swing.frames"].value == 1801
    assert result.figures["drive.swing.lapse_step"].value == pytest.approx(longest, rel=1e-9)
    assert result.figures["drive.swing.lapse_needs"].value == pytest.approx(
        1.0 + 2 * math.sqrt(longest * 1.75 / 0.05), rel=1e-3
    )
    # A step asks for weight, friction and inertia; a brisk one for more than the motor has.
    most = np.abs(swing.load.weight).max() + swing.held.rubs + swing.load.inertia.max() * 0.05 / swing.way.max()
    rotor = swing.source.inertia * swing.chain.ratio * 0.05 / swing.way.max()
    top = math.sqrt(0.05 / swing.way.max() * longest) * swing.chain.ratio
    spare = swing.source.gives(np.array([top]))[0] / (most / swing.chain.ratio / swing.chain.efficiency + rotor)
    assert result.figures["drive.swing.step_spare"].value == pytest.approx(spare, rel=0.02)
    brisk = lapse(("drive.swing.gentle", 5.0))[1].figures["drive.swing.step_spare"].value
    assert brisk < spare / 3
    mended = changes.set_values(project, "hive-jib", held.remedies[0].changes)
    after = evaluate(mended, SHELF, "hive-jib")
    assert next(f for f in after.findings if f.key == "drive.swing.interval_holds").state == "clear"
    shown = next(f for f in lapse(("drive.swing.interval", 60.0))[1].findings if f.key == "drive.swing.film_long")
    assert (shown.state, shown.value) == ("watch", pytest.approx(31 / 25))
    longer = evaluate(
        changes.set_values(project, "hive-jib", [("drive.swing.interval", 60.0), *shown.remedies[0].changes]),
        SHELF,
        "hive-jib",
    )
    assert longer.figures["drive.swing.film"].value >= 8.0
    _, glides, sharp = lapse(("drive.swing.lapse", "gliding"), ("drive.swing.exposed", 3.0))
    assert sharp.state == "clear"
    fastest = np.abs(swing.load.speed).max() * result.shot.duration_s / 1800
    assert glides.figures["drive.swing.smear_px"].value == pytest.approx(3 * fastest * swing.pixels.max(), rel=1e-6)
