"""Texts without a trace of a secret.

A *trace* of a secret is a run of its characters, in any letter case: half of it, five at least and eight at most; of a
short one, the whole as a word of its own. What is hidden is the whole word with the trace in it, so that what is left
of it says nothing, and never a part of another word. Texts of the declaration (``kept``) are shown whatever they hold:
they say nothing of what was given.
"""

from __future__ import annotations

from wesperon.text.escape import quoted, visible
from wesperon.text.messages import tell

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Iterable, Iterator

#: What is shown in place of a secret.
MASK = "***"
#: The least and the most characters in a row that are a trace of a secret; one of no more than SHORT is a trace only in
#: quotes, since it is in many a word or number.
TRACE, LONGEST_TRACE, SHORT = 5, 8, 2
#: What is no border of a short secret that is a word of its own, beside letters and digits.
INSIDE = "-_"
#: Beside the three dots for what was cut out of a word, so many characters are a trace.
AT_CUT = 3
#: Of a longer secret only the two ends of this length are looked for beside the whole: messages cut the middle out.
END = 2_000
#: What a URL holds as it is (RFC 3986, 2.3), and between the parts of a path.
UNRESERVED = frozenset("abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789-._~/")
#: What may be around a word, and is no part of it.
AROUND = "\"'.,;:()[]{}<>=!?"


class Traces:
    """All traces of some secrets. To look for them takes time for the text that is searched, however many there are."""

    def __init__(self, secrets: Iterable[str]) -> None:
        #: Runs of characters, by their length; what is a trace as a word of its own only; what is one in quotes only.
        self.pieces: dict[int, set[str]] = {}
        self.words: dict[int, set[str]] = {}
        self.quoted: dict[int, set[str]] = {}
        #: Those of which only the ends are looked for in pieces.
        self.long: list[str] = []
        #: What may be left at the two sides of a cut.
        self.ends: set[str] = set()
        for secret in {*secrets}:
            if not secret.strip():
                continue
            if len(secret) > 2 * END:
                self.long.append(_folded(secret))
            for form in written(secret) if len(secret) <= 2 * END else written(secret[:END]) | written(secret[-END:]):
                if len(form) <= SHORT:
                    for quote in "\"'":
                        self.quoted.setdefault(len(form) + 2, set()).add(quote + form + quote)
                elif len(form) < TRACE:
                    self.words.setdefault(len(form), set()).add(form)
                else:
                    self._add(form)

    def _add(self, form: str) -> None:
        length = min(max(TRACE, (len(form) + 1) // 2), LONGEST_TRACE)
        pieces = self.pieces.setdefault(length, set())
        pieces |= {piece for at in range(len(form) - length + 1) if (piece := form[at : at + length]).strip()}
        self.ends |= {form[at : at + AT_CUT] for at in range(len(form) - AT_CUT + 1)}

    def __bool__(self) -> bool:
        return bool(self.pieces or self.words or self.quoted)

    def are_in(self, text: str, kept: Iterable[str] = ()) -> bool:
        """Return True if one of them is in the text, the texts of the declaration that are ``kept`` left aside."""
        return next(self.spans(text, kept), None) is not None

    def spans(self, text: str, kept: Iterable[str] = ()) -> Iterator[tuple[int, int]]:
        """Yield the words with a trace in them, each by its beginning and end in the text, in order."""
        folded = _folded(text)
        shown = _places(folded, kept)
        begin = end = -1
        for start, stop in sorted(self._found(text, folded)):
            if any(first <= start and stop <= last for first, last in shown):
                continue
            start, stop = _word_around(text, start, stop)
            if start > end:
                if end >= 0:
                    yield begin, end
                begin = start
            end = max(end, stop)
        if end >= 0:
            yield begin, end

    def _found(self, text: str, folded: str) -> Iterator[tuple[int, int]]:
        for secret in self.long:
            if (at := folded.find(secret)) >= 0:
                yield at, at + len(secret)
        yield from _runs(folded, self.pieces)
        yield from _runs(folded, self.quoted)
        for start, stop in _runs(folded, self.words):
            if not (_is_inside(folded, start, start - 1) or _is_inside(folded, stop - 1, stop)):
                yield start, stop
        cut = text.find("...") if self.ends else -1
        while cut >= 0:
            if folded[max(cut - AT_CUT, 0) : cut] in self.ends or folded[cut + 3 : cut + 3 + AT_CUT] in self.ends:
                yield max(cut - AT_CUT, 0), min(cut + 3 + AT_CUT, len(text))
            cut = text.find("...", cut + 3)


def written(secret: str) -> set[str]:
    """Return a text in the ways in which messages write it, without quotes and in lower case.

    As it is, with what is not printable made visible, as Python and JSON write texts and bytes, for a shell and a URL.
    """
    if UNRESERVED.issuperset(secret):  # all of them write it as it is
        return {_folded(secret), _folded(secret.replace("/", "%2F"))}
    import json

    data = secret.encode("utf-8", "surrogateescape" if secret.isprintable() else "backslashreplace")
    forms = {secret, secret.strip(), visible(secret), repr(secret)[1:-1], ascii(secret)[1:-1], repr(data)[2:-1]}
    forms |= {json.dumps(secret, ensure_ascii=only)[1:-1] for only in (False, True)}
    forms |= {repr('"' + secret)[2:-1], secret.replace("'", "'\"'\"'"), quoted(secret)[1:-1]}
    for kept in (UNRESERVED, UNRESERVED - {"/"}):
        url = "".join([chr(byte) if chr(byte) in kept else f"%{byte:02x}" for byte in data])
        forms |= {url, url.replace("%20", "+")}
    return {_folded(form) for form in forms if form}


def _runs(text: str, wanted: dict[int, set[str]]) -> Iterator[tuple[int, int]]:
    """Yield where one of these texts is in a text, by their lengths."""
    for length, texts in wanted.items():
        for at in range(len(text) - length + 1):
            if text[at : at + length] in texts:
                yield at, at + length


def _is_inside(text: str, own: int, other: int) -> bool:
    """Return True if two neighbours in a text, one that is outside of it left aside, belong to one word."""
    if not 0 <= other < len(text):
        return False
    return all(char.isalnum() or char in INSIDE for char in (text[own], text[other]))


def hidden(text: str, traces: Traces, instead: str = MASK, kept: Iterable[str] = ()) -> str:
    """Return the text with ``instead`` for each word that has a trace of a secret in it.

    Quotes around it go with it.
    """
    parts: list[str] = []
    end = 0
    for start, stop in traces.spans(text, kept):
        if start and stop < len(text) and text[start - 1] == text[stop] and text[stop] in "\"'":
            start, stop = start - 1, stop + 1
        parts += [text[end:start], instead]
        end = max(stop, end)
    shown = "".join(parts) + text[end:]
    while f"{instead} {instead}" in shown:  # a secret of several words
        shown = shown.replace(f"{instead} {instead}", instead)
    return shown


def hushed(text: str, secret: str, kept: Iterable[str] = ()) -> str:
    """Return the text without a trace of a value that was given; in its place is that there is one."""
    instead = tell("the given value")
    for form in [quoted(secret), quoted(secret, 20), repr(secret), f'"{visible(secret)}"']:
        text = text.replace(form, instead)
    return hidden(text, Traces([secret]), instead, [*kept, instead])


def _folded(text: str) -> str:
    """Return the text in lower case, each character in its place."""
    lower = text.lower()
    if len(lower) == len(text):
        return lower
    return "".join([char if len(char.lower()) > 1 else char.lower() for char in text])


def _places(folded: str, kept: Iterable[str]) -> list[tuple[int, int]]:
    """Return where texts that are shown anyway are in a text, as words of their own."""
    places = []
    for text in kept:
        wanted = _folded(text)
        at = folded.find(wanted) if wanted.strip() else -1
        while at >= 0:
            end = at + len(wanted)
            if not (at and folded[at - 1].isalnum() and wanted[0].isalnum()) and not (
                end < len(folded) and folded[end].isalnum() and wanted[-1].isalnum()
            ):
                places.append((at, end))
            at = folded.find(wanted, at + 1)
    return places


def _word_around(text: str, start: int, end: int) -> tuple[int, int]:
    """Return the whole of the word, or words, in which a part of a text is."""
    while start and not _is_border(text, start - 1):
        start -= 1
    while end < len(text) and not _is_border(text, end):
        end += 1
    return start, end


def _is_border(text: str, at: int) -> bool:
    """Return True if a character is around a word; the three dots for what was cut out of one are in it."""
    char = text[at]
    if char == "." and "..." in text[max(at - 2, 0) : at + 3]:
        return False
    return char.isspace() or char in AROUND
