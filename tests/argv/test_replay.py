"""Promise 2: the words of a record give the same record, whatever else could fill its slots.

Modules: ``argv.replay``, ``values.records``.
"""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import Form, Problems, any_of, slot


class Night(Form):
    target = slot(default="HOLLIN-051", env="NIGHT_TARGET")
    frames = slot(int, default=3, env="NIGHT_FRAMES")
    seconds = slot(int, many=True, default=(30, 60), env="NIGHT_SECONDS")
    filters = slot(any_of(["Red", "Blue"]), default=("Red",), env="NIGHT_FILTERS")
    notes = slot(str, default=("one",), rest=True)
    guided = slot(bool, default=True, env="NIGHT_GUIDED")


RECORDS = st.builds(
    Night,
    target=st.text(st.characters(exclude_categories=["Cs"]), min_size=1).filter(str.strip),
    frames=st.integers(),
    seconds=st.lists(st.integers(), max_size=3).map(tuple),
    filters=st.sampled_from([(), ("Red",), ("Blue",), ("Red", "Blue")]),
    notes=st.lists(st.text(st.characters(exclude_categories=["Cs"]), min_size=1).filter(str.strip), max_size=3).map(
        tuple
    ),
    guided=st.booleans(),
)  # fmt: skip
ENVIRONMENT = st.dictionaries(
    st.sampled_from(["NIGHT_TARGET", "NIGHT_FRAMES", "NIGHT_SECONDS", "NIGHT_GUIDED"]),
    st.sampled_from(["1", "0", "yes"]),
)


@settings(deadline=None, max_examples=80)
@given(record=RECORDS, environment=ENVIRONMENT)
def test_replay_gives_the_same_record_in_any_environment(record: Night, environment: dict[str, str]) -> None:
    with pytest.MonkeyPatch.context() as patch:
        for name, text in environment.items():
            patch.setenv(name, text)
        assert Night.fill(record.words(), asking="never") == record


def test_replay_does_not_leave_out_what_a_settings_file_would_fill(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path))
    (tmp_path / "night").mkdir()
    (tmp_path / "night" / "settings.toml").write_text("frames = 9\nseconds = [1]\n")
    record = Night.fill(["--frames=3", "--seconds=30", "--seconds=60"], settings="night", asking="never")
    assert (record.frames, record.seconds) == (3, (30, 60))
    assert Night.fill(record.words(), settings="night", asking="never") == record


def test_a_number_that_cannot_be_written_is_no_value() -> None:
    with pytest.raises(Problems, match="digits: too many for a whole number here"):
        Night(frames=10**5000)
    with pytest.raises(Problems, match="digits: too many for a whole number here"):
        Night.fill(["--frames=" + "9" * 5000])
    assert Night(frames=10**4000).words() == ["--frames=1" + "0" * 4000]


def test_a_word_that_says_nothing_is_a_mistake_unless_it_means_no_values(tmp_path: Path) -> None:
    def fill(*words: str) -> Any:
        return Night.fill([*words, "--asking=never"])

    assert fill("--seconds=", "--filters=", "--notes=").words() == ["--seconds=", "--filters=", "--notes="]
    for words in (
        ["--target="],
        ["--frames="],
        ["--frames", ""],
        [""],
        ["x", ""],
        ["--seconds=1", "--seconds="],
        ["x", "1", "", "y"],
    ):
        with pytest.raises(Problems, match="is empty: must be"):
            fill(*words)
    (tmp_path / "a.json").write_text(json.dumps({"frames": 5, "target": ""}))
    assert fill(f"--answers={tmp_path / 'a.json'}").target == "HOLLIN-051"
    with pytest.raises(Problems, match="--answers is given more than once"):
        fill("--answers=-", f"--answers={tmp_path / 'a.json'}")
