"""Where values come from beside the words and the user, and which source wins.

Modules: ``sources.files``, ``sources.pipe``, ``files.document``, ``files.toml_lines``.
"""

from __future__ import annotations

import io
import json
import os
import subprocess
import sys
import time
from collections.abc import Iterator
from datetime import date, datetime, timedelta
from pathlib import Path
from typing import Any, assert_type
from zoneinfo import ZoneInfo

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import ROOT, Terminal, python
from tests.tables import tabled
from wesperon import Context, Form, Problems, any_of, one_of, slot
from wesperon.testing import Press, Scripted


class Plan(Form):
    frames = slot(int, env="PLAN_FRAMES", low=1)
    target = slot(env="PLAN_TARGET", default="HOLLIN-007")
    low_light = slot(bool, default=False)
    bin = slot(one_of([1, 2, 4]), default=1)
    filters = slot(any_of(["Red", "Blue"]), default=(), env="PLAN_FILTERS")
    times = slot(timedelta, many=True, env="PLAN_TIMES")
    night = slot(date, default=None)


@pytest.fixture
def folder(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    monkeypatch.chdir(tmp_path)
    (tmp_path / "desk").mkdir()
    return tmp_path


SOURCES = ["words", "env", "answers", "settings", "asked", "default"]


@pytest.mark.parametrize("there", [SOURCES[at:] for at in range(len(SOURCES))])
def test_the_first_source_that_has_a_value_gives_it(
    there: list[str], folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    class One(Form):
        frames = slot(int, env="PLAN_FRAMES", **({"default": 6} if there[0] == "default" else {}))  # type: ignore[call-overload]

    words = ["--frames=1"] if "words" in there else []
    if "env" in there:
        monkeypatch.setenv("PLAN_FRAMES", "2")
    if "answers" in there:
        (folder / "answers.toml").write_text("frames = 3\n")
        words.append("--answers=answers.toml")
    if "settings" in there:
        (folder / "desk" / "settings.toml").write_text("frames = 4\n")
    record = One.fill(words, settings="desk", driver=Scripted(["5", Press("enter")]))
    assert (record.frames, record.origins["frames"]) == (SOURCES.index(there[0]) + 1, there[0])


def test_an_empty_text_is_missing_in_every_source_but_a_mistake_as_a_word(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("PLAN_FRAMES", " ")
    monkeypatch.setenv("PLAN_TARGET", "")
    (folder / "a.toml").write_text('frames = "7"\ntarget = ""\n')
    record = Plan.fill(["--answers=a.toml"])
    assert (record.frames, record.target, record.origins["target"]) == (7, "HOLLIN-007", "default")
    for empty in ("", " "):
        with pytest.raises(Problems, match="frames: is empty: must be a whole number"):
            Plan.fill(["--answers=a.toml", f"--frames={empty}"])


NATIVE = {
    "toml": """
        frames = 3
        low-light = true
        bin = 2
        filters = ["Blue", "Red"]
        times = ["1h", "90s"]
        night = 2031-04-17
    """,
    "json": json.dumps({"frames": 3, "low_light": True, "bin": 2, "filters": "Red,Blue", "times": "1h 90s",
                        "night": "2031-04-17", "target": None}),
    "yaml": "frames: '3'\nlow_light: on\nbin: '2'\nfilters: [Red, Blue]\ntimes: [1h, 90s]\nnight: 2031-04-17\n",
}  # fmt: skip


@pytest.mark.parametrize("ending", sorted(NATIVE))
def test_a_file_gives_texts_and_values_of_its_own(ending: str, folder: Path) -> None:
    (folder / f"a.{ending}").write_text(NATIVE[ending])
    record = Plan.fill(["--answers", f"a.{ending}"])
    hour, ninety = timedelta(hours=1), timedelta(seconds=90)
    assert list(record) == [3, "HOLLIN-007", True, 2, ("Red", "Blue"), (hour, ninety), date(2031, 4, 17)]
    assert record.origins["times"] == "answers"


@tabled
def test_what_is_wrong_in_a_file_is_told_with_its_line(text: str | None, said: str, folder: Path) -> None:
    name = said.partition(":")[0] if "json" in said or text is None else "a.toml"
    if text is not None:
        (folder / name).write_text(text)
    with pytest.raises(Problems) as caught:
        Plan.fill([f"--answers={name}", "--asking=never"])
    assert said in str(caught.value)


def test_problems_of_all_sources_come_together(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("PLAN_FILTERS", "Grene")
    (folder / "a.toml").write_text("bin = 3\n")
    with pytest.raises(Problems) as caught:
        Plan.fill(["--answers=a.toml", "--night=someday", "--asking=never"])
    told = {problem.slot: (problem.source, problem.location) for problem in caught.value}
    assert told == {
        "night": ("words", None), "filters": ("env", "PLAN_FILTERS in the environment"),
        "bin": ("answers", "a.toml, line 1"), "frames": (None, None),
    }  # fmt: skip


def test_under_all_what_no_word_gave_stands_in_the_line(monkeypatch: pytest.MonkeyPatch) -> None:
    class Two(Form):
        frames = slot(int, env="PLAN_FRAMES")
        seconds = slot(int)

    monkeypatch.setenv("PLAN_FRAMES", "12")
    driver = Scripted([Press("enter")])
    record = Two.fill(["--seconds=5", "--asking=all"], driver=driver)
    assert (record.frames, record.origins["frames"]) == (12, "asked")
    assert driver.frames[0].splitlines()[0].endswith("frames  12")


def piped(body: str, data: str | bytes, *words: str) -> subprocess.CompletedProcess[str]:
    """Return a program with something on its standard input."""
    script = f"from wesperon import *\n{body}"
    env = {**os.environ, "PYTHONPATH": str(ROOT / "src")}
    data = data.encode() if isinstance(data, str) else data
    done = subprocess.run(
        [sys.executable, "-c", script, *words, "--asking=never"], input=data, capture_output=True, env=env
    )
    return subprocess.CompletedProcess(done.args, done.returncode, done.stdout.decode(), done.stderr.decode())


WHOLE = "print(repr(fill(text=slot(piped=True)).text))"
SUM = "print(sum(fill(numbers=slot(int, rest=True, piped=True)).numbers))"
STREAM = "print(sum(fill(numbers=slot(float, rest=True, piped='stream')).numbers))"


@tabled
def test_standard_input_is_a_text_a_line_each_or_a_stream(body: str, data: str, words: list[str], out: str) -> None:
    done = piped(body, data, *words)
    assert (done.stdout.strip(), done.stderr) == (out, "")


@tabled
def test_a_fault_on_standard_input_is_told_with_its_line(body: str, data: str, words: list[str], said: str) -> None:
    body = f"try:\n    {body}\nexcept Problems as problems:\n    raise SystemExit(str(problems))"
    done = piped(body, data, *words)
    assert said in done.stderr
    assert done.returncode != 0


def test_a_stream_is_read_in_flat_memory() -> None:
    body = (
        "import resource\n"
        "total = sum(fill(numbers=slot(int, rest=True, piped='stream')).numbers)\n"
        "print(total, resource.getrusage(resource.RUSAGE_SELF).ru_maxrss)"
    )
    small, large = (piped(body, "7\n" * count).stdout.split() for count in (1_000, 300_000))
    assert int(large[0]) == 2_100_000
    assert int(large[1]) < 1.2 * int(small[1])


def test_a_piped_program_still_asks_on_the_terminal() -> None:
    script = (
        "from wesperon import *; r = fill(text=slot(piped=True), n=slot(int)); print(r.text, r.n, r.origins['text'])"
    )
    with Terminal(["bash", "-c", f'echo data | {sys.executable} -c "{script}"']) as terminal:
        terminal.answer("  n", "5")
        assert terminal.end() == 0
        assert "data 5 pipe" in terminal.text()


@pytest.mark.parametrize("how", ["timeout=0.3", "environment"])
def test_a_question_that_nobody_answers_ends(how: str) -> None:
    keyword = how if "=" in how else ""
    body = f"type('F', (Form,), dict(a=slot(), b=slot())).fill({keyword})"
    shows = "for one in p: print(f'{one.slot}: {one.reason}', one.timed_out)"
    script = f"from wesperon import *\ntry:\n    {body}\nexcept Problems as p:\n    {shows}"
    env = {} if keyword else {"WESPERON_TIMEOUT": "0.3"}
    with Terminal(python("-c", script), env=env) as terminal:
        assert terminal.end() == 0
        assert terminal.text().splitlines()[-2:] == [
            "a: is missing: text, as --a=TEXT; no answer came in time True",
            "b: is missing: text, as --b=TEXT; no answer came in time True",
        ]
        assert terminal.modes() == terminal.initial


@tabled
def test_a_path_must_lead_where_it_is_wanted_to(exists: Any, path: str, said: str | None, folder: Path) -> None:
    (folder / "plan.toml").write_text("")
    form: Any = type("OnePath", (Form,), {"path": slot(Path, exists=exists)})
    if said is None:
        assert form.fill([path]).path == Path(path)
    else:
        with pytest.raises(Problems, match=said):
            form.fill([path], asking="never")
        with pytest.raises(Problems, match=said):
            form(path=Path(path))


def test_a_type_checker_sees_a_stream() -> None:
    class Sums(Form):
        numbers = slot(float, rest=True, piped="stream")

    record = Sums.fill(["1", "2"])
    assert_type(record.numbers, Iterator[float])
    assert record.words() == ["--numbers=1", "--numbers=2"]
    assert list(record.numbers) == [1.0, 2.0]


def test_a_line_of_a_stream_that_cannot_be_read_ends_a_script_with_its_place() -> None:
    done = subprocess.run(
        [sys.executable, "-c", f"from wesperon import fill, slot; {STREAM}"],
        input="1\n\nx\n3\n", capture_output=True, text=True,
    )  # fmt: skip
    assert done.returncode == 2
    assert 'standard input, line 3: "x" is not a number' in done.stderr
    assert "Traceback" not in done.stderr


ENDS = "a b\fc\x85d\u2028e\rf"


@pytest.mark.parametrize("declared", ["rest=True, piped=True", "rest=True, piped='stream'"])
def test_a_pipe_is_cut_at_line_feeds_only(declared: str) -> None:
    """A carriage return before one is dropped; other characters that some take for line ends are text."""
    program = f"from wesperon import fill, slot; (texts,) = fill(texts=slot({declared})); print(ascii(list(texts)))"
    done = subprocess.run(
        [sys.executable, "-c", program], input=f"{ENDS}\r\n\n{ENDS}\n\rlast".encode(), capture_output=True, check=True
    )
    assert done.stdout.decode().strip() == ascii([ENDS, ENDS, "\rlast"])


def test_a_line_is_told_by_its_number_also_after_blank_ones() -> None:
    done = subprocess.run(
        [sys.executable, "-c", "from wesperon import fill, slot; fill(n=slot(int, rest=True, piped=True))"],
        input="1\n\n\nx\n", capture_output=True, text=True,
    )  # fmt: skip
    assert "standard input, line 4" in done.stderr


@tabled
def test_an_endless_pipe_for_a_value_with_a_bound_is_not_read_to_its_end(declared: str, feed: str, told: str) -> None:
    program = f"from wesperon import fill, slot; fill(n={declared})"
    line = f"{feed} | (ulimit -v 1000000; timeout 30 {sys.executable} -c {program!r})"
    done = subprocess.run(["bash", "-c", line], capture_output=True, text=True)
    assert done.returncode == 2, done.stderr
    assert told in done.stderr


def test_a_silent_pipe_does_not_hold_up_what_is_wrong_already() -> None:
    program = "from wesperon import fill, slot; fill(a=slot(int), b=slot(piped=True))"
    with subprocess.Popen(
        [sys.executable, "-c", program, "x"], stdin=subprocess.PIPE, stderr=subprocess.PIPE, text=True
    ) as child:
        assert child.wait(20) == 2  # while its standard input stays open
        assert child.stderr is not None
        told = child.stderr.read()
    assert '"x" is not a whole number' in told
    assert "--b" not in told, "it may still have come"


def test_what_is_wrong_in_words_and_in_a_pipe_comes_together() -> None:
    program = "from wesperon import fill, slot; fill(a=slot(int), b=slot(int, piped=True))"
    ours, theirs = os.pipe()
    os.write(theirs, b"y\n")  # there before the program looks, however busy the machine is
    os.close(theirs)
    done = subprocess.run([sys.executable, "-c", program, "x"], stdin=ours, capture_output=True, text=True)
    os.close(ours)
    assert '"x" is not' in done.stderr
    assert '"y" is not' in done.stderr


def test_an_hour_that_comes_twice_is_replayed() -> None:
    class When(Form):
        at = slot(datetime)

    for fold in (0, 1):
        given = When(at=datetime(2031, 10, 26, 2, 30, tzinfo=ZoneInfo("Europe/Berlin"), fold=fold))
        again = When.fill(given.words())
        assert again == given
        assert again.at.utcoffset() == given.at.utcoffset()


@pytest.mark.parametrize("declared", ["rest=True, piped=True", "rest=True, piped='stream'"])
def test_a_program_may_read_a_line_before_the_rest_is_a_value(declared: str) -> None:
    program = f"from wesperon import fill, slot; first = input(); print(first, *fill(n=slot(int, {declared})).n)"
    done = subprocess.run([sys.executable, "-c", program], input=b"head\n1\r\n2\n", capture_output=True)
    assert (done.returncode, done.stdout) == (0, b"head 1 2\n"), done.stderr


@given(st.lists(st.sampled_from(["1", "", "x", "7", "y z", " "]), min_size=1, max_size=8))
def test_every_wrong_item_of_a_list_is_reported_whatever_its_source(items: list[str]) -> None:
    class Sky(Form):
        counts = slot(int, many=True)

    wrong = [item for item in items if item not in ("1", "7")]
    blank = [item for item in wrong if not item.strip()]
    try:
        alone = len(items) == 1  # a name with nothing after its sign gives no values
        Sky.fill(["--counts", *items] if alone else [f"--counts={item}" for item in items], asking="never")
        said: list[Any] = []
    except Problems as problems:
        said = list(problems)
    assert len(said) == len(wrong) - len(blank) + bool(blank)
    document = json.dumps({"counts": items})
    try:
        Sky.fill(["--answers=-"], asking="never", context=Context(stdin=io.StringIO(document)))
        said = []
    except Problems as problems:
        said = list(problems)
    assert len(said) == len(wrong)


def piped_to(code: str, *words: str, says: bytes = b"", env: Any = None, seconds: float = 30) -> tuple[int, str]:
    """Run a program whose standard input stays open for ever; its status and what it says."""
    read_end, write_end = os.pipe()
    try:
        os.write(write_end, says)
        done = subprocess.run(
            [sys.executable, "-c", "import os; os.setsid()\n" + code, *words],
            stdin=read_end, capture_output=True, text=True, timeout=seconds, check=False,
            env={**os.environ, **(env or {})},
        )  # fmt: skip
    finally:
        os.close(read_end)
        os.close(write_end)
    return done.returncode, done.stdout + done.stderr


READS = """
from wesperon import *
class Log(Form):
    n = slot(int, default=1)
    text = slot(piped=True)
    {more}
{do}
"""


@tabled
@pytest.mark.parametrize("says", [b"", b"a line\n"])
def test_what_is_known_without_the_pipe_is_told_before_it_is_read(
    more: str, do: str, words: list[str], said: str, says: bytes
) -> None:
    status, told = piped_to(READS.format(more=more, do=do), *words, says=says)
    assert said in told
    assert status in (1, 2)


@pytest.mark.parametrize("piped", ["True", "'stream'"])
@pytest.mark.parametrize("says", [b"", b"a\nb\n"])
def test_a_pipe_that_nobody_writes_to_ends_with_the_time(piped: str, says: bytes) -> None:
    do = "try:\n    print(list(Log.fill().text))\nexcept Problems as problems:\n    print(problems.json())"
    code = READS.format(more="", do=do).replace("piped=True", f"rest=True, least=1, piped={piped}")
    status, told = piped_to(code, says=says, env={"WESPERON_TIMEOUT": "0.3"})
    assert status == 0
    assert '"timed_out": true' in told
    assert "nothing came within 0.3 s" in told


def test_an_answer_that_trickles_in_is_waited_for_from_its_last_byte() -> None:
    code = READS.format(more="", do="print('got', fill(Log).text)")
    argv = [sys.executable, "-c", "import os; os.setsid()\n" + code]
    env = {**os.environ, "WESPERON_TIMEOUT": "2"}
    with subprocess.Popen(argv, stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True, env=env) as process:
        assert process.stdin is not None
        for letter in "abcde":
            process.stdin.write(letter)
            process.stdin.flush()
            time.sleep(0.6)
        told, _ = process.communicate()
    assert told == "got abcde\n"


def test_the_gate_is_opened_once_also_where_a_pipe_is_read() -> None:
    code = READS.format(
        more="", do="def gate(path, command, values):\n    print('gate', values.n)\nprint(fill(Log, gate=gate).text)"
    )
    done = subprocess.run([sys.executable, "-c", code], input="line", capture_output=True, text=True, check=True)
    assert done.stdout == "gate 1\nline\n"


BOUNDED: dict[str, dict[str, Any]] = {
    "of answers": {"low": lambda so_far: so_far.least, "high": 50},
    "counted": {"least": 2, "most": 3, "low": 2},
    "chosen": {"kind": one_of(lambda so_far: range(so_far.least, 9))},
    "checked": {"check": lambda value: None if value % 7 else refuse("a seventh")},
}


def refuse(reason: str) -> None:
    raise ValueError(reason)


@given(st.sampled_from(list(BOUNDED)), st.lists(st.integers(0, 60).map(str) | st.just("x"), min_size=1, max_size=5))
def test_a_stream_takes_what_lines_at_once_take(name: str, lines: list[str]) -> None:
    keywords = {"kind": int, **BOUNDED[name]}
    found = []
    for piped in (True, "stream"):
        form: Any = type(
            "Many", (Form,), {"least": slot(int, default=4), "values": slot(many=True, piped=piped, **keywords)}
        )
        try:
            stdin = io.StringIO("\n".join(lines) + "\n")
            values = form.fill([], asking="never", context=Context(stdin=stdin, words=[])).values
            found.append((tuple(values), ""))
        except Problems as problems:
            found.append(((), problems.problems[0].reason))
    assert found[0][0] == found[1][0]
    assert bool(found[0][1]) == bool(found[1][1])  # a stream ends at the first line that is wrong


@given(
    st.dictionaries(
        st.text("a b=é", min_size=1, max_size=4).filter(lambda n: n.strip() and "=" not in n),
        st.text("a b='", max_size=4),
    )
)
def test_pairs_keep_their_blanks_from_words_and_in_a_replay(pairs: dict[str, str]) -> None:
    class Tagged(Form):
        tags = slot(dict[str, str], default={})

    record = Tagged.fill([f"--tags={name}={value}" for name, value in pairs.items()], asking="never")
    assert record.tags == pairs
    assert Tagged.fill(record.words(), asking="never").tags == pairs
    assert Tagged.fill(Tagged(tags=pairs).words(), asking="never").tags == pairs
