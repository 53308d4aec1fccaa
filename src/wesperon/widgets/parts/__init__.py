"""What a full screen is made of: parts, how they share the room, and who has the focus."""
