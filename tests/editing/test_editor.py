"""Edits and clusters, against a naive model: a list of clusters and a cursor among them.

Modules: ``editing.editor``, ``editing.edits``, ``editing.graphemes``.
"""

from __future__ import annotations

from hypothesis import assume, given, settings
from hypothesis import strategies as st

from tests.tables import tabled
from wesperon.editing.editor import RING, STATEFUL_EDITS, STEP_CHARS, STEPS, Editor
from wesperon.editing.edits import CHANGES, DELETIONS, MOVES, in_word, opposite
from wesperon.editing.graphemes import after, before, clusters, columns_of, snap_to_grapheme
from wesperon.editing.keys.events import Action, Key, Paste
from wesperon.editing.keys.modeless import TABLE
from wesperon.widgets.several_lines import SeveralLines

EDITS = [*MOVES, *DELETIONS, *CHANGES]
TEXTS = st.text(st.sampled_from("ab_1 .-é\u0301日\U0001f469\u200d\U0001f680\U0001f1e9\U0001f1ea\ufe0f\n"), max_size=14)


class Model:
    """The naive one: lists of clusters on both sides of the cursor, made again after every change."""

    def __init__(self) -> None:
        self.left: list[str] = []
        self.right: list[str] = []
        self.goal: int | None = None

    def insert(self, text: str) -> None:
        self.set("".join(self.left) + text, "".join(self.right))
        self.goal = None

    def set(self, left: str, right: str) -> None:
        """The cursor goes to the first end of a cluster at or after the end of the left part."""
        self.left, self.right = [], []
        taken = 0
        for cluster in clusters(left + right):
            (self.left if taken < len(left) else self.right).append(cluster)
            taken += len(cluster)

    def span(self, unit: str, side: list[str], deletes: bool) -> int:
        """Return how many clusters of a side, the nearest first, a step over the unit takes."""
        count = 0
        if unit == "char":
            return min(1, len(side))
        if unit == "text":
            return len(side)
        if unit == "line":
            while count < len(side) and side[count] not in ("\n", "\r\n"):
                count += 1
            return 1 if deletes and not count and side else count
        tests = {"word": lambda one: in_word(one[0]), "blank-word": lambda one: not one[0].isspace()}
        while count < len(side) and not tests[unit](side[count]):
            count += 1
        while count < len(side) and tests[unit](side[count]):
            count += 1
        return count

    def apply(self, edit: str, times: int) -> None:
        verb, *unit, direction = edit.split("-")
        if direction in ("start", "end"):  # there is one of each
            direction = "start" if times < 0 and edit == "delete-line-end" else direction
            edit, times = "-".join([verb, *unit, direction]), 1
        if direction in ("up", "down"):
            self.vertical(times if direction == "down" else -times)
            return
        self.goal = None
        back = (direction in ("left", "back", "start")) == (times > 0 or opposite(edit) == edit)
        old = self.left, self.right
        for _ in range(abs(times)):
            count = self.span("-".join(unit), self.left[::-1] if back else self.right, verb == "delete")
            if back:
                self.left, self.right = (
                    self.left[: len(self.left) - count],
                    self.left[len(self.left) - count :] + self.right,
                )
            else:
                self.left, self.right = self.left + self.right[:count], self.right[count:]
        if verb == "delete":
            left, right = (self.left, old[1]) if back else (old[0], self.right)
            self.set("".join(left), "".join(right))

    def vertical(self, down: int) -> None:
        lines: list[list[str]] = [[]]
        for cluster in [*self.left, "|", *self.right]:
            if cluster in ("\n", "\r\n"):
                lines.append([])
            else:
                lines[-1].append(cluster)
        here = next(at for at, line in enumerate(lines) if "|" in line)
        if self.goal is None:
            self.goal = sum(columns_of(one) for one in lines[here][: lines[here].index("|")])
        lines[here].remove("|")
        there = min(max(here + down, 0), len(lines) - 1)
        if there == here:
            return
        used = count = 0
        while count < len(lines[there]) and used + columns_of(lines[there][count]) <= self.goal:
            used += columns_of(lines[there][count])
            count += 1
        self.left, self.right = [], [*self.left, *self.right]
        for _ in range(sum(len(line) + 1 for line in lines[:there]) + count):
            self.left.append(self.right.pop(0))


MODELLED = [
    name for name in (*MOVES, *DELETIONS, "move-up", "move-down") if "argument" not in name and "bracket" not in name
]


@given(st.lists(st.tuples(st.sampled_from(MODELLED), st.sampled_from([1, 1, 1, 2, 3, -1, -2])) | TEXTS))
def test_edits_do_what_a_naive_model_does(steps: list[tuple[str, int] | str]) -> None:
    editor, model = Editor(), Model()
    for step in steps:
        if isinstance(step, str):
            editor.put(step)
            model.insert(step)
        else:
            assume(step[1] > 0 or opposite(step[0]) != step[0] or step[0].endswith(("up", "down")))
            editor.apply(*step)
            model.apply(*step)
        draft = editor.draft
        assert (draft.text[: draft.cursor], draft.text[draft.cursor :]) == ("".join(model.left), "".join(model.right))


class Marked(Model):
    """The naive one with a mark, counted in characters from the start, and what was cut last."""

    def __init__(self) -> None:
        super().__init__()
        self.mark: int | None = None
        self.cut: str | None = None

    @property
    def at(self) -> int:
        return len("".join(self.left))

    def take(self, start: int, end: int) -> None:
        """Cut what is between two places."""
        text = "".join(self.left + self.right)
        if start < end:
            self.cut = text[start:end]
            self.remove(start, end)

    def remove(self, start: int, end: int) -> None:
        text = "".join(self.left + self.right)
        self.set(text[:start], text[end:])
        if self.mark is not None and self.mark > start:
            self.mark = max(start, self.mark - (end - start))
        self.settle()

    def insert(self, text: str) -> None:
        at = self.at
        super().insert(text)
        if self.mark is not None and self.mark > at:
            self.mark += len(text)
        self.settle()

    def settle(self) -> None:
        """Let the mark stand after a cluster, not in it."""
        ends = [0]
        for cluster in [*self.left, *self.right]:
            ends.append(ends[-1] + len(cluster))
        self.mark = None if self.mark is None else next(end for end in ends if end >= self.mark)

    def press(self, name: str) -> None:
        region = sorted((self.at if self.mark is None else self.mark, self.at))
        if name == "set-mark":
            self.mark = self.at
        elif name == "exchange-mark":
            self.mark, there = self.at, self.mark or 0
            text = "".join(self.left + self.right)
            self.set(text[:there], text[there:])
        elif name == "copy-region" and self.mark is not None:
            self.cut = "".join(self.left + self.right)[region[0] : region[1]]
        elif name == "delete-region":
            self.take(*region)
        elif name == "delete-text-whole":
            self.take(0, len("".join(self.left + self.right)))
        elif name == "paste" and self.cut:
            at = self.at
            self.insert(self.cut)
            self.mark = at
            self.settle()
        elif name.startswith("move-"):
            self.apply(name, 1)
        elif name.startswith("delete-char"):
            here = self.at
            self.apply("move-char-" + ("left" if name.endswith("back") else "right"), 1)
            self.remove(*sorted((here, self.at)))


PRESSED = ["set-mark", "exchange-mark", "copy-region", "delete-region", "delete-text-whole", "paste", *MODELLED[:8],
           "delete-char-back", "delete-char-forward"]  # fmt: skip


@settings(max_examples=120)
@given(st.lists(st.sampled_from(PRESSED) | st.sampled_from([*TABLE]) | TEXTS, max_size=20))
def test_keys_do_what_a_naive_model_does(steps: list[str]) -> None:
    line, model = SeveralLines(str), Marked()
    acts = {act: key for key, act in TABLE.items()}
    for step in steps:
        act = TABLE.get(step, step)
        if act in PRESSED:
            keys = [Key(name) for name in acts[act].split(" ")] if act in acts else []
            for key in keys:
                line.press(key)
            if not keys:
                line.do(Action(act))
            model.press(act)
        elif step not in TABLE:
            line.press(Paste(step))
            model.insert(step)
        line.editor.before = ""  # cuts in a row are joined, which another test is about
        assert line.text == "".join(model.left + model.right)
        assert line.draft.cursor == model.at
        assert line.editor.mark == model.mark


@given(TEXTS)
def test_steps_over_clusters_agree_with_the_list_of_clusters(text: str) -> None:
    ends = [0]
    for cluster in clusters(text):
        ends.append(ends[-1] + len(cluster))
    assert [after(text, at) for at in ends[:-1]] == ends[1:]
    assert [before(text, at) for at in ends[1:]] == ends[:-1]
    assert [snap_to_grapheme(text, at) for at in range(len(text) + 1)] == [
        next(end for end in ends if end >= at) for at in range(len(text) + 1)
    ]


@tabled
def test_an_edit_changes_the_text_and_moves_the_cursor(edit: str, text: str, result: str) -> None:
    editor = Editor(text.replace("|", ""))
    editor.move(text.index("|"))
    editor.apply(edit)
    draft = editor.draft
    assert draft.text[: draft.cursor] + "|" + draft.text[draft.cursor :] == result


@given(st.lists(st.sampled_from(EDITS) | st.text("ab é日\n", min_size=1, max_size=3)))
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


def after_steps(*steps: str, text: str = "") -> str:
    editor = Editor(text)
    for step in steps:
        if step in EDITS or step in STATEFUL_EDITS:
            editor.apply(step)
        else:
            for char in step:
                editor.type(char)
    return editor.draft.text


@tabled
def test_cuts_come_back_and_steps_are_undone(steps: list[str], result: str) -> None:
    assert after_steps(*steps) == result


def test_the_ring_and_the_steps_to_undo_are_bounded() -> None:
    editor = Editor()
    for number in range(RING + 40):
        editor.put(f"word{number} ")
        editor.apply("delete-text-whole")
        editor.before = ""
    assert len(editor.memory.ring) == RING
    for _ in range(STEPS):
        editor.put("x")
        editor.apply("move-char-back")
    assert len(editor.undo_steps) <= STEPS
    big = Editor()
    for _ in range(12):
        big.put("y" * (STEP_CHARS // 8))
    assert sum(len(state.text) for state in big.undo_steps) <= STEP_CHARS + STEP_CHARS // 8 * 12
    assert len(big.undo_steps) < 12
