"""Three whole numbers, declared."""

from wesperon import fill, slot

frames, seconds, pause = fill(frames=slot(int), seconds=slot(int), pause=slot(int))
print(frames * (seconds + pause) - pause)
