"""A user's preferences: ``preferences.toml`` in the configuration folder, for all programs and for one."""

from __future__ import annotations

import os

from wesperon.user_folders import SHARED, folder

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from wesperon.editing.edits import TextState
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.files.document import Document

#: The name of the file, and the table in it.
FILE, TABLE = "preferences.toml", "bindings"
#: The key that names the family of keys.
KEYS = "keys"
#: The key that says how what a word may become is shown.
SUGGESTIONS = "suggestions"


def key_files(program: str) -> list[str]:
    """The files that there are, that for all programs first."""
    names = dict.fromkeys((SHARED, program or SHARED))
    files = [os.path.join(folder("config", name), FILE) for name in names]
    return [file for file in files if os.path.exists(file)]


def load(
    keys: Mapping[str, object],
    actions: Mapping[str, Callable[[TextState], TextState]],
    files: list[str],
    families: Mapping[str, str] | None = None,
) -> tuple[Bindings, list[str]]:
    """The bindings of a program and of these files, the later ones on top; and what is wrong in the files, in lines.

    ``families`` are names of a family of keys by who wants it: ``program``, and ``WESPERON_KEYS``, which goes before
    the files. Raises DeclarationError if the program's own bindings are wrong.
    """
    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.families import MODELESS, family_named
    from wesperon.files.document import Document
    from wesperon.text.escape import visible
    from wesperon.values import Complaint, DeclarationError
    from wesperon.values.problems import Problems

    documents, faults = [], []
    wanted = [("keys", name) for by, name in (families or {}).items() if by == "program" and name]
    for file in files:
        try:
            document = Document(file, "preferences")
        except Problems as problems:
            faults += [visible(problem.sentence) for problem in problems]
            continue
        documents.append(document)
        if isinstance(document.top, dict) and KEYS in document.top:
            wanted.append((document.where((KEYS,))[0], str(document.top.pop(KEYS))))
    wanted += [(by, name) for by, name in (families or {}).items() if by != "program" and name]
    family = family_named(MODELESS)
    for place, name in wanted:
        try:
            family = family_named(name)
        except Complaint as complaint:
            faults.append(visible(f"{place}: {complaint.reason}"))
    bindings = Bindings(family)
    for key, reason in bindings.add(keys, actions).items():
        raise DeclarationError(f"bindings: {key}: {reason}")
    for document in documents:
        faults += _read(document, bindings, actions)
    return bindings, faults


def _read(document: Document, bindings: Bindings, actions: Mapping[str, Callable[[TextState], TextState]]) -> list[str]:
    """Take what one file says. Return what is wrong in it, a line each."""
    from wesperon.text.escape import visible

    tables = document.top
    table = tables.pop(TABLE, {})
    suggestions = tables.pop(SUGGESTIONS, "")
    unknown = f"there is nothing but {KEYS}, {SUGGESTIONS} and the table [{TABLE}] here"
    faults: dict[tuple[str, ...], str] = {(name,): unknown for name in tables}
    if suggestions in ("list", "grid", "inline"):
        bindings.suggestions = suggestions
    elif suggestions:
        faults[(SUGGESTIONS,)] = f"{SUGGESTIONS} must be one of list, grid, inline"
    if isinstance(table, dict):
        faults |= {(TABLE, key): f"{key}: {reason}" for key, reason in bindings.add(table, actions).items()}
    else:
        faults[(TABLE,)] = f"[{TABLE}] must be a table of keys"
    return [visible(f"{document.where(where)[0]}: {reason}") for where, reason in faults.items()]
