"""What a process has once: its signals and its standard streams. Imports frozen, context."""
