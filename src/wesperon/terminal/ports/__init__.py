"""The systems: what a terminal of each can do, behind one interface."""
