"""A console in an event loop does what one without it does, line by line."""

from __future__ import annotations

import asyncio
import io
import tempfile
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st

from wesperon import Command, Console, Context, Heard, Program, Refusal, slot


class Say(Command):
    """Say some words."""

    parts = slot(rest=True, low=0)

    def run(self) -> str:
        """Give them."""
        return " ".join(self.parts)


class Fail(Command):
    """Fail in one of several ways."""

    how = slot()

    def run(self) -> int:
        """Fail."""
        if self.how == "refused":
            raise Refusal("no", 4)
        if self.how == "ended":
            raise SystemExit("ended")
        if self.how == "broken":
            raise KeyError("key")
        return 9


class Told(Command):
    """Done by its listeners."""


PROGRAM = Program("desk", members=[Say, Fail, Told], results=True)
LINES = st.sampled_from(
    ["say a 'b c'", "say --as json é", "fail refused", "fail ended", "fail broken", "fail x", "fail", "told", "nothing",
     "say 'open", "# it's a comment", "say a \\", "say > out", "say x > file", "run good.desk 'a b'", "run good.desk",
     "run bad.desk", "run --keep-going bad.desk", "run self.desk", "help say", "help", "history", "exit x", "wait 1"]
)  # fmt: skip
FILES = {
    "good.desk": "[slots.what]\n\nsay {what}\ntold\n",
    "bad.desk": "say 1\nfail x\nsay 2\nsay 'never closed\n",
    "self.desk": "run self.desk\n",
}


def outcome(lines: list[str], *, is_async: bool) -> tuple[int, str, str, dict[str, str]]:
    """Return the status, what was printed and said to be wrong, and the files that came to be."""
    out, err = io.StringIO(), io.StringIO()
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        for file, text in FILES.items():
            (folder / file).write_text(text)
        text = "\n".join(lines)
        for file in (*FILES, "out", "file"):
            text = text.replace(f" {file}", f" {folder / file}")
        context = Context(stdin=io.StringIO(text), stdout=out, stderr=err, environ={})
        console = Console(PROGRAM, history=False, context=context, output_files=True, background=1)

        @console.listen("told")
        def told(heard: Heard) -> None:
            print("told of", heard.words)

        status = asyncio.run(console.run_async()) if is_async else console.run()
        made = {path.name: path.read_text() for path in folder.iterdir() if path.name not in FILES}
        return status, out.getvalue().replace(name, ""), err.getvalue().replace(name, ""), made


@given(st.lists(LINES, max_size=8))
@settings(deadline=None, max_examples=40)
def test_lines_have_the_same_outcome_in_an_event_loop(lines: list[str]) -> None:
    assert outcome(lines, is_async=True) == outcome(lines, is_async=False)
