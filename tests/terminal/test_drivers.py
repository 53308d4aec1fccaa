"""Drivers: event loops, messages above the line, the editor outside, the mouse, systems other than this one.

Modules: ``terminal.driver``, ``terminal.device``, ``terminal.live_screen``, ``terminal.asyncio_driver``,
``terminal.ports.windows``.
"""

from __future__ import annotations

import asyncio
import ctypes
import os
import signal
import sys
import termios
from pathlib import Path
from typing import Any

import pyte
import pytest

from campaign.modes import left_set
from tests.harness import BACKSPACE, CTRL_C, CTRL_D, ENTER, LEFT, UP, Terminal, example, python
from wesperon import Form, one_of, slot
from wesperon.editing.keys.events import Closed
from wesperon.terminal.ports import windows
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.tty_driver import TtyDriver
from wesperon.testing import Press, Scripted
from wesperon.widgets.line import Line
from wesperon.widgets.menu import Menu
from wesperon.widgets.question import Question
from wesperon.widgets.widget import Answered, Ended, Interrupted, Prompt

LOOP = """
import asyncio, sys
from wesperon import Form, Console, Command, Program, slot
class Plan(Form):
    frames = slot(int, "Frames")
    note = slot(ask="Note", lines=True)
class Wait(Command):
    async def run(self):
        await asyncio.sleep(0)
        return f"waited, {len(ticks)} ticks"
ticks = []
async def tick():
    while True:
        await asyncio.sleep(0.005)
        ticks.append(1)
        if len(ticks) == 5 and "say" in sys.argv:
            console.say("the mast reports wind")
async def main():
    ticking = asyncio.create_task(tick())
    if "both" in sys.argv:
        class Target(Form):
            target = slot(ask="Target")
            async def ask(self):
                return (await Other.fill_async([])).other
        class Other(Form):
            other = slot(ask="Other")
        first, second = await asyncio.gather(Target.fill_async([]), Other.fill_async([]))
        print(first.target, second.other, await first.ask())
    elif "cancel" in sys.argv:
        asking = asyncio.create_task(Plan.fill_async([]))
        while len(ticks) < 20:
            await asyncio.sleep(0.005)
        asking.cancel()
        try:
            await asking
        except asyncio.CancelledError:
            print("cancelled")
    elif "console" in sys.argv:
        print(await console.run_async(), len(ticks) > 3)
    else:
        plan = await Plan.fill_async([], timeout=float(sys.argv[1]) if sys.argv[1:] else None)
        print(plan.frames, plan.note.split("\\n"), len(ticks) > 3)
console = Console(Program("desk", members=[Wait]))
asyncio.run(main())
"""


def test_a_question_is_awaited_while_other_tasks_go_on() -> None:
    with Terminal(python("-c", LOOP)) as terminal:
        modes = terminal.initial
        terminal.answer("Frames", "4x")
        terminal.see("not a whole number")
        terminal.type("\x1b[3~" + BACKSPACE + "2" + ENTER)
        terminal.see("Note")
        terminal.type("one\rtwo\x1b\r")
        terminal.see("2 ['one', 'two'] True")
        assert terminal.end() == 0
        assert terminal.modes() == modes


def test_tasks_that_ask_at_once_take_turns() -> None:
    with Terminal(python("-c", LOOP, "both")) as terminal:
        modes = terminal.initial
        terminal.answer("Target", "Lantern")
        terminal.answer("Other", "one")
        terminal.wait(lambda: terminal.text().count("Other") == 2)
        terminal.quiet()
        terminal.type("two" + ENTER)
        terminal.see("Lantern one two")
        assert terminal.end() == 0
        assert terminal.modes() == modes


def test_a_paste_whose_end_is_lost_can_be_broken_off() -> None:
    with Terminal(example("nightplan.py", "x")) as terminal:
        terminal.see("Frames")
        terminal.quiet()
        terminal.type("\x1b[200~12\x03")
        terminal.wait(lambda: not terminal.read(1.2))
        assert terminal.process.isalive()
        terminal.type(CTRL_C)
        assert terminal.end() == -signal.SIGINT
        assert "Frames  12^C" in terminal.text()


def test_a_task_that_is_cancelled_gives_the_terminal_back() -> None:
    with Terminal(python("-c", LOOP, "cancel")) as terminal:
        modes = terminal.initial
        terminal.see("cancelled")
        assert terminal.end() == 0
        assert terminal.modes() == modes
        assert "Frames" in terminal.text()


CANCELLED = """
import asyncio
from datetime import date
from pathlib import Path
from wesperon import *
KINDS = [slot(str), slot(int), slot(bool), slot(one_of(["ab", "ba"])), slot(any_of(["ab", "ba"])),
         slot(str, many=True, least=1), slot(str, lines=True), slot(dict[str, int], least=1),
         slot(str, secret=True), slot(Path), slot(date)]
async def main():
    for kind in KINDS:
        class Plan(Form):
            note = slot(str, "Note", default="dry")
            value = kind
        for call in (Plan.fill_async([]), ask_async("Note"), confirm_async("Sure?"), choose_async("Which", ["ab"])):
            asking = asyncio.create_task(call)
            await asyncio.sleep(0.05)
            asking.cancel()
            await asyncio.wait([asking])
            assert asking.cancelled()
    print("cancelled all")
asyncio.run(main())
"""


@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_a_question_whose_task_is_cancelled_leaves_its_record_and_no_foot(keys: str) -> None:
    with Terminal(python("-c", CANCELLED), env={"WESPERON_KEYS": keys}, rows=30) as terminal:
        terminal.see("cancelled all")
        assert terminal.end() == 0
        assert "Enter:" not in terminal.everything()
        assert "  value\n" in terminal.everything()
        assert left_set(terminal.received) == []


def test_a_timeout_ends_in_an_event_loop_too() -> None:
    with Terminal(python("-c", LOOP, "0.05")) as terminal:
        assert terminal.end() == 2
        assert "is missing" in terminal.text()


def test_a_console_in_an_event_loop_runs_coroutines_and_hears_messages() -> None:
    with Terminal(python("-c", LOOP, "console", "say")) as terminal:
        terminal.see("leave")
        terminal.type("wa")
        terminal.see("the mast reports wind")
        terminal.type("it" + ENTER)
        terminal.see("waited,")
        terminal.quiet()
        terminal.type(CTRL_D)
        terminal.see("0 True")
        assert terminal.end() == 0
        lines = terminal.lines()
        assert lines.index("the mast reports wind") < next(at for at, line in enumerate(lines) if "desk  wait" in line)


TALKING = """
import logging, sys, threading
from wesperon import Command, Console, Program, slot
class Note(Command):
    text = slot()
    def run(self):
        return f"noted {len(self.text)}"
console = Console(Program("desk", members=[Note]), history=False)
logger = logging.getLogger("mast")
logger.addHandler(console.handler())
logger.setLevel(logging.INFO)
def talk(name):
    for number in range(5000):
        logger.info("%s %d wind\\x1b[31m", name, number)
started = threading.Event()
threads = [threading.Thread(target=talk, args=(name,)) for name in "ab"]
threading.Timer(0.2, lambda: [thread.start() for thread in threads]).start()
raise SystemExit(console.run())
"""


def test_messages_of_threads_tear_no_line_and_lose_no_key() -> None:
    typed = "note " + "abcdefghij" * 5
    with Terminal(python("-c", TALKING), rows=30, history=20_000) as terminal:
        terminal.see("leave")
        terminal.see("wind^[[31m")
        for char in typed:
            terminal.type(char)
            terminal.read(0)
        terminal.wait(
            lambda: all(f"{name} 4999 wind".encode() in terminal.received for name in "ab"), "the last message"
        )
        terminal.type(ENTER)
        terminal.see("noted 50")
        shown = terminal.everything().splitlines()
        for name in "ab":
            assert [line for line in shown if line.startswith(name + " ")] == [
                f"{name} {number} wind^[[31m" for number in range(5000)
            ]
        assert f"  desk  {typed}" in shown
        terminal.quiet()
        terminal.type(CTRL_D)
        assert terminal.end() == 0


def editor(folder: Path, body: str) -> str:
    path = folder / "editor"
    path.write_text(f"#!{sys.executable}\nimport sys, termios\npath = sys.argv[-1]\n{body}\n")
    path.chmod(0o755)
    return f"{path} --wait"


EDITED = "from wesperon import fill, slot; print(repr(fill(log=slot(lines=True, syntax='python', ask='Log')).log))"


@pytest.mark.parametrize("keys", ["modeless", "modal"])
def test_the_editor_outside_gets_the_terminal_whole(keys: str, tmp_path: Path) -> None:
    body = (
        "whole = termios.tcgetattr(0)[3] & termios.ICANON\n"
        "text = open(path).read()\n"
        "print('editing', path[-3:], bool(whole))\n"
        "answer = input('more? ')\n"
        "open(path, 'w').write(text.upper() + answer + '\\n')"
    )
    env = {"VISUAL": editor(tmp_path, body), "WESPERON_KEYS": keys, "WESPERON_MOUSE": "1"}
    with Terminal(python("-c", EDITED), env=env) as terminal:
        modes = terminal.initial
        terminal.see("Log")
        terminal.quiet()
        terminal.type("one\rtwo\x18\x05")
        terminal.see("editing .py True")
        terminal.see("more?")
        assert left_set(terminal.received) == []
        terminal.type("three" + ENTER)
        terminal.see("three")
        terminal.wait(terminal.is_raw)
        terminal.see("Log  ONE")
        terminal.quiet()
        terminal.type("!\x1b\r")
        assert terminal.end() == 0
        assert repr("ONE\nTWO\nthree!") in terminal.text()
        assert terminal.modes() == modes


@pytest.mark.parametrize(
    ("visual", "said"), [("sys.exit(3)", "ended with status 3: the text is unchanged"), ("", 'no program "nonesuch"')]
)
def test_an_editor_that_fails_changes_nothing(visual: str, said: str, tmp_path: Path) -> None:
    env = {"VISUAL": editor(tmp_path, visual) if visual else "nonesuch", "TMPDIR": str(tmp_path)}
    with Terminal(python("-c", EDITED), env=env, columns=200) as terminal:
        terminal.see("Log")
        terminal.quiet()
        terminal.type("one\x18\x05")
        terminal.see(said)
        terminal.type("!\x1b\r")
        assert terminal.end() == 0
        assert "'one!'" in terminal.text()
        assert [name for name in os.listdir(tmp_path) if name.startswith("wesperon-")] == []


MOUSE = """
from wesperon import Form, any_of, one_of, slot
class Plan(Form):
    note = slot(ask="Note")
    target = slot(one_of(["Lantern", "Thimble", "Wicker"]), "Target")
    filters = slot(any_of(["Red", "Green", "Blue"]), "Filters")
print("first line")
plan = Plan.fill([], mouse=True)
print(*plan)
"""


def click(terminal: Terminal, text: str) -> None:
    """Click on the place where a text is."""
    terminal.quiet()
    row = next(at for at, line in enumerate(terminal.lines()) if text in line)
    column = terminal.lines()[row].index(text)
    terminal.type(f"\x1b[<0;{column + 1};{row + 1}M\x1b[<0;{column + 1};{row + 1}m")


def test_a_click_moves_the_cursor_and_picks_choices() -> None:
    with Terminal(python("-c", MOUSE)) as terminal:
        terminal.see("Note")
        terminal.quiet()
        terminal.type("light")
        click(terminal, "ght")
        terminal.quiet()
        terminal.type("X" + ENTER)
        terminal.see("Thimble")
        click(terminal, "Wicker")
        terminal.see("Filters")
        for name in ("Blue", "Red"):
            click(terminal, name)
        terminal.quiet()
        terminal.type(ENTER)
        assert terminal.end() == 0
        assert "liXght Wicker ('Red', 'Blue')" in terminal.text()
        assert terminal.received.count(b"\x1b[?1000h") == terminal.received.count(b"\x1b[?1000l") == 1


def test_the_mouse_is_the_terminal_s_own_unless_it_is_wanted() -> None:
    with Terminal(example("nightplan.py", "x")) as terminal:
        terminal.see("Frames")
        terminal.quiet()
        terminal.type("\x1b[<0;1;1M4" + CTRL_C)
        assert terminal.end() == -signal.SIGINT
        assert b"\x1b[?1000h" not in terminal.received


@pytest.mark.parametrize("term", ["", "nonesuch", None])
def test_a_strange_terminal_still_asks(term: str | None) -> None:
    argv = ["env", "-u", "TERM", *example("nightplan.py", "x", "2", "90", "5")] if term is None else example(
        "nightplan.py", "x", "2", "90", "5"
    )  # fmt: skip
    with Terminal(argv, env={} if term is None else {"TERM": term}) as terminal:
        modes = terminal.initial
        terminal.answer("First frame at", "21:30")
        assert terminal.end() == 0
        assert terminal.modes() == modes


@pytest.mark.parametrize(("columns", "rows"), [(0, 0), (1, 1), (2, 1), (10_000, 10_000), (1, 300)])
def test_any_size_of_the_window_will_do(columns: int, rows: int) -> None:
    with Terminal(example("nightplan.py", "x", "2", "90", "5"), columns=80, rows=24) as terminal:
        modes = terminal.initial
        terminal.see("First frame at")
        terminal.quiet()
        termios.tcsetwinsize(terminal.process.fd, (rows, columns))
        terminal.type("21:3" + LEFT + UP)
        terminal.quiet()
        terminal.type("\x1b[F0" + ENTER)
        assert terminal.end() == 0
        assert terminal.modes() == modes


class Kernel:
    """Stands in for kernel32: a console with two modes, a queue of records, and a screen that an emulator shows."""

    def __init__(self, *, knows_sequences: bool = True) -> None:
        self.modes = {11: 0x1F7, 12: 0x3}
        self.records: list[windows.InputRecord] = []
        self.knows_sequences = knows_sequences
        self.bells = 0
        self.closed: list[int] = []
        self.screen = pyte.Screen(80, 24)
        self.stream = pyte.Stream(self.screen)

    def type(self, text: str) -> None:
        data = text.encode("utf-16-le")
        for at in range(0, len(data), 2):
            for down in (True, False):
                record = windows.InputRecord(EventType=windows.KEY_EVENT)
                unit = int.from_bytes(data[at : at + 2], "little")
                record.Event.KeyEvent = windows.KeyRecord(bKeyDown=down, wRepeatCount=1, UnicodeChar=unit)
                self.records.append(record)

    def resize(self) -> None:
        self.records.append(windows.InputRecord(EventType=windows.WINDOW_SIZE_EVENT))

    def CreateFileW(self, name: str, *rest: object) -> int:  # noqa: N802
        return {"CONIN$": 11, "CONOUT$": 12}[name]

    def CreateEventW(self, *rest: object) -> int:  # noqa: N802
        return 13

    def CloseHandle(self, handle: ctypes.c_void_p) -> int:  # noqa: N802
        self.closed.append(handle.value or 0)
        return 1

    def GetConsoleMode(self, handle: ctypes.c_void_p, mode: Any) -> int:  # noqa: N802
        mode._obj.value = self.modes[handle.value or 0]
        return 1

    def SetConsoleMode(self, handle: ctypes.c_void_p, mode: int) -> int:  # noqa: N802
        if mode & windows.VIRTUAL_TERMINAL_PROCESSING and handle.value == 12 and not self.knows_sequences:
            return 0
        self.modes[handle.value or 0] = mode
        return 1

    def GetConsoleScreenBufferInfo(self, handle: ctypes.c_void_p, info: Any) -> int:  # noqa: N802
        info._obj.srWindow = windows.Rect(0, 100, self.screen.columns - 1, 99 + self.screen.lines)
        return 1

    def ReadConsoleInputW(self, handle: ctypes.c_void_p, records: Any, size: int, count: Any) -> int:  # noqa: N802
        taken, self.records = self.records[:size], self.records[size:]
        for at, record in enumerate(taken):
            records[at] = record
        count._obj.value = len(taken)
        return 1

    def WriteConsoleW(self, handle: ctypes.c_void_p, text: Any, units: int, written: Any, rest: None) -> int:  # noqa: N802
        taken = min(units, 1_000)
        self.stream.feed(text.raw[: 2 * taken].decode("utf-16-le", "surrogatepass"))
        written._obj.value = taken
        return 1

    def WaitForMultipleObjects(self, count: int, handles: Any, every: bool, limit: int) -> int:  # noqa: N802
        for at in range(count):
            if (handles[at] == 13 and self.bells) or (handles[at] == 11 and self.records):
                self.bells = 0 if handles[at] == 13 else self.bells
                return at
        return windows.TIMED_OUT

    def SetEvent(self, handle: ctypes.c_void_p) -> int:  # noqa: N802
        self.bells += 1
        return 1


def test_on_windows_a_line_is_edited_and_the_console_given_back() -> None:
    kernel = Kernel()
    port = windows.open_console(kernel)
    assert port is not None
    driver = TtyDriver(port)
    modes = dict(kernel.modes)
    kernel.type("Lanter é日\U0001f52d\x1b[D\x1b[1;5D\x7fn \x1b[Fx\r")
    kernel.resize()
    answer = driver.run(Question(Prompt("Target", 6), Line(str)), DriverOptions({"timeout": 5}))
    assert answer == Answered("Lantern é日\U0001f52dx")
    assert kernel.modes == modes
    assert kernel.screen.display[0].startswith("  Target  Lantern é日")
    driver.close()
    assert sorted(kernel.closed) == [11, 12, 13]


def test_on_windows_ctrl_c_is_a_key_and_a_long_text_is_written_whole() -> None:
    kernel = Kernel()
    port = windows.open_console(kernel)
    assert port is not None
    driver = TtyDriver(port)
    taken = {}
    driver.look_at = lambda frame: taken.update(kernel.modes)  # type: ignore[method-assign]
    kernel.type("x" * 3_000 + "\x03")
    assert driver.run(Question(Prompt("Target", 6), Line(str))) == Interrupted()
    assert taken[11] & windows.VIRTUAL_TERMINAL_INPUT
    assert not taken[11] & (windows.LINE_INPUT | windows.ECHO_INPUT | windows.PROCESSED_INPUT)
    port.wake()
    assert port.wait(0) == (False, True)
    assert (
        driver.run(Question(Prompt("Target", 6), Line(str)), DriverOptions({"timeout": 0})) == Ended()
    )  # nobody answers


def test_a_console_without_control_sequences_is_refused_and_left_as_it_was() -> None:
    kernel = Kernel(knows_sequences=False)
    port = windows.open_console(kernel)
    assert port is not None
    modes = dict(kernel.modes)
    with pytest.raises(OSError, match="Windows 10"):
        TtyDriver(port).run(Question(Prompt("Target", 6), Line(str)))
    assert kernel.modes == modes


def test_a_scripted_driver_answers_in_an_event_loop() -> None:
    class Plan(Form):
        frames = slot(int)

    driver = Scripted(["12", Press("enter")])
    assert asyncio.run(Plan.fill_async([], driver=driver)).frames == 12
    menu = Question(Prompt("Target", 6), Menu(one_of([*"ab"]).choices, str))
    menu.press(Closed())
    assert menu.outcome == Ended()
