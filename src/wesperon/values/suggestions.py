"""Suggestions for a text value: from a list, a mapping, a generator or a function of the program.

a list            of texts, or of pairs of a text and a note about it
a mapping         from text to note
a generator       of either, taken from as they come
a function        of the answers so far, or of nothing, that gives one of these; called when the question opens
"""

from __future__ import annotations

from wesperon.values.calls import call_with_optional_answers

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any


class Suggestions:
    """The texts by now, ``items``, each a text or a pair of text and note; more may come with ``pull``."""

    def __init__(self, given: Any, answers: object = None) -> None:
        self.items: list[Any] = []
        self._call: Callable[[], Any] | None = None
        self._source: Iterator[Any] | None = None
        self.lock: Any = None
        if callable(given):
            self._call = lambda: call_with_optional_answers(given, answers)
        else:
            self._take(given)

    @property
    def is_growing(self) -> bool:
        """Whether more may come."""
        return self._call is not None or self._source is not None

    def pull(self) -> bool:
        """Take more, which may take its time; whether there may be still more."""
        if self._call is not None:
            call, self._call = self._call, None
            try:
                self._take(call())
            except AttributeError as error:
                if error.name not in getattr(type(error.obj), "_slots", ()):
                    raise
                # It speaks of an answer that comes later: there is nothing to suggest yet.
        elif self._source is not None:
            try:
                self.items.append(next(self._source))
            except StopIteration:
                self._source = None
        return self.is_growing

    def pull_all(self) -> None:
        """Take all that come."""
        while self.pull():
            pass

    def _take(self, given: Any) -> None:
        if hasattr(type(given), "keys"):
            self.items = list(given.items())
        elif hasattr(given, "__next__"):
            self._source = given
        else:
            self.items = given if isinstance(given, list) else list(given)


def text_of(item: Any) -> str:
    """The text of an item."""
    return str(item[0] if isinstance(item, tuple) else item)


def note_of(item: Any) -> str:
    """What is said beside it; may be empty."""
    return str(item[1] or "") if isinstance(item, tuple) and len(item) > 1 else ""
