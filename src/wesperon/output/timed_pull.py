"""Choices that a generator still gives, for a page that cannot wait for them."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.values.kinds.choice_list import Choices

#: How long a page waits for choices that are still to come, in seconds.
TIMEOUT = 0.3


def timed_pull(choices: Choices[Any], most: int | None = None) -> None:
    """Take the choices that come within a moment, up to a number; more may still come."""
    if not choices.is_growing:
        return
    import threading
    from contextvars import copy_context

    choices.lock = threading.Lock()
    thread = threading.Thread(target=copy_context().run, args=(_draw, choices, most), daemon=True)
    thread.start()
    thread.join(TIMEOUT)


def _draw(choices: Choices[Any], most: int | None) -> None:
    try:
        choices.pull_all(most)
    except Exception:  # it is reported when the choices are asked for
        pass
