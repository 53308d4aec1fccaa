"""Testing programs built on Wesperon, with no terminal. Imports form and below.

``Session`` runs a program and lets a test type into it and read its screen, step by step; ``Scripted`` is a driver that
plays a list of events in one go. With pytest, the fixture ``wesperon_session`` opens sessions and compares screens with
kept ones.
"""

from __future__ import annotations

from wesperon.editing.keys.events import Paste, Resize
from wesperon.terminal.scripted import Press, Scripted
from wesperon.testing.session import Session

__all__ = ["Paste", "Press", "Resize", "Scripted", "Session"]
