"""What is given to a part is checked where it is given; each raises DeclarationError, with its ``name`` there."""

from __future__ import annotations

from functools import wraps

from wesperon.values import DeclarationError
from wesperon.values.calls import takes

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


def function_or_none(name: str, given: Callable[..., Any] | None, of: str = "") -> Callable[..., Any] | None:
    """Return what ``checked_function`` does, or None."""
    return None if given is None else checked_function(name, given, of)


def checked_function(name: str, given: Callable[..., Any], of: str = "") -> Callable[..., Any]:
    """Return a function ``of`` what is said, also if it is given one of nothing."""
    if not callable(given):
        raise DeclarationError(f"{name}={given!r}: must be a function{of and f' of {of}'}")
    if takes(given, 1 if of else 0):
        return given
    if of and takes(given, 0):
        return without_arguments(given)
    shown = getattr(given, "__qualname__", repr(given))
    raise DeclarationError(f"{name}={shown}: must be a function of {of and f'{of}, or of '}nothing")


def without_arguments(function: Callable[[], Any]) -> Callable[..., Any]:
    """Return a function that calls one of nothing, whatever it is given."""

    @wraps(function)
    def called(*_: Any) -> Any:
        return function()

    return called
