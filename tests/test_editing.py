"""Edits and clusters, against a naive model: a list of clusters and a cursor among them."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import ROOT
from wesperon.editing.clusters import after, before, clusters, settled
from wesperon.editing.editor import OWN, Editor
from wesperon.editing.edits import EDITS, Draft, insert, whole
from wesperon.editing.keymap import MODELESS

TEXTS = st.text(st.sampled_from("ab_1 .-é\u0301日\U0001f469\u200d\U0001f680\U0001f1e9\U0001f1ea\ufe0f\n"), max_size=14)


class Model:
    """The naive one: every step joins the text, cuts it into clusters anew and counts them."""

    def __init__(self) -> None:
        self.left: list[str] = []
        self.right: list[str] = []

    def insert(self, text: str) -> None:
        self.set("".join(self.left) + text, "".join(self.right))

    def set(self, left: str, right: str) -> None:
        """The cursor goes to the first end of a cluster at or behind the end of the left part."""
        self.left, self.right = [], []
        taken = 0
        for cluster in clusters(left + right):
            (self.left if taken < len(left) else self.right).append(cluster)
            taken += len(cluster)

    def apply(self, edit: str) -> None:
        verb, unit, direction = edit.split("-")
        back = direction in ("left", "back", "start")
        side = self.left[::-1] if back else self.right
        count = {"char": min(1, len(side)), "line": len(side)}[unit]
        if verb == "delete":
            kept = side[count:]
            left, right = (kept[::-1], self.right) if back else (self.left, kept)
        elif back:
            left, right = side[count:][::-1], side[:count][::-1] + self.right
        else:
            left, right = self.left + side[:count], side[count:]
        self.set("".join(left), "".join(right))


SIMPLE = [edit for edit in EDITS if edit.split("-")[0] in ("move", "delete") and edit.split("-")[1] in ("char", "line")]


@given(st.lists(st.sampled_from(SIMPLE) | TEXTS))
def test_edits_do_what_a_naive_model_does(steps: list[str]) -> None:
    draft, model = Draft(), Model()
    for step in steps:
        if step in EDITS:
            draft = EDITS[step](draft)
            model.apply(step)
        else:
            draft = insert(draft, step)
            model.insert(step)
        assert (draft.text[: draft.cursor], draft.text[draft.cursor :]) == ("".join(model.left), "".join(model.right))


@given(TEXTS)
def test_steps_over_clusters_agree_with_the_list_of_clusters(text: str) -> None:
    ends = [0]
    for cluster in clusters(text):
        ends.append(ends[-1] + len(cluster))
    assert [after(text, at) for at in ends[:-1]] == ends[1:]
    assert [before(text, at) for at in ends[1:]] == ends[:-1]
    assert [settled(text, at) for at in range(len(text) + 1)] == [
        next(end for end in ends if end >= at) for at in range(len(text) + 1)
    ]


@pytest.mark.parametrize(
    ("edit", "text", "result"),
    [
        ("move-word-left", "ab cd|", "ab |cd"),
        ("move-word-left", "ab  |cd", "|ab  cd"),
        ("move-word-right", "|ab cd", "ab| cd"),
        ("move-word-right", "ab|.-cd ef", "ab.-cd| ef"),
        ("delete-word-back", "ab-cd|x", "ab-|x"),
        ("delete-word-forward", "a|b cd", "a| cd"),
        ("delete-blank-word-back", "ab c-d |x", "ab |x"),
        ("delete-line-start", "ab|cd", "|cd"),
        ("delete-line-end", "ab|cd", "ab|"),
        ("exchange-chars", "ab|", "ba|"),
        ("exchange-chars", "a|bc", "ba|c"),
        ("exchange-chars", "|ab", "|ab"),
        ("exchange-chars", "a|", "a|"),
        ("exchange-words", "ab| cd.", "cd ab|."),
        ("exchange-words", "ab - cd|", "cd - ab|"),
        ("exchange-words", "x ab c|d", "x cd ab|"),
        ("exchange-words", "ab|", "ab|"),
        ("raise-word-forward", "a|b-cd", "aB|-cd"),
        ("lower-word-forward", "| ÄB", " äb|"),
        ("capitalise-word-forward", "| äB cd", " Äb| cd"),
        ("move-word-right", "|na\u0301ve x", "na\u0301ve| x"),
        ("delete-char-back", "x\U0001f469\u200d\U0001f680|", "x|"),
    ],
)
def test_an_edit_changes_the_text_and_moves_the_cursor(edit: str, text: str, result: str) -> None:
    draft = EDITS[edit](Draft(text.replace("|", ""), text.index("|")))
    assert draft.text[: draft.cursor] + "|" + draft.text[draft.cursor :] == result


@given(st.lists(st.sampled_from([*EDITS]) | st.text("ab é日\n", min_size=1, max_size=3)))
def test_every_step_can_be_undone_and_done_again(steps: list[str]) -> None:
    editor = Editor("start here")
    seen = [editor.draft.text]
    for step in steps:
        if step in EDITS:
            editor.apply(step)
        else:
            editor.type(step)
        seen.append(editor.draft.text)
    last = editor.draft
    for _ in range(len(steps) + 1):
        editor.apply("undo")
        assert editor.draft.text in seen
    assert editor.draft.text == "start here"
    for _ in range(len(steps) + 1):
        editor.apply("redo")
    assert editor.draft.text == last.text


def edited(*steps: str, text: str = "") -> str:
    editor = Editor(text)
    for step in steps:
        if step in EDITS or step in OWN:
            editor.apply(step)
        else:
            for char in step:
                editor.type(char)
    return editor.draft.text


@pytest.mark.parametrize(
    ("steps", "result"),
    [
        (["two words", "undo"], "two"),
        (["two words", "undo", "undo"], ""),
        (["abc", "delete-char-back", "delete-char-back", "undo"], "abc"),
        (["abc", "move-char-left", "d", "undo"], "abc"),
        (["abc", "undo", "redo"], "abc"),
        (["abc", "undo", "x", "redo"], "x"),
        (["one two three", "delete-word-back", "delete-word-back", "paste-cut"], "one two three"),
        (["one two", "move-line-start", "delete-word-forward", "delete-line-end", "paste-cut", "paste-cut"],
         "one twoone two"),
        (["ab cd", "delete-word-back", "x", "delete-line-start", "paste-cut", "paste-older-cut"], "cd"),
        (["ab cd", "delete-word-back", "x", "delete-line-start", "paste-cut", "paste-older-cut", "paste-older-cut"],
         "ab x"),
        (["ab", "delete-line-start", "x", "paste-older-cut"], "x"),
        (["paste-cut"], ""),
    ],
)  # fmt: skip
def test_cuts_come_back_and_steps_are_undone(steps: list[str], result: str) -> None:
    assert edited(*steps) == result


def test_every_key_is_bound_to_an_edit_that_exists() -> None:
    assert set(MODELESS.values()) <= set(EDITS) | set(OWN)
    assert set(EDITS) | set(OWN) <= set(MODELESS.values())
    page = (ROOT / "docs" / "guide-asking.md").read_text()
    for key in MODELESS:
        shown = "-".join(part if len(part) < 2 else part.capitalize() for part in key.split("-"))
        assert shown.replace("Alt-", "Alt-").split("-")[-1].upper() in page.upper(), key
    assert whole("ab") == Draft("ab", 2)
