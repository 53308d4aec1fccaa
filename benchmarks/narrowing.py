"""Typing to narrow: 100,000 choices of a menu and 1,000,000 candidates of a line, against one pass of ``in``.

In one process, in pairs, with no terminal: from the key to the frame, the search done. The baseline is one pass of
``in`` over the same labels, made into a list of those that hold the text. The first letter asks for all labels: its
first frame counts, the rest of its search, which waits for no key, is told apart. Then a key on a card of 200
questions, all but the last answered, against one on a card of two.
"""

from __future__ import annotations

import statistics
import time

from wesperon import Form, one_of, slot
from wesperon.editing.keys.events import Key
from wesperon.terminal.scripted import Press, Scripted
from wesperon.values.suggestions import Suggestions
from wesperon.widgets.menu import Menu
from wesperon.widgets.question import Question
from wesperon.widgets.suggested import Suggested
from wesperon.widgets.widget import Prompt

PAIRS = 15
BUDGET, SAME = 3.0, 1.25
LETTERS = "r-0neb"
WORDS = ("Lantern", "Wicker", "Thimble", "Ember", "Tallow", "Needle", "Harrow", "Cinder")
SORTS = ("nebula", "cluster", "double star", "dark cloud")
CHOICES = [f"HOLLIN-{at:06} {WORDS[at % 8]} {SORTS[at % 4]}" for at in range(100_000)]
CANDIDATES = [f"HOLLIN-{at:07} {WORDS[at % 8]} {SORTS[at % 4]}" for at in range(1_000_000)]


def passed(labels: list[str], text: str) -> float:
    """Return how long one pass of ``in`` takes."""
    begin = time.perf_counter()
    [label for label in labels if text in label]
    return time.perf_counter() - begin


def letters(widget: Question, labels: list[str]) -> list[tuple[float, float, float]]:
    """Letter by letter: how long the first frame takes, how long the whole search, and a pass of ``in``."""
    widget.view(80, 24)
    times = []
    for at, letter in enumerate(LETTERS):
        begin = time.perf_counter()
        widget.press(Key(letter, letter))
        widget.view(80, 24)
        framed = time.perf_counter() - begin
        while widget.work():
            pass
        widget.view(80, 24)
        times.append((framed, time.perf_counter() - begin, passed(labels, LETTERS[: at + 1])))
    return times


def narrowed() -> list[tuple[float, float, float]]:
    """Return the letters of a menu."""
    kind = one_of(CHOICES)
    return letters(Question(Prompt("Target", 6), Menu(kind.choices, kind.choices.check)), CHOICES)


def sought() -> list[tuple[float, float, float]]:
    """Return the letters of a line with candidates."""
    return letters(Question(Prompt("Target", 6), Suggested(str, suggestions=Suggestions(CANDIDATES))), CANDIDATES)


class Timed(Scripted):
    """Measures the keys typed into the last question."""

    def run(self, widget, options=None):  # type: ignore[no-untyped-def]
        """Answer all questions but the last, then type into that one."""
        while widget.flow.slots[-1].name != widget.open.prompt.label:
            for key in (Key("7", "7"), Key("enter")):
                widget.press(key)
                self.screen.painter.paint(widget.view(80, 24), 80, 24)
        self.times = []
        for _ in range(40):
            begin = time.perf_counter()
            widget.press(Key("x", "x"))
            self.screen.painter.paint(widget.view(80, 24), 80, 24)
            self.times.append(time.perf_counter() - begin)
        return super().run(widget, options)


def key_on(form: type[Form]) -> float:
    """Return how long a key takes on the last question of a form."""
    driver = Timed([Press("enter")])
    form.fill([], asking="missing", driver=driver)
    return statistics.median(driver.times)


def main() -> int:
    """Measure and print; the status is 1 if a figure is over its budget."""
    good = True
    for name, measure in (("menu of 100,000", narrowed), ("line of 1,000,000", sought)):
        runs = [measure() for _ in range(PAIRS)]
        whole = [statistics.median(run[at][1] / run[at][2] for run in runs) for at in range(len(LETTERS))]
        framed = [statistics.median(run[at][0] / run[at][2] for run in runs) for at in range(len(LETTERS))]
        worst, first = max(*whole[1:], framed[0]), statistics.median(run[0][1] for run in runs) * 1000
        verdict = "within" if worst <= BUDGET else "OVER"
        good = good and worst <= BUDGET
        print(
            f"{name}, a letter against one pass of in: {statistics.median(whole):.2f} times, worst {worst:.2f}; "
            f"{verdict} {BUDGET:g}"
        )
        print(f"  the first, which asks for all labels: its frame {framed[0]:.2f}, all {whole[0]:.2f} ({first:.0f} ms)")
    forms = [type("Many", (Form,), {f"value{at}": slot() for at in range(count)}) for count in (200, 2)]
    pairs = [(key_on(forms[0]), key_on(forms[1])) for _ in range(PAIRS)]
    ratio = statistics.median(a / b for a, b in pairs)
    verdict = "within" if ratio <= SAME else "OVER"
    print(f"a key on the last of 200 questions against 2: {ratio:.2f} times; {verdict} {SAME:g}")
    return 0 if good and ratio <= SAME else 1


if __name__ == "__main__":
    raise SystemExit(main())
