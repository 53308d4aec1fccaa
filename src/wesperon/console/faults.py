"""What a console says about a line that failed."""

from __future__ import annotations

from wesperon.context import current
from wesperon.frozen import later
from wesperon.output.exit_status import error_columns
from wesperon.screen.layout import BETWEEN, field_area, gutter_for, wrap_limited
from wesperon.text.escape import is_plain, visible, visible_lines
from wesperon.text.hushing import Traces
from wesperon.text.messages import tell
from wesperon.values.words import split_words

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Sequence

    from wesperon.output import report as output_report
    from wesperon.terminal.driver import Driver
    from wesperon.values.problems import Problems
else:
    output_report = later("wesperon.output.report")


def print_fault(text: str, driver: Driver | None) -> None:
    """Print what is wrong on standard error, and on the terminal of the console if that is another one."""
    shown = visible_lines(text)
    context = current()
    is_seen = False
    try:
        context.print(shown, error=True)
        if context.stderr is not None:
            context.stderr.flush()
            # Standard error of a context may be the driver itself: said there once more, it would be shown twice.
            is_seen = getattr(context.stderr, "driver", None) is driver or context.stderr.isatty()
    except (OSError, ValueError):  # closed, full, or nobody reads it
        pass
    if driver is not None and not is_seen and driver.is_terminal:
        driver.say(shown)


def placed(place: str, text: str) -> str:
    """Return a fault with the file and the line where it is, if it is in a file."""
    if not place:
        return text
    return f"{place}:\n{text}" if "\n" in text else f"{place}: {text}"


def under_field(reason: str, driver: Driver, label: str) -> str:
    """Return a reason in the rows below a line, where its text begins."""
    where = field_area(gutter_for([visible(label)]), driver.size()[0])
    return "\n".join([" " * where.left + row for row in wrap_limited(reason, where.width)])


def report_under(problems: Problems, text: str, driver: Driver, label: str) -> str:
    """Return what is wrong with the line that is above: carets under its words if it is in one row, and the reasons."""
    label, columns = visible(label), driver.size()[0]
    where = field_area(gutter_for([label]), columns)
    if not is_plain(text) or len(text) > where.width:
        return output_report.report(problems, [], columns)
    words = split_words(text)
    ends = [start for _, start in words[1:]] + [len(text) + 1]
    spans = [(words[at][1], len(text[: ends[at]].rstrip())) for problem in problems for at in problem.words]
    marks = " " * where.left + output_report.carets(spans)
    gutter = 0 if where.stacked else where.left - BETWEEN
    return "\n".join([*([marks] if marks.strip() else []), *output_report.reasons(problems, columns - 1, gutter)])


def report_alone(problems: Problems, words: Sequence[str], place: str = "", secrets: Sequence[str] = ()) -> str:
    """Return what is wrong with a line of these words that nobody sees, such as one of a file: it is repeated.

    ``place`` is the file and the line; none of the ``secrets`` is shown.
    """
    before = [] if any(one.words for one in problems) else words
    text = output_report.report(problems, before, error_columns())
    if secrets and Traces(secrets).are_in(text):
        text = tell("the line is refused; what is wrong with it is not shown, since it holds a secret")
    return placed(place, text)
