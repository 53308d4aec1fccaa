"""The prompt that stays open. Imports commands and below."""
