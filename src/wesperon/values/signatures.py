"""The signatures of ``slot`` as type checkers read them. Nothing loads this module when a program runs."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Any, Literal, TypedDict, TypeVar, Unpack, overload

from wesperon.values.kinds.builtin import Kind
from wesperon.values.kinds.choices import AnyOf
from wesperon.values.slots import Slot

T = TypeVar("T")

Kinds = type[T] | Kind[T] | Callable[[str], T]


class Settings(TypedDict, total=False):
    """The keywords that leave the type of the value as it is."""

    short: str | None
    low: Any
    high: Any
    unit: str
    pattern: Any
    check: Callable[[Any], object] | None
    env: str | None
    applies: Callable[[Any], object] | None
    secret: bool | Literal["anywhere"]
    twice: bool
    mask: str
    lines: bool | Callable[[str], object]
    syntax: Any
    live: bool
    suggest: Iterable[str | tuple[str, str]] | Mapping[str, str] | Callable[..., Any] | None
    suggest_as: Literal["", "list", "grid", "inline"]
    step: Any
    exists: Literal["file", "folder", "either", "nothing"] | None
    text: Callable[[Any], str] | None
    least: int
    most: int | None
    named_only: bool
    help: str


@overload
def slot(kind: Kinds[T], ask: str | None = None, *, default: None, **settings: Unpack[Settings]) -> Slot[T | None]: ...
@overload
def slot(
    kind: AnyOf[T],
    ask: str | None = None,
    *,
    default: Iterable[T] | Callable[[Any], Iterable[T]] = ...,
    **settings: Unpack[Settings],
) -> Slot[tuple[T, ...]]: ...
@overload
def slot(
    kind: Kinds[T],
    ask: str | None = None,
    *,
    piped: Literal["stream"],
    many: bool = ...,
    rest: bool = ...,
    **settings: Unpack[Settings],
) -> Slot[Iterator[T]]: ...
@overload
def slot(
    kind: Kinds[T],
    ask: str | None = None,
    *,
    many: Literal[True],
    piped: bool = ...,
    default: Iterable[T] | Callable[[Any], Iterable[T]] = ...,
    **settings: Unpack[Settings],
) -> Slot[tuple[T, ...]]: ...
@overload
def slot(
    kind: Kinds[T],
    ask: str | None = None,
    *,
    rest: Literal[True],
    piped: bool = ...,
    default: Iterable[T] | Callable[[Any], Iterable[T]] = ...,
    **settings: Unpack[Settings],
) -> Slot[tuple[T, ...]]: ...
@overload
def slot(
    kind: Kinds[T],
    ask: str | None = None,
    *,
    default: T | Callable[[Any], T] = ...,
    piped: bool = ...,
    **settings: Unpack[Settings],
) -> Slot[T]: ...
@overload
def slot(*, ask: str | None = None, default: None, **settings: Unpack[Settings]) -> Slot[str | None]: ...
@overload
def slot(
    *, ask: str | None = None, many: Literal[True], default: Iterable[str] = ..., **settings: Unpack[Settings]
) -> Slot[tuple[str, ...]]: ...
@overload
def slot(
    *, ask: str | None = None, rest: Literal[True], default: Iterable[str] = ..., **settings: Unpack[Settings]
) -> Slot[tuple[str, ...]]: ...
@overload
def slot(
    *,
    ask: str | None = None,
    default: str | Callable[[Any], str] = ...,
    piped: bool = ...,
    **settings: Unpack[Settings],
) -> Slot[str]: ...
def slot(kind: Any = str, ask: str | None = None, **settings: Any) -> Any:
    """Declare one value that a program needs; ``wesperon.values.slots.slot`` is what runs."""
    raise NotImplementedError
