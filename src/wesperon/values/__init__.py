"""Values: slots, kinds, records, and the problems with them. Pure. Imports text, context and frozen.

Here is what all modules share and every program loads, and so nothing that costs start-up time: ``Complaint`` and
``DeclarationError``, which kinds, checks and declarations raise; ``Generic``, ``T`` and ``overload``, which are those
of :mod:`typing` for a type checker. At run time ``Generic[T]`` is ``object``, a class that takes brackets itself has
``subscripted`` as its ``__class_getitem__``, and ``overload`` does nothing.
"""

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence
    from typing import Any, Generic, TypeVar, overload

    T = TypeVar("T")
    subscripted: Any
else:
    T = None

    def overload(signature):
        """Mark a signature that only a type checker reads."""
        return signature

    @classmethod
    def subscripted(cls, item):
        """Give the class itself back: ``Name[int]`` is ``Name``."""
        return cls

    #: At run time ``Generic[T]`` is ``object``.
    Generic = {T: object}


class Missing:
    """The type of ``MISSING``, which is there if no value was given."""

    def __repr__(self) -> str:
        return "MISSING"


MISSING = Missing()


class Complaint(ValueError):
    """Raised by a kind or a check: this text or value will not do.

    ``reason`` says what was got, what was wanted and what to do. ``position`` is the offset of the fault in the
    text, in characters from 0, or ``None`` if the whole text is at fault. ``slot`` is for a check of several values
    together: the name of the slot at fault, or the names of several.

    Example:
        >>> def filter_name(text):
        ...     if text not in ("red", "blue"):
        ...         raise Complaint(f'"{text}" is no filter: choose red or blue')
        ...     return text
        >>> slot(filter_name).parse("rde")
        Traceback (most recent call last):
        wesperon.values.Complaint: "rde" is no filter: choose red or blue

    """

    def __init__(self, reason: str, position: int | None = None, slot: "str | Sequence[str] | None" = None) -> None:
        super().__init__(reason)
        self.reason = reason
        self.position = position
        self.slot = slot

    def __reduce__(self) -> "tuple[Any, ...]":
        return type(self), (self.reason, self.position, self.slot)


def quoted(text: str, limit: int = 40) -> str:
    """Return the text as a complaint quotes it.

    See :func:`wesperon.text.escape.quoted`, which is imported when needed.
    """
    from wesperon.text.escape import quoted

    return quoted(text, limit)


def tell(message: str, /, **parts: object) -> str:
    """Return a message in the user's language.

    See :func:`wesperon.text.messages.tell`, which is imported when needed.
    """
    from wesperon.text.messages import tell

    return tell(message, **parts)


class DeclarationError(TypeError):
    """A program declared something that cannot work: a clash of names, two choices with one label.

    Example:
        >>> class Plan(Form):
        ...     frames = slot(int, low=3, high=1)
        Traceback (most recent call last):
        wesperon.values.DeclarationError: low=3 is above high=1: no value could be right

    """


__all__ = ["Complaint", "DeclarationError", "Generic", "T", "overload", "quoted", "subscripted", "tell"]
