"""Keywords of constructors: one that does not exist is refused with the nearest that does."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.values import DeclarationError
from wesperon.values.argument_types import (
    A_PATH,
    COUNT,
    FUNCTION,
    MAPPING,
    PATH,
    SECONDS,
    SLOT,
    SWITCH,
    TEXT,
    TEXTS,
    refuse_types,
)
from wesperon.values.wishes import ALWAYS, NAMES, OF_A_CALL, Wishes

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.text import advice as text_advice
    from wesperon.text import spelling
    from wesperon.values.argument_types import Wanted
else:
    text_advice = later("wesperon.text.advice")
    spelling = later("wesperon.text.spelling")


#: What fits a keyword of filling, by the beginning of the type that it is declared with.
BY_TYPE: Mapping[str, Wanted] = {
    "str": TEXT, "bool": SWITCH, "float": SECONDS, "Callable": FUNCTION, "Mapping": MAPPING,
    "bool | str": ((lambda value: isinstance(value, (bool, str))), "True, False, or the name of a program"),
    "Driver": ((lambda value: hasattr(value, "run")), "a driver, such as Scripted([...])"),
    "Context": ((lambda value: hasattr(value, "derive")), "a Context"),
}  # fmt: skip
FILL: Mapping[str, Wanted] = {
    **{
        name: BY_TYPE[said.removesuffix(" | None").partition("[")[0]]
        for name, said in Wishes.__annotations__.items()
        if name not in ("theme", "asking", "review", "layout")  # their own checks say more of what they may be
    },
    "review": ((lambda value: isinstance(value, bool) or value == ALWAYS), "True, False or 'always'"),
    "layout": ((lambda value: value in ("card", "screen")), "'card' or 'screen'"),
    "results": SWITCH,
    "repeats": TEXT,
    "epilogue": TEXT,
    "aliases": TEXTS,
    "section": TEXT,
    "listed": SWITCH,
}

CONSOLE: Mapping[str, Wanted] = {
    "sign": TEXT, "evaluate": (callable, "a function of a text"), "whole": FUNCTION,
    "complete": FUNCTION, "private": FUNCTION, "capture": SWITCH, "output_files": SWITCH, "history": PATH,
    "background": (COUNT[0], "a number of commands, from 0"),
    "first_file": A_PATH, "driver": FILL["driver"], "context": FILL["context"], "syntax": SLOT["syntax"],
    "name": ((lambda value: isinstance(value, str) or callable(value)), "a text, or a function that gives it"),
    "prompt": ((lambda value: isinstance(value, str) or callable(value)), "a text, or a function that gives it"),
    "note": ((lambda value: isinstance(value, str) or callable(value)), "a text, or a function that gives it"),
}  # fmt: skip


#: The keywords of each class of which it is not those of filling.
OF_CLASS: Mapping[str, Mapping[str, Wanted]] = {"Console": CONSOLE}


def refuse_call(own: str, init: Any, given: Sequence[object], named: Mapping[str, object]) -> None:
    """Raise DeclarationError for a call of the constructor of a class that has an argument too many, or a wrong one.

    ``own`` is the name of the class, ``init`` its constructor.
    """
    code = init.__code__
    known = code.co_varnames[1 : code.co_argcount + code.co_kwonlyargcount]
    if code.co_flags & 0x08:  # it takes keywords of filling too (CO_VARKEYWORDS)
        known = (*known, *[name for name in NAMES if name not in (*known, *OF_A_CALL)])
    if len(given) >= code.co_argcount:
        plain = ", ".join(known[: code.co_argcount - 1])
        raise DeclarationError(f"{own}() takes {plain} by position, and all else by name")
    for name in named:
        if name not in known:
            said = text_advice.advice(name, text_advice.OF_CLASS.get(own, {})) or spelling.suggestion(
                name, known, declared=True
            )
            raise DeclarationError(f"{own}() has no keyword {name!r}{said}")
    values = {**dict(zip(known, given, strict=False)), **named}
    if known[0] == "name" and "name" not in values:
        raise DeclarationError(f'{own}() has no name: what it is called by comes first, as {own}("desk", ...)')
    refuse_types(f"{own}(): ", values, OF_CLASS.get(own, FILL))


def refuse_keywords(caller: str, keywords: Mapping[str, object]) -> None:
    """Raise DeclarationError for a keyword of filling that there is not, or whose value is of another type."""
    for name in keywords:
        if name not in NAMES:
            near = text_advice.advice(name, text_advice.FILL) or spelling.suggestion(name, NAMES)
            raise DeclarationError(f"{caller}() has no keyword {name!r}{near}")
    refuse_types(f"{caller}(): ", keywords, FILL)


def unknown_keyword(given: Mapping[str, object], known: Mapping[str, object]) -> DeclarationError:
    """Return the error about a keyword of ``slot`` that there is not."""
    unknown = next(name for name in given if name not in known)
    near = text_advice.advice(unknown, text_advice.SLOT) or spelling.suggestion(unknown, known, declared=True)
    return DeclarationError(f"slot() has no keyword {unknown!r}{near}")
