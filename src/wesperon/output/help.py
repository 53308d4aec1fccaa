"""Help pages, made from the declaration."""

from __future__ import annotations

import sys

from wesperon.frozen import Frozen, later
from wesperon.output.card import shown
from wesperon.output.paragraphs import lines, page_columns, paragraphs
from wesperon.output.timed_pull import timed_pull
from wesperon.output.usage import usage
from wesperon.screen.table import BETWEEN, INDENT, MARGIN, texts
from wesperon.screen.width import cut, width, wrap
from wesperon.text.escape import visible
from wesperon.values import MISSING, tell
from wesperon.values.phrases import count_of, hint
from wesperon.values.records import HELP_LETTER
from wesperon.values.slots import VERBATIM

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping, Sequence
    from typing import Any

    from wesperon.screen.frame import Row
    from wesperon.values import rules
    from wesperon.values.slots import Slot
else:
    rules = later("wesperon.values.rules")

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


def help_page(
    program: Sequence[str],
    description: str | None,
    slots: Mapping[str, Slot[Any]],
    columns: int = 0,
    *,
    shared: Mapping[str, Slot[Any]] | None = None,
    examples: Sequence[str] = (),
    epilogue: str = "",
) -> str:
    """Return the help page of a command: what it is about, and its values with kinds, bounds, defaults and choices.

    ``shared`` are the slots of the program and its groups, ``examples`` command lines without the program's name,
    ``epilogue`` is a text at the end.
    """
    rows = help_rows(program, description, slots, columns, shared=shared, examples=examples, epilogue=epilogue)
    return "\n".join(texts(rows))


def epilogue_of(form: type) -> str:
    """Return the text at the end of the page of a form or a command, which its body says."""
    own = getattr(form, "epilogue", "")
    return own if isinstance(own, str) else ""


def help_rows(
    program: Sequence[str],
    description: str | None,
    slots: Mapping[str, Slot[Any]],
    columns: int = 0,
    *,
    shared: Mapping[str, Slot[Any]] | None = None,
    aliases: Sequence[str] = (),
    examples: Sequence[str] = (),
    epilogue: str = "",
) -> list[Row]:
    """Return the same as rows of styled text; ``aliases`` are further names of the command."""
    columns = columns or page_columns()
    sections = [*_sections(slots), *_common(shared, slots)]
    rows = [*lines(usage(program, slots, shared), columns, "title"), *paragraphs(description, columns)]
    if aliases:
        rows += [(), *lines(tell("Also: {list}", list=", ".join(aliases)), columns)]
    rows += _laid_out(sections[:-1], columns, sections)
    if examples:
        rows += [(), *_heading(tell("For example"), columns)]
        for example in examples:
            rows += [((" " * MARGIN, ""), *line) for line in lines(f"{program[0]} {example}", columns - MARGIN)]
    return [*rows, *_laid_out(sections[-1:], columns, sections), *paragraphs(epilogue, columns, is_docstring=False)]


class _Entry(Frozen):
    """One name of a page: its position or nothing, the name, what is said of it, and rows below that."""

    number: str
    name: str
    text: str
    below: tuple[tuple[str, str], ...]


#: A heading, and the entries under it.
Section = tuple[str, list[_Entry]]


def _sections(slots: Mapping[str, Slot[Any]]) -> list[Section]:
    """Return the values by position, those by name only, and those with a heading of their own."""
    numbers = _numbers(slots)
    found = [
        (tell("In this order, or by name anywhere"), _entries(slots, numbers, lambda slot: not slot.named_only)),
        (tell("By name"), _entries(slots, numbers, lambda slot: slot.named_only)),
        *_headed(slots, numbers),
    ]
    if any(slot.rules for slot in slots.values()):
        said = [_Entry("", "", visible(rule.sentence(slots)), ()) for rule in rules.rules_of(slots)]
        found.append((tell("What goes together"), said))
    return [section for section in found if section[1]]


def _numbers(slots: Mapping[str, Slot[Any]]) -> dict[str, str]:
    """Return the numbers of the positions, by the names of their slots."""
    placed = [name for name, slot in slots.items() if not slot.named_only]
    return {name: str(at) for at, name in enumerate(placed, 1)}


def _entries(
    slots: Mapping[str, Slot[Any]], numbers: Mapping[str, str], fits: Callable[[Slot[Any]], object], section: str = ""
) -> list[_Entry]:
    """Return the entries of the slots of a section that fit, those aside that are left out of help."""
    listed = [slot for slot in slots.values() if slot.is_listed and slot.section == section and fits(slot)]
    return [_entry(slot, numbers.get(slot.name, "")) for slot in listed]


def _headed(slots: Mapping[str, Slot[Any]], numbers: Mapping[str, str]) -> list[Section]:
    """Return the sections that the slots name, in the order in which they are named first."""
    names = dict.fromkeys(slot.section for slot in slots.values() if slot.section)
    return [(visible(name), _entries(slots, numbers, lambda slot: True, name)) for name in names]


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
    return lines(text, columns, "title")


def listing(
    program: Sequence[str],
    description: str | None,
    commands: Mapping[str, Mapping[str, str]],
    shared: Mapping[str, Slot[Any]] | None = None,
    columns: int = 0,
    *,
    default: Mapping[str, Slot[Any]] | None = None,
) -> str:
    """Return the commands of a program or a group with their summaries, under their headings (none: an empty text)."""
    return "\n".join(texts(listing_rows(program, description, commands, shared, columns, default=default)))


def listing_rows(
    program: Sequence[str],
    description: str | None,
    commands: Mapping[str, Mapping[str, str]],
    shared: Mapping[str, Slot[Any]] | None = None,
    columns: int = 0,
    *,
    default: Mapping[str, Slot[Any]] | None = None,
    epilogue: str = "",
) -> list[Row]:
    """Return the same as rows of styled text.

    ``default`` are the values of the command that runs where none is named, ``epilogue`` is a text at the end.
    """
    columns = columns or page_columns()
    rows = lines(f"{' '.join(program)} COMMAND [ARGUMENT...]", columns, "title")
    if default is not None:
        rows += lines(usage(program, default, shared), columns, "title")
    rows += paragraphs(description, columns)
    sections: list[Section] = [
        (visible(heading) or tell("Commands"), [_Entry("", name, visible(text), ()) for name, text in members.items()])
        for heading, members in commands.items()
        if members or (not heading and len(commands) == 1)
    ]
    if default:
        numbers = _numbers(default)
        known = _entries(default, numbers, lambda slot: True)
        sections += [(tell("With no command"), known), *_headed(default, numbers)]
    sections = [*sections[:1], *(section for section in sections[1:] if section[1]), *_common(shared, default or {})]
    return [*rows, *_laid_out(sections, columns, sections), *paragraphs(epilogue, columns, is_docstring=False)]


def _common(shared: Mapping[str, Slot[Any]] | None, slots: Mapping[str, Slot[Any]]) -> list[Section]:
    """Return the names that all commands of a program have, and those of every program; beside these ``slots``."""
    found: list[Section] = []
    if shared:
        found += [(tell("With every command"), _entries(shared, {}, lambda slot: True)), *_headed(shared, {})]
    has_letter = any(HELP_LETTER in (slot.short or "") for slot in (*(shared or {}).values(), *slots.values()))
    help_name = "--help" if has_letter else f"-{HELP_LETTER} --help"
    own = [(help_name if name == "--help" else name, tell(text)) for name, text in BUILTIN_OPTIONS]
    found = [section for section in found if section[1]]
    return [*found, (tell("Always"), [_Entry("", name, text, ()) for name, text in own])]


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
