"""The event of a widget that wanted to be woken; a module of its own, since most runs have none."""

from __future__ import annotations

from wesperon.frozen import Frozen


class Alarm(Frozen):
    """The point in time has come at which the widget wanted to be woken (``Widget.wakes_at``)."""
