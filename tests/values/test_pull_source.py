"""What grows has one owner: many terminals and threads at once, and a list without end costs what is seen of it.

Modules: ``values.pull_source``.
"""

from __future__ import annotations

import itertools
import threading
import time
from collections.abc import Iterator
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.harness import CTRL_C, ENTER, Terminal, python
from wesperon import Form, any_of, one_of, slot
from wesperon.testing import Press, Scripted
from wesperon.values.pull_source import PullSource
from wesperon.widgets.filtering import LOOKED_AHEAD


def slowly(count: int) -> Iterator[str]:
    for number in range(count):
        time.sleep(0.0002)
        yield f"lens {number}"


@given(st.integers(0, 40), st.lists(st.integers(0, 50), min_size=1, max_size=4))
def test_whoever_pulls_finds_the_same_items_in_the_same_order(count: int, wanted: list[int]) -> None:
    source = PullSource(slowly(count))
    seen: list[list[str]] = [[] for _ in wanted]

    def pull(at: int) -> None:
        source.pull(wanted[at])
        seen[at] = source.items[: wanted[at]]

    threads = [threading.Thread(target=pull, args=(at,)) for at in range(len(wanted))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    whole = [f"lens {number}" for number in range(count)]
    assert seen == [whole[:most] for most in wanted]
    assert source.count <= max(wanted)
    source.pull()
    assert source.items == whole
    assert not source.is_growing


@pytest.mark.parametrize("error", [OSError, TypeError])
def test_what_the_iterator_raises_ends_the_items_or_is_raised_for_all(error: type[Exception]) -> None:
    def broken() -> Iterator[int]:
        yield 1
        raise error("no such telescope")

    source = PullSource(broken())
    assert source.pull(1)
    for _ in range(2):
        if error is OSError:
            assert not source.pull(2)
        else:
            with pytest.raises(error, match="no such telescope"):
                source.pull(2)
    assert source.items == [1]
    assert source.ended_early == f"{error.__name__}: no such telescope"


@pytest.mark.parametrize("kind", ["one", "any", "suggest"])
def test_a_declaration_serves_many_threads_and_is_what_it_was(kind: str) -> None:
    """Promise 8: each thread picks another one, as if it were alone with the declaration."""
    if kind == "suggest":
        declared: Any = slot(suggest=slowly(60))
    else:
        declared = slot(one_of(slowly(60)) if kind == "one" else any_of(slowly(60), least=1))
    form: Any = type("Plan", (Form,), {"lens": declared})
    before = {name: value for name, value in vars(declared).items() if not name.startswith("_")}
    found: dict[int, Any] = {}

    def ask(number: int) -> None:
        mark = [" "] if kind == "any" else []
        text = f"{number}" if kind == "any" else f"lens {number}"
        found[number] = form.fill([], driver=Scripted([text, *mark, Press("enter")])).lens

    threads = [threading.Thread(target=ask, args=(number,)) for number in range(20, 28)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join(20)
    assert found == {n: (f"lens {n}",) if kind == "any" else f"lens {n}" for n in range(20, 28)}
    assert {name: value for name, value in vars(declared).items() if not name.startswith("_")} == before


def test_a_list_without_end_costs_what_is_seen_and_a_screen_more() -> None:
    taken = [0]

    def endless() -> Iterator[str]:
        for number in itertools.count():
            taken[0] = number
            yield f"lens {number}"

    form: Any = type("Plan", (Form,), {"lens": slot(one_of(endless()))})
    assert form.fill([], driver=Scripted([Press("enter")])).lens == "lens 0"
    assert taken[0] <= 40
    assert form.fill([], driver=Scripted([*[Press("page-down")] * 5, Press("enter")])).lens == "lens 60"
    assert taken[0] <= 100
    driver = Scripted(["nowhere", Press("ctrl-c")])
    with pytest.raises(KeyboardInterrupt):
        form.fill([], driver=driver)
    assert taken[0] <= LOOKED_AHEAD + 2_000
    assert "more to come" in driver.frames[-2]


ENDLESS = """
import itertools
from wesperon import fill, one_of, slot
fill(lens=slot(one_of(f"lens {n}" for n in itertools.count()), "Lens"))
"""


def test_a_terminal_that_nobody_touches_takes_nothing_more() -> None:
    with Terminal(python("-c", ENDLESS)) as terminal:
        terminal.see("more to come")
        terminal.quiet()

        def resident() -> int:
            with open(f"/proc/{terminal.process.pid}/status", encoding="ascii") as status:
                return int(next(line.split()[1] for line in status if line.startswith("VmRSS")))

        before = resident()
        terminal.wait(lambda: not terminal.read(1.0), "silence")
        assert resident() - before < 1_000
        terminal.type("\x1b[B\x1b[B" + CTRL_C)
        terminal.end()


SHARED = """
import threading
from wesperon import Form, one_of, slot
def slowly():
    import time
    for number in range(30):
        time.sleep(0.005)
        yield f"lens {number}"
class Plan(Form):
    lens = slot(one_of(slowly()), "Lens")
def ask():
    print("got", Plan.fill([], resume=False).lens, flush=True)
threads = [threading.Thread(target=ask) for _ in range(2)]
for thread in threads: thread.start()
for thread in threads: thread.join()
"""


def test_two_threads_choose_from_one_growing_list_on_one_terminal() -> None:
    with Terminal(python("-c", SHARED)) as terminal:
        for number in (3, 17):
            terminal.see("Lens")
            terminal.quiet()
            terminal.type(f"lens {number}")
            terminal.see(f"lens {number}")
            terminal.quiet()
            terminal.type(ENTER)
            terminal.see(f"got lens {number}")
        assert terminal.end() == 0
        assert terminal.modes() == terminal.initial
