"""Runs a program in a pseudo-terminal, types into it, and reads its screen back through an independent emulator.

Nothing here waits for a fixed time: every wait is for a condition of the screen or of the process, and fails with the
screen as it is when a generous deadline passes.
"""

from __future__ import annotations

import fcntl
import os
import select
import signal
import struct
import sys
import tempfile
import termios
import time
from collections.abc import Callable, Mapping, Sequence
from pathlib import Path
from types import TracebackType
from typing import Self

import ptyprocess
import pyte

ROOT = Path(__file__).parent.parent
EXAMPLES = ROOT / "examples"
DEADLINE = 20.0
#: Bytes that a pseudo-terminal takes at once while it takes any.
PIECE = 64

#: Folders of the user's own that no test shares with anybody.
_home = tempfile.TemporaryDirectory(prefix="wesperon-")
HOMES = {"XDG_CONFIG_HOME": f"{_home.name}/config", "XDG_STATE_HOME": f"{_home.name}/state"}


def _state() -> dict[str, str]:
    """Return a state folder that no other run has left anything in."""
    return {"XDG_STATE_HOME": tempfile.mkdtemp(dir=_home.name)}


UP, DOWN, RIGHT, LEFT = "\x1b[A", "\x1b[B", "\x1b[C", "\x1b[D"
ENTER, CTRL_C, CTRL_D, BACKSPACE = "\r", "\x03", "\x04", "\x7f"


class TwoScreens(pyte.HistoryScreen):
    """The emulator with the alternate screen, which it does not have itself: the main one comes back as it was.

    As on real terminals, one place of the cursor is kept, and whoever leaves the alternate screen goes there, also if
    it was left already.
    """

    ALTERNATE = 1049
    main: tuple[object, ...] | None = None
    kept_cursor: tuple[int, int] = (0, 0)

    def resize(self, lines: int | None = None, columns: int | None = None) -> None:
        """Have another size; the emulator itself keeps a place of the cursor meanwhile."""
        kept = self.kept_cursor
        super().resize(lines, columns)
        self.kept_cursor = kept

    def save_cursor(self) -> None:
        """Keep the place of the cursor."""
        self.kept_cursor = (self.cursor.x, self.cursor.y)

    def set_mode(self, *modes: int, **kwargs: bool) -> None:
        """Switch to an empty screen, beside what else the modes do."""
        if self.ALTERNATE in modes and kwargs.get("private") and self.main is None:
            self.save_cursor()
            self.main = (dict(self.buffer), self.cursor, self.margins, self.history)
            self.buffer.clear()
            self.cursor = pyte.screens.Cursor(self.cursor.x, self.cursor.y, self.cursor.attrs)
        super().set_mode(*modes, **kwargs)

    def reset_mode(self, *modes: int, **kwargs: bool) -> None:
        """Switch back."""
        super().reset_mode(*modes, **kwargs)
        if self.ALTERNATE in modes and kwargs.get("private"):
            if self.main is not None:
                kept, self.cursor, self.margins, self.history = self.main  # type: ignore[assignment]
                self.main = None
                self.buffer.clear()
                self.buffer.update(kept)  # type: ignore[call-overload]
                self.dirty.update(range(self.lines))
            self.cursor.x, self.cursor.y = self.kept_cursor


class Terminal:
    """A program in a pseudo-terminal of a given size."""

    def __init__(
        self,
        argv: Sequence[str],
        *,
        columns: int = 80,
        rows: int = 24,
        env: Mapping[str, str] | None = None,
        history: int = 200,
    ) -> None:
        # The emulator cuts rows that become too long, as the terminal does that sets this variable.
        kept = {
            name: value
            for name, value in os.environ.items()
            if name not in ("TMUX", "STY", "NO_COLOR", "COLUMNS", "LINES")
        }
        terminal = {
            "TERM": "xterm-256color",
            "XTERM_VERSION": "XTerm(390)",
            "PYTHONPATH": str(ROOT),
            **HOMES,
            **_state(),
        }
        environment = {**kept, **terminal, **(env or {})}
        self.process = ptyprocess.PtyProcess.spawn(
            list(argv), dimensions=(rows, columns), env=environment, preexec_fn=_plain_signals
        )
        self.screen = TwoScreens(columns, rows, history=history, ratio=0.5)
        self.screen.write_process_input = self._answer  # type: ignore[method-assign]
        self.stream = pyte.ByteStream(self.screen)
        self.initial = _fresh_modes()
        self.received = b""
        self.is_closed = False

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        if self.process.isalive():
            self.process.kill(signal.SIGKILL)
        self.process.wait()
        self.process.fileobj.close()

    def _answer(self, data: str) -> None:
        """Send what the terminal itself answers to the program."""
        if self.process.isalive():
            self.process.write(data.encode())

    def lines(self) -> list[str]:
        """Return the rows of the screen, without blanks at their ends."""
        return [line.rstrip() for line in self.screen.display]

    def text(self) -> str:
        """Return the screen without the empty rows at its end."""
        return "\n".join(self.lines()).rstrip()

    def everything(self) -> str:
        """Return what has scrolled off the top, and the screen."""
        above = ["".join(row[at].data for at in range(self.screen.columns)).rstrip() for row in self.screen.history.top]
        return "\n".join([*above, self.text()])

    def read(self, seconds: float) -> bool:
        """Take in what the program sent; whether anything came in that time."""
        if self.is_closed:
            return False
        ready, _, _ = select.select([self.process.fd], [], [], seconds)
        if not ready:
            return False
        try:
            data = os.read(self.process.fd, 1 << 16)
        except OSError:
            data = b""
        if not data:
            self.is_closed = True
            return False
        self.received += data
        self.stream.feed(data)
        return True

    def wait(self, condition: Callable[[], bool], what: str = "the condition") -> None:
        """Read until the condition holds."""
        end = time.monotonic() + DEADLINE
        while not condition():
            if not self.read(0.05) and self.is_closed and not condition():
                raise AssertionError(f"the program ended before {what} held; its screen:\n{self.everything()}")
            if time.monotonic() > end:
                raise AssertionError(f"{what} did not hold in {DEADLINE} s; the screen:\n{self.everything()}")

    def see(self, text: str) -> None:
        """Read until the screen shows a text."""
        self.wait(lambda: text in self.text(), repr(text))

    def quiet(self) -> None:
        """Read until the program waits for input: its terminal is in raw mode, and it sends nothing more."""
        self.wait(lambda: self.is_raw() and not self.read(0.1), "waiting for a key")

    def type(self, text: str) -> None:
        """Type a text, or the bytes of keys."""
        self.send(text.encode())

    def send(self, data: bytes) -> None:
        """Send bytes, and take in what the program sends meanwhile: a program that cannot write does not read."""
        end = time.monotonic() + DEADLINE
        while data and not self.is_closed:
            assert time.monotonic() < end, f"the program reads nothing; its screen:\n{self.everything()}"
            self.read(0)
            if select.select([], [self.process.fd], [], 0.05)[1]:
                data = data[os.write(self.process.fd, data[:PIECE]) :]

    def answer(self, label: str, text: str) -> None:
        """Wait for a question, type a text, and press Enter."""
        self.see(label)
        self.quiet()
        self.type(text + ENTER)

    def resize(self, columns: int, rows: int) -> None:
        """Give the terminal another size; the program gets SIGWINCH."""
        while self.read(0):
            pass
        self.screen.resize(rows, columns)
        fcntl.ioctl(self.process.fd, termios.TIOCSWINSZ, struct.pack("HHHH", rows, columns, 0, 0))

    def modes(self) -> list[object]:
        """Return the terminal's modes."""
        return list(termios.tcgetattr(self.process.fd))

    def is_raw(self) -> bool:
        """Return True if keys come one by one, unechoed."""
        flags = termios.tcgetattr(self.process.fd)[3]
        return not flags & (termios.ICANON | termios.ECHO)

    def is_echoing(self) -> bool:
        """Return True if the terminal shows what is typed."""
        return bool(termios.tcgetattr(self.process.fd)[3] & termios.ECHO)

    def end(self) -> int:
        """Wait for the end of the program: its exit status, or minus the signal that ended it."""
        end = time.monotonic() + DEADLINE
        while not self.is_closed and time.monotonic() < end:
            self.read(0.05)
            if not self.process.isalive():
                while self.read(0.05):
                    pass
                break
        assert time.monotonic() < end, f"the program did not end; its screen:\n{self.everything()}"
        self.process.wait()
        return -self.process.signalstatus if self.process.signalstatus else int(self.process.exitstatus)


def _fresh_modes() -> list[object]:
    """Return the modes of a new pseudo-terminal, before any program has seen it."""
    master, slave = os.openpty()
    try:
        return list(termios.tcgetattr(slave))
    finally:
        os.close(master)
        os.close(slave)


def _plain_signals() -> None:
    """Let the program start with every signal as a shell in front would leave it, whatever the tests run under."""
    for number in (signal.SIGINT, signal.SIGQUIT, signal.SIGHUP, signal.SIGTERM, signal.SIGTSTP):
        signal.signal(number, signal.SIG_DFL)


def python(*argv: str) -> list[str]:
    """Return the command that runs this interpreter with these arguments."""
    return [sys.executable, *argv]


def example(name: str, *words: str) -> list[str]:
    """Return the command that runs an example."""
    return python(str(EXAMPLES / name), *words)
