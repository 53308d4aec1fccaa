"""Ask the catalogue in its own language: the shell of a database, with statements of several lines."""

import sqlite3

from wesperon import Console

WORDS = ["select", "from", "where", "order by", "insert into", "values", "targets", "label", "seconds"]
database = sqlite3.connect(":memory:", isolation_level=None)
database.row_factory = sqlite3.Row
database.execute("create table targets (label text, seconds int)")
database.execute("insert into targets values ('Lantern Nebula', 90), ('Thimble Group', 30)")


def evaluate(statement: str) -> list[dict[str, object]] | None:
    """Run one statement; its rows are a table."""
    found = database.execute(statement)
    return [dict(row) for row in found] if found.description else None


def is_whole(text: str) -> bool:
    """A statement ends in a semicolon."""
    return not text.strip() or text.lstrip().startswith(".") or sqlite3.complete_statement(text)


console = Console(
    evaluate=evaluate, name="catalogue", syntax="sql", whole=is_whole, sign=".", history=False,
    complete=lambda text, cursor: [word for word in WORDS if word.startswith(text[:cursor].split(" ")[-1])],
)  # fmt: skip
raise SystemExit(console.run())
