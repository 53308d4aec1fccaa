"""``slot(...)``: how a program declares one value. The signatures here are for readers and type checkers."""

from __future__ import annotations

from wesperon.core.generic import T
from wesperon.core.kinds import kind_of
from wesperon.core.problems import DeclarationError
from wesperon.core.slots import MISSING, Slot

#: The keywords of ``slot`` with what each is when not given.
KEYWORDS: dict[str, object] = {
    "default": MISSING,
    "short": None,
    "low": None,
    "high": None,
    "unit": "",
    "check": None,
    "text": None,
    "many": False,
    "rest": False,
    "least": 0,
    "most": None,
    "named_only": False,
    "help": "",
}

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterable
    from typing import Any, Literal, TypedDict, Unpack, overload

    from wesperon.core.kinds import Kind

    Kinds = type[T] | Kind[T] | Callable[[str], T]

    class Settings(TypedDict, total=False):
        """The keywords that leave the type of the value as it is."""

        short: str | None
        low: Any
        high: Any
        unit: str
        check: Callable[[Any], object] | None
        text: Callable[[Any], str] | None
        least: int
        most: int | None
        named_only: bool
        help: str

    @overload
    def slot(
        kind: Kinds[T], ask: str | None = None, *, default: None, **settings: Unpack[Settings]
    ) -> Slot[T | None]: ...
    @overload
    def slot(
        kind: Kinds[T],
        ask: str | None = None,
        *,
        many: Literal[True],
        default: Iterable[T] | Callable[[Any], Iterable[T]] = ...,
        **settings: Unpack[Settings],
    ) -> Slot[tuple[T, ...]]: ...
    @overload
    def slot(
        kind: Kinds[T],
        ask: str | None = None,
        *,
        rest: Literal[True],
        default: Iterable[T] | Callable[[Any], Iterable[T]] = ...,
        **settings: Unpack[Settings],
    ) -> Slot[tuple[T, ...]]: ...
    @overload
    def slot(
        kind: Kinds[T],
        ask: str | None = None,
        *,
        default: T | Callable[[Any], T] = ...,
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
        **settings: Unpack[Settings],
    ) -> Slot[str]: ...
    def slot(kind: Any = str, ask: str | None = None, **settings: Any) -> Any:
        """Declare one value that a program needs; see the function below, which serves at run time."""

else:

    def slot(kind=str, ask=None, **given):
        """Declare one value that a program needs.

        ``kind`` is ``str``, ``int``, ``float``, ``bool``, ``datetime.time``, ``one_of(...)``, ``any_of(...)`` or any
        callable from text to value that raises ``ValueError``. ``ask`` is the question on the terminal, and up to 24
        characters of it the label of the value; without it the name serves.

        Keywords:
            default: the value where none is given, or a function of the answers so far; then nobody is asked
            short: one letter, for ``-m``
            low, high: bounds of the value (of a text: of its length), both allowed themselves
            unit: said beside the value, such as ``"s"``
            check: called with the value; raises ``ValueError`` with the complaint
            text: from value to text, for a kind of the program's own
            many: the name may be repeated, the value is a tuple
            rest: takes all remaining words, the value is a tuple
            least, most: how many, for ``many`` and ``rest``
            named_only: never filled by position
            help: a sentence for the help page

        Returns a :class:`Slot`. Raises DeclarationError for what cannot work, such as a default out of bounds.
        """
        settings = {**KEYWORDS, **given}
        if len(settings) > len(KEYWORDS):
            from wesperon.core.nearest import suggestion

            unknown = next(name for name in given if name not in KEYWORDS)
            raise DeclarationError(f"slot() has no keyword {unknown!r}{suggestion(unknown, KEYWORDS)}")
        return Slot(kind_of(kind, settings.pop("text")), ask, settings)
