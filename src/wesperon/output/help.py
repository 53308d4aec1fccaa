"""Help pages, made from the declaration."""

from __future__ import annotations

import os
import sys

from wesperon.context import current
from wesperon.ground import tell
from wesperon.output.slot_phrases import hint, in_words
from wesperon.output.timed_pull import timed_pull
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible
from wesperon.values.slots import MISSING

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.values.slots import Slot

#: The widest and the narrowest page.
WIDEST, NARROWEST = 100, 20
#: How many choices a page lists.
LISTED = 5

#: The names that every program has, and what they do.
OWN = [
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

    ``shared`` are the slots of the program and its branches, ``examples`` command lines without the program's name.
    """
    columns = columns or page_columns()
    entries = [(name, described(slot)) for slot in slots.values() if (name := _name(slot))]
    by_position = [slot.word.upper() for slot in slots.values() if not slot.named_only]
    lines = wrap(visible(" ".join([*program, *by_position])), columns)
    lines += ["", *_paragraphs(description, columns)] if description else []
    if entries:
        note = (
            tell("Values: by position in this order, or by name anywhere.") if by_position else tell("Values, by name:")
        )
        lines += ["", *wrap(note, columns), *table(entries, columns)]
    if examples:
        lines += ["", tell("For example:")]
        for example in examples:
            lines += [f"  {line}" for line in wrap(visible(f"{program[0]} {example}"), columns - 2)]
    return "\n".join([*lines, *_common(shared, columns)])


def listing(
    program: Sequence[str],
    description: str | None,
    commands: Mapping[str, str],
    shared: Mapping[str, Slot[Any]] | None = None,
    columns: int = 0,
) -> str:
    """The commands of a program or a branch with their summaries."""
    columns = columns or page_columns()
    lines = wrap(visible(f"{' '.join(program)} COMMAND ..."), columns)
    lines += ["", *_paragraphs(description, columns)] if description else []
    lines += ["", tell("Commands:"), *table([(name, visible(text)) for name, text in commands.items()], columns)]
    return "\n".join([*lines, *_common(shared, columns)])


def _common(shared: Mapping[str, Slot[Any]] | None, columns: int) -> list[str]:
    """The names that all commands of a program have, and those of every program."""
    lines: list[str] = []
    if shared:
        entries = [(_name(slot), described(slot)) for slot in shared.values()]
        lines += ["", *wrap(tell("With every command here:"), columns), *table(entries, columns)]
    return [
        *lines,
        "",
        *wrap(tell("In every program:"), columns),
        *table([(name, tell(text)) for name, text in OWN], columns),
    ]


def table(entries: Sequence[tuple[str, str]], columns: int) -> list[str]:
    """Names right-aligned in a gutter with their descriptions beside them; below them where there is no room."""
    gutter = max(width(name) for name, _ in entries) + 2
    lines = []
    for name, text in entries:
        if gutter + 2 > columns // 2:
            lines += [f"  {cut(name, columns - 2)}", *[f"      {line}" for line in wrap(text, columns - 6)]]
            continue
        first, *others = wrap(text, columns - gutter - 2)
        lines.append(f"{' ' * (gutter - width(name))}{name}  {first}".rstrip())
        lines += [" " * (gutter + 2) + line for line in others]
    return lines


def described(slot: Slot[Any]) -> str:
    """What a slot wants, in a sentence."""
    about = slot.help or (slot.ask if slot.ask and slot.ask != slot.label else "") or slot.label
    parts = [about, hint(slot)]
    kind = slot.kind
    choices = kind.choices
    if choices is not None:
        timed_pull(choices, LISTED + 1)
        labels = [cut(choices.label(at), 40) for at in range(min(len(choices), LISTED))]
        more = ""
        if len(choices) > LISTED:
            more = tell(" and more") if choices.is_growing else tell(" and {count:,} more", count=len(choices) - LISTED)
        if kind.depends:
            labels = [tell("what there is with the values before it")]
        listed = ", ".join(labels) + more
        parts[1:] = [tell("any of {list}", list=listed) if kind.is_set else tell("one of {list}", list=listed)]
    if slot.secret is True:
        parts.append(tell("secret, so never as a word"))
    if slot.env:
        parts.append(tell("or in {env} of the environment", env=slot.env))
    if slot.piped:
        parts.append(tell("or from standard input"))
    if slot.default is not MISSING and slot.default is not None:
        value = tell("made from the other values") if callable(slot.default) else _default(slot)
        parts.append(tell("default {value}", value=value) if value else "")
    said = [part for part in parts if part]
    return visible("; ".join([*(part.removesuffix(".") for part in said[:-1]), *said[-1:]]))


def script_version(name: str) -> str:
    """The version of the script that runs: its ``__version__``."""
    version = getattr(sys.modules.get("__main__"), "__version__", None)
    return f"{name} {version}" if version else tell("{name} has no version", name=name)


def _default(slot: Slot[Any]) -> str:
    from wesperon.output.card import shown

    return shown(slot, slot.default)


def _name(slot: Slot[Any]) -> str:
    short = f"-{slot.short} " if slot.short else ""
    return short + in_words(slot) + (" ..." if slot.several else "")


def _paragraphs(text: str, columns: int) -> list[str]:
    """A docstring as paragraphs, wrapped anew."""
    lines: list[str] = []
    for paragraph in text.strip().split("\n\n"):
        lines += ["", *wrap(" ".join(paragraph.split()), columns)]
    return lines[1:]
