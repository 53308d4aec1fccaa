r"""From bytes to events: the decoder of keys.

A terminal sends the text that a key types, or a control character, or a sequence that begins with ESC. The decoder is
a state machine that takes any piece of that stream and gives the events that are complete; how the stream is cut into
pieces makes no difference. Its states, after ECMA-48 (5.3, 5.4) and the practice of terminals:

    state     entered by          left by
    GROUND    -                   a byte: a control character, the first of a character in UTF-8, or ESC
    ESCAPE    ESC                 [ to CSI; O to SS3; ] P X ^ _ to STRING; ESC is one Escape and a new start;
                                  else the key that follows, with Alt
    CSI       ESC [               a final byte, 4/0 to 7/14; parameters and intermediates are kept; a byte that cannot
                                  be in a sequence ends it unread. ESC [ [ and one more byte is a function key of a
                                  console, and $ after a number alone ends a sequence too, with Shift
    SS3       ESC O               the next byte, parameters aside
    STRING    ESC ] P X ^ _       BEL or ESC \ (ST): the string is junk here; Ctrl-C, which is none of its characters
    PASTE     CSI 200 ~           CSI 201 ~: everything between is text

Sequences that mean no key are junk and give no event. Bytes that are no UTF-8 give U+FFFD, one for each faulty part.
Whether an ESC with nothing after it is the Escape key only time can tell, and so it is with a string that does not end
and a character of which bytes are missing: the driver waits for ``timeout`` and then calls :meth:`Decoder.flush`.
"""

from __future__ import annotations

from wesperon.editing.graphemes import after
from wesperon.editing.keys.events import Focus, Key, Mouse, NoEscape, Paste, Position, typed
from wesperon.editing.keys.resolver import with_alt

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable

    from wesperon.editing.keys.events import Event

#: What begins a sequence; and what ends one of function keys, though it is no final byte (ECMA-48, 5.4).
ESC, DOLLAR = 0x1B, 0x24
PASTE_END = b"\x1b[201~"

#: Control characters with a key of their own name; the others are Ctrl and a letter.
CONTROLS = {0x09: "tab", 0x0D: "enter", 0x7F: "backspace", 0x00: "ctrl-space"}
for _code in range(1, 0x20):
    CONTROLS.setdefault(_code, "ctrl-" + chr(_code | 0x60) if _code < 0x1B else "ctrl-" + chr(_code | 0x40))

#: The final byte of CSI and SS3 sequences to the key.
FINALS = {
    "A": "up", "B": "down", "C": "right", "D": "left", "H": "home", "F": "end", "E": "middle",
    "P": "f1", "Q": "f2", "R": "f3", "S": "f4", "Z": "shift-tab", "M": "enter", "I": "tab",
}  # fmt: skip

#: The first parameter of CSI sequences with the final byte ``~`` to the key.
NUMBERED = {
    1: "home", 2: "insert", 3: "delete", 4: "end", 5: "page-up", 6: "page-down", 7: "home", 8: "end",
    11: "f1", 12: "f2", 13: "f3", 14: "f4", 15: "f5", 17: "f6", 18: "f7", 19: "f8", 20: "f9", 21: "f10",
    23: "f11", 24: "f12", 25: "f13", 26: "f14", 28: "f15", 29: "f16", 31: "f17", 32: "f18", 33: "f19", 34: "f20",
}  # fmt: skip

#: Other final bytes after a number from that table, with the modifiers that they mean.
FINALS_WITH_MODIFIERS = {"^": "ctrl-", "$": "shift-", "@": "ctrl-shift-"}
#: Small letters as final bytes are cursor keys too: with Shift after CSI, with Ctrl after SS3.
SMALL = {"a": "up", "b": "down", "c": "right", "d": "left"}
#: The final byte of ``CSI [`` to the key.
CONSOLE = {"A": "f1", "B": "f2", "C": "f3", "D": "f4", "E": "f5"}
#: The final byte of SS3 to the character of the number pad.
PAD = {"j": "*", "k": "+", "l": ",", "m": "-", "n": ".", "o": "/", "X": "="}
for _code in range(10):
    PAD[chr(0x70 + _code)] = str(_code)

#: The low bits of a mouse report to the button, those from 64 on to the wheel, and the bits of its modifiers.
BUTTONS = {0: "left", 1: "middle", 2: "right", 64: "wheel-up", 65: "wheel-down"}
MOUSE_MODIFIERS = ((16, "ctrl-"), (8, "alt-"), (4, "shift-"))

#: The bits of the second parameter, less one, that name a modifier.
MODIFIERS = ((4, "ctrl-"), (2, "alt-"), (1, "shift-"))

#: A sequence longer than this is junk, whatever it ends with.
LONGEST = 64
#: The kind of event that is the release of a key.
RELEASED = 3
#: How long an ESC may wait for what follows, in seconds: it is a key of its own, and nobody likes to wait for that.
#: Once a sequence has begun (ESC [, ESC O) hardly anything else is meant, and on a slow line its bytes come one by one:
#: to take an arrow for text would put that into the line. A string for its end, or a character for its other bytes,
#: which no key begins, may take longer still.
#: After its first parameter nothing else can be meant at all.
ESCAPE_WAIT, SEQUENCE_WAIT, BEGUN_WAIT, TEXT_WAIT = 0.025, 1.0, 5.0, 1.0
INTERRUPT = 0x03
#: What begins a sequence after ESC; and the same where keys are commands, in which Escape and O are two of them.
OPENERS, OPENERS_OF_COMMANDS = b"[O", b"["


class Decoder:
    """Turns the bytes that a terminal sends into events."""

    def __init__(self) -> None:
        self._rest = b""
        self._pasting = False
        self._pasted: list[bytes] = []
        self._in_string = False
        #: The key that begins a string, as long as nothing of the string has come.
        self._opener = ""
        #: Whether the last event was an Escape that nothing followed in time, and whether the rest of a sequence has
        #: come after that.
        self.has_escaped = self._is_late = False
        #: What may come after an Escape that was the beginning of a sequence.
        self.openers = OPENERS
        #: How many position reports are still to come; until then ``CSI row ; column R`` is one, and no key.
        self.reports = 0

    @property
    def is_pending(self) -> bool:
        """Whether the bytes so far end inside a sequence, so that time may have to decide."""
        return bool(self._rest or self._in_string) and not self._pasting

    @property
    def timeout(self) -> float:
        """How long to wait for more while something is pending, in seconds."""
        if self._opener:
            return ESCAPE_WAIT
        if self._rest[:1] == b"\x1b" and not self._in_string:
            if self._rest.strip(b"\x1b") == b"":
                return ESCAPE_WAIT
            return SEQUENCE_WAIT if len(self._rest) == 2 else BEGUN_WAIT
        return TEXT_WAIT

    @property
    def is_inside(self) -> bool:
        """Whether the bytes so far end inside anything at all."""
        return bool(self._rest) or self._pasting or self._in_string

    def feed(self, data: bytes) -> list[Event]:
        """Return the events that the bytes complete."""
        events: list[Event] = []
        if self.has_escaped and data:
            self.has_escaped = False
            if data[0] in self.openers:  # so the Escape was the beginning of a key, on a slow line
                self._is_late = True
                data = b"\x1b" + data
        data = self._rest + data
        self._rest = b""
        at = 0
        while at < len(data):
            if self._pasting:
                end = data.find(PASTE_END, at)
                if end < 0:
                    kept = _partial(data, at, PASTE_END)
                    self._pasted.append(data[at : len(data) - kept])
                    self._rest = data[len(data) - kept :]
                    return events
                self._pasted.append(data[at:end])
                events.append(self._paste())
                at = end + len(PASTE_END)
            elif self._in_string:
                at = self._string(data, at)
                if at < 0:
                    return events
            else:
                before = len(events)
                following = self._one(data, at, events)
                if following < 0:
                    self._rest = data[at:]
                    return events
                at = following
                if self._is_late:
                    self._is_late = False
                    events.insert(before, NoEscape())
        return events

    def flush(self) -> list[Event]:
        """Return the events for what is pending, now that nothing follows: Escape, or a cut-off sequence as it is."""
        rest, self._rest = self._rest, b""
        if self._in_string and not self._pasting:
            self._in_string = False
            return [Key(self._opener)] if self._opener and not rest else []
        if not rest or self._pasting:
            self._rest = rest
            return []
        if rest[0] != ESC:
            return [typed("\ufffd")]
        is_late, self._is_late = self._is_late, False
        if is_late:
            return [typed(char) for char in rest[1:].decode("ascii", "replace")]
        if len(rest) == 1:
            self.has_escaped = True
            return [Key("escape")]
        if rest in (b"\x1b[", b"\x1bO"):
            return [Key("alt-" + chr(rest[1]))]
        if rest == b"\x1b\x1b":
            return [Key("escape"), Key("escape")]
        return []

    @property
    def is_pasting(self) -> bool:
        """Whether the end of a paste has not come yet."""
        return self._pasting

    def break_off(self) -> list[Event]:
        """End a paste whose end does not come; what came of it."""
        self._pasted.append(self._rest)
        self._rest = b""
        return [self._paste()] if self._pasting else []

    def _paste(self) -> Paste:
        self._pasting = False
        text = b"".join(self._pasted).decode("utf-8", "replace")
        self._pasted.clear()
        # Terminals send a carriage return for each end of line that is pasted.
        return Paste(text.replace("\r\n", "\n").replace("\r", "\n"))

    def _string(self, data: bytes, at: int) -> int:
        """Skip a control string; the place after it, or -1 if its end has not come."""
        self._opener = ""
        for place in range(at, len(data)):
            if data[place] == INTERRUPT:
                self._in_string = False
                return place
            if data[place] == 0x07 or (data[place] == ESC and data[place + 1 : place + 2] == b"\\"):
                self._in_string = False
                return place + (1 if data[place] == 0x07 else 2)
            if data[place] in (0x18, 0x1A) or (data[place] == ESC and place + 1 < len(data)):
                self._in_string = False  # cancelled, or cut off by another sequence
                return place + (data[place] != ESC)
        self._rest = b"\x1b" if data[-1] == ESC else b""
        return -1

    def _one(self, data: bytes, at: int, events: list[Event]) -> int:
        """Decode what begins at a place; the place after it, or -1 if more is needed."""
        byte = data[at]
        if byte >= 0x80:
            return _character(data, at, events)
        if byte != ESC:
            events.append(Key(CONTROLS[byte]) if byte < 0x20 or byte == 0x7F else typed(chr(byte)))
            return at + 1
        if at + 1 >= len(data):
            return -1
        follower = data[at + 1]
        if follower == 0x5B:  # [
            return self._control_sequence(data, at, events)
        if follower == 0x4F:  # O
            return _single_shift(data, at, events)
        if follower in b"]PX^_":
            self._in_string = True
            self._opener = "alt-" + chr(follower)
            return at + 2
        if follower == ESC:
            if at + 2 >= len(data):
                return -1
            events.append(Key("escape"))
            return at + 1
        inner: list[Event] = []
        following = self._one(data, at + 1, inner)
        events.extend(with_alt(event) for event in inner if isinstance(event, Key))
        return following

    def _control_sequence(self, data: bytes, at: int, events: list[Event]) -> int:
        """Decode CSI and what follows (ECMA-48, 5.4): parameters, then a final byte that says what they mean."""
        end = at + 2
        while end < len(data) and 0x20 <= data[end] < 0x40 and end - at < LONGEST:
            if data[end] == DOLLAR and data[at + 2 : end].isdigit():
                break
            end += 1
        if end >= len(data):
            return -1
        final = data[end]
        if not 0x40 <= final < 0x7F and final != DOLLAR:
            return end if final < 0x20 or final >= 0x7F else end + 1
        inside = data[at + 2 : end]
        for is_meant, finals, decode in SEQUENCES:
            if (not finals or final in finals) and is_meant(self, inside):
                return decode(self, data, end, inside, events)
        return end + 1

    def _begin_paste(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        self._pasting = True
        return end + 1

    def _old_mouse(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        """Skip a mouse report in the first form: three bytes follow, which may be any."""
        return end + 4 if end + 3 < len(data) else -1

    def _position(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        self.reports -= 1
        row, column = (int(part[:6]) if part.isdigit() else 1 for part in inside.split(b";")[:2])
        events.append(Position(row - 1, column - 1))
        return end + 1

    def _console_key(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        """Decode a function key of the Linux console, which ends one byte later."""
        if end + 1 >= len(data):
            return -1
        name = CONSOLE.get(chr(data[end + 1]))
        events.extend([Key(name)] if name else [])
        return end + 2 if 0x20 <= data[end + 1] < 0x7F else end + 1

    def _mouse(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        _mouse(inside[1:], data[end] == 0x4D, events)
        return end + 1

    def _focus(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        events.append(Focus(data[end] == 0x49))
        return end + 1

    def _key(self, data: bytes, end: int, inside: bytes, events: list[Event]) -> int:
        _key(inside, chr(data[end]), events)
        return end + 1


#: What a control sequence means: what is inside, the final bytes (empty for any), and what decodes it. The first that
#: fits is meant: a report that was asked for goes before a key of the same form.
SEQUENCES: tuple[
    tuple[Callable[[Decoder, bytes], object], bytes, Callable[[Decoder, bytes, int, bytes, list[Event]], int]], ...
] = (
    (lambda decoder, inside: inside == b"200", b"~", Decoder._begin_paste),
    (lambda decoder, inside: not inside, b"M", Decoder._old_mouse),
    (lambda decoder, inside: decoder.reports and b";" in inside, b"R", Decoder._position),
    (lambda decoder, inside: not inside, b"[", Decoder._console_key),
    (lambda decoder, inside: inside[:1] == b"<", b"Mm", Decoder._mouse),
    (lambda decoder, inside: not inside, b"IO", Decoder._focus),
    (
        lambda decoder, inside: inside in (b"", b"?") or inside[:1].isdigit() or inside[:1] == b";",
        b"",
        Decoder._key,
    ),
)


def _key(inside: bytes, final: str, events: list[Event]) -> None:
    """Add the key that a control sequence with these parameters and final byte means, if there is one.

    A parameter may have parts after colons (ECMA-48, 5.4.2): those of a code are what it is with Shift, and on the
    standard layout; that of the modifiers is 1 for a press, 2 for one that repeats, 3 for a release, which is no key.
    """
    parts = [[int(one[:6]) if one.isdigit() else 0 for one in part.split(b":")] for part in inside.split(b";")]
    numbers = [part[0] for part in parts]
    if len(parts) > 1 and parts[1][1:2] == [RELEASED]:
        return
    if final == "u" and inside:
        shifted, standard = (*parts[0], 0, 0)[1:3]
        code, mask = numbers[0], (*numbers, 1)[1]
        if standard and code > 0x7F and (mask - 1) & 6:  # Ctrl and Alt mean the key, whatever its alphabet
            code, shifted = standard, 0
        events.extend(_with_modifiers(code, max(mask - 1, 0), shifted))
    elif final == "~" and numbers[0] == 27 and len(numbers) == 3:  # the older form of the same
        events.extend(_with_modifiers(numbers[2], max(numbers[1] - 1, 0)))
    elif final != "u" and not (final in "MIZ" and inside):
        named = _named(inside, final, numbers)
        events.extend([] if named is None else [Key(named)])


def _named(inside: bytes, final: str, numbers: list[int]) -> str | None:
    """Return the name of a key that types nothing, by the final byte or by its first number; None if it has none."""
    mask = max(numbers[1] - 1, 0) if len(numbers) > 1 else 0
    if final in FINALS_WITH_MODIFIERS:
        name, prefix = NUMBERED.get(numbers[0]), FINALS_WITH_MODIFIERS[final]
    elif final in SMALL and not inside:
        name, prefix = SMALL[final], "shift-"
    elif final == "~":
        name, prefix = NUMBERED.get(numbers[0]), _prefix(mask)
    elif len(numbers) == 1 and 1 < numbers[0] <= 16:  # some terminals send the modifiers alone: CSI 5 C
        name, prefix = FINALS.get(final), _prefix(numbers[0] - 1)
    else:
        name, prefix = FINALS.get(final) if numbers[0] in (0, 1) else None, _prefix(mask)
    return None if name is None else prefix + name


def _prefix(mask: int) -> str:
    """Return the modifiers of a mask, as they are before the name of a key."""
    return "".join(word for bit, word in MODIFIERS if mask & bit)


def _with_modifiers(code: int, mask: int, capital: int = 0) -> list[Event]:
    """Return the key of a character's code with modifiers, as terminals send it that are asked to tell all of them.

    ``capital`` is the code of what the key types with Shift; 0 if the terminal does not say.
    """
    if code < 0x20 or code == 0x7F or code > 0x10FFFF or 0xD800 <= code < 0xF900:
        name = "escape" if code == ESC else CONTROLS.get(code, "")
        plain = name if name in ("escape", "tab", "enter", "backspace") else ""
    else:
        plain = typed(chr(code)).name
    if not plain:
        return []
    if mask & 1 and capital >= 0x20 and not 0x7F <= capital < 0xA0 and not 0xD800 <= capital < 0xE000:
        plain = chr(capital) if capital <= 0x10FFFF else plain
        mask &= ~1
    shifted = mask & 1 and len(plain) == 1
    if shifted and not mask & 6:
        return [typed(plain.upper())]
    prefix = "".join(word for bit, word in MODIFIERS if mask & bit and not (shifted and bit == 1))
    if not prefix:
        return [typed(plain if len(plain) == 1 else chr(code)) if code >= 0x20 and code != 0x7F else Key(plain)]
    if shifted and not mask & 4:
        plain = plain.upper()
    return [Key(prefix + plain)]


def _mouse(inside: bytes, pressed: bool, events: list[Event]) -> None:
    """Add what a mouse report says: its button and modifiers, column and row."""
    numbers = [int(part[:6]) for part in inside.split(b";") if part.isdigit()]
    if len(numbers) != 3:
        return
    code, column, row = numbers
    button = BUTTONS.get(code & 0b11000011)
    if button is None or column < 1 or row < 1:
        return
    prefix = "".join(word for bit, word in MOUSE_MODIFIERS if code & bit)
    action = "drag" if code & 32 else "press" if pressed else "release"
    events.append(Mouse(prefix + button, action, row - 1, column - 1))


def _single_shift(data: bytes, at: int, events: list[Event]) -> int:
    """Decode ESC O and what follows: cursor and function keys in application mode."""
    if at + 2 >= len(data):
        return -1
    end = at + 2
    while end < len(data) and data[end] in b"0123456789;" and end - at < LONGEST:
        end += 1
    if end >= len(data):
        return -1
    if end == at + 2 and chr(data[end]) in PAD:
        events.append(typed(PAD[chr(data[end])]))
        return end + 1
    if end == at + 2 and chr(data[end]) in SMALL:
        events.append(Key("ctrl-" + SMALL[chr(data[end])]))
        return end + 1
    if 0x40 <= data[end] < 0x7F:
        _key(b"1;" + data[at + 2 : end] if end > at + 2 else b"", chr(data[end]), events)
        return end + 1
    return end


def _character(data: bytes, at: int, events: list[Event]) -> int:
    """Decode one character of UTF-8 (RFC 3629); the place after it, or -1 if more is needed."""
    first = data[at]
    length = 2 if 0xC2 <= first < 0xE0 else 3 if first & 0xF0 == 0xE0 else 4 if 0xF0 <= first < 0xF5 else 1
    for size in range(length, 0, -1):
        piece = data[at : at + size]
        try:
            text = piece.decode("utf-8")
        except UnicodeDecodeError as error:
            if error.reason == "unexpected end of data" and at + length > len(data) and size == length:
                return -1
            if size == length:
                events.append(typed("\ufffd"))
                return at + max(error.end - error.start, 1)
        else:
            end = at + size
            if end < len(data) and data[end] >= 0x80:
                text, end = _cluster(text, data, end)
            events.append(typed(text))
            return end
    return at + 1


def _cluster(text: str, data: bytes, at: int) -> tuple[str, int]:
    """Return a character with those after it that make one with it, as far as they have come; the place after them.

    To put them in one by one, in front of others, would join them with those.
    """
    following = data[at : at + LONGEST].decode("utf-8", "ignore")
    end = after(text + following, 0)
    more = (text + following)[len(text) : end].encode()
    return (text + more.decode(), at + len(more)) if data[at : at + len(more)] == more else (text, at)


def _partial(data: bytes, start: int, mark: bytes) -> int:
    """Return how many bytes at the end of the data, from ``start`` on, may be the beginning of the mark."""
    for size in range(min(len(mark) - 1, len(data) - start), 0, -1):
        if data.endswith(mark[:size]):
            return size
    return 0
