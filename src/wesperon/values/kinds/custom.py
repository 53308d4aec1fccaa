"""Kinds of a program's own. Loaded only where a slot has one."""

from __future__ import annotations

from wesperon.values import Complaint, DeclarationError, T, quoted, tell
from wesperon.values.calls import FAULTS
from wesperon.values.kind import Kind
from wesperon.values.problems import Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any


class CustomKind(Kind[T]):
    """A kind of the program's own: any callable from text to value.

    What it raises for a bad text is a complaint; only what tells of a fault in the program itself is passed on.
    """

    placeholder = "VALUE"
    takes_numbers = True

    bounded = "value"

    def __init__(
        self, convert: Callable[[str], T], back: Callable[[T], str] | None = None, *, has_steps: bool = False
    ) -> None:
        self.convert = convert
        self.back = back
        self.has_steps = has_steps and back is not None
        self.question = "spin" if self.has_steps else "line"
        self.wanted = str(getattr(convert, "__name__", type(convert).__name__)).strip("<>_").replace("_", " ")

    def parse(self, text: str) -> T:
        """Return what the callable makes of the text; raises Complaint."""
        try:
            return self.convert(text)
        except (Complaint, Refusal, DeclarationError):
            raise
        except FAULTS:
            raise
        except Exception as error:
            position = getattr(error, "position", None)
            said = str(error) if isinstance(error, ValueError) else ""
            if isinstance(error, OSError) and error.strerror:
                said = f"{quoted(text)}: {error.strerror}"
            reason = said or tell("{text} is not a valid {wanted}", text=quoted(text), wanted=self.wanted)
            raise Complaint(reason, position if isinstance(position, int) else None) from error

    def format(self, value: T) -> str:
        """Return what ``text=`` makes of the value; raises DeclarationError if the slot has none."""
        if self.back is None:
            raise DeclarationError(
                f"a value of the kind {self.wanted!r} cannot be written as a word: "
                "give its slot text=, a function from the value to its text"
            )
        return self.back(value)

    def step_by(self, value: T, units: int, unit: Any = None) -> T:
        """See ``Kind``; the unit is the ``step`` of the slot, which can be multiplied and added."""
        moved: Any = value
        return moved + unit * units  # type: ignore[no-any-return]

    def validate(self, value: Any) -> T:
        """Return the value as it is: only the callable knows what is right, and it takes texts."""
        return value  # type: ignore[no-any-return]
