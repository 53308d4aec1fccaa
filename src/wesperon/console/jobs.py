"""Commands that run in the background of a console: each in a thread of its own or, if it is a coroutine, in a task.

What they print comes above the line with their number. Nobody can be asked by them: all values are there before.
"""

from __future__ import annotations

import asyncio
import contextvars
import ctypes
import io
import threading
from inspect import iscoroutinefunction

from wesperon.context import current
from wesperon.scope import within
from wesperon.system.interrupts import critical, waiting
from wesperon.system.process_signals import SIGNALS
from wesperon.terminal.interaction import play, play_async
from wesperon.text.elapsed import elapsed
from wesperon.text.escape import visible
from wesperon.text.messages import tell, tell_many
from wesperon.values.problems import Refusal

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Mapping
    from typing import Any, Protocol

    from wesperon.context import Context
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction

    class Host(Protocol):
        """What runs jobs: a console."""

        is_async: bool
        driver_in_use: Driver | None

        def say(self, text: str) -> None:
            """Show a text above the line that is being typed, from any thread."""


#: For how many seconds at most a console waits, when it is left, for jobs that it has stopped.
PATIENCE = 5.0
#: Seconds between two looks at a job that is waited for, so that an interrupt gets through.
LOOK = 0.1


class Job:
    """One command in the background: its number, its line, and what has become of it.

    ``status`` is None while it runs; ``last`` is the last line that it printed.
    """

    def __init__(self, number: int, line: str, begun: float) -> None:
        self.number = number
        self.line = line
        self.begun = begun
        self.last = ""
        self.status: int | None = None
        self.is_stopped = False
        self.thread: threading.Thread | None = None
        self.task: Any = None
        self.ended = threading.Event()


class Jobs:
    """The jobs of a ``host``, of which at most ``most`` run at the same time."""

    def __init__(self, host: Host, most: int) -> None:
        self.host = host
        self.most = most
        self.all: dict[int, Job] = {}
        self.lock = threading.Lock()
        self._count = 0

    @property
    def running(self) -> list[Job]:
        """Those that have not ended."""
        return [job for job in self.all.values() if job.status is None]

    @critical
    def start(self, line: str, run: Callable[[], Any], steps: Callable[[], Interaction[int]]) -> Job:
        """Start a job, whose ``steps`` call ``run``; raises Refusal if as many as may be are running."""
        with self.lock:
            running = self.running
            if len(running) >= self.most:
                numbers = ", ".join(str(job.number) for job in running)
                told = tell(
                    "at most {most} run at a time: wait for one of {numbers}, or stop it",
                    most=self.most,
                    numbers=numbers,
                )
                raise Refusal(told)
            self._count += 1
            job = Job(self._count, line, current().clock.monotonic())
            self.all[job.number] = job
        context = self._context(job)
        self.host.say(f"[{job.number}] " + tell("started: {line}", line=job.line))
        if iscoroutinefunction(run) and self.host.is_async:
            job.task = asyncio.ensure_future(self._play_async(job, context, steps))
        else:
            copied = contextvars.copy_context()
            job.thread = threading.Thread(target=copied.run, args=(self._play, job, context, steps), daemon=True)
            job.thread.start()
        return job

    def _context(self, job: Job) -> Context:
        """Return the context of a job: what it prints is shown with its number, and it asks nobody."""
        context = current()
        stream: Any = JobStream(self.host, job)
        environ: Mapping[str, str] = {**context.environ, "WESPERON_ASKING": "never"}
        return context.derive(stdout=stream, stderr=stream, environ=environ)

    def _play(self, job: Job, context: Context, steps: Callable[[], Interaction[int]]) -> None:
        status = 1
        try:
            with within(context):
                status = play(steps())
        except KeyboardInterrupt:
            job.is_stopped = True
        finally:
            self._end(job, context, status)

    async def _play_async(self, job: Job, context: Context, steps: Callable[[], Interaction[int]]) -> None:
        status = 1
        try:
            with within(context):
                status = await play_async(steps())
        except (asyncio.CancelledError, KeyboardInterrupt):
            job.is_stopped = True
        finally:
            self._end(job, context, status)

    def _end(self, job: Job, context: Context, status: int) -> None:
        context.stdout.end_line()  # type: ignore[union-attr]
        job.status = status
        took = elapsed(self.seconds(job))
        if job.is_stopped:
            said = tell("stopped after {time}", time=took)
        elif status:
            said = tell("failed after {time}, status {status}", time=took, status=status)
        else:
            said = tell("done after {time}", time=took)
        self.host.say(f"[{job.number}] {said}: {job.line}")
        job.ended.set()

    def seconds(self, job: Job) -> float:
        """For how long a job has run."""
        return float(current().clock.monotonic() - job.begun)

    def find(self, number: int) -> Job:
        """Return a job that runs; raises Refusal if there is none of that number."""
        job = self.all.get(number)
        if job is None:
            raise Refusal(tell("there is no job {number}; jobs lists those that there are", number=number), 2)
        return job

    def stop(self, job: Job) -> None:
        """Stop a job with KeyboardInterrupt, at the next step of its Python code."""
        if job.status is not None:
            return
        if job.task is not None:
            job.task.cancel()
        elif job.thread is not None and job.thread.ident is not None:
            # There is no other way to end a thread that does not look. The exception comes at its next bytecode: a job
            # in a call of C ends after that call.
            ctypes.pythonapi.PyThreadState_SetAsyncExc(
                ctypes.c_ulong(job.thread.ident), ctypes.py_object(KeyboardInterrupt)
            )

    def wait(self, job: Job) -> Interaction[int]:
        """Wait until a job has ended; its status."""
        if self.host.is_async:
            yield self._waited(job)
        else:
            while not job.ended.wait(LOOK):
                pass
        return job.status or 0

    async def _waited(self, job: Job) -> None:
        while not job.ended.is_set():
            await asyncio.sleep(LOOK)

    @waiting
    def leave(self, how: str) -> Interaction[None]:
        """Say which jobs still run, and ``"wait"`` for them (an interrupt stops them) or ``"stop"`` them."""
        running = self.running
        if not running:
            return
        said = tell_many("{count} job still runs", "{count} jobs still run", len(running))
        said += tell("; waiting for the end") if how == "wait" else tell("; stopping")
        lines = [said, *[f"[{job.number}] {job.line}" for job in running]]
        current().print("\n".join([visible(line) for line in lines]), error=True)
        if how == "stop" or not (yield from self._all_end(None)):
            for job in self.running:
                self.stop(job)
            yield from self._all_end(PATIENCE)  # one more interrupt, and nobody waits any longer

    def _all_end(self, seconds: float | None) -> Interaction[bool]:
        """Wait until all have ended, for some seconds at most. Return False if time or an interrupt came first."""
        clock = current().clock
        end = None if seconds is None else clock.monotonic() + seconds
        try:
            for job in self.running:
                while not job.ended.is_set():
                    if (error := SIGNALS.pop_raised()) is not None:
                        raise error
                    if SIGNALS.pop_interrupt() or (end is not None and clock.monotonic() > end):
                        return False
                    if self.host.is_async:
                        yield _pause()
                    else:
                        job.ended.wait(LOOK)
        except KeyboardInterrupt:  # where another handler than ours is in force
            return False
        return True


async def _pause() -> None:
    await asyncio.sleep(LOOK)


class JobStream(io.TextIOBase):
    """The standard streams of a ``job``: each line is shown with its number, by its ``host``."""

    encoding = "utf-8"
    #: Its long work is shown, although it asks nobody.
    shows_work = True

    def __init__(self, host: Host, job: Job) -> None:
        self.host = host
        self.job = job
        self._rest = ""

    @property
    def driver(self) -> Driver | None:
        """On whose screen the lines are shown; None if the console is not on a terminal."""
        return self.host.driver_in_use

    @property
    def mark(self) -> str:
        """What is before each line, and before the label of a row."""
        return f"[{self.job.number}] "

    def write(self, text: str) -> int:
        """Show all lines that are complete now; the number of characters taken."""
        *lines, self._rest = (self._rest + text).split("\n")
        if lines:
            self.job.last = next((line for line in reversed(lines) if line.strip()), self.job.last)
            self.host.say("\n".join([self.mark + line for line in lines]))
        return len(text)

    def end_line(self) -> None:
        """Show what was written last, although its line has no end."""
        if self._rest:
            self.write("\n")
