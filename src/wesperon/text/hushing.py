"""Texts without a trace of a secret."""

from __future__ import annotations

from wesperon.text.escape import quoted, visible
from wesperon.text.messages import tell

#: What is shown in place of a secret.
MASK = "***"
#: So many characters of a secret in a row are a trace of it; one of no more than these is none but in quotes, since it
#: is in many a word or number.
TRACE, SHORT = 5, 2


def hushed(text: str, secret: str) -> str:
    """The text with the secret replaced wherever it is there as a whole, in any of the forms in which it is shown."""
    forms = [quoted(secret), quoted(secret, 20), repr(secret), f'"{visible(secret)}"']
    for form in [*forms, visible(secret), secret] if len(secret) > SHORT else forms:
        text = text.replace(form, tell("the given value"))
    return text


def repeats(text: str, secret: str) -> bool:
    """Whether there is a trace of the secret in the text: some characters of it in a row, or a short one as a word."""
    if len(secret) <= SHORT:
        return bool(secret.strip()) and (quoted(secret) in text or repr(secret) in text)
    if len(secret) < TRACE:
        return bool(secret.strip()) and secret in _words(text)
    found = text.casefold()
    return any(
        piece in found
        for form in {secret.casefold(), visible(secret).casefold()}
        for piece in {form[at : at + TRACE] for at in range(len(form) - TRACE + 1)}
        if piece.strip()
    )


def _words(text: str) -> set[str]:
    """The words of a sentence, with and without the marks around them."""
    found = text.split()
    return {*found, *(word.strip("\"'.,;:()[]") for word in found)}
