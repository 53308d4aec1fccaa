"""A session: a program that runs while a test types into it and reads its screen."""

from __future__ import annotations

import contextlib
import difflib
import io
import os
import runpy
import sys
import tempfile
import threading
import time
from pathlib import Path

from wesperon.context import PROCESS
from wesperon.editing.keys.events import Closed, Key, Paste, Resize, typed
from wesperon.form import Form
from wesperon.scope import everywhere_else, within
from wesperon.screen.theme import is_plain
from wesperon.terminal.scripted import key_named
from wesperon.testing.session_driver import POLLED, PlainSessionDriver, SessionDriver
from wesperon.widgets.parts.screen_widget import Visit

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Generator, Mapping, Sequence
    from types import TracebackType
    from typing import Any, Self

#: The variable that has screens kept.
KEEP = "WESPERON_KEEP"
#: Characters that a key sends, and its name.
NAMED = {"\n": "enter", "\r": "enter", "\t": "tab", "\x1b": "escape", "\x7f": "backspace", "\b": "backspace"}
#: How long the program may take until it asks or ends, in seconds.
TIMEOUT = 10.0


class Session:
    """Runs a program with no terminal, for a test that types and reads.

    ``program`` is a function without arguments, a form (which is filled), an object with a method ``main`` or ``run``
    (a ``Program``, a ``Console``), or the path of a script. ``words`` are those of its command line, ``name`` the name
    it is called by. The terminal has ``columns`` and ``rows``. ``environment`` holds variables for the run; the folders
    for configuration and state are empty ones of its own. ``timeout`` are the seconds that the program may take until
    it asks or ends. ``stdin`` is what comes through a pipe as standard input; without it that is the terminal, and
    ``input`` reads what is typed. ``clock`` tells the time, an object with ``time()`` and ``monotonic()``: with one
    that the test sets, long work shows itself by that alone.

    Use it as a context, at whose end a program that still asks finds its terminal gone. What the test itself prints
    meanwhile goes where it always does.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int, "How many frames?")
        >>> with Session(Plan) as session:
        ...     session.see("How many frames?").type("3").press("enter")
        <...>
        >>> session.status
        0

    """

    def __init__(
        self,
        program: Callable[[], Any] | type[Form] | str | Path | Any,
        words: Sequence[str] = (),
        *,
        name: str = "program",
        columns: int = 80,
        rows: int = 24,
        environment: Mapping[str, str] | None = None,
        timeout: float = TIMEOUT,
        stdin: str | None = None,
        clock: Any = None,
    ) -> None:
        self.program = program
        self.words = list(words)
        self.name = str(program) if isinstance(program, (str, Path)) else name
        self.environment = dict(environment or {})
        self.timeout = timeout
        self.stdin = stdin
        self.clock = clock
        self.stage = (PlainSessionDriver if is_plain(self.environment) else SessionDriver)(columns, rows)
        if clock is not None:
            self.stage.clock = clock
        #: What the program gave back, and the exception that ended it, if one did.
        self.result: Any = None
        self.error: BaseException | None = None
        self._out, self._err = io.StringIO(), io.StringIO()
        self._thread = threading.Thread(target=self._run, daemon=True)
        self._undo = contextlib.ExitStack()

    def __enter__(self) -> Self:
        home = self._undo.enter_context(tempfile.TemporaryDirectory(prefix="wesperon-"))
        self._undo.enter_context(_environment({**_homes(home), **self._sizes(), **self.environment}))
        self._undo.enter_context(_argv([self.name, *self.words]))
        out, err = _Both(self._out, self.stage, sys.stdout), _Both(self._err, self.stage, sys.stderr)
        self._undo.enter_context(contextlib.redirect_stdout(out))
        self._undo.enter_context(contextlib.redirect_stderr(err))
        given: Any = _Typed(self.stage) if self.stdin is None else io.StringIO(self.stdin)
        self._undo.enter_context(_standard_input(given))
        self._context = PROCESS.derive(
            driver=self.stage,
            stdin=given,
            stdout=out,
            stderr=err,
            environ=os.environ,
            words=self.words,
            program=self.name,
            clock=self.clock,
        )
        self._undo.enter_context(everywhere_else(self._context))
        self._thread.start()
        try:
            self.stage.settle(self.timeout)
        except AssertionError:
            self._undo.close()
            raise
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        try:
            self.close()
        finally:
            self._undo.close()

    def type(self, text: str) -> Self:
        """Type ``text``, key by key; raises ValueError for a character that is a key of its own, such as a line end."""
        for char in text:
            if char in NAMED:
                raise ValueError(f"{char!r} is a key, not a text: write press({NAMED[char]!r})")
        return self._put([typed(char) for char in text])

    def press(self, *names: str, times: int = 1) -> Self:
        """Press keys by their ``names`` (``enter``, ``ctrl-c``, ``shift-tab``), the whole series ``times`` times.

        Raises ValueError for a name that no key has.
        """
        return self._put([key_named(name) for name in names] * times)

    def choose(self, label: str) -> Self:
        """Give the focus to the part of a screen with this ``label`` or title, and press it if it is a button.

        Raises AssertionError if no part that is shown has it.
        """
        self.stage.settle(self.timeout)
        known = self.stage.stage.labels() if self.stage.stage is not None else {}
        if label not in known:
            raise AssertionError(f"no part is labelled {label!r}; there are: {', '.join(known) or 'none'}")
        return self._put([Visit(label)])

    @property
    def focus(self) -> str:
        """The label or title of the part of a screen that has the focus; empty if none has."""
        self.stage.settle(self.timeout)
        part = self.stage.stage.focused if self.stage.stage is not None else None
        return "" if part is None else part.letters or part.title

    def paste(self, text: str) -> Self:
        """Paste ``text`` in one piece."""
        return self._put([Paste(text)])

    def resize(self, columns: int, rows: int) -> Self:
        """Give the terminal another size, of ``columns`` and ``rows`` characters."""
        return self._put([Resize(columns, rows)])

    def see(self, text: str) -> Self:
        """Wait until the screen shows ``text``, which another task or thread may bring; raises AssertionError."""
        end = time.monotonic() + self.timeout
        while text not in self.screen:
            if time.monotonic() > end:
                raise AssertionError(f"{text!r} does not appear within {self.timeout:g} s; the screen:\n{self.screen}")
            time.sleep(POLLED)
        return self

    def close(self) -> None:
        """Take the terminal away, and wait for the program to end; raises AssertionError if it does not."""
        with self.stage.turn:
            self.stage.is_closed = True
            self.stage.turn.notify_all()
        self._thread.join(self.timeout)
        if self._thread.is_alive():
            raise AssertionError(f"the program does not end within {self.timeout:g} s, with its terminal gone")

    @property
    def screen(self) -> str:
        """The text on the screen, row by row, without the blanks at the ends."""
        self.stage.settle(self.timeout)
        return self.stage.shown()

    @property
    def cursor(self) -> tuple[int, int] | None:
        """The row and the column of the cursor on the screen, from 0; None if none is shown."""
        self.stage.settle(self.timeout)
        frame = self.stage.frame
        if frame is None or frame.cursor is None:
            return None
        return len(self.stage.lines()) - len(frame.rows) + frame.cursor[0], frame.cursor[1]

    @property
    def marked(self) -> str:
        """The screen with ``> `` before the row of the cursor, where the focus is, and two blanks before the others."""
        place = self.cursor
        rows = self.screen.split("\n")
        return "\n".join(
            [("> " if place is not None and at == place[0] else "  ") + row for at, row in enumerate(rows)]
        )

    @property
    def work(self) -> list[str]:
        """The rows of long work that were shown, one text for each time that they changed."""
        self.stage.settle(self.timeout)
        return [*self.stage.work_shown]

    @property
    def is_open(self) -> bool:
        """Whether the program still asks."""
        self.stage.settle(self.timeout)
        return not self.stage.has_ended

    @property
    def output(self) -> str:
        """What the program has written to standard output."""
        return self._out.getvalue()

    @property
    def errors(self) -> str:
        """What it has written to standard error."""
        return self._err.getvalue()

    @property
    def status(self) -> int | None:
        """The exit status of a program that has ended; None if it still asks.

        130 means the end by SIGINT that a program makes of its own where the user stops it, 1 for an error.
        """
        if self.is_open:
            return None
        if isinstance(self.error, SystemExit):
            code = self.error.code
            return code if isinstance(code, int) else 0 if code is None else 1
        if self.error is not None:
            return 130 if isinstance(self.error, KeyboardInterrupt) else 1
        return self.result if isinstance(self.result, int) and not isinstance(self.result, bool) else 0

    def compare(self, path: str | Path) -> None:
        """Compare the screen with the one in the file ``path``; raises AssertionError with the difference.

        With ``WESPERON_KEEP=1`` in the environment the screen is written to the file instead.
        """
        kept, screen = Path(path), self.screen + "\n"
        if os.environ.get(KEEP) == "1":
            kept.parent.mkdir(parents=True, exist_ok=True)
            kept.write_text(screen, encoding="utf-8")
            return
        how = "WESPERON_KEEP=1 keeps the screen as it is now"
        if not kept.exists():
            raise AssertionError(f"no screen is kept in {kept}; {how}:\n{screen}")
        before = kept.read_text(encoding="utf-8")
        if before != screen:
            lines = difflib.unified_diff(before.splitlines(), screen.splitlines(), str(kept), "the screen", lineterm="")
            raise AssertionError("\n".join([f"the screen is another one; {how}:", *lines]))

    def _put(self, events: list[Any]) -> Self:
        self.stage.put(events, self.timeout)
        return self

    def _run(self) -> None:
        try:
            with within(self._context):
                self.result = self._call()
        except BaseException as error:
            self.error = error
        finally:
            with self.stage.turn:
                self.stage.has_ended = True
                self.stage.turn.notify_all()

    def _call(self) -> Any:
        program: Any = self.program
        if isinstance(program, (str, Path)):
            return runpy.run_path(str(program), run_name="__main__") and None
        if isinstance(program, type) and issubclass(program, Form):
            return program.fill()
        for name in ("main", "run"):
            if not isinstance(program, type) and hasattr(program, name):
                return getattr(program, name)()
        return program()

    def _sizes(self) -> dict[str, str]:
        return {"COLUMNS": str(self.stage.columns), "LINES": str(self.stage.rows)}


class _Both(io.TextIOBase):
    """Text that goes to the screen and is kept by itself; what the thread of the test prints goes where it did."""

    encoding = "utf-8"

    def __init__(self, kept: io.StringIO, stage: SessionDriver, before: Any) -> None:
        self.kept, self.stage = kept, stage
        #: What is written is on its screen.
        self.driver = stage
        self.before, self.tester = before, threading.get_ident()

    def write(self, text: str) -> int:
        """Keep the text and show it."""
        if threading.get_ident() == self.tester:
            return int(self.before.write(text))
        self.kept.write(text)
        self.stage.print(text)
        return len(text)

    def flush(self) -> None:
        """Write what the test printed."""
        if threading.get_ident() == self.tester and not self.before.closed:
            self.before.flush()


class _Typed(io.TextIOBase):
    """Standard input of a program whose terminal it is: lines as they are typed."""

    encoding = "utf-8"

    def __init__(self, stage: SessionDriver) -> None:
        self.stage = stage

    def isatty(self) -> bool:
        """Return True: it is the terminal."""
        return True

    def readable(self) -> bool:
        """Return True: it can be read."""
        return True

    def readline(self, size: int | None = -1, /) -> str:  # type: ignore[override]
        """Return the next line, shown as it is typed; empty at the end of input."""
        line = ""
        while True:
            events = self.stage.wait()
            for at, event in enumerate(events):
                shown = ""
                if isinstance(event, Paste) or (isinstance(event, Key) and event.text):
                    shown = event.text
                elif isinstance(event, Key) and event.name == "backspace" and line:
                    line, self.stage.text = line[:-1], self.stage.text[:-1]
                elif isinstance(event, Key) and event.name == "enter":
                    shown = "\n"
                elif isinstance(event, Closed) or (isinstance(event, Key) and event.name == "ctrl-d" and not line):
                    return line
                line += shown
                self.stage.write(shown)
                if shown.endswith("\n"):
                    self.stage.coming[:0] = events[at + 1 :]
                    return line


@contextlib.contextmanager
def _standard_input(given: Any) -> Generator[None]:
    """Replace ``sys.stdin`` meanwhile."""
    before, sys.stdin = sys.stdin, given
    try:
        yield
    finally:
        sys.stdin = before


def _homes(home: str) -> dict[str, str]:
    """Folders of the user's own that hold nothing yet."""
    names = ("CONFIG", "STATE", "DATA", "CACHE")
    return {f"XDG_{name}_HOME": os.path.join(home, name.lower()) for name in names}


@contextlib.contextmanager
def _environment(values: Mapping[str, str]) -> Generator[None]:
    """Put variables into the environment, and take out the developer's own that say how to ask or to show."""
    before = dict(os.environ)
    for name in before:
        if name.startswith("WESPERON_") and name != KEEP:
            del os.environ[name]
    os.environ.pop("NO_COLOR", None)
    os.environ.update(values)
    try:
        yield
    finally:
        os.environ.clear()
        os.environ.update(before)


@contextlib.contextmanager
def _argv(words: list[str]) -> Generator[None]:
    """Put words in the place of those of the process."""
    before, sys.argv = sys.argv, words
    try:
        yield
    finally:
        sys.argv = before
