"""The prompt that stays open."""
