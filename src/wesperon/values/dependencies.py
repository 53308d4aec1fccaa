"""Check that functions in a declaration read only slots declared before theirs.

A function is not called to find that out: the code of a function says which attributes of its first parameter it reads.
Loaded only if a slot has such a function.
"""

from __future__ import annotations

import dis

from wesperon.values import DeclarationError

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterator, Mapping, Set
    from typing import Any

    from wesperon.values.slots import Slot

#: The keywords of a slot that may be functions of the answers so far.
KEYWORDS = ("applies", "default", "initial", "low", "high", "suggest")


def examine_order(owner: str, slots: Mapping[str, Slot[Any]]) -> None:
    """Raise DeclarationError if a function reads a slot that has no value yet when it is called.

    ``owner`` is the name of the form. Slots get their values in the order of their declaration.
    """
    order = {name: at for at, name in enumerate(slots)}
    reads = {name: dict(_reads(slot, order.keys())) for name, slot in slots.items()}
    for name, at in order.items():
        for keyword, read in reads[name].items():
            for other in sorted(read, key=order.__getitem__):
                if order[other] >= at and (reason := _wrong(name, keyword, other, reads)):
                    raise DeclarationError(f"{owner}: {reason}")


def _wrong(name: str, keyword: str, other: str, reads: Mapping[str, Mapping[str, set[str]]]) -> str:
    """Return why a function may not read another slot, which is not before its own; empty if it may."""
    if other == name:
        return f"{keyword} of {name} reads {name} itself"
    if any(name in found for found in reads[other].values()):
        return f"{name} and {other} depend on each other"
    if keyword == "suggest":  # there is nothing to suggest until that is known, as it may be on a command line
        return ""
    return f"{keyword} of {name} reads {other}, which is declared after it: declare {other} first"


def _reads(slot: Slot[Any], names: Set[str]) -> Iterator[tuple[str, set[str]]]:
    """Yield the keywords of a slot that are functions, each with the slots that it reads."""
    functions = [(keyword, slot.__dict__.get(keyword), 0) for keyword in KEYWORDS]
    choices: Any = slot.kind.choices
    if slot.kind.depends and choices is not None:
        functions += [("choices", choices.function, 0), ("disabled", choices.reason, 1)]
    for keyword, function, index in functions:
        read = _read_by(function, names, index)
        if read:
            yield keyword, read


def _read_by(function: Any, names: Set[str], index: int) -> set[str]:
    """Return the attributes of these names that a function reads of the parameter at an index."""
    inner = getattr(function, "__func__", function)
    code = getattr(inner, "__code__", None)
    index += hasattr(function, "__self__")
    if code is None or code.co_argcount <= index or not names & set(code.co_names):
        return set()
    parameter, found, loaded = code.co_varnames[index], set(), False
    for step in dis.get_instructions(code):
        if loaded and step.opname in ("LOAD_ATTR", "LOAD_METHOD") and step.argval in names:
            found.add(str(step.argval))
        # Some versions load two variables in one step; the attribute is that of the last.
        last = step.argval[-1] if isinstance(step.argval, tuple) and step.argval else step.argval
        loaded = step.opname.startswith(("LOAD_FAST", "LOAD_DEREF")) and last == parameter
    return found
