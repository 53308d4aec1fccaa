"""Write tonight's script: lines of TOML, coloured as they are typed."""

import re
import tomllib

from wesperon import fill, slot


def script(text: str) -> dict[str, object]:
    """What the script says; a fault is told with its place."""
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        fault = ValueError(f"not TOML yet: {error}")
        if place := re.search(r"line (\d+), column (\d+)", str(error)):
            line, column = int(place[1]), int(place[2])
            fault.position = sum(len(row) + 1 for row in text.split("\n")[: line - 1]) + column - 1  # type: ignore[attr-defined]
        raise fault from None


(tonight,) = fill(tonight=slot(script, "Tonight", lines=True, syntax="toml", text=str))
for name, table in tonight.items():
    print(f"{name}: {table}")
