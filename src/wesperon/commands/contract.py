"""The contract of a program: a plain text of everything that its callers rely on.

Kept under a program's own tests, it shows every change that would break a line that somebody has written down: a slot
put in the middle moves the positions after it, and a changed line says so.
"""

from __future__ import annotations

from wesperon.commands.command_tree import CommandGroup, Member, name_of
from wesperon.output.card import shown
from wesperon.output.timed_pull import timed_pull
from wesperon.text.escape import visible
from wesperon.text.truncate import counted
from wesperon.values import MISSING
from wesperon.values.phrases import bound_text
from wesperon.values.problems import Refusal
from wesperon.values.records import slots_of
from wesperon.values.rules import rules_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.values.kinds.choice_list import Choices
    from wesperon.values.slots import Slot

#: Up to here the choices of a slot are part of the contract one by one, beyond by their number.
LISTED = 50


def contract_of(
    group: CommandGroup,
    path: Sequence[str],
    member: Member | None = None,
    shared: Mapping[str, Slot[Any]] | None = None,
) -> str:
    """Return the commands below a group, each with its slots in order; those of groups are after their names.

    ``member`` is the group as one of those above it, ``shared`` are the slots of these: a parameter of such a name is
    no slot of its function.
    """
    shared = {**(shared or {}), **group.slots}
    head = [" ".join(path), *(_called(member) if member else ()), *_without_command(group, shared)]
    lines = [*head, *slot_lines(group.slots)]
    for name, member in group.members.items():
        try:
            found = member.loaded
        except Refusal as refusal:  # of another package, which says so
            lines += ["", " ".join([*path, name]), f"  {visible(str(refusal))}"]
            continue
        if isinstance(found, CommandGroup):
            lines += ["", contract_of(found, [*path, name], member, shared)]
        else:
            lines += ["", " ".join([*path, name]), *_called(member)]
            lines += slot_lines(slots_of(found._below(shared)))
    return "\n".join(lines)


def _called(member: Member) -> list[str]:
    """Return the further names of a command, those that it had, and that no list has it."""
    return [
        *([f"  also called {', '.join(member.aliases)}"] if member.aliases else []),
        *([f"  once called {', '.join(member.renamed_from)}"] if member.renamed_from else []),
        *([] if member.listed else ["  in no list"]),
    ]


def program_lines(*, prefixes: bool, settings: object, repeats: str) -> list[str]:
    """Return what holds in the whole program."""
    return [
        "  names and commands may be cut to a beginning of their own"
        if prefixes
        else "  names and commands are written in full",
        *(["  values from the settings file"] if settings else []),
        *(["  of a value that is given again the last one counts"] if repeats == "last" else []),
    ]


def _without_command(group: CommandGroup, shared: Mapping[str, Slot[Any]]) -> list[str]:
    """Return what a call does that names no member, where that is said."""
    default = group.default_command
    if default is None:
        return []
    if isinstance(default, str):
        return [f"  with no command: {default}"]
    lines = slot_lines(slots_of(default._below(shared)))
    return [f"  with no command: {name_of(default)}", *[f"  {line}" for line in lines]]


def slot_lines(slots: Mapping[str, Slot[Any]]) -> list[str]:
    """Return a line for each slot (its position, names, kind with bounds and choices, default), and for each rule."""
    lines = []
    position = 0
    after_rest = False
    for slot in slots.values():
        if slot.named_only:
            place = "by name"
        elif slot.rest:
            place, after_rest = "the rest" if slot.rest is True else "the rest, as it is", True
        else:
            position += 1
            place = f"after the rest {position}" if after_rest else f"position {position}"
        names = f"--{slot.word}" + "".join([f" -{letter}" for letter in slot.short or ""])
        names += "".join([f" no -{letter}" for letter in slot.short_no or ""])
        parts = [place, names, *_kind(slot), *_default(slot)]
        lines.append(visible("  " + "; ".join(parts)))
    return [*lines, *[visible(f"  {rule.sentence(slots)}") for rule in rules_of(slots)]]


def _kind(slot: Slot[Any]) -> list[str]:
    """Return what values the slot takes."""
    kind = slot.kind
    parts = [kind.wanted]
    choices = None if kind.choices is None else kind.choices.known
    if kind.choices is not None and choices is None:
        parts = [f"{slot.shape.some} choices that depend on the answers before"]
    elif choices is not None:
        timed_pull(choices.source, LISTED + 1)
        many = len(choices)
        labels = ", ".join(_words(choices)) if many <= LISTED else counted(many, "choice")
        parts = [f"{slot.shape.some} {labels}"]
        if kind.depends:
            parts.append("which can be chosen depends on the answers before")
    if kind.limits is not None:
        least, most = kind.limits
        parts.append(f"from {least} to {'any number' if most is None else most}")
    for name in ("low", "high", "unit", "env"):
        value = getattr(slot, name)
        if callable(value):
            parts.append(f"{name} depends on the answers before")
        elif value not in (None, ""):
            parts.append(f"{name} {bound_text(slot, value) if name in ('low', 'high') else value}")
    if slot.alone is not MISSING:
        parts.append(f"alone {slot.format(slot.alone)}")
    if slot.pattern is not None:
        parts.append(f"pattern {getattr(slot.pattern, 'pattern', slot.pattern)}")
    if slot.shape.splits:
        parts.append(f"{'many' if slot.many else 'rest'} from {slot.least} to {slot.most or 'any number'}")
    if slot.applies is not None:
        parts.append("only where it applies")
    if slot.renamed_from:
        parts.append("once called " + ", ".join(f"--{name}" for name in slot.renamed_from))
    if slot.secret:
        parts.append("secret" if slot.secret is True else "secret, but taken anywhere")
    if slot.repeats == "last":
        parts.append("the last one counts")
    if not slot.is_listed:
        parts.append("left out of help")
    if slot.piped:
        parts.append("piped" if slot.piped is True else "a piped stream")
    return parts


def _words(choices: Choices[Any]) -> list[str]:
    """Return the label of each choice, with the further words for it."""
    aliases = [choices.further(at) for at in range(len(choices))]
    return [
        f"{label} ({', '.join(more)})" if more else label for label, more in zip(choices.labels(), aliases, strict=True)
    ]


def _default(slot: Slot[Any]) -> list[str]:
    if slot.default is MISSING:
        return [] if slot.has_fallback else ["required"]
    if callable(slot.default):
        return ["default from the answers"]
    if slot.initial is None:
        return ["may stay empty"]
    return [f"default {shown(slot, slot.default) if slot.default is not None else 'none'}"]
