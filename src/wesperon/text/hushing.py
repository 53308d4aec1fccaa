"""Texts without a trace of a secret."""

from __future__ import annotations

from wesperon.text.escape import quoted, visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Sequence
    from typing import Any

#: What is shown in place of a secret.
MASK = "***"
#: So many characters of a secret in a row are a trace of it; one of no more than these is none but in quotes, since it
#: is in many a word or number.
TRACE, SHORT = 5, 2
#: Of a longer secret, only its two ends of this length are looked for, since messages cut the middle out.
END = 2_000


class Traces:
    """All traces of some secrets. To look for them takes time for the text that is searched, however many there are."""

    def __init__(self, secrets: Iterable[str]) -> None:
        self.pieces: set[str] = set()
        self.words: set[str] = set()
        self.quoted: set[str] = set()
        for secret in secrets:
            if len(secret) <= SHORT:
                self.quoted |= {quoted(secret), repr(secret)} if secret.strip() else set()
            elif len(secret) < TRACE:
                self.words |= {secret.strip()} - {""}
            else:
                for end in (secret,) if len(secret) <= 2 * END else (secret[:END], secret[-END:]):
                    for form in {end.casefold(), visible(end).casefold()}:
                        self.pieces |= {form[at : at + TRACE] for at in range(len(form) - TRACE + 1)}
        self.pieces = {piece for piece in self.pieces if piece.strip()}

    def are_in(self, text: str) -> bool:
        """Whether one of them is in the text: some characters in a row, or a short secret as a word."""
        found, words = text.casefold(), text.split()
        if any(found[at : at + TRACE] in self.pieces for at in range(len(found) - TRACE + 1)):
            return True
        bare = {word.strip("\"'.,;:()[]") for word in words}
        return not self.words.isdisjoint({*words, *bare}) or any(
            word.strip(".,;:()[]") in self.quoted for word in words
        )


def hushed(text: str, secret: str) -> str:
    """The text with the secret replaced wherever it is there as a whole, in any of the forms in which it is shown."""
    forms = [quoted(secret), quoted(secret, 20), repr(secret), f'"{visible(secret)}"']
    for form in [*forms, visible(secret), secret] if len(secret) > SHORT else forms:
        text = text.replace(form, tell("the given value"))
    return text


def hush_error(error: BaseException, secrets: Sequence[str]) -> BaseException:
    """The error without the secrets in what it says, and in what those before it say that lead to it.

    It is the error itself, changed; one whose text cannot be changed is replaced by another with the same name.
    """
    seen: set[int] = set()
    link: BaseException | None = error
    while link is not None and id(link) not in seen:
        seen.add(id(link))
        link.args = tuple([_without(part, secrets) for part in link.args])
        for name, part in list(getattr(link, "__dict__", {}).items()):
            if isinstance(part, str):
                link.__dict__[name] = _without(part, secrets)
        link = link.__cause__ or link.__context__
    try:
        text = str(error)
    except Exception:  # its own text fails, so nothing of it is shown
        return error
    if (shown := _without(text, secrets)) == text:
        return error
    made: BaseException = type(type(error).__name__, (Exception,), {})(shown)
    return made.with_traceback(error.__traceback__)


def _without(part: Any, secrets: Sequence[str]) -> Any:
    """A text with the secrets masked; anything else as it is."""
    if isinstance(part, str):
        for secret in secrets:
            if len(secret) > SHORT:
                for form in {secret, visible(secret), repr(secret)[1:-1]}:
                    part = part.replace(form, MASK)
    return part
