"""Streams of values: a line each, read as they are wanted, as the slot itself reads a text.

Modules: ``values.streams``, ``sources.pipe``.
"""

from __future__ import annotations

import io
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Complaint, Context, Form, Problems, fill, slot


def positive(value: object) -> None:
    if isinstance(value, int) and value <= 0:
        raise Complaint("is not positive")


SLOTS: dict[str, Any] = {
    "text": lambda: slot(piped="stream"),
    "empty": lambda: slot(piped="stream", low=0),
    "short": lambda: slot(piped="stream", high=3),
    "like": lambda: slot(piped="stream", pattern="[a-c]+"),
    "secret": lambda: slot(piped="stream", secret=True),
    "number": lambda: slot(int, piped="stream"),
    "bounded": lambda: slot(int, piped="stream", low=-2, high=12),
    "checked": lambda: slot(int, piped="stream", check=positive),
    "float": lambda: slot(float, piped="stream"),
    "yes": lambda: slot(bool, piped="stream"),
    "few": lambda: slot(rest=True, piped="stream", least=2, most=3),
}
LINE = ["a", "abc", "abcd", "", " ", " 7 ", "12", "-3", "1_0", "007", "1.5", "1e3", "yes", "no", "é", "\x1b"]
LINES = st.lists(st.sampled_from(LINE), max_size=5)


def by_model(name: str, lines: list[str]) -> tuple[list[object], str]:
    """Return the values of lines, one by one, and why they end early."""
    one = SLOTS[name]()
    one.name = "values"
    values: list[object] = []
    for line in lines:
        if one.is_blank(line):
            continue
        if one.most is not None and len(values) == one.most:
            return values, "too many"
        try:
            values.append(one.parse(line))
        except Complaint as complaint:
            return values, complaint.reason
    return values, "too few" if values and len(values) < one.least else ""


@pytest.mark.parametrize("name", SLOTS)
@given(lines=LINES, end=st.sampled_from(["\n", "\r\n"]), is_cut=st.booleans())
def test_a_stream_reads_each_line_as_its_slot_reads_a_text(name: str, lines: list[str], end: str, is_cut: bool) -> None:
    class Piped(Form):
        values = SLOTS[name]()

    text = "".join(line + end for line in lines)
    text = text.removesuffix(end) if is_cut else text
    if is_cut and lines and not lines[-1]:  # nothing is left of it
        lines = lines[:-1]
    wanted, reason = by_model(name, lines)
    if not wanted and not reason:  # nothing comes at all
        with pytest.raises(Problems):
            Piped.fill([], context=Context(stdin=io.StringIO(text, newline="")), asking="never")
        return
    stream = Piped.fill([], context=Context(stdin=io.StringIO(text, newline="")), asking="never").values
    got: list[object] = []
    try:
        for value in stream:
            got.append(value)  # noqa: PERF402, since what came before an error counts
        said = ""
    except Problems as problems:
        said = str(problems)
    assert repr(got) == repr(wanted)
    assert bool(said) == bool(reason), (said, reason)
    assert reason in ("too few", "too many") or reason in said


def test_what_is_wrong_with_a_line_ends_a_script_wherever_it_is_met(capsys: pytest.CaptureFixture[str]) -> None:
    for step in (list, next):
        with pytest.MonkeyPatch.context() as patch:
            patch.setattr("sys.stdin", io.StringIO("3\nx\n"))
            (values,) = fill([], values=slot(int, piped="stream"))
            assert next(values) == 3
            with pytest.raises(SystemExit) as end:
                step(values)
        assert end.value.code == 2
        assert "standard input, line 2" in capsys.readouterr().err
