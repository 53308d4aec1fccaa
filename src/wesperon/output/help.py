"""Help pages, made from the declaration."""

from __future__ import annotations

import os
import sys

from wesperon.context import current
from wesperon.output.timed_pull import timed_pull
from wesperon.screen.table import MARGIN, entries, texts
from wesperon.screen.width import cut, wrap
from wesperon.text.escape import visible
from wesperon.values import tell
from wesperon.values.phrases import hint, in_words
from wesperon.values.records import HELP_LETTER
from wesperon.values.slots import MISSING

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.screen.frame import Row
    from wesperon.values.slots import Slot

#: The widest and the narrowest page.
WIDEST, NARROWEST = 100, 20
#: How many choices a page lists.
LISTED = 5

#: The names that every program has, and what they do.
BUILTIN_OPTIONS = [
    ("--help", "show this page"),
    ("--version", "show the version"),
    ("--asking=WHEN", "never, missing or all: which values to ask for on the terminal"),
    ("--answers=FILE", "take values from a TOML or JSON file; - is standard input"),
]


def page_columns() -> int:
    """The columns of a page on standard output: those of COLUMNS (POSIX, 8.3), else of the terminal, else 80."""
    context = current()
    wanted = context.environ.get("COLUMNS", "")
    try:
        columns = int(wanted) if wanted.isdecimal() else os.get_terminal_size(context.stdout.fileno()).columns  # type: ignore[union-attr]
    except (OSError, ValueError, AttributeError):
        columns = 0
    return max(min((columns or 80) - 1, WIDEST), NARROWEST)


def help_page(
    program: Sequence[str],
    description: str | None,
    slots: Mapping[str, Slot[Any]],
    columns: int = 0,
    *,
    shared: Mapping[str, Slot[Any]] | None = None,
    examples: Sequence[str] = (),
) -> str:
    """The help page of a command: what it is about, and its values with kinds, bounds, defaults and choices.

    ``shared`` are the slots of the program and its groups, ``examples`` command lines without the program's name.
    """
    return "\n".join(texts(help_rows(program, description, slots, columns, shared=shared, examples=examples)))


def help_rows(
    program: Sequence[str],
    description: str | None,
    slots: Mapping[str, Slot[Any]],
    columns: int = 0,
    *,
    shared: Mapping[str, Slot[Any]] | None = None,
    examples: Sequence[str] = (),
) -> list[Row]:
    """The same as rows of styled text."""
    columns = columns or page_columns()
    pairs = [(name, described(slot)) for slot in slots.values() if (name := _name(slot))]
    rows = [*_lines(usage(program, slots), columns, "title"), *_paragraphs(description, columns)]
    if pairs:
        by_position = any(not slot.named_only for slot in slots.values())
        note = (
            tell("Values: by position in this order, or by name anywhere.") if by_position else tell("Values, by name:")
        )
        rows += [(), *_lines(note, columns), *entries(pairs, columns)]
    if examples:
        rows += [(), *_lines(tell("For example:"), columns)]
        for example in examples:
            rows += [((" " * MARGIN, ""), *line) for line in _lines(f"{program[0]} {example}", columns - MARGIN)]
    return [*rows, *_common(shared, columns, slots)]


def usage(program: Sequence[str], slots: Mapping[str, Slot[Any]]) -> str:
    """A command line in the notation of POSIX (Base Definitions, 12.1): what is in brackets can be left out.

    A value before one that is needed cannot be left out by position, even if it has a default. Of the values that have
    no position, those are in it without which the command does nothing.
    """
    named = [
        in_words(slot)
        for slot in slots.values()
        if slot.named_only and _is_needed(slot) and not slot.kind.is_switch and slot.secret is not True
    ]
    return " ".join([*program, *named, *operands(slots)])


def operands(slots: Mapping[str, Slot[Any]]) -> list[str]:
    """What of these is given by position: ``TARGET``, ``[SECONDS]``, ``[FILE...]``."""
    by_position = [slot for slot in slots.values() if not slot.named_only]
    last = max((at for at, slot in enumerate(by_position) if _is_needed(slot)), default=-1)
    shown = []
    for at, slot in enumerate(by_position):
        name = slot.word.upper() + ("..." if slot.rest else "")
        shown.append(name if _is_needed(slot) or (at < last and not slot.rest) else f"[{name}]")
    return shown


def _is_needed(slot: Slot[Any]) -> bool:
    """Whether a value must come from somewhere."""
    return slot.default is MISSING and slot.applies is None and bool(not slot.several or slot.least)


def listing(
    program: Sequence[str],
    description: str | None,
    commands: Mapping[str, str],
    shared: Mapping[str, Slot[Any]] | None = None,
    columns: int = 0,
    *,
    default: Mapping[str, Slot[Any]] | None = None,
) -> str:
    """The commands of a program or a group with their summaries."""
    return "\n".join(texts(listing_rows(program, description, commands, shared, columns, default=default)))


def listing_rows(
    program: Sequence[str],
    description: str | None,
    commands: Mapping[str, str],
    shared: Mapping[str, Slot[Any]] | None = None,
    columns: int = 0,
    *,
    default: Mapping[str, Slot[Any]] | None = None,
) -> list[Row]:
    """The same as rows of styled text; ``default`` are the values of the command that runs where none is named."""
    columns = columns or page_columns()
    rows = _lines(f"{' '.join(program)} COMMAND [ARGUMENT...]", columns, "title")
    if default is not None:
        rows += _lines(usage(program, default), columns, "title")
    rows += _paragraphs(description, columns)
    rows += [(), *_lines(tell("Commands:"), columns)]
    rows += entries([(name, visible(text)) for name, text in commands.items()], columns)
    if default:
        pairs = [(_name(slot), described(slot)) for slot in default.values()]
        rows += [(), *_lines(tell("With no command:"), columns), *entries(pairs, columns)]
    return [*rows, *_common(shared, columns, default or {})]


def _common(shared: Mapping[str, Slot[Any]] | None, columns: int, slots: Mapping[str, Slot[Any]]) -> list[Row]:
    """The names that all commands of a program have, and those of every program; beside these ``slots``."""
    rows: list[Row] = []
    if shared:
        pairs = [(_name(slot), described(slot)) for slot in shared.values()]
        rows += [(), *_lines(tell("With every command:"), columns), *entries(pairs, columns)]
    has_letter = any(slot.short == HELP_LETTER for slot in (*(shared or {}).values(), *slots.values()))
    help_name = "--help" if has_letter else f"-{HELP_LETTER} --help"
    own = [(help_name if name == "--help" else name, tell(text)) for name, text in BUILTIN_OPTIONS]
    return [*rows, (), *_lines(tell("In every program:"), columns), *entries(own, columns)]


def _lines(text: str, columns: int, role: str = "") -> list[Row]:
    """A text, wrapped."""
    return [((line, role),) for line in wrap(visible(text), columns)]


def described(slot: Slot[Any]) -> str:
    """What a slot wants, in a sentence."""
    asked = slot.ask if slot.ask and not (slot.help and slot.ask.lower() == slot.name.replace("_", " ")) else ""
    about = "; ".join(part.removesuffix(".") for part in (asked, slot.help or "") if part) or slot.label
    parts = [about, hint(slot)]
    kind = slot.kind
    choices = None if kind.choices is None else kind.choices.known
    if kind.choices is not None and choices is None:
        parts[1:] = [tell("its choices depend on other values")]
    elif choices is not None:
        timed_pull(choices.source, LISTED + 1)
        labels = [cut(choices.label(at), 40) for at in range(min(len(choices), LISTED))]
        more = ""
        if len(choices) > LISTED:
            more = tell(" and more") if choices.is_growing else tell(" and {count:,} more", count=len(choices) - LISTED)
        listed = ", ".join(labels) + more
        parts[1:] = [tell("any of {list}", list=listed) if kind.is_set else tell("one of {list}", list=listed)]
    if slot.applies is not None:
        condition = getattr(slot.applies, "text", "")
        only = tell("only where {condition}", condition=condition) if condition else ""
        parts.append(only or tell("only where other values make it apply"))
    if slot.secret is True:
        parts.append(tell("secret: not accepted as an argument"))
    if slot.env:
        parts.append(tell("or in {env} of the environment", env=slot.env))
    if slot.piped:
        parts.append(tell("or from standard input"))
    if slot.default is not MISSING and slot.default is not None:
        value = tell("computed from other values") if callable(slot.default) else _default(slot)
        parts.append(tell("default {value}", value=value) if value else "")
    said = [part for part in parts if part]
    return visible("; ".join([*(part.removesuffix(".") for part in said[:-1]), *said[-1:]]))


def script_version(name: str) -> str:
    """The version of the script that runs: its ``__version__``."""
    return version_line(name, getattr(sys.modules.get("__main__"), "__version__", None))


def version_line(name: str, version: object) -> str:
    """What ``--version`` prints."""
    return visible(f"{name} {version}" if version else tell("{name} has no version", name=name))


def _default(slot: Slot[Any]) -> str:
    from wesperon.output.card import shown

    return shown(slot, slot.default)


def _name(slot: Slot[Any]) -> str:
    short = f"-{slot.short} " if slot.short else ""
    return short + in_words(slot) + (" ..." if slot.several else "")


def _paragraphs(text: str | None, columns: int) -> list[Row]:
    """A docstring as paragraphs, each after an empty row."""
    rows: list[Row] = []
    for paragraph in (text or "").strip().split("\n\n") if text else ():
        rows += [(), *_lines(" ".join(paragraph.split()), columns)]
    return rows
