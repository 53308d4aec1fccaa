"""The small kinds: sizes, percentages, ranges, modes, URLs, addresses, expressions, zones, days.

Modules: ``kinds``, ``values.kinds.sizes``, ``values.kinds.percents``, ``values.kinds.ranges``, ``values.kinds.modes``,
``values.kinds.urls``, ``values.kinds.emails``, ``values.kinds.json_values``, ``values.kinds.addresses``,
``values.kinds.uuids``, ``values.kinds.patterns``, ``values.kinds.zones``, ``values.kinds.registry``.
"""

from __future__ import annotations

import doctest
import ipaddress
import json
import re
import shutil
import stat
import subprocess
from datetime import date, datetime, timedelta
from fractions import Fraction
from pathlib import Path
from types import SimpleNamespace
from typing import Any
from uuid import UUID
from zoneinfo import ZoneInfo

import pytest
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.asking import ENTER, UP, ask
from wesperon import Complaint, Context, DeclarationError, Form, Problems, kinds, slot
from wesperon.completion.candidates import candidates
from wesperon.kinds import email, json_value, mode, percent, ranges, size, url
from wesperon.values.records import slots_of

JSON = st.recursive(
    st.booleans() | st.integers() | st.floats(allow_nan=False, allow_infinity=False) | st.text(),
    lambda inner: st.lists(inner | st.none()) | st.dictionaries(st.text(), inner | st.none()),
    max_leaves=6,
)
RANGES = st.builds(lambda first, count: range(first, first + count), st.integers(0, 999), st.integers(1, 99))
#: What each kind is declared with, and values of it.
VALUES: dict[str, tuple[Any, st.SearchStrategy[Any]]] = {
    "size": (size(), st.integers(0, 2**70) | st.integers(0, 4096).map(lambda count: count * 2**20)),
    "percent": (percent(), st.floats(-1e6, 1e6) | st.integers(0, 100).map(lambda count: count / 100)),
    "ranges": (ranges(), st.lists(RANGES, min_size=1).map(tuple)),
    "mode": (mode(), st.integers(0, 0o7777)),
    "url": (url(), st.sampled_from(["https://desk.example/a?b=c#d", "ftp://[2001:db8::7]:21/", "x-y://u@host"])),
    "email": (email(), st.sampled_from(["desk@hollin.example", "a.b+c@x-y.hollin.example"])),
    "json": (json_value(), JSON),
    "v4": (ipaddress.IPv4Address, st.ip_addresses(v=4)),
    "v6": (ipaddress.IPv6Address, st.ip_addresses(v=6)),
    "v4 network": (ipaddress.IPv4Network, st.integers(0, 2**24 - 1).map(lambda n: ipaddress.IPv4Network((n << 8, 24)))),
    "v6 interface": (ipaddress.IPv6Interface, st.ip_addresses(v=6).map(ipaddress.IPv6Interface)),
    "uuid": (UUID, st.uuids()),
    "pattern": (re.Pattern, st.sampled_from(["a+", "(?i)x", "[a-z]{2} ", r"\bk"]).map(re.compile)),
    "zone": (ZoneInfo, st.sampled_from(["Etc/UTC", "Etc/GMT+3"]).map(ZoneInfo)),
    "date": (date, st.dates()),
}


@settings(deadline=None, max_examples=40)
@given(data=st.data())
@pytest.mark.parametrize("name", VALUES)
def test_a_value_is_the_same_by_its_text_from_every_source(name: str, data: st.DataObject) -> None:
    kind, values = VALUES[name]
    form: Any = type("OneValue", (Form,), {"value": slot(kind, env="ONE_VALUE")})
    value = data.draw(values)
    record = form(value=value)
    assert form.fill(record.words(), asking="never") == record
    text = record.words()[0].partition("=")[2]
    if text.strip() and "\0" not in text and name != "pattern":
        given_by = form.fill([], asking="never", context=Context(environ={"ONE_VALUE": text}))
        assert given_by == record
    assert json.dumps(text)


@settings(deadline=None, max_examples=60)
@given(text=st.text() | st.text("0123456789.,-+%kKMGiIbBoO@:/[]{}()\"'*?"))
@example(text="[[a]")
@example(text="[a--b]")
@pytest.mark.parametrize("name", VALUES)
def test_any_text_is_a_value_or_a_complaint(name: str, text: str) -> None:
    one = slot(VALUES[name][0])
    fault, value = None, None
    try:
        value = one.parse(text)
    except Complaint as complaint:
        fault = complaint
    if fault is None:
        assert one.parse(one.format(value)) == value
    else:
        assert fault.reason
        assert fault.position is None or 0 <= fault.position <= len(text)


@settings(deadline=None, max_examples=40)
@given(st.integers(0, 10**6), st.sampled_from("KMGTPE"))
def test_sizes_are_those_of_the_system(count: int, letter: str) -> None:
    if shutil.which("numfmt") is None:
        pytest.skip("numfmt is not on this system")
    one = slot(size())
    for unit, base in ((letter, "iec"), (f"{letter}i", "iec-i"), (letter, "si")):
        said = subprocess.run(["numfmt", f"--from={base}", f"{count}{unit}"], capture_output=True, text=True)
        if said.returncode == 0 and "." not in said.stdout and len(said.stdout) < 19:
            ours = f"{count}{unit}B" if base != "iec" else f"{count}{unit}"
            assert one.parse(ours) == one.parse(ours.lower()) == int(said.stdout)


@settings(deadline=None, max_examples=30)
@given(st.integers(0, 0o777))
def test_modes_are_those_of_the_system(tmp_path_factory: pytest.TempPathFactory, bits: int) -> None:
    path = tmp_path_factory.getbasetemp() / "mode"
    path.write_text("")
    subprocess.run(["chmod", slot(mode()).format(bits), str(path)], check=True)
    assert stat.S_IMODE(path.stat().st_mode) == bits


@pytest.mark.parametrize(
    ("kind", "text", "value"),
    [
        (size(), "1.5G", 1_610_612_736),
        (size(), "4MiB", 4_194_304),
        (size(), "10 kb", 10_000),
        (size(), "512B", 512),
        (percent(), "25", 0.25),
        (percent(), "12.5 %", 0.125),
        (ranges(), "1-5, 8", (range(1, 6), range(8, 9))),
        (mode(), "0o755", 0o755),
        (mode(), "0644", 0o644),
    ],
)
def test_a_text_means(kind: Any, text: str, value: object) -> None:
    assert slot(kind).parse(text) == value


@pytest.mark.parametrize(
    ("kind", "text", "reason"),
    [
        (size(), "1.3K", '"1.3K" is no whole number of bytes'),
        (size(), "-3", '"-3" is not a size, such as 512, 10K, 1.5G'),
        (size(), "3x", '"3x" is not a size, such as 512, 10K, 1.5G'),
        (percent(), "half", '"half" is not a percentage, such as 25%'),
        (percent(), "nan", '"nan" is not a percentage, such as 25%'),
        (ranges(), "5-1", "5 is after 1: write 1-5"),
        (ranges(), "1,,2", '"1,,2" is not ranges of numbers, such as 1-5,8'),
        (mode(), "789", '"789" is not an octal mode, such as 644'),
        (mode(), "17777", '"17777" is not an octal mode, such as 644'),
        (email(), "desk", '"desk" is not an e-mail address, such as desk@hollin.example'),
        (email(), "de sk@a.example", '"de sk@a.example" is not an e-mail address, such as desk@hollin.example'),
        (json_value(), "null", "null is no value here: leave it out"),
        (json_value(), '{"a": 1, "a": 2}', 'is not a JSON value: "a" is in it twice'),
        (json_value(), "NaN", "is not a JSON value: NaN is no number of JSON"),
        (ipaddress.IPv4Address, "::1", '"::1" is not an IPv4 address, such as 192.0.2.7'),
        (date, "+9999999d", '"+9999999d" is not a date, such as 2031-04-17'),
        (date, "+999999w", '"+999999w" is beyond all dates'),
    ],
)
def test_a_bad_text_says_what_is_wrong(kind: Any, text: str, reason: str) -> None:
    with pytest.raises(Complaint) as caught:
        slot(kind).parse(text)
    assert caught.value.reason == reason


@given(st.integers(-400, 400), st.sampled_from("dw"), st.datetimes(datetime(1971, 1, 1), datetime(2100, 1, 1)))
def test_days_are_counted_from_today(count: int, unit: str, now: datetime) -> None:
    class Night(Form):
        day = slot(date)
        moment = slot(datetime, default=None)

    context = Context(clock=SimpleNamespace(time=now.timestamp, monotonic=lambda: 0.0))
    word = f"{count:+}{unit}"
    record = Night.fill([f"--day={word}", f"--moment={word}"], asking="never", context=context)
    assert record.day == now.date() + timedelta(days=count * (7 if unit == "w" else 1))
    assert record.moment == datetime.combine(record.day, datetime.min.time())
    for text, away in (("today", 0), ("Tomorrow", 1), ("yesterday", -1)):
        assert Night.fill([text], asking="never", context=context).day == now.date() + timedelta(days=away)
    german = Context(clock=context.clock, language="de")
    assert Night.fill(["morgen"], asking="never", context=german).day == now.date() + timedelta(days=1)


def test_bounds_and_steps_are_in_their_own_words() -> None:
    class Plan(Form):
        space = slot(size(), low=1024, high=2**31)
        share = slot(percent(), low=0.1, high=0.5)
        bits = slot(mode(), high=0o700)

    with pytest.raises(Problems) as caught:
        Plan.fill(["1", "60%", "777"], asking="never")
    assert [one.reason for one in caught.value] == [
        '"1" is too small: must be from 1K to 2G',
        '"60%" is too high: must be from 10% to 50%',
        '"777" is too high: must be at most 700',
    ]
    assert ask(slot(size(), initial=10 * 1024), UP, ENTER)[0] == 11 * 1024
    assert ask(slot(percent(), initial=0.25), UP, UP, ENTER)[0] == 0.27
    assert ask(slot(ipaddress.IPv4Address, initial=ipaddress.IPv4Address("192.0.2.255")), UP, ENTER)[0] == (
        ipaddress.IPv4Address("192.0.3.0")
    )


def test_a_kind_of_ones_own_has_bounds_and_steps_too() -> None:
    declared = slot(Fraction, low=Fraction(1, 3), high=Fraction(3, 4), step=Fraction(1, 6), text=str)
    assert declared.parse("1/2") == Fraction(1, 2)
    with pytest.raises(Complaint, match='"1/9" is too low: must be from 1/3 to 3/4'):
        declared.parse("1/9")
    assert ask(declared, UP, UP, ENTER)[0] == Fraction(1, 2)
    with pytest.raises(DeclarationError, match="step says nothing about Fraction: a kind of your own needs text="):
        slot(Fraction, step=Fraction(1, 6))
    with pytest.raises(DeclarationError, match="is no bound"):
        slot(lambda text: {"a": text}, low={"a": 1})
    with pytest.raises(Complaint, match="must be at least 2"):
        slot(Fraction, low=2).parse("1")


def test_files_name_them(tmp_path: Path) -> None:
    rows = {
        "size": '"4MiB"', "percent": '"25%"', "ranges": '"1-3"', "mode": '"644"', "url": '"https://a.example"',
        "email": '"a@b.example"', "json": "{a = [1, 2]}", "address": '"2001:db8::1"', "network": '"192.0.2.0/24"',
        "uuid": '"4b1c2f5e-6f0a-4c55-9c0e-2f1f0a7d9b31"', "pattern": '"a+"', "time-zone": '"Etc/UTC"',
    }  # fmt: skip
    declared = tmp_path / "desk.toml"
    declared.write_text("".join(f'[slots.{name.replace("-", "_")}]\nkind = "{name}"\n' for name in rows))
    answers = tmp_path / "answers.toml"
    answers.write_text("".join(f"{name.replace('-', '_')} = {value}\n" for name, value in rows.items()))
    record = Form.from_file(declared).fill([f"--answers={answers}"], asking="never")
    assert [*record][:7] == [
        4_194_304, 0.25, (range(1, 4),), 0o644, "https://a.example", "a@b.example", {"a": [1, 2]},
    ]  # fmt: skip
    assert record.address == ipaddress.ip_address("2001:db8::1")
    assert record.time_zone == ZoneInfo("Etc/UTC")


def test_zones_are_completed() -> None:
    class Place(Form):
        zone = slot(ZoneInfo)

    assert "Etc/UTC" in [one.text for one in candidates(slots_of(Place), [], "Etc/U")]


def test_the_examples_of_the_names() -> None:
    for name in kinds.__all__:
        text = getattr(kinds, name).__doc__
        example = doctest.DocTestParser().get_doctest(text, {**vars(kinds), "slot": slot}, name, None, None)
        assert example.examples
        assert doctest.DocTestRunner().run(example).failed == 0
