"""The testing kit: programs run in sessions, step by step, as their developers would.

Modules: ``testing.session``, ``testing.session_driver``, ``terminal.scripted``.
"""

from __future__ import annotations

import asyncio
import random
import signal
import time
from collections.abc import Sequence
from functools import partial
from pathlib import Path
from threading import Thread
from typing import Any

import pytest

from tests.harness import EXAMPLES, ROOT, Terminal, python
from tests.tables import tabled
from wesperon import Command, Console, Form, Problems, Program, Refusal, fill, one_of, slot, styled, terminal_size
from wesperon.testing import Press, Scripted, Session

TARGETS = ["Lantern Nebula", "Wicker Nebula", "Thimble Group"]


class Expose(Command):
    """Put an exposure into the queue."""

    target = slot(one_of(TARGETS), "Target")
    frames = slot(int, "Frames", low=1, high=200)

    def run(self) -> str:
        """Queue it."""
        if self.frames == 13:
            raise Refusal("the dome is closed", 4)
        return f"queued: {self.target}, {self.frames}"


DESK = Program("desk", members=[Expose])


def test_a_program_is_typed_into_and_read_step_by_step() -> None:
    with Session(DESK, ["expose"], columns=60) as session:
        assert session.screen.splitlines()[0] == "  Target" + " " * 45 + "1 more"
        session.type("wick").press("enter")
        assert "  Target  Wicker Nebula\n  Frames" in session.screen
        assert session.cursor == (1, 10)
        session.type("4x").press("enter")
        assert "is not a whole number" in session.screen
        assert session.is_open
        session.press("backspace").paste("0").press("enter")
        assert (session.status, session.output) == (0, "queued: Wicker Nebula, 40\n")
        assert session.screen.splitlines() == [
            "  Target  Wicker Nebula",
            "  Frames  40",
            "",
            "queued: Wicker Nebula, 40",
        ]
        with pytest.raises(AssertionError, match="has ended"):
            session.type("more")


def test_a_session_tells_how_a_program_has_ended() -> None:
    with Session(DESK, ["expose", "Wicker Nebula", "13"]) as session:
        assert (session.status, session.errors) == (4, "desk: the dome is closed\n")
    with Session(DESK, ["expose"]) as session:
        assert session.press("ctrl-c").status == 130
    with Session(DESK, ["expose"]) as session:
        pass
    assert (session.status, "2 values are missing" in session.errors) == (2, True)
    with Session(Expose, ["--target=Thimble Group"]) as session:
        session.type("7").press("enter")
        assert session.result == Expose(target="Thimble Group", frames=7)
    with Session(lambda: 1 // 0) as session:
        assert isinstance(session.error, ZeroDivisionError)
        assert session.status == 1
    with Session(ROOT / "examples" / "nightplan.py", ["M", "2", "2", "3"]) as session:
        session.type("21:30").press("enter")
        assert session.output.endswith("The last one ends at 21:30:07.\n")


def test_a_console_runs_in_a_session_and_keeps_nothing_of_the_user() -> None:
    with Session(Console(DESK)) as session:
        session.type("expose 'Thimble Group' 3").press("enter")
        assert "queued: Thimble Group, 3" in session.screen
        session.press("up")
        assert session.screen.splitlines()[-2].strip() == "desk  expose 'Thimble Group' 3"
        session.press("ctrl-u", "ctrl-d")
        assert session.status == 0


def test_a_resize_and_the_width_that_a_program_sees() -> None:
    with Session(lambda: print(terminal_size(), styled("dim", "red")), columns=50, rows=9) as session:
        assert session.output == "TerminalSize(columns=50, rows=9) dim\n"
    with Session(DESK, ["expose"]) as session:
        session.resize(30, 5)
        assert all(len(line) <= 30 for line in session.screen.splitlines())


def test_a_program_that_neither_asks_nor_ends_is_told_of() -> None:
    import threading

    stop = threading.Event()
    with pytest.raises(AssertionError, match="neither asks nor ends"):
        Session(lambda: stop.wait(20), timeout=0.2).__enter__()
    stop.set()


def test_a_screen_is_compared_with_a_kept_one(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    kept = tmp_path / "screens" / "frames.txt"

    def frames(value: str) -> None:
        with Session(lambda: fill(frames=slot(int))) as session:
            session.type(value)
            session.compare(kept)

    with pytest.raises(AssertionError, match="no screen is kept"):
        frames("12")
    monkeypatch.setenv("WESPERON_KEEP", "1")
    frames("12")
    monkeypatch.delenv("WESPERON_KEEP")
    frames("12")
    with pytest.raises(AssertionError, match=r"-  frames  12\n\+  frames  13"):
        frames("13")


def test_the_fixture_is_there_for_every_test(pytester: Any, monkeypatch: pytest.MonkeyPatch) -> None:
    pytester.makepyfile(
        """
        from wesperon import fill, slot

        def test_frames(wesperon_session):
            session = wesperon_session(lambda: fill(frames=slot(int)))
            session.type("12")
            session.keep()
            session.press("enter")
            assert tuple(session.result) == (12,)
            assert wesperon_session(lambda: fill(seconds=slot(int))).screen.startswith("  seconds")
        """
    )
    monkeypatch.setenv("WESPERON_KEEP", "1")
    pytester.runpytest_inprocess().assert_outcomes(passed=1)
    assert "frames  12" in (pytester.path / "screens" / "test_frames.txt").read_text()
    monkeypatch.delenv("WESPERON_KEEP")
    pytester.runpytest_inprocess().assert_outcomes(passed=1)


def test_a_list_of_events_is_played_in_one_go() -> None:
    driver = Scripted([Press("down"), Press("enter"), "5", Press("enter")])

    class Plan(Form):
        target = slot(one_of(TARGETS))
        frames = slot(int)

    assert tuple(Plan.fill([], driver=driver)) == ("Wicker Nebula", 5)


def test_what_the_surroundings_say_about_asking_does_not_reach_a_session(monkeypatch: pytest.MonkeyPatch) -> None:
    class Log(Form):
        frames = slot(int)

    for name, value in [("WESPERON_ASKING", "never"), ("WESPERON_TIMEOUT", "0.01"), ("WESPERON_PLAIN", "1")]:
        monkeypatch.setenv(name, value)
    with Session(Log) as session:
        session.type("5").press("enter")
        assert session.result.frames == 5
    with Session(Log, environment={"WESPERON_ASKING": "never"}) as session:
        assert "is missing" in str(session.error)


def test_what_a_test_prints_goes_where_it_always_does(capsys: pytest.CaptureFixture[str]) -> None:
    with Session(Hello) as session:
        print("from the test")
        assert "from the test" not in session.screen
    assert capsys.readouterr().out == "from the test\n"


class Hello(Form):
    frames = slot(int)


class Exposure(Form):
    target = slot(ask="Which target?")
    frames = slot(int)
    secret = slot(secret=True)


def test_what_the_sessions_environment_says_holds() -> None:
    with Session(Exposure, environment={"WESPERON_ASKING": "never"}) as session:
        assert isinstance(session.error, Problems)
        assert len(session.error) == 3
    with Session(Exposure, environment={"WESPERON_TIMEOUT": "0.2"}) as session:
        session.type("x").press("enter")
        session._thread.join(5)
        assert isinstance(session.error, Problems)
        assert len(session.error) == 2
    with Session(Exposure, environment={"WESPERON_PLAIN": "1"}) as session:
        assert session.screen.endswith("\nWhich target?:")
        session.type("domx").press("backspace").type("e").press("enter").type("many").press("enter")
        assert 'frames (a whole number): many\n  "many" is not a whole number' in session.screen
        session.paste("5\n").type("hush").press("enter")
        assert not session.is_open
        assert session.result.target == "dome"
        assert "hush" not in session.screen
    for end, kind in (("ctrl-c", KeyboardInterrupt), ("ctrl-d", Problems)):
        with Session(Exposure, environment={"TERM": "dumb"}) as session:
            session.press(end, times=1)
            if session.is_open:
                session.press(end).press(end)
            assert isinstance(session.error, kind)


def test_what_the_developer_prefers_does_not_reach_a_session(monkeypatch: pytest.MonkeyPatch) -> None:
    for name, value in (("WESPERON_LANGUAGE", "de"), ("WESPERON_LOG", "terminal"), ("WESPERON_PLAIN", "1")):
        monkeypatch.setenv(name, value)
    with Session(Exposure) as session:
        assert session.screen.startswith("  Which target?")


def test_a_form_is_left_and_resumed(tmp_path: Path) -> None:
    shared = {"XDG_STATE_HOME": str(tmp_path)}
    with Session(Exposure, environment=shared) as session:
        session.type("dome").press("enter").type("5").press("enter", "ctrl-c")
        assert isinstance(session.error, KeyboardInterrupt)
    with Session(Exposure, environment=shared) as session:
        assert "2 saved answers" in session.screen
        session.press("enter")
        session.type("hush").press("enter")
        assert not session.is_open
        assert (session.result.target, session.result.frames) == ("dome", 5)
    with Session(Exposure, environment=shared) as session:
        assert "saved" not in session.screen


def test_forms_that_keep_their_answers_leave_no_file_open() -> None:
    def program() -> list[int]:
        counts = []
        for _ in range(4):
            Exposure.fill([])
            counts.append(len(list(Path("/proc/self/fd").iterdir())))
        return counts

    with Session(program) as session:
        for _ in range(4):
            for text in ("dome", "5", "hush"):
                session.type(text).press("enter")
        assert len(set(session.result)) == 1


class Wait(Command):
    async def run(self) -> None:
        await asyncio.sleep(0.02)
        print("waited")


@pytest.mark.parametrize("ignored", [False, True])
def test_other_tasks_go_on_in_a_console_of_an_event_loop(ignored: bool, request: pytest.FixtureRequest) -> None:
    if ignored:  # as a shell starts a process in the background
        request.addfinalizer(partial(signal.signal, signal.SIGINT, signal.signal(signal.SIGINT, signal.SIG_IGN)))
    console = Console(Program("desk", members=[Wait]))
    ticks: list[int] = []

    async def tick() -> None:
        while True:
            await asyncio.sleep(0.01)
            ticks.append(len(ticks))
            if len(ticks) == 5:
                console.say("five ticks")

    async def work() -> int:
        task = asyncio.create_task(tick())
        try:
            return await console.run_async()
        finally:
            task.cancel()

    with Session(lambda: asyncio.run(work())) as session:
        session.type("wa")
        session.see("five ticks")
        assert session.screen.splitlines()[-2].strip() == "desk  wait"[:8]
        session.type("it").press("enter").see("waited")
        before = len(ticks)
        while len(ticks) < before + 5:
            time.sleep(0.01)
        session.press("ctrl-d")
        assert session.status == 0


BOTH = """
import sys
from wesperon import Command, Console, Program, fill, one_of, slot, styled
class Fail(Command):
    '''Fail.'''
    def run(self):
        1 / 0
class Half(Command):
    '''Print a line without its end.'''
    def run(self):
        print("half", end="")
def form():
    record = fill(name=slot(ask="Name"), camera=slot(one_of(["north", "south"]), "Camera"))
    print(styled("red", "red"), "\\x1b[31mraw\\x1b[m", record.name, record.camera)
def reads():
    print("got", input("more: "))
    form()
def console():
    Console(Program("x", members=[Fail, Half]), history=False).run()
{ "form": form, "reads": reads, "console": console }[sys.argv[1]]()
"""
BYTES = {
    "up": "\x1b[A",
    "space": " ",
    "left": "\x1b[D",
    "enter": "\r",
    "backspace": "\x7f",
    "down": "\x1b[B",
    "shift-tab": "\x1b[Z",
    "ctrl-u": "\x15",
    "ctrl-l": "\x0c",
    "tab": "\t",
}


def play_both(script: Path, words: Sequence[str], played: Sequence[Sequence[str]]) -> None:
    """Play keys in a session and in a terminal, a burst at a time, and compare the screens and the exit status."""
    with Session(script, words, rows=30) as session, Terminal(python(str(script), *words), rows=30) as terminal:
        for keys in [(), *played]:
            for key in keys if session.is_open else ():
                if key in BYTES:
                    session.press(key)
                else:
                    session.type(key)
                terminal.type(BYTES.get(key, key))
            shown = [line.rstrip() for line in session.screen.split("\n") if line.strip()]
            terminal.wait(lambda wanted=shown: [row for row in terminal.lines() if row] == wanted, f"{shown}")  # type: ignore[misc]
        if session.is_open:
            session.close()
            terminal.type("\x04")
        else:
            assert terminal.end() == session.status


@tabled
def test_the_same_keys_show_the_same_in_a_session_and_in_a_terminal(
    name: str, played: list[tuple[str, ...]], tmp_path: Path
) -> None:
    script = tmp_path / "both.py"
    script.write_text(BOTH)
    play_both(script, [name], played)


#: The examples that ask. Stacking frames takes its time and asks nothing; a letter leaves the pager, and what is typed
#: after it is for the shell; the desk moves by itself, and is played below.
ASKING = sorted({path.name for path in EXAMPLES.glob("[!a]*.py")} - {"nightstack.py", "nightlog.py", "skydesk.py"})


def random_bursts(about: str) -> list[list[str]]:
    """Return eight bursts of keys, the same for the same words."""
    chance = random.Random(about)
    texts = ["HOLLIN-051", "lan", "4x5", "12", "90s", "2031-04-17", "y", "1 + 2", "queue"]
    keys = [*(key for key in BYTES if key != "enter"), *texts]
    # What is typed after Enter, before the next question is there, is echoed by a terminal.
    ends = [["enter"], ["enter"], []]
    return [[*chance.choices(keys, k=chance.randint(0, 3)), *chance.choice(ends)] for _ in range(8)]


@pytest.mark.parametrize("name", ASKING)
@pytest.mark.parametrize("seed", range(2))
def test_so_do_random_keys_in_every_example(name: str, seed: int) -> None:
    play_both(EXAMPLES / name, [], random_bursts(f"{name} {seed}"))


@pytest.mark.parametrize("seed", range(6))
def test_so_do_random_keys_at_the_desk_when_no_wind_blows(seed: int, tmp_path: Path) -> None:
    script = tmp_path / "desk.py"
    script.write_text(f"import runpy\nrunpy.run_path({str(EXAMPLES / 'skydesk.py')!r})['desk'].run()\n")
    play_both(script, [], random_bursts(f"desk {seed}"))


def test_what_was_said_before_the_screen_is_emptied_goes_with_it_however_the_keys_come() -> None:
    with Terminal(python(str(EXAMPLES / "calculator.py")), rows=30) as terminal:
        terminal.see("calc")
        for keys in (["\x15\x0c"], ["\x15", "\x0c"]):  # in one piece, and one by one
            terminal.type("1 2\r")
            terminal.see("an operator is missing")
            for key in keys:
                terminal.type(key)
                terminal.quiet()
            terminal.wait(lambda: "operator" not in terminal.text() and "calc" in terminal.text(), "an empty screen")
            assert len([row for row in terminal.lines() if row]) == 2


def test_questions_in_threads_are_asked_on_the_screen_of_the_session() -> None:
    answers: list[int] = []

    def program() -> None:
        threads = [Thread(target=lambda: answers.append(fill([], value=slot(int)).value)) for _ in range(3)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()

    with Session(program) as session:
        for number in "576":
            session.type(number).press("enter")
        assert session.status == 0
    assert sorted(answers) == [5, 6, 7]


def test_what_comes_through_a_pipe_and_what_is_typed() -> None:
    def total() -> None:
        print(sum(fill(numbers=slot(int, many=True, piped=True)).numbers))

    with Session(total, stdin="1\n2\n") as session:
        assert session.screen == "3"
    with Session(lambda: print(input("more: ").upper())) as session:
        session.type("ab").press("enter")
        assert session.screen == "more: ab\nAB"
    with Session(lambda: print(input())) as session, pytest.raises(ValueError, match="write press"):
        session.type("a\n")
