"""The seat at a terminal: who has it now, and all that is to be done when it is taken and given back.

Every driver has a seat. Of a terminal that is not the process's own it is nothing but the turn: two tasks that ask on
it come one after the other. That of the process's own terminal is one for all drivers (:data:`OWN_SEAT`), since the
signals, the standard streams and the turn among processes are one for all. In order, each step undone in reverse
whatever fails:

    the turn inside the process     threads and tasks; the holder may ask again inside, and what is below is put aside
    the turn among processes        the programs of a pipeline
    signals                         handlers in the main thread, a guard in any other
    the output of the process       above what is open
    the terminal                    its modes, by the driver
"""

from __future__ import annotations

import _thread

from wesperon.system.interrupts import critical
from wesperon.system.process_signals import SIGNALS, Holder
from wesperon.terminal.seat.capture import Capture
from wesperon.terminal.seat.process_turn import TerminalTurn
from wesperon.terminal.seat.turn import Turn, pause

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Sequence
    from typing import Any, Protocol

    from wesperon.screen.frame import Row
    from wesperon.terminal.foot_rows import FootRows
    from wesperon.terminal.inbox import Inbox
    from wesperon.terminal.seat.capture import Capture
    from wesperon.terminal.seat.typed_ahead import TypedAhead

    class Options(Protocol):
        """What the seat looks at of how the questions of a program are run."""

        capture: bool
        ends_process: bool

    class Sitter(Protocol):
        """Who takes a seat: a device with its terminal."""

        inbox: Inbox
        is_stopped: bool
        #: What the signals of the process see of it.
        holder: Holder

        @property
        def options(self) -> Options:
            """How it was opened last."""

        def take(self) -> None:
            """Set the modes of the terminal, and begin on a row of its own."""

        def abandon(self) -> None:
            """Leave what is drawn, if an exception has come while it was."""

        def give(self) -> None:
            """Leave what is drawn, and let the terminal be as it was found."""

        def hand_back(self) -> None:
            """Let the terminal be as it was found, for a while."""

        def take_again(self) -> None:
            """Set the modes again after that."""

        def put_aside(self) -> None:
            """Take the frame away, since something is opened above it."""

        def come_back(self) -> None:
            """Take the terminal again, and begin below what another one has shown."""

        def watch(self, *, in_main: bool) -> None:
            """Prepare before the terminal is taken; ``in_main``: the signals of the process reach it."""

        def unwatch(self) -> None:
            """Tidy up after the terminal was given back."""

        def say(self, text: str) -> None:
            """Show finished lines above the widget that is open."""

        def show_work(self, rows: Sequence[Row]) -> None:
            """Show rows of long work above the widget that is open, if it has room for that."""

        def size(self) -> tuple[int, int]:
            """Return the columns and rows of the terminal."""


#: How often is tried whether another process has given the terminal back, in seconds.
TURN_EVERY = 0.05


class Seat:
    """The seat at a terminal of its own."""

    #: Whether its terminal is that of the process, where everything that the process prints goes too.
    is_own = False

    def __init__(self) -> None:
        self.turn = Turn()
        self._depths: dict[Sitter, int] = {}
        #: The rows of long work, which are at the foot of the terminal while nothing is open on it.
        self.foot: FootRows | None = None

    def depth_of(self, sitter: Sitter) -> int:
        """Return how often a driver has been opened inside itself; 0: the terminal is not its own now."""
        return self._depths.get(sitter, 0)

    async def reserve(self) -> None:
        """Wait inside an event loop until the terminal can be taken without blocking."""
        await self.turn.reserve()

    @critical
    def enter(self, sitter: Sitter, options: Options) -> None:
        """Wait for the turn, and have the driver take the terminal; inside itself nothing but count."""
        self.turn.take()
        self._enter(sitter, options)

    @critical
    def _enter(self, sitter: Sitter, options: Options) -> None:
        try:
            depth = self._depths.get(sitter, 0)
            if not depth:
                self.open(sitter, options)
            self._depths[sitter] = depth + 1
        except BaseException:
            self.turn.end()
            raise

    @critical
    def leave(self, sitter: Sitter) -> None:
        """Give the terminal back, if this was the outermost use of the sitter."""
        depth = self._depths.get(sitter, 0)
        if not depth:  # it was taken away already
            return
        try:
            if depth > 1:
                self._depths[sitter] = depth - 1
            else:
                del self._depths[sitter]
                self.close(sitter)
        finally:
            self.turn.end()

    @critical
    def take_away(self, sitter: Sitter) -> None:
        """Give the terminal back however often the driver was opened inside itself: nobody else will."""
        while self.depth_of(sitter):
            self.leave(sitter)

    def open(self, sitter: Sitter, options: Options) -> None:
        """Take the terminal for a sitter."""
        sitter.take()

    def close(self, sitter: Sitter) -> None:
        """Give it back."""
        sitter.give()

    def lend(self, sitter: Sitter) -> None:
        """Let another program have the terminal."""
        sitter.hand_back()

    def take_back(self, sitter: Sitter) -> None:
        """Take it again."""
        sitter.take_again()


class OwnSeat(Seat):
    """The seat at the terminal of the process; see the module."""

    is_own = True

    def __init__(self) -> None:
        super().__init__()
        self.processes = TerminalTurn()
        #: Those that have the terminal, the one on top last, each with how to undo what was done for it.
        self._open: list[tuple[Sitter, list[Callable[[], object]]]] = []
        #: Held while something is said, which must have been shown before another takes the terminal, and while one of
        #: the parts that there is once is made: several threads may be the first that ask.
        self._changing = _thread.RLock()
        self._capture: Capture | None = None
        self._ahead: TypedAhead | None = None

    async def reserve(self) -> None:
        """Wait inside an event loop until the terminal can be taken without blocking."""
        import asyncio

        await self.turn.reserve()
        while not self._open and not self.processes.take():
            await asyncio.sleep(TURN_EVERY)

    @property
    def capture(self) -> Capture:
        """What takes the output of the process; made when it is wanted first."""
        with self._changing:
            if self._capture is None:
                self._capture = Capture(self)
            return self._capture

    @property
    def ahead(self) -> TypedAhead:
        """What was typed ahead and read already; made when there is something."""
        with self._changing:
            if self._ahead is None:
                from wesperon.terminal.seat.typed_ahead import TypedAhead

                self._ahead = TypedAhead()
            return self._ahead

    @critical
    def enter(self, sitter: Sitter, options: Options) -> None:
        """Wait for both turns, and have the driver take the terminal; inside itself nothing but count."""
        held = SIGNALS.hold()
        try:
            is_first = self.turn.take()
            try:
                if is_first and not self.depth_of(sitter):
                    self._wait_for_processes()
            except BaseException:
                self.turn.end()
                raise
            self._enter(sitter, options)
        finally:
            SIGNALS.let_go(held)

    @critical
    def leave(self, sitter: Sitter) -> None:
        """Give the terminal back, if this was the outermost use of the sitter."""
        held = SIGNALS.hold()
        try:
            super().leave(sitter)
        finally:
            SIGNALS.let_go(held)

    def _wait_for_processes(self) -> None:
        """Wait in silence, since anything said would fall into the question of the other process."""
        while not self.processes.take():
            pause(TURN_EVERY)

    @critical
    def open(self, sitter: Sitter, options: Options) -> None:
        """Take the terminal for a driver; what is below it is put aside."""
        undo: list[Callable[[], object]] = []
        entry = (sitter, undo)
        try:
            if self._open:
                below = self._open[-1][0]
                undo.append(below.come_back)
                below.put_aside()
            else:
                undo.append(self.processes.end)
            undo.append(lambda: self._remove(entry))
            with self._changing:
                if self.foot is not None:
                    self.foot.hide()
                self._open.append(entry)
            self._watch(sitter, options, undo)
            if options.capture:
                self.capture.open()
                undo.append(self.capture.close)
                self.capture.begin()
            # What is in the pipe is shown before the terminal is given back, so its end comes first.
            undo.append(sitter.give)
            undo.append(self.capture.end if options.capture else _nothing)
            # What is printed from then on must not fall on a screen that is about to be left.
            undo.append(sitter.abandon)
            sitter.take()
            if self._ahead is not None and len(self._open) == 1:
                sitter.inbox.put_back(self._ahead.pop_all())
        except BaseException:
            _do_all(undo)
            raise

    def _remove(self, entry: tuple[Sitter, list[Callable[[], object]]]) -> None:
        with self._changing:
            if entry in self._open:
                self._open.remove(entry)

    def _watch(self, sitter: Sitter, options: Options, undo: list[Callable[[], object]]) -> None:
        """Lead the signals of the process to the driver; in another thread, start a guard instead."""
        holder = sitter.holder
        in_main = SIGNALS.open(holder)
        undo.append(
            lambda: SIGNALS.close(
                holder, in_main=in_main, ignores_interrupts=sitter.is_stopped and options.ends_process
            )
        )
        sitter.watch(in_main=in_main)
        undo.append(sitter.unwatch)

    @critical
    def close(self, sitter: Sitter) -> None:
        """Give the terminal back, step by step, and have what is below go on."""
        place = next((at for at, (one, _) in enumerate(self._open) if one is sitter), None)
        if place is None:  # it was taken away by force, as the loop in which it was open has been closed
            return
        try:
            _do_all(self._open[place][1])
        finally:
            if not self._open and sitter.inbox:
                self.ahead.keep(sitter.inbox.pop_typed())
            if sitter.is_stopped:  # the user has made an interrupt already
                SIGNALS.pop_interrupt()

    def has_top(self, sitter: Sitter) -> bool:
        """Return True if nothing is open above a sitter."""
        return bool(self._open) and self._open[-1][0] is sitter

    def show_rest(self) -> None:
        """Show what was printed already: the process ends."""
        if self._capture is not None:
            self._capture.give_back()

    def lend(self, sitter: Sitter) -> None:
        """Let another program have the terminal, and the descriptors of the process lead there."""
        if sitter.options.capture:
            self.capture.end()
        sitter.hand_back()

    def take_back(self, sitter: Sitter) -> None:
        """Take it again."""
        sitter.take_again()
        if sitter.options.capture:
            self.capture.begin()

    # What is printed meanwhile (see ``capture``) ---------------------------------------------------------------------

    def say(self, text: str) -> bool:
        """Show lines above what is on top, or above the rows at the foot. Return False if there is neither."""
        with self._changing:
            if self._open:
                self._open[-1][0].say(text)
            elif self.foot is not None:
                self.foot.say(text)
            else:
                return False
            return True

    def has_room(self) -> bool:
        """Return True if so few lines wait to be shown that more may come."""
        return not self._open or self._open[-1][0].inbox.has_room


class Held(Holder):
    """A driver, as the signals of the process see it."""

    def __init__(self, driver: Any) -> None:
        self.driver = driver
        self.bell = driver.port.bell

    def stops_act(self) -> bool:
        """Return True if the user has been told that Ctrl-C stops what a key has called."""
        return bool(self.driver.is_told_of_stopping)

    def give_back(self) -> None:
        """Leave what is drawn, and give the terminal back at once."""
        OWN_SEAT.show_rest()
        self.driver.give_back_at_once()

    def ring(self) -> None:
        """End the wait of the main thread."""
        self.driver.wake()

    def resized(self) -> None:
        """Look at the size before anything is drawn."""
        self.driver.hear_size()

    def stop(self) -> None:
        """Stop where nothing is half drawn."""
        self.driver.stop_soon()

    def go_on(self) -> None:
        """Take the terminal again at once, before anything is echoed: who had it may have changed its modes."""
        self.driver.go_on()


def _nothing() -> None: ...


def _do_all(steps: list[Callable[[], object]]) -> None:
    """Do steps, the last one first, each whatever the others raise; then raise the first exception."""
    failed: BaseException | None = None
    while steps:
        try:
            steps.pop()()
        except BaseException as error:
            failed = failed or error
    if failed is not None:
        raise failed


#: The seat of all drivers on the terminal of the process.
OWN_SEAT = OwnSeat()
