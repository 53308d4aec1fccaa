"""A menu in which the first letter of a choice accepts it at once: yes, no, all, quit."""

from __future__ import annotations

from wesperon.editing.keys.events import Key
from wesperon.widgets.menu import Menu

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.events import Event


class KeyMenu(Menu):
    """Asks for one of a few choices, each by a key of its own; nothing filters the list."""

    FOOT = "Enter: accept   Up Down: move   First letter: choose   Ctrl-C: stop"
    FOOT_IN_MODAL = FOOT_OF_COMMANDS = FOOT
    MORE = ()

    def handle(self, event: Event) -> None:
        """Take one event: the letter of a choice comes before what the family of keys makes of it."""
        if isinstance(event, Key) and event.text:
            at = self.index_by_letter(event.text)
            if at is not None:
                self.complaint = None
                self.go(at)
                self.enter()
                return
        super().handle(event)

    def index_by_letter(self, text: str) -> int | None:
        """See ``Menu``."""
        letters = [self.choices.label(at)[:1].casefold() for at in range(len(self.choices))]
        return letters.index(text.casefold()) if text.casefold() in letters else None

    def type(self, text: str, times: int = 1) -> None:
        """Take no other letter, and no pasted text: there is nothing to filter, and a paste accepts nothing."""
