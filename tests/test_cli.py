"""The command line as a stranger would use it, in processes without Qt."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys

import msgspec
import pytest

from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.units import DIMENSIONS
from hazel_lantern.files import project_file
from tests.helpers import changed, one_rig, sample, solved

NO_QT = """
import sys
class No:
    def find_spec(self, name, *a):
        if name.split('.')[0] == 'PyQt6':
            raise ImportError('Qt is not here')
sys.meta_path.insert(0, No())
from hazel_lantern.__main__ import main
sys.exit(main())
"""


def run(*args, stdin=None):
    return subprocess.run([sys.executable, "-c", NO_QT, *map(str, args)], capture_output=True, input=stdin, check=False)


@pytest.fixture
def file(tmp_path):
    path = tmp_path / "a.lantern.json"
    project_file.write(one_rig(), path)
    return path


def test_solve_prints_every_figure_with_unit_and_why(file):
    text = run("solve", file).stdout.decode()
    answer = json.loads(run("solve", file, "--json").stdout)
    assert answer["rig"] == {"id": "hive-jib", "kind": "jib"}
    assert len(answer["figures"]) >= 40
    for key, figure in answer["figures"].items():
        assert f"[{key}]" in text
        assert figure["unit"] in DIMENSIONS
        assert "source" in figure["why"]
    assert {"key", "about", "state", "value", "limit", "sense", "unit", "where", "sentence", "remedies"} == set(
        answer["findings"][0]
    )
    states = [f["state"] for f in answer["findings"]]
    assert states == sorted(states, key=["stop", "watch", "clear"].index)
    curve = answer["curves"]["balance.moment"]
    assert len(curve["x"]) == len(curve["y"]) > 10
    assert answer["parts"][0]["marks"]


@pytest.mark.parametrize(
    ("kind", "variant", "more"),
    [
        ("orbit", "shaft", ()),
        ("orbit", "desk", ("--subject", "box")),
        ("dolly", "floor", ("--kit", "body=3 kg")),
        ("dolly", "arc", ("--subject", "person")),
        ("gantry", "boards", ("--units", "in")),
    ],
)
def test_new_sizes_every_sort_of_rig_for_a_shot_of_its_sort(tmp_path, kind, variant, more):
    out = tmp_path / "b.lantern.json"
    acts = [word for action in KINDS[kind].actions for word in ("--act", action.station)]
    made = run("new", kind, "--variant", variant, *more, *acts, "-o", out)
    assert (made.returncode, made.stderr) == (0, b"")
    answer = json.loads(run("solve", out, "--json").stdout)
    assert answer["figures"]["build.foul"]["value"] == 0
    assert [one["key"] for one in answer["findings"] if one["state"] == "stop"] == []


def test_a_rig_that_cannot_be_built_is_told_with_what_would_do_in_the_units_of_its_file(tmp_path):
    out = tmp_path / "c.lantern.json"
    run("new", "gantry", "--units", "in", "--set", "trolley.edge=32 in", "-o", out)
    checked = run("check", out)
    assert checked.returncode == 1 and b"Nothing of the bridge is left for the trolley" in checked.stdout
    answer = json.loads(run("solve", out, "--json").stdout)
    (stop,) = (one for one in answer["findings"] if one["key"] == "rig.impossible")
    (remedy,) = stop["remedies"]
    assert remedy["changes"] == {"trolley.edge": 0.28}
    assert b"try: Stop it 11 in short (changes nothing else)" in run("solve", out).stdout
    # What it says is taken as it stands, and the rig is one again.
    edge = f"trolley.edge={remedy['changes']['trolley.edge']} m"
    assert run("new", "gantry", "--set", edge, "-o", out, "--force").returncode == 0
    mended = json.loads(run("solve", out, "--json").stdout)
    assert "rig.impossible" not in {one["key"] for one in mended["findings"]}
    assert len(mended["figures"]) > len(answer["figures"])


def test_new_takes_whatever_the_bench_can_set(tmp_path):
    out = tmp_path / "b.lantern.json"
    done = run(
        "new",
        "jib",
        "--variant",
        "two_bars",
        "--set",
        "arm.front=5' 9\"",
        "--set",
        'weights.hung=["w1", "w2"]',
        "--set",
        "shot.end=2.5 m",
        "--set",
        "safety=B",
        "--set",
        "kit.0.mass=3 lb",
        "-o",
        out,
    )
    assert done.returncode == 0, done.stderr
    project = project_file.read(out)
    assert project.rigs[0].design["arm.front"] == pytest.approx(69 * 0.0254)
    assert project.rigs[0].design["weights.hung"] == ("w1", "w2")
    assert project.shots[0].end_height_m == 2.5
    assert project.kits[0].items[0].mass_kg == pytest.approx(3 * 0.45359237)
    assert json.loads(run("solve", out, "--json").stdout)["figures"]["rig.reach"]["value"] > 69 * 0.0254


@pytest.mark.parametrize(
    ("args", "says"),
    [
        (["--set", "arm.front=-1 m"], "between"),
        (["--set", "arm.front=long"], "cannot be read"),
        (["--set", "arm.length=1 m"], "not a parameter"),
        (["--set", "arm.front"], "NAME=VALUE"),
        (["--variant", "three_bars"], "two_bars"),
        (["--set", "weights.hung=[w1"], "JSON"),
        (["--set", "safety=E"], "choose one of"),
        (["--set", "arm.front=nan"], "cannot be read"),
    ],
)
def test_bad_settings_name_the_field_and_write_nothing(tmp_path, args, says):
    out = tmp_path / "c.lantern.json"
    done = run("new", "jib", *args, "-o", out)
    assert done.returncode == 2
    assert says in done.stderr.decode()
    assert not out.exists()


def test_check_answers_with_its_exit_code(tmp_path, file):
    assert run("check", file).returncode == 1
    good = tmp_path / "good.lantern.json"
    project_file.write(changed(one_rig(), stand__radius=0.85, ballast__mass=20.0), good)
    assert run("check", good).returncode == 0
    impossible = tmp_path / "no.lantern.json"
    project_file.write(changed(one_rig(), pivot__spacing=0.03), impossible)
    done = run("check", impossible)
    assert done.returncode == 1
    assert b"already touch" in done.stdout
    (tmp_path / "bad.json").write_text("{")
    done = run("check", tmp_path / "bad.json")
    assert done.returncode == 2
    assert done.stderr.startswith(b"hazel-lantern: bad.json: ")


def test_several_rigs_ask_which_and_an_impossible_one_still_has_figures(tmp_path):
    from hazel_lantern.core.editing import changes

    two = tmp_path / "two.lantern.json"
    project_file.write(changes.keep_alternative(one_rig(), "hive-jib"), two)
    done = run("solve", two)
    assert done.returncode == 2
    assert b"hive-jib, jib-1" in done.stderr
    assert run("solve", two, "--rig", "jib-1").returncode == 0
    assert run("solve", two, "--rig", "nobody").returncode == 2


def test_kinds_schema_and_exact_cuts_are_json(file):
    kinds = json.loads(run("kinds").stdout)
    by_key = {p["key"]: p for p in kinds["jib"]["parameters"]}
    assert by_key["arm.front"]["unit"] == "m"
    assert "al6063-25x50x2" in by_key["arm.section"]["options"]
    assert "shot.start" in by_key
    assert {"rig.mass", "rig.pinch", "rig.cable_pull", "rig.head_turns"} & set(kinds["jib"]["figures"]) == {
        "rig.mass",
        "rig.cable_pull",
        "rig.head_turns",
    }
    assert {"shot.fill", "shot.bench_seen", "shot.turning", "shot.total", "shot.sharp_far"} <= set(
        kinds["gantry"]["figures"]
    )
    assert {"shot.hidden", "shot.cover", "shot.ceiling", "shot.people"} <= set(kinds["slider"]["findings"])
    assert {"rig.pinch", "rig.cable_tight", "rig.head_range"} <= set(kinds["jib"]["findings"])
    assert by_key["cable.tension"]["variants"] == ["cable"]
    assert all(":" not in unit for kind in kinds.values() for unit in kind["figures"].values())
    assert "$defs" in json.loads(run("schema").stdout)
    plans = json.loads(run("plan-cuts", stdin=msgspec.json.encode(solved().order)).stdout)
    assert all(row["plan"]["status"] == "optimal" for row in plans)


@pytest.mark.parametrize("to", ["pdf", "dxf", "svg", "parts-csv"])
def test_export_writes_a_file(tmp_path, file, to):
    out = tmp_path / "out"
    assert run("export", file, "--to", to, "-o", out).returncode == 0
    assert out.stat().st_size > 300
    assert run("export", file, "--to", to, "-o", tmp_path / "no" / "where").returncode == 2


def test_new_can_size_and_balance_what_it_makes_as_the_window_does(tmp_path):
    out = tmp_path / "crane.lantern.json"
    assert (
        run(
            "new", "jib", "--variant", "cable", "--set", "shot.end=2.6 m", "--act", "rig", "--act", "balance", "-o", out
        ).returncode
        == 0
    )
    assert run("check", out).returncode == 0
    design = project_file.read(out).rigs[0].design
    assert design["weights.hung"]
    wrong = run("new", "jib", "--act", "bake", "-o", out)
    assert wrong.returncode == 2
    assert b"rig, balance" in wrong.stderr
    assert project_file.read(out).rigs[0].design == design


def say(*args, stdout=subprocess.PIPE, env=None, timeout=60):
    """Run a command and read what it says as text."""
    words = [arg if isinstance(arg, bytes) else str(arg) for arg in args]
    return subprocess.run(
        [sys.executable, "-c", NO_QT, *words],
        stdout=stdout,
        stderr=subprocess.PIPE,
        check=False,
        text=True,
        env=env,
        timeout=timeout,
    )


def test_an_output_is_written_over_only_when_asked_and_the_project_never(tmp_path, file):
    out = tmp_path / "a.svg"
    for force, code in (((), 0), ((), 2), (("--force",), 0)):
        done = say("export", file, "--to", "svg", "-o", out, *force)
        assert done.returncode == code, done.stderr
    link = tmp_path / "link.lantern.json"
    link.symlink_to(file)
    before = file.read_bytes()
    for path in (file, link):
        done = say("export", file, "--to", "svg", "-o", path, "--force")
        assert done.returncode == 2
        assert "the project itself" in done.stderr
    done = say("new", "jib", "-o", file)
    assert done.returncode == 2
    assert "--force" in done.stderr
    assert file.read_bytes() == before


@pytest.mark.parametrize(
    ("args", "says"),
    [
        (("arm.section=cheese",), "catalogue of sections"),
        (("stand=moon",), "catalogue of stands"),
        (("arm.front=" + "9" * 400,), "finite|between"),
        (("arm.front=1e999",), "is not a unit"),
        (("weights.hung=" + "[" * 100_000,), "list"),
        (("kit.0.mass=0", "kit.1.mass=0", "kit.2.mass=0"), "carries something"),
    ],
)
def test_values_that_no_design_has_are_refused_by_new(tmp_path, args, says):
    done = say("new", "jib", *(word for one in args for word in ("--set", one)), "-o", tmp_path / "a.lantern.json")
    assert done.returncode == 2
    assert re.search(says, done.stderr), done.stderr
    assert len(done.stderr) < 600
    assert not (tmp_path / "a.lantern.json").exists()


@pytest.mark.parametrize("out", ["", ".", "/dev/full", "/nowhere/at/all", b"\xff.svg"])
def test_odd_outputs_end_in_one_sentence(file, tmp_path, out):
    path = os.path.join(os.fsencode(tmp_path), out) if isinstance(out, bytes) else out
    done = say("export", file, "--to", "svg", "-o", path)
    assert done.returncode == (0 if isinstance(out, bytes) else 2), done.stderr
    assert "Traceback" not in done.stderr
    assert done.stderr.count("\n") <= 1


@pytest.mark.parametrize("args", [("solve",), ("solve", "--json"), ("kinds", "jib"), ("schema",)])
def test_a_full_or_narrow_terminal_ends_in_one_sentence_or_plain_text(file, args):
    words = (args[0], *((file,) if args[0] == "solve" else ()), *args[1:])
    with open("/dev/full", "w") as full:
        done = say(*words, stdout=full)
    assert done.returncode == 2
    assert done.stderr.count("\n") == 1
    narrow = say(*words, env={**os.environ, "PYTHONIOENCODING": "ascii"})
    assert narrow.returncode == 0, narrow.stderr
    assert narrow.stdout.isascii()
    if args != ("solve",):
        assert json.loads(narrow.stdout) == json.loads(say(*words).stdout)


@pytest.mark.parametrize("kind", ["pipe", "folder", "device", "huge", "link to nothing"])
def test_files_that_are_none_are_refused_unread(tmp_path, kind):
    path = tmp_path / "a.lantern.json"
    if kind == "pipe":
        os.mkfifo(path)
    elif kind == "folder":
        path.mkdir()
    elif kind == "huge":
        with path.open("wb") as out:
            out.truncate(33 * 2**20)
    elif kind == "link to nothing":
        path.symlink_to(tmp_path / "nothing")
    done = say("check", "/dev/zero" if kind == "device" else path, timeout=20)
    assert done.returncode == 2
    assert done.stderr.count("\n") == 1


def test_readings_are_taken_in_and_told_from_the_command_line(tmp_path):
    project, out, table = tmp_path / "orchard.lantern.json", tmp_path / "read.lantern.json", tmp_path / "r.csv"
    project_file.write(sample(), project)
    rows = [arg for sinks in ("5.8 mm", "5.9 mm", "5.75 mm") for arg in ("--test", "sag", "2 kg", sinks)]
    said = run("measure", project, "--rig", "hive-jib-plumb", *rows, "--day", "2027-04-08", "-o", out, "--json")
    sag, proof = (json.loads(said.stdout)[key] for key in ("sag", "proof"))
    assert sag["rows"] == 3 and sag["corrections"][0]["tests"] == 1 and proof["overdue"]
    assert len(project_file.read(out).rig("hive-jib-plumb").proofs) == 3
    assert run("export", out, "--rig", "hive-jib-plumb", "--to", "tests-csv", "-o", table).returncode == 0
    told = run("measure", project, "--rig", "hive-jib", "--csv", table)
    assert told.returncode == 0 and b"times as stiff as drawn" in told.stdout
    for wrong in (["--test", "sag", "2 kg"], ["--test", "sago", "1"], ["--test", "sag", "2 kg", "far"], ["-o", out]):
        refused = run("measure", project, "--rig", "hive-jib", *wrong)
        assert refused.returncode == 2 and refused.stderr.count(b"\n") == 1


def test_a_simulated_instrument_is_served_until_it_is_stopped():
    from hazel_lantern.devices.instruments import Instrument
    from hazel_lantern.devices.ports import open_port

    command = [sys.executable, "-c", NO_QT, "simulate", "instrument", "tape", "--truth", "1.25"]
    with subprocess.Popen(command, stdout=subprocess.PIPE) as one:
        name = one.stdout.readline().decode().split()[2].rstrip(";")
        tape = Instrument(open_port(name))
        assert tape.read() == pytest.approx(1.25, abs=0.005)
        tape.close()
        one.terminate()
    assert run("simulate", "instrument", "spoon").returncode == 2


def test_takes_go_out_and_in_as_tables(tmp_path, file):
    from hazel_lantern.core.rolling.takes import Take
    from hazel_lantern.files import takes

    for n in (1, 2):
        takes.append(takes.beside(file), Take(number=n, when="2027-04-08", rig="hive-jib", shot="hives", note="=1+1"))
    table = tmp_path / "t.csv"
    assert run("takes", file, "-o", table).returncode == 0 and b"'=1+1" in table.read_bytes()
    assert run("takes", file, "-o", table).returncode == 2
    again = tmp_path / "b.lantern.json"
    again.write_bytes(file.read_bytes())
    assert run("takes", again, "--csv", table).stdout.count(b"2027-04-08") == 2
    table.write_text("a,b\n")
    assert b"another tool" in run("takes", again, "--csv", table).stderr


def test_sizes_are_told_and_taken_from_the_command_line(tmp_path):
    file, out = tmp_path / "rail.lantern.json", tmp_path / "sized.lantern.json"
    assert run("new", "overhead", "-o", file).returncode == 0
    told = run("size", file, "--limit", "mass=60", "--json")
    answer = json.loads(told.stdout)
    assert told.returncode in (0, 1) and answer["screened"] > 0 and (answer["answers"] or answer["trouble"])
    if answer["answers"]:
        name = next(iter(answer["answers"]))
        assert run("size", file, "--limit", "mass=60", "--take", name, "-o", out).returncode == 0
        design = project_file.read(out).rigs[0].design
        assert all(
            design[key] == (tuple(value) if isinstance(value, list) else value)
            for key, value in answer["answers"][name]["changes"].items()
        )
    assert (
        run("size", file, "--limit", "price=3").returncode == 2
        and run("size", file, "--limit", "cost=x").returncode == 2
    )
