"""The flow of questions, as forms and guides share it: an offer to resume, drafts, answers that are kept, the way back.

What comes next is the business of the flow itself: ``forms.form_flow`` goes from slot to slot, ``guides.flow`` along
the steps of a guide. A card (``widgets.card``) shows either.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.forms.saved_answers import Left
    from wesperon.widgets.card import AnsweredField
    from wesperon.widgets.question import Question


class Flow:
    """Which question is open, with the answers so far; see ``widgets.card.QuestionFlow`` for what a card calls.

    A flow of its own defines ``advance``, ``answer``, ``give_up``, ``restore`` and ``saved_texts``.
    """

    #: Whether the open question shows by itself all that is to be seen.
    stands_alone = False

    def __init__(self) -> None:
        #: What the user has answered, by name, also if the flow has gone back before it.
        self.kept: dict[str, Any] = {}
        #: What was in a question when the flow went back from it, by name.
        self.drafts: dict[str, str] = {}
        self.open: Any = None
        self.gutter = 0
        #: Called with the answers as texts when there is a new one; None if nothing is to be kept.
        self.keep: Callable[[dict[str, str]], None] | None = None
        self._is_kept = True
        #: A question whether to resume an earlier run, and what that has left.
        self.left: Left | None = None
        self._offers = False

    @property
    def passed(self) -> Sequence[AnsweredField]:
        """The records of what was answered."""
        raise NotImplementedError

    def begin(self) -> Question | None:
        """The first question: whether to resume, if something is left, else that of the flow; None if there is none."""
        if self.left is None:
            return self.advance()
        self._offers = True
        self.open = self.left[0](self.gutter)
        opened: Question = self.open
        return opened

    def take(self, value: Any) -> Question | None:
        """Take the answer to the open question. Return the next one, or None."""
        if not self._offers:
            self._is_kept = False
            return self.answer(value)
        self._offers = False
        if value and self.left is not None:
            self.restore(self.left[1])
        return self.advance()

    def end(self) -> Question | None:
        """Learn that the user gives no answer. Return the next question, or None."""
        if not self._offers:
            return self.give_up()
        self._offers = False
        return self.advance()

    def work(self) -> bool:
        """Keep the answers, if there are new ones. Return False: the view never changes for that."""
        if self.keep is not None and not self._is_kept:
            self._is_kept = True
            self.keep(self.saved_texts())
        return False

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

    def restore(self, texts: Mapping[str, str]) -> None:
        """Take up the answers of an earlier run, as ``saved_texts`` gave them."""
        raise NotImplementedError

    def saved_texts(self) -> dict[str, str]:
        """The answers as texts, without secrets."""
        raise NotImplementedError
