"""Lines where no row can be drawn: when they come, what they say, and what is said under which wishes.

Modules: ``long_work.board``, ``long_work.places``, ``long_work.shown``, ``long_work.wanted``.
"""

from __future__ import annotations

import io
import os
import re
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.long_work.clock import Clock
from wesperon import Context, progress, working
from wesperon.long_work.work import Work
from wesperon.scope import within


def lines_of(errors: io.StringIO) -> list[str]:
    """Return what was printed, line by line."""
    text = errors.getvalue()
    assert text == "" or text.endswith("\n")
    return text.splitlines()


STEPS = st.lists(st.tuples(st.floats(0.01, 3, allow_nan=False), st.integers(0, 9)), max_size=40)


@given(STEPS, st.integers(1, 150))
def test_a_line_comes_after_the_first_second_and_at_each_tenth(steps: list[tuple[float, int]], total: int) -> None:
    """Against a model: nothing before a second, one line at first, then one for each look at a new tenth."""
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ={})), working("Stacking", total=total) as work:
        begun, count, tenth, expected = clock.now, 0, -1, []
        for seconds, more in steps:
            clock.pass_by(seconds)
            count = min(count + more, total)
            work.set(count)
            if clock.now - begun >= 1:
                now = count * 10 // total
                if tenth < 0 or (now > tenth and count < total):
                    expected.append(f"{count} of {total}")
                tenth = max(now, tenth)
        printed = lines_of(errors)
    said = [re.search(r"\d+ of \d+", line) for line in printed]
    assert [found[0] for found in said if found] == expected
    if clock.now - begun >= 1:
        last = lines_of(errors)[-1]
        assert last.startswith(f"Stacking: done, {total if count == total else f'{count} of {total}'} in ")
    else:
        assert lines_of(errors) == []


@given(st.lists(st.integers(0, 30), max_size=60))
def test_without_a_total_a_line_comes_each_time_the_count_has_doubled(steps: list[int]) -> None:
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ={})), working("Reading") as work:
        said, count, expected = -1.0, 0, []
        for more in steps:
            clock.pass_by(1.0)
            count += more
            work.add(more)
            if said < 0 or count >= max(2 * said, 1):
                said = count
                expected.append(count)
        printed = lines_of(errors)
    assert [int(line.split(": ")[1].split(",")[0]) for line in printed] == expected


def test_work_without_a_count_says_that_it_goes_on_and_how_it_ended() -> None:
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ={})), working("Cooling") as work:
        for _ in range(4):
            clock.pass_by(30)
            work.label = "Cooling"
    assert lines_of(errors) == ["Cooling: 30s so far", "Cooling: done in 2m0s"]


def test_more_than_the_total_makes_the_total_unknown() -> None:
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ={})), working("Stacking", total=3) as work:
        clock.pass_by(2)
        work.add(2)
        work.add(2)
        work.total = 9
        work.add(4)
    assert [re.sub(r", [\d.]+/s|, \d+s (left|so far)$| in .*", "", line) for line in lines_of(errors)] == [
        "Stacking: 66%, 2 of 3",
        "Stacking: 4",
        "Stacking: 44%, 4 of 9",
        "Stacking: 88%, 8 of 9",
        "Stacking: done, 8 of 9",
    ]


@pytest.mark.parametrize("environ", [{"WESPERON_ASKING": "never"}, {"WESPERON_PROGRESS": "no"}])
def test_who_wants_none_is_told_what_is_said_and_what_has_failed(environ: dict[str, str]) -> None:
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ=environ)):
        for _ in progress(range(9), "Stacking"):
            clock.pass_by(1)
        with working("Cooling") as work:
            work.say("at 3 degrees\x1b[31m\nnot colder")
            clock.pass_by(9)
        with working("Warming", total=9) as work:
            clock.pass_by(9)
            work.fail("no power")
            work.say("after the end")
    assert lines_of(errors) == ["at 3 degrees^[[31m", "not colder", "Warming: failed at 0 of 9: no power"]


def test_a_preference_turns_it_off(tmp_path: Path) -> None:
    folder = tmp_path / "wesperon"
    folder.mkdir()
    (folder / "preferences.toml").write_text("progress = false\n")
    clock = Clock()
    errors = io.StringIO()
    environ = {"XDG_CONFIG_HOME": str(tmp_path)}
    with within(Context(clock=clock, stderr=errors, environ=environ)):
        for _ in progress(range(9), "Stacking"):
            clock.pass_by(1)
        (folder / "preferences.toml").write_text("progress = true\n")
        for _ in progress(range(2), "Stacking"):
            clock.pass_by(1)
    assert lines_of(errors) == ["Stacking: 50%, 1 of 2, 1s so far", "Stacking: done, 2 in 2.0s"]


def test_it_speaks_the_language_of_its_context() -> None:
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ={}, language="de")):
        for _ in progress(range(2), "Stapeln"):
            clock.pass_by(1)
    assert lines_of(errors)[-1] == "Stapeln: fertig, 2 in 2.0s"


@pytest.mark.parametrize("stream", [None, "closed", "broken"])
def test_a_stream_that_is_gone_is_no_fault_of_the_work(stream: str | None) -> None:
    class Broken(io.StringIO):
        def write(self, text: str) -> int:
            raise BrokenPipeError

    errors: Any = None if stream is None else Broken() if stream == "broken" else io.StringIO()
    if stream == "closed":
        errors.close()
    clock = Clock()
    kept = sys.stderr
    with within(Context(clock=clock, stderr=errors, environ={})):
        sys.stderr = errors
        try:
            work = progress(range(3), "Stacking")
            for _ in work:
                clock.pass_by(1)
                work.say("a line")
        finally:
            sys.stderr = kept
    assert work.count == 3


def test_several_at_once_each_say_how_they_ended() -> None:
    clock = Clock()
    errors = io.StringIO()
    with within(Context(clock=clock, stderr=errors, environ={})):
        works: list[Work] = [working(name, total=4) for name in ("Dome", "Mast", "Mount")]
        for work in works:
            work.begin()
        for _ in range(4):
            clock.pass_by(0.6)
            for work in works:
                work.add()
        works[1].fail("no wind")
        works[2].end("done")
        works[0].end("stopped")
    assert [line for line in lines_of(errors) if "%" not in line] == [
        "Mast: failed at 4: no wind".replace("at 4", "at 4 of 4"),
        "Mount: done, 4 in 2.4s",
        "Dome: stopped at 4 of 4",
    ]


def test_in_the_background_only_failures_and_what_is_said_come(tmp_path: Path) -> None:
    """Of a shell with job control: a job that ends with an ampersand is not in the process group of the terminal."""
    script = tmp_path / "job.py"
    script.write_text("""
import time
from wesperon import progress, working
for item in progress(range(12), "Stacking"):
    time.sleep(0.1)
with working("Cooling") as work:
    work.say("said")
    time.sleep(1.1)
    work.fail("no power")
""")
    log = tmp_path / "log"
    pty_script = f"set -m; {sys.executable} {script} 2>{log} & wait; cat {log}"
    import ptyprocess

    child = ptyprocess.PtyProcess.spawn(["bash", "--norc", "-c", pty_script], env={**os.environ, "TERM": "xterm"})
    try:
        while True:
            child.read()
    except EOFError:
        child.wait()
    said = [re.sub(r" [\d.]+s: no power", "", line) for line in log.read_text().splitlines()]
    assert said == ["said", "Cooling: failed after"]
    foreground = subprocess.run(
        [sys.executable, str(script)], capture_output=True, text=True, check=True, start_new_session=True
    )
    assert "Stacking: done, 12 in " in foreground.stderr
