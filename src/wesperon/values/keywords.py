"""Keywords of constructors: one that does not exist is refused with the nearest that does."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Concatenate, ParamSpec, TypeVar

    P = ParamSpec("P")
    S = TypeVar("S")


def known_keywords(init: Callable[Concatenate[S, P], None]) -> Callable[Concatenate[S, P], None]:
    """Have a constructor refuse unknown keywords with the nearest name, as :func:`slot` does."""
    code = init.__code__
    known = code.co_varnames[1 : code.co_argcount + code.co_kwonlyargcount]

    def checked(self: S, /, *given: P.args, **named: P.kwargs) -> None:
        for name in named:
            if name not in known:
                from wesperon.text.spelling import suggestion

                raise TypeError(
                    f"{type(self).__name__}() has no keyword {name!r}{suggestion(name, known, declared=True)}"
                )
        init(self, *given, **named)

    checked.__doc__ = init.__doc__
    checked.__wrapped__ = init  # type: ignore[attr-defined]
    return checked
