"""Colours while typing. Pure; imports text and editing."""
