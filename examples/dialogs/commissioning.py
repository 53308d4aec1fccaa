"""Get a telescope ready for its first night: a branching wizard of forty questions, in a file that others edit."""

from pathlib import Path

from wesperon import Guide

walk = Guide(str(Path(__file__).parent / "data" / "commissioning.toml")).walk()
print(f"{walk.says} {len(walk.trail)} questions, {len(walk.learned)} notes.")
