"""Annotations: what they say of a parameter of a function, and of a slot as its first argument, which is the same.

Loaded only where they are more than the name of a built-in type.
"""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.values import DeclarationError
from wesperon.values.kind import Kind
from wesperon.values.slots import Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

    from wesperon.values.kinds import choices
else:
    choices = later("wesperon.values.kinds.choices")

#: What a function gets for values that the slot has as a tuple, by the name of what its annotation is made of.
SERIES: dict[str, Callable[[Any], Any]] = {
    "list": list, "tuple": tuple, "Sequence": tuple, "Collection": tuple, "Iterable": tuple, "Iterator": iter,
}  # fmt: skip

#: Classes that take no text, or say nothing of what a text means.
NO_KINDS = (
    "object",
    "type",
    "bytes",
    "bytearray",
    "memoryview",
    "range",
    "slice",
    "set",
    "frozenset",
    "NoneType",
    "Any",
)

#: What is right instead of an annotation that is no kind.
RIGHT = "use a type such as int, Path, Literal[...], list[int] or dict[str, int], or Annotated[..., slot(...)]"
#: What only annotations have (Python Language Reference, 3.2.8.2 and 8.8; ``typing``).
OF_ANNOTATIONS = ("__origin__", "__metadata__", "__supertype__", "__forward_arg__", "__value__")


def annotated(given: Any, settings: dict[str, Any]) -> tuple[Any, Callable[[Any], Any] | None]:
    """Return what names the kind, and what makes the value of several, if that is no tuple.

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


def read_annotation(
    annotation: Any, fault: Callable[[str], DeclarationError], evaluated: Callable[[str], Any]
) -> tuple[Any, Slot[Any] | None, Callable[[Any], Any] | None]:
    """Return what an annotation says: the type that names the kind, a slot, and what makes the argument of several.

    ``fault`` makes the error of a reason, ``evaluated`` an annotation of its text.
    """
    while True:
        if type(annotation) is str:
            annotation = evaluated(annotation)
        elif hasattr(annotation, "__forward_arg__"):
            annotation = annotation.__forward_arg__
        elif hasattr(annotation, "__supertype__"):
            annotation = annotation.__supertype__
        elif type(annotation).__name__ == "TypeAliasType":
            annotation = annotation.__value__
        else:
            break
    if hasattr(annotation, "__metadata__"):
        found = [one for one in annotation.__metadata__ if isinstance(one, Slot)]
        if len(found) > 1:
            raise fault("Annotated has one slot(...) at most")
        try:
            kind, own, made = read_annotation(annotation.__origin__, fault, evaluated)
        except DeclarationError:
            if not (found and found[0].names_kind):
                raise
            kind, own, made = annotation.__origin__, None, None  # the slot says what it is
        return kind, found[0] if found else own, made
    sort, parts = type(annotation).__name__, getattr(annotation, "__args__", ())
    if sort in ("UnionType", "_UnionGenericAlias", "Union"):
        kept = [part for part in parts if part is not type(None)]
        if len(kept) != 1:
            raise fault(f"{shown(annotation)} is more than one kind: choose one of them")
        return read_annotation(kept[0], fault, evaluated)
    if sort == "_LiteralGenericAlias":
        return choices.one_of([part for part in parts if part is not None]), None, None
    origin = getattr(annotation, "__origin__", annotation)
    series = SERIES.get(getattr(origin, "__name__", ""))
    if series is not None and isinstance(origin, type):
        if origin is tuple and parts and (len(parts) != 2 or parts[1] is not ...):
            reason = f"{shown(annotation)} is no kind: any number of values is tuple[{shown(parts[0])}, ...]"
            raise fault(reason)
        kind, own, inside = read_annotation(parts[0], fault, evaluated) if parts else (str, None, None)
        if inside is not None:
            raise fault(f"{shown(annotation)} is no kind: several values are no further series")
        return kind, own, series
    if not parts and isinstance(annotation, type) and annotation is not dict and annotation.__name__ not in NO_KINDS:
        return annotation, None, None
    if getattr(origin, "__name__", "") in ("dict", "Mapping") and isinstance(origin, type):
        pairs: Any = dict
        return (pairs[parts] if parts else pairs), None, dict
    raise fault(f"{shown(annotation)} is no kind: {RIGHT}")


def shown(annotation: Any) -> str:
    """Return an annotation as it was written."""
    return (
        annotation.__name__ if isinstance(annotation, type) and not hasattr(annotation, "__args__") else str(annotation)
    )
