"""The editor of what is asked for: a text with a default, earlier entries, searches in them, and candidates.

``editor`` knows one text; here it knows what may come into its place. Nothing of it is drawn here: who shows it reads
``shown``, ``hint``, ``candidates`` and ``finder``; ``on_change`` is called when the text has changed.
"""

from __future__ import annotations

from wesperon.editing.editor import STATEFUL_EDITS, Editor, Memory
from wesperon.editing.text_state import TextState, insert, whole
from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing import edits
    from wesperon.editing.finder import Finder
    from wesperon.editing.history_view import Past, PutAside, Recall
    from wesperon.editing.insertions import InlineCandidates, InsertedWord
    from wesperon.editing.keys.events import Action
    from wesperon.values.candidate import Candidate

    #: Gives the offset at which the text to complete begins, and what it may become.
    Complete = Callable[[str, int], tuple[int, list[Candidate]]]
else:
    edits = later("wesperon.editing.edits")

#: The movements that take the hint, and the one of them that takes a word of it.
TAKING, TAKING_A_WORD = ("move-char-forward", "move-word-forward"), "move-word-forward"


class EntryEditor(Editor):
    """An editor that begins with a default, or with the text that the line before has left for it.

    A default is as if selected: the first character typed replaces it, an editing key keeps it. ``past`` holds the
    entries to recall and to search; ``complete`` gives candidates.
    """

    def __init__(
        self, default: str = "", memory: Memory | None = None, *, past: Past | None = None, complete: Complete | None
    ) -> None:
        memory = Memory() if memory is None else memory
        super().__init__(default or memory.following, memory)
        memory.following = ""
        #: Whether the whole text is as if selected.
        self.selected = bool(default)
        self.past = past
        #: The rest of an entry that begins like the text.
        self.hint = ""
        #: Where it is among the entries, and what was left of the line itself (``None``) and of entries that were
        #: changed, by the texts that they have in the history, of which each is recalled once.
        self.recall: Recall | None = None
        self.aside: dict[str | None, PutAside] = {}
        #: The search that is open.
        self.finder: Finder | None = None
        #: Whether keys are those of the family with modes, also in a search.
        self.has_modes = False
        #: The word of an earlier entry that was put in last, for another one in its place.
        self.inserted_word: InsertedWord | None = None
        self.complete = complete
        self.candidates: list[Candidate] = []
        #: How they are shown (``values.candidate``), and what is after a word that has been completed.
        self.suggest_as, self.ending = "", " "
        #: What goes through them one by one, if they are not listed.
        self.inline: InlineCandidates | None = None
        #: The name of the action that was done before this one.
        self.action_before = ""
        #: Called after each change of the text.
        self.on_change: Callable[[], object] | None = None

    @property
    def shown(self) -> TextState:
        """The text to show: what a search has found, else what is edited."""
        return self.draft if self.finder is None else self.finder.shown

    def do(self, action: Action) -> bool:
        """Do an action if it is an edit of the text (see ``entry_actions`` for all others). Return False if not."""
        if action.name not in STATEFUL_EDITS and action.name not in edits.ALL:
            return False
        self.apply(action.name, action.count)
        return True

    def type(self, text: str, times: int = 1) -> None:
        """Put in a typed text (see ``Editor``), in the place of a default."""
        if self.selected:
            self.replace(TextState())
        super().type(text, times)
        self.changed()

    def put(self, text: str) -> None:
        """Put in a text that came in one piece (see ``Editor``), in the place of a default."""
        if self.selected:
            self.replace(TextState())
        super().put(text)
        self.changed()

    def apply(self, name: str, count: int | None = None) -> None:
        """Do the edit of this name (see ``Editor``); a movement over the hint takes it."""
        if self.hint and name in TAKING:
            draft = insert(self.draft, self.hint)
            taken = edits.MOVES[name](draft.text, self.draft.cursor) if name == TAKING_A_WORD else len(draft.text)
            self.become(whole(draft.text[:taken]))
            return
        before = self.draft
        super().apply(name, count)
        self.selected = False
        if self.draft.text != before.text:
            self.changed()
        elif self.draft.cursor != before.cursor:
            self.hint = ""

    def become(self, draft: TextState) -> None:
        """Take another text, of which nothing is known yet."""
        self.replace(draft)
        self.changed()

    def recall_by(self, step: Callable[[Recall], bool]) -> bool:
        """Go to another entry, or back to the line itself; each keeps what was changed in it. Whether there is one."""
        if self.past is None:
            return False
        if self.recall is None:
            from wesperon.editing.history_view import Recall

            self.recall = Recall(self.past)
        left = self.recall.entry
        if not step(self.recall):
            return False
        if left is None or self.draft.text != left.text or self.undo_steps:
            self.aside[left.text if left is not None else None] = self.put_aside()
        entry = self.recall.entry
        self.resume(self.aside.get(entry.text if entry is not None else None) or self.recall.untouched())
        self.changed()
        self.hint = ""
        return True

    def changed(self) -> None:
        """Forget what was known of the text before, and look for an entry that begins like this one."""
        self.selected = False
        self.candidates, self.inline = [], None
        text, self.hint = self.draft.text, ""
        if self.past is not None and text and self.draft.cursor == len(text) and "\n" not in text:
            self.hint = self.past.hint(text)[len(text) :].partition("\n")[0]
        if self.on_change is not None:
            self.on_change()

    def moved(self) -> None:
        """Know that the cursor has moved, and the text stays."""
        self.selected, self.hint = False, ""

    def give_up(self) -> None:
        """Leave what is under way: a region, a list of candidates."""
        self.drop_region()
        self.candidates = []
