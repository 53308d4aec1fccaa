"""Dates and times: what is taken is what RFC 3339 has, and the forms of the guide, in every version of Python.

Modules: ``values.kinds.dates``.
"""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
from datetime import UTC, date, datetime, time, timedelta, timezone
from pathlib import Path
from typing import Any

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from wesperon import Complaint
from wesperon.values.kinds.dates import DATE, DATE_TIME, TIME

KINDS: dict[str, Any] = {"date": DATE, "time": TIME, "date-time": DATE_TIME}
#: The productions of RFC 3339, 5.6; seconds may be left out, and a zone may be left out or have seconds.
FULL_DATE = r"(?P<year>[0-9]{4})-(?P<month>[0-9]{2})-(?P<day>[0-9]{2})"
PARTIAL_TIME = r"(?P<hour>[0-9]{2}):(?P<minute>[0-9]{2})(:(?P<second>[0-9]{2})(\.(?P<part>[0-9]+))?)?"
NUMBERS = r"(?P<hours>[0-9]{2}):(?P<minutes>[0-9]{2})(:(?P<seconds>[0-9]{2})(\.(?P<micro>[0-9]{6}))?)?"
OFFSET = rf"(?P<zone>[Zz]|(?P<sign>[+-]){NUMBERS})?"
FORMS = {"date": FULL_DATE, "time": PARTIAL_TIME + OFFSET, "date-time": f"{FULL_DATE}([Tt ]{PARTIAL_TIME}{OFFSET})?"}


def meant(name: str, text: str) -> Any:
    """Return what a text means by the productions; None if nothing."""
    found = re.fullmatch(FORMS[name], text)
    if found is None:
        return None
    given = found.groupdict()
    number = {key: int(value) for key, value in given.items() if value and key not in ("zone", "sign", "part")}
    try:
        zone = None
        if given.get("sign"):
            if number["minutes"] > 59 or number.get("seconds", 0) > 59:
                return None
            parts = (number["hours"], number["minutes"], number.get("seconds", 0))
            away = timedelta(hours=parts[0], minutes=parts[1], seconds=parts[2], microseconds=number.get("micro", 0))
            zone = timezone(-away if given["sign"] == "-" else away)
        elif given.get("zone"):
            zone = UTC
        clock = time(
            number.get("hour", 0),
            number.get("minute", 0),
            number.get("second", 0),
            int((given.get("part") or "0")[:6].ljust(6, "0")),
            zone,
        )
        if name == "time":
            return clock
        day = date(number["year"], number["month"], number["day"])
        return day if name == "date" else datetime.combine(day, clock)
    except ValueError:
        return None


DAYS = st.dates().map(str) | st.sampled_from(
    ["2031-02-30", "2031-13-01", "0000-01-01", "20310417", "2031-W16-4", "2031-107"]
)
CLOCKS = st.builds(
    "".join,
    st.tuples(
        st.sampled_from(["21:30", "00:00", "24:00", "23:60", "2130", "21", "9:05", "٢١:30"]),
        st.sampled_from(["", ":15", ":60", "15", ":1"]),
        st.sampled_from(["", ".5", ",5", ".123456789", "."]),
        st.sampled_from(
            ["", "Z", "z", "+02:00", "-00:00", "+0200", "+02", " +02:00", "+25:00", "+02:60", "+00:19:32", "Europe"]
        ),
    ),
)
TEXTS = st.one_of(
    DAYS, CLOCKS, st.builds("{}{}{}".format, DAYS, st.sampled_from(["T", "t", " ", "  ", "x", "_", ""]), CLOCKS)
)


@settings(max_examples=150)
@given(st.sampled_from(list(KINDS)), TEXTS, st.integers(0, 30), st.sampled_from(["", "0", ":", ".", " ", "-", "٣"]))
@example("time", "21.30", 99, "")
@example("date-time", "2031-04-17+02:00", 99, "")
def test_what_is_taken_is_what_the_standard_has(name: str, text: str, at: int, other: str) -> None:
    if at < len(text):
        text = text[:at] + other + text[at + 1 :]
    wanted = meant(name, text)
    try:
        value = KINDS[name].parse(text)
    except Complaint:
        assert wanted is None
    else:
        assert (value, value.isoformat()) == (wanted, wanted.isoformat())
        assert KINDS[name].parse(KINDS[name].format(value)) == value


@pytest.mark.parametrize("version", ["3.11", "3.12", "3.13", "3.14"])
def test_every_version_of_python_takes_the_same(version: str) -> None:
    python = shutil.which(f"python{version}")
    if python is None or subprocess.run([python, "-c", ""], check=False).returncode:
        pytest.skip(f"no Python {version}")
    texts = [
        "21:30",
        "24:00",
        "21.30",
        "21:30:15.1234567",
        "2031-04-17T21:30Z",
        "2031-04-17x21:30",
        "20310417",
        "2031-04-17",
    ]
    code = (
        "import json, sys; from wesperon.values.kinds.dates import DATE, DATE_TIME, TIME; made = []\n"
        "for text in json.loads(sys.argv[1]):\n for kind in (DATE, TIME, DATE_TIME):\n"
        "  try: made.append(str(kind.parse(text)))\n  except Exception as error: made.append(str(error))\n"
        "print(json.dumps(made))"
    )
    environ = {**os.environ, "PYTHONPATH": str(Path(sys.modules["wesperon"].__file__ or "").parents[1])}
    runs = [[one, "-c", code, json.dumps(texts)] for one in (sys.executable, python)]
    here, there = (subprocess.run(run, env=environ, capture_output=True, text=True, check=True).stdout for run in runs)
    assert json.loads(here) == json.loads(there)
