"""The actions of a line that few keys are for, beyond those of its text: loaded with the first of them."""

from __future__ import annotations

from wesperon.editing.text_state import whole
from wesperon.widgets.widget import EDIT_OUTSIDE, HISTORY, Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Protocol

    from wesperon.editing.editor import Memory
    from wesperon.editing.entry_editor import EntryEditor
    from wesperon.editing.keys.events import Action, Event, Key, Mouse
    from wesperon.editing.keys.resolver import KeyResolver
    from wesperon.editing.modal.commands import Commands
    from wesperon.editing.text_state import TextState
    from wesperon.widgets.line_view import LineView
    from wesperon.widgets.widget import Effect, Outcome

    class Modal(Protocol):
        """What does the actions of the modal family in a line."""

        commands: Commands

    class TextLine(Protocol):
        """What the rarer actions, and those of the modal family, know of a line; see ``line.Line`` for each."""

        editor: EntryEditor
        display: LineView
        memory: Memory
        action: Action
        outcome: Outcome | None
        has_lines: bool
        comment_sign: str

        @property
        def modal(self) -> Modal | None:
            """What does the actions of the modal family, if that is the one."""

        @property
        def draft(self) -> TextState:
            """The text and the cursor."""

        @property
        def text(self) -> str:
            """The text as it is."""

        @property
        def is_of_lines(self) -> bool:
            """Whether keys take it for several lines."""

        @property
        def resolver(self) -> KeyResolver:
            """What reads its keys."""

        def enter(self) -> None:
            """Accept the text, or say what is wrong with it."""

        def end(self) -> None:
            """End of input."""

        def want(self, effect: Effect | None) -> None:
            """Return an effect once the event is taken."""

        def handle(self, event: Event) -> None:
            """Take one event."""

        def do_as_usual(self, action: Action) -> None:
            """Do an action that every family has."""

        def leave_finder(self) -> None:
            """Close a search that is open."""


def accept_and_recall(line: TextLine) -> None:
    """Accept the line, and put the entry that followed it into the next one."""
    following, editor = "", line.editor
    if editor.past is not None and editor.recall is not None and editor.recall.entry is not None:
        found = editor.past.newer(editor.recall.entry, "", begins=True, seen=(line.text,))
        following = found.text if found else ""
    line.enter()
    if isinstance(line.outcome, Answered):
        line.memory.following = following


def accept_as_comment(line: TextLine) -> None:
    """Put the sign of comments before the text and accept it, if it can have comments."""
    if line.comment_sign and line.text:
        line.editor.become(whole(line.comment_sign + line.text))
        line.enter()


def move_page_up(line: TextLine) -> None:
    """Go up by as many lines as are in sight."""
    line.editor.move_lines(1 - line.display.height)
    line.editor.moved()


def move_page_down(line: TextLine) -> None:
    """Go down by as many lines as are in sight."""
    line.editor.move_lines(line.display.height - 1)
    line.editor.moved()


def record_keys(line: TextLine) -> None:
    """Begin to record the keys that are pressed."""
    line.memory.macros.begin()


def record_keys_end(line: TextLine) -> None:
    """End the recording; the keys that said so are not part of it."""
    line.memory.macros.end(line.resolver.length)


def play_keys(line: TextLine) -> None:
    """Press the recorded keys again, as often as the count says."""
    play(line, list(line.memory.macros.last), line.action.times)


def play(line: TextLine, keys: list[Key], times: int) -> None:
    """Press keys as often as is said, until one of them fails; not while they are being recorded."""
    again = line.memory.macros.pressed_again(keys, times)
    for key in again:
        if line.outcome is not None:
            break
        line.handle(key)
        if line.modal is not None and line.modal.commands.failed:
            break
    again.close()


def click(line: TextLine, event: Mouse) -> None:
    """Put the cursor where the mouse was pressed."""
    line.leave_finder()
    found = line.display.locate(event.row, event.column)
    if found is not None:
        line.editor.drop_region()
        line.editor.move(min(found, len(line.text)))
        line.editor.moved()


def edit_outside(line: TextLine) -> None:
    """Ask for the user's own editor for the text."""
    line.want(EDIT_OUTSIDE)


def show_history(line: TextLine) -> None:
    """Ask for the page of the history, if there is one."""
    if line.editor.past is not None:
        line.want(HISTORY)


#: Each by its name.
LINE_ACTIONS: dict[str, Callable[[TextLine], None]] = {
    "accept-and-recall": accept_and_recall,
    "accept-as-comment": accept_as_comment,
    "move-page-up": move_page_up,
    "move-page-down": move_page_down,
    "record-keys": record_keys,
    "record-keys-end": record_keys_end,
    "play-keys": play_keys,
    "edit-outside": edit_outside,
    "show-history": show_history,
}
