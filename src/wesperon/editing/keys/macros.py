"""Keys that were recorded, and are pressed again: what one line leaves to the next of them."""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Generator

    from wesperon.editing.keys.events import Key

#: How many keys one call plays at most, and how deep keys that play others may be nested.
MOST_PLAYED, DEEPEST = 10_000, 50


class Macros:
    """The recording that is on, if one is, and what was recorded before."""

    def __init__(self) -> None:
        #: The keys that were recorded last, and those in registers, each with the text that it had there.
        self.last: list[Key] = []
        self.in_registers: dict[str, tuple[str, list[Key]]] = {}
        #: The keys since a recording began, and the register that they are for; None if there is none.
        self.recording: list[Key] | None = None
        self.into = ""
        #: The register that was played last.
        self.played = ""
        #: How deep keys play others now, and how many more may be pressed.
        self.depth = self._left = 0

    def begin(self, into: str = "") -> None:
        """Begin to record, for a register or for none."""
        self.recording, self.into = [], into

    def note(self, key: Key) -> None:
        """Take a key that is pressed into the recording, if one is on."""
        if self.recording is not None:
            self.recording.append(key)

    def end(self, beyond: int) -> tuple[str, list[Key]] | None:
        """End the recording: its register and its keys but for the last ``beyond``, which said so; None if none is on.

        Without a register they are the last recorded.
        """
        recorded, into = self.recording, self.into
        self.recording, self.into = None, ""
        if recorded is None:
            return None
        keys = recorded[:-beyond] if beyond else recorded
        if not into:
            self.last = keys
        return into, keys

    def pressed_again(self, keys: list[Key], times: int) -> Generator[Key]:
        """Yield the ``keys`` as often as is said, one after the other; none of them is recorded.

        Keys that play themselves end after ``MOST_PLAYED``.
        """
        recording = self.recording
        self.recording = None
        self.depth += 1
        if self.depth == 1:
            self._left = MOST_PLAYED
        try:
            for key in keys * min(max(times, 0), MOST_PLAYED // max(len(keys), 1) + 1):
                self._left -= 1
                if self._left < 0 or self.depth > DEEPEST:
                    return
                yield key
        finally:
            self.depth -= 1
            if self.depth == 0 and recording is not None:
                self.recording = recording
