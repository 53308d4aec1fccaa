"""The look: which graphic rendition each role of text has.

Widgets name roles, never colours. The parameters are those of SGR in ECMA-48 (8.3.117), from the sixteen-colour
palette only, so that the user's own theme holds. No role is told by colour alone.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Mapping

#: Role to the parameters of SGR; a role that is not here is shown as plain text.
COLOURED: dict[str, str] = {
    "label": "36",
    "question": "2",
    "note": "2",
    "foot": "2",
    "current": "7",
    "selected": "7",
    "marked": "1",
    "hint": "2",
    "match": "1;4",
    "fault": "4;31",
    "reason": "31",
    "title": "1",
}

#: The same without colours, as NO_COLOR asks for: weight, underline and reverse stay.
UNCOLOURED: dict[str, str] = {**COLOURED, "label": "", "fault": "4", "reason": "1"}


def look_for(environment: Mapping[str, str]) -> dict[str, str]:
    """The look that an environment asks for: without colours where NO_COLOR is set to anything."""
    return UNCOLOURED if environment.get("NO_COLOR") else COLOURED
