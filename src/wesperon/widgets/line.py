"""The line: a text typed and edited in place.

``press`` tries three tables in turn: keys of the widget itself (``KEYS``), edits (the key family), and the text that a
key types. A default stands in the line as if selected: Enter takes it, the first character typed replaces it, an
editing key keeps it. A complaint about the text stays under it, the cursor at the fault, until the text changes.
"""

from __future__ import annotations

from wesperon.core import Complaint
from wesperon.core.visible import visible
from wesperon.editing.clusters import after
from wesperon.editing.editor import Editor
from wesperon.editing.edits import Draft, insert, whole
from wesperon.editing.events import Closed, Key, Paste
from wesperon.editing.keymap import MODELESS
from wesperon.screen.frame import Frame
from wesperon.screen.layout import MARGIN, field, labelled, place, spread
from wesperon.screen.width import cut, width, wrap
from wesperon.widgets.widget import Answered, Ended, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, ClassVar

    from wesperon.editing.events import Event
    from wesperon.screen.frame import Row
    from wesperon.widgets.widget import Outcome, Prompt

#: The most rows of a text that are shown at a time, and of what is said about it.
MOST_ROWS, MOST_SAID = 8, 4
#: The most candidates of a completion that are listed.
LISTED = 60


class Line:
    """Asks for a text in one line.

    ``accept`` turns the text into the value and raises Complaint where it cannot; ``default`` is the text that
    stands in the line at first; ``complaint`` one that stands under it from the start. ``history`` are texts to
    recall with Up and Down, the oldest first. ``complete`` gives the offset at which the text to complete begins, and
    its candidates. ``ring`` holds what was cut in earlier lines.
    """

    FOOT = "Enter: accept   Ctrl-C: stop"

    def __init__(
        self,
        prompt: Prompt,
        accept: Callable[[str], Any],
        *,
        default: str | None = None,
        complaint: Complaint | None = None,
        history: Sequence[str] = (),
        complete: Callable[[str, int], tuple[int, list[str]]] | None = None,
        ring: list[str] | None = None,
    ) -> None:
        self.prompt = prompt
        self.accept = accept
        self.default = default
        self.editor = Editor(default or "", ring)
        self.selected = bool(default)
        self.complaint: Complaint | None = None
        self.outcome: Outcome | None = None
        self.history = history
        self.recalled = len(history)
        self.kept = ""
        self.complete = complete
        self.candidates: list[str] = []
        if complaint:
            self._complain(complaint)

    def press(self, event: Event) -> None:
        """Take one event."""
        if isinstance(event, Key):
            act = self.KEYS.get(event.name)
            if act is not None:
                getattr(self, act)()
            elif event.name in MODELESS:
                self._edit(MODELESS[event.name])
            elif event.text:
                self._type(event.text)
        elif isinstance(event, Paste):
            self._put(event.text)
        elif isinstance(event, Closed):
            self.outcome = Ended()

    def view(self, columns: int, rows: int) -> Frame:
        """The label, the text, what is wrong with it, and what the keys do."""
        if self.outcome is not None:
            return self._record(columns)
        where = place(self.prompt.gutter, columns)
        role = "selected" if self.selected else ""
        text, cursor = spread(self.shown.text, self.shown.cursor, where.width, role, self._fault())
        above: list[Row] = [((row, "question"),) for row in bounded(self.prompt.question, where.width)]
        named = bool(where.stacked and rows > 1)  # whether the label has a row of its own
        if rows < named + len(above) + len(text):
            above = []
        shown = max(min(len(text), rows - named - len(above), MOST_ROWS), 1)
        top = min(max(cursor[0] - shown + 1, 0), len(text) - shown)
        body = labelled(self.prompt.label, self.prompt.gutter, [*above, *text[top : top + shown]], columns)
        if where.stacked and not named:
            del body[0]
        below = [((" " * where.left, ""), *row) for row in self._below(where.width)]
        below.append(self._foot(columns))
        del below[max(rows - len(body), 0) :]
        return Frame((*body, *below), (named + len(above) + cursor[0] - top, where.left + cursor[1]))

    def _below(self, columns: int) -> list[Row]:
        """The rows under the text: what is wrong with it, or what it may become."""
        reasons = bounded(self.complaint.reason, columns) if self.complaint else []
        candidates = in_columns(self.candidates, columns) if self.candidates else []
        return [*[((row, "reason"),) for row in reasons], *[((row, "note"),) for row in candidates]]

    def _foot(self, columns: int) -> Row:
        """What the keys do, and what is wanted."""
        foot = "   ".join(part for part in (self._foot_text(), self.prompt.hint) if part)
        margin = " " * MARGIN if columns > len(foot) + MARGIN else ""
        return ((cut(margin + foot, columns - 1), "foot"),)

    def _foot_text(self) -> str:
        return self.FOOT

    def _record(self, columns: int) -> Frame:
        text = self.draft.text
        unit = f" {self.prompt.unit}" if self.prompt.unit and text else ""
        return Frame(tuple(field(self.prompt.label, text + unit, self.prompt.gutter, columns)))

    def _fault(self) -> tuple[int, int]:
        """The offsets between which the text is at fault."""
        if self.complaint is None:
            return (0, 0)
        at = self.complaint.position
        if at is None:
            return (0, len(self.draft.text))
        return (at, max(after(self.draft.text, at), at + 1))

    @property
    def draft(self) -> Draft:
        """The text and the cursor."""
        return self.editor.draft

    @property
    def shown(self) -> Draft:
        """What is shown of it."""
        return self.draft

    def _type(self, text: str) -> None:
        self._replace_selected()
        self.editor.type(text)
        self._changed()

    def _put(self, text: str) -> None:
        self._replace_selected()
        self.editor.put(text)
        self._changed()

    def _replace_selected(self) -> None:
        if self.selected:
            self.editor.replace(Draft())

    def _edit(self, name: str) -> None:
        before = self.draft.text
        self.editor.apply(name)
        self.selected = False
        if self.draft.text != before:
            self._changed()

    def _become(self, draft: Draft) -> None:
        """Take another text, of which nothing is known yet."""
        self.editor.replace(draft)
        self._changed()

    def _changed(self) -> None:
        """Forget what was said about the text before."""
        self.selected = False
        self.complaint = None
        self.candidates = []

    def _complain(self, complaint: Complaint) -> None:
        """Show what is wrong, with the cursor at the fault."""
        self.complaint = complaint
        self.candidates = []
        self.selected = False
        if complaint.position is not None:
            self.editor.move(min(complaint.position, len(self.draft.text)))

    def enter(self) -> None:
        """Accept the text, or say what is wrong with it."""
        try:
            value = self.accept(self.draft.text)
        except Complaint as complaint:
            if not self.draft.text and self.default:
                self._become(whole(self.default))
                self._complain(Complaint(f"{complaint.reason}; Enter takes this one"))
                self.selected = True
            else:
                self._complain(complaint)
        else:
            self.outcome = Answered(value)

    def interrupt(self) -> None:
        """Stop asking altogether."""
        self.outcome = Interrupted()

    def end(self) -> None:
        """End of input on an empty line; else the edit that the key stands for."""
        if self.draft.text:
            self._edit(MODELESS["ctrl-d"])
        else:
            self.outcome = Ended()

    def older(self) -> None:
        """Recall the entry before."""
        self._recall(self.recalled - 1)

    def newer(self) -> None:
        """Recall the entry after, at last what was being typed."""
        self._recall(self.recalled + 1)

    def _recall(self, place: int) -> None:
        if not 0 <= place <= len(self.history):
            return
        if self.recalled == len(self.history):
            self.kept = self.draft.text
        self.recalled = place
        self._become(whole(self.kept if place == len(self.history) else self.history[place]))

    def finish_word(self) -> None:
        """Complete the text before the cursor as far as all candidates agree; list them where there are several."""
        if self.complete is None:
            return
        draft = self.draft
        start, candidates = self.complete(draft.text, draft.cursor)
        if not candidates:
            return
        agreed = candidates[0] + " " if len(candidates) == 1 else shared_beginning(candidates)
        if len(agreed) >= draft.cursor - start:
            behind = draft.text[draft.cursor :]
            if len(candidates) == 1 and behind.startswith(" "):
                agreed = agreed[:-1]
            self._become(insert(Draft(draft.text[:start] + behind, start), agreed))
        if len(candidates) > 1:
            self.candidates = candidates[:LISTED]

    #: Key to the name of the method that it calls, so that a kind of line of its own may have another.
    KEYS: ClassVar[dict[str, str]] = {
        "enter": "enter",
        "ctrl-j": "enter",
        "ctrl-c": "interrupt",
        "ctrl-d": "end",
        "up": "older",
        "down": "newer",
        "ctrl-p": "older",
        "ctrl-n": "newer",
        "tab": "finish_word",
    }


def bounded(text: str, columns: int) -> list[str]:
    """A sentence in rows, in no more than so many; none where it is empty."""
    if not text:
        return []
    rows = wrap(text[: MOST_SAID * columns + 1], columns)
    return rows if len(rows) <= MOST_SAID else [*rows[: MOST_SAID - 1], cut(rows[MOST_SAID - 1] + "....", columns)]


def shared_beginning(texts: list[str]) -> str:
    """The longest text that all of these begin with, in the letter case of the first."""
    first, last = min(texts, key=str.casefold), max(texts, key=str.casefold)
    at = 0
    while at < min(len(first), len(last)) and first[at].casefold() == last[at].casefold():
        at += 1
    return texts[0][:at]


def in_columns(texts: list[str], columns: int) -> list[str]:
    """The texts in rows, aligned in as many columns as fit, to be read downwards."""
    texts = [visible(text) for text in texts]
    cell = max(width(text) for text in texts) + 2
    across = max((columns + 2) // cell, 1)
    down = -(-len(texts) // across)
    rows = []
    for row in range(down):
        parts = [cut(text, columns) for text in texts[row::down]]
        padded = [part + " " * (cell - width(part)) for part in parts[:-1]] + parts[-1:]
        rows.append("".join(padded))
    return rows
