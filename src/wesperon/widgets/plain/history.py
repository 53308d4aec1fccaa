"""The page of the history in plain lines: numbered entries, and a prompt that takes numbers, or a text to filter by."""

from __future__ import annotations

from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import quoted
from wesperon.widgets.history_page import LINE_END, PutTogether
from wesperon.widgets.plain.answers import PlainWidget
from wesperon.widgets.widget import Answered

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.history_view import Entry
    from wesperon.widgets.history_page import HistoryPage

#: How many entries are printed at a time.
PRINTED = 20


class PlainHistory(PlainWidget):
    """The newest entries, numbered from the newest; the numbers that are typed say what is put together, in order."""

    widget: HistoryPage

    def __init__(self, widget: HistoryPage) -> None:
        super().__init__(widget)
        self.said = ""
        self.listed: list[Entry] = []

    def rows(self) -> list[str]:
        """Return the newest entries that the filter leaves, the newest last."""
        page = self.widget
        self.listed = []
        found = page.older(None)
        while found is not None and len(self.listed) < PRINTED:
            self.listed.append(found)
            found = page.older(found)
        rows = []
        for number, entry in reversed(list(enumerate(self.listed, 1))):
            _, status = page.entries.details(entry)
            failed = f"  ({status})" if status else ""
            rows.append(f"{number:>4}  {visible(entry.text.replace(chr(10), LINE_END))}{failed}")
        said, self.said = self.said, ""
        return [*(rows or ["  " + tell("no entry holds this")]), *([f"  {said}"] if said else [])]

    def prompt(self) -> str:
        """Return what may be typed."""
        return tell("numbers: put these together, in this order; /text: filter; Enter: back: ")

    def answer(self, lines: list[str]) -> None:
        """See ``PlainWidget``."""
        text = lines[0].strip()
        numbers = text.replace(",", " ").split()
        if not text:
            self.widget.give_up()
        elif text.startswith("/"):
            self.widget.seek(text[1:])
        elif all(one.isascii() and one.isdecimal() and 1 <= int(one[:9]) <= len(self.listed) for one in numbers):
            texts = [self.listed[int(one) - 1].text for one in numbers]
            self.widget.outcome = Answered(PutTogether("\n".join(texts)))
        else:
            self.said = tell("{text}: must be numbers from 1 to {last}", text=quoted(text), last=len(self.listed))
