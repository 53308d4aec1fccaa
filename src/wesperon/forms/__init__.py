"""Filling a record: the order of the sources, questions, saved answers. Imports sources and below."""
