"""The pager as a part of a screen."""

from __future__ import annotations

from wesperon.paging.page import limited
from wesperon.paging.sources import close_all, sources_of
from wesperon.widgets.pager import pager as whole_pager
from wesperon.widgets.parts.around import Around
from wesperon.widgets.widget import Interrupted, SizeHint

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.editing.keys.bindings import Bindings
    from wesperon.editing.keys.events import Event, Key
    from wesperon.paging.sources import Source
    from wesperon.widgets.parts.part import Host, Part
    from wesperon.widgets.widget import Effect


#: What its keys do, inside a screen.
FOOT_IN_SCREEN = "Space: on   /: search   F1: all keys"


class Pager(Around):
    r"""A long text on a screen, with the keys, the search and the marks of :func:`page`.

    ``source`` is what :func:`page` takes; ``heading``, ``pick`` and ``follow`` are the same as there.
    ``show(source)`` shows another one. ``value`` is the list of the lines that are marked. The other keywords are those
    of every part.

    Example:
        >>> Pager("HOLLIN-051  Lantern Nebula\n").value
        []

    """

    takes_focus = fills_down = types_text = works = True

    def __init__(
        self, source: Source = "", *, heading: int = 0, pick: bool = False, follow: bool = False, **place: Any
    ) -> None:
        super().__init__(**place)
        self.settings: dict[str, Any] = {"heading": heading, "picks": pick, "follows": follow}
        self._bindings: Bindings | None = None
        self._sources: Any = ()
        self._is_closed = False
        self.receive(source)

    def attach(self, host: Host | None, parent: Part | None = None) -> None:
        """See ``Part``; what it reads from is closed with the screen, and opened again on the next one."""
        super().attach(host, parent)
        if self._is_closed:
            self.receive(self._source)
        elif host is None:
            self._is_closed = True
            close_all(self._sources)

    def receive(self, source: Source = "", *more: Any) -> None:
        """See ``Part``."""
        self._is_closed = False
        self._source = source
        close_all(self._sources)
        self._sources = sources_of(source)
        self.inner = whole_pager.Pager(self._sources, limited=limited, **self.settings)
        self.inner.foot_keys = FOOT_IN_SCREEN
        self.inner.set_theme(self.theme)
        if self._bindings is not None:
            self.inner.bind(self._bindings)
        self.stale()

    @property
    def value(self) -> list[str]:
        """The lines that are marked, in their order."""
        return [*self.inner.picks.lines] if self.inner.picks is not None else []

    def bind(self, bindings: Bindings) -> None:
        """See ``Widget``; another source is read by the same keys."""
        super().bind(bindings)
        self._bindings = bindings

    def wants_key(self, key: Key) -> bool:
        """See ``Part``: what leaves the pager elsewhere is the screen's."""
        inner = self.inner
        if key.name in ("tab", "shift-tab"):
            return False
        if key.name in ("q", "ctrl-c", "escape") and not inner.is_busy:
            return False
        if key.name == "ctrl-d":
            return False
        resolver = inner.resolver
        return bool(inner.pending or key.text or resolver.table.get(key.name, "") or key.name in resolver.begun)

    def press(self, event: Event) -> Effect | None:
        """See ``Widget``."""
        wanted: Effect | None = self.inner.press(event)
        if self.inner.outcome is not None:
            if isinstance(self.inner.outcome, Interrupted):
                self.outcome = self.inner.outcome
            self.inner.outcome = None
        self.stale()
        return wanted

    def size(self, columns: int) -> SizeHint:
        """See ``Widget``."""
        return SizeHint(8, 2, 40, 8)

    def hint_keys(self) -> str:
        """See ``Part``: its own last row says what its keys do."""
        return ""
