"""A default command beside others: it takes its values as if it were alone."""

import re
from pathlib import Path

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from wesperon import Command, CommandGroup, Problems, Program, one_of, slot
from wesperon.context import Context
from wesperon.testing import Session
from wesperon.text.spelling import edits

TARGETS = ["A1", "A2", "queues", "lantern"]
NAMES = ["queue", "queue-target", "open", "park", "status", "dome", "lanterns"]
CALLED: list[tuple[object, ...]] = []


class Weigh(Command):
    """Weigh a hive."""

    hive = slot()
    kilos = slot(float, default=1.0)
    dry = slot(bool, default=False)

    def run(self) -> None:
        CALLED.append(("weigh", self.hive, self.kilos, self.dry))


def other(called: str) -> type[Command]:
    """Return a command of this name."""

    class Other(Command):
        name = called
        count = slot(default="")

        def run(self) -> None:
            CALLED.append((called, self.count))

    return Other


def result(program: Program, words: list[str]) -> object:
    """Return what a line does: what is called, or what the problems say."""
    CALLED.clear()
    try:
        program.call(words, context=Context(environ={"WESPERON_ASKING": "never"}))
    except Problems as problems:
        return str(problems)
    return tuple(CALLED)


WORDS = st.sampled_from(
    [*TARGETS, *NAMES, "que", "Park", "qeueu", "statu", "stauts", "4.5", "--dry", "--kilos=3", "--", "-h"]
)


@given(st.sets(st.sampled_from(NAMES), max_size=4), st.lists(WORDS, max_size=4))
def test_other_commands_change_only_calls_whose_first_word_is_or_is_near_one(names: set[str], words: list[str]) -> None:
    assume("-h" not in words)
    alone = Program("bee", default_command=Weigh)
    beside = Program("bee", members=[other(name) for name in sorted(names)], default_command=Weigh)
    before = words[: words.index("--")] if "--" in words else words
    first = next((word for word in before if not word.startswith("-")), None)
    if first is None or not any(
        first.lower() == name or (len(name) > 4 and edits(first.lower(), name, 1) == 1) for name in names
    ):
        assert result(beside, words) == result(alone, words)
    elif first.lower() in names:
        if not any(word.startswith("-") for word in words) and len(words) < 3:
            assert result(beside, words) == ((first.lower(), *(words[1:] or [""])),)
    else:
        assert "is not a command, but near one: write" in str(result(beside, words))
        assert result(beside, ["--", first]) == result(alone, ["--", first])


class Choose(Command):
    """Choose a target."""

    target = slot(one_of(TARGETS))

    def run(self) -> None:
        CALLED.append(("choose", self.target))


def test_a_choice_of_the_first_position_is_never_near_a_command() -> None:
    program = Program("bee", members=[other("queue"), other("lanterns")], default_command=Choose)
    assert result(program, ["queues"]) == (("choose", "queues"),)
    assert result(program, ["Lantern"]) == (("choose", "lantern"),)
    assert "write queue or lanterns" not in str(result(program, ["quee"]))
    assert '"quee" is not a command, but near one: write queue, or put -- before it if it is meant as --target' in str(
        result(program, ["quee"])
    )


def test_below_a_group_it_is_the_same() -> None:
    group = CommandGroup("hive", members=[other("queue")], default_command=Weigh)
    program = Program("bee", members=[group])
    assert result(program, ["hive", "A1", "3"]) == (("weigh", "A1", 3.0, False),)
    assert result(program, ["hive", "que"]) == (("weigh", "que", 1.0, False),)
    assert "near one" in str(result(program, ["hive", "quee"]))


def test_without_a_position_a_word_is_a_command_that_there_is_not() -> None:
    class Tidy(Command):
        dry = slot(bool, default=False)

        def run(self) -> None:
            CALLED.append(("tidy",))

    program = Program("bee", members=[other("queue")], default_command=Tidy)
    assert '"quick" is not a command of bee; there are: queue' in str(result(program, ["quick"]))
    assert result(program, ["que"]) == (("queue", ""),)


def test_help_completion_and_the_page_offer_both() -> None:
    program = Program("bee", members=[other("queue")], default_command=Choose)
    assert [one.text for one in program.candidates([], "")] == ["queue", *TARGETS]
    assert [one.text for one in program.candidates(["queues"], "")] == []
    assert program.page().split("\n")[:2] == ["bee COMMAND [ARGUMENT...]", "bee TARGET"]
    assert "is not a command of bee" in str(result(program, ["help", "choose"]))


@pytest.mark.parametrize("line", ["weigh A1 2", "Weigh A1 2", "we A1 2"])
def test_in_a_console_it_is_called_by_its_name(line: str) -> None:
    from wesperon import Console

    program = Program("bee", members=[other("queue")], default_command=Weigh)
    CALLED.clear()
    with Session(lambda: Console(program).run()) as session:
        session.type(line).press("enter").type("A1 2").press("enter").type("que").press("enter").press("ctrl-d")
        assert '"A1" is not a command of bee' in session.screen
    assert CALLED == [("weigh", "A1", 2.0, False), ("queue", "")]


def test_a_blank_answers_file_has_its_values_and_they_are_taken_from_there(tmp_path: Path) -> None:
    group = CommandGroup("ground", members=[other("queue")], default_command=Choose)
    program = Program("bee", members=[group], default_command=Weigh)
    blank = program.blank_answers()
    assert [line for line in blank.split("\n") if re.match(r"[\[\w]", line)] == [
        'hive = ""',
        "[ground]",
        'target = ""',
        "[ground.queue]",
    ]
    answers = tmp_path / "answers.toml"
    answers.write_text(blank.replace('hive = ""', 'hive = "A1"').replace('target = ""', 'target = "A2"'))
    assert result(program, [f"--answers={answers}"]) == (("weigh", "A1", 1.0, False),)
    assert result(program, ["ground", f"--answers={answers}"]) == (("choose", "A2"),)
