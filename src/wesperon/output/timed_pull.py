"""Choices that a generator still gives, for a page that cannot wait for them."""

from __future__ import annotations

from wesperon.frozen import later

TYPE_CHECKING = False
if TYPE_CHECKING:
    import contextvars
    import threading
    from typing import Any

    from wesperon.values.pull_source import PullSource
else:
    contextvars = later("contextvars")
    threading = later("threading")

#: How long a page waits for choices that are still to come, in seconds.
TIMEOUT = 0.3


def timed_pull(source: PullSource[Any], most: int | None = None) -> None:
    """Take the items that come within a moment, up to a number; more may still come."""
    if not source.is_growing:
        return
    thread = threading.Thread(target=contextvars.copy_context().run, args=(_draw, source, most), daemon=True)
    thread.start()
    thread.join(TIMEOUT)


def _draw(source: PullSource[Any], most: int | None) -> None:
    try:
        source.pull(most)
    except Exception:  # it is reported when the choices are asked for
        pass
