"""The words that give a record's values again, and the whole command line."""

from __future__ import annotations

import os

from wesperon.argv.typed import arranged
from wesperon.context import current
from wesperon.text.quoting import join
from wesperon.values import MISSING
from wesperon.values.provenance import provenance_of
from wesperon.values.records import slots_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.records import Record
    from wesperon.values.slots import Slot


def words_of(record: Record) -> list[str]:
    """Return the words that fill an equal record: ``--name=value`` for each slot, in the order of ``typed``.

    Left out is ``None``, but where it is an answer, and a default that nothing else could take the place of. Raises
    DeclarationError for a value of a kind of the program's own without ``text=``.
    """
    environ = current().environ
    everything = environ.get("WESPERON_ASKING") == "all" or provenance_of(record).uses_settings
    found: dict[str, list[str]] = {}
    before = type(record).__new__(type(record))
    for name, slot in slots_of(record).items():
        value, made = record.__dict__[name], found.setdefault(name, [])
        if value is None and slot.initial is None and not slot.secret and not slot.is_skipped(before):
            made.append(f"--{slot.word}=")
        others = everything or (slot.env is not None and slot.env in environ) or slot.piped or slot.is_asked_for
        if value is not None and not slot.secret and (others or not _same(slot, value, slot.fallback(before))):
            if slot.piped == "stream" and value.items is None:
                continue  # what came through a pipe is not there any more
            texts = slot.shape.words(slot.resolve(before), value)
            made += [f"--{slot.word}={text}" for text in texts]
            if not texts and not slot.can_be_empty:
                made.append(f"--{slot.word}=")
        before.__dict__[name] = value
    return arranged(record, found)


def _same(slot: Slot[Any], value: Any, default: Any) -> bool:
    """Return True if the default gives the value, down to what equality does not see (``1`` and ``1.0``)."""
    return default is not MISSING and type(value) is type(default) and value == default and repr(value) == repr(default)


def replay_of(record: Record) -> str:
    """Return the command line that fills an equal record, quoted for a POSIX shell."""
    call = provenance_of(record)
    return join([*started(), *call.names, *words_of(call.whole or record)])


def started() -> list[str]:
    """Return how the program was started, as words, without the words that were given to it."""
    context = current()
    program = context.program
    name = os.path.basename(program)
    if name and os.path.isfile(program):
        for folder in os.get_exec_path():
            found = os.path.join(folder, name)
            if os.access(found, os.X_OK) and os.path.samefile(found, program):
                return [name]
    line = context.line
    return line[: len(line) - len(context.words)] or [program]
