"""Suggestions for a text value: from a list, a mapping, a generator or a function of the program.

a list            of texts, or of pairs of a text and a note about it
a mapping         from text to note
a generator       of either, taken from as they come
a function        of the answers so far, or of nothing, that gives one of these; called when the question opens
"""

from __future__ import annotations

from wesperon.values import DeclarationError
from wesperon.values.calls import call_with_optional_answers
from wesperon.values.pull_source import PullSource

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any


class Suggestions:
    """The texts by now, ``items``, each a text or a pair of text and note; more may come with ``pull``."""

    def __init__(self, given: Any, answers: object = None) -> None:
        self.source: PullSource[Any]
        if callable(given):
            self.source = PullSource(_called(given, answers))
        elif isinstance(given, PullSource):  # of a declaration, which more than one looks at
            self.source = given
        else:
            self.source = PullSource(None, _listed(given))

    @property
    def items(self) -> list[Any]:
        """Those that have come."""
        return self.source.items

    @property
    def is_growing(self) -> bool:
        """Whether more may come."""
        return self.source.is_growing

    def pull_all(self, most: int | None = None) -> None:
        """Take all that come, until there are ``most``."""
        self.source.pull(most)


def _called(function: Callable[..., Any], answers: object) -> Iterator[Any]:
    """Yield what a function gives, called with the first one that is wanted."""
    try:
        given = call_with_optional_answers(function, answers)
    except AttributeError as error:
        if error.name not in getattr(type(error.obj), "_slots", ()):
            raise
        return  # it speaks of an answer that comes later: there is nothing to suggest yet
    yield from given if hasattr(given, "__next__") else _listed(given)


def _listed(given: Any) -> list[Any]:
    if hasattr(type(given), "keys"):
        return list(given.items())
    if isinstance(given, str) or not hasattr(given, "__iter__"):
        raise DeclarationError(f"suggest gave {given!r}: it gives texts, pairs of a text and a note, or a mapping")
    return given if isinstance(given, list) else list(given)


def text_of(item: Any) -> str:
    """Return the text of an item."""
    return str(item[0] if isinstance(item, tuple) else item)


def note_of(item: Any) -> str:
    """Return what is said beside it; may be empty."""
    return str(item[1] or "") if isinstance(item, tuple) and len(item) > 1 else ""
