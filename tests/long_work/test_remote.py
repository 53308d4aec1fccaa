"""Work that is counted in other processes, against the sum of what they were told.

Modules: ``long_work.remote``.
"""

from __future__ import annotations

import concurrent.futures
import errno
import io
import multiprocessing
import os
import pickle
import random
import signal
import time
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from wesperon import Context, working
from wesperon.long_work.remote import Remote
from wesperon.scope import within

ACTS = st.lists(
    st.one_of(
        st.tuples(st.just("add"), st.integers(0, 99)),
        st.tuples(st.just("add"), st.floats(0, 9, allow_nan=False)),
        st.tuples(st.just("set"), st.integers(0, 99)),
        st.tuples(st.just("say"), st.text(max_size=9)),
        st.tuples(st.just("look"), st.none()),
        st.tuples(st.just("here"), st.integers(0, 9)),
    ),
    max_size=30,
)


@given(ACTS)
def test_of_one_worker_every_call_counts_in_its_order(acts: list[tuple[str, Any]]) -> None:
    """Whenever the process with the row looks; what it adds itself in between, it looks first."""
    errors = io.StringIO()
    with within(Context(stderr=errors, environ={"WESPERON_ASKING": "never"})):
        count, said = 0.0, []
        with working("Reducing") as work:
            remote = pickle.loads(pickle.dumps(work.remote()))
            for act, value in acts:
                if act == "look":
                    assert work.count == pytest.approx(count)
                elif act == "here":
                    assert work.count == pytest.approx(count)
                    work.add(value)
                    count += value
                else:
                    getattr(remote, act)(value)
                    count = count + value if act == "add" else value if act == "set" else count
                    said += [value] if act == "say" else []
        assert work.count == pytest.approx(count)
        remote.add(100)
        remote.set(5)
        remote.say("after the end")
        assert work.count == pytest.approx(count)
    text = errors.getvalue()
    assert len(text.split("\n")) - 1 == sum(value.count("\n") + 1 for value in said)


def reduce_plates(remote: Remote, number: int) -> int:
    """Count and say at random times."""
    chance = random.Random(number)
    for _ in range(50):
        remote.add(1)
        if chance.random() < 0.1:
            remote.say(f"plate {number} is looked at in process {os.getpid()}")
            time.sleep(chance.random() / 200)
    return number


@pytest.mark.parametrize("method", ["fork", "spawn"])
def test_what_all_workers_of_a_pool_count_is_the_count(method: str) -> None:
    if method not in multiprocessing.get_all_start_methods():
        pytest.skip("the system starts no process so")
    errors = io.StringIO()
    context = multiprocessing.get_context(method)
    with within(Context(stderr=errors, environ={"WESPERON_ASKING": "never"})):
        with working("Reducing", total=600) as work:
            remote = work.remote()
            with concurrent.futures.ProcessPoolExecutor(3, mp_context=context) as pool:
                done = [*pool.map(reduce_plates, [remote] * 12, range(12))]
        assert (work.count, len(done)) == (600, 12)
    for line in errors.getvalue().splitlines():
        assert line.startswith("plate ")


def add_and_die(remote: Remote) -> None:
    """Count and end by a signal that nobody can handle."""
    remote.add(7)
    remote.say("last words")
    os.kill(os.getpid(), signal.SIGKILL)


def test_a_worker_that_is_killed_has_counted_what_it_counted() -> None:
    errors = io.StringIO()
    with within(Context(stderr=errors, environ={"WESPERON_ASKING": "never"})):
        with working("Reducing", total=600) as work:
            worker = multiprocessing.get_context("spawn").Process(target=add_and_die, args=(work.remote(),))
            worker.start()
            worker.join()
        assert work.count == 7
    assert errors.getvalue() == "last words\n"


def test_nothing_is_left_on_the_disk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("tempfile.tempdir", str(tmp_path))
    with working("Reducing") as work:
        work.remote().add(1)
        assert [*tmp_path.iterdir()]
    assert not [*tmp_path.iterdir()]
    assert work.count == 1


def test_a_worker_whose_disk_is_full_goes_on(monkeypatch: pytest.MonkeyPatch) -> None:
    """What it could not write is in the next number that it writes."""
    errors = io.StringIO()
    with within(Context(stderr=errors, environ={"WESPERON_ASKING": "never"})), working("Reducing") as work:
        counted = pickle.loads(pickle.dumps(work.remote()))
        counted.add(1)
        write = os.write

        def full(handle: int, data: bytes) -> int:
            raise OSError(errno.ENOSPC, "no room")

        monkeypatch.setattr(os, "write", full)
        counted.add(2)
        counted.say("lost")
        counted.set(9)
        monkeypatch.setattr(os, "write", lambda handle, data: write(handle, data[: len(data) // 2]))
        counted.say("half a line")
        monkeypatch.setattr(os, "write", write)
        assert work.count == 1
        counted.say("after the half")
        counted.say("whole again")
        counted.add(4)
        assert work.count == 7
    assert errors.getvalue().splitlines()[-1] == "whole again"
