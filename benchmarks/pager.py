"""The pager on what is long: each figure beside a stated baseline, measured in the same run.

    first screen    of an endless stream, from the call to the first frame, against ``head -n 40`` of the same; start-up
                    apart, so modules are loaded before
    search          through 1 GiB to a text that is nowhere, against one pass of ``mmap.find``, both in processor time
    other texts     the same through 100 MB of prose, code and log, as they are, in capitals and with a capital for each
                    word, to 12 texts each of which is nowhere: the median and the most of the ratios
    memory          the most that a process has held after going to the end of 10 GB of stream, against 10 MB
    page key        in a file of 100,000,000 lines, and in a line of 100 MB, at random places; against 100 lines

Budgets: 2 times; 2 times; the same within 10 MB; the last has none beyond "what is seen", and is given as a ratio.
Files are made in the folder for temporary files, and removed.
"""

from __future__ import annotations

import mmap
import os
import random
import shutil
import statistics
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from wesperon.editing.keys.events import typed
from wesperon.paging.sources import file_of, stream_of
from wesperon.widgets.pager.needle import Needle
from wesperon.widgets.pager.pager import Pager
from wesperon.widgets.pager.pieces import Pieces
from wesperon.widgets.pager.scan import Scan

BUDGET, SAME_WITHIN = 2.0, 10.0
ROWS, COLUMNS = 40, 120
WORDS = (
    *("frame", "dome", "mast", "cloud", "Lantern", "Nebula", "seeing", "filter", "exposure", "queue", "night", "guide"),
    *("shutter", "focus"),
)
#: What is looked for: rare and common letters, with a capital, and what is fast for the baseline.
NEEDLES = ("zodiac", "Zodiac", "guide nebulas", "the end of it", "osee")
#: Bytes of each of the other texts, and the most of one that is looked for there.
OTHER, LONGEST = 100_000_000, 40
ROOT = Path(__file__).parent.parent
MEMORY = """
import os, sys
from wesperon.paging.sources import stream_of
from wesperon.widgets.pager.pager import Pager
from wesperon.editing.keys.events import typed
source = stream_of(open(0, "rb", buffering=0), "")
pager = Pager([source], limited=lambda step: step())
source.pull(1)
pager.view(120, 40)
pager.press(typed("G"))
while not source.is_whole:
    (one, wanted), = pager.growing
    one.pull(wanted)
    pager.view(120, 40)
pager.press(typed("b"))
pager.view(120, 40)
print(next(line for line in open("/proc/self/status") if line.startswith("VmHWM")).split()[1])
"""


def best(measure: Callable[[], float], times: int = 3) -> float:
    """Return the least of several measures."""
    return min(measure() for _ in range(times))


def head() -> float:
    """Return the seconds of ``head`` on an endless stream."""
    begun = time.perf_counter()
    subprocess.run(["sh", "-c", "yes 'frame of the night' | head -n 40"], check=True, stdout=subprocess.DEVNULL)
    return time.perf_counter() - begun


def first_screen() -> float:
    """Return the seconds from an endless stream to the first frame of it."""
    begun = time.perf_counter()
    with subprocess.Popen(["yes", "frame of the night"], stdout=subprocess.PIPE) as process:
        assert process.stdout is not None
        source = stream_of(open(os.dup(process.stdout.fileno()), "rb", buffering=0), "")  # noqa: SIM115 - closed with the source
        while source.data[:].count(b"\n") < 2 * ROWS:
            source.pull(source.count + 1)
        Pager([source], limited=lambda step: step()).view(COLUMNS, ROWS)
        took = time.perf_counter() - begun
        process.kill()
        source.close()
    return took


def mapped(path: str, needle: bytes) -> float:
    """Return the processor time of one pass of ``mmap.find``."""
    with open(path, "rb") as file, mmap.mmap(file.fileno(), 0, access=mmap.ACCESS_READ) as data:
        begun = time.process_time()
        data.find(needle)
        return time.process_time() - begun


def searched(path: str, needle: str) -> float:
    """Return the processor time of a search of the pager."""
    source = file_of(path, "")
    scan = Scan(Pieces(source.data), Needle(needle), 0, lambda step: step(), back=False)
    begun = time.process_time()
    while not scan.step() and not scan.has_reached_end:
        pass
    assert scan.hit is None
    return time.process_time() - begun


def ratio(path: str, needle: str, times: int) -> tuple[float, float, float]:
    """Return the seconds of a search, those of a pass of ``mmap.find``, and their ratio, as medians of pairs."""
    pairs = [(searched(path, needle), mapped(path, needle.encode())) for _ in range(times)]
    ours, baseline = (statistics.median(column) for column in zip(*pairs, strict=True))
    return ours, baseline, statistics.median(one / other for one, other in pairs)


def other_texts(rolled: random.Random) -> dict[str, str]:
    """Return a text of each kind."""
    prose = "".join(path.read_text() for path in sorted((ROOT / "docs").glob("*.md")))
    code = "".join(path.read_text() for path in sorted((ROOT / "src").glob("**/*.py")))
    log = "".join(
        f"2026-11-{rolled.randint(1, 30):02}T{rolled.randint(0, 23):02}:{rolled.randint(0, 59):02} INFO DOME"
        f"{rolled.randint(1, 9)} frame={rolled.randint(1, 9999)} Filter={rolled.choice(['Red', 'Blue'])} ok\n"
        for _ in range(20_000)
    )
    return {"prose": prose, "code": code, "log": log, "capitals": prose.upper(), "capitals of words": prose.title()}


def nowhere(text: str, rolled: random.Random) -> str:
    """Return one to four words of a text, in small letters, that are not in it together."""
    small = text.lower()
    words = small.split()
    while True:
        needle = " ".join(rolled.choices(words, k=rolled.randint(1, 4)))[:LONGEST]
        if needle not in small and needle.isascii():
            return needle


def held(size: int) -> float:
    """Return the most megabytes that a process has held after going to the end of a stream of a size."""
    command = f"yes 'frame of the night' | head -c {size} | {sys.executable} -c '{MEMORY}'"
    made = subprocess.run(["sh", "-c", command], check=True, capture_output=True, text=True)
    return int(made.stdout) / 1024


def page_key(path: str) -> float:
    """Return the microseconds of a page key and its frame, at random places of a file, the median of 300."""
    rolled = random.Random(1)
    source = file_of(path, "")
    pager = Pager([source], limited=lambda step: step())
    pager.view(COLUMNS, ROWS)
    took = []
    for _ in range(300):
        view = pager.text_view
        view.jump((view.pieces.start(rolled.randrange(source.count)), 0))
        pager.view(COLUMNS, ROWS)
        begun = time.perf_counter()
        pager.press(typed(" "))
        pager.view(COLUMNS, ROWS)
        took.append((time.perf_counter() - begun) * 1e6)
    return statistics.median(took)


def written(path: Path, block: bytes, size: int) -> str:
    """Write a file of at least a size from copies of a block."""
    with path.open("wb") as file:
        for _ in range(-(-size // len(block))):
            file.write(block)
    return str(path)


def main() -> None:
    """Print the figures."""
    baseline, ours = best(head, 9), best(first_screen, 9)
    print(f"first screen: {ours * 1000:.1f} ms, head {baseline * 1000:.1f} ms: {ours / baseline:.2f} (budget {BUDGET})")
    with tempfile.TemporaryDirectory() as folder:
        rolled = random.Random(1)
        block = "".join(" ".join(rolled.choices(WORDS, k=8)) + "\n" for _ in range(20_000)).encode()
        for name, text in (("", block), (" without capitals", block.lower())):
            path = written(Path(folder) / "night.log", text, 1 << 30)
            for needle in NEEDLES:
                ours, baseline, share = ratio(path, needle, 5)
                print(f"search{name} {needle!r}: {ours:.2f} s, mmap.find {baseline:.2f} s: ", end="")
                print(f"{share:.2f} (budget {BUDGET})")
            os.unlink(path)
        for name, other in other_texts(rolled).items():
            path = written(Path(folder) / "other", other.encode(), OTHER)
            shares = [ratio(path, nowhere(other, rolled), 3)[2] for _ in range(12)]
            print(f"search in {name}: median {statistics.median(shares):.2f}, most {max(shares):.2f}")
            os.unlink(path)
        small = page_key(written(Path(folder) / "small", b"frame of the night\n", 19 * 100))
        many = page_key(written(Path(folder) / "many", b"1\n" * 10_000, 200_000_000))
        long = page_key(written(Path(folder) / "long", b"frame of the night " * 10_000, 100_000_000))
        print(
            f"page key: {small:.0f} us in 100 lines; in 100,000,000: {many:.0f} us, {many / small:.2f} times; ", end=""
        )
        print(f"in a line of 100 MB: {long:.0f} us, {long / small:.2f} times")
    size = min(10 * 10**9, int(shutil.disk_usage(tempfile.gettempdir()).free * 0.8))
    few, all_of_it = held(10 * 10**6), held(size)
    print(f"memory: {few:.1f} MB after 10 MB, {all_of_it:.1f} MB after {size / 1e9:.0f} GB", end="")
    print(f" of stream: {all_of_it - few:+.1f} MB (budget {SAME_WITHIN:.0f})")


if __name__ == "__main__":
    main()
