"""A screen on a terminal that cannot move its cursor: its fields are asked for one after the other, tables are printed.

The order is that of declaration. At the end a choice says what is done next: the buttons, what lists and tables do, the
menus, and the fields once more; where there is nothing of these the screen ends. While a question is open nothing else
happens: what is to be called later, and by other threads, is called before the next one.
"""

from __future__ import annotations

import _thread
from collections import deque
from contextlib import contextmanager
from functools import partial
from heapq import heappop, heappush
from itertools import count

from wesperon.context import current
from wesperon.forms.questions import Ask, gutter_of, question
from wesperon.scope import within
from wesperon.screen.table import texts
from wesperon.screens import faults
from wesperon.screens.field import Field
from wesperon.screens.menu_bar import MenuBar
from wesperon.screens.pager_part import Pager
from wesperon.terminal.interaction import Asked, play
from wesperon.terminal.preferred import DriverOptions
from wesperon.text.escape import visible, visible_lines
from wesperon.text.messages import tell
from wesperon.values import MISSING, Complaint
from wesperon.values.kinds.choices import AnyOf, OneOf, one_of
from wesperon.values.problems import Problems, Refusal
from wesperon.values.slots import slot
from wesperon.widgets.parts.listing import Listing
from wesperon.widgets.parts.message_view import MessageView
from wesperon.widgets.parts.part import said_instead
from wesperon.widgets.parts.simple_parts import Button, Label
from wesperon.widgets.parts.table import Table
from wesperon.widgets.widget import Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any, Protocol

    from wesperon.screens.running import Timer
    from wesperon.terminal.driver import Driver
    from wesperon.terminal.interaction import Interaction
    from wesperon.widgets.parts.part import Part
    from wesperon.widgets.widget import Outcome

    class Screen(Protocol):
        """What is shown (``screens.screen.Screen``)."""

        content: Part
        title: str
        running: Any


#: How many rows of a table are printed, and how wide it may be.
MOST_ROWS, COLUMNS = 200, 10_000
#: How many rows of any other part are printed.
ROWS = 8


class PlainLevel:
    """The content of a screen, or of a dialog of it, while it is asked; ``result`` is what it was closed with."""

    def __init__(self, content: Part, title: str = "") -> None:
        self.content, self.title = content, visible(title)
        self.is_closed = False
        self.result: Any = None
        #: The parts that were asked for, or said.
        self.done: set[Part] = set()

    def next_part(self) -> Part | None:
        """Return the first part that is to be asked for, or said; those of tabs too that are not in front."""
        for part in self.content.leaves():
            if part not in self.done and part.enabled and not part.is_button and not part.is_bar and not _hidden(part):
                return part
        return None

    def once_more(self) -> None:
        """Have the fields, and lists to choose from, asked for again."""
        self.done = {part for part in self.done if not _is_asked(part)}


class PlainHost:
    """What a screen does for its parts and its functions while it is asked as questions."""

    def __init__(self, screen: Screen, driver: Driver) -> None:
        self.driver = driver
        self.options = DriverOptions({}, environ=current().environ)
        self.context = current().derive(driver=driver)
        self.thread = _thread.get_ident()
        self.levels = [PlainLevel(screen.content, screen.title)]
        #: What a function of the program has raised, for which the user ended the screen.
        self.failure: Exception | None = None
        #: Fields that a function of the program finds wrong, with what it says.
        self._refused: dict[Part, Complaint] = {}
        self._calls: deque[Callable[[], Any]] = deque()
        self._timers: list[tuple[float, int, Timer]] = []
        self._numbers = count()
        #: What coroutine functions of the program have yet to do, each with its function.
        self._tasks: deque[tuple[Any, Callable[..., Any]]] = deque()

    # Host ------------------------------------------------------------------------------------------------------------

    @property
    def is_here(self) -> bool:
        """Whether this is the thread of the screen."""
        return _thread.get_ident() == self.thread

    def deliver(self, part: Part, given: tuple[Any, ...]) -> None:
        """See ``Host``: what it says is printed at once."""
        part.receive(*given)
        if isinstance(part, MessageView):
            self.driver.say("\n".join([visible_lines(str(one)) for one in given]))
            self.levels[-1].done.add(part)
        elif isinstance(part, Label) and not _hidden(part):
            self._say(part)
            self.levels[-1].done.add(part)

    def call(self, function: Callable[..., Any], *given: Any) -> None:
        """See ``Host``."""
        try:
            with within(self.context):
                result = function(*given)
                if result is None or not hasattr(result, "__await__"):
                    faults.refuse_given(result, function)
                else:
                    self._tasks.append((faults.loop_for(result, function).create_task(result), function))
        except Exception as error:
            self.fail(error)

    def call_soon(self, function: Callable[[], Any]) -> None:
        """See ``Host``; from any thread."""
        self._calls.append(function)

    def in_its_thread(self, function: Callable[[], Any]) -> None:
        """See ``Host``."""
        if self.is_here:
            function()
        else:
            self.call_soon(function)

    def add_timer(self, timer: Timer) -> None:
        """Have a function called at a point in time, or once the question that is open then is answered."""
        heappush(self._timers, (timer.at, next(self._numbers), timer))

    def touch(self, part: Part) -> None:
        """See ``Host``: nothing is drawn, but a field may have been found wrong."""
        problem = part.shown_problem if isinstance(part, Field) else None
        if problem is not None:
            self._refused[part] = problem
        else:
            self._refused.pop(part, None)

    def note_failed(self, error: Exception) -> None:
        """See ``Host``: it is said in place of the part."""

    def leave_bar(self, bar: Part) -> None:
        """See ``Host``: there is no menu bar."""

    def adopt(self, part: Part) -> None:
        """See ``Host``: what comes is asked for in its turn."""

    def letter_of(self, part: Part) -> str:
        """See ``Host``: nothing is underlined."""
        return ""

    def edit_cell(self, table: Any, index: int, row: Any, column: Any) -> None:
        """See ``Host``: cells are not changed here."""

    def go_on(self, part: Part) -> None:
        """See ``Host``: what is asked comes one after the other."""

    def step(self, by: int) -> None:
        """See ``Host``: the same."""

    # Dialogs ---------------------------------------------------------------------------------------------------------

    def finish(self, result: Any) -> None:
        """End the screen with a result."""
        self._close(self.levels[0], result)

    def open(self, content: Part, title: str = "") -> PlainLevel:
        """Have a content asked for next, as a dialog."""
        self.levels.append(level := PlainLevel(content, title))
        content.attach(self)
        return level

    def until(self, level: PlainLevel) -> Any:
        """Ask for what is in a dialog until it is closed; its result."""
        try:
            play(self.asked(level))
        finally:
            level.is_closed = True
            level.content.attach(None)
            self.levels.remove(level)
        return level.result

    def close_top(self, result: Any = None) -> None:
        """Close the topmost dialog with a result."""
        if len(self.levels) > 1:
            self._close(self.levels[-1], result)

    def _close(self, level: PlainLevel, result: Any) -> None:
        level.is_closed, level.result = True, result

    @contextmanager
    def set_aside(self) -> Iterator[None]:
        """Give the terminal to somebody else for a while: it is as it was found."""
        yield

    def fail(self, error: Exception) -> None:
        """Say what a function of the program has raised, and ask whether to go on."""
        if isinstance(error, Problems) and all(one.missing for one in error):  # the user has left a question of it
            self.driver.say(tell("left without an answer"))
        elif isinstance(error, Refusal | Complaint | Problems):
            if str(error):
                self.driver.say("\n".join(map(visible, str(error).split("\n"))))
        else:
            self.driver.say(f"{tell('This has failed')}\n{faults.said_of(error)}")
            ways = go_on, where, end = tell("Go on"), tell("Show where"), tell("End")
            while (chosen := self._chosen(ways, go_on)) == where:
                self.driver.say("\n".join(map(visible, faults.trace_of(error))))
            if chosen == end:
                self.failure = error
                self.finish(None)

    def _chosen(self, ways: tuple[str, ...], first: str) -> str | None:
        """Ask which of several ways to go; None if nobody says."""
        outcome = self.driver.run(_choice([*ways], first), self.options)
        if isinstance(outcome, Interrupted):
            raise KeyboardInterrupt
        return str(outcome.value) if isinstance(outcome, Answered) else None

    # Questions -------------------------------------------------------------------------------------------------------

    def asked(self, level: PlainLevel) -> Interaction[None]:
        """Ask for what is in a level, in steps, until it is closed or left."""
        if level.title:
            self.driver.say(level.title)
        while True:
            yield from self._catch_up()
            if level.is_closed or self.levels[0].is_closed:
                return
            level.done -= self._refused.keys()
            part = level.next_part()
            if part is None:
                goes_on = yield from self._what_next(level)
            else:
                level.done.add(part)
                goes_on = yield from self._ask_for(part, level)
            if not goes_on:
                return

    def _ask_for(self, part: Part, level: PlainLevel) -> Interaction[bool]:
        """Ask for a part, or say it. Return False if the user leaves."""
        if isinstance(part, Pager):
            yield from self._page(part)
            return True
        if not isinstance(part, Field | Listing) or not _is_asked(part):
            self._say(part)
            return True
        try:
            if isinstance(part, Field):
                gutter = gutter_of(one.slot for one in level.content.leaves() if isinstance(one, Field))
                asks = _question(part, gutter, self._refused.pop(part, None))
            else:
                asks = _list_question(part)
            outcome = yield Asked(self.driver, asks, self.options)
            if not _is_answered(outcome):
                return False
            part.settle(outcome.value)
        except Exception as error:  # a check, a kind or a bound of the program has raised it
            level.done.discard(part)
            self.fail(error)
        return True

    def _page(self, part: Pager) -> Interaction[None]:
        """Print a long text some lines at a time; whatever ends that, the next part comes."""
        if part.title:
            self.driver.say(part.title)
        _is_answered((yield Asked(self.driver, part.inner, self.options)))
        part.inner.outcome = None

    def _what_next(self, level: PlainLevel) -> Interaction[bool]:
        """Ask what is to be done, and do it. Return False if there is nothing, or the user leaves."""
        ways: dict[str, Callable[[], Any]] = {}
        default: Any = MISSING
        for part in sorted(level.content.leaves(), key=lambda part: part.is_bar):  # the menus after all others
            if _hidden(part) or not part.enabled:
                continue
            if isinstance(part, Button):
                label = _free(part.label, ways)
                ways[label] = part.activate
                default = label if part.is_default else default
            elif isinstance(part, MenuBar):
                for label, entry in part.all_entries():
                    if not entry.reason and entry.action is not None:
                        ways[_free(label, ways)] = partial(self.call, entry.action)
            elif isinstance(part, Listing | Table) and part.action_function is not None and part.count:
                label = _free(part.title or tell("Choose"), ways)
                ways[label] = partial(self._act_on, part)
        if not ways:
            return False
        if any(_is_asked(part) for part in level.done):
            ways[_free(tell("Change an answer"), ways)] = level.once_more
        outcome = yield Asked(self.driver, _choice([*ways], default), self.options)
        if _is_answered(outcome):
            ways[outcome.value]()
            return True
        return False

    def _act_on(self, part: Listing | Table) -> None:
        """Ask for a row of a list or a table, and have done with it what Enter does."""
        rows = texts(part.rows_in_sight(0, min(part.count, MOST_ROWS), COLUMNS))
        labels: dict[str, int] = {}
        for at, row in enumerate(rows):
            labels[_free(" ".join(row.split()), labels)] = at
        chosen = self._chosen(tuple(labels), "")
        if chosen is not None:
            part.at = labels[chosen]
            part.enter()

    def _catch_up(self) -> Interaction[None]:
        """Call what is due, and what other threads want called; no more than is there by now."""
        now = self.driver.clock.monotonic()
        for _ in range(len(self._calls)):
            self.call(self._calls.popleft())
        while self._timers and self._timers[0][0] <= now:
            timer = heappop(self._timers)[2]
            if not timer.is_cancelled:
                self.call(timer.function)
        if len(self.levels) > 1:  # a function waits for its dialog, and the event loop for that function
            return
        while self._tasks:
            task, function = self._tasks.popleft()
            try:
                faults.refuse_given((yield task), function)
            except Exception as error:
                self.fail(error)

    def _say(self, part: Part) -> None:
        """Print what a part shows."""
        columns = self.driver.size()[0]
        rows: Any = ()
        if isinstance(part, Label):
            rows = [((visible(line), ""),) for line in part.value.split("\n")] if part.value else []
        elif isinstance(part, (Table, Listing)):
            count = part.count
            rows = [*part.heading(COLUMNS), *part.rows_in_sight(0, min(count, MOST_ROWS), COLUMNS)] if count else []
            if count > MOST_ROWS:
                rows.append(((tell("{count} more", count=count - MOST_ROWS), ""),))
        else:
            room = min(part.size(columns).rows, ROWS)
            rows = part.tried(part.view, lambda error: said_instead(error, columns), columns, room).rows
        if part.title:
            self.driver.say(part.title)
        if rows:
            self.driver.say("\n".join([row for row in texts(rows) if row.strip()]))


def steps(screen: Screen, driver: Driver, begin: Callable[[Any], object]) -> Interaction[Any]:
    """Ask for what is on a screen, in steps; its result. ``begin`` has time count for what is to be called later."""
    host = PlainHost(screen, driver)
    screen.content.attach(host)
    screen.running = host
    begin(host)
    try:
        yield from host.asked(host.levels[0])
    finally:
        screen.content.attach(None)
        screen.running = None
    if host.failure is not None:
        raise host.failure
    return host.levels[0].result


def _is_asked(part: Part) -> bool:
    """Return True for what has a value of the user's."""
    return isinstance(part, Field) or (isinstance(part, Listing) and part.action_function is None and part.count > 0)


def _hidden(part: Part) -> bool:
    """Return True if a part, or a group around it, is left out by the program."""
    around: Part | None = part
    while around is not None:
        if around.is_hidden:
            return True
        around = around.parent
    return False


def _free(label: str, taken: dict[str, Any]) -> str:
    """Return a label that no other has, by a number after it if need be."""
    numbers = (f"{label} ({number})" for number in count(2))
    return label if label not in taken else next(one for one in numbers if one not in taken)


def _is_answered(outcome: Outcome) -> bool:
    """Return whether there is an answer, in which case the outcome has it; raises KeyboardInterrupt for Ctrl-C."""
    if isinstance(outcome, Interrupted):
        raise KeyboardInterrupt
    return isinstance(outcome, Answered)


def _question(field: Field, gutter: int, complaint: Complaint | None) -> Any:
    default = field.value if field.has_value else MISSING
    return question(Ask(field.here, default, None, complaint, answers=field.answers), gutter, label=field.label)


def _list_question(listing: Listing) -> Any:
    choices: Any = listing.choices
    made: Any = slot(AnyOf(choices) if listing.several else OneOf(choices), listing.title or tell("Choose"))
    return question(Ask(made, listing.value), gutter_of([made]))


def _choice(labels: list[str], default: Any) -> Any:
    made = slot(one_of(labels), tell("What next?"), initial=default if default in labels else MISSING)
    return question(Ask(made, made.initial), gutter_of([made]))
