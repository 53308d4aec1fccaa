"""Choices of which none may be chosen: an entry for that is before them."""

from __future__ import annotations

from wesperon.text.messages import tell
from wesperon.values import T
from wesperon.values.kinds.choice_list import Choices

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values import Complaint


class OptionalChoices(Choices["T | None"]):
    """The choices of ``rest``, each one place further on; at the first place is ``None``."""

    def __init__(self, rest: Choices[T]) -> None:
        self.rest = rest
        self.source: Any = rest.source

    def __len__(self) -> int:
        """See ``Choices``."""
        return len(self.rest) + 1

    @property
    def has_groups(self) -> bool:
        """See ``Choices``."""
        return self.rest.has_groups

    def label(self, at: int) -> str:
        """See ``Choices``."""
        return self.rest.label(at - 1) if at else tell("none")

    def note(self, at: int) -> str:
        """See ``Choices``."""
        return self.rest.note(at - 1) if at else ""

    def disabled(self, at: int) -> str:
        """See ``Choices``."""
        return self.rest.disabled(at - 1) if at else ""

    def group(self, at: int) -> str:
        """See ``Choices``."""
        return self.rest.group(at - 1) if at else ""

    def texts(self, first: int, last: int) -> list[str]:
        """See ``Choices``."""
        texts = self.rest.texts(max(first - 1, 0), max(last - 1, 0))
        return texts if first else [self.label(0), *texts][: max(last, 0)]

    def find(self, text: str) -> int | None:
        """See ``Choices``; a choice of that name goes before the entry for none."""
        at = self.rest.find(text)
        if at is not None:
            return at + 1
        return 0 if text.strip().casefold() == self.label(0).casefold() else None

    def index_of(self, value: Any) -> int | None:
        """See ``Choices``."""
        if value is None:
            return 0
        at = self.rest.index_of(value)
        return None if at is None else at + 1

    def check(self, at: int) -> T | None:
        """See ``Choices``."""
        return self.rest.check(at - 1) if at else None

    def unknown(self, text: str, position: int | None = None) -> Complaint:
        """See ``Choices``."""
        return self.rest.unknown(text, position)
