"""Files of values as sources of a form: the answers file, which may be standard input, and the settings file."""

from __future__ import annotations

from wesperon.context import current
from wesperon.scope import within
from wesperon.sources.files import read_file
from wesperon.sources.pipe import WAIT, gathered, nothing_came, patient

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.sources.files import ValuesFile


def opened(name: str, origin: str, waits: bool, timeout: float | None, *, hides: bool) -> ValuesFile | None:
    """Return a file of values; None if it is standard input, nothing came yet, and nobody ``waits``.

    ``hides``: what is in it may be a secret. Raises Problems if it cannot be read, or if nothing comes in ``timeout``
    seconds.
    """
    if not waits:
        stdin = gathered(WAIT)
        if stdin is None:
            return None
        with within(current().derive(stdin=stdin)):
            return read_file(name, origin, hides=hides)
    if timeout is None:
        return read_file(name, origin, hides=hides)
    with within(current().derive(stdin=patient(timeout))):
        try:
            return read_file(name, origin, hides=hides)
        except TimeoutError:
            raise nothing_came(None, timeout, origin) from None
