"""The families of keys, by the name that a program, a user or the environment gives."""

from __future__ import annotations

from wesperon.text.spelling import suggestion
from wesperon.values import Complaint, quoted, tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.family import Family

MODELESS, MODAL = NAMES = ("modeless", "modal")


def family_named(name: str) -> Family:
    """The family of a name, which is loaded with its first use; raises Complaint if there is none."""
    if name == MODELESS:
        from wesperon.editing.keys import modeless

        return modeless.MODELESS
    if name == MODAL:
        from wesperon.editing.keys import modal

        return modal.MODAL
    hint = suggestion(name, NAMES)
    raise Complaint(
        tell(
            "{name} is not a family of keys{hint}; there are {list}",
            name=quoted(name),
            hint=hint,
            list=", ".join(NAMES),
        )
    )
