"""Colours while typing. Pure. Imports editing and values."""
