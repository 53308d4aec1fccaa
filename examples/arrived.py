"""Show which words arrived, with no declaration at all."""

from wesperon import split

print(split())
