"""Characters that a program binds, such as ``?``: in the lines of a console they act, instead of being typed."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.text_state import TextState


def add_of_program(
    bindings: Bindings, table: Mapping[str, object], functions: Mapping[str, Callable[[TextState], TextState]]
) -> list[tuple[tuple[str, ...], str]]:
    """Take what a program binds, characters too; the arguments and the result are those of ``Bindings.add_tables``."""
    characters = {key: does for key, does in table.items() if len(key) == 1 and key.isprintable() and key != " "}
    faults: list[tuple[tuple[str, ...], str]] = []
    for char, does in characters.items():
        name, reason = bindings.named(char, does, functions)
        faults += [((char,), reason)] if reason else []
        bindings.characters[char] = name
    return faults + bindings.add_tables({key: table[key] for key in table if key not in characters}, functions)
