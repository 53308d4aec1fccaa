"""A line under which is what it may well become: a list that follows what is typed.

Up and Down go through the list, and the line has what is current there; Tab completes as far as all that begin so
agree. Any other text will do as well: Enter takes what is in the line.
"""

from __future__ import annotations

from wesperon.editing.completing import shared_beginning
from wesperon.editing.text_state import TextState, insert
from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values.candidate import GRID, INLINE, LIST
from wesperon.widgets.filtering import LOOKED_AHEAD, marked
from wesperon.widgets.line import Line
from wesperon.widgets.suggestion_filter import SuggestionFilter

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, ClassVar

    from wesperon.screen.frame import Row
    from wesperon.values.suggestions import Suggestions
    from wesperon.widgets.widget import Growing

#: The most rows of the list, and the most candidates in it.
ROWS, LISTED = 8, 400


class Suggested(Line):
    """Asks for a text of which some are known; ``style`` is how these are shown, ``by_word``: each word is one."""

    def __init__(
        self, *given: Any, suggestions: Suggestions, style: str = "", by_word: bool = False, **settings: Any
    ) -> None:
        self.offers = SuggestionFilter(suggestions)
        self.by_word = by_word
        #: What was typed before the list was gone into, and the place in the list; None outside it.
        self.typed: TextState | None = None
        self.current = -1
        super().__init__(*given, **settings)
        self.editor.suggest_as = style

    @property
    def growing(self) -> Sequence[tuple[Growing, int]]:
        """The candidates: what is in sight and a screen more, or all that a search is to go through."""
        suggestions = self.offers.suggestions
        if not suggestions.is_growing:
            return ()
        shown = max(self.current, 0) + 2 * ROWS
        # Those that begin so come first wherever they are, so that all are looked at once something is typed.
        return ((suggestions.source, self.offers.search.wanted(LOOKED_AHEAD) if self.offers.parts else shown),)

    def work(self) -> bool:
        """Go on with the search. Return True if there was something to do."""
        if not self.offers.work():
            return False
        if self.editor.suggest_as == INLINE and self.typed is None:
            self._hint()
        return True

    def usual_foot(self) -> str:
        """See ``Line``; before it, why there are no further suggestions."""
        error = self.offers.suggestions.source.ended_early
        if not error:
            return super().usual_foot()
        return tell("No suggestions: {error}", error=visible(error)) + "   " + super().usual_foot()

    def _word_start(self, draft: TextState) -> int:
        """Return where the text begins that the candidates are for."""
        return draft.text.rfind(" ", 0, draft.cursor) + 1 if self.by_word else 0

    def changed(self) -> None:
        """Leave the list."""
        super().changed()
        self.typed, self.current = None, -1
        draft = self.draft
        word = draft.text[self._word_start(draft) : draft.cursor if self.by_word else None]
        self.offers.seek(word or None)
        self.editor.hint = ""

    def _hint(self) -> None:
        """Show the rest of the first candidate after the cursor."""
        draft = self.draft
        self.editor.hint = ""
        if draft.cursor == len(draft.text) and self.offers.beginning:
            word = draft.text[self._word_start(draft) :]
            self.editor.hint = visible(self.offers.text(self.offers.beginning[0]))[len(word) :]

    def newer(self) -> None:
        """Down in the list; from the last back to what was typed."""
        self._go(1)

    def older(self) -> None:
        """Up in the list."""
        self._go(-1)

    def _go(self, step: int) -> None:
        if not self.offers.is_open:
            self.offers.seek("")
        while self.offers.work():
            pass
        found = self.offers.found(LISTED)
        if not found:
            return
        before = self.typed or self.draft
        self.current = (self.current + 1 + step) % (len(found) + 1) - 1
        start = self._word_start(before)
        if self.current < 0:
            draft = before
        else:
            tail = before.text[before.cursor :] if self.by_word else ""
            draft = insert(TextState(before.text[:start] + tail, start), self.offers.text(found[self.current]))
        self.editor.replace(draft)
        self.editor.moved()
        self.complaint = None
        self.typed = before

    def finish(self) -> None:
        """Complete as far as all candidates that begin so agree; else go into the list."""
        if not self.offers.is_open:
            self.offers.seek("")
        while self.offers.work():
            pass
        offers, draft = self.offers, self.draft
        beginning = offers.beginning
        start = self._word_start(draft)
        agreed = shared_beginning([offers.text(at) for at in beginning]) if beginning else ""
        if self.typed is None and len(agreed) > (draft.cursor if self.by_word else len(draft.text)) - start:
            tail = draft.text[draft.cursor :] if self.by_word else ""
            self.editor.become(insert(TextState(draft.text[:start] + tail, start), agreed))
        elif offers.count > 1 or not beginning:
            self.newer()

    def give_up(self) -> None:
        """Back to what was typed; then without the list."""
        if self.typed is not None:
            self.editor.replace(self.typed)
            self.typed, self.current = None, -1
        else:
            self.offers.seek(None)
        super().give_up()

    def listing(self, columns: int) -> list[Row]:
        """See ``Line``; the suggestions below it."""
        rows = super().listing(columns)
        if (self.editor.suggest_as == INLINE and self.typed is None) or (self.complaint is not None and not self.live):
            return rows
        found = self.offers.found(LISTED)
        draft = self.typed or self.draft
        if not found or (self.current < 0 and [self.offers.text(at) for at in found] == [draft.text]):
            return rows
        return [*rows, *self._list(found, columns)]

    def _list(self, found: list[int], columns: int) -> list[Row]:
        """Return the candidates that are in sight, and how many there are beyond the list."""
        style = self.editor.suggest_as
        if not style or style == INLINE:
            style = LIST if any(self.offers.note(at) for at in found[:ROWS]) else GRID
        labels = [visible(self.offers.text(at)) for at in found]
        rows = self._column(found, labels, columns) if style == LIST else self._columns(labels, columns)
        more = self.offers.count - len(found)
        if more > 0:
            rows.append(((cut(tell("and {count} more", count=f"{more:,}"), columns), "note"),))
        return rows

    def _column(self, found: list[int], labels: list[str], columns: int) -> list[Row]:
        top = max(min(self.current - ROWS // 2, len(found) - ROWS), 0)
        sight = range(top, min(top + ROWS, len(found)))
        widest = min(max(width(labels[at]) for at in sight), 2 * columns // 3)
        rows: list[Row] = []
        for at in sight:
            label = cut(labels[at], columns)
            note = visible(self.offers.note(found[at]))
            gap = max(widest - width(label), 0) + 2
            room = columns - width(label) - gap
            tail = ((" " * gap, ""), (cut(note, room), "note")) if note and room > 3 else ()
            rows.append((*self._marked(at, label), *tail))
        return self._beyond(rows, top, len(found) - len(sight) - top, columns)

    def _columns(self, labels: list[str], columns: int) -> list[Row]:
        """As many beside each other as fit, to be read downwards."""
        cell = min(max(map(width, labels)) + 2, columns + 2)
        across = max((columns + 2) // cell, 1)
        down = min(-(-len(labels) // across), ROWS)
        page = across * down
        top = max(self.current, 0) // page * page
        sight = labels[top : top + page]
        down = min(-(-len(sight) // across), ROWS)
        rows: list[Row] = []
        for line in range(down):
            row: Row = ()
            for at in range(line, len(sight), down):
                label = cut(sight[at], columns)
                gap = " " * (cell - width(label)) if at + down < len(sight) else ""
                row = (*row, *self._marked(top + at, label), *(((gap, ""),) if gap else ()))
            rows.append(row)
        return self._beyond(rows, top, len(labels) - top - len(sight), columns)

    def _beyond(self, rows: list[Row], above: int, below: int, columns: int) -> list[Row]:
        """Return the rows, with how many of the list are out of sight, unless the last row says so anyway."""
        if (above or below) and self.offers.count <= LISTED:
            said = tell("{at} of {count}", at=f"{max(self.current + 1, 1):,}", count=f"{self.offers.count:,}")
            rows.append(((cut(said, columns), "note"),))
        return rows

    def _marked(self, at: int, label: str) -> Row:
        """Return a candidate, with what matched in it."""
        if at == self.current:
            return marked(label, self.offers.parts, "current", "current-match")
        return marked(label, self.offers.parts, "", "match")

    FOOT = "Enter: accept   Down: list   Tab: complete   Ctrl-C: stop"
    ACTIONS: ClassVar[dict[str, str]] = {
        **Line.ACTIONS,
        "recall-newer": "newer",
        "recall-older": "older",
        "complete": "finish",
    }
