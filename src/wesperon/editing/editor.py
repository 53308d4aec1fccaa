"""The editor: a draft with its past, a mark, and what was cut.

Whatever remembers lives here; ``edits`` holds the pure functions. The rules:

- Every edit that changes the text can be undone, in sensible steps: characters typed one after the other are one step
  up to the end of a word, characters deleted one after the other are one step, everything else is a step of its own. A
  movement ends a step. What was undone can be done again until the text changes in another way.
- Edits that take away more than a character cut: the text goes to the ring. Cuts one right after the other are joined
  to one, each on the side on which it was cut.
- ``paste`` brings back the newest cut. Right after it, ``paste-older`` puts the one before in its place, and so
  on round the ring.
- The mark is a place in the text that moves with it. The region lies between it and the cursor. It is active, and
  shown, from the setting of the mark until the text changes. A region that was drawn with Shift is a selection: typing
  and deleting replace it, and any other movement ends it.
- Up and down keep the column that the first of several such movements started from.
- A count repeats an edit, and a negative one turns its direction round.
"""

from __future__ import annotations

from wesperon.editing.graphemes import after, clusters, columns_of, snap_to_grapheme
from wesperon.editing.text_state import TextState, insert, whole, without
from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.editing import edits
    from wesperon.editing.history_view import PutAside
    from wesperon.editing.keys.macros import Macros
else:
    edits = later("wesperon.editing.edits")

#: How many cuts the ring holds; how many steps can be undone, and how many characters their texts may have in all.
RING, STEPS, STEP_CHARS = 60, 1_000, 8_000_000
#: The most that a count may repeat an edit that is no movement or deletion.
REPEATED = 1_000

#: What the edit before was, where it matters to the next one.
TYPED, ERASED, CUT, PASTED, VERTICAL, OTHER = "typed", "erased", "cut", "pasted", "vertical", ""


class Ring(list[str]):
    """What was cut, the newest last, and no more than ``RING`` texts."""

    def add(self, text: str) -> None:
        """Make a text the newest."""
        self.append(text)
        del self[:-RING]


class Memory:
    """What one line leaves to the next, each handed to who needs it: the ring of cuts, registers, recorded keys."""

    def __init__(self) -> None:
        self.ring = Ring()
        #: What was put into a register, by its name.
        self.registers: dict[str, str] = {}
        #: What was searched for last.
        self.needle = ""
        #: The text that the next line begins with.
        self.following = ""
        self._macros: Macros | None = None

    @property
    def macros(self) -> Macros:
        """The keys that were recorded; loaded with the first key."""
        if self._macros is None:
            from wesperon.editing.keys.macros import Macros

            self._macros = Macros()
        return self._macros


class Editor:
    """A text being edited, what can be undone, the mark, and what was cut."""

    def __init__(self, text: str = "", memory: Memory | None = None) -> None:
        self.draft = whole(text)
        self.memory = Memory() if memory is None else memory
        self.undo_steps: list[TextState] = []
        self.undo_chars = 0
        self.redo_steps: list[TextState] = []
        self.before = OTHER
        self.pasted = (0, 0)
        self.cuts_back = 0
        self.mark: int | None = None
        #: Places in the text with a name, which move with it.
        self.marks: dict[str, int] = {}
        self.is_active = False
        self.is_selection = False
        self.goal = 0
        self.overwrites = False

    @property
    def region(self) -> tuple[int, int]:
        """The offsets between which the active region lies; equal ones if there is none."""
        if not self.is_active or self.mark is None:
            return (0, 0)
        return (min(self.mark, self.draft.cursor), max(self.mark, self.draft.cursor))

    def type(self, text: str, times: int = 1) -> None:
        """Put a typed text at the cursor, in place of a selection; where it overwrites, in place of as many chars."""
        joins = self.before == TYPED and not (text[:1].isspace() and not self._left().isspace())
        draft = self._unselected() if self.is_selection else self.draft
        if self.overwrites:
            over = draft
            for _ in range(times * len(list(clusters(text)))):
                over = TextState(over.text, min(after(over.text, over.cursor), edits.line_end(over.text, over.cursor)))
            draft = without(draft, draft.cursor, over.cursor)
        self._change(insert(draft, text * times), TYPED, joins=joins, at=draft.cursor)

    def put(self, text: str) -> None:
        """Put a text at the cursor that came in one piece; a step of its own."""
        draft = self._unselected() if self.is_selection else self.draft
        self._change(insert(draft, text), OTHER, at=draft.cursor)

    def replace(self, draft: TextState) -> None:
        """Take another text altogether; a step of its own."""
        self._change(draft, OTHER)

    def put_aside(self) -> PutAside:
        """Return what there is of this text, for :meth:`resume`."""
        from wesperon.editing.history_view import PutAside

        return PutAside(self.draft.text, self.undo_steps, self.undo_chars, self.redo_steps)

    def resume(self, aside: PutAside) -> None:
        """Go on with another text, with what can be undone of it; the cursor is at its end, the mark at its start."""
        self.undo_steps, self.undo_chars, self.redo_steps = aside.undo_steps, aside.undo_chars, aside.redo_steps
        self.draft, self.mark, self.before = whole(aside.text), 0, OTHER
        self.is_active = self.is_selection = False

    def move(self, cursor: int) -> None:
        """Put the cursor at an offset, or after the cluster around it."""
        self.draft = TextState(self.draft.text, snap_to_grapheme(self.draft.text, cursor))
        self.before = OTHER

    def apply(self, name: str, count: int | None = None) -> None:
        """Do the edit of this name, as often as the count says."""
        times = 1 if count is None else count
        own = STATEFUL_EDITS.get(name)
        if own is not None:
            own(self, times)
        elif name.startswith("select-"):
            self._select("move-" + name.removeprefix("select-"), times)
        elif name in edits.MOVES:
            self._end_selection()
            self._go(name, times)
        elif name in edits.DELETIONS:
            self._delete(name, times, is_cut=count is not None or not name.startswith("delete-char-"))
        else:
            draft = edits.CHANGES[name](self.draft, max(-REPEATED, min(times, REPEATED)))
            if draft.text == self.draft.text:
                self.draft, self.before = draft, OTHER
            else:
                self._change(draft, OTHER)

    def join_steps(self, steps: int, draft: TextState) -> None:
        """Make one step of all steps after the first ``steps``; undoing it gives ``draft`` back."""
        while len(self.undo_steps) > steps:
            self.undo_chars -= len(self.undo_steps.pop().text)
        if draft.text != self.draft.text:
            self._remember(draft)
        self.before = OTHER

    def undo(self, times: int = 1) -> None:
        """Take the last steps back."""
        for _ in range(min(times, len(self.undo_steps))):
            self.redo_steps.append(self.draft)
            self._become(self.undo_steps.pop())
            self.undo_chars -= len(self.draft.text)
        self.before = OTHER

    def undo_all(self, times: int = 1) -> None:
        """Take every step back."""
        self.undo(len(self.undo_steps))

    def redo(self, times: int = 1) -> None:
        """Do again the steps that were taken back last."""
        for _ in range(min(times, len(self.redo_steps))):
            self._remember(self.draft)
            self._become(self.redo_steps.pop())
        self.before = OTHER

    def paste_cut(self, times: int = 1, register: str = "") -> None:
        """Put in what was cut last, or what is in a register."""
        self.cuts_back = 0
        ring, registers = self.memory.ring, self.memory.registers
        text = registers.get(register, "") if register else ring[-1] if ring else ""
        if text:
            draft = self._unselected() if self.is_selection else self.draft
            self._change(insert(draft, text), PASTED, at=draft.cursor)
            self.pasted = (draft.cursor, self.draft.cursor)
            self.mark = snap_to_grapheme(self.draft.text, draft.cursor)

    def paste_older_cut(self, times: int = 1) -> None:
        """Right after a cut was brought back, put the one before it in its place."""
        ring = self.memory.ring
        if self.before != PASTED or not ring:
            return
        self.cuts_back = (self.cuts_back + times) % len(ring)
        bare = without(self.draft, *self.pasted)
        self._change(insert(bare, ring[-1 - self.cuts_back]), PASTED, joins=True, at=bare.cursor)
        self.pasted = (bare.cursor, self.draft.cursor)

    def set_mark(self, times: int = 1) -> None:
        """Put the mark at the cursor."""
        self.mark, self.is_active, self.is_selection, self.before = self.draft.cursor, True, False, OTHER

    def exchange_mark(self, times: int = 1) -> None:
        """Exchange the mark and the cursor; the mark is at the start where none was set."""
        self.mark, cursor = self.draft.cursor, self.mark or 0
        self.is_active = True
        self.move(cursor)

    def drop_region(self, times: int = 1) -> None:
        """Make the region inactive; the mark stays."""
        self.is_active = self.is_selection = False
        self.before = OTHER

    def delete_region(self, times: int = 1) -> None:
        """Cut what lies between the mark and the cursor."""
        if self.mark is not None:
            start, end = sorted((self.mark, self.draft.cursor))
            self._cut(start, end, back=self.mark < self.draft.cursor)

    def copy_region(self, times: int = 1) -> None:
        """Put what lies between the mark and the cursor into the ring."""
        if self.mark is not None:
            start, end = sorted((self.mark, self.draft.cursor))
            self._keep(self.draft.text[start:end])
            self.drop_region()

    def delete_region_or_word(self, times: int = 1) -> None:
        """Cut the region where it is active, else back to a blank."""
        start, end = self.region
        if start < end:
            self.delete_region()
        else:
            self._delete("delete-blank-word-back", max(times, 1), is_cut=True)

    def delete_line_whole(self, times: int = 1) -> None:
        """Cut the line, with the line end before or after it."""
        text, cursor = self.draft.text, self.draft.cursor
        start, end = edits.line_start(text, cursor), edits.line_end(text, cursor)
        if end < len(text):
            end += 1
        elif start > 0:
            start -= 1
        self._cut(start, end, back=False)

    def delete_text_whole(self, times: int = 1) -> None:
        """Cut the whole text."""
        self._cut(0, len(self.draft.text), back=False)

    def move_up(self, times: int = 1) -> None:
        """Go to the line above, in the same column."""
        self.move_lines(-times)

    def move_down(self, times: int = 1) -> None:
        """Go to the line below, in the same column."""
        self.move_lines(times)

    def move_lines(self, down: int) -> None:
        """Go ``down`` by lines, or as many as there are; up if it is negative."""
        self._end_selection()
        text, cursor = self.draft.text, self.draft.cursor
        start = edits.line_start(text, cursor)
        if self.before != VERTICAL:
            self.goal = self.column()
        there = start
        for _ in range(abs(down)):
            following = edits.line_end(text, there) + 1 if down > 0 else edits.line_start(text, max(there - 1, 0))
            if following > len(text) or (down < 0 and there == 0):
                break
            there = following
        if there != start:
            self.move(in_column(text, there, self.goal))
        self.before = VERTICAL

    def column(self) -> int:
        """Return the column of the cursor in its line."""
        text, cursor = self.draft.text, self.draft.cursor
        return sum(map(columns_of, clusters(text[edits.line_start(text, cursor) : cursor])))

    def overwrite(self, times: int = 1) -> None:
        """Turn overwriting on or off: typed characters replace those at the cursor."""
        self.overwrites = not self.overwrites
        self.before = OTHER

    def jump(self, char: str, times: int = 1) -> None:
        """Go to the next place where the character is, or before where the number is negative; as far as it goes."""
        self._end_selection()
        text = self.draft.text
        self.move(
            edits.go(
                text,
                self.draft.cursor,
                lambda text, at: max(text.find(char, at + 1), at),
                lambda text, at: text.rfind(char, 0, at) if char in text[:at] else at,
                times,
            )
        )

    def _go(self, name: str, times: int) -> None:
        self.draft = TextState(self.draft.text, edits.reach(*edits.counted(name, times), self.draft))
        self.before = OTHER

    def _select(self, name: str, times: int) -> None:
        """Draw a selection from where the cursor is along a movement."""
        if not self.is_selection:
            self.set_mark()
        self.is_selection = False  # the movement does not end it
        if name in edits.MOVES:
            self._go(name, times)
        else:
            STATEFUL_EDITS[name](self, times)
        self.is_active = self.is_selection = True

    def _end_selection(self) -> None:
        if self.is_selection:
            self.drop_region()

    def _unselected(self) -> TextState:
        """Return the draft without what is selected."""
        return without(self.draft, *self.region)

    def _left(self) -> str:
        return self.draft.text[self.draft.cursor - 1 : self.draft.cursor] or " "

    def _delete(self, name: str, times: int, *, is_cut: bool) -> None:
        if self.is_selection:
            self.delete_region()
            return
        here, there = self.draft.cursor, edits.reach(*edits.counted(name, times), self.draft)
        start, end = min(here, there), max(here, there)
        if is_cut:
            self._cut(start, end, back=there < here)
        elif start < end:
            self._change(without(self.draft, start, end), ERASED, joins=self.before == ERASED, at=start)
        else:
            self.before = OTHER

    def _cut(self, start: int, end: int, *, back: bool) -> None:
        """Take away what is between two offsets, and keep it in the ring."""
        if start == end:
            self.before = OTHER
            return
        ring, taken = self.memory.ring, self.draft.text[start:end]
        if self.before == CUT and ring:
            ring[-1] = taken + ring[-1] if back else ring[-1] + taken
        else:
            self._keep(taken)
        self._change(without(self.draft, start, end), CUT, at=start)

    def _keep(self, text: str) -> None:
        self.memory.ring.add(text)

    def _change(self, draft: TextState, kind: str, *, joins: bool = False, at: int | None = None) -> None:
        """Take over a draft with another text; ``joins``: the step before goes on; ``at``: where it differs first."""
        if not joins:
            self._remember(self.draft)
        self.redo_steps.clear()
        self._become(draft, at)
        self.is_active = self.is_selection = False
        self.before = kind

    def _remember(self, draft: TextState) -> None:
        self.undo_steps.append(draft)
        self.undo_chars += len(draft.text)
        while len(self.undo_steps) > STEPS or (self.undo_chars > STEP_CHARS and len(self.undo_steps) > 1):
            self.undo_chars -= len(self.undo_steps.pop(0).text)

    def _become(self, draft: TextState, at: int | None = None) -> None:
        """Show another text; the marks stay with the characters around them."""
        if self.marks:
            old, new = self.draft.text, draft.text
            self.marks = {name: _carried(place, old, new, at, joins=True) for name, place in self.marks.items()}
        if self.mark is not None:
            self.mark = snap_to_grapheme(draft.text, _carried(self.mark, self.draft.text, draft.text, at))
        self.draft = draft


def in_column(text: str, start: int, goal: int) -> int:
    """Return the offset in the line that begins at ``start`` that is nearest to a column, and not after it."""
    line = text[start : edits.line_end(text, start)]
    if line.isascii():
        return start + min(goal, len(line))
    used, at = 0, start
    for cluster in clusters(line):
        used += columns_of(cluster)
        if used > goal:
            break
        at += len(cluster)
    return at


def _carried(at: int, old: str, new: str, differs: int | None, *, joins: bool = False) -> int:
    """Return where an offset of the old text is in the new one.

    ``differs`` is where they differ first, if that is known. ``joins``: the offset is that of a character, which goes
    on if something is put in before it.
    """
    from wesperon.editing.line_index import shared_end, shared_start

    same = shared_start(old, new) if differs is None else differs
    if at < same or (at == same and not joins):
        return at
    tail = shared_end(old, new, same)
    return max(same, at + len(new) - len(old)) if at >= len(old) - tail else min(same, len(new))


#: The edits that need to remember, by name; each is called with a count.
STATEFUL_EDITS: dict[str, Callable[[Any, int], None]] = {
    "move-up": Editor.move_up,
    "move-down": Editor.move_down,
    "undo": Editor.undo,
    "undo-all": Editor.undo_all,
    "redo": Editor.redo,
    "paste": Editor.paste_cut,
    "paste-older": Editor.paste_older_cut,
    "set-mark": Editor.set_mark,
    "exchange-mark": Editor.exchange_mark,
    "drop-region": Editor.drop_region,
    "copy-region": Editor.copy_region,
    "delete-region": Editor.delete_region,
    "delete-region-or-word-back": Editor.delete_region_or_word,
    "delete-line-whole": Editor.delete_line_whole,
    "delete-text-whole": Editor.delete_text_whole,
    "toggle-overwrite": Editor.overwrite,
}
