"""The terminal of POSIX systems: opened by its own name, so that standard input and output may lead elsewhere."""

from __future__ import annotations

import os
import select
import sys
import termios
import time
from _thread import get_ident
from fcntl import ioctl

from wesperon.system.descriptors import Descriptors
from wesperon.system.signals import raise_if_own, signals
from wesperon.terminal.seat.turn import adopt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Collection
    from typing import Any

#: The name of the controlling terminal (POSIX, Base Definitions, 10.1).
PATH = "/dev/tty"
#: How it is opened to write, and once more to read: what was there to read may be thrown away at the last moment, as an
#: interrupt from the keyboard does, and a read that waits for more would sleep through it.
FLAGS = os.O_RDWR | os.O_NOCTTY | os.O_CLOEXEC
READ_FLAGS = os.O_RDONLY | os.O_NOCTTY | os.O_CLOEXEC | os.O_NONBLOCK
#: The most bytes read at a time.
CHUNK = 1 << 16
#: The most bytes that Linux takes in a line; what it says of itself is the least that POSIX asks for.
LINUX_CANON = 4_095
#: What is written to the bell to wake who waits; all else there is the number of a signal.
WOKEN = b"\0"
#: Bytes that a terminal takes at once if it takes any.
PIECE = 64
#: How often the modes are set again if a signal comes in between.
TRIES = 100
#: The value of a control character that no key sends (POSIX, ``_POSIX_VDISABLE``); it is the same on all systems here.
DISABLED = b"\0" if sys.platform != "darwin" else b"\xff"
#: The bytes of keys that may end a question, and what is around a paste.
ENDS, PASTE_START, PASTE_END = (b"\r", b"\n", b"\x03", b"\x04"), b"\x1b[200~", b"\x1b[201~"
#: What the two line ends become on the way: the terminal exchanges them while keys are read, and so does ``read``.
SWAPPED = bytes.maketrans(b"\r\n", b"\n\r")
#: So much of a paste is read byte by byte, and then what is there at once, if it is so much that more is to come.
CAREFUL, FULL = 1 << 15, 4_000


def reach(kind: Callable[..., PosixPort] | None = None) -> PosixPort | None:
    """Return the controlling terminal, else that of standard input and an output.

    Return ``None`` if there is none, or nobody at it.

    ``kind`` makes the port of its descriptors; ``None`` for a terminal of UTF-8.
    A process in the background has no right to ask: with job control it would be stopped for it, and without, which
    shells show by ignoring the signals of the keyboard (POSIX, Shell Command Language, 2.11), nobody would expect it.
    """
    if sys.modules["wesperon"].asked_by:  # a shell wants to know which words may come next: the terminal is its own
        return None
    if signals.getsignal(signals.SIGINT) == signals.SIG_IGN and signals.getsignal(signals.SIGQUIT) == signals.SIG_IGN:
        return None
    is_adopted = False
    held = Descriptors()
    try:
        path = PATH
        handle = held.open(path, FLAGS)
    except OSError as error:
        raise_if_own(error)
        path = adopt()
        if not path:
            return None
        is_adopted = True
        try:
            handle = held.open(path, FLAGS)
        except OSError as gone:  # adopted, and gone since then
            raise_if_own(gone)
            return None
    try:
        termios.tcgetattr(handle)
        in_front = is_adopted or os.tcgetpgrp(handle) == os.getpgrp()
    except (OSError, termios.error) as error:
        raise_if_own(error)
        in_front = False
    if not in_front:
        held.close()
        return None
    try:
        reads = held.open(path, READ_FLAGS)
    except OSError as error:
        raise_if_own(error)
        reads = handle
    return (kind or PosixPort)(handle, is_own=True, reads=reads, held=held)


class PosixPort:
    """A terminal by its file descriptor; see ``ports.base.Port``.

    ``is_own`` says whether it is the controlling terminal of the process; of any other terminal a process may serve
    several. ``reads`` is another descriptor to read from, which never waits. ``held`` holds both, if something does.
    """

    def __init__(self, handle: int, *, is_own: bool = False, reads: int = -1, held: Descriptors | None = None) -> None:
        self._held = Descriptors() if held is None else held
        if held is None:
            self._held.add(*{handle, reads} - {-1})
        self.handle = handle
        self.reads = handle if reads < 0 else reads
        self.is_own = is_own
        read_end, self.bell = self._held.pipe()
        self.handles: tuple[int, ...] = (self.reads, read_end)
        self._thread = get_ident()
        self._keys, self._both = _watching(self.reads), _watching(self.reads, read_end)
        self.is_resized = False
        #: Called with the numbers of signals that arrive at the bell, if somebody wants to know them.
        self.heard: Callable[[bytes], object] | None = None
        self._modes: list[Any] = []
        self._swaps = False
        self._pasted = 0

    def size(self) -> tuple[int, int]:
        """Return the columns and rows; 0 if the terminal says none."""
        try:
            return os.get_terminal_size(self.handle)
        except OSError:  # the terminal is gone: its size is unknown
            return 0, 0

    @property
    def longest_line(self) -> int:
        """The most bytes that the terminal takes in one line, its end not counted (POSIX, MAX_CANON)."""
        try:
            return LINUX_CANON if sys.platform == "linux" else os.fpathconf(self.handle, "PC_MAX_CANON") - 1
        except (OSError, ValueError):  # the terminal does not say: what Linux has is a size that all know
            return LINUX_CANON

    def keep(self) -> None:
        """Remember the modes as they are, for ``give_back``; raises OSError if the terminal is gone."""
        self._modes = _attributes(self.handle)

    def hide(self) -> None:
        """Turn the echo of what is typed off, until ``give_back``; raises OSError if the terminal is gone."""
        modes = _attributes(self.handle)
        modes[3] &= ~termios.ECHO
        _set_attributes(self.handle, termios.TCSADRAIN, modes)

    def take(self) -> None:
        """Set modes in which every key arrives at once and as it is (POSIX, Base Definitions, 11.2)."""
        self.keep()
        self.retake()

    def is_taken(self) -> bool:
        """Return True if keys arrive one by one, set by this process or another."""
        try:
            return not termios.tcgetattr(self.handle)[3] & termios.ICANON
        except termios.error:
            return False

    def retake(self) -> None:
        """Set these modes again, after others have changed them; those that ``give_back`` sets stay."""
        if not self._modes:  # a signal came before anything was taken
            return
        _set_attributes(self.handle, termios.TCSADRAIN, self._modes_of_keys())
        self._swaps = True

    def _modes_of_keys(self, *, interrupts: bool = False) -> list[Any]:
        modes = [*self._modes[:6], list(self._modes[6])]
        modes[0] &= ~(termios.BRKINT | termios.IGNCR | termios.ISTRIP | termios.IXON)
        # Enter arrives as a newline, as in a terminal that nobody has set: what is typed ahead, and read by somebody
        # else later, has the end of its line.
        modes[0] |= termios.ICRNL | termios.INLCR
        modes[3] &= ~(termios.ECHO | termios.ICANON | termios.IEXTEN | termios.ISIG)
        modes[6][termios.VMIN], modes[6][termios.VTIME] = 1, 0
        if interrupts:
            modes[3] |= termios.ISIG | termios.NOFLSH  # else the key would throw away what was drawn and not shown yet
            for name in (termios.VQUIT, termios.VSUSP):
                modes[6][name] = DISABLED
        return modes

    def begin_interrupt_key(self) -> None:
        """Let Ctrl-C send SIGINT, while nobody reads keys; the other keys with a signal stay keys."""
        self._set_quietly(interrupts=True)

    def end_interrupt_key(self) -> None:
        """Make Ctrl-C a key again."""
        self._set_quietly(interrupts=False)

    def _set_quietly(self, *, interrupts: bool) -> None:
        if self._modes:
            try:
                _set_attributes(self.handle, termios.TCSANOW, self._modes_of_keys(interrupts=interrupts))
            except OSError:
                pass  # the terminal is gone, as the next key will tell

    def give_back(self, *, at_once: bool = False) -> None:
        """Set the modes that ``take`` found; raises OSError if the terminal is gone.

        ``at_once``: even if nobody reads what was written.
        """
        if not self._modes:
            return
        self._swaps = False
        when = termios.TCSANOW if at_once else termios.TCSADRAIN
        for left in (2, 1, 0):  # what would remain as it is if a single call failed is the user's terminal
            try:
                _set_attributes(self.handle, when, self._modes)
                return
            except OSError:
                if not left:
                    raise

    def wait(self, seconds: float | None) -> tuple[bool, bool]:
        """Wait for keys or for ``wake``. Return whether each has come."""
        ready = self._both(seconds)
        woken = self.handles[1] in ready
        if woken:
            try:
                data = os.read(self.handles[1], CHUNK)
            except BlockingIOError:
                data = b""
            if self.heard is not None and (numbers := data.replace(WOKEN, b"")):
                self.heard(numbers)
        return self.reads in ready, woken

    def has_keys(self) -> bool:
        """Return True if there is something to read; ``wake`` is left for ``wait``."""
        try:
            return bool(select.select([self.reads], [], [], 0)[0])
        except (OSError, ValueError):  # the terminal is gone: to read it says so
            return False

    def read(self) -> bytes:
        """Return the bytes of the keys that are there; raises OSError if the terminal is gone."""
        try:
            data = os.read(self.reads, CHUNK)
        except BlockingIOError:
            return b""
        if not data:
            raise OSError("the terminal is gone")
        return data.translate(SWAPPED) if self._swaps else data

    def read_paste(self) -> bytes:
        """Return the bytes of a paste that are there, up to its end; raises OSError if the terminal is gone.

        What was typed after it stays in the terminal, so it is read byte by byte; of a very large one only the end is.
        """
        count = int.from_bytes(ioctl(self.reads, termios.FIONREAD, bytes(4)), sys.byteorder)
        if not count or (self._pasted > CAREFUL and count >= FULL):
            data = PosixPort.read(self)
            self._pasted = 0 if PASTE_END in data else self._pasted + len(data)
            return data
        found = bytearray()
        while len(found) < count:
            found += os.read(self.reads, 1)
            if found.endswith(b"~") and found.endswith(PASTE_END):
                self._pasted = 0
                break
        else:
            self._pasted += count
        return bytes(found).translate(SWAPPED) if self._swaps else bytes(found)

    def read_keys(self) -> bytes:
        """Return the bytes that are there up to a key that may end a question; raises OSError if the terminal is gone.

        What was typed ahead, after that key, stays in the terminal: for the next question, for the program's own
        ``input``, or for the shell.
        """
        data = bytearray()
        while len(data) < CHUNK:
            try:
                byte = os.read(self.reads, 1)
            except BlockingIOError:
                break
            except OSError:
                byte = b""
            if not byte:
                if not data:
                    raise OSError("the terminal is gone")
                break
            data += byte
            if byte in ENDS or not self._keys(0) or data.endswith(PASTE_START):
                break
        return bytes(data).translate(SWAPPED) if self._swaps else bytes(data)

    def write(self, data: bytes) -> None:
        """Write all of this; raises OSError if the terminal is gone."""
        while data:
            try:
                data = data[os.write(self.handle, data) :]
            except BlockingIOError:
                select.select([], [self.handle], [])

    def write_at_once(self, data: bytes, seconds: float) -> None:
        """Write what the terminal takes within some seconds; raises OSError if it is gone."""
        end = time.monotonic() + seconds
        while data and (left := end - time.monotonic()) > 0 and select.select([], [self.handle], [], left)[1]:
            data = data[os.write(self.handle, data[:PIECE]) :]

    def wake(self) -> None:
        """Wake ``wait``, which returns."""
        try:
            os.write(self.bell, WOKEN)
        except (BlockingIOError, OSError):
            pass  # the pipe is full of the same news, or closed

    def nudge(self) -> None:
        """End a call of the system in which the thread of the terminal sleeps through a signal; from another thread."""
        try:
            rings = bool(self.handles) and bool(select.select([self.handles[1]], [], [], 0)[0])
        except (OSError, ValueError, IndexError):  # it is closed at this very moment: nobody sleeps
            return
        if self.is_own and rings and hasattr(signals, "pthread_kill"):
            signals.pthread_kill(self._thread, signals.SIGWINCH)

    def close(self) -> None:
        """Close the terminal."""
        self.handles = ()
        self._held.close()


def _attributes(handle: int) -> list[Any]:
    """Return the modes of a terminal; raises OSError if it is gone."""
    try:
        return termios.tcgetattr(handle)
    except termios.error as error:
        raise OSError(*error.args) from None


def _set_attributes(handle: int, when: int, modes: list[Any]) -> None:
    """Set the modes of a terminal; raises OSError if it is gone.

    Waiting until all output is written is cut short by any signal that is handled, and ``termios`` does not wait on by
    itself as :mod:`os` does: to take that for a terminal that is gone would leave it as it is.
    """
    for left in range(TRIES, -1, -1):
        try:
            termios.tcsetattr(handle, when, modes)
            return
        except termios.error as error:
            failed = OSError(*error.args)
            if not left or not isinstance(failed, InterruptedError | BlockingIOError):
                raise failed from None


def _watching(*handles: int) -> Callable[[float | None], Collection[int]]:
    """Return a function that waits for a number of seconds, and returns those of the handles that can be read then.

    It is ``poll`` where that knows terminals: it is quicker than ``select``, and takes handles of any number.
    """
    # poll of macOS does not know terminals: it says POLLNVAL of each.
    if sys.platform == "darwin" or not hasattr(select, "poll"):
        return lambda seconds: select.select(handles, (), (), seconds)[0]
    poll = select.poll()
    for handle in handles:
        poll.register(handle, select.POLLIN)
    # Rounded up to a millisecond: rounded down, the last moment before a time would be a loop that waits for nothing.
    return lambda seconds: dict(poll.poll(None if seconds is None else -int(-seconds * 1_000 // 1)))
