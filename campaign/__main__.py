"""Drive programs by chance for some minutes: ``python -m campaign --minutes 10 --seed 7``.

A fault is printed as a short script that shows it again, with as few actions as were found to be enough.
"""

from __future__ import annotations

import random
import sys
import time
from concurrent.futures import ThreadPoolExecutor, as_completed

from campaign.actions import Action, drawn
from campaign.play import Program, play
from wesperon import run

#: Kinds of questions that a program may ask.
KINDS = ("text", "number", "spin", "secret", "lines", "menu", "endless", "checks", "path", "yes", "many", "pairs")
#: All ways of printing beside what is open.
NOISE = ["out1", "err1", "part1", "log1", "raw1", "bar1", "child1"]
#: Each is as likely as the others.
PROGRAMS = [
    *(Program("question.py", kind) for kind in (*KINDS, "suggest", "slow")),
    *(Program("question.py", kind, "mouse") for kind in ("text", "menu", "lines")),
    *(Program("question.py", kind, plain=True) for kind in ("text", "menu", "secret", "many")),
    Program("question.py", "text", is_modelled=True),
    Program("question.py", "text", *NOISE, is_modelled=True),
    Program("question.py", "menu", *NOISE),
    *(Program("resumed.py", is_modelled=True, resumes=True) for _ in range(2)),
    Program("repeat.py", is_modelled=True),
    Program("repeat.py", "out1", "out2", "part1", "raw1", "child1", is_modelled=True),
    *(Program("card.py", way) for way in ("", "thread", "loop", "closed")),
    Program("card.py", "", *NOISE),
    *(Program("desk.py", way) for way in ("sync", "async") for _ in range(3)),
    *(Program("desk.py", way, *NOISE) for way in ("sync", "async")),
    Program("desk.py", "sync", plain=True),
    *(Program("pages.py", what) for what in ("text", "lines", "endless", "file", "several", "history")),
    *(Program("pages.py", "text", *words) for words in (("mouse",), ("pick",), tuple(NOISE))),
    *(Program("pages.py", "file", "follow", *words) for words in ((), ("out1", "child1"))),
    Program("pages.py", "lines", plain=True),
    *(Program("screens.py", how) for how in ("", "async", "form") for _ in range(2)),
    *(Program("screens.py", "", *words) for words in (("mouse",), tuple(NOISE))),
    Program("screens.py", "", plain=True),
    Program("guide.py"),
    Program("guide.py", "out1", "child1"),
    *(Program("threads.py", *words) for words in ((), ("console",))),
    *(Program("together.py", *words) for words in ((), (), tuple(NOISE))),
    Program("streams.py", asks=False),
    *(Program("works.py", *words, asks=False) for words in (("out1", "err1", "part1"), ("log1", "bar1", "out2"), ())),
]


def one(seed: int) -> tuple[Program, list[Action], str, list[str]]:
    """Return one run by chance: the program, what was done, the family of keys, what was wrong."""
    chance = random.Random(seed)
    program = chance.choice(PROGRAMS)
    keys = "modal" if chance.random() < 0.2 and not program.is_modelled else ""
    actions = drawn(chance, is_modelled=program.is_modelled, has_noise=bool(program.noise)) if program.asks else []
    return program, actions, keys, play(program, actions, keys)


def shortened(program: Program, actions: list[Action], keys: str, seconds: float) -> list[Action]:
    """Fewer actions that still show a fault, as far as the time allows."""
    end, size = time.monotonic() + seconds, max(len(actions) // 2, 1)
    while size and time.monotonic() < end:
        for at in range(0, len(actions), size):
            fewer = actions[:at] + actions[at + size :]
            if time.monotonic() < end and any(play(program, fewer, keys) for _ in range(2)):
                actions = fewer
                break
        else:
            size //= 2
    return actions


def script(program: Program, actions: list[Action], keys: str) -> str:
    """Return a script that shows a fault again."""
    rows = "".join(f"    {action!r},\n" for action in actions)
    return (
        "from campaign.play import Program, play\n"
        f"for fault in play({program!r}, [\n{rows}], {keys!r}):\n    print(fault)\n"
    )


def campaign(minutes: float = 1.0, seed: int = 0, workers: int = 3, shorten: float = 30.0) -> None:
    """Drive programs by chance, and print what is wrong.

    Args:
        minutes: for how long; no run begins that is likely to end later
        seed: where chance begins; 0: anywhere
        workers: how many programs at a time
        shorten: how many seconds to look for a shorter script of a fault

    """
    seed = seed or random.SystemRandom().randint(1, 10**6)
    print(f"seed {seed}", flush=True)
    begun, runs, faulty = time.monotonic(), 0, 0
    end = begun + minutes * 60
    with ThreadPoolExecutor(workers) as pool:
        waiting = {pool.submit(one, seed * 1_000_000 + number) for number in range(workers)}
        number = workers
        while waiting:
            done = next(as_completed(waiting))
            waiting.discard(done)
            now = time.monotonic()
            if now + 2 * workers * (now - begun) / (runs + workers) < end:  # most runs take less than twice the mean
                waiting.add(pool.submit(one, seed * 1_000_000 + number))
                number += 1
            program, actions, keys, faults = done.result()
            runs += 1
            if faults:
                faulty += 1
                actions = shortened(program, actions, keys, shorten)
                print(
                    f"\n{script(program, actions, keys)}",
                    *(f"# {line}" for f in faults for line in f.split("\n")),
                    sep="\n",
                )
                sys.stdout.flush()
    print(f"{runs} runs, {faulty} with a fault; seed {seed}")
    sys.exit(1 if faulty else 0)


if __name__ == "__main__":
    sys.exit(run(campaign))
