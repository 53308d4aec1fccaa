"""What a process has once: its signals and its standard streams. Imports nothing of the rest but ``frozen``."""
