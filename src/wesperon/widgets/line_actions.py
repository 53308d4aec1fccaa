"""The acts of a line that few keys are for: loaded with the first of them."""

from __future__ import annotations

from wesperon.editing.brackets import matching
from wesperon.editing.edits import TextState, insert, whole
from wesperon.editing.history_view import Recall
from wesperon.values import Complaint
from wesperon.values.words import split_words
from wesperon.widgets.footer import shared_beginning
from wesperon.widgets.incremental_search import IncrementalSearch
from wesperon.widgets.widget import EDIT_OUTSIDE, Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Mouse
    from wesperon.widgets.line import Line

#: The most candidates of a completion that are listed.
LISTED = 60


def recall_older(line: Line) -> None:
    """Recall the entry before that begins as the line did."""
    _walk(line, lambda walk: walk.older(line.draft.text))


def recall_newer(line: Line) -> None:
    """Recall the entry after, at last what was being typed."""
    _walk(line, lambda walk: walk.newer())


def recall_oldest(line: Line) -> None:
    """Recall the first entry of all."""
    _walk(line, lambda walk: walk.oldest(line.draft.text))


def recall_newest(line: Line) -> None:
    """Back to what was being typed."""
    walk = line.recall
    if walk is not None and walk.way:
        del walk.way[1:]
        recall_newer(line)


def _walk(line: Line, step: Callable[[Recall], str | None]) -> None:
    if line.past is None:
        return
    walk = line.recall or Recall(line.past)
    text = step(walk)
    if text is not None:
        line.become(whole(text))
        line.hint = ""
        line.recall = walk


def load_entries(line: Line) -> None:
    """Take in what other consoles have entered since this one began."""
    if line.past is not None:
        line.past.load()


def search_back(line: Line) -> None:
    """Open the search, towards older entries."""
    _open_finder(line, back=True)


def search_forward(line: Line) -> None:
    """Open the search, towards newer entries."""
    _open_finder(line, back=False)


def _open_finder(line: Line, *, back: bool) -> None:
    if line.past is not None:
        line.give_up()
        line.hint = ""
        line.finder = IncrementalSearch(line, line.past, back=back)


def accept_and_recall(line: Line) -> None:
    """Accept the line, and put the entry that followed it into the next one."""
    following = ""
    if line.past is not None and line.recall is not None and line.recall.place is not None:
        found = line.past.newer(line.recall.place, "", begins=True, seen=(line.draft.text,))
        following = found.text if found else ""
    line.enter()
    if isinstance(line.outcome, Answered):
        line.memory.following = following


def insert_last_word(line: Line) -> None:
    """Put in the last word of the entry before; pressed again, of the one before that, in its place."""
    _insert_word(line, -1 if line.action.count is None else line.action.count, again=True)


def insert_first_word(line: Line) -> None:
    """Put in the first word after the command of the entry before; the word of the count, if there is one."""
    _insert_word(line, line.count, again=False)


def _insert_word(line: Line, number: int, *, again: bool) -> None:
    if line.past is None:
        return
    memory = line.memory
    goes_on = again and line.act_before == line.action.name and memory.word_at is not None
    if goes_on and memory.word_at is not None:
        place, start, end, number = memory.word_at
    else:
        place, start, end = None, line.draft.cursor, line.draft.cursor
    found = line.past.older(place, "", begins=True, seen=())
    if found is None:
        return
    words = _words(found.text)
    word = words[number] if -len(words) <= number < len(words) else ""
    bare = TextState(line.draft.text[:start] + line.draft.text[end:], start)
    line.become(insert(bare, word))
    memory.word_at = (found.place, start, line.draft.cursor, number)


def _words(text: str) -> list[str]:
    """The words of an entry as they were typed, quotes included."""
    try:
        starts = [start for _, start in split_words(text)]
    except Complaint:
        return text.split()
    return [text[start:end].rstrip() for start, end in zip(starts, [*starts[1:], len(text)], strict=True)]


def insert_literal(line: Line) -> None:
    """Put in the character that the key sends."""
    line.type(line.action.text)


def jump_forward(line: Line) -> None:
    """Go to the next place where the character is."""
    line.editor.jump(line.action.text, line.count)
    line.moved()


def jump_back(line: Line) -> None:
    """Go to the place before where the character is."""
    line.editor.jump(line.action.text, -line.count)
    line.moved()


def move_bracket_match(line: Line) -> None:
    """Go to the bracket that belongs to the one at the cursor."""
    pair = matching(line.draft.text, line.draft.cursor)
    if pair is not None:
        line.editor.move(pair[1])
        line.moved()


def move_page_up(line: Line) -> None:
    """Go up by as many lines as are in sight."""
    line.editor.move_lines(1 - line.wrapped.height)
    line.moved()


def move_page_down(line: Line) -> None:
    """Go down by as many lines as are in sight."""
    line.editor.move_lines(line.wrapped.height - 1)
    line.moved()


def record_keys(line: Line) -> None:
    """Begin to record the keys that are pressed."""
    line.memory.recording = []


def record_keys_end(line: Line) -> None:
    """End the recording; the keys that said so are not part of it."""
    recorded = line.memory.recording
    if recorded is not None:
        line.memory.macro = recorded[: -line.resolver.length]
        line.memory.recording = None


def play_keys(line: Line) -> None:
    """Press the recorded keys again, as often as the count says."""
    if line.memory.recording is not None or line.memory.is_playing:
        return
    line.memory.is_playing = True
    keys, times = list(line.memory.macro), line.count
    for key in keys * min(max(times, 0), 1_000):
        if line.outcome is None:
            line.press(key)
    line.memory.is_playing = False


def complete_word(line: Line) -> None:
    """Complete the text before the cursor as far as all candidates agree; list them if there are several."""
    if line.complete is None:
        return
    draft = line.draft
    start, candidates = line.complete(draft.text, draft.cursor)
    if not candidates:
        return
    agreed = candidates[0] + line.ending if len(candidates) == 1 else shared_beginning(candidates)
    if len(agreed) >= draft.cursor - start:
        behind = draft.text[draft.cursor :]
        if len(candidates) == 1 and line.ending and behind.startswith(line.ending):
            agreed = agreed.removesuffix(line.ending)
        line.become(insert(TextState(draft.text[:start] + behind, start), agreed))
    if len(candidates) > 1:
        line.candidates = candidates[:LISTED]


def click(line: Line, event: Mouse) -> None:
    """Put the cursor where the mouse was pressed."""
    if event.name != "left" or event.action != "press":
        return
    line.leave_finder()
    found = line.wrapped.locate(event.row, event.column)
    if found is not None:
        line.editor.drop_region()
        line.editor.move(min(line.offset(*found), len(line.text)))
        line.moved()


def edit_outside(line: Line) -> None:
    """Have the text edited by the user's own editor."""
    line.driver_request = EDIT_OUTSIDE


#: Each act by its name.
LINE_ACTIONS: dict[str, Callable[[Line], None]] = {
    "recall-older": recall_older,
    "recall-newer": recall_newer,
    "recall-oldest": recall_oldest,
    "recall-newest": recall_newest,
    "reload-history": load_entries,
    "search-back": search_back,
    "search-forward": search_forward,
    "accept-and-recall": accept_and_recall,
    "recall-last-word": insert_last_word,
    "recall-first-word": insert_first_word,
    "insert-literal": insert_literal,
    "jump-char-forward": jump_forward,
    "jump-char-back": jump_back,
    "move-bracket-match": move_bracket_match,
    "move-page-up": move_page_up,
    "move-page-down": move_page_down,
    "record-keys": record_keys,
    "record-keys-end": record_keys_end,
    "play-keys": play_keys,
    "complete": complete_word,
    "edit-outside": edit_outside,
}
