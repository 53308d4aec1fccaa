"""How a program wants its questions run."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from wesperon.editing.edits import TextState

#: The longest time-out that means something, in seconds; a longer one is none.
LONGEST = 10.0**9


class DriverOptions:
    """How a program wants its questions run.

    ``timeout`` are the seconds after which a question that nobody answers ends as if the terminal were gone; ``mouse``
    whether the mouse is the program's; ``style`` names a style of Pygments for the colours of languages, which else are
    of the terminal's own palette. ``keys`` names the family of keys, ``theme`` the theme, or maps roles to what they
    look like over the usual one; ``environ`` is the environment, of which the user's wishes go before. ``bindings``
    maps keys to actions, ``actions`` functions that bindings may name (see ``editing.keys.bindings``), and ``program``
    is the name under which the user may have some. ``capture``: what the process prints comes above the question.
    ``ends_process``: the process ends where the user stops the questions, so that no further interrupt matters.
    """

    def __init__(
        self,
        program: str = "",
        *,
        timeout: float | None = None,
        mouse: bool = False,
        style: str = "",
        keys: str = "",
        theme: str | Mapping[str, str] = "",
        environ: Mapping[str, str] | None = None,
        bindings: Mapping[str, object] | None = None,
        actions: Mapping[str, Callable[[TextState], TextState]] | None = None,
        capture: bool = True,
        ends_process: bool = False,
    ) -> None:
        self.program = program
        self.timeout = None if timeout is None else checked_timeout(timeout)
        self.mouse = mouse
        self.style = style
        if keys not in ("", "modeless", "modal"):
            from wesperon.values import DeclarationError

            raise DeclarationError(f"keys={keys!r} is not one of 'modeless', 'modal'")
        self.keys = keys
        if theme:
            from wesperon.screen.themes import checked

            checked(theme)
        self.theme = theme
        self.environ = environ or {}
        self.bindings = bindings or {}
        self.actions = actions or {}
        self.capture = capture
        self.ends_process = ends_process


def checked_timeout(seconds: float) -> float | None:
    """The seconds of a time-out, None if it never comes; raises DeclarationError if they are no number."""
    if isinstance(seconds, bool) or not isinstance(seconds, (int, float)) or seconds != seconds:
        from wesperon.values import DeclarationError

        raise DeclarationError(f"timeout={seconds!r} must be a number of seconds, or None for no time-out")
    return None if seconds > LONGEST else float(max(seconds, 0))
