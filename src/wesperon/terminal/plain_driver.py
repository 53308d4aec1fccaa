"""The driver in plain lines, where ``TERM`` is ``dumb`` or ``WESPERON_PLAIN`` is set.

For terminals that cannot move their cursor, for screen readers and slow lines. The terminal keeps its own modes, and
its own editing of a line; nothing is sent but text. Only a secret has the echo turned off, which comes back on every
way out.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Closed
from wesperon.system.interrupts import critical, interruptible, waiting
from wesperon.system.signals import stop_process
from wesperon.terminal.driver import Driver
from wesperon.terminal.inbox import Continued, Failed, Interrupt, Leave, Said, Stop, TimeLeft, TimeOut
from wesperon.terminal.tty_driver import TtyDriver
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.plain.widgets import plainly
from wesperon.widgets.widget import Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any

    from wesperon.terminal.ports.posix import PosixPort
    from wesperon.terminal.preferred import DriverOptions
    from wesperon.widgets.plain.widgets import Plain
    from wesperon.widgets.widget import Growing, Outcome, Widget


class PlainAsking(Driver):
    """What asks in plain lines, wherever the lines come from."""

    #: Whether a line of the answer was as long as the terminal takes, so that more may have been lost.
    is_cut = False
    #: Whether the terminal is gone.
    is_gone = False
    is_plain = True

    def begin_drawing(self) -> None:
        """Nothing: a terminal in plain lines is at the start of one already."""

    @waiting
    def run(self, widget: Widget, options: DriverOptions | None = None) -> Outcome:
        """Print the question and read lines until one is an answer."""
        plain = plainly(widget)
        options = self.options if options is None else options
        self.use(options)
        with self.opened(options):
            try:
                while widget.outcome is None:
                    self._ask(widget, plain)
            except KeyboardInterrupt:
                self.is_stopped = True
                self.send("\n")
                widget.outcome = Interrupted()
            finally:
                self.end_feeding()
        assert widget.outcome is not None
        return widget.outcome

    async def answer(self, widget: Widget, options: DriverOptions | None = None) -> Outcome:
        """Ask as ``run`` does, while the other tasks of the event loop wait."""
        return self.run(widget, options)

    @interruptible
    def _ask(self, widget: Widget, plain: Plain) -> None:
        """Print the question, read the lines of one answer, and give them to the widget."""
        for number, (source, count) in enumerate(widget.growing):
            self.feed(number, source, count)
        self._print([visible(row) for row in plain.rows()])
        lines: list[str] = []
        prompt = visible(plain.prompt()).lstrip()  # a question of one line has no label
        self.is_cut = False
        while not lines or not plain.is_whole(lines):
            line = self._line(prompt if not lines else "> ", plain.hides)
            if line is None:
                break
            lines.append(line)
        if line is not None and self.is_cut:
            reason = tell("the line may have been cut: give a text this long as a word, or in a file")
            widget.complaint = Complaint(reason)
        elif line is not None:
            self._answer(widget, plain, lines)
        elif self.is_gone or self.is_left:
            widget.press(Closed())
        else:
            self.send("\n")
            plain.end()

    def _answer(self, widget: Widget, plain: Plain, lines: list[str]) -> None:
        """Give the lines of an answer to the widget, and have it do what it does without keys."""

        def answer(event: None) -> None:
            plain.answer(lines)
            while widget.work():
                pass

        self.guarded(widget, None, answer)

    def _line(self, prompt: str, hides: bool) -> str | None:
        """Return the next line that is typed; None at the end of input, or if nobody answers."""
        raise NotImplementedError

    def _print(self, rows: list[str]) -> None:
        self.send("".join(f"{row}\n" for row in rows))

    def show(self, said: list[str]) -> None:
        """Print lines."""
        self._print(said)

    def feed(self, number: int, source: Growing, count: int) -> None:
        """Nothing: what is listed is taken when it is listed."""


class PlainDriver(PlainAsking, TtyDriver):
    """Asks in plain lines on a terminal that keeps its modes."""

    port: PosixPort

    #: Whether a secret is being typed, which the terminal must not show; whether the cursor is after the prompt.
    hides = _has_prompt = False

    @critical
    def enter(self) -> None:
        """Remember the modes of the terminal, which stay as they are."""
        with self._setting:
            self._has_terminal = True
            try:
                self.port.keep()
            except OSError:
                self.is_gone = True
            self._is_set = True

    take_again = enter

    @waiting
    def _line(self, prompt: str, hides: bool) -> str | None:
        """Return the next line that is typed; None at the end of input, or if nobody answers."""
        self.send(prompt)
        self._has_prompt = True
        self.begin()
        if hides:
            self.hides = True
            self.port.hide()
        data = b""
        try:
            while not data.endswith(b"\n"):
                for event in self.ready():
                    if not self._heed(event, prompt):
                        return None
                try:
                    has_keys, is_woken = self.port.wait(self.waits)
                    data += self.port.read() if has_keys else b""
                except OSError:  # the end of input, or of the terminal
                    return None
                if has_keys:
                    self.begin()
                elif not is_woken and (event := self._time_passes()) is not None and not self._heed(event, prompt):
                    return None
        finally:
            if hides:
                self.hides = False
                self._show_again()
                self.send("\n")
        self.is_cut = self.is_cut or len(data.rstrip(b"\r\n")) >= self.port.longest_line
        return data.decode("utf-8", "replace").rstrip("\r\n")

    def _heed(self, event: Any, prompt: str) -> bool:
        """Do what an event means in a line that is being typed. Return False if it ends the question."""
        if isinstance(event, (Closed, Leave, TimeOut)):
            self.is_left = self.is_left or isinstance(event, TimeOut)
            self.has_timed_out = self.is_left
            self.is_gone = self.is_gone or isinstance(event, Leave)
            self.send("\n")
            return False
        if isinstance(event, Interrupt):
            raise KeyboardInterrupt
        if isinstance(event, Failed):
            raise event.error
        if isinstance(event, Said):
            self.send("\n" if self._has_prompt else "")
            self.show([event.text])
            # A line that was typed meanwhile is the answer to the prompt above.
            self._has_prompt = not self.port.has_keys()
            self.send(prompt if self._has_prompt else "")
        elif isinstance(event, TimeLeft) and not self.screen.notice:
            self.screen.notice = self.time_left(event)
            self.send(f"\n{self.screen.notice.strip()}\n{prompt}")
        elif isinstance(event, (Stop, Continued)):
            if isinstance(event, Stop):
                self.suspend(only_self=True)
            self.retake()
            self.send(f"\n{prompt}")
        return True

    def retake(self) -> None:
        """Hide again what is typed, if that is to be."""
        if self.hides:
            try:
                self.port.hide()
            except OSError:
                pass  # the terminal is somebody else's at the moment

    def suspend(self, *, only_self: bool) -> None:
        """Stop the process, and go on where it was."""
        self.seat.lend(self)
        stop_process(only_self=only_self)
        self.seat.take_back(self)

    def put_aside(self) -> None:
        """Show what comes on a row of its own, after what was printed before."""
        self.send("\n")
        self.show_said()

    def come_back(self) -> None:
        """Go on with the line that was being typed."""

    def begin_stop_key(self) -> None:
        """Nothing: the terminal does so all the time."""

    end_stop_key = begin_stop_key

    def show_slow(self, acts: bool) -> None:
        """Say that an answer takes its time."""
        self._print([tell("being checked ...   Ctrl-C: stop that")])

    def show_meanwhile(self) -> None:
        """Print what was printed meanwhile."""
        self.show_said()

    @critical
    def hand_back(self) -> None:
        """Let the terminal be as it was found."""
        self._give_port_back()

    @critical
    def _show_again(self) -> None:
        """Turn the echo of what is typed on again."""
        try:
            self.port.give_back()
        except OSError:
            self.is_gone = True

    def modes_off(self) -> str:
        """Nothing: no mode was set by a control sequence."""
        return ""
