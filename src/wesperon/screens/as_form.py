"""A screen on a terminal that cannot move its cursor: its fields are asked for one after the other, tables are printed.

The order is that of declaration. At the end a choice of the buttons says what is done; without buttons, Ctrl-D.
"""

from __future__ import annotations

from wesperon.context import current
from wesperon.forms.questions import Ask, gutter_of, question
from wesperon.scope import within
from wesperon.screen.table import texts
from wesperon.screens.field import Field
from wesperon.terminal.interaction import Asked
from wesperon.terminal.preferred import DriverOptions
from wesperon.text.escape import visible
from wesperon.text.messages import tell
from wesperon.values import MISSING
from wesperon.values.kinds.choices import one_of
from wesperon.values.slots import slot
from wesperon.widgets.parts.listing import Listing
from wesperon.widgets.parts.simple_parts import Button, Label
from wesperon.widgets.parts.table import Table
from wesperon.widgets.widget import Answered, Interrupted

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any, Protocol

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


class PlainHost:
    """What a screen does for its parts while it is asked as questions; ``result`` is what it was closed with."""

    is_here = True

    def __init__(self, driver: Driver) -> None:
        self.driver = driver
        self.context = current().derive(driver=driver)
        self.is_closed = False
        self.result: Any = None

    def deliver(self, part: Part, given: tuple[Any, ...]) -> None:
        """See ``Host``."""
        part.receive(*given)
        if isinstance(part, Label) and part.value:
            _say(part, self.driver)

    def call(self, function: Callable[..., Any], *given: Any) -> None:
        """See ``Host``: what it raises is raised."""
        with within(self.context):
            function(*given)

    def note_failed(self, error: Exception) -> None:
        """See ``Host``: it is said in place of the part."""

    def leave_bar(self, bar: Part) -> None:
        """See ``Host``: there is no menu bar."""

    def adopt(self, part: Part) -> None:
        """See ``Host``: what comes is not asked any more."""

    def letter_of(self, part: Part) -> str:
        """See ``Host``: nothing is underlined."""
        return ""

    def edit_cell(self, table: Any, index: int, column: Any, value: Any) -> None:
        """See ``Host``: cells are not changed here."""

    def go_on(self, part: Part) -> None:
        """See ``Host``: what is asked comes one after the other."""

    def touch(self, part: Part) -> None:
        """See ``Host``: nothing is drawn."""

    def finish(self, result: Any) -> None:
        """End the screen with a result."""
        self.is_closed, self.result = True, result


def steps(screen: Screen, driver: Driver) -> Interaction[Any]:
    """Ask for what is on a screen, in steps; its result."""
    options = DriverOptions({}, environ=current().environ)
    host: Any = PlainHost(driver)
    screen.content.attach(host)
    screen.running = host
    try:
        if screen.title:
            driver.say(visible(screen.title))
        # Of tabs too that are not in front.
        parts = [part for part in screen.content.leaves() if part.enabled and not part.is_hidden]
        fields = [part for part in parts if isinstance(part, Field)]
        gutter = gutter_of(field.slot for field in fields)
        while not host.is_closed:
            for part in parts:
                if host.is_closed:
                    break
                if isinstance(part, Field):
                    ended = _settle(part, (yield Asked(driver, _question(part, gutter), options)))
                    if ended:
                        return host.result
                elif not part.is_button:
                    _say(part, driver)
            buttons = [part for part in parts if isinstance(part, Button) and part.enabled]
            if host.is_closed or not buttons:
                break
            outcome = yield Asked(driver, _choice(buttons), options)
            if isinstance(outcome, Interrupted):
                raise KeyboardInterrupt
            if not isinstance(outcome, Answered):
                return host.result
            chosen = next(button for button in buttons if button.label == outcome.value)
            chosen.activate()
        return host.result
    finally:
        screen.content.attach(None)
        screen.running = None


def _question(field: Field, gutter: int) -> Any:
    default = field.value if field.has_value else MISSING
    return question(Ask(field.here, default, answers=field.answers), gutter, label=field.label)


def _settle(field: Field, outcome: Outcome) -> bool:
    """Put an answer into its field. Return True if the user gives no more."""
    if isinstance(outcome, Interrupted):
        raise KeyboardInterrupt
    if not isinstance(outcome, Answered):
        return True
    field.receive(outcome.value)
    field.changed()
    return False


def _choice(buttons: list[Button]) -> Any:
    default = next((button.label for button in buttons if button.is_default), MISSING)
    made = slot(one_of([button.label for button in buttons]), tell("What next?"), initial=default)
    return question(Ask(made, default), gutter_of([made]))


def _say(part: Part, driver: Driver) -> None:
    """Print what a part shows."""
    rows: Any = ()
    if isinstance(part, Label):
        rows = [((visible(line), ""),) for line in part.value.split("\n")] if part.value else []
    elif isinstance(part, (Table, Listing)):
        rows = (
            [*part.heading(COLUMNS), *part.rows_in_sight(0, min(part.count, MOST_ROWS), COLUMNS)] if part.count else []
        )
        if part.count > MOST_ROWS:
            rows.append(((tell("{count} more", count=part.count - MOST_ROWS), ""),))
    else:
        rows = part.view(driver.size()[0], 8).rows
    if part.title:
        driver.say(part.title)
    if rows:
        driver.say("\n".join(texts(rows)))
