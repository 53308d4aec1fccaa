"""The context: everything that a call needs of the world around it, in one object.

A context holds the standard streams, the environment variables, the words of the command line, the driver that asks
questions, the language, the clock, the disk, and the shared values of the command that runs. Each part that a context
does not have of its own is that of its parent; at the root is the process (:data:`PROCESS`), which looks every part up
when it is asked for.

The context that is in force is that of the current thread and task (:func:`current`): calls that accept ``context``
put it in force while they run (:mod:`wesperon.scope`). So two consoles in one event loop, or two threads, each have
their own, and nothing that belongs to one user is global.
"""

import os
import sys
import time

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import MutableMapping, Sequence
    from typing import Any, TextIO

#: What an OSError has as its file if it is of standard output.
STANDARD_OUTPUT = "standard output"
#: The parts that a context may have of its own.
PARTS = ("clock", "driver", "environ", "files", "language", "program", "shared", "stderr", "stdin", "stdout", "words")


class Context:
    r"""What a call needs of the world around it.

    Arguments, all by name, each that of the parent if it is not given:
        stdin, stdout, stderr: text streams; results and messages of commands go to the last two
        environ: the environment variables, a mapping from name to text
        words: the words of the command line, without the program's name
        program: the program as it was called, the word before the first one
        driver: runs the questions; the controlling terminal if no context has one
        language: ``"de"``, ``"de_DE.UTF-8"``; that of ``environ`` if it is not given
        files: what paths lead to, an object with ``look(path)``, which gives ``"folder"``, ``"file"`` or ``""``
        clock: an object with ``time()`` and ``monotonic()``, both in seconds, as the module :mod:`time` has them
        shared: the shared values of the command that is running
        parent: the context that has the other parts; ``None`` means the process

    Example:
        >>> out = io.StringIO()
        >>> run(lambda: "parked", [], context=Context(stdout=out, language="de"))
        0
        >>> out.getvalue()
        'parked\n'

    """

    def __init__(self, *, parent: "Context | None" = None, **parts: "Any") -> None:
        unknown = [name for name in parts if name not in PARTS]
        if unknown:
            from wesperon.text.spelling import suggestion

            raise TypeError(f"a context has no part {unknown[0]!r}{suggestion(unknown[0], PARTS)}")
        self.parent = PROCESS if parent is None else parent
        self.parts: dict[str, Any] = {name: part for name, part in parts.items() if part is not None}
        self._catalogue: list[Any] = []
        #: Whose turn it is to use the terminal (``terminal.seat.turn.Turn``); made when the first task asks.
        self.turn: Any = None

    def derive(self, **parts: "Any") -> "Context":
        """Return a context with these parts of its own and everything else of this one."""
        return Context(parent=self, **parts)

    def _part(self, name: str) -> "Any":
        return self.parts[name] if name in self.parts else self.parent._part(name)

    if TYPE_CHECKING:
        stdin: TextIO | None
        stdout: TextIO | None
        stderr: TextIO | None
        environ: MutableMapping[str, str]
        words: Sequence[str]
        program: str
        driver: Any
        language: str
        clock: Any
        files: Any
        shared: Any
    else:

        def __getattr__(self, name: str) -> "Any":
            """Return a part, of this context or of the nearest one above it that has it."""
            if name not in PARTS:
                raise AttributeError(f"a context has no {name!r}")
            return self._part(name)

    @property
    def is_process(self) -> bool:
        """Whether the streams and the terminal are the process's own, so that it may end or stop the process."""
        return not {"stdout", "stderr", "driver"} & self.parts.keys() and self.parent.is_process

    @property
    def line(self) -> list[str]:
        """The whole line as the interpreter was started, word by word."""
        if {"words", "program"} & self.parts.keys():
            return [self.program, *self.words]
        return self.parent.line

    @property
    def asking_shell(self) -> str:
        """The shell that wants to know which words may come next, by its name; empty if none does."""
        if "environ" in self.parts:
            return str(self.environ.get("WESPERON_CANDIDATES", ""))
        return self.parent.asking_shell

    @property
    def program_name(self) -> str:
        """The name of the program, as its users know it: without folders; of a package, that of its folder."""
        name = os.path.basename(self.program)
        if name == "__main__.py":
            return os.path.basename(os.path.dirname(self.program))
        return name or "program"

    @property
    def catalogue(self) -> "Any":
        """The messages in the language of this context; None if that is English. Looked up once for each context."""
        if not {"language", "environ"} & self.parts.keys():
            return self.parent.catalogue
        if not self._catalogue:
            self._catalogue.append(_catalogue(self))
        return self._catalogue[0]

    def print(self, text: object = "", *, error: bool = False) -> None:
        """Print ``text`` as a line on standard output, or on standard error if ``error`` is true.

        It is written in one piece, so that no line of another thread comes between it and its end.
        A character that the encoding of the stream does not have is written with a backslash (``backslashreplace``).
        An OSError of standard output has ``STANDARD_OUTPUT`` as its file.
        """
        stream = self.stderr if error else self.stdout
        if stream is None:  # the process began without it; print() would take standard output instead
            return
        try:
            stream.write(f"{text}\n")
        except UnicodeEncodeError as refused:
            stream.write(str(text).encode(refused.encoding, "backslashreplace").decode(refused.encoding) + "\n")
        except OSError as full:
            full.filename = full.filename or (None if error else STANDARD_OUTPUT)
            raise

    def flush(self) -> None:
        """Write everything that was printed."""
        if self.stdout is not None:
            self.stdout.flush()


class Process(Context):
    """The context of the process itself: every part is looked up when it is asked for."""

    def __init__(self) -> None:
        self.parts = {}
        self._catalogue = []
        self.turn = None
        #: The screens that run on the terminal of the process, the newest last (``screens.running.Running``).
        self.stages: list[Any] = []

    is_process = True

    def _part(self, name: str) -> "Any":
        if name in ("stdin", "stdout", "stderr"):
            return getattr(sys, name)
        if name == "environ":
            return os.environ
        if name == "words":
            return sys.argv[1:]
        if name == "program":
            return sys.argv[0] if sys.argv else ""
        if name == "clock":
            return time
        if name == "files":
            from wesperon.system import disk

            return disk
        if name == "driver":
            return next((stage.driver for stage in reversed(self.stages) if stage.lends), None)
        return "" if name == "language" else None

    @property
    def asking_shell(self) -> str:
        """The shell that wants to know which words may come next, by its name; empty if none does."""
        # The variable is taken out of the environment at the import, so that no child answers too; it may come later.
        return str(sys.modules["wesperon"].asked_by or os.environ.get("WESPERON_CANDIDATES", ""))

    @property
    def line(self) -> list[str]:
        """The whole line as the interpreter was started, word by word."""
        return sys.orig_argv

    @property
    def catalogue(self) -> "Any":
        """The messages in the language of the process; None if that is English."""
        if not self._catalogue:
            self._catalogue.append(_catalogue(self))
        return self._catalogue[0]


#: The process's own context, which is the default of every call.
PROCESS = Process()


def current() -> "Context":
    """Return the context of this thread and task: the process's own, unless a call has put another in force."""
    if "wesperon.scope" not in sys.modules:
        return PROCESS
    # Another thread may be loading it, which this waits for.
    scope = __import__("wesperon.scope", fromlist=["CURRENT"])
    found: Context = scope.CURRENT.get() or scope.ELSEWHERE[-1]
    return found


def _catalogue(context: "Context") -> "Any":
    """Return the messages in the language that a context names, else its environment (POSIX, Base Definitions, 8.2)."""
    environ, said, names = context.environ, context.language, []
    if not said:
        said = next((value for name in ("LC_ALL", "LC_MESSAGES", "LANG") if (value := environ.get(name))), "")
        names = environ.get("LANGUAGE", "").split(":")
    if said.partition(".")[0] in ("", "C", "POSIX"):
        return None
    from wesperon.locale.catalogue import catalogue

    return catalogue([*names, said])
