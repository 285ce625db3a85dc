"""Rules of the house: docstring contract, no Qt in the core, no slow imports at the start, reference cases hold."""

from __future__ import annotations

import ast
import importlib
import inspect
import json
import pkgutil
import re
import subprocess
import sys
from pathlib import Path

import pytest

import hazel_lantern.core
from hazel_lantern.core import mechanics, motion, optics
from hazel_lantern.core.kinds import KINDS
from hazel_lantern.core.nouns.finding import RANK
from hazel_lantern.core.nouns.quantity import Choice, Quantity
from hazel_lantern.core.nouns.units import DIMENSIONS
from tests.helpers import SHELF
from tests.validation.adapters import ADAPTERS
from tests.validation.verify import CASES, load, run

UNIT = re.compile(
    r"\[(m|kg|s|N|rad|Hz|Pa|J|-|1|m\^2|m\^3|m\^4|kg\*m|kg\*m\^2|N\*m|N\*m\*s\^2|N\*m\^2|N/m|m/s|m/s\^2|kg/m\^3|"
    r"currency|px|px/s|px/m|1/s|1/m|rad/s|N/m\^2|kg/m|W)\]"
)


def formulas():
    for package in (mechanics, motion, optics):
        for info in pkgutil.iter_modules(package.__path__):
            module = importlib.import_module(f"{package.__name__}.{info.name}")
            for name, function in inspect.getmembers(module, inspect.isfunction):
                if function.__module__ == module.__name__ and not name.startswith("_"):
                    yield pytest.param(function, id=f"{info.name}.{name}")


@pytest.mark.parametrize("function", list(formulas()))
def test_every_formula_gives_its_inputs_units_result_and_source(function):
    text = inspect.getdoc(function) or ""
    assert "Source:" in text
    assert "Returns:" in text
    for name, parameter in inspect.signature(function).parameters.items():
        assert re.search(rf"^{name}: .+", text, re.M), f"{name} is not explained"
        if parameter.annotation in ("float", "float | None"):
            line = re.search(rf"^{name}: .+", text, re.M).group()
            assert UNIT.search(line), f"{name} has no unit"


def loaded(code: str) -> list[str]:
    """Which of the libraries that are slow or of the interface a fresh process has loaded after it ran this."""
    told = (
        "import sys, json\nprint(json.dumps([m for m in ('PyQt6', 'scipy', 'ezdxf', 'reportlab') if m in sys.modules]))"
    )
    done = subprocess.run([sys.executable, "-c", f"{code}\n{told}"], capture_output=True, text=True, check=True)
    return list(json.loads(done.stdout))


def test_the_core_loads_without_qt_and_without_slow_libraries():
    names = [m.name for m in pkgutil.walk_packages(hazel_lantern.core.__path__, "hazel_lantern.core.")]
    assert loaded(f"import importlib\nfor n in {names}: importlib.import_module(n)\nimport hazel_lantern.cli") == []


def test_a_drag_and_the_window_load_no_slow_library():
    doing = "import hazel_lantern.desktop.application\nfrom tests.helpers import solved\nsolved()"
    assert set(loaded(doing)) <= {"PyQt6"}


def test_what_is_usual_and_what_schools_choose_is_in_the_catalogue():
    for kind in KINDS.values():
        known = {one.key: one for one in kind.parameters if isinstance(one, Choice)}
        usual = [
            *((key, one.default) for key, one in known.items()),
            *(o for v in kind.usual.values() for o in v.items()),
        ]
        schools = [change for school in kind.schools for way in school.ways for change in way[1]]
        for key, value in (*usual, *schools):
            rows = getattr(SHELF, known[key].table) if key in known and known[key].table else ()
            assert not rows or value in rows, (kind.id, key, value)


def test_parameters_are_declared_well():
    for kind in KINDS.values():
        keys = [p.key for p in kind.parameters]
        assert len(keys) == len(set(keys))
        for p in kind.parameters:
            if isinstance(p, Quantity):
                assert p.low <= p.default <= p.high
                assert p.unit in DIMENSIONS
            elif isinstance(p, Choice):
                assert p.default in (getattr(SHELF, p.table) if p.table else dict(p.options))


def test_what_only_one_kind_has_is_named_in_its_folder_alone():
    src, kinds = Path(hazel_lantern.core.__file__).parent.parent, KINDS.values()
    for path in src.rglob("*.py"):
        said = {
            node.value
            for node in ast.walk(ast.parse(path.read_text()))
            if isinstance(node, ast.Constant) and isinstance(node.value, str)
        }
        for kind in kinds:
            if f"/kinds/{kind.id}/" in str(path):
                continue
            others = {p.key for other in kinds if other is not kind for p in other.parameters}
            mine = {
                p.key for p in kind.parameters if "." in p.key and ("/kinds/" not in str(path) or p.key not in others)
            }
            assert not said & mine, (path, said & mine)
            assert "/kinds/" in str(path) or kind.id not in said, (path, kind.id)


def test_no_module_is_too_long_and_none_asks_for_a_kind_by_name():
    src = Path(hazel_lantern.core.__file__).parent.parent
    for path in src.rglob("*.py"):
        text = path.read_text()
        assert len(text.splitlines()) <= 600, path
        if "/kinds/" not in str(path):
            assert not re.search(r'==\s*"(slider|overhead|dolly|jib|cable_cam|orbit|gantry)"', text), path
        if "/desktop/" in str(path) and path.name != "tokens.py":
            assert not re.search(r'"#[0-9a-fA-F]{6}', text), path
    assert set(RANK) == {"clear", "watch", "stop"}


@pytest.mark.parametrize(
    "case",
    [
        pytest.param(c, id=f"{c['id']}-{c['topic']}")
        for c in load(sorted(CASES.glob("*.json")))
        if c["topic"] in ADAPTERS
    ],
)
def test_reference_cases_hold(case):
    rows = run(case)
    assert rows
    assert all(row["held"] for row in rows), rows


def test_a_wrong_answer_does_not_hold():
    case = next(c for c in load(sorted(CASES.glob("*.json"))) if c["topic"] == "pin")
    hurt = {**case, "inputs": {**case["inputs"], "F": {"value": 901, "unit": "N"}}}
    assert not all(row["held"] for row in run(hurt))
    refused = {
        "id": "x",
        "topic": "camera_screw",
        "inputs": {"screw_length": {"value": -1.0}, "stack": {"value": 0.0}},
        "expected": {"error": {"value": "InputError:screw_length"}},
    }
    assert run(refused)[0]["held"]


SRC = Path(__file__).parents[2] / "src"


def imported(path: Path) -> set[str]:
    """All modules a file names in any import, also inside functions and behind TYPE_CHECKING."""
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module:
            found |= {node.module, *(f"{node.module}.{name.name}" for name in node.names)}
        elif isinstance(node, ast.Import):
            found |= {name.name for name in node.names}
    return found


def test_no_module_leads_back_to_itself():
    modules = {
        ".".join(path.relative_to(SRC).with_suffix("").parts): path
        for path in SRC.rglob("*.py")
        if path.name != "__init__.py"
    }
    leads_to = {name: imported(path) & set(modules) - {name} for name, path in modules.items()}
    while leads_to:
        last = {name for name, others in leads_to.items() if not others & set(leads_to)}
        assert last, f"a circle among {sorted(leads_to)}"
        leads_to = {name: others for name, others in leads_to.items() if name not in last}


def test_what_people_name_is_shown_as_plain_text():
    """Labels are those of `widgets/words.py`; only the why sets markup of its own."""
    may = {"words.py", "why.py"}
    for path in (Path(hazel_lantern.core.__file__).parents[1] / "desktop").rglob("*.py"):
        assert path.name in may or "QLabel(" not in path.read_text(), path
