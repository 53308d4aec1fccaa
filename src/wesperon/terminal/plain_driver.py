"""The driver in plain lines, where ``TERM`` is ``dumb`` or ``WESPERON_PLAIN`` is set.

For terminals that cannot move their cursor, for screen readers and slow lines. The terminal keeps its own modes, and
its own editing of a line; nothing is sent but text. Only a secret has the echo turned off, which comes back on every
way out.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Closed, Resize
from wesperon.terminal.driver import Driver
from wesperon.terminal.signal_watch import stop_process
from wesperon.terminal.tty_driver import TtyDriver
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import Complaint
from wesperon.widgets.plain.widgets import plainly
from wesperon.widgets.widget import Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.keys.events import Event
    from wesperon.terminal.ports.posix import PosixPort
    from wesperon.widgets.widget import Growing, Outcome, Widget


class PlainAsking(Driver):
    """What asks in plain lines, wherever the lines come from."""

    #: Whether a line of the answer was as long as the terminal takes, so that more may have been lost.
    is_cut = False
    #: Whether the terminal is gone, and whether nobody has answered in time.
    is_gone = is_left = False
    is_plain = True

    def beginning(self) -> str:
        """Nothing: a terminal in plain lines is at the start of one already."""
        return ""

    def run(self, widget: Widget) -> Outcome:
        """Print the question and read lines until one is an answer."""
        plain = plainly(widget)
        with self:
            while widget.outcome is None:
                self._feed(widget)
                self._print([visible(row) for row in plain.rows()])
                lines: list[str] = []
                prompt = visible(plain.prompt())
                try:
                    self.is_cut = False
                    while not lines or not plain.is_whole(lines):
                        line = self._line(prompt if not lines else "> ", plain.hides)
                        if line is None:
                            break
                        lines.append(line)
                except KeyboardInterrupt:
                    self.ignore_sigint()
                    self.send("\n")
                    widget.outcome = Interrupted()
                else:
                    if line is not None and self.is_cut:
                        reason = tell("the line may have been cut: give a text this long as a word, or in a file")
                        widget.complaint = Complaint(reason)
                    elif line is not None:
                        plain.answer(lines)
                        self._work(widget)
                    elif self.is_gone or self.is_left:
                        widget.press(Closed())
                    else:
                        self.send("\n")
                        plain.end()
        assert widget.outcome is not None
        return widget.outcome

    def _line(self, prompt: str, hides: bool) -> str | None:
        """The next line that is typed; None at the end of input, or if nobody answers."""
        raise NotImplementedError

    def _print(self, rows: list[str]) -> None:
        self.send("".join(f"{row}\n" for row in rows))

    def feed_from(self, supply: Growing, widget: Widget) -> None:
        """Nothing: what is listed is drawn when it is listed."""


class PlainDriver(PlainAsking, TtyDriver):
    """Asks in plain lines on a terminal that keeps its modes."""

    port: PosixPort

    #: Whether a secret is being typed, which the terminal must not show.
    hides = False

    def enter(self) -> None:
        """Remember the modes of the terminal, which stay as they are."""
        self.port.keep()
        self.watch.start()

    def _line(self, prompt: str, hides: bool) -> str | None:
        """The next line that is typed; None at the end of input, or if nobody answers."""
        self.send(prompt)
        self.begin()
        if hides:
            self.hides = True
            self.port.hide()
        data = b""
        try:
            while not data.endswith(b"\n"):
                has_keys, is_woken = self.port.wait(self.waits)
                if self.watch.has_news:
                    self._stop_or_go_on()
                    self.send(f"\n{prompt}")
                if self.told:
                    self.send("\n")
                    self._tell_all()
                    self.send(prompt)
                if has_keys:
                    try:
                        data += self.port.read()
                    except OSError:  # the end of input, or of the terminal
                        return None
                    self.begin()
                elif not is_woken:
                    has_told = bool(self.notice)
                    if not self.count_down():
                        self.is_left = True
                        self.send("\n")
                        return None
                    if not has_told:
                        self.send(f"\n{self.notice.strip()}\n{prompt}")
        finally:
            if hides:
                self.hides = False
                self.hand_back()
                self.send("\n")
        self.is_cut = self.is_cut or len(data.rstrip(b"\r\n")) >= self.port.longest_line
        return data.decode("utf-8", "replace").rstrip("\r\n")

    def _tell_all(self) -> None:
        if self.told:
            with self.lock:
                told, self.told = self.told, []
            self._print(told)

    def retake(self) -> None:
        """Hide again what is typed, if that is to be."""
        if self.hides:
            try:
                self.port.hide()
            except OSError:
                pass  # the terminal is somebody else's at the moment

    def _stop_or_go_on(self) -> Event:
        """Stop if a signal wants it, and hide again what is typed once the process goes on."""
        if self.watch.is_stopping:
            self.hand_back()
            stop_process(only_self=True)
        self.retake()
        self.watch.is_stopping = self.watch.is_continued = False
        return Resize(*self.size())

    def abandon(self) -> None:
        """Hand the terminal back."""
        self.hand_back()

    def hand_back(self) -> None:
        """Let the terminal be as it was found."""
        try:
            self.port.give_back()
        except OSError:
            self.is_gone = True
