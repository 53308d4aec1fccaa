"""Utilities of POSIX as they are on this system, declared: what each takes, and the words that say the same again."""

from __future__ import annotations

from typing import Any

from wesperon import Form, at_least_one, at_most_one, exactly_one, needs, one_of, slot
from wesperon.values import MISSING
from wesperon.values.records import slots_of


class Utility(Form, named_only=True, repeats="last"):
    """What all of them have: names that are given by name alone, of which the last counts."""

    #: Whether ``--`` ends the names.
    ends_names = True

    def canonical(self) -> list[str]:
        """Return the words that mean this record: each value by its first letter, as they were typed; then operands."""
        options: list[str] = []
        operands: list[str] = []
        for name, value in self.in_order():
            one = slots_of(self)[name]
            if not one.named_only:
                operands.append(one.format(value))
            elif not one.shape.takes_text:
                options += [f"-{one.short[0]}" if one.short else f"--{one.word}"] * int(value)
            elif one.alone is not MISSING:
                options.append(f"-{one.short[0]}{value}" if one.short else f"--{one.word}={value}")
            else:
                options += [f"-{one.short[0]}", str(value)] if one.short else [f"--{one.word}={value}"]
        return [*options, "--", *operands] if operands and self.ends_names else [*options, *operands]


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
    tabs = slot(many=True, short="t")
    files = slot(rest=True, low=0)


class Tr(Utility):
    """tr: other characters for some."""

    complement = switch("cC")
    delete = switch("d")
    squeeze_repeats = switch("s")
    truncate_set1 = switch("t")
    sets = slot(rest="verbatim", least=1, most=2)


class Basename(Utility):
    """basename: a name without its folder."""

    multiple = switch("a")
    suffix = text("s")
    zero = switch("z")
    names = slot(rest="verbatim", least=1)


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


class Grep(Utility):
    """grep: lines that match."""

    pattern = slot(default=None, low=0, named_only=False)
    regexp = slot(many=True, short="e", low=0)
    file = slot(many=True, short="f")
    source = at_least_one("pattern", "regexp", "file")
    by_regexp = at_most_one("pattern", "regexp")
    by_file = at_most_one("pattern", "file")
    after_context = text("A")
    before_context = text("B")
    context = text("C")
    count = switch("c")
    color = slot(one_of(["never", "always", "auto"]), default=None, alone="auto")
    extended_regexp = switch("E")
    fixed_strings = switch("F")
    how = at_most_one("extended_regexp", "fixed_strings")
    with_filename = switch("H")
    no_filename_ = switch("h")
    ignore_case = switch("iy")
    files_with_matches = switch("l")
    files_without_match = switch("L")
    max_count = text("m")
    line_number = switch("n")
    only_matching = switch("o")
    quiet = switch("q")
    recursive = switch("r")
    no_messages_ = switch("s")
    invert_match = switch("v")
    word_regexp = switch("w")
    line_regexp = switch("x")
    null_data = switch("z")
    files = slot(rest=True, low=0)


class Sed(Utility):
    """sed: edit lines."""

    program = slot(default=None, low=0, named_only=False)
    expression = slot(many=True, short="e", low=0)
    file = slot(many=True, short="f")
    source = at_least_one("program", "expression", "file")
    by_expression = at_most_one("program", "expression")
    by_file = at_most_one("program", "file")
    regexp_extended = switch("Er")
    in_place = slot(default=None, alone="", short="i", low=0)
    quiet = switch("n")
    separate = switch("s")
    null_data = switch("z")
    files = slot(rest=True, low=0)


class Ls(Utility):
    """ls: what is in a folder."""

    all_ = switch("a")
    almost_all = switch("A")
    escape = switch("b")
    classify = switch("F")
    color = slot(one_of(["never", "always", "auto"]), default=None, alone="always")
    directory = switch("d")
    format_ = slot(one_of(["across", "commas", "single-column", "vertical"]), default=None)
    ignore = slot(many=True, short="I")
    indicator_style = slot(one_of(["none", "slash", "file-type", "classify"]), default=None)
    one_column = switch("1")
    commas = switch("m")
    slashes = switch("p")
    quote_name = switch("Q")
    reverse = switch("r")
    recursive = switch("R")
    by_size = switch("S")
    by_name = switch("U")
    width = text("w")
    files = slot(rest=True, low=0)


class Diff(Utility):
    """diff: what differs in two files."""

    brief = switch("q")
    report_identical_files = switch("s")
    unified_ = slot(default=None, alone="3", short="U")
    normal = switch()
    ed = switch("e")
    side_by_side = switch("y")
    width = text("W")
    ignore_case = switch("i")
    ignore_all_space = switch("w")
    ignore_space_change = switch("b")
    ignore_blank_lines = switch("B")
    minimal = switch("d")
    label = slot(many=True)
    one = slot(low=0, named_only=False)
    two = slot(low=0, named_only=False)


class Cp(Utility):
    """cp: copy files."""

    backup = slot(
        one_of(["none", "off", "numbered", "t", "existing", "nil", "simple", "never"]), default=None, alone="existing"
    )
    backed_up = switch("b")
    force = switch("f")
    no_clobber_ = switch("n")
    recursive = switch("Rr")
    suffix = text("S")
    target_directory = text("t")
    as_file = switch("T")
    verbose = switch("v")
    preserve = switch("p")
    files = slot(rest=True, low=0)


class Mv(Utility):
    """mv: move files."""

    force = switch("f")
    no_clobber_ = switch("n")
    backed_up = switch("b")
    suffix = text("S")
    target_directory = text("t")
    as_file = switch("T")
    verbose = switch("v")
    files = slot(rest=True, low=0)


class Ln(Utility):
    """ln: further names of files."""

    force = switch("f")
    symbolic = switch("s")
    relative = switch("r")
    is_link = needs("relative", "symbolic")
    logical = switch("L")
    physical = switch("P")
    no_dereference_ = switch("n")
    target_directory = text("t")
    as_file = switch("T")
    verbose = switch("v")
    files = slot(rest=True, low=0)


class Chmod(Utility):
    """chmod: who may do what."""

    mode = slot(default=None, low=0, named_only=False)
    reference = text()
    source = exactly_one("mode", "reference")
    changes = switch("c")
    silent = switch("f")
    recursive = switch("R")
    verbose = switch("v")
    files = slot(rest=True, low=0, least=1)


class Touch(Utility):
    """touch: times of files."""

    access = switch("a")
    no_create_ = switch("c")
    date = text("d")
    modification = switch("m")
    reference = text("r")
    stamp = text("t")
    files = slot(rest=True, low=0, least=1)


class Tail(Utility):
    """tail: the last part of files."""

    lines = slot(many=True, short="n")
    bytes_ = slot(many=True, short="c")
    quiet = switch("q")
    verbose = switch("v")
    zero_terminated = switch("z")
    files = slot(rest=True, low=0)


class Tac(Utility):
    """tac: lines from the last to the first."""

    before = switch("b")
    regex = switch("r")
    separator = text("s")
    files = slot(rest=True, low=0)


class Unexpand(Utility):
    """unexpand: blanks to tabs."""

    all_ = switch("a")
    tabs = slot(many=True, short="t")
    files = slot(rest=True, low=0)


class Join(Utility):
    """join: lines with one field in common."""

    unpaired = slot(many=True, short="a")
    empty = text("e")
    ignore_case = switch("i")
    join_field = text("j")
    format_ = text("o", repeats="error")
    separator = text("t", repeats="error")
    only_unpaired = slot(many=True, short="v")
    field_1 = text("1")
    field_2 = text("2")
    header = switch()
    one = slot(low=0, named_only=False)
    two = slot(low=0, named_only=False)


class Fmt(Utility):
    """fmt: fill lines."""

    crown_margin = switch("c")
    prefix = text("p")
    split_only = switch("s")
    tagged_paragraph = switch("t")
    uniform_spacing = switch("u")
    width = text("w")
    goal = text("g")
    files = slot(rest=True, low=0)


class Od(Utility):
    """od: bytes in numbers."""

    address_radix = text("A")
    skip_bytes = text("j")
    read_bytes = text("N")
    format_ = slot(many=True, short="t")
    output_duplicates = switch("v")
    width = slot(default=None, alone="32", short="w")
    bytes_ = slot(bool, many=True, short="b")
    chars = slot(bool, many=True, short="c")
    files = slot(rest=True, low=0)


class Split(Utility):
    """split: a file in pieces."""

    suffix_length = text("a")
    additional_suffix = text()
    bytes_ = text("b")
    line_bytes = text("C")
    lines = text("l")
    number = text("n")
    how = at_most_one("bytes_", "line_bytes", "lines", "number")
    numeric_suffixes_ = switch("d")
    hex_suffixes_ = switch("x")
    elide_empty_files = switch("e")
    file = slot(default=None, low=0, named_only=False)
    prefix = slot(default=None, low=0, named_only=False)


class Cmp(Utility):
    """cmp: whether two files are the same."""

    print_bytes = switch("b")
    ignore_initial = text("i")
    verbose = switch("l")
    bytes_ = text("n")
    quiet = switch("s")
    how = at_most_one("verbose", "quiet")
    one = slot(low=0, named_only=False)
    two = slot(default=None, low=0, named_only=False)
    skip = slot(default=None, named_only=False)
    skip_2 = slot(default=None, named_only=False)


class Cksum(Utility):
    """cksum: sums of files."""

    algorithm = text("a")
    untagged = switch()
    files = slot(rest=True, low=0)


class Md5sum(Utility):
    """md5sum: sums of files."""

    binary = switch("b")
    check_ = switch("c")
    tag = switch()
    text_ = switch("t")
    zero = switch("z")
    files = slot(rest=True, low=0)


class Seq(Utility):
    """seq: numbers in a row."""

    equal_width = switch("w")
    format_ = text("f")
    separator = text("s")
    numbers = slot(float, rest=True, least=1, most=3, text=lambda value: f"{value:g}")


class Factor(Utility):
    """factor: prime factors."""

    numbers = slot(int, rest=True, low=0)


class Truncate(Utility):
    """truncate: make files longer or shorter."""

    no_create_ = switch("c")
    io_blocks = switch("o")
    reference = text("r")
    size = text("s", repeats="error")
    files = slot(rest=True, low=0, least=1)


class Rmdir(Utility):
    """rmdir: take empty folders away."""

    ignore_fail_on_non_empty = switch()
    parents = switch("p")
    verbose = switch("v")
    folders = slot(rest=True, low=0, least=1)


class Readlink(Utility):
    """readlink: where a link leads."""

    canonicalize = switch("f")
    canonicalize_existing = switch("e")
    canonicalize_missing = switch("m")
    no_newline_ = switch("n")
    verbose = switch("v")
    zero = switch("z")
    files = slot(rest=True, low=0, least=1)


class Base64(Utility):
    """base64: bytes as text."""

    decode = switch("d")
    ignore_garbage = switch("i")
    wrap = text("w")
    file = slot(default=None, low=0, named_only=False)


class Numfmt(Utility):
    """numfmt: numbers with units."""

    from_ = slot(one_of(["none", "auto", "si", "iec", "iec-i"]), default=None)
    to = slot(one_of(["none", "si", "iec", "iec-i"]), default=None)
    delimiter = text("d")
    field = text()
    header = slot(default=None, alone="1")
    padding = text()
    suffix = text()
    zero_terminated = switch("z")
    numbers = slot(rest=True, low=0)


class Xargs(Utility):
    """xargs: words as arguments of a command."""

    null = switch("0")
    arg_file = text("a")
    delimiter = text("d")
    max_args = text("n")
    max_lines = text("L")
    replacing = text("I")
    no_run_if_empty_ = switch("r")
    exit_ = switch("x")
    argv = slot(rest="verbatim")


class Rev(Utility):
    """rev: each line from its end."""

    files = slot(rest=True, low=0)


class Test(Utility):
    """test: whether a condition holds."""

    ends_names = False
    words_ = slot(rest="verbatim")


class Echo(Utility):
    """echo: words as they are."""

    ends_names = False
    words_ = slot(rest="verbatim")


class Install(Utility):
    """install: copy files with their attributes."""

    backup = slot(default=None, alone="existing")
    simple_backup = switch("b")
    compare = switch("C")
    directory = switch("d")
    leading = switch("D")
    mode = text("m")
    preserve_timestamps = switch("p")
    suffix = text("S")
    target_directory = text("t", repeats="error")
    no_target_directory = switch("T")
    verbose = switch("v")
    files = slot(rest=True, least=1)


class Realpath(Utility):
    """realpath: where a path leads."""

    canonicalize_existing = switch("e")
    canonicalize_missing = switch("m")
    logical = switch("L")
    physical = switch("P")
    quiet = switch("q")
    relative_to = text()
    relative_base = text()
    strip = switch("s")
    zero = switch("z")
    files = slot(rest=True, least=1)


class Date(Utility):
    """date: a point in time in many forms."""

    date = text("d")
    iso_8601 = slot(
        one_of(["date", "hours", "minutes", "seconds", "ns"]), default=None, short="I", alone="date", repeats="error"
    )
    rfc_email = switch("R")
    rfc_3339 = text(repeats="error")
    reference = text("r")
    utc = switch("u")
    format = slot(default=None, named_only=False)


class Gzip(Utility):
    """gzip: make files smaller."""

    stdout = switch("c")
    decompress = switch("d")
    force = switch("f")
    keep = switch("k")
    listing = switch("l")
    no_name = switch("n")
    name_ = switch("N")
    quiet = switch("q")
    suffix = text("S")
    test = switch("t")
    verbose = switch("v")
    fast = switch("1")
    best = switch("9")
    middling = switch("6")
    files = slot(rest=True, low=0)


class Strings(Utility):
    """strings: what is text in a file."""

    all_ = switch("a")
    bytes_ = text("n")
    radix = slot(one_of(["o", "d", "x"]), default=None, short="t")
    print_file_name = switch("f")
    encoding = text("e")
    files = slot(rest=True, low=0)


class Setsid(Utility):
    """setsid: a command in a session of its own."""

    fork = switch("f")
    ctty = switch("c")
    wait = switch("w")
    command = slot(rest="verbatim", least=1)


UTILITIES: dict[str, type[Utility]] = {one.__name__.lower(): one for one in Utility.__subclasses__()}
