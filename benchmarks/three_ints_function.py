"""Start-up: three numbers, as the parameters of a function."""

from wesperon import run


def plan(frames: int, seconds: int, gap: int) -> None:
    """Say how long a series of exposures takes.

    Arguments:
        frames: how many there are
        seconds: how long each is
        gap: what is between two, in seconds

    """
    print(frames * (seconds + gap) - gap)


run(plan)
