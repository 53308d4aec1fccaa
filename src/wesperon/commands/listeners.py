"""Who hears of the commands of a console: any part of a program, by the full name of a command."""

from __future__ import annotations

from wesperon.frozen import Frozen, later
from wesperon.terminal.interaction import call_interruptibly
from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any

    from wesperon.form import Form
    from wesperon.terminal.interaction import Interaction

    Listener = Callable[["Heard"], object]

    from wesperon.values import secrets
else:
    secrets = later("wesperon.values.secrets")


class Heard(Frozen):
    r"""What a listener gets.

    ``line`` is the line as it was typed, ``words`` are its words, ``command`` the full name of the command, ``record``
    its filled values. Of a line that names no command the name is empty, and the record ``None``.

    Example:
        >>> class Park(Command):
        ...     "Park the telescope."
        >>> context = Context(stdin=io.StringIO("park\n"))
        >>> console = Console(Program("desk", members=[Park]), history=False, context=context)
        >>> end = console.listen("park", lambda heard: print(heard.command, heard.words))
        >>> console.run()
        park ('park',)
        0

    """

    line: str
    words: tuple[str, ...]
    command: str
    record: Any


class Listeners:
    """The listeners of one console, in the order in which they were attached.

    ``failed`` is called with each error of one.
    """

    def __init__(self, failed: Callable[[BaseException], None]) -> None:
        self.failed = failed
        self.attached: list[tuple[str, Listener]] = []

    def attach(self, name: str, listener: Listener) -> Callable[[], None]:
        """Call a listener for a command; for every line if the name is empty. Return what ends that."""
        if not isinstance(name, str) or not callable(listener):
            got = f"{name!r} and {listener!r}"
            raise DeclarationError(f"listen() needs the full name of a command and a function, got {got}")
        entry = (" ".join(name.lower().split()), listener)
        self.attached.append(entry)

        def end() -> None:
            self.attached = [one for one in self.attached if one is not entry]

        return end

    def of(self, line: str, words: Sequence[str], *, is_async: bool) -> Hearing:
        """Return what they hear of one line, with its words.

        ``is_async`` says whether an event loop runs the console.
        """
        return Hearing(self, line, tuple(words), is_async)


class Hearing:
    """One line, of which listeners are to hear."""

    def __init__(self, listeners: Listeners, line: str, words: tuple[str, ...], is_async: bool) -> None:
        self.listeners = listeners
        self.line = line
        self.words = words
        self.is_async = is_async

    def has(self, names: Sequence[str]) -> bool:
        """Return True if somebody listens to a command of this name."""
        wanted = " ".join(names)
        return any(name in ("", wanted) for name, _ in self.listeners.attached)

    def tell(self, names: Sequence[str], record: Form | None) -> Interaction[tuple[bool, bool]]:
        """Tell all who listen to a command, in turn. Return whether one has answered, and whether one failed."""
        command = " ".join(names)
        heard = Heard(self.line, self.words, command, record)
        answered = failed = False
        for name, listener in list(self.listeners.attached):
            if name and name != command:
                continue
            try:
                said = yield from self._call(listener, heard)
            except Exception as error:
                failed = True
                self.listeners.failed(error if record is None else _hushed(error, record))
            else:
                answered = answered or said is True
        return answered, failed

    def _call(self, listener: Listener, heard: Heard) -> Interaction[Any]:
        result: Any
        result = call_interruptibly(lambda: listener(heard)) if self.is_async else listener(heard)
        return (yield result) if hasattr(result, "__await__") else result


def _hushed(error: BaseException, record: Form) -> BaseException:
    """Return the error without any secret of the record."""
    return secrets.hush_error(error, secrets.secrets_of(record))
