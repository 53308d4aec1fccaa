"""Help pages, made from the declaration."""

from __future__ import annotations

import os
import sys

from wesperon.context import current
from wesperon.frozen import Frozen, later
from wesperon.output.card import shown
from wesperon.output.timed_pull import timed_pull
from wesperon.screen.table import BETWEEN, INDENT, MARGIN, texts
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible
from wesperon.values import MISSING, tell
from wesperon.values.phrases import count_of, hint
from wesperon.values.records import HELP_LETTER
from wesperon.values.slots import VERBATIM

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.screen.frame import Row
    from wesperon.values import rules
    from wesperon.values.slots import Slot
else:
    rules = later("wesperon.values.rules")

#: The widest and the narrowest page.
WIDEST, NARROWEST = 100, 20
#: How many choices a page lists, each in a row, and how many a sentence.
LISTED, LISTED_IN_LINE = 12, 5
#: Between the number of a position and the longest name.
AFTER_NUMBER = 2

#: The names that every program has, and what they do.
BUILTIN_OPTIONS = [
    ("--help", "this page"),
    ("--version", "show the version"),
    ("--asking=WHEN", "never, missing or all: which values to ask for on the terminal"),
    ("--answers=FILE", "read values from a TOML or JSON file; - is standard input"),
]


def page_columns() -> int:
    """Return the columns of a page on standard output: those of COLUMNS (POSIX, 8.3), else of the terminal, else 80."""
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
    """Return the help page of a command: what it is about, and its values with kinds, bounds, defaults and choices.

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
    """Return the same as rows of styled text."""
    columns = columns or page_columns()
    sections = [*_sections(slots), *_common(shared, slots)]
    rows = [*_lines(usage(program, slots, shared), columns, "title"), *_paragraphs(description, columns)]
    rows += _laid_out(sections[:-1], columns, sections)
    if examples:
        rows += [(), *_heading(tell("For example"), columns)]
        for example in examples:
            rows += [((" " * MARGIN, ""), *line) for line in _lines(f"{program[0]} {example}", columns - MARGIN)]
    return [*rows, *_laid_out(sections[-1:], columns, sections)]


class _Entry(Frozen):
    """One name of a page: its position or nothing, the name, what is said of it, and rows below that."""

    number: str
    name: str
    text: str
    below: tuple[tuple[str, str], ...]


#: A heading, and the entries under it.
Section = tuple[str, list[_Entry]]


def _sections(slots: Mapping[str, Slot[Any]]) -> list[Section]:
    """Return the values by position, and those by name only."""
    placed = [slot for slot in slots.values() if not slot.named_only]
    named = [slot for slot in slots.values() if slot.named_only]
    found = [
        (tell("In this order, or by name anywhere"), [_entry(slot, str(at)) for at, slot in enumerate(placed, 1)]),
        (tell("By name"), [_entry(slot) for slot in named]),
    ]
    if any(slot.rules for slot in slots.values()):
        said = [_Entry("", "", visible(rule.sentence(slots)), ()) for rule in rules.rules_of(slots)]
        found.append((tell("What goes together"), said))
    return [section for section in found if section[1]]


def _entry(slot: Slot[Any], number: str = "") -> _Entry:
    if slot.rest == VERBATIM:
        said = tell("every word from here on, as it is")
        return _Entry(number, _name(slot), visible(f"{slot.help}; {said}" if slot.help else said), ())
    return _Entry(number, _name(slot), visible(_sentence(slot, in_rows=True)), tuple(_choices(slot)))


def _laid_out(sections: Sequence[Section], columns: int, of: Sequence[Section]) -> list[Row]:
    """Return the rows of some sections of a page; all that it is ``of`` have one gutter."""
    entries_of = [entry for _, section in of for entry in section]
    numbers = max((width(entry.number) for entry in entries_of), default=0)
    widest = max((width(entry.name) for entry in entries_of), default=0)
    gutter = MARGIN + (numbers + AFTER_NUMBER if numbers else 0) + widest
    is_stacked = gutter + BETWEEN > columns // 2
    left = INDENT if is_stacked else gutter + BETWEEN
    rows: list[Row] = []
    for heading, section in sections:
        rows += [(), *_heading(heading, columns)]
        for entry in section:
            before = " " * MARGIN + entry.number
            first, *others = wrap(entry.text, columns - left) or [""]
            if is_stacked:
                before += " " * (bool(entry.number) * AFTER_NUMBER)
                for at, part in enumerate(wrap(entry.name, max(columns - width(before), 1))):
                    rows.append(((" " * width(before) if at else before, ""), (part, "label")))
                others = [first, *others] if first else []
            else:
                gap = " " * (gutter - width(before) - width(entry.name))
                spans = ((before + gap, ""), (entry.name, "label"))
                rows.append((*spans, (" " * BETWEEN, ""), (first, "")) if first else spans)
            rows += [((" " * left, ""), (line, "")) for line in others]
            shown = max((width(label) for label, note in entry.below if note), default=0)
            for label, note in entry.below:
                gap = " " * (shown - width(label) + BETWEEN)
                text = f"{label}{gap}{note}" if note else label
                rows.append(((" " * (left + BETWEEN), ""), (cut(text, max(columns - left - BETWEEN, 1)), "")))
    return rows


def _heading(text: str, columns: int) -> list[Row]:
    return _lines(text, columns, "title")


def usage(program: Sequence[str], slots: Mapping[str, Slot[Any]], shared: Mapping[str, Slot[Any]] | None = None) -> str:
    """Return a command line in the notation of POSIX (Base Definitions, 12.1): what is in brackets can be left out.

    Positions come first, but where words are kept as they are. A value before one that is required cannot be left out
    by position, even if it has a default. Of the ``shared`` values those are in it that are required. A secret that no
    word may hold is not.
    """
    placed = dict(zip([name for name, slot in slots.items() if not slot.named_only], operands(slots), strict=True))
    named = {name: _in_usage(slot) for name, slot in slots.items() if slot.named_only and slot.secret is not True}
    common = {name: slot for name, slot in (shared or {}).items() if slot.rules or _is_required(slot)}
    required = {name: _in_usage(slot) for name, slot in common.items() if slot.secret is not True}
    has_last = any(slot.rest == VERBATIM for slot in slots.values())
    shown = {**named, **required, **placed} if has_last else {**placed, **named, **required}
    return " ".join([*program, *_grouped({**(shared or {}), **slots}, shown)])


def _grouped(slots: Mapping[str, Slot[Any]], shown: Mapping[str, str]) -> list[str]:
    """Return how some slots are given, those of one rule together: ``A|B``, ``[A|B]``, ``[A B]``."""
    if not any(slot.rules for slot in slots.values()):
        return [*shown.values()]
    found: list[str] = []
    left = dict(shown)
    joining = [rule for rule in rules.rules_of(slots) if rule.joint]
    for name, text in shown.items():
        if name not in left:
            continue
        rule = next((rule for rule in joining if name in rule.names), None)
        names = [name] if rule is None else [one for one in rule.names if one in left]
        parts = [left.pop(one) for one in names]
        if rule is None:
            found.append(text)
        else:
            inside = rule.joint.join([part[1:-1] if part.startswith("[") else part for part in parts])
            found.append(inside if rule.is_required else f"[{inside}]")
    return found


def _in_usage(slot: Slot[Any]) -> str:
    """Return a value by its name, in brackets if it may be left out; of a switch the name that changes something."""
    name = slot.shape.names(slot)[-1 if slot.default is True else 0] + slot.shape.ellipsis
    return name if _is_required(slot) else f"[{name}]"


def operands(slots: Mapping[str, Slot[Any]]) -> list[str]:
    """Return what of these is given by position: ``TARGET``, ``[SECONDS]``, ``[FILE...]``."""
    by_position = [slot for slot in slots.values() if not slot.named_only]
    last = max((at for at, slot in enumerate(by_position) if _is_required(slot)), default=-1)
    shown = []
    for at, slot in enumerate(by_position):
        name = slot.word.upper() + ("..." if slot.rest else "")
        shown.append(name if _is_required(slot) or (at < last and not slot.rest) else f"[{name}]")
    return shown


def _is_required(slot: Slot[Any]) -> bool:
    """Return True if a value must come from somewhere."""
    return slot.default is MISSING and slot.applies is None and slot.shape.none(slot) is MISSING


def listing(
    program: Sequence[str],
    description: str | None,
    commands: Mapping[str, str],
    shared: Mapping[str, Slot[Any]] | None = None,
    columns: int = 0,
    *,
    default: Mapping[str, Slot[Any]] | None = None,
) -> str:
    """Return the commands of a program or a group with their summaries."""
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
    """Return the same as rows of styled text.

    ``default`` are the values of the command that runs where none is named.
    """
    columns = columns or page_columns()
    rows = _lines(f"{' '.join(program)} COMMAND [ARGUMENT...]", columns, "title")
    if default is not None:
        rows += _lines(usage(program, default, shared), columns, "title")
    rows += _paragraphs(description, columns)
    known = [_Entry("", name, visible(text), ()) for name, text in commands.items()]
    sections: list[Section] = [(tell("Commands"), known)]
    if default:
        placed = [slot for slot in default.values() if not slot.named_only]
        numbers = {slot.name: str(at) for at, slot in enumerate(placed, 1)}
        sections.append(
            (tell("With no command"), [_entry(slot, numbers.get(slot.name, "")) for slot in default.values()])
        )
    sections += _common(shared, default or {})
    return [*rows, *_laid_out(sections, columns, sections)]


def _common(shared: Mapping[str, Slot[Any]] | None, slots: Mapping[str, Slot[Any]]) -> list[Section]:
    """Return the names that all commands of a program have, and those of every program; beside these ``slots``."""
    found: list[Section] = []
    if shared:
        found.append((tell("With every command"), [_entry(slot) for slot in shared.values()]))
    has_letter = any(HELP_LETTER in (slot.short or "") for slot in (*(shared or {}).values(), *slots.values()))
    help_name = "--help" if has_letter else f"-{HELP_LETTER} --help"
    own = [(help_name if name == "--help" else name, tell(text)) for name, text in BUILTIN_OPTIONS]
    return [*found, (tell("Always"), [_Entry("", name, text, ()) for name, text in own])]


def _lines(text: str, columns: int, role: str = "") -> list[Row]:
    """Return a text, wrapped."""
    return [((line, role),) for line in wrap(visible(text), columns)]


def described(slot: Slot[Any]) -> str:
    """Return what a slot wants, in a sentence."""
    return visible(_sentence(slot))


def _sentence(slot: Slot[Any], *, in_rows: bool = False) -> str:
    """Return what a slot wants; ``in_rows``: its name is beside that, and its choices are in rows below."""
    asked = slot.ask if slot.ask and not (slot.help and slot.ask.lower() == slot.name.replace("_", " ")) else ""
    about = "; ".join(part.removesuffix(".") for part in (asked, slot.help or "") if part)
    if not about and not in_rows:
        about = slot.label
    wanted, left_out = _wanted(slot, in_rows=in_rows), _left_out(slot)
    notes = [tell("if left out: {value}", value=left_out)] if left_out else []
    if slot.alone is not MISSING:
        notes.insert(0, tell("alone: {value}", value=shown(slot, slot.alone)))
    note = f"({'; '.join(notes)})" if notes else ""
    if note and about and in_rows and slot.kind.choices is not None:  # its choices come right below
        about, note = f"{about} {note}", ""
    parts = [f"{about}: {wanted}" if about and wanted else about or wanted]
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
    said = "; ".join(part for part in parts if part)
    return " ".join(part for part in (said, note) if part)


def _wanted(slot: Slot[Any], *, in_rows: bool) -> str:
    """Return the kind with its bounds, or that it is one of some choices; nothing of a switch, whose name says it."""
    kind = slot.kind
    choices = None if kind.choices is None else kind.choices.known
    if kind.choices is not None and choices is None:
        return tell("its choices depend on other values")
    if choices is None:
        return hint(slot) if slot.shape.takes_text or not in_rows else ""
    if in_rows:
        some = tell(slot.shape.some)
        least, most = kind.limits or (0, None)
        count = count_of(least, None if most is None or most >= len(choices) else most)
        return f"{some} ({count})" if count else some
    timed_pull(choices.source, LISTED_IN_LINE + 1)
    # One label of a choice must not be the whole page.
    labels = [cut(choices.label(at), 40) for at in range(min(len(choices), LISTED_IN_LINE))]
    more = ""
    if len(choices) > LISTED_IN_LINE:
        left = len(choices) - LISTED_IN_LINE
        more = tell(" and more") if choices.is_growing else tell(" and {count:,} more", count=left)
    listed = ", ".join(labels) + more
    return tell(slot.shape.some_of, list=listed)


def _choices(slot: Slot[Any]) -> list[tuple[str, str]]:
    """Return the choices that are known, with their notes, as many as a page lists."""
    choices = None if slot.kind.choices is None else slot.kind.choices.known
    if choices is None:
        return []
    timed_pull(choices.source, LISTED + 1)
    rows = [(visible(choices.label(at)), visible(choices.note(at))) for at in range(min(len(choices), LISTED))]
    if len(choices) > LISTED:
        left = len(choices) - LISTED
        rows.append((tell("and more") if choices.is_growing else tell("and {count:,} more", count=left), ""))
    return rows


def _left_out(slot: Slot[Any]) -> str:
    """Return what the value is if it is left out; empty if it may not be, or if that goes without saying."""
    if slot.default is MISSING or slot.default is None:
        return ""
    return tell("computed from other values") if callable(slot.default) else _default(slot)


def script_version(name: str) -> str:
    """Return the version of the script that runs: its ``__version__``."""
    return version_line(name, getattr(sys.modules.get("__main__"), "__version__", None))


def version_line(name: str, version: object) -> str:
    """Return what ``--version`` prints."""
    return visible(f"{name} {version}" if version else tell("{name} has no version", name=name))


def _default(slot: Slot[Any]) -> str:
    return shown(slot, slot.default)


def _name(slot: Slot[Any]) -> str:
    """Return all names of a slot, with the place for its value; of a switch that which says no, too."""
    letter = f"-{slot.short[0]} " if slot.short else ""
    names = slot.shape.names(slot)
    if slot.short_no:
        names = (*names[:-1], f"-{slot.short_no[0]} {names[-1]}")
    return letter + " ".join(names) + slot.shape.ellipsis


def _paragraphs(text: str | None, columns: int) -> list[Row]:
    """Return a docstring as paragraphs, each after an empty row."""
    rows: list[Row] = []
    for paragraph in (text or "").strip().split("\n\n") if text else ():
        rows += [(), *_lines(" ".join(paragraph.split()), columns)]
    return rows
