"""Adding a kind is one file and one entry: a kind of angles, and everything that follows from it."""

from __future__ import annotations

import sys
import types
from pathlib import Path
from typing import Any

import pytest

from tests.asking import ENTER
from wesperon import Form, Problems, slot
from wesperon.documents.set_schema import set_schema
from wesperon.testing import Press, Scripted
from wesperon.values import Complaint, quoted
from wesperon.values.kind import Kind
from wesperon.values.kinds import registry


class Angle:
    """An angle in degrees."""

    def __init__(self, degrees: float) -> None:
        self.degrees = degrees

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Angle) and other.degrees == self.degrees

    def __le__(self, other: Angle) -> bool:
        return self.degrees <= other.degrees

    def __lt__(self, other: Angle) -> bool:
        return self.degrees < other.degrees

    __hash__ = None  # type: ignore[assignment]


class AngleKind(Kind[Angle]):
    """Angles, such as ``12.5d``."""

    wanted = "an angle"
    example = "12.5d"
    placeholder = "ANGLE"
    bounded = "value"
    has_steps = True
    question = "spin"

    def parse(self, text: str) -> Angle:
        if text[-1:] != "d":
            raise Complaint(f"{quoted(text)} is not an angle, such as 12.5d", len(text))
        return Angle(float(text[:-1]))

    def format(self, value: Angle) -> str:
        return f"{value.degrees:g}d"

    def validate(self, value: Any) -> Angle:
        if isinstance(value, Angle):
            return value
        raise self.refused(value)

    def step_by(self, value: Angle, units: int, unit: Any = None) -> Angle:
        return Angle(value.degrees + units * (1 if unit is None else unit.degrees))

    def first(self, low: Angle | None, now: float) -> Angle:
        return low or Angle(0)


@pytest.fixture
def angle(monkeypatch: pytest.MonkeyPatch) -> None:
    module: Any = types.ModuleType("angles")
    module.ANGLE = AngleKind()
    module.Angle = Angle
    monkeypatch.setitem(sys.modules, "angles", module)
    monkeypatch.setattr(Angle, "__module__", "angles")
    entry = registry.KindEntry("angles:ANGLE", ("angles.Angle",))
    monkeypatch.setitem(registry.KINDS, "angle", entry)
    monkeypatch.setitem(registry.BY_TYPE, "angles.Angle", "angle")


@pytest.mark.usefixtures("angle")
def test_one_entry_gives_words_questions_files_bounds_replay_and_schema(tmp_path: Path) -> None:
    class Aim(Form):
        height = slot(Angle, low=Angle(10), high=Angle(90))

    assert Aim.fill(["45d"]).height == Angle(45)
    with pytest.raises(Problems, match="must be from 10d to 90d"):
        Aim.fill(["5d"], asking="never")
    driver = Scripted(["45", ENTER, "d", ENTER])
    assert Aim.fill([], driver=driver).height == Angle(45)
    assert any("is not an angle" in frame for frame in driver.frames)
    assert Aim.fill([], driver=Scripted([Press("up"), Press("up"), ENTER])).height == Angle(11)
    assert Aim(height=Angle(20)).words() == ["--height=20d"]
    path = tmp_path / "aim.toml"
    path.write_text('[slots.height]\nkind = "angle"\nlow = "10d"\n')
    assert Form.from_file(path).fill(["--height=30d"]).height == Angle(30)
    assert "angle" in str(set_schema())
