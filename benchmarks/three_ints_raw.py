"""Three whole numbers, from the raw argument list."""

import sys

frames, seconds, pause = int(sys.argv[1]), int(sys.argv[2]), int(sys.argv[3])
print(frames * (seconds + pause) - pause)
