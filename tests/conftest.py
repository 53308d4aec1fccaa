"""What every test may use, and how much hypothesis tries: ``HYPOTHESIS_PROFILE=nightly`` tries far more."""

from __future__ import annotations

import os
import sys
import tempfile
from itertools import count

import pytest
from hypothesis import HealthCheck, settings

pytest_plugins = ["pytester"]

# A loaded machine is slow, not wrong: nothing here is judged by the clock.
settings.register_profile("default", deadline=None, max_examples=50, suppress_health_check=[HealthCheck.too_slow])
settings.register_profile("nightly", deadline=None, max_examples=2_000, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile(os.environ.get("HYPOTHESIS_PROFILE", "default"))

# Programs are run as users run them: their output is buffered, so that what cannot be written is known at the end only.
os.environ.pop("PYTHONUNBUFFERED", None)
# Hundreds of programs are started, and compile what they load once.
os.environ.pop("PYTHONDONTWRITEBYTECODE", None)

_homes = tempfile.TemporaryDirectory(prefix="wesperon-")
_numbers = count()


@pytest.fixture(autouse=True)
def own_folders(monkeypatch: pytest.MonkeyPatch) -> None:
    """Folders of the user that no other test, and no run before, has left anything in."""
    monkeypatch.setattr(sys, "argv", ["-c"])  # the words of the process are none, however the tests were started
    number = next(_numbers)
    for name in ("STATE", "CONFIG"):
        monkeypatch.setenv(f"XDG_{name}_HOME", f"{_homes.name}/{number}/{name.lower()}")
