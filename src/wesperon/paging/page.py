"""``page``: a long text in the pager, or straight through where nobody reads it on a terminal.

Standard output decides. Where it leads to the terminal of the driver in force, what fits on the screen is written and
all else is paged; everywhere else the bytes go through unchanged, as they come.
"""

from __future__ import annotations

import os
import threading
import time
from contextlib import contextmanager
from contextvars import copy_context

from wesperon.context import current
from wesperon.frozen import later
from wesperon.output.exit_status import drop_unwritten, unwritten
from wesperon.output.uncaught import tell_uncaught
from wesperon.paging.sources import close_all, pieces_of, sources_of
from wesperon.screen.theme import Theme, colours_of, roles_for
from wesperon.system.time_limit import time_limit
from wesperon.terminal.interaction import Asked, play, play_async
from wesperon.terminal.preferences import preferences_of
from wesperon.terminal.preferred import DriverOptions
from wesperon.terminal.reached import DriverAtHand
from wesperon.user_folders import preference_files
from wesperon.values import overload
from wesperon.widgets.pager.needle import decoded
from wesperon.widgets.pager.pager import Pager
from wesperon.widgets.pager.source_colours import written
from wesperon.widgets.parts.checked import checked_count, checked_flag
from wesperon.widgets.widget import Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    import asyncio
    from collections.abc import Callable, Iterator, Sequence
    from typing import Any, Literal, TypeVar

    from wesperon.paging.sources import Source
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets.pager.text_view import PagedSource

    T = TypeVar("T")
else:
    asyncio = later("asyncio")

#: How long a source may take for its first screen before the pager opens with what is there, in seconds.
FIRST_SCREEN = 0.1
#: How long one step of a search may take, in seconds: a pattern can take longer than anybody lives.
STEP = 1.0
#: How often it is looked for that meanwhile, inside an event loop, in seconds.
LOOKED = 0.005
#: So many bytes are more than a screen, whatever is in them.
PIECE = 1 << 16


@overload
def page(source: Source, *, heading: int = 0, pick: Literal[False] = False, follow: bool = False) -> None: ...
@overload
def page(source: Source, *, heading: int = 0, pick: Literal[True], follow: bool = False) -> list[str]: ...
@overload
def page(source: Source, *, heading: int = 0, pick: bool, follow: bool = False) -> list[str] | None: ...
def page(source: Source, *, heading: int = 0, pick: bool = False, follow: bool = False) -> list[str] | None:
    r"""Show a long text in the pager, from its first screen on, however long it is.

    ``source`` is a text, a :class:`~pathlib.Path`, a stream, an iterable of lines, or a mapping from names to several
    of these. ``heading`` is how many of its first lines stay in sight. With ``pick`` lines can be marked, and those
    that were come back, else None. With ``follow`` it begins at the end, and stays there while more comes.

    Over a screen it is a dialog. Where standard output is no terminal, or nobody is to be asked, all of it is written
    there as it comes, and nothing is picked; what fits on the screen is written too. The source is closed at the end.
    Raises OSError for a file that cannot be read, Refusal if standard output takes no more, DeclarationError for what
    gives no lines, KeyboardInterrupt for Ctrl-C.

    Example:
        >>> page("HOLLIN-051  Lantern Nebula\nHOLLIN-052  Ladder Cluster\n")
        HOLLIN-051  Lantern Nebula
        HOLLIN-052  Ladder Cluster

    """
    try:
        return play(steps(source, heading, pick, follow))
    except KeyboardInterrupt as error:
        tell_uncaught(error)
        raise


async def page_async(source: Source, *, heading: int = 0, pick: bool = False, follow: bool = False) -> list[str] | None:
    r"""Show a long text inside an event loop, whose other tasks go on; asynchronous iterables of lines too.

    ``source``, ``heading``, ``pick`` and ``follow`` are those of :func:`page`, and so are the result and the errors.

    Example:
        >>> asyncio.run(page_async(["dome open\n", "seeing 0.9\n"]))
        dome open
        seeing 0.9

    """
    return await play_async(steps(source, heading, pick, follow, is_async=True))


def steps(
    source: Source,
    heading: int = 0,
    pick: bool = False,
    follow: bool = False,
    *,
    is_async: bool = False,
    name: str = "",
) -> Interaction[list[str] | None]:
    """Page in steps; see :func:`page`.

    ``is_async``: it is done inside an event loop; ``name`` is that of the program, whose user may prefer something,
    else that of the script.
    """
    checked_count("heading", heading, 0, "a number of lines")
    checked_flag("pick", pick)
    checked_flag("follow", follow)
    name = name or os.path.splitext(current().program_name)[0]
    with driver_for_pages(name, is_async=is_async) as driver:
        return (yield from _paged(driver, name, source, heading, pick, follow, is_async))


def _paged(
    driver: Driver | None, name: str, source: Source, heading: int, pick: bool, follow: bool, is_async: bool
) -> Interaction[list[str] | None]:
    loop = asyncio.get_running_loop() if is_async else None
    sources = sources_of(source, loop)
    try:
        if driver is None:
            yield from _written(sources, loop)
            return [] if pick else None
        first = sources[0]
        columns, rows = driver.size()
        yield from _beginning(first, rows, is_async=loop is not None)
        is_dialog = driver.is_lent_by_stage
        held = preferences_of(preference_files(name), environ=current().environ).values
        pager = Pager(
            sources,
            heading=heading,
            picks=pick,
            follows=follow,
            limited=limited,
            leaves_screen=held["last_screen"] == "yes",
            copies=held["clipboard"] == "yes",
            closes_if_short=not pick and not follow and not is_dialog,
        )
        if is_dialog:
            pager.is_full_screen = False  # type: ignore[misc]
        is_short = pager.closes_if_short and pager.fits(columns, rows)
        outcome = (
            None if is_short else (yield Asked(driver, pager, DriverOptions({"name": name}, environ=current().environ)))
        )
        if is_short or pager.is_short:
            write_short(first)
            return None
        if isinstance(outcome, Interrupted):
            raise KeyboardInterrupt
        picked: list[str] | None = outcome.value if isinstance(outcome, Answered) else ([] if pick else None)
        return picked
    finally:
        close_all(sources)


@contextmanager
def driver_for_pages(name: str, *, is_async: bool) -> Iterator[Driver | None]:
    """Give the driver whose terminal standard output leads to, if there is one and somebody may be asked.

    ``name`` is that of the program.
    """
    if not leads_to_terminal():
        yield None
        return
    with DriverAtHand(name, is_async=is_async) as driver:
        yield driver


def leads_to_terminal() -> bool:
    """Return True if standard output leads to a terminal where somebody may be asked: that of the driver in force."""
    context = current()
    stdout = context.stdout
    driver: Driver | None = context.driver
    if stdout is None or context.environ.get("WESPERON_ASKING") == "never":
        return False
    is_shown_by = getattr(stdout, "driver", None)
    if driver is not None and driver.is_lent_by_stage and driver.is_own:
        return stdout.isatty()
    if driver is not None:
        return driver.is_terminal and is_shown_by is driver
    try:
        return bool(is_shown_by is None and stdout.isatty())
    except ValueError:  # closed
        return False


def _beginning(source: PagedSource, rows: int, is_async: bool) -> Interaction[None]:
    """Take the first screen of a source that gives it at once; a slow one goes on while the pager is open."""

    def begin() -> None:
        while source.data[:].count(b"\n") < rows and time.monotonic() < latest and source.pull(source.count + 1):
            if source.count > PIECE:
                break

    if source.is_whole:
        return
    latest = time.monotonic() + FIRST_SCREEN
    taking = threading.Thread(target=copy_context().run, args=(begin,), daemon=True)
    taking.start()
    if is_async:
        yield _ended(taking, latest)
    else:
        taking.join(FIRST_SCREEN)


async def _ended(thread: threading.Thread, latest: float) -> None:
    """Wait inside an event loop until a thread has ended, or until a point in time."""
    while thread.is_alive() and time.monotonic() < latest:
        await asyncio.sleep(LOOKED)


def limited(step: Callable[[], T]) -> T:
    """Take one step of a search, for a limited time; raises TimeoutError."""
    with time_limit(STEP):
        return step()


# Straight through ----------------------------------------------------------------------------------------------------


def _written(sources: Sequence[PagedSource], loop: Any) -> Interaction[None]:
    """Write everything to standard output, as it comes, up to where nobody reads it any more."""
    stream = current().stdout
    try:
        for source in sources:
            pieces = pieces_of(source)
            while piece := (yield loop.run_in_executor(None, next, pieces, b"")) if loop else next(pieces, b""):
                write_through(stream, piece)
    except BrokenPipeError:
        drop_unwritten()


def write_through(stream: Any, data: bytes) -> None:
    """Write bytes to a stream as they are, at once; as text to one that takes nothing else.

    Raises BrokenPipeError if nobody reads it, Refusal if it takes no more.
    """
    if stream is None:
        return
    under = getattr(stream, "buffer", None)
    try:
        stream.flush()
        if under is None:
            stream.write(data.decode("utf-8", "surrogateescape"))
            stream.flush()
        else:
            under.write(data)
            under.flush()
    except BrokenPipeError:
        raise
    except OSError as error:
        raise unwritten(error) from None


def write_short(source: PagedSource) -> None:
    """Write a text that fits on the screen, which is a terminal: nothing in it acts on that but its colours."""
    environ = current().environ
    theme = Theme(dict(roles_for(environ)), colours_of(environ))
    text = decoded(source.data[:]).removesuffix("\n")
    if text:
        current().print("\n".join([written(line, theme) for line in text.split("\n")]))
    if source.said:  # it has ended early, say, with nobody there to read that in the foot
        current().print(source.said, error=True)
