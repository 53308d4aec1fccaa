"""The first argument of ``slot`` as an annotation: it means what it means for a parameter of a function.

Loaded only where it is no built-in type and no class of the program's own.
"""

from __future__ import annotations

from wesperon.values import DeclarationError
from wesperon.values.kind import Kind
from wesperon.values.parameters import NO_KINDS, SERIES, read_annotation, shown

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

#: What only annotations have (Python Language Reference, 3.2.8.2 and 8.8; ``typing``).
OF_ANNOTATIONS = ("__origin__", "__metadata__", "__supertype__", "__forward_arg__", "__value__")


def annotated(given: Any, settings: dict[str, Any]) -> tuple[Any, Callable[[Any], Any] | None]:
    """What names the kind, and what makes the value of several, if that is no tuple.

    ``settings``, the keywords of the slot, say from here on whether it takes several. Raises DeclarationError for what
    is no kind.
    """
    if isinstance(given, Kind):
        return given, None
    if not _is_annotation(given):
        _examine_callable(given)
        return given, None
    kind, own, made = read_annotation(given, DeclarationError, _text)
    if own is not None:
        raise DeclarationError("Annotated[..., slot(...)] is for parameters: write its keywords in this slot(...)")
    if made is None or made is dict:
        return kind, None
    settings["many"] = not settings["rest"]
    is_stream = settings["piped"] == "stream"
    if made is iter and not is_stream:
        raise DeclarationError(f'{shown(given)} is a stream: it goes with piped="stream", or write list[...]')
    if made is list and is_stream:
        raise DeclarationError(f"{shown(given)} is no stream: write Iterator[...]")
    return kind, made if made is list else None


def _is_annotation(given: Any) -> bool:
    if isinstance(given, type):
        name = given.__name__
        return hasattr(given, "__origin__") or (name in (*SERIES, *NO_KINDS) and given.__module__ in BUILT_IN)
    return any(hasattr(given, name) for name in OF_ANNOTATIONS) or type(given).__name__ in ("UnionType", "Union")


#: The modules whose classes of these names are meant.
BUILT_IN = ("builtins", "typing", "collections.abc")


def _text(text: str) -> Any:
    raise DeclarationError(f"{text!r} is a text: write the type itself")


def _examine_callable(given: Any) -> None:
    """Raise DeclarationError for what cannot make a value of one text."""
    if isinstance(given, type) and issubclass(given, BaseException):
        raise DeclarationError(
            f"{given.__name__} is an error, no kind: use a type such as int, or a function of a text"
        )
    code = getattr(given, "__code__", None)
    if code is None:
        return
    defaults = len(given.__defaults__ or ())
    if code.co_argcount - defaults > 1 or (code.co_argcount < 1 and not code.co_flags & 0x04):
        name = getattr(given, "__name__", repr(given))
        raise DeclarationError(f"{name} is no kind: a kind is called with one text, and gives the value that it means")
