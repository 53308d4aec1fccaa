"""What a system's terminal must be able to do: the small interface between the drivers and the system.

``posix`` and ``windows`` hold one each. Nothing of this module exists at run time but its name.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Protocol

    class Port(Protocol):
        """A terminal that is open for reading and writing."""

        #: What an event loop can watch: the keys, then what ``wake`` rings; empty if there is no such thing.
        handles: tuple[int, ...]
        #: The terminal for another program, to read from and to write to; -1 if there is no such thing.
        handle: int
        #: Whether this is the controlling terminal of the process, so that its signals are those of the process.
        is_own: bool
        #: Whether the size has changed; set here or by the handler of the signal, and taken back by who looks.
        is_resized: bool
        #: What a byte is written to so that ``wait`` returns, by a signal too; -1 if there is no such thing.
        bell: int
        #: Called with the numbers of signals that arrive at the bell, if somebody wants to know them.
        heard: Callable[[bytes], object] | None

        def size(self) -> tuple[int, int]:
            """Return the columns and rows; 0 if the terminal says none."""

        def take(self) -> None:
            """Set modes in which every key arrives at once and nothing is echoed; raises OSError."""

        def is_taken(self) -> bool:
            """Return True if keys arrive one by one, set by this process or another."""

        def retake(self) -> None:
            """Set the modes of ``take`` again, after others have changed them; raises OSError."""

        def give_back(self, *, at_once: bool = False) -> None:
            """Set the modes that ``take`` found, even if nobody reads what was written; raises OSError."""

        def begin_interrupt_key(self) -> None:
            """Let Ctrl-C send SIGINT, while nobody reads keys."""

        def end_interrupt_key(self) -> None:
            """Make Ctrl-C a key again."""

        def wait(self, seconds: float | None) -> tuple[bool, bool]:
            """Wait for keys or for ``wake``. Return whether each has come. ``None`` waits for ever."""

        def read(self) -> bytes:
            """Return the bytes of the keys that are there, if any; raises OSError if the terminal is gone."""

        def read_paste(self) -> bytes:
            """Return the same up to the end of a paste, as far as that can be told."""

        def read_keys(self) -> bytes:
            """Return the same up to a key that may end a question: what was typed after it stays in the terminal."""

        def write(self, data: bytes) -> None:
            """Write all of this; raises OSError if the terminal is gone."""

        def write_at_once(self, data: bytes, seconds: float) -> None:
            """Write what the terminal takes within some seconds; raises OSError if it is gone."""

        def wake(self) -> None:
            """Wake ``wait``, which returns; from any thread, and from a signal handler."""

        def nudge(self) -> None:
            """End a call of the system in which the thread of the terminal sleeps through a signal."""

        def close(self) -> None:
            """Close the terminal."""
