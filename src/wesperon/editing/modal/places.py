"""Motions that depend on more than the text: on what was looked for, on marks, on what is in sight."""

from __future__ import annotations

from wesperon.editing.edits import line_end, line_start
from wesperon.editing.graphemes import before
from wesperon.editing.modal.motions import FINDS, JUMPS, REPEATS, REVERSED, Target, sign_from
from wesperon.editing.modal.text_objects import sort_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.editor import Editor

#: The mark of the place that the last jump left, by both of its names, and those of the last selection.
LEFT, SELECTION_START, SELECTION_END = "`", "<", ">"
#: Searching the text: forwards or back.
SEARCHES = {"search-text-forward": 1, "search-text-back": -1}
AGAIN = {"repeat-search": 1, "repeat-search-reversed": -1}
WORDS = {"search-word-forward": 1, "search-word-back": -1}
SIGHT = ("move-to-top", "move-to-middle", "move-to-bottom")
MARKS = ("move-to-mark", "move-to-mark-line")
#: All of them.
NAMES = frozenset((*FINDS, *REPEATS, *SEARCHES, *AGAIN, *WORDS, *SIGHT, *MARKS))


class Places:
    """Where such motions lead in the text of an ``editor``.

    ``sight`` gives the first and the last line in sight, from 0; None as long as all of them are.
    """

    def __init__(self, editor: Editor) -> None:
        self.editor = editor
        self.sight: Callable[[], tuple[int, int]] | None = None
        #: The search for a character that may be repeated: its action, and the character.
        self.found: tuple[str, str] | None = None
        #: Which way the last search went, and whether it was for a whole word.
        self.way, self.is_word = 1, False

    def target(self, name: str, text: str, count: int | None) -> Target | None:
        """Return where a motion leads; ``text`` is the character or the needle that goes with it."""
        times = count or 1
        if name in FINDS or name in REPEATS:
            return self._find(name, text, times)
        if name in SIGHT:
            return self._in_sight(name, times)
        if name in MARKS:
            return self._marked(text, lines=name == "move-to-mark-line")
        at = self.editor.draft.cursor
        if name in SEARCHES:
            self.way, self.is_word = SEARCHES[name], False
            self.editor.memory.needle = text or self.editor.memory.needle
            return self._search(at, self.way, times)
        if name in WORDS:
            return self._search_word(WORDS[name], times)
        return self._search(at, self.way * AGAIN[name], times)

    def leave(self, name: str) -> None:
        """Remember the place that a jump leaves."""
        if name in JUMPS:
            self.editor.marks[LEFT] = self.editor.draft.cursor

    def mark(self, name: str) -> bool:
        """Give the cursor's place a name, a letter or that of the last jump."""
        name = LEFT if name == "'" else name
        if name != LEFT and not (name.isascii() and name.isalpha() and name.islower()):
            return False
        self.editor.marks[name] = self.editor.draft.cursor
        return True

    def find(self, needle: str, way: int) -> int:
        """Return the offset of the next place of a needle; -1 if there is none."""
        word, self.is_word = self.is_word, False
        at = self._next(self.editor.draft.text, needle, self.editor.draft.cursor, way)
        self.is_word = word
        return at

    def _marked(self, name: str, *, lines: bool) -> Target | None:
        text = self.editor.draft.text
        at = self.editor.marks.get(LEFT if name == "'" else name, 0 if name in (LEFT, "'") else -1)
        if at < 0:
            return None
        return Target(sign_from(text, at), lines=True) if lines else Target(min(at, len(text)))

    def _in_sight(self, name: str, count: int) -> Target:
        text = self.editor.draft.text
        lines = text.count("\n")
        first, last = (0, lines) if self.sight is None else [min(line, lines) for line in self.sight()]
        line = first + count - 1 if name == SIGHT[0] else last - count + 1 if name == SIGHT[2] else (first + last) // 2
        there = 0
        for _ in range(min(max(line, first), last)):
            there = line_end(text, there) + 1
        return Target(sign_from(text, there), lines=True)

    def _find(self, name: str, char: str, count: int) -> Target | None:
        again = name in REPEATS
        if not again:
            self.found = (name, char)
        if self.found is None:
            return None
        known, char = self.found
        if name == "repeat-find-reversed":
            known = REVERSED[known]
        text, at = self.editor.draft.text, self.editor.draft.cursor
        step, short = FINDS[known]
        start, end = line_start(text, at), line_end(text, at)
        there = at
        if again and short and count == 1 and text[at + step : at + step + 1] == char:
            there += step  # it is right before that one already
        for _ in range(count):
            there = text.find(char, there + 1, end) if step > 0 else text.rfind(char, start, max(there, start))
            if there < 0:
                return None
        return Target(there - step * short, inclusive=step > 0)

    def _search(self, at: int, way: int, times: int) -> Target | None:
        """Return the next place of the needle, round the end of the text."""
        text, needle = self.editor.draft.text, self.editor.memory.needle
        if not needle:
            return None
        for _ in range(times):
            found = self._next(text, needle, at, way)
            if found < 0:
                return None
            at = found
        return Target(at)

    def _next(self, text: str, needle: str, at: int, way: int) -> int:
        first = at
        for turn in range(2):  # once to the end, once more from the other one
            while True:
                at = text.find(needle, at + 1) if way > 0 else text.rfind(needle, 0, max(at - 1 + len(needle), 0))
                if at < 0 or (turn and (at > first if way > 0 else at < first)):
                    break
                if not self.is_word or _is_word(text, at, at + len(needle)):
                    return at
            at = -1 if way > 0 else len(text) + 1
        return -1

    def _search_word(self, way: int, times: int) -> Target | None:
        """Return the next place of the word at the cursor or after it."""
        text, at = self.editor.draft.text, self.editor.draft.cursor
        end = line_end(text, at)
        start = next((place for place in range(at, end) if sort_of(text, place, False) == 2), -1)
        if start < 0:
            start = next((place for place in range(at, end) if sort_of(text, place, False)), -1)
        if start < 0:
            return None
        sort = sort_of(text, start, False)
        first = line_start(text, at)
        while start > first and sort_of(text, before(text, start), False) == sort:
            start = before(text, start)
        last = start
        while last < end and sort_of(text, last, False) == sort:
            last += 1
        self.editor.memory.needle, self.way, self.is_word = text[start:last], way, sort == 2
        return self._search(start, way, times)


def _is_word(text: str, start: int, end: int) -> bool:
    """Return True if a word begins and ends at two offsets."""
    return (start == 0 or sort_of(text, start - 1, False) != 2) and sort_of(text, end, False) != 2
