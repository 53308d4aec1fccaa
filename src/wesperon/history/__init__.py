"""What was entered before, on disk."""
