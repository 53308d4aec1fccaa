"""TOML: what is read at little cost is what the parser of the standard library reads, and nothing else is taken.

Modules: ``files.plain_toml``.
"""

from __future__ import annotations

import tomllib

from hypothesis import example, given, settings
from hypothesis import strategies as st

from wesperon.files.plain_toml import read_plainly

KEYS = st.sampled_from(["a", "b-2", "1", '"a"', "'c d'", '"x\\ty"', "a.b", "", "é", '"é"', "a b"])
VALUES = st.sampled_from(
    [
        *(
            '"x"',
            "'y \\'",
            '""',
            "''",
            '"a\\n"',
            "true",
            "false",
            "True",
            "0",
            "12",
            "-3",
            "+4",
            "012",
            "1_0",
            "-0",
            "0x1",
        ),
        *("1.5", "1e3", "inf", "2026-11-30", "[1, 2]", "{ text = 'x' }", '"""', "'''a'''", '"a" b', '"a" # b', "7 # c"),
        *('"é\t日"', "9" * 30, "[", '"#"', "'\"'", ""),
    ]
)
HEADINGS = ["[t]", "[t.u]", "[a]", "[a] # c", "[ a ]", "[[a]]", "[a", "[a]b", '["q"]', "[a.]", "# c", "", " ", "\x0b"]
ROWS = st.one_of(
    st.tuples(st.sampled_from(["", " ", "\t"]), KEYS, st.sampled_from([" = ", "=", " ", "\t=\t"]), VALUES).map("".join),
    st.sampled_from(HEADINGS),
    st.text("ab=[]\"'#. \t\\{}1", max_size=9),
)


def by_parser(text: str) -> object:
    """Return what the parser reads; None if it refuses."""
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError:
        return None


@settings(max_examples=500)
@given(st.lists(ROWS, max_size=6))
@example(["[a.b]", "x = 1", "[a]", "y = 2"])
@example(["a = 1", "[a]"])
@example(['a = "x"', "'a' = 2"])
def test_what_is_read_plainly_is_what_the_parser_reads(rows: list[str]) -> None:
    text = "\n".join(rows)
    read = read_plainly(text)
    assert read is None or (read == by_parser(text) and repr(read) == repr(tomllib.loads(text)))


def test_what_we_write_ourselves_is_read_plainly() -> None:
    text = '# mine\ntheme = "dark"\n\n[bindings]\n"ctrl-t" = "undo"\n[bindings.modal.command]\nQ = "undo"\n'
    assert read_plainly(text) == tomllib.loads(text)
