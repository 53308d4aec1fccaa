"""Utilities of POSIX as they are on this system, declared: what each takes, and the words that say the same again."""

from __future__ import annotations

from typing import Any

from wesperon import Form, one_of, slot
from wesperon.values.records import slots_of


class Utility(Form, named_only=True, repeats="last"):
    """What all of them have: names that are given by name alone, of which the last counts."""

    def canonical(self) -> list[str]:
        """Return the words that mean this record: each value by its first letter, the operands after ``--``."""
        options: list[str] = []
        operands: list[str] = []
        for name, one in slots_of(self).items():
            value = getattr(self, name)
            texts = [str(item) for item in (value if isinstance(value, tuple) else (value,)) if item is not None]
            if not one.named_only:
                operands += texts
            elif value is True:
                options.append(f"-{one.short[0]}" if one.short else f"--{one.word}")
            elif value is not False:
                for item in texts:
                    options += [f"-{one.short[0]}", item] if one.short else [f"--{one.word}={item}"]
        return [*options, "--", *operands] if operands else options


def switch(letters: str | None = None, **said: Any) -> Any:
    """Return a slot that is yes if it is named."""
    return slot(bool, default=False, short=letters, **said)


def text(letters: str | None = None, **said: Any) -> Any:
    """Return a slot for a text that need not be there."""
    return slot(default=None, short=letters, low=0, **said)


def number(letters: str | None = None, **said: Any) -> Any:
    """Return a slot for a number that need not be there."""
    return slot(int, default=None, short=letters, **said)


class Cat(Utility):
    """cat: concatenate files."""

    show_all = switch("A")
    number_nonblank = switch("b")
    ends_shown = switch("e")
    show_ends = switch("E")
    number = switch("n")
    squeeze_blank = switch("s")
    tabs_shown = switch("t")
    show_tabs = switch("T")
    unbuffered = switch("u")
    show_nonprinting = switch("v")
    files = slot(rest=True, low=0)


class Cut(Utility):
    """cut: cut out columns or fields."""

    bytes_ = text("b", repeats="error")
    characters = text("c", repeats="error")
    fields = text("f", repeats="error")
    delimiter = text("d")
    only_delimited = switch("s")
    unsplit = switch("n")
    complement = switch()
    output_delimiter = text()
    files = slot(rest=True, low=0)


class Head(Utility):
    """head: the first part of files."""

    lines = text("n")
    bytes_ = text("c")
    quiet = switch("q")
    verbose = switch("v")
    files = slot(rest=True, low=0)


class Wc(Utility):
    """wc: lines, words and bytes."""

    bytes_ = switch("c")
    chars = switch("m")
    lines = switch("l")
    max_line_length = switch("L")
    words_ = switch("w")
    files = slot(rest=True, low=0)


class Uniq(Utility):
    """uniq: report or leave out repeated lines."""

    count = switch("c")
    repeated = switch("d")
    unique = switch("u")
    ignore_case = switch("i")
    skip_fields = number("f", low=0)
    skip_chars = number("s", low=0)
    check_chars = number("w", low=0)
    input = slot(default=None, low=0, named_only=False)
    output = slot(default=None, low=0, named_only=False)


class Fold(Utility):
    """fold: break lines."""

    bytes_ = switch("b")
    spaces = switch("s")
    width = number("w", low=1)
    files = slot(rest=True, low=0)


class Nl(Utility):
    """nl: number lines."""

    body_numbering = text("b")
    section_delimiter = text("d")
    footer_numbering = text("f")
    header_numbering = text("h")
    line_increment = number("i")
    join_blank_lines = number("l", low=1)
    number_format = slot(one_of(["ln", "rn", "rz"]), default=None, short="n")
    no_renumber = switch("p")
    number_separator = text("s")
    starting_line_number = number("v")
    number_width = number("w", low=1)
    files = slot(rest=True, low=0)


class Paste(Utility):
    """paste: merge lines."""

    delimiters = text("d")
    serial = switch("s")
    files = slot(rest=True, low=0)


class Comm(Utility):
    """comm: lines that two files share."""

    left = switch("1")
    right = switch("2")
    both = switch("3")
    first = slot(low=0, named_only=False)
    second = slot(low=0, named_only=False)


class Expand(Utility):
    """expand: tabs to blanks."""

    initial_ = switch("i")
    tabs = text("t", repeats="error")
    files = slot(rest=True, low=0)


class Tr(Utility):
    """tr: other characters for some."""

    complement = switch("cC")
    delete = switch("d")
    squeeze_repeats = switch("s")
    truncate_set1 = switch("t")
    sets = slot(rest=True, least=1, most=2, low=0)


class Basename(Utility):
    """basename: a name without its folder."""

    multiple = switch("a")
    suffix = text("s")
    zero = switch("z")
    names = slot(rest=True, least=1, low=0)


class Dirname(Utility):
    """dirname: the folder of a name."""

    zero = switch("z")
    names = slot(rest=True, least=1, low=0)


class Mkdir(Utility):
    """mkdir: make folders."""

    mode = text("m")
    parents = switch("p")
    verbose = switch("v")
    folders = slot(rest=True, low=0, least=1)


class Rm(Utility):
    """rm: take files away."""

    directories = switch("d")
    force = switch("f")
    recursive = switch("rR")
    verbose = switch("v")
    files = slot(rest=True, low=0)


class Tee(Utility):
    """tee: to files and on."""

    append = switch("a")
    ignore_interrupts = switch("i")
    files = slot(rest=True, low=0)


class Sort(Utility):
    """sort: lines in order."""

    ignore_leading_blanks = switch("b")
    check_ = switch("c")
    dictionary_order = switch("d")
    ignore_case = switch("f")
    general_numeric_sort = switch("g")
    ignore_nonprinting = switch("i")
    key = slot(many=True, short="k")
    merge = switch("m")
    numeric_sort = switch("n")
    output = text("o")
    reverse = switch("r")
    stable = switch("s")
    field_separator = text("t", repeats="error")
    unique = switch("u")
    files = slot(rest=True, low=0)


class Nice(Utility):
    """nice: run a command at another priority."""

    adjustment = text("n")
    argv = slot(rest="verbatim")


class Timeout(Utility):
    """timeout: run a command for some time at most."""

    foreground = switch()
    kill_after = text("k")
    preserve_status = switch()
    signal = text("s")
    verbose = switch("v")
    duration = slot(named_only=False)
    argv = slot(rest="verbatim")


class Env(Utility):
    """env: run a command in another environment."""

    ignore_environment = switch("i")
    null = switch("0")
    unset = slot(many=True, short="u")
    chdir = text("C")
    argv = slot(rest="verbatim")


class Nohup(Utility):
    """nohup: run a command that no hangup ends."""

    argv = slot(rest="verbatim")


class Expr(Utility):
    """expr: an expression, word by word."""

    words_ = slot(rest="verbatim")


class Printf(Utility):
    """printf: texts by a format."""

    words_ = slot(rest="verbatim")


UTILITIES: dict[str, type[Utility]] = {one.__name__.lower(): one for one in Utility.__subclasses__()}
