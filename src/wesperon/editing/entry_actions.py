"""What keys do with the entries around a text, by the name of the action: loaded with the first of them."""

from __future__ import annotations

from wesperon.editing.brackets import matching
from wesperon.editing.completing import complete_word, insert_candidates, list_candidates
from wesperon.editing.history_view import HistorySearch, Recall
from wesperon.editing.incremental_search import IncrementalSearch
from wesperon.editing.insertions import InsertedWord
from wesperon.editing.text_state import TextState, insert
from wesperon.values import Complaint
from wesperon.values.words import split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.entry_editor import EntryEditor
    from wesperon.editing.finder import Ending
    from wesperon.editing.keys.events import Action


# Recalling -----------------------------------------------------------------------------------------------------------


def recall_older(editor: EntryEditor, action: Action) -> None:
    """Recall the entry before that begins as the text did, as often as the count says."""
    editor.recall_by(lambda recall: recall.go(action.times, editor.draft.text))


def recall_newer(editor: EntryEditor, action: Action) -> None:
    """Recall the entry after, at last what was being typed, as often as the count says."""
    editor.recall_by(lambda recall: recall.go(-action.times, editor.draft.text))


def recall_oldest(editor: EntryEditor, action: Action) -> None:
    """Recall the first entry of all."""
    editor.recall_by(Recall.oldest)


def recall_newest(editor: EntryEditor, action: Action) -> None:
    """Back to what was being typed."""
    editor.recall_by(Recall.newest)


def load_entries(editor: EntryEditor, action: Action) -> None:
    """Take in what other consoles have entered since this one began."""
    if editor.past is not None:
        editor.past.load()


# Searching -----------------------------------------------------------------------------------------------------------


def search_back(editor: EntryEditor, action: Action) -> None:
    """Open the search, towards older entries."""
    _open_finder(editor, back=True)


def search_forward(editor: EntryEditor, action: Action) -> None:
    """Open the search, towards newer entries."""
    _open_finder(editor, back=False)


def _open_finder(editor: EntryEditor, *, back: bool) -> None:
    if editor.past is not None:
        editor.give_up()
        editor.hint = ""
        search = HistorySearch(editor.past, editor.recall.place if editor.recall else None, editor.draft, back=back)
        editor.finder = IncrementalSearch(search, editor.memory.needle, in_modal=editor.has_modes)


def end_search(editor: EntryEditor, ending: Ending) -> None:
    """Close the search; the text is what was found, if the ending takes it."""
    finder, editor.finder = editor.finder, None
    assert finder is not None
    if finder.is_remembered and finder.needle:
        editor.memory.needle = finder.needle
    found = finder.found if ending.takes else None
    if found is not None:
        entry = found.entry
        if entry is not None:
            editor.recall_by(lambda recall: recall.start(entry))
        editor.move(found.at)
        editor.moved()


# Words of earlier entries --------------------------------------------------------------------------------------------


def insert_last_word(editor: EntryEditor, action: Action) -> None:
    """Put in the last word of the entry before, or the word of the count.

    Pressed again, it takes the entry before that one; a negative count then turns the direction round.
    """
    count = action.count
    inserted = editor.inserted_word if editor.action_before == action.name else None
    if inserted is None:
        number = -1 if count is None else count if count >= 0 else count - 1
        inserted = InsertedWord(editor.draft.cursor, editor.draft.cursor, number)
    else:
        inserted.back *= -1 if count is not None and count < 0 else 1
        inserted.steps = max(inserted.steps + inserted.back, 0)
    _insert_word(editor, inserted)


def insert_first_word(editor: EntryEditor, action: Action) -> None:
    """Put in the first word after the command of the entry before; the word of the count, if there is one."""
    number = action.times if action.times >= 0 else action.times - 1
    _insert_word(editor, InsertedWord(editor.draft.cursor, editor.draft.cursor, number))


def _insert_word(editor: EntryEditor, inserted: InsertedWord) -> None:
    """Put the word of an entry in the place of what was put in before, as far as there is one."""
    place = editor.recall.entry if editor.recall is not None else None
    text = ""
    for _ in range(inserted.steps + 1):
        found = editor.past.older(place, "", begins=True, seen=()) if editor.past is not None else None
        if found is None:
            return
        place = found
        text = editor.aside[found.text].text if found.text in editor.aside else found.text
    words, number = _words(text), inserted.number
    word = words[number] if -len(words) <= number < len(words) else ""
    bare = editor.draft.text[: inserted.start] + editor.draft.text[inserted.end :]
    editor.become(insert(TextState(bare, inserted.start), word))
    inserted.end = editor.draft.cursor
    editor.inserted_word = inserted


def _words(text: str) -> list[str]:
    """Return the words of an entry as they were typed, quotes included."""
    try:
        starts = [start for _, start in split_words(text)]
    except Complaint:
        return text.split()
    return [text[start:end].rstrip() for start, end in zip(starts, [*starts, len(text)][1:], strict=True)]


# In the text ---------------------------------------------------------------------------------------------------------


def insert_literal(editor: EntryEditor, action: Action) -> None:
    """Put in the character that the key sends."""
    editor.type(action.text, max(action.times, 0))


def jump_forward(editor: EntryEditor, action: Action) -> None:
    """Go to the next place where the character is."""
    editor.jump(action.text, action.times)
    editor.moved()


def jump_back(editor: EntryEditor, action: Action) -> None:
    """Go to the place before where the character is."""
    editor.jump(action.text, -action.times)
    editor.moved()


def move_bracket_match(editor: EntryEditor, action: Action) -> None:
    """Go to the bracket that belongs to the one at the cursor."""
    pair = matching(editor.draft.text, editor.draft.cursor)
    if pair is not None:
        editor.move(pair[1])
        editor.moved()


#: What is done, by the name of the action.
ENTRY_ACTIONS: dict[str, Callable[[EntryEditor, Action], None]] = {
    "recall-older": recall_older,
    "recall-newer": recall_newer,
    "recall-oldest": recall_oldest,
    "recall-newest": recall_newest,
    "reload-history": load_entries,
    "search-back": search_back,
    "search-forward": search_forward,
    "recall-last-word": insert_last_word,
    "recall-first-word": insert_first_word,
    "insert-literal": insert_literal,
    "jump-char-forward": jump_forward,
    "jump-char-back": jump_back,
    "move-bracket-match": move_bracket_match,
    "complete": complete_word,
    "list-candidates": list_candidates,
    "insert-candidates": insert_candidates,
}


def do(editor: EntryEditor, action: Action) -> bool:
    """Do an action on the text, the entries or the candidates. Return False if it is none of these."""
    does = ENTRY_ACTIONS.get(action.name)
    if does is None:
        return editor.do(action)
    does(editor, action)
    return True
