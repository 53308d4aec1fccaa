"""Old names: that one was used is said in a line of its own, with the name that it has now."""

from __future__ import annotations

from wesperon.context import current
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable


def say_renamed(renamed: Iterable[tuple[str, str]]) -> None:
    """Say on standard error what each old name that was used is called now; once each, and nothing among JSON."""
    context = current()
    if context.environ.get("WESPERON_PROBLEMS") == "json":
        return
    for old, new in dict.fromkeys(renamed):
        context.print(visible(tell("{old} is now called {new}", old=old, new=new)), error=True)
