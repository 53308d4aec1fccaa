"""The signals of the system, under ``signals``.

:mod:`signal` gives names to the numbers of ``_signal``, by means of :mod:`enum` and much that comes with it: a tenth of
the time until the first question is on the screen. Here the numbers will do; if there is no ``_signal``, the module
itself does as well, since its names are equal to the numbers.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    import signal as signals
else:
    try:
        import _signal as signals
    except ImportError:
        import signal as signals

__all__ = ["signals"]
