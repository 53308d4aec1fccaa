"""Quoting: any word comes out of a real shell as it went in.

Modules: ``text.quoting``.
"""

from __future__ import annotations

import shutil
import subprocess

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon.text.quoting import join, quote
from wesperon.values import Complaint
from wesperon.values.words import open_quote, split_words

SHELLS = [shell for shell in ("sh", "bash", "zsh", "dash") if shutil.which(shell)]
WORDS = st.lists(st.text(st.sampled_from("=~-+a$\"'`\\ \n*?[{#!^;&|<>()%:,@é"), max_size=5), min_size=1, max_size=12)


@pytest.mark.parametrize("word", ["=ls", "=", "=cat", "~root", "#x", "-n", "a=~", "{a,b}", "!x", "^a", ""])
@pytest.mark.parametrize("shell", SHELLS)
def test_a_word_that_a_shell_would_act_on_comes_out_as_it_is(shell: str, word: str) -> None:
    done = subprocess.run([shell, "-c", f"printf '%s' {quote(word)}x"], capture_output=True, text=True, check=True)
    assert done.stdout == word + "x"


@settings(max_examples=30)
@given(WORDS)
@pytest.mark.parametrize("shell", SHELLS)
def test_any_words_come_out_of_a_shell_as_they_went_in(shell: str, words: list[str]) -> None:
    line = f"printf '%s\\0' {join(words)}"
    done = subprocess.run([shell, "-c", line], capture_output=True, check=True)
    assert done.stdout.decode().split("\0")[:-1] == words
    assert [word for word, _ in split_words(join(words))] == words


@given(st.lists(st.text(st.sampled_from("ab '\"\\$\t"), max_size=8), max_size=6))
def test_what_is_open_after_each_line_is_what_the_words_of_all_say(lines: list[str]) -> None:
    mark, text = "", ""
    for line in lines:
        mark = open_quote(line + "\n", mark)
        text += line + "\n"
        try:
            split_words(text)
        except Complaint:
            assert mark
        else:
            assert not mark


PIECES = ["a", "é", " ", "\t", "'x y'", "''", '"a\\"b"', '"\\a"', "\\\n", "\\ ", "\\'", '"a\\\nb"', "'a\\\nb'", '"\n"']


@given(st.lists(st.sampled_from(PIECES), max_size=12).map("".join))
def test_a_line_is_split_as_a_shell_splits_it_also_where_it_goes_on_after_a_backslash(line: str) -> None:
    done = subprocess.run([SHELLS[0], "-c", f"printf '%s\\0' x {line}"], capture_output=True, check=True)
    assert ["x", *(word for word, _ in split_words(line))] == done.stdout.decode().split("\0")[:-1]
