"""Playing actions to one program, and finding what is wrong afterwards."""

from __future__ import annotations

import os
import re
import signal
import sys
import tempfile
import time
from collections.abc import Sequence
from pathlib import Path

from campaign.actions import Action
from campaign.model import Text
from campaign.modes import left_set
from campaign.programs.noise import LINES
from tests.harness import Terminal

#: How long a program may take to do anything, in seconds.
PATIENCE = 15.0
#: After how long nothing more comes, in seconds; and if a key has begun, which waits for its rest.
SETTLED, BEGUN = 0.3, 6.0
#: A row of long work.
WORK = re.compile(r"\d% .* of \d+ ")
#: Programs that show something new all the time.
NEVER_QUIET = ("threads.py", "screens.py")
#: Keys that have every program end sooner or later; the pause ends a paste whose end never came.
GOODBYE = (b"\x03", b"\x04", b"\r", b"\x03", b"\x1b", b"\x04", None, b"\x03", b"\x04", b"exit\r", b":exit\r", b"\x04")


class Program:
    """A program to be driven: its file and words, and what can be said of it.

    ``is_modelled``: it is one plain line, whose text is known after each key, and printed as ``got 'TEXT'``. ``asks``
    is whether it takes keys at all. ``resumes``: it is killed after all was typed, and goes on from there.
    """

    def __init__(
        self,
        *words: str,
        is_modelled: bool = False,
        asks: bool = True,
        plain: bool = False,
        resumes: bool = False,
    ) -> None:
        self.words = words
        self.is_modelled = is_modelled
        self.asks = asks
        self.plain = plain
        self.resumes = resumes

    @property
    def hears_stops(self) -> bool:
        """Whether its main thread has something open: a thread hears of no signal, and the process stops as it is."""
        return self.words[0] != "threads.py" and self.words[1:2] != ("thread",)

    @property
    def noise(self) -> list[str]:
        """The sources of noise among its words."""
        return [
            word for word in self.words[1:] if word.startswith(("out", "err", "part", "log", "raw", "bar", "child"))
        ]

    def __repr__(self) -> str:
        given = ", ".join([*map(repr, self.words)])
        told = [
            f"{name}={value}" for name, value in self.__dict__.items() if name != "words" and value != (name == "asks")
        ]
        return f"Program({', '.join([given, *told])})"


class Run:
    """One program in a terminal of its own; ``faults`` is what was wrong."""

    def __init__(self, program: Program, keys: str = "") -> None:
        self.program = program
        self.faults: list[str] = []
        self.sent: set[str] = set()
        self.text = Text()
        self.has_ended_itself = False
        #: All that was typed.
        self.typed = b""
        #: What the terminal itself has to answer, and whether that has to wait.
        self.answers: list[bytes] = []
        self.holds_answers = False
        #: How much the program had sent when its question was answered: until then it was open.
        self.open_until = 0
        env = {
            "WESPERON_PLAIN": "1" if program.plain else "",
            "WESPERON_KEYS": keys,
            "VISUAL": "true",
            "TERM": "xterm-256color",
            "PYTHONUNBUFFERED": "",
        }
        file = Path(__file__).parent / "programs" / program.words[0]
        if program.resumes:
            self.state_folder = tempfile.TemporaryDirectory(prefix="wesperon-")
            env["XDG_STATE_HOME"] = self.state_folder.name
        # As under any shell, the program does not lead its session: the end of who does takes the terminal away.
        command = [sys.executable, str(file), *program.words[1:]]
        self.argv = ["sh", "-c", '"$@"; status=$?; sleep 0.5; exit $status', "sh", *command]
        self.env = env
        self.open()

    def open(self) -> None:
        """Start the program in a terminal."""
        self.terminal = Terminal(self.argv, env=self.env)
        self.process = self.child()
        self.terminal.screen.write_process_input = self.answer  # type: ignore[method-assign]

    def play(self, actions: Sequence[Action]) -> list[str]:
        """Do everything, have the program end, and give what was wrong."""
        try:
            if self.program.asks:
                self.begin()
                for action in actions:
                    if not self.alive():
                        break
                    self.do(action)
                if self.program.resumes:
                    self.resume()
                self.finish()
            self.end()
        except Fault as fault:
            self.faults.append(str(fault))
        finally:
            self.terminal.__exit__(None, None, None)
        return self.faults

    def resume(self) -> None:
        """Kill the program once all is on the screen, and have it go on in another terminal."""
        if not self.settled():
            return
        end = time.monotonic() + PATIENCE
        while self.state() != "S" and time.monotonic() < end:  # what is on the screen is kept right after it is drawn
            self.read(0.005)
        self.kill("SIGKILL")
        self.terminal.__exit__(None, None, None)
        self.sent.clear()
        self.open()
        self.begin()
        if self.text.whole:
            self.await_text(b"Resume")
            self.send(b"\r")
            self.await_text(b"Note")
        self.text.end()

    def await_text(self, text: bytes) -> None:
        """Wait until the program has sent a text."""
        end = time.monotonic() + PATIENCE
        while text not in self.terminal.received:
            if time.monotonic() > end or not self.alive():
                raise Fault(f"there is no {text!r}: {self.terminal.everything()[-500:]}")
            self.read(0.05)

    def answer(self, data: str) -> None:
        """Send what the terminal itself answers to the program, once a key that comes in pieces is whole."""
        self.answers.append(data.encode())
        while self.answers and not self.holds_answers and self.state() not in ("T", "Z", ""):
            os.write(self.terminal.process.fd, self.answers.pop(0))

    # Acting ----------------------------------------------------------------------------------------------------------

    def alive(self) -> bool:
        """Return True if the program still runs; one that has stopped is looked at, and continued."""
        self.read(0)
        state = self.state()
        if state == "T":
            self.look_while_stopped()
            self.kill("SIGCONT")
        return state not in ("Z", "")

    def child(self) -> int:
        """Return the process of the program itself."""
        shell: int = self.terminal.process.pid
        while not self.terminal.is_closed:
            found = Path(f"/proc/{shell}/task/{shell}/children").read_text().split()
            if found:
                return int(found[0])
            self.read(0.01)
        return shell  # it has ended already

    def state(self) -> str:
        """Return the state of the process as the system names it (proc(5)); empty if it is gone."""
        try:
            stat = Path(f"/proc/{self.process}/stat").read_text()
        except OSError:
            return ""
        return stat.rpartition(")")[2].split()[0]

    def read(self, seconds: float) -> bool:
        """Take in what the program sent; whether there was something."""
        return self.terminal.read(seconds)

    def begin(self) -> None:
        """Wait until the program takes keys."""
        end = time.monotonic() + PATIENCE
        while not (b"\x1b[?2004h" in self.terminal.received or (self.program.plain and self.terminal.received)):
            if time.monotonic() > end or (not self.read(0.05) and self.terminal.is_closed):
                raise Fault(f"nothing is asked: {self.terminal.everything()[-500:]}")

    def do(self, action: Action) -> None:
        """Do one thing."""
        verb, *given = action
        if self.program.is_modelled:
            self.text.take(action)
        if verb == "type":
            self.send(str(given[0]).encode())
        elif verb == "bytes":
            self.holds_answers = True  # a terminal sends the bytes of a key in one piece, whatever a line does to them
            for piece in given:
                assert isinstance(piece, bytes)
                self.send(piece)
                self.read(0.005)
            self.holds_answers = False
            while self.answers:
                self.send(self.answers.pop(0))
        elif verb == "slow":
            self.holds_answers = True
            for piece in given:
                assert isinstance(piece, bytes)
                self.send(piece)
                self.wait(0.04)
            self.holds_answers = False
            while self.answers:
                self.send(self.answers.pop(0))
        elif verb == "paste":
            self.send(b"\x1b[200~" + str(given[0]).encode() + b"\x1b[201~")
        elif verb == "click":
            row, column = given
            self.send(f"\x1b[<0;{column};{row}M\x1b[<0;{column};{row}m".encode())
        elif verb == "signal":
            for name in given:
                self.kill(str(name))
        elif verb == "storm":
            name, times = given
            for _ in range(int(str(times))):
                self.kill(str(name))
                self.read(0.001)
        elif verb == "stop":
            self.stop()
        elif verb == "resize":
            columns, rows = given
            self.resize(int(str(columns)), int(str(rows)))
        elif verb == "wait":
            self.wait(float(str(given[0])))
        elif verb == "redraw":
            self.redraw()

    def resize(self, columns: int, rows: int) -> None:
        """Give the terminal another size: if it becomes lower it drops empty rows at its bottom, then rows at its top.

        The emulator itself drops those at the top and leaves the cursor where it is, as no terminal does.
        """
        while self.read(0):
            pass
        screen = self.terminal.screen
        above = max(screen.cursor.y - rows + 1, 0)
        at, screen.cursor.y = screen.cursor.y, screen.lines - 1
        for _ in range(above):
            screen.index()
        screen.cursor.y = at - above
        for row in range(rows, screen.lines):
            screen.buffer.pop(row, None)
        screen.lines = min(rows, screen.lines)
        self.terminal.resize(columns, rows)

    def wait(self, seconds: float) -> None:
        """Read for a while."""
        end = time.monotonic() + seconds
        while (left := end - time.monotonic()) > 0:
            self.read(left)
            if self.terminal.is_closed:
                return

    def send(self, data: bytes) -> None:
        """Send bytes; a program that is stopped, or has ended meanwhile, takes none."""
        end = time.monotonic() + PATIENCE
        self.typed += data
        while data and self.alive():
            if time.monotonic() > end:
                raise Fault("the program reads nothing any more")
            try:
                os.set_blocking(self.terminal.process.fd, False)
                data = data[os.write(self.terminal.process.fd, data[:64]) :]
            except BlockingIOError:
                self.read(0.02)
            except OSError:
                return
            finally:
                os.set_blocking(self.terminal.process.fd, True)

    def kill(self, name: str) -> None:
        """Send a signal to the program."""
        self.sent.add(name)
        try:
            if name == "SIGCONT":  # as a shell does, to all that were stopped
                os.killpg(self.terminal.process.pid, signal.SIGCONT)
            else:
                os.kill(self.process, getattr(signal, name))
        except ProcessLookupError:
            pass

    def stop(self) -> None:
        """Have it stopped, as a shell would, and continued."""
        self.kill("SIGTSTP")
        end = time.monotonic() + 1.0
        while self.state() not in ("T", "Z", "") and time.monotonic() < end:
            self.read(0.01)
        self.alive()

    def look_while_stopped(self) -> None:
        """While it is stopped the terminal is as it was found."""
        while self.read(0.02):
            pass
        if not self.program.hears_stops:
            return
        if not self.program.plain and self.terminal.modes() != self.terminal.initial:
            self.faults.append("stopped with the terminal's settings changed")
        if left := left_set(self.terminal.received):
            self.faults.append(f"stopped with modes set: {', '.join(left)}")

    def redraw(self) -> None:
        """Check that the rows at the bottom are those of a fresh drawing, which comes once it is continued."""
        if self.program.plain or self.program.words[0] in NEVER_QUIET:
            return
        self.wait(SETTLED)
        if self.shows_work() or not self.settled() or self.shows_work():
            return  # it goes on, and says something else at any time
        before, at_before = self.shown()
        self.kill("SIGCONT")
        if not self.settled():
            return
        after, at_after = self.shown()
        fresh = after[len(before) :]
        if after[: len(before)] != before or not fresh:
            return  # more was printed, or rows at the top are forgotten
        if before[len(before) - len(fresh) :] != fresh:
            told = "\n".join(["--- before", *before[-len(fresh) - 3 :], "--- fresh", *fresh])
            self.faults.append(f"the screen differs from a fresh drawing:\n{told}")
        elif at_before - len(before) != at_after - len(after):
            self.faults.append("the cursor is in another row than in a fresh drawing")

    def shows_work(self) -> bool:
        """Whether long work is to be seen."""
        return any(WORK.search(row) for row in self.shown()[0])

    def shown(self) -> tuple[list[str], int]:
        """Return all rows, but for the empty ones at the end, and the row of the cursor."""
        rows = self.terminal.everything().split("\n")
        return rows, len(self.terminal.screen.history.top) + self.terminal.screen.cursor.y

    def settled(self) -> bool:
        """Wait until nothing more comes; whether a question is open then."""
        end = time.monotonic() + PATIENCE
        begun = re.search(rb"\x1b(\[[0-9;<?]*|O|[]PX^_][^\x07\x1b]*)?$|[\xc0-\xf4][\x80-\xbf]*$", self.typed)
        while self.read(BEGUN if begun else SETTLED):
            if time.monotonic() > end:
                return False
        is_pasting = self.typed.rfind(b"\x1b[200~") > self.typed.rfind(b"\x1b[201~")
        return self.alive() and self.terminal.is_raw() and not is_pasting

    # The end ---------------------------------------------------------------------------------------------------------

    def finish(self) -> None:
        """Have the program end: by itself where its text is known, else by saying goodbye in every way."""
        if self.program.is_modelled and self.text.whole.strip() and self.alive():
            self.wait(0.2)
            self.open_until = len(self.terminal.received)
            self.send(b"\r")
            end = time.monotonic() + PATIENCE
            while b"got '" not in self.terminal.received and self.alive() and time.monotonic() < end:
                self.read(0.05)
            while self.read(0.1):
                pass
            self.has_ended_itself = True
            self.compare_text()
        end = time.monotonic() + PATIENCE
        while self.alive():
            for key in GOODBYE:
                if key is not None:
                    while self.read(0.02):  # in lines, Ctrl-C throws away all that was written and not read yet
                        pass
                    self.send(key)
                self.wait(0.04 if key is not None else 1.1)
                if not self.alive():
                    return
            if time.monotonic() > end:
                raise Fault(f"it does not end; its screen:\n{self.terminal.text()}")

    def compare_text(self) -> None:
        """Check that the program got what was typed."""
        found = re.search(rb"got '((?:[^'\\]|\\.)*)'", self.terminal.received)
        wanted = self.text.whole
        got = found and found[1].decode().encode().decode("unicode_escape")
        if got != wanted:
            self.faults.append(f"typed {wanted!r}, the program got {got!r}")

    def end(self) -> None:
        """Look at everything that must hold at the end."""
        end = time.monotonic() + PATIENCE
        while self.alive() and time.monotonic() < end:
            self.read(0.05)
        while self.read(0.1):
            pass
        if self.alive():
            raise Fault(f"it does not end; its screen:\n{self.terminal.text()}")
        self.terminal.process.wait()
        terminal, process = self.terminal, self.terminal.process
        self.look_for_rest()
        if terminal.modes() != terminal.initial:
            self.faults.append("the terminal's settings are not as they were")
        # A key that sends a signal, typed where the settings are given back already, has the terminal throw away what
        # it has not shown (POSIX, General Terminal Interface, ISIG): the modes may be among that.
        last = terminal.received.rfind(b"\x1b[?2004h")
        if (left := left_set(terminal.received)) and not re.search(rb"\^[CZ\\]", terminal.received[max(last, 0) :]):
            self.faults.append(f"modes are still set: {', '.join(left)}")
        status = -process.signalstatus if process.signalstatus else int(process.exitstatus)
        if status not in self.expected():
            self.faults.append(f"its status is {status}, after {sorted(self.sent)}")
        text = terminal.received.decode(errors="replace")
        # What an interrupt does to Python itself, once the questions are over, is not for us to say.
        # A further interrupt may come while the program says that it was stopped: what it handled then is no fault.
        shown = [trace for trace in text.split("Traceback")[1:] if not _is_followed(trace)]
        # A handler of the program's own, called by way of ours, raises where the program is.
        traces = [trace for trace in shown if "/src/wesperon/" in trace.replace("/src/wesperon/system/process_sig", "")]
        if traces:
            self.faults.append("a trace:" + traces[0][:3000])
        if not self.program.asks:
            self.has_ended_itself, self.open_until = True, len(terminal.received)
        if not self.sent & {*_ENDING, "SIGINT"} and self.has_ended_itself:
            self.compare_noise()

    def expected(self) -> set[int]:
        """Return the statuses that are right after what was sent."""
        known = {0, 1, 2, 130, -signal.SIGINT}
        for name in self.sent:
            number = int(getattr(signal, name))
            known |= {-number, 128 + number} if name in _ENDING else set()
        return known

    def look_for_rest(self) -> None:
        """Nobody of its session is left running."""
        session = self.terminal.process.pid
        end = time.monotonic() + 3.0
        while left := _members(session):
            if time.monotonic() > end:
                self.faults.append(f"still running: {[_command(process) for process in left]}")
                for process in left:
                    os.kill(process, signal.SIGKILL)
                return
            time.sleep(0.02)

    def compare_noise(self) -> None:
        """Check that each line of a source that came at all came whole, once, and in order."""
        text = re.sub(rb"\x1b\[[0-9;?]*[a-zA-Z]", b"", self.terminal.received[: self.open_until])
        for name in self.program.noise:
            found = [int(number) for number in re.findall(rb"<" + name.encode() + rb":(\d+)>", text)]
            if found != list(range(len(found))) or len(found) > LINES:
                self.faults.append(f"the lines of {name} came as {found}")
            torn = re.findall(rb"<" + name.encode() + rb":\d+>[^\r\n][^\n]*", text)
            if torn:
                self.faults.append(f"a line of {name} is not alone in its row: {torn[0]!r}")


class Fault(Exception):
    """Something that ends a run at once."""


_ENDING = frozenset(
    number.name for number in signal.Signals if number.name not in ("SIGCONT", "SIGCHLD", "SIGWINCH", "SIGURG")
)


def _members(session: int) -> list[int]:
    """Return the processes of a session that have not ended."""
    found = []
    for path in Path("/proc").glob("[0-9]*/stat"):
        try:
            state, _, _, its, *_ = path.read_text().rpartition(")")[2].split()
        except (OSError, ValueError):
            continue
        if int(its) == session and state not in "ZX":
            found.append(int(path.parent.name))
    return found


def _command(process: int) -> str:
    """Return what a process runs, and what it waits for."""
    try:
        line = Path(f"/proc/{process}/cmdline").read_text().replace("\0", " ")
        return f"{process} {line[:80]!r} in {Path(f'/proc/{process}/wchan').read_text()}"
    except OSError:
        return f"{process}"


def _is_followed(trace: str) -> bool:
    """Return True if a trace is the first of two, or Python itself was interrupted while it was shown."""
    return "During handling of" in trace or "lost sys.stderr" in trace


def play(program: Program, actions: Sequence[Action], keys: str = "") -> list[str]:
    """Drive a program once; what was wrong."""
    return Run(program, keys).play(actions)
