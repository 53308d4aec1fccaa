"""What a piece of work comes to, whatever is called on it and however it ends.

Modules: ``long_work.work``, ``long_work.progress``, ``long_work.leaving``, ``long_work.watch``, ``system.continued``.
"""

from __future__ import annotations

import asyncio
import concurrent.futures
import io
import os
import subprocess
import sys
import threading
from collections import deque
from collections.abc import AsyncIterator, Callable, Iterable, Iterator
from itertools import count as numbers
from typing import Any, cast

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.long_work.clock import Clock
from wesperon import Command, Context, DeclarationError, Program, one_of, progress, slot, working
from wesperon.long_work.work import DONE, FAILED, NEW, RUNNING, STOPPED, Work
from wesperon.scope import within

CALLS = st.lists(
    st.one_of(
        st.tuples(st.just("add"), st.integers(-3, 9)),
        st.tuples(st.just("set"), st.integers(0, 50)),
        st.tuples(st.just("label"), st.text(max_size=5)),
        st.tuples(st.just("total"), st.one_of(st.none(), st.integers(0, 60))),
        st.tuples(st.just("fail"), st.text(max_size=5)),
        st.tuples(st.just("begin"), st.none()),
        st.tuples(st.just("end"), st.none()),
    ),
    max_size=30,
)


def act(work: Work, call: str, value: Any) -> None:
    """Do one call."""
    if call in ("label", "total"):
        setattr(work, call, value)
    elif call == "end":
        work.end(DONE)
    elif call == "begin":
        work.begin()
    else:
        getattr(work, call)(value)


@given(CALLS)
def test_calls_after_the_end_do_nothing(calls: list[tuple[str, Any]]) -> None:
    """Against a model: a count, and whether it is over."""
    with within(Context(stderr=io.StringIO())):
        work = working("Stacking")
        state, counted, label, total = NEW, 0, "Stacking", None
        for call, value in calls:
            act(work, call, value)
            if call == "begin":
                state, counted = RUNNING, counted if state in (NEW, RUNNING) else 0
            elif state == RUNNING and call in ("fail", "end"):
                state, counted = FAILED if call == "fail" else DONE, max(counted, 0)
            elif state in (NEW, RUNNING):
                counted = counted + value if call == "add" else value if call == "set" else counted
                label = value if call == "label" else label
                total = value if call == "total" else total
            assert (work.state, work.count, work.label, work.total) == (state, max(counted, 0), label, total)
        work.end(STOPPED)


def test_threads_count_together() -> None:
    with working("Stacking", total=8000) as work:
        threads = [threading.Thread(target=lambda: [*map(work.add, [1] * 1000)]) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    assert (work.state, work.count) == (DONE, 8000)


# What is iterated over ------------------------------------------------------------------------------------------------

SOURCES: dict[str, Callable[[int], Any]] = {
    "range": range,
    "list": lambda n: [*range(n)],
    "tuple": lambda n: tuple(range(n)),
    "dict": lambda n: dict.fromkeys(range(n)),
    "set": lambda n: {*range(n)},
    "keys": lambda n: dict.fromkeys(range(n)).keys(),
    "bytes": bytes,
    "str": lambda n: "x" * n,
    "deque": lambda n: deque(range(n)),
    "generator": lambda n: (number for number in range(n)),
    "map": lambda n: map(str, range(n)),
    "iterator": lambda n: iter([*range(n)]),
    "old": lambda n: Old(n),
}


class Old:
    """What is iterated over by numbers alone."""

    def __init__(self, length: int) -> None:
        self.length = length

    def __getitem__(self, number: int) -> int:
        if number >= self.length:
            raise IndexError
        return number


@pytest.mark.parametrize("source", SOURCES)
@given(length=st.integers(0, 40), data=st.data())
def test_a_loop_gets_the_items_and_what_was_done_is_counted(source: str, length: int, data: st.DataObject) -> None:
    """The item that is worked on is not done yet."""
    left_at = data.draw(st.one_of(st.none(), st.integers(0, 45)))
    made = SOURCES[source](length)
    expected = [*SOURCES[source](length)]
    with within(Context(stderr=io.StringIO())):
        work = progress(made, "Stacking")
        got: list[Any] = []
        for item in work:
            assert (work.state, work.count) == (RUNNING, len(got))
            if len(got) == left_at:
                break
            got.append(item)
    is_left = left_at is not None and left_at < length
    assert got == (expected[:left_at] if is_left else expected)
    assert (work.state, work.count) == (STOPPED if is_left else DONE, len(got))


def test_what_is_set_in_a_loop_is_the_count_whatever_has_passed() -> None:
    work = progress(range(9))
    for item in work:
        work.set(10 * item)
        assert work.count == 10 * item


def test_a_list_may_grow_meanwhile() -> None:
    items = [1, 2]
    work = progress(items)
    for item in work:
        items.extend([item + 1][: 5 - item])
    assert work.count == len(items) > 2


def test_a_step_by_a_clock_of_a_test_counts_alike() -> None:
    clock = Clock()
    with within(Context(clock=clock, stderr=io.StringIO())):
        work = progress(range(9))
        for item in work:
            clock.pass_by(0.5)
            assert work.count == item
    assert (work.state, work.count, work.seconds) == (DONE, 9, 4.5)


def fails_in_body(items: Iterable[int]) -> None:
    for item in items:
        if item == 4:
            raise OSError("the disk is full")


def fails_further_in(items: Iterable[int]) -> None:
    def inner() -> None:
        for item in items:
            assert 1 // (item - 4) < 9

    inner()


def breaks(items: Iterable[int]) -> None:
    for item in items:
        if item == 4:
            break


def returns(items: Iterable[int]) -> int:
    for item in items:
        if item == 4:
            return item
    return 0


def breaks_after_an_exception(items: Iterable[int]) -> None:
    kept = []
    for item in items:
        try:
            raise OSError
        except OSError as error:
            kept.append(error)
            if item == 4:
                break


def is_satisfied(items: Iterable[int]) -> None:
    assert any(item == 4 for item in items)


def breaks_outside(items: Iterable[int]) -> None:
    for _, item in zip(numbers(), items, strict=False):
        if item == 4:
            break


def goes_on_in_a_generator(items: Iterable[int]) -> None:
    def doubled() -> Iterator[int]:
        for item in items:
            yield 2 * item

    for item in doubled():
        if item == 8:
            break


def takes_one(items: Iterable[int]) -> None:
    next(iter(items))


@pytest.mark.parametrize(
    ("way", "state", "count"),
    [
        (fails_in_body, FAILED, 4),
        (fails_further_in, FAILED, 4),
        (breaks, STOPPED, 4),
        (returns, STOPPED, 4),
        (breaks_after_an_exception, STOPPED, 4),
        (is_satisfied, STOPPED, 4),
        (breaks_outside, STOPPED, 4),
        (goes_on_in_a_generator, STOPPED, 4),
        (takes_one, STOPPED, 0),
        (list, DONE, 9),
    ],
)
@pytest.mark.parametrize("source", ["range", "generator"])
@pytest.mark.parametrize("clock", [None, Clock()])
def test_a_loop_that_is_left_has_stopped_or_failed(
    way: Callable[[Any], object], state: str, count: int, source: str, clock: Clock | None
) -> None:
    with within(Context(stderr=io.StringIO(), clock=clock)):
        work = progress(SOURCES[source](9))
        try:
            way(work)
        except (OSError, ZeroDivisionError):
            pass
    assert (work.state, work.count) == (state, count)


def enumerated(items: Iterable[int]) -> dict[int, int]:
    return dict(enumerate(items))


@pytest.mark.parametrize("take", [list, lambda items: [2 * item for item in items], enumerated])
def test_a_source_that_fails_is_a_failure(take: Callable[[Any], object]) -> None:
    def source() -> Iterator[int]:
        yield from range(3)
        raise OSError("the disk is full")

    with within(Context(stderr=(errors := io.StringIO()))):
        work = progress(source(), "Reading")
        with pytest.raises(OSError, match="full"):
            take(work)
    assert work.state == FAILED
    assert errors.getvalue().startswith("Reading: failed at ")


@pytest.mark.parametrize(("way", "state"), [("done", DONE), ("break", STOPPED), ("raise", FAILED), ("cancel", STOPPED)])
def test_an_event_loop_iterates_too(way: str, state: str) -> None:
    async def source() -> AsyncIterator[int]:
        for number in range(9):
            yield number
            await asyncio.sleep(0)

    async def main() -> Any:
        work = progress(source(), "Reading", total=9)
        async for item in work:
            assert work.count == item
            if item == 4 and way == "break":
                break
            if item == 4 and way == "raise":
                raise OSError
            if item == 4 and way == "cancel":
                task = asyncio.current_task()
                assert task is not None
                task.cancel()
                await asyncio.sleep(0)
        return work

    works: list[Any] = []
    kept = Work.begin

    def begin(self: Work) -> None:
        works.append(self)
        kept(self)

    with pytest.MonkeyPatch.context() as patch, within(Context(stderr=io.StringIO())):
        patch.setattr(Work, "begin", begin)
        try:
            asyncio.run(main())
        except (OSError, asyncio.CancelledError):
            pass
    assert (works[0].state, works[0].count) == (state, 9 if way == "done" else 4)


def test_a_list_is_iterated_over_in_an_event_loop_too() -> None:
    async def main() -> list[int]:
        return [item async for item in progress([1, 2, 3])]

    assert asyncio.run(main()) == [1, 2, 3]


def test_a_generator_expression_that_fails_is_a_failure_once_that_is_caught() -> None:
    work = progress(range(9))
    with within(Context(stderr=io.StringIO())):
        try:
            sum(1 // (item - 4) for item in work)
        except ZeroDivisionError:
            pass
    assert (work.state, work.count) == (FAILED, 4)


def test_loops_that_the_collector_of_garbage_ends_are_ended_in_any_thread() -> None:
    """Also in the one that looks, while it has the locks: an iterator in a circle is dropped at any step."""
    done = run("""
import gc, sys, threading, time
from wesperon import progress, working
from wesperon.long_work import watch, work
watch.AT_FIRST = work.AT_FIRST = 0.01
gc.set_threshold(1)
def leave(number):
    items = iter(progress(range(9), f"W{number}"))
    next(items)
    circle = [items]
    circle.append(circle)
    time.sleep(0.02)
with working("All"):
    threads = [threading.Thread(target=lambda n=n: [leave(n * 10 + m) for m in range(10)]) for n in range(5)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    gc.collect()
print("ended", len(watch.WATCH.works))
""")
    assert done.stdout == "ended 0\n"
    assert "Traceback" not in done.stderr
    assert sum(": stopped at 0 of 9" in line for line in done.stderr.splitlines()) == 50


def test_a_loop_that_is_dropped_where_no_step_of_python_runs_has_stopped() -> None:
    """A thread whose function is of C has no frame at all: the collector of garbage may run there, too."""
    done = run("""
import _thread, time
from wesperon import progress
from wesperon.long_work import watch, work
watch.AT_FIRST = work.AT_FIRST = watch.LINGER = 0.01
items = [iter(progress(range(9), "Stacking"))]
next(items[0])
time.sleep(0.1)
_thread.start_new_thread(items.clear, ())
while watch.WATCH.works or _thread._count():
    time.sleep(0.01)
""")
    assert "Traceback" not in done.stderr
    assert "Stacking: stopped at 0 of 9" in done.stderr


@pytest.mark.parametrize("seed", range(4))
def test_loops_that_are_dropped_while_any_module_is_being_loaded_are_ended(seed: int) -> None:
    """Whichever thread loads it, and whatever the module has by then: each says its line, once."""
    done = run(f"""
import ast, builtins, importlib.machinery, random, time, tokenize
from wesperon import progress, working
from wesperon.long_work import watch, work
watch.AT_FIRST, work.AT_FIRST = 0.01, 0  # also of the youngest the end is said
chance = random.Random({seed})
loops = []
dropped = 0

def drop():
    global dropped
    if loops and chance.random() < 0.5:
        dropped += 1
        loops.pop()

whole = importlib.machinery.SourceFileLoader.get_code

def get_code(loader, name):
    if not name.startswith("wesperon."):
        return whole(loader, name)
    tree = ast.parse(loader.get_source(name))
    start = 1 + any(isinstance(node, ast.ImportFrom) and node.module == "__future__" for node in tree.body[1:2])
    calls = [ast.parse("drop_a_loop()").body[0] for _ in tree.body[start:]]
    tree.body[start:] = [node for pair in zip(tree.body[start:], calls) for node in pair]
    return compile(ast.fix_missing_locations(tree), loader.get_filename(name), "exec")

builtins.drop_a_loop = drop
importlib.machinery.SourceFileLoader.get_code = get_code
for number in range(400):
    loops.append(iter(progress(range(9), f"W{{number}}")))
    next(loops[-1])
with working("All"):
    time.sleep(2)
print(dropped, len(watch.WATCH.works))
""")
    dropped, left = map(int, done.stdout.split())
    assert 20 < dropped < 400
    assert left == 400 - dropped
    assert "Traceback" not in done.stderr
    lines = [line.split(":")[0] for line in done.stderr.splitlines() if ": stopped at 0 of 9" in line]
    assert sorted(lines) == sorted(f"W{number}" for number in range(400))


# How a block ends -----------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("error", "state", "reason"),
    [
        (None, DONE, ""),
        (OSError("the disk is full"), FAILED, "the disk is full"),
        (ValueError(), FAILED, "ValueError"),
        (KeyboardInterrupt(), STOPPED, ""),
        (SystemExit(3), STOPPED, ""),
        (asyncio.CancelledError(), STOPPED, ""),
    ],
)
def test_a_block_that_is_left_has_ended(error: BaseException | None, state: str, reason: str) -> None:
    with within(Context(stderr=io.StringIO())):
        work = working("Cooling")
        try:
            with work:
                if error is not None:
                    raise error
        except BaseException as caught:
            if caught is not error:
                raise
    assert (work.state, work.reason) == (state, reason)


def test_what_has_ended_may_begin_again() -> None:
    work = progress([1, 2, 3])
    assert [*work, *work] == [1, 2, 3, 1, 2, 3]
    assert work.count == 3


@pytest.mark.parametrize(
    ("make", "fault"),
    [
        (lambda: working(cast(Any, 3)), "label=3 must be a text"),
        (lambda: working("Cooling", total=cast(Any, "x")), "total='x' must be a number from 0"),
        (lambda: working("Cooling", total=-1), "total=-1 must be a number from 0"),
        (lambda: working("Cooling", total=float("nan")), "total=nan must be a number from 0"),
        (lambda: working("Cooling", unit=cast(Any, None)), "unit=None must be a text"),
        (lambda: progress(cast(Any, 7)), "progress() needs something to iterate over, got 7"),
    ],
)
def test_misuse_is_refused_with_what_was_given(make: Callable[[], Any], fault: str) -> None:
    with pytest.raises(DeclarationError) as refused:
        make()
    assert fault in str(refused.value)


# Short work, and children ---------------------------------------------------------------------------------------------


def run(script: str, *, seconds: float = 30) -> subprocess.CompletedProcess[str]:
    """Run a script of its own."""
    return subprocess.run([sys.executable, "-c", script], capture_output=True, text=True, timeout=seconds, check=False)


def test_work_that_is_done_in_a_moment_shows_nothing_and_loads_nothing() -> None:
    done = run("""
import sys, time
from wesperon import progress, working
before = {*sys.modules}
for item in progress([1, 2, 3], "Stacking"):
    time.sleep(0.05)
with working("Cooling", total=3) as work:
    work.add()
for item in progress(iter([1, 2]), "Stacking"):
    pass
print(*sorted({*sys.modules} - before))
""")
    assert (done.stdout, done.stderr) == ("\n", "")


@pytest.mark.skipif(not hasattr(os, "fork"), reason="the system has no fork")
def test_in_a_child_that_was_forked_the_work_is_the_parents() -> None:
    done = run("""
import os, sys, time
from wesperon import progress, working
with working("Cooling", total=3) as work:
    time.sleep(1.2)
    child = os.fork()
    if not child:
        work.add(100)
        work.say("from the child")
        assert work.count == 0, work.count
        for item in progress(range(3), "in the child"):
            pass
        os._exit(3 if work.state == "running" else 0)
    status = os.waitpid(child, 0)[1]
    work.add(3)
print(status, work.count, work.state)
""")
    assert done.stdout == "0 3 done\n"
    assert {line[: line.index(",")] for line in done.stderr.splitlines()} <= {"Cooling: 0%", "Cooling: done"}
    assert done.stderr.splitlines()[-1].startswith("Cooling: done, 3 in ")


def test_what_still_runs_when_the_process_ends_says_how_far_it_came() -> None:
    done = run("""
import time
from wesperon import progress, working
items = iter(progress(range(9), "Stacking"))
next(items), next(items)
working("Cooling").begin()
time.sleep(1.5)
""")
    *_, stacking, cooling = done.stderr.splitlines()
    assert stacking == "Stacking: stopped at 1 of 9"
    assert cooling.startswith("Cooling: stopped after ")
    assert done.returncode == 0


class Send(Command):
    """Send what was measured."""

    token = slot(secret=True, env="SEND_TOKEN")
    way = slot(one_of(["block", "loop", "thread"]))

    def run(self) -> None:
        """Fail, with the secret in what is raised."""

        def send() -> None:
            if self.way == "loop":
                for _ in progress(range(3), "Sending"):
                    raise RuntimeError(f"{self.token} was refused")
            with working("Sending"):
                raise RuntimeError(f"{self.token} was refused")

        if self.way == "thread":
            with concurrent.futures.ThreadPoolExecutor() as pool:
                pool.submit(send).result()
        else:
            send()


@pytest.mark.parametrize("way", ["block", "loop", "thread"])
def test_the_last_line_says_no_secret_of_the_command(way: str, capsys: pytest.CaptureFixture[str]) -> None:
    """Of work in a thread that the command has started too, which knows nothing of its context."""
    errors = io.StringIO()
    context = Context(
        stdout=errors, stderr=errors, environ={"SEND_TOKEN": "hunter2hunter2", "WESPERON_ASKING": "never"}
    )
    with pytest.raises(RuntimeError, match="refused"):
        Program("desk", members=[Send]).call(["send", f"--way={way}"], context=context)
    said = errors.getvalue() + capsys.readouterr().err
    assert "Sending: failed " in said
    assert "hunter" not in said


def test_a_stream_that_cannot_write_a_character_has_its_line_all_the_same() -> None:
    raw = io.BytesIO()
    with within(Context(stderr=io.TextIOWrapper(raw, "ascii"), environ={})), working("Kühlung") as work:
        work.say("日")
        work.fail("ü")
    assert raw.getvalue().decode("ascii").splitlines() == ["\\u65e5", "K\\xfchlung: failed after 0.0s: \\xfc"]
