"""Whose terminal it is: turns among threads and processes, the output of the process, a guard for threads."""
