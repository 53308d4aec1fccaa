"""Tab completion in a text: as far as all candidates agree, all of them, or one after the other."""

from __future__ import annotations

from wesperon.editing.insertions import InlineCandidates
from wesperon.editing.text_state import TextState, insert
from wesperon.values.candidate import INLINE

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.entry_editor import EntryEditor
    from wesperon.editing.keys.events import Action

#: The most candidates of a completion that are listed.
LISTED = 60


def complete_word(editor: EntryEditor, action: Action) -> None:
    """Complete the text before the cursor as far as all candidates agree; list them if there are several."""
    if editor.complete is None:
        return
    if editor.suggest_as == INLINE and editor.inline is not None and editor.action_before == action.name:
        _next_candidate(editor, editor.inline)
        return
    draft = editor.draft
    start, candidates = editor.complete(draft.text, draft.cursor)
    if not candidates:
        return
    single = len(candidates) == 1
    agreed = candidates[0].text if single else shared_beginning([one.text for one in candidates])
    ending = editor.ending if single and not candidates[0].goes_on else ""
    typed = draft.text[start : draft.cursor]
    only_quoted = not single and agreed[1:] == typed  # nothing is gained but a quote
    if (len(agreed) + len(ending) > len(typed) and not only_quoted) or (single and agreed != typed):
        tail = draft.text[draft.cursor :]
        if ending and tail.startswith(ending):
            ending = ""
        editor.become(insert(TextState(draft.text[:start] + tail, start), agreed + ending))
    if not single:
        editor.candidates = candidates[:LISTED]
        editor.inline = InlineCandidates(start, editor.draft.cursor, candidates)


def _next_candidate(editor: EntryEditor, inline: InlineCandidates) -> None:
    """Put the next candidate in the place of the one before."""
    inline.at = (inline.at + 1) % len(inline.candidates)
    text = editor.draft.text
    editor.become(
        insert(TextState(text[: inline.start] + text[inline.end :], inline.start), inline.candidates[inline.at].text)
    )
    inline.end = editor.draft.cursor
    editor.inline = inline


def list_candidates(editor: EntryEditor, action: Action) -> None:
    """List what the text before the cursor may become."""
    if editor.complete is not None:
        editor.candidates = editor.complete(editor.draft.text, editor.draft.cursor)[1][:LISTED]


def insert_candidates(editor: EntryEditor, action: Action) -> None:
    """Put in everything that the text before the cursor may become."""
    if editor.complete is not None:
        draft = editor.draft
        start, candidates = editor.complete(draft.text, draft.cursor)
        if candidates:
            bare = TextState(draft.text[:start] + draft.text[draft.cursor :], start)
            editor.become(insert(bare, "".join(candidate.text + " " for candidate in candidates)))


def shared_beginning(texts: list[str]) -> str:
    """Return the longest text that all of these begin with, in the letter case of the first."""
    first, last = min(texts, key=str.casefold), max(texts, key=str.casefold)
    at = 0
    while at < min(len(first), len(last)) and first[at].casefold() == last[at].casefold():
        at += 1
    return texts[0][:at]
