"""The values of the last run, for slots with ``initial="last"``: a small file for each form, beside saved answers."""

from __future__ import annotations

import json
import os
import zlib

from wesperon.context import current
from wesperon.files.private import make_own_folder, read_private, replace_private
from wesperon.user_folders import folder
from wesperon.values import Complaint, DeclarationError
from wesperon.values.records import slots_of
from wesperon.values.slots import LAST
from wesperon.values.words import line_of

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.records import Record


def last_texts(form: type[Any], program: str) -> dict[str, str]:
    """Return the texts of the last run of a form of a program, by the names of its slots; none if there are none."""
    try:
        found = json.loads(read_private(_path(form, program)))
        return {name: text for name, text in dict(found).items() if isinstance(text, str)}
    except (OSError, ValueError, TypeError):
        # no file, or one that somebody has changed: the run begins as the first one did
        return {}


def keep_last(record: Record, program: str) -> None:
    """Keep the values of a record that the next run begins with; if that is not possible, they are not kept."""
    form = type(record)
    kept = last_texts(form, program)
    new = dict(kept)
    for name, slot in slots_of(form).items():
        value = record.__dict__[name]
        if slot.initial == LAST and not slot.secret and value is not None:
            try:
                new[name] = line_of(slot.resolve(record), value)
            except (Complaint, DeclarationError):  # a kind of the program's own that cannot be written
                continue
    if new != kept:
        path = _path(form, program)
        try:
            make_own_folder(os.path.dirname(path))
            replace_private(path, json.dumps(new).encode())
        except OSError:  # a full or read-only disk costs the convenience, not the run
            pass


def _path(form: type[Any], program: str) -> str:
    program = program or os.path.splitext(current().program_name)[0]
    names = [name for name, slot in slots_of(form).items() if slot.initial == LAST]
    named = ":".join((form.__module__, form.__qualname__, *names))
    return os.path.join(folder("state", program), "last", f"{zlib.crc32(named.encode()):08x}.json")
