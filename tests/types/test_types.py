"""What a type checker sees: right uses have no error and the right types, wrong ones have an error that names it.

Modules: ``values.signatures``, ``forms.signatures``.
"""

from __future__ import annotations

import re
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

HERE = Path(__file__).parent
ROOT = HERE.parent.parent
#: The most characters of an error, the notes of the checker apart, and the most signatures of ``slot``.
LONGEST, MOST_SIGNATURES = 1000, 15


def run(*words: str) -> dict[tuple[str, int], str]:
    """Return the errors of a checker, by file and line."""
    ran = subprocess.run(words, cwd=ROOT, capture_output=True, text=True, timeout=300)
    found: dict[tuple[str, int], str] = {}
    for name, line, message in re.findall(r"(\w+)\.py:(\d+)[^ ]*(?: -)? error: (.*)", ran.stdout):
        found[name, int(line)] = f"{found.get((name, int(line)), '')}{message}\n"
    assert found, ran.stdout + ran.stderr
    return found


def expected() -> dict[tuple[str, int], str]:
    """Return the errors that the comments of the wrong uses name."""
    lines = (HERE / "wrong.py").read_text(encoding="utf-8").split("\n")
    return {
        ("wrong", number): line.partition("# error: ")[2] for number, line in enumerate(lines, 1) if "# error: " in line
    }


def line_of(name: str, text: str) -> tuple[str, int]:
    """Return where a text is in a file."""
    before, found, _ = (HERE / f"{name}.py").read_text(encoding="utf-8").partition(text)
    assert found
    return name, before.count("\n") + 1


def test_a_strict_checker_sees_true_types_and_each_wrong_use(tmp_path: Path) -> None:
    files = (str(HERE / "right.py"), str(HERE / "wrong.py"))
    found = run(
        sys.executable, "-m", "mypy", "--strict", "--no-error-summary", "--hide-error-context",
        f"--cache-dir={tmp_path}", "--config-file=", *files,
    )  # fmt: skip
    wanted = expected()
    assert found.keys() == wanted.keys()
    for place, message in wanted.items():
        assert message in found[place], place
        assert len(found[place]) < LONGEST, place


def test_a_slot_has_few_signatures() -> None:
    text = (ROOT / "src" / "wesperon" / "values" / "signatures.py").read_text(encoding="utf-8")
    assert text.count("@overload\ndef slot(") <= MOST_SIGNATURES


def test_a_second_checker_agrees() -> None:
    checker = shutil.which("pyright")
    if checker is None:
        pytest.skip("the checker is not installed")
    found = run(checker, "--pythonpath", sys.executable, str(HERE / "right.py"), str(HERE / "wrong.py"))
    assert found.keys() == {
        *(place for place in expected() if place != line_of("wrong", 'slot(int, default="x")')),
        line_of("right", "Lamps(lamp="),
    }
