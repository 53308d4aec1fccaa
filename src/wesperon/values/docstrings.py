"""The docstring of a function: what it says of each parameter, and what is left.

Three ways of writing that many programs share are read:

    Arguments:                  :param seconds: text        Parameters
        seconds: text                                       ----------
                                                            seconds : float
                                                                text

``Args:`` and ``Parameters:`` begin a section as ``Arguments:`` does; a type in parentheses after a name is left out.
"""

from wesperon.frozen import remembered

HEADINGS = ("arguments", "args", "parameters")

#: What begins the field of a parameter in a list of fields.
FIELDS = (":param ", ":parameter ", ":arg ", ":argument ")


@remembered(8)
def read_docstring(text: str | None) -> tuple[str, dict[str, str]]:
    """Return what a docstring says without its section on parameters, and the text for each parameter by name."""
    lines = _dedented(text or "")
    kept: list[str] = []
    helps: dict[str, str] = {}
    at = 0
    while at < len(lines):
        line = lines[at]
        if line.startswith(FIELDS):
            end = _block_end(lines, at + 1, 0)
            name, _, first = line.partition(" ")[2].partition(":")
            helps[name.split()[-1].lstrip("*") if name.split() else ""] = _joined([first, *lines[at + 1 : end]])
            at = end
        elif line.removesuffix(":").lower() in HEADINGS and line.endswith(":"):
            end = _block_end(lines, at + 1, 0)
            _read_entries(lines[at + 1 : end], helps)
            at = end
        elif line.lower() in HEADINGS and at + 1 < len(lines) and lines[at + 1].strip("-") == "" != lines[at + 1]:
            end = _section_end(lines, at + 2)
            _read_underlined(lines[at + 2 : end], helps)
            at = end
        else:
            kept.append(line)
            at += 1
    return "\n".join(kept).strip("\n"), {name: said for name, said in helps.items() if name and said}


def _dedented(text: str) -> list[str]:
    """Return the lines of a docstring without the indentation that all but the first have in common (PEP 257)."""
    first, *more = text.expandtabs().split("\n")
    margin = min((_indent(line) for line in more if line.strip()), default=0)
    return [first.strip(), *(line[margin:].rstrip() for line in more)]


def _indent(line: str) -> int:
    return len(line) - len(line.lstrip())


def _block_end(lines: list[str], at: int, margin: int) -> int:
    """Return where lines that are indented further than a margin end; blank ones between them belong to them."""
    end = at
    while at < len(lines) and (not lines[at] or _indent(lines[at]) > margin):
        at += 1
        if lines[at - 1]:
            end = at
    return end


def _section_end(lines: list[str], at: int) -> int:
    """Return where a section under an underlined heading ends: at the next such heading."""
    while at < len(lines):
        if at + 1 < len(lines) and lines[at] and lines[at + 1] and not lines[at + 1].strip("-"):
            break
        at += 1
    return at


def _read_entries(lines: list[str], helps: dict[str, str]) -> None:
    """Read ``name: text`` and ``name (type): text``, each with the further indented lines after it."""
    margin = min((_indent(line) for line in lines if line), default=0)
    at = 0
    while at < len(lines):
        end = _block_end(lines, at + 1, margin)
        name, colon, first = lines[at].partition(":")
        if colon:
            said = _joined([first, *lines[at + 1 : end]])
            for one in name.partition("(")[0].split(","):
                helps[one.strip().lstrip("*")] = said
        at = end


def _read_underlined(lines: list[str], helps: dict[str, str]) -> None:
    """Read ``name : type`` in a line of its own, with the text in the indented lines after it."""
    at = 0
    while at < len(lines):
        end = _block_end(lines, at + 1, 0)
        for one in lines[at].partition(":")[0].split(","):
            helps[one.strip().lstrip("*")] = _joined(lines[at + 1 : end])
        at = end


def _joined(lines: list[str]) -> str:
    return " ".join(part for part in (line.strip() for line in lines) if part)
