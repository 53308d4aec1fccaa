"""Slots that go together, a choice by key, a question in a check, a last look: ``together.py [SOURCE OF NOISE]...``."""

from __future__ import annotations

import sys

from campaign.programs import noise
from wesperon import Form, all_or_none, ask, at_least_one, confirm, exactly_one, fill, needs, one_of, slot


class Search(Form, named_only=True):
    """Where to look for what."""

    pattern = slot(default=None, ask="Pattern")
    patterns = slot(many=True, ask="Patterns")
    number = slot(int, default=None, ask="Number")
    source = exactly_one("pattern", "patterns", "number")
    dome = slot(bool, default=False)
    mast = slot(default=None)
    where = at_least_one("dome", "mast")
    rows = slot(int, default=None)
    columns = slot(int, default=None)
    table = all_or_none("rows", "columns")
    deep = slot(bool, default=False)
    deeper = needs("number", "deep")
    lens = slot(one_of(["wide", "narrow", "all", "quit"], by_key=True), "Lens")

    def check(self) -> None:
        """Ask once more for a large number."""
        if self.number is not None and self.number > 9:
            confirm("So many?")


def main() -> None:
    """Ask, and print the answers."""
    noise.begin(sys.argv[1:])
    found = fill(Search, ["--asking=all"], resume=False, review=True)
    given = [found.pattern is not None, bool(found.patterns), found.number is not None]
    is_right = sum(given) == 1 and bool(found.dome or found.mast is not None)
    is_right = is_right and (found.rows is None) == (found.columns is None) and (found.number is None or found.deep)
    sys.stderr.write("" if is_right else f"Traceback: a rule is broken: {tuple(found)!a}\n")
    print("got", ascii(tuple(found)), flush=True)
    print("got", ascii(ask("Once more?", one_of(["yes", "no"], by_key=True))), flush=True)


if __name__ == "__main__":
    noise.tidy(main)
