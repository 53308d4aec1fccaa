"""The stream of ours in the place of a standard one is never freed under somebody who prints.

Modules: ``system.streams``.
"""

from __future__ import annotations

import io
import subprocess
import sys
import threading

from tests.harness import ROOT, python
from wesperon import Context
from wesperon.scope import within
from wesperon.system.streams import STDOUT


def test_threads_print_while_contexts_with_streams_of_their_own_come_and_go() -> None:
    """A crash of the interpreter, not an exception: so it runs in a process of its own, several times."""
    for _ in range(3):
        program = python(str(ROOT / "campaign" / "programs" / "streams.py"))
        done = subprocess.run(program, capture_output=True, env={"PYTHONPATH": str(ROOT)}, check=False, timeout=60)
        assert (done.returncode, done.stderr) == (0, b"")
        assert done.stdout.count(b"a") == done.stdout.count(b"b") > 100


def test_each_thread_writes_to_the_stream_of_its_own_context() -> None:
    streams = [io.StringIO() for _ in range(4)]
    before = sys.stdout

    def work(number: int) -> None:
        for _ in range(20):
            with within(Context(stdout=streams[number])):
                print("number", number)

    threads = [threading.Thread(target=work, args=(number,)) for number in range(4)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    assert [set(stream.getvalue().splitlines()) for stream in streams] == [{f"number {number}"} for number in range(4)]
    assert sys.stdout is before
    assert sys.stdout is not STDOUT


def test_a_process_that_began_without_a_stream_prints_nothing() -> None:
    program = "import sys; sys.stdout = None; from wesperon import Context; from wesperon.scope import within\n"
    program += "with within(Context(stdout=__import__('io').StringIO())): print('x')\nprint('y')"
    done = subprocess.run(python("-c", program), capture_output=True, check=False, timeout=60)
    assert (done.returncode, done.stdout, done.stderr) == (0, b"", b"")
