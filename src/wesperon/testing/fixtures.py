"""The fixture of pytest; found by it through an entry point."""

from __future__ import annotations

import contextlib
import os
import re
from pathlib import Path

import pytest

from wesperon.testing.session import Session

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable, Iterator
    from typing import Any

    from wesperon.testing.session import Session


@pytest.fixture
def wesperon_session(request: pytest.FixtureRequest) -> Iterator[Callable[..., Session]]:
    """Open sessions, each of which ends with the next or with the test.

    ``session = wesperon_session(program, words)`` takes the arguments of ``wesperon.testing.Session``. The session has
    a further method: ``session.keep(name="")`` compares the screen with the one kept beside the test, in
    ``screens/TEST-NAME.txt``.
    """
    folder = Path(os.path.dirname(request.path)) / "screens"
    test = re.sub(r"[^\w-]+", "-", request.node.name).strip("-")
    with contextlib.ExitStack() as stack:

        def opened(*given: Any, **settings: Any) -> Session:
            stack.close()
            session: Any = Session(*given, **settings)
            session.keep = lambda name="": session.compare(folder / f"{test}{name and '-' + name}.txt")
            made: Session = stack.enter_context(session)
            return made

        yield opened
