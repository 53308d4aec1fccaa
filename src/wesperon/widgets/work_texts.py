"""What is said of long work: each part of a row as a text, and the lines where no row can be drawn."""

from __future__ import annotations

from wesperon.frozen import Frozen
from wesperon.text.elapsed import elapsed
from wesperon.text.escape import visible
from wesperon.text.messages import tell

#: The multiples in which bytes are counted (IEC 80000-13).
MULTIPLES = ("B", "KiB", "MiB", "GiB", "TiB", "PiB")
#: The unit that is counted in them.
BYTES = "bytes"

#: How a piece of work has ended.
DONE, STOPPED, FAILED = "done", "stopped", "failed"


class Standing(Frozen):
    """How far a piece of work is: what there is to say of it at one moment.

    ``count`` is None if nothing is counted, ``total`` if it is not known; ``rate`` is by the second; ``left`` and
    ``seconds``, for which the work has gone on, are in seconds; None if nobody knows.
    """

    label: str
    count: float | None = None
    total: float | None = None
    unit: str = ""
    rate: float | None = None
    left: float | None = None
    seconds: float | None = 0

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
    return "" if standing.seconds is None else tell("{time} so far", time=_whole(standing.seconds))


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
    what, time = counted(standing), elapsed(standing.seconds or 0)
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
