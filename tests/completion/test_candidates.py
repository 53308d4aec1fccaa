"""What is offered at a place of the command line: the program takes it, and it can be shown.

Modules: ``completion.candidates``.
"""

from __future__ import annotations

from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from wesperon import DeclarationError, Form, Problems, any_of, one_of, slot
from wesperon.completion.candidates import candidates
from wesperon.text.escape import visible
from wesperon.values.records import slots_of

TEXTS = st.text(st.sampled_from("aB ,\\'\"-=\x1b\n\t\u202e\u0301é日\x7f\U0001f52d"), min_size=1, max_size=5)


def offered(form: type[Form], before: list[str], word: str) -> list[str]:
    return [one.text for one in candidates(slots_of(form), before, word)]


@given(st.lists(TEXTS, unique_by=str.casefold, min_size=1, max_size=6), st.booleans())
def test_what_is_offered_is_taken_and_can_be_shown(labels: list[str], is_set: bool) -> None:
    try:
        kind: Any = any_of(labels) if is_set else one_of(labels)
        form: Any = type("Log", (Form,), {"value": slot(kind)})
    except DeclarationError:  # labels that cannot be told from each other
        return
    found = offered(form, [], "--value=")
    texts = [text.removeprefix("--value=") for text in found]
    assert [visible(text) for text in texts] == texts
    shown = [label for label in labels if visible(label) == label]
    assert len(texts) == len(shown)
    for text, label in zip(texts, shown, strict=True):
        try:
            taken = form.fill([f"--value={text}"], asking="never").value
        except Problems as problems:
            raise AssertionError((text, labels, str(problems))) from None
        assert taken == ((label,) if is_set else label)


class Log(Form):
    target = slot(one_of(["dome", "ma\x1bst", "two\nlines"], aliases={"ma\x1bst": ["mast"]}.get))
    part = slot(one_of(lambda answers: [f"{answers.target} roof", "door"]))
    note = slot(suggest=lambda answers: [f"{answers.part} is open", f"{answers.frames} frames"])
    frames = slot(int, default=7)
    more = slot(suggest=lambda: ["alone", "bell\x07"])


def test_answers_on_the_line_decide_what_follows() -> None:
    assert offered(Log, [], "") == ["dome", "mast"]
    assert offered(Log, ["dome"], "") == ["dome roof", "door"]
    assert offered(Log, ["--target=DOME"], "d") == ["dome roof", "door"]
    assert offered(Log, ["dome", "--part"], "do") == ["dome roof", "door"]
    assert offered(Log, ["dome", "door"], "") == ["door is open", "7 frames"]
    assert offered(Log, ["dome", "door", "--frames", "3"], "") == ["door is open", "3 frames"]
    assert offered(Log, ["dome", "door", "--frames", "x"], "") == []
    assert offered(Log, ["nowhere"], "") == []
    assert offered(Log, ["--part"], "") == []
    assert offered(Log, ["--more"], "") == ["alone"]


def test_a_secret_that_is_refused_as_a_word_is_not_offered_as_one() -> None:
    class Log(Form):
        password = slot(secret=True)
        pin = slot(secret="anywhere")

    found = [one.text for one in candidates(slots_of(Log), [], "--p")]
    assert found == ["--pin="]
