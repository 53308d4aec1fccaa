"""What every widget is, and how it can end."""

from __future__ import annotations

from wesperon.frozen import frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any, Protocol

    from wesperon.editing.keys.events import Event
    from wesperon.screen.frame import Frame

    class Widget(Protocol):
        """A state machine that a driver runs.

        More may be there, and is used if it is: ``wish``, what the driver is to do for it next, with ``returned`` for
        what came of it; ``bind``, which takes the user's bindings; ``set_theme``, which takes the look; ``supplies``,
        what is to be drawn from while it is open; ``work``, which does a piece of what no key is to wait for, and says
        whether there was any.
        """

        outcome: Outcome | None

        def press(self, event: Event) -> None:
            """Take one event."""

        def view(self, columns: int, rows: int) -> Frame:
            """What is shown on a terminal of this size."""


@frozen
class Answered:
    """The user gave a value."""

    value: Any


@frozen
class Interrupted:
    """The user wants to stop (Ctrl-C)."""


@frozen
class Ended:
    """The user gives no more (Ctrl-D on an empty line), or there is no user any more."""


Outcome = Answered | Interrupted | Ended


class QuestionBase:
    """What the user may want of any question beside answering it; ``request`` is for the card."""

    request = ""
    outcome: Outcome | None

    def back(self) -> None:
        """Back to the question before."""
        self.request = "back"

    def help(self) -> None:
        """Show what is said about the question, and its keys."""
        self.request = "help"

    def interrupt(self) -> None:
        """Stop asking altogether."""
        self.outcome = Interrupted()


@frozen
class Prompt:
    """What stands around a value that is asked for.

    ``label`` stands in a gutter ``gutter`` columns wide; ``question`` beside it where the label alone does not say
    enough; ``hint`` in the foot line, what is wanted; ``unit`` behind the answer; ``note`` at the right edge; ``help``
    is said where it is asked for; ``keys`` are further ones for the foot.
    """

    label: str
    gutter: int
    question: str = ""
    hint: str = ""
    unit: str = ""
    note: str = ""
    help: str = ""
    keys: str = ""
