"""What a kind, a check or a declaration raises. Loaded by every program, so it holds nothing else."""

from __future__ import annotations


class Complaint(ValueError):
    """Raised by a kind or a check: this text or value will not do.

    ``reason`` says what was got, what was wanted and what to do. ``position`` is the offset of the fault in the
    text, in characters from 0, or ``None`` where the whole text is at fault.
    """

    def __init__(self, reason: str, position: int | None = None) -> None:
        super().__init__(reason)
        self.reason = reason
        self.position = position


def quoted(text: str, limit: int = 40) -> str:
    """The text as a complaint quotes it; see ``visible.quoted``, which is loaded when there is something to say."""
    from wesperon.core.visible import quoted

    return quoted(text, limit)


class DeclarationError(TypeError):
    """A program declared something that cannot work: a clash of names, two choices with one label."""
