"""Right uses, with the types that a checker must see. Read by tests/types/test_types.py; nothing runs it."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from enum import Enum
from pathlib import Path
from typing import Annotated, Any, assert_type

from wesperon import (
    Command,
    CommandGroup,
    Complaint,
    Form,
    Slot,
    all_or_none,
    any_of,
    ask,
    at_least_one,
    confirm,
    exactly_one,
    fill,
    needs,
    one_of,
    run,
    slot,
)
from wesperon.kinds import percent, ranges, size
from wesperon.values.kinds.choices import OneOf


class Lamp(Enum):
    RED = 1


class Filter:
    name = ""


FILTERS = [Filter()]


class Exposure(Form):
    target = slot()
    frames = slot(int, low=1)
    seconds = slot(float, default=30.0)
    note = slot(default=None)
    count = slot(int, default=None)
    night = slot(date)
    gain = slot(Decimal, default=Decimal(1))
    folder = slot(Path, exists="folder")
    lamp = slot(Lamp)
    glass = slot(one_of(FILTERS, "name"))
    glasses = slot(any_of(FILTERS, "name"), default=())
    tags = slot(many=True)
    others = slot(rest=True)
    numbers = slot(int, many=True)
    dates = slot(date, rest=True)
    lines = slot(piped="stream")
    values = slot(int, piped="stream")
    wait = slot(int, default=lambda answers: 3)
    text = slot(default=lambda answers: "x")
    star = slot(applies=lambda answers: True)
    guide = slot(int, applies=lambda answers: True)
    offset = slot(int, default=0, applies=lambda answers: True)
    spots = slot(int, many=True, applies=lambda answers: True)
    depth = slot(float, low=lambda answers: 1.0, high=lambda answers: answers.seconds)
    start = slot(int, initial=3)
    maybe = slot(int, "How many?", initial=None, low=1)
    said = slot("What else?", initial=None)
    again = slot(Lamp, initial="last")
    pairs = slot(dict[str, int], many=True)
    named = slot(dict[str, float], default={"a": 1.5})
    asked = slot("Which one?", pattern="[a-z]+", pattern_says="small letters")
    several = slot("Which ones?", many=True)
    sometimes = slot("Which one then?", applies=lambda answers: True)
    filled = slot("Which one now?", default="x", section="Last")
    hidden = slot(int, help=False, default=1)
    old = slot(int, renamed_from=("older", "oldest"))
    where = slot(Path, exists="parent")

    def check(self) -> None:
        raise Complaint("no", slot=("start", "depth"))


class Park(Command):
    slowly = slot(bool, default=False)

    def run(self) -> None:
        assert_type(self.slowly, bool)


def use(record: Exposure) -> None:
    assert_type(record.target, str)
    assert_type(record.frames, int)
    assert_type(record.seconds, float)
    assert_type(record.note, str | None)
    assert_type(record.count, int | None)
    assert_type(record.maybe, int | None)
    assert_type(record.said, str | None)
    assert_type(record.night, date)
    assert_type(record.gain, Decimal)
    assert_type(record.folder, Path)
    assert_type(record.lamp, Lamp)
    assert_type(record.glass, Filter)
    assert_type(record.glasses, tuple[Filter, ...])
    assert_type(record.tags, tuple[str, ...])
    assert_type(record.others, tuple[str, ...])
    assert_type(record.numbers, tuple[int, ...])
    assert_type(record.dates, tuple[date, ...])
    assert_type(record.lines, Iterator[str])
    assert_type(record.values, Iterator[int])
    assert_type(record.wait, int)
    assert_type(record.text, str)
    assert_type(record.star, str | None)
    assert_type(record.guide, int | None)
    assert_type(record.offset, int)
    assert_type(record.spots, tuple[int, ...])
    assert_type(record.depth, float)
    assert_type(record.start, int)
    assert_type(record.again, Lamp)
    assert_type(record.pairs, dict[str, int])
    assert_type(record.named, dict[str, float])
    assert_type(record.asked, str)
    assert_type(record.several, tuple[str, ...])
    assert_type(record.sometimes, str | None)
    assert_type(record.filled, str)
    assert_type(record.hidden, int)
    assert_type(record.old, int)
    assert_type(record.where, Path)


def expose(target: str, seconds: Annotated[float, slot("Seconds each", low=0.1)] = 30.0, *notes: str) -> str:
    assert_type(seconds, float)
    assert_type(notes, tuple[str, ...])
    return target


def run_them() -> None:
    assert_type(expose("a", 5), str)
    assert_type(run(expose, ["a"], check=lambda values: None, review=True), int)
    assert_type(Command.from_function(expose, name="e", renamed_from="x"), type[Command])
    CommandGroup("group", "", [expose, Park, ("module:name", "summary", "old")])
    assert_type(fill(Exposure, None, name="plan", gate=None, prefixes=False, settings=True), Exposure)


assert_type(Exposure.fill(["x"]), Exposure)
assert_type(fill(Exposure, ["x"]), Exposure)
assert_type(fill(Exposure), Exposure)
loose = fill(frames=slot(int))
assert_type(loose.frames, Any)
frames, seconds = fill(["1", "2"], frames=slot(int), seconds=slot(float))


class Small(Form):
    target: Slot[str] = slot()
    frames: Slot[int] = slot(int, default=1)


assert_type(Small(), Small)  # what is missing is found where it runs
assert_type(Small(target="x"), Small)
assert_type(Small(target="x", frames=2).frames, int)


class Lamps(Form):
    lamp = slot()


assert_type(Lamps(lamp="x"), Lamps)  # without annotations, only one of the two checkers takes it


class Search(Form):
    level = slot(int, default=None, alone=3)
    loud = slot(bool, many=True)
    space = slot(size(), default=3)
    rows = slot(ranges())
    share = slot(percent(), default=0.5)
    pattern = slot(default=None)
    late = slot(int, default=lambda so_far: 3)
    source = exactly_one("level", "pattern")
    some = at_least_one("level", "pattern")
    both = all_or_none("level", "pattern")
    deep = needs("level", "pattern")


def look(search: Search) -> None:
    assert_type(search.level, int | None)
    assert_type(search.loud, int)
    assert_type(search.space, int)
    assert_type(search.rows, tuple[range, ...])
    assert_type(search.share, float)
    assert_type(search.late, int)
    assert_type(search.source, str | None)
    assert_type(search.some, tuple[str, ...])
    assert_type(search.both, bool)
    assert_type(search.deep, bool)
    assert_type(search.in_order(), list[tuple[str, Any]])


assert_type(ask("Target?"), str)
assert_type(ask("Frames?", int, unattended=3), int)
assert_type(ask("Space?", size(), low=1), int)
assert_type(confirm("Go on?", unattended=True), bool)
assert_type(one_of(["yes", "no"], by_key=True), OneOf[str])
