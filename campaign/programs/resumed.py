"""One question whose line is kept after each key: killed, it offers to go on; prints what it got."""

from __future__ import annotations

from campaign.programs import noise
from wesperon import Form, slot


class Asked(Form):
    """A question whose text is there again."""

    answer = slot(ask="Note")


def main() -> None:
    """Ask, and print the answer."""
    print(f"got {Asked.fill([]).answer!a}", flush=True)


if __name__ == "__main__":
    noise.tidy(main)
