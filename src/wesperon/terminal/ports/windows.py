"""The terminal of Windows: a console in the modes in which it reads and writes control sequences, through its own API.

The functions of the system are those of ``kernel32``, under their own names; whatever has the same functions can be
in for it, as the tests do. Keys come as records: with virtual terminal input each of them holds a piece of the sequence
that other terminals would send, in UTF-16. This has been tested against a stand-in only.
"""

from __future__ import annotations

import ctypes
from ctypes import wintypes

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

#: Modes of the input (SetConsoleMode).
PROCESSED_INPUT, LINE_INPUT, ECHO_INPUT, WINDOW_INPUT, QUICK_EDIT, EXTENDED_FLAGS = 1, 2, 4, 8, 0x40, 0x80
VIRTUAL_TERMINAL_INPUT = 0x200
#: Modes of the output.
PROCESSED_OUTPUT, WRAP_AT_EOL, VIRTUAL_TERMINAL_PROCESSING, NO_AUTO_RETURN = 1, 2, 4, 8
#: The arguments of CreateFileW, and what it gives where it cannot.
READ_WRITE, SHARED, OPEN_EXISTING = 0xC0000000, 3, 3
INVALID = ctypes.c_void_p(-1).value
#: Kinds of input records, and the key whose release ends a character typed by its number.
KEY_EVENT, WINDOW_SIZE_EVENT, VK_MENU = 1, 4, 0x12
#: What WaitForMultipleObjects takes and gives.
INFINITE, OBJECT_0, TIMED_OUT = 0xFFFFFFFF, 0, 0x102
#: The most records read, and the most UTF-16 units written, at a time.
RECORDS, UNITS = 512, 8_000


class Coord(ctypes.Structure):
    """COORD."""

    _fields_ = [("X", ctypes.c_short), ("Y", ctypes.c_short)]


class Rect(ctypes.Structure):
    """SMALL_RECT."""

    _fields_ = [(name, ctypes.c_short) for name in ("Left", "Top", "Right", "Bottom")]


class ScreenInfo(ctypes.Structure):
    """CONSOLE_SCREEN_BUFFER_INFO."""

    _fields_ = [
        ("dwSize", Coord),
        ("dwCursorPosition", Coord),
        ("wAttributes", wintypes.WORD),
        ("srWindow", Rect),
        ("dwMaximumWindowSize", Coord),
    ]


class KeyRecord(ctypes.Structure):
    """KEY_EVENT_RECORD, its character as a UTF-16 unit."""

    _fields_ = [
        ("bKeyDown", wintypes.BOOL),
        ("wRepeatCount", wintypes.WORD),
        ("wVirtualKeyCode", wintypes.WORD),
        ("wVirtualScanCode", wintypes.WORD),
        ("UnicodeChar", wintypes.WORD),
        ("dwControlKeyState", wintypes.DWORD),
    ]


class Happened(ctypes.Union):
    """The union in INPUT_RECORD, as far as it is read here."""

    _fields_ = [("KeyEvent", KeyRecord), ("WindowBufferSizeEvent", Coord)]


class InputRecord(ctypes.Structure):
    """INPUT_RECORD."""

    _fields_ = [("EventType", wintypes.WORD), ("Event", Happened)]


def reach() -> WindowsPort | None:
    """Return the console of the process; ``None`` if there is none."""
    kernel = ctypes.WinDLL("kernel32", use_last_error=True)  # type: ignore[attr-defined]
    kernel.CreateFileW.restype = ctypes.c_void_p
    kernel.CreateEventW.restype = ctypes.c_void_p
    return open_console(kernel)


def open_console(kernel: Any) -> WindowsPort | None:
    """Return the console that this system opens; ``None`` if there is none."""
    handles: list[int] = []
    for name in ("CONIN$", "CONOUT$"):
        handle = kernel.CreateFileW(name, READ_WRITE, SHARED, None, OPEN_EXISTING, 0, None)
        if handle is None or handle == INVALID:
            for opened in handles:
                kernel.CloseHandle(ctypes.c_void_p(opened))
            return None
        handles.append(handle)
    return WindowsPort(kernel, *handles)


class WindowsPort:
    """A console by its two handles; see ``port.Port``."""

    handles: tuple[int, ...] = ()
    handle = -1

    def __init__(self, kernel: Any, keys: int, screen: int) -> None:
        self.kernel = kernel
        self.keys = ctypes.c_void_p(keys)
        self.screen = ctypes.c_void_p(screen)
        self._event = ctypes.c_void_p(kernel.CreateEventW(None, False, False, None))
        self.is_resized = False
        self.is_own = True
        #: No descriptor ends a wait here.
        self.bell = -1
        self.heard: Callable[[bytes], object] | None = None
        self._modes: tuple[int, int] | None = None
        self._unit = b""

    def size(self) -> tuple[int, int]:
        """Return the columns and rows of the window; 0 if the console says none."""
        info = ScreenInfo()
        if not self.kernel.GetConsoleScreenBufferInfo(self.screen, ctypes.byref(info)):
            return 0, 0
        window = info.srWindow
        return window.Right - window.Left + 1, window.Bottom - window.Top + 1

    def take(self) -> None:
        """Set the modes of control sequences, both ways; raises OSError if the console has none."""
        self._modes = (self._mode(self.keys), self._mode(self.screen))
        self.retake()

    def is_taken(self) -> bool:
        """Return True if keys arrive one by one; here nobody else sets that for long."""
        return False

    def retake(self) -> None:
        """Set these modes again; those that ``give_back`` sets stay."""
        modes = self._modes
        if modes is None:
            return
        keys = modes[0] & ~(PROCESSED_INPUT | LINE_INPUT | ECHO_INPUT | QUICK_EDIT)
        self._set(self.keys, keys | WINDOW_INPUT | EXTENDED_FLAGS | VIRTUAL_TERMINAL_INPUT)
        screen = modes[1] | PROCESSED_OUTPUT | WRAP_AT_EOL | VIRTUAL_TERMINAL_PROCESSING | NO_AUTO_RETURN
        try:
            self._set(self.screen, screen)
        except OSError:
            self._set(self.keys, modes[0])
            raise

    def begin_interrupt_key(self) -> None:
        """Let Ctrl-C send SIGINT, while nobody reads keys."""
        if self._modes is not None:
            self._set(self.keys, self._mode(self.keys) | PROCESSED_INPUT)

    def end_interrupt_key(self) -> None:
        """Make Ctrl-C a key again."""
        self.retake()

    def give_back(self, *, at_once: bool = False) -> None:
        """Set the modes that ``take`` found; raises OSError if the console is gone."""
        if self._modes is not None:
            self._set(self.keys, self._modes[0])
            self._set(self.screen, self._modes[1])

    def wait(self, seconds: float | None) -> tuple[bool, bool]:
        """Wait for input or for ``wake``. Return whether each has come."""
        handles = (ctypes.c_void_p * 2)(self._event, self.keys)
        limit = INFINITE if seconds is None else int(seconds * 1000)
        found = self.kernel.WaitForMultipleObjects(2, handles, False, limit)
        if found == OBJECT_0:  # the bell is looked at first, and keys may be there as well
            keys = self.kernel.WaitForMultipleObjects(1, (ctypes.c_void_p * 1)(self.keys), False, 0)
            return keys == OBJECT_0, True
        return found == OBJECT_0 + 1, False

    def read(self) -> bytes:
        """Return the bytes of the keys that are there; raises OSError if the console is gone."""
        records = (InputRecord * RECORDS)()
        count = wintypes.DWORD()
        if not self.kernel.ReadConsoleInputW(self.keys, records, RECORDS, ctypes.byref(count)):
            raise OSError("the console is gone")
        units = [self._unit]
        for record in records[: count.value]:
            if record.EventType == WINDOW_SIZE_EVENT:
                self.is_resized = True
            elif record.EventType == KEY_EVENT:
                key = record.Event.KeyEvent
                typed = key.bKeyDown or key.wVirtualKeyCode == VK_MENU
                if typed and key.UnicodeChar:
                    units.append(key.UnicodeChar.to_bytes(2, "little") * max(key.wRepeatCount, 1))
        data = b"".join(units)
        cut = len(data) - 2 if len(data) >= 2 and 0xD8 <= data[-1] < 0xDC else len(data)  # half of a pair
        data, self._unit = data[:cut], data[cut:]
        return data.decode("utf-16-le", "replace").encode("utf-8", "replace")

    def read_paste(self) -> bytes:
        """Return the same: what comes after a paste is kept for the next question."""
        return self.read()

    def read_keys(self) -> bytes:
        """Return all of them: the console gives records, which cannot be left where they are."""
        return self.read()

    def write(self, data: bytes) -> None:
        """Write all of this; raises OSError if the console is gone."""
        units = data.decode("utf-8", "replace").encode("utf-16-le")
        while units:
            piece = units[: 2 * UNITS]
            if len(piece) == 2 * UNITS and 0xD8 <= piece[-1] < 0xDC:  # a pair stays together
                piece = piece[:-2]
            written = wintypes.DWORD()
            text = ctypes.create_string_buffer(piece, len(piece))
            if not self.kernel.WriteConsoleW(self.screen, text, len(piece) // 2, ctypes.byref(written), None):
                raise OSError("the console is gone")
            units = units[2 * written.value :]

    def write_at_once(self, data: bytes, seconds: float) -> None:
        """Write all of this: a console takes it."""
        self.write(data)

    def wake(self) -> None:
        """Wake ``wait``, which returns."""
        self.kernel.SetEvent(self._event)

    def nudge(self) -> None:
        """Nothing: signals reach the main thread here."""

    def close(self) -> None:
        """Close the console."""
        for handle in (self.keys, self.screen, self._event):
            self.kernel.CloseHandle(handle)

    def _mode(self, handle: ctypes.c_void_p) -> int:
        mode = wintypes.DWORD()
        if not self.kernel.GetConsoleMode(handle, ctypes.byref(mode)):
            raise OSError("the console says no modes")
        return mode.value

    def _set(self, handle: ctypes.c_void_p, mode: int) -> None:
        if not self.kernel.SetConsoleMode(handle, mode):
            raise OSError(f"the console does not take the mode {mode:#x}; control sequences need Windows 10 or later")
