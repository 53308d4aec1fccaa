"""The actions of a line that few keys are for, beyond those of its text: loaded with the first of them."""

from __future__ import annotations

from wesperon.editing.text_state import whole
from wesperon.widgets.widget import EDIT_OUTSIDE, Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Key, Mouse
    from wesperon.widgets.line import Line


def accept_and_recall(line: Line) -> None:
    """Accept the line, and put the entry that followed it into the next one."""
    following, editor = "", line.editor
    if editor.past is not None and editor.recall is not None and editor.recall.entry is not None:
        found = editor.past.newer(editor.recall.entry.position, "", begins=True, seen=(line.text,))
        following = found.text if found else ""
    line.enter()
    if isinstance(line.outcome, Answered):
        line.memory.following = following


def accept_as_comment(line: Line) -> None:
    """Put the sign of comments before the text and accept it, if it can have comments."""
    if line.comment_sign and line.text:
        line.editor.become(whole(line.comment_sign + line.text))
        line.enter()


def move_page_up(line: Line) -> None:
    """Go up by as many lines as are in sight."""
    line.editor.move_lines(1 - line.display.height)
    line.editor.moved()


def move_page_down(line: Line) -> None:
    """Go down by as many lines as are in sight."""
    line.editor.move_lines(line.display.height - 1)
    line.editor.moved()


def record_keys(line: Line) -> None:
    """Begin to record the keys that are pressed."""
    line.memory.macros.begin()


def record_keys_end(line: Line) -> None:
    """End the recording; the keys that said so are not part of it."""
    line.memory.macros.end(line.resolver.length)


def play_keys(line: Line) -> None:
    """Press the recorded keys again, as often as the count says."""
    play(line, list(line.memory.macros.last), line.action.times)


def play(line: Line, keys: list[Key], times: int) -> None:
    """Press keys as often as is said, until one of them fails; not while they are being recorded."""
    again = line.memory.macros.pressed_again(keys, times)
    for key in again:
        if line.outcome is not None:
            break
        line.handle(key)
        if line.modal is not None and line.modal.commands.failed:
            break
    again.close()


def click(line: Line, event: Mouse) -> None:
    """Put the cursor where the mouse was pressed."""
    line.leave_finder()
    found = line.display.locate(event.row, event.column)
    if found is not None:
        line.editor.drop_region()
        line.editor.move(min(found, len(line.text)))
        line.editor.moved()


def edit_outside(line: Line) -> None:
    """Ask for the user's own editor for the text."""
    line.want(EDIT_OUTSIDE)


#: Each by its name.
LINE_ACTIONS: dict[str, Callable[[Line], None]] = {
    "accept-and-recall": accept_and_recall,
    "accept-as-comment": accept_as_comment,
    "move-page-up": move_page_up,
    "move-page-down": move_page_down,
    "record-keys": record_keys,
    "record-keys-end": record_keys_end,
    "play-keys": play_keys,
    "edit-outside": edit_outside,
}
