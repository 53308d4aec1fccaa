"""Kinds: how a text becomes a value, and a value a text. Pure; imports text and values."""
