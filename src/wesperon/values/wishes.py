"""The keywords of filling: the one list of them.

:meth:`Form.fill`, :func:`fill`, :func:`run` and :class:`Program` take them, the options of filling and of a driver have
them as attributes. What else there is about them is made of this list: which names there are (``NAMES``), of what types
their values must be (``argument_types``), the signatures that type checkers read (``forms.signatures``, written by
``scripts/keywords.py``), and the table of the reference.
"""

from __future__ import annotations

from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any


#: The longest time-out that means something, in seconds; a longer one is none.
LONGEST = 10.0**9


class Wishes:
    """How a program wants its values filled: each keyword with its type, and its value if it is not given.

    Their order is that of the reference. Those that only a call has, not a program, come last.
    """

    if TYPE_CHECKING:
        from wesperon.context import Context
        from wesperon.editing.text_state import TextState
        from wesperon.forms.filling import KnownValues
        from wesperon.terminal.driver import Driver

    #: the name of the program; for one form, and for a function, that of the script if it is not given
    name: str = ""
    #: what ``--version`` prints
    version: str = ""
    #: what the help page says first
    description: str = ""
    #: called once before a command, before any of its questions, with the names that lead to it (none for one form),
    #: its class and the values that are known so far; it may raise Refusal
    gate: Callable[[tuple[str, ...], type[Any], KnownValues], object] | None = None
    #: whether names and commands may be cut to a beginning that no other has
    prefixes: bool = True
    #: whether there is a settings file; or the name of the program that it is for
    settings: bool | str | None = False
    #: whether the environment turns areas of the program's own log on (``DESK_LOG=mast,dome:info``)
    log: bool = False
    #: the seconds after which a question that nobody answers ends, as if nobody were there; the user may say it
    #: (``WESPERON_TIMEOUT``)
    timeout: float | None = None
    #: whether the mouse places the cursor and picks choices, which takes the terminal's own selection away
    mouse: bool = False
    #: the name of a style of Pygments, for texts with a syntax
    style: str = ""
    #: the family of keys, ``"modeless"`` or ``"modal"``, unless the user says otherwise
    keys: str = ""
    #: the name of a theme, or roles of text and what they look like over the usual one; the user's goes first
    theme: str | Mapping[str, str] = ""
    #: keys to actions; see the guide on keys
    bindings: Mapping[str, object] | None = None
    #: names of functions from draft to draft that users may bind keys to
    actions: Mapping[str, Callable[[TextState], TextState]] | None = None
    #: whether what the process prints while a question is open comes above it
    capture: bool = True
    #: whether all values are shown once more when the questions are answered, to go on or to change one; ``"always"``:
    #: also if nothing was asked, as before something that cannot be undone
    review: bool | str = False
    #: ``"card"`` asks one question below the other, ``"screen"`` for all that is missing on one screen
    layout: str = "card"
    #: whether the answers of a run that was broken off are kept for a day, secrets aside, and the next run on a
    #: terminal offers to go on from there
    resume: bool = True
    #: whether it is said below the questions how to have the same again without them
    replay: bool = False
    #: ``"missing"`` asks for what has no value and no default, ``"all"`` for all that no word gave, ``"never"`` for
    #: nothing; unless the words or the environment (``WESPERON_ASKING``) say otherwise
    asking: str | None = None
    #: what runs the questions, such as a script of keys; the controlling terminal if it is not given
    driver: Driver | None = None
    #: the context to be in force meanwhile (see :class:`wesperon.Context`)
    context: Context | None = None

    def __init__(self, given: Mapping[str, Any] | None = None) -> None:
        self.__dict__.update(given or {})

    def given(self) -> Mapping[str, Any]:
        """Return the wishes that are not as if nothing had been said."""
        return {name: value for name, value in self.__dict__.items() if name in NAMES}


#: The names of all of them.
NAMES = tuple(Wishes.__annotations__)
#: Those that have something done, or decided, before the values of the words are taken as they are.
FIRST = ("gate", "settings", "log", "review")
#: What ``review`` is if the values are shown though nothing was asked.
ALWAYS = "always"
#: Those that a call has and a program has not.
OF_A_CALL = NAMES[NAMES.index("asking") :]


def checked_timeout(seconds: float) -> float | None:
    """Return the seconds of a time-out, None if it never comes; raises DeclarationError if they are no number."""
    if isinstance(seconds, bool) or not isinstance(seconds, (int, float)) or seconds != seconds:
        raise DeclarationError(f"timeout={seconds!r} must be a number of seconds, or None for no time-out")
    return None if seconds > LONGEST else float(max(seconds, 0))
