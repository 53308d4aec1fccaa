"""Long work as the testing kit shows it, and on terminals that are not the process's own.

Modules: ``testing.session_driver``, ``long_work.rows``, ``terminal.device``.
"""

from __future__ import annotations

import dataclasses
import fcntl
import os
import pty
import select
import struct
import termios
import threading
import time

import pyte

from tests.long_work.clock import Clock
from wesperon import Command, Console, Program, ask, progress, working
from wesperon.terminal.ports import posix
from wesperon.terminal.tty_driver import TtyDriver
from wesperon.testing import Session


def test_a_test_says_what_time_it_is_and_sees_each_row() -> None:
    clock = Clock()

    def stack() -> None:
        frames = progress(range(8), "Stacking", unit="frames")
        for frame in frames:
            clock.pass_by(1)
            if frame == 5:
                frames.say("the moon rises")
        print("stacked")

    with Session(stack, clock=clock, columns=60) as session:
        assert session.status == 0
        assert session.screen.splitlines() == ["the moon rises", "Stacking: done, 8 frames in 8.0s", "stacked"]
        shares = [row.split("%")[0].split()[-1] for row in session.work]
        assert shares == ["12", "25", "37", "50", "62", "75", "87", "100"]
        assert session.work[0].split()[2:] == ["1", "of", "8", "frames", "1s", "so", "far"]
        assert session.work[-2].endswith("1s left")


def test_work_of_less_than_a_second_leaves_nothing_on_a_screen() -> None:
    clock = Clock()

    def stack() -> None:
        for _ in progress(range(9), "Stacking"):
            clock.pass_by(0.1)

    with Session(stack, clock=clock) as session:
        assert (session.screen, session.work) == ("", [])


def test_a_question_of_a_program_takes_the_rows_away() -> None:
    clock = Clock()

    def stack() -> None:
        with working("Stacking", total=4) as work:
            clock.pass_by(2)
            work.add(1)
            print("filter:", ask("Which filter?"))
            work.add(1)
            print("next:", ask("And then?"))

    with Session(stack, clock=clock) as session:
        assert "Which filter?" in session.screen
        assert "Stacking" not in session.screen
        session.type("Red").press("enter")
        assert "And then?" in session.screen
        assert "Stacking" not in session.screen
        assert [row.split("%")[0].split()[-1] for row in session.work] == ["25", "50"]
        session.type("Green").press("enter")
        assert session.screen.splitlines()[-1].startswith("Stacking: done, 2 of 4 in 2")


class Cool(Command):
    """Cool the camera."""

    background = True

    def run(self) -> str:
        """Take three seconds."""
        for degree in progress(range(30), "Cooling"):
            time.sleep(0.1)
            if degree == 20:
                print("cold")
        return "ready"


def test_a_job_of_a_console_has_its_row_above_the_line() -> None:
    console = Console(Program("desk", members=[Cool]), background=2, history=False)
    with Session(console, columns=60) as session:
        session.type("cool &").press("enter")
        session.see("[1] Cooling")
        session.type("hel")
        *_, row, line, foot = session.screen.splitlines()
        assert row.startswith("[1] Cooling")
        assert line.split()[:2] == ["desk", "hel"]
        assert "Enter: run" in foot
        session.see("[1] ready")
        assert [line for line in session.screen.splitlines() if "%" in line] == []
        assert "[1] cold" in session.screen
        assert "[1] Cooling: done, 30 in " in session.screen
        session.press("ctrl-c").press("ctrl-d")
        assert session.status == 0


def test_a_console_on_a_terminal_of_its_own_has_them_there() -> None:
    """At its foot while a command runs, above the line while one is open; nothing of it goes to the process's own."""
    ours, its = pty.openpty()
    fcntl.ioctl(its, termios.TIOCSWINSZ, struct.pack("HHHH", 24, 70, 0, 0))
    screen = pyte.Screen(70, 24)
    stream = pyte.ByteStream(screen)

    def see(text: str, *, typed: bytes = b"") -> list[str]:
        os.write(ours, typed)
        end = time.monotonic() + 20
        while text not in "\n".join(screen.display):
            assert time.monotonic() < end, screen.display
            if select.select([ours], [], [], 0.05)[0]:
                stream.feed(os.read(ours, 1 << 16))
        return [row.rstrip() for row in screen.display if row.strip()]

    @dataclasses.dataclass
    class Ended:
        status: int | None = None

    ended = Ended()

    def stack() -> None:
        """Stack frames."""
        for frame in progress(range(25), "Stacking"):
            time.sleep(0.1)
            if frame == 15:
                print("the moon rises")

    def run() -> None:
        driver = TtyDriver(posix.PosixPort(os.dup(its)))
        console = Console(Program("desk", members=[Cool, stack]), background=2, history=False, driver=driver)
        ended.status = console.run()

    thread = threading.Thread(target=run, daemon=True)
    thread.start()
    see("Ctrl-D: leave")
    *_, row, line, _ = see("[1] Cooling", typed=b"cool &\r")
    assert row.startswith("[1] Cooling")
    assert line.split()[0] == "desk"
    *_, said, row = see("the moon rises", typed=b"stack\r")
    assert row.startswith("Stacking") or said.startswith("[1]") or row == "the moon rises"
    rows = see("Stacking: done, 25 in ")
    assert [row for row in rows if "%" in row] == []
    see("[1] ready")
    see("Ctrl-D: leave")  # the line is open: an end of input that is typed before is the terminal's
    os.write(ours, b"\x04")
    thread.join(20)
    assert ended.status == 0
    os.close(its)
    os.close(ours)
