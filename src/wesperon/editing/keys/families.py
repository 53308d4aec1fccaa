"""The families of keys, by the name that a program, a user or the environment gives."""

from __future__ import annotations

from wesperon.frozen import later
from wesperon.values import Complaint, DeclarationError, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.family import Family
    from wesperon.text import spelling
else:
    spelling = later("wesperon.text.spelling")

#: Every family: its name, and ``module:NAME`` of its tables, which are loaded with its first use. The first is usual.
FAMILIES = {
    "modeless": "wesperon.editing.keys.modeless:MODELESS",
    "modal": "wesperon.editing.keys.modal:MODAL",
}
MODELESS, MODAL = FAMILIES


def family_named(name: str) -> Family:
    """Return the family of a name; raises Complaint if there is none."""
    if name in FAMILIES:
        module, _, attribute = FAMILIES[name].partition(":")
        family: Family = getattr(__import__(module, fromlist=[attribute]), attribute)
        return family
    hint = spelling.suggestion(name, FAMILIES)
    raise Complaint(
        tell(
            "{name} is not a family of keys{hint}; there are {list}",
            name=quoted(name),
            hint=hint,
            list=", ".join(FAMILIES),
        )
    )


def check_name(name: str) -> None:
    """Raise DeclarationError for the name of a family of keys, given by a program, that there is not."""
    if name not in FAMILIES:
        raise DeclarationError(f"keys={name!r} is not one of {', '.join(map(repr, FAMILIES))}")
