"""The systems: what a terminal of each can do, with one interface."""
