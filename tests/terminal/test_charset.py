"""A locale whose characters are not those of UTF-8: what is typed, shown and printed is in its own.

Modules: ``terminal.ports.charset``.
"""

from __future__ import annotations

import shutil
import subprocess
from pathlib import Path

import pytest

from tests.harness import Terminal, python

CODE = """# Python reads this in UTF-8.
from wesperon import Form, one_of, slot
class Oil(Form):
    name = slot(ask="Name")
    note = slot()
    oil = slot(one_of(["öl", "größe €"]), "Öl")
made = Oil.fill(resume=False)
print("über", ascii(made.name), ascii(made.note), ascii(made.oil), flush=True)
"""


@pytest.fixture(scope="module")
def locale(tmp_path_factory: pytest.TempPathFactory) -> dict[str, str]:
    """Return the variables of a German locale with the characters of ISO 8859-1, made for the test."""
    folder = tmp_path_factory.mktemp("locales")
    made = folder / "de_DE.ISO-8859-1"
    if shutil.which("localedef") is None:
        pytest.skip("localedef is not installed")
    done = subprocess.run(["localedef", "-i", "de_DE", "-f", "ISO-8859-1", str(made)], capture_output=True, check=False)
    if not (made / "LC_CTYPE").exists():
        pytest.skip(f"no such locale can be made: {done.stderr!r}")
    return {"LOCPATH": str(folder), "LC_ALL": made.name, "PYTHONUTF8": "0", "PYTHONIOENCODING": ""}


@pytest.mark.parametrize("plain", ["", "1"])
def test_what_is_typed_and_shown_is_in_the_characters_of_the_locale(
    plain: str, locale: dict[str, str], tmp_path: Path
) -> None:
    script = tmp_path / "oil.py"
    script.write_text(CODE)
    with Terminal(python(str(script)), env={**locale, "WESPERON_PLAIN": plain}) as terminal:
        for label, data, pasted in (
            (b"Name", b"J\xf6rg", b""),
            (b"note", b"\xfc\xdf", b"~"),
            (b"\xf6l", b"1" if plain else b"", b""),
        ):
            while label not in terminal.received:
                terminal.read(0.1)
            terminal.wait(lambda: not terminal.read(0.2), "the question")
            is_pasted = bool(pasted) and not plain
            terminal.send((b"\x1b[200~" + data + b"\x1b[201~" if is_pasted else data) + (b"\n" if plain else b"\r"))
        assert terminal.end() == 0
        shown = terminal.received.decode("iso8859-1")
        assert "gr\xf6\xdfe ?" in shown
        assert "\xd6l" in shown
        assert r"über 'J\xf6rg' '\xfc\xdf' '\xf6l'" in shown
        assert "\xc3" not in shown


WORK = """
import time
from wesperon import progress
for plate in progress(range(40), "Kühlung 日"):
    time.sleep(0.05)
    if plate == 30:
        print("größer", flush=True)
"""


@pytest.mark.parametrize("plain", ["", "1"])
def test_so_is_long_work(plain: str, locale: dict[str, str], tmp_path: Path) -> None:
    script = tmp_path / "work.py"
    script.write_text(WORK)
    with Terminal(python(str(script)), env={**locale, "WESPERON_PLAIN": plain}) as terminal:
        assert terminal.end() == 0
        assert b"\xc3" not in terminal.received
        assert "Kühlung" in terminal.received.decode("iso8859-1")
        assert "größer" in terminal.received.decode("iso8859-1")
