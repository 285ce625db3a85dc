"""Reference cases through the core: expected, got, tolerance, held or not."""

from __future__ import annotations

import argparse
import json
import math
import sys
from pathlib import Path
from typing import Any

import numpy as np

from hazel_lantern.core.nouns.errors import HazelError, InfeasibleError, InputError, RefusedError
from tests.validation.adapters import ADAPTERS

CASES = Path(__file__).parent.parent / "cases"


def load(paths: list[Path]) -> list[dict[str, Any]]:
    """The cases of files, and of the files of folders. Raises ValueError, naming the file, for what holds none."""
    cases: list[dict[str, Any]] = []
    for path in [file for one in paths for file in (sorted(one.glob("*.json")) if one.is_dir() else [one])]:
        try:
            data = json.loads(path.read_text(encoding="utf-8"))
            found = data if isinstance(data, list) else data["cases"]
            for case in found:
                case["id"], case["topic"], case["inputs"], case["expected"]
        except OSError as error:
            raise ValueError(f"{path}: cannot be read ({error.strerror})") from error
        except (KeyError, TypeError, ValueError) as error:
            raise ValueError(f"{path}: holds no cases; wanted are id, topic, inputs and expected ({error})") from error
        cases += found
    if not cases:
        raise ValueError(f"{', '.join(map(str, paths))}: no cases there")
    return cases


def _value(entry: Any) -> Any:
    value = entry["value"] if isinstance(entry, dict) and "value" in entry else entry
    return math.inf if value == "inf" else -math.inf if value == "-inf" else value


def _error(error: HazelError, expected: str) -> str:
    """The error in the words a case uses: its code, its class with the field, or its class."""
    code = getattr(error, "code", "")
    if isinstance(error, (InfeasibleError, RefusedError)) and code and expected == code:
        return str(code)
    named = f"{type(error).__name__}:{error.field}" if isinstance(error, InputError) else type(error).__name__
    return named if ":" in expected else type(error).__name__


def run(case: dict[str, Any]) -> list[dict[str, Any]]:
    """One row for each expected quantity."""
    inputs = {key: _value(entry) for key, entry in case["inputs"].items()}
    raised = ""
    got: dict[str, Any] = {}
    wanted = _value(case["expected"].get("error", ""))
    try:
        got = ADAPTERS[case["topic"]](inputs)
    except HazelError as error:
        raised = _error(error, str(wanted))
        message = str(error)
    rows = []
    for name, entry in case["expected"].items():
        expected = _value(entry)
        answer = (raised or got.get("error", "")) if name == "error" else got.get(name)
        held = answer == expected if name == "error" else name in got and _holds(answer, expected, entry)
        rows.append(
            {
                "id": case["id"],
                "topic": case["topic"],
                "quantity": name,
                "expected": expected,
                "got": _plain(answer),
                "held": bool(held),
                "error": message if raised else "",
            }
        )
    return rows


def _plain(value: Any) -> Any:
    if isinstance(value, (np.ndarray, np.generic)):
        value = value.tolist()
    if isinstance(value, float) and math.isinf(value):
        return "inf" if value > 0 else "-inf"
    return [_plain(v) for v in value] if isinstance(value, (list, tuple)) else value


def _holds(got: Any, expected: Any, entry: Any) -> bool:
    if expected is None or isinstance(expected, (str, bool)):
        return bool(got == expected)
    if isinstance(expected, list) and any(isinstance(one, str) for one in expected):
        return list(got or ()) == expected
    relative = float(entry.get("rel_tol", 0.0)) if isinstance(entry, dict) else 0.0
    absolute = float(entry.get("abs_tol", 1e-8)) if isinstance(entry, dict) else 1e-8
    if got is None:
        return False
    want, have = np.asarray(expected, float), np.asarray(got, float)
    if want.shape != have.shape:
        return False
    if want.size == 0:
        return True
    largest = float(np.max(np.abs(want[np.isfinite(want)]), initial=0.0))
    same = (want == have) | (np.abs(have - want) <= relative * np.maximum(np.abs(want), largest) + absolute)
    return bool(np.all(same))


def main() -> int:
    parser = argparse.ArgumentParser(prog="./hazel verify")
    parser.add_argument("cases", nargs="*", type=Path)
    parser.add_argument("--json", action="store_true")
    parser.add_argument("--strict", action="store_true", help="a topic without an adapter fails too")
    args = parser.parse_args()
    try:
        cases = load(args.cases or sorted(CASES.glob("*.json")))
    except ValueError as error:
        print(error, file=sys.stderr)
        return 2
    missing = sorted({case["topic"] for case in cases} - set(ADAPTERS))
    rows = [row for case in cases if case["topic"] in ADAPTERS for row in run(case)]
    if args.json:
        print(json.dumps(rows, ensure_ascii=False, indent=1))
    else:
        for row in rows:
            print(
                f"{'held ' if row['held'] else 'FAILS'} {row['id']:8}{row['topic']:20}{row['quantity']:28}expected "
                f"{row['expected']}  got {row['got']} {row['error']}"
            )
    failed = sum(not row["held"] for row in rows)
    print(
        f"{len(rows) - failed} held, {failed} failed; {len(missing)} topics without an adapter: "
        f"{', '.join(missing) or 'none'}",
        file=sys.stderr,
    )
    return 1 if failed or (args.strict and missing) else 0


if __name__ == "__main__":
    sys.exit(main())
