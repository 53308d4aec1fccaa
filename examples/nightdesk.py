"""The night desk: a console over two commands."""

from wesperon import Command, Console, Program, one_of, slot

TARGETS = {"HOLLIN-038": "Wicker Nebula", "HOLLIN-051": "Lantern Nebula", "HOLLIN-064": "Thimble Group"}
queued: list[str] = []


class Expose(Command):
    """Put an exposure into the queue."""

    target = slot(one_of(list(TARGETS), note=TARGETS.get), "Target")
    seconds = slot(int, "Seconds each", low=1, high=3600, unit="s")
    frames = slot(int, "Frames", low=1, high=200)

    def run(self) -> str:
        """Queue it."""
        queued.append(f"{self.target}: {self.frames} x {self.seconds} s")
        return f"queued as number {len(queued)}"


class Queue(Command):
    """Show the queue."""

    def run(self) -> str:
        """The exposures, in order."""
        return "\n".join(f"{number:3}  {line}" for number, line in enumerate(queued, 1)) or "nothing is queued"


raise SystemExit(Console(Program("night desk", members=[Expose, Queue])).run())
