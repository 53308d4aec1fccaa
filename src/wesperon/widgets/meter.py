"""How long work is shown: a row for each piece of it, and the lines that say the same where no row can be drawn.

A row is made of parts in a fixed order (``PARTS``). Of those that the terminal has no room for the last ones are left
out, in all rows alike, so that each part is a column. The bar takes what is left, up to ``WIDEST_BAR``; it is drawn
with the two roles ``bar`` and ``bar-rest`` on blanks, and nothing but the share says how far it is to who sees neither.

    label     right-aligned, as in a card
    bar       only with a total
    share     the same in percent
    count     of the total, if there is one
    rate      once it is known
    left      once it is known; else for how long the work has gone on
"""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.screen.width import cut, width
from wesperon.text.elapsed import elapsed
from wesperon.text.escape import visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.screen.frame import Row

#: The parts of a row in the order in which they are taken in.
PARTS = ("label", "bar", "share", "count", "rate", "left")
#: The columns of a bar; a label takes no more than this part of the row.
NARROWEST_BAR, WIDEST_BAR, LABEL_PART = 4, 24, 3
#: From this width on there are two blanks between two parts.
WIDE = 50
#: The multiples in which bytes are counted (IEC 80000-13).
MULTIPLES = ("B", "KiB", "MiB", "GiB", "TiB", "PiB")
#: The unit that is counted in them.
BYTES = "bytes"

#: How a piece of work has ended.
DONE, STOPPED, FAILED = "done", "stopped", "failed"


class Standing(Frozen):
    """How far a piece of work is: what there is to say of it at one moment.

    ``count`` is None if nothing is counted, ``total`` if it is not known; ``rate`` is by the second; ``left`` and
    ``seconds``, for which the work has gone on, are in seconds.
    """

    label: str
    count: float | None = None
    total: float | None = None
    unit: str = ""
    rate: float | None = None
    left: float | None = None
    seconds: float = 0

    @property
    def share(self) -> float | None:
        """The part that is done, from 0 to 1; None if the total is not known, or less than what was counted."""
        if self.count is None or self.total is None or not 0 <= self.count <= self.total:
            return None
        return self.count / self.total if self.total else 1.0


# Texts ---------------------------------------------------------------------------------------------------------------


def amount(count: float, unit: str = "") -> str:
    """Return a count with its unit: ``12``, ``12 frames``, ``3.4 MiB``."""
    if unit == BYTES:
        return _in_multiples(count)
    number = f"{count:,}" if isinstance(count, int) else f"{count:,.0f}" if count == int(count) else f"{count:,.1f}"
    return f"{number} {unit}" if unit else number


def _in_multiples(count: float) -> str:
    power = 0
    while abs(count) >= 1023.95 and power < len(MULTIPLES) - 1:
        count, power = count / 1024, power + 1
    return f"{count:.1f} {MULTIPLES[power]}" if power else f"{count:.0f} {MULTIPLES[0]}"


def counted(standing: Standing) -> str:
    """Return how much is done, and of how much: ``12 of 240 frames``; empty if nothing is counted."""
    count, total, unit = standing.count, standing.total, standing.unit
    if count is None:
        return ""
    if standing.share is None or total is None:
        return amount(count, unit)
    whole, part = amount(total, unit), amount(count, unit if unit == BYTES else "")
    if unit == BYTES and part.split()[1] == whole.split()[1]:
        part = part.split()[0]
    return tell("{count} of {total}", count=part, total=whole)


def share_of(standing: Standing) -> str:
    """Return the share in percent, never 100% before it is all; empty if it is not known."""
    share = standing.share
    return "" if share is None else f"{int(share * 100 + 1e-9)}%"


def rate_of(standing: Standing) -> str:
    """Return the rate, by the hour or minute if it is slow: ``3.4/s``, ``1.2 MiB/s``, ``12/min``; empty if unknown."""
    rate, unit = standing.rate, standing.unit
    if not rate or rate < 0:
        return ""
    if unit == BYTES:
        return f"{_in_multiples(rate)}/s"
    per = "/s"
    if rate < 1:
        rate, per = rate * 60, "/min"
    if rate < 1:
        rate, per = rate * 60, "/h"
    return (f"{rate:,.0f}" if rate >= 99.95 else f"{rate:.1f}") + per


def left_of(standing: Standing) -> str:
    """Return the time that is left, or else for how long the work has gone on, in whole seconds."""
    if standing.left is not None:
        return tell("{time} left", time=_whole(standing.left))
    return _whole(standing.seconds)


def _whole(seconds: float) -> str:
    return elapsed(seconds) if seconds >= 9.95 else f"{int(seconds + 0.5)}s"


def line(standing: Standing) -> str:
    """Return one line that says how far the work is, for a log or a reader: ``Stacking: 10%, 24 of 240, 1m2s left``."""
    parts = (share_of(standing), counted(standing), rate_of(standing), left_of(standing))
    return labelled(standing.label, ", ".join([part for part in parts if part]))


def labelled(label: str, text: str) -> str:
    """Return a text after its label, if there is one."""
    label = visible(label)
    return f"{label}: {text}" if label else text


def ended(standing: Standing, how: str, reason: str = "") -> str:
    """Return the one line that says how the work has ended, and how far it came."""
    what, time = counted(standing), elapsed(standing.seconds)
    if how == DONE:
        if standing.count is not None and standing.count == standing.total:
            what = amount(standing.count, standing.unit)
        text = tell("done, {count} in {time}", count=what, time=time) if what else tell("done in {time}", time=time)
    elif how == STOPPED:
        text = tell("stopped at {count}", count=what) if what else tell("stopped after {time}", time=time)
    else:
        text = tell("failed at {count}", count=what) if what else tell("failed after {time}", time=time)
    first = next((row for row in reason.splitlines() if row.strip()), "")
    return labelled(standing.label, f"{text}: {visible(first)}" if first else text)


# Rows ----------------------------------------------------------------------------------------------------------------


def rows_of(standings: Sequence[Standing], columns: int) -> tuple[Row, ...]:
    """Return a row for each piece of work, no wider than ``columns``."""
    texts = [_texts(standing, columns) for standing in standings]
    widths = [max((width(row[number]) for row in texts), default=0) for number in range(len(PARTS))]
    has_bar = any(standing.share is not None for standing in standings)
    widths[PARTS.index("bar")] = NARROWEST_BAR if has_bar else 0
    gap = 2 if columns >= WIDE else 1
    used = 0
    shown: list[int] = []
    for number, wide in enumerate(widths):
        if not wide:
            continue
        if shown and used + gap + wide > columns:
            break
        used += gap * bool(shown) + wide
        shown.append(number)
    if PARTS.index("bar") in shown:
        widths[PARTS.index("bar")] += min(columns - used, WIDEST_BAR - NARROWEST_BAR)
    return tuple(_row(standing, row, widths, shown, " " * gap) for standing, row in zip(standings, texts, strict=True))


def _texts(standing: Standing, columns: int) -> tuple[str, ...]:
    """Return the parts of a row as texts, each empty if there is nothing to say; that of the bar always is."""
    label = cut(visible(standing.label.partition("\n")[0]), max(columns // LABEL_PART, 8))
    return label, "", share_of(standing), counted(standing), rate_of(standing), left_of(standing)


def _row(standing: Standing, texts: Sequence[str], widths: Sequence[int], shown: Sequence[int], gap: str) -> Row:
    spans: list[tuple[str, str]] = []
    for number in shown:
        text, wide = texts[number], widths[number]
        if spans:
            spans.append((gap, ""))
        if PARTS[number] == "bar":
            spans += bar(standing.share, wide)
        else:
            room = " " * (wide - width(text))
            spans.append((room + text, "label" if PARTS[number] == "label" else ""))
    while spans and not spans[-1][0].strip() and not spans[-1][1]:
        spans.pop()
    return tuple(spans)


def bar(share: float | None, columns: int) -> list[tuple[str, str]]:
    """Return a bar of so many ``columns`` as spans; blanks if the share is not known."""
    if share is None:
        return [(" " * columns, "")]
    full = int(share * columns + 1e-9)
    return [(" " * cells, role) for cells, role in ((full, "bar"), (columns - full, "bar-rest")) if cells]
