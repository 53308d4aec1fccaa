"""What is given to a part is checked where it is given; each raises DeclarationError, with its ``name`` there."""

from __future__ import annotations

from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any


#: More of anything is as much as this: a number of the system's holds it.
MOST = 1 << 62


def checked_text(name: str, given: object) -> str:
    """Return a text."""
    if not isinstance(given, str):
        raise DeclarationError(f"{name}={given!r}: must be a text")
    return given


def checked_flag(name: str, given: object) -> bool:
    """Return True or False."""
    if not isinstance(given, bool):
        raise DeclarationError(f"{name}={given!r}: must be True or False")
    return given


def checked_count(name: str, given: object, least: int, of: str) -> int:
    """Return a whole number that is ``least`` or more; ``of`` says what it is."""
    if not isinstance(given, int) or isinstance(given, bool) or given < least:
        raise DeclarationError(f"{name}={given!r}: must be {of}, {least} or more")
    return min(given, MOST)


def checked_number(name: str, given: float) -> float:
    """Return a number."""
    try:
        float(given)
    except (TypeError, ValueError, OverflowError):
        raise DeclarationError(f"{name}: must be a number, got {given!r}") from None
    return given


def checked_function(
    name: str, given: Callable[..., Any] | None, of: str = "", *, is_needed: bool = False
) -> Callable[..., Any] | None:
    """Return a function, or None unless it ``is_needed``; ``of`` says of what."""
    if (given is not None or is_needed) and not callable(given):
        raise DeclarationError(f"{name}={given!r}: must be a function{of and f' of {of}'}")
    return given
