"""The signatures of ``slot`` as type checkers read them. Nothing loads this module when a program runs."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping
from datetime import date, datetime, time, timedelta
from decimal import Decimal
from enum import Enum
from fractions import Fraction
from ipaddress import IPv4Address, IPv6Address
from types import CodeType
from typing import Any, Generic, Literal, Never, Protocol, Self, TypedDict, Unpack, overload
from uuid import UUID

from wesperon.values.kind import Kind
from wesperon.values.kinds.choices import AnyOf
from wesperon.values.slots import Slot

TYPE_CHECKING = False
if TYPE_CHECKING:
    from pathlib import Path

    from typing_extensions import TypeVar

    #: The classes whose default must be one of their own values. An overload for every class would take ``slot(int,
    #: default="x")`` for a slot of objects; for other classes a default is a function, or their kind is.
    Known = TypeVar(
        "Known", str, bool, int, float, complex, datetime, date, time, timedelta, Decimal, Fraction, Path, UUID,
        IPv4Address, IPv6Address, bytes
    )  # fmt: skip

    #: Text where no kind is named.
    S = TypeVar("S", default=str)
else:
    from typing import TypeVar

    S = TypeVar("S")

T = TypeVar("T")
V = TypeVar("V")
T_co = TypeVar("T_co", covariant=True)
Member = TypeVar("Member", bound=Enum)


class Descriptor(Generic[T]):
    """What a slot is in the body of a class, and on a record of it; its settings are attributes."""

    default: Any
    short: str | None
    short_no: str | None
    alone: Any
    low: Any
    high: Any
    unit: str
    pattern: Any
    pattern_says: str
    initial: Any
    check: Callable[[Any], object] | None
    env: str | None
    piped: bool | str
    suggest: Any
    suggest_as: str
    step: Any
    applies: Callable[[Any], object] | None
    secret: bool | str
    twice: bool
    mask: str
    lines: Any
    syntax: Any
    live: bool
    exists: str | None
    rest: bool | str
    many: bool
    repeats: str
    least: int
    most: int | None
    named_only: bool
    renamed_from: Any
    section: str
    help: str

    @overload
    def __get__(self, record: None, owner: type) -> Self: ...
    @overload
    def __get__(self, record: object, owner: type) -> T: ...
    def __get__(self, record: object | None, owner: type) -> Any:
        """Return the value in a record."""

    def __set__(self, record: Never, value: T) -> None:
        """Take a value of type ``T`` as a record is made; after that, none can be assigned to."""


class Given(TypedDict):
    """What a run was given beside its words: the answers file, the name of its settings, whether to ask all."""

    answers: str | None
    settings: str | None
    asks_all: bool


class Function(Protocol[T_co]):
    """A function from text to value; no class, which has no code of its own."""

    @property
    def __code__(self) -> CodeType:
        """The code of the function."""

    def __call__(self, text: str, /) -> T_co:
        """Return the value that a text means."""


Kinds = type[T] | Kind[T] | Callable[[str], T]


class Unstarted(TypedDict, total=False):
    """The keywords that leave the type of the value as it is, without the one for its start value."""

    short: str | None
    short_no: str | None
    alone: Any
    low: Any
    high: Any
    unit: str
    pattern: Any
    pattern_says: str
    check: Callable[[Any], object] | None
    env: str | None
    secret: bool | Literal["anywhere"]
    twice: bool
    mask: str
    lines: bool | Callable[[str], object]
    syntax: Any
    live: bool
    suggest: Iterable[str | tuple[str, str]] | Mapping[str, str] | Callable[..., Any] | None
    suggest_as: Literal["", "list", "grid", "inline"]
    step: Any
    exists: Literal["file", "folder", "either", "nothing", "parent"] | None
    text: Callable[[Any], str] | None
    least: int
    most: int | None
    repeats: Literal["error", "last"]
    named_only: bool
    renamed_from: str | Iterable[str]
    section: str
    help: str | Literal[False]


class Empty(Unstarted, total=False):
    """Those of a slot whose answer may stay empty."""

    applies: Callable[[Any], object] | None
    piped: bool


class Settings(Unstarted, total=False):
    """All keywords that leave the type of the value as it is."""

    initial: Any


class More(Settings, total=False):
    """Those that some of the signatures narrow."""

    applies: Callable[[Any], object] | None
    piped: bool


@overload
def slot(
    kind: Kinds[S] | str = ...,
    ask: str | None = None,
    *,
    default: None,
    **settings: Unpack[More],
) -> Slot[S | None]: ...
@overload
def slot(
    kind: Kinds[S] | str = ..., ask: str | None = None, *, initial: None, **settings: Unpack[Empty]
) -> Slot[S | None]: ...
@overload
def slot(  # type: ignore[overload-overlap]
    kind: type[dict[T, V]],
    ask: str | None = None,
    *,
    many: Literal[True] = ...,
    default: Mapping[T, V] | Callable[[Any], Mapping[T, V]] = ...,
    **settings: Unpack[More],
) -> Slot[dict[T, V]]: ...
@overload
def slot(
    kind: AnyOf[T],
    ask: str | None = None,
    *,
    default: Iterable[T] | Callable[[Any], Iterable[T]] = ...,
    **settings: Unpack[More],
) -> Slot[tuple[T, ...]]: ...
@overload
def slot(
    kind: Kinds[S] | str = ...,
    ask: str | None = None,
    *,
    piped: Literal["stream"],
    many: bool = ...,
    rest: bool = ...,
    **settings: Unpack[Settings],
) -> Slot[Iterator[S]]: ...
@overload
def slot(  # type: ignore[overload-overlap]
    kind: type[bool],
    ask: str | None = None,
    *,
    many: Literal[True],
    default: int | Callable[[Any], int] = ...,
    **settings: Unpack[More],
) -> Slot[int]: ...
@overload
def slot(
    kind: Kinds[S] | str = ...,
    ask: str | None = None,
    *,
    many: Literal[True],
    default: Iterable[S] | Callable[[Any], Iterable[S]] = ...,
    **settings: Unpack[More],
) -> Slot[tuple[S, ...]]: ...
@overload
def slot(
    kind: Kinds[S] | str = ...,
    ask: str | None = None,
    *,
    rest: Literal[True, "verbatim"],
    default: Iterable[S] | Callable[[Any], Iterable[S]] = ...,
    **settings: Unpack[More],
) -> Slot[tuple[S, ...]]: ...
@overload
def slot(
    kind: Kinds[S] | str = ...,
    ask: str | None = None,
    *,
    applies: Callable[[Any], object],
    piped: bool = ...,
    **settings: Unpack[Settings],
) -> Slot[S | None]: ...
@overload
def slot(
    kind: type[Known],
    ask: str | None = None,
    *,
    default: Known | Callable[[Any], Known],
    **settings: Unpack[More],
) -> Slot[Known]: ...
@overload
def slot(
    kind: type[Member],
    ask: str | None = None,
    *,
    default: Member | Callable[[Any], Member],
    **settings: Unpack[More],
) -> Slot[Member]: ...
@overload
def slot(
    kind: Kind[T] | Function[T],
    ask: str | None = None,
    *,
    default: T | Callable[[Any], T],
    **settings: Unpack[More],
) -> Slot[T]: ...
@overload
def slot(
    kind: type[T] | Callable[[str], T],
    ask: str | None = None,
    *,
    default: Callable[[Any], T],
    **settings: Unpack[More],
) -> Slot[T]: ...
@overload
def slot(
    kind: Kinds[S] | str = ...,
    ask: str | None = None,
    *,
    applies: None = ...,
    piped: bool = ...,
    **settings: Unpack[Settings],
) -> Slot[S]: ...
@overload
def slot(
    kind: str = ..., *, ask: str | None = None, default: str | Callable[[Any], str], **settings: Unpack[More]
) -> Slot[str]: ...
def slot(kind: Any = str, ask: str | None = None, **settings: Any) -> Any:
    """Declare one value that a program needs; ``wesperon.values.slots.slot`` is what runs."""
    raise NotImplementedError
