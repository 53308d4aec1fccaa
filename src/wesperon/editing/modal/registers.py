"""Registers: where the modal family keeps what was deleted and copied, beside the ring of cuts, which has all of it.

========  ==========================================================
name      what it holds
========  ==========================================================
``a`` ..  what was put there by name; a capital adds to it
``0``     the last copy
``1`` ..  the last nine deletions of lines, or over a long way
``-``     the last deletion within a line
``"``     what was taken last, by whatever command: the newest of the ring
``.``     what was inserted last
``/``     what was searched for last
``_``     nothing: what is put there is gone
========  ==========================================================

A text of whole lines is a :class:`WholeLines`, of a block of columns a :class:`Block`; to the other family both are
texts.
"""

from __future__ import annotations

TYPE_CHECKING = False
if TYPE_CHECKING:
    from wesperon.editing.editor import Memory

#: The registers with a meaning of their own.
COPIED, SMALL, UNNAMED, INSERTED, SEARCHED, DISCARDING = "0", "-", '"', ".", "/", "_"
#: How many deletions are numbered.
NUMBERED = 9


class WholeLines(str):
    """A text of whole lines, each with its end, as a register keeps it."""


class Block(str):
    """The rows of a block of columns, with line ends between them."""


class Registers:
    """The registers in the ``memory`` that lines share."""

    def __init__(self, memory: Memory) -> None:
        self.memory = memory

    def text(self, name: str) -> str:
        """Return what a register holds; the newest of the ring without a name."""
        name, memory = name.lower(), self.memory
        if name in ("", UNNAMED):
            return memory.ring[-1] if memory.ring else ""
        return memory.needle if name == SEARCHED else memory.registers.get(name, "")

    def copied(self, text: str, name: str) -> None:
        """Keep what was copied."""
        self._keep(text, name or COPIED)

    def deleted(self, text: str, name: str, *, is_large: bool) -> None:
        """Keep what was deleted; ``is_large``: it had a line end, or its motion goes a long way."""
        if name == DISCARDING or not text:
            return
        named = name not in ("", UNNAMED)
        has_line_end = isinstance(text, WholeLines) or "\n" in text
        if named:
            self._keep(text, name)
        if is_large or has_line_end:
            registers = self.memory.registers
            for number in range(NUMBERED, 1, -1):
                if str(number - 1) in registers:
                    registers[str(number)] = registers[str(number - 1)]
            registers["1"] = text
        if not named:
            if not has_line_end:
                self.memory.registers[SMALL] = text
            self._remember(text)

    def _keep(self, text: str, name: str) -> None:
        if not text or name == DISCARDING:
            return
        registers = self.memory.registers
        if name.isalpha() and name.isupper():
            text = _joined(registers.get(name.lower(), ""), text)
        registers[COPIED if name == UNNAMED else name.lower()] = text
        self._remember(text)

    def _remember(self, text: str) -> None:
        """Make a text the newest of the ring."""
        self.memory.ring.add(text)


def _joined(old: str, new: str) -> str:
    """Return a text with another one added; of whole lines if one of them is."""
    if not isinstance(old, WholeLines) and not isinstance(new, WholeLines):
        return old + new
    lines = [part if not part or part.endswith("\n") else part + "\n" for part in (old, new)]
    return WholeLines("".join(lines))
