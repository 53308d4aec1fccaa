"""What Wesperon says to people, in their own language.

Every message is in the source in English, with the names of its parts in braces, and is its own key in the
catalogue (GNU gettext) that holds it in another language. Which catalogue that is, the context in force says.
"""

from __future__ import annotations

from wesperon.context import current

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Protocol

    class Catalogue(Protocol):
        """The messages of one language."""

        def gettext(self, message: str, /) -> str:
            """Return the message in that language; itself if there is none."""

        def ngettext(self, one: str, many: str, count: int, /) -> str:
            """Return the form of the message that goes with a number."""


def tell(message: str, /, **parts: object) -> str:
    """Return a message in the user's language, with its parts put in."""
    catalogue = _catalogue()
    text = message if catalogue is None or not message else catalogue.gettext(message)
    return text.format(**parts) if parts else text


def tell_many(one: str, many: str, count: int, /, **parts: object) -> str:
    """Return the message that goes with a number, which is in it as ``{count}``."""
    catalogue = _catalogue()
    text = (one if count == 1 else many) if catalogue is None else catalogue.ngettext(one, many, count)
    return text.format(count=f"{count:,}", **parts)


def _catalogue() -> Catalogue | None:
    catalogue: Catalogue | None = current().catalogue
    return catalogue
