"""Tables of cases in data files: the rows of a test as Python expressions, in a JSON file of its module's name.

The first row has the names of the arguments.
"""

from __future__ import annotations

import datetime
import decimal
import fractions
import json
import pathlib
import zoneinfo
from collections.abc import Callable
from typing import Any

import pytest

import wesperon
from tests import asking
from wesperon import testing, values
from wesperon.editing.keys import events

#: What a row may name beside what is in the module of its test.
KNOWN = {
    name: getattr(module, name)
    for module in (datetime, decimal, fractions, pathlib, zoneinfo, wesperon, testing, values, events, asking)
    for name in dir(module)
    if name[0] != "_"
}


def tabled(test: Callable[..., None]) -> Any:
    """Run a test once for each row of its table."""
    table = pathlib.Path(test.__code__.co_filename).with_suffix(".json")
    names, *rows = json.loads(table.read_text("utf-8"))[test.__name__]
    space = {**KNOWN, **test.__globals__}
    cases = [pytest.param(*[eval(part, space) for part in row], id=" ".join(row)[:60]) for row in rows]
    return pytest.mark.parametrize(names, cases)(test)
