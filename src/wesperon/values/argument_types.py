"""What is given to ``slot``, ``Program``, ``Console`` and ``Form.fill`` is checked there: each keyword has its type."""

from __future__ import annotations

from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any

    #: Whether a value fits, and what does, after "must be".
    Wanted = tuple[Callable[[Any], bool], str]


def _of(*types: type) -> Callable[[Any], bool]:
    return lambda value: isinstance(value, types)


def _is_number(value: Any) -> bool:
    return isinstance(value, (int, float)) and not isinstance(value, bool)


def _is_path(value: Any) -> bool:
    return isinstance(value, (str, bytes)) or hasattr(value, "__fspath__")


def _is_variable(value: Any) -> bool:
    return isinstance(value, str) and bool(value) and not any(char in "=\0" or char.isspace() for char in value)


TEXT: Wanted = _of(str), "a text"
SWITCH: Wanted = _of(bool), "True or False"
FUNCTION: Wanted = callable, "a function"
COUNT: Wanted = (lambda value: isinstance(value, int) and not isinstance(value, bool)), "a whole number"
MAPPING: Wanted = (lambda value: hasattr(type(value), "keys")), "a mapping"
TEXTS: Wanted = (
    lambda value: isinstance(value, str) or (hasattr(value, "__iter__") and all(isinstance(one, str) for one in value)),
    "a text, or a sequence of texts",
)
SECONDS: Wanted = _is_number, "a number of seconds"
REST: Wanted = (lambda value: isinstance(value, bool) or value == "verbatim"), "True, False or 'verbatim'"
A_PATH: Wanted = _is_path, "a path"
PATH: Wanted = (lambda value: value is True or value is False or _is_path(value)), "True, False or a path"

SLOT: Mapping[str, Wanted] = {
    "short": TEXT, "short_no": TEXT, "unit": TEXT, "pattern_says": TEXT, "check": FUNCTION, "applies": FUNCTION,
    "twice": SWITCH, "mask": TEXT, "live": SWITCH, "text": FUNCTION, "many": SWITCH, "rest": REST, "least": COUNT,
    "most": COUNT, "named_only": SWITCH, "renamed_from": TEXTS, "section": TEXT,
    "help": (TEXT[0], "a text, or False"),
    "env": (_is_variable, "the name of an environment variable, without blanks or ="),
    "lines": ((lambda value: isinstance(value, bool) or callable(value)), "True, False or a function of the text"),
    "suggest": (
        (lambda value: not isinstance(value, (str, bytes, int, float))),
        'texts, as ["one", "two"], a mapping, or a function that gives them',
    ),
    "syntax": (
        (lambda value: isinstance(value, str) or callable(value) or hasattr(value, "get_tokens_unprocessed")),
        "the name of a lexer, a lexer, or a function",
    ),
}  # fmt: skip


def refuse_types(caller: str, given: Mapping[str, Any], table: Mapping[str, Wanted]) -> None:
    """Raise DeclarationError for a keyword whose value is of another type; None means that it is not given."""
    for name, value in given.items():
        wanted = table.get(name)
        if wanted is None or value is None:
            continue
        fits, words = wanted
        if not fits(value):
            raise DeclarationError(f"{caller}{name}={value!r}: must be {words}")
