"""What has come of a stream, on disk: a private temporary file without a name, of which memory holds a window.

One thread adds to it while another reads; each knows its own place in the file.
"""

from __future__ import annotations

import os
import tempfile

from wesperon.files.file_view import SEEKING, FileView
from wesperon.files.private import write_all

TYPE_CHECKING = False
if TYPE_CHECKING:
    from typing import Any


class Spool:
    """Bytes that are added at the end; ``data`` is a view of those that are there."""

    def __init__(self) -> None:
        # It has no name where the system can do that, and is only the user's in any case.
        self._file: Any = tempfile.TemporaryFile(buffering=0)  # noqa: SIM115 - closed by close()
        self.data = FileView(os.dup(self._file.fileno()))
        self._written = 0

    def add(self, data: bytes) -> None:
        """Add bytes, all or none; raises OSError, such as for a full disk."""
        with SEEKING:
            os.lseek(self._file.fileno(), self._written, os.SEEK_SET)
            try:
                write_all(self._file.fileno(), data)
            except OSError:
                os.ftruncate(self._file.fileno(), self._written)
                raise
        self._written += len(data)
        self.data.resize(self._written)

    def close(self) -> None:
        """Give the disk back."""
        self._file.close()
        self.data.close()
