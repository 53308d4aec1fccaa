"""What a plain line must hold after some keys: a text and a cursor, and nothing of how it is drawn."""

from __future__ import annotations

from campaign.actions import EDITS, Action


class Text:
    """A text that is edited as people expect it."""

    def __init__(self) -> None:
        self.before = self.after = ""

    def take(self, action: Action) -> None:
        """Do what an action does to the text."""
        verb, *given = action
        if verb in ("type", "paste"):
            self.before += str(given[0])
        elif verb in ("bytes", "slow"):
            data = b"".join(piece for piece in given if isinstance(piece, bytes))
            while data:
                name = next(name for name, key in EDITS.items() if data.startswith(key))
                data = data.removeprefix(EDITS[name])
                getattr(self, name)()

    @property
    def whole(self) -> str:
        """The text."""
        return self.before + self.after

    def left(self) -> None:
        """Go one character back."""
        self.before, self.after = self.before[:-1], self.before[-1:] + self.after

    def right(self) -> None:
        """Go one character on."""
        self.before, self.after = self.before + self.after[:1], self.after[1:]

    def home(self) -> None:
        """To the beginning."""
        self.before, self.after = "", self.whole

    def end(self) -> None:
        """To the end."""
        self.before, self.after = self.whole, ""

    def backspace(self) -> None:
        """Delete the character before the cursor."""
        self.before = self.before[:-1]

    def delete(self) -> None:
        """Delete the character after it."""
        self.after = self.after[1:]

    def kill(self) -> None:
        """Delete to the end."""
        self.after = ""
