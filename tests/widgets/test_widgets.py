"""Widgets: keys in, frames out, with no terminal.

Modules: ``forms.questions``, ``forms.question_widgets``, ``widgets.menu``, ``widgets.checkboxes``,
``widgets.filtering``, ``widgets.question``, ``widgets.widget``, ``widgets.suggested``.
"""

from __future__ import annotations

import random
from enum import Enum
from pathlib import Path
from typing import Any

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.asking import CTRL_C, ENTER, ask
from tests.tables import tabled
from wesperon import DeclarationError, Form, any_of, one_of, slot
from wesperon.editing.completing import shared_beginning
from wesperon.editing.history_view import ListHistory
from wesperon.editing.keys.events import Key, Paste, Resize
from wesperon.screen.frame import row_text
from wesperon.screen.layout import foot_row, in_columns
from wesperon.screen.theme import Theme
from wesperon.screen.width import width
from wesperon.terminal.decoder import Decoder
from wesperon.testing import Press, Scripted
from wesperon.values import Complaint
from wesperon.values.candidate import Candidate
from wesperon.values.suggestions import Suggestions
from wesperon.widgets.checkboxes import Checkboxes
from wesperon.widgets.filtering import SLICE, ChoiceFilter
from wesperon.widgets.line import Line
from wesperon.widgets.question import Question
from wesperon.widgets.several_lines import SeveralLines
from wesperon.widgets.static_field import StaticField
from wesperon.widgets.suggestion_filter import SuggestionFilter
from wesperon.widgets.widget import MOST_RECORDED, Answered, Ended, Interrupted, Prompt

NAMES = ["Ada", "Bea", "Cleo Low"]


class Hue(Enum):
    RED = "red"
    GREEN = "green"


@tabled
def test_a_question_gives_a_value(declared: Any, script: list[Any], value: object) -> None:
    assert ask(declared, *script, asking="all")[0] == value


def test_a_wrong_answer_stays_with_the_reason_and_the_cursor_at_the_end_of_the_fault() -> None:
    line = Line(slot(int).parse)
    for char in "4x5":
        line.press(Key(char, char))
    line.press(Key("enter"))
    frame = Question(Prompt("Frames", 6), line).view(80, 24)
    assert frame.text().splitlines()[:2] == [
        "  Frames  4x5",
        '          "4x5" is not a whole number, such as 12',
    ]
    assert frame.cursor == (0, 12)
    assert ("x", "fault") in frame.rows[0]
    line.press(Key("backspace"))
    assert "whole number," not in Question(Prompt("Frames", 6), line).view(80, 24).text()
    line.press(Key("enter"))
    assert line.outcome == Answered(45)
    assert Question(Prompt("Frames", 6), line).view(80, 24).text() == "  Frames  45"


def test_an_empty_answer_says_what_is_needed() -> None:
    _, driver = ask(slot(int, "How many frames shall be taken?"), ENTER, CTRL_C)
    assert driver.frames[0].splitlines()[:2] == ["  value  How many frames shall be taken?", ""]
    assert "a value is required: enter a whole number, such as 12" in driver.frames[1]


def test_under_all_what_is_wrong_stands_in_the_line_ready_to_mend() -> None:
    value, driver = ask(slot(int), Press("backspace"), ENTER, asking="all", words=("4x5",))
    assert value == 45
    assert '"4x5" is not a whole number' in driver.frames[0]


def test_a_menu_shows_what_is_in_sight_with_notes_and_reasons() -> None:
    numbers = one_of(
        range(1000), lambda n: f"HOLLIN-{n:03}", note=lambda n: "far" * (n % 2), disabled=lambda n: "old" * (n == 2)
    )
    value, driver = ask(slot(numbers, "Target"), Press("down", 20), ENTER, rows=8)
    assert value == 20
    assert driver.frames[0].splitlines() == [
        "  Target",
        "        : HOLLIN-000",
        "          HOLLIN-001  far",
        "          HOLLIN-002  not now: old",
        "          HOLLIN-003  far",
        "          HOLLIN-004",
        "          HOLLIN-005  far",
        "  Enter: accept   Up Down: move   Type: filter   Ctrl-C: stop   1 of 1,000",
    ]
    assert driver.frames[1].splitlines()[6].endswith("HOLLIN-020")
    assert driver.frames[-1] == "  Target  HOLLIN-020\n"


def test_checkboxes_show_their_marks_and_leave_a_record() -> None:
    _, driver = ask(slot(any_of(["Red", "Blue"])), Press("space"), ENTER)
    assert driver.frames[1].splitlines()[1:3] == ["       : [x] Red", "         [ ] Blue"]
    assert driver.frames[-1] == "  value  Red\n"


@pytest.mark.parametrize("columns", [1, 2, 3, 7, 20, 33, 39, 40, 80, 300])
@pytest.mark.parametrize("rows", [1, 2, 3, 24])
def test_every_view_fits_its_terminal(columns: int, rows: int) -> None:
    long = "日本語 " * 2500 + "\x1b[31m\n\u202e"
    kinds = [slot(default=long), slot(one_of([long, "b"])), slot(any_of([long, "b"], note=lambda _: long))]
    for declared in [*kinds, slot(int, ask=long)]:
        _, driver = ask(declared, ENTER, "x", ENTER, Press("down"), CTRL_C, asking="all", columns=columns, rows=rows)
        for frame in driver.frames[:-1]:
            assert len(frame.splitlines()) <= rows
        sent = "".join(driver.sent)
        assert "\u202e" not in sent
        assert "\x1b[31m" not in sent


def test_a_resize_while_a_question_is_open_shows_it_anew() -> None:
    value, driver = ask(slot(ask="Target"), "Lantern", Resize(20, 10), " Nebula", ENTER, columns=80)
    assert value == "Lantern Nebula"
    assert driver.frames[1].startswith("  Target  Lantern")
    assert driver.frames[2].splitlines()[:2] == ["Target", "  Lantern"]


def test_when_the_terminal_goes_away_the_value_is_missing() -> None:
    line = Line(str)
    assert Scripted(["Lant"]).run(line) == Ended()
    assert line.draft.text == "Lant"


def test_earlier_lines_come_back_and_what_was_typed_with_them() -> None:
    line = Line(str, past=ListHistory(["one", "two"]))
    for key, text in [("t", "t"), ("up", "two"), ("up", "two"), ("down", "t"), ("ctrl-u", ""), ("up", "two"),
                      ("up", "one"), ("up", "one"), ("down", "two"), ("down", "")]:  # fmt: skip
        line.press(Key(key, key if key == "t" else ""))
        assert line.draft.text == text


def test_tab_completes_as_far_as_candidates_agree_and_lists_them() -> None:
    def complete(text: str, cursor: int) -> tuple[int, list[Candidate]]:
        return 0, [Candidate(name) for name in ("expose", "export", "queue") if name.startswith(text[:cursor])]

    line = Line(str, complete=complete)
    for key in ("e", "tab"):
        line.press(Key(key, key if key == "e" else ""))
    assert line.draft.text == "expo"
    assert "expose  export" in Question(Prompt("Frames", 6), line).view(80, 24).text()
    for key in ("s", "tab"):
        line.press(Key(key, key if key == "s" else ""))
    assert line.draft.text == "expose "
    line.press(Key("ctrl-c"))
    assert line.outcome == Interrupted()


def test_candidates_stand_in_columns() -> None:
    assert in_columns(["a", "bb", "ccc", "d", "e"], 13) == ["a    ccc  e", "bb   d"]
    assert shared_beginning(["Expose", "export"]) == "Expo"


def test_a_million_characters_are_pasted_in_one_frame() -> None:
    line = Line(str)
    line.press(Paste("x" * 1_000_000))
    assert len(Question(Prompt("Frames", 6), line).view(80, 24).rows) <= 24
    line.press(Key("enter"))
    assert line.outcome == Answered("x" * 1_000_000)


def test_a_million_characters_of_code_are_pasted_in_one_frame() -> None:
    text = SeveralLines(str, syntax="python")
    text.set_theme(Theme({}, 16))
    text.press(Paste("frames = [1, 2]\n" * 60_000))
    assert len(Question(Prompt("Note", 4), text).view(80, 24).rows) <= 24
    text.drawn()
    text.press(Key("left"))
    text.press(Key("x", "x"))
    assert Question(Prompt("Note", 4), text).view(80, 24).cursor == (21, 24)


@pytest.mark.parametrize("seed", range(5))
def test_random_bytes_leave_every_widget_whole(seed: int) -> None:
    decoder, noise = Decoder(), random.Random(seed).randbytes(1_500)
    events = [event for event in decoder.feed(noise) if event not in (Key("ctrl-c"), Key("ctrl-d"))]
    for declared in (slot(int), slot(bool), slot(one_of([*"abc"])), slot(any_of([*"abc"]))):
        value, driver = ask(declared, *events, CTRL_C, columns=20, rows=5)
        assert value is KeyboardInterrupt or declared.validate(value) == value
        assert driver.screen.painter.role_on == ""


def test_a_menu_shows_groups_what_matched_and_how_many_are_left() -> None:
    targets = one_of(
        {"Lantern Nebula": 1, "Wicker Nebula": 2, "Thimble Group": 3}, group={1: "nebulae", 2: "nebulae", 3: "clusters"}
    )
    _, driver = ask(slot(targets, "Target", default=2), "i", ENTER, asking="all")
    assert [row.rstrip() for row in driver.frames[0].splitlines()[1:-1]] == [
        "          nebulae",
        "            Lantern Nebula",
        "        :   Wicker Nebula   default",
        "          clusters",
        "            Thimble Group",
    ]
    assert "  Target  i" in driver.frames[1]
    assert "1 of 2 (of 3)" in driver.frames[1]
    assert ("i", "current-match") in driver.views[1].rows[2]
    assert ("i", "match") in driver.views[1].rows[4]


def test_headings_keep_the_current_choice_in_sight() -> None:
    numbers = one_of(range(60), str, group=lambda n: f"tens {n // 3}")
    for presses in (1, 7, 30, 59, 61):
        value, driver = ask(slot(numbers), Press("down", presses), ENTER, rows=9)
        assert value == presses % 60
        current = [text for row in driver.views[-2].rows for text, role in row if role == "current"]
        assert current == [str(value)]
        assert len(driver.frames[-2].splitlines()) == 9


def test_a_label_function_that_fails_says_for_which_choice() -> None:
    with pytest.raises(DeclarationError, match=r"label of choice 3 \(\"0\"\) cannot be made: ZeroDivisionError"):
        one_of([2, 1, 0], lambda n: str(1 // n))
    late = one_of(range(2_000), lambda n: str(1 // (n - 5)))
    with pytest.raises(DeclarationError, match="label of choice 6"):
        ask(slot(late), ENTER)


def test_suggestions_stand_in_one_column_with_notes_or_in_several() -> None:
    _, driver = ask(slot(ask="Name", suggest={"Ada": "first desk", "Adele": "dome"}), "a", Press("down"), ENTER)
    assert driver.frames[2].splitlines()[1:3] == ["        Ada    first desk", "        Adele  dome"]
    _, driver = ask(slot(ask="Name", suggest=[f"a{n:02}" for n in range(40)]), "a", ENTER, columns=40)
    assert driver.frames[2].splitlines()[1].split() == ["a00", "a07", "a14", "a21", "a28", "a35"]
    _, driver = ask(slot(ask="Name", suggest=["Adele"], suggest_as="inline"), "a", ENTER)
    assert ("dele", "hint") in driver.views[2].rows[0]


def test_a_million_candidates_are_searched_in_slices_between_keys() -> None:
    offers = SuggestionFilter(Suggestions([f"HOLLIN-{n:06} target" for n in range(100_000)]))
    offers.seek("hollin-0999")
    slices = 0
    while offers.work():
        slices += 1
    assert slices == 100_000 // SLICE
    assert (offers.text(offers.found(1)[0]), offers.count) == ("HOLLIN-099900 target", 100)
    offers.seek("099")
    while offers.work():
        pass
    assert offers.text(offers.found(1)[0]) == "HOLLIN-000099 target"
    offers.seek("0999")
    assert offers.work()
    assert not offers.work()
    assert offers.count == len([n for n in range(100_000) if "0999" in f"hr-{n:06} target"])


@given(st.lists(st.text("abAB ", max_size=6)), st.text("abAB ", max_size=3), st.text("abAB ", max_size=2))
def test_a_search_finds_what_a_plain_look_finds(texts: list[str], needle: str, more: str) -> None:
    offers = SuggestionFilter(Suggestions(texts))
    for wanted in (needle, needle + more):
        offers.seek(wanted)
        while offers.work():
            pass
        folded = wanted.casefold()
        hits = [text for text in texts if all(part in text.casefold() for part in folded.split())]
        begins = [text for text in hits if text.casefold().startswith(folded)]
        others = [text for text in hits if not text.casefold().startswith(folded)]
        assert [offers.text(at) for at in offers.found(99)] == begins + others


@given(st.lists(st.sampled_from(["ab", "abc", "b", "xabc"]), max_size=30), st.lists(st.integers(0, 3), max_size=9))
def test_a_search_finds_what_comes_while_it_goes_on(texts: list[str], events: list[int]) -> None:
    there: list[str] = []
    search = ChoiceFilter(lambda: len(there), lambda first, last: there[first:last])
    coming, needle = iter(texts), ""
    for event in events:
        if event < 2:
            there.extend(text for text, _ in zip(coming, range(3 + event), strict=False))
        elif event == 2:
            needle = {"": "a", "a": "ab", "ab": "abc", "abc": "b", "b": ""}[needle]
            search.seek(needle)
        assert search.all() == [at for at, text in enumerate(there) if needle in text]


def test_choices_that_come_while_a_list_is_filtered_are_found() -> None:
    texts = ["alpha 1", "alpha 3", *["beta"] * 100]
    search = ChoiceFilter(lambda: len(texts), lambda first, last: texts[first:last])
    search.seek("a")
    search.all()
    search.seek("alpha")
    assert search.all() == [0, 1]
    search.seek("alpha 3")  # only the two hits are searched, and what comes from here on
    texts += ["alpha 33", "beta"]
    assert search.all() == [1, 102]
    texts += ["alpha 34"]
    assert search.upto(3) == [1, 102, 104]


#: Keys that move, and keys that mark.
MARKING = ("up", "down", "home", "end", "shift-up", "shift-down", "space", "ctrl-a", "ctrl-t", "ctrl-r")


@given(keys=st.lists(st.sampled_from(MARKING), max_size=20), disabled=st.sets(st.sampled_from("abcde"), max_size=4))
def test_a_disabled_choice_gets_no_mark_by_any_key(keys: list[str], disabled: set[str]) -> None:
    boxes = Checkboxes(any_of(list("abcde"), disabled=lambda choice: "broken" * (choice in disabled)).choices, set)
    for key in keys:
        boxes.press(Key(key, " " if key == "space" else ""))
        assert not {"abcde"[at] for at in boxes.marked} & disabled


def test_a_disabled_choice_says_why_it_gets_no_mark() -> None:
    boxes = Checkboxes(any_of(["a", "b"], disabled=lambda choice: "broken" * (choice == "b")).choices, frozenset)
    boxes.press(Key("down"))
    boxes.press(Key("space", " "))
    assert boxes.complaint is not None
    assert "broken" in boxes.complaint.reason


def test_a_foot_that_does_not_fit_keeps_the_way_back_before_the_rest() -> None:
    keys, more = "aaaa: 1   bbbb: 2   cccc: 3   dddd: 4", "back: 5   help: 6"
    order = ["aaaa: 1", "bbbb: 2", "back: 5", "help: 6", "dddd: 4", "cccc: 3"]
    for first in (1, 2):
        needed = [*order[:first], "yes or no", *order[first:]]
        for columns in range(8, 90):
            text = row_text(foot_row(keys, columns, "yes or no", more, first))
            kept = [part for part in needed if part in text]
            assert kept
            assert kept == needed[: len(kept)], text
        assert kept == needed


@given(st.lists(st.text("abc", min_size=1, max_size=9), min_size=1, max_size=8), st.integers(10, 30))
def test_what_stays_on_the_screen_is_broken_between_words(words: list[str], columns: int) -> None:
    rows = StaticField(" ".join(words)).record(columns)
    shown = ["".join(text for text, _ in row) for row in rows]
    assert all(len(row) <= columns for row in shown)
    if len(rows) < MOST_RECORDED:
        assert [word for row in shown for word in row.split(" ")] == words


def word(text: str) -> str:
    """Return the text, if it is of lower case letters."""
    if not text.islower():
        raise Complaint("must be in lower case", 0)
    return text


@given(
    st.sampled_from([Line, SeveralLines]),
    st.booleans(),
    st.lists(
        st.tuples(
            st.sampled_from(
                ["a", "B", "enter", "left", "backspace", "alt-1", "ctrl-x", "tab", "ctrl-r", "escape", "insert", "home"]
            ),
            st.integers(1, 90),
            st.integers(1, 9),
        ),
        max_size=25,
    ),
)
def test_what_is_kept_around_a_field_is_what_would_be_made_anew(
    kind: type[Line], labelled: bool, script: list[tuple[str, int, int]]
) -> None:
    """What is around a field stays from key to key; it must be right after each key, in a box of any size."""
    prompt = Prompt("Target" if labelled else "", 6, "Which one is to be seen?", "a word", note="ro", keys="F1: help")
    complete = lambda text, cursor: (0, [Candidate("abba"), Candidate("acca", "a note")])  # noqa: E731
    question = Question(prompt, kind(word, complete=complete, past=ListHistory(["aba", "baa"])))
    for name, columns, rows in script:
        question.press(Key(name, name if len(name) == 1 else ""))
        if question.outcome is not None:
            return
        shown = question.view(columns, rows)
        fresh = Question(prompt, question.field).view(columns, rows)
        assert (shown.rows, shown.cursor, shown.shape) == (fresh.rows, fresh.cursor, fresh.shape)


@given(st.text("4x.o-_ é日", min_size=1, max_size=9), st.integers(0, 9))
def test_after_a_refusal_the_cursor_is_behind_what_is_marked(typed: str, left: int) -> None:
    """So that deleting takes away what is wrong, and typing goes on behind it."""
    line = Line(lambda text: slot(int).combine([text]))
    for char in typed:
        line.press(Key(char, char))
    for _ in range(left):
        line.press(Key("left"))
    line.press(Key("enter"))
    assume(line.complaint is not None)
    frame = line.view(60, 1)
    marked = [(number, role) for number, role in enumerate(role for text, role in frame.rows[0] for _ in text)]
    behind = max((number for number, role in marked if role == "fault"), default=-1) + 1
    assert behind
    shown = "".join(text for text, _ in frame.rows[0])
    assert frame.cursor == (0, min(width(shown[:behind]), width(typed)))
    assert line.text == typed


class Night(Form):
    target = slot(one_of(["red", "green", "blue"]), default="green")
    frames = slot(int)
    seconds = slot(int)


def test_a_menu_that_is_opened_again_calls_the_answer_an_answer() -> None:
    back = Press("shift-tab")
    driver = Scripted([Press("down"), ENTER, "5", ENTER, back, back, ENTER, ENTER, "7", ENTER])
    assert Night.fill([], asking="all", driver=driver).target == "blue"
    menus = [frame for frame in driver.frames if "Type: filter" in frame]
    assert "green  default" in menus[0]
    assert "blue   your answer" in menus[-1]
    assert "default" not in menus[-1]


def test_a_menu_says_that_a_value_was_given(tmp_path: Path) -> None:
    answers = tmp_path / "answers.toml"
    answers.write_text('target = "red"')
    driver = Scripted([ENTER, "5", ENTER, "7", ENTER])
    Night.fill(["--answers", str(answers)], asking="all", driver=driver)
    assert "red    given" in driver.frames[0]


def test_after_a_last_look_nothing_is_left_to_be_asked() -> None:
    driver = Scripted([ENTER, "5", ENTER, "7", ENTER, Press("up"), Press("up"), ENTER, "6", ENTER, ENTER])
    record = Night.fill([], asking="all", driver=driver, review=True)
    assert (record.frames, record.seconds) == (6, 7)
    first = next(at for at, frame in enumerate(driver.frames) if "to a value" in frame)
    assert any("2 more" in frame for frame in driver.frames[:first])
    assert not any(" more" in frame for frame in driver.frames[first:])
