"""Widgets for terminals that cannot move their cursor. Pure; imports widgets."""
