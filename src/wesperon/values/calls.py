"""Calling the functions that a program hands over."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.values import Complaint, DeclarationError, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    import inspect
    from collections.abc import Callable
    from typing import Any
else:
    inspect = later("inspect")


def call_with_optional_answers(function: Callable[..., Any], answers: object) -> Any:
    """Call ``function`` with the answers so far if it takes an argument, otherwise without. Return its result."""
    code = getattr(getattr(function, "__func__", function), "__code__", None)
    if code is None:
        wants = 0 if isinstance(function, (type, type(len))) else 1  # of those nothing can be known
    else:
        defaults = getattr(getattr(function, "__func__", function), "__defaults__", None) or ()
        wants = code.co_argcount - len(defaults) - (hasattr(function, "__self__"))
    return function(answers) if wants > 0 else function()


def takes(function: Callable[..., Any], count: int) -> bool:
    """Return True if a function can be called with so many positional arguments, as far as that can be known."""
    try:
        signature = inspect.signature(function)
    except (ValueError, TypeError):  # a built-in function may not say what it takes
        return True
    try:
        signature.bind(*[None] * count)
    except TypeError:  # it takes more, or fewer
        return False
    return True


def call_check(slot: Any, value: Any, text: str | None) -> None:
    """Call the ``check`` of a slot with a value; raises Complaint, which quotes the ``text`` that was given for it."""
    try:
        said = slot.check(value)
    except Complaint:
        raise
    except ValueError as error:
        shown = quoted(str(value) if text is None else text)
        reason = str(error) or tell("{value} did not pass the check", value=shown)
        raise Complaint(reason, getattr(error, "position", None)) from error
    if said is not None:
        raise refuse_result(said, f"the check of {slot.name or 'a slot'}", "Complaint")


#: What a function of the program raises because it is wrong itself, whatever it was given.
FAULTS = (
    TypeError, NameError, AttributeError, AssertionError, ImportError, NotImplementedError, SystemError,
)  # fmt: skip
#: The flags of the code of coroutine functions and asynchronous generators (Python Library Reference, ``inspect``).
WAITS = 0x80 | 0x200


def refuse_coroutine(name: str, function: object) -> None:
    """Raise DeclarationError for a function, said as ``name``, that would have to be awaited."""
    code = getattr(getattr(function, "__func__", function), "__code__", None)
    if code is not None and code.co_flags & WAITS:
        shown = getattr(function, "__name__", "function")
        raise DeclarationError(f"{name}: {shown} is a coroutine function, and is not awaited: write it with def alone")


def refuse_result(result: object, function: str, error: str) -> DeclarationError:
    """Return the error that a ``function`` gave a result that nobody looks at: to say no, it raises the ``error``."""
    if hasattr(result, "close") and hasattr(result, "cr_code"):
        result.close()
        return DeclarationError(f"{function} is a coroutine function, which would never run: write it with def alone")
    sort = type(result).__name__
    return DeclarationError(
        f"{function} gave a result ({sort}), which says nothing: it gives none, and raises {error}(...) to say no"
    )
