"""Keywords of constructors: one that does not exist is refused with the nearest that does."""

from __future__ import annotations

from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Concatenate, ParamSpec, TypeVar

    P = ParamSpec("P")
    S = TypeVar("S")


def known_keywords(init: Callable[Concatenate[S, P], None]) -> Callable[Concatenate[S, P], None]:
    """Have a constructor refuse unknown keywords with the nearest name, as :func:`slot` does."""
    code = init.__code__
    known = code.co_varnames[1 : code.co_argcount + code.co_kwonlyargcount]

    def checked(self: S, /, *given: P.args, **named: P.kwargs) -> None:
        own = type(self).__name__
        if len(given) >= code.co_argcount:
            plain = ", ".join(known[: code.co_argcount - 1])
            raise DeclarationError(f"{own}() takes {plain} by position, and all else by name")
        for name in named:
            if name not in known:
                from wesperon.text import advice
                from wesperon.text.spelling import suggestion

                said = advice.advice(name, advice.OF_CLASS.get(own, {})) or suggestion(name, known, declared=True)
                raise DeclarationError(f"{own}() has no keyword {name!r}{said}")
        from wesperon.values import argument_types

        values = {**dict(zip(known, given, strict=False)), **named}
        if known[0] == "name" and "name" not in values:
            raise DeclarationError(f'{own}() has no name: what it is called by comes first, as {own}("desk", ...)')
        table = argument_types.OF_CLASS.get(own, argument_types.FILL)
        argument_types.refuse_types(f"{own}(): ", values, table)
        init(self, *given, **named)

    checked.__doc__ = init.__doc__
    checked.__wrapped__ = init  # type: ignore[attr-defined]
    return checked


def refuse_keywords(caller: str, keywords: Mapping[str, object], known: frozenset[str]) -> None:
    """Raise DeclarationError for a keyword of filling that there is not, or whose value is of another type."""
    from wesperon.text.advice import FILL, advice
    from wesperon.text.spelling import suggestion
    from wesperon.values import argument_types

    for name in keywords:
        if name not in known:
            near = advice(name, FILL) or suggestion(name, known)
            raise DeclarationError(f"{caller}() has no keyword {name!r}{near}")
    argument_types.refuse_types(f"{caller}(): ", keywords, argument_types.FILL)
