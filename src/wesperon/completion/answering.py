"""A shell asks which words may come next: it gets them, and the process ends. Loaded only then."""

from __future__ import annotations

from wesperon.completion.candidates import candidates
from wesperon.completion.shells import answer
from wesperon.context import current
from wesperon.system.asked import end
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.completion.shells import Complete
    from wesperon.values.records import Record


def answer_shell(words: Sequence[str] | None, asked: type[Record] | Complete, *, runs: bool = False) -> None:
    """Answer the shell, and end: nothing else is to run.

    ``words`` are those that are about to be read; a shell asks about those of the context. ``asked`` is what knows
    the candidates: a form, or a function of the words before and the word that has been begun. ``runs``: something of
    the program would run with the words, so that the process ends without an answer if they are others.
    """
    context = current()
    if not context.asking_shell:
        return
    if words is not None and list(words) != list(context.words):
        if runs:
            end()
        return
    if isinstance(asked, type):
        slots = slots_of(asked)
        end(answer(context.asking_shell, context.words, lambda before, word: candidates(slots, before, word)))
    else:
        end(answer(context.asking_shell, context.words, asked))
