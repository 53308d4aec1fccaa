"""Where the values of a record came from, and which call and file it belongs to.

Every record keeps it as a tuple, since most programs never look at it and a start is to be quick; here it gets a name.
"""

from __future__ import annotations

from wesperon.frozen import Frozen

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping, Sequence
    from typing import Any

    from wesperon.values.records import Record


class Provenance(Frozen):
    """Where the values of a record came from, and the call that it is for.

    ``origins`` has the source of each value; ``uses_settings`` whether a settings file may fill what words leave out.
    Of a command, ``names`` are those that lead to it in its program, ``shared`` are the values of the program and its
    groups, and ``whole`` is the record of these and its own together, if there are any.
    """

    origins: Mapping[str, str]
    uses_settings: bool = False
    names: Sequence[str] = ()
    shared: Any = None
    whole: Any = None


def provenance_of(record: Record) -> Provenance:
    """Return where the values of a record came from, and the call that it is for."""
    return Provenance(*record.__dict__["_provenance"])


def state_of(record: Record) -> dict[str, Any]:
    """Return what goes to another process: the values, and where they came from, but not what the whole call has."""
    return {**record.__dict__, "_provenance": record.__dict__["_provenance"][:4]}


def note_origins(record: Record, origins: Mapping[str, str]) -> None:
    """Keep with a record that is being made where its values came from."""
    record.__dict__["_provenance"] = (origins,)


def declared_in(form: type[Record]) -> str:
    """Return the file that declares a form; empty for a class of a program."""
    return form._declared_in


def note_file(form: type[Record], path: str) -> None:
    """Keep with a form the file that declares it."""
    form._declared_in = path
