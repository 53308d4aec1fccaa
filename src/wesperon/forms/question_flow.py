"""The flow of questions, as forms and guides share it: an offer to resume, drafts, answers that are kept, the way back.

What comes next is the business of the flow itself: ``forms.form_flow`` goes from slot to slot, ``guides.flow`` along
the steps of a guide. A card (``widgets.card``) shows either.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.forms.saved_answers import Left
    from wesperon.forms.unfinished import Unfinished
    from wesperon.widgets.card import AnsweredField
    from wesperon.widgets.question import Question


class Flow:
    """Which question is open, with the answers so far; see ``widgets.card.QuestionFlow`` for what a card calls.

    A flow of its own defines ``advance``, ``answer``, ``give_up``, ``open_name``,
    ``restore`` and ``saved_texts``.
    """

    #: Whether the open question shows by itself all that is to be seen.
    stands_alone = False
    #: Whether something was asked before the first question, to which the way back leads.
    leads_back = False
    #: Whether what is left is taken up without an offer, each answer in its question: the user has gone back and forth.
    takes_up = False
    #: Whether the answers stay on the screen.
    leaves_record = True

    def __init__(self) -> None:
        #: What the user has answered, by name, also if the flow has gone back before it.
        self.kept: dict[str, Any] = {}
        #: What was in a question when the flow went back from it, by name.
        self.drafts: dict[str, str] = {}
        self.open: Any = None
        self.gutter = 0
        #: The names of drafts that are no answers yet: their questions are to be opened.
        self.halves: set[str] = set()
        #: What keeps the answers, and what is typed; None if nothing is to be kept.
        self.keeper: Unfinished | None = None
        self._is_kept = True
        self._noted: tuple[Any, str] = (None, "")
        #: What an earlier run has left, and whether the question is open whether to go on with it.
        self.left: Left | None = None
        self._offers = False

    @property
    def passed(self) -> Sequence[AnsweredField]:
        """The records of what was answered."""
        raise NotImplementedError

    def begin(self) -> Question | None:
        """Return the first question: whether to resume, if something is left, else that of the flow.

        Return None if there is none.
        """
        if self.left is None:
            return self.advance()
        if self.takes_up:
            self._resume(self.left)
            return self.advance()
        self._offers = True
        self.open = self.left.question(self.gutter)
        opened: Question = self.open
        return opened

    def accept(self, value: Any) -> Question | None:
        """Take the answer to the open question. Return the next one, or None."""
        if not self._offers:
            self._is_kept = False
            return self.answer(value)
        self._offers = False
        if value and self.left is not None:
            self._resume(self.left)
        return self.advance()

    def _resume(self, left: Left) -> None:
        self.halves = {*left.drafts, *(left.answers if self.takes_up else ())}
        self.restore(left.answers, left.drafts)
        self._is_kept = False  # this run keeps it from now on

    def end(self) -> Question | None:
        """Learn that the user gives no answer. Return the next question, or None."""
        if not self._offers:
            return self.give_up()
        self._offers = False
        return self.advance()

    def work(self) -> bool:
        """Keep the answers, if there are new ones, and what is typed. Return False: the view never changes for that."""
        keeper = self.keeper
        if keeper is None or self._offers:
            return False
        if not self._is_kept:
            self._is_kept = True
            keeper.keep(self.saved_texts(), self.saved_drafts())
        question, text = self.open, self.open.draft_text
        if self._noted[0] is not question:
            name = self.open_name
            self._noted = question, self.saved_drafts().get(name, "")  # what was there when it was left is kept already
            if name:
                keeper.prepare()
        if text != self._noted[1]:  # maybe typed before it was open: in one burst with the key that has opened it
            self._noted = question, text
            name = self.open_name
            if name:
                keeper.note(name, text)
        return False

    def saved_drafts(self) -> dict[str, str]:
        """Return what was typed in questions that have no answer yet."""
        return {name: text for name, text in self.drafts.items() if name not in self.kept}

    def keep_draft(self, name: str) -> None:
        """Keep what is in the open question, before it is left without an answer."""
        text = self.open.draft_text
        if text:
            self.drafts[name] = text

    # What each flow does in its own way ------------------------------------------------------------------------------

    def advance(self) -> Question | None:
        """Go on without an answer, from where the flow is. Return the next question, or None."""
        raise NotImplementedError

    def answer(self, value: Any) -> Question | None:
        """Take the answer to the open question of the flow itself. Return the next one, or None."""
        raise NotImplementedError

    def give_up(self) -> Question | None:
        """Learn that the open question of the flow itself gets no answer. Return the next one, or None."""
        raise NotImplementedError

    @property
    def open_name(self) -> str:
        """The name under which what is typed now is kept; empty if it is not, as for a secret."""
        raise NotImplementedError

    def restore(self, answers: Mapping[str, str], drafts: Mapping[str, str]) -> None:
        """Take up what an earlier run has left, as ``saved_texts`` and ``saved_drafts`` gave it."""
        raise NotImplementedError

    def saved_texts(self) -> dict[str, str]:
        """Return the answers as texts, without secrets."""
        raise NotImplementedError
