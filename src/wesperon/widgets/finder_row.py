"""The row of a search that is open in a line: its label, and the needle with the cursor."""

from __future__ import annotations

from wesperon.screen.width import cut, width
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.finder import Finder
    from wesperon.screen.frame import Row


def finder_row(finder: Finder, columns: int) -> tuple[Row, int]:
    """Return the row of a finder, which ends with why nothing is found, and the column of the cursor in it."""
    fault = finder.fault()
    label = tell("search") + "  " if columns >= 20 else "? " if columns > 4 else ""
    text = visible(finder.needle) + (f"   {fault}" if fault else "")
    row = (label, "label"), (cut(text, max(columns - width(label), 1)), "reason" if fault else "")
    return row, width(label) + min(width(visible(finder.needle)), max(columns - width(label), 0))
