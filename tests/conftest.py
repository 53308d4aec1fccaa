"""What every test may use."""

from __future__ import annotations

pytest_plugins = ["pytester"]
