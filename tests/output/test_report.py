"""Reports of problems: the words at fault with their neighbours, and carets under them."""

from __future__ import annotations

from wesperon.output.report import carets, report
from wesperon.values.problems import Problem, Problems


def test_of_a_long_line_the_words_at_fault_are_shown_with_their_neighbours() -> None:
    words = [f"word{number}" for number in range(200)]
    problems = Problems([Problem("is wrong", None, "words", words[100], words=(100,))], words)
    line, marks, *_ = report(problems, ["desk"], 80).splitlines()
    assert line == "desk ... word99 word100 word101 ..."
    assert line[marks.index("^") : marks.rindex("^") + 1] == "word100"


def test_carets_stand_under_their_columns() -> None:
    assert carets([(5, 7), (1, 2), (6, 9)]) == " ^   ^^^^"
    assert carets([(3, 3)]) == ""
