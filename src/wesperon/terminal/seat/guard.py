"""A guard for questions that are asked in a thread: a process of its own that gives the terminal back.

Only the main thread may handle signals, so one that ends the process would leave the terminal as it is. The guard waits
at a pipe that the end of the process closes, whatever ends it. If the main thread ends the process in good order, the
terminal is given back before that (``atexit``).
"""

from __future__ import annotations

import atexit
import os
import select
import sys

from wesperon.screen.ecma48 import ALTERNATE_OFF
from wesperon.system.signals import block, signals, unblock

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

#: What the guard does. After a plus it knows the modes and says so, after a minus nothing is to be given back, after an
#: A the alternate screen is to be left too, after an M no longer, after a dot it ends. The end of the pipe has it act,
#: and that of its parent: other children may have the pipe as well. Modes are only set as long as no shell has the
#: terminal again, which sets its own.
GUARD = """
import os, select, signal, sys, termios
signal.pthread_sigmask(signal.SIG_BLOCK, signal.valid_signals())
modes, screen = None, b""
while True:
    if select.select([0], [], [], 0.5)[0]:
        word = os.read(0, 1)
        if not word:
            break
        if word == b".":
            sys.exit()
        if word in b"AM":
            screen = bytes.fromhex(sys.argv[4]) if word == b"A" else b""
        else:
            modes = termios.tcgetattr(2) if word == b"+" else None
        os.write(1, word)
    elif os.getppid() != int(sys.argv[3]):
        break
if modes:
    try:
        is_ours = os.tcgetpgrp(2) == int(sys.argv[2])
    except OSError:  # the session has ended
        is_ours = True
    if is_ours:
        termios.tcsetattr(2, termios.TCSANOW, modes)
    os.write(2, screen + bytes.fromhex(sys.argv[1]))
"""
#: How long the guard may take to answer, in seconds.
PATIENCE = 2.0


class Guard:
    """Gives a terminal back if the process ends meanwhile.

    ``give_back`` does so in this process, ``restored`` is what the guard writes to the terminal, ``terminal`` is its
    descriptor.
    """

    def __init__(self, terminal: int, restored: str, give_back: Callable[[], None]) -> None:
        self._give_back = give_back
        self._says = self._hears = self._process = -1
        if hasattr(os, "posix_spawn") and sys.executable:
            try:
                self._start(terminal, restored)
            except OSError:
                pass  # nobody guards; the process itself gives the terminal back on all other ways

    def _start(self, terminal: int, restored: str) -> None:
        hears, self._says = os.pipe()
        self._hears, says = os.pipe()
        try:
            self._process = os.posix_spawn(
                sys.executable,
                [
                    *(sys.executable, "-I", "-S", "-c", GUARD, restored.encode().hex()),
                    *(str(os.getpgrp()), str(os.getpid()), ALTERNATE_OFF.encode().hex()),
                ],
                {},
                setpgroup=0,  # what stops all processes of the group must not stop this one
                file_actions=[
                    (os.POSIX_SPAWN_DUP2, hears, 0),
                    (os.POSIX_SPAWN_DUP2, says, 1),
                    (os.POSIX_SPAWN_DUP2, terminal, 2),
                ],
            )
        finally:
            os.close(hears)
            os.close(says)

    def arm(self) -> None:
        """Make sure that the terminal is given back with the modes that it has now."""
        atexit.register(self._at_exit)
        self._say(b"+")

    def note_screen(self, *, is_alternate: bool) -> None:
        """Note which screen is shown now."""
        self._say(b"A" if is_alternate else b"M")

    def disarm(self) -> None:
        """Stop guarding: the terminal is given back."""
        self._say(b"-")
        atexit.unregister(self._at_exit)

    def _at_exit(self) -> None:
        """Give the terminal back as the process ends; no interrupt prevents that, or leaves a trace."""
        blocked = None
        while True:
            try:
                blocked = blocked or block([signals.SIGINT])
                self._give_back()
                break
            except KeyboardInterrupt:
                continue
        try:
            unblock(blocked)  # the process may be about to end by one
        except KeyboardInterrupt:
            pass

    def _say(self, word: bytes) -> None:
        if self._process >= 0:
            try:
                os.write(self._says, word)
                if select.select([self._hears], [], [], PATIENCE)[0]:  # the end of the pipe, after a dot
                    os.read(self._hears, 1)
            except OSError:  # it was killed
                pass

    def end(self) -> None:
        """End the guard."""
        self._say(b".")
        for handle in (self._says, self._hears):
            if handle >= 0:
                os.close(handle)
        self._says = self._hears = -1
        if self._process >= 0:
            process, self._process = self._process, -1
            try:
                os.waitpid(process, 0)
            except OSError:  # the program waits for its children itself
                pass
