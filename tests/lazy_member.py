"""A command in a file of its own."""

from wesperon import Command


class Lazy(Command):
    """Loaded late."""

    def run(self) -> int:
        return 7
