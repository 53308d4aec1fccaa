"""What is edited in a line, with nothing drawn: recalling, searching, completing, and who hears of it.

Modules: ``editing.entry_editor``, ``editing.entry_actions``, ``editing.completing``.
"""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from wesperon.editing.editor import STATEFUL_EDITS
from wesperon.editing.edits import ALL
from wesperon.editing.entry_actions import ENTRY_ACTIONS, do, end_search
from wesperon.editing.entry_editor import EntryEditor
from wesperon.editing.finder import Ending
from wesperon.editing.history_view import ListHistory
from wesperon.editing.keys.events import TYPE, Action
from wesperon.values.candidate import Candidate

TEXTS = st.text("ab é'(\n日", max_size=8)
PAST = ["expose 3", "note 'a b'", "expose 12", "dark", "note x"]
NAMES = [*sorted(ALL), *STATEFUL_EDITS, *ENTRY_ACTIONS, *8 * ("recall-older", "recall-newer", "complete")]
ACTIONS = st.builds(Action, st.sampled_from(NAMES), st.none() | st.integers(-3, 3), st.sampled_from(["a", "é", " "]))


def words(text: str, cursor: int) -> tuple[int, list[Candidate]]:
    start = text.rfind(" ", 0, cursor) + 1
    word = text[start:cursor]
    return start, [Candidate(one) for one in ("expose", "export", "note", "night") if one.startswith(word)]


@given(st.sampled_from(["", "n", "ab a"]), st.lists(ACTIONS | TEXTS, max_size=25))
def test_each_change_of_the_text_calls_the_one_who_shows_it(default: str, steps: list[Action | str]) -> None:
    editor = EntryEditor(default, past=ListHistory(PAST), complete=words)
    told = [editor.draft.text]
    editor.on_change = lambda: told.append(editor.draft.text)
    for step in steps:
        if isinstance(step, str):
            editor.put(step) if len(step) > 1 else editor.type(step)
        else:
            assert do(editor, step)
            if editor.finder is not None:
                editor.finder.do(Action(TYPE, None, step.text))
                end_search(editor, Ending(takes=bool(step.count)))
            editor.action_before = step.name
        assert told[-1] == editor.draft.text == editor.shown.text
        assert 0 <= editor.draft.cursor <= len(editor.draft.text)
        assert not editor.selected or editor.draft.text == default


@given(st.lists(st.tuples(st.sampled_from(["older", "newer", "oldest", "newest"]), TEXTS), max_size=20))
def test_every_entry_keeps_what_was_changed_in_it(steps: list[tuple[str, str]]) -> None:
    editor = EntryEditor(past=ListHistory(PAST), complete=None)
    left: dict[int | None, tuple[str, int]] = {}
    for name, typed in steps:
        editor.put(typed)
        at = editor.recall.entry.position if editor.recall and editor.recall.entry else None
        left[at] = editor.draft.text, len(editor.undo_steps)
        do(editor, Action(f"recall-{name}"))
        at = editor.recall.entry.position if editor.recall and editor.recall.entry else None
        assert (editor.draft.text, len(editor.undo_steps)) == left.get(at, ("" if at is None else PAST[at], 0))


@given(st.sampled_from(["", "a no", "nig", "expo", "expor", "x", "b  e"]), st.text("e ", max_size=4))
def test_completing_changes_the_word_at_the_cursor_alone(before: str, tail: str) -> None:
    editor = EntryEditor(before + tail, complete=words)
    editor.move(len(before))
    start, candidates = words(before, len(before))
    do(editor, Action("complete"))
    text, cursor = editor.draft.text, editor.draft.cursor
    if len(candidates) == 1:
        ending = "" if tail.startswith(" ") else " "  # one blank is enough
        assert (text[:cursor], text[cursor:]) == (before[:start] + candidates[0].text + ending, tail)
    else:
        assert text.startswith(before)
        assert text[cursor:] == tail
        assert all(one.text.startswith(text[start:cursor]) for one in candidates)
    assert editor.candidates == (candidates if len(candidates) > 1 else [])
