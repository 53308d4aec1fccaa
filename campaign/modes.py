"""The modes that a program has set by control sequences (ECMA-48, and private ones), from the bytes it sent."""

from __future__ import annotations

import re

#: Private modes that are on when a terminal starts: the cursor is shown, and long rows are broken.
AT_FIRST = {7: True, 25: True}
MODE = re.compile(rb"\x1b\[\?([\d;]+)([hl])|\x1b\[(\d*) q|\x1b\[([\d;]*)m")


def left_set(sent: bytes) -> list[str]:
    """Return what is not as it was at first, as words; empty if everything is."""
    modes, shape, rendition = dict(AT_FIRST), b"0", b"0"
    for found in MODE.finditer(sent):
        if found[1]:
            modes.update((int(number), found[2] == b"h") for number in found[1].split(b";"))
        elif found[3] is not None:
            shape = found[3] or b"0"
        else:
            rendition = found[4] or b"0"
    left = [f"?{number}{'h' if on else 'l'}" for number, on in modes.items() if on != AT_FIRST.get(number, False)]
    if shape != b"0":
        left.append(f"shape of the cursor {shape.decode()}")
    if not rendition.startswith(b"0"):
        left.append(f"rendition {rendition.decode()}")
    return left
