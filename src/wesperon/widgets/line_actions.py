"""The acts of a line that few keys are for: loaded with the first of them."""

from __future__ import annotations

from wesperon.editing.brackets import matching
from wesperon.editing.edits import TextState, insert, whole
from wesperon.editing.history_view import HistorySearch, Recall
from wesperon.values import Complaint
from wesperon.values.words import split_words
from wesperon.widgets.candidate_list import INLINE
from wesperon.widgets.footer import shared_beginning
from wesperon.widgets.incremental_search import IncrementalSearch
from wesperon.widgets.widget import EDIT_OUTSIDE, Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Key, Mouse
    from wesperon.values.candidate import Candidate
    from wesperon.widgets.finder import Ending
    from wesperon.widgets.line import Line

#: The most candidates of a completion that are listed.
LISTED = 60
#: The most keys that one key may play, and how often keys that are played may play others.
MOST_PLAYED, DEEPEST = 10_000, 50


class InsertedWord:
    """The last-word insertion in progress, now between the offsets ``start`` and ``end``.

    ``number`` is which one it is, ``steps`` how many entries are between the line and that entry, ``back`` 1 if the
    next one is older, else -1.
    """

    def __init__(self, start: int, end: int, number: int) -> None:
        self.start, self.end, self.number = start, end, number
        self.steps, self.back = 0, 1


def recall_older(line: Line) -> None:
    """Recall the entry before that begins as the line did, as often as the count says."""
    _recall(line, line.count)


def recall_newer(line: Line) -> None:
    """Recall the entry after, at last what was being typed, as often as the count says."""
    _recall(line, -line.count)


def _recall(line: Line, steps: int) -> None:
    line.walk(lambda walk: walk.go(steps, line.text))


def recall_oldest(line: Line) -> None:
    """Recall the first entry of all."""
    line.walk(Recall.oldest)


def recall_newest(line: Line) -> None:
    """Back to what was being typed."""
    line.walk(Recall.newest)


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
        search = HistorySearch(line.past, line.recall.place if line.recall else None, line.draft, back=back)
        line.finder = IncrementalSearch(search, line.memory.needle, in_modal=line.modal is not None)


def end_search(line: Line, ending: Ending) -> bool:
    """Close the search of a line. Return True if the action that ended it is still to be done."""
    finder, line.finder = line.finder, None
    assert finder is not None
    before = line.text
    if finder.is_remembered and finder.needle:
        line.memory.needle = finder.needle
    found = finder.found if ending.takes else None
    if found is not None:
        entry = found.entry
        if entry is not None:
            line.walk(lambda walk: walk.start(entry))
        line.editor.move(found.at)
        line.moved()
    if line.modal is not None and not ending.passes_on:
        line.modal.end_search(ending, before)
    return ending.passes_on


def accept_and_recall(line: Line) -> None:
    """Accept the line, and put the entry that followed it into the next one."""
    following = ""
    if line.past is not None and line.recall is not None and line.recall.entry is not None:
        found = line.past.newer(line.recall.entry.place, "", begins=True, seen=(line.draft.text,))
        following = found.text if found else ""
    line.enter()
    if isinstance(line.outcome, Answered):
        line.memory.following = following


def insert_last_word(line: Line) -> None:
    """Put in the last word of the entry before, or the word of the count.

    Pressed again, it takes the entry before that one; a negative count then turns the direction round.
    """
    count = line.action.count
    inserted = line.inserted_word if line.act_before == line.action.name else None
    if inserted is None:
        number = -1 if count is None else count if count >= 0 else count - 1
        inserted = InsertedWord(line.draft.cursor, line.draft.cursor, number)
    else:
        inserted.back *= -1 if count is not None and count < 0 else 1
        inserted.steps = max(inserted.steps + inserted.back, 0)
    _insert_word(line, inserted)


def insert_first_word(line: Line) -> None:
    """Put in the first word after the command of the entry before; the word of the count, if there is one."""
    number = line.count if line.count >= 0 else line.count - 1
    _insert_word(line, InsertedWord(line.draft.cursor, line.draft.cursor, number))


def _insert_word(line: Line, inserted: InsertedWord) -> None:
    """Put the word of an entry in the place of what was put in before, as far as there is one."""
    place = line.recall.entry.place if line.recall is not None and line.recall.entry is not None else None
    text = ""
    for _ in range(inserted.steps + 1):
        found = line.past.older(place, "", begins=True, seen=()) if line.past is not None else None
        if found is None:
            return
        place = found.place
        text = line.aside[place].text if place in line.aside else found.text
    words, number = _words(text), inserted.number
    word = words[number] if -len(words) <= number < len(words) else ""
    bare = line.draft.text[: inserted.start] + line.draft.text[inserted.end :]
    line.become(insert(TextState(bare, inserted.start), word))
    inserted.end = line.draft.cursor
    line.inserted_word = inserted


def _words(text: str) -> list[str]:
    """The words of an entry as they were typed, quotes included."""
    try:
        starts = [start for _, start in split_words(text)]
    except Complaint:
        return text.split()
    return [text[start:end].rstrip() for start, end in zip(starts, [*starts[1:], len(text)], strict=True)]


def insert_literal(line: Line) -> None:
    """Put in the character that the key sends."""
    line.type(line.action.text, line.count)


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
    line.memory.macros.begin()


def record_keys_end(line: Line) -> None:
    """End the recording; the keys that said so are not part of it."""
    line.memory.macros.end(line.resolver.length)


def play_keys(line: Line) -> None:
    """Press the recorded keys again, as often as the count says."""
    play(line, list(line.memory.macros.last), line.count)


def play(line: Line, keys: list[Key], times: int) -> None:
    """Press keys as often as is said, until one of them fails; not while they are being recorded."""
    again = line.memory.macros.pressed_again(keys, times)
    for key in again:
        if line.outcome is not None:
            break
        line.take(key)
        if line.modal is not None and line.modal.commands.failed:
            break
    again.close()


def complete_word(line: Line) -> None:
    """Complete the text before the cursor as far as all candidates agree; list them if there are several."""
    if line.complete is None:
        return
    if line.suggest_as == INLINE and line.inline_walk is not None and line.act_before == line.action.name:
        _walk_candidates(line, line.inline_walk)
        return
    draft = line.draft
    start, candidates = line.complete(draft.text, draft.cursor)
    if not candidates:
        return
    single = len(candidates) == 1
    agreed = candidates[0].text if single else shared_beginning([one.text for one in candidates])
    ending = line.ending if single and not candidates[0].goes_on else ""
    typed = draft.text[start : draft.cursor]
    only_quoted = not single and agreed[1:] == typed  # nothing is gained but a quote
    if (len(agreed) + len(ending) > len(typed) and not only_quoted) or (single and agreed != typed):
        tail = draft.text[draft.cursor :]
        if ending and tail.startswith(ending):
            ending = ""
        line.become(insert(TextState(draft.text[:start] + tail, start), agreed + ending))
    if not single:
        line.candidates = candidates[:LISTED]
        line.inline_walk = InlineWalk(start, line.draft.cursor, candidates)


def _walk_candidates(line: Line, walk: InlineWalk) -> None:
    """Put the next candidate in the place of the one before."""
    walk.at = (walk.at + 1) % len(walk.candidates)
    text = line.draft.text
    line.become(insert(TextState(text[: walk.start] + text[walk.end :], walk.start), walk.candidates[walk.at].text))
    walk.end = line.draft.cursor
    line.inline_walk = walk


class InlineWalk:
    """Candidates that come into the line one after the other; between which offsets the one is that is there now."""

    def __init__(self, start: int, end: int, candidates: list[Candidate]) -> None:
        self.start = start
        self.end = end
        self.candidates = candidates
        self.at = -1


def list_candidates(line: Line) -> None:
    """List what the text before the cursor may become."""
    if line.complete is not None:
        line.candidates = line.complete(line.draft.text, line.draft.cursor)[1][:LISTED]


def insert_candidates(line: Line) -> None:
    """Put in everything that the text before the cursor may become."""
    if line.complete is not None:
        draft = line.draft
        start, candidates = line.complete(draft.text, draft.cursor)
        if candidates:
            bare = TextState(draft.text[:start] + draft.text[draft.cursor :], start)
            line.become(insert(bare, "".join(candidate.text + " " for candidate in candidates)))


def accept_as_comment(line: Line) -> None:
    """Put the sign of comments before the text and accept it, if it can have comments."""
    if line.comment_sign and line.text:
        line.become(whole(line.comment_sign + line.text))
        line.enter()


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
    line.want(EDIT_OUTSIDE)


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
    "list-candidates": list_candidates,
    "insert-candidates": insert_candidates,
    "accept-as-comment": accept_as_comment,
    "edit-outside": edit_outside,
}
